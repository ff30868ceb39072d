//! Where a round branch meets a round tube: how its end is coped, and the hole it sits on. Source: handbook, "The sums", More
//! reference numbers, `saddles`.

use std::f64::consts::TAU;

use thiserror::Error;

/// A branch on a tube, by their outsides.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Saddle {
    /// Outside radius of the branch, in mm.
    branch: f64,
    /// Outside radius of the tube, in mm.
    main: f64,
    /// Between the two axes, in radians; the branch leans forward along the tube where it is below a right angle.
    angle: f64,
    /// How far the branch's axis passes beside the tube's, in mm, to the left for who travels with the branch upwards.
    offset: f64,
}

/// A branch that does not sit on its tube all round.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
#[error("a branch of {branch:.1} mm, {offset:.1} mm off the middle, does not sit on a tube of {main:.1} mm all round")]
pub struct DoesNotSit {
    branch: f64,
    main: f64,
    offset: f64,
}

/// One place of the seam, `phi` round the branch from the side that looks forward along the tube, right-handed about the
/// branch's outward axis. All in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SaddlePoint {
    /// Along the branch's girth.
    pub girth: f64,
    /// How much is cut away of the branch there, from its end cut square.
    pub height: f64,
    /// Along the tube from where the branch's axis pierces its skin.
    pub along: f64,
    /// Round the tube's skin, to the left from the line that lies in the plane of both directions.
    pub round: f64,
}

impl Saddle {
    /// A branch of `branch` mm on a tube of `main` mm outside diameter; `angle` in radians, `offset` in mm.
    ///
    /// # Errors
    /// [`DoesNotSit`] where the branch reaches beyond the tube.
    pub fn new(branch: f64, main: f64, angle: f64, offset: f64) -> Result<Self, DoesNotSit> {
        if branch / 2.0 + offset.abs() >= main / 2.0 || angle.sin() <= 0.0 {
            return Err(DoesNotSit { branch, main, offset });
        }
        Ok(Self { branch: branch / 2.0, main: main / 2.0, angle, offset })
    }

    /// How far the branch's end is from the plane through the tube's axis, along the branch's axis, at `phi`.
    fn depth(&self, phi: f64) -> f64 {
        let aside = self.offset + self.branch * phi.sin();
        let over = (self.main * self.main - aside * aside).max(0.0).sqrt();
        (over + self.branch * self.angle.cos() * phi.cos()) / self.angle.sin()
    }

    /// How far along the tube and its own axis the branch's axis pierces the tube's skin, from where it passes the tube's axis.
    #[must_use]
    pub fn pierced(&self) -> f64 {
        let over = (self.main * self.main - self.offset * self.offset).sqrt();
        over / self.angle.sin()
    }

    /// Places of the seam at `count` turns round the branch, and the first again.
    #[must_use]
    pub fn outline(&self, count: u32) -> Vec<SaddlePoint> {
        let phis: Vec<f64> = (0..=count).map(|k| TAU * f64::from(k) / f64::from(count)).collect();
        let depths: Vec<f64> = phis.iter().map(|phi| self.depth(*phi)).collect();
        let shortest = depths.iter().copied().fold(f64::INFINITY, f64::min);
        let pierced = self.pierced() * self.angle.cos();
        let place = |(phi, depth): (&f64, &f64)| SaddlePoint {
            girth: self.branch * phi,
            height: depth - shortest,
            along: depth * self.angle.cos() + self.branch * self.angle.sin() * phi.cos() - pierced,
            round: self.main * ((self.offset + self.branch * phi.sin()) / self.main).asin(),
        };
        phis.iter().zip(&depths).map(place).collect()
    }

    /// Between which places along the tube and round its skin the hole lies, in mm: along from where the branch's axis pierces
    /// the skin, round as in [`SaddlePoint`].
    #[must_use]
    pub fn extent(&self) -> [[f64; 2]; 2] {
        let outline = self.outline(FINE);
        let over = |of: fn(&SaddlePoint) -> f64| {
            let far = [f64::INFINITY, f64::NEG_INFINITY];
            outline.iter().map(of).fold(far, |[least, most], at| [least.min(at), most.max(at)])
        };
        [over(|place| place.along), over(|place| place.round)]
    }

    /// How far along the branch's axis from where that pierces the skin the seam stands out of it at most, in mm: a branch that
    /// ends short of this does not come out of the tube all round.
    #[must_use]
    pub fn stands_out(&self) -> f64 {
        let phis = (0..FINE).map(|k| TAU * f64::from(k) / f64::from(FINE));
        phis.map(|phi| self.depth(phi)).fold(f64::NEG_INFINITY, f64::max) - self.pierced()
    }
}

/// Places round a branch by which its hole's extent is told.
const FINE: u32 = 72;

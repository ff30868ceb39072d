//! Pie cuts: a bend made of mitred slices.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::KitPie;
use crate::stock::Tube;
use nook_geometry::units::SeamCount;
use nook_geometry::{Arc, Travel};

/// How the ends of a pie-cut bend meet the straights.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PieEnds {
    /// The straights' own ends are mitred: `n` seams, `n - 1` full pies, geometrically exact.
    #[default]
    Mitred,
    /// Pies butted to square-cut tube: `n` pies and `n + 1` seams, each end's turning half as far as the others. The
    /// pies' faces have their middles on the arc, so that what is butted in line lands; oval meets round at the ends.
    Square,
}

/// The figures of one pie in a bend. Source: handbook, "The sums", Pie cuts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PieCut {
    /// Angle each seam turns, in radians.
    pub seam_angle: f64,
    /// Saw setting in radians: half the seam angle.
    pub saw: f64,
    /// Length of a full pie along the throat in mm; negative where the tube is wider than the bend allows.
    pub throat: f64,
    /// Length of a full pie along the centre line in mm.
    pub centre: f64,
    /// Length of a full pie along the back in mm.
    pub back: f64,
    /// Pies between the straights.
    pub pies: u32,
    /// Saw setting in radians of the straights' ends.
    pub end_saw: f64,
    /// How far the straights run past the arc's tangent points, in mm; negative where they end before them.
    pub overrun: f64,
    /// Radius in mm of the circle on which the middles of the pies' faces lie.
    pub ring: f64,
    /// How far that circle's centre lies beyond the arc's, away from the vertex, in mm.
    pub inward: f64,
    /// How far a pie's oval face stands out beyond the end of the tube at each end of the bend, in mm.
    pub end_step: f64,
}

impl PieCut {
    /// The pie of a bend through `angle` radians at centre-line radius `clr` mm in `seams` turns of tube of `od` mm.
    ///
    /// Mitred, the pies' axes touch the arc at their middles: `2 R tan(d/2)`. Square, their ends lie on it:
    /// `2 R sin(d/2)`; with the longer one the centre line would have to step out by `R (1/cos(d/2) - 1)` at each end,
    /// and a pipe that is simply butted together would miss its port by as much.
    #[must_use]
    pub fn new(od: f64, clr: f64, angle: f64, seams: SeamCount, ends: PieEnds) -> Self {
        let seam_angle = angle / f64::from(seams.get());
        let saw = seam_angle / 2.0;
        let beyond = 1.0 / saw.cos() - 1.0;
        let count = u32::from(seams.get());
        let (centre, ring, end_step) = match ends {
            PieEnds::Mitred => (2.0 * clr * saw.tan(), clr / saw.cos(), 0.0),
            PieEnds::Square => (2.0 * clr * saw.sin(), clr, od / 2.0 * beyond),
        };
        let (pies, end_saw, overrun) = match ends {
            PieEnds::Mitred => (count - 1, saw, clr * saw.tan()),
            PieEnds::Square => (count, 0.0, 0.0),
        };
        let slope = od * saw.tan();
        let [throat, back] = [centre - slope, centre + slope];
        Self { seam_angle, saw, throat, centre, back, pies, end_saw, overrun, ring, inward: 0.0, end_step }
    }

    /// A bend along `arc` of tube of `od` mm made of as many of these pies, as they were bought, as it turns; what is left of its angle
    /// is halved between the straights' ends, which are sawn at it.
    ///
    /// With `k` pies of angle `d` the ends are sawn at `a = (angle - k d)/2`, and each turns `a + d/2` at its seam. The middles of the
    /// faces lie on a circle of `R/cos(d/2)`, R being the pies' own radius, whose chord over all pies meets both straights at half the
    /// bend's angle: that says where they end, whatever radius the arc was drawn at, so that what is put together lands. Ours; at
    /// `a = d/2` it is the mitred bend.
    #[must_use]
    pub fn kit(od: f64, pie: KitPie, arc: &Arc) -> Self {
        let (seam_angle, half) = (pie.angle.get().to_radians(), arc.angle / 2.0);
        let saw = seam_angle / 2.0;
        let pies = pie.count(arc.angle);
        let turned = f64::from(pies) * seam_angle;
        let end_saw = (arc.angle - turned) / 2.0;
        // Less than any saw is set to is square.
        let end_saw = if end_saw > KitPie::SAME { end_saw } else { 0.0 };
        let ring = pie.radius.get() / saw.cos();
        let centre = 2.0 * pie.radius.get() * saw.tan();
        let slope = od * saw.tan();
        // With no pie at all two tubes meet at one face.
        let end_step = if pies == 0 { 0.0 } else { od / 2.0 * (1.0 / saw.cos() - 1.0 / end_saw.cos()) };
        Self {
            seam_angle,
            saw,
            throat: centre - slope,
            centre,
            back: centre + slope,
            pies,
            end_saw,
            overrun: (arc.radius * half.sin() - ring * (turned / 2.0).sin()) / half.cos(),
            ring,
            inward: (ring * end_saw.cos() - arc.radius) / half.cos(),
            end_step,
        }
    }

    /// Directions of travel at the faces, as angles in radians from the start of the bend.
    pub fn faces(&self) -> impl Iterator<Item = f64> {
        let Self { end_saw, seam_angle, .. } = *self;
        (0..=self.pies).map(move |face| end_saw + f64::from(face) * seam_angle)
    }

    /// Travel at the middle of a face, where the straight before the bend is left towards its centre by `setting_in` and `turned` is
    /// one of [`Self::faces`].
    #[must_use]
    pub fn face(&self, setting_in: &Travel, arc: &Arc, turned: f64) -> Travel {
        let mut there = setting_in.bend(arc.radius, turned);
        let halfway = setting_in.bend(arc.radius, arc.angle / 2.0);
        there.at += halfway.clock().into_inner() * self.inward - there.clock().into_inner() * (self.ring - arc.radius);
        there
    }
}

/// Smallest useful throat in mm: the larger of 6 mm and four walls, so that two seams do not melt into one.
/// Source: handbook, "The sums", Pie cuts.
#[must_use]
pub fn least_throat(tube: Tube) -> f64 {
    (4.0 * tube.wall()).max(6.0)
}

/// Turn per seam in radians that reads as a smooth bend: ten degrees, the common kit pie of nine and a little.
const USUAL_SEAM: f64 = 10.0 * std::f64::consts::PI / 180.0;

/// The seams a bend gets when nobody chose: one for every ten degrees begun, but no more than leave the least
/// throat. A bend of one or two seams keeps them even where its throat is short: that is a finding, not a
/// reason to guess.
#[must_use]
pub fn usual_seams(tube: Tube, clr: f64, angle: f64) -> SeamCount {
    // No saw sets beyond 45 degrees, so no seam turns more than 90.
    let fewest = if angle > std::f64::consts::FRAC_PI_2 + 1e-9 { SeamCount::TWO } else { SeamCount::ONE };
    let mut seams = fewest;
    while angle / f64::from(seams.get()) > USUAL_SEAM + 1e-9 {
        let Some(more) = seams.one_more() else { break };
        if PieCut::new(tube.od(), clr, angle, more, PieEnds::Mitred).throat < least_throat(tube) {
            break;
        }
        seams = more;
    }
    seams
}

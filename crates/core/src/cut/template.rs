//! Paper wrapped round the tube to mark a cut.

use std::f64::consts::PI;

/// A wrap template: how high the cut stands round the girth. Source: handbook, "The sums", Pie cuts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WrapTemplate {
    od: f64,
    saw: f64,
    paper: f64,
}

impl WrapTemplate {
    /// Common printer paper in mm.
    pub const PAPER: f64 = 0.1;

    /// A template for tube of `od` mm cut at `saw` radians, on paper of `paper` mm.
    #[must_use]
    pub const fn new(od: f64, saw: f64, paper: f64) -> Self {
        Self { od, saw, paper }
    }

    /// Length of the paper round the tube in mm: `pi (D + 2 paper)`.
    #[must_use]
    pub fn girth(&self) -> f64 {
        PI * (self.od + 2.0 * self.paper)
    }

    /// Height of the cut in mm at `phi` radians round from the throat: `D/2 tan(saw)(1 - cos phi)`.
    #[must_use]
    pub fn height(&self, phi: f64) -> f64 {
        self.od / 2.0 * self.saw.tan() * (1.0 - phi.cos())
    }

    /// Greatest height in mm, on the back.
    #[must_use]
    pub fn tallest(&self) -> f64 {
        self.od * self.saw.tan()
    }

    /// `points + 1` places along the girth and their heights, in mm, from throat round to throat.
    pub fn outline(&self, points: u32) -> impl Iterator<Item = (f64, f64)> {
        (0..=points).map(move |k| {
            let turn = f64::from(k) / f64::from(points);
            (self.girth() * turn, self.height(2.0 * PI * turn))
        })
    }
}

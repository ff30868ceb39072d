//! Pie cuts: a bend made of mitred slices.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::stock::Tube;
use nook_geometry::units::SeamCount;

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
    /// How far the middles of the seams lie outside the arc, in mm.
    pub outside: f64,
    /// How far the pie's oval face stands out beyond the round end of the tube at each end of the bend, in mm.
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
        let (centre, outside, end_step) = match ends {
            PieEnds::Mitred => (2.0 * clr * saw.tan(), clr * beyond, 0.0),
            PieEnds::Square => (2.0 * clr * saw.sin(), 0.0, od / 2.0 * beyond),
        };
        let slope = od * saw.tan();
        Self { seam_angle, saw, throat: centre - slope, centre, back: centre + slope, outside, end_step }
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

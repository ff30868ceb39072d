//! What a weld pulls as it cools: a tilt of what is beyond it, quarter by quarter. Source of the figures: handbook, "Fit, weld, prove", Where
//! errors come from.

use nook_geometry::Vector;

/// Pull of a seam in degrees: of all of it welded one way round, towards the side welded first.
const STRAIGHT_ON: f64 = 0.25;
/// The same welded in opposite quarters.
const OPPOSITE: f64 = 0.06;

/// How far each quarter of a seam tilts what is beyond it towards itself, in radians, in the order they are welded. The first finds only
/// tacks in its way, the second a quarter, and after two the seam holds itself: the one division of the handbook's two figures in which
/// the last two pull nothing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WeldPull {
    /// Of each quarter.
    pub quarters: [f64; 4],
}

impl WeldPull {
    /// By the handbook's figures.
    #[must_use]
    pub fn usual() -> Self {
        // Straight on, the first two are a quarter apart: first² + second² = straight on²; opposite, they are against each other.
        let first = f64::midpoint(OPPOSITE, (2.0 * STRAIGHT_ON * STRAIGHT_ON - OPPOSITE * OPPOSITE).sqrt());
        let second = first - OPPOSITE;
        Self { quarters: [first, second, 0.0, 0.0].map(f64::to_radians) }
    }

    /// The turn, as a scaled axis in radians, of what is beyond a seam whose quarters are welded in `order`: the nth quarter lies n right
    /// angles from `reference`, right-handed about `along`, the direction of travel. Both are of length 1 and square to each other.
    #[must_use]
    pub fn turn(&self, order: [usize; 4], along: &Vector, reference: &Vector) -> Vector {
        let aside = along.cross(reference);
        let towards = |quarter: usize| match quarter % 4 {
            0 => *reference,
            1 => aside,
            2 => -reference,
            _ => -aside,
        };
        let each = order.iter().zip(self.quarters).map(|(quarter, pull)| along.cross(&towards(*quarter)) * pull);
        each.sum()
    }

    /// The order of the quarters welded opposite each other, beginning with one.
    #[must_use]
    pub const fn opposite(first: usize) -> [usize; 4] {
        [first % 4, (first + 2) % 4, (first + 1) % 4, (first + 3) % 4]
    }

    /// The order of the quarters welded one way round, beginning with one.
    #[must_use]
    pub const fn one_way(first: usize) -> [usize; 4] {
        [first % 4, (first + 1) % 4, (first + 2) % 4, (first + 3) % 4]
    }
}

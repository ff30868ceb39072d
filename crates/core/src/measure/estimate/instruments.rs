//! What every reading taken with one tape, or against gravity, has in common.

use nalgebra::Unit;

use nook_geometry::Vector;

/// The state of the instruments: systematic errors that one survey's readings share, and how well they are known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Instruments {
    /// What the tape reads beyond the true length, in mm: a bent hook or a worn end.
    pub tape_zero: f64,
    /// Standard deviation of [`Instruments::tape_zero`] in mm.
    pub tape_zero_spread: f64,
    /// How far the vehicle's x and y axes point up against a level, in radians: the vehicle's pitch and roll.
    pub tilt: [f64; 2],
    /// Standard deviation of each of [`Instruments::tilt`] in radians.
    pub tilt_spread: f64,
}

impl Instruments {
    /// A tape without an error on a vehicle that stands level.
    pub const EXACT: Self = Self { tape_zero: 0.0, tape_zero_spread: 0.0, tilt: [0.0; 2], tilt_spread: 0.0 };

    /// Plumb upwards in vehicle axes.
    #[must_use]
    pub fn up(&self) -> Unit<Vector> {
        Unit::new_normalize(Vector::new(self.tilt[0], self.tilt[1], 1.0))
    }

    /// The way along which a level (z) or a plumb line (x, y) measures an axis, in vehicle axes.
    pub(super) fn measures(&self, axis: usize) -> Vector {
        let up = self.up().into_inner();
        let axis = Vector::ith(axis, 1.0);
        if axis.z > 0.0 { up } else { (axis - up * axis.dot(&up)).normalize() }
    }
}

//! A small motion of a rigid body.

use nalgebra::{Isometry3, Point3, Translation3, UnitQuaternion};

use nook_geometry::Vector;

/// How a rigid body moves per unit of what moves it: it turns about an axis through a point, and shifts. Vehicle axes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Twist {
    /// A point that the turn's axis goes through, in mm.
    pub at: Point3<f64>,
    /// The turn, in radians about its own direction.
    pub turn: Vector,
    /// The shift in mm.
    pub shift: Vector,
}

impl Twist {
    /// A shift alone.
    #[must_use]
    pub fn shift(shift: Vector) -> Self {
        Self { at: Point3::origin(), turn: Vector::zeros(), shift }
    }

    /// A turn alone.
    #[must_use]
    pub fn turn(at: Point3<f64>, turn: Vector) -> Self {
        Self { at, turn, shift: Vector::zeros() }
    }

    /// Where it takes a place, to first order, in mm.
    #[must_use]
    pub fn at(&self, place: Point3<f64>) -> Vector {
        self.shift + self.turn.cross(&(place - self.at))
    }

    /// The motion by so many units of it, exactly.
    #[must_use]
    pub fn motion(&self, amount: f64) -> Isometry3<f64> {
        let rotation = UnitQuaternion::from_scaled_axis(self.turn * amount);
        let shift = self.at.coords + self.shift * amount - rotation * self.at.coords;
        Isometry3::from_parts(Translation3::from(shift), rotation)
    }
}

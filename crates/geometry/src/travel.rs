//! The moving frame of somebody walking along a pipe. This is the one definition of a bend's rotation and of
//! its zero; table, picture and template all come from here.

use nalgebra::{Rotation3, Unit};

use super::{Direction, Point, Vector};

/// Where a walk along the pipe has come to: the position, the direction of travel, and the clock: the
/// direction, square to travel, that rotations are counted from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Travel {
    /// Position in mm.
    pub at: nalgebra::Point3<f64>,
    /// Direction of travel.
    pub along: Direction,
    clock: Unit<Vector>,
}

/// Within a degree of plumb, "up" made square to travel has no trustworthy direction.
const PLUMB_COSINE: f64 = 0.999_847_695_156_391_3;

/// World +z made square to `along`, or +x where that is within 1 degree of plumb.
fn upward(along: Direction) -> Unit<Vector> {
    let up = if along.vector().z.abs() > PLUMB_COSINE { Vector::x() } else { Vector::z() };
    Unit::new_normalize(up - along.vector() * up.dot(&along.vector()))
}

impl Travel {
    /// Sets out from `at` along `along`. The clock starts at "up": world +z made square to travel, or +x where
    /// travel is within 1 degree of plumb.
    #[must_use]
    pub fn start(at: Point, along: Direction) -> Self {
        Self { at: at.inner(), along, clock: upward(along) }
    }

    /// The same place and direction with the clock back at "up", as one who sets out there has it.
    #[must_use]
    pub fn upright(self) -> Self {
        Self { clock: upward(self.along), ..self }
    }

    /// Goes straight on for `length` mm (backwards when negative).
    #[must_use]
    pub fn straight(self, length: f64) -> Self {
        Self { at: self.at + self.along.vector() * length, ..self }
    }

    /// The direction, square to travel, at `rotation` radians from the clock, right-handed about travel.
    #[must_use]
    pub fn at_clock(self, rotation: f64) -> Unit<Vector> {
        Rotation3::from_axis_angle(&self.along.unit(), rotation) * self.clock
    }

    /// Turns the clock by `rotation` radians without moving.
    #[must_use]
    pub fn clocked(self, rotation: f64) -> Self {
        Self { clock: self.at_clock(rotation), ..self }
    }

    /// Follows an arc of `radius` mm through `angle` radians towards the clock. The clock turns along, so the
    /// next bend's rotation is counted from this bend's plane.
    #[must_use]
    pub fn bend(self, radius: f64, angle: f64) -> Self {
        let turned = self.turned(angle);
        let centre = self.at + self.clock.into_inner() * radius;
        Self { at: centre - turned.clock.into_inner() * radius, ..turned }
    }

    /// Turns through `angle` radians towards the clock on the spot, as a sharp corner does.
    #[must_use]
    pub fn turned(self, angle: f64) -> Self {
        let (sin, cos) = angle.sin_cos();
        let (t, n) = (self.along.vector(), self.clock.into_inner());
        Self {
            at: self.at,
            along: Direction::of(t * cos + n * sin).unwrap_or(self.along),
            clock: Unit::new_normalize(n * cos - t * sin),
        }
    }

    /// The clock's direction: towards the centre of the bend just taken.
    #[must_use]
    pub const fn clock(self) -> Unit<Vector> {
        self.clock
    }

    /// Rotation in radians, -pi to pi, that turns the clock towards `target`; `None` when `target` runs along
    /// the direction of travel to within 1e-12 of its length and so lies at every clock and none.
    #[must_use]
    pub fn rotation_towards(self, target: Vector) -> Option<f64> {
        let t = self.along.vector();
        let square = target - t * t.dot(&target);
        if square.norm() <= 1e-12 * target.norm() {
            return None;
        }
        let n = self.clock.into_inner();
        Some(t.cross(&n).dot(&square).atan2(n.dot(&square)))
    }
}

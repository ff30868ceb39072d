//! A reading with what it leans on worked out: one observation of a least-squares adjustment.

use nalgebra::{Matrix3, Point3, Unit};

use crate::measure::Measurand;
use nook_geometry::Vector;

/// Where a thing is and, for a mouth, which way it points out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pose {
    /// Position in mm, vehicle axes.
    pub at: Point3<f64>,
    /// The way out; `None` for what has none.
    pub out: Option<Unit<Vector>>,
}

/// From the thing's own point to the point a reading goes to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum LeverArm {
    /// So far away in vehicle axes, in mm; zero for the point itself.
    Fixed(Vector),
    /// So far out along the thing's own direction, in mm.
    Stick(f64),
    /// The point of the mouth's rim that is nearest to what the tape starts from, or farthest.
    Rim(Rim),
    /// A point on the mouth's face.
    Face {
        /// From the face's top, clockwise for who looks into the mouth, in radians. Top is the vehicle's up; forward
        /// where the mouth points up or down.
        clock: f64,
        /// From the centre in mm.
        radius: f64,
    },
}

/// Which point of a mouth's rim.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rim {
    /// The rim's radius in mm.
    pub radius: f64,
    /// The far side of it; else the near side.
    pub far: bool,
}

/// What was read, with what it leans on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Kind {
    /// A distance from a known point.
    Tape {
        /// The known point, or the centre of a mouth.
        from: Point3<f64>,
        /// Its covariance in mm2.
        spread: Matrix3<f64>,
        /// Where it starts at a mouth's rim: the mouth's way out, and which point.
        rim: Option<(Unit<Vector>, Rim)>,
        /// To where on the thing.
        to: LeverArm,
        /// In mm.
        mm: f64,
    },
    /// A distance along an axis from a known point.
    Offset {
        /// The known point.
        from: Point3<f64>,
        /// Its covariance in mm2.
        spread: Matrix3<f64>,
        /// To where on the thing.
        to: LeverArm,
        /// 0, 1 or 2 for x, y or z.
        axis: usize,
        /// In mm.
        mm: f64,
    },
    /// The way out's heading, in radians to the left from forward.
    Heading(f64),
    /// The way out's pitch, in radians above level.
    Pitch(f64),
    /// The way out is square to a direction known to so many radians.
    Square(Unit<Vector>, f64),
    /// The way out runs along a direction known to so many radians.
    Parallel(Unit<Vector>, f64),
    /// The way out makes an angle, in radians, with a direction known to so many radians.
    Between(Unit<Vector>, f64, f64),
    /// The thing is at this place and points this way out.
    Image {
        /// The place.
        at: Point3<f64>,
        /// Its covariance in mm2.
        spread: Matrix3<f64>,
        /// The way out, and to how many radians it is known.
        out: (Unit<Vector>, f64),
    },
}

/// What a reading shares with others, so that their errors are correlated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Leans {
    /// Nothing.
    #[default]
    Nothing,
    /// The place or the direction of another thing.
    Thing(Measurand),
    /// The way gravity pulls, where the vehicle's up axis is meant.
    Plumb,
}

/// One reading, ready for the sum.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Observation {
    /// Its place among the thing's readings.
    pub index: usize,
    /// Whether it counts.
    pub counts: bool,
    /// Standard deviation in mm, or in radians for a direction.
    pub sigma: f64,
    /// What was read.
    pub kind: Kind,
    /// What it shares with others.
    pub leans: Leans,
}

impl Observation {
    /// A counting reading that shares nothing with others; `sigma` in mm, or in radians for a direction.
    #[must_use]
    pub const fn of(index: usize, sigma: f64, kind: Kind) -> Self {
        Self { index, counts: true, sigma, kind, leans: Leans::Nothing }
    }

    /// Where the reading ends on the thing, and where it starts; `None` for a reading of a direction, or where a
    /// direction is needed that the thing has not.
    #[must_use]
    pub fn ends(&self, pose: &Pose) -> Option<[Point3<f64>; 2]> {
        let (from, to, rim) = match self.kind {
            Kind::Tape { from, to, rim, .. } => (from, to, rim),
            Kind::Offset { from, to, .. } => (from, to, None),
            _ => return None,
        };
        let end = match (to, pose.out) {
            (LeverArm::Fixed(by), _) => pose.at + by,
            (LeverArm::Stick(mm), Some(out)) => pose.at + out.into_inner() * mm,
            (LeverArm::Rim(rim), Some(out)) => on_rim(pose.at, out, rim, from),
            (LeverArm::Face { clock, radius }, Some(out)) => pose.at + face_way(out, clock) * radius,
            (LeverArm::Stick(_) | LeverArm::Rim(_) | LeverArm::Face { .. }, None) => return None,
        };
        let towards = if matches!(to, LeverArm::Rim(_)) { pose.at } else { end };
        let start = rim.map_or(from, |(out, rim)| on_rim(from, out, rim, towards));
        Some([end, start])
    }
}

/// The point of a rim nearest to `seen`, or farthest from it.
fn on_rim(centre: Point3<f64>, out: Unit<Vector>, rim: Rim, seen: Point3<f64>) -> Point3<f64> {
    let off = seen - centre;
    let across = off - out.into_inner() * out.dot(&off);
    let way = across.try_normalize(1e-9).unwrap_or_else(|| square_to(out)[0]);
    centre + way * if rim.far { -rim.radius } else { rim.radius }
}

/// The way from a face's centre to its rim at a clock, in radians.
#[must_use]
pub fn face_way(out: Unit<Vector>, clock: f64) -> Vector {
    let top = if out.z.abs() < 0.99 { Vector::z() } else { Vector::x() };
    let top = (top - out.into_inner() * out.dot(&top)).normalize();
    // Who looks into the mouth looks against `out`: their right is the other side of `out` cross top.
    top * clock.cos() - out.cross(&top) * clock.sin()
}

/// Two directions square to `to` and to each other.
pub(crate) fn square_to(to: Unit<Vector>) -> [Vector; 2] {
    let aside = if to.z.abs() < 0.9 { Vector::z() } else { Vector::x() };
    let first = to.cross(&aside).normalize();
    [first, to.cross(&first)]
}

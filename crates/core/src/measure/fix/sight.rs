//! A reading with what it leans on worked out, as rows of a least-squares problem.

use nalgebra::{Matrix3, Point3, Unit};

use crate::geometry::Vector;

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
pub enum Lever {
    /// So far away in vehicle axes, in mm; zero for the point itself.
    Fixed(Vector),
    /// So far out along the thing's own direction, in mm.
    Stick(f64),
}

/// What was read, with what it leans on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Kind {
    /// A distance from a known point.
    Tape {
        /// The known point.
        from: Point3<f64>,
        /// Its covariance in mm2.
        spread: Matrix3<f64>,
        /// To where on the thing.
        to: Lever,
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
        to: Lever,
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

/// One reading, ready for the sum.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sight {
    /// Its place among the thing's readings.
    pub index: usize,
    /// Whether it counts.
    pub counts: bool,
    /// Standard deviation in mm, or in radians for a direction.
    pub sigma: f64,
    /// What was read.
    pub kind: Kind,
}

/// Radians of direction that one mm of a mirror image's spread stands for: a mouth's face is some 60 mm across, and
/// a third of it is what the eye judges by.
pub(super) const IMAGE_AIM: f64 = 1.0 / 180.0;

/// One equation: what is computed less what was read, in mm or radians, with its slopes.
#[derive(Debug, Clone, Copy)]
pub(super) struct Row {
    /// Which reading.
    pub(super) index: usize,
    pub(super) residual: f64,
    /// Slope against position, per mm.
    pub(super) by_place: Vector,
    /// Slope against the way out, per unit of its vector.
    pub(super) by_aim: Vector,
    /// Standard deviation of the row, what it leans on included.
    pub(super) sigma: f64,
    /// Whether the residual is an angle.
    pub(super) angle: bool,
}

impl Row {
    pub(super) fn uses_place(&self) -> bool {
        self.by_place != Vector::zeros()
    }

    pub(super) fn uses_aim(&self) -> bool {
        self.by_aim != Vector::zeros()
    }
}

impl Sight {
    /// Whether what it is taken from is itself not exactly known.
    pub(super) fn leans_on_the_uncertain(&self) -> bool {
        match &self.kind {
            Kind::Tape { spread, .. } | Kind::Offset { spread, .. } | Kind::Image { spread, .. } => {
                *spread != Matrix3::zeros()
            }
            Kind::Heading(_) | Kind::Pitch(_) | Kind::Square(..) | Kind::Parallel(..) => false,
        }
    }

    /// Appends this reading's rows at `pose`. A reading of a direction has none where the pose has no direction.
    pub(super) fn rows(&self, pose: &Pose, rows: &mut Vec<Row>) {
        let row = |residual, by_place, by_aim, known: f64, angle| Row {
            index: self.index,
            residual,
            by_place,
            by_aim,
            sigma: self.sigma.hypot(known),
            angle,
        };
        let along = |spread: &Matrix3<f64>, way: &Vector| way.dot(&(spread * way)).max(0.0).sqrt();
        let none = Vector::zeros();
        let reached = |to: Lever| match (to, pose.out) {
            (Lever::Fixed(by), _) => Some((pose.at + by, 0.0)),
            (Lever::Stick(mm), Some(out)) => Some((pose.at + out.into_inner() * mm, mm)),
            (Lever::Stick(_), None) => None,
        };
        match (self.kind, pose.out) {
            (Kind::Tape { from, spread, to, mm }, _) => {
                let Some((point, lever)) = reached(to) else { return };
                let (across, length) = (point - from, (point - from).norm());
                // A tape of no length points nowhere; any way does, and the next step leaves it.
                let way = if length > 1e-9 { across / length } else { Vector::z() };
                rows.push(row(length - mm, way, way * lever, along(&spread, &way), false));
            }
            (Kind::Offset { from, spread, to, axis, mm }, _) => {
                let Some((point, lever)) = reached(to) else { return };
                let way = Vector::ith(axis, 1.0);
                rows.push(row((point - from)[axis] - mm, way, way * lever, along(&spread, &way), false));
            }
            (Kind::Heading(heading), Some(out)) => {
                // How far the way out leans from the upright plane of that heading: smooth up to plumb.
                let side = Vector::new(-heading.sin(), heading.cos(), 0.0);
                rows.push(leaning(&row, out, side, 0.0));
            }
            (Kind::Pitch(pitch), Some(out)) => {
                let mut row = leaning(&row, out, Vector::z(), 0.0);
                row.residual -= pitch;
                rows.push(row);
            }
            (Kind::Square(to, known), Some(out)) => rows.push(leaning(&row, out, to.into_inner(), known)),
            (Kind::Parallel(to, known), Some(out)) => rows.extend(aimed(&row, out, to, known)),
            (Kind::Image { at, spread, out: (to, known) }, Some(out)) => {
                let off = pose.at - at;
                for axis in 0..3 {
                    let way = Vector::ith(axis, 1.0);
                    rows.push(row(off[axis], way, none, along(&spread, &way), false));
                }
                for mut aim in aimed(&row, out, to, known) {
                    aim.sigma = (self.sigma * IMAGE_AIM).hypot(known);
                    rows.push(aim);
                }
            }
            (Kind::Heading(_) | Kind::Pitch(_) | Kind::Square(..) | Kind::Parallel(..) | Kind::Image { .. }, None) => {}
        }
    }
}

/// The angle by which `out` leans towards `side`: `asin(out . side)`.
fn leaning(row: &impl Fn(f64, Vector, Vector, f64, bool) -> Row, out: Unit<Vector>, side: Vector, known: f64) -> Row {
    let sine = out.dot(&side).clamp(-1.0, 1.0);
    let slope = 1.0 / (1.0 - sine * sine).sqrt().max(1e-6);
    row(sine.asin(), Vector::zeros(), side * slope, known, true)
}

/// Two rows that hold `out` to `to`: how far it leans either way square to it. Beyond a right angle they keep
/// growing, so that the fit turns round.
fn aimed(
    row: &impl Fn(f64, Vector, Vector, f64, bool) -> Row,
    out: Unit<Vector>,
    to: Unit<Vector>,
    known: f64,
) -> [Row; 2] {
    square_to(to).map(|side| {
        let lean = row(out.dot(&side), Vector::zeros(), side, known, true);
        let behind = out.dot(&to) < 0.0;
        if behind {
            Row { residual: lean.residual.signum() * (2.0 - lean.residual.abs()), by_aim: -side, ..lean }
        } else {
            lean
        }
    })
}

/// Two directions square to `to` and to each other.
pub(super) fn square_to(to: Unit<Vector>) -> [Vector; 2] {
    let aside = if to.z.abs() < 0.9 { Vector::z() } else { Vector::x() };
    let first = to.cross(&aside).normalize();
    [first, to.cross(&first)]
}

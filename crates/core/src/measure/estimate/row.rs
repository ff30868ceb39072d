//! The equations a reading gives: what is computed less what was read, with its slopes.

use nalgebra::{DMatrix, Matrix3, Unit};

use super::instruments::Instruments;
use super::observation::{Kind, Leans, LeverArm, Observation, Pose, square_to};
use nook_geometry::Vector;

/// Radians of direction that one mm of a mirror image's spread stands for: a mouth's face is some 60 mm across, and
/// a third of it is what the eye judges by.
const IMAGE_AIM: f64 = 1.0 / 180.0;
/// Step in mm, and per unit of a direction, of the slopes that are taken numerically: those to a rim and a face.
const STEP: f64 = 1e-4;

/// One equation, in mm or radians.
#[derive(Debug, Clone, Copy)]
pub(super) struct Row {
    /// Which reading.
    pub(super) index: usize,
    pub(super) residual: f64,
    /// Slope against position, per mm.
    pub(super) by_place: Vector,
    /// Slope against the way out, per unit of its vector.
    pub(super) by_aim: Vector,
    /// What it is taken from.
    pub(super) leans: Leans,
    /// Slope against the place it is taken from, per mm, and that place's covariance.
    pub(super) by_anchor: Vector,
    pub(super) anchor_spread: Matrix3<f64>,
    /// Slope against the direction it is taken from, per unit of its vector, and its standard deviation in radians.
    pub(super) by_anchor_aim: Vector,
    pub(super) anchor_aim: f64,
    /// Slope against the tape's zero.
    pub(super) by_tape: f64,
    /// Slopes against the vehicle's tilt, per radian.
    pub(super) by_tilt: [f64; 2],
    /// Standard deviation of the reading alone.
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

    /// Variance with all it leans on.
    pub(super) fn variance(&self, instruments: &Instruments) -> f64 {
        self.sigma.powi(2) + self.shared(self, instruments)
    }

    /// What this row's error and another's have in common.
    fn shared(&self, other: &Self, instruments: &Instruments) -> f64 {
        let tilt = self.by_tilt[0] * other.by_tilt[0] + self.by_tilt[1] * other.by_tilt[1];
        let common = self.by_tape * other.by_tape * instruments.tape_zero_spread.powi(2)
            + tilt * instruments.tilt_spread.powi(2);
        let one = std::ptr::eq(self, other);
        if one || (self.leans == other.leans && matches!(self.leans, Leans::Thing(_))) {
            let place = self.by_anchor.dot(&(self.anchor_spread * other.by_anchor));
            common + place + self.by_anchor_aim.dot(&other.by_anchor_aim) * self.anchor_aim.powi(2)
        } else {
            common
        }
    }
}

/// The covariance of rows: their own errors, and those of the anchors and instruments they share.
pub(super) fn covariance(rows: &[Row], instruments: &Instruments) -> DMatrix<f64> {
    let mut all = DMatrix::zeros(rows.len(), rows.len());
    for (i, row) in rows.iter().enumerate() {
        all[(i, i)] = row.variance(instruments);
        for (j, other) in rows.iter().enumerate().take(i) {
            let shared = row.shared(other, instruments);
            (all[(i, j)], all[(j, i)]) = (shared, shared);
        }
    }
    all
}

impl Observation {
    /// Appends this reading's rows at `pose`. A reading of a direction has none where the pose has no direction.
    pub(super) fn rows(&self, pose: &Pose, instruments: &Instruments, rows: &mut Vec<Row>) {
        let blank = Row {
            index: self.index,
            residual: 0.0,
            by_place: Vector::zeros(),
            by_aim: Vector::zeros(),
            leans: self.leans,
            by_anchor: Vector::zeros(),
            anchor_spread: Matrix3::zeros(),
            by_anchor_aim: Vector::zeros(),
            anchor_aim: 0.0,
            by_tape: 0.0,
            by_tilt: [0.0; 2],
            sigma: self.sigma,
            angle: true,
        };
        let up = instruments.up().into_inner();
        let plumb = |to: Unit<Vector>| match self.leans {
            Leans::Plumb if to.dot(&up) < 0.0 => -instruments.up(),
            Leans::Plumb => instruments.up(),
            Leans::Thing(_) | Leans::Nothing => to,
        };
        // A direction that is plumb moves with the tilt as it would with an anchor's direction.
        let aimed_at = |row: Row, by_to: Vector, known: f64| match self.leans {
            Leans::Plumb => Row { by_tilt: [by_to.x, by_to.y], ..row },
            Leans::Thing(_) | Leans::Nothing => Row { by_anchor_aim: by_to, anchor_aim: known, ..row },
        };
        match (self.kind, pose.out) {
            (Kind::Tape { spread, .. }, _) => {
                rows.extend(self.tape(pose, instruments, Row { anchor_spread: spread, angle: false, ..blank }));
            }
            (Kind::Offset { spread, axis, mm, .. }, _) => {
                let Some([end, start]) = self.ends(pose) else { return };
                let (off, way) = (end - start, instruments.measures(axis));
                let by_tilt = match axis {
                    0 => [-off.z, 0.0],
                    1 => [0.0, -off.z],
                    _ => [off.x, off.y],
                };
                let by_aim = self.lever_slope(pose, |end| way.dot(&(end - start)));
                let (by_place, by_anchor, residual) = (way, -way, way.dot(&off) - mm);
                let row = Row { residual, by_place, by_aim, by_anchor, by_tilt, anchor_spread: spread, ..blank };
                rows.push(Row { angle: false, ..row });
            }
            (Kind::Heading(heading), Some(out)) => rows.push(self.heading(heading, out, instruments, blank)),
            (Kind::Pitch(pitch), Some(out)) => {
                let row = leaning(blank, out, up);
                let by_tilt = [out.x, out.y].map(|part| part * row.by_aim.dot(&up));
                rows.push(Row { residual: row.residual - pitch, by_tilt, ..row });
            }
            (Kind::Square(to, known), Some(out)) => {
                let to = plumb(to);
                let row = leaning(blank, out, to.into_inner());
                let slope = row.by_aim.dot(&to);
                rows.push(aimed_at(row, (out.into_inner() - to.into_inner() * out.dot(&to)) * slope, known));
            }
            (Kind::Parallel(to, known), Some(out)) => {
                rows.extend(held_to(blank, out, plumb(to)).map(|row| aimed_at(row, -row.by_aim, known)));
            }
            (Kind::Between(to, known, angle), Some(out)) => {
                let cosine = out.dot(&to).clamp(-1.0, 1.0);
                // The slope has no end where they run the same way; bounded, the next step leaves it.
                let slope = -1.0 / (1.0 - cosine * cosine).sqrt().max(1e-3);
                let square = |to: Unit<Vector>, out: Unit<Vector>| to.into_inner() - out.into_inner() * cosine;
                let (residual, by_aim) = (cosine.acos() - angle, square(to, out) * slope);
                rows.push(aimed_at(Row { residual, by_aim, ..blank }, square(out, to) * slope, known));
            }
            (Kind::Image { at, spread, out: (to, known) }, Some(out)) => {
                // The image's slopes against the twin it is of, which lies across the vehicle.
                let across = Matrix3::from_diagonal(&Vector::new(1.0, -1.0, 1.0));
                let anchor_spread = across * spread * across;
                for axis in 0..3 {
                    let (way, residual) = (Vector::ith(axis, 1.0), (pose.at - at)[axis]);
                    let row = Row { residual, by_place: way, by_anchor: -(across * way), anchor_spread, ..blank };
                    rows.push(Row { angle: false, ..row });
                }
                let sigma = self.sigma * IMAGE_AIM;
                let held = held_to(blank, out, to);
                rows.extend(held.map(|row| Row { sigma, ..aimed_at(row, -(across * row.by_aim), known) }));
            }
            (_, None) => {}
        }
    }

    /// A tape's row. `None` where it goes to a stick, a rim or a face of what has no direction.
    fn tape(&self, pose: &Pose, instruments: &Instruments, blank: Row) -> Option<Row> {
        let Kind::Tape { to, rim, mm, .. } = self.kind else { return None };
        let length = |sight: &Self, pose: &Pose| sight.ends(pose).map(|[end, start]| (end - start).norm());
        let [end, start] = self.ends(pose)?;
        let (across, read) = (end - start, (end - start).norm());
        // A tape of no length points nowhere; any way does, and the next step leaves it.
        let way = if read > 1e-9 { across / read } else { Vector::z() };
        let row = Row { residual: read + instruments.tape_zero - mm, by_tape: 1.0, ..blank };
        if rim.is_none() && !matches!(to, LeverArm::Rim(_)) {
            let by_aim = self.lever_slope(pose, |end| way.dot(&(end - start)));
            return Some(Row { by_place: way, by_aim, by_anchor: -way, ..row });
        }
        // The rim's point moves with both ends.
        let slope = |by: &dyn Fn(f64) -> Option<f64>| Some((by(STEP)? - by(-STEP)?) / (2.0 * STEP));
        let at = |by: Vector| Pose { at: pose.at + by, ..*pose };
        let moved = |by: Vector| match self.kind {
            Kind::Tape { from, spread, rim, to, mm } => {
                Self { kind: Kind::Tape { from: from + by, spread, rim, to, mm }, ..*self }
            }
            _ => *self,
        };
        let (mut by_place, mut by_anchor) = (Vector::zeros(), Vector::zeros());
        for axis in 0..3 {
            let way = Vector::ith(axis, 1.0);
            by_place[axis] = slope(&|step| length(self, &at(way * step)))?;
            by_anchor[axis] = slope(&|step| length(&moved(way * step), pose))?;
        }
        let tilted = |out: Unit<Vector>, side: Vector, step: f64| Unit::new_normalize(out.into_inner() + side * step);
        let by_aim = pose.out.map_or(Some(Vector::zeros()), |out| {
            let sides = square_to(out).map(|side| {
                let by = |step| length(self, &Pose { out: Some(tilted(out, side, step)), ..*pose });
                slope(&by).map(|slope| side * slope)
            });
            Some(sides[0]? + sides[1]?)
        })?;
        Some(Row { by_place, by_aim, by_anchor, ..row })
    }

    /// Slope of a figure of the point a reading goes to against the way out, for levers that turn with it.
    fn lever_slope(&self, pose: &Pose, figure: impl Fn(nalgebra::Point3<f64>) -> f64) -> Vector {
        let (Kind::Tape { to, .. } | Kind::Offset { to, .. }, Some(out)) = (self.kind, pose.out) else {
            return Vector::zeros();
        };
        if matches!(to, LeverArm::Fixed(_)) {
            return Vector::zeros();
        }
        let end = |step: f64, side: Vector| {
            let out = Some(Unit::new_normalize(out.into_inner() + side * step));
            self.ends(&Pose { out, ..*pose }).map_or(0.0, |[end, _]| figure(end))
        };
        square_to(out).map(|side| side * ((end(STEP, side) - end(-STEP, side)) / (2.0 * STEP))).iter().sum()
    }

    /// How far the way out leans from the upright half plane of a heading: smooth up to plumb, and no heading is
    /// taken for its opposite.
    fn heading(&self, heading: f64, out: Unit<Vector>, instruments: &Instruments, blank: Row) -> Row {
        let up = instruments.up().into_inner();
        let [x, y] = [0, 1].map(|axis| instruments.measures(axis));
        let ahead = x * heading.cos() + y * heading.sin();
        let side = up.cross(&ahead).normalize();
        let row = leaning(blank, out, side);
        if out.dot(&ahead) >= 0.0 {
            let slope = row.by_aim.dot(&side) * out.z;
            return Row { by_tilt: [heading.sin() * slope, -heading.cos() * slope], ..row };
        }
        let level = out.dot(&up);
        let turned = if row.residual < 0.0 { -1.0 } else { 1.0 };
        let slope = -turned * level.signum() / (1.0 - level * level).sqrt().max(1e-6);
        Row { residual: turned * level.abs().min(1.0).acos(), by_aim: up * slope, ..row }
    }
}

/// The angle by which `out` leans towards `side`: `asin(out . side)`.
fn leaning(blank: Row, out: Unit<Vector>, side: Vector) -> Row {
    let sine = out.dot(&side).clamp(-1.0, 1.0);
    let slope = 1.0 / (1.0 - sine * sine).sqrt().max(1e-6);
    Row { residual: sine.asin(), by_aim: side * slope, ..blank }
}

/// Two rows that hold `out` to `to`: how far it leans either way square to it. Beyond a right angle they keep
/// growing, so that the fit turns round.
fn held_to(blank: Row, out: Unit<Vector>, to: Unit<Vector>) -> [Row; 2] {
    square_to(to).map(|side| {
        let lean = Row { residual: out.dot(&side), by_aim: side, ..blank };
        let behind = out.dot(&to) < 0.0;
        if behind {
            Row { residual: lean.residual.signum() * (2.0 - lean.residual.abs()), by_aim: -side, ..lean }
        } else {
            lean
        }
    })
}

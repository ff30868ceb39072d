//! How far the far end of a pipe comes out beside its port, to first order in every small error on the way.
//!
//! A misfit has five parts, in this order: along the end's axis (mm), beside it in two square directions (mm), and the two
//! tilts of the axis towards these (radians). Turning about its own axis does not matter to a round end.

use nalgebra::{Matrix3, Point3, SMatrix, SVector};

use nook_geometry::{Path, Travel, Vector};

/// A misfit: axial, two offsets, two tilts.
pub type Misfit = SVector<f64, 5>;
/// Covariance of a misfit.
pub type MisfitCovariance = SMatrix<f64, 5, 5>;

/// One thing that may be off.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum ErrorSource {
    /// Length of a straight, by its place from A.
    Straight(usize),
    /// Angle of a bend, by its place from A.
    BendAngle(usize),
    /// Clock at which a bend stands to the one before it, by its place from A.
    Clock(usize),
}

/// Standard deviations along a pipe: lengths in mm, angles in radians.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PipeSpread {
    /// Of the length of a straight.
    pub straight: f64,
    /// Of the angle of a bend.
    pub bend: f64,
    /// Of the clock of a bend.
    pub clock: f64,
}

/// How well a port is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PortSpread {
    /// Covariance of its place in mm squared, vehicle axes.
    pub place: Matrix3<f64>,
    /// Standard deviation of its axis about each of two square axes, in radians.
    pub axis: f64,
}

/// What one unit (mm or radian) of each error does to the end, from A to B: the misfit of the pipe's end as seen from where it
/// should be.
#[must_use]
pub fn misfit_effects(path: &Path) -> Vec<(ErrorSource, Misfit)> {
    let end = path.arrival();
    let axes = Axes::of(&end);
    // A small turn about an axis through a point carries the end with it.
    let turned = |about: Vector, through: Point3<f64>| {
        axes.misfit(about.cross(&(end.at - through)), about.cross(&end.along.vector()))
    };
    let mut effects = Vec::new();
    let mut at = path.setting_out();
    for (place, leg) in path.legs().iter().enumerate() {
        effects.push((ErrorSource::Straight(place), axes.misfit(at.along.vector(), Vector::zeros())));
        let before = at.straight(leg.straight).clocked(leg.bend.rotation);
        let after = before.bend(leg.bend.radius, leg.bend.angle);
        effects.push((ErrorSource::Clock(place), turned(before.along.vector(), before.at)));
        // A bend that turns further goes on along its own circle: the end turns about the circle's axis through its middle.
        let inward = before.at_clock(0.0).into_inner();
        let middle = before.at + inward * leg.bend.radius;
        let axis = before.along.vector().cross(&inward);
        effects.push((ErrorSource::BendAngle(place), turned(axis, middle)));
        at = after;
    }
    let last = ErrorSource::Straight(path.legs().len());
    effects.push((last, axes.misfit(at.along.vector(), Vector::zeros())));
    effects
}

/// Covariance of the misfit between a pipe that begins truly at A and its port at B, every error independent of the others.
#[must_use]
pub fn misfit_covariance(path: &Path, pipe: &PipeSpread, port: &PortSpread) -> MisfitCovariance {
    let axes = Axes::of(&path.arrival());
    let along = misfit_effects(path).into_iter().map(|(source, effect)| {
        let spread = match source {
            ErrorSource::Straight(_) => pipe.straight,
            ErrorSource::BendAngle(_) => pipe.bend,
            ErrorSource::Clock(_) => pipe.clock,
        };
        let effect = effect * spread;
        effect * effect.transpose()
    });
    along.fold(axes.of_port(port), |sum, one| sum + one)
}

/// The axes that a misfit is measured on.
struct Axes {
    /// Along the end, then two directions square to it.
    rows: Matrix3<f64>,
}

impl Axes {
    fn of(end: &Travel) -> Self {
        let (along, up) = (end.along.vector(), end.upright().at_clock(0.0).into_inner());
        Self { rows: Matrix3::from_rows(&[along.transpose(), up.transpose(), along.cross(&up).transpose()]) }
    }

    fn misfit(&self, place: Vector, axis: Vector) -> Misfit {
        let (place, axis) = (self.rows * place, self.rows * axis);
        Misfit::new(place.x, place.y, place.z, axis.y, axis.z)
    }

    fn of_port(&self, port: &PortSpread) -> MisfitCovariance {
        let mut covariance = MisfitCovariance::zeros();
        covariance.fixed_view_mut::<3, 3>(0, 0).copy_from(&(self.rows * port.place * self.rows.transpose()));
        covariance[(3, 3)] = port.axis * port.axis;
        covariance[(4, 4)] = port.axis * port.axis;
        covariance
    }
}

//! Changing one length or angle of a way while both ends stay on their ports, by the smallest change.

use nalgebra::{DMatrix, DVector};
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{Course, LayError, Way, lay, tube_path};
use crate::geometry::{Path, Point};
use crate::route::Settled;
use crate::units::{BendAngle, Lead, Rotation, Straight};

/// One figure of a way and the value it shall have. Straights and bends are counted from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "figure", rename_all = "snake_case", deny_unknown_fields)]
pub enum Target {
    /// Length of a straight of tube, from tube end or tangent point to tangent point or tube end, in mm.
    Straight {
        /// Which straight.
        straight: usize,
        /// Its length in mm.
        length: Straight,
    },
    /// Angle of a bend in degrees.
    Angle {
        /// Which bend.
        bend: usize,
        /// Its angle in degrees.
        angle: BendAngle,
    },
    /// Turn of a bend's plane from the one before, in degrees.
    Rotation {
        /// Which bend.
        bend: usize,
        /// Its rotation in degrees.
        rotation: Rotation,
    },
}

/// Why a figure cannot have that value.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum ReshapeError {
    /// The way has no such straight or bend.
    #[error("there is no such straight or bend in this way")]
    NoSuchFigure,
    /// No bend, or one: everything follows from the ports and the radius.
    #[error(
        "this way has no freedom: with fewer than two bends every length and angle follows from the ports and the radius. Change the radius, move a port, or take a way with two bends"
    )]
    NoFreedom,
    /// As it is, the way does not join the ports.
    #[error("{0}; mend that first")]
    NotLaid(LayError),
    /// With both ends on their ports the figure cannot have this value.
    #[error("with both ends kept on their ports this cannot be reached; the nearest found is {nearest:.1}")]
    OutOfReach {
        /// The nearest value found, in mm or degrees.
        nearest: f64,
    },
}

/// Steps of the solver; a smooth figure takes five or so.
const MOST_STEPS: usize = 60;
/// How near counts as there: a thousandth of the 1e-6 mm that joins are held to.
const CLOSE: f64 = 1e-9;
/// Step in mm for the slopes; a central difference of 1e-3 mm is good to 1e-9 over the lengths met here.
const SLOPE_STEP: f64 = 1e-3;
/// Longest move of a vertex in one step, in mm, so that no step jumps to another branch.
const LONGEST_STEP: f64 = 60.0;

/// The course of `way` changed as little as can be (least sum of squared vertex moves, to first order) so that
/// the `target` holds.
///
/// # Errors
/// [`ReshapeError`] as its variants say; the way given is not changed.
pub fn reshape(run: &Settled, way: &Way, target: Target) -> Result<Way, ReshapeError> {
    let Course::Vertices { lead_a, between, lead_b } = way.course() else {
        return Err(if has_figure(way, target) { ReshapeError::NoFreedom } else { ReshapeError::NoSuchFigure });
    };
    if !has_figure(way, target) {
        return Err(ReshapeError::NoSuchFigure);
    }
    let mut x = DVector::from_iterator(
        2 + 3 * between.len(),
        [lead_a.get()].into_iter().chain(between.iter().flat_map(|p| p.to_array())).chain([lead_b.get()]),
    );
    // Mistakes are measured in mm: an angle's is what it moves at one radius, so both kinds settle alike.
    let error_at = |x: &DVector<f64>| -> Result<f64, LayError> {
        let moved = course_of(x).map_or(Err(LayError::AxesParallel), |course| lay(run, &way.rerouted(course)))?;
        Ok(mistake(run, &moved, target))
    };
    let mut error = error_at(&x).map_err(ReshapeError::NotLaid)?;
    for _ in 0..MOST_STEPS {
        if error.abs() < CLOSE {
            let course = course_of(&x).ok_or_else(|| out_of_reach(target, error, run))?;
            return Ok(way.rerouted(course));
        }
        let Some(slope) = slopes(&x, &error_at) else { break };
        let steepness = slope.norm_squared();
        if steepness < 1e-12 {
            break;
        }
        let full = slope.transpose() * (-error / steepness);
        let mut step = full.clone() * (LONGEST_STEP / full.amax()).min(1.0);
        let mut improved = false;
        for _ in 0..30 {
            let tried = &x + &step;
            if let Some(next) = error_at(&tried).ok().filter(|next| next.abs() < error.abs()) {
                (x, error, improved) = (tried, next, true);
                break;
            }
            step *= 0.5;
        }
        if !improved {
            break;
        }
    }
    Err(out_of_reach(target, error, run))
}

fn has_figure(way: &Way, target: Target) -> bool {
    let corners = way.course().corners();
    match target {
        Target::Straight { straight, .. } => straight <= corners,
        Target::Angle { bend, .. } | Target::Rotation { bend, .. } => bend < corners,
    }
}

fn slopes(x: &DVector<f64>, error_at: &impl Fn(&DVector<f64>) -> Result<f64, LayError>) -> Option<DMatrix<f64>> {
    let mut slope = DMatrix::zeros(1, x.len());
    for i in 0..x.len() {
        let mut probe = x.clone();
        probe[i] += SLOPE_STEP;
        let ahead = error_at(&probe).ok()?;
        probe[i] -= 2.0 * SLOPE_STEP;
        let behind = error_at(&probe).ok()?;
        slope[i] = (ahead - behind) / (2.0 * SLOPE_STEP);
    }
    slope.iter().all(|s| s.is_finite()).then_some(slope)
}

fn course_of(x: &DVector<f64>) -> Option<Course> {
    let inner = &x.as_slice()[1..x.len() - 1];
    let between: Result<Vec<Point>, _> = inner.chunks_exact(3).map(|c| Point::new(c[0], c[1], c[2])).collect();
    Some(Course::Vertices {
        lead_a: Lead::new(x[0]).ok()?,
        between: between.ok()?,
        lead_b: Lead::new(x[x.len() - 1]).ok()?,
    })
}

/// How far the figure is from its target: mm, or for angles radians times the run's radius.
fn mistake(run: &Settled, whole: &Path, target: Target) -> f64 {
    let tube = tube_path(run, whole);
    match target {
        Target::Straight { straight, length } => {
            tube.straights().nth(straight).map_or(f64::INFINITY, |now| now - length.get())
        }
        Target::Angle { bend, angle } => {
            tube.legs().get(bend).map_or(f64::INFINITY, |leg| leg.bend.angle - angle.get().to_radians())
                * run.radius.get()
        }
        Target::Rotation { bend, rotation } => {
            let off =
                tube.legs().get(bend).map_or(f64::INFINITY, |leg| leg.bend.rotation - rotation.get().to_radians());
            // The nearer way round the clock.
            off.sin().atan2(off.cos()) * run.radius.get()
        }
    }
}

fn out_of_reach(target: Target, error: f64, run: &Settled) -> ReshapeError {
    let degrees = (error / run.radius.get()).to_degrees();
    let nearest = match target {
        Target::Straight { length, .. } => length.get() + error,
        Target::Angle { angle, .. } => angle.get() + degrees,
        Target::Rotation { rotation, .. } => rotation.get() + degrees,
    };
    ReshapeError::OutOfReach { nearest }
}

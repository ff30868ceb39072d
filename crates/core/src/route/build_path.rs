//! From a way's places to a path between the ports.

use nalgebra::Point3;
use serde::Serialize;
use thiserror::Error;

use super::{Centreline, Route};
use crate::measure::End;
use crate::route::ResolvedRun;
use nook_geometry::{Mouth, Path, PathError, PathStep};

/// Why a way does not join its ports.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum LayError {
    /// Nobody has chosen a way.
    #[error("no way round is taken yet")]
    Undecided,
    /// One bend needs axes that meet.
    #[error("the two axes pass {by:.3} mm from each other, so one bend cannot join them")]
    AxesPass {
        /// Least distance between the axes in mm.
        by: f64,
    },
    /// One bend needs axes that are not parallel.
    #[error("the two axes are parallel, so one bend cannot join them")]
    AxesParallel,
    /// A straight pipe needs ports in one line that face each other.
    #[error("the ports are not in one line: {by:.3} mm and {degrees:.3} degrees out")]
    NotInLine {
        /// Distance of B from A's axis in mm.
        by: f64,
        /// How far B is from facing A, in degrees.
        degrees: f64,
    },
    /// The vertices make no path.
    #[error(transparent)]
    Path(#[from] PathError),
}

/// Axes nearer than this, in mm, meet: an eighth of a billionth of a car, and well under what a saw knows.
const MEETING: f64 = 1e-6;

/// The path of `way` from the mouth of A to the mouth of B, gaps included.
///
/// # Errors
/// [`LayError`] when the ports have moved so that this kind of way cannot join them.
pub fn build_path(run: &ResolvedRun, way: &Route) -> Result<Path, LayError> {
    let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
    let from = Mouth { at: a.at, along: a.out };
    let to = Mouth { at: b.at, along: b.out.reversed() };
    let radius = |index: usize| way.bends().get(index).and_then(|bend| bend.radius).unwrap_or(run.radius).get();
    let (out_a, out_b) = (a.out.vector(), b.out.vector());
    let corners: Vec<Point3<f64>> = match way.course() {
        Centreline::Undecided => return Err(LayError::Undecided),
        Centreline::Straight => {
            let across = a.at.to(b.at);
            let by = (across - out_a * out_a.dot(&across)).norm();
            let off = a.out.angle(b.out.reversed());
            if by > MEETING || off > 1e-9 {
                return Err(LayError::NotInLine { by, degrees: off.to_degrees() });
            }
            Vec::new()
        }
        Centreline::OneBend => {
            let meet = axes_meet(run)?;
            if meet.apart > MEETING {
                return Err(LayError::AxesPass { by: meet.apart });
            }
            vec![a.at.inner() + out_a * meet.lead_a]
        }
        Centreline::Vertices { lead_a, between, lead_b } => {
            let mut corners = vec![a.at.inner() + out_a * lead_a.get()];
            corners.extend(between.iter().map(|point| point.inner()));
            corners.push(b.at.inner() + out_b * lead_b.get());
            corners
        }
    };
    let vertices: Vec<_> = corners.into_iter().enumerate().map(|(i, corner)| (corner, radius(i))).collect();
    Ok(Path::joining(from, &vertices, to)?)
}

/// Where two ports' axes come nearest.
pub(super) struct Meeting {
    /// From A's mouth along A's direction, in mm.
    pub(super) lead_a: f64,
    /// From B's mouth along B's direction, in mm.
    pub(super) lead_b: f64,
    /// Distance between the axes there, in mm.
    pub(super) apart: f64,
}

/// The nearest points of the two axes.
pub(super) fn axes_meet(run: &ResolvedRun) -> Result<Meeting, LayError> {
    let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
    let (u, v) = (a.out.vector(), b.out.vector());
    let across = a.at.to(b.at);
    let normal = u.cross(&v);
    let scale = normal.norm_squared();
    if scale < 1e-18 {
        return Err(LayError::AxesParallel);
    }
    Ok(Meeting {
        lead_a: across.cross(&v).dot(&normal) / scale,
        lead_b: across.cross(&u).dot(&normal) / scale,
        apart: (across.dot(&normal) / scale.sqrt()).abs(),
    })
}

/// The tube's own part of a whole path: without the gaps inside the couplers at its ends.
#[must_use]
pub fn tube_path(run: &ResolvedRun, whole: &Path) -> Path {
    let (gap_a, gap_b) = (run.gap(End::A), run.gap(End::B));
    let setting_out = whole.setting_out().straight(gap_a);
    let a = run.outlet(End::A);
    let start = a.at.moved(a.out.vector() * gap_a).unwrap_or(a.at);
    let mut legs: Vec<PathStep> = whole.legs().to_vec();
    let mut last = whole.last() - gap_b;
    match legs.first_mut() {
        Some(first) => first.straight -= gap_a,
        None => last -= gap_a,
    }
    Path::new(start, setting_out.along, legs, last)
}

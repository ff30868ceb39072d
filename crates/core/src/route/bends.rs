//! More bends or fewer, by hand.

use nalgebra::Point3;
use serde::Serialize;
use thiserror::Error;

use super::build_path::axes_meet;
use super::reseat::{reseated, reseated_branches, reseated_supports};
use super::route_geometry::{RouteEnds, course_of, free_of, least_straights};
use super::{BendId, Centreline, LegId, Route, build_path, tube_path};
use crate::route::ResolvedRun;
use nook_geometry::Point;

/// Why a bend cannot be added or taken away.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum BendsError {
    /// The way has no such bend or leg.
    #[error("there is no such bend or leg in this way")]
    NoSuchBend,
    /// One bend needs axes that meet.
    #[error("without it one bend would be left, and the two axes do not meet; there is no place for it")]
    OneLeft,
    /// None is left.
    #[error("without it no bend would be left, and the ports are not in one line")]
    NoneLeft,
    /// The way would turn straight back, or not at all, somewhere.
    #[error("there the way would turn straight back or not at all; put the bend further aside")]
    NoPath,
}

/// The way with a bend more, of number `id`: leg `leg` goes by `at`, and its part before that keeps its name.
///
/// # Errors
/// [`BendsError`] when there is no such leg, or no path goes by there.
pub fn add_bend(run: &ResolvedRun, way: &Route, leg: LegId, at: Point, id: BendId) -> Result<Route, BendsError> {
    let mut vertices = vertices_of(run, way)?;
    let leg = way.leg_index(leg).ok_or(BendsError::NoSuchBend)?;
    vertices.insert(leg, at.inner());
    laid(run, way, way.with_bend(course(run, way, &mut vertices)?, leg, id))
}

/// The way without bend `bend`: the legs beside it become one.
///
/// # Errors
/// [`BendsError`] when there is no such bend, or what is left has no place.
pub fn remove_bend(run: &ResolvedRun, way: &Route, bend: BendId) -> Result<Route, BendsError> {
    let mut vertices = vertices_of(run, way)?;
    let bend = way.bend_index(bend).ok_or(BendsError::NoSuchBend)?;
    vertices.remove(bend);
    laid(run, way, way.without_bend(course(run, way, &mut vertices)?, bend))
}

/// The way with bend `bend` parted into two of half its angle, as near to each other as two welds may be; the second is of
/// number `id`.
///
/// # Errors
/// [`BendsError`] when there is no such bend.
pub fn split_bend(run: &ResolvedRun, way: &Route, bend: BendId, id: BendId) -> Result<Route, BendsError> {
    let bend = way.bend_index(bend).ok_or(BendsError::NoSuchBend)?;
    let mut vertices = vertices_of(run, way)?;
    let path = build_path(run, way).map_err(|_| BendsError::NoPath)?;
    let arc = path.legs().get(bend).ok_or(BendsError::NoSuchBend)?.bend;
    let route_geometry = super::RouteGeometry::of(&path);
    let apart = 2.0 * arc.radius * (arc.angle / 4.0).tan() + least_straights(run, 3)[1];
    let off = apart / (2.0 * (arc.angle / 2.0).cos());
    let here = vertices[bend];
    vertices[bend] = here - route_geometry.along[bend] * off;
    vertices.insert(bend + 1, here + route_geometry.along[bend + 1] * off);
    laid(run, way, way.with_bend(course(run, way, &mut vertices)?, bend + 1, id))
}

/// The way with bends `bend` and the next made one, where the legs outside them come nearest.
///
/// # Errors
/// [`BendsError`] when there are no two such bends, or what is left has no place.
pub fn merge_bends(run: &ResolvedRun, way: &Route, bend: BendId) -> Result<Route, BendsError> {
    let bend = way.bend_index(bend).ok_or(BendsError::NoSuchBend)?;
    let mut vertices = vertices_of(run, way)?;
    let path = build_path(run, way).map_err(|_| BendsError::NoPath)?;
    let route_geometry = super::RouteGeometry::of(&path);
    if bend + 1 >= vertices.len() {
        return Err(BendsError::NoSuchBend);
    }
    let (from, to) = (vertices[bend], vertices[bend + 1]);
    let (before, after) = (route_geometry.along[bend], route_geometry.along[bend + 2]);
    // The nearest points of the outer legs' lines; where they are parallel, the middle between the bends.
    let (across, turn) = (to - from, before.cross(&after));
    let scale = turn.norm_squared();
    vertices[bend] = if scale < 1e-9 {
        nalgebra::center(&from, &to)
    } else {
        let (s, t) = (across.cross(&after).dot(&turn) / scale, across.cross(&before).dot(&turn) / scale);
        nalgebra::center(&(from + before * s), &(to + after * t))
    };
    vertices.remove(bend + 1);
    laid(run, way, way.without_bend(course(run, way, &mut vertices)?, bend + 1))
}

fn vertices_of(run: &ResolvedRun, way: &Route) -> Result<Vec<Point3<f64>>, BendsError> {
    let path = build_path(run, way).map_err(|_| BendsError::NoPath)?;
    let route_ends = RouteEnds::of_way(run, way);
    Ok(free_of(way).map_or_else(|| path.vertices(), |free| route_ends.vertices(&free).to_vec()))
}

/// The course through vertices, the first and the last brought onto their axes.
fn course(run: &ResolvedRun, way: &Route, vertices: &mut [Point3<f64>]) -> Result<Centreline, BendsError> {
    let route_ends = RouteEnds::of_way(run, way);
    match vertices {
        [] => Ok(Centreline::Straight),
        [_] => {
            axes_meet(run).ok().filter(|meet| meet.apart < 1e-6).map(|_| Centreline::OneBend).ok_or(BendsError::OneLeft)
        }
        _ => course_of(&route_ends.free(vertices)).ok_or(BendsError::NoPath),
    }
}

/// `way` with the joints and supports of `old` where they stood, on the nearest legs.
fn laid(run: &ResolvedRun, old: &Route, way: Route) -> Result<Route, BendsError> {
    let none = way.course().corners() == 0;
    let wrong = if none { BendsError::NoneLeft } else { BendsError::NoPath };
    let path = build_path(run, &way).map_err(|_| wrong)?;
    let before = build_path(run, old).map_err(|_| BendsError::NoPath)?;
    let [before, after] = [tube_path(run, &before), tube_path(run, &path)];
    let joints = reseated(old.joints(), (old, &before), (&way, &after));
    let supports = reseated_supports(old.supports(), (old, &before), (&way, &after));
    let branches = reseated_branches(old.branches(), (old, &before), (&way, &after));
    Ok(way.with_joints(joints).with_supports(supports).with_branches(branches))
}

//! How far what is locked is from holding.

use smallvec::SmallVec;

use super::route_geometry::{RouteEnds, RouteGeometry, free_of};
use super::{BendId, LegId, Lock, ResolvedRun, Route};
use crate::measure::End;
use nook_geometry::Vector;

/// Distances in mm.
pub(super) type Values = SmallVec<[f64; 16]>;

/// By how much each lock of a way is off, in mm.
#[must_use]
pub fn lock_errors(run: &ResolvedRun, way: &Route) -> Vec<f64> {
    let route_ends = RouteEnds::of_way(run, way);
    let route_geometry = free_of(way).and_then(|free| route_ends.geometry(&free));
    let off = |lock: &Lock| {
        let route_geometry = route_geometry.as_ref()?;
        let mut all = Values::new();
        lock_values(run, way, route_geometry, lock, &mut all);
        Some(all.iter().map(|v| v.abs()).fold(0.0, f64::max))
    };
    way.locks().iter().map(|lock| off(lock).unwrap_or(f64::INFINITY)).collect()
}

/// Gap in mm within a straight that is the first or the last.
pub(super) fn gap_within(run: &ResolvedRun, straight: usize, last: usize) -> f64 {
    let at = |yes: bool, end| if yes { run.gap(end) } else { 0.0 };
    at(straight == 0, End::A) + at(straight == last, End::B)
}

/// Length in mm of a straight of tube.
pub(super) fn tube_straight(
    run: &ResolvedRun,
    way: &Route,
    route_geometry: &RouteGeometry,
    straight: LegId,
) -> Option<f64> {
    let straight = way.leg_index(straight)?;
    Some(route_geometry.straights.get(straight)? - gap_within(run, straight, route_geometry.straights.len() - 1))
}

/// How far a lock is from holding, in mm: an angle's is what it moves at its radius, so that all settle alike.
pub(super) fn lock_values(
    run: &ResolvedRun,
    way: &Route,
    route_geometry: &RouteGeometry,
    lock: &Lock,
    out: &mut Values,
) {
    let place = |bend: BendId| way.bend_index(bend);
    match *lock {
        Lock::Straight { straight, length } => {
            out.push(tube_straight(run, way, route_geometry, straight).map_or(f64::INFINITY, |now| now - length));
        }
        Lock::Angle { bend, angle } => {
            let now = place(bend).and_then(|bend| route_geometry.angles.get(bend).zip(route_geometry.radii.get(bend)));
            out.push(now.map_or(f64::INFINITY, |(now, radius)| (now - angle.to_radians()) * radius));
        }
        Lock::Rotation { bend, rotation } => {
            let off = |bend: usize| {
                let off = route_geometry.rotation(bend) - rotation.to_radians();
                // The nearer way round the clock.
                Some(off.sin().atan2(off.cos()) * route_geometry.radii.get(bend)?)
            };
            out.push(place(bend).and_then(off).unwrap_or(f64::INFINITY));
        }
        Lock::Leg { leg, direction, level_only } => {
            let leg = way.leg_index(leg);
            let vertex = |index: Option<usize>| index.and_then(|index| route_geometry.vertices.get(index));
            let ends = vertex(leg.and_then(|leg| leg.checked_sub(1))).zip(vertex(leg));
            let Some((from, to)) = ends else {
                out.push(f64::INFINITY);
                return;
            };
            let (across, along) = (to - from, direction.vector());
            if level_only {
                out.push(across.z);
                return;
            }
            let aside = Vector::ith(along.iamin(), 1.0).cross(&along).normalize();
            out.push(across.dot(&aside));
            out.push(across.dot(&along.cross(&aside)));
        }
    }
}

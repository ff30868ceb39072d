//! Shaping a way by hand: one thing is given a value or dragged, both ends stay on their ports, what is locked stays
//! as it is, and the rest follows by the smallest change.

use super::route_geometry::{RouteEnds, free_of};
use super::solver::{CLOSE, RouteSolver};
use super::target::{HeldBy, ReshapeError, Snap, Target};
use super::{ResolvedRun, Route};
use nook_geometry::Point;

/// A way that was shaped by hand, and what held it back.
#[derive(Debug, Clone, PartialEq)]
pub struct Shaped {
    /// The way.
    pub way: Route,
    /// What held it, where it did not get all the way.
    pub held: Option<HeldBy>,
}

/// A drag that stops this far short, in mm, was held back.
const SHORT: f64 = 0.5;

/// The course of `way` changed as little as can be so that the `target` and the locks hold.
///
/// # Errors
/// [`ReshapeError`] as its variants say; the way given is not changed.
pub fn reshape(run: &ResolvedRun, way: &Route, target: Target) -> Result<Route, ReshapeError> {
    let mut shaper = RouteSolver::new(run, way, target)?;
    // What was typed is done: where it leaves too little straight, a finding says so.
    shaper.least.fill(f64::NEG_INFINITY);
    let exact = shaper.wanted(target);
    let (found, off) = shaper.solve(target, &exact);
    if exact.is_empty() || off < CLOSE {
        return shaper.way_of(&found.free).ok_or_else(|| shaper.out_of_reach(target, &found.free));
    }
    Err(shaper.out_of_reach(target, &found.free))
}

/// Drags: as [`reshape`], but where the value cannot be reached goes as far towards it as it can and says what held it.
///
/// # Errors
/// [`ReshapeError`] when the way has no such figure, no freedom, or does not join its ports.
pub fn drag(run: &ResolvedRun, way: &Route, target: Target, snap: Option<Snap>) -> Result<Shaped, ReshapeError> {
    let shaper = RouteSolver::new(run, way, target)?;
    let exact = shaper.wanted(target);
    let (mut found, off) = shaper.solve(target, &exact);
    let mut held = found.held;
    if !exact.is_empty() && off >= CLOSE {
        // As far as it goes: halve the way towards the value.
        let (mut near, mut far) = (0.0, 1.0);
        let mut best = shaper.start.clone();
        for _ in 0..14 {
            let share = f64::midpoint(near, far);
            let part = shaper.part(&exact, share);
            let (tried, off) = shaper.solve(target, &part);
            if off < CLOSE {
                (near, best, held) = (share, tried.free, tried.held.or(held));
            } else {
                (far, held) = (share, tried.held.or(held));
            }
        }
        found.free = best;
    }
    if let Some(snapped) = snap.and_then(|snap| shaper.snapped(&found.free, snap)) {
        found.free = snapped;
    }
    let far = shaper.short_of(target, &found.free);
    let way = shaper.way_of(&found.free).ok_or_else(|| shaper.out_of_reach(target, &found.free))?;
    Ok(Shaped { way, held: held.filter(|_| far > SHORT) })
}

/// The way with its locks holding again, by the smallest change.
///
/// # Errors
/// [`ReshapeError`] when that cannot be.
pub fn hold_locks(run: &ResolvedRun, way: &Route) -> Result<Route, ReshapeError> {
    let free = free_of(way).ok_or(ReshapeError::NoFreedom)?;
    let first = RouteEnds::of_way(run, way).vertices(&free).first().and_then(|v| Point::new(v.x, v.y, v.z).ok());
    let at = first.ok_or(ReshapeError::NoFreedom)?;
    reshape(run, way, Target::Vertex { bend: way.bend_id(0), at })
}

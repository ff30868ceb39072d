//! Joints brought along when a run takes another route.

use super::{AlongAnchor, Joint, ResolvedRun, Route, build_path, tube_path};
use nook_geometry::Path;

/// The joints of the route `before`, whose tube lies along a path: those along it as near to the same places on `after` as
/// its straights are. One that has no place keeps its anchor, and is found not to fit.
#[must_use]
pub fn reseated(joints: &[Joint], before: (&Route, &Path), after: (&Route, &Path)) -> Vec<Joint> {
    let each = joints.iter().map(|joint| {
        let place = joint.along().and_then(|along| along.place(before.0, before.1));
        let along = place.and_then(|place| AlongAnchor::nearest(after.0, after.1, &place));
        Joint { at: along.map_or(joint.at, Into::into), ..joint.clone() }.on_one_of(after.0)
    });
    each.collect()
}

/// `way` with the joints at the ends of the run, and with those of its own way that `way` does not have, seated where they
/// stood: a joint goes only when somebody takes it out.
#[must_use]
pub fn with_joints_of(run: &ResolvedRun, way: &Route) -> Route {
    let old = &run.route;
    let (ends, along): (Vec<Joint>, Vec<Joint>) = old.joints().iter().cloned().partition(|joint| joint.end().is_some());
    let kept: Vec<Joint> = way.joints().iter().filter(|joint| joint.end().is_none()).cloned().collect();
    let lost: Vec<Joint> = along.into_iter().filter(|joint| !kept.iter().any(|other| other.id == joint.id)).collect();
    let lost = if lost.is_empty() {
        lost
    } else {
        match (build_path(run, old), build_path(run, way)) {
            (Ok(before), Ok(after)) => reseated(&lost, (old, &tube_path(run, &before)), (way, &tube_path(run, &after))),
            // On a way that cannot be laid they keep their legs, as far as it has them.
            _ => lost.into_iter().map(|joint| joint.on_one_of(way)).collect(),
        }
    };
    way.clone().with_joints(ends.into_iter().chain(kept).chain(lost).collect())
}

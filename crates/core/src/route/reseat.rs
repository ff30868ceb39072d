//! Joints brought along when a run takes another route.

use super::{Joint, JointAnchor, ResolvedRun, Route, build_path, tube_path};
use nook_geometry::Path;

/// Joints that stood along the tube `before`, as near to the same places along `after` as its straights are. One that has no place
/// keeps its anchor, and is found not to fit.
#[must_use]
pub fn reseated(joints: &[Joint], before: &Path, after: &Path) -> Vec<Joint> {
    let each = joints.iter().map(|joint| {
        let place = joint.at.place(before);
        let at = place.and_then(|place| JointAnchor::nearest(after, &place)).unwrap_or(joint.at);
        Joint { at, ..*joint }.on_one_of(after.legs().len())
    });
    each.collect()
}

/// `way` with those joints of the run's own way that it does not have, seated where they stood: a joint goes only when
/// somebody takes it out.
#[must_use]
pub fn with_joints_of(run: &ResolvedRun, way: &Route) -> Route {
    let Some(old) = run.way.as_ref().filter(|old| !old.joints().is_empty()) else { return way.clone() };
    let has = |joint: &&Joint| !way.joints().iter().any(|other| other.id == joint.id);
    let lost: Vec<Joint> = old.joints().iter().filter(has).copied().collect();
    let lost = match (build_path(run, old), build_path(run, way)) {
        (Ok(before), Ok(after)) => reseated(&lost, &tube_path(run, &before), &tube_path(run, &after)),
        // On a way that cannot be laid they keep their legs, as far as it has them.
        _ => lost.into_iter().map(|joint| joint.on_one_of(way.course().corners())).collect(),
    };
    way.clone().with_joints(way.joints().iter().copied().chain(lost).collect())
}

//! Joints and supports brought along when a run takes another route.

use super::{AlongAnchor, Branch, Joint, ResolvedRun, Route, Support, build_path, tube_path};
use nook_geometry::Path;

/// The joints of the route `before`, whose tube lies along a path: those along it as near to the same places on `after` as
/// its straights are. One that has no place keeps its anchor, and is found not to fit.
#[must_use]
pub fn reseated(joints: &[Joint], before: (&Route, &Path), after: (&Route, &Path)) -> Vec<Joint> {
    let each = staying(joints, after.0).map(|joint| {
        let along = joint.along().and_then(|along| nearest(along, before, after));
        Joint { at: along.map_or(joint.at, Into::into), ..joint.clone() }.on_one_of(after.0)
    });
    each.collect()
}

/// Joints that a route can have: one that takes the place of a bend goes with that.
fn staying<'a>(joints: &'a [Joint], way: &'a Route) -> impl Iterator<Item = &'a Joint> {
    joints.iter().filter(|joint| joint.bend().is_none_or(|bend| way.bend_index(bend).is_some()))
}

/// The same of what holds it.
#[must_use]
pub fn reseated_supports(supports: &[Support], before: (&Route, &Path), after: (&Route, &Path)) -> Vec<Support> {
    let each = supports.iter().map(|support| {
        let at = nearest(support.at, before, after).unwrap_or(support.at);
        Support { at, ..support.clone() }.on_one_of(after.0)
    });
    each.collect()
}

/// The same of what is let into it.
#[must_use]
pub fn reseated_branches(branches: &[Branch], before: (&Route, &Path), after: (&Route, &Path)) -> Vec<Branch> {
    let each = branches.iter().map(|branch| {
        let at = nearest(branch.at, before, after).unwrap_or(branch.at);
        Branch { at, ..branch.clone() }.on_one_of(after.0)
    });
    each.collect()
}

fn nearest(along: AlongAnchor, before: (&Route, &Path), after: (&Route, &Path)) -> Option<AlongAnchor> {
    let place = along.place(before.0, before.1)?;
    AlongAnchor::nearest(after.0, after.1, &place)
}

/// `way` with the joints at the ends of the run, and with those joints and supports of its own way that `way` does not have,
/// seated where they stood: a part goes only when somebody takes it out.
#[must_use]
pub fn with_parts_of(run: &ResolvedRun, way: &Route) -> Route {
    let old = &run.route;
    let (ends, along): (Vec<Joint>, Vec<Joint>) = old.joints().iter().cloned().partition(|joint| joint.end().is_some());
    let kept: Vec<Joint> = way.joints().iter().filter(|joint| joint.end().is_none()).cloned().collect();
    let mut lost: Vec<Joint> =
        along.into_iter().filter(|joint| !kept.iter().any(|other| other.id == joint.id)).collect();
    let held = way.supports();
    let mut unheld: Vec<Support> =
        old.supports().iter().filter(|support| way.support(support.id).is_none()).cloned().collect();
    let missing = old.branches().iter().filter(|branch| way.branch(branch.id).is_none());
    let mut missing: Vec<Branch> = missing.cloned().collect();
    if !lost.is_empty() || !unheld.is_empty() || !missing.is_empty() {
        match (build_path(run, old), build_path(run, way)) {
            (Ok(before), Ok(after)) => {
                let [before, after] = [tube_path(run, &before), tube_path(run, &after)];
                lost = reseated(&lost, (old, &before), (way, &after));
                unheld = reseated_supports(&unheld, (old, &before), (way, &after));
                missing = reseated_branches(&missing, (old, &before), (way, &after));
            }
            // On a way that cannot be laid they keep their legs, as far as it has them.
            _ => {
                lost = staying(&lost, way).map(|joint| joint.clone().on_one_of(way)).collect();
                unheld = unheld.into_iter().map(|support| support.on_one_of(way)).collect();
                missing = missing.into_iter().map(|branch| branch.on_one_of(way)).collect();
            }
        }
    }
    let supports = held.iter().cloned().chain(unheld).collect();
    let branches = way.branches().iter().cloned().chain(missing).collect();
    let joints = ends.into_iter().chain(kept).chain(lost).collect();
    way.clone().with_joints(joints).with_supports(supports).with_branches(branches)
}

//! Where a pipe is too near to something, and where that could not be told.

use super::words::{near_itself, near_thing, part_words, unmeasured_words};
use super::{Finding, FindingKind, Severity};
use crate::assembly::{Assembly, SeatedJoint};
use crate::environment::{Environment, FROM_ITSELF, Thing};
use crate::job::Job;
use crate::measure::{End, KeepOutId};
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::clearance::{Counted, Envelope, EnvelopePart, Nearest, SelfNear, nearest, nearest_to_itself};

/// One thing the pipe is too near to, at the worst place.
#[derive(Debug, Clone)]
pub(crate) struct TooNear<'a> {
    /// What, by its place in the surroundings; `None` for the pipe itself.
    pub(crate) index: Option<usize>,
    pub(crate) thing: Thing,
    pub(crate) name: &'a str,
    /// The gap asked for, in mm.
    pub(crate) limit: f64,
    pub(crate) near: Nearest,
    /// Where the other place is, in mm from A's mouth, if it is on the pipe itself.
    pub(crate) other: Option<f64>,
}

/// Everything the pipe with this outside is too near to, the worst first: what overlaps, then by what is missing.
pub(crate) fn too_near<'a>(around: &'a Environment, pipe: &Counted<'_>) -> Vec<TooNear<'a>> {
    let each = around.obstacles.iter().zip(&around.identities).enumerate();
    let each = each.filter_map(|(index, (obstacle, identity))| {
        let beyond = |parts: &mut dyn Iterator<Item = &EnvelopePart>, gap: f64| {
            nearest(parts, obstacle, around.movement.as_ref(), gap)
        };
        let near = beyond(&mut pipe.against(index).all(), obstacle.gap);
        // What is bolted to it may touch it.
        let bolted = beyond(&mut pipe.bolted(index), 0.0);
        let near = near.into_iter().chain(bolted).min_by(|p, q| p.gap.total_cmp(&q.gap))?;
        let name = identity.name.as_str();
        Some(TooNear { index: Some(index), thing: identity.thing, name, limit: obstacle.gap, near, other: None })
    });
    let mut all: Vec<TooNear<'_>> = each.collect();
    all.extend(itself(pipe.envelope()));
    let order = |one: &TooNear<'_>| (one.near.gap > 0.0, one.near.gap - one.limit);
    all.sort_by(|p, q| {
        let ((p_clear, p_left), (q_clear, q_left)) = (order(p), order(q));
        p_clear.cmp(&q_clear).then(p_left.total_cmp(&q_left))
    });
    all
}

/// Where a pipe is too near to itself.
fn itself(pipe: &Envelope) -> Option<TooNear<'static>> {
    let SelfNear { gap, stations, at, away } = nearest_to_itself(pipe, FROM_ITSELF)?;
    let near = Nearest { gap, station: stations[0], at: at[0], roll: 0.0, away };
    Some(TooNear {
        index: None,
        thing: Thing::Itself,
        name: "pipe itself",
        limit: FROM_ITSELF,
        near,
        other: Some(stations[1]),
    })
}

impl TooNear<'_> {
    /// Whether they overlap.
    pub(crate) fn fouls(&self) -> bool {
        self.near.gap <= 0.0
    }

    /// As a finding without remedies.
    pub(crate) fn finding(&self, run: &ResolvedRun, pipe: &Assembly) -> Finding {
        let place = place_at(run, pipe, self.near.station);
        let severity = if self.fouls() { Severity::Error } else { Severity::Warning };
        let other = self.other.map(|station| place_at(run, pipe, station));
        let kind = if self.fouls() { FindingKind::Fouls } else { FindingKind::TooNear };
        let (at, gaps) = (part_words(run, place), [self.near.gap, self.limit]);
        let words = match other {
            Some(other) => near_itself(&at, &part_words(run, other), gaps, self.near.roll),
            None => near_thing(&at, self.name, gaps, self.near.roll),
        };
        Finding::new(kind, severity, place, words).measured(self.near.gap, self.limit).against(self.thing)
    }
}

/// What of the pipe is at a station counted from A's mouth.
pub(crate) fn place_at(run: &ResolvedRun, pipe: &Assembly, station: f64) -> PartRef {
    let mut left = station - run.gap(End::A);
    if left < 0.0 {
        return PartRef::End { run: run.id, end: End::A };
    }
    let straight = |index| PartRef::Straight { run: run.id, straight: run.route.leg_id(index) };
    let on = |joint: &&SeatedJoint| (joint.reach()[0]..=joint.reach()[1]).contains(&station);
    if let Some(joint) = pipe.between().iter().find(on) {
        return joint.part(run);
    }
    let tube = &pipe.tube;
    for (index, leg) in tube.legs().iter().enumerate() {
        left -= leg.straight;
        if left < 0.0 {
            return straight(index);
        }
        left -= leg.bend.length();
        if left < 0.0 {
            return PartRef::Bend { run: run.id, bend: run.route.bend_id(index) };
        }
    }
    if left <= tube.last() { straight(tube.legs().len()) } else { PartRef::End { run: run.id, end: End::B } }
}

/// Things the pipe could not be measured against.
pub(crate) fn unmeasured(job: &Job, which: &[KeepOutId]) -> Vec<Finding> {
    let named = which.iter().filter_map(|id| job.keep_out(*id));
    named
        .map(|keep_out| {
            let (part, words) = (PartRef::KeepOut { keep_out: keep_out.id }, unmeasured_words(keep_out.name.as_str()));
            Finding::new(FindingKind::GapUnknown, Severity::Warning, part, words)
        })
        .collect()
}

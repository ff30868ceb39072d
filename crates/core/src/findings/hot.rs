//! Hoses too near to what is hot: rubber and silicone ask for more than metal does.

use super::words::hose_near_heat;
use super::{Finding, FindingKind, Severity};
use crate::assembly::Assembly;
use crate::environment::{Environment, Thing};
use crate::job::Job;
use crate::join::{BEAD_FROM_END, HOSE};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::clearance::{Envelope, EnvelopePart, Rides, Span, nearest};

/// What each soft joint of a pipe with this outside is too near to. A gap that was chosen for a thing was chosen for a metal
/// pipe, and excuses no hose.
pub(crate) fn hot_hoses(
    job: &Job,
    run: &ResolvedRun,
    pipe: Option<(&Assembly, &Envelope)>,
    around: &Environment,
) -> Vec<Finding> {
    if run.hose.is_some() {
        // All of it is soft.
        let parts: Vec<EnvelopePart> = pipe.map_or_else(Vec::new, |(_, outside)| outside.tube().to_vec());
        return near_heat(job, around, "The hose", PartRef::Run { run: run.id }, &parts);
    }
    let ends = [End::A, End::B].into_iter().filter(|end| run.joint(*end).kind.is_soft());
    let ends = ends
        .map(|end| (format!("Joint {}", end.letter()), PartRef::End { run: run.id, end }, vec![end_hose(run, end)]));
    let between = pipe.into_iter().flat_map(|(pipe, outside)| {
        let radius = run.tube.od() / 2.0 + HOSE;
        let soft = pipe.between().iter().filter(|joint| joint.kind.is_soft());
        soft.map(move |joint| {
            // Along the pipe's own parts, so that each moves with what it rides on.
            let parts = outside.tube().iter().filter_map(|part| part.between(joint.reach()));
            let hose = parts.map(|part| EnvelopePart { radius, ..part }).collect();
            (run.joint_name(joint.id), joint.part(run), hose)
        })
    });
    ends.chain(between).flat_map(|(name, place, hose)| near_heat(job, around, &name, place, &hose)).collect()
}

/// The hose at an end: over the mouth, the gap and the pipe's own seat.
fn end_hose(run: &ResolvedRun, end: End) -> EnvelopePart {
    let bead = if run.joint(end).kind.has_hose() { BEAD_FROM_END } else { 0.0 };
    let (port, seat) = (run.port(end), run.straight_needed(end) - bead);
    let (at, out) = (port.at.inner(), port.out.vector());
    EnvelopePart {
        span: Span::between(at - out * seat, at + out * (run.gap(end) + seat)),
        radius: port.od.get().max(run.tube.od()) / 2.0 + HOSE,
        rides: Rides::from(port.rides),
        stations: [0.0, run.gap(end) + 2.0 * seat],
        square: [true; 2],
    }
}

fn near_heat(job: &Job, around: &Environment, joint: &str, place: PartRef, hose: &[EnvelopePart]) -> Vec<Finding> {
    let hot = around.obstacles.iter().zip(&around.identities).filter_map(|(obstacle, identity)| {
        let Thing::KeepOut { keep_out } = identity.thing else { return None };
        Some((obstacle, identity, job.keep_out(keep_out)?.kind.gap_to_soft()?))
    });
    let near = hot.filter_map(|(obstacle, identity, limit)| {
        let near = nearest(hose, obstacle, around.movement.as_ref(), limit)?;
        let words = hose_near_heat(joint, identity.name.as_str(), [near.gap, limit]);
        let finding = Finding::new(FindingKind::HoseNearHeat, Severity::Warning, place, words);
        Some(finding.measured(near.gap, limit).against(identity.thing))
    });
    near.collect()
}

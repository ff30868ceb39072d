//! Hoses too near to what is hot: rubber and silicone ask for more than metal does.

use super::words::hose_near_heat;
use super::{Finding, FindingKind, Severity};
use crate::assembly::{Assembly, HOSE};
use crate::environment::{Environment, Thing};
use crate::job::Job;
use crate::join::BEAD_FROM_END;
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::clearance::{EnvelopePart, Rides, Span, nearest};

/// What each hose of a pipe is too near to. A gap that was chosen for a thing was chosen for a metal pipe, and excuses no
/// hose.
pub(crate) fn hot_hoses(job: &Job, run: &ResolvedRun, pipe: Option<&Assembly>, around: &Environment) -> Vec<Finding> {
    let ends = [End::A, End::B].into_iter().filter(|end| run.joint(*end).kind.has_hose());
    let ends = ends
        .map(|end| (format!("Joint {}", end.letter()), PartRef::End { run: run.id, end }, vec![end_hose(run, end)]));
    let between = pipe.into_iter().flat_map(|pipe| {
        // As the envelope has them, with what each part of them rides on.
        let envelope = pipe.envelope(run);
        let radius = run.tube.od() / 2.0 + HOSE;
        pipe.between().iter().map(move |joint| {
            let [from, to] = joint.reach();
            let on = |part: &&EnvelopePart| {
                let rubber = (part.radius - radius).abs() < HAIR;
                rubber && part.stations[0] >= from - HAIR && part.stations[1] <= to + HAIR
            };
            let hose = envelope.over().iter().filter(on).copied().collect();
            (run.joint_name(joint.id), joint.part(run), hose)
        })
    });
    ends.chain(between).flat_map(|(name, place, hose)| near_heat(job, around, &name, place, &hose)).collect()
}

/// Stations and radii nearer than this, in mm, are one.
const HAIR: f64 = 1e-6;

/// The hose at an end: over the mouth, the gap and the pipe's own seat.
fn end_hose(run: &ResolvedRun, end: End) -> EnvelopePart {
    let (port, seat) = (run.port(end), run.straight_needed(end) - BEAD_FROM_END);
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

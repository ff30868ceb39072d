//! Hoses too near to what is hot: rubber and silicone ask for more than metal does.

use super::{Finding, Place, Severity};
use crate::assembly::HOSE;
use crate::environment::{Environment, Thing};
use crate::job::Job;
use crate::measure::End;
use crate::route::ResolvedRun;
use nook_geometry::clearance::{EnvelopePart, Rides, Span, nearest};
use nook_geometry::units::DualUnitText;

/// What the hose at each end is too near to. A gap that was chosen for a thing was chosen for a metal pipe, and excuses no
/// hose.
pub(crate) fn hot_hoses(job: &Job, run: &ResolvedRun, around: &Environment) -> Vec<Finding> {
    let hoses = [End::A, End::B].into_iter().filter(|end| run.joint(*end).kind.has_hose());
    hoses.flat_map(|end| near_heat(job, run, around, end)).collect()
}

fn near_heat(job: &Job, run: &ResolvedRun, around: &Environment, end: End) -> Vec<Finding> {
    let (port, seat) = (run.port(end), run.joint(end).seat(run.duty, run.tube.od()));
    let (at, out) = (port.at.inner(), port.out.vector());
    // Over the mouth, the gap and the pipe's own seat.
    let hose = EnvelopePart {
        span: Span::between(at - out * seat, at + out * (run.gap(end) + seat)),
        radius: port.od.get().max(run.tube.od()) / 2.0 + HOSE,
        rides: Rides::from(port.rides),
        stations: [0.0, run.gap(end) + 2.0 * seat],
        square: [true; 2],
    };
    let hot = around.obstacles.iter().zip(&around.identities).filter_map(|(obstacle, identity)| {
        let Thing::KeepOut { keep_out } = identity.thing else { return None };
        Some((obstacle, &identity.name, job.keep_out(keep_out)?.kind.gap_to_soft()?))
    });
    let near = hot.filter_map(|(obstacle, name, limit)| {
        let near = nearest([&hose], obstacle, around.movement.as_ref(), limit)?;
        let words = DualUnitText::new(|unit| {
            format!(
                "Joint {}: its hose comes within {} of the {}; rubber and silicone want {} or a heat sleeve, metal less.",
                end.letter(),
                unit.text(near.gap.max(0.0)),
                name.as_str(),
                unit.text(limit)
            )
        });
        Some(Finding { severity: Severity::Warning, place: Place::End { end }, words, remedies: Vec::new() })
    });
    near.collect()
}

//! Distances between any two things, and the dimension lines to what is near, against the proven gaps.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::{draft, empty_job, job_with, port};
use nook_core::assembly::Assembly;
use nook_core::environment::{Environment, Thing};
use nook_core::measure::{End, KeepOutId};
use nook_core::survey::Survey;
use nook_core::workup::{ClearanceState, GapError, gap_between};
use nook_core::{Job, PartRef, RunId, Scans, workup_among};
use nook_geometry::clearance::{TOLERANCE, nearest};

fn gap(job: &Job, one: PartRef, other: PartRef) -> Result<f64, GapError> {
    gap_between(job, one, other, &Scans::default()).map(|gap| gap.gap.mm())
}

/// Every part of the demo that can be pressed.
fn parts(job: &Job) -> Vec<PartRef> {
    let runs = job.runs().iter().flat_map(|run| {
        let ends = [End::A, End::B].map(|end| PartRef::End { run: run.id, end });
        ends.into_iter().chain([PartRef::Run { run: run.id }])
    });
    let keep_outs = job.keep_outs().iter().map(|one| PartRef::KeepOut { keep_out: one.id });
    let datums = job.datums().iter().map(|one| PartRef::Datum { datum: one.id });
    runs.chain(keep_outs).chain(datums).collect()
}

#[test]
fn any_two_things_have_one_distance_from_either_side_and_the_line_is_as_long() {
    let job = demo();
    let all = parts(&job);
    // Every thing is asked against five others.
    for (index, one) in all.iter().enumerate() {
        for step in [1, 7, 19, 28, 40] {
            let other = all[(index + step) % all.len()];
            let there = gap_between(&job, *one, other, &Scans::default()).unwrap();
            let back = gap(&job, other, *one).unwrap();
            let apart = there.gap.mm();
            assert!((apart - back).abs() < TOLERANCE || (apart <= 0.0 && back <= 0.0), "{one:?} {other:?}");
            let line: f64 = (0..3).map(|axis| (there.to[axis] - there.from[axis]).powi(2)).sum::<f64>().sqrt();
            assert!(apart <= 0.0 || (line - apart).abs() < 1e-6, "{one:?} {other:?}: {line} and {apart}");
        }
    }
}

#[test]
fn a_pipe_is_as_far_from_a_thing_as_its_proven_clearance_at_rest() {
    let job = demo();
    let survey = Survey::new(&job);
    for run in job.runs() {
        let settled = survey.settle(run);
        let around = Environment::of(&job, &survey, &settled, &Scans::default());
        let outside = Assembly::build(&settled).unwrap().unwrap().envelope(&settled);
        for (obstacle, identity) in around.obstacles.iter().zip(&around.identities) {
            // What opens or sweeps is cleared over its whole range, and measured to as it stands.
            if obstacle.swings() {
                continue;
            }
            let other = match identity.thing {
                Thing::KeepOut { keep_out } => PartRef::KeepOut { keep_out },
                Thing::Run { run } => PartRef::Run { run },
                Thing::Itself => unreachable!("a pipe is no obstacle to itself here"),
            };
            let proven = nearest(outside.all(), obstacle, None, f64::INFINITY).unwrap().gap;
            let told = gap(&job, PartRef::Run { run: run.id }, other).unwrap();
            // The one takes bends as chords, the other as arcs.
            let slack = 2.0 * TOLERANCE + 0.05;
            let both = (told - proven).abs() < slack || (told <= 0.0 && proven <= 0.0);
            assert!(both, "{} to {}: {told} and {proven}", run.name.as_str(), identity.name.as_str());
        }
    }
}

#[test]
fn a_dimension_line_is_drawn_from_the_skin_and_never_shorter_than_the_gap_that_is_told() {
    let job = demo();
    let mut bad = 0;
    for run in job.runs() {
        let workup = workup_among(&job, run.id, &Scans::default()).unwrap();
        let air = workup.air.unwrap();
        for thing in &air.things {
            assert_eq!(thing.state, ClearanceState::of(thing.gap.mm(), thing.limit.mm()), "{}", thing.name);
            let Some(line) = &thing.line else { continue };
            // Over all movement it comes nearer than it stands at rest, or as near.
            assert!(line.gap.mm() >= thing.gap.mm() - 0.2, "{}: {} and {}", thing.name, line.gap.mm(), thing.gap.mm());
            let length: f64 = (0..3).map(|axis| (line.to[axis] - line.from[axis]).powi(2)).sum::<f64>().sqrt();
            assert!(line.gap.mm() <= 0.0 || (length - line.gap.mm()).abs() < 1e-6, "{}", thing.name);
            bad += usize::from(thing.state != ClearanceState::Clear);
        }
        // What the trace calls worst of each thing is what the thing is told with.
        for piece in &air.trace {
            let (Some(gap), Some(thing)) = (piece.gap, piece.thing) else { continue };
            assert!(air.things[thing].gap.mm() <= gap.mm() + 2.0 * TOLERANCE, "{}", air.things[thing].name);
        }
    }
    assert!(bad >= 5, "the demo has tight places");
}

#[test]
fn what_cannot_be_measured_is_refused_by_name() {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)));
    let whole = PartRef::Run { run };
    let bend = PartRef::Bend { run, bend: job.runs()[0].route.bend_id(0) };
    assert_eq!(gap(&job, whole, bend), Err(GapError::Same("Hot side".to_owned())), "a bend stands for its pipe");
    let gone = PartRef::KeepOut { keep_out: KeepOutId(99) };
    assert_eq!(gap(&job, whole, gone), Err(GapError::NoSuchPart));
    assert_eq!(gap(&empty_job(), PartRef::Run { run: RunId(5) }, whole), Err(GapError::NoSuchPart));
    // The mouth's disc lies on the axis of its own pipe, inside the hose.
    assert!(gap(&job, whole, PartRef::End { run, end: End::A }).unwrap() <= 0.0);
}

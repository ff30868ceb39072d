//! How long a drag has to wait for the core: one edit and one workup of the demo's hot side charge pipe.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

use nook_core::route::{ResolvedRun, Target, ways};
use nook_core::{Edit, Job, RouteEdit, RunId, apply, workup};
use nook_geometry::units::Straight;

const DEMO: &str = include_str!("../../../demo/pellow-van.json");

fn demo() -> (Job, RunId) {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    let job: Job = serde_json::from_value(file["job"].clone()).unwrap();
    let run = job.runs()[0].id;
    (job, run)
}

fn main() {
    divan::main();
}

#[divan::bench]
fn workup_of_the_hot_side(bencher: divan::Bencher<'_, '_>) {
    let (job, run) = demo();
    bencher.bench(|| workup(&job, run).unwrap());
}

#[divan::bench]
fn edit_and_workup_as_a_drag_does(bencher: divan::Bencher<'_, '_>) {
    let (job, run) = demo();
    let target =
        Target::Straight { straight: job.run(run).unwrap().route.leg_id(1), length: Straight::new(97.0).unwrap() };
    let edit = Edit::Route(RouteEdit::shaped(run, target));
    bencher.bench(|| workup(&apply(&job, &edit).unwrap().job, run).unwrap());
}

#[divan::bench]
fn workup_as_json(bencher: divan::Bencher<'_, '_>) {
    let (job, run) = demo();
    let done = workup(&job, run).unwrap();
    bencher.bench(|| serde_json::to_string(&done).unwrap());
}

#[divan::bench]
fn all_ways_with_two_bends(bencher: divan::Bencher<'_, '_>) {
    let (job, run) = demo();
    let run = &ResolvedRun::as_typed(job.run(run).unwrap());
    bencher.bench(|| ways(run));
}

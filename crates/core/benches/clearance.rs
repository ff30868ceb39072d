//! How long gaps take, and how that grows with what is in the way.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

mod demo;

use demo::{demo, hilly, with_lump};
use nook_core::assembly::Assembly;
use nook_core::environment::{Environment, Scans};
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{End, Port, Side};
use nook_core::route::SupportDraft;
use nook_core::survey::Survey;
use nook_core::{Edit, Job, JobEdit, JoinEdit, MeasureEdit, RunId, apply, workup, workup_of_drag};
use nook_geometry::units::Name;

fn main() {
    divan::main();
}

#[divan::bench]
fn environment(bencher: divan::Bencher<'_, '_>) {
    let job = demo();
    bencher.bench(|| {
        let survey = Survey::new(&job);
        let run = survey.settle(&job.runs()[0]);
        Environment::of(&job, &survey, &run, &Scans::default())
    });
}

/// A workup after a drag among the first so many keep-outs, the other pipes aside.
#[divan::bench(args = [0, 10, 20, 40])]
fn workup_after_a_drag(bencher: divan::Bencher<'_, '_>, count: usize) {
    let mut job = demo();
    let run = job.runs()[0].id;
    while job.keep_outs().len() > count {
        let keep_out = job.keep_outs().last().unwrap().id;
        job = apply(&job, &Edit::Measure(MeasureEdit::RemoveKeepOut { keep_out })).unwrap().job;
    }
    bencher.bench(|| workup_of_drag(&job, run, &Scans::default()).unwrap());
}

/// The same with what would mend the worst places.
#[divan::bench]
fn workup_with_remedies(bencher: divan::Bencher<'_, '_>) {
    let job = demo();
    let run = job.runs()[0].id;
    bencher.bench(|| workup(&job, run).unwrap());
}

/// A workup after a drag beside a scanned lump of so many triangles.
#[divan::bench(args = [10_000, 100_000, 1_000_000])]
fn workup_after_a_drag_beside_triangles(bencher: divan::Bencher<'_, '_>, count: u32) {
    let (job, scans) = with_lump(&demo(), hilly(count));
    let run = job.runs()[0].id;
    bencher.bench(|| workup_of_drag(&job, run, &scans).unwrap());
}

/// A workup after a drag of a pipe that three joints part and four supports hold, among 40 keep-outs; with the other pipes of
/// the bay, and alone.
#[divan::bench(args = [true, false])]
fn workup_of_a_pipe_joined_and_held(bencher: divan::Bencher<'_, '_>, others: bool) {
    let (job, run) = joined_and_held(others);
    let told = workup_of_drag(&job, run, &Scans::default()).unwrap();
    assert_eq!((told.joints.len(), told.supports.len(), job.keep_outs().len()), (3, 4, 40));
    bencher.bench(|| workup_of_drag(&job, run, &Scans::default()).unwrap());
}

/// The demo's heater line, with one end on the engine, three couplers on its long straight and clamps on four of what they
/// leave between them.
fn joined_and_held(others: bool) -> (Job, RunId) {
    let mut job = demo();
    while job.keep_outs().len() < 40 {
        let first = &job.keep_outs()[job.keep_outs().len() - 30];
        let name = Name::new(&format!("{} again", first.name.as_str())).unwrap();
        let (kind, rides, shape) = (first.kind, first.rides, first.shape.clone());
        let edit = Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides, shape, big: false });
        job = apply(&job, &edit).unwrap().job;
    }
    let run = job.runs().iter().find(|run| run.name.as_str() == "Heater line, left").unwrap().id;
    if !others {
        // Alone, every port typed where it stands: some were measured from others.
        let settled: Vec<_> = job.runs().iter().map(|run| Survey::new(&job).settle(run)).collect();
        for (of, end) in settled.iter().flat_map(|of| [(of, End::A), (of, End::B)]) {
            let port = Port { readings: Vec::new(), ..of.port(end).clone() };
            job = apply(&job, &Edit::Measure(MeasureEdit::SetPort { run: of.id, end, port })).unwrap().job;
        }
        for other in settled.iter().map(|of| of.id).filter(|id| *id != run) {
            job = apply(&job, &Edit::Job(JobEdit::RemoveRun { run: other })).unwrap().job;
        }
    }
    let pipe = |job: &Job| {
        let survey = Survey::new(job);
        let settled = survey.settle(job.run(run).unwrap());
        let pipe = Assembly::build(&settled).unwrap().unwrap();
        (settled, pipe)
    };
    let mut port = job.run(run).unwrap().a.clone();
    port.rides = Side::Engine;
    job = apply(&job, &Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port })).unwrap().job;
    let supports: Vec<_> = job.run(run).unwrap().route.supports().iter().map(|one| one.id).collect();
    for support in supports {
        job = apply(&job, &Edit::Join(JoinEdit::RemoveSupport { run, support })).unwrap().job;
    }
    let long = |job: &Job, share: f64| {
        let (settled, there) = pipe(job);
        let [from, to] = there.straight_stations()[1];
        there.anchor_at(&settled.route, from + share * (to - from)).unwrap()
    };
    for share in [0.25, 0.5, 0.75] {
        let edit = Edit::Join(JoinEdit::AddJoint { run, at: long(&job, share), kind: JointKind::Coupler });
        job = apply(&job, &edit).unwrap().job;
    }
    for (share, to) in [(0.12, Side::Engine), (0.35, Side::Engine), (0.4, Side::Engine), (0.88, Side::Body)] {
        let support = SupportDraft { at: long(&job, share), kind: SupportKind::Clamps, to: Some(to) };
        job = apply(&job, &Edit::Join(JoinEdit::AddSupport { run, support })).unwrap().job;
    }
    (job, run)
}

/// What of that is how its sections move, and what its joints take of it.
#[divan::bench]
fn how_a_pipe_joined_and_held_moves(bencher: divan::Bencher<'_, '_>) {
    let (job, run) = joined_and_held(false);
    let settled = Survey::new(&job).settle(job.run(run).unwrap());
    let pipe = Assembly::build(&settled).unwrap().unwrap();
    bencher.bench(|| {
        let moves = pipe.moves(&settled);
        moves.uses(&pipe)
    });
}

//! How long gaps take, and how that grows with what is in the way.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

mod demo;

use demo::{demo, hilly, with_lump};
use nook_core::environment::{Environment, Scans};
use nook_core::survey::Survey;
use nook_core::{Edit, MeasureEdit, apply, workup, workup_of_drag};

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

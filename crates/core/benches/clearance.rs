//! How long the gaps of the demo's hot side take, and how that grows with what is in the way.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

use nook_core::surroundings::{Scans, Surroundings};
use nook_core::survey::Survey;
use nook_core::{Job, workup};

const DEMO: &str = include_str!("../../../demo/pellow-van.json");

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    serde_json::from_value(file["job"].clone()).unwrap()
}

fn main() {
    divan::main();
}

#[divan::bench]
fn surroundings(bencher: divan::Bencher<'_, '_>) {
    let job = demo();
    bencher.bench(|| {
        let survey = Survey::new(&job);
        let run = survey.settle(&job.runs()[0]);
        Surroundings::of(&job, &survey, &run, &Scans::default())
    });
}

/// The first so many keep-outs, one after the other removed from the end.
#[divan::bench(args = [0, 10, 20, 40])]
fn workup_among_keep_outs(bencher: divan::Bencher<'_, '_>, count: usize) {
    let mut job = demo();
    let run = job.runs()[0].id;
    while job.keep_outs().len() > count {
        let keep_out = job.keep_outs().last().unwrap().id;
        job = nook_core::apply(&job, &nook_core::Edit::RemoveKeepOut { keep_out }).unwrap();
    }
    bencher.bench(|| workup(&job, run).unwrap());
}

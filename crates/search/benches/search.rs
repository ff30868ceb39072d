//! How long a search for ways takes on the demo's hot side, until the first that fits and until all are ranked, and how
//! that grows with keep-outs, triangles and bends.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

#[path = "../../core/benches/demo/mod.rs"]
mod demo;

use std::sync::atomic::{AtomicBool, Ordering};

use demo::{demo, hilly, with_lump};
use nook_core::environment::Scans;
use nook_core::route::RouteConstraints;
use nook_core::{Edit, Job, MeasureEdit, RouteEdit, apply};
use nook_search::{News, search, search_places};

fn main() {
    divan::main();
}

fn first(job: &Job, scans: &Scans) {
    let stop = AtomicBool::new(false);
    let tell = |news| {
        if matches!(news, News::Found(_)) {
            stop.store(true, Ordering::Relaxed);
        }
    };
    divan::black_box(search(job, job.runs()[0].id, scans, &stop, &tell).unwrap());
    assert!(stop.load(Ordering::Relaxed), "a way fits");
}

fn all(job: &Job, scans: &Scans) {
    divan::black_box(search(job, job.runs()[0].id, scans, &AtomicBool::new(false), &|_| {}).unwrap());
}

/// Among the demo's keep-outs, its other pipes and a scan of 200,000 triangles.
#[divan::bench(sample_count = 10)]
fn first_way_that_fits(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = with_lump(&demo(), hilly(200_000));
    bencher.bench(|| first(&job, &scans));
}

#[divan::bench(sample_count = 10)]
fn all_ways_ranked(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = with_lump(&demo(), hilly(200_000));
    bencher.bench(|| all(&job, &scans));
}

#[divan::bench(sample_count = 5, args = [0, 10, 20, 40])]
fn among_keep_outs(bencher: divan::Bencher<'_, '_>, count: usize) {
    let mut job = demo();
    while job.keep_outs().len() > count {
        let keep_out = job.keep_outs().last().unwrap().id;
        job = apply(&job, &Edit::Measure(MeasureEdit::RemoveKeepOut { keep_out })).unwrap().job;
    }
    bencher.bench(|| all(&job, &Scans::default()));
}

#[divan::bench(sample_count = 5, args = [10_000, 200_000, 1_000_000])]
fn beside_triangles(bencher: divan::Bencher<'_, '_>, count: u32) {
    let (job, scans) = with_lump(&demo(), hilly(count));
    bencher.bench(|| all(&job, &scans));
}

#[divan::bench(sample_count = 5, args = [2_u8, 3, 4, 5])]
fn up_to_bends(bencher: divan::Bencher<'_, '_>, bends: u8) {
    let job = demo();
    let run = job.runs()[0].id;
    let wishes = RouteConstraints { most_bends: Some(bends), ..RouteConstraints::default() };
    let job = apply(&job, &Edit::Route(RouteEdit::SetWishes { run, wishes })).unwrap().job;
    bencher.bench(|| all(&job, &Scans::default()));
}

/// Where the demo's charge cooler might stand, each place with the ways of its pipes: a builder waits no longer than 10 s.
#[divan::bench(sample_count = 5)]
fn places_with_their_pipes(bencher: divan::Bencher<'_, '_>) {
    let job = demo();
    let cooler = job.components().iter().find(|one| one.name.as_str() == "charge cooler").unwrap().id;
    bencher.bench(|| search_places(&job, cooler, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap());
}

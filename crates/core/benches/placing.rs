//! What it costs to hold every thing from every other, and to follow a component that is dragged among sixty.

#![allow(clippy::unwrap_used, reason = "a bench that cannot set up says so by panicking")]

mod demo;

use demo::demo;
use nook_core::environment::Scans;
use nook_core::measure::{KeepOutKind, KeepOutShape, Side};
use nook_core::placing::Pairs;
use nook_core::survey::Survey;
use nook_core::workup::{BayGiven, bay_given};
use nook_core::{Job, MeasureEdit, PlaceEdit, apply};
use nook_geometry::Point;
use nook_geometry::units::Name;

fn main() {
    divan::main();
}

/// The demo's job with boxes in two rows until there are sixty things.
fn sixty() -> Job {
    let mut job = demo();
    let mut k = 0_u32;
    while job.keep_outs().len() < 60 {
        let (column, row) = (f64::from(k / 2), f64::from(k % 2));
        let centre = Point::new(-350.0 + 85.0 * column, 360.0 - 720.0 * row, 30.0).unwrap();
        let shape = KeepOutShape::Box { centre, size: [40.0, 40.0, 40.0], heading: 15.0, pitch: 0.0, roll: 0.0 };
        let name = Name::new(&format!("box {k}")).unwrap();
        let rides = if k.is_multiple_of(3) { Side::Engine } else { Side::Body };
        let add = MeasureEdit::AddKeepOut { name, kind: KeepOutKind::StillMetal, rides, shape, big: false };
        job = apply(&job, &add.into()).unwrap().job;
        k += 1;
    }
    job
}

/// The same with the cooler slid so far.
fn slid(job: &Job, to: f64) -> Job {
    let cooler = job.components().iter().find(|one| one.name.as_str() == "charge cooler").unwrap().id;
    apply(job, &PlaceEdit::SetFreedom { component: cooler, freedom: 0, to }.into()).unwrap().job
}

#[divan::bench]
fn every_pair_of_sixty_things(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = (sixty(), Scans::default());
    bencher.bench(|| Pairs::of(&job, &Survey::new(&job), &scans).near().len());
}

#[divan::bench]
fn pairs_after_the_cooler_was_moved(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = (sixty(), Scans::default());
    let before = Pairs::of(&job, &Survey::new(&job), &scans);
    let moved = slid(&job, -20.0);
    bencher.bench(|| Pairs::after(Some(&before), &moved, &Survey::new(&moved), &scans).near().len());
}

#[divan::bench]
fn the_bay_while_the_cooler_is_dragged(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = (sixty(), Scans::default());
    let before = Pairs::of(&job, &Survey::new(&job), &scans);
    let moved = slid(&job, -20.0);
    bencher.bench(|| bay_given(&moved, &BayGiven { scans: &scans, before: Some(&before), mend: false }));
}

#[divan::bench]
fn the_bay_with_what_mends_it(bencher: divan::Bencher<'_, '_>) {
    let (job, scans) = (sixty(), Scans::default());
    bencher.bench(|| bay_given(&job, &BayGiven { scans: &scans, before: None, mend: true }));
}

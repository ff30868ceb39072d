//! What the shelf could make: each offer holds beside those before it, no elbow is used twice, and a plan never gets cheaper by having
//! less.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashSet;
use std::sync::atomic::AtomicBool;

use nook_core::environment::Scans;
use nook_core::findings::{FindingKind, Severity};
use nook_core::record::{Deed, DeedId, Done, PieceCut, PieceSize, Progress};
use nook_core::route::StockElbow;
use nook_core::stock::Tube;
use nook_core::workshop::{Workshop, WorkshopEdit};
use nook_core::{Job, RunId, apply, workup};
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg, Name, Price, StickLength};
use nook_search::{ShelfUses, shelf_uses, stock_plan};
use proptest::prelude::*;

use crate::stock::demo;

fn with(workshop: &Workshop, edits: &[WorkshopEdit]) -> Workshop {
    edits.iter().fold(workshop.clone(), |workshop, edit| workshop.apply(edit).unwrap())
}

fn elbow(tube: Tube, radius: f64, angle: f64, legs: [f64; 2]) -> WorkshopEdit {
    let legs = legs.map(|leg| ElbowLeg::new(leg).unwrap());
    let (radius, angle) = (BendRadius::new(radius).unwrap(), ElbowAngle::new(angle).unwrap());
    WorkshopEdit::AddElbow { tube, elbow: StockElbow { radius, angle, legs } }
}

fn uses(job: &Job, workshop: &Workshop) -> ShelfUses {
    shelf_uses(job, &Progress::default(), workshop, &Scans::default(), &AtomicBool::new(false))
}

fn charge(job: &Job) -> (RunId, Tube) {
    let run = job.runs().iter().find(|run| run.name.as_str().starts_with("Cold side")).unwrap();
    (run.id, run.tube)
}

fn worst(job: &Job, run: RunId, severity: Severity) -> usize {
    workup(job, run).unwrap().findings.iter().filter(|one| one.severity == severity).count()
}

/// Everything an offer says of itself, tried by taking it.
fn hold(job: &Job, found: &ShelfUses) {
    let mut elbows = HashSet::new();
    let (mut now, mut hours, mut seams) = (job.clone(), 0.0, 0);
    for one in &found.uses {
        assert!(elbows.insert(one.elbow), "{:?} is used twice", one.elbow);
        let next = apply(&now, &one.edit).unwrap().job;
        let [before, after] = [&now, &next].map(|job| workup(job, one.run).unwrap());
        for severity in [Severity::Error, Severity::Warning] {
            assert!(worst(&next, one.run, severity) <= worst(&now, one.run, severity), "{}", one.how.mm);
        }
        let misfits = [FindingKind::ElbowRadius, FindingKind::ElbowTooSmall];
        assert!(after.findings.iter().all(|finding| !misfits.contains(&finding.kind)));
        let bend = &after.bends[one.number - 1];
        assert!(bend.bend == one.bend && bend.bought.is_some());
        let [was, is] = [&before, &after].map(|workup| workup.totals.clone().unwrap());
        assert!((was.hours - is.hours - one.hours).abs() < 1e-9 && was.seams - is.seams == one.seams);
        (hours, seams, now) = (hours + one.hours, seams + one.seams, next);
    }
    assert!((hours - found.hours).abs() < 1e-9 && seams == found.seams);
    match &found.all {
        Some(all) => assert_eq!(apply(job, all).unwrap().job.runs(), now.runs(), "all at once is one after the other"),
        None => assert!(found.uses.is_empty()),
    }
}

#[test]
fn the_elbows_of_the_demo_save_work_and_none_is_used_twice() {
    let job = demo();
    let edits: Vec<WorkshopEdit> = serde_json::from_str(include_str!("../../../../demo/workshop.json")).unwrap();
    let shelf = with(&Workshop::default(), &edits);
    let found = uses(&job, &shelf);
    assert!(found.uses.len() >= 2 && found.hours > 2.0 && !found.stopped);
    hold(&job, &found);
    // Nothing on the shelf makes nothing, and what is in use already is not offered again.
    assert!(uses(&job, &Workshop::default()).uses.is_empty());
    let taken = apply(&job, found.all.as_ref().unwrap()).unwrap().job;
    let again = uses(&taken, &shelf);
    let bends: HashSet<_> = found.uses.iter().map(|one| (one.run, one.bend)).collect();
    assert!(again.uses.iter().all(|one| !bends.contains(&(one.run, one.bend))));
}

#[test]
fn a_run_of_which_metal_is_cut_stays_as_it_is_and_so_does_one_of_another_tube() {
    let job = demo();
    let (run, tube) = charge(&job);
    let shelf = with(&Workshop::default(), &[elbow(tube, 95.25, 90.0, [60.0; 2])]);
    assert!(uses(&job, &shelf).uses.iter().any(|one| one.run == run));
    let piece = workup(&job, run).unwrap().pieces[0].piece;
    let size = PieceSize { centre: 100.0, longest: 104.0, saws: [0.0, 4.0] };
    let as_cut = PieceCut { name: Name::new("C1").unwrap(), size };
    let id = DeedId::try_from("cut-by-hand".to_owned()).unwrap();
    let deed = Deed { id, by: Name::new("bench").unwrap(), done: Done::Cut { run, piece, as_cut } };
    let progress = Progress::after([&deed]);
    let found = shelf_uses(&job, &progress, &shelf, &Scans::default(), &AtomicBool::new(false));
    assert!(found.uses.iter().all(|one| one.run != run));
    let thin = Tube::new(
        tube.material(),
        nook_geometry::units::OutsideDiameter::new(tube.od()).unwrap(),
        nook_geometry::units::Wall::new(tube.wall() + 0.5).unwrap(),
    )
    .unwrap();
    assert!(uses(&job, &with(&Workshop::default(), &[elbow(thin, 95.25, 90.0, [60.0; 2])])).uses.is_empty());
    // Called off it says so and offers nothing it has not tried.
    let off = shelf_uses(&job, &Progress::default(), &shelf, &Scans::default(), &AtomicBool::new(true));
    assert!(off.stopped && off.uses.is_empty() && off.all.is_none());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// Whatever lies on the shelf.
    #[test]
    fn whatever_elbows_there_are_each_offer_holds(
        shelf in prop::collection::vec((50.0..140.0_f64, 20.0..180.0_f64, prop::array::uniform2(0.0..200.0_f64)), 1..6),
    ) {
        let job = demo();
        let (_, tube) = charge(&job);
        let edits: Vec<WorkshopEdit> = shelf.into_iter().map(|(radius, angle, legs)| elbow(tube, radius, angle, legs)).collect();
        hold(&job, &uses(&job, &with(&Workshop::default(), &edits)));
    }

    /// A shelf with one stick less never makes the plan cheaper, nor, at the same price, touch less tube.
    #[test]
    fn a_stick_less_never_makes_the_plan_cheaper(
        lengths in prop::collection::vec(120.0..1300.0_f64, 1..6), price in 10.0..90.0_f64, which in any::<prop::sample::Index>(),
    ) {
        let job = demo();
        let (_, tube) = charge(&job);
        let length = |mm: f64| StickLength::new(mm).unwrap();
        let sale = WorkshopEdit::AddOnSale { tube, length: length(1500.0), price: Price::new(price).unwrap() };
        let sticks = lengths.iter().map(|mm| WorkshopEdit::AddStick { tube, length: length(*mm) });
        let shelf = with(&Workshop::default(), &[vec![sale], sticks.collect()].concat());
        let stick = which.get(shelf.sticks()).id;
        let less = with(&shelf, &[WorkshopEdit::RemoveStick { stick }]);
        let plan = |shelf| stock_plan(&job, &Progress::default(), shelf, &AtomicBool::new(false)).unwrap();
        let [more, less] = [&shelf, &less].map(|shelf| plan(shelf).tubes.into_iter().find(|one| one.tube == tube).unwrap());
        // A cost that is not proven may be more than it need be.
        prop_assert!(!more.cheapest || less.cost >= more.cost - 1e-9, "{} {}", less.cost, more.cost);
        if more.proven && (less.cost - more.cost).abs() < 1e-9 {
            prop_assert!(less.touched.mm() >= more.touched.mm() - 1e-3);
        }
    }
}

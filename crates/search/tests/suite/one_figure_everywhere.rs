//! A figure is worked out once: what an offer says of a way is what the workup says once it is taken, whatever the saw,
//! the seams that were chosen and the joints along it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::sync::atomic::AtomicBool;

use nook_core::edit::JointChange;
use nook_core::join::JointKind;
use nook_core::route::{AlongAnchor, LegEnd, LegId, PieEnds};
use nook_core::{CutEdit, Edit, Job, JoinEdit, RouteEdit, RunId, Scans, Workup, apply, workup};
use nook_geometry::units::{AlongLeg, Gap, Name};
use nook_search::{Offer, RoutesFound, answers_for, compare, reads, search};

use crate::support::by_place::{leg as leg_at, pies};
use crate::support::{draft, job_with, port, saw};

fn charge_pipe(kerf: f64) -> (Job, RunId) {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([620.0, 360.0, 410.0], [0.0, 0.1, -1.0], 63.5)));
    (apply(&job, &Edit::Cut(CutEdit::PinSaw { saw: saw(kerf) })).unwrap().job, run)
}

fn with_coupler(job: &Job, run: RunId, leg: usize, mm: f64) -> Job {
    let at = AlongAnchor { leg: leg_at(job, run, leg), from: LegEnd::Start, mm: AlongLeg::new(mm).unwrap() };
    apply(job, &Edit::Join(JoinEdit::AddJoint { run, at, kind: JointKind::Coupler })).unwrap().job
}

fn same(offer: &Offer, workup: &Workup) {
    let (figures, totals) = (&offer.figures, workup.totals.as_ref().unwrap());
    let stick = workup.cutting.as_ref().unwrap().stock_used.mm() / 1000.0;
    for (what, offered, told) in [
        ("length", figures.length.mm(), totals.mouth_to_mouth.mm()),
        ("mass", figures.mass_kg, totals.mass_kg),
        ("litres", figures.litres, totals.litres),
        ("seams", f64::from(figures.seams), f64::from(totals.seams)),
        ("tube to buy", figures.tube_m, stick),
        ("pressure lost", figures.loss_kpa.unwrap(), workup.flow.as_ref().unwrap().loss_kpa),
    ] {
        assert!((offered - told).abs() < 1e-9, "{}: {what} is {offered}, and {told} once taken", offer.name);
    }
    let size = workup.flow.as_ref().unwrap().sizes.iter().find(|size| size.now).unwrap();
    assert!((size.mass_kg - totals.mass_kg).abs() < 1e-9 && (size.litres - totals.litres).abs() < 1e-9);
}

/// Whole elbows are costed as elbows, though the cut list still shows pies.
fn of_elbows(offer: &Offer) -> bool {
    offer.but.as_ref().is_some_and(|but| but.mm.contains("bought elbows"))
}

#[test]
fn an_offer_is_what_it_says_once_it_is_taken() {
    for kerf in [0.0, 2.0, 3.4] {
        let (job, run) = charge_pipe(kerf);
        for job in [job.clone(), with_coupler(&job, run, 1, 150.0)] {
            let found = search(&job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
            let fits: Vec<&Offer> = found.offers.iter().filter(|offer| offer.fits() && !of_elbows(offer)).collect();
            assert!(fits.len() > 2, "{} ways fit", fits.len());
            for offer in fits {
                let taken = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
                let told = workup(&taken, run).unwrap();
                assert_eq!(told.joints.len(), workup(&job, run).unwrap().joints.len(), "no joint is lost on the way");
                assert!(
                    told.joints.iter().all(|joint| joint.short.mm() < 1e-6),
                    "{}: there is room for it",
                    offer.name
                );
                same(offer, &told);
            }
        }
    }
}

#[test]
fn ways_beside_each_other_are_compared_as_they_are_made() {
    let (job, run) = charge_pipe(2.6);
    let few = pies(&job, run, 0, Some(3), PieEnds::Mitred);
    let kept = Edit::Route(RouteEdit::KeepWay { run, name: Name::new("with few seams").unwrap() });
    let mut job = with_coupler(&apply(&job, &few).unwrap().job, run, 1, 150.0);
    let more = pies(&job, run, 0, Some(6), PieEnds::Mitred);
    for edit in [kept, more] {
        job = apply(&job, &edit).unwrap().job;
    }
    let compared = compare(&job, run, &Scans::default()).unwrap();
    assert_eq!(compared.len(), 2);
    for one in &compared {
        same(one.offer.as_ref().unwrap(), &one.workup);
        assert_eq!(one.workup.joints.len(), 1);
    }
    let seams = |index: usize| compared[index].offer.as_ref().unwrap().figures.seams;
    assert_eq!(seams(0), seams(1) + 3);
}

/// What was found before a joint was put in, moved or widened says nothing of the pipe with it.
#[test]
fn what_was_found_answers_only_for_the_joints_it_was_asked_with() {
    let (job, run) = charge_pipe(2.0);
    let ask = |job: &Job| search(job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
    let bare = ask(&job);
    let parted = with_coupler(&job, run, 1, 150.0);
    assert!(still_answers(&bare, &job, &job, run) && !still_answers(&bare, &job, &parted, run));
    let found = ask(&parted);
    // Taking an offer is no new question; putting the joint elsewhere or another gap in is one.
    let offer = found.offers.iter().find(|offer| offer.fits() && offer.way != *way(&parted, run)).unwrap();
    let taken = apply(&parted, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
    assert!(still_answers(&found, &parted, &taken, run));
    let joint = way(&taken, run).joints().last().unwrap().id;
    let at = AlongAnchor { leg: LegId::FROM_A, from: LegEnd::Start, mm: AlongLeg::new(93.0).unwrap() };
    for to in [JointChange::Place { at }, JointChange::Gap { gap: Gap::new(20.0).ok() }] {
        let changed = apply(&taken, &Edit::Join(JoinEdit::ChangeJoint { run, joint, to: to.clone() })).unwrap().job;
        assert!(!still_answers(&found, &parted, &changed, run), "{to:?}");
    }
    assert!(found.cautions.iter().any(|words| words.mm.contains("joints along the pipe")));
}

/// A moulded elbow goes with its bend: ways are offered in tube, as they are once they are taken.
#[test]
fn what_is_offered_beside_a_moulded_elbow_is_what_is_taken() {
    let (job, run) = charge_pipe(2.0);
    let bend = way(&job, run).bends()[0].id;
    let with_elbow = apply(&job, &Edit::Join(JoinEdit::AddElbow { run, bend })).unwrap().job;
    let ask = |job: &Job| search(job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
    let (bare, found) = (ask(&job), ask(&with_elbow));
    let seams = |found: &RoutesFound| found.offers.iter().map(|offer| offer.figures.seams).collect::<Vec<_>>();
    assert_eq!(seams(&bare), seams(&found));
    let said = |found: &RoutesFound| found.cautions.iter().any(|words| words.mm.contains("moulded elbow"));
    assert!(said(&found) && !said(&bare));
    let sawn = found.offers.iter().filter(|offer| offer.fits() && offer.hose.is_none() && !of_elbows(offer));
    for offer in sawn {
        let taken = apply(&with_elbow, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
        same(offer, &workup(&taken, run).unwrap());
    }
}

/// Whether what was found for `then` answers for `now` as well.
fn still_answers(found: &RoutesFound, then: &Job, now: &Job, run: RunId) -> bool {
    let none = Scans::default();
    answers_for(found, then, run, &none).contains(&reads(now, run, &none))
}

fn way(job: &Job, run: RunId) -> &nook_core::route::Route {
    job.run(run).unwrap().way().unwrap()
}

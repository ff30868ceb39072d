//! Ways of hoses: of the angles that are moulded, and with the fittings that make them fit.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use std::sync::atomic::AtomicBool;

use super::support::held::{block, with};
use super::support::{draft, job_with, port};
use nook_core::assembly::Assembly;
use nook_core::environment::Scans;
use nook_core::measure::{EndForm, Port, Side};
use nook_core::route::RunDraft;
use nook_core::stock::{Dash, Duty, HoseBuild, usual_hose};
use nook_core::survey::Survey;
use nook_core::taken_out::BayPart;
use nook_core::{Edit, Job, RouteEdit, RunId, SpecEdit, apply, workup};
use nook_search::{News, Offer, search, taking_apart};

fn job_of(hose: HoseBuild, duty: Duty, [mut a, mut b]: [Port; 2]) -> (Job, RunId) {
    if hose.fittings().is_some() {
        (a.form, b.form) = (EndForm::Threaded, EndForm::Threaded);
    }
    let tube = hose.tube(usual_hose(duty), a.od.get()).unwrap();
    job_with(RunDraft { duty, tube, hose: Some(hose), ..draft(a, b) })
}

fn offers(job: &Job, run: RunId) -> Vec<Offer> {
    search(job, run, &Scans::default(), &AtomicBool::new(false), &|_: News| ()).unwrap().offers
}

/// What is taken from the offers is what they said: it joins, has no error, and keeps its gap as a dense walk finds it.
fn taken(job: &Job, run: RunId, offer: &Offer) -> Job {
    let way = RouteEdit::TakeWay { run, way: offer.way.clone() }.into();
    let first = offer.hose.map(|hose| SpecEdit::SetHose { run, hose, material: None, bore: None }.into());
    let edits: Vec<Edit> = first.into_iter().chain([way]).collect();
    apply(job, &Edit::Together { edits }).unwrap().job
}

#[test]
fn moulded_hose_is_offered_in_angles_it_is_sold_in() {
    let ends = [port([0.0; 3], [1.0, 0.0, 0.0], 38.1), port([420.0, 260.0, 180.0], [0.0, -1.0, 0.0], 38.1)];
    let (job, run) = job_of(HoseBuild::Moulded { inserts: true }, Duty::Coolant, ends);
    let job = with(&job, &[block([210.0, 60.0, 60.0], [60.0, 60.0, 60.0], Side::Body)]);
    let all = offers(&job, run);
    let fitting: Vec<&Offer> = all.iter().filter(|offer| offer.fits()).collect();
    assert!(!fitting.is_empty());
    for offer in fitting {
        for angle in &offer.angles {
            assert!([45.0, 90.0, 135.0].iter().any(|sold| (angle - sold).abs() < 0.3), "{:?}", offer.angles);
        }
        let after = taken(&job, run, offer);
        let told = workup(&after, run).unwrap();
        assert!(!told.hose.unwrap().pieces.is_empty(), "every piece of it can be cut");
    }
}

/// A wall stands so near to a mouth that only a fitting that turns at once gets away from it.
#[test]
fn a_fitting_that_turns_at_once_is_offered_where_straight_ones_do_not_fit() {
    let od = Dash::D10.size().thread_od;
    let ends = [port([0.0; 3], [1.0, 0.0, 0.0], od), port([-40.0, 420.0, 0.0], [0.0, -1.0, 0.0], od)];
    let (job, run) = job_of(HoseBuild::threaded(Dash::D10), Duty::Oil, ends);
    let walled = with(&job, &[block([100.0, 150.0, 0.0], [80.0, 900.0, 900.0], Side::Body)]);
    let fits: Vec<Offer> = offers(&walled, run).into_iter().filter(Offer::fits).collect();
    assert!(!fits.is_empty());
    for offer in &fits {
        let [a, _] = offer.hose.and_then(HoseBuild::fittings).expect("a straight fitting has no room").1;
        assert!(a.angle.degrees() > 0.0);
        let after = taken(&walled, run, offer);
        assert!(workup(&after, run).unwrap().findings.iter().all(|one| one.against.is_none()), "as it said");
        // Walked densely: the skin of hose and fitting keeps off the wall's face at x = 60.
        let settled = Survey::new(&after).settle(after.run(run).unwrap());
        let pipe = Assembly::build(&settled).unwrap().unwrap();
        let outside = pipe.envelope(&settled);
        for part in outside.all() {
            for k in 0..=50 {
                let at = part.span.at(part.span.length() * f64::from(k) / 50.0).0;
                assert!(at.x + part.radius < 60.0 - 5.0, "{at}");
            }
        }
    }
}

#[test]
fn hoses_are_drawn_out_before_pipes_are_moved() {
    let ends = [port([0.0; 3], [1.0, 0.0, 0.0], 38.1), port([420.0, 260.0, 0.0], [0.0, -1.0, 0.0], 38.1)];
    let (job, run) = job_of(HoseBuild::Moulded { inserts: true }, Duty::Coolant, ends);
    let order = taking_apart(&job, &Scans::default(), &AtomicBool::new(false), &|_| ());
    assert_eq!(order.steps[0].part, BayPart::Run { run });
    assert!(order.stuck.is_empty() && order.steps[0].words.mm.contains("by hand"));
}

//! What level, plumb and parallel cost: each offer is taken, and the pipe measured anew.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::any_draft;
use nook_core::findings::Severity;
use nook_core::workup::{TrueWay, TruingOffer, truing};
use nook_core::{Edit, Job, JobEdit, RunId, Scans, Workup, apply, workup};
use proptest::prelude::*;

fn errors(workup: &Workup) -> usize {
    workup.findings.iter().filter(|finding| finding.severity == Severity::Error).count()
}

/// How far a straight is from running as an offer says, in degrees, from its components alone.
fn off(along: [f64; 3], way: TrueWay, bonnet: [f64; 3]) -> f64 {
    let dot = along.iter().zip(bonnet).map(|(p, q)| p * q).sum::<f64>();
    match way {
        TrueWay::Level => along[2].abs().asin(),
        TrueWay::Plumb => along[0].hypot(along[1]).asin(),
        TrueWay::Lengthwise => along[1].hypot(along[2]).asin(),
        TrueWay::Across => along[0].hypot(along[2]).asin(),
        TrueWay::Bonnet => dot.abs().asin(),
    }
    .to_degrees()
}

fn takes(job: &Job, run: RunId, offer: &TruingOffer, bonnet: [f64; 3]) {
    let (now, next) = (workup(job, run).unwrap(), apply(job, &offer.edit).unwrap().job);
    let then = workup(&next, run).unwrap();
    let along =
        |workup: &Workup| workup.straights.iter().find(|straight| straight.straight == offer.straight).unwrap().along;
    assert!((off(along(&now), offer.way, bonnet) - offer.off).abs() < 1e-6, "{offer:?}");
    assert!(off(along(&then), offer.way, bonnet) < 0.05, "{offer:?}: {:?}", along(&then));
    assert_eq!(offer.spoils, errors(&then) > errors(&now), "{offer:?}");
    let (before, after) = (now.totals.unwrap(), then.totals.unwrap());
    let longer = after.mouth_to_mouth.mm() - before.mouth_to_mouth.mm();
    if longer.abs() >= 0.1 {
        let said = format!("{:.1} mm {}", longer.abs(), if longer > 0.0 { "longer" } else { "shorter" });
        assert!(offer.price.mm.contains(&said), "{} does not say {said}", offer.price.mm);
    }
    // Both mouths stay where they are.
    for (was, is) in now.ends.iter().zip(&then.ends) {
        assert_eq!(was.at, is.at);
    }
}

#[test]
fn every_offer_of_the_demo_does_what_it_says_at_the_price_it_says() {
    let job = demo();
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../../demo/pellow-van.json")).unwrap();
    let bonnet = file["job"]["keep_outs"].as_array().unwrap().iter().find(|one| one["kind"] == "bonnet").unwrap();
    let normal: Vec<f64> = bonnet["shape"]["normal"].as_array().unwrap().iter().map(|c| c.as_f64().unwrap()).collect();
    let long = normal.iter().map(|c| c * c).sum::<f64>().sqrt();
    let normal = [0, 1, 2].map(|axis| normal[axis] / long);
    let mut offers = 0;
    for run in job.runs() {
        let truing = truing(&job, run.id, &Scans::default()).unwrap();
        assert!(truing.already <= truing.straights);
        truing.offers.iter().for_each(|offer| takes(&job, run.id, offer, normal));
        offers += truing.offers.len();
    }
    assert!(offers >= 4, "the demo has straights that are nearly level");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn offers_of_any_pipe_hold_what_they_say(run in any_draft()) {
        let empty = crate::support::empty_job();
        let Ok(added) = apply(&empty, &Edit::Job(JobEdit::AddRun { run })) else { return Ok(()) };
        let id = added.job.runs()[0].id;
        let truing = truing(&added.job, id, &Scans::default()).unwrap();
        truing.offers.iter().for_each(|offer| takes(&added.job, id, offer, [0.0, 0.0, 1.0]));
    }
}

//! How truly a builder works: what drills say of it, and what the chance to land makes of that.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::fit::Spreads;
use nook_core::record::Progress;
use nook_core::workshop::{Drills, DrillsError, WorkshopEdit};
use nook_core::workup::landing;
use nook_core::{CutEdit, Edit, Job, Workshop, apply};
use proptest::prelude::*;

use crate::corrections::demo_job;

fn practised(job: &Job, drills: Drills) -> Job {
    apply(job, &Edit::Cut(CutEdit::PinDrills { drills })).unwrap().job
}

#[test]
fn with_few_tries_a_builder_is_taken_to_be_as_others_are() {
    let one = |clocks: &[f64], angles: &[f64]| Drills::new(clocks.to_vec(), angles.to_vec()).unwrap();
    assert!((one(&[], &[]).clock_round(1.0) - 1.0).abs() < 1e-12 && (one(&[], &[45.0]).gauge(0.3) - 0.3).abs() < 1e-12);
    // Three usual ones and three of his own that were met exactly.
    assert!((one(&[0.0; 3], &[]).clock_round(1.0) - 0.5_f64.sqrt()).abs() < 1e-12);
    // The mean is not known: of four tries three tell something. Their squares from 45 sum to 0.1.
    let gauged = one(&[], &[44.8, 45.2, 44.9, 45.1]).gauge(0.3);
    assert!((gauged - ((3.0 * 0.09 + 0.1) / 6.0_f64).sqrt()).abs() < 1e-12);
}

#[test]
fn what_no_drill_shows_is_refused() {
    let refused = |clocks: Vec<f64>, angles: Vec<f64>| Drills::new(clocks, angles).unwrap_err();
    assert_eq!(refused(vec![0.0; 51], vec![]), DrillsError::TooMany { count: 51 });
    assert_eq!(refused(vec![31.0], vec![]), DrillsError::Apart { mm: 31.0 });
    assert_eq!(refused(vec![], vec![-1.0]), DrillsError::Angle { degrees: -1.0 });
    assert!(matches!(refused(vec![f64::NAN], vec![]), DrillsError::Apart { .. }));
    assert!(matches!(refused(vec![], vec![f64::NAN]), DrillsError::Angle { .. }));
    let told = serde_json::from_str::<Drills>(r#"{"clocks":[99]}"#).unwrap_err().to_string();
    assert!(told.contains("99 mm apart"), "{told}");
}

#[test]
fn they_are_the_workshops_and_a_job_goes_by_them() {
    let drills = Drills::new(vec![0.2, -0.3, 0.1, 0.2, -0.1, 0.0], vec![45.0, 45.1, 44.9, 45.0]).unwrap();
    let workshop = Workshop::default().apply(&WorkshopEdit::SetDrills { drills: drills.clone() }).unwrap();
    let kept: Workshop = serde_json::from_str(&serde_json::to_string(&workshop).unwrap()).unwrap();
    assert_eq!(kept.drills(), &drills);
    let job = demo_job();
    let then = practised(&job, drills);
    assert!(Spreads::of(&then).clock_round < Spreads::of(&job).clock_round && Spreads::of(&then).bend < 0.3);
    // Who works truer lands more.
    for run in job.runs() {
        let chance = |job: &Job| landing(job, run.id, &Progress::default()).unwrap().chance;
        if let (Some(before), Some(after)) = (chance(&job), chance(&then)) {
            assert!(after > before - 0.005, "{}: {before} {after}", run.name.as_str());
        }
    }
}

proptest! {
    /// A spread lies between what is usual and what was shown, whatever was shown.
    #[test]
    fn a_spread_lies_between_what_is_usual_and_what_was_shown(clocks in prop::collection::vec(-20.0..20.0_f64, 1..40)) {
        let drills = Drills::new(clocks.clone(), Vec::new()).unwrap();
        let (sum, count) = clocks.iter().fold((0.0, 0.0), |(sum, count), mm| (sum + mm * mm, count + 1.0));
        let shown = f64::sqrt(sum / count);
        let told = drills.clock_round(1.0);
        prop_assert!(told >= shown.min(1.0) - 1e-9 && told <= shown.max(1.0) + 1e-9, "{told} {shown}");
    }
}

//! How spans between what holds a pipe ring, what they are judged by, and the fewest supports that hold.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what is said to be the same"
)]

use crate::support::held::{LONG, at, five, found, ring, straight, told, with};
use nook_core::findings::FindingKind;
use nook_core::hold_up::{NotHeldUp, fewest_supports, put_on};
use nook_core::join::{EngineFiring, JointKind, SupportKind};
use nook_core::measure::{End, Side};
use nook_core::{Edit, JoinEdit, MeasureEdit, apply};
use nook_geometry::units::EngineSpeed;
use proptest::prelude::*;

#[test]
fn spans_are_judged_by_what_shakes_them() {
    let (job, run) = straight([Side::Engine, Side::Engine]);
    assert_eq!(found(&job, run, FindingKind::SpanUnknown).len(), 1);
    let span = told(&job, run).spans[0].clone();
    let run_of = job.run(run).unwrap();
    let long = LONG - run_of.gap(End::A) - run_of.gap(End::B);
    assert!((span.length.mm() - long).abs() < 1e-9 && span.holds.is_none());
    // Coolant at 90 degrees is a little lighter than cold.
    let hz = span.hz;
    assert!((ring(long, 1080.0)..=ring(long, 1000.0)).contains(&hz), "{hz}");
    // Five cylinders fire two and a half times a turn.
    let rpm = hz * 120.0 / 5.0;
    for (top, least, rings) in [
        (rpm / 1.3 - 1.0, None, false),
        (rpm / 1.3 + 1.0, None, true),
        (rpm * 1.2, Some(rpm * 1.1), true),
        // Passed through well below usual running.
        (rpm * 1.6, Some(rpm * 1.31), false),
    ] {
        let job = with(&job, &[five(top, least)]);
        assert_eq!(!found(&job, run, FindingKind::SpanRings).is_empty(), rings, "{top} {least:?} {rpm}");
        assert_eq!(found(&job, run, FindingKind::SpanUnknown), []);
        assert!((told(&job, run).spans[0].rpm.unwrap() - rpm).abs() < 1e-6);
    }
    // On the body nobody asks for the engine.
    let (body, run) = straight([Side::Body, Side::Body]);
    assert_eq!(told(&body, run).spans[0].least_hz, Some(45.0));
    assert_eq!(found(&body, run, FindingKind::SpanUnknown), []);
    let unsound =
        EngineFiring { least: EngineSpeed::new(7000.0).ok(), cylinders: 5, top: EngineSpeed::new(6000.0).unwrap() };
    let refused = apply(&body, &Edit::Measure(MeasureEdit::SetFiring { firing: Some(unsound) })).unwrap_err();
    assert!(refused.to_string().contains("6000"), "{refused}");
    for cylinders in [0, 17] {
        let firing = EngineFiring { cylinders, top: EngineSpeed::new(6000.0).unwrap(), least: None };
        let refused = apply(&body, &Edit::Measure(MeasureEdit::SetFiring { firing: Some(firing) })).unwrap_err();
        assert!(refused.to_string().contains(&cylinders.to_string()), "{refused}");
    }
}

/// Joints without give do not hold a span up: it is one beam through them.
#[test]
fn a_joint_without_give_holds_nothing_up() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let put = |kind| Edit::Join(JoinEdit::AddJoint { run, at: at(&job, run, 0, 450.0), kind });
    assert_eq!(told(&with(&job, &[put(JointKind::VBand)]), run).spans.len(), 1);
    assert_eq!(told(&with(&job, &[put(JointKind::Coupler)]), run).spans.len(), 2);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// As many as the longest span that holds asks for, and one less does not.
    #[test]
    fn the_fewest_supports_hold_and_one_less_does_not(top in 3000.0..9000.0_f64) {
        let (job, run) = straight([Side::Engine, Side::Engine]);
        let job = with(&job, &[five(top, None)]);
        let span = told(&job, run).spans[0].clone();
        let longest = span.length.mm() * (span.hz / span.least_hz.unwrap()).sqrt();
        let need = (span.length.mm() / longest).ceil() - 1.0;
        match fewest_supports(&job, run) {
            Ok(supports) => {
                prop_assert_eq!(supports.len().to_string(), format!("{need:.0}"));
                prop_assert!(supports.iter().all(|one| one.to == Some(Side::Engine) && one.kind == SupportKind::Clamps));
                let after = apply(&job, &put_on(run, &supports)).unwrap().job;
                prop_assert_eq!(found(&after, run, FindingKind::SpanRings), []);
                prop_assert_eq!(found(&after, run, FindingKind::SupportOnSeam), []);
                prop_assert_eq!(fewest_supports(&after, run).unwrap(), []);
                // They stand as evenly as so many can.
                let spans: Vec<f64> = told(&after, run).spans.iter().map(|span| span.length.mm()).collect();
                let (least, most) = spans.iter().fold((f64::INFINITY, 0.0_f64), |(l, m), s| (l.min(*s), m.max(*s)));
                prop_assert!(most - least < 1.0, "{spans:?}");
            }
            Err(error) => prop_assert!(matches!(error, NotHeldUp::NoPlace { .. }), "{error}"),
        }
    }
}

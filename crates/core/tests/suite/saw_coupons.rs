//! How true a saw cuts: what a coupon says of it, and what the cut list makes of that.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::workshop::{PinnedSaw, SawCoupon, WorkshopEdit, WorkshopError, bend_out};
use nook_core::{CutEdit, Edit, Workshop, apply, workup};
use nook_geometry::units::{JointedAngle, SawBias, SawSetting};
use proptest::prelude::*;

use crate::support::{draft, job_with, port};

fn coupon(set: f64, joints: &[f64]) -> SawCoupon {
    let joints = joints.iter().map(|joint| JointedAngle::new(*joint).unwrap()).collect();
    SawCoupon { set: SawSetting::new(set).unwrap(), joints }
}

#[test]
fn a_coupon_says_what_the_reference_says() {
    let all: serde_json::Value = serde_json::from_str(include_str!("../vectors/saw_biases.json")).unwrap();
    for one in all.as_array().unwrap() {
        let number = |of: &str, name: &str| one[of][name].as_f64().unwrap();
        let coupon = coupon(number("given", "set_angle"), &[number("given", "measured_joint_angle")]);
        let bias = coupon.bias().unwrap();
        assert!((bias - number("want", "bias")).abs() < 1e-9 && coupon.spread().is_none());
        assert!((coupon.set.get() + bias - number("want", "true")).abs() < 1e-9);
        let seams = u32::try_from(one["given"]["seams"].as_u64().unwrap()).unwrap();
        assert!((bend_out(seams, bias) - number("want", "bend_out")).abs() < 1e-9);
    }
}

proptest! {
    /// Pairs of cuts that differ by so much from each other say so: the spread is that of a cut, not of a pair.
    #[test]
    fn a_coupon_finds_bias_and_spread(bias in -2.0..2.0_f64, off in prop::collection::vec(-0.4..0.4_f64, 8)) {
        // Each pair shows the sum of its two cuts.
        let joints: Vec<f64> = off.chunks(2).map(|pair| 2.0 * (4.5 + bias) + pair[0] + pair[1]).collect();
        let coupon = coupon(4.5, &joints);
        let mean = off.iter().sum::<f64>() / 8.0;
        prop_assert!((coupon.bias().unwrap() - bias - mean).abs() < 1e-9);
        let halves: Vec<f64> = off.chunks(2).map(|pair| (pair[0] + pair[1]) / 2.0 - mean).collect();
        let variance = halves.iter().map(|half| half * half).sum::<f64>() / 3.0;
        prop_assert!((coupon.spread().unwrap().powi(2) - 2.0 * variance).abs() < 1e-9);
    }

    /// Sawn at what is printed by a saw that errs so, every face is as it is wanted.
    #[test]
    fn what_the_saw_is_set_to_gives_the_angle_that_is_wanted(bias in -3.0..3.0_f64) {
        let (job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([620.0, 360.0, 410.0], [0.0, 0.1, -1.0], 63.5)));
        let plain = workup(&job, run).unwrap().cutting.unwrap();
        let saw = PinnedSaw { bias: SawBias::new(bias).ok(), ..job.saw().clone() };
        let job = apply(&job, &Edit::Cut(CutEdit::PinSaw { saw })).unwrap().job;
        let told = workup(&job, run).unwrap();
        let cutting = told.cutting.unwrap();
        for (cut, before) in cutting.cuts.iter().zip(&plain.cuts) {
            prop_assert!((cut.saw - before.saw).abs() < 1e-12 && (cut.up.mm() - before.up.mm()).abs() < 1e-12);
            let does = if cut.saw > 0.0 { cut.set + bias } else { cut.set };
            prop_assert!((does - cut.saw).abs() < 1e-9);
        }
        let seams = told.bends.iter().map(|bend| bend.pies.as_ref().unwrap().seams).max().unwrap();
        prop_assert!((cutting.worst_out - 2.0 * f64::from(seams) * bias.abs()).abs() < 1e-9);
    }
}

#[test]
fn a_coupon_that_cannot_be_is_refused_and_a_new_job_takes_what_it_says() {
    let workshop = Workshop::default();
    let saw = workshop.saw().id;
    let set = |coupon| workshop.apply(&WorkshopEdit::SetCoupon { saw, coupon: Some(coupon) });
    assert!(matches!(set(coupon(4.5, &[])), Err(WorkshopError::Pairs { .. })));
    assert!(matches!(set(coupon(4.5, &[40.0])), Err(WorkshopError::FarOff { .. })));
    assert!(matches!(set(coupon(4.5, &[9.0; 21])), Err(WorkshopError::Pairs { .. })));
    let known = set(coupon(4.5, &[9.6])).unwrap();
    let pinned = PinnedSaw::from(known.saw());
    assert!((pinned.bias() - 0.3).abs() < 1e-9);
    let forgotten = known.apply(&WorkshopEdit::SetCoupon { saw, coupon: None }).unwrap();
    assert!(PinnedSaw::from(forgotten.saw()).bias.is_none());
}

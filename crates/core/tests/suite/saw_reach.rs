//! What a saw cannot do: wheel cutters, scales with steps, ends too short to hold.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::findings::FindingKind;
use nook_core::route::BendMake;
use nook_core::workshop::{PinnedSaw, SawCoupon, SawKind, SawReach, Workshop, WorkshopEdit};
use nook_core::workup::last_cut;
use nook_core::{CutEdit, Edit, Job, RunId};
use nook_geometry::units::{HeldEnd, JointedAngle, SawBias, SawSetting, SawStep};
use proptest::prelude::*;

use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, mended, told, with};
use crate::support::{any_draft, draft, job_with, port, tube};

fn sawn_with(job: &Job, bias: f64, reach: SawReach) -> Job {
    let saw = PinnedSaw { bias: SawBias::new(bias).ok(), reach, ..job.saw().clone() };
    with(job, &[Edit::Cut(CutEdit::PinSaw { saw })])
}

fn by(step: f64) -> SawReach {
    SawReach { step: SawStep::new(step).ok(), ..SawReach::default() }
}

fn cutter() -> SawReach {
    SawReach { kind: SawKind::Cutter, ..SawReach::default() }
}

/// A charge pipe of two bends, of tube with so thick a wall.
fn bent(wall: f64) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([620.0, 360.0, 410.0], [0.0, 0.1, -1.0], 63.5));
    run.tube = tube(63.5, wall);
    job_with(run)
}

#[test]
fn a_wheel_cutter_cuts_no_mitre_and_pinches_thin_tube() {
    let (job, run) = bent(2.0);
    assert_eq!(found(&job, run, FindingKind::CutterCannotMitre), []);
    let cut = sawn_with(&job, 0.0, cutter());
    assert_eq!(found(&cut, run, FindingKind::CutterCannotMitre).len(), 1);
    // Drawn it has square ends only.
    let drawn = (0..told(&cut, run).bends.len())
        .map(|bend| CutEdit::SetMake { run, bend: bend_at(&cut, run, bend), make: Some(BendMake::Drawn) }.into());
    let drawn = with(&cut, &drawn.collect::<Vec<_>>());
    assert_eq!(found(&drawn, run, FindingKind::CutterCannotMitre), []);
    for (wall, pinched) in [(2.0, true), (2.5, true), (2.6, false), (3.0, false)] {
        let (job, run) = bent(wall);
        let said = found(&sawn_with(&job, 0.0, cutter()), run, FindingKind::CutterPinches);
        assert_eq!(!said.is_empty(), pinched, "{wall}");
        assert!(said.iter().all(|one| one.words.mm.contains("ream")));
        assert_eq!(found(&job, run, FindingKind::CutterPinches), [], "a saw does not pinch");
    }
    // A hacksaw along a template goes anywhere.
    let template = SawReach { kind: SawKind::Template, ..SawReach::default() };
    assert_eq!(found(&sawn_with(&job, 0.0, template), run, FindingKind::CutterCannotMitre), []);
}

#[test]
fn a_bend_that_its_scale_cannot_make_is_told_by_how_much_and_mended_by_another_count() {
    let (job, run) = bent(2.0);
    let mut told_of = 0;
    for step in [0.5, 1.0, 2.0] {
        let job = sawn_with(&job, 0.0, by(step));
        let all = told(&job, run);
        let said = found(&job, run, FindingKind::SettingBetween);
        for (place, bend) in all.bends.iter().enumerate() {
            // By hand: every face of it sawn at the nearest whole step.
            let pies = bend.pies.as_ref().unwrap();
            let faces = bend.angle / pies.saw;
            let out = (faces * ((pies.saw / step).round() * step - pies.saw)).abs();
            let about = |one: &&nook_core::findings::Finding| one.words.mm.starts_with(&format!("Bend {}:", place + 1));
            let here = said.iter().find(about);
            assert_eq!(here.is_some(), out > 0.5, "{step} {out}");
            if let Some(one) = here {
                assert!((one.value.unwrap() - out).abs() < 1e-9 && one.words.mm.contains(&format!("{out:.1}")));
                told_of += 1;
            }
        }
        for one in said.iter().filter(|one| !one.remedies.is_empty()) {
            let after = with(&job, &[one.remedies[0].edit.clone()]);
            let still = found(&after, run, FindingKind::SettingBetween);
            assert!(still.iter().all(|other| other.part != one.part), "{}", one.remedies[0].label.mm);
            if said.len() == 1 {
                mended(&job, run, one);
            }
        }
    }
    assert!(told_of >= 2);
    assert_eq!(found(&job, run, FindingKind::SettingBetween), [], "a saw that is set to any angle has no steps");
}

#[test]
fn the_last_cut_of_a_stick_is_held_by_its_piece_or_by_what_is_left() {
    let saw = |holds: Option<f64>| PinnedSaw {
        reach: SawReach { holds: holds.map(|mm| HeldEnd::new(mm).unwrap()), ..SawReach::default() },
        ..crate::support::saw(2.0)
    };
    assert!(last_cut(&saw(None), "H14", 5.0, 2.0).is_none(), "nobody said what it holds");
    for (shortest, left, held) in [(80.0, 2.0, true), (10.0, 60.0, true), (39.9, 39.9, false), (40.0, 0.0, true)] {
        let said = last_cut(&saw(Some(40.0)), "H14", shortest, left);
        assert_eq!(said.is_none(), held, "{shortest} {left}");
        assert!(said.is_none_or(|words| words.mm.contains("H14") && words.mm.contains("40.0 mm")));
    }
}

#[test]
fn what_a_saw_is_able_to_do_is_the_workshops_and_goes_with_the_job() {
    let workshop = Workshop::default();
    let saw = workshop.saw().id;
    let reach = SawReach { kind: SawKind::Set, step: SawStep::new(0.5).ok(), holds: HeldEnd::new(35.0).ok() };
    let next = workshop.apply(&WorkshopEdit::SetReach { saw, reach }).unwrap();
    assert_eq!(next.saw().reach, reach);
    assert_eq!(PinnedSaw::from(next.saw()).reach, reach);
    let back: Workshop = serde_json::from_str(&serde_json::to_string(&next).unwrap()).unwrap();
    assert_eq!(back, next);
    // One that was never said is written as it always was.
    let usual = serde_json::to_string(&workshop).unwrap();
    assert!(!usual.contains("reach"), "{usual}");
    let unknown = WorkshopEdit::SetReach { saw: nook_core::workshop::SawId(99), reach };
    assert!(workshop.apply(&unknown).is_err());
    let coupon = SawCoupon { set: SawSetting::new(4.5).unwrap(), joints: vec![JointedAngle::new(9.8).unwrap()] };
    let both = next.apply(&WorkshopEdit::SetCoupon { saw, coupon: Some(coupon) }).unwrap();
    assert_eq!((both.saw().reach, PinnedSaw::from(both.saw()).bias()), (reach, 0.4));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Whatever the pipe, the scale and the saw's error: every setting in the list is one the scale has, and a bend of which nothing is
    /// said comes out within half a degree when all its faces are sawn as listed.
    #[test]
    fn what_is_listed_can_be_set(draft in any_draft(), step in prop::sample::select(vec![0.25, 0.5, 1.0]), bias in -0.6..0.6_f64) {
        let (job, run) = job_with(draft);
        let job = sawn_with(&job, bias, by(step));
        let all = told(&job, run);
        prop_assume!(all.cutting.is_some());
        let cutting = all.cutting.as_ref().unwrap();
        for cut in cutting.cuts.iter().filter(|cut| cut.saw > 0.0) {
            let steps = cut.set / step;
            prop_assert!((steps - steps.round()).abs() < 1e-9, "{}", cut.set);
            prop_assert!((cut.set + bias - cut.saw).abs() <= step / 2.0 + 1e-9);
        }
        for (place, bend) in all.bends.iter().enumerate() {
            let Some(pies) = &bend.pies else { continue };
            let set = cutting.cuts.iter().find(|cut| (cut.saw - pies.saw).abs() < 1e-9).map(|cut| cut.set);
            let Some(set) = set else { continue };
            let turned = bend.angle / pies.saw * (set + bias);
            let said = all.findings.iter().any(|one| {
                one.kind == FindingKind::SettingBetween && one.words.mm.starts_with(&format!("Bend {}:", place + 1))
            });
            prop_assert_eq!(said, (turned - bend.angle).abs() > 0.5, "{} {}", turned, bend.angle);
        }
    }
}

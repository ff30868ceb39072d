//! Gaps by what runs there, one-sided roll, and hours step by step.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::{draft, job_with, port};
use nook_core::labour::Labour;
use nook_core::measure::{CrankTurn, KeepOutKind, KeepOutShape, MountKind, Mounts, Side};
use nook_core::route::RunDraft;
use nook_core::stock::{Duty, Material};
use nook_core::{Edit, Job, MeasureEdit, RunId, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::Name;

fn ball(at: [f64; 3], kind: KeepOutKind, diameter: f64) -> Edit {
    let (name, centre) = (Name::new("thing").unwrap(), Point::try_from(at).unwrap());
    Edit::Measure(MeasureEdit::AddKeepOut {
        name,
        kind,
        rides: Side::Body,
        shape: KeepOutShape::Sphere { centre, diameter },
        big: false,
    })
}

fn says(job: &Job, run: RunId, what: &str) -> bool {
    workup(job, run).unwrap().findings.iter().any(|finding| finding.words.mm.contains(what))
}

fn straight(duty: Duty) -> (Job, RunId) {
    let run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 60.0), port([600.0, 0.0, 0.0], [-1.0, 0.0, 0.0], 60.0));
    job_with(RunDraft { duty, ..run })
}

#[test]
fn a_hot_pipe_keeps_farther_from_what_ages_than_a_cool_one() {
    // 100 mm of air between the skin of a 60 mm tube and a wire.
    let wire = ball([300.0, 0.0, 140.0], KeepOutKind::HoseOrWire, 20.0);
    for (duty, wanted) in [(Duty::Exhaust, true), (Duty::ChargeHot, false), (Duty::Coolant, false)] {
        let (job, run) = straight(duty);
        let job = apply(&job, &wire).unwrap().job;
        assert_eq!(says(&job, run, "150.0 mm wanted"), wanted, "{duty:?}");
    }
    // A gap that was chosen holds whatever runs there.
    let (job, run) = straight(Duty::Exhaust);
    let job = apply(&job, &wire).unwrap().job;
    let keep_out = job.keep_outs()[0].id;
    let to = nook_core::edit::KeepOutChange::Gap { gap: Some(nook_geometry::units::Gap::new(50.0).unwrap()) };
    assert!(!says(
        &apply(&job, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to })).unwrap().job,
        run,
        "wanted"
    ));
}

#[test]
fn a_hose_near_heat_asks_for_more_than_the_pipe() {
    // 60 mm from the skin of the tube, beside A's coupler: enough for metal, not for silicone.
    let (job, run) = straight(Duty::ChargeHot);
    let near = apply(&job, &ball([5.0, 0.0, 100.0], KeepOutKind::Hot, 20.0)).unwrap().job;
    assert!(says(&near, run, "Joint A: its hose comes within"), "{:?}", workup(&near, run).unwrap().findings);
    // The pipe's own finding, where its clamp is too near, is another.
    assert!(!workup(&near, run).unwrap().findings.iter().any(|finding| finding.words.mm.contains("runs")));
    // A smaller gap chosen for the pipe excuses no hose.
    let keep_out = near.keep_outs()[0].id;
    let to = nook_core::edit::KeepOutChange::Gap { gap: Some(nook_geometry::units::Gap::new(20.0).unwrap()) };
    let chosen = apply(&near, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to })).unwrap().job;
    assert!(says(&chosen, run, "Joint A: its hose comes within"));
    // Beside the middle of the pipe there is no hose.
    let middle = apply(&job, &ball([300.0, 0.0, 100.0], KeepOutKind::Hot, 20.0)).unwrap().job;
    assert!(!says(&middle, run, "its hose comes"));
    // Far enough, and behind a shield, it says nothing.
    let far = apply(&job, &ball([5.0, 0.0, 150.0], KeepOutKind::Hot, 20.0)).unwrap().job;
    let shielded = apply(&job, &ball([5.0, 0.0, 100.0], KeepOutKind::Shielded, 20.0)).unwrap().job;
    assert!(!says(&far, run, "its hose comes") && !says(&shielded, run, "its hose comes"));
}

#[test]
fn an_engine_rolls_farther_under_drive_than_on_overrun() {
    // A pipe on the engine 400 mm above the roll axis, and a body part beside it on the left.
    let on_engine =
        |at: [f64; 3], out: [f64; 3]| nook_core::measure::Port { rides: Side::Engine, ..port(at, out, 60.0) };
    let run = draft(on_engine([0.0, 0.0, 400.0], [1.0, 0.0, 0.0]), on_engine([600.0, 0.0, 400.0], [-1.0, 0.0, 0.0]));
    let (job, run) = job_with(run);
    let job = apply(&job, &ball([300.0, 70.0, 400.0], KeepOutKind::StillMetal, 20.0)).unwrap().job;
    let point = |x| Point::new(x, 0.0, 0.0).unwrap();
    let fouls = |crank| {
        let (from, to) = (point(-400.0), point(400.0));
        let mounts = Mounts { kind: MountKind::Soft, from, to, roll: None, overrun: None, crank, shift: None };
        let job = apply(&job, &Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts) })).unwrap().job;
        workup(&job, run).unwrap().air.unwrap().margin.unwrap().mm()
    };
    // 30 mm of air. Right-handed about forward takes what is above the axis to the right, away from it.
    let (unknown, away, towards) =
        (fouls(None), fouls(Some(CrankTurn::Anticlockwise)), fouls(Some(CrankTurn::Clockwise)));
    assert!((unknown - towards).abs() < 0.1, "{unknown} {towards}");
    let less = 400.0 * (4.0_f64.to_radians().sin() - 1.5_f64.to_radians().sin());
    assert!((away - towards - less).abs() < 1.5, "{away} {towards} {less}");
}

#[test]
fn hours_are_the_sum_of_their_steps() {
    let labour = Labour { drawn: 0, cuts: 7, seams: 6, weld: 1200.0, bends: 2, material: Material::TitaniumGrade2 };
    // Set up 30, saw 7 x 4, fit 6 x 6, tack 6 x 3, on the car 2 x 20, weld 12 x 10.
    let minutes: Vec<f64> = labour.steps().into_iter().map(|step| step.minutes).collect();
    assert_eq!(minutes, [30.0, 28.0, 36.0, 18.0, 40.0, 120.0]);
    assert!((labour.hours() - 272.0 / 60.0).abs() < 1e-12);
    let steel = Labour { material: Material::MildSteel, ..labour };
    let stainless = Labour { material: Material::Stainless304l, ..labour };
    assert!((stainless.hours() - steel.hours() - 24.0 / 60.0).abs() < 1e-12);
}

//! Pipes that end in the air: what is told of the end, whether enough holds them, and how far they swing.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what is said to be the same"
)]

use crate::support::by_place::kind;
use crate::support::held::{LONG, OD, at, block, five, found, held, mended, on, ring, straight, told, with};
use nook_core::findings::{FindingKind, Severity};
use nook_core::hold_up::{fewest_supports, put_on};
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{End, MountKind, Side};
use nook_core::workup::PipeRides;
use nook_core::{Edit, Job, JoinEdit, PartRef, apply};

/// Mistake 32: where a tip looks is told before it is cut, and what hangs on nothing is.
#[test]
fn an_open_end_is_told_with_where_and_which_way_it_looks() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let job = with(&on(&job, MountKind::Soft), &[kind(&job, run, End::A, JointKind::Metal)]);
    assert_eq!(found(&job, run, FindingKind::OpenEnd), []);
    // Held by metal on the engine and on the body it cracks; open at B it rides with the engine and takes nothing.
    assert_eq!(found(&with(&job, &[kind(&job, run, End::B, JointKind::Metal)]), run, FindingKind::Stiff).len(), 1);
    let open = with(&job, &[kind(&job, run, End::B, JointKind::Open)]);
    let all = told(&open, run);
    let tip = &found(&open, run, FindingKind::OpenEnd)[0];
    assert_eq!((tip.severity, tip.part), (Severity::Info, PartRef::End { run, end: End::B }));
    assert!(
        tip.words.mm.contains("900.0 mm forward") && tip.words.mm.contains("0.0° left of forward"),
        "{}",
        tip.words.mm
    );
    assert!(matches!(all.sections[0].rides, PipeRides::Engine));
    assert_eq!(found(&open, run, FindingKind::Stiff), []);
    // It reaches the place that was wanted: sawn to the mouth, without a gap.
    assert!((all.pieces.iter().map(|piece| piece.centre.mm()).sum::<f64>() - LONG).abs() < 1e-9);
    // It stands out 900 mm from its weld: fixed and free ring at 0.356 of pinned ends.
    let span = &all.spans[0];
    assert!(span.overhangs && (span.hz / ring(LONG, 1033.0) - 0.3562).abs() < 0.01, "{}", span.hz);
    // On a hose it hangs on nothing, until something holds it.
    let dangles = with(&open, &[kind(&open, run, End::A, JointKind::Coupler)]);
    let finding = &found(&dangles, run, FindingKind::HangsLoose)[0];
    assert_eq!((finding.severity, finding.part), (Severity::Error, PartRef::End { run, end: End::A }));
    mended(&dangles, run, finding);
    assert!(matches!(told(&dangles, run).sections[0].rides, PipeRides::Between));
    let both = with(&open, &[kind(&open, run, End::A, JointKind::Open)]);
    assert_eq!(found(&both, run, FindingKind::HangsLoose).len(), 1);
    // The fewest that hold it hold the tip too.
    for job in [&dangles, &both, &with(&open, &[five(6500.0, None)])] {
        let supports = fewest_supports(job, run).unwrap();
        assert!(!supports.is_empty());
        let held = apply(job, &put_on(run, &supports)).unwrap().job;
        assert_eq!(found(&held, run, FindingKind::HangsLoose), []);
        assert_eq!(found(&held, run, FindingKind::SpanRings), []);
    }
}

/// A mouth in the air is excused from nothing, however near it is.
#[test]
fn an_open_end_stands_on_nothing() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let job = with(&job, &[block([LONG + 50.0, 0.0, 0.0], [100.0, 200.0, 200.0], Side::Body)]);
    assert_eq!(found(&job, run, FindingKind::Fouls), [], "what a mouth stands on");
    let open = with(&job, &[kind(&job, run, End::B, JointKind::Open)]);
    let near = |kind| found(&open, run, kind).len();
    assert_eq!(near(FindingKind::Fouls) + near(FindingKind::TooNear), 1);
}

/// What one hanger does for one tube it does not do for the next beyond a joint that gives.
#[test]
fn each_tube_of_what_hangs_is_held_for_itself() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let open = with(&job, &[kind(&job, run, End::B, JointKind::Open)]);
    let hang = |job: &Job, mm: f64| held(job, run, (0, mm), SupportKind::Hanger, Side::Body).0;
    let loose = |job: &Job| found(job, run, FindingKind::HangsLoose);
    assert_eq!(loose(&open).len(), 1, "on one hose only");
    assert_eq!(loose(&hang(&open, 500.0)), [], "the hose and a hanger");
    let free = with(&open, &[kind(&open, run, End::A, JointKind::Open)]);
    assert_eq!(loose(&hang(&free, 300.0)).len(), 1, "one hanger");
    assert_eq!(loose(&hang(&hang(&free, 300.0), 310.0)).len(), 1, "two that hold as one");
    assert_eq!(loose(&hang(&hang(&free, 300.0), 600.0)), [], "two apart");
    // A tube beyond a second coupler is not held by what holds the first.
    let put = Edit::Join(JoinEdit::AddJoint { run, at: at(&open, run, 0, 450.0), kind: JointKind::Coupler });
    let two = hang(&with(&open, &[put]), 200.0);
    let finding = &loose(&two)[0];
    assert!(matches!(finding.part, PartRef::Joint { .. }), "{:?}", finding.part);
    mended(&two, run, finding);
    assert_eq!(loose(&hang(&two, 700.0)), [], "a hanger of its own");
}

/// The thing that hangs may be anywhere its rubber lets it be: what was clear of it is near by so much more.
#[test]
fn what_hangs_in_rubber_is_as_thick_as_it_swings() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let open = with(&job, &[kind(&job, run, End::A, JointKind::Open), kind(&job, run, End::B, JointKind::Open)]);
    let beside = block([LONG / 2.0, 80.0, 0.0], [40.0, 40.0, 40.0], Side::Body);
    let gap = |job: &Job| {
        let trace = told(job, run).air.unwrap().trace;
        trace.iter().filter_map(|part| Some(part.gap.as_ref()?.mm())).fold(f64::INFINITY, f64::min)
    };
    let hung = |at: [f64; 2]| {
        let one = held(&open, run, (0, at[0]), SupportKind::Hanger, Side::Body).0;
        with(&held(&one, run, (0, at[1]), SupportKind::Hanger, Side::Body).0, std::slice::from_ref(&beside))
    };
    // Between its hangers it goes by what they give; each of its ends by that and twice it for as far as it is beyond them, and
    // what stands out of its middle by as much more.
    let still = gap(&with(&job, std::slice::from_ref(&beside)));
    let gives = SupportKind::Hanger.gives().unwrap();
    for at in [[250.0_f64, 650.0], [100.0, 800.0]] {
        let furthest = at[0].max(LONG - at[1]).max((at[1] - at[0]) / 2.0);
        let skin = OD / 2.0 * std::f64::consts::SQRT_2 + 5.0;
        let swing = gives * (1.0 + 2.0 * (furthest + skin) / (at[1] - at[0]));
        let lost = still - gap(&hung(at));
        assert!(lost >= gives && lost <= swing + 1e-6, "{lost} of {swing}");
    }
}

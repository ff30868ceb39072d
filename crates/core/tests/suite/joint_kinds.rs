//! What each kind of joint is against the handbook's table, where it may not be, where its screw is reached, and what holds it.

#![allow(
    clippy::unwrap_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what is said to be the same"
)]

use crate::support::by_place::{change, kind};
use crate::support::{draft, job_with, port, tube};
use nook_core::edit::JointChange;
use nook_core::findings::{Finding, FindingKind, Severity};
use nook_core::join::{Give, JointKind, JointPart, JointSpec};
use nook_core::measure::{End, EndForm, KeepOutKind, KeepOutShape, Side};
use nook_core::route::{AlongAnchor, LegEnd};
use nook_core::stock::Duty;
use nook_core::{Edit, Job, JoinEdit, MeasureEdit, PartRef, RouteEdit, RunId, SpecEdit, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::{AlongLeg, Gap, GiveLength, Name, OutsideDiameter, Pressure, Rotation};
use proptest::prelude::*;

/// A straight pipe along x, 600 mm from mouth to mouth, both on the body.
fn straight(duty: Duty) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([600.0, 0.0, 0.0], [-1.0, 0.0, 0.0], 63.5));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (duty, tube(63.5, 2.0));
    let (job, run) = job_with(run);
    let way = nook_core::route::Route::along(nook_core::route::Centreline::Straight);
    (apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way })).unwrap().job, run)
}

fn with(job: &Job, edits: &[Edit]) -> Job {
    edits.iter().fold(job.clone(), |job, edit| apply(&job, edit).unwrap().job)
}

/// The pipe with a joint in its middle.
fn parted(duty: Duty, kind: JointKind) -> (Job, RunId) {
    let (job, run) = straight(duty);
    let leg = job.run(run).unwrap().route.leg_id(0);
    let at = AlongAnchor { leg, from: LegEnd::Start, mm: AlongLeg::new(288.0).unwrap() };
    (with(&job, &[Edit::Join(JoinEdit::AddJoint { run, at, kind })]), run)
}

fn findings(job: &Job, run: RunId, kind: FindingKind) -> Vec<Finding> {
    workup(job, run).unwrap().findings.into_iter().filter(|one| one.kind == kind).collect()
}

#[test]
fn kinds_are_as_the_table_has_them() {
    let give = |angle, offset, axial| Give { angle, offset, axial };
    // give; straight on each tube; taken of the centre line; out all round; out at its clock; bar; degrees.
    type Row = (JointKind, Give, f64, Option<f64>, f64, Option<f64>, Option<f64>, Option<f64>);
    let rows: [Row; 8] = [
        (JointKind::Coupler, give(2.0, 2.0, 3.0), 0.0, None, 12.0, Some(18.0), Some(2.5), Some(180.0)),
        (JointKind::Hump, give(6.0, 6.0, 6.0), 0.0, None, 12.0, Some(18.0), Some(2.0), Some(180.0)),
        (JointKind::VBand, Give::NONE, 15.0, Some(12.0), 16.0, Some(30.0), Some(3.0), None),
        (JointKind::VBandSeal, give(0.5, 0.0, 0.0), 15.0, Some(14.0), 16.0, Some(30.0), Some(3.0), Some(150.0)),
        (JointKind::Sleeve, give(1.5, 2.5, 4.0), 20.0, Some(6.0), 12.0, Some(20.0), Some(4.0), Some(150.0)),
        (JointKind::RigidClamp, Give::NONE, 20.0, Some(3.0), 14.0, Some(20.0), Some(6.0), Some(150.0)),
        (JointKind::Flange, Give::NONE, 20.0, Some(20.0), 22.0, None, None, None),
        (JointKind::Bellows, give(6.0, 10.0, 10.0), 20.0, Some(100.0), 63.5 * 0.15, None, None, Some(900.0)),
    ];
    for (kind, gives, straight, takes, out, screw, bar, celsius) in rows {
        let spec = JointSpec::usual(kind, 63.5);
        assert_eq!((spec.give, spec.straight, spec.takes), (gives, straight, takes), "{kind:?}");
        assert!((spec.stands_out(kind) - out).abs() < 1e-9, "{kind:?}");
        assert_eq!((spec.screw.map(|screw| screw.out), spec.bar, spec.celsius), (screw, bar, celsius), "{kind:?}");
    }
    // A hose bears less the wider it is, and no more the thinner.
    assert!((JointSpec::usual(JointKind::Coupler, 127.0).bar.unwrap() - 1.25).abs() < 1e-9);
    assert!((JointSpec::usual(JointKind::Coupler, 38.1).bar.unwrap() - 2.5).abs() < 1e-9);
}

#[test]
fn a_metal_joint_takes_its_length_and_its_ferrules_of_the_straight() {
    let (job, run) = parted(Duty::ChargeCold, JointKind::VBand);
    let told = workup(&job, run).unwrap();
    let joint = &told.joints[0];
    assert_eq!((joint.gap.mm(), joint.straight_needed.mm(), joint.hose.as_ref()), (12.0, 15.0, None));
    // Two pieces of tube, and the flanges between them: sawn and assembled they reach from hose to hose.
    let sawn: f64 = told.pieces.iter().map(|piece| piece.centre.mm()).sum();
    assert!((sawn + 12.0 - (600.0 - 2.0 * 6.0)).abs() < 1e-6, "{sawn}");
    assert_eq!(told.sections.len(), 2);
}

#[test]
fn what_a_joint_does_not_bear_is_told_and_what_it_bears_is_not() {
    let hot = |kind| parted(Duty::ChargeHot, kind);
    let cold = |kind| parted(Duty::ChargeCold, kind);
    for (soft, told) in [
        (JointKind::VBandSeal, true),
        (JointKind::Sleeve, true),
        (JointKind::RigidClamp, true),
        (JointKind::VBand, false),
        (JointKind::Coupler, false),
    ] {
        let (job, run) = hot(soft);
        // 1.5 bar at 70 % from air of 40 degrees: 173 degrees.
        let found = findings(&job, run, FindingKind::JointTooHot);
        assert_eq!(!found.is_empty(), told, "{soft:?}");
        assert!(found.iter().all(|one| one.severity == Severity::Error && one.value.unwrap() > 150.0));
        let (job, run) = cold(soft);
        assert!(findings(&job, run, FindingKind::JointTooHot).is_empty(), "{soft:?}");
    }
    let (job, run) = cold(JointKind::Coupler);
    let bar = |bar: f64| Edit::Spec(SpecEdit::SetPressure { run, pressure: Pressure::new(bar).ok() });
    assert!(findings(&with(&job, &[bar(2.4)]), run, FindingKind::JointPressure).is_empty());
    // The coupler between, and one at each end.
    assert_eq!(findings(&with(&job, &[bar(2.6)]), run, FindingKind::JointPressure).len(), 3);
    for (kind, told) in [(JointKind::Bellows, true), (JointKind::Slip, true), (JointKind::Flange, false)] {
        let (job, run) = cold(kind);
        assert_eq!(!findings(&job, run, FindingKind::NotForThis).is_empty(), told);
        let (job, run) = parted(Duty::Exhaust, kind);
        assert!(findings(&job, run, FindingKind::NotForThis).is_empty());
    }
}

#[test]
fn a_coupler_is_of_silicone_and_told_where_that_must_not_be() {
    let unfit = |duty, kind| {
        let (job, run) = parted(duty, kind);
        findings(&job, run, FindingKind::HoseUnfit).len()
    };
    assert!(unfit(Duty::Oil, JointKind::Coupler) >= 1 && unfit(Duty::Oil, JointKind::Hump) >= 1);
    assert_eq!(unfit(Duty::Coolant, JointKind::Coupler) + unfit(Duty::ChargeHot, JointKind::Coupler), 0);
    // What bears no exhaust is told to be too hot there, once.
    let (job, run) = parted(Duty::Exhaust, JointKind::Coupler);
    let middle =
        |kind| findings(&job, run, kind).iter().filter(|one| matches!(one.part, PartRef::Joint { .. })).count();
    assert_eq!((middle(FindingKind::HoseUnfit), middle(FindingKind::JointTooHot) > 0), (0, true));
    // Metal carries oil.
    let (job, run) = parted(Duty::Oil, JointKind::VBand);
    let between = job.run(run).unwrap().route.joints().iter().find(|joint| joint.end().is_none()).unwrap().id;
    let of_band = |one: &Finding| one.part == PartRef::Joint { run, joint: between };
    assert!(!findings(&job, run, FindingKind::HoseUnfit).iter().any(of_band));
}

#[test]
fn gaps_have_a_least_and_a_most() {
    let (job, run) = parted(Duty::ChargeCold, JointKind::Hump);
    let joint = workup(&job, run).unwrap().joints[0].joint;
    let gap = |mm: f64| {
        with(&job, &[Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Gap { gap: Gap::new(mm).ok() } })])
    };
    assert_eq!(workup(&job, run).unwrap().joints[0].gap.mm(), 15.0, "its hump");
    assert_eq!(findings(&gap(14.0), run, FindingKind::NarrowGap).len(), 1);
    // The larger of 30 and the bore of 59.5.
    assert!(findings(&gap(59.0), run, FindingKind::WideGap).is_empty());
    assert_eq!(findings(&gap(60.0), run, FindingKind::WideGap).len(), 1);
    // A plain coupler stops at half the bore.
    let of_kind = |kind| Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Kind { kind } });
    let plain = with(&gap(40.0), &[of_kind(JointKind::Coupler)]);
    assert!((workup(&plain, run).unwrap().joints[0].gap.mm() - 40.0).abs() < 1e-9, "a hose still");
    assert_eq!(findings(&plain, run, FindingKind::WideGap).len(), 1);
    let metal = with(&gap(40.0), &[of_kind(JointKind::VBand), of_kind(JointKind::Coupler)]);
    let gap = workup(&metal, run).unwrap().joints[0].gap.mm();
    assert!((gap - 6.0).abs() < 1e-9, "what was chosen of another kind is forgotten");
}

#[test]
fn a_part_says_more_of_itself_than_its_kind() {
    let (job, run) = parted(Duty::ChargeCold, JointKind::Coupler);
    let joint = workup(&job, run).unwrap().joints[0].joint;
    let part = |od: f64| JointPart {
        name: Name::new("two-hump coupler").unwrap(),
        kind: JointKind::Hump,
        od: OutsideDiameter::new(od).ok(),
        give_angle: None,
        give_offset: GiveLength::new(9.0).ok(),
        give_axial: None,
        gap: Gap::new(40.0).ok(),
        straight: None,
        stands_out: None,
        screw_out: None,
        bar: Pressure::new(1.2).ok(),
        celsius: None,
        price: None,
    };
    let taken = |od: f64| {
        with(&job, &[Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Part { part: Some(part(od)) } })])
    };
    let told = workup(&taken(63.5), run).unwrap();
    let figures = &told.joints[0].figures;
    assert_eq!((told.joints[0].kind, told.joints[0].gap.mm()), (JointKind::Hump, 40.0));
    assert_eq!(figures.give, Give { angle: 6.0, offset: 9.0, axial: 6.0 });
    assert_eq!(findings(&taken(63.5), run, FindingKind::JointPressure).len(), 1, "1.5 bar in a part for 1.2");
    assert!(findings(&taken(63.5), run, FindingKind::PartSize).is_empty());
    assert_eq!(findings(&taken(60.3), run, FindingKind::PartSize)[0].severity, Severity::Error);
    // Another kind, and the part is no longer meant.
    let plain = Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Kind { kind: JointKind::Coupler } });
    assert_eq!(workup(&with(&taken(63.5), &[plain]), run).unwrap().joints[0].figures.part, None);
}

#[test]
fn a_plain_port_holds_a_third_and_a_tie_holds() {
    let (job, run) = straight(Duty::ChargeCold);
    // 1.5 bar on 63.5: 475 N, and two clamps over beads hold 900.
    assert!(findings(&job, run, FindingKind::PushedApart).is_empty());
    let mut plain = job.run(run).unwrap().b.clone();
    plain.form = EndForm::Plain;
    let bare = with(&job, &[Edit::Measure(MeasureEdit::SetPort { run, end: End::B, port: plain })]);
    let found = findings(&bare, run, FindingKind::PushedApart);
    assert_eq!(found.len(), 1);
    assert!((found[0].value.unwrap() - 475.038).abs() < 0.01 && (found[0].limit.unwrap() - 300.0).abs() < 1e-9);
    assert!(found[0].remedies.len() >= 2);
    for remedy in &found[0].remedies {
        assert!(
            findings(&with(&bare, std::slice::from_ref(&remedy.edit)), run, FindingKind::PushedApart).is_empty(),
            "{}",
            remedy.label.mm
        );
    }
}

/// A small ball where a hand would be at a joint's latch, in the middle of the pipe, at a clock in degrees.
fn knob(job: &Job, clock: f64) -> Job {
    let far = 63.5 / 2.0 + 10.0 + 45.0;
    // Along x, up is z, and a turn is right-handed about x: from z towards -y.
    let (sin, cos) = clock.to_radians().sin_cos();
    let at = Point::new(300.0, -far * sin, far * cos).unwrap();
    let shape = KeepOutShape::Sphere { centre: at, diameter: 10.0 };
    let (name, kind) = (Name::new(&format!("knob at {clock}")).unwrap(), KeepOutKind::StillMetal);
    with(job, &[Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false })])
}

fn clock_of(job: &Job, run: RunId) -> (f64, f64) {
    let screw = workup(job, run).unwrap().joints[0].figures.screw.clone().unwrap();
    (screw.clock, screw.spare.mm())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    /// Knobs all round but for one clock: the latch turns to that; one more there, and it is an error.
    #[test]
    fn the_latch_turns_to_the_only_clock_that_is_left(open in 0..24_u32) {
        let (mut job, run) = parted(Duty::ChargeCold, JointKind::Sleeve);
        let meant = f64::from(open) * 15.0;
        for k in 2..=22_u32 {
            job = knob(&job, (meant + f64::from(k) * 15.0) % 360.0);
        }
        prop_assert_eq!(clock_of(&job, run).0, meant);
        prop_assert!(clock_of(&job, run).1 > 0.0);
        prop_assert!(findings(&job, run, FindingKind::NotReached).is_empty());
        let shut = knob(&job, meant);
        let found = findings(&shut, run, FindingKind::NotReached);
        prop_assert_eq!(found.len(), 1);
        prop_assert!(found[0].severity == Severity::Error && found[0].against.is_some());
    }
}

#[test]
fn a_latch_that_is_held_stays_and_may_be_let_go() {
    let (job, run) = parted(Duty::ChargeCold, JointKind::Sleeve);
    let joint = workup(&job, run).unwrap().joints[0].joint;
    let hold = |clock: f64| {
        Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Clock { clock: Rotation::new(clock).ok() } })
    };
    let held = knob(&with(&job, &[hold(90.0)]), 90.0);
    assert_eq!(clock_of(&held, run).0, 90.0);
    let found = findings(&held, run, FindingKind::NotReached);
    assert!(found[0].words.mm.contains("held at 90"), "{}", found[0].words.mm);
    let mended = with(&held, std::slice::from_ref(&found[0].remedies[0].edit));
    assert!(findings(&mended, run, FindingKind::NotReached).is_empty());
    assert!((clock_of(&mended, run).0 - 90.0).abs() > 20.0);
}

/// No tool faces what is live: a terminal asks for its own gap from the tool, and a plain bolt beside it does not.
#[test]
fn a_tool_keeps_its_gap_from_a_live_terminal() {
    let (job, run) = parted(Duty::ChargeCold, JointKind::Sleeve);
    let joint = workup(&job, run).unwrap().joints[0].joint;
    let hold = JointChange::Clock { clock: Rotation::new(90.0).ok() };
    let job = with(&job, &[Edit::Join(JoinEdit::ChangeJoint { run, joint, to: hold })]);
    let beside = |kind: KeepOutKind| {
        // 20 mm beyond where the hand ends.
        let at = Point::new(300.0, -(63.5 / 2.0 + 10.0 + 60.0 + 30.0 + 20.0 + 5.0), 0.0).unwrap();
        let shape = KeepOutShape::Sphere { centre: at, diameter: 10.0 };
        let name = Name::new("stud").unwrap();
        with(&job, &[Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false })])
    };
    assert!(findings(&beside(KeepOutKind::StillMetal), run, FindingKind::NotReached).is_empty());
    let live = findings(&beside(KeepOutKind::LiveTerminal), run, FindingKind::NotReached);
    assert!(live[0].words.mm.contains("which is live"), "{}", live[0].words.mm);
}

/// Mistake 6: a rigid clamp on a soft-mounted engine, with nothing else that gives; and one with a coupler at the other end.
#[test]
fn a_rigid_clamp_at_both_ends_of_what_moves_is_told() {
    use nook_core::measure::{MountKind, Mounts};
    let (job, run) = straight(Duty::ChargeCold);
    let mut a = job.run(run).unwrap().a.clone();
    (a.rides, a.form) = (Side::Engine, EndForm::Plain);
    let mut b = job.run(run).unwrap().b.clone();
    b.form = EndForm::Plain;
    let at = |x: f64| Point::new(x, 0.0, -60.0).unwrap();
    let mounts = Mounts {
        kind: MountKind::Firm,
        from: at(-300.0),
        to: at(300.0),
        roll: None,
        overrun: None,
        crank: None,
        shift: None,
    };
    let job = with(
        &job,
        &[
            Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port: a }),
            Edit::Measure(MeasureEdit::SetPort { run, end: End::B, port: b }),
            Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts) }),
            kind(&straight(Duty::ChargeCold).0, run, End::A, JointKind::RigidClamp),
        ],
    );
    assert!(findings(&job, run, FindingKind::Stiff).is_empty(), "the coupler at B gives");
    let clamped = with(&job, &[change(&job, run, End::B, JointChange::Kind { kind: JointKind::RigidClamp })]);
    let found = findings(&clamped, run, FindingKind::Stiff);
    assert_eq!((found.len(), found[0].severity), (1, Severity::Error));
    assert!(found[0].words.mm.contains("rigid O-ring clamp"), "{}", found[0].words.mm);
    assert!(!found[0].remedies.is_empty());
    for remedy in &found[0].remedies {
        assert!(findings(&with(&clamped, std::slice::from_ref(&remedy.edit)), run, FindingKind::Stiff).is_empty());
    }
}

/// Mistake 11: a wrapped pipe passes a frame's corner with room for the tube and none for the wrapping. Leaving it bare there is
/// offered, and mends it; a corner further off has nothing to say.
#[test]
fn no_room_for_wrapping_at_a_frames_corner_is_told_and_left_bare() {
    use nook_core::route::{LegId, Stretch};
    use nook_geometry::units::Insulation;
    let (job, run) = straight(Duty::ChargeCold);
    let wrap = Edit::Spec(SpecEdit::SetInsulation { run, insulation: Insulation::new(12.0).ok() });
    let corner = |off: f64| {
        let at = Point::new(300.0, 0.0, 63.5 / 2.0 + off + 5.0).unwrap();
        let shape = KeepOutShape::Sphere { centre: at, diameter: 10.0 };
        let (name, kind) = (Name::new("frame corner").unwrap(), KeepOutKind::StillMetal);
        let add = Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false });
        with(&job, &[wrap.clone(), add])
    };
    // 15 to the bare tube, of which 12 are wrapping: 3 left of 10.
    let tight = corner(15.0);
    let found = findings(&tight, run, FindingKind::TooNear);
    assert!((found[0].value.unwrap() - 3.0).abs() < 0.06, "{:?}", found[0].value);
    let bare =
        found[0].remedies.iter().find(|one| matches!(one.edit, Edit::Spec(SpecEdit::WrapStretch { .. }))).unwrap();
    assert_eq!(bare.label.mm, "Wrap straight 1 5.0 mm thick");
    let mended = with(&tight, std::slice::from_ref(&bare.edit));
    assert!(findings(&mended, run, FindingKind::TooNear).is_empty());
    let told = workup(&mended, run).unwrap();
    assert_eq!((told.straights[0].wrapped.mm(), told.straights[0].wrapped_chosen), (5.0, true));
    assert!(findings(&corner(23.0), run, FindingKind::TooNear).is_empty());
    // What is said of one stretch goes when nothing is said of it.
    let again =
        Edit::Spec(SpecEdit::WrapStretch { run, stretch: Stretch::Leg { leg: LegId::FROM_A }, insulation: None });
    assert_eq!(workup(&with(&mended, &[again]), run).unwrap().straights[0].wrapped.mm(), 12.0);
    let gone = Stretch::Bend { bend: nook_core::route::BendId(77) };
    let edit = Edit::Spec(SpecEdit::WrapStretch { run, stretch: gone, insulation: None });
    assert!(apply(&tight, &edit).unwrap_err().to_string().contains("no such straight or bend"));
}

//! Seats, gaps, hoses and size matches against the tables they come from.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::by_place::change;
use crate::support::{draft, job_with, port, tube};
use nook_core::apply;
use nook_core::edit::JointChange;
use nook_core::join::{GapReason, JointKind, SizeMatch, usual_kind};
use nook_core::measure::{End, EndForm, Port, Side};
use nook_core::route::{Needs, RunDraft};
use nook_core::stock::Duty;
use nook_geometry::units::{Gap, Seat};
use nook_geometry::{Direction, Point};

fn riding(od: f64, rides: Side) -> Port {
    Port { rides, ..port([0.0; 3], [1.0, 0.0, 0.0], od) }
}

/// What the joint at A needs, on tube of `od` mm, after it was changed.
fn needs(duty: Duty, a: &Port, b: &Port, od: f64, changes: &[JointChange]) -> Needs {
    let b =
        Port { at: Point::new(700.0, 0.0, 0.0).unwrap(), out: Direction::new(-1.0, 0.0, 0.0).unwrap(), ..b.clone() };
    let (mut job, run) = job_with(RunDraft { duty, tube: tube(od, 1.5), ..draft(a.clone(), b) });
    for to in [JointChange::Kind { kind: JointKind::Coupler }].iter().chain(changes) {
        job = apply(&job, &change(&job, run, End::A, to.clone())).unwrap().job;
    }
    job.run(run).unwrap().needs(End::A)
}

const METAL: JointChange = JointChange::Kind { kind: JointKind::Metal };

#[test]
fn coolant_seats_grow_in_three_steps_and_charge_seats_with_the_diameter() {
    for (duty, od, seat) in [
        (Duty::Coolant, 19.05, 25.0),
        (Duty::Coolant, 25.4, 25.0),
        (Duty::Coolant, 31.75, 30.0),
        (Duty::Coolant, 38.1, 30.0),
        (Duty::Coolant, 38.11, 35.0),
        (Duty::ChargeHot, 50.8, 32.0),
        (Duty::ChargeHot, 64.0, 32.0),
        (Duty::ChargeCold, 76.2, 38.1),
        (Duty::Intake, 101.6, 50.8),
    ] {
        let same = riding(od, Side::Body);
        let needs = needs(duty, &same, &same, od, &[]);
        assert_eq!(needs.seats, [seat; 2], "{duty:?} {od}");
        assert_eq!(needs.straights, [seat + 6.0; 2], "the bead stands 6 mm from the end");
    }
}

#[test]
fn the_gap_follows_what_the_ports_ride_on_until_somebody_says() {
    let (engine, body) = (riding(63.5, Side::Engine), riding(63.5, Side::Body));
    let gap = |a: &Port, b: &Port, od: f64, changes: &[JointChange]| {
        let needs = needs(Duty::ChargeHot, a, b, od, changes);
        (needs.gap, needs.reason)
    };
    assert_eq!(gap(&engine, &engine, 63.5, &[]), (6.0, GapReason::OneBody));
    assert_eq!(gap(&engine, &body, 63.5, &[]), (12.0, GapReason::AcrossMounts));
    assert_eq!(gap(&body, &engine, 63.5, &[]), (12.0, GapReason::AcrossMounts));
    let chosen = JointChange::Gap { gap: Gap::new(20.0).ok() };
    assert_eq!(gap(&engine, &body, 63.5, std::slice::from_ref(&chosen)), (20.0, GapReason::Chosen));
    assert_eq!(gap(&engine, &body, 63.5, &[chosen, METAL]), (0.0, GapReason::Metal));
    let reducer = JointChange::Kind { kind: JointKind::Reducer };
    let (gap, reason) = gap(&riding(50.8, Side::Engine), &body, 76.2, &[reducer]);
    assert!((gap - 25.4).abs() < 1e-9);
    assert_eq!(reason, GapReason::Taper);
}

#[test]
fn a_hose_is_its_gap_and_a_seat_on_each_side() {
    let (this, other) = (riding(76.2, Side::Engine), riding(76.2, Side::Body));
    let hose = needs(Duty::ChargeHot, &this, &other, 76.2, &[]).hose().unwrap();
    assert!((hose - (12.0 + 2.0 * 38.1)).abs() < 1e-9);
    // Over a 34 mm neck and 38.1 mm tube, both seats are those of coolant between 25.4 and 38.1.
    let neck = riding(34.0, Side::Body);
    assert_eq!(needs(Duty::Coolant, &neck, &neck, 38.1, &[]).hose(), Some(6.0 + 30.0 + 30.0));
    let long = JointChange::Seat { seat: Seat::new(45.0).ok() };
    assert_eq!(needs(Duty::Coolant, &neck, &neck, 38.1, &[long]).hose(), Some(6.0 + 45.0 + 30.0));
    let metal = needs(Duty::Exhaust, &this, &other, 76.2, &[METAL]);
    assert_eq!((metal.hose(), metal.straights), (None, [0.0; 2]));
}

#[test]
fn sizes_match_within_half_a_millimetre_and_stretch_to_two() {
    for (one, other, want) in [
        (63.5, 63.0, SizeMatch::Good),
        (63.5, 62.9, SizeMatch::Stretch),
        (38.1, 36.1, SizeMatch::Stretch),
        (38.1, 36.0, SizeMatch::Reducer),
        (70.0, 69.85, SizeMatch::Good),
        (101.6, 100.0, SizeMatch::Stretch),
        (48.26, 38.1, SizeMatch::Reducer),
    ] {
        assert_eq!(SizeMatch::of(one, other), want, "{one} {other}");
        assert_eq!(SizeMatch::of(other, one), want, "either way round");
    }
}

#[test]
fn the_usual_joint_is_a_hose_only_where_a_hose_can_go() {
    let plain = riding(63.5, Side::Body);
    let flanged = Port { form: EndForm::Flanged, ..plain.clone() };
    assert_eq!(usual_kind(Duty::ChargeHot, &plain, 63.5), JointKind::Coupler);
    assert_eq!(usual_kind(Duty::ChargeHot, &plain, 50.8), JointKind::Reducer);
    assert_eq!(usual_kind(Duty::ChargeHot, &flanged, 63.5), JointKind::Metal);
    assert_eq!(usual_kind(Duty::Exhaust, &plain, 63.5), JointKind::Metal);
}

//! Seats, gaps, hoses and size matches against the tables they come from.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::port;
use nook_core::join::{EndJoint, GapReason, JointKind, SizeMatch};
use nook_core::measure::{EndForm, Port, Side};
use nook_core::stock::Duty;
use nook_geometry::units::{Gap, Seat};

fn riding(od: f64, rides: Side) -> Port {
    Port { rides, ..port([0.0; 3], [1.0, 0.0, 0.0], od) }
}

const COUPLER: EndJoint = EndJoint { kind: JointKind::Coupler, gap: None, seat: None };

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
        assert_eq!(COUPLER.seat(duty, od), seat, "{duty:?} {od}");
        assert_eq!(COUPLER.straight_needed(duty, od), seat + 6.0, "the bead stands 6 mm from the end");
    }
}

#[test]
fn the_gap_follows_what_the_ports_ride_on_until_somebody_says() {
    let (engine, body) = (riding(63.5, Side::Engine), riding(63.5, Side::Body));
    assert_eq!(COUPLER.gap(&engine, &engine, 63.5), (6.0, GapReason::OneBody));
    assert_eq!(COUPLER.gap(&engine, &body, 63.5), (12.0, GapReason::AcrossMounts));
    assert_eq!(COUPLER.gap(&body, &engine, 63.5), (12.0, GapReason::AcrossMounts));
    let chosen = EndJoint { gap: Some(Gap::new(20.0).unwrap()), ..COUPLER };
    assert_eq!(chosen.gap(&engine, &body, 63.5), (20.0, GapReason::Chosen));
    let metal = EndJoint { kind: JointKind::Metal, ..chosen };
    assert_eq!(metal.gap(&engine, &body, 63.5), (0.0, GapReason::Metal));
    let reducer = EndJoint { kind: JointKind::Reducer, ..COUPLER };
    let (gap, reason) = reducer.gap(&riding(50.8, Side::Engine), &body, 76.2);
    assert!((gap - 25.4).abs() < 1e-9);
    assert_eq!(reason, GapReason::Taper);
}

#[test]
fn a_hose_is_its_gap_and_a_seat_on_each_side() {
    let (this, other) = (riding(76.2, Side::Engine), riding(76.2, Side::Body));
    let hose = COUPLER.hose_length(Duty::ChargeHot, &this, &other, 76.2).unwrap();
    assert!((hose - (12.0 + 2.0 * 38.1)).abs() < 1e-9);
    // Over a 34 mm neck and 38.1 mm tube, both seats are those of coolant between 25.4 and 38.1.
    let neck = riding(34.0, Side::Body);
    assert_eq!(COUPLER.hose_length(Duty::Coolant, &neck, &neck, 38.1), Some(6.0 + 30.0 + 30.0));
    let long = EndJoint { seat: Some(Seat::new(45.0).unwrap()), ..COUPLER };
    assert_eq!(long.hose_length(Duty::Coolant, &neck, &neck, 38.1), Some(6.0 + 45.0 + 30.0));
    let metal = EndJoint { kind: JointKind::Metal, ..COUPLER };
    assert_eq!(metal.hose_length(Duty::Exhaust, &this, &other, 76.2), None);
    assert_eq!(metal.straight_needed(Duty::Exhaust, 76.2), 0.0);
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
    assert_eq!(EndJoint::usual(Duty::ChargeHot, &plain, 63.5).kind, JointKind::Coupler);
    assert_eq!(EndJoint::usual(Duty::ChargeHot, &plain, 50.8).kind, JointKind::Reducer);
    assert_eq!(EndJoint::usual(Duty::ChargeHot, &flanged, 63.5).kind, JointKind::Metal);
    assert_eq!(EndJoint::usual(Duty::Exhaust, &plain, 63.5).kind, JointKind::Metal);
}

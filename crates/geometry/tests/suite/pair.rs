//! The least gap of two things over their movement, against dense sampling.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{Isometry3, Point3, Unit, UnitQuaternion};
use nook_geometry::Vector;
use nook_geometry::clearance::{Convex, Movement, Obstacle, Part, Rides, Solid, TOLERANCE, Turning};
use proptest::prelude::*;

fn unit() -> impl Strategy<Value = Unit<Vector>> {
    prop::array::uniform3(-1.0..1.0_f64)
        .prop_filter("a length", |v| Vector::from(*v).norm() > 0.1)
        .prop_map(|v| Unit::new_normalize(Vector::from(v)))
}

fn at(span: f64) -> impl Strategy<Value = Point3<f64>> {
    prop::array::uniform3(-span..span).prop_map(Point3::from)
}

fn room() -> impl Strategy<Value = Convex> {
    let sides = prop::array::uniform3(5.0..120.0_f64);
    prop_oneof![
        (at(250.0), 5.0..80.0_f64).prop_map(|(centre, radius)| Convex::Ball { centre, radius }),
        (at(250.0), unit(), 5.0..90.0_f64, 5.0..60.0_f64).prop_map(|(middle, axis, half, radius)| Convex::Drum {
            middle,
            axis: axis.into_inner(),
            half,
            radius
        }),
        (at(250.0), unit(), 0.0..3.0_f64, sides).prop_map(|(middle, axis, turn, half)| {
            let turn = UnitQuaternion::from_axis_angle(&axis, turn);
            Convex::Block {
                inward: Isometry3::from_parts(middle.coords.into(), turn).inverse(),
                half: Vector::from(half),
            }
        }),
    ]
}

fn turning(most: f64) -> impl Strategy<Value = Turning> {
    (at(200.0), unit(), -most..0.0_f64, 0.0..most).prop_map(|(pivot, axis, from, to)| Turning { pivot, axis, from, to })
}

fn obstacle(room: Convex, swing: Option<Turning>, rides: Rides) -> Obstacle {
    Obstacle::new(0.0, vec![Part::new(Solid::Convex(room), swing, rides)])
}

/// The least gap of rooms carried to many turns, each turn by itself: nothing of the search is used.
fn sampled(rooms: [Convex; 2], roll: Option<Turning>, swings: [Option<Turning>; 2], shift: f64) -> f64 {
    const STEPS: u32 = 24;
    let each = |turning: Option<Turning>| -> Vec<Isometry3<f64>> {
        let Some(turning) = turning else { return vec![Isometry3::identity()] };
        let share = |k: u32| turning.from + (turning.to - turning.from) * f64::from(k) / f64::from(STEPS);
        (0..=STEPS).map(|k| turning.at(share(k))).collect()
    };
    let mut least = f64::INFINITY;
    for roll in each(roll) {
        for one in each(swings[0]) {
            let first = obstacle(rooms[0].carried(&(roll * one)), None, Rides::Body);
            for two in each(swings[1]) {
                let second = obstacle(rooms[1].carried(&two), None, Rides::Body);
                least = least.min(first.closest(&second).unwrap().gap - shift);
            }
        }
    }
    least
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]
    #[test]
    fn what_is_told_is_never_more_than_a_sample_and_is_reached(
        rooms in (room(), room()),
        roll in prop::option::of(turning(0.08)),
        swings in (prop::option::of(turning(1.0)), prop::option::of(turning(0.5))),
        shift in 0.0..6.0_f64,
    ) {
        let rooms = [rooms.0, rooms.1];
        let swings = [swings.0, swings.1];
        let movement = roll.map(|roll| Movement::of_engine(roll, shift));
        let shift = if roll.is_some() { shift } else { 0.0 };
        let one = obstacle(rooms[0], swings[0], Rides::Engine);
        let two = obstacle(rooms[1], swings[1], Rides::Body);
        let truth = sampled(rooms, roll, swings, shift);
        let found = one.least_gap(&two, movement.as_ref(), f64::INFINITY).unwrap();
        prop_assert!(found.gap <= truth + if truth < 0.0 { 1.0 + TOLERANCE } else { TOLERANCE }, "{found:?} against {truth}");
        // Where it is told to be, it is: the two carried there are as near.
        let pose = |turning: Option<Turning>, turn: f64| turning.map(|t| t.at(turn)).unwrap_or_default();
        let first = pose(roll, found.roll) * pose(swings[0], found.swung[0].unwrap_or(0.0));
        let second = pose(swings[1], found.swung[1].unwrap_or(0.0));
        let there = obstacle(rooms[0].carried(&first), None, Rides::Body)
            .closest(&obstacle(rooms[1].carried(&second), None, Rides::Body)).unwrap().gap - shift;
        prop_assert!(found.gap <= there + 1e-6, "{found:?}, {there}");
        // Swapped it is the same to the tolerance, whichever is taken to stand still.
        let swapped = two.least_gap(&one, movement.as_ref(), f64::INFINITY).unwrap();
        if found.gap > 0.0 {
            // Where a search runs out of cells it tells a bound below the truth, and the other way round it may not.
            prop_assert!(swapped.gap <= truth + TOLERANCE, "{} against {truth}", swapped.gap);
            let reached = there - found.gap < 1e-6;
            prop_assert!(!reached || swapped.gap < found.gap + 2.0 * TOLERANCE, "{} and {}", swapped.gap, found.gap);
            prop_assert!(reached || found.gap < truth, "the proven bound is below what was seen");
            prop_assert!(one.least_gap(&two, movement.as_ref(), found.gap - 2.0 * TOLERANCE).is_none());
        }
    }
}

//! Directions, the clock and its zero.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::any_direction;
use nook_geometry::{Direction, Point, Travel, Vector};
use proptest::prelude::*;

fn clock(along: [f64; 3]) -> [f64; 3] {
    let origin = Point::new(0.0, 0.0, 0.0).unwrap();
    let clock = Travel::start(origin, along.try_into().unwrap()).clock();
    clock.into_inner().into()
}

#[test]
fn the_clock_starts_at_up_and_at_forward_where_travel_is_plumb() {
    assert_eq!(clock([1.0, 0.0, 0.0]), [0.0, 0.0, 1.0]);
    assert_eq!(clock([0.0, -1.0, 0.0]), [0.0, 0.0, 1.0]);
    assert_eq!(clock([0.0, 0.0, 1.0]), [1.0, 0.0, 0.0]);
    assert_eq!(clock([0.0, 0.0, -1.0]), [1.0, 0.0, 0.0]);
    // 1.1 degrees off plumb still knows where up is; 0.9 degrees does not.
    let leaning = |degrees: f64| [0.0, degrees.to_radians().sin(), degrees.to_radians().cos()];
    assert!(clock(leaning(1.1))[1] < -0.99);
    assert!(clock(leaning(0.9))[0] > 0.99);
}

#[test]
fn a_rotation_is_right_handed_about_travel() {
    // Going forward with up at 12 o'clock, a quarter turn clockwise points right, which is -y.
    let origin = Point::new(0.0, 0.0, 0.0).unwrap();
    let travel = Travel::start(origin, Direction::new(1.0, 0.0, 0.0).unwrap());
    let right = travel.at_clock(90_f64.to_radians()).into_inner();
    assert!((right - Vector::new(0.0, -1.0, 0.0)).norm() < 1e-12, "{right}");
}

#[test]
fn what_points_nowhere_is_no_direction() {
    for bad in [[0.0; 3], [1e-10, 0.0, 0.0], [f64::NAN, 0.0, 1.0], [f64::INFINITY, 0.0, 0.0]] {
        assert!(Direction::try_from(bad).is_err(), "{bad:?}");
    }
    assert!(Direction::from_gauge(f64::NAN, 0.0).is_err());
}

#[test]
fn a_direction_is_read_from_a_gauge_or_from_components_of_any_length() {
    let read = |text: &str| serde_json::from_str::<Direction>(text);
    assert_eq!(read("[0, 7, 0]").unwrap().to_array(), [0.0, 1.0, 0.0]);
    let gauge = read(r#"{"heading": 90, "pitch": 0}"#).unwrap();
    assert!((gauge.vector() - Vector::new(0.0, 1.0, 0.0)).norm() < 1e-12);
    assert!(read("[0, 0, 0]").is_err() && read("[1, 0]").is_err() && read(r#"{"heading": 90}"#).is_err());
}

proptest! {
    #[test]
    fn a_gauge_reads_back_what_it_set(heading in -179.0..179.0_f64, pitch in -89.0..89.0_f64) {
        let direction = Direction::from_gauge(heading, pitch).unwrap();
        prop_assert!((direction.heading() - heading).abs() < 1e-9);
        prop_assert!((direction.pitch() - pitch).abs() < 1e-9);
    }

    #[test]
    fn a_written_direction_reads_back_to_the_bit(direction in any_direction()) {
        let text = serde_json::to_string(&direction).unwrap();
        prop_assert_eq!(serde_json::from_str::<Direction>(&text).unwrap(), direction);
    }

    #[test]
    fn the_frame_stays_square_through_any_walk(
        along in any_direction(),
        turns in prop::collection::vec((-3.1..3.1_f64, 0.05..2.5_f64), 1..20),
    ) {
        let mut travel = Travel::start(Point::new(0.0, 0.0, 0.0).unwrap(), along);
        for (rotation, angle) in turns {
            travel = travel.clocked(rotation).bend(80.0, angle);
            prop_assert!(travel.clock().dot(&travel.along.vector()).abs() < 1e-12);
            let seen = travel.rotation_towards(travel.at_clock(rotation).into_inner()).unwrap();
            prop_assert!((seen - rotation).abs() < 1e-9);
        }
        prop_assert_eq!(travel.rotation_towards(travel.along.vector()), None);
    }
}

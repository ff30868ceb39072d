//! Random places and directions.

#![allow(unreachable_pub, clippy::unwrap_used, reason = "only tests use it")]

use nook_geometry::{Direction, Point};
use proptest::prelude::*;

pub fn any_direction() -> impl Strategy<Value = Direction> {
    (-180.0..180.0_f64, -90.0..90.0_f64).prop_map(|(heading, pitch)| Direction::from_gauge(heading, pitch).unwrap())
}

pub fn any_point(reach: f64) -> impl Strategy<Value = Point> {
    (-reach..reach, -reach..reach, -reach..reach).prop_map(|(x, y, z)| Point::new(x, y, z).unwrap())
}

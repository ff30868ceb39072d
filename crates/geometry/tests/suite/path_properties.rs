//! Walking a path and telling its length-rotation-angle table are inverse.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::{any_direction, any_point};
use nook_geometry::{Arc, Mouth, Path, PathStep};
use proptest::prelude::*;

fn any_leg() -> impl Strategy<Value = PathStep> {
    (5.0..400.0_f64, 20.0..200.0_f64, 2.0..150.0_f64, -179.0..179.0_f64).prop_map(
        |(straight, radius, angle, rotation)| PathStep {
            straight,
            bend: Arc { radius, angle: angle.to_radians(), rotation: rotation.to_radians() },
        },
    )
}

proptest! {
    #[test]
    fn walking_and_telling_are_inverse(
        start in any_point(2000.0),
        leaving in any_direction(),
        legs in prop::collection::vec(any_leg(), 1..9),
        last in 5.0..300.0_f64,
    ) {
        let walked = Path::new(start, leaving, legs, last);
        let arrival = walked.arrival();
        let end = nook_geometry::Point::try_from(<[f64; 3]>::from(arrival.at.coords)).unwrap();
        let vertices: Vec<_> =
            walked.vertices().into_iter().zip(walked.legs()).map(|(v, leg)| (v, leg.bend.radius)).collect();
        let from = Mouth { at: start, along: leaving };
        let told = Path::joining(from, &vertices, Mouth { at: end, along: arrival.along }).unwrap();

        prop_assert_eq!(told.legs().len(), walked.legs().len());
        for (told, walked) in told.legs().iter().zip(walked.legs()) {
            prop_assert!((told.straight - walked.straight).abs() < 1e-6);
            prop_assert!((told.bend.angle - walked.bend.angle).abs() < 1e-8);
            let off = told.bend.rotation - walked.bend.rotation;
            prop_assert!(off.sin().atan2(off.cos()).abs() < 1e-7, "rotation off by {}", off);
        }
        prop_assert!((told.last() - walked.last()).abs() < 1e-6);
    }

    /// What is between two stations ends where walking there by themselves ends, and the parts make up the whole.
    #[test]
    fn a_path_is_the_sum_of_its_parts(
        start in any_point(2000.0),
        leaving in any_direction(),
        legs in prop::collection::vec(any_leg(), 1..6),
        last in 5.0..300.0_f64,
        leg in any::<prop::sample::Index>(),
        share in 0.0..1.0_f64,
    ) {
        let whole = Path::new(start, leaving, legs.clone(), last);
        let leg = leg.index(legs.len() + 1);
        let before: f64 = legs[..leg].iter().map(|step| step.straight + step.bend.length()).sum();
        let straight = legs.get(leg).map_or(last, |step| step.straight);
        let at = before + straight * share;
        let [first, second] = [[0.0, at], [at, whole.length()]].map(|range| whole.between(range).unwrap());
        prop_assert!((first.length() + second.length() - whole.length()).abs() < 1e-6);
        let meets = first.arrival();
        prop_assert!((meets.at - second.setting_out().at).norm() < 1e-6);
        prop_assert!(meets.along.angle(second.setting_out().along) < 1e-7);
        let (end, told) = (whole.arrival(), second.arrival());
        prop_assert!((end.at - told.at).norm() < 1e-5 && end.along.angle(told.along) < 1e-7);
        // A bend is no place to part it.
        if let Some(step) = legs.first() {
            prop_assert!(whole.between([0.0, step.straight + step.bend.length() / 2.0]).is_none());
        }
    }

    /// An independent walk: every arc cut into short chords, each turned by Rodrigues' formula.
    #[test]
    fn an_arc_ends_where_many_small_turns_end(
        start in any_point(500.0),
        leaving in any_direction(),
        leg in any_leg(),
    ) {
        let path = Path::new(start, leaving, vec![leg], 0.0);
        let setting_in = path.setting_out().straight(leg.straight).clocked(leg.bend.rotation);
        let axis = setting_in.along.vector().cross(&setting_in.clock());
        let steps = 4000;
        let (mut at, mut along) = (setting_in.at, setting_in.along.vector());
        let part = leg.bend.angle / f64::from(steps);
        for _ in 0..steps {
            let half = along * (part / 2.0).cos() + axis.cross(&along) * (part / 2.0).sin();
            at += half * (2.0 * leg.bend.radius * (part / 2.0).sin());
            along = along * part.cos() + axis.cross(&along) * part.sin();
        }
        let arrival = path.arrival();
        prop_assert!((arrival.at - at).norm() < 1e-6);
        prop_assert!((arrival.along.vector() - along).norm() < 1e-9);
    }
}

//! A place found from readings: exact readings find it again, order and frame do not matter, one more exact reading
//! never worsens it, a wrong reading is named, and where two places fit both are offered.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::{Isometry3, Matrix3, Point3, UnitQuaternion, Vector3};
use nook_core::measure::estimate::{
    AnchorShape, Basis, Kind, LeverArm, Observation, OutlierTest, Pose, estimate_pose, within_95,
};
use proptest::prelude::*;

fn tape(index: usize, from: Point3<f64>, to: LeverArm, mm: f64) -> Observation {
    Observation::of(index, 1.5, Kind::Tape { from, spread: Matrix3::zeros(), rim: None, to, mm })
}

fn level(index: usize, from: Point3<f64>, mm: f64) -> Observation {
    let to = LeverArm::Fixed(Vector3::zeros());
    Observation::of(index, 2.0, Kind::Offset { from, spread: Matrix3::zeros(), to, axis: 2, mm })
}

fn at_centre() -> LeverArm {
    LeverArm::Fixed(Vector3::zeros())
}

fn point(reach: f64) -> impl Strategy<Value = Point3<f64>> {
    (-reach..reach, -reach..reach, -reach..reach).prop_map(|(x, y, z)| Point3::new(x, y, z))
}

/// Six anchors round a bay, well spread, moved a little at random.
fn anchors() -> impl Strategy<Value = Vec<Point3<f64>>> {
    let spots = [
        [-600.0, -650.0, 250.0],
        [-600.0, 650.0, 300.0],
        [650.0, -600.0, -150.0],
        [650.0, 600.0, 350.0],
        [0.0, 650.0, -350.0],
        [50.0, -650.0, 450.0],
    ];
    prop::collection::vec(point(90.0), 6)
        .prop_map(move |by| spots.iter().zip(by).map(|(spot, by)| Point3::from(*spot) + by.coords).collect())
}

fn way() -> impl Strategy<Value = nalgebra::Unit<Vector3<f64>>> {
    crate::support::any_direction().prop_map(|way| nalgebra::Unit::new_normalize(Vector3::from(way.to_array())))
}

fn taped(anchors: &[Point3<f64>], at: Point3<f64>) -> Vec<Observation> {
    anchors.iter().enumerate().map(|(i, from)| tape(i, *from, at_centre(), (at - from).norm())).collect()
}

fn bare(at: Point3<f64>) -> Pose {
    Pose { at, out: None }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    #[test]
    fn exact_tapes_find_the_place_again(anchors in anchors(), at in point(420.0), off in point(150.0)) {
        let found = estimate_pose(bare(at + off.coords), &taped(&anchors, at));
        prop_assert_eq!(found.place, Basis::Fixed);
        prop_assert!((found.pose.at - at).norm() < 1e-6, "{} from {}", found.pose.at, at);
        prop_assert_eq!(found.outlier_test(), &OutlierTest::Nothing);
        prop_assert!(found.readings.iter().all(|reading| reading.off.abs() < 1e-6));
    }

    #[test]
    fn order_does_not_matter(anchors in anchors(), at in point(420.0), noise in prop::collection::vec(-3.0..3.0_f64, 6)) {
        let mut sights = taped(&anchors, at);
        for (sight, noise) in sights.iter_mut().zip(&noise) {
            if let Kind::Tape { mm, .. } = &mut sight.kind { *mm += noise; }
        }
        let one = estimate_pose(bare(at), &sights);
        sights.reverse();
        let other = estimate_pose(bare(at), &sights);
        prop_assert!((one.pose.at - other.pose.at).norm() < 1e-6);
        prop_assert!((one.spread - other.spread).norm() < 1e-6);
    }

    #[test]
    fn the_frame_does_not_matter(
        anchors in anchors(), at in point(420.0), noise in prop::collection::vec(-3.0..3.0_f64, 6),
        shift in point(2000.0), turn in point(3.0),
    ) {
        let frame = Isometry3::new(shift.coords, turn.coords);
        let measured = |carry: &dyn Fn(Point3<f64>) -> Point3<f64>| -> Vec<Observation> {
            anchors.iter().zip(&noise).enumerate()
                .map(|(i, (from, noise))| tape(i, carry(*from), at_centre(), (at - from).norm() + noise))
                .collect()
        };
        let here = estimate_pose(bare(at), &measured(&|p| p));
        let there = estimate_pose(bare(frame * at), &measured(&|p| frame * p));
        prop_assert!((frame * here.pose.at - there.pose.at).norm() < 1e-5);
        let turned: Matrix3<f64> = frame.rotation.to_rotation_matrix().into_inner();
        prop_assert!((turned * here.spread * turned.transpose() - there.spread).norm() < 1e-5);
    }

    #[test]
    fn one_more_exact_reading_never_worsens_the_fit(anchors in anchors(), at in point(420.0), extra in point(700.0)) {
        let mut sights = taped(&anchors[..4], at);
        prop_assume!((extra - at).norm() > 20.0);
        let before = estimate_pose(bare(at), &sights);
        sights.push(tape(4, extra, at_centre(), (at - extra).norm()));
        let after = estimate_pose(bare(at), &sights);
        prop_assert!(after.worst() <= before.worst() + 1e-9);
        // And what was foretold of it came true.
        let told = before.with(&sights[4]).unwrap();
        let then = within_95(after.spread);
        prop_assert!((told.then - then).abs() < 1e-3 * then, "{told:?} {then}");
    }

    #[test]
    fn a_wrong_tape_is_named_with_its_error(
        anchors in anchors(), at in point(350.0), wrong in 0..6_usize, by in 25.0..80.0_f64,
        noise in prop::collection::vec(-1.2..1.2_f64, 6),
    ) {
        let mut sights = taped(&anchors, at);
        for (sight, noise) in sights.iter_mut().zip(&noise) {
            if let Kind::Tape { mm, .. } = &mut sight.kind { *mm += noise; }
        }
        sights.push(level(6, Point3::origin(), at.z));
        sights.push(tape(7, Point3::new(300.0, 0.0, 700.0), at_centre(), (at - Point3::new(300.0, 0.0, 700.0)).norm()));
        if let Kind::Tape { mm, .. } = &mut sights[wrong].kind { *mm += by; }
        match estimate_pose(bare(at), &sights).outlier_test().clone() {
            OutlierTest::Readings { wrong: said, .. } if said.len() == 1 => {
                prop_assert_eq!((said[0].index, said[0].angle), (wrong, false));
                prop_assert!((said[0].by - by).abs() < 12.0, "{} for {}", said[0].by, by);
            }
            // Where geometry lets another reading explain it as well, it is named among those that could be wrong.
            OutlierTest::OneOf { indices } => prop_assert!(indices.contains(&wrong), "{indices:?}"),
            other => prop_assert!(false, "{other:?}"),
        }
    }

    #[test]
    fn readings_within_their_spread_accuse_nobody(
        anchors in anchors(), at in point(350.0), noise in prop::collection::vec(-1.5..1.5_f64, 6),
    ) {
        let mut sights = taped(&anchors, at);
        for (sight, noise) in sights.iter_mut().zip(&noise) {
            if let Kind::Tape { mm, .. } = &mut sight.kind { *mm += noise; }
        }
        let found = estimate_pose(bare(at), &sights);
        prop_assert_eq!(found.outlier_test(), &OutlierTest::Nothing);
    }

    #[test]
    fn tapes_from_one_plane_offer_both_places(at in point(300.0), turn in point(3.0)) {
        prop_assume!(at.z.abs() > 40.0);
        let frame = Isometry3::new(Vector3::zeros(), turn.coords);
        let flat = [[-500.0, -500.0, 0.0], [500.0, -450.0, 0.0], [450.0, 520.0, 0.0], [-480.0, 510.0, 0.0]];
        let flat: Vec<Point3<f64>> = flat.iter().map(|p| frame * Point3::from(*p)).collect();
        let (here, image) = (frame * at, frame * Point3::new(at.x, at.y, -at.z));
        let found = estimate_pose(bare(here), &taped(&flat, here));
        prop_assert_eq!(found.anchors, AnchorShape::InPlane);
        prop_assert!((found.pose.at - here).norm() < 1e-5);
        prop_assert!((found.others[0].at - image).norm() < 1e-5);
        // What was typed says which is meant.
        let other = estimate_pose(bare(image), &taped(&flat, here));
        prop_assert!((other.pose.at - image).norm() < 1e-5);
        // A level settles it, wherever the sum starts.
        let mut settled = taped(&flat, here);
        settled.push(level(4, Point3::origin(), here.z));
        if (here.z - image.z).abs() > 60.0 {
            let found = estimate_pose(bare(image), &settled);
            prop_assert!((found.pose.at - here).norm() < 1e-4);
            prop_assert!(found.others.is_empty());
        }
    }

    #[test]
    fn tapes_from_one_line_fix_nothing_and_say_so(at in point(300.0), turn in point(3.0)) {
        prop_assume!(at.y.hypot(at.z) > 30.0);
        let frame = Isometry3::new(Vector3::zeros(), turn.coords);
        let line: Vec<Point3<f64>> =
            [-600.0, -100.0, 200.0, 550.0].iter().map(|x| frame * Point3::new(*x, 0.0, 0.0)).collect();
        let here = frame * at;
        let found = estimate_pose(bare(here), &taped(&line, here));
        prop_assert_eq!(found.place, Basis::Open);
        prop_assert_eq!(found.anchors, AnchorShape::InLine);
        prop_assert_eq!(found.pose.at, here, "what was typed holds");
        // It is free to go round the line.
        let round = (frame * Vector3::x()).cross(&(frame * at.coords)).normalize();
        prop_assert!(found.loose.unwrap().dot(&round).abs() > 0.99);
    }

    #[test]
    fn a_stick_in_the_mouth_gives_place_and_direction(anchors in anchors(), at in point(350.0), out in way(), off in way()) {
        let mut sights = taped(&anchors, at);
        let mark = at + out.into_inner() * 300.0;
        sights.extend(anchors.iter().enumerate().map(|(i, from)| tape(6 + i, *from, LeverArm::Stick(300.0), (mark - from).norm())));
        // Typed up to some 60 degrees out.
        let rough = nalgebra::Unit::new_normalize(out.into_inner() + off.into_inner() * 0.8);
        let found = estimate_pose(Pose { at, out: Some(rough) }, &sights);
        prop_assert_eq!((found.place, found.aim), (Basis::Fixed, Basis::Fixed));
        prop_assert!((found.pose.at - at).norm() < 1e-5);
        prop_assert!(found.pose.out.unwrap().angle(&out) < 1e-7);
    }

    #[test]
    fn an_angle_gauge_gives_the_direction_whatever_was_typed(out in way(), typed in way()) {
        prop_assume!(out.z.abs() < 0.98);
        let sight = |index, kind| Observation::of(index, 0.5_f64.to_radians(), kind);
        let sights = [sight(0, Kind::Heading(out.y.atan2(out.x))), sight(1, Kind::Pitch(out.z.asin()))];
        let found = estimate_pose(Pose { at: Point3::origin(), out: Some(typed) }, &sights);
        prop_assert_eq!((found.place, found.aim), (Basis::Typed, Basis::Fixed));
        prop_assert!(found.pose.out.unwrap().angle(&out) < 1e-7);
    }

    #[test]
    fn a_direction_held_against_another_turns_round_what_was_typed(to in way(), typed in way()) {
        let sight = Observation::of(0, 0.02, Kind::Parallel(to, 0.0));
        let found = estimate_pose(Pose { at: Point3::origin(), out: Some(typed) }, &[sight]);
        prop_assert!(found.pose.out.unwrap().angle(&to) < 1e-7);
    }
}

#[test]
fn the_spread_is_what_repeated_measuring_shows() {
    // An oracle of another kind: fit many noisy surveys of one place and compare their scatter with what one fit says.
    let anchors: Vec<Point3<f64>> = [
        [-600.0, -650.0, 250.0],
        [-600.0, 650.0, 300.0],
        [650.0, -600.0, -150.0],
        [650.0, 600.0, 350.0],
        [0.0, 650.0, -350.0],
    ]
    .iter()
    .map(|p| Point3::from(*p))
    .collect();
    let at = Point3::new(120.0, -80.0, 60.0);
    let said = estimate_pose(bare(at), &taped(&anchors, at)).spread;
    let mut state = 88_172_645_463_325_252_u64;
    let mut even = || {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        f64::from(u32::try_from(state >> 32).unwrap()) / f64::from(u32::MAX)
    };
    let mut scatter = Matrix3::zeros();
    let rounds = 4000;
    for _ in 0..rounds {
        let mut sights = taped(&anchors, at);
        for sight in &mut sights {
            // Twelve even numbers less six: as good as normal.
            let normal: f64 = (0..12).map(|_| even()).sum::<f64>() - 6.0;
            if let Kind::Tape { mm, .. } = &mut sight.kind {
                *mm += 1.5 * normal;
            }
        }
        let off = estimate_pose(bare(at), &sights).pose.at - at;
        scatter += off * off.transpose() / f64::from(rounds);
    }
    assert!((scatter - said).norm() < 0.08 * said.norm(), "{scatter} beside {said}");
}

#[test]
fn a_part_is_put_where_its_matched_points_are() {
    use nook_core::measure::{MatchError, match_points};
    let pose = Isometry3::from_parts(
        Vector3::new(120.0, -30.0, 410.0).into(),
        UnitQuaternion::from_euler_angles(0.4, -1.1, 2.3),
    );
    let part: Vec<Point3<f64>> = [[0.0, 0.0, 0.0], [200.0, 10.0, 5.0], [20.0, 150.0, -30.0], [-60.0, 40.0, 90.0]]
        .iter()
        .map(|p| Point3::from(*p))
        .collect();
    let pairs: Vec<_> = part.iter().map(|p| (*p, pose * p)).collect();
    let found = match_points(&pairs).unwrap();
    assert!((found.pose.to_homogeneous() - pose.to_homogeneous()).norm() < 1e-9);
    assert!(found.residuals.iter().all(|residual| *residual < 1e-9));
    // A mirror image cannot be turned into place, and its residuals say so.
    let mirrored: Vec<_> = pairs.iter().map(|(p, q)| (Point3::new(p.x, -p.y, p.z), *q)).collect();
    assert!(match_points(&mirrored).unwrap().residuals.iter().any(|residual| *residual > 10.0));
    assert_eq!(match_points(&pairs[..2]).unwrap_err(), MatchError::TooFew { have: 2 });
    let line: Vec<_> =
        [0.0, 50.0, 130.0].iter().map(|x| (Point3::new(*x, 0.0, 0.0), Point3::new(0.0, *x, 0.0))).collect();
    assert_eq!(match_points(&line).unwrap_err(), MatchError::InLine);
}

//! Flange plates from bolt patterns that were measured hole to hole.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use super::support::held::{found, told, with};
use super::support::{draft, job_with, port};
use nalgebra::{Point2, Vector2};
use nook_core::edit::JointChange;
use nook_core::findings::FindingKind;
use nook_core::join::{FlangePlate, NoPlate};
use nook_core::measure::{End, EndForm};
use nook_core::{Edit, Job, JoinEdit, RunId, apply};
use nook_geometry::units::{HoleDiameter, HoleSpacing};
use proptest::prelude::*;

fn spacing(mm: f64) -> HoleSpacing {
    HoleSpacing::new(mm).unwrap()
}

/// A plate of these distances, in mm.
fn plate(sides: &[f64], diagonals: &[f64]) -> FlangePlate {
    let all = |of: &[f64]| of.iter().map(|mm| spacing(*mm)).collect();
    let hole = HoleDiameter::new(8.5).unwrap();
    FlangePlate { sides: all(sides), diagonals: all(diagonals), check: None, bore: None, hole, thickness: None }
}

/// What would be measured of holes, clockwise from the first.
fn measured(holes: &[Point2<f64>]) -> FlangePlate {
    let count = holes.len();
    let apart = |one: usize, other: usize| (holes[one] - holes[other % count]).norm();
    let sides: Vec<f64> = if count == 2 { vec![apart(0, 1)] } else { (0..count).map(|k| apart(k, k + 1)).collect() };
    let diagonals: Vec<f64> = (2..count.saturating_sub(1)).map(|k| apart(0, k)).collect();
    FlangePlate { check: (count > 3).then(|| spacing(apart(1, count - 1))), ..plate(&sides, &diagonals) }
}

/// A pipe of 63.5 mm from a flanged mouth, bolted there by a plate.
fn bolted(plate: FlangePlate) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([500.0, 0.0, 0.0], [-1.0, 0.0, 0.0], 63.5));
    run.a.form = EndForm::Flanged;
    let (job, run) = job_with(run);
    let joint = job.run(run).unwrap().joint(End::A).id;
    let to = JointChange::Plate { plate: Some(plate) };
    (with(&job, &[Edit::Join(JoinEdit::ChangeJoint { run, joint, to })]), run)
}

/// Patterns as they are round a mouth: holes at growing angles, clockwise, each so far out.
fn any_pattern() -> impl Strategy<Value = Vec<Point2<f64>>> {
    prop::collection::vec((45.0..80.0_f64, 0.6..1.4_f64), 2..=8).prop_map(|holes| {
        let whole: f64 = holes.iter().map(|(_, share)| share).sum();
        let mut turned = 0.3_f64;
        let each = holes.iter().map(|(far, share)| {
            turned -= share / whole * std::f64::consts::TAU;
            Point2::new(turned.cos(), turned.sin()) * *far
        });
        each.collect()
    })
}

proptest! {
    /// Holes found again from their distances lie as they did, turned and not mirrored; the check agrees.
    #[test]
    fn a_pattern_is_found_again_from_its_distances(holes in any_pattern(), by_mouth in any::<bool>()) {
        let count = holes.len();
        let mut plate = measured(&holes);
        // The mouth is right of who goes from the first hole to the second as long as those are less than half round apart.
        let mouth = Point2::origin();
        let right = |p: Point2<f64>, q: Point2<f64>| (q - p).perp(&(mouth - p)) < -1e-3;
        let known = by_mouth && right(holes[0], holes[1]);
        if known {
            plate.bore = Some([0, 1].map(|k| spacing((holes[k] - mouth).norm())));
        }
        // Each hole must lie right of the line from the first to the one before it, as it does where the pattern is convex there.
        prop_assume!((2..count).all(|k| (holes[k - 1] - holes[0]).perp(&(holes[k] - holes[0])) < -1.0));
        let found = plate.holes().unwrap();
        prop_assert!(found.check_off.is_none_or(|off| off.abs() < 1e-6));
        let turn = |of: &[Point2<f64>]| { let side = of[1] - of[0]; side.y.atan2(side.x) };
        let back = nalgebra::Rotation2::new(turn(&holes) - turn(&found.holes));
        for (mine, was) in found.holes.iter().zip(&holes) {
            let moved = back * (mine - found.holes[0]) + holes[0].coords;
            prop_assert!((moved - was.coords).norm() < 1e-6, "{moved} {was}");
        }
        if known {
            let middle = back * (Point2::origin() - found.holes[0]) + holes[0].coords;
            prop_assert!((middle - mouth.coords).norm() < 1e-6);
        }
        // Its outline goes round every hole with metal left, and is convex.
        let outline = plate.outline(&found.holes, 63.5);
        for (k, from) in outline.iter().enumerate() {
            let side = (outline[(k + 1) % outline.len()] - from).normalize();
            let far = |p: &Point2<f64>| side.perp(&(p - from));
            prop_assert!(found.holes.iter().all(|hole| far(hole) > 8.5 * 1.5 - 0.02));
            prop_assert!(far(&Point2::origin()) > 63.5 / 2.0 + 6.0 - 0.02);
            prop_assert!(outline.iter().all(|other| far(other) > -1e-9));
        }
    }

    /// No distances at all make it panic, or give a place that is no number.
    #[test]
    fn any_distances_make_a_plate_or_say_why_not(
        sides in prop::collection::vec(5.0..500.0_f64, 0..10), diagonals in prop::collection::vec(5.0..500.0_f64, 0..7),
        bore in prop::option::of([5.0..500.0_f64, 5.0..500.0_f64]),
    ) {
        let plate = FlangePlate { bore: bore.map(|both| both.map(spacing)), ..plate(&sides, &diagonals) };
        match plate.holes() {
            Ok(found) => {
                prop_assert!(found.holes.iter().all(|hole| hole.coords.iter().all(|c| c.is_finite())));
                let apart = |k: usize| (found.holes[k] - found.holes[(k + 1) % found.holes.len()]).norm();
                prop_assert!(sides.iter().enumerate().all(|(k, side)| (apart(k) - side).abs() < 1e-3));
            }
            Err(error) => prop_assert!(!error.to_string().is_empty()),
        }
    }
}

#[test]
fn a_known_pattern_is_right_by_hand() {
    // Three holes on a circle of 50: an even triangle of 86.60.
    let side = 50.0 * 3.0_f64.sqrt();
    let holes = plate(&[side; 3], &[]).holes().unwrap().holes;
    assert!(holes.iter().all(|hole| (hole.coords.norm() - 50.0).abs() < 1e-9));
    // Clockwise: each next hole is a third of a turn to the right.
    let turned = holes[0].coords.perp(&holes[1].coords).atan2(holes[0].coords.dot(&holes[1].coords));
    assert!((turned.to_degrees() + 120.0).abs() < 1e-9);
    let two = plate(&[90.0], &[]).holes().unwrap().holes;
    assert_eq!(two, [Point2::new(-45.0, 0.0), Point2::new(45.0, 0.0)]);
    assert!(
        (plate(&[60.0, 40.0, 60.0, 40.0], &[72.11]).holes().unwrap().holes[2] - Vector2::new(30.0, -20.0))
            .coords
            .norm()
            < 0.01
    );
}

/// A plate with holes far out stands out further than flanges do by themselves: what is cleared, and what comes out with the
/// tube, is that.
#[test]
fn a_wide_plate_is_cleared_and_comes_out_with_its_tube() {
    let flanges = |job: &Job, run: RunId| -> f64 {
        let over = told(job, run).over.into_iter().filter(|one| one.what == nook_core::assembly::OverKind::Flange);
        over.map(|one| one.radius).fold(0.0, f64::max)
    };
    let (usual, run) = bolted(plate(&[90.0], &[]));
    let (wide, _) = bolted(plate(&[180.0], &[]));
    assert!((flanges(&usual, run) - (45.0 + 8.5 * 1.5)).abs() < 1e-6, "as its outline");
    assert!((flanges(&wide, run) - (90.0 + 8.5 * 1.5)).abs() < 1e-6);
    let scans = nook_core::environment::Scans::default();
    let taken = nook_core::taken_out::taken_out(&wide, run, 0, &scans, &[]).unwrap();
    let widest = taken.body.parts().iter().map(|part| part.radius).fold(0.0, f64::max);
    assert!((widest - (90.0 + 8.5 * 1.5)).abs() < 1e-6, "{widest}");
    // Something beside it that a bare flange would clear is told.
    let beside = super::support::held::block([8.0, 80.0, 0.0], [10.0, 20.0, 20.0], nook_core::measure::Side::Body);
    assert_eq!(found(&with(&usual, std::slice::from_ref(&beside)), run, FindingKind::Fouls), []);
    assert_eq!(found(&with(&wide, &[beside]), run, FindingKind::Fouls).len(), 1);
}

#[test]
fn wrong_distances_are_told_and_keep_the_job() {
    let (good, run) = bolted(plate(&[80.0; 4], &[113.137]));
    for kind in [FindingKind::NoPlate, FindingKind::PlateCheck, FindingKind::HoleInWeld] {
        assert_eq!(found(&good, run, kind), []);
    }
    let told_plate = told(&good, run).ends[0].figures.as_ref().unwrap().plate.clone().unwrap();
    assert_eq!((told_plate.holes.len(), told_plate.thickness.mm()), (4, 8.0));
    let (open, run) = bolted(plate(&[80.0, 80.0, 200.0], &[]));
    let words = &found(&open, run, FindingKind::NoPlate)[0].words.mm;
    assert!(words.contains("hole 3") && words.contains("200.0 mm from hole 1"), "{words}");
    assert!(told(&open, run).ends[0].figures.as_ref().unwrap().plate.as_ref().unwrap().outline.is_empty());
    for (check, count) in [(113.1, 0), (113.6, 0), (114.2, 1), (111.0, 1)] {
        let checked = FlangePlate { check: Some(spacing(check)), ..plate(&[80.0; 4], &[113.137]) };
        let (job, run) = bolted(checked);
        assert_eq!(found(&job, run, FindingKind::PlateCheck).len(), count, "{check}");
    }
    // 63.5 of tube, its weld and a bolt's head want holes some 41 mm out.
    for (apart, count) in [(75.0, 1), (90.0, 0)] {
        let (job, run) = bolted(plate(&[apart], &[]));
        assert_eq!(found(&job, run, FindingKind::HoleInWeld).len(), count, "{apart}");
    }
    // Too few distances are no plate at all, and the job stays as it was.
    let joint = good.run(run).unwrap().joint(End::A).id;
    for bad in [plate(&[80.0, 80.0], &[]), plate(&[80.0; 5], &[100.0]), plate(&[], &[]), plate(&[80.0; 3], &[90.0])] {
        let to = JointChange::Plate { plate: Some(bad.clone()) };
        let refused = apply(&good, &Edit::Join(JoinEdit::ChangeJoint { run, joint, to })).unwrap_err();
        assert!(refused.to_string().contains("bolt pattern"), "{refused}");
        assert!(matches!(bad.holes(), Err(NoPlate::Count { .. })));
    }
}

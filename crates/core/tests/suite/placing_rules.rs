//! What a place is judged by, against sampling.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::place_edits::any_freedom;
use nalgebra::Point3;
use nook_core::edit::ComponentChange;
use nook_core::environment::Scans;
use nook_core::measure::{BoxFace, Component, HandRoom, KeepOutId, KeepOutShape, PlacingWishes, Stance, box_turn};
use nook_core::placing::{Face, Rules, rules};
use nook_core::survey::Survey;
use nook_core::{Job, PlaceEdit, apply};
use nook_geometry::units::{Gap, PitchAngle};
use nook_geometry::{Point, Vector};
use proptest::prelude::*;

fn done(job: &Job, edit: PlaceEdit) -> Job {
    apply(job, &edit.into()).unwrap().job
}

fn cooler(job: &Job) -> &Component {
    job.components().iter().find(|one| one.name.as_str() == "charge cooler").unwrap()
}

fn judged(job: &Job) -> Rules {
    rules(job, &Survey::new(job), cooler(job), &Scans::default())
}

fn shape(job: &Job) -> KeepOutShape {
    Survey::new(job).placed(job.keep_out(KeepOutId(13)).unwrap())
}

/// Whether a point of the opening's plane, by its y and z, lies within the demo's outline: counted crossings.
fn within(outline: &[Point], y: f64, z: f64) -> bool {
    let at = |k: usize| outline[k % outline.len()].to_array();
    let crossed = (0..outline.len()).filter(|k| {
        let ([_, y1, z1], [_, y2, z2]) = (at(*k), at(k + 1));
        (z1 > z) != (z2 > z) && y < (y2 - y1) * (z - z1) / (z2 - z1) + y1
    });
    crossed.count() % 2 == 1
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Air comes straight back through the demo's opening, which stands upright across the car: every place of the face looks
    /// forward through it or does not.
    #[test]
    fn the_share_shown_is_what_rays_from_the_face_see(freedoms in prop::collection::vec(any_freedom(), 0..3)) {
        let job = done(&demo(), PlaceEdit::ChangeComponent { component: cooler(&demo()).id, to: ComponentChange::Freedoms { freedoms } });
        let shown = judged(&job).shown.unwrap();
        let face = Face::of(&shape(&job), BoxFace::Front).unwrap();
        let outline = &job.openings()[0].outline;
        const GRID: u32 = 90;
        let step = |k: u32| (f64::from(k) + 0.5) / f64::from(GRID) * 2.0 - 1.0;
        let looks = face.out.x > 0.0 && face.middle.x < 690.0;
        let hits = (0..GRID * GRID).filter(|k| {
            let at = face.middle + face.half[0] * step(k % GRID) + face.half[1] * step(k / GRID);
            within(outline, at.y, at.z)
        });
        // Seen along the air the grid is as even as on the face.
        let sampled = if looks { f64::from(u32::try_from(hits.count()).unwrap()) / f64::from(GRID * GRID) } else { 0.0 };
        let edge_on = face.out.x.abs() < 0.03;
        prop_assert!(edge_on || (shown.share - sampled).abs() < 0.03, "{} and {sampled}", shown.share);
    }

    #[test]
    fn over_ramp_and_ground_as_its_corners_are(
        freedoms in prop::collection::vec(any_freedom(), 0..3),
        ramp in 0.0..30.0_f64,
        travel in 0.0..120.0_f64,
        rise in -60.0..60.0_f64,
    ) {
        let job = done(&demo(), PlaceEdit::ChangeComponent { component: cooler(&demo()).id, to: ComponentChange::Freedoms { freedoms } });
        let (front, rear) = (Point3::new(-260.0, 0.0, -430.0), Point3::new(-2860.0, 0.0, -430.0 + rise));
        let point = |at: Point3<f64>| Point::new(at.x, at.y, at.z).unwrap();
        let stance = Stance { front: point(front), rear: point(rear), travel: Gap::new(travel).ok(), ramp: PitchAngle::new(ramp).ok() };
        let job = done(&job, PlaceEdit::SetStance { stance: Some(stance) });
        let ground = judged(&job).ground.unwrap();
        let KeepOutShape::Box { centre, size, heading, pitch, roll } = shape(&job) else { unreachable!() };
        let corner = |k: u8| {
            let sign = |bit: u8| if k & bit == 0 { -0.5 } else { 0.5 };
            centre.inner() + box_turn(heading, pitch, roll) * Vector::new(size[0] * sign(1), size[1] * sign(2), size[2] * sign(4))
        };
        // In the car's own plane from front to rear: how far ahead and how high each corner is.
        let slope = (front.z - rear.z).atan2(front.x - rear.x);
        let own = |at: Point3<f64>, from: Point3<f64>| {
            let (x, z) = (at.x - from.x, at.z - from.z);
            (x * slope.cos() + z * slope.sin(), z * slope.cos() - x * slope.sin())
        };
        let (sin, cos) = ramp.to_radians().sin_cos();
        let each: Vec<_> = (0..8).map(corner).collect();
        let flat = each.iter().map(|at| own(*at, front).1 - travel).fold(f64::INFINITY, f64::min);
        let over = |at: &Point3<f64>| {
            let ((ahead, high), (behind, low)) = (own(*at, front), own(*at, rear));
            (high * cos - ahead * sin).min(low * cos + behind * sin)
        };
        let steep = each.iter().map(over).fold(f64::INFINITY, f64::min);
        prop_assert!((ground.flat - flat).abs() < 1e-6 && (ground.ramp - steep).abs() < 1e-6, "{ground:?}, {flat}, {steep}");
        // What is in the ground already clears nothing.
        prop_assert!(flat + travel < 0.0 || (ground.steepest >= ramp) == (steep >= 0.0) || (ground.steepest - ramp).abs() < 0.01);
    }

    /// A hand's room is free of every thing, and no deeper than it is said to be.
    #[test]
    fn a_hand_has_the_room_that_is_told(
        face in prop::sample::select(vec![BoxFace::Front, BoxFace::Back, BoxFace::Top, BoxFace::Bottom, BoxFace::Left]),
        depth in 5.0..Gap::MAX,
    ) {
        let hand = HandRoom { body: KeepOutId(13), face, depth: Gap::new(depth).ok() };
        let wishes = PlacingWishes { hand: Some(hand), ..PlacingWishes::default() };
        let job = done(&demo(), PlaceEdit::ChangeComponent { component: cooler(&demo()).id, to: ComponentChange::Wishes { wishes } });
        let told = judged(&job).hand.unwrap();
        let face = Face::of(&shape(&job), face).unwrap();
        let survey = Survey::new(&job);
        let boxes: Vec<KeepOutShape> = job.keep_outs().iter().filter(|one| one.id != KeepOutId(13)).map(|one| survey.placed(one)).collect();
        // Boxes and cylinders by their own definitions; other shapes stand elsewhere in the demo.
        let inside = |at: Point3<f64>| boxes.iter().any(|shape| match shape {
            KeepOutShape::Box { centre, size, heading, pitch, roll } => {
                let own = box_turn(*heading, *pitch, *roll).inverse() * (at - centre.inner());
                (0..3).all(|axis| own[axis].abs() < size[axis] / 2.0)
            }
            KeepOutShape::Cylinder { from, to, diameter } => {
                let way = from.to(*to);
                let along = (at - from.inner()).dot(&way) / way.norm_squared();
                (0.0..=1.0).contains(&along) && (at - (from.inner() + way * along)).norm() < diameter.get() / 2.0
            }
            _ => false,
        });
        const GRID: u32 = 40;
        let step = |k: u32, of: u32| (f64::from(k) + 0.5) / f64::from(of);
        let mut first = depth;
        for k in 0..GRID * GRID * GRID {
            let deep = 0.6 + (depth - 0.6) * step(k / (GRID * GRID), GRID);
            let at = face.middle
                + face.half[0] * (step(k % GRID, GRID) * 2.0 - 1.0)
                + face.half[1] * (step(k / GRID % GRID, GRID) * 2.0 - 1.0)
                + face.out * deep;
            if deep < first && inside(at) {
                first = deep;
            }
        }
        prop_assert!(told.free <= first + 0.1, "{told:?} but something stands {first} before it");
        prop_assert!(told.by.is_some() == (told.free < depth - 1e-9), "{told:?}");
    }
}

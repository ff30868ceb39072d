//! Components as wholes: what moves one moves its body, its ports and its runs, and nothing else.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::any_place_edit;
use crate::support::place_edits::any_freedom;
use nalgebra::{Isometry3, Point3, Rotation3};
use nook_core::edit::ComponentChange;
use nook_core::environment::Scans;
use nook_core::measure::{
    Component, ComponentDesign, ComponentId, DesignPort, EndForm, Freedom, InstallState, KeepOutId, KeepOutShape,
    box_angles, box_turn,
};
use nook_core::placing::Pairs;
use nook_core::survey::Survey;
use nook_core::workup::bay;
use nook_core::{Edit, Job, PlaceEdit, apply, workup};
use nook_geometry::units::{MountHeight, Name, OutsideDiameter, Slide};
use nook_geometry::{Direction, Point, Vector};
use proptest::prelude::*;

fn named<'a>(job: &'a Job, name: &str) -> &'a Component {
    job.components().iter().find(|one| one.name.as_str() == name).unwrap()
}

fn done(job: &Job, edit: PlaceEdit) -> Job {
    apply(job, &edit.into()).unwrap().job
}

fn with_freedoms(job: &Job, component: ComponentId, freedoms: Vec<Freedom>) -> Job {
    done(job, PlaceEdit::ChangeComponent { component, to: ComponentChange::Freedoms { freedoms } })
}

/// Eight corners of a box, by nothing but its own turn.
fn corners(shape: &KeepOutShape) -> Vec<Point3<f64>> {
    let KeepOutShape::Box { centre, size, heading, pitch, roll } = shape else { panic!("a box") };
    let turn = box_turn(*heading, *pitch, *roll);
    let corner = |k: u8| {
        let sign = |bit: u8| if k & bit == 0 { -0.5 } else { 0.5 };
        centre.inner() + turn * Vector::new(size[0] * sign(1), size[1] * sign(2), size[2] * sign(4))
    };
    (0..8).map(corner).collect()
}

/// A motion by turning a matrix about a point, or sliding, one freedom after the other: nothing of the product of exponentials.
fn carried(freedoms: &[Freedom], at: Point3<f64>) -> Point3<f64> {
    freedoms.iter().rev().fold(at, |at, freedom| match freedom {
        Freedom::Turn { pivot, axis, turned, .. } => {
            let turn = Rotation3::from_axis_angle(&axis.unit(), turned.get().to_radians());
            pivot.inner() + turn * (at - pivot.inner())
        }
        Freedom::Slide { along, slid, .. } => at + along.vector() * slid.get(),
    })
}

#[test]
fn moving_the_cooler_moves_its_body_its_ports_and_the_pipes_on_it_and_no_other() {
    let job = demo();
    let cooler = named(&job, "charge cooler").id;
    let moved = done(&job, PlaceEdit::SetFreedom { component: cooler, freedom: 0, to: -40.0 });
    let (before, after) = (bay(&job), bay(&moved));
    for (was, is) in before.ports.iter().zip(&after.ports) {
        let by = if was.component == Some(cooler) { -40.0 } else { 0.0 };
        assert!((is.at[0].mm() - was.at[0].mm() - by).abs() < 1e-9, "{}", is.name);
        assert_eq!((was.at[1], was.at[2], was.out), (is.at[1], is.at[2], is.out));
    }
    for (was, is) in before.keep_outs.iter().zip(&after.keep_outs) {
        let by = if was.name == "charge cooler" { -40.0 } else { 0.0 };
        assert!((is.at[0].mm() - was.at[0].mm() - by).abs() < 1e-9, "{}", is.name);
    }
    for run in moved.runs() {
        let ends = [&run.a, &run.b].map(|port| port.name.starts_with("cooler"));
        let workup = workup(&moved, run.id).unwrap();
        assert!(workup.totals.is_some(), "{} still joins its ports", run.name.as_str());
        let same = workup.ends == nook_core::workup(&job, run.id).unwrap().ends;
        assert_eq!(same, !ends.contains(&true), "{}", run.name.as_str());
    }
}

#[test]
fn a_drag_goes_as_near_as_the_slides_let_it_and_is_the_typed_edit() {
    let job = demo();
    let cooler = named(&job, "charge cooler").id;
    let to = |x, y, z| PlaceEdit::MoveComponent { component: cooler, to: Point::new(x, y, z).unwrap() };
    let settings = |job: &Job| job.component(cooler).unwrap().freedoms.iter().map(Freedom::setting).collect::<Vec<_>>();
    // Its middle stands at 530, 0, -70; it slides 60 back and 20 forward, 40 down and 80 up, 30 to each side.
    assert_eq!(settings(&done(&job, to(510.0, 10.0, -50.0))), [-20.0, 20.0, 10.0]);
    assert_eq!(settings(&done(&job, to(900.0, -500.0, -500.0))), [20.0, -40.0, -30.0]);
    let typed = PlaceEdit::SetFreedom { component: cooler, freedom: 0, to: -20.0 };
    assert_eq!(done(&job, typed), done(&job, to(510.0, 0.0, -70.0)));
    let engine = named(&job, "engine").id;
    let refused = apply(&job, &PlaceEdit::MoveComponent { component: engine, to: Point::default() }.into());
    assert!(refused.unwrap_err().to_string().contains("nothing says that engine may be slid"));
    let far = apply(&job, &PlaceEdit::SetFreedom { component: cooler, freedom: 0, to: 21.0 }.into());
    let words = far.unwrap_err().to_string();
    assert!(words.contains("charge cooler") && words.contains("-60") && words.contains("20"), "{words}");
}

#[test]
fn what_is_on_a_moved_component_is_not_placed_by_hand() {
    let job = demo();
    let cooler = named(&job, "charge cooler").id;
    let moved = done(&job, PlaceEdit::SetFreedom { component: cooler, freedom: 1, to: 12.0 });
    let by_hand = Edit::Measure(nook_core::MeasureEdit::MoveKeepOut {
        keep_out: KeepOutId(13),
        at: Point::new(530.0, 0.0, -60.0).unwrap(),
    });
    assert!(apply(&job, &by_hand).is_ok());
    assert!(apply(&moved, &by_hand).unwrap_err().to_string().contains("charge cooler"));
}

#[test]
fn another_in_its_place_keeps_the_middle_and_brings_its_own_mouths() {
    let job = demo();
    let cooler = named(&job, "charge cooler").id;
    let port = |y: f64| DesignPort {
        at: [-50.0, y, 20.0],
        out: Direction::new(-1.0, 0.0, 0.0).unwrap(),
        od: OutsideDiameter::new(57.0).unwrap(),
        form: EndForm::Beaded,
    };
    let name = Name::new("small cooler").unwrap();
    let mut design = ComponentDesign {
        name,
        size: [70.0, 500.0, 180.0],
        mass: None,
        ports: vec![port(250.0)],
        mounts: vec![],
        note: None,
    };
    let one = apply(&job, &PlaceEdit::SwapComponent { component: cooler, with: design.clone() }.into()).unwrap_err();
    assert!(one.to_string().contains("has 2 mouths"), "{one}");
    design.ports.push(port(-250.0));
    let swapped = done(&job, PlaceEdit::SwapComponent { component: cooler, with: design });
    let whole = swapped.component(cooler).unwrap();
    assert_eq!((whole.standing, whole.mounts.len()), (InstallState::OnOrder, 0));
    let shape = &swapped.keep_out(KeepOutId(13)).unwrap().shape;
    let near = |p: [f64; 3], q: [f64; 3]| p.iter().zip(q).all(|(p, q)| (p - q).abs() < 1e-9);
    assert!(matches!(shape, KeepOutShape::Box { size, .. } if near(*size, [70.0, 500.0, 180.0])));
    let at = bay(&swapped).ports.iter().find(|one| one.name == "cooler inlet").unwrap().at.map(|c| c.mm());
    assert!(near(at, [480.0, 250.0, -50.0]), "{at:?}");
}

#[test]
fn what_its_mounts_lift_rises_and_so_do_its_ports() {
    let job = demo();
    let cooler = named(&job, "charge cooler").id;
    let raised = MountHeight::new(25.0).ok();
    let lifted = done(&job, PlaceEdit::ChangeComponent { component: cooler, to: ComponentChange::Raised { raised } });
    let z = |job: &Job| bay(job).ports.iter().find(|one| one.name == "cooler inlet").unwrap().at[2].mm();
    assert!((z(&lifted) - z(&job) - 25.0).abs() < 1e-9);
}

fn a_pose() -> impl Strategy<Value = Isometry3<f64>> {
    (prop::array::uniform3(-3.0..3.0_f64), prop::array::uniform3(-200.0..200.0_f64))
        .prop_map(|(turn, at)| Isometry3::new(Vector::from(at), Vector::from(turn)))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn a_box_carried_has_its_corners_carried(
        pose in a_pose(),
        [heading, pitch, roll] in [-180.0..180.0_f64, -90.0..90.0_f64, -180.0..180.0_f64],
        size in prop::array::uniform3(20.0..300.0_f64),
    ) {
        let shape = KeepOutShape::Box { centre: Point::new(50.0, -20.0, 10.0).unwrap(), size, heading, pitch, roll };
        let there = shape.carried(&pose).unwrap();
        prop_assert!(there.check().is_ok());
        for (was, is) in corners(&shape).iter().zip(corners(&there)) {
            prop_assert!((pose * was - is).norm() < 1e-6);
        }
        let back = box_angles(&box_turn(heading, pitch, roll));
        let again = box_turn(back[0], back[1], back[2]);
        prop_assert!((again.matrix() - box_turn(heading, pitch, roll).matrix()).norm() < 1e-9);
    }

    #[test]
    fn its_freedoms_carry_it_one_after_the_other(freedoms in prop::collection::vec(any_freedom(), 0..5)) {
        let job = demo();
        let cooler = named(&job, "charge cooler").id;
        let moved = with_freedoms(&job, cooler, freedoms.clone());
        let (was, is) = (job.keep_out(KeepOutId(13)).unwrap(), moved.keep_out(KeepOutId(13)).unwrap());
        prop_assert_eq!(was, is, "what was measured stays as it was");
        let placed = Survey::new(&moved).placed(is);
        for (was, is) in corners(&was.shape).into_iter().zip(corners(&placed)) {
            prop_assert!((carried(&freedoms, was) - is).norm() < 1e-6);
        }
        let port = |job: &Job| bay(job).ports.into_iter().find(|one| one.name == "cooler inlet").unwrap();
        let there = carried(&freedoms, Point3::from(port(&job).at.map(|c| c.mm())));
        prop_assert!((there - Point3::from(port(&moved).at.map(|c| c.mm()))).norm() < 1e-6);
    }

    #[test]
    fn a_mirror_image_stays_one_however_the_two_are_set(
        freedoms in prop::collection::vec(any_freedom(), 1..4),
        by in prop::array::uniform3(-100.0..100.0_f64),
        mirrored in any::<bool>(),
    ) {
        let job = demo();
        let cooler = named(&job, "charge cooler").id;
        let moved = with_freedoms(&job, cooler, freedoms);
        let [x, y, z] = by;
        let name = Name::new("image").unwrap();
        let copy = PlaceEdit::CopyComponent { component: cooler, name, by: Point::new(x, y, z).unwrap(), mirrored };
        let both = done(&moved, copy);
        let image = named(&both, "image");
        prop_assert_eq!(image.ports.len(), 0);
        let shape = |component: &Component| {
            Survey::new(&both).placed(both.keep_out(*component.body.first().unwrap()).unwrap())
        };
        let side = if mirrored { -1.0 } else { 1.0 };
        let expected: Vec<Point3<f64>> = corners(&shape(both.component(cooler).unwrap()))
            .iter()
            .map(|at| Point3::new(at.x + x, side * at.y + y, at.z + z))
            .collect();
        for corner in corners(&shape(image)) {
            prop_assert!(expected.iter().any(|at| (at - corner).norm() < 1e-6), "{corner} of {expected:?}");
        }
        // What breathes forward breathes forward, and brackets are mirrored with what they hold.
        let whole = both.component(cooler).unwrap();
        for (own, its) in whole.mounts.iter().zip(&image.mounts) {
            let (at, there) = (whole.displacement() * own.at.inner(), image.displacement() * its.at.inner());
            prop_assert!((Point3::new(at.x + x, side * at.y + y, at.z + z) - there).norm() < 1e-6);
        }
    }

    /// Whatever was changed in between, what is taken from before and measured again is what measuring all anew gives.
    #[test]
    fn pairs_after_a_change_are_those_measured_from_nothing(edits in prop::collection::vec(any_place_edit(), 1..8)) {
        let mut job = demo();
        let scans = Scans::default();
        let mut pairs = Pairs::of(&job, &Survey::new(&job), &scans);
        for edit in &edits {
            let Ok(applied) = apply(&job, edit) else { continue };
            job = applied.job;
            let survey = Survey::new(&job);
            pairs = Pairs::after(Some(&pairs), &job, &survey, &scans);
            let anew = Pairs::of(&job, &survey, &scans);
            prop_assert_eq!(pairs.near(), anew.near());
        }
    }
}

#[test]
fn only_what_moved_is_measured_again() {
    let job = demo();
    let scans = Scans::default();
    let pairs = Pairs::of(&job, &Survey::new(&job), &scans);
    let filter = named(&job, "air filter").id;
    let slid = Slide::new(20.0).unwrap().get();
    let moved = done(&job, PlaceEdit::SetFreedom { component: filter, freedom: 0, to: slid });
    let after = Pairs::after(Some(&pairs), &moved, &Survey::new(&moved), &scans);
    assert!(after.measured() * 8 < pairs.measured(), "{} of {}", after.measured(), pairs.measured());
    assert_eq!(Pairs::after(Some(&after), &moved, &Survey::new(&moved), &scans).measured(), 0);
}

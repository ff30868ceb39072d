//! Brackets as they are cut, drilled and bent, numerically: the holes must land where the component and the car have theirs; and
//! how far a component gives on them, against formulas and a frame of many beams.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::{Point3, Rotation3, Unit};
use nook_core::measure::BracketStock;
use nook_core::placing::{BracketEnd, BracketError, BracketPlan, NEUTRAL, bracket_plan};
use nook_core::stock::Material;
use nook_geometry::Vector;
use nook_geometry::units::{SheetThickness, StripWidth};
use proptest::prelude::*;

fn strip(width: f64, thick: f64, radius: f64) -> BracketStock {
    let sheet = |mm| SheetThickness::new(mm).unwrap();
    BracketStock::Strip { width: StripWidth::new(width).unwrap(), thickness: sheet(thick), radius: sheet(radius) }
}

fn end(at: [f64; 3], out: [f64; 3]) -> BracketEnd {
    BracketEnd { at: at.into(), out: Vector::from(out).normalize(), bolt: 8.0, second: false }
}

/// A place on the pattern's lower face and the way out of its upper face, after every bend before it has been made: walked along in
/// straights and arcs, from the component's hole where it lies against its face.
fn folded(
    plan: &BracketPlan,
    component: &BracketEnd,
    [thick, radius]: [f64; 2],
    upto: [f64; 2],
) -> (Point3<f64>, Vector) {
    let first = plan.holes.iter().find(|hole| hole.component).unwrap();
    let way = plan.line[1] - plan.line[0];
    let mut along = (way - component.out * way.dot(&component.out)).normalize();
    let mut up = component.out;
    let left = up.cross(&along);
    // The middle surface under the hole's middle, on the pattern's middle line.
    let mut at = component.at + up * (thick / 2.0) - left * first.at[1];
    let mut done = first.at[0];
    for bend in &plan.bends {
        let begins = bend.at - bend.allowance / 2.0;
        if begins >= upto[0] {
            break;
        }
        at += along * (begins - done);
        let angle = bend.angle.abs().to_radians();
        assert!((bend.allowance - angle * (radius + NEUTRAL * thick)).abs() < 1e-9);
        let (towards, middle) = (up * bend.angle.signum(), radius + thick / 2.0);
        at += along * (middle * angle.sin()) + towards * (middle * (1.0 - angle.cos()));
        // Bending up turns the way along towards up.
        let turn = Rotation3::from_axis_angle(&Unit::new_normalize(along.cross(&towards)), angle);
        (along, up) = (turn * along, turn * up);
        done = bend.at + bend.allowance / 2.0;
    }
    at += along * (upto[0] - done) + left * upto[1];
    (at - up * (thick / 2.0), up)
}

fn lands(
    component: &BracketEnd,
    car: &BracketEnd,
    stock: BracketStock,
    dims: [f64; 2],
) -> Result<BracketPlan, BracketError> {
    let plan = bracket_plan(component, car, stock, Material::MildSteel)?;
    for hole in &plan.holes {
        assert!(hole.at[0] > 0.0 && hole.at[0] < plan.length, "{plan:?}");
        // Metal all round the hole.
        assert!(hole.at[1].abs() + 1.4 * 8.0 < plan.width / 2.0 + 0.9, "{plan:?}");
        for bend in &plan.bends {
            let clear = (hole.at[0] - bend.at).abs() - bend.allowance / 2.0;
            assert!(clear > 8.0 * 1.1, "a washer lies flat: {plan:?}");
        }
    }
    for pair in plan.bends.windows(2) {
        assert!(pair[1].at - pair[1].allowance / 2.0 > pair[0].at + pair[0].allowance / 2.0, "{plan:?}");
    }
    let of_car = plan.holes.iter().find(|hole| !hole.component).unwrap();
    let (lower, up) = folded(&plan, component, dims, of_car.at);
    // It lies against the car by its lower face or by its upper one.
    let there = if up.dot(&car.out) > 0.0 { lower } else { lower + up * dims[0] };
    // A flat strip is pulled by its bolts onto faces that are not quite level.
    let within = if plan.bends.is_empty() { dims[0] / 10.0 } else { 1e-6 };
    assert!((there - car.at).norm() < within, "the hole lands {} off: {plan:?}", there - car.at);
    assert!(up.cross(&car.out).norm() < 1e-9, "the face does not lie flat: {plan:?}");
    Ok(plan)
}

#[test]
fn an_l_a_z_and_a_flat_one_by_hand() {
    let stock = strip(30.0, 3.0, 3.0);
    let flat =
        lands(&end([0.0; 3], [0.0, 0.0, 1.0]), &end([100.0, 0.0, 0.0], [0.0, 0.0, 1.0]), stock, [3.0, 3.0]).unwrap();
    assert!(flat.bends.is_empty() && (flat.length - 124.0).abs() < 1e-9, "12 beyond each hole: {flat:?}");
    // Under a cooler, out to a rail and up it: one right angle.
    let l =
        lands(&end([0.0; 3], [0.0, 0.0, -1.0]), &end([0.0, 100.0, 40.0], [0.0, -1.0, 0.0]), stock, [3.0, 3.0]).unwrap();
    assert_eq!(l.bends.len(), 1);
    // To the middle lines' corner 98.5 and 41.5; the tangents take 4.5 off each, the neutral line of 4.32 radius is 6.79 long.
    let arc = std::f64::consts::FRAC_PI_2 * (3.0 + 0.44 * 3.0);
    assert!((l.length - (12.0 + 98.5 - 4.5 + arc + 41.5 - 4.5 + 12.0)).abs() < 1e-9, "{l:?}");
    assert!((l.bends[0].angle + 90.0).abs() < 1e-9, "away from whoever looks at the face that hangs down: {l:?}");
    // A step down to another level: two bends, one each way.
    let z =
        lands(&end([0.0; 3], [0.0, 0.0, 1.0]), &end([120.0, 0.0, 30.0], [0.0, 0.0, 1.0]), stock, [3.0, 3.0]).unwrap();
    assert_eq!(z.bends.len(), 2);
    assert!((z.bends[0].angle + z.bends[1].angle).abs() < 1e-9 && z.bends[0].angle > 0.0, "{z:?}");
}

#[test]
fn what_cannot_be_is_said_with_what_would() {
    let (from, to) = (end([0.0; 3], [0.0, 0.0, -1.0]), end([40.0, 100.0, 40.0], [0.0, -1.0, 0.0]));
    let narrow = bracket_plan(&from, &to, strip(30.0, 3.0, 3.0), Material::MildSteel).unwrap_err();
    assert!(narrow.to_string().contains("strip 64 mm wide"), "{narrow}");
    assert!(lands(&from, &to, strip(65.0, 3.0, 3.0), [3.0, 3.0]).is_ok());
    let angle =
        BracketStock::Angle { leg: StripWidth::new(50.0).unwrap(), thickness: SheetThickness::new(4.0).unwrap() };
    let off = bracket_plan(&from, &to, angle, Material::MildSteel).unwrap_err();
    assert!(off.to_string().contains("from the heel"), "{off}");
    let leaning = end([40.0, 100.0, 40.0], [0.0, -1.0, 1.0]);
    assert!(matches!(bracket_plan(&from, &leaning, angle, Material::MildSteel), Err(BracketError::NotSquare { .. })));
}

/// A piece of angle is drilled as its pattern says, folded at its heel and laid against both faces.
#[test]
fn angle_lands_on_both_faces() {
    let (leg, thick) = (50.0, 4.0);
    let stock =
        BracketStock::Angle { leg: StripWidth::new(leg).unwrap(), thickness: SheetThickness::new(thick).unwrap() };
    for (y, x, z) in [(25.0, 30.0, 28.0), (25.0, -30.0, 28.0), (-30.0, 12.0, 26.0), (28.0, 0.0, -30.0)] {
        let component = end([0.0; 3], [0.0, 0.0, -1.0]);
        let car = end([x, y, z], [0.0, -1.0, 0.0]);
        let plan = match bracket_plan(&component, &car, stock, Material::MildSteel) {
            Ok(plan) => plan,
            Err(error) => panic!("{x} {y} {z}: {error}"),
        };
        let [own, its] = [true, false].map(|of| plan.holes.iter().find(|hole| hole.component == of).unwrap().at);
        assert!((its[0] - own[0] - x.abs()).abs() < 1e-9 && own[1] * its[1] < 0.0, "one hole in each leg: {plan:?}");
        assert!([own, its].iter().all(|at| at[1].abs() < leg - 8.0 && at[1].abs() > 2.0 * thick));
        // The heel's outside lies where the two outer or inner faces meet, by which way each leg goes from it.
        let heel_y = if y >= 0.0 { y } else { y - thick };
        assert!((own[1].abs() - heel_y.abs()).abs() < 1e-9, "{plan:?}");
        let heel_z = if z < 0.0 { z } else { z + thick };
        assert!((its[1].abs() - heel_z.abs()).abs() < 1e-9, "{plan:?}");
    }
}

fn a_way() -> impl Strategy<Value = [f64; 3]> {
    prop::array::uniform3(-1.0..1.0_f64).prop_filter("a length", |v| Vector::from(*v).norm() > 0.2)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    #[test]
    fn every_strip_that_is_offered_lands(
        out in a_way(),
        // The car's hole by the component's face: along, across and off it, and how its face is turned about the strip's width.
        along in 40.0..220.0_f64,
        off in -120.0..120.0_f64,
        beside in -12.0..12.0_f64,
        turned in prop::sample::select(vec![0.0, 30.0, 60.0, 90.0, 120.0, 180.0, -45.0, -90.0]),
        thick in 1.5..6.0_f64,
    ) {
        let out = Vector::from(out).normalize();
        let u = out.cross(&Vector::new(0.3, -0.8, 0.5)).normalize();
        let w = out.cross(&u);
        let at = Point3::from(u * along + out * off + w * if f64::abs(turned) % 180.0 < 1.0 { 0.0 } else { beside });
        let its = Rotation3::from_axis_angle(&Unit::new_normalize(w), f64::to_radians(turned)) * out;
        let component = BracketEnd { at: Point3::origin(), out, bolt: 8.0, second: false };
        let car = BracketEnd { at, out: its, bolt: 8.0, second: false };
        // What is not offered is refused with words, not folded wrongly.
        let made = lands(&component, &car, strip(50.0, thick, thick), [thick, thick]);
        prop_assert!(made.is_ok() || !made.unwrap_err().to_string().is_empty());
    }

    #[test]
    fn a_second_bolt_lies_on_the_same_face(along in 90.0..200.0_f64, up in 40.0..90.0_f64) {
        let component = BracketEnd { second: true, ..end([0.0; 3], [0.0, 0.0, -1.0]) };
        let car = BracketEnd { second: true, ..end([0.0, along, up], [0.0, -1.0, 0.0]) };
        let plan = bracket_plan(&component, &car, strip(30.0, 3.0, 3.0), Material::MildSteel).unwrap();
        prop_assert_eq!(plan.holes.len(), 4);
        let both: Vec<f64> = plan.holes.iter().filter(|hole| hole.component).map(|hole| hole.at[0]).collect();
        prop_assert!((both[0] - both[1] - 24.0).abs() < 1e-9 && both[1] > 11.0);
        let (one, up_one) = folded(&plan, &component, [3.0, 3.0], [plan.holes[2].at[0], 0.0]);
        let (two, up_two) = folded(&plan, &component, [3.0, 3.0], [plan.holes[3].at[0], 0.0]);
        prop_assert!((up_one - up_two).norm() < 1e-12 && ((two - one).norm() - 24.0).abs() < 1e-9);
    }

    #[test]
    fn what_a_cantilever_gives_is_the_closed_form(length in 60.0..200.0_f64, thick in 2.0..6.0_f64) {
        let component = end([length, 0.0, 0.0], [0.0, 0.0, 1.0]);
        let car = end([0.0; 3], [0.0, 0.0, 1.0]);
        let plan = bracket_plan(&component, &car, strip(30.0, thick, thick), Material::MildSteel).unwrap();
        let gives = plan.compliance(Material::MildSteel).unwrap().gives;
        let flat = length.powi(3) / (3.0 * 205_000.0 * 30.0 * thick.powi(3) / 12.0);
        prop_assert!((gives[(2, 2)] / flat - 1.0).abs() < 0.01, "{} and {flat}", gives[(2, 2)]);
        let axial = length / (205_000.0 * 30.0 * thick);
        prop_assert!((gives[(0, 0)] / axial - 1.0).abs() < 1e-6);
        // However it is loaded, it stores energy.
        let all = nalgebra::SymmetricEigen::new((gives + gives.transpose()) / 2.0).eigenvalues;
        prop_assert!(all.iter().all(|value| *value > 0.0), "{all}");
    }
}

//! The core against reference numbers that were made independently of it. Reads `tests/vectors`, or the folder
//! that the environment variable `NOOK_VECTORS` names, and checks every file it knows.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use std::path::{Path as FilePath, PathBuf};

use nook_core::cut::WrapTemplate;
use nook_core::geometry::{Arc, Direction, Leg, Path, Point};
use nook_core::join::{bend_thrust, end_thrust};
use nook_core::measure::fix::{Kind, Lever, Pose, Sight, fix};
use nook_core::route::PieCut;
use nook_core::stock::{Material, Tube};
use nook_core::units::{OutsideDiameter, SeamCount, Wall};
use serde_json::Value;

fn folder() -> PathBuf {
    std::env::var_os("NOOK_VECTORS")
        .map_or_else(|| FilePath::new(env!("CARGO_MANIFEST_DIR")).join("tests/vectors"), PathBuf::from)
}

fn cases(file: &str) -> Vec<(Value, Value)> {
    let path = folder().join(file);
    let text = std::fs::read_to_string(&path).unwrap_or_else(|e| panic!("{}: {e}", path.display()));
    let cases: Vec<Value> = serde_json::from_str(&text).unwrap_or_else(|e| panic!("{}: {e}", path.display()));
    assert!(!cases.is_empty(), "{file} holds no case");
    cases.into_iter().map(|case| (case["given"].clone(), case["want"].clone())).collect()
}

fn number(of: &Value, name: &str) -> f64 {
    of[name].as_f64().unwrap_or_else(|| panic!("{name} is no number in {of}"))
}

fn triple(value: &Value) -> [f64; 3] {
    serde_json::from_value(value.clone()).unwrap_or_else(|e| panic!("{value}: {e}"))
}

#[track_caller]
fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1.0), "{what}: got {got}, want {want}");
}

#[track_caller]
fn near_point(got: [f64; 3], want: [f64; 3], what: &str) {
    for axis in 0..3 {
        near(got[axis], want[axis], what);
    }
}

fn point(value: &Value) -> Point {
    Point::try_from(triple(value)).unwrap()
}

fn direction(value: &Value) -> Direction {
    Direction::try_from(triple(value)).unwrap()
}

#[test]
fn every_file_in_the_folder_can_be_read() {
    let mut seen = 0;
    for entry in std::fs::read_dir(folder()).unwrap() {
        let path = entry.unwrap().path();
        if path.extension().is_some_and(|e| e == "json") {
            let text = std::fs::read_to_string(&path).unwrap();
            serde_json::from_str::<Vec<Value>>(&text).unwrap_or_else(|e| panic!("{}: {e}", path.display()));
            seen += 1;
        }
    }
    assert!(seen > 0, "no vectors in {}", folder().display());
}

#[test]
fn pie_cuts() {
    for (given, want) in cases("pie_cuts.json") {
        let seams = SeamCount::new(u8::try_from(given["seams"].as_u64().unwrap()).unwrap()).unwrap();
        let angle = number(&given, "angle").to_radians();
        let pie = PieCut::new(number(&given, "od"), number(&given, "clr"), angle, seams);
        near(pie.seam_angle.to_degrees(), number(&want, "seam_angle"), "seam angle");
        near(pie.saw.to_degrees(), number(&want, "saw_angle"), "saw angle");
        near(pie.throat, number(&want, "throat"), "throat");
        near(pie.centre, number(&want, "centre"), "centre");
        near(pie.back, number(&want, "back"), "back");
    }
}

#[test]
fn wrap_templates() {
    for (given, want) in cases("wrap_templates.json") {
        let saw = number(&given, "saw_angle").to_radians();
        let template = WrapTemplate::new(number(&given, "od"), saw, number(&given, "paper"));
        near(template.girth(), number(&want, "girth"), "girth");
        let points = u32::try_from(given["points"].as_u64().unwrap()).unwrap();
        let xs: Vec<f64> = serde_json::from_value(want["x"].clone()).unwrap();
        let heights: Vec<f64> = serde_json::from_value(want["h"].clone()).unwrap();
        let outline: Vec<_> = template.outline(points).collect();
        assert_eq!(outline.len(), xs.len());
        for ((x, h), (want_x, want_h)) in outline.into_iter().zip(xs.into_iter().zip(heights)) {
            near(x, want_x, "x");
            near(h, want_h, "h");
        }
    }
}

#[test]
fn routes() {
    for (given, want) in cases("routes.json") {
        let (mut legs, mut straight) = (Vec::new(), 0.0);
        for step in given["steps"].as_array().unwrap() {
            let figure = |at: usize| step[at].as_f64().unwrap();
            match step[0].as_str().unwrap() {
                "straight" => straight += figure(1),
                "bend" => {
                    let bend =
                        Arc { radius: figure(1), angle: figure(2).to_radians(), rotation: figure(3).to_radians() };
                    legs.push(Leg { straight, bend });
                    straight = 0.0;
                }
                other => panic!("unknown step {other}"),
            }
        }
        let path = Path::new(point(&given["start"]), direction(&given["direction"]), legs, straight);
        let wanted = want["vertices"].as_array().unwrap();
        assert_eq!(path.vertices().len(), wanted.len());
        for (got, want) in path.vertices().iter().zip(wanted) {
            near_point(got.coords.into(), triple(want), "vertex");
        }
        near_point(path.arrival().at.coords.into(), triple(&want["end"]), "end");
        near_point(path.arrival().along.to_array(), triple(&want["direction"]), "direction");
        near(path.length(), number(&want, "length"), "length");
    }
}

#[test]
fn end_thrusts() {
    for (given, want) in cases("end_thrust.json") {
        near(end_thrust(number(&given, "seal_od"), number(&given, "bar")), number(&want, "newton"), "thrust");
    }
}

#[test]
fn bend_thrusts() {
    for (given, want) in cases("bend_thrust.json") {
        let angle = number(&given, "angle").to_radians();
        near(bend_thrust(number(&given, "od"), number(&given, "bar"), angle), number(&want, "newton"), "thrust");
    }
}

#[test]
fn tube_masses() {
    for (given, want) in cases("tube_mass.json") {
        let density = number(&given, "density");
        let material = Material::ALL.into_iter().find(|m| m.density().to_bits() == density.to_bits()).unwrap();
        let od = OutsideDiameter::new(number(&given, "od")).unwrap();
        let tube = Tube::new(material, od, Wall::new(number(&given, "wall")).unwrap()).unwrap();
        near(tube.mass(number(&given, "length")), number(&want, "kg"), "mass");
    }
}

#[test]
fn tape_fixes() {
    for (given, want) in cases("tape_fixes.json") {
        let anchors: Vec<[f64; 3]> = serde_json::from_value(given["anchors"].clone()).unwrap();
        let distances: Vec<f64> = serde_json::from_value(given["distances"].clone()).unwrap();
        let sigma = number(&given, "sigma");
        let sights: Vec<Sight> = anchors
            .iter()
            .zip(&distances)
            .enumerate()
            .map(|(index, (from, mm))| {
                let (from, spread, to) = ((*from).into(), nalgebra::Matrix3::zeros(), Lever::Fixed(nalgebra::zero()));
                Sight { index, counts: true, sigma, kind: Kind::Tape { from, spread, to, mm: *mm } }
            })
            .collect();
        let found = fix(Pose { at: triple(&given["guess"]).into(), out: None }, &sights);
        near_point(found.pose.at.coords.into(), triple(&want["point"]), "point");
        let residuals: Vec<f64> = serde_json::from_value(want["residuals"].clone()).unwrap();
        for (got, want) in found.readings.iter().zip(residuals) {
            near(got.off, want, "residual");
        }
        for row in 0..3 {
            let wanted = triple(&want["cov"][row]);
            near_point([found.spread[(row, 0)], found.spread[(row, 1)], found.spread[(row, 2)]], wanted, "covariance");
        }
    }
}

//! The core against reference numbers that were made independently of it. Reads `tests/vectors`, or the folder
//! that the environment variable `NOOK_VECTORS` names, and checks every file it knows.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

mod support;

use std::path::{Path as FilePath, PathBuf};

use nook_core::cut::{ElbowCut, Saddle, SaddlePoint, WrapTemplate, seam_length};
use nook_core::fit::Takes;
use nook_core::flow::compressor_outlet;
use nook_core::join::{Beam, bend_thrust, end_thrust, firing_frequency, firing_speed, growth};
use nook_core::measure::estimate::{Kind, LeverArm, Observation, Pose, estimate_pose};
use nook_core::prove::{Held, decay, hoop_stress};
use nook_core::route::{ClockedSeam, FixedBends, LinishedPie, PieCut, PieEnds, ResolvedRun, two_fixed_bends};
use nook_core::stock::{Material, Tube};
use nook_core::weld::{GasPlan, Purge, arc_minutes, oxygen_left, turner};
use nook_geometry::linkage::{Compliance, JointErrors, Linkage, LinkageJoint};
use nook_geometry::units::{BendRadius, OutsideDiameter, SeamCount, Wall};
use nook_geometry::{Arc, Direction, Path, PathStep, Point};
use serde_json::Value;
use support::chains::{chain_model, misfit_spreads};
use support::{draft, job_with, port};

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
        let pie = PieCut::new(number(&given, "od"), number(&given, "clr"), angle, seams, PieEnds::Mitred);
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

fn path(given: &Value) -> Path {
    let (mut legs, mut straight) = (Vec::new(), 0.0);
    for step in given["steps"].as_array().unwrap() {
        let figure = |at: usize| step[at].as_f64().unwrap();
        match step[0].as_str().unwrap() {
            "straight" => straight += figure(1),
            "bend" => {
                let bend = Arc { radius: figure(1), angle: figure(2).to_radians(), rotation: figure(3).to_radians() };
                legs.push(PathStep { straight, bend });
                straight = 0.0;
            }
            other => panic!("unknown step {other}"),
        }
    }
    Path::new(point(&given["start"]), direction(&given["direction"]), legs, straight)
}

#[test]
fn routes() {
    for (given, want) in cases("routes.json") {
        let path = path(&given);
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
fn landings() {
    for (given, want) in cases("landings.json") {
        let path = path(&given);
        let [angle, offset, axial] = ["angle", "offset", "axial"].map(|part| number(&given["give"], part));
        let takes = Takes { angle: angle.to_radians(), offset, axial: [axial; 2] };
        let spread = |name: &str| number(&given, name);
        let pipe = [spread("sigma_straight"), spread("sigma_bend").to_radians(), spread("sigma_rotation").to_radians()];
        let rows: [[f64; 3]; 3] = serde_json::from_value(given["cov_b"].clone()).unwrap();
        let place = nalgebra::Matrix3::from_fn(|row, column| rows[row][column]);
        let model = chain_model(&path, pipe, place, spread("sigma_b_axis").to_radians(), takes);
        let spread = misfit_spreads(&model, takes);
        near(spread[0], number(&want, "sigma_axial"), "axial");
        near(spread[1], number(&want, "sigma_offset"), "offset");
        near(spread[2].to_degrees(), number(&want, "sigma_angle"), "angle");
        let chance = model.chance();
        assert!((chance - number(&want, "chance")).abs() <= 0.01, "{chance} {want}");
    }
}

#[test]
fn end_thrusts() {
    for (given, want) in cases("end_thrust.json") {
        near(end_thrust(number(&given, "seal_od"), number(&given, "bar")), number(&want, "newton"), "thrust");
    }
}

#[test]
fn spans_and_what_shakes_them() {
    for (given, want) in cases("span_frequencies.json") {
        let beam = Beam {
            od: number(&given, "od"),
            wall: number(&given, "wall"),
            youngs_modulus: number(&given, "e_gpa"),
            density: number(&given, "rho"),
            fluid: number(&given, "fluid_rho"),
        };
        let span = number(&given, "span");
        near(beam.frequency(span), number(&want, "hz"), "frequency");
        near(beam.longest(number(&want, "hz")), span, "the longest that rings no lower");
    }
    for (given, want) in cases("firing_speeds.json") {
        let cylinders = given["cylinders"].as_u64().and_then(|count| u8::try_from(count).ok()).unwrap();
        near(firing_speed(number(&given, "hz"), cylinders), number(&want, "rpm"), "speed");
        near(firing_frequency(number(&want, "rpm"), cylinders), number(&given, "hz"), "firing");
    }
    for (given, want) in cases("growths.json") {
        let grown = growth(number(&given, "length"), number(&given, "alpha_1e6") * 1e-6, number(&given, "dt"));
        near(grown, number(&want, "mm"), "growth");
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
        let material = Material::METALS.into_iter().find(|m| m.density().to_bits() == density.to_bits()).unwrap();
        let od = OutsideDiameter::new(number(&given, "od")).unwrap();
        let tube = Tube::new(material, od, Wall::new(number(&given, "wall")).unwrap()).unwrap();
        near(tube.mass(number(&given, "length")), number(&want, "kg"), "mass");
    }
}

#[test]
fn welds() {
    for (given, want) in cases("seam_lengths.json") {
        let got = seam_length(number(&given, "od"), number(&given, "saw_angle").to_radians());
        near(got, number(&want, "mm"), "seam length");
    }
    for (given, want) in cases("turners.json") {
        let got = turner(number(&given, "od"), number(&given, "travel_mm_min"));
        near(got.rpm, number(&want, "rpm"), "turns a minute");
        near(got.seconds, 60.0 / number(&want, "rpm"), "seconds a turn");
    }
    for (given, want) in cases("oxygen_left.json") {
        near(oxygen_left(number(&given, "volumes")), number(&want, "ppm"), "oxygen left");
    }
}

#[test]
fn gas_for_welding() {
    for (given, want) in cases("purges.json") {
        let flow = number(&given, "flow_l_min");
        let purge = Purge { litres: number(&given, "litres"), volumes: number(&given, "volumes"), flow };
        near(purge.seconds(), number(&want, "seconds"), "purge");
    }
    for (given, want) in cases("gases.json") {
        let (litres, volumes) = (number(&given, "purge_litres"), number(&given, "volumes"));
        let arc = arc_minutes(number(&given, "weld_mm"), number(&given, "travel_mm_min"));
        near(arc, number(&want, "arc_minutes"), "arc");
        let purge = Some(Purge { litres, volumes, flow: number(&given, "purge_flow") });
        let (torch_flow, pauses) = (number(&given, "torch_flow"), number(&given, "pause_minutes"));
        near(GasPlan { purge, torch_flow, arc, pauses, post_flow: 0.0 }.litres(), number(&want, "litres"), "gas");
    }
}

#[test]
fn pressure_tests() {
    for (given, want) in cases("decays.json") {
        let pair = |bar, celsius| [number(&given, bar), number(&given, celsius)];
        let (litres, seconds) = (number(&given, "litres"), number(&given, "seconds"));
        let got = decay(&Held { litres, first: pair("bar_1", "c_1"), last: pair("bar_2", "c_2"), seconds });
        near(got.bar_at_first, number(&want, "bar_2_at_c_1"), "pressure at the first temperature");
        near(got.lost_bar, number(&want, "lost_bar"), "pressure lost");
        near(got.pa_m3_s, number(&want, "pa_m3_s"), "leak");
        near(got.sccm, number(&want, "sccm"), "standard leak");
    }
    for (given, want) in cases("hoops.json") {
        let got = hoop_stress(number(&given, "od"), number(&given, "wall"), number(&given, "bar"));
        near(got, number(&want, "mpa"), "hoop stress");
    }
}

#[test]
fn compressor_outlets() {
    for (given, want) in cases("compressor_outlets.json") {
        let [inlet, boost, eta] = ["inlet_c", "boost_bar", "efficiency"].map(|name| number(&given, name));
        near(compressor_outlet(inlet, boost, eta), number(&want, "c"), "outlet");
    }
}

#[test]
fn tape_fixes() {
    for (given, want) in cases("tape_fixes.json") {
        let anchors: Vec<[f64; 3]> = serde_json::from_value(given["anchors"].clone()).unwrap();
        let distances: Vec<f64> = serde_json::from_value(given["distances"].clone()).unwrap();
        let sigma = number(&given, "sigma");
        let sights: Vec<Observation> = anchors
            .iter()
            .zip(&distances)
            .enumerate()
            .map(|(index, (from, mm))| {
                let (from, spread, to) =
                    ((*from).into(), nalgebra::Matrix3::zeros(), LeverArm::Fixed(nalgebra::zero()));
                Observation::of(index, sigma, Kind::Tape { from, spread, rim: None, to, mm: *mm })
            })
            .collect();
        let found = estimate_pose(Pose { at: triple(&given["guess"]).into(), out: None }, &sights);
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

#[test]
fn two_bends_of_fixed_angles() {
    for (given, want) in cases("two_stock_bends.json") {
        let out = |name: &str| direction(&given[name]);
        let mut draft =
            draft(port(triple(&given["a"]), [1.0, 0.0, 0.0], 38.1), port(triple(&given["b"]), [1.0, 0.0, 0.0], 38.1));
        (draft.a.out, draft.b.out) = (out("da"), out("db"));
        draft.radius = Some(BendRadius::new(number(&given, "clr")).unwrap());
        let (job, id) = job_with(draft);
        let angles = ["t1", "t2"].map(|name| number(&given, name).to_radians());
        let found = two_fixed_bends(&ResolvedRun::as_typed(job.run(id).unwrap()), angles);
        let want = want.as_array().unwrap();
        assert_eq!(found.len(), want.len(), "{given}");
        for wanted in want {
            let lengths = ["l1", "l2", "l3"].map(|name| number(wanted, name));
            let alike = |got: &FixedBends| got.straights.iter().zip(lengths).all(|(p, q)| (p - q).abs() < 1e-5);
            let got = found.iter().find(|got| alike(got)).unwrap_or_else(|| panic!("{wanted} is not among {found:?}"));
            for (vertex, wanted) in got.vertices.iter().zip(wanted["vertices"].as_array().unwrap()) {
                near_point(*vertex, triple(wanted), "vertex");
            }
        }
    }
}

#[test]
fn seams_turned_out_of_plane() {
    for (given, want) in cases("clocked_seams.json") {
        let [saw, psi] = ["saw_angle", "psi"].map(|name| number(&given, name).to_radians());
        let seam = ClockedSeam::new(number(&given, "od"), saw, psi);
        near(seam.deflection.to_degrees(), number(&want, "deflection"), "deflection");
        near(seam.azimuth.to_degrees(), number(&want, "azimuth"), "azimuth");
        near(seam.step, number(&want, "step"), "step");
    }
}

#[test]
fn pies_sanded_further() {
    for (given, want) in cases("linished_pies.json") {
        let (od, clr) = (number(&given, "od"), number(&given, "clr"));
        let [seam, extra] = ["seam_angle", "extra_per_face"].map(|name| number(&given, name).to_radians());
        let pie = LinishedPie::new(od, clr, seam, extra);
        near(pie.seam_angle.to_degrees(), number(&want, "seam_angle"), "seam angle");
        near(pie.off_throat, number(&want, "off_throat_per_face"), "off the throat");
        near(pie.clr, number(&want, "clr"), "radius");
        near(pie.throat, number(&want, "throat"), "throat");
    }
}

#[test]
fn elbows_cut_down() {
    for (given, want) in cases("trimmed_elbows.json") {
        let [stock, wanted] = ["stock_angle", "want_angle"].map(|name| number(&given, name).to_radians());
        let cut =
            ElbowCut::new(number(&given, "od"), number(&given, "clr"), stock, wanted, number(&given, "kerf")).unwrap();
        near(cut.throat, number(&want, "throat_mark"), "throat");
        near(cut.centre, number(&want, "centre_mark"), "centre");
        near(cut.back, number(&want, "back_mark"), "back");
        near(cut.left_over.to_degrees(), number(&want, "left_over"), "left over");
        assert!(ElbowCut::new(63.5, 95.25, wanted, stock + 0.01, 2.0).is_err(), "no elbow has more than it has");
    }
}

#[test]
fn saddles() {
    for (given, want) in cases("saddles.json") {
        let [branch, main, angle, offset] = ["branch_od", "main_od", "angle", "offset"].map(|one| number(&given, one));
        let outline = Saddle::new(branch, main, angle.to_radians(), offset).unwrap().outline(24);
        let column = |name: &str| -> Vec<f64> {
            want[name].as_array().unwrap().iter().map(|one| one.as_f64().unwrap()).collect()
        };
        for (name, of) in [
            ("x", &(|one: &SaddlePoint| one.girth) as &dyn Fn(&SaddlePoint) -> f64),
            ("h", &|one| one.height),
            ("hole_along", &|one| one.along),
            ("hole_round", &|one| one.round),
        ] {
            let got: Vec<f64> = outline.iter().map(of).collect();
            let want = column(name);
            assert_eq!(got.len(), want.len());
            got.iter().zip(&want).for_each(|(got, want)| near(*got, *want, name));
        }
        near(outline.last().unwrap().girth, number(&want, "girth"), "girth");
    }
}

#[test]
fn sections_between_joints() {
    for (given, want) in cases("sections_between_joints.json") {
        let give = |name: &str| Compliance {
            angle: number(&given[name], "angle").to_radians(),
            offset: number(&given[name], "offset"),
            axial: number(&given[name], "axial"),
        };
        // Axes point out of the section; along the chain the first runs the other way.
        let joint = |at: &str, axis: &str, gives: &str, sign: f64| LinkageJoint {
            at: triple(&given[at]).into(),
            along: nalgebra::Vector3::from(triple(&given[axis])).normalize() * sign,
            give: give(gives),
        };
        let chain = Linkage::new(vec![joint("at_a", "axis_a", "give_a", -1.0), joint("at_b", "axis_b", "give_b", 1.0)]);
        let moved = &given["moved_a"];
        let axis = nalgebra::Unit::new_normalize(nalgebra::Vector3::from(triple(&moved["axis"])));
        let turn = nalgebra::UnitQuaternion::from_axis_angle(&axis, number(moved, "degrees").to_radians());
        let mut pose = nalgebra::Isometry3::rotation_wrt_point(turn, triple(&moved["axis_point"]).into());
        pose.translation.vector += nalgebra::Vector3::from(triple(&moved["shift"]));
        let rest = chain.settle([pose, nalgebra::Isometry3::identity()], 0.0, None).unwrap();
        let close = |got: f64, want: f64, what: &str| assert!((got - want).abs() <= 1e-4, "{what}: {got} {want}");
        let check = |errors: &JointErrors, name: &str, gives: &str| {
            let want = &want[name];
            let [angle, offset, _] = errors.sizes();
            close(angle.to_degrees(), number(want, "angle"), "angle");
            close(offset, number(want, "offset"), "offset");
            close(errors.axial, number(want, "axial"), "axial");
            close(errors.share(&give(gives)), number(want, "use"), "use");
        };
        check(&rest.joints[0], "a", "give_a");
        check(&rest.joints[1], "b", "give_b");
        close(rest.sum_of_squares, number(&want, "sum_of_squares"), "sum of squares");
    }
}

//! How long finding a port takes, and measuring against a scan.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

use nalgebra::{Matrix3, Point3, Unit, Vector3};
use nook_core::measure::estimate::{Kind, LeverArm, Observation, Pose, estimate_pose};
use nook_geometry::{Mesh, Point};

fn main() {
    divan::main();
}

/// Ten tapes to the mouth and to a stick in it, and an angle gauge; `bad` mm on the fourth tape.
fn twelve_readings(bad: f64) -> (Pose, Vec<Observation>) {
    let anchors = [
        [-600.0, -650.0, 250.0],
        [-600.0, 650.0, 300.0],
        [650.0, -600.0, -150.0],
        [650.0, 600.0, 350.0],
        [0.0, 650.0, -350.0],
    ];
    let (at, out) = (Point3::new(120.0, -80.0, 60.0), Unit::new_normalize(Vector3::new(0.5, 0.7, 0.2)));
    let mut sights = Vec::new();
    for (which, lever) in [(0, LeverArm::Fixed(Vector3::zeros())), (1, LeverArm::Stick(300.0))] {
        let end = if which == 0 { at } else { at + out.into_inner() * 300.0 };
        for (k, from) in anchors.iter().enumerate() {
            let from = Point3::from(*from);
            // Errors of a mm or so that repeat.
            let noise = f64::from(u32::try_from(k * 7 % 5).unwrap()) * 0.5 - 1.0;
            let mm = (end - from).norm() + noise + if which == 0 && k == 3 { bad } else { 0.0 };
            let kind = Kind::Tape { from, spread: Matrix3::zeros(), rim: None, to: lever, mm };
            sights.push(Observation::of(sights.len(), 1.5, kind));
        }
    }
    for kind in [Kind::Heading(out.y.atan2(out.x) + 0.004), Kind::Pitch(out.z.asin() - 0.003)] {
        sights.push(Observation::of(sights.len(), 0.5_f64.to_radians(), kind));
    }
    let rough =
        Pose { at: at + Vector3::new(20.0, -15.0, 30.0), out: Some(Unit::new_normalize(Vector3::new(0.6, 0.6, 0.1))) };
    (rough, sights)
}

#[divan::bench]
fn a_port_with_twelve_readings(bencher: divan::Bencher<'_, '_>) {
    let (rough, sights) = twelve_readings(0.0);
    bencher.bench(|| estimate_pose(rough, &sights));
}

#[divan::bench]
fn the_same_with_a_bad_one_to_be_named(bencher: divan::Bencher<'_, '_>) {
    let (rough, sights) = twelve_readings(30.0);
    bencher.bench(|| estimate_pose(rough, &sights).outlier_test().clone());
}

fn million() -> Mesh {
    let side = 708_u32;
    let across = side + 1;
    let spot = |k: u32| (f64::from(k % across), f64::from(k / across));
    let height =
        |x: f64, y: f64| 40.0 * (x * 0.013).sin() * (y * 0.017).cos() + 3.0 * (x * 0.4).sin() * (y * 0.3).sin();
    let vertices: Vec<[f64; 3]> =
        (0..across * across).map(spot).map(|(x, y)| [x * 0.6, y * 0.6, height(x, y)]).collect();
    let square = |k: u32| {
        let at = k / side * across + k % side;
        [[at, at + 1, at + across], [at + 1, at + across + 1, at + across]]
    };
    Mesh::new(&vertices, (0..side * side).flat_map(square).collect()).unwrap()
}

#[divan::bench]
fn a_point_to_a_million_triangles(bencher: divan::Bencher<'_, '_>) {
    let mesh = million();
    let mut k = 0_u32;
    bencher.bench_local(|| {
        k = (k + 37) % 400;
        mesh.distance_to_point(Point::new(f64::from(k), 200.0, 90.0).unwrap())
    });
}

/// A leg of 63.5 mm tube over the surface; `k` moves it.
fn leg(mesh: &Mesh, k: f64) -> f64 {
    let from = Point::new(k, 120.0, 85.0).unwrap();
    let to = Point::new(k * 0.5 + 60.0, 300.0, 120.0).unwrap();
    mesh.distance_to_bar(from, to, 31.75).unwrap()
}

#[divan::bench]
fn a_bar_dragged_over_a_million_triangles(bencher: divan::Bencher<'_, '_>) {
    let mesh = million();
    let mut k = 0.0;
    bencher.bench_local(|| {
        k = (k + 0.7) % 400.0;
        leg(&mesh, k)
    });
}

#[divan::bench]
fn a_bar_jumping_over_a_million_triangles(bencher: divan::Bencher<'_, '_>) {
    let mesh = million();
    let mut k = 0.0;
    bencher.bench_local(|| {
        k = (k + 37.0) % 400.0;
        leg(&mesh, k)
    });
}

#[divan::bench]
fn everything_of_the_demo_adjusted_together(bencher: divan::Bencher<'_, '_>) {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../demo/pellow-van.json")).unwrap();
    let job: nook_core::Job = serde_json::from_value(file["job"].clone()).unwrap();
    bencher.bench(|| nook_core::survey::Survey::new(&job).instruments());
}

#[divan::bench]
fn the_bay_of_the_demo_with_what_would_help(bencher: divan::Bencher<'_, '_>) {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../demo/pellow-van.json")).unwrap();
    let job: nook_core::Job = serde_json::from_value(file["job"].clone()).unwrap();
    bencher.bench(|| nook_core::workup::bay(&job));
}

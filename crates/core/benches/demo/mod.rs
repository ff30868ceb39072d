//! The demo's bay for benchmarks, with a scanned lump of any fineness.

#![allow(dead_code, unreachable_pub, clippy::unwrap_used, reason = "each bench uses its own part of this module")]

use std::sync::Arc;

use nook_core::environment::Scans;
use nook_core::measure::{KeepOutKind, KeepOutShape, ScanUnit, Side};
use nook_core::{Edit, Job, MeasureEdit, apply};
use nook_geometry::Mesh;
use nook_geometry::units::Name;

const DEMO: &str = include_str!("../../../../demo/pellow-van.json");

/// The demo's job, without its scan.
pub fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    let mut job: Job = serde_json::from_value(file["job"].clone()).unwrap();
    let scans = job.keep_outs().iter().filter(|one| matches!(one.shape, KeepOutShape::Scan(_)));
    for keep_out in scans.map(|one| one.id).collect::<Vec<_>>() {
        job = apply(&job, &Edit::Measure(MeasureEdit::RemoveKeepOut { keep_out })).unwrap().job;
    }
    job
}

/// A hilly ball of about so many triangles, 240 mm across.
pub fn hilly(triangles: u32) -> Mesh {
    let rows = f64::from(triangles / 4).sqrt().ceil();
    let mut count = 2_u32;
    while f64::from(count) < rows {
        count += 1;
    }
    let round = 2 * count;
    let corner = |i: u32, j: u32| {
        let (up, turn) = (
            std::f64::consts::PI * f64::from(i) / f64::from(count),
            std::f64::consts::TAU * f64::from(j) / f64::from(round),
        );
        let radius = 120.0 + 4.0 * (9.0 * turn).sin() * (7.0 * up).sin();
        [radius * up.sin() * turn.cos(), radius * up.sin() * turn.sin(), radius * up.cos()]
    };
    let vertices: Vec<[f64; 3]> =
        (0..=count).flat_map(|i| (0..round).map(move |j| (i, j))).map(|(i, j)| corner(i, j)).collect();
    let at = |i: u32, j: u32| i * round + j % round;
    let triangles = (0..count).flat_map(|i| {
        (0..round)
            .flat_map(move |j| [[at(i, j), at(i + 1, j), at(i + 1, j + 1)], [at(i, j), at(i + 1, j + 1), at(i, j + 1)]])
    });
    Mesh::new(&vertices, triangles.collect()).unwrap()
}

/// The job with a lump on the engine, below the demo's hot side charge pipe and within interest of it.
pub fn with_lump(job: &Job, lump: Mesh) -> (Job, Scans) {
    let id = "0123456789abcdef".repeat(4);
    let matched: Vec<serde_json::Value> = [[0.0, 0.0, 0.0], [100.0, 0.0, 0.0], [0.0, 100.0, 0.0]]
        .map(|[x, y, z]| serde_json::json!({ "scan": [x, y, z], "to": { "is": "point", "at": [x + 90.0, y - 40.0, z + 40.0] } }))
        .to_vec();
    let shape: KeepOutShape =
        serde_json::from_value(serde_json::json!({ "shape": "scan", "scan": id, "unit": "mm", "matched": matched }))
            .unwrap();
    let KeepOutShape::Scan(scan) = &shape else { unreachable!("a scan was said") };
    let mut scans = Scans::default();
    scans.insert(scan.scan.clone(), ScanUnit::Mm, Arc::new(lump));
    let name = Name::new("lump").unwrap();
    let edit = Edit::Measure(MeasureEdit::AddKeepOut {
        name,
        kind: KeepOutKind::StillMetal,
        rides: Side::Engine,
        shape,
        big: false,
    });
    (apply(job, &edit).unwrap().job, scans)
}

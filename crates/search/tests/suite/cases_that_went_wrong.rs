//! Jobs that strangers' tests turned up: what was called clear and is not stays wrong-proof.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::sync::Arc;
use std::sync::atomic::AtomicBool;

use nook_core::findings::Severity;
use nook_core::measure::{KeepOutShape, ScanUnit};
use nook_core::route::{Centreline, Route};
use nook_core::{Edit, Job, MeasureEdit, RouteEdit, RunId, Scans, Workup, apply, workup, workup_among};
use nook_geometry::Mesh;
use nook_search::{Outcome, RoutesFound, search};

fn case(name: &str) -> (Job, RunId) {
    let path = format!("{}/tests/cases/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let file: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let job: Job = serde_json::from_value(nook_core::job::upgraded(3, file["job"].clone())).unwrap();
    let run = job.runs().iter().find(|run| run.name.as_str() == "pipe").unwrap().id;
    (job, run)
}

fn ways(job: &Job, run: RunId) -> RoutesFound {
    search(job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap()
}

fn straight(job: &Job, run: RunId) -> Job {
    apply(job, &Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::Straight) })).unwrap().job
}

fn fouls(workup: &Workup, what: &str) -> bool {
    workup.findings.iter().any(|f| f.severity == Severity::Error && f.words.mm.contains(what))
}

/// Whatever lay within a ball round the mouth was excused along the whole first straight.
#[test]
fn a_box_before_a_mouth_or_leaning_into_its_pipe_is_run_into() {
    for name in ["front30", "leaning"] {
        let (job, run) = case(name);
        let found = workup(&straight(&job, run), run).unwrap();
        assert!(fouls(&found, "thing 0"), "{name}: {:?}", found.findings);
        assert!(found.air.unwrap().margin.unwrap().mm() < -30.0, "{name}");
        let course = Route::along(Centreline::Straight);
        assert!(ways(&job, run).offers.iter().all(|offer| !offer.fits() || offer.way != course), "{name}");
    }
}

/// The second lump of a scan was excused because the mouth stands on the first.
#[test]
fn a_lump_of_the_scan_that_the_mouth_stands_on_is_run_into() {
    let (job, run) = case("scan_two");
    let KeepOutShape::Scan(scan) = &job.keep_outs()[0].shape else { panic!("a scan") };
    let block = |[low, high]: [[f64; 3]; 2], vertices: &mut Vec<[f64; 3]>, triangles: &mut Vec<[u32; 3]>| {
        let first = u32::try_from(vertices.len()).unwrap();
        vertices.extend(
            (0..8).map(|k| [0, 1, 2].map(|axis| if k >> (2 - axis) & 1 == 0 { low[axis] } else { high[axis] })),
        );
        let faces = [[0, 1, 3, 2], [4, 6, 7, 5], [0, 4, 5, 1], [2, 3, 7, 6], [0, 2, 6, 4], [1, 5, 7, 3]];
        triangles
            .extend(faces.iter().flat_map(|[a, b, c, d]| [[*a, *b, *c], [*a, *c, *d]]).map(|t| t.map(|i| i + first)));
    };
    let (mut vertices, mut triangles) = (Vec::new(), Vec::new());
    block([[-40.0, -150.0, -150.0], [0.0, 150.0, 150.0]], &mut vertices, &mut triangles);
    block([[150.0, -60.0, -60.0], [250.0, 60.0, 60.0]], &mut vertices, &mut triangles);
    let mut scans = Scans::default();
    scans.insert(scan.scan.clone(), ScanUnit::Mm, Arc::new(Mesh::new(&vertices, triangles).unwrap()));
    let found = workup_among(&straight(&job, run), run, &scans).unwrap();
    assert!(fouls(&found, "engine scan"), "{:?}", found.findings);
    let found = search(&job, run, &scans, &AtomicBool::new(false), &|_| {}).unwrap();
    let fit: Vec<_> = found.offers.iter().filter(|offer| offer.fits()).collect();
    assert!(!fit.is_empty(), "there is room round the second lump");
    assert!(fit.iter().all(|offer| offer.way != Route::along(Centreline::Straight)));
    // Without the scan nobody knows, and that is said.
    assert!(!ways(&job, run).cautions.is_empty());
}

/// A mouth 4 mm off a slab lowered the gap asked all along.
#[test]
fn a_slab_beside_the_mouth_asks_its_gap_of_the_rest_of_the_pipe() {
    let (job, run) = case("slab_ball");
    let found = ways(&job, run);
    assert_eq!(found.outcome, Outcome::MouthsTooNear);
    for offer in &found.offers {
        // What cannot be helped is told, and is at the mouth.
        let slab = offer.short.iter().find(|short| short.name == "thing 0").unwrap();
        assert!((3.7..=4.05).contains(&slab.gap.mm()), "{}: {}", offer.name, slab.words.mm);
        if !offer.fits_but_for_the_mouths() {
            continue;
        }
        assert!(slab.mouth.is_some(), "{}: {}", offer.name, slab.words.mm);
        let taken = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
        let air = workup(&taken, run).unwrap().air.unwrap();
        let beyond = air.trace.iter().filter(|piece| piece.from > 150.0);
        let least = beyond.filter_map(|piece| piece.gap).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min);
        assert!(least >= 9.9, "{}: {least}", offer.name);
    }
}

/// Neither the search nor the workup looked whether a pipe crosses itself.
#[test]
fn no_pipe_that_crosses_itself_is_called_clear() {
    for name in ["S30", "crossleads"] {
        let (job, run) = case(name);
        for offer in ways(&job, run).offers.iter().filter(|offer| offer.fits()) {
            let taken = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
            let found = workup(&taken, run).unwrap();
            assert!(!found.findings.iter().any(|f| f.words.mm.contains("same pipe")), "{name}: {}", offer.name);
        }
    }
}

/// Another pipe was held to move along with this one.
#[test]
fn a_neighbour_that_rides_on_the_engine_comes_near_as_it_rolls() {
    let (job, run) = case("two");
    let found = workup(&job, run).unwrap();
    assert!(fouls(&found, "other"), "{:?}", found.findings);
}

/// Metal at both ends, one of them on the engine, was nowhere told.
#[test]
fn metal_on_engine_and_body_is_told_at_once() {
    let (job, run) = case("bb");
    let found = ways(&job, run);
    assert!(found.cautions.iter().any(|words| words.mm.contains("37")), "{:?}", found.cautions);
    let offer = found.offers.first().unwrap();
    let taken = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
    let found = workup(&taken, run).unwrap();
    assert!(found.findings.iter().any(|f| f.severity == Severity::Error && f.words.mm.contains("gives nowhere")));
}

/// The first offer was twice as long as a way that fits.
#[test]
fn a_short_way_among_a_hundred_things_is_found() {
    let (job, run) = case("hp_6015_100_10");
    let found = ways(&job, run);
    let first = found.offers.first().filter(|offer| offer.fits()).unwrap();
    assert!(first.figures.length.mm() <= 1.3 * 574.0, "{} mm", first.figures.length.mm());
}

/// "Nothing found" is told apart from "proven impossible".
#[test]
fn a_mouth_walled_in_is_proven_closed_and_a_gap_just_too_small_for_bends_is_not() {
    let (job, run) = case("front30");
    let wall = |job: &Job, centre: [f64; 3], size: [f64; 3]| {
        let name = nook_geometry::units::Name::new("wall").unwrap();
        let shape = KeepOutShape::Box { centre: centre.try_into().unwrap(), size, heading: 0.0, pitch: 0.0, roll: 0.0 };
        let kind = nook_core::measure::KeepOutKind::StillMetal;
        let edit = Edit::Measure(MeasureEdit::AddKeepOut {
            name,
            kind,
            rides: nook_core::measure::Side::Body,
            shape,
            big: false,
        });
        apply(job, &edit).unwrap().job
    };
    let mut closed = job.clone();
    for axis in 0..3 {
        for side in [-1.0, 1.0] {
            let (mut centre, mut size) = ([0.0; 3], [500.0; 3]);
            centre[axis] = side * 240.0;
            size[axis] = 20.0;
            closed = wall(&closed, centre, size);
        }
    }
    let found = ways(&closed, run);
    assert_eq!(found.outcome, Outcome::Closed, "{}", found.said.mm);
    assert!(!found.give.is_empty(), "what would have to give is told all the same");
    assert_eq!(ways(&job, run).outcome, Outcome::NothingFound);
}

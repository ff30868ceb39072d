//! The measuring as open files: tables that come back the same, and models that other readers open.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::geometry::Point;
use nook_core::measure::{KeepOutShape, Side, facets};
use nook_core::units::{Name, OutsideDiameter};
use nook_core::{Edit, Job, apply};
use nook_formats::{Part, bay_glb, bay_stl, datums_csv, read_datums, read_job, read_readings, readings_csv};

fn demo() -> Job {
    read_job(include_bytes!("../../../demo/pellow-van.json")).unwrap()
}

/// The demo without its readings.
fn bare() -> Job {
    let mut job = demo();
    let all: Vec<_> = job.readings().map(|(of, readings)| (of, readings.len())).collect();
    for (of, count) in all {
        for _ in 0..count {
            job = apply(&job, &Edit::RemoveReading { of, index: 0 }).unwrap();
        }
    }
    job
}

#[test]
fn every_reading_comes_back_from_its_table_as_it_was() {
    let job = demo();
    let table = readings_csv(&job).unwrap();
    assert!(table.starts_with("of,by,from,spot,axis,value,counts,spread\n"), "{table}");
    let edits = read_readings(&bare(), &table).unwrap();
    let again = apply(&bare(), &Edit::Together { edits }).unwrap();
    assert_eq!(again, job);
    // What is there already is not taken twice.
    assert_eq!(read_readings(&job, &table).unwrap(), []);
}

#[test]
fn datum_points_go_out_and_come_in_by_their_names() {
    let job = demo();
    let table = datums_csv(&job).unwrap();
    let edits = read_datums(&job, &table).unwrap();
    assert!(edits.iter().all(|edit| matches!(edit, Edit::SetDatum { .. })), "all are known by name");
    assert_eq!(apply(&job, &Edit::Together { edits }).unwrap(), job);
    let empty = Job::new(Name::new("Another van").unwrap());
    let filled = apply(&empty, &Edit::Together { edits: read_datums(&empty, &table).unwrap() }).unwrap();
    let places = |job: &Job| job.datums().iter().map(|datum| (datum.name.clone(), datum.at)).collect::<Vec<_>>();
    assert_eq!(places(&filled), places(&job));
}

#[test]
fn a_table_with_a_mistake_says_where_and_nothing_of_it_is_taken() {
    let job = demo();
    for (line, says) in [
        ("datum: nowhere,tape,zero,,,500,yes,", "line 2, of: \u{201c}datum: nowhere\u{201d} is not in this job"),
        ("datum: left strut bolt,tape,zero,,,-5,yes,", "line 2, value: a tape reading must be between"),
        ("datum: left strut bolt,tape,zero,,,five,yes,", "line 2, value: \u{201c}five\u{201d} is no number"),
        ("datum: left strut bolt,guess,zero,,,5,yes,", "line 2, by: \u{201c}guess\u{201d} is no kind of reading"),
        ("datum: left strut bolt,tape,zero,corner,,5,yes,", "line 2, spot: it must be empty"),
        ("datum: left strut bolt,offset,zero,,w,5,yes,", "line 2, axis: x, y or z is needed"),
    ] {
        let table = format!("of,by,from,spot,axis,value,counts,spread\n{line}\n");
        let error = read_readings(&job, &table).unwrap_err().to_string();
        assert!(error.starts_with(says), "{error}");
    }
    assert!(read_datums(&job, "a,b\n1,2\n").unwrap_err().to_string().contains("name,x_mm,y_mm,z_mm,rides"));
    let error = read_datums(&job, "name,x_mm,y_mm,z_mm,rides\nbolt,1,nan,3,body\n").unwrap_err().to_string();
    assert!(error.contains("line 2") && error.contains("a coordinate must be between"), "{error}");
}

fn parts() -> Vec<Part> {
    let at = |x, y, z| Point::new(x, y, z).unwrap();
    let block = KeepOutShape::Box {
        centre: at(100.0, 20.0, 30.0),
        size: [40.0, 20.0, 10.0],
        heading: 90.0,
        pitch: 0.0,
        roll: 0.0,
    };
    let bar = KeepOutShape::Cylinder {
        from: at(0.0, 0.0, 0.0),
        to: at(0.0, 0.0, 80.0),
        diameter: OutsideDiameter::new(50.0).unwrap(),
    };
    // An outline that turns inwards: an L of six corners.
    let l = [[0.0, 0.0], [60.0, 0.0], [60.0, 20.0], [20.0, 20.0], [20.0, 60.0], [0.0, 60.0]];
    let sheet = KeepOutShape::Sheet { corners: l.iter().map(|[x, z]| at(*x, 5.0, *z)).collect() };
    let names = ["block", "bar", "bracket"];
    [block, bar, sheet]
        .iter()
        .zip(names)
        .map(|(shape, name)| Part { name: name.to_owned(), role: "keep-out", rides: Side::Body, facets: facets(shape) })
        .collect()
}

#[test]
fn another_reader_opens_the_gltf_in_metres_with_names() {
    let file = bay_glb(&parts()).unwrap();
    let read = gltf::Gltf::from_slice(&file).unwrap();
    let root = read.scenes().next().unwrap().nodes().next().unwrap();
    let names: Vec<_> = root.children().map(|node| node.name().unwrap().to_owned()).collect();
    assert_eq!(names, ["block", "bar", "bracket"]);
    let blob = read.blob.as_deref();
    let turn = root.transform().matrix();
    let place = |[x, y, z]: [f32; 3]| -> [f32; 3] {
        std::array::from_fn(|i| turn[0][i] * x + turn[1][i] * y + turn[2][i] * z + turn[3][i])
    };
    let corners = |node: &gltf::Node<'_>| -> Vec<[f32; 3]> {
        let primitive = node.mesh().unwrap().primitives().next().unwrap();
        primitive.reader(|_| blob).read_positions().unwrap().map(place).collect()
    };
    // Turned by 90 degrees its 40 mm lie across: left is x there, up y and forward z.
    let block = corners(&root.children().next().unwrap());
    let span = |axis: usize| {
        let all = block.iter().map(|corner| corner[axis]);
        (all.clone().fold(f32::INFINITY, f32::min), all.fold(f32::NEG_INFINITY, f32::max))
    };
    for (axis, (least, most)) in [(0, (0.0, 0.04)), (1, (0.025, 0.035)), (2, (0.09, 0.11))] {
        let (low, high) = span(axis);
        assert!((low - least).abs() < 1e-6 && (high - most).abs() < 1e-6, "{axis}: {low} to {high}");
    }
}

#[test]
fn the_stl_holds_every_triangle_in_mm_and_an_outline_keeps_its_area() {
    let parts = parts();
    let file = bay_stl(&parts).unwrap();
    let mesh = stl_io::read_stl(&mut std::io::Cursor::new(file)).unwrap();
    let count: usize = parts.iter().map(|part| part.facets.triangles.len()).sum();
    assert_eq!(mesh.faces.len(), count);
    let area = |part: &Part| -> f64 {
        let at = |corner: u32| Point::try_from(part.facets.vertices[corner as usize]).unwrap();
        part.facets.triangles.iter().map(|[a, b, c]| at(*a).to(at(*b)).cross(&at(*a).to(at(*c))).norm() / 2.0).sum()
    };
    // The L: 60 x 20 and 20 x 40. The block: two each of 40 x 20, 40 x 10 and 20 x 10.
    assert!((area(&parts[2]) - 2000.0).abs() < 1e-9, "{}", area(&parts[2]));
    assert!((area(&parts[0]) - 2800.0).abs() < 1e-9, "{}", area(&parts[0]));
    assert!(bay_stl(&[]).is_err() && bay_glb(&[]).is_err());
}

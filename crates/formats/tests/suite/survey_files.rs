//! The measuring as open files: tables that come back the same, and models that other readers open.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::measure::{KeepOutShape, Side, facets};
use nook_core::{Edit, Job, MeasureEdit, apply};
use nook_geometry::Point;
use nook_geometry::units::{Name, OutsideDiameter};
use proptest::prelude::*;

use nook_formats::{Part, bay_glb, bay_stl, datums_csv, read_datums, read_job, read_readings, readings_csv};

fn demo() -> Job {
    read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap()
}

/// The demo without its readings.
fn bare() -> Job {
    let mut job = demo();
    let all: Vec<_> = job.readings().map(|(of, readings)| (of, readings.len())).collect();
    for (of, count) in all {
        for _ in 0..count {
            job = apply(&job, &Edit::Measure(MeasureEdit::RemoveReading { of, index: 0 })).unwrap().job;
        }
    }
    job
}

#[test]
fn every_reading_comes_back_from_its_table_as_it_was() {
    let job = demo();
    let table = readings_csv(&job).unwrap();
    assert!(table.starts_with("\u{feff}of,by,from,spot,axis,value,wall_mm,counts,spread\n"), "{table}");
    let edits = read_readings(&bare(), table.as_bytes()).unwrap();
    let again = apply(&bare(), &Edit::Together { edits }).unwrap().job;
    assert_eq!(again, job);
    // What is there already is not taken twice.
    assert_eq!(read_readings(&job, table.as_bytes()).unwrap(), []);
}

#[test]
fn datum_points_go_out_and_come_in_by_their_names() {
    let job = demo();
    let table = datums_csv(&job).unwrap();
    let edits = read_datums(&job, table.as_bytes()).unwrap();
    assert!(
        edits.iter().all(|edit| matches!(edit, Edit::Measure(MeasureEdit::SetDatum { .. }))),
        "all are known by name"
    );
    assert_eq!(apply(&job, &Edit::Together { edits }).unwrap().job, job);
    let empty = Job::new(Name::new("Another van").unwrap());
    let filled = apply(&empty, &Edit::Together { edits: read_datums(&empty, table.as_bytes()).unwrap() }).unwrap().job;
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
        let error = read_readings(&job, table.as_bytes()).unwrap_err().to_string();
        assert!(error.starts_with(says), "{error}");
    }
    assert!(
        read_datums(&job, b"a,b\n1,2\n").unwrap_err().to_string().contains("name, x_mm, y_mm, z_mm; name is missing")
    );
    let error = read_datums(&job, b"name,x_mm,y_mm,z_mm,rides\nbolt,1,nan,3,body\n").unwrap_err().to_string();
    assert!(error.contains("line 2, y_mm") && error.contains("is no number"), "{error}");
}

/// One table as every spreadsheet might save it.
fn as_saved(text: &str) -> Vec<(&'static str, Vec<u8>)> {
    let semicolons = text.replace(',', ";").replace('.', ",");
    let tabs = text.replace(',', "\t");
    let wide = |text: &str, little: bool| -> Vec<u8> {
        let units = text.encode_utf16();
        units.flat_map(|unit| if little { unit.to_le_bytes() } else { unit.to_be_bytes() }).collect()
    };
    let marked = format!("\u{feff}{text}");
    let more = text.lines().enumerate().map(|(k, line)| {
        let (more, line) = if k == 0 { ("Note", line.to_uppercase()) } else { ("\"by hand, twice\"", line.to_owned()) };
        format!("{more},{line},,\r\n,,,,,,\r\n")
    });
    let latin = semicolons.chars().map(|c| u8::try_from(u32::from(c)).unwrap()).collect();
    vec![
        ("as written", text.as_bytes().to_vec()),
        ("with a mark", marked.clone().into_bytes()),
        ("semicolons and decimal commas", semicolons.clone().into_bytes()),
        ("saying its separator", format!("sep=;\r\n{semicolons}").into_bytes()),
        ("tabs", tabs.clone().into_bytes()),
        ("tabs in UTF-16 with a mark", wide(&format!("\u{feff}{tabs}"), true)),
        ("the same the other way round", wide(&format!("\u{feff}{tabs}"), false)),
        ("UTF-16 without a mark", wide(&tabs, true)),
        ("Latin letters", latin),
        ("more columns, capitals and blank rows", more.collect::<String>().into_bytes()),
    ]
}

#[test]
fn tables_are_read_as_spreadsheets_write_them() {
    let empty = Job::new(Name::new("Another van").unwrap());
    let text = "name,x_mm,y_mm,z_mm,rides\nT\u{fc}rscharnier,-12.5,300,0.25,body\nbolt,1,2.75,3,engine\n";
    let wanted = read_datums(&empty, text.as_bytes()).unwrap();
    assert_eq!(wanted.len(), 2);
    for (how, bytes) in as_saved(text) {
        assert_eq!(read_datums(&empty, &bytes).unwrap_or_else(|error| panic!("{how}: {error}")), wanted, "{how}");
    }
    // A column that may be left out, and an order of one's own.
    let short = read_datums(&empty, b"Z mm,Name,x-mm,Y_MM\n3,bolt,1,2\n").unwrap();
    assert!(
        matches!(&short[..], [Edit::Measure(MeasureEdit::AddDatum { at, .. })] if *at == Point::new(1.0, 2.0, 3.0).unwrap())
    );
}

#[test]
fn what_could_be_read_in_two_ways_is_not_guessed_at() {
    let empty = Job::new(Name::new("Another van").unwrap());
    let refused = |text: &str| read_datums(&empty, text.as_bytes()).unwrap_err().to_string();
    let said = refused("name\tx_mm\ty_mm\tz_mm\nbolt\t1,234\t2\t3\n");
    assert!(said.contains("line 2, x_mm") && said.contains("thousands or a decimal comma"), "{said}");
    assert!(refused("name;x_mm;y_mm;z_mm\nbolt;1.234,5;2;3\n").contains("a comma and more"));
    assert!(refused("name,x_mm,y_mm,z_mm\nbolt,1,2,3\n\"nut,1,2,3\n").contains("line 3: a cell in quotes"));
    assert!(refused("name,x_mm,y_mm,z_mm\nbolt,1,2,3\nbolt,4,5,6\n").contains("stands in line 2 already"));
    assert!(refused("").contains("the file is empty") && refused("\n;;;\n").contains("empty"));
    assert!(refused("name,x_mm,z_mm\n").contains("y_mm is missing"));
    // Where another figure shows that the comma is decimal, three digits are no question.
    let shown = read_datums(&empty, b"name;x_mm;y_mm;z_mm\nbolt;1,234;2,5;3\n").unwrap();
    assert!(
        matches!(&shown[..], [Edit::Measure(MeasureEdit::AddDatum { at, .. })] if *at == Point::new(1.234, 2.5, 3.0).unwrap())
    );
}

#[test]
fn no_name_is_run_as_a_formula_and_every_name_comes_back() {
    let mut job = Job::new(Name::new("Another van").unwrap());
    let names = [
        "=1+1",
        "+cmd",
        "-2+3",
        "@sum",
        "'=1",
        "-12",
        "\u{5de6}\u{524d} bolt",
        "R\u{fc}ckwand; \"links\"",
        "\u{645}\u{633}\u{645}\u{627}\u{631}",
    ];
    for (k, name) in names.iter().enumerate() {
        let at = Point::new(f64::from(u32::try_from(k).unwrap()), 0.0, 0.0).unwrap();
        job = apply(
            &job,
            &Edit::Measure(MeasureEdit::AddDatum { name: Name::new(name).unwrap(), at, rides: Side::Body }),
        )
        .unwrap()
        .job;
    }
    let table = datums_csv(&job).unwrap();
    let mut reader = csv::Reader::from_reader(table.as_bytes());
    for record in reader.records() {
        let cell = record.unwrap()[0].to_owned();
        assert!(!cell.starts_with(['=', '+', '@']) && (!cell.starts_with('-') || cell == "-12"), "{cell}");
    }
    let edits = read_datums(&Job::new(Name::new("x").unwrap()), table.as_bytes()).unwrap();
    let back: Vec<_> = edits
        .iter()
        .map(|edit| if let Edit::Measure(MeasureEdit::AddDatum { name, .. }) = edit { name.as_str() } else { "" })
        .collect();
    assert_eq!(back, names);
}

proptest! {
    #[test]
    fn no_table_makes_the_reader_panic(bytes in prop::collection::vec(any::<u8>(), 0..300), text in "\\PC{0,200}") {
        let job = demo();
        let _ = (read_datums(&job, &bytes), read_readings(&job, &bytes), read_datums(&job, text.as_bytes()));
        let headed = format!("name;x_mm;y_mm;z_mm\n{text}");
        let _ = read_datums(&job, headed.as_bytes());
    }
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

//! A hose made up from its printed table, and a flange plate from its drawing, numerically.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::measure::End;
use nook_core::survey::Survey;
use nook_core::{Job, RunId, workup};
use nook_formats::{hose_csv, packet, read_job, write_job};
use nook_geometry::Travel;

fn demo() -> Job {
    read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap()
}

fn run_called(job: &Job, name: &str) -> RunId {
    job.runs().iter().find(|run| run.name.as_str() == name).unwrap().id
}

/// The rows of a table, each as its cells.
fn rows(text: &str) -> Vec<Vec<String>> {
    let mut reader = csv::Reader::from_reader(text.as_bytes());
    reader.records().map(|row| row.unwrap().iter().map(str::to_owned).collect()).collect()
}

/// The first number in a text after a word.
fn after(text: &str, word: &str) -> f64 {
    let rest = text.split_once(word).unwrap().1.trim_start();
    rest.split(|c: char| !c.is_ascii_digit() && c != '.').next().unwrap().parse().unwrap()
}

#[test]
fn moulded_pieces_put_together_as_printed_lead_to_the_other_mouth() {
    let job = demo();
    let run = run_called(&job, "Header hose");
    let told = workup(&job, run).unwrap();
    let settled = Survey::new(&job).settle(job.run(run).unwrap());
    let [a, b] = [End::A, End::B].map(|end| settled.port(end));
    let seat = told.ends[0].port_seat.mm();
    let mut travel = Travel::start(a.at, a.out).straight(-seat);
    let mut first = true;
    for row in rows(&hose_csv(&told).unwrap().unwrap()) {
        let number = |cell: usize| row[cell].parse::<f64>().unwrap_or(0.0);
        if row[0].starts_with("elbow") {
            // How the first one is turned to the car is seen on the car: the others are turned to it.
            let turned = if first { told.bends[0].rotation } else { number(7) };
            first = false;
            let (angle, radius) = (after(&row[0], "elbow of"), after(&row[0], ", "));
            travel = travel.straight(number(2)).clocked(turned.to_radians()).bend(radius, angle.to_radians());
            travel = travel.straight(number(3));
        } else if row[0] == "straight" {
            travel = travel.straight(number(1));
        }
    }
    let end = travel.straight(-told.ends[1].port_seat.mm());
    assert!((end.at - b.at.inner()).norm() < 0.5, "{:?} {:?}", end.at, b.at);
    assert!(end.along.vector().dot(&b.out.vector()) < -0.9999);
}

#[test]
fn a_made_up_hose_is_printed_packed_and_kept() {
    let job = demo();
    let run = run_called(&job, "Oil cooler hose");
    let told = workup(&job, run).unwrap();
    let hose = told.hose.as_ref().unwrap();
    let all = rows(&hose_csv(&told).unwrap().unwrap());
    let [a, length, b] = all.as_slice() else { panic!("{all:?}") };
    let cut: f64 = length[1].parse().unwrap();
    assert!((cut - hose.length.as_ref().unwrap().cut.mm()).abs() <= 0.005);
    assert!(a[0].contains("90") && b[0].contains("45"));
    let clock: f64 = b[7].parse().unwrap();
    assert!((clock - hose.clock.unwrap()).abs() <= 0.005 && a[7].is_empty());
    // Said and printed have one sense.
    assert_eq!(hose.clock_said.as_deref().unwrap().contains("anticlockwise"), clock < 0.0);
    assert!(packet(&told).unwrap().iter().any(|file| file.name == "hose.csv"));
    assert_eq!(read_job(write_job(&job).unwrap().as_bytes()).unwrap(), job);
    let tube = workup(&job, run_called(&job, "Turbo oil feed")).unwrap();
    assert_eq!(hose_csv(&tube).unwrap(), None);
}

/// A file in which a hose contradicts itself is refused with what is wrong.
#[test]
fn a_file_with_a_hose_that_is_none_is_refused() {
    let good: serde_json::Value = serde_json::from_str(&write_job(&demo()).unwrap()).unwrap();
    let at = |name: &str| good["job"]["runs"].as_array().unwrap().iter().position(|run| run["name"] == name).unwrap();
    let refused = |name: &str, change: &dyn Fn(&mut serde_json::Value)| {
        let mut file = good.clone();
        change(&mut file["job"]["runs"][at(name)]);
        read_job(&serde_json::to_vec(&file).unwrap()).unwrap_err().to_string()
    };
    let (hose, pipe) = ("Oil cooler hose", "Intake pipe");
    for (words, name, change) in [
        ("is none", hose, &(|run: &mut serde_json::Value| run["tube"]["od"] = 30.into()) as &dyn Fn(&mut _)),
        ("is none", hose, &|run: &mut serde_json::Value| run["tube"]["material"] = "mild_steel".into()),
        ("say how it is built", hose, &|run: &mut serde_json::Value| run["hose"] = serde_json::Value::Null),
        ("no coupler", hose, &|run: &mut serde_json::Value| run["route"]["joints"][0]["kind"] = "coupler".into()),
        ("rigid tube", pipe, &|run: &mut serde_json::Value| run["route"]["joints"][0]["kind"] = "hose_end".into()),
        ("75", hose, &|run: &mut serde_json::Value| run["hose"]["fittings"][0]["angle"] = 75.into()),
        ("-7", hose, &|run: &mut serde_json::Value| run["hose"]["dash"] = "-7".into()),
        ("2", hose, &|run: &mut serde_json::Value| run["hose"]["fittings"] = serde_json::json!([])),
        ("drains", pipe, &|run: &mut serde_json::Value| run["drains"] = "sideways".into()),
    ] {
        let said = refused(name, change);
        assert!(said.contains(words), "{words}: {said}");
    }
}

/// The holes of a printed plate are as far from each other as they were measured, and go round clockwise as they do on the
/// component: a plate drawn as its mirror image would fit nowhere.
#[test]
fn a_printed_plate_fits_the_holes_that_were_measured() {
    use nook_core::edit::JointChange;
    use nook_core::join::FlangePlate;
    use nook_geometry::units::{HoleDiameter, HoleSpacing};
    let job = demo();
    let run = run_called(&job, "Cold side charge pipe");
    let along = job.run(run).unwrap().route.joints().iter().find(|joint| joint.end().is_none()).unwrap().id;
    let spacing = |mm: f64| HoleSpacing::new(mm).unwrap();
    // No two distances are alike, so that no other order fits.
    let sides = [78.0, 91.0, 84.0, 97.0];
    let plate = FlangePlate {
        sides: sides.map(spacing).into(),
        diagonals: vec![spacing(120.0)],
        check: None,
        bore: None,
        hole: HoleDiameter::new(8.5).unwrap(),
        thickness: None,
    };
    let change = |to| nook_core::Edit::Join(nook_core::JoinEdit::ChangeJoint { run, joint: along, to });
    let kind = change(JointChange::Kind { kind: nook_core::join::JointKind::Flange });
    let edits = vec![kind, change(JointChange::Plate { plate: Some(plate) })];
    let job = nook_core::apply(&job, &nook_core::Edit::Together { edits }).unwrap().job;
    let told = workup(&job, run).unwrap();
    let svg = nook_formats::plate_svg(&told, along).unwrap();
    let holes: Vec<[f64; 2]> = svg
        .split("<circle")
        .filter(|circle| circle.contains("class=\"hole\""))
        .map(|circle| ["cx=\"", "cy=\""].map(|name| after(circle, name)))
        .collect();
    assert_eq!(holes.len(), 4);
    for (k, side) in sides.iter().enumerate() {
        let (p, q) = (holes[k], holes[(k + 1) % 4]);
        assert!(((p[0] - q[0]).hypot(p[1] - q[1]) - side).abs() < 0.01, "{k}");
    }
    // On paper, whose y goes down, a turn to the right is above 0.
    let [a, b, c] = [holes[0], holes[1], holes[2]];
    assert!((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) > 0.0);
    assert!(svg.contains("Cut two") && packet(&told).unwrap().iter().any(|file| file.name.starts_with("plate-")));
    assert_eq!(read_job(write_job(&job).unwrap().as_bytes()).unwrap(), job);
}

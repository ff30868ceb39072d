//! The files say what the workup says, at the scale they claim.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use nook_core::measure::End;
use nook_core::route::{BendMake, JointId, LegId, Lock, PieEnds};
use nook_core::{Edit, Job, apply, workup};
use nook_formats::{
    DocumentError, cut_list_csv, fittings_csv, job_schema, lra_csv, packet, read_job, template_svg, write_job,
};
use nook_geometry::units::SeamCount;
use serde_json::{Value, json};

fn job() -> Job {
    let edit: Edit = serde_json::from_value(json!({
        "step": "job", "edit": "add_run",
        "run": {
            "name": "Hot side", "duty": "charge_hot",
            "tube": { "material": "aluminium6061", "od": 63.5, "wall": 2.0 },
            "a": { "name": "compressor", "at": [0, 0, 0], "out": [1, 0, 0], "od": 63.5, "form": "beaded", "rides": "engine" },
            "b": { "name": "cooler", "at": [520, 260, 310], "out": [0, 0.1, -1], "od": 63.5, "form": "beaded", "rides": "body" },
        }
    }))
    .unwrap();
    apply(&Job::new(nook_geometry::units::Name::new("Test bay").unwrap()), &edit).unwrap().job
}

#[test]
fn a_job_reads_back_the_same() {
    let job = job();
    assert_eq!(read_job(write_job(&job).unwrap().as_bytes()).unwrap(), job);
}

#[test]
fn what_is_no_job_is_refused_with_its_place() {
    let file: Value = serde_json::from_str(&write_job(&job()).unwrap()).unwrap();
    let spoilt = |pointer: &str, value: Value| {
        let mut file = file.clone();
        *file.pointer_mut(pointer).unwrap() = value;
        read_job(file.to_string().as_bytes()).unwrap_err().to_string()
    };
    assert!(spoilt("/job/runs/0/tube/od", json!(-3)).contains("job"), "where");
    assert!(spoilt("/job/runs/0/tube/od", json!(-3)).contains("between 3 and 300 mm; -3 is outside"));
    let no_bore = json!({ "material": "aluminium6061", "od": 20.0, "wall": 10.0 });
    assert!(spoilt("/job/runs/0/tube", no_bore).contains("leaves no bore"));
    assert!(spoilt("/job/runs/0/b/at", json!([0, 0, 0])).contains("at least 1 mm apart"));
    assert!(spoilt("/job/runs/0/route/bends", json!([])).contains("bends"));
    assert!(spoilt("/job/next_id", json!(1)).contains("numbered"));
    assert!(spoilt("/version", json!(99)).contains("version 99"));
    assert!(matches!(read_job(b"\x00\xff"), Err(DocumentError::NotJson(_))));
    assert!(matches!(read_job(b"{\"format\": \"nook-b"), Err(DocumentError::NotJson(_))));
    assert!(matches!(read_job(b"[1, 2]"), Err(DocumentError::OtherFormat { what: "job" })));
    assert!(matches!(read_job(&vec![b' '; 5_000_000]), Err(DocumentError::TooLarge { .. })));
}

#[test]
fn the_schema_resolves_every_reference() {
    let schema = job_schema();
    let text = schema.to_string();
    assert!(!text.contains("#/components"));
    let mut missing = Vec::new();
    for part in text.split("#/$defs/").skip(1) {
        let name = part.split('"').next().unwrap();
        if schema["$defs"].get(name).is_none() {
            missing.push(name.to_owned());
        }
    }
    assert!(missing.is_empty(), "no definition of {missing:?}");
}

#[test]
fn tables_hold_the_workup_row_by_row() {
    let job = job();
    let workup = workup(&job, job.runs()[0].id).unwrap();
    let cuts = cut_list_csv(&workup).unwrap().unwrap();
    let mut reader = csv::Reader::from_reader(cuts.as_bytes());
    let rows: Vec<csv::StringRecord> = reader.records().map(Result::unwrap).collect();
    let cutting = workup.cutting.as_ref().unwrap();
    assert_eq!(rows.len(), cutting.cuts.len());
    for (row, cut) in rows.iter().zip(&cutting.cuts) {
        assert_eq!(&row[1], cut.frees.as_deref().unwrap());
        assert!((row[9].parse::<f64>().unwrap() - cut.centre.mm()).abs() <= 0.005);
        assert!(
            (row[3].parse::<f64>().unwrap() - cut.set).abs() <= 0.005,
            "what the saw is set to stands beside the angle"
        );
    }
    let lra = lra_csv(&workup).unwrap().unwrap();
    assert_eq!(lra.lines().count(), 2 + workup.bends.len());
    let names: Vec<String> = packet(&workup).unwrap().into_iter().map(|file| file.name).collect();
    assert_eq!(names[..4], ["workup.json", "lra.csv", "cut-list.csv", "fittings.csv"]);
    assert_eq!(names.len(), 4 + cutting.settings.len() + workup.branches.len());
}

/// Joints and supports of the demo's heater line, in their order from A, each with its place, and its holes.
#[test]
fn fittings_are_listed_in_the_order_they_stand_in() {
    let job = read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    for run in job.runs() {
        let workup = workup(&job, run.id).unwrap();
        let text = fittings_csv(&workup).unwrap().unwrap();
        let mut reader = csv::Reader::from_reader(text.as_bytes());
        let rows: Vec<csv::StringRecord> = reader.records().map(Result::unwrap).collect();
        assert_eq!(rows.len(), 2 + workup.joints.len() + workup.supports.len() + workup.branches.len());
        let stations: Vec<f64> = rows.iter().map(|row| row[1].parse().unwrap()).collect();
        assert!(stations.is_sorted() && stations[0] == 0.0, "{stations:?}");
        for support in &workup.supports {
            let row = rows.iter().find(|row| row[0] == *support.name).unwrap();
            let hole: Vec<f64> = row[9].split(' ').map(|mm| mm.parse().unwrap()).collect();
            assert!(hole.iter().zip(support.feet[0].hole).all(|(said, there)| (said - there).abs() <= 0.005));
            assert_eq!(&row[8], support.feet[0].on.as_deref().unwrap());
        }
    }
}

/// Reads the drawing back: width in mm equals the view box, the bar is 100 user units, and the outline is as
/// wide as the girth and as tall as the cut.
#[test]
fn a_template_is_drawn_at_true_scale() {
    let svg = template_svg(76.2, 4.5, "Hot side", &["HS1 on line 1a".to_owned()]);
    let attribute = |name: &str| {
        let start = svg.find(&format!("{name}=\"")).unwrap() + name.len() + 2;
        svg[start..].split('"').next().unwrap().to_owned()
    };
    let view: Vec<f64> = attribute("viewBox").split(' ').map(|n| n.parse().unwrap()).collect();
    let size = |name| attribute(name).strip_suffix("mm").unwrap().parse::<f64>().unwrap();
    assert_eq!((size("width"), size("height")), (view[2], view[3]));
    let bar = &svg[svg.find("check-bar").unwrap() - 200..];
    assert!(bar.contains("width=\"100\""));
    let outline: Vec<f64> =
        attribute(" d").split(|c: char| !c.is_ascii_digit() && c != '.').filter_map(|n| n.parse().ok()).collect();
    let (xs, ys): (Vec<f64>, Vec<f64>) = outline.chunks_exact(2).map(|p| (p[0], p[1])).unzip();
    let span = |v: &[f64]| v.iter().fold(f64::MIN, |a, b| a.max(*b)) - v.iter().fold(f64::MAX, |a, b| a.min(*b));
    assert!((span(&xs) - 240.018).abs() < 0.002, "{}", span(&xs));
    assert!((span(&ys) - 25.0 - 5.997).abs() < 0.002, "{}", span(&ys));
}

#[test]
fn a_template_names_its_cuts_and_no_word_runs_off_its_paper() {
    let cuts: Vec<String> = (1..20).map(|k| format!("HS{k} on line {k}a")).collect();
    for od in [6.35, 12.7, 38.1, 127.0] {
        let svg =
            template_svg(od, 8.0, "A run with a name that is as long as a name may be, or very nearly as long", &cuts);
        let value = |text: &str, name: &str| -> f64 {
            let start = text.find(&format!("{name}=\"")).unwrap() + name.len() + 2;
            text[start..].split('"').next().unwrap().trim_end_matches("mm").parse().unwrap()
        };
        let (width, height) = (value(&svg, "width"), value(&svg, "height"));
        let texts: Vec<&str> = svg.split("<text ").skip(1).collect();
        for text in &texts {
            let (size, x, y) = (value(text, "font-size"), value(text, " x"), value(text, " y"));
            let words = text[text.find('>').unwrap() + 1..].split('<').next().unwrap().trim();
            // No sans serif is wider than 0.6 of its size on average.
            let long = f64::from(u32::try_from(words.chars().count()).unwrap()) * 0.6 * size;
            let left = if text.contains("\"end\"") {
                x - long
            } else if text.contains("\"middle\"") {
                x - long / 2.0
            } else {
                x
            };
            assert!(left > -0.01 || long < 12.0, "{od}: {words}");
            assert!(left + long <= width + 0.01 && y <= height, "{od}: {words} runs off at {} of {width}", left + long);
        }
        let all: String = svg.replace('\n', " ");
        assert!(cuts.iter().all(|cut| cut.split(' ').all(|word| all.contains(word))), "every cut is named");
        assert!(all.contains("what is under the paper is kept") || texts.iter().any(|text| text.contains("kept,")));
    }
}

/// Bends were counted, and the joints at the ends stood apart: each is what it was.
#[test]
fn a_job_of_version_4_is_read_and_written_as_the_present_version() {
    let old = include_bytes!("../files/job-version-4.json");
    let was: Value = serde_json::from_slice(old).unwrap();
    let job = read_job(old).unwrap();
    for (run, was) in job.runs().iter().zip(was["job"]["runs"].as_array().unwrap()) {
        for (end, field) in [(End::A, "joint_a"), (End::B, "joint_b")] {
            let now = serde_json::to_value(run.joint(end)).unwrap();
            for what in ["kind", "gap", "seat"] {
                assert_eq!(now[what], was[field][what], "{field}");
            }
        }
        let (way, old) = (run.way().unwrap(), &was["way"]);
        assert_eq!(serde_json::to_value(way.course()).unwrap(), old["course"]);
        assert_eq!(way.bends().len(), old["bends"].as_array().unwrap().len());
        for (lock, old) in way.locks().iter().zip(old["locks"].as_array().into_iter().flatten()) {
            let place = match *lock {
                Lock::Straight { straight: leg, .. } | Lock::Leg { leg, .. } => way.leg_index(leg),
                Lock::Angle { bend, .. } | Lock::Rotation { bend, .. } => way.bend_index(bend),
            };
            let counted = ["straight", "leg", "bend"].iter().find_map(|field| old[field].as_u64());
            assert_eq!(place.map(|place| u64::try_from(place).unwrap()), counted);
        }
    }
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// A file of the fourth version with a joint half-way, a lock on each sort of thing, chosen seams and square ends.
#[test]
fn what_was_counted_in_version_4_is_named() {
    let mut file: Value = serde_json::from_slice(include_bytes!("../files/job-version-4.json")).unwrap();
    let way = &mut file["job"]["runs"][0]["way"];
    way["locks"] = json!([
        { "hold": "straight", "straight": 0, "length": 100.0 },
        { "hold": "leg", "leg": 1, "direction": [1, 0, 0] },
        { "hold": "angle", "bend": 1, "angle": 40.0 },
    ]);
    way["joints"] = json!([{ "id": 3, "at": { "leg": 1, "from": "end", "mm": 60.0 }, "kind": "coupler" }]);
    way["bends"][0] = json!({ "seams": 4, "ends": "square", "radius": 120.0 });
    let job = read_job(file.to_string().as_bytes()).unwrap();
    let way = job.runs()[0].way().unwrap();
    let [first, second] = [0, 1].map(|bend| way.bend_id(bend));
    assert!(matches!(way.locks()[0], Lock::Straight { straight: LegId::FROM_A, .. }));
    assert!(matches!(way.locks()[1], Lock::Leg { leg, .. } if leg == LegId::after(first)));
    assert!(matches!(way.locks()[2], Lock::Angle { bend, .. } if bend == second));
    assert_eq!(way.joints().iter().map(|joint| joint.id).take(2).collect::<Vec<_>>(), [JointId(1), JointId(2)]);
    let along = way.joint(JointId(5)).unwrap().along().unwrap();
    assert_eq!((along.leg, along.mm.get()), (LegId::after(first), 60.0));
    let spec = way.bends()[0];
    assert_eq!(spec.make, Some(BendMake::Pies { seams: SeamCount::new(4).ok(), ends: PieEnds::Square }));
    assert_eq!(spec.radius.unwrap().get(), 120.0);
    assert_eq!(way.bends()[1].make, None, "what nobody chose stays open");
    // What is not as that version had it is told, not guessed.
    file["job"]["runs"][0]["way"]["locks"][2]["bend"] = json!(17);
    let refused = read_job(file.to_string().as_bytes()).unwrap_err().to_string();
    assert!(refused.contains("a lock is on something it does not have"), "{refused}");
    file["job"]["runs"][0]["joint_a"] = Value::Null;
    let refused = read_job(file.to_string().as_bytes()).unwrap_err().to_string();
    assert!(refused.contains("0 joints at A"), "{refused}");
}

#[test]
fn a_job_of_version_3_is_read_and_written_as_the_present_version() {
    let job = read_job(include_bytes!("../files/job-version-3.json")).unwrap();
    let ways = job.runs().iter().flat_map(|run| [&run.route].into_iter().chain(run.kept.iter().map(|kept| &kept.way)));
    assert!(ways.clone().count() > 7 && ways.clone().all(|way| way.joints().len() == 2), "one at each end");
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

#[test]
fn a_job_of_version_2_is_read_and_written_as_the_present_version() {
    let job = read_job(include_bytes!("../files/job-version-2.json")).unwrap();
    assert_eq!(job.runs().len(), 2);
    assert!(job.runs().iter().all(|run| run.kept.is_empty() && run.twin.is_none() && run.wishes.is_none()));
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

#[test]
fn a_job_of_version_1_is_read_and_written_as_the_present_version() {
    let old = include_bytes!("../files/job-version-1.json");
    let job = read_job(old).unwrap();
    assert_eq!((job.runs().len(), job.keep_outs().len(), job.datums().len()), (2, 10, 0));
    let written = write_job(&job).unwrap();
    assert!(written.contains(&format!("\"version\": {}", Job::VERSION)), "{}", &written[..60]);
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// A component of version 5 was turned and nothing else: it turns now by its one freedom, and its mouth stands to the micrometre
/// where that version had it.
#[test]
fn joints_of_version_6_are_of_the_kinds_they_were_and_of_no_part() {
    let job = read_job(include_bytes!("../files/job-version-6.json")).unwrap();
    let joints: Vec<_> = job.runs().iter().flat_map(|run| run.route.joints()).collect();
    assert_eq!(joints.len(), 16);
    assert!(joints.iter().all(|joint| joint.part.is_none() && joint.clock.is_none() && !joint.tied));
    let count = |kind| joints.iter().filter(|joint| joint.kind == kind).count();
    use nook_core::join::JointKind;
    assert_eq!([JointKind::Coupler, JointKind::Reducer, JointKind::Metal].map(count), [12, 2, 2]);
    assert_eq!(read_job(write_job(&job).unwrap().as_bytes()).unwrap(), job);
}

#[test]
fn a_component_of_version_5_turns_as_it_did() {
    let old = include_bytes!("../files/job-version-5.json");
    let job = read_job(old).unwrap();
    let before: Value = serde_json::from_slice(old).unwrap();
    for (was, is) in before["job"]["components"].as_array().unwrap().iter().zip(job.components()) {
        assert_eq!(is.freedoms.len(), 1);
        assert!((is.freedoms[0].setting() - was["turned"].as_f64().unwrap()).abs() < 1e-12);
        assert!(is.body.is_empty() && is.mounts.is_empty() && !is.ports.is_empty());
    }
    // Turned 30 degrees about a line along the car through (-300, -300, 60), by hand.
    let run = &job.runs()[0];
    let at = nook_core::survey::Survey::new(&job).settle(run).a.at.to_array();
    let measured = nook_core::survey::Survey::new(&job)
        .port(nook_core::measure::PortRef { run: run.id, end: nook_core::measure::End::A })
        .unwrap()
        .pose
        .at;
    let (sin, cos) = 30.0_f64.to_radians().sin_cos();
    let (y, z) = (measured.y + 300.0, measured.z - 60.0);
    assert!((at[1] - (y * cos - z * sin - 300.0)).abs() < 1e-9 && (at[2] - (y * sin + z * cos + 60.0)).abs() < 1e-9);
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
    // What is no turn is told where it is, not read as a slide or left out.
    let mut broken = before;
    broken["job"]["components"][0].as_object_mut().unwrap().remove("axis");
    let refused = read_job(&serde_json::to_vec(&broken).unwrap()).unwrap_err().to_string();
    assert!(refused.contains("components"), "{refused}");
}

/// Until version 13 there was a stick for every piece, and a saw was set to any angle.
#[test]
fn a_job_of_version_12_is_read_with_a_stick_for_every_piece() {
    let job = read_job(include_bytes!("../files/job-version-12.json")).unwrap();
    assert!(job.runs().iter().all(|run| run.longest.is_none()));
    assert_eq!(job.saw().reach, nook_core::workshop::SawReach::default());
    let mut makes = job.runs().iter().flat_map(|run| run.route.bends()).filter_map(|bend| bend.make);
    assert!(makes.any(|make| matches!(make, BendMake::Elbow { .. })), "what version 12 brought is there");
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// Until version 12 no bend was made of a bought elbow.
#[test]
fn a_job_of_version_11_is_read_with_bends_of_tube() {
    let job = read_job(include_bytes!("../files/job-version-11.json")).unwrap();
    let makes = job.runs().iter().flat_map(|run| run.route.bends()).filter_map(|bend| bend.make);
    assert!(makes.into_iter().all(|make| !matches!(make, BendMake::Elbow { .. })));
    assert!((job.saw().bias() - 0.4).abs() < 1e-9, "what version 11 had is there");
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// Until version 11 every bend of a tube was of tube, every mouth stood by itself, and every neck was taken as it stood.
#[test]
fn a_job_of_version_10_is_read_with_mouths_and_necks_as_they_stand() {
    let job = read_job(include_bytes!("../files/job-version-10.json")).unwrap();
    assert!(job.runs().iter().all(|run| run.stubs.is_none() && run.a.neck.is_none() && run.b.neck.is_none()));
    assert!(job.runs().iter().any(|run| run.hose.is_some()), "what version 10 had is there");
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// Until version 10 every pipe was of rigid tube, and none was said to drain by gravity.
#[test]
fn a_job_of_version_9_is_read_as_rigid_tube() {
    let job = read_job(include_bytes!("../files/job-version-9.json")).unwrap();
    assert!(job.runs().iter().all(|run| run.hose.is_none() && run.drains.is_none()));
    assert!(job.runs().iter().any(|run| !run.route.branches().is_empty()), "what version 9 had is there");
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// Until version 9 nothing was let into a pipe, and nobody said what comes off first.
#[test]
fn a_job_of_version_8_is_read_with_nothing_let_in() {
    let job = read_job(include_bytes!("../files/job-version-8.json")).unwrap();
    assert!(job.runs().iter().all(|run| run.route.branches().is_empty() && !run.route.joints().is_empty()));
    assert!(job.runs().iter().any(|run| !run.route.supports().is_empty()), "what version 8 had is there");
    assert!(job.keep_outs().iter().all(|one| !one.comes_off));
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

/// Until version 8 nothing held a pipe between its joints, and nobody said how fast the engine turns.
#[test]
fn a_job_of_version_7_is_read_with_nothing_that_holds_it() {
    let job = read_job(include_bytes!("../files/job-version-7.json")).unwrap();
    assert!(job.firing().is_none() && job.runs().iter().all(|run| run.route.supports().is_empty()));
    assert!(job.runs().iter().all(|run| workup(&job, run.id).unwrap().supports.is_empty()));
    let written = write_job(&job).unwrap();
    assert_eq!(serde_json::from_str::<Value>(&written).unwrap()["version"], json!(Job::VERSION));
    assert_eq!(read_job(written.as_bytes()).unwrap(), job);
}

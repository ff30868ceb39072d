//! Measuring over the running server: scans with progress, tables in and out, models, and instruments.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::io::{BufRead, BufReader};
use std::process::{Command, Stdio};

use crate::support::Server;
use serde_json::{Value, json};

/// A tetrahedron as text STL, `scale` mm large.
fn stl(scale: f64) -> String {
    let at = [[0.0, 0.0, 0.0], [scale, 0.0, 0.0], [0.0, scale, 0.0], [0.0, 0.0, scale]];
    let facet = |corners: &[usize; 3]| {
        let lines: Vec<String> =
            corners.iter().map(|k| format!("vertex {} {} {}", at[*k][0], at[*k][1], at[*k][2])).collect();
        format!("facet normal 0 0 0\nouter loop\n{}\nendloop\nendfacet\n", lines.join("\n"))
    };
    let faces = [[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]];
    format!("solid part\n{}endsolid part\n", faces.iter().map(facet).collect::<String>())
}

fn begin(server: &Server) {
    server.post("/api/jobs", None, &json!({ "name": "Test van" })).unwrap();
}

fn keep(server: &Server, seen: i64, edit: &Value) -> Value {
    server.post("/api/jobs/1/edits", Some(seen), edit).unwrap()
}

#[test]
fn a_scan_comes_in_with_progress_is_kept_whole_and_put_in_place_by_matched_points() {
    let server = Server::start();
    begin(&server);
    let news = server.events("/api/scans?name=part.stl", stl(100.0).as_bytes());
    let steps: Vec<&str> = news.iter().filter_map(|one| one["step"].as_str()).collect();
    assert_eq!(steps.first(), Some(&"reading"));
    assert!(steps.contains(&"joining") && steps.contains(&"thinning"), "{steps:?}");
    let done = news.last().unwrap();
    assert_eq!((&done["is"], &done["triangles"], &done["vertices"]), (&json!("done"), &json!(4), &json!(4)));
    assert_eq!(done["bounds"], json!([[0.0, 0.0, 0.0], [100.0, 100.0, 100.0]]));
    let id = done["id"].as_str().unwrap();
    assert!(server.bytes(&format!("/api/scans/{id}/whole.ply")).starts_with(b"ply\nformat binary_little_endian"));
    // The same content is the same scan.
    assert_eq!(server.events("/api/scans?name=again.stl", stl(100.0).as_bytes()).last().unwrap()["id"], id);
    assert_eq!(server.get("/api/scans").unwrap().as_array().unwrap().len(), 1);

    let matched = |scan: [f64; 3], at: [f64; 3]| json!({ "scan": scan, "to": { "is": "point", "at": at } });
    let points = json!([
        matched([0.0, 0.0, 0.0], [500.0, 0.0, 200.0]),
        matched([100.0, 0.0, 0.0], [500.0, 100.0, 200.0]),
        matched([0.0, 100.0, 0.0], [400.0, 0.0, 200.0]),
        matched([0.0, 0.0, 100.0], [500.0, 0.0, 303.0]),
    ]);
    let shape = json!({ "shape": "scan", "scan": id, "unit": "mm", "matched": points });
    keep(
        &server,
        1,
        &json!({ "step": "measure", "edit": "add_keep_out", "name": "pump", "kind": "still_metal", "rides": "engine", "shape": shape }),
    );
    let bay = server.get("/api/jobs/1/bay").unwrap();
    let scan = &bay["keep_outs"][0]["scan"];
    // Turned a quarter to the left; the point that is 3 mm off spreads over all four.
    assert!((scan["frame"][0][1].as_f64().unwrap() - 1.0).abs() < 1e-3, "{scan}");
    let residuals: Vec<f64> = scan["residuals"].as_array().unwrap().iter().map(|r| r["mm"].as_f64().unwrap()).collect();
    assert!(residuals.iter().all(|r| (0.05..3.0).contains(r)), "{residuals:?}");
    let model = server.bytes("/api/jobs/1/bay.stl");
    assert_eq!(model.len(), 84 + 4 * 50, "every triangle of the scan, and nothing else");
    assert!(server.bytes("/api/jobs/1/bay.glb").starts_with(b"glTF"));
}

#[test]
fn a_scan_that_is_none_is_refused_and_nothing_is_kept() {
    let server = Server::start();
    for (name, bytes, says) in [
        ("part.stl", &b""[..], "the file is empty"),
        ("part.step", b"ISO-10303-21;", "is no .stl, .obj or .ply file"),
        ("part.obj", b"v 0 0 0\n", "no triangle"),
        ("part.ply", b"not a ply", "PLY file cannot be read"),
    ] {
        let news = server.events(&format!("/api/scans?name={name}"), bytes);
        let last = news.last().unwrap();
        assert_eq!(last["is"], "refused", "{name}");
        let detail = last["problem"]["detail"].as_str().unwrap();
        assert!(detail.starts_with("Nothing was taken") && detail.contains(says), "{detail}");
    }
    assert_eq!(server.get("/api/scans").unwrap(), json!([]));
    assert_eq!(server.get("/api/scans/abc/drawn.ply").unwrap_err()["status"], 404);
}

#[test]
fn tables_are_taken_as_one_change_or_not_at_all() {
    let server = Server::start();
    begin(&server);
    let datums = "name,x_mm,y_mm,z_mm,rides\nleft bolt,-230,470,335,body\nright bolt,-230,-470,335,body\n";
    let kept = server.put_text("/api/jobs/1/datums.csv", 1, datums).unwrap();
    assert_eq!((&kept["revision"], kept["job"]["datums"].as_array().unwrap().len()), (&json!(2), 2));
    let readings = "of,by,from,spot,axis,value,counts,spread\ndatum: right bolt,tape,datum: left bolt,,,940,yes,\n";
    let kept = server.put_text("/api/jobs/1/readings.csv", 2, readings).unwrap();
    assert_eq!(kept["job"]["datums"][1]["readings"][0]["taken"]["mm"], 940.0);
    let written = server.text("/api/jobs/1/readings.csv").unwrap();
    assert!(written.contains("\ndatum: right bolt,tape,datum: left bolt,,,940,,yes,\n"), "{written}");
    let circle = "of,by,from,spot,axis,value,counts,spread\ndatum: left bolt,tape,zero,,,620,yes,\ndatum: left bolt,tape,datum: right bolt,,,940,yes,\n";
    let refused = server.put_text("/api/jobs/1/readings.csv", 3, circle).unwrap_err();
    assert!(refused["detail"].as_str().unwrap().contains("lean on it again"), "{refused}");
    assert_eq!(server.get("/api/jobs/1").unwrap()["revision"], 3, "neither line of it was taken");
    let late = server.put_text("/api/jobs/1/datums.csv", 1, datums).unwrap_err();
    assert_eq!(late["status"], 412);
}

#[test]
fn the_field_that_waits_takes_a_reading_and_refuses_what_is_impossible_there() {
    let mut stand_ins = Command::new(env!("CARGO_BIN_EXE_nook-bend"))
        .args(["instruments", "--perfect", "--instrument", "tape@18391", "--instrument", "gauge@18392"])
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    // Kept open: they go on to say where the others are.
    let mut said = BufReader::new(stand_ins.stdout.take().unwrap());
    said.read_line(&mut line).unwrap();
    assert!(line.contains("127.0.0.1:18391"), "{line}");
    let server = Server::start_with(&["--instrument", "tape@18391", "--instrument", "gauge@18392"]);
    let mut news = server.listen("/api/instruments/listen?field=pitch");
    let mut next = |is: &str| loop {
        let one = news.next().unwrap();
        if one["is"] == is {
            return one;
        }
    };
    while next("status")["status"]["connected"] != true {}
    let press = |kind: &str, aim: &[f64]| {
        server.press(&json!({ "instrument": kind, "aim": aim }));
    };
    press("gauge", &[10.0, -12.5, 0.0]);
    assert_eq!(next("taken")["value"], -12.5);
    press("tape", &[500.0]);
    assert!(next("refused")["why"].as_str().unwrap().contains("this field takes a pitch from the gauge"));
    press("gauge", &[0.0, 120.0, 0.0]);
    assert!(next("refused")["why"].as_str().unwrap().contains("between -90 and 90"));
    let log = server.get("/api/instruments/log").unwrap();
    let outcomes: Vec<&str> = log.as_array().unwrap().iter().filter_map(|line| line["outcome"].as_str()).collect();
    assert_eq!(outcomes.iter().filter(|one| **one == "refused").count(), 2, "{log}");
    assert!(
        log.as_array()
            .unwrap()
            .iter()
            .any(|line| line["line"].as_str().unwrap().starts_with("READ 2 A 0.0 120.0 0.0*"))
    );
    stand_ins.kill().unwrap();
    stand_ins.wait().unwrap();
}

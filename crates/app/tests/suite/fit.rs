//! Landing and fit over the API: said, sent twice, refused, taken back, and bounded.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::Server;
use serde_json::{Value, json};

const RUN: &str = "/api/jobs/1/runs/1";

fn note(server: &Server, id: &str, step: &Value) -> Result<Value, Value> {
    let deed = json!({ "id": id, "by": "bench", "done": { "deed": "fit", "run": 1, "step": step } });
    server.post("/api/jobs/1/record", None, &deed)
}

fn rough(low: f64) -> Value {
    json!({ "fit": "read", "reading": { "reads": "rough", "low": low, "left": 0.0, "long": 0.0 } })
}

fn fit(server: &Server) -> Value {
    server.get(&format!("{RUN}/fit")).unwrap()
}

fn steps(server: &Server) -> usize {
    fit(server)["steps"].as_array().unwrap().len()
}

#[test]
fn what_is_read_counts_once_and_is_taken_back() {
    let server = Server::with_the_demo();
    let before = fit(&server);
    assert_eq!((before["off"].as_array().unwrap().len(), before["corrections"].as_array().unwrap().len()), (0, 0));
    note(&server, "fit-reading-1", &rough(8.0)).unwrap();
    note(&server, "fit-reading-1", &rough(8.0)).unwrap();
    assert_eq!(steps(&server), 1, "the same deed twice is one");
    assert_eq!(note(&server, "fit-reading-1", &rough(9.0)).unwrap_err()["status"], 409);
    let off = fit(&server)["off"].clone();
    let low = off[0]["by"]["mm"].as_f64().unwrap();
    assert!(off[0]["how"] == "low" && (1.0..8.0).contains(&low), "between what was expected and what was said: {off}");
    // Undo does not touch what was measured.
    let making = json!({ "step": "cut", "edit": "set_making", "run": 1, "making": { "true_bends": true } });
    server.post("/api/jobs/1/edits", Some(1), &making).unwrap();
    server.post("/api/jobs/1/undo", Some(2), &json!({})).unwrap();
    assert_eq!(steps(&server), 1);
    let back =
        json!({ "id": "fit-back-1", "by": "bench", "done": { "deed": "not_fit", "run": 1, "was": "fit-reading-1" } });
    server.post("/api/jobs/1/record", None, &back).unwrap();
    assert_eq!(fit(&server)["chance"], before["chance"]);
}

#[test]
fn what_no_sane_person_reads_is_refused_and_nothing_is_lost() {
    let server = Server::with_the_demo();
    note(&server, "fit-reading-0", &rough(1.0)).unwrap();
    let mouth =
        |clock: f64, mm: f64| json!({ "fit": "read", "reading": { "reads": "mouth_gap", "clock": clock, "mm": mm } });
    let act = |mm: f64| json!({ "fit": "acted", "act": { "act": "trim", "piece": { "kind": "tube", "leg": 0 }, "end": "b", "mm": mm } });
    let spread =
        json!({ "fit": "read", "spread": 0.0, "reading": { "reads": "rough", "low": 1.0, "left": 0.0, "long": 0.0 } });
    for (at, wrong) in [rough(1e9), mouth(9e9, 1.0), mouth(0.0, -900.0), act(-1.0), spread].iter().enumerate() {
        let refused = note(&server, &format!("fit-wrong-{at}"), wrong).unwrap_err();
        assert_eq!(refused["status"], 422, "{wrong}");
        assert!(refused["detail"].as_str().unwrap().contains("200 mm"), "{refused}");
    }
    assert_eq!(
        note(&server, "fit-wrong-no", &json!({ "fit": "read", "reading": { "reads": "moon" } })).unwrap_err()["status"],
        400
    );
    // What is about nothing that the pipe has is kept and told not to count.
    let nowhere =
        json!({ "fit": "read", "reading": { "reads": "length", "piece": { "kind": "tube", "leg": 900 }, "mm": 80.0 } });
    note(&server, "fit-nowhere-1", &nowhere).unwrap();
    let told = fit(&server);
    assert_eq!(told["steps"][1]["lost"], true);
    assert_eq!(steps(&server), 2);
}

#[test]
fn the_rack_and_the_cut_page_say_one_chance() {
    let server = Server::with_the_demo();
    let rack = server.get("/api/jobs/1/rack").unwrap();
    let on_rack = rack["runs"].as_array().unwrap().iter().find(|run| run["run"] == 1).unwrap()["chance"].clone();
    let landing = server.get(&format!("{RUN}/landing")).unwrap();
    assert_eq!(landing["chance"], on_rack);
    assert!(server.get("/api/jobs/1/runs/999/landing").unwrap_err()["status"] == 404);
    assert!(server.get("/api/jobs/1/runs/999/fit").unwrap_err()["status"] == 404);
}

#[test]
fn a_reading_that_stands_against_the_rest_stops_everything_until_it_is_read_again() {
    let server = Server::with_the_demo();
    note(&server, "fit-stands-1", &rough(90.0)).unwrap();
    let told = fit(&server);
    assert_eq!((&told["steps"][0]["disagrees"], &told["likely"]), (&json!(true), &json!(false)));
    assert_eq!(told["corrections"], json!([]), "nothing is cut by it");
    // Something else that is read and agrees does not settle it.
    let piece = server.get(&format!("{RUN}/workup")).unwrap()["pieces"][0].clone();
    let length = json!({ "fit": "read", "reading": { "reads": "length", "piece": piece["piece"], "mm": piece["centre"]["mm"] } });
    note(&server, "fit-stands-2", &length).unwrap();
    assert_eq!(fit(&server)["steps"][0]["disagrees"], true);
    // Read again and the same, it stands.
    let mut again = 0;
    while fit(&server)["steps"][0]["disagrees"] == true && again < 6 {
        again += 1;
        note(&server, &format!("fit-stands-again-{again}"), &rough(90.0)).unwrap();
    }
    let told = fit(&server);
    assert!(told["steps"][0]["disagrees"] == false && again < 6, "{again}");
    assert_eq!(told["likely"], false);
}

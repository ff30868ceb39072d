//! Tests, signatures, times and the log over the API: what no gauge shows and what is not done is refused, and nothing of it is kept.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::Server;
use serde_json::{Value, json};

/// The demo's intake pipe: nothing is wrong with it.
const RUN: u32 = 39;

fn prove(server: &Server) -> Value {
    server.get(&format!("/api/jobs/1/runs/{RUN}/prove")).unwrap()
}

fn note(server: &Server, id: &str, done: &Value) -> Result<Value, Value> {
    server.post("/api/jobs/1/record", None, &json!({ "id": id, "by": "bench", "done": done }))
}

/// A gauge that drops by so many bar a minute.
fn shown(bar: f64, drops: f64) -> Vec<Value> {
    (0..300)
        .map(|at| {
            let seconds = 2.0 * f64::from(at);
            json!({ "seconds": seconds, "bar": bar - drops * seconds / 60.0, "celsius": 20.0 })
        })
        .collect()
}

fn tested(of: &Value, bar: f64, drops: f64) -> Value {
    let test = json!({ "kind": "air", "bar": bar, "of": of["test"]["of"], "readings": shown(bar, drops) });
    json!({ "deed": "tested", "run": RUN, "test": test })
}

fn why(refused: &Value) -> String {
    assert_eq!(refused["status"], 422, "{refused}");
    refused["detail"].as_str().unwrap().to_owned()
}

#[test]
fn a_test_is_judged_here_and_not_by_who_sends_it() {
    let server = Server::with_the_demo();
    let of = prove(&server);
    let bar = of["test"]["bar"].as_f64().unwrap();
    let judge = |readings: Vec<Value>| {
        let body = json!({ "kind": "air", "readings": readings });
        server.post(&format!("/api/jobs/1/runs/{RUN}/prove/judge"), None, &body)
    };
    assert_eq!(judge(shown(bar, 0.0)).unwrap()["verdict"], "pass");
    assert_eq!(judge(shown(bar, 0.06)).unwrap()["verdict"], "fail");
    assert_eq!(judge(shown(bar, 0.0)[..3].to_vec()).unwrap()["verdict"], "wait");
    assert!(judge(shown(bar + 1.0, 0.0)).unwrap()["refused"].as_str().unwrap().contains("Let it off"));
    assert!(
        why(&judge(vec![json!({ "seconds": 0, "bar": 900, "celsius": 20 })]).unwrap_err()).contains("-1 to 60 bar")
    );

    assert!(why(&note(&server, "test-too-high", &tested(&of, bar + 1.0, 0.0)).unwrap_err()).contains("Let it off"));
    assert!(why(&note(&server, "test-too-low", &tested(&of, bar / 2.0, 0.0)).unwrap_err()).contains("proves nothing"));
    let mut short = tested(&of, bar, 0.0);
    short["test"]["readings"].as_array_mut().unwrap().truncate(3);
    assert!(why(&note(&server, "test-too-short", &short).unwrap_err()).contains("Nothing is decided yet"));
    let mut backwards = tested(&of, bar, 0.0);
    backwards["test"]["readings"].as_array_mut().unwrap().reverse();
    assert!(why(&note(&server, "test-backwards", &backwards).unwrap_err()).contains("one after the other in time"));
    assert_eq!(prove(&server)["test"]["last"], Value::Null, "nothing of it is kept");
    note(&server, "a-good-test", &tested(&of, bar, 0.0)).unwrap();
    assert_eq!(prove(&server)["test"]["last"]["verdict"], "pass");
}

#[test]
fn nobody_signs_what_is_not_done_or_what_was_changed_meanwhile() {
    let server = Server::with_the_demo();
    let of = prove(&server);
    let revision = server.get("/api/jobs/1").unwrap()["revision"].as_i64().unwrap();
    let sign = |id: &str, of: &Value, revision: i64| {
        let signature = json!({ "of": of["sign"]["of"], "revision": revision });
        note(&server, id, &json!({ "deed": "signed", "run": RUN, "signature": signature }))
    };
    assert!(why(&sign("signed-too-soon", &of, revision).unwrap_err()).contains("It cannot be signed"));
    let seams = server.get(&format!("/api/jobs/1/runs/{RUN}/weld")).unwrap()["seams"].as_array().unwrap().clone();
    for (at, seam) in seams.iter().enumerate() {
        let what = json!({ "act": "weld", "seam": seam["seam"] });
        note(&server, &format!("weld-of-seam-{at}"), &json!({ "deed": "did", "run": RUN, "what": what })).unwrap();
    }
    for (at, check) in of["checks"].as_array().unwrap().iter().enumerate() {
        let answer = json!({ "item": check["item"], "of": check["of"], "good": true });
        note(&server, &format!("check-no-{at}"), &json!({ "deed": "checked", "run": RUN, "answer": answer })).unwrap();
    }
    note(&server, "a-good-test", &tested(&of, of["test"]["bar"].as_f64().unwrap(), 0.0)).unwrap();
    assert_eq!(prove(&server)["sign"]["wanting"], json!([]));
    assert!(why(&sign("signed-another", &of, revision - 1).unwrap_err()).contains("revision"));
    sign("signed-at-last", &of, revision).unwrap();
    let signed = prove(&server);
    assert_eq!((&signed["sign"]["who"], &signed["sign"]["changed"]), (&json!("bench"), &json!([])));
    // The rack says so, and the log holds it.
    let rack = server.get("/api/jobs/1/rack").unwrap();
    let mine = rack["runs"].as_array().unwrap().iter().find(|run| run["run"] == RUN).unwrap();
    let states: Vec<&str> =
        mine["steps"].as_array().unwrap().iter().map(|one| one["state"].as_str().unwrap()).collect();
    assert_eq!(states[5..], ["done", "done"], "{states:?}");
    let log = server.get("/api/jobs/1/log").unwrap();
    assert_eq!(log["lines"][0]["words"]["mm"], format!("Intake pipe: signed off as revision {revision}"));
}

#[test]
fn a_picture_is_kept_by_its_content_and_shown_in_the_log() {
    let server = Server::with_the_demo();
    let png = b"\x89PNG\r\n\x1a\n and so on".to_vec();
    let kept = server.send("/api/pictures", &png).unwrap();
    assert_eq!(server.send("/api/pictures", &png).unwrap(), kept, "the same is kept once");
    let pictured =
        |id: &Value| json!({ "deed": "pictured", "run": RUN, "step": "weld", "picture": id, "note": "seam 4" });
    note(&server, "a-picture", &pictured(&kept["id"])).unwrap();
    let log = server.get("/api/jobs/1/log").unwrap();
    assert_eq!(
        (&log["lines"][0]["picture"], &log["lines"][0]["words"]["mm"]),
        (&kept["id"], &json!("Intake pipe: a picture: seam 4"))
    );
    let other = json!("0".repeat(64));
    assert!(why(&note(&server, "none-such", &pictured(&other)).unwrap_err()).contains("no such picture"));
    assert!(why(&server.send("/api/pictures", b"<svg onload=x/>").unwrap_err()).contains("neither a PNG nor a JPEG"));
    assert_eq!(server.get(&format!("/api/pictures/{}", "0".repeat(64))).unwrap_err()["status"], 404);
}

#[test]
fn a_time_that_is_noted_counts_in_the_plan_of_all_jobs() {
    let server = Server::with_the_demo();
    let hours = || server.get("/api/jobs/1/rack").unwrap()["vehicle"]["hours"].as_f64().unwrap();
    let before = hours();
    let worked = |minutes: f64| json!({ "deed": "worked", "run": RUN, "worked": { "step": "cut", "minutes": minutes, "planned": 60 } });
    note(&server, "a-slow-day", &worked(240.0)).unwrap();
    assert!(hours() > before * 1.1, "four times as long as planned");
    assert!(why(&note(&server, "no-time-at-all", &worked(0.0)).unwrap_err()).contains("more than nothing"));
    let log = server.get("/api/jobs/1/log").unwrap();
    assert_eq!(log["from_runs"], 1);
    note(&server, "it-was-not-so", &json!({ "deed": "not_worked", "run": RUN, "step": "cut" })).unwrap();
    assert!((hours() - before).abs() < 1e-9);
}

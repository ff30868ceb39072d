//! The running server: who it answers, how it refuses, and that nothing it acknowledged is lost.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::Server;
use serde_json::{Value, json};

fn run_draft() -> Value {
    json!({ "step": "job", "edit": "add_run", "run": {
        "name": "Hot side", "duty": "charge_hot",
        "tube": { "material": "aluminium6061", "od": 63.5, "wall": 2.0 },
        "a": { "name": "compressor", "at": [0, 0, 0], "out": { "heading": 0, "pitch": 0 }, "od": 63.5, "form": "beaded", "rides": "engine" },
        "b": { "name": "cooler", "at": [520, 260, 310], "out": [0, 0.1, -1], "od": 63.5, "form": "beaded", "rides": "body" },
    }})
}

#[test]
fn a_job_goes_from_two_ports_to_the_saw_and_back_as_a_file() {
    let server = Server::start();
    let job = server.post("/api/jobs", None, &json!({ "name": "Test van" })).unwrap();
    let id = job["id"].as_i64().unwrap();
    let kept = server.post(&format!("/api/jobs/{id}/edits"), Some(1), &run_draft()).unwrap();
    assert_eq!(kept["revision"], 2);
    let workup = server.get(&format!("/api/jobs/{id}/runs/1/workup")).unwrap();
    assert_eq!(workup["bends"].as_array().unwrap().len(), 2);

    let target = json!({ "figure": "straight", "straight": workup["straights"][1]["straight"], "length": "150 mm" });
    let edit = json!({ "step": "route", "edit": "reshape", "run": 1, "target": target });
    let asked = json!({ "run": 1, "edit": edit });
    let preview = server.post(&format!("/api/jobs/{id}/preview"), None, &asked).unwrap()["workup"].take();
    assert!((preview["straights"][1]["length"]["mm"].as_f64().unwrap() - 150.0).abs() < 1e-6);
    let unchanged = server.get(&format!("/api/jobs/{id}")).unwrap();
    assert_eq!(
        (&unchanged["job"], &unchanged["revision"]),
        (&kept["job"], &kept["revision"]),
        "a preview keeps nothing"
    );
    assert_eq!(kept["made"][0], json!({ "part": "run", "run": 1 }), "what was made is told by name");

    let cuts = server.text(&format!("/api/jobs/{id}/runs/1/cut-list.csv")).unwrap();
    assert_eq!(cuts.lines().count(), 1 + workup["cutting"]["cuts"].as_array().unwrap().len());
    assert!(server.text(&format!("/api/jobs/{id}/runs/1/templates/1")).unwrap().contains("check-bar"));
    assert_eq!(server.get(&format!("/api/jobs/{id}/runs/1/templates/99")).unwrap_err()["status"], 404);

    let file = server.text(&format!("/api/jobs/{id}/file")).unwrap();
    server.delete(&format!("/api/jobs/{id}"));
    assert_eq!(server.get(&format!("/api/jobs/{id}")).unwrap_err()["status"], 404);
    let again = server.upload(file.as_bytes()).unwrap();
    assert_eq!(again["job"], kept["job"], "the file holds all of the job");
}

#[test]
fn refusals_say_what_and_where_and_change_nothing() {
    let server = Server::start();
    server.post("/api/jobs", None, &json!({ "name": "Test van" })).unwrap();
    let path = "/api/jobs/1/edits";
    let refused = |edit: &Value| server.post(path, Some(1), edit).unwrap_err();
    let spoilt = |pointer: &str, value: Value| {
        let mut draft = run_draft();
        *draft.pointer_mut(pointer).unwrap() = value;
        refused(&draft)["detail"].as_str().unwrap().to_owned()
    };
    assert!(spoilt("/run/tube/od", json!(-63.5)).contains("between 3 and 300 mm; -63.5 is outside"));
    assert!(spoilt("/run/tube/wall", json!(12.5)).contains("wall must be between 0.3 and 12 mm; 12.5 is outside"));
    assert!(spoilt("/run/tube", json!({"material": "mild_steel", "od": 20, "wall": 10})).contains("leaves no bore"));
    assert!(spoilt("/run/b/at", json!([0, 0, 0.5])).contains("at least 1 mm apart"));
    assert!(spoilt("/run/a/out", json!([0, 0, 0])).contains("direction"));
    assert!(spoilt("/run/name", json!("  ")).contains("name"));

    assert_eq!(server.post(path, None, &run_draft()).unwrap_err()["status"], 428);
    let moved_on = server.post(path, Some(7), &run_draft()).unwrap_err();
    assert_eq!((&moved_on["status"], &moved_on["revision"]), (&json!(412), &json!(1)));
    assert_eq!(server.post("/api/jobs/1/undo", Some(1), &json!({})).unwrap_err()["status"], 409);
    assert_eq!(server.post("/api/length", None, &json!({"text": "3//8", "unit": "mm"})).unwrap_err()["status"], 422);
    assert_eq!(server.upload(b"not a job").unwrap_err()["status"], 422);
    assert_eq!(server.upload(&vec![b' '; 5_000_000]).unwrap_err()["status"], 413);
    assert_eq!(server.get("/api/jobs/1").unwrap()["revision"], 1);
}

#[test]
fn only_its_own_pages_are_answered() {
    let server = Server::start();
    assert_eq!(server.status_with("Host", "evil.example"), 421);
    assert_eq!(server.status_with("Origin", "http://evil.example"), 421);
    assert_eq!(server.status_with("Accept", "application/json"), 200);
    let policy = server.header("/api/jobs", "content-security-policy");
    assert!(policy.contains("default-src 'none'") && !policy.contains("unsafe"), "{policy}");
    assert_eq!(server.header("/api/jobs", "x-content-type-options"), "nosniff");
    let api = server.get("/api/openapi.json").unwrap();
    assert!(api["paths"]["/api/jobs/{id}/edits"]["post"].is_object());
}

/// Edits pour in and the server is killed outright, again and again. Whatever was acknowledged must be there.
#[test]
fn nothing_acknowledged_is_lost_to_kill_9() {
    let mut server = Server::start();
    server.post("/api/jobs", None, &json!({ "name": "Test van" })).unwrap();
    let mut acknowledged = (1, 2.0);
    for round in 0..6 {
        let process = server.id();
        let killer = std::thread::spawn(move || {
            std::thread::sleep(std::time::Duration::from_millis(40 + 35 * round));
            crate::support::kill_9(process);
        });
        for step in 0.. {
            let kerf = 0.5 + f64::from(step % 50) / 10.0;
            let edit = json!({ "step": "cut", "edit": "pin_saw", "saw": { "name": "Saw", "kerf": kerf } });
            match server.try_post("/api/jobs/1/edits", Some(acknowledged.0), &edit) {
                Some(Ok(kept)) => acknowledged = (kept["revision"].as_i64().unwrap(), kerf),
                Some(Err(problem)) => panic!("{problem}"),
                None => break,
            }
        }
        killer.join().unwrap();
        server.restart();
        let found = server.get("/api/jobs/1").unwrap();
        let revision = found["revision"].as_i64().unwrap();
        // The one edit under way may have been kept without our hearing of it; nothing else may differ.
        assert!(revision == acknowledged.0 || revision == acknowledged.0 + 1, "{revision} after {}", acknowledged.0);
        if revision == acknowledged.0 {
            assert_eq!(found["job"]["saw"]["kerf"].as_f64().unwrap(), acknowledged.1);
        }
        acknowledged = (revision, found["job"]["saw"]["kerf"].as_f64().unwrap());
    }
    assert!(acknowledged.0 > 20, "the loop kept only {} edits", acknowledged.0);
}

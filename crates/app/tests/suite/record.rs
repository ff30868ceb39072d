//! The workshop and the record over the API: a kerf that outlives jobs, a cut that outlives undo.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::Server;
use serde_json::{Value, json};

const RUN: &str = "/api/jobs/1/runs/1";

fn pieces(server: &Server) -> Vec<Value> {
    server.get(&format!("{RUN}/workup")).unwrap()["pieces"].as_array().unwrap().clone()
}

fn names(server: &Server) -> Vec<String> {
    pieces(server).iter().map(|piece| piece["name"].as_str().unwrap().to_owned()).collect()
}

/// The deed of cutting a piece as its list says.
fn cut(id: &str, piece: &Value) -> Value {
    let size = json!({ "centre": piece["centre"]["mm"], "longest": piece["longest"]["mm"], "saws": [piece["saw_from"], piece["saw_to"]] });
    let as_cut = json!({ "name": piece["name"], "size": size });
    json!({ "id": id, "by": "bench", "done": { "deed": "cut", "run": 1, "piece": piece["piece"], "as_cut": as_cut } })
}

#[test]
fn the_workshop_outlives_jobs_and_each_job_knows_its_saw() {
    let server = Server::with_the_demo();
    let before = server.get("/api/workshop").unwrap();
    assert_eq!((&before["revision"], &before["workshop"]["saws"][0]["kerf"]), (&json!(0), &json!(2.0)));
    let saw = &before["workshop"]["saw"];
    let thin = json!({ "edit": "set_kerf", "saw": saw, "kerf": "1.6 mm" });
    assert_eq!(server.post("/api/workshop/edits", None, &thin).unwrap_err()["status"], 428);
    server.post("/api/workshop/edits", Some(0), &thin).unwrap();
    assert_eq!(server.post("/api/workshop/edits", Some(0), &thin).unwrap_err()["status"], 412, "someone was first");
    let wide = json!({ "edit": "set_kerf", "saw": saw, "kerf": 9 });
    assert_eq!(server.post("/api/workshop/edits", Some(1), &wide).unwrap_err()["status"], 400);
    let gone = json!({ "edit": "use_saw", "saw": 40 });
    assert!(
        server.post("/api/workshop/edits", Some(1), &gone).unwrap_err()["detail"]
            .as_str()
            .unwrap()
            .contains("no saw 40")
    );
    let last = json!({ "edit": "remove_saw", "saw": saw });
    assert_eq!(server.post("/api/workshop/edits", Some(1), &last).unwrap_err()["status"], 422);
    // The demo was made with a blade of 2.0, and says so; a new job takes the one there is.
    let kerf = |job: i64| server.get(&format!("/api/jobs/{job}")).unwrap()["job"]["saw"]["kerf"].clone();
    assert_eq!(kerf(1), json!(2.0));
    let new = server.post("/api/jobs", None, &json!({ "name": "Next van" })).unwrap()["id"].as_i64().unwrap();
    assert_eq!(kerf(new), json!(1.6));
}

#[test]
fn what_is_cut_of_one_run_has_a_bound_and_says_so() {
    let server = Server::with_the_demo();
    let mut deed = cut("", &pieces(&server)[0]);
    let mut post = |count: usize, leg: usize| {
        deed["id"] = json!(format!("many-cuts-{count}"));
        deed["done"]["piece"]["leg"] = json!(leg);
        server.post("/api/jobs/1/record", None, &deed)
    };
    for count in 0..500 {
        post(count, 100 + count).unwrap();
    }
    let refused = post(500, 100 + 500).unwrap_err();
    assert_eq!(refused["status"], 422);
    assert!(refused["detail"].as_str().unwrap().contains("500 pieces of this run are cut"), "{refused}");
    post(501, 100 + 7).expect("the same piece again is none more");
    let told = server.get(&format!("{RUN}/workup")).unwrap();
    let gone = told["findings"].as_array().unwrap().iter().filter(|one| one["kind"] == "cut_otherwise").count();
    assert_eq!(gone, 500, "each is told of, since the pipe has none of them");
}

#[test]
fn a_cut_piece_keeps_its_name_and_undo_does_not_touch_it() {
    let server = Server::with_the_demo();
    let before = names(&server);
    // The last pie, so that something can be put in before it.
    let place = before.len() - 2;
    let third = pieces(&server)[place].clone();
    let deed = cut("first-cut-0001", &third);
    server.post("/api/jobs/1/record", None, &deed).unwrap();
    server.post("/api/jobs/1/record", None, &deed).unwrap();
    let record = server.get("/api/jobs/1/record").unwrap();
    assert_eq!(record["deeds"].as_array().unwrap().len(), 1, "sent twice, done once");
    let other = cut("first-cut-0001", &pieces(&server)[0]);
    assert_eq!(server.post("/api/jobs/1/record", None, &other).unwrap_err()["status"], 409);
    assert!(pieces(&server)[place]["cut"].as_bool().unwrap() && !pieces(&server)[0]["cut"].as_bool().unwrap());

    // A bend more in front of it, and another mark: it stays what is written on it, and nobody else is called that.
    let revision = || server.get("/api/jobs/1").unwrap()["revision"].as_i64().unwrap();
    let keep = |edit: Value| server.post("/api/jobs/1/edits", Some(revision()), &edit).unwrap();
    let workup = server.get(&format!("{RUN}/workup")).unwrap();
    let at = workup["straights"][1]["new_bend"].clone();
    let made = keep(
        json!({ "step": "route", "edit": "add_bend", "run": 1, "leg": workup["straights"][1]["straight"], "at": at }),
    );
    assert_eq!(made["made"][0]["part"], "bend");
    keep(json!({ "step": "job", "edit": "set_mark", "run": 1, "mark": "QX" }));
    let now = pieces(&server);
    let same = now.iter().find(|piece| piece["piece"] == third["piece"]).unwrap();
    assert_eq!(same["name"], third["name"]);
    let mut all = names(&server);
    assert!(all.iter().filter(|name| *name != &before[place]).all(|name| name.starts_with("QX")), "{all:?}");
    all.sort();
    all.dedup();
    assert_eq!(all.len(), now.len(), "no two pieces are called alike");
    server.post("/api/jobs/1/undo", Some(revision()), &json!({})).unwrap();
    server.post("/api/jobs/1/undo", Some(revision()), &json!({})).unwrap();
    assert_eq!(names(&server), before);
    assert!(pieces(&server)[place]["cut"].as_bool().unwrap(), "undo does not weld it on again");

    // A pipe that now wants another length says so, by kind.
    let bend = workup["bends"].as_array().unwrap().last().unwrap()["bend"].clone();
    keep(json!({ "step": "route", "edit": "set_bend_radius", "run": 1, "bend": bend, "radius": 91 }));
    let workup = server.get(&format!("{RUN}/workup")).unwrap();
    let told = workup["findings"].as_array().unwrap().iter().find(|one| one["kind"] == "cut_otherwise");
    let told = told.unwrap_or_else(|| panic!("{} {third}", workup["pieces"]));
    assert_eq!(told["part"]["piece"], third["piece"]);
    assert!(told["words"]["mm"].as_str().unwrap().starts_with(&before[place]), "{told}");
    assert!((told["value"].as_f64().unwrap() - third["centre"]["mm"].as_f64().unwrap()).abs() < 1e-9);

    // Not cut after all.
    let back = json!({ "id": "not-cut-0001", "by": "bench", "done": { "deed": "not_cut", "run": 1, "piece": third["piece"] } });
    server.post("/api/jobs/1/record", None, &back).unwrap();
    assert!(pieces(&server).iter().all(|piece| !piece["cut"].as_bool().unwrap()));
}

#[test]
fn deeds_that_cannot_be_are_refused_and_go_with_their_job() {
    let server = Server::with_the_demo();
    let piece = pieces(&server)[0].clone();
    for spoil in [
        |deed: &mut Value| deed["id"] = json!("short"),
        |deed: &mut Value| deed["by"] = json!(""),
        |deed: &mut Value| deed["done"]["as_cut"]["size"]["centre"] = json!(-5),
        |deed: &mut Value| deed["done"]["as_cut"]["size"]["saws"] = json!([0, 90]),
        |deed: &mut Value| deed["done"]["as_cut"]["name"] = json!("x".repeat(500)),
        |deed: &mut Value| deed["done"]["deed"] = json!("eaten"),
    ] {
        let mut deed = cut("some-deed-0001", &piece);
        spoil(&mut deed);
        let status = server.post("/api/jobs/1/record", None, &deed).unwrap_err()["status"].as_i64().unwrap();
        assert!(status == 400 || status == 422, "{status}: {deed}");
    }
    let deed = cut("some-deed-0001", &piece);
    assert_eq!(server.post("/api/jobs/77/record", None, &deed).unwrap_err()["status"], 404);
    assert_eq!(server.get("/api/jobs/77/record").unwrap_err()["status"], 404);
    server.post("/api/jobs/1/record", None, &deed).unwrap();
    server.delete("/api/jobs/1");
    assert_eq!(server.get("/api/jobs/1/record").unwrap_err()["status"], 404);
}

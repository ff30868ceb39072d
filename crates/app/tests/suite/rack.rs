//! How a job stands as a whole, and what can be asked of two of its things, over the API.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::Server;
use serde_json::{Value, json};

fn state(rack: &Value, run: usize, step: usize) -> String {
    rack["runs"][run]["steps"][step]["state"].as_str().unwrap().to_owned()
}

#[test]
fn a_rack_follows_edits_deeds_and_undo_and_says_what_undo_takes_back() {
    let server = Server::with_the_demo();
    let rack = || server.get("/api/jobs/1/rack").unwrap();
    let before = rack();
    assert_eq!(before, rack(), "asked twice it is the same");
    let runs = before["runs"].as_array().unwrap();
    assert_eq!((runs.len(), runs[0]["mark"].as_str()), (10, Some("H")));

    // The worst finding's own button, pressed on the rack.
    let top = &runs[1];
    assert_eq!((state(&before, 1, 2), &top["next"]["step"]), ("wrong".to_owned(), &json!("join")));
    let kept = server.post("/api/jobs/1/edits", Some(1), &top["next"]["edit"]).unwrap();
    assert_eq!(state(&rack(), 1, 2), "done");
    assert_eq!(kept["undo"], "joint B of Top coolant line");
    assert_eq!(kept["redo"], Value::Null);
    let back = server.post("/api/jobs/1/undo", Some(2), &json!({})).unwrap();
    assert_eq!((&back["undo"], &back["redo"]), (&Value::Null, &json!("joint B of Top coolant line")));
    assert_eq!(rack(), before);

    // By hand: the last run is hung first.
    let place = json!({ "step": "job", "edit": "place_run", "run": runs[7]["run"], "to": 0 });
    let kept = server.post("/api/jobs/1/edits", Some(3), &place).unwrap();
    assert_eq!(kept["undo"], "Turbo oil feed moved on the rack");
    assert_eq!(rack()["runs"][0]["name"], "Turbo oil feed");
    server.post("/api/jobs/1/undo", Some(4), &json!({})).unwrap();
    assert_eq!(rack(), before);

    // A piece is cut: no revision, and still the rack knows.
    let workup = server.get("/api/jobs/1/runs/40/workup").unwrap();
    let piece = &workup["pieces"][0];
    let as_cut = json!({ "name": piece["name"], "size": {
        "centre": piece["centre"]["mm"], "longest": piece["longest"]["mm"], "saws": [piece["saw_from"], piece["saw_to"]] } });
    let done = json!({ "deed": "cut", "run": 40, "piece": piece["piece"], "as_cut": as_cut });
    server.post("/api/jobs/1/record", None, &json!({ "id": "deed-0001", "by": "bench", "done": done })).unwrap();
    let cut = rack();
    assert_eq!((state(&cut, 4, 3), &cut["vehicle"]["cut"]), ("begun".to_owned(), &json!(1)));
}

#[test]
fn two_things_have_a_distance_and_a_run_a_price_for_looking_meant() {
    let server = Server::with_the_demo();
    let gap = |one: Value, other: Value| server.post("/api/jobs/1/gap", None, &json!({ "one": one, "other": other }));
    let run = json!({ "part": "run", "run": 1 });
    let (cooler, radiator) =
        (json!({ "part": "keep_out", "keep_out": 13 }), json!({ "part": "keep_out", "keep_out": 14 }));
    let told = gap(cooler.clone(), radiator.clone()).unwrap();
    assert_eq!(told["gap"], gap(radiator, cooler).unwrap()["gap"]);
    assert!(told["words"]["mm"].as_str().unwrap().ends_with("between charge cooler and radiator."));
    let refused = gap(run.clone(), json!({ "part": "bend", "run": 1, "bend": 3 })).unwrap_err();
    assert_eq!((&refused["status"], &refused["title"]), (&json!(422), &json!("That cannot be")));
    // The scan is not here, so that nothing can be measured to it.
    let scan = gap(run.clone(), json!({ "part": "keep_out", "keep_out": 69 })).unwrap_err();
    assert!(scan["detail"].as_str().unwrap().starts_with("Steering reservoir takes no room yet"), "{scan}");
    assert_eq!(gap(run, json!({ "part": "datum", "datum": 999 })).unwrap_err()["status"], 404);

    let truing = server.get("/api/jobs/1/runs/38/truing").unwrap();
    let offer = &truing["offers"][0];
    let kept = server.post("/api/jobs/1/edits", Some(1), &offer["edit"]).unwrap();
    assert_eq!(kept["undo"], "which way straight 3 of Cold side charge pipe runs");
    let then = server.get("/api/jobs/1/runs/38/truing").unwrap();
    assert_eq!(then["already"].as_u64().unwrap(), truing["already"].as_u64().unwrap() + 1);
    assert_eq!(server.get("/api/jobs/1/runs/999/truing").unwrap_err()["status"], 404);
}

#[test]
fn a_crest_is_set_out_from_datums() {
    let server = Server::with_the_demo();
    let ask = |part: Value| server.post("/api/jobs/1/set-out", None, &json!({ "part": part }));
    let bend = server.get("/api/jobs/1/runs/1/workup").unwrap()["bends"][1]["bend"].clone();
    let told = ask(json!({ "part": "bend", "run": 1, "bend": bend })).unwrap();
    assert_eq!(told["points"][0]["name"], "crest of bend 2");
    assert_eq!(told["points"][0]["set"]["readings"].as_array().unwrap().len(), 3);
    assert_eq!(ask(json!({ "part": "keep_out", "keep_out": 999 })).unwrap()["points"], json!([]));
    assert_eq!(ask(json!({ "part": "moon" })).unwrap_err()["status"], 400);
}

/// A run's fewest supports are an edit like any other, after which it needs none; its fittings are a list for the shop.
#[test]
fn a_run_is_held_up_by_the_edit_that_was_proposed_and_lists_its_fittings() {
    let server = Server::with_the_demo();
    let rings = |run: &Value| {
        let workup = server.get(&format!("/api/jobs/1/runs/{run}/workup")).unwrap();
        workup["findings"].as_array().unwrap().iter().filter(|one| one["kind"] == "span_rings").count()
    };
    let rack = server.get("/api/jobs/1/rack").unwrap();
    let runs = rack["runs"].as_array().unwrap();
    let asked = |run: &Value| server.get(&format!("/api/jobs/1/runs/{run}/hold-up"));
    let needy = runs
        .iter()
        .map(|run| &run["run"])
        .find(|run| asked(run).is_ok_and(|answer| answer["count"].as_u64().unwrap() > 0));
    let run = needy.expect("a run of the demo rings");
    assert!(rings(run) > 0);
    let held = asked(run).unwrap();
    server.post("/api/jobs/1/edits", Some(1), &held["edit"]).unwrap();
    assert_eq!(rings(run), 0);
    assert_eq!(asked(run).unwrap(), json!({ "count": 0, "edit": null }));
    assert_eq!(asked(&json!(999)).unwrap_err()["status"], 404);

    let list = server.text(&format!("/api/jobs/1/runs/{run}/fittings.csv")).unwrap();
    let workup = server.get(&format!("/api/jobs/1/runs/{run}/workup")).unwrap();
    let clamps = workup["supports"].as_array().unwrap().len();
    assert!(clamps > 0 && list.lines().count() > clamps, "{list}");
    let columns = list.lines().next().unwrap().split(',').count();
    assert!(columns > 3 && list.lines().all(|line| line.contains(',')), "{list}");
}

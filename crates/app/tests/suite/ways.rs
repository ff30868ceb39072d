//! Ways round over the API: searched as it is listened to, ordered, dragged, set beside, and out to other programs.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use std::sync::{Mutex, MutexGuard, PoisonError};

use crate::support::Server;
use serde_json::{Value, json};

const RUN: &str = "/api/jobs/1/runs/1";

/// Held by whoever searches: each search takes every core and has seconds, not work, to end by.
static SEARCHING: Mutex<()> = Mutex::new(());

fn searching() -> MutexGuard<'static, ()> {
    SEARCHING.lock().unwrap_or_else(PoisonError::into_inner)
}

fn search(server: &Server) -> (Vec<Value>, Value) {
    let mut news: Vec<Value> = server.listen(&format!("{RUN}/search")).collect();
    let last = news.pop().unwrap();
    assert_eq!(last["is"], "done", "{last}");
    (news, last["found"].clone())
}

fn fits(found: &Value) -> Vec<&Value> {
    let offers = found["offers"].as_array().unwrap();
    offers.iter().filter(|offer| offer["short"].as_array().unwrap().is_empty()).collect()
}

#[test]
fn a_search_tells_as_it_goes_and_is_asked_only_once() {
    let _alone = searching();
    let server = Server::with_the_demo();
    let (news, found) = search(&server);
    let shares: Vec<f64> =
        news.iter().filter(|one| one["is"] == "progress").map(|one| one["share"].as_f64().unwrap()).collect();
    assert!(shares.len() > 5 && shares.iter().all(|share| (0.0..=1.0).contains(share)), "{shares:?}");
    assert!(news.iter().any(|one| one["is"] == "found"), "something is told before the end");
    let ways = fits(&found);
    assert!(ways.len() >= 6, "the demo's hot side has ways that differ in kind");
    let mut kinds: Vec<&str> = ways.iter().map(|offer| offer["name"].as_str().unwrap()).collect();
    kinds.sort_unstable();
    kinds.dedup();
    assert!(kinds.len() >= 4, "{kinds:?}");

    // Taking one of them asks nothing new; asking for more air does.
    let take = json!({ "step": "route", "edit": "take_way", "run": 1, "way": ways[0]["way"] });
    let revision = server.get("/api/jobs/1").unwrap()["revision"].as_i64().unwrap();
    let taken = server.post("/api/jobs/1/edits", Some(revision), &take).unwrap();
    let (news, again) = search(&server);
    assert_eq!((news.len(), &again), (0, &found), "what was found is still the answer");
    let workup = server.get(&format!("{RUN}/workup")).unwrap();
    let pieces = workup["air"]["trace"].as_array().unwrap();
    assert!(pieces.iter().all(|piece| piece["state"] != "fouls"), "the way taken is clear");

    let wishes = json!({ "step": "route", "edit": "set_wishes", "run": 1, "wishes": { "most_bends": 3 } });
    server.post("/api/jobs/1/edits", taken["revision"].as_i64(), &wishes).unwrap();
    let (news, fewer) = search(&server);
    assert!(!news.is_empty(), "a new question is searched");
    assert!(fits(&fewer).iter().all(|offer| offer["figures"]["bends"].as_u64().unwrap() <= 3));
}

#[test]
fn weights_order_what_was_found_and_are_refused_where_they_make_no_sense() {
    let _alone = searching();
    let server = Server::with_the_demo();
    let order = format!("{RUN}/ways/order");
    let presets = server.get("/api/ways/presets").unwrap();
    let weights = |name: &str| {
        let all = presets.as_array().unwrap();
        all.iter().find(|one| one["name"].as_str().unwrap() == name).unwrap_or_else(|| panic!("{presets}"))["weights"]
            .clone()
    };
    assert_eq!(server.post(&order, None, &weights("Shortest")).unwrap_err()["status"], 404, "nothing was searched yet");
    let (_, found) = search(&server);
    let ways = fits(&found);
    let sorted = server.post(&order, None, &weights("Shortest")).unwrap();
    let first = usize::try_from(sorted[0].as_u64().unwrap()).unwrap();
    let length = |way: &Value| way["figures"]["length"]["mm"].as_f64().unwrap();
    let least = ways.iter().map(|way| length(way)).fold(f64::INFINITY, f64::min);
    assert!(length(&found["offers"][first]) < least * 1.02, "the shortest, or as good as");
    let mut wrong = weights("Shortest");
    wrong["length"] = json!(-1.0);
    assert_eq!(server.post(&order, None, &wrong).unwrap_err()["status"], 422);
}

#[test]
fn a_drag_goes_as_far_as_it_can_and_keeps_nothing() {
    let server = Server::with_the_demo();
    let before = server.get("/api/jobs/1").unwrap();
    let bend = server.get(&format!("{RUN}/workup")).unwrap()["bends"][1]["bend"].clone();
    let edit = |bend: &Value, angle: f64| {
        let target = json!({ "figure": "angle", "bend": bend, "angle": angle });
        json!({ "step": "route", "edit": "reshape", "run": 1, "target": target, "reach": "as_far_as_it_goes" })
    };
    let drag = |bend: &Value, angle: f64| {
        server.post("/api/jobs/1/preview", None, &json!({ "run": 1, "edit": edit(bend, angle) }))
    };
    let whole = drag(&bend, 40.0).unwrap();
    assert!((whole["workup"]["bends"][1]["angle"].as_f64().unwrap() - 40.0).abs() < 1e-6);
    assert_eq!(whole["held"], Value::Null);
    let short = drag(&bend, 175.0).unwrap();
    let angle = short["workup"]["bends"][1]["angle"].as_f64().unwrap();
    assert!(angle > 42.5 && angle < 150.01, "as far as a hand bends it: {angle}");
    assert!(short["held"]["mm"].as_str().is_some_and(|words| !words.is_empty()), "{}", short["held"]);
    assert_eq!(drag(&json!(900), 40.0).unwrap_err()["status"], 422);
    assert_eq!(server.get("/api/jobs/1").unwrap(), before, "a drag keeps nothing");
    // The same edit keeps exactly what it showed, and says what was meant.
    let kept = server.post("/api/jobs/1/edits", before["revision"].as_i64(), &edit(&bend, 40.0)).unwrap();
    assert_eq!(kept["revision"].as_i64().unwrap(), before["revision"].as_i64().unwrap() + 1);
    let now = server.get(&format!("{RUN}/workup")).unwrap();
    assert_eq!(now["bends"], whole["workup"]["bends"]);
}

#[test]
fn kept_ways_are_compared_and_the_pipe_goes_out_and_its_table_comes_back() {
    let server = Server::with_the_demo();
    let beside = server.get(&format!("{RUN}/kept")).unwrap();
    let names: Vec<_> = beside.as_array().unwrap().iter().map(|way| way["name"].as_str()).collect();
    assert_eq!(names, [None, Some("Whole elbows"), Some("Roomy")]);
    assert!(beside.as_array().unwrap().iter().all(|way| way["workup"]["bends"].as_array().unwrap().len() == 4));

    for (format, begins) in [("dxf", &b"  0"[..]), ("step", b"ISO-10303-21;"), ("glb", b"glTF")] {
        let file = server.bytes(&format!("{RUN}/pipe/{format}"));
        assert!(file.starts_with(begins) || format == "dxf", "{format}");
        assert!(file.len() > 500, "{format} has something in it");
    }
    let stl = server.bytes(&format!("{RUN}/pipe/stl"));
    let count = u32::from_le_bytes(stl[80..84].try_into().unwrap()) as usize;
    assert!(count > 1000 && stl.len() == 84 + 50 * count, "{count} triangles");
    assert_eq!(server.get(&format!("{RUN}/pipe/dwg")).unwrap_err()["status"], 404);

    let table = server.text(&format!("{RUN}/lra.csv")).unwrap();
    let taken = server.put_text(&format!("{RUN}/lra.csv"), 1, &table).unwrap();
    assert_eq!(taken["changes"], json!([]), "a table that comes back as it went changes nothing");
    let asked = json!({ "run": 1, "edit": taken["edit"] });
    let again = server.post("/api/jobs/1/preview", None, &asked).unwrap()["workup"].take();
    let now = server.get(&format!("{RUN}/workup")).unwrap();
    let angles = |workup: &Value| -> Vec<f64> {
        workup["bends"].as_array().unwrap().iter().map(|bend| bend["angle"].as_f64().unwrap()).collect()
    };
    // The table is rounded to a tenth of a mm and a hundredth of a degree.
    assert!(angles(&again).iter().zip(angles(&now)).all(|(p, q)| (p - q).abs() < 0.2));
    assert_eq!(server.put_text(&format!("{RUN}/lra.csv"), 1, "no;table").unwrap_err()["status"], 422);
}

#[test]
fn a_twin_is_checked_against_what_is_on_its_own_side() {
    let server = Server::with_the_demo();
    assert_eq!(server.get(&format!("{RUN}/twin")).unwrap(), Value::Null, "the hot side has no twin");
    let job = server.get("/api/jobs/1").unwrap();
    let runs = job["job"]["runs"].as_array().unwrap();
    let heater = runs.iter().find(|run| run["name"] == "Heater line, left").unwrap();
    let check = server.get(&format!("/api/jobs/1/runs/{}/twin", heater["id"])).unwrap();
    assert_eq!(check["name"], "Heater line, right");
    assert!(check["differ"]["mm"].as_f64().unwrap() > 5.0, "{check}");
    let words = check["words"]["mm"].as_str().unwrap();
    assert!(words.contains("on this side") && words.contains("on the other"), "{words}");
    assert_eq!(server.get("/api/jobs/1/runs/999/twin").unwrap_err()["status"], 404);
}

/// How a bay comes apart is told as it is looked for, and what it was asked in vain is refused with the limit.
#[test]
fn what_comes_apart_is_told_as_it_is_looked_for() {
    let _alone = searching();
    let server = Server::with_the_demo();
    let last = |path: &str| server.listen(path).last().unwrap();
    let out = last("/api/jobs/1/runs/39/sections/0/way-out");
    assert_eq!((&out["is"], &out["found"]["section"]), (&json!("section"), &json!(0)));
    let frames = out["found"]["frames"].as_array().unwrap();
    assert!(
        frames.len() > 2 && frames[0] == json!([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0]])
    );
    assert_eq!(last("/api/jobs/1/runs/39/sections/0/way-out"), out, "what is known is told again");
    let none = last("/api/jobs/1/runs/39/sections/7/way-out");
    assert_eq!((&none["is"], &none["problem"]["status"]), (&json!("refused"), &json!(404)));
    assert!(none["problem"]["detail"].as_str().unwrap().contains("no section 8"), "{none}");

    let news: Vec<Value> = server.listen("/api/jobs/1/apart").collect();
    let order = &news.last().unwrap()["found"];
    let (steps, stuck) = (order["steps"].as_array().unwrap(), order["stuck"].as_array().unwrap());
    assert_eq!((steps.len(), stuck.len()), (10, 1), "{order}");
    let shares: Vec<f64> = news.iter().filter_map(|one| one["share"].as_f64()).collect();
    assert!(shares.len() > 2 && shares.is_sorted() && shares.iter().all(|share| *share <= 1.0), "{shares:?}");

    for (query, words) in
        [("longest=20", "the longest part"), ("longest=nan", "longest part"), ("longest=1e9", "20000")]
    {
        let problem = server.get(&format!("/api/jobs/1/runs/1/partings?{query}")).unwrap_err();
        let detail = problem["detail"].as_str().unwrap().to_lowercase();
        assert!(detail.contains(words), "{query}: {problem}");
    }
    assert_eq!(server.get("/api/jobs/1/runs/999/partings").unwrap_err()["status"], 404);
    assert_eq!(server.get("/api/jobs/77/apart").unwrap_err()["status"], 404);
}

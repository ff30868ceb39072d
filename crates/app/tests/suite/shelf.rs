//! What is sawn from which stick over the API, and the sheets for what is made beside the tube.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::BTreeSet;

use crate::support::Server;
use serde_json::{Value, json};

fn demo_shelf(server: &Server) -> i64 {
    let edits: Vec<Value> = serde_json::from_str(include_str!("../../../../demo/workshop.json")).unwrap();
    let mut seen = server.get("/api/workshop").unwrap()["revision"].as_i64().unwrap();
    for edit in &edits {
        seen = server.post("/api/workshop/edits", Some(seen), edit).unwrap()["revision"].as_i64().unwrap();
    }
    seen
}

fn chains(plan: &Value) -> Vec<&Value> {
    let tubes = plan["tubes"].as_array().unwrap().iter();
    let sticks = tubes.flat_map(|tube| tube["sticks"].as_array().unwrap());
    sticks.flat_map(|stick| stick["chains"].as_array().unwrap()).collect()
}

fn pieces(plan: &Value) -> Vec<&str> {
    chains(plan)
        .into_iter()
        .flat_map(|chain| chain["pieces"].as_array().unwrap())
        .map(|one| one.as_str().unwrap())
        .collect()
}

#[test]
fn every_piece_that_is_not_cut_is_on_one_stick_and_the_table_has_its_cut() {
    let server = Server::with_the_demo();
    // Nothing is on the shelf and nothing is on sale.
    let bare = server.get("/api/jobs/1/stock").unwrap();
    assert!(chains(&bare).is_empty() && bare["tubes"].as_array().unwrap().iter().all(|tube| tube["found"] == false));
    demo_shelf(&server);
    let plan = server.get("/api/jobs/1/stock").unwrap();
    let planned = pieces(&plan);
    assert_eq!(planned.len(), planned.iter().collect::<BTreeSet<_>>().len(), "none is on two sticks");
    let job = server.get("/api/jobs/1").unwrap();
    let sawn = job["job"]["runs"].as_array().unwrap().iter().filter(|run| run["hose"].is_null());
    let of = |run: &Value| server.get(&format!("/api/jobs/1/runs/{}/workup", run["id"])).unwrap()["pieces"].clone();
    let all: usize = sawn.map(|run| of(run).as_array().unwrap().len()).sum();
    assert_eq!(planned.len(), all, "and none is on no stick");
    let table = server.text("/api/jobs/1/stock.csv").unwrap();
    let mut rows = csv::Reader::from_reader(table.as_bytes());
    let heads = rows.headers().unwrap().clone();
    let column = heads.iter().position(|head| head == "piece").unwrap();
    let freed: Vec<String> =
        rows.records().map(|row| row.unwrap()[column].to_owned()).filter(|one| one != "waste").collect();
    assert_eq!(freed, planned, "in the order in which they are sawn");

    // What is cut is planned no more.
    let workup = server.get("/api/jobs/1/runs/1/workup").unwrap();
    let piece = &workup["pieces"][0];
    let as_cut = json!({ "name": piece["name"], "size": {
        "centre": piece["centre"]["mm"], "longest": piece["longest"]["mm"], "saws": [piece["saw_from"], piece["saw_to"]] } });
    let done = json!({ "deed": "cut", "run": 1, "piece": piece["piece"], "as_cut": as_cut });
    server.post("/api/jobs/1/record", None, &json!({ "id": "deed-0001", "by": "bench", "done": done })).unwrap();
    let after = server.get("/api/jobs/1/stock").unwrap();
    let left: Vec<&str> = pieces(&after);
    assert_eq!(left.len() + 1, planned.len());
    assert!(!left.contains(&piece["name"].as_str().unwrap()));
    assert!(server.get("/api/jobs/99/stock").is_err() && server.text("/api/jobs/99/stock.csv").is_none());
}

#[test]
fn a_stick_more_never_costs_more_and_what_is_no_stick_is_refused() {
    let server = Server::with_the_demo();
    let seen = demo_shelf(&server);
    let cost = || server.get("/api/jobs/1/stock").unwrap()["cost"].as_f64().unwrap();
    let before = cost();
    let stick = |length: f64, material: &str| json!({ "edit": "add_stick", "tube": { "material": material, "od": 76.2, "wall": 1.6 }, "length": length });
    let with = server.post("/api/workshop/edits", Some(seen), &stick(700.0, "aluminium6061")).unwrap();
    assert!(cost() < before, "a stick of the widest tube spares one to buy");
    let seen = with["revision"].as_i64().unwrap();
    let wrong =
        [(stick(-5.0, "aluminium6061"), 400), (stick(700.0, "silicone"), 422), (stick(1e9, "aluminium6061"), 400)];
    for (edit, status) in wrong {
        let refused = server.post("/api/workshop/edits", Some(seen), &edit).unwrap_err();
        assert_eq!(refused["status"], status, "{refused}");
    }
    assert_eq!(server.get("/api/workshop").unwrap()["revision"], seen, "and nothing was changed");
}

fn sticks(plan: &Value) -> Vec<Value> {
    plan["tubes"].as_array().unwrap().iter().flat_map(|tube| tube["sticks"].as_array().unwrap().clone()).collect()
}

/// What is sent when a stick of the plan is sawn.
fn sawn(id: &str, stick: &Value) -> Value {
    let chains = stick["chains"].as_array().unwrap().iter();
    let cuts = chains.flat_map(|chain| chain["cuts"].as_array().unwrap().iter().map(move |cut| (&chain["run"], cut)));
    let pieces = cuts.filter(|(_, cut)| !cut["piece"].is_null());
    let pieces: Vec<Value> = pieces.map(|(run, cut)| json!({ "run": run, "piece": cut["piece"] })).collect();
    json!({ "id": id, "by": "saw bench", "from": { "what": "stick", "stick": stick["stick"], "pieces": pieces } })
}

/// Length of every stick of the shelf, by number.
fn on_the_shelf(server: &Server) -> Vec<(u64, f64)> {
    let sticks = server.get("/api/workshop").unwrap()["workshop"]["sticks"].clone();
    let all = sticks.as_array().unwrap().iter();
    all.map(|stick| (stick["id"].as_u64().unwrap(), stick["length"].as_f64().unwrap())).collect()
}

#[test]
fn what_is_sawn_is_cut_and_what_is_left_of_it_is_on_the_shelf_until_nothing_is_to_be_sawn() {
    let server = Server::with_the_demo();
    demo_shelf(&server);
    let mut counted = 0;
    let all = pieces(&server.get("/api/jobs/1/stock").unwrap()).len();
    for round in 0.. {
        let plan = server.get("/api/jobs/1/stock").unwrap();
        let Some(stick) = sticks(&plan).first().cloned() else { break };
        let before = on_the_shelf(&server);
        let body = sawn(&format!("stick-{round}-of-the-day"), &stick);
        server.post("/api/jobs/1/stock/sawn", None, &body).unwrap();
        counted += body["from"]["pieces"].as_array().unwrap().len();
        let after = on_the_shelf(&server);
        let left = stick["left"]["mm"].as_f64().unwrap();
        let kept = left > 50.0;
        match stick["stick"].as_u64() {
            // An offcut keeps the number that is written on it.
            Some(number) => {
                let known = after.iter().find(|(id, _)| *id == number);
                assert_eq!(known.is_some(), kept, "{left}");
                assert!(known.is_none_or(|(_, mm)| *mm <= left && *mm > left - 0.1 - 1e-9));
                assert_eq!(after.len(), before.len() - usize::from(!kept));
            }
            None => assert_eq!(after.len(), before.len() + usize::from(kept)),
        }
        // Sent again it is there already, and nothing is taken twice.
        server.post("/api/jobs/1/stock/sawn", None, &body).unwrap();
        assert_eq!(on_the_shelf(&server), after);
    }
    assert_eq!(counted, all, "every piece was sawn once");
    let job = server.get("/api/jobs/1").unwrap();
    for run in job["job"]["runs"].as_array().unwrap().iter().filter(|run| run["hose"].is_null()) {
        let workup = server.get(&format!("/api/jobs/1/runs/{}/workup", run["id"])).unwrap();
        assert!(workup["pieces"].as_array().unwrap().iter().all(|piece| piece["cut"] == true));
        // As listed: nothing is said to be cut otherwise.
        assert!(workup["findings"].as_array().unwrap().iter().all(|one| one["kind"] != "cut_otherwise"));
    }
}

#[test]
fn a_stick_that_is_not_planned_like_that_any_more_is_refused_and_nothing_is_noted() {
    let server = Server::with_the_demo();
    let seen = demo_shelf(&server);
    let plan = server.get("/api/jobs/1/stock").unwrap();
    let stick = sticks(&plan).iter().find(|stick| !stick["stick"].is_null()).unwrap().clone();
    // Somebody takes it off the shelf in the meantime.
    let remove = json!({ "edit": "remove_stick", "stick": stick["stick"] });
    server.post("/api/workshop/edits", Some(seen), &remove).unwrap();
    let refused = server.post("/api/jobs/1/stock/sawn", None, &sawn("too-late-0001", &stick)).unwrap_err();
    assert_eq!(refused["status"], 409, "{refused}");
    let mut other = sawn("wrong-pieces-1", &sticks(&server.get("/api/jobs/1/stock").unwrap())[0]);
    other["from"]["pieces"].as_array_mut().unwrap().pop();
    assert_eq!(server.post("/api/jobs/1/stock/sawn", None, &other).unwrap_err()["status"], 409);
    assert!(server.get("/api/jobs/1/record").unwrap()["deeds"].as_array().unwrap().is_empty());
    assert_eq!(server.get("/api/workshop").unwrap()["revision"], seen + 1);
    let nonsense = json!({ "id": "a name with spaces", "by": "x", "from": { "what": "stick", "pieces": [] } });
    assert_eq!(server.post("/api/jobs/1/stock/sawn", None, &nonsense).unwrap_err()["status"], 400);
}

#[test]
fn what_is_left_of_a_sawn_elbow_is_on_the_shelf_as_an_elbow() {
    let server = Server::with_the_demo();
    demo_shelf(&server);
    let run = server.get("/api/jobs/1/runs/1/workup").unwrap();
    let bend = run["bends"].as_array().unwrap().iter().find(|bend| bend["angle"].as_f64().unwrap() < 60.0).unwrap();
    let radius = bend["radius"]["mm"].as_f64().unwrap();
    let elbow = json!({ "radius": radius, "angle": 90.0, "legs": [40.0, 55.0] });
    let seen = server.get("/api/workshop").unwrap()["revision"].as_i64().unwrap();
    let tube = json!({ "material": "aluminium6061", "od": 63.5, "wall": 2.0 });
    let add = json!({ "edit": "add_elbow", "tube": tube, "elbow": elbow });
    let with = server.post("/api/workshop/edits", Some(seen), &add).unwrap();
    let number = with["workshop"]["elbows"].as_array().unwrap().last().unwrap()["id"].clone();
    let make = json!({ "step": "cut", "edit": "set_make", "run": 1, "bend": bend["bend"],
        "make": { "how": "elbow", "stock": elbow, "cut": "b" } });
    server.post("/api/jobs/1/edits", Some(1), &make).unwrap();
    let planned = server.get("/api/jobs/1/stock").unwrap()["elbows"][0].clone();
    assert_eq!(planned["source"], json!({ "from": "shelf", "elbow": number }), "{planned}");
    let piece = json!({ "run": 1, "piece": planned["id"] });
    let body = json!({ "id": "elbow-of-bend-1", "by": "saw bench", "from": { "what": "elbow", "piece": piece } });
    server.post("/api/jobs/1/stock/sawn", None, &body).unwrap();
    let shelf = server.get("/api/workshop").unwrap()["workshop"]["elbows"].clone();
    let left = shelf.as_array().unwrap().iter().find(|one| one["id"] == number).unwrap();
    // The rest of its arc but for the kerf, with the leg of the end that was sawn.
    let kerf = 2.0 / radius;
    let want = 90.0 - bend["angle"].as_f64().unwrap() - kerf.to_degrees();
    assert!((left["elbow"]["angle"].as_f64().unwrap() - want).abs() < 1e-6, "{left}");
    assert_eq!(left["elbow"]["legs"], json!([55.0, 0.0]));
    assert!(server.get("/api/jobs/1/stock").unwrap()["elbows"].as_array().unwrap().is_empty());
}

#[test]
fn the_shelf_goes_out_as_a_table_and_comes_in_again_and_what_is_wrong_changes_nothing() {
    let server = Server::with_the_demo();
    let seen = demo_shelf(&server);
    let table = server.text("/api/workshop/shelf.csv").unwrap();
    let fewer: String = table.lines().filter(|line| !line.contains("elbow")).map(|line| format!("{line}\n")).collect();
    let next = server.post_text("/api/workshop/shelf.csv", seen, "text/csv", &fewer).unwrap();
    assert!(next["workshop"]["elbows"].is_null() && next["revision"] == seen + 1, "{next}");
    assert_eq!(next["workshop"]["sticks"], server.get("/api/workshop").unwrap()["workshop"]["sticks"]);
    let wrong = fewer.replacen("1180", "118000", 1);
    let refused = server.post_text("/api/workshop/shelf.csv", seen + 1, "text/csv", &wrong).unwrap_err();
    assert!(refused["status"] == 422 && refused["detail"].as_str().unwrap().contains("length_mm"), "{refused}");
    assert_eq!(server.post_text("/api/workshop/shelf.csv", seen, "text/csv", &table).unwrap_err()["status"], 412);
    let file = server.text("/api/workshop/file").unwrap();
    let again = server.post_text("/api/workshop/file", seen + 1, "application/json", &file).unwrap();
    assert_eq!(again["workshop"], next["workshop"]);
    let refused = server.post_text("/api/workshop/file", seen + 2, "application/json", "{}").unwrap_err();
    assert!(refused["detail"].as_str().unwrap().contains("no workshop"), "{refused}");
    assert_eq!(server.get("/api/workshop").unwrap()["revision"], seen + 2);
}

#[test]
fn the_buying_list_costs_what_the_plan_costs_and_names_what_each_is_for() {
    let server = Server::with_the_demo();
    demo_shelf(&server);
    let plan = server.get("/api/jobs/1/stock").unwrap();
    let table = server.text("/api/jobs/1/buying.csv").unwrap();
    let mut rows = csv::Reader::from_reader(table.trim_start_matches('\u{feff}').as_bytes());
    let rows: Vec<csv::StringRecord> = rows.records().map(Result::unwrap).collect();
    let (sum, lines) = rows.split_last().unwrap();
    let total: f64 = sum[7].parse().unwrap();
    // Spares are bought besides what the plan takes.
    let spares: f64 = lines.iter().filter(|line| &line[8] == "spare").map(|line| line[7].parse::<f64>().unwrap()).sum();
    assert!(spares > 0.0, "the demo's builder spoils some pieces");
    assert!(&sum[0] == "sum" && (total - spares - plan["cost"].as_f64().unwrap()).abs() < 0.005, "{total}");
    let each: f64 = lines.iter().map(|line| line[5].parse::<f64>().unwrap() * line[6].parse::<f64>().unwrap()).sum();
    assert!((each - total).abs() < 0.005 && !lines.is_empty());
    let planned = lines.iter().filter(|line| &line[8] != "spare");
    let counts: usize = planned.map(|line| line[5].parse::<usize>().unwrap()).sum();
    assert_eq!(counts, sticks(&plan).iter().filter(|stick| stick["stick"].is_null()).count());
    assert!(lines.iter().all(|line| !line[8].is_empty()), "{table}");
    assert!(server.text("/api/jobs/99/buying.csv").is_none());
}

#[test]
fn sheets_of_tabs_and_necks_are_served_where_there_are_any() {
    let server = Server::with_the_demo();
    let job = server.get("/api/jobs/1").unwrap();
    let run = job["job"]["runs"][1].clone();
    let id = run["id"].as_u64().unwrap();
    let bend = run["way"]["bends"].as_array().or_else(|| run["route"]["bends"].as_array()).unwrap()[0]["id"].clone();
    let at = json!({ "leg": bend, "from": "start", "mm": 200.0 });
    let add = json!({ "step": "join", "edit": "add_support", "run": id, "support": { "at": at, "kind": "tab" } });
    let made = server.post("/api/jobs/1/edits", Some(1), &add).unwrap();
    let support = made["made"][0]["support"].as_u64().unwrap();
    let high = json!({ "step": "join", "edit": "change_support", "run": id, "support": support,
        "to": { "set": "stand_off", "stand_off": 30.0 } });
    server.post("/api/jobs/1/edits", Some(2), &high).unwrap();
    let sheet = server.text(&format!("/api/jobs/1/runs/{id}/supports/{support}/tab.svg")).unwrap();
    assert!(sheet.contains("id=\"outline\"") && sheet.contains("weld"));
    // No tab, no such support, no neck that is turned: none of them has a sheet.
    assert!(server.text(&format!("/api/jobs/1/runs/{id}/supports/9999/tab.svg")).is_none());
    assert!(server.text(&format!("/api/jobs/1/runs/{id}/ends/a/neck.svg")).is_none());
    let mut port = job["job"]["runs"][1]["a"].clone();
    let (out, mut turned) = (port["out"].clone(), [0.0; 3]);
    for (axis, slot) in turned.iter_mut().enumerate() {
        *slot = out[axis].as_f64().unwrap() + [0.2, 0.1, 0.15][axis];
    }
    port["neck"] = json!({ "length": 90.0, "cut_back": 0.0, "must_stay": 20.0, "turned": turned });
    let neck = json!({ "step": "measure", "edit": "set_port", "run": id, "end": "a", "port": port });
    server.post("/api/jobs/1/edits", Some(3), &neck).unwrap();
    let paper = server.text(&format!("/api/jobs/1/runs/{id}/ends/a/neck.svg")).unwrap();
    assert!(paper.contains("<svg"));
}

/// Notes what a card does, or something else, on a stick.
fn on_stick(server: &Server, stick: u64, id: &str, done: &Value, left: f64) -> Result<Value, Value> {
    let deed = json!({ "id": id, "by": "phone", "done": done });
    server.post(&format!("/api/jobs/1/stock/sticks/{stick}/deeds"), None, &json!({ "deed": deed, "left": left }))
}

fn length_of(server: &Server, stick: u64) -> Option<f64> {
    on_the_shelf(server).iter().find(|(id, _)| *id == stick).map(|(_, mm)| *mm)
}

#[test]
fn a_stick_is_sawn_cut_by_cut_and_is_on_the_shelf_as_long_as_it_is() {
    let server = Server::with_the_demo();
    demo_shelf(&server);
    let plan = server.get("/api/jobs/1/stock").unwrap();
    let planned = sticks(&plan).into_iter().filter(|stick| !stick["stick"].is_null()).max_by_key(|stick| {
        stick["chains"].as_array().unwrap().iter().map(|chain| chain["pieces"].as_array().unwrap().len()).sum::<usize>()
    });
    let planned = planned.unwrap();
    let stick = planned["stick"].as_u64().unwrap();
    let whole = length_of(&server, stick).unwrap();
    let deck = server.get(&format!("/api/jobs/1/stock/sticks/{stick}/cards")).unwrap();
    let cards = deck["cards"].as_array().unwrap();
    let pieces: Vec<&Value> = cards.iter().filter(|card| !card["piece"].is_null()).collect();
    let names: Vec<&str> = pieces.iter().map(|card| card["title"].as_str().unwrap()).collect();
    let chains = planned["chains"].as_array().unwrap().iter();
    let listed: Vec<&str> =
        chains.flat_map(|chain| chain["pieces"].as_array().unwrap()).map(|one| one.as_str().unwrap()).collect();
    assert_eq!(names, listed);
    assert!(pieces.len() > 2, "the demo has something to saw from its shelf");
    let left = |card: &Value| card["left"]["mm"].as_f64().unwrap();

    // Every deed shortens it, and sent again does not.
    let mut before = whole;
    for (number, card) in pieces.iter().enumerate() {
        for _ in 0..2 {
            on_stick(&server, stick, &format!("cut-number-{number}"), &card["does"], left(card)).unwrap();
        }
        let now = length_of(&server, stick);
        assert!(now.is_none_or(|now| now <= left(card) && now > left(card) - 0.1 - 1e-9), "{now:?} {}", left(card));
        // What came off and its kerf is no less than the piece along its middle.
        let centre = card["piece"]["as_cut"]["size"]["centre"].as_f64().unwrap();
        assert!(before - left(card) > 0.5 * centre, "{before} {} {centre}", left(card));
        before = left(card);
    }
    assert!((before - planned["left"]["mm"].as_f64().unwrap()).abs() < 1e-9, "as the plan has it");
    let after = server.get("/api/jobs/1/stock").unwrap();
    assert!(names.iter().all(|name| !self::pieces(&after).contains(name)));
    assert_eq!(server.get(&format!("/api/jobs/1/stock/sticks/{stick}/cards")).unwrap_err()["status"], 404);
}

#[test]
fn a_spoilt_piece_is_sawn_again_from_what_is_left_and_a_cut_taken_back_makes_the_stick_whole() {
    let server = Server::with_the_demo();
    demo_shelf(&server);
    let plan = server.get("/api/jobs/1/stock").unwrap();
    let stick = sticks(&plan).iter().find_map(|stick| stick["stick"].as_u64()).unwrap();
    let whole = length_of(&server, stick).unwrap();
    let deck = server.get(&format!("/api/jobs/1/stock/sticks/{stick}/cards")).unwrap();
    let card = deck["cards"].as_array().unwrap().iter().find(|card| !card["piece"].is_null()).unwrap().clone();
    let left = card["left"]["mm"].as_f64().unwrap();
    on_stick(&server, stick, "by-mistake-1", &card["does"], left).unwrap();
    on_stick(&server, stick, "taken-back-1", &card["undoes"], whole).unwrap();
    assert_eq!(length_of(&server, stick), Some(whole));

    let spoilt = json!({ "deed": "spoilt", "run": card["piece"]["run"], "piece": card["piece"]["piece"] });
    on_stick(&server, stick, "spoilt-one-1", &spoilt, left - 12.0).unwrap();
    let now = length_of(&server, stick).unwrap();
    assert!(now <= left - 12.0 && now > left - 12.2);
    let anew = server.get("/api/jobs/1/stock").unwrap();
    assert!(pieces(&anew).contains(&card["title"].as_str().unwrap()), "it is planned again");
    assert_eq!(pieces(&anew).len(), pieces(&plan).len());
    for one in sticks(&anew).iter().filter(|one| one["stick"] == stick) {
        assert_eq!(one["length"]["mm"].as_f64(), Some(now), "from what there is");
    }

    // What no sane person sends is refused, and nothing is noted.
    let deeds = || server.get("/api/jobs/1/record").unwrap()["deeds"].as_array().unwrap().len();
    let known = deeds();
    for (number, wrong) in [-1.0, 1e9, 20_001.0].into_iter().enumerate() {
        let refused = on_stick(&server, stick, &format!("nonsense-{number}"), &card["does"], wrong).unwrap_err();
        assert_eq!(refused["status"], 422, "{refused}");
    }
    assert!(on_stick(&server, stick, "nonsense-9", &json!({ "deed": "melted" }), 100.0).is_err());
    assert_eq!((deeds(), length_of(&server, stick)), (known, Some(now)));
    // Nor does a deed make a stick longer by being late, and one whose stick is gone is noted all the same.
    on_stick(&server, stick, "comes-late-1", &card["does"], left).unwrap();
    assert_eq!(length_of(&server, stick), Some(now));
    on_stick(&server, 9999, "stick-is-gone", &card["undoes"], 500.0).unwrap();
    assert_eq!(deeds(), known + 2);
}

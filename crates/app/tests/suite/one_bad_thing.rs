//! One bad thing must not take the rest down: what is fed in, what is stored, who asks, and how much at once.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use crate::support::Server;
use serde_json::{Value, json};
use sqlx::{Connection, Executor, SqliteConnection};

fn demo() -> Value {
    serde_json::from_str(include_str!("../../../../demo/pellow-van.json")).unwrap()
}

/// The demo with one value replaced, as a file.
fn demo_with(place: &str, value: Value) -> Vec<u8> {
    let mut file = demo();
    *file.pointer_mut(place).unwrap() = value;
    file.to_string().into_bytes()
}

fn database(server: &Server, change: &str) {
    let path = server.data().join("jobs.sqlite").display().to_string();
    tokio::runtime::Runtime::new().unwrap().block_on(async {
        let mut db = SqliteConnection::connect(&format!("sqlite://{path}")).await.unwrap();
        db.execute(sqlx::AssertSqlSafe(change.to_owned())).await.unwrap();
        db.close().await.unwrap();
    });
}

#[test]
fn huge_directions_are_kept_as_directions_and_the_server_starts_again() {
    let mut server = Server::start();
    server.upload(&demo_with("/job/runs/0/a/out", json!([1e155, 1e155, 0]))).unwrap();
    let aim = json!({ "step": "measure", "edit": "aim_port", "run": 2, "end": "b", "out": [0, -1e300, 1e300] });
    let kept = server.post("/api/jobs/1/edits", Some(1), &aim);
    assert!(kept.is_ok() || kept.as_ref().unwrap_err()["status"] == 422, "{kept:?}");
    assert_eq!(server.get("/api/jobs").unwrap().as_array().unwrap().len(), 1);
    server.interrupt();
    server.restart();
    let out = &server.get("/api/jobs/1").unwrap()["job"]["runs"][0]["a"]["out"];
    assert!((out[0].as_f64().unwrap() - 0.5_f64.sqrt()).abs() < 1e-12, "{out}");
}

#[test]
fn a_job_that_cannot_be_read_is_listed_given_out_raw_and_gone_back_from() {
    let mut server = Server::start();
    server.upload(demo().to_string().as_bytes()).unwrap();
    server
        .post(
            "/api/jobs/1/edits",
            Some(1),
            &json!({ "step": "cut", "edit": "pin_saw", "saw": { "name": "Saw", "kerf": 1.2 } }),
        )
        .unwrap();
    server.post("/api/jobs", None, &json!({ "name": "Sound" })).unwrap();
    server.interrupt();
    database(&server, "UPDATE revision SET document = x'7b' WHERE job = 1 AND seq = 2");
    server.restart();
    let list = server.get("/api/jobs").unwrap();
    let of = |id: i64| list.as_array().unwrap().iter().find(|job| job["id"] == id).unwrap().clone();
    assert_eq!(of(2)["unreadable"], Value::Null);
    assert!(of(1)["unreadable"]["why"].as_str().unwrap().starts_with("It is damaged"), "{list}");
    assert_eq!(of(1)["runs"], 10, "what is known of it is told");
    let refused = server.get("/api/jobs/1").unwrap_err();
    assert_eq!((&refused["status"], &refused["type"]), (&json!(422), &json!("/problems/unreadable")));
    assert_eq!(server.bytes("/api/jobs/1/raw"), b"{");
    server
        .post(
            "/api/jobs/2/edits",
            Some(1),
            &json!({ "step": "cut", "edit": "pin_saw", "saw": { "name": "Saw", "kerf": 1.2 } }),
        )
        .unwrap();
    let back = server.post("/api/jobs/1/recover", None, &Value::Null).unwrap();
    assert_eq!((&back["revision"], &back["job"]["saw"]), (&json!(3), &demo()["job"]["saw"]));
    assert_eq!(server.get("/api/jobs").unwrap()[0]["unreadable"], Value::Null);
}

#[test]
fn a_second_server_does_not_start_on_the_same_folder() {
    let server = Server::start();
    let second = Command::new(env!("CARGO_BIN_EXE_nook-bend"))
        .args(["serve", "--port", "0", "--data"])
        .arg(server.data())
        .output()
        .unwrap();
    let said = String::from_utf8(second.stderr).unwrap();
    assert_eq!(second.status.code(), Some(1), "{said}");
    assert!(said.contains("in use by another Nook Bend") && said.contains(&server.id().to_string()), "{said}");
    assert!(server.get("/api/jobs").is_ok());
}

#[test]
fn no_route_answers_a_page_of_another_site() {
    let server = Server::start();
    let description = server.get("/api/openapi.json").unwrap();
    let mut asked = 0;
    for (path, methods) in description["paths"].as_object().unwrap() {
        let path = path.replace("{id}", "1").replace("{run}", "1").replace("{setting}", "1").replace("{form}", "step");
        for method in methods.as_object().unwrap().keys().map(|method| method.to_uppercase()) {
            for site in ["cross-site", "same-site"] {
                assert_eq!(server.status(&method, &path, &[("Sec-Fetch-Site", site)]), 403, "{method} {path} {site}");
            }
            let foreign = [("Origin", "http://evil.example"), ("Nook-Author", "evil")];
            assert_eq!(server.status(&method, &path, &foreign), 421, "{method} {path}");
            asked += 1;
        }
    }
    assert!(asked > 40, "only {asked} routes were asked");
    assert_eq!(server.status("GET", "/api/jobs", &[("Sec-Fetch-Site", "same-origin")]), 200);
    assert_eq!(server.status("GET", "/", &[("Sec-Fetch-Site", "cross-site")]), 200, "a link leads here");
}

#[test]
fn each_browser_hears_of_the_others_changes_and_undoes_its_own() {
    let server = Server::start();
    server.upload(demo().to_string().as_bytes()).unwrap();
    assert_eq!(server.status("GET", "/api/jobs/1/changes", &[]), 400, "nobody listens");
    let mut heard = server.listen_as("left", "/api/jobs/1/changes").unwrap();
    assert_eq!(heard.next().unwrap(), json!({ "is": "revision", "revision": 1, "own": false, "what": null }));
    let run = |id: u32, name: &str| json!({ "step": "job", "edit": "rename_run", "run": id, "name": name });
    let runs = demo()["job"]["runs"].clone();
    let number = |index: usize| u32::try_from(runs[index]["id"].as_u64().unwrap()).unwrap();
    server.post_as("left", "/api/jobs/1/edits", 1, &run(number(0), "Left")).unwrap();
    server.post_as("right", "/api/jobs/1/edits", 2, &run(number(1), "Right")).unwrap();
    assert_eq!(
        heard.next().unwrap(),
        json!({ "is": "revision", "revision": 2, "own": true, "what": "the name of Left" })
    );
    assert_eq!(
        heard.next().unwrap(),
        json!({ "is": "revision", "revision": 3, "own": false, "what": "the name of Right" })
    );
    let back = server.post_as("left", "/api/jobs/1/undo", 3, &Value::Null).unwrap();
    assert_eq!((&back["job"]["runs"][0]["name"], &back["job"]["runs"][1]["name"]), (&runs[0]["name"], &json!("Right")));
    assert_eq!((&back["can_undo"], &back["can_redo"]), (&json!(false), &json!(true)));
    server.delete("/api/jobs/1");
    assert_eq!(heard.by_ref().last().unwrap(), json!({ "is": "deleted" }), "and the stream ends");
}

#[test]
fn numbers_at_their_ends_are_answered_or_refused_in_words() {
    let server = Server::start();
    server.upload(&demo_with("/job/next_id", json!(u32::MAX))).unwrap();
    let datum = json!({ "step": "measure", "edit": "add_datum", "name": "bolt", "at": [0, 0, 0], "rides": "body" });
    let refused = server.post("/api/jobs/1/edits", Some(1), &datum).unwrap_err();
    assert!(refused["detail"].as_str().unwrap().contains("no number left"), "{refused}");

    server.upload(&demo_with("/job/runs/1/tube", json!({ "material": "mild_steel", "od": 3.0, "wall": 0.3 }))).unwrap();
    let thin = json!({ "name": "thin", "duty": "coolant", "tube": { "material": "mild_steel", "od": 3.2, "wall": 0.3 },
        "a": { "name": "a", "at": [0, 0, 0], "out": [1, 0, 0], "od": 3.2, "form": "plain", "rides": "body" },
        "b": { "name": "b", "at": [50000, 0, 300], "out": [0, 0, -1], "od": 3.2, "form": "plain", "rides": "body" } });
    server.post("/api/jobs", None, &json!({ "name": "Thin" })).unwrap();
    server.post("/api/jobs/3/edits", Some(1), &json!({ "step": "job", "edit": "add_run", "run": thin })).unwrap();
    let out = json!({ "step": "measure", "edit": "aim_port", "run": 1, "end": "b", "out": [-1, 0, 0] });
    server.post("/api/jobs/3/edits", Some(2), &out).unwrap();
    assert!(server.bytes("/api/jobs/3/bay.glb").starts_with(b"glTF"), "a port at the edge of what there is");
    assert!(server.bytes("/api/jobs/3/bay.stl").len() > 84);

    let garbage = br#"{"step": "cut", "edit": "pin_saw", "saw": {"name": "Saw", "kerf": 1.0}} and then some"#;
    assert_eq!(server.send("/api/jobs/1/edits", garbage).unwrap_err()["status"], 400);
    assert_eq!(server.get("/api/jobs/1").unwrap()["revision"], 1);
}

#[test]
fn a_scan_that_no_job_names_can_be_deleted_and_no_other() {
    let server = Server::start();
    let triangle = b"v 0 0 0\nv 100 0 0\nv 0 100 0\nf 1 2 3\n";
    let done = server.events("/api/scans?name=part.obj", triangle);
    let id = done.last().unwrap()["id"].as_str().unwrap().to_owned();
    server.post("/api/jobs", None, &json!({ "name": "Test van" })).unwrap();
    let shape = json!({ "shape": "scan", "scan": id, "unit": "mm", "matched": [] });
    let add = json!({ "step": "measure", "edit": "add_keep_out", "name": "pump", "kind": "still_metal", "rides": "engine", "shape": shape });
    server.post("/api/jobs/1/edits", Some(1), &add).unwrap();
    assert_eq!(server.try_delete(&format!("/api/scans/{id}")), 409);
    assert_eq!(server.get("/api/scans").unwrap()[0]["jobs"], 1);
    server.delete("/api/jobs/1");
    assert_eq!(server.try_delete(&format!("/api/scans/{id}")), 204);
    assert_eq!(server.try_delete(&format!("/api/scans/{id}")), 404);
    let left: Vec<_> = std::fs::read_dir(server.data()).unwrap().map(|entry| entry.unwrap().file_name()).collect();
    assert!(
        left.iter()
            .all(|name| ["jobs.sqlite", "nook-bend.lock"].iter().any(|own| name.to_str().unwrap().starts_with(own))),
        "{left:?}"
    );
}

#[test]
fn more_searches_than_there_is_room_for_are_refused_and_the_rest_goes_on() {
    let server = Server::start();
    server.upload(demo().to_string().as_bytes()).unwrap();
    let runs = demo()["job"]["runs"].clone();
    let path = |index: usize| format!("/api/jobs/1/runs/{}/search", runs[index]["id"]);
    let mut under_way: Vec<_> = (0..2).map(|index| server.listen(&path(index))).collect();
    for search in &mut under_way {
        assert_eq!(search.next().unwrap()["is"], "progress");
    }
    let Err(refused) = server.listen_as("third", &path(2)) else { panic!("a third search was let in") };
    assert_eq!((&refused["status"], &refused["type"]), (&json!(503), &json!("/problems/busy")));
    assert!(server.get("/api/jobs/1/runs/1/workup").is_ok(), "sums go on beside searches");
    assert_eq!(server.listen_as("fourth", "/api/jobs/1/runs/999/search").err().unwrap()["status"], 404);
}

#[test]
fn connections_that_say_nothing_keep_nobody_out_for_long() {
    let server = Server::start();
    let open = |text: &str| {
        let mut stream = TcpStream::connect(("127.0.0.1", server.port())).unwrap();
        stream.write_all(text.as_bytes()).unwrap();
        stream
    };
    let mut idle: Vec<TcpStream> =
        (0..200).map(|k| open(if k % 2 == 0 { "" } else { "GET /api/jobs HTTP/1.1\r\nHo" })).collect();
    let mut answer = String::new();
    let mut one_more = open("GET /api/jobs HTTP/1.1\r\n\r\n");
    // Beyond the cap it is answered at once, without being asked for more.
    let read = one_more.read_to_string(&mut answer);
    assert!(answer.starts_with("HTTP/1.1 503") || read.is_err(), "{answer}");
    // Within its time every one of them is closed, the half-sent ones with an answer.
    for (k, stream) in idle.iter_mut().enumerate() {
        let mut answer = String::new();
        stream.read_to_string(&mut answer).unwrap();
        assert_eq!(answer.starts_with("HTTP/1.1 408"), k % 2 == 1, "{answer}");
    }
    assert!(server.get("/api/jobs").is_ok());
}

/// Lines to a broken pipe once broke off whatever wrote them, the shutdown among it: it served on and could not be ended.
#[test]
fn a_server_whose_terminal_is_gone_answers_and_still_ends_when_told_to() {
    let data = tempfile::tempdir().unwrap();
    let port = std::net::TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
    let mut server = Command::new(env!("CARGO_BIN_EXE_nook-bend"))
        .args(["serve", "--port", &port.to_string(), "--data"])
        .arg(data.path())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    BufReader::new(server.stdout.take().unwrap()).read_line(&mut String::new()).unwrap();
    drop(server.stderr.take());
    let answer = |path: &str| ureq::get(format!("http://127.0.0.1:{port}{path}")).call().is_ok();
    assert!(answer("/api/jobs") && !answer("/api/jobs/9"));
    assert!(Command::new("kill").arg(server.id().to_string()).status().unwrap().success());
    let until = Instant::now() + Duration::from_secs(20);
    while server.try_wait().unwrap().is_none() {
        assert!(Instant::now() < until, "it did not end");
        std::thread::sleep(Duration::from_millis(50));
    }
}

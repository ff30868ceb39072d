//! Instruments that flood, count backwards or are not there, and listeners that come and go.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::io::{BufRead, BufReader, Write};
use std::net::{TcpListener, TcpStream};
use std::time::Duration;

use crate::support::Server;
use nook_devices::{Kind, Line};
use serde_json::{Value, json};

/// A made-up tape, and a server that listens to it.
fn with_a_tape() -> (TcpListener, Server) {
    for first in (21_000..60_000).step_by(7) {
        if let Ok(tape) = TcpListener::bind(("127.0.0.1", first)) {
            let server = Server::start_with(&["--instrument", &format!("tape@{first}")]);
            return (tape, server);
        }
    }
    panic!("no port is free")
}

fn say(to: &mut TcpStream, line: &Line) {
    writeln!(to, "{line}").unwrap();
}

fn read(count: u32, mm: f64) -> Line {
    Line::Read { count, kind: Kind::Tape, figures: vec![mm] }
}

fn tape_of(server: &Server) -> Value {
    server.get("/api/instruments").unwrap()[0].clone()
}

#[test]
fn a_count_that_jumps_to_its_end_is_taken_for_a_new_count() {
    let (tape, server) = with_a_tape();
    let mut listener = server.listen("/api/instruments/listen?field=tape");
    let (mut out, _) = tape.accept().unwrap();
    say(&mut out, &Line::Hello { kind: Kind::Tape });
    for (count, mm) in [(1, 500.0), (u32::MAX, 501.0), (u32::MAX, 502.0), (0, 503.0), (3, 504.0)] {
        say(&mut out, &read(count, mm));
        let taken = listener.by_ref().find(|news| news["is"] == "taken").unwrap();
        assert_eq!(taken["value"], mm);
    }
    assert_eq!(tape_of(&server)["lost"], 2, "between 0 and 3 there were two");
}

#[test]
fn a_flood_is_hung_up_on_and_does_not_fill_the_log() {
    let (tape, server) = with_a_tape();
    let (mut out, _) = tape.accept().unwrap();
    // Who is hung up on cannot go on writing.
    while out.write_all("garbage without end ".repeat(3).as_bytes()).and_then(|()| out.write_all(b"\n")).is_ok() {}
    // It is hung up on first and written down then.
    let mut log = server.get("/api/instruments/log").unwrap();
    for _ in 0..100 {
        if log[0]["why"].as_str().is_some_and(|why| why.contains("more than 60 lines in 3 s")) {
            break;
        }
        std::thread::sleep(std::time::Duration::from_millis(100));
        log = server.get("/api/instruments/log").unwrap();
    }
    assert!(log[0]["why"].as_str().unwrap().contains("more than 60 lines in 3 s"), "{}", log[0]);
    let count = log.as_array().unwrap().len();
    assert!((60..=62).contains(&count), "{count}");
    assert_eq!(tape_of(&server)["connected"], false);
    assert!(server.post("/api/jobs", None, &json!({ "name": "Saved beside it" })).is_ok());
}

#[test]
fn pressing_what_is_not_there_is_refused_every_time() {
    let server = Server::start_with(&["--instrument", "tape@65533"]);
    for _ in 0..20 {
        let body = json!({ "instrument": "tape", "aim": [500] });
        let refused = server.post("/api/instruments/press", None, &body).unwrap_err();
        assert_eq!(refused["status"], 409);
        assert!(refused["detail"].as_str().unwrap().contains("does not answer"), "{refused}");
    }
}

#[test]
fn what_was_pressed_is_told_to_the_stand_in_that_is_there() {
    let (tape, server) = with_a_tape();
    let (mut out, _) = tape.accept().unwrap();
    say(&mut out, &Line::Hello { kind: Kind::Tape });
    while tape_of(&server)["connected"] != true {}
    server.press(&json!({ "instrument": "tape", "aim": [512.5] }));
    let mut lines = BufReader::new(out).lines().map(Result::unwrap);
    assert_eq!([lines.next().unwrap(), lines.next().unwrap()], ["AIM 512.5", "PRESS"]);
}

#[test]
fn when_the_second_listener_goes_the_first_hears_again() {
    let (tape, server) = with_a_tape();
    let (mut out, _) = tape.accept().unwrap();
    let mut first = server.listen_as("first", "/api/instruments/listen?field=tape").unwrap();
    assert_eq!(first.next().unwrap()["is"], "status");
    {
        let mut second = server.listen_as("second", "/api/instruments/listen?field=offset").unwrap();
        assert_eq!(second.next().unwrap()["is"], "status");
        say(&mut out, &read(1, 600.0));
        assert_eq!(second.by_ref().find(|news| news["is"] == "taken").unwrap()["value"], 600.0);
    }
    // Pressed again and again, since the server may take a moment to notice that the second has gone.
    std::thread::scope(|scope| {
        let heard = scope.spawn(move || first.find(|news| news["is"] == "taken").unwrap()["value"].clone());
        for count in 2..100 {
            if heard.is_finished() {
                break;
            }
            say(&mut out, &read(count, 700.0));
            std::thread::sleep(Duration::from_millis(120));
        }
        drop(server);
        assert_eq!(heard.join().unwrap(), 700.0);
    });
}

/// Two of a kind are two: each has its name in the log, and is pressed by it.
#[test]
fn two_of_a_kind_are_told_apart_by_name() {
    let bind = || TcpListener::bind(("127.0.0.1", 0)).unwrap();
    let (short, long) = (bind(), bind());
    let port = |of: &TcpListener| of.local_addr().unwrap().port();
    let named = [format!("tape@{}", port(&short)), format!("long tape=tape@{}", port(&long))];
    let server = Server::start_with(&["--instrument", &named[0], "--instrument", &named[1]]);
    let (_first, mut out) = (short.accept().unwrap().0, long.accept().unwrap().0);
    let mut listener = server.listen("/api/instruments/listen?field=tape");
    say(&mut out, &read(1, 812.0));
    let taken = listener.by_ref().find(|news| news["is"] == "taken").unwrap();
    assert_eq!((&taken["instrument"], &taken["value"]), (&json!("long tape"), &json!(812.0)));
    assert_eq!(server.get("/api/instruments/log").unwrap()[0]["instrument"], "long tape");
    while server.get("/api/instruments").unwrap()[1]["connected"] != true {}
    server.press(&json!({ "instrument": "long tape", "aim": [900.5] }));
    let mut lines = BufReader::new(out).lines().map(Result::unwrap);
    assert_eq!(lines.next().unwrap(), "AIM 900.5");
    let none = json!({ "instrument": "ruler", "aim": [1] });
    assert_eq!(server.post("/api/instruments/press", None, &none).unwrap_err()["status"], 404);
}

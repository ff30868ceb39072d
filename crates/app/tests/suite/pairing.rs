//! The way in from the local network, from outside: what one that is not paired gets, how it is paired, and how that ends.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use std::io::{Read, Write};
use std::net::TcpStream;
use std::process::Command;

use serde_json::{Value, json};
use ureq::tls::{Certificate, RootCerts, TlsConfig};
use ureq::{Agent, Body, http};

use crate::support::Server;

/// A device of the network: it trusts the authority alone that the server offers, and sends the cookie it was given.
struct Phone {
    agent: Agent,
    base: String,
    cookie: Option<String>,
}

fn agent(tls: TlsConfig) -> Agent {
    let config = Agent::config_builder().http_status_as_error(false).max_redirects(0).tls_config(tls);
    Agent::new_with_config(config.build())
}

impl Phone {
    fn new(server: &Server) -> Self {
        let base = format!("https://127.0.0.1:{}", server.lan_port());
        let credulous = agent(TlsConfig::builder().disable_verification(true).build());
        let mut given = credulous.get(format!("{base}/pair/authority.crt")).call().unwrap();
        let authority = given.body_mut().read_to_vec().unwrap();
        let trusted = RootCerts::new_with_certs(&[Certificate::from_der(&authority).to_owned()]);
        Self { agent: agent(TlsConfig::builder().root_certs(trusted).build()), base, cookie: None }
    }

    fn ask(&self, method: &str, path: &str, headers: &[(&str, &str)], body: &str) -> http::Response<Body> {
        let request = http::Request::builder().method(method).uri(format!("{}{path}", self.base));
        let request = headers.iter().fold(request, |request, (name, value)| request.header(*name, *value));
        let request = self.cookie.iter().fold(request, |request, cookie| request.header("Cookie", cookie));
        let config =
            self.agent.configure_request(request.body(body.to_owned()).unwrap()).allow_non_standard_methods(true);
        self.agent.run(config.build()).unwrap()
    }

    fn get(&self, path: &str) -> (u16, String) {
        let mut answer = self.ask("GET", path, &[], "");
        (answer.status().as_u16(), answer.body_mut().read_to_string().unwrap())
    }

    /// What becomes of a code: the status, the page, and the cookie where there is one.
    fn pair(&mut self, code: &str, name: &str, headers: &[(&str, &str)]) -> (u16, String, Option<String>) {
        let form = [("Content-Type", "application/x-www-form-urlencoded")];
        let headers: Vec<_> = form.iter().chain(headers).copied().collect();
        let mut answer = self.ask("POST", "/pair", &headers, &format!("code={code}&name={name}"));
        let cookie = answer.headers().get("set-cookie").map(|cookie| cookie.to_str().unwrap().to_owned());
        let page = answer.body_mut().read_to_string().unwrap();
        if let Some(cookie) = &cookie {
            self.cookie = cookie.split(';').next().map(str::to_owned);
        }
        (answer.status().as_u16(), page, cookie)
    }
}

fn new_code(server: &Server) -> String {
    let pairing = server.post("/api/pairing/code", None, &json!({})).unwrap();
    pairing["way_in"]["code"]["digits"].as_str().unwrap().to_owned()
}

fn paired(server: &Server, name: &str) -> Phone {
    let mut phone = Phone::new(server);
    let (status, page, _) = phone.pair(&new_code(server), name, &[]);
    assert_eq!(status, 303, "{page}");
    phone
}

#[test]
fn one_that_is_not_paired_gets_the_pairing_page_and_nothing_else() {
    let server = Server::on_the_network();
    server.upload(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    let phone = Phone::new(&server);
    let described: Value = serde_json::from_str(include_str!("../../../../docs/openapi.json")).unwrap();
    let mut asked = 0;
    for (path, operations) in described["paths"].as_object().unwrap() {
        let path = path.replace("{id}", "1").replace(['{', '}'], "");
        for method in operations.as_object().unwrap().keys().filter(|key| key.len() < 8) {
            let mut answer = phone.ask(&method.to_uppercase(), &path, &[("Nook-Author", "test")], "");
            let body = answer.body_mut().read_to_string().unwrap();
            assert_eq!(answer.status().as_u16(), 401, "{method} {path}");
            assert!(!body.contains("Pellow") && body.contains("is not paired"), "{method} {path}: {body}");
            asked += 1;
        }
    }
    assert!(asked > 80, "{asked} operations are described");
    for path in ["/", "/jobs/1", "/index.html", "/mark.svg", "/sw.js", "/docs/index.html", "/pair/", "/PAIR", "//pair"]
    {
        let (_, page) = phone.get(path);
        assert!(page.contains("Pair this device") || page.contains("is not paired"), "{path}: {page}");
        assert!(!page.contains("<script") && !page.contains("Pellow"), "{path}: {page}");
    }
    for path in ["/pair/../api/jobs", "/pair/%2e%2e/api/jobs", "/pair%2f..%2fapi%2fjobs", "/api//jobs", "/%61pi/jobs"] {
        let (_, body) = phone.get(path);
        assert!(!body.contains("Pellow"), "{path}: {body}");
    }
    for method in ["HEAD", "OPTIONS", "PATCH", "TRACE", "PROPFIND"] {
        let mut answer = phone.ask(method, "/api/jobs", &[], "");
        assert!(!answer.body_mut().read_to_string().unwrap_or_default().contains("Pellow"), "{method}");
    }
    for forged in ["", "0000", &"0".repeat(64), "'; DROP TABLE session; --"] {
        let mut answer = phone.ask("GET", "/api/jobs", &[("Cookie", &format!("__Host-session={forged}"))], "");
        assert_eq!(answer.status().as_u16(), 401, "{forged}");
        assert!(!answer.body_mut().read_to_string().unwrap().contains("Pellow"));
    }
    let (status, page) = phone.get("/pair?code=1234%22%3E%3Cscript%3Ealert(1)%3C/script%3E5678");
    assert_eq!(status, 200);
    assert!(page.contains("value=\"12341567\"") && !page.contains("<script"), "{page}");
    // The server behind the front is no way round it.
    assert_eq!(server.get("/api/jobs").unwrap().as_array().unwrap().len(), 1);
}

#[test]
fn a_code_pairs_one_device_which_stays_paired_when_the_server_is_started_again() {
    let mut server = Server::on_the_network();
    let mut phone = Phone::new(&server);
    assert_eq!(phone.pair("12345678", "Early", &[]).0, 403, "no code is out");
    let code = new_code(&server);
    let (status, page, cookie) = phone.pair("no-code", "Phone", &[]);
    assert!(status == 403 && cookie.is_none() && page.contains("4 more of this device"), "{page}");
    let (status, page, _) = phone.pair(&code, "%0a", &[]);
    assert!(status == 400 && page.contains("1 to 80 letters"), "a name is needed before the code is used up: {page}");
    let (status, _, cookie) = phone.pair(&format!("{} {}", &code[..4], &code[4..]), "Bench+%26+%3Cb%3Ebay", &[]);
    let cookie = cookie.unwrap();
    assert_eq!(status, 303);
    for part in ["__Host-session=", "HttpOnly", "SameSite=Strict", "Secure", "Path=/", "Max-Age="] {
        assert!(cookie.contains(part), "{cookie}");
    }
    assert_eq!(phone.get("/api/jobs"), (200, "[]".to_owned()));
    let (_, page) = phone.get("/pair");
    assert!(page.contains("Bench &amp; &lt;b&gt;bay"), "{page}");
    assert_eq!(Phone::new(&server).pair(&code, "Second", &[]).0, 403, "the code is used up");

    let token = phone.cookie.clone().unwrap();
    let token = token.split('=').nth(1).unwrap().to_owned();
    assert_eq!(token.len(), 64);
    server.interrupt();
    for file in std::fs::read_dir(server.data()).unwrap() {
        let bytes = std::fs::read(file.unwrap().path()).unwrap_or_default();
        assert!(!bytes.windows(64).any(|part| part == token.as_bytes()), "the token itself is kept nowhere");
    }
    server.restart();
    assert_eq!(phone.get("/api/jobs").0, 200, "the certificate and the session are the same");
    let devices = &server.get("/api/pairing").unwrap()["devices"];
    assert_eq!((&devices[0]["name"], &devices[0]["peer"]), (&json!("Bench & <b>bay"), &json!("127.0.0.1")));
}

#[test]
fn a_session_that_is_ended_gets_nothing_more_and_an_open_stream_is_cut() {
    let server = Server::on_the_network();
    server.upload(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    let (lost, kept) = (paired(&server, "Lost"), paired(&server, "Kept"));
    let mut stream = lost.ask("GET", "/api/jobs/1/changes", &[("Nook-Author", "lost")], "").into_body().into_reader();
    assert_eq!(stream.read(&mut [0; 16]).unwrap(), 16);
    for (method, path) in [
        ("GET", "/api/pairing"),
        ("POST", "/api/pairing/code"),
        ("DELETE", "/api/pairing/code"),
        ("DELETE", "/api/devices/1"),
    ] {
        let mut answer = lost.ask(method, path, &[], "");
        let body = answer.body_mut().read_to_string().unwrap();
        assert_eq!(answer.status().as_u16(), 403, "a device does not pair devices: {body}");
    }
    let (_, own) = lost.get("/api/session");
    assert_eq!(serde_json::from_str::<Value>(&own).unwrap()["device"]["name"], "Lost");
    assert_eq!(server.get("/api/session").unwrap()["device"], Value::Null);
    let devices = server.get("/api/pairing").unwrap()["devices"].clone();
    let of = |name: &str| devices.as_array().unwrap().iter().find(|one| one["name"] == name).unwrap()["id"].clone();
    server.delete(&format!("/api/devices/{}", of("Lost")));
    assert_eq!(server.try_delete(&format!("/api/devices/{}", of("Lost"))), 404);
    // Whatever was under way, then the end.
    let _ = stream.read_to_end(&mut Vec::new());
    assert_eq!(lost.get("/api/jobs").0, 401);
    assert_eq!(kept.get("/api/jobs").0, 200);
}

#[test]
fn after_five_wrong_codes_a_peer_waits_whatever_its_headers_say() {
    let server = Server::on_the_network();
    let code = new_code(&server);
    let wrong = if code == "00000000" { "00000001" } else { "00000000" };
    let mut phone = Phone::new(&server);
    for count in 0..5 {
        let from = format!("10.0.0.{count}");
        let (status, _, _) = phone.pair(
            wrong,
            "Guesser",
            &[("X-Real-IP", &from), ("X-Forwarded-For", &from), ("Forwarded", "for=1.2.3.4")],
        );
        assert_eq!(status, 403, "{count}");
    }
    let (status, page, cookie) = phone.pair(&code, "Guesser", &[("X-Real-IP", "10.0.0.77")]);
    assert!(status == 429 && cookie.is_none() && page.contains("15 minutes"), "{status} {page}");
    assert_eq!(server.get("/api/jobs").unwrap(), json!([]), "this machine is not locked out");
}

#[test]
fn only_its_own_pages_may_ask_and_a_plain_request_is_shown_the_way() {
    let server = Server::on_the_network();
    let phone = paired(&server, "Phone");
    for (name, value) in [
        ("Origin", "https://evil.example"),
        ("Origin", "http://127.0.0.1"),
        ("Host", "evil.example"),
        ("Sec-Fetch-Site", "cross-site"),
    ] {
        let status = phone.ask("GET", "/api/jobs", &[(name, value)], "").status().as_u16();
        assert!(status == 421 || status == 403, "{name}: {value}: {status}");
    }
    let mut plain = TcpStream::connect(("127.0.0.1", server.lan_port())).unwrap();
    plain.write_all(b"GET /jobs HTTP/1.1\r\nHost: x\r\n\r\n").unwrap();
    let mut answer = String::new();
    plain.read_to_string(&mut answer).unwrap();
    assert!(answer.starts_with("HTTP/1.1 308"), "{answer}");
    assert!(answer.contains(&format!("Location: https://127.0.0.1:{}/", server.lan_port())), "{answer}");
    // A crowd that begins a handshake and says no more is in nobody's way.
    let crowd: Vec<_> = (0..50).map(|_| TcpStream::connect(("127.0.0.1", server.lan_port())).unwrap()).collect();
    crowd.iter().for_each(|mut one| one.write_all(&[22, 3, 1]).unwrap());
    assert_eq!(phone.get("/api/jobs").0, 200);
}

#[test]
fn without_a_way_in_no_code_is_put_out_and_an_unfit_address_is_refused() {
    let server = Server::start();
    assert_eq!(server.get("/api/pairing").unwrap(), json!({ "way_in": null, "devices": [] }));
    let refused = server.post("/api/pairing/code", None, &json!({})).unwrap_err();
    assert!(refused["detail"].as_str().unwrap().contains("--host"), "{refused}");
    let data = tempfile::tempdir().unwrap();
    for (more, told) in [
        (["--host", "0.0.0.0"], "one address"),
        (["--host", "fe80::1"], "fe80"),
        (["--host", "203.0.113.9"], "this machine\u{2019}s own address"),
        (["--host", "garage"], "invalid value"),
        (["--host-port", "8443"], "--host"),
    ] {
        let done = Command::new(env!("CARGO_BIN_EXE_nook-bend"))
            .args(["serve", "--port", "0", "--data"])
            .arg(data.path())
            .args(more)
            .output()
            .unwrap();
        let error = String::from_utf8_lossy(&done.stderr).into_owned();
        assert!(!done.status.success() && error.contains(told), "{more:?}: {error}");
    }
}

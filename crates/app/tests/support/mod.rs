//! A real server process on a port and in a folder of its own.

#![allow(
    dead_code,
    unreachable_pub,
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    reason = "each test target uses its own part of this module"
)]

use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};

use serde_json::{Value, json};
use tempfile::TempDir;
use ureq::http::Response;
use ureq::{Agent, Body};

pub struct Server {
    process: Child,
    port: u16,
    lan_port: Option<u16>,
    data: TempDir,
    agent: Agent,
}

fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port()
}

fn spawn(port: u16, data: &Path, more: &[&str]) -> Child {
    let mut process = Command::new(env!("CARGO_BIN_EXE_nook-bend"))
        // What is found must not depend on how fast this machine is.
        .env("NOOK_BEND_SEARCH_SECONDS", "120")
        .args(["serve", "--port", &port.to_string(), "--data"])
        .arg(data)
        .args(more)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(process.stdout.take().unwrap()).read_line(&mut line).unwrap();
    assert!(line.contains(&format!("http://127.0.0.1:{port}")), "the server said {line:?}");
    process
}

pub fn kill_9(process: u32) {
    assert!(Command::new("kill").args(["-9", &process.to_string()]).status().unwrap().success());
}

fn json_of(mut answer: Response<Body>) -> Result<Value, Value> {
    let text = answer.body_mut().read_to_string().unwrap();
    let value = serde_json::from_str(&text).unwrap_or(Value::Null);
    if answer.status().is_success() {
        return Ok(value);
    }
    assert_eq!(answer.headers()["content-type"], "application/problem+json", "{text}");
    assert_eq!(value["status"], answer.status().as_u16());
    assert!(value["detail"].as_str().is_some_and(|detail| detail.ends_with('.')), "{text}");
    Err(value)
}

fn events_of(answer: Response<Body>) -> impl Iterator<Item = Value> {
    let lines = BufReader::new(answer.into_body().into_reader()).lines();
    lines
        .map(Result::unwrap)
        .filter_map(|line| line.strip_prefix("data:").map(|data| serde_json::from_str(data).unwrap()))
}

impl Server {
    pub fn start() -> Self {
        Self::start_with(&[])
    }

    /// With the demo's job, but not its scan, as job 1.
    pub fn with_the_demo() -> Self {
        let server = Self::start();
        server.upload(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
        server
    }

    /// Open to paired devices as well.
    pub fn on_the_network() -> Self {
        let port = free_port();
        let mut server = Self::start_with(&["--host", "127.0.0.1", "--host-port", &port.to_string()]);
        server.lan_port = Some(port);
        server
    }

    pub fn lan_port(&self) -> u16 {
        self.lan_port.unwrap()
    }

    pub fn start_with(more: &[&str]) -> Self {
        let port = free_port();
        let data = tempfile::tempdir().unwrap();
        let process = spawn(port, data.path(), more);
        let agent = Agent::new_with_config(Agent::config_builder().http_status_as_error(false).build());
        Self { process, port, lan_port: None, data, agent }
    }

    pub fn id(&self) -> u32 {
        self.process.id()
    }

    pub fn restart(&mut self) {
        self.process.wait().unwrap();
        let lan = self.lan_port.map(|port| port.to_string());
        let more = lan.iter().flat_map(|port| ["--host", "127.0.0.1", "--host-port", port]);
        self.process = spawn(self.port, self.data.path(), &more.collect::<Vec<_>>());
    }

    fn url(&self, path: &str) -> String {
        format!("http://127.0.0.1:{}{path}", self.port)
    }

    pub fn get(&self, path: &str) -> Result<Value, Value> {
        json_of(self.agent.get(self.url(path)).call().unwrap())
    }

    pub fn text(&self, path: &str) -> Option<String> {
        let mut answer = self.agent.get(self.url(path)).call().unwrap();
        answer.status().is_success().then(|| answer.body_mut().read_to_string().unwrap())
    }

    pub fn bytes(&self, path: &str) -> Vec<u8> {
        let mut answer = self.agent.get(self.url(path)).call().unwrap();
        assert!(answer.status().is_success(), "{path}: {}", answer.status());
        answer.body_mut().read_to_vec().unwrap()
    }

    /// Sends bytes and gathers the events that come back until there are no more.
    pub fn events(&self, path: &str, bytes: &[u8]) -> Vec<Value> {
        let answer = self.agent.post(self.url(path)).content_type("application/octet-stream").send(bytes).unwrap();
        match answer.status().is_success() {
            true => events_of(answer).collect(),
            false => vec![json!({ "is": "refused", "problem": json_of(answer).unwrap_err() })],
        }
    }

    /// Listens to events as they come, as `test` or somebody else.
    pub fn listen(&self, path: &str) -> impl Iterator<Item = Value> + use<> {
        self.listen_as("test", path).unwrap()
    }

    pub fn listen_as(&self, author: &str, path: &str) -> Result<impl Iterator<Item = Value> + use<>, Value> {
        let answer = self.agent.get(self.url(path)).header("Nook-Author", author).call().unwrap();
        if answer.status().is_success() { Ok(events_of(answer)) } else { Err(json_of(answer).unwrap_err()) }
    }

    /// The status of a request without a body.
    pub fn status(&self, method: &str, path: &str, headers: &[(&str, &str)]) -> u16 {
        let request = ureq::http::Request::builder().method(method).uri(self.url(path));
        let request = headers.iter().fold(request, |request, (name, value)| request.header(*name, *value));
        self.agent.run(request.body(()).unwrap()).unwrap().status().as_u16()
    }

    pub fn post_as(&self, author: &str, path: &str, seen: i64, body: &Value) -> Result<Value, Value> {
        let request = self.agent.post(self.url(path)).header("If-Match", format!("\"{seen}\""));
        json_of(request.header("Nook-Author", author).send_json(body).unwrap())
    }

    /// Sends bytes that say they are JSON.
    pub fn send(&self, path: &str, bytes: &[u8]) -> Result<Value, Value> {
        let request = self.agent.post(self.url(path)).header("If-Match", "\"1\"").content_type("application/json");
        json_of(request.send(bytes).unwrap())
    }

    pub fn port(&self) -> u16 {
        self.port
    }

    pub fn data(&self) -> &Path {
        self.data.path()
    }

    /// Ends it as Ctrl-C does, so that it closes its database.
    pub fn interrupt(&mut self) {
        assert!(Command::new("kill").args(["-2", &self.id().to_string()]).status().unwrap().success());
        self.process.wait().unwrap();
    }

    pub fn press(&self, body: &Value) {
        let answer = self.agent.post(self.url("/api/instruments/press")).send_json(body).unwrap();
        assert_eq!(answer.status().as_u16(), 204);
    }

    pub fn put_text(&self, path: &str, seen: i64, text: &str) -> Result<Value, Value> {
        let request = self.agent.post(self.url(path)).header("If-Match", format!("\"{seen}\""));
        json_of(request.content_type("text/csv").send(text).unwrap())
    }

    pub fn header(&self, path: &str, name: &str) -> String {
        self.agent.get(self.url(path)).call().unwrap().headers()[name].to_str().unwrap().to_owned()
    }

    pub fn status_with(&self, header: &str, value: &str) -> u16 {
        self.agent.get(self.url("/api/jobs")).header(header, value).call().unwrap().status().as_u16()
    }

    pub fn try_delete(&self, path: &str) -> u16 {
        self.status("DELETE", path, &[])
    }

    pub fn delete(&self, path: &str) {
        assert_eq!(self.agent.delete(self.url(path)).call().unwrap().status().as_u16(), 204);
    }

    pub fn upload(&self, bytes: &[u8]) -> Result<Value, Value> {
        json_of(self.agent.post(self.url("/api/jobs/file")).send(bytes).unwrap())
    }

    pub fn post(&self, path: &str, seen: Option<i64>, body: &Value) -> Result<Value, Value> {
        self.try_post(path, seen, body).expect("the server answers")
    }

    /// Sends a file as it is.
    pub fn post_text(&self, path: &str, seen: i64, kind: &str, text: &str) -> Result<Value, Value> {
        let request = self.agent.post(self.url(path)).header("If-Match", format!("\"{seen}\"")).content_type(kind);
        request.send(text).map(json_of).expect("the server answers")
    }

    /// `None` when the connection broke.
    pub fn try_post(&self, path: &str, seen: Option<i64>, body: &Value) -> Option<Result<Value, Value>> {
        let mut request = self.agent.post(self.url(path));
        if let Some(seen) = seen {
            request = request.header("If-Match", format!("\"{seen}\""));
        }
        request.send_json(body).ok().map(json_of)
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

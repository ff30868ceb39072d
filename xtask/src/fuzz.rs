//! `cargo xtask fuzz`: a schema fuzzer against a running server, by the server's own description. Optional: it is not
//! part of the tests, takes minutes, and installs a Python package of its own under `target`.

use std::net::TcpListener;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

use xshell::{Shell, cmd};

use crate::Outcome;

/// The fuzzer, of a version that is known to run here.
const FUZZER: &str = "schemathesis==4.32.5";

/// Ends the server it holds.
struct Server(Child);

impl Drop for Server {
    fn drop(&mut self) {
        // One that has ended by itself was noticed already.
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Asks every operation `examples` times for what its description allows and for what it does not. Fails on any answer
/// of 500 and on any that the description does not tell of.
pub(crate) fn fuzz(shell: &Shell, examples: u32, seed: u64) -> Outcome {
    cmd!(shell, "cargo build --package nook-bend").run()?;
    let tools = shell.current_dir().join("target/fuzz");
    let fuzzer = tools.join("bin/schemathesis");
    if cmd!(shell, "{fuzzer} --version").quiet().ignore_stdout().ignore_stderr().run().is_err() {
        cmd!(shell, "python3 -m venv {tools}").run()?;
        let pip = tools.join("bin/pip");
        cmd!(shell, "{pip} install --quiet {FUZZER}").run()?;
    }
    let data = shell.create_temp_dir()?;
    let port = TcpListener::bind("127.0.0.1:0")?.local_addr()?.port();
    let server = Command::new(shell.current_dir().join("target/debug/nook-bend"))
        .args(["demo", "--port", &port.to_string(), "--data"])
        .arg(data.path())
        .stdout(Stdio::null())
        .spawn()?;
    let mut server = Server(server);
    std::thread::sleep(Duration::from_secs(3));
    let (port, examples, seed) = (port.to_string(), examples.to_string(), seed.to_string());
    // Streams that go on for ever have no answer that could be held against the description; deleting the jobs early
    // would leave nothing to ask about.
    let fuzzed = cmd!(
        shell,
        "{fuzzer} run http://127.0.0.1:{port}/api/openapi.json --phases examples,coverage,fuzzing
            --checks not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance
            --exclude-operation-id followJob --exclude-operation-id listenToInstruments
            --exclude-operation-id searchWays --exclude-operation-id deleteJob
            --max-examples {examples} --seed {seed} --request-timeout 20 --max-failures 20"
    )
    .run();
    if let Some(status) = server.0.try_wait()? {
        return Err(format!("the server ended while it was fuzzed: {status}").into());
    }
    fuzzed.map_err(Into::into)
}

//! `cargo xtask demo | test | client | fuzz`: everything a fresh machine needs, dependencies included.

mod fuzz;

use std::path::{Path, PathBuf};

use clap::{Parser, Subcommand};
use xshell::{Shell, cmd};

type Outcome = Result<(), Box<dyn std::error::Error>>;

#[derive(Debug, Parser)]
#[command(name = "cargo xtask")]
struct Cli {
    #[command(subcommand)]
    task: Task,
}

#[derive(Debug, Subcommand)]
enum Task {
    /// Build everything and serve it with the demo job.
    Demo {
        /// Port on the loopback address.
        #[arg(long, default_value_t = 8300)]
        port: u16,
        /// Serve paired devices too, at this address of this machine on your network.
        #[arg(long)]
        host: Option<std::net::IpAddr>,
    },
    /// Pass all tests: Rust, front end, browser.
    Test,
    /// Fuzz the running server by its own description; not part of the tests.
    Fuzz {
        /// How often each operation is asked.
        #[arg(long, default_value_t = 100)]
        examples: u32,
        /// Says which.
        #[arg(long, default_value_t = 1)]
        seed: u64,
    },
    /// Renew the API description and the front end's types from the Rust types.
    Client,
}

fn main() -> Outcome {
    let cli = Cli::parse();
    let shell = here()?;
    match cli.task {
        Task::Demo { port, host } => demo(&shell, port, host),
        Task::Test => test(&shell),
        Task::Fuzz { examples, seed } => fuzz::fuzz(&shell, examples, seed),
        Task::Client => client(&shell),
    }
}

/// A shell at the root of the project.
fn here() -> Result<Shell, xshell::Error> {
    let shell = Shell::new()?;
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).parent().map_or_else(|| PathBuf::from("."), Path::to_owned);
    shell.change_dir(root);
    Ok(shell)
}

/// Builds the front end, and does `more` after it, while the server's library is compiled: only the binary embeds it.
fn front_end_beside_server(shell: &Shell, more: impl FnOnce() -> Outcome + Send) -> Outcome {
    std::thread::scope(|scope| {
        let front = scope.spawn(|| {
            // A thread's error crosses as its words.
            here()
                .map_err(Into::into)
                .and_then(|shell| front_end(&shell))
                .and_then(|()| more())
                .map_err(|e| e.to_string())
        });
        let server = cmd!(shell, "cargo build --package nook-bend --lib").run();
        let front = front.join().map_err(|_| "the front end's build panicked")?;
        front?;
        server?;
        Ok(())
    })
}

fn demo(shell: &Shell, port: u16, host: Option<std::net::IpAddr>) -> Outcome {
    front_end_beside_server(shell, || Ok(()))?;
    cmd!(shell, "cargo build --package nook-bend").run()?;
    let port = port.to_string();
    let host = host.iter().flat_map(|address| ["--host".to_owned(), address.to_string()]);
    cmd!(shell, "target/debug/nook-bend demo --port {port} {host...} --data target/demo-data").run()?;
    Ok(())
}

fn test(shell: &Shell) -> Outcome {
    let checks = || {
        let shell = &here()?;
        packages(shell, "e2e")?;
        let _web = shell.push_dir("web");
        cmd!(shell, "npm run --silent lint").run()?;
        cmd!(shell, "npm run --silent types").run()?;
        cmd!(shell, "npm run --silent test").run()?;
        Ok(())
    };
    front_end_beside_server(shell, checks)?;
    cmd!(shell, "cargo fmt --all --check").run()?;
    cmd!(shell, "cargo clippy --workspace --all-targets -- --deny warnings").run()?;
    cmd!(shell, "cargo test --workspace").run()?;
    client_is_current(shell)?;
    cmd!(shell, "cargo build --package nook-bend").run()?;
    let chromium = chromium(shell)?;
    let _e2e = shell.push_dir("e2e");
    cmd!(shell, "npx playwright test").env("CHROMIUM", chromium).run()?;
    Ok(())
}

fn client(shell: &Shell) -> Outcome {
    packages(shell, "web")?;
    let api = cmd!(shell, "cargo run --quiet --package nook-bend -- openapi").read()?;
    shell.write_file("docs/openapi.json", api + "\n")?;
    let _web = shell.push_dir("web");
    cmd!(shell, "npm run --silent client").run()?;
    Ok(())
}

/// That `docs/openapi.json` is what the server says is a Rust test; here, that the types were made from it.
fn client_is_current(shell: &Shell) -> Outcome {
    let _web = shell.push_dir("web");
    let types = "src/api/generated/schema.d.ts";
    let committed = shell.read_file(types)?;
    cmd!(shell, "npm run --silent client").run()?;
    if shell.read_file(types)? == committed {
        Ok(())
    } else {
        Err("web/src/api/generated/schema.d.ts had drifted from docs/openapi.json; it is renewed now, commit it".into())
    }
}

fn front_end(shell: &Shell) -> Outcome {
    packages(shell, "web")?;
    let _web = shell.push_dir("web");
    cmd!(shell, "npm run --silent build").run()?;
    Ok(())
}

/// Installs a folder's packages as its lock file says, unless that was done since the lock file changed.
fn packages(shell: &Shell, folder: &str) -> Outcome {
    let _folder = shell.push_dir(folder);
    let changed =
        |file: &str| std::fs::metadata(shell.current_dir().join(file)).and_then(|about| about.modified()).ok();
    let done = changed("node_modules/.package-lock.json");
    if done.is_none() || done < changed("package-lock.json") {
        // Not `npm ci`: it insists on packages for other platforms, which not every mirror carries.
        cmd!(shell, "npm install --no-save --no-audit --no-fund --ignore-scripts").run()?;
    }
    Ok(())
}

/// Where Chromium is; installed from Debian's packages where it is missing and that can be done.
fn chromium(shell: &Shell) -> Result<String, Box<dyn std::error::Error>> {
    let found = || cmd!(shell, "which chromium").quiet().ignore_stderr().read();
    if found().is_err() {
        cmd!(shell, "apt-get update -qq").run()?;
        cmd!(shell, "apt-get install --yes --quiet chromium").env("DEBIAN_FRONTEND", "noninteractive").run()?;
    }
    Ok(found()?)
}

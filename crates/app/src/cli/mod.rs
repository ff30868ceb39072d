//! The command line.

mod batch;
mod say;

use std::io::Write;
use std::net::{IpAddr, SocketAddr};
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Parser, Subcommand};
use tracing_subscriber::EnvFilter;

use nook_devices::{Faults, Kind, NamedInstrument, StandIn, serve_stand_ins};

use crate::FrontEnd;
use crate::server::{self, Serve, ServeError};

/// Lay out charge pipes, intake tubes and coolant lines, from two ports to the saw.
///
/// Exit codes: 0 done; 1 something went wrong and the message says what; 2 the command was not understood;
/// 3 done, but a run cannot be built as it is (workup and packet), or no way is
/// known to fit (ways).
#[derive(Debug, Parser)]
#[command(
    name = "nook-bend",
    version,
    after_help = "Logs go to standard error. NOOK_LOG sets their level (such as info or debug) and NOOK_LOG_FORMAT=json their form."
)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Serve the application on this machine.
    Serve(Serving),
    /// Serve the application with the demo job, which is added if the data folder holds no job.
    Demo(Serving),
    /// Work out the runs of a job file.
    Workup {
        /// The job file.
        job: PathBuf,
        /// Only the run of this name.
        #[arg(long)]
        run: Option<String>,
        /// Everything, as JSON: one object for a named run, else a list.
        #[arg(long)]
        json: bool,
        /// A scan file the job leans on (STL, OBJ or PLY); may be said more than once.
        #[arg(long)]
        scan: Vec<PathBuf>,
    },
    /// Look for ways round in a job file, best first.
    Ways {
        /// The job file.
        job: PathBuf,
        /// The run of this name.
        #[arg(long)]
        run: String,
        /// Everything, as JSON.
        #[arg(long)]
        json: bool,
        /// A scan file the job leans on (STL, OBJ or PLY); may be said more than once.
        #[arg(long)]
        scan: Vec<PathBuf>,
    },
    /// Write the files for the saw: workup.json, lra.csv, cut-list.csv, fittings.csv and wrap templates at 1:1.
    Packet {
        /// The job file.
        job: PathBuf,
        /// Only the run of this name; otherwise each run gets a folder of its own.
        #[arg(long)]
        run: Option<String>,
        /// The folder to write into; made if it is not there.
        #[arg(long)]
        out: PathBuf,
        /// A scan file the job leans on (STL, OBJ or PLY); may be said more than once.
        #[arg(long)]
        scan: Vec<PathBuf>,
    },
    /// Start stand-ins for a tape, an angle gauge, a caliper, a feeler and a depth gauge on the loopback address.
    Instruments {
        /// A stand-in, as KIND@PORT or NAME=KIND@PORT; may be said more than once. Else one of each kind: tape@8391,
        /// gauge@8392, caliper@8393, feeler@8394, depth@8395 and manometer@8396.
        #[arg(long)]
        instrument: Vec<NamedInstrument>,
        /// Without noise, wrong readings, lost lines and broken connections.
        #[arg(long)]
        perfect: bool,
        /// Says which faults come when.
        #[arg(long, default_value_t = 41)]
        seed: u64,
    },
    /// Print the JSON Schema of the job file.
    Schema,
    /// Print the `OpenAPI` description of the server.
    Openapi,
}

#[derive(Debug, clap::Args)]
struct Serving {
    /// Port on the loopback address.
    #[arg(long, default_value_t = 8300)]
    port: u16,
    /// Serve paired devices too, over TLS, at this address of this machine on your network.
    #[arg(long, value_name = "ADDRESS")]
    host: Option<IpAddr>,
    /// Port at that address.
    #[arg(long, default_value_t = 8443, requires = "host")]
    host_port: u16,
    /// Folder that holds the jobs; made if it is not there.
    #[arg(long, default_value = "nook-bend-data")]
    data: PathBuf,
    /// Read an instrument, as KIND@PORT or NAME=KIND@PORT (tape, gauge, caliper, feeler or depth, on loopback); may be said more than
    /// once. The demo starts stand-ins where none is named.
    #[arg(long)]
    instrument: Vec<NamedInstrument>,
}

/// Does what the command line says.
pub(crate) fn run(front_end: FrontEnd) -> ExitCode {
    let cli = Cli::parse();
    start_logging();
    let done = match cli.command {
        Command::Serve(serving) => serve(&serving, false, front_end),
        Command::Demo(serving) => serve(&serving, true, front_end),
        Command::Workup { job, run, json, scan } => batch::workup_file(&job, run.as_deref(), json, &scan),
        Command::Ways { job, run, json, scan } => batch::ways_file(&job, &run, json, &scan),
        Command::Packet { job, run, out, scan } => batch::packet_file(&job, run.as_deref(), &out, &scan),
        Command::Instruments { instrument, perfect, seed } => stand_ins(instrument, perfect, seed),
        Command::Schema => batch::print_json(&nook_formats::job_schema()),
        Command::Openapi => batch::print_json(&server::openapi()),
    };
    match done {
        Ok(code) => code,
        Err(problem) => {
            eprintln!("nook-bend: {problem}");
            ExitCode::from(1)
        }
    }
}

fn serve(serving: &Serving, demo: bool, front_end: FrontEnd) -> Result<ExitCode, Box<dyn std::error::Error>> {
    let Serving { port, host, host_port, data, instrument } = serving;
    different_names(instrument)?;
    if let Some(address) = host {
        server::fit_address(*address)?;
    }
    let host = host.map(|address| SocketAddr::new(address, *host_port));
    let served: Result<(), ServeError> =
        server::serve(&Serve { port: *port, host, data, demo, instruments: instrument, front_end });
    served.map(|()| ExitCode::SUCCESS).map_err(Into::into)
}

/// Ports of the stand-ins of each kind, where none is named.
const USUAL_PORTS: [u16; 6] = [8391, 8392, 8393, 8394, 8395, 8396];

/// Two instruments of one name could not be told apart, nor two on one port.
fn different_names(instruments: &[NamedInstrument]) -> Result<(), String> {
    for (index, one) in instruments.iter().enumerate() {
        let others = &instruments[..index];
        if others.iter().any(|other| other.name == one.name) {
            return Err(format!("two instruments are called \u{201c}{}\u{201d}; say NAME=KIND@PORT", one.name));
        }
        if others.iter().any(|other| other.port == one.port) {
            return Err(format!("two instruments are on port {}", one.port));
        }
    }
    Ok(())
}

fn stand_ins(named: Vec<NamedInstrument>, perfect: bool, seed: u64) -> Result<ExitCode, Box<dyn std::error::Error>> {
    let usual =
        || Kind::ALL.into_iter().zip(USUAL_PORTS).map(|(kind, port)| NamedInstrument::plain(kind, port)).collect();
    let named: Vec<NamedInstrument> = if named.is_empty() { usual() } else { named };
    different_names(&named)?;
    let faults = |kind| if perfect { Faults::NONE } else { Faults::usual(kind) };
    let runtime = rocket::tokio::runtime::Runtime::new()?;
    runtime.block_on(async {
        let stand_ins = named.iter().map(|one| (StandIn::new(one.kind, faults(one.kind), seed), one.port));
        let started = serve_stand_ins(stand_ins.collect::<Vec<_>>()).await?;
        // Whoever read only the first line may have gone; the stand-ins stay.
        let mut out = std::io::stdout();
        for (one, at) in named.iter().zip(started) {
            let _ = writeln!(out, "{} at {at}", one.name);
        }
        let _ = writeln!(out, "Stop them with Ctrl-C.");
        rocket::tokio::signal::ctrl_c().await?;
        Ok(ExitCode::SUCCESS)
    })
}

fn start_logging() {
    let filter = EnvFilter::try_from_env("NOOK_LOG")
        .unwrap_or_else(|_| EnvFilter::new("warn,rocket::launch=error,nook_bend=info"));
    // A terminal that is gone takes no lines; to complain of that to it would panic whatever was under way, a shutdown too.
    let logs =
        tracing_subscriber::fmt().log_internal_errors(false).with_env_filter(filter).with_writer(std::io::stderr);
    if std::env::var("NOOK_LOG_FORMAT").is_ok_and(|form| form == "json") {
        logs.json().init();
    } else {
        logs.init();
    }
}

//! Working out job files without a server.

use std::collections::HashSet;
use std::error::Error;
use std::fs::File;
use std::io::Write;
use std::ops::ControlFlow;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

use nook_core::findings::Severity;
use nook_core::measure::KeepOutShape;
use nook_core::record::Progress;
use nook_core::workup::weld;
use nook_core::{Given, Job, Scans, Workshop, Workup, workup_among};
use nook_formats::scan::{ScanFormat, read_scan, scan_id, write_kept};
use nook_geometry::units::LengthUnit;
use nook_print::{Paper, PrintError, PrintOptions, RunPacket, run_packet_pdf};
use nook_search::{Outcome as SearchOutcome, search};
use serde::Serialize;

use super::say::{say_ways, say_workup};
use crate::time_limit::{search_limit, stop_when_time_is_up};

type Outcome = Result<ExitCode, Box<dyn Error>>;

/// Some run cannot be built as it is.
const CANNOT_BE: u8 = 3;

pub(super) fn workup_file(file: &Path, name: Option<&str>, json: bool, scans: &[PathBuf]) -> Outcome {
    let job = open(file)?;
    let workups = workups(&job, name, &read_scans(&job, scans)?)?;
    match (json, name) {
        (true, Some(_)) => print_json(&workups[0])?,
        (true, None) => print_json(&workups)?,
        (false, _) => {
            let said: Vec<String> = workups.iter().map(say_workup).collect();
            print(&said.join("\n"))?
        }
    };
    Ok(verdict(&workups))
}

pub(super) fn packet_file(file: &Path, name: Option<&str>, out: &Path, scans: &[PathBuf]) -> Outcome {
    let job = open(file)?;
    let scans = read_scans(&job, scans)?;
    let workups = workups(&job, name, &scans)?;
    for (workup, folder) in workups.iter().zip(folder_names(&workups)) {
        let folder = if name.is_some() { out.to_owned() } else { out.join(folder) };
        let failed = |error: std::io::Error| format!("{}: {error}", folder.display());
        std::fs::create_dir_all(&folder).map_err(failed)?;
        for part in nook_formats::packet(workup)? {
            std::fs::write(folder.join(&part.name), part.text).map_err(failed)?;
            print(&format!("{}\n", folder.join(&part.name).display()))?;
        }
        let given = Given { scans: &scans, progress: &Progress::default(), mend: false };
        let how = weld(&job, &Workshop::default(), workup.run, &given)?;
        let paper = RunPacket::new(&job, workup.clone(), &scans).with_weld(how);
        match run_packet_pdf(job.name(), &paper, &PrintOptions::usual(Paper::A4, LengthUnit::Mm)) {
            Ok(bytes) => {
                std::fs::write(folder.join("packet.pdf"), bytes).map_err(failed)?;
                print(&format!("{}\n", folder.join("packet.pdf").display()))?;
            }
            Err(PrintError::Nothing) => {}
            Err(error) => return Err(error.into()),
        }
    }
    Ok(verdict(&workups))
}

pub(super) fn ways_file(file: &Path, name: &str, json: bool, scans: &[PathBuf]) -> Outcome {
    let job = open(file)?;
    let run = job.runs().iter().find(|run| run.name.as_str() == name).ok_or_else(|| no_such_run(&job, name))?;
    let scans = read_scans(&job, scans)?;
    let stop = Arc::new(AtomicBool::new(false));
    stop_when_time_is_up(&stop, search_limit());
    let found = search(&job, run.id, &scans, &stop, &|_| {})?;
    if json {
        print_json(&found)?;
    } else {
        print(&say_ways(&found))?;
    }
    Ok(if found.outcome == SearchOutcome::Fits { ExitCode::SUCCESS } else { ExitCode::from(CANNOT_BE) })
}

/// Scan files as the meshes of the job's keep-outs that name them; a file that none names is a mistake.
fn read_scans(job: &Job, files: &[PathBuf]) -> Result<Scans, Box<dyn Error>> {
    let mut scans = Scans::default();
    for file in files {
        let failed = |error: &dyn std::fmt::Display| format!("{}: {error}", file.display());
        let open = File::open(file).map_err(|error| failed(&error))?;
        let format = ScanFormat::of_name(&file.to_string_lossy()).ok_or_else(|| failed(&"no STL, OBJ or PLY"))?;
        let scan = read_scan(open, format, &mut |_, _| ControlFlow::Continue(())).map_err(|error| failed(&error))?;
        let id = scan_id(&write_kept(&scan).map_err(|error| failed(&error))?);
        let mut named = false;
        for keep_out in job.keep_outs() {
            if let KeepOutShape::Scan(placed) = &keep_out.shape
                && placed.scan == id
            {
                named = true;
                scans.insert(
                    id.clone(),
                    placed.unit,
                    Arc::new(scan.mesh(placed.unit).map_err(|error| failed(&error))?),
                );
            }
        }
        if !named {
            return Err(failed(&"no keep-out of the job is this scan").into());
        }
    }
    Ok(scans)
}

fn no_such_run(job: &Job, name: &str) -> String {
    let names: Vec<&str> = job.runs().iter().map(|run| run.name.as_str()).collect();
    format!("the job has no run \u{201c}{name}\u{201d}; it has: {}", names.join(", "))
}

/// Prints a value as JSON that people can read.
pub(super) fn print_json(value: &impl Serialize) -> Outcome {
    print(&(serde_json::to_string_pretty(value)? + "\n"))
}

/// A reader that closes its end early, such as `head`, is no failure.
fn print(text: &str) -> Outcome {
    match std::io::stdout().write_all(text.as_bytes()) {
        Err(error) if error.kind() != std::io::ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(ExitCode::SUCCESS),
    }
}

fn open(file: &Path) -> Result<Job, Box<dyn Error>> {
    let bytes = std::fs::read(file).map_err(|error| format!("{}: {error}", file.display()))?;
    Ok(nook_formats::read_job(&bytes).map_err(|error| format!("{}: {error}", file.display()))?)
}

fn workups(job: &Job, name: Option<&str>, scans: &Scans) -> Result<Vec<Workup>, Box<dyn Error>> {
    let wanted = |run: &&nook_core::Run| name.is_none_or(|name| run.name.as_str() == name);
    let found: Vec<Workup> =
        job.runs().iter().filter(wanted).map(|run| workup_among(job, run.id, scans)).collect::<Result<_, _>>()?;
    if let (Some(name), true) = (name, found.is_empty()) {
        return Err(no_such_run(job, name).into());
    }
    Ok(found)
}

fn verdict(workups: &[Workup]) -> ExitCode {
    let stops = |workup: &Workup| workup.findings.iter().any(|finding| finding.severity == Severity::Error);
    if workups.iter().any(stops) { ExitCode::from(CANNOT_BE) } else { ExitCode::SUCCESS }
}

/// The runs' names as folders, each its own: letters, digits and hyphens, and a number where two would be one.
fn folder_names(workups: &[Workup]) -> Vec<String> {
    let mut taken = HashSet::new();
    let plain = |name: &str| {
        let plain: String = name.chars().map(|c| if c.is_alphanumeric() { c } else { '-' }).collect();
        plain.split('-').filter(|part| !part.is_empty()).collect::<Vec<_>>().join("-").to_lowercase()
    };
    let own = |workup: &Workup| {
        let plain = plain(&workup.name);
        let plain = if plain.is_empty() { "run".to_owned() } else { plain };
        let numbered = (2..).map(|k| format!("{plain}-{k}"));
        let free = std::iter::once(plain.clone()).chain(numbered).find(|name| !taken.contains(name));
        let name = free.unwrap_or(plain);
        taken.insert(name.clone());
        name
    };
    workups.iter().map(own).collect()
}

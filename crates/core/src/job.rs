//! The job: what the builder measured and decided about one vehicle, and nothing that can be worked out. This is
//! the document that is kept.

use std::collections::HashSet;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use crate::measure::{KeepOut, KeepOutId};
use crate::route::{Run, RunId};
use crate::units::{Kerf, Name, NameError, OutOfRange};

/// What a job must never be.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Invalid {
    /// Two runs or two keep-outs share a number, or one is numbered beyond the next to be given.
    #[error("two {what} are numbered {id}, or the number is beyond the last one given")]
    Numbering {
        /// `runs` or `keep-outs`.
        what: &'static str,
        /// The number.
        id: u32,
    },
    /// A run's two ports lie in one place.
    #[error("the two ports of \u{201c}{run}\u{201d} are {apart:.2} mm apart: they must be at least {least} mm apart")]
    PortsInOnePlace {
        /// The run's name.
        run: String,
        /// Their distance in mm.
        apart: f64,
        /// The least distance in mm.
        least: f64,
    },
    /// A way's bends do not fit its course.
    #[error("the way of \u{201c}{run}\u{201d} has {bends} bends where its course has {corners}")]
    BendsDoNotMatch {
        /// The run's name.
        run: String,
        /// Bends described.
        bends: usize,
        /// Corners in the course.
        corners: usize,
    },
    /// More than there is room for.
    #[error("a job holds at most {most} {what}; this one has {count}")]
    TooMany {
        /// `runs`, `keep-outs` or `bends in one run`.
        what: &'static str,
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// A keep-out without a size.
    #[error("keep-out \u{201c}{name}\u{201d}: {problem}")]
    KeepOut {
        /// Its name.
        name: String,
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A port or keep-out without a proper name.
    #[error("{what}: {problem}")]
    Unnamed {
        /// Which thing.
        what: &'static str,
        /// What is wrong.
        problem: NameError,
    },
}

/// One vehicle's job. Its fields change only through [`crate::apply`], so what [`Job::check`] checks always
/// holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
#[schema(as = Job)]
pub struct Job {
    /// What it is called.
    pub(crate) name: Name,
    /// Width of the saw cut.
    pub(crate) kerf: Kerf,
    /// Pipes.
    pub(crate) runs: Vec<Run>,
    /// What is in the way.
    pub(crate) keep_outs: Vec<KeepOut>,
    /// The next number to give to a run or keep-out; numbers are never used twice.
    pub(crate) next_id: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    name: Name,
    kerf: Kerf,
    runs: Vec<Run>,
    keep_outs: Vec<KeepOut>,
    next_id: u32,
}

impl Job {
    /// Most runs in a job.
    pub const MOST_RUNS: usize = 50;
    /// Most keep-outs in a job.
    pub const MOST_KEEP_OUTS: usize = 500;
    /// Most bends in a run.
    pub const MOST_BENDS: usize = 12;
    /// Least distance in mm between a run's ports.
    pub const LEAST_APART: f64 = 1.0;
    /// Kerf in mm of a common 14 inch cold saw, until the builder says otherwise.
    const USUAL_KERF: f64 = 2.0;

    /// An empty job.
    #[must_use]
    pub fn new(name: Name) -> Self {
        let kerf = Kerf::new(Self::USUAL_KERF).unwrap_or_else(|_| unreachable!("2 mm is within the range of a kerf"));
        Self { name, kerf, runs: Vec::new(), keep_outs: Vec::new(), next_id: 1 }
    }

    /// What it is called.
    #[must_use]
    pub fn name(&self) -> &str {
        self.name.as_str()
    }

    /// Width of the saw cut in mm.
    #[must_use]
    pub const fn kerf(&self) -> f64 {
        self.kerf.get()
    }

    /// Pipes, in the order they were added.
    #[must_use]
    pub fn runs(&self) -> &[Run] {
        &self.runs
    }

    /// One pipe.
    #[must_use]
    pub fn run(&self, id: RunId) -> Option<&Run> {
        self.runs.iter().find(|run| run.id == id)
    }

    /// What is in the way.
    #[must_use]
    pub fn keep_outs(&self) -> &[KeepOut] {
        &self.keep_outs
    }

    /// Checks everything that is always true of a job.
    ///
    /// # Errors
    /// The first [`Invalid`] found.
    pub fn check(&self) -> Result<(), Invalid> {
        at_most("runs", self.runs.len(), Self::MOST_RUNS)?;
        at_most("keep-outs", self.keep_outs.len(), Self::MOST_KEEP_OUTS)?;
        let mut seen = HashSet::new();
        for RunId(id) in self.runs.iter().map(|run| run.id) {
            self.numbered("runs", id, &mut seen)?;
        }
        for KeepOutId(id) in self.keep_outs.iter().map(|keep_out| keep_out.id) {
            self.numbered("keep-outs", id, &mut seen)?;
        }
        self.runs.iter().try_for_each(check_run)?;
        for keep_out in &self.keep_outs {
            named("a keep-out", &keep_out.name)?;
            keep_out.shape.check().map_err(|problem| Invalid::KeepOut { name: keep_out.name.clone(), problem })?;
        }
        Ok(())
    }

    fn numbered(&self, what: &'static str, id: u32, seen: &mut HashSet<u32>) -> Result<(), Invalid> {
        if seen.insert(id) && id < self.next_id { Ok(()) } else { Err(Invalid::Numbering { what, id }) }
    }
}

fn check_run(run: &Run) -> Result<(), Invalid> {
    named("a port", &run.a.name)?;
    named("a port", &run.b.name)?;
    let apart = run.a.at.distance(run.b.at);
    if apart < Job::LEAST_APART {
        let run = run.name.as_str().to_owned();
        return Err(Invalid::PortsInOnePlace { run, apart, least: Job::LEAST_APART });
    }
    if let Some(way) = &run.way {
        let (bends, corners) = (way.bends().len(), way.course().corners());
        at_most("bends in one run", bends, Job::MOST_BENDS)?;
        if bends != corners {
            return Err(Invalid::BendsDoNotMatch { run: run.name.as_str().to_owned(), bends, corners });
        }
    }
    Ok(())
}

fn named(what: &'static str, name: &str) -> Result<(), Invalid> {
    Name::new(name).map(drop).map_err(|problem| Invalid::Unnamed { what, problem })
}

const fn at_most(what: &'static str, count: usize, most: usize) -> Result<(), Invalid> {
    if count <= most { Ok(()) } else { Err(Invalid::TooMany { what, count, most }) }
}

impl TryFrom<Parts> for Job {
    type Error = Invalid;
    fn try_from(parts: Parts) -> Result<Self, Invalid> {
        let Parts { name, kerf, runs, keep_outs, next_id } = parts;
        let job = Self { name, kerf, runs, keep_outs, next_id };
        job.check()?;
        Ok(job)
    }
}

impl From<Job> for Parts {
    fn from(job: Job) -> Self {
        let Job { name, kerf, runs, keep_outs, next_id } = job;
        Self { name, kerf, runs, keep_outs, next_id }
    }
}

//! What a pipe lacks of air, before and after something is tried.

use super::near::{TooNear, too_near};
use super::{Severity, assess};
use crate::environment::{Environment, Scans, Thing};
use crate::job::Job;
use crate::measure::RunId;
use crate::reach::turned;
use crate::route::ResolvedRun;
use crate::survey::Survey;

/// Shortfalls that differ by less than this, in mm, are one.
const SAME_AIR: f64 = 0.1;

/// What a pipe lacks of air at each thing it is too near to.
pub(super) struct Lack(Vec<(Option<usize>, f64, bool)>);

impl Lack {
    /// What `run` lacks; `None` where it is no pipe.
    pub(super) fn of(run: &ResolvedRun, around: &Environment) -> Option<Self> {
        let each = |near: &TooNear<'_>| (near.index, near.limit - near.near.gap, near.fouls());
        all_too_near(run, around).map(|all| Self(all.iter().map(each).collect()))
    }

    /// How many things it runs into.
    pub(super) fn fouls(&self) -> usize {
        self.0.iter().filter(|(.., fouls)| *fouls).count()
    }

    /// Whether it lacks anything at one thing.
    pub(super) fn at(&self, index: Option<usize>) -> bool {
        self.0.iter().any(|(one, ..)| *one == index)
    }

    /// Whether nothing is run into that was not, and no more air is missing in all, but for what was missing at `mended`.
    pub(super) fn no_worse_than(&self, before: &Self, mended: Option<Option<usize>>) -> bool {
        let short = |lack: &Self| -> f64 {
            lack.0.iter().filter(|(index, ..)| mended != Some(*index)).map(|(_, short, _)| short).sum()
        };
        let fouled = |index: Option<usize>| before.0.iter().any(|(one, _, fouled)| *one == index && *fouled);
        self.0.iter().all(|(index, _, fouls)| !fouls || fouled(*index)) && short(self) <= short(before) + SAME_AIR
    }
}

/// What keeps a run from being built: problems that are errors, and things it runs into; `None` where there is no such run.
#[must_use]
pub fn stops(job: &Job, survey: &Survey<'_>, id: RunId, scans: &Scans) -> Option<usize> {
    let run = survey.settle(job.run(id)?);
    let stops = assess(&run).problems.iter().filter(|problem| problem.1.severity() == Severity::Error).count();
    let around = Environment::of(job, survey, &run, scans);
    // A pipe that cannot be laid runs into nothing.
    Some(stops + Lack::of(&run, &around).map_or(0, |lack| lack.fouls()))
}

/// The keep-outs and pipes that a run is too near to; none where it is no pipe.
pub(super) fn too_near_of(job: &Job, survey: &Survey<'_>, id: RunId, scans: &Scans) -> Vec<(Thing, String, [f64; 2])> {
    let Some(run) = job.run(id).map(|run| survey.settle(run)) else { return Vec::new() };
    let around = Environment::of(job, survey, &run, scans);
    let all = all_too_near(&run, &around).unwrap_or_default();
    all.into_iter().map(|near| (near.thing, near.name.to_owned(), [near.near.gap, near.limit])).collect()
}

fn all_too_near<'a>(run: &ResolvedRun, around: &'a Environment) -> Option<Vec<TooNear<'a>>> {
    let assessment = assess(run);
    let (pipe, _) = turned(run, assessment.pipe.clone().filter(|_| assessment.is_sound())?, around);
    let outside = pipe.envelope(run);
    Some(too_near(around, &around.counted(&outside, run.tube.od() / 2.0)))
}

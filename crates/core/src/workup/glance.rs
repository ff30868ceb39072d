//! How a run stands at a glance, while something that it ends on is moved.

use serde::Serialize;
use utoipa::ToSchema;

use super::{Given, workup_given};
use crate::findings::Severity;
use crate::job::Job;
use crate::measure::RunId;
use crate::rack::FindingCounts;
use nook_geometry::units::DualUnitText;

/// How a run stands.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RunGlance {
    /// Which.
    pub run: RunId,
    /// Its name.
    pub name: String,
    /// What is written on its pieces.
    pub mark: String,
    /// How much is wrong with it.
    pub counts: FindingCounts,
    /// The worst of that, but for notes.
    pub worst: Option<DualUnitText>,
}

/// Runs that end on components which stand otherwise in `next` than in `job`, as they are in `next`.
#[must_use]
pub fn glances(job: &Job, next: &Job, given: &Given<'_>) -> Vec<RunGlance> {
    let moved = next.components().iter().filter(|one| job.component(one.id).is_none_or(|was| was != *one));
    let mut runs: Vec<RunId> = moved.flat_map(|one| one.ports.iter().map(|port| port.run)).collect();
    runs.sort_unstable();
    runs.dedup();
    let glance = |run: RunId| {
        let workup = workup_given(next, run, given).ok()?;
        let worst = workup.findings.iter().find(|finding| finding.severity != Severity::Info);
        Some(RunGlance {
            run,
            counts: FindingCounts::of(&workup.findings),
            worst: worst.map(|finding| finding.words.clone()),
            name: workup.name,
            mark: workup.mark,
        })
    };
    runs.into_iter().filter_map(glance).collect()
}

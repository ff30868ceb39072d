//! The rack: how every run of a job stands, and what concerns the vehicle as a whole. A pure function of what was worked
//! out for each run.

mod next_act;
mod rod;
mod standing;
mod vehicle;

pub use next_act::NextAct;
pub use rod::{RackBend, RackRod, RackShort};
pub use standing::{StepStanding, StepState};
pub use vehicle::{BeginLine, BeginStage, BuyLine, MeasuredLine, VehicleWorkup};

use serde::Serialize;
use serde_json::value::{RawValue, to_raw_value};
use utoipa::ToSchema;

use crate::findings::{Finding, Severity};
use crate::job::Job;
use crate::measure::RunId;
use crate::rates::Rates;
use crate::workup::{BayWorkup, ToJson, Workup};
use nook_geometry::units::{DualUnitText, LengthUnit};

/// All runs of a job beside each other, in the order the builder put them.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RackWorkup {
    /// Every run.
    pub runs: Vec<RackRun>,
    /// How many findings there are, of the runs and of the bay.
    pub counts: FindingCounts,
    /// What concerns the vehicle as a whole.
    pub vehicle: VehicleWorkup,
}

/// How many findings there are of each sort.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, ToSchema)]
pub struct FindingCounts {
    /// What cannot be.
    pub errors: usize,
    /// What is tight.
    pub warnings: usize,
    /// What is worth knowing.
    pub notes: usize,
}

/// One run on the rack.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RackRun {
    /// Which.
    pub run: RunId,
    /// What it is called.
    pub name: String,
    /// What is written on its metal.
    pub mark: String,
    /// Its size and what it is made of.
    pub tube: DualUnitText,
    /// The run it is the mirrored twin of.
    pub twin: Option<RunId>,
    /// Its stick; nothing where it has no way yet.
    pub rod: Option<RackRod>,
    /// How each step stands, in the order the work goes.
    #[schema(min_items = 7, max_items = 7)]
    pub steps: [StepStanding; 7],
    /// The worst that is wrong, or what is to be done next.
    pub next: NextAct,
    /// How many findings it has.
    pub counts: FindingCounts,
    /// Hours it takes to make on the mean, by the usual rates and the builder's own record; nothing while it has no way that can be sawn.
    pub hours: Option<f64>,
    /// Hours that were worked on it.
    pub spent: f64,
    /// The chance that it lands once it is made, from 0 to 1; nothing where there is no pipe to make.
    pub chance: Option<f64>,
}

impl ToJson for RackWorkup {
    fn to_json(&self) -> serde_json::Result<Box<RawValue>> {
        to_raw_value(self)
    }
}

impl FindingCounts {
    /// Counts.
    pub fn of<'a>(findings: impl IntoIterator<Item = &'a Finding>) -> Self {
        let mut counts = Self::default();
        for finding in findings {
            match finding.severity {
                Severity::Error => counts.errors += 1,
                Severity::Warning => counts.warnings += 1,
                Severity::Info => counts.notes += 1,
            }
        }
        counts
    }
}

/// The rack of a job, from its bay and the workups of all its runs, in any order. A run that has none is left out.
#[must_use]
pub fn rack(job: &Job, bay: &BayWorkup, workups: &[Workup], rates: &Rates) -> RackWorkup {
    let of = |id: RunId| workups.iter().find(|workup| workup.run == id);
    let pairs: Vec<_> = job.runs().iter().filter_map(|run| Some((run, of(run.id)?))).collect();
    RackWorkup {
        runs: pairs.iter().map(|(run, workup)| RackRun::of(workup, run.twin, rates)).collect(),
        counts: FindingCounts::of(pairs.iter().flat_map(|(_, workup)| &workup.findings).chain(&bay.findings)),
        vehicle: VehicleWorkup::of(bay, &pairs.iter().map(|(_, workup)| *workup).collect::<Vec<_>>(), rates),
    }
}

impl RackRun {
    fn of(workup: &Workup, twin: Option<RunId>, rates: &Rates) -> Self {
        let steps = standing::standings(workup);
        Self {
            run: workup.run,
            name: workup.name.clone(),
            mark: workup.mark.clone(),
            tube: tube_words(workup),
            twin,
            rod: RackRod::of(workup),
            next: NextAct::of(workup, &steps),
            steps,
            counts: FindingCounts::of(&workup.findings),
            hours: workup.totals.as_ref().map(|totals| rates.hours(&totals.labour).mean),
            spent: workup.made.minutes / 60.0,
            chance: workup.chance,
        }
    }
}

/// A run's tube or hose as a shelf label has it.
fn tube_words(workup: &Workup) -> DualUnitText {
    if let Some(hose) = &workup.hose {
        return hose.called.clone();
    }
    let tube = workup.decisions.tube;
    DualUnitText::new(|unit| format!("{} {}", size_words(tube.od(), tube.wall(), unit), tube.material().name()))
}

/// A diameter and a wall.
fn size_words(od: f64, wall: f64, unit: LengthUnit) -> String {
    format!("{} \u{d7} {}", unit.figure(od), unit.text(wall))
}

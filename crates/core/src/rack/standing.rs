//! How a step of a run stands: the one definition of it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::findings::{FindingKind, Severity};
use crate::work_step::WorkStep;
use crate::workup::Workup;

/// How a step stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum StepState {
    /// Nothing was done yet.
    Nothing,
    /// Begun, and nothing is wrong so far.
    Begun,
    /// Something of it cannot be.
    Wrong,
    /// It can be, but a limit is passed.
    Tight,
    /// Nothing is left to do that is known.
    Done,
}

/// How one step of a run stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct StepStanding {
    /// Which step.
    pub step: WorkStep,
    /// How it stands.
    pub state: StepState,
}

/// How every step of a run stands: what is wrong of it, else what the decisions and the record say was done.
pub(super) fn standings(workup: &Workup) -> [StepStanding; 7] {
    WorkStep::ALL.map(|step| StepStanding { step, state: state(workup, step) })
}

fn state(workup: &Workup, step: WorkStep) -> StepState {
    let decided = workup.decisions.route.is_decided();
    // That no way is taken yet is no fault of the route: it was not begun.
    let of_step = |kind: FindingKind| kind.step() == step && (kind != FindingKind::NoWayTaken);
    let worst = workup.findings.iter().filter(|finding| of_step(finding.kind)).map(|finding| finding.severity).min();
    match worst {
        Some(Severity::Error) => return StepState::Wrong,
        Some(Severity::Warning) => return StepState::Tight,
        Some(Severity::Info) | None => {}
    }
    // What is signed is made, and fouls nothing.
    let errors = workup.findings.iter().any(|finding| finding.severity == Severity::Error);
    let signed = workup.made.signed && !errors;
    match step {
        WorkStep::Cut | WorkStep::Fit | WorkStep::Weld | WorkStep::Prove if signed => StepState::Done,
        // A mouth whose part is not there yet must be measured again.
        WorkStep::Measure if workup.findings.iter().any(|finding| finding.kind == FindingKind::NotInPlace) => {
            StepState::Begun
        }
        WorkStep::Measure => StepState::Done,
        WorkStep::Route | WorkStep::Join if decided => StepState::Done,
        WorkStep::Cut => {
            let cut = workup.pieces.iter().filter(|piece| piece.cut).count();
            match cut {
                0 => StepState::Nothing,
                all if all == workup.pieces.len() => StepState::Done,
                _ => StepState::Begun,
            }
        }
        // What is welded was fitted.
        WorkStep::Fit if workup.made.welded > 0 => StepState::Done,
        WorkStep::Fit if workup.made.fitting => StepState::Begun,
        WorkStep::Weld if workup.made.seams > 0 && workup.made.welded == workup.made.seams => StepState::Done,
        WorkStep::Weld if workup.made.welded > 0 => StepState::Begun,
        WorkStep::Prove if workup.made.proving => StepState::Begun,
        WorkStep::Route | WorkStep::Join | WorkStep::Fit | WorkStep::Weld | WorkStep::Prove => StepState::Nothing,
    }
}

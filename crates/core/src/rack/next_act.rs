//! What is wrong with a run, or what is to be done next, and the act that does it.

use serde::Serialize;
use utoipa::ToSchema;

use super::{StepStanding, StepState};
use crate::edit::Edit;
use crate::findings::{Remedy, Severity};
use crate::part_ref::PartRef;
use crate::work_step::WorkStep;
use crate::workup::Workup;
use nook_geometry::units::DualUnitText;

/// The worst finding, or the next act.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NextAct {
    /// How bad it is; nothing where nothing is wrong and there is only work to do.
    pub severity: Option<Severity>,
    /// The step it belongs to.
    pub step: WorkStep,
    /// What it is about.
    pub part: PartRef,
    /// Said in a sentence.
    pub words: DualUnitText,
    /// What its button says.
    pub label: DualUnitText,
    /// The edit the button makes; nothing where it leads to the step.
    pub edit: Option<Edit>,
}

impl NextAct {
    pub(super) fn of(workup: &Workup, steps: &[StepStanding; 7]) -> Self {
        let worst = workup.findings.iter().find(|finding| finding.severity != Severity::Info);
        if let Some(worst) = worst {
            let Remedy { label, edit } = match worst.remedies.first() {
                Some(remedy) => remedy.clone(),
                None => {
                    return Self::led_to(Some(worst.severity), worst.step, worst.part, worst.words.clone(), "Show it");
                }
            };
            let (severity, words) = (Some(worst.severity), worst.words.clone());
            return Self { severity, step: worst.step, part: worst.part, words, label, edit: Some(edit) };
        }
        let part = PartRef::Run { run: workup.run };
        let open = steps.iter().find(|standing| standing.state != StepState::Done);
        let step = open.map_or(WorkStep::Prove, |standing| standing.step);
        let (words, label) = work_words(workup, step);
        Self::led_to(None, step, part, DualUnitText::new(|_| words.clone()), label)
    }

    fn led_to(severity: Option<Severity>, step: WorkStep, part: PartRef, words: DualUnitText, label: &str) -> Self {
        Self { severity, step, part, words, label: DualUnitText::new(|_| label.to_owned()), edit: None }
    }
}

/// What is to be done at a step where nothing is wrong, and what its button says.
fn work_words(workup: &Workup, step: WorkStep) -> (String, &'static str) {
    let (all, cut) = (workup.pieces.len(), workup.pieces.iter().filter(|piece| piece.cut).count());
    match step {
        WorkStep::Measure => ("A mouth was measured on a part that is not the real one yet.".to_owned(), "Measure it"),
        WorkStep::Route => ("No way round is taken yet.".to_owned(), "Choose a way"),
        WorkStep::Join => ("Its joints are to be chosen.".to_owned(), "Choose joints"),
        WorkStep::Cut if cut == 0 => {
            let pieces = if all == 1 { "One piece".to_owned() } else { format!("{all} pieces") };
            (format!("{pieces} to cut; nothing is wrong."), "Go to the saw")
        }
        WorkStep::Cut => (format!("{cut} of {all} pieces are cut."), "Go on sawing"),
        WorkStep::Fit if workup.made.fitting => {
            ("It is tacked: read how it lies, and make it land.".to_owned(), "Try it on")
        }
        WorkStep::Fit => {
            (format!("All {all} pieces are cut: tape them together and try them on the car."), "Try it on")
        }
        WorkStep::Weld => {
            let (seams, welded) = (workup.made.seams, workup.made.welded);
            (format!("{welded} of {seams} seams are welded."), "Weld it")
        }
        WorkStep::Prove if workup.made.signed => ("It is done and signed.".to_owned(), "Look at it"),
        WorkStep::Prove => ("It is to be tested, checked and signed.".to_owned(), "Prove it"),
    }
}

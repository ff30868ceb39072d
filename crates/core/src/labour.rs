//! How long a pipe takes to make, step by step. Source of the rates: handbook, "Fit, weld, prove", Record.

use serde::Serialize;
use utoipa::ToSchema;

use crate::stock::Material;
use crate::work_step::WorkStep;

/// Minutes to set up: sticks, jig, gas.
const SET_UP: f64 = 30.0;
/// Minutes to saw once.
const CUT: f64 = 4.0;
/// Minutes to deburr, clean and fit one seam.
const FIT_SEAM: f64 = 6.0;
/// Minutes to tack one seam.
const TACK: f64 = 3.0;
/// Minutes to fit the pipe on the car once.
const ON_CAR: f64 = 20.0;

/// Minutes to bend once on a tube bender: clock, clamp, pull, check. No source; as long as a cut and half its fitting.
const BEND: f64 = 7.0;

/// Minutes to weld 100 mm by hand.
const fn weld(material: Material) -> f64 {
    match material {
        Material::Aluminium6061 | Material::Aluminium6063 | Material::MildSteel => 6.0,
        Material::Stainless304l | Material::Stainless316l | Material::Stainless321 => 8.0,
        Material::TitaniumGrade2 => 10.0,
        // Nothing is welded to a hose.
        Material::Silicone | Material::FluoroSilicone | Material::Epdm | Material::Nitrile | Material::Ptfe => 0.0,
    }
}

/// What there is to do on one pipe.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Labour {
    /// Saw cuts.
    pub cuts: u32,
    /// Welded seams.
    pub seams: u32,
    /// Length of all seams in mm.
    pub weld: f64,
    /// Bends: each is clocked with the pipe on the car.
    pub bends: u32,
    /// Those of them that are drawn by a tube bender.
    pub drawn: u32,
    /// What is welded.
    pub material: Material,
}

/// One step of the work.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LabourStep {
    /// What, such as `saw 7 times`.
    pub what: String,
    /// The step of the work it is part of.
    pub step: WorkStep,
    /// How long in minutes.
    pub minutes: f64,
}

/// Minutes of one step of the work.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct StepMinutes {
    /// Which step.
    pub step: WorkStep,
    /// How long, by the usual rates.
    pub minutes: f64,
}

impl Labour {
    /// The same summed up step by step, in the order the work goes.
    #[must_use]
    pub fn by_step(&self) -> Vec<StepMinutes> {
        let all = self.steps();
        let sum = |step| all.iter().filter(|one| one.step == step).map(|one| one.minutes).sum();
        let each = WorkStep::ALL.into_iter().map(|step| StepMinutes { step, minutes: sum(step) });
        each.filter(|one| one.minutes > 0.0).collect()
    }

    /// The steps in order. A pipe is fitted on the car once for each bend, and at least once.
    #[must_use]
    pub fn steps(&self) -> Vec<LabourStep> {
        let step = |of: WorkStep, what: String, minutes: f64| LabourStep { what, step: of, minutes };
        let (cuts, seams, fits) = (f64::from(self.cuts), f64::from(self.seams), f64::from(self.bends.max(1)));
        let mut steps = vec![
            step(WorkStep::Cut, "set up".to_owned(), SET_UP),
            step(WorkStep::Cut, format!("saw {cuts} times"), CUT * cuts),
            step(WorkStep::Cut, format!("bend {} times", self.drawn), BEND * f64::from(self.drawn)),
            step(WorkStep::Cut, format!("deburr, clean and fit {seams} seams"), FIT_SEAM * seams),
            step(WorkStep::Fit, format!("tack {seams} seams"), TACK * seams),
            step(WorkStep::Fit, format!("fit on the car {fits} times"), ON_CAR * fits),
            step(WorkStep::Weld, format!("weld {:.0} mm", self.weld), weld(self.material) * self.weld / 100.0),
        ];
        steps.retain(|step| step.minutes > 0.0);
        steps
    }

    /// All of it in hours.
    #[must_use]
    pub fn hours(&self) -> f64 {
        self.steps().iter().map(|step| step.minutes).sum::<f64>() / 60.0
    }
}

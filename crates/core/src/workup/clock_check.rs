//! What shows, while a pipe is tacked, that a bend was clocked the right way.

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::route::{BendId, ResolvedMake, ResolvedRun};
use nook_geometry::units::{DualUnitText, Measure};

/// A check of one bend's clock: two straights laid flat on the bench, the third stands so high.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClockCheck {
    /// The bend that is checked.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// Height of the middle of the tube's end after it over the middles of the two straights before, which lie flat with the bend
    /// between them turning left as seen from A; below them where it is negative.
    pub height: Measure,
    /// What to do and to see.
    pub words: DualUnitText,
}

/// Ends that stand less than this off the bench, in mm, lie on it.
const FLAT: f64 = 2.0;

impl ClockCheck {
    /// A check for each bend after the first that is welded to the one before it.
    pub(super) fn all(run: &ResolvedRun, pipe: &Assembly) -> Vec<Self> {
        let mut travel = pipe.tube.setting_out();
        let mut all = Vec::new();
        // The direction of travel before the last bend.
        let mut before = None;
        let straights: Vec<f64> = pipe.tube.straights().collect();
        for (bend, step) in pipe.tube.legs().iter().enumerate() {
            let along = travel.along.vector();
            let corner = travel.straight(step.straight).at;
            travel = travel.straight(step.straight).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
            let end = travel.straight(straights.get(bend + 1).copied().unwrap_or(0.0)).at;
            let welded = |bend: usize| pipe.makes.get(bend).is_some_and(|make| *make != ResolvedMake::Moulded);
            let parted = pipe.joints_on(bend).next().is_some();
            if let Some(last) = before.replace(along)
                && welded(bend)
                && welded(bend - 1)
                && !parted
                && let Some(up) = nalgebra::Vector3::cross(&last, &along).try_normalize(1e-9)
            {
                let height = up.dot(&(end - corner));
                let words = words(bend + 1, height);
                all.push(Self { bend: run.route.bend_id(bend), number: bend + 1, height: Measure(height), words });
            }
        }
        all
    }
}

fn words(number: usize, height: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        let laid = format!(
            "Bend {number}: lay straights {} and {number} flat, bend {} turning left as you look from A. ",
            number - 1,
            number - 1
        );
        let next = number + 1;
        if height.abs() < FLAT {
            return format!("{laid}Straight {next} lies flat too.");
        }
        let (stands, wrong) = if height > 0.0 { ("over", "under") } else { ("under", "over") };
        format!(
            "{laid}The end of straight {next} is {} {stands} them, middle to middle; {wrong} them, its clock is turned the wrong way.",
            unit.text(height.abs())
        )
    })
}

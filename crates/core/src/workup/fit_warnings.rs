//! What was read of a pipe as it is built that makes a bad weld, or says nothing of it.

use super::fit_words::Say;
use crate::fit::filled_gap;
use crate::job::Job;
use crate::record::{FitReading, FitStep, Progress};
use crate::route::ResolvedRun;
use nook_geometry::units::DualUnitText;

/// What is wrong with seams and ends as they were read last.
pub(super) fn warnings(job: &Job, run: &ResolvedRun, progress: &Progress, say: &Say<'_>) -> Vec<DualUnitText> {
    let wall = run.tube.wall();
    let most = filled_gap(&run.tube);
    let entries = progress.fit_of(run.id);
    let reading = |step: &FitStep| if let FitStep::Read { reading, .. } = step { Some(*reading) } else { None };
    let readings: Vec<FitReading> = entries.iter().filter_map(|entry| reading(&entry.step)).collect();
    let last = readings.iter().enumerate().filter(|(at, reading)| {
        // Read again later, only that counts.
        !readings[at + 1..].iter().any(|later| later.is_of_the_same(reading))
    });
    let mut all: Vec<DualUnitText> = last.filter_map(|(_, reading)| of_a_reading(reading, most, wall, say)).collect();
    let twin = run.twin.and_then(|twin| job.run(twin)).filter(|_| entries.is_empty());
    all.extend(twin.filter(|twin| !progress.fit_of(twin.id).is_empty()).map(|twin| {
        let name = twin.name.as_str();
        DualUnitText::same(format!("What was read of {name} says nothing of this side: try this one on for itself"))
    }));
    all
}

fn of_a_reading(reading: &FitReading, most: f64, wall: f64, say: &Say<'_>) -> Option<DualUnitText> {
    match *reading {
        FitReading::SeamGap { piece, mm } if mm > most => Some(DualUnitText::new(|unit| {
            format!(
                "{}: a gap of {} burns through a wall of {}, where {} is filled at most: break the tack and dress the face that stands off",
                say.seam_name(piece),
                unit.text(mm),
                unit.text(wall),
                unit.text(most)
            )
        })),
        FitReading::TwoWays { piece, one, other, .. } if (one - other).abs() / 2.0 > most => {
            Some(DualUnitText::new(|unit| {
                format!(
                    "{} is {} out of round, so that its edge steps by {} where {} is filled at most: press it round before it is tacked",
                    say.name(piece),
                    unit.text((one - other).abs()),
                    unit.text((one - other).abs() / 2.0),
                    unit.text(most)
                )
            }))
        }
        _ => None,
    }
}

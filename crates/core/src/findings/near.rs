//! Where a pipe is too near to something, and where that could not be told.

use super::{Finding, Place, Severity};
use crate::clearance::{Nearest, Obstacle, Stretch, nearest};
use crate::geometry::Path;
use crate::job::Job;
use crate::measure::{End, KeepOutId};
use crate::route::Settled;
use crate::surroundings::Surroundings;
use crate::units::Words;

/// One thing the pipe is too near to, at the worst place.
#[derive(Debug, Clone)]
pub(crate) struct TooNear<'a> {
    /// Which obstacle, by its place in the surroundings.
    pub(crate) index: usize,
    pub(crate) obstacle: &'a Obstacle,
    pub(crate) near: Nearest,
}

/// Everything the pipe with this skin is too near to, the worst first: what overlaps, then by what is missing.
pub(crate) fn too_near<'a>(around: &'a Surroundings, skin: &[Stretch]) -> Vec<TooNear<'a>> {
    let each = around.obstacles.iter().enumerate().filter_map(|(index, obstacle)| {
        let bound = skin.iter().filter(|stretch| !around.excused(stretch, index));
        let near = nearest(bound, obstacle, around.movement.as_ref(), obstacle.gap)?;
        Some(TooNear { index, obstacle, near })
    });
    let mut all: Vec<TooNear<'_>> = each.collect();
    let order = |one: &TooNear<'_>| (one.near.gap > 0.0, one.near.gap - one.obstacle.gap);
    all.sort_by(|p, q| {
        let ((p_clear, p_left), (q_clear, q_left)) = (order(p), order(q));
        p_clear.cmp(&q_clear).then(p_left.total_cmp(&q_left))
    });
    all
}

impl TooNear<'_> {
    /// Whether they overlap.
    pub(crate) fn fouls(&self) -> bool {
        self.near.gap <= 0.0
    }

    /// As a finding without remedies.
    pub(crate) fn finding(&self, run: &Settled, tube: &Path) -> Finding {
        let place = place_at(run, tube, self.near.station);
        let severity = if self.fouls() { Severity::CannotBe } else { Severity::Tight };
        Finding { severity, place, words: self.words(place), remedies: Vec::new() }
    }

    fn words(&self, place: Place) -> Words {
        let (name, gap, limit) = (self.obstacle.name.as_str(), self.near.gap, self.obstacle.gap);
        let at = match place {
            Place::Straight { straight } => format!("Straight {}", straight + 1),
            Place::Bend { bend } => format!("Bend {}", bend + 1),
            Place::End { end } => format!("Joint {}", end.letter()),
            _ => "The pipe".to_owned(),
        };
        let degrees = self.near.roll.to_degrees().abs();
        let rolled = if degrees < 0.05 { String::new() } else { format!(" with the engine rolled {degrees:.1}\u{b0}") };
        Words::new(|unit| {
            if self.fouls() {
                format!("{at} runs {} into the {name}{rolled}; {} of air wanted.", unit.say(-gap), unit.say(limit))
            } else {
                format!("{at}: {} to the {name}{rolled}; {} wanted.", unit.say(gap), unit.say(limit))
            }
        })
    }
}

/// What of the pipe is at a station counted from A's mouth.
pub(crate) fn place_at(run: &Settled, tube: &Path, station: f64) -> Place {
    let mut left = station - run.gap(End::A);
    if left < 0.0 {
        return Place::End { end: End::A };
    }
    for (index, leg) in tube.legs().iter().enumerate() {
        left -= leg.straight;
        if left < 0.0 {
            return Place::Straight { straight: index };
        }
        left -= leg.bend.length();
        if left < 0.0 {
            return Place::Bend { bend: index };
        }
    }
    if left <= tube.last() { Place::Straight { straight: tube.legs().len() } } else { Place::End { end: End::B } }
}

/// Things the pipe could not be measured against.
pub(crate) fn unmeasured(job: &Job, which: &[KeepOutId]) -> Vec<Finding> {
    let names = which.iter().filter_map(|id| job.keep_out(*id));
    names
        .map(|keep_out| Finding {
            severity: Severity::Tight,
            place: Place::KeepOut { keep_out: keep_out.id },
            words: Words::new(|_| {
                format!(
                    "The gap to the {} is not known: its scan is not here, or it is not matched to the vehicle.",
                    keep_out.name.as_str()
                )
            }),
            remedies: Vec::new(),
        })
        .collect()
}

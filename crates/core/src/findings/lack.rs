//! What a pipe lacks of air, before and after something is tried.

use super::assess;
use super::near::{TooNear, too_near};
use crate::environment::Environment;
use crate::route::ResolvedRun;

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

fn all_too_near<'a>(run: &ResolvedRun, around: &'a Environment) -> Option<Vec<TooNear<'a>>> {
    let assessment = assess(run);
    let outside = assessment.pipe.as_ref().filter(|_| assessment.is_sound())?.envelope(run);
    Some(too_near(around, &around.counted(&outside, run.tube.od() / 2.0)))
}

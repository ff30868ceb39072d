//! In which order the pipes of a bay come out, section by section.

use std::sync::atomic::{AtomicBool, Ordering};

use nook_core::environment::Scans;
use nook_core::taken_out::{BayPart, NotParted, Remaining, section_count, taken_out};
use nook_core::{Job, RunId};
use nook_geometry::units::{DualUnitText, capital};
use serde::Serialize;
use utoipa::ToSchema;

use crate::way_out::{how, out, said};
use crate::withdraw::withdraw;

/// In which order the sections of pipes come out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TakingApart {
    /// What comes off, in turn.
    pub steps: Vec<TakenOff>,
    /// Sections for which no way out was found even then.
    pub stuck: Vec<Stuck>,
    /// How many come out, in words.
    pub words: DualUnitText,
}

/// Something that comes off.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TakenOff {
    /// What.
    pub part: BayPart,
    /// What it is called.
    pub name: String,
    /// How, as the end of a sentence.
    pub words: DualUnitText,
}

/// A section that stays.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Stuck {
    /// Which.
    pub part: BayPart,
    /// What it is called.
    pub name: String,
    /// What stops it, where something was found to.
    pub by: Option<BayPart>,
    /// Why, in words.
    pub words: DualUnitText,
}

/// How often each tree may ask for gaps, tried in turn: what goes straight goes first.
const ASKS: [u32; 3] = [0, 30_000, 300_000];

/// Looks for the order in which every section of every run comes out, each past what is left by then. `tell` hears what share
/// of them is known.
#[must_use]
pub fn taking_apart(job: &Job, scans: &Scans, stop: &AtomicBool, tell: &(dyn Fn(f64) + Sync)) -> TakingApart {
    let pipes = job.runs().iter().filter(|run| run.hose.is_none());
    let mut order = Order::new(job, scans, pipes.flat_map(|run| sections_of(job, run.id)));
    order.hoses_first();
    order.look(&ASKS, stop, tell);
    let (steps, stuck) = (order.steps, order.left.into_iter().map(Left::stuck).collect::<Vec<_>>());
    let words = words(steps.iter().filter(|one| !matches!(one.part, BayPart::KeepOut { .. })).count(), stuck.len());
    TakingApart { steps, stuck, words }
}

/// What came off and what has not.
pub(crate) struct Order<'a> {
    job: &'a Job,
    scans: &'a Scans,
    off: Vec<BayPart>,
    pub(crate) steps: Vec<TakenOff>,
    pub(crate) left: Vec<Left>,
}

/// The sections of a run.
pub(crate) fn sections_of(job: &Job, run: RunId) -> impl Iterator<Item = Left> {
    let of = section_count(job, run);
    let name = job.run(run).map_or("", |run| run.name.as_str());
    (0..of).map(move |section| {
        let name = if of == 1 { name.to_owned() } else { format!("{name}, section {}", section + 1) };
        Left { run, section, name, by: Vec::new(), welded: None }
    })
}

/// A section that is still there.
pub(crate) struct Left {
    run: RunId,
    pub(crate) section: usize,
    name: String,
    /// What stopped it last.
    by: Vec<Remaining>,
    /// Why it cannot be parted at all.
    welded: Option<NotParted>,
}

impl Left {
    const fn part(&self) -> BayPart {
        BayPart::Section { run: self.run, section: self.section }
    }

    fn stuck(self) -> Stuck {
        let part = self.part();
        let by = self.by.first();
        let words = DualUnitText::same(match (&self.welded, by) {
            (Some(error), _) => format!("{}.", capital(&error.to_string())),
            (None, Some(by)) => format!("No way out was found: {} stops it.", said(by)),
            (None, None) => "No way out was looked for in the time there was.".to_owned(),
        });
        Stuck { part, name: self.name, by: by.map(|by| by.part), words }
    }
}

impl<'a> Order<'a> {
    /// These sections are still there, and everything else.
    pub(crate) fn new(job: &'a Job, scans: &'a Scans, sections: impl Iterator<Item = Left>) -> Self {
        Self { job, scans, off: Vec::new(), steps: Vec::new(), left: sections.collect() }
    }

    /// Hoses are undone and drawn out before anything rigid is moved: they bend round what stays.
    fn hoses_first(&mut self) {
        for run in self.job.runs().iter().filter(|run| run.hose.is_some() && run.way().is_some()) {
            let part = BayPart::Run { run: run.id };
            let words = DualUnitText::same("undone at both ends and drawn out by hand, since it bends".to_owned());
            self.steps.push(TakenOff { part, name: run.name.as_str().to_owned(), words });
            self.off.push(part);
        }
    }

    /// Takes out whatever comes out, looked for with so many asks in turn, until nothing more does.
    pub(crate) fn look(&mut self, asks: &[u32], stop: &AtomicBool, tell: &(dyn Fn(f64) + Sync)) {
        let mut nth = 0;
        while let Some(asks_now) = asks.get(nth) {
            let more = self.pass(*asks_now, stop, tell) || (nth + 1 == asks.len() && self.take_off_first());
            if stop.load(Ordering::Relaxed) || self.left.is_empty() {
                return;
            }
            // Room was made: what goes easily goes first.
            nth = if more { 0 } else { nth + 1 };
        }
    }

    /// Tries each section once; whether any came out.
    fn pass(&mut self, asks: u32, stop: &AtomicBool, tell: &(dyn Fn(f64) + Sync)) -> bool {
        let mut any = false;
        let mut nth = 0;
        while nth < self.left.len() && !stop.load(Ordering::Relaxed) {
            let all = self.steps.len() + self.left.len();
            tell(share(self.steps.len(), all));
            if self.out(nth, asks, stop) {
                any = true;
            } else {
                nth += 1;
            }
        }
        any
    }

    fn out(&mut self, nth: usize, asks: u32, stop: &AtomicBool) -> bool {
        let one = &mut self.left[nth];
        let taken = match taken_out(self.job, one.run, one.section, self.scans, &self.off) {
            Ok(taken) => taken,
            Err(error) => {
                one.welded = Some(error);
                return false;
            }
        };
        match out(&taken, &taken.body, asks, |out| withdraw(out, stop, &|_| ())) {
            Ok(motion) => {
                let one = self.left.remove(nth);
                self.off.push(one.part());
                if !self.left.iter().any(|other| other.run == one.run) {
                    self.off.push(BayPart::Run { run: one.run });
                }
                self.steps.push(TakenOff { part: one.part(), name: one.name, words: DualUnitText::same(how(&motion)) });
                true
            }
            Err(none) => {
                one.by = none.by.iter().filter_map(|index| taken.remaining.get(*index)).cloned().collect();
                false
            }
        }
    }

    /// Takes off the thing that may come off and stops most of what is left, no section of what is asked for; whether there
    /// was one.
    fn take_off_first(&mut self) -> bool {
        let asked = |run: RunId| self.left.iter().any(|left| left.run == run);
        let thing = |one: &&Remaining| match one.part {
            BayPart::KeepOut { .. } => one.comes_off,
            BayPart::Run { run } => !asked(run),
            BayPart::Section { .. } => false,
        };
        let all: Vec<&Remaining> = self.left.iter().filter_map(|left| left.by.iter().find(thing)).collect();
        let Some(most) = all.iter().max_by_key(|one| all.iter().filter(|other| other.part == one.part).count()) else {
            return false;
        };
        let words = DualUnitText::same("taken off to make room".to_owned());
        let (part, name) = (most.part, most.name.clone());
        self.steps.push(TakenOff { part, name, words });
        self.off.push(part);
        true
    }
}

fn share(done: usize, all: usize) -> f64 {
    #[expect(clippy::cast_precision_loss, reason = "a job has some hundred sections at most")]
    let share = done as f64 / all.max(1) as f64;
    share
}

fn words(out: usize, stuck: usize) -> DualUnitText {
    DualUnitText::same(match (out, stuck) {
        (0, 0) => "There is no pipe yet.".to_owned(),
        (1, 0) => "It comes out.".to_owned(),
        (out, 0) => format!("All {out} come out, in this order."),
        (out, stuck) => format!("{out} of {} come out.", out + stuck),
    })
}

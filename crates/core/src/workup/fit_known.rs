//! What is known of a run's pipe by all that was measured and done, in its order.

use nalgebra::DVector;

use super::assemble::Given;
use super::fit::{FitOff, FitStepWorkup, NextReading};
use super::fit_built::touch_of;
use super::fit_words::Say;
use crate::cut::PieceKind;
use crate::fit::{Belief, ErrorOf, ErrorSource, LandingModel, Observed, PipeToMake, Spreads, Suspect, Touch, suspects};
use crate::job::Job;
use crate::measure::{KeepOutId, RunId};
use crate::record::{FitEntry, FitReading, FitStep, Progress};
use nook_geometry::units::{DualUnitText, Measure};

/// A reading this many standard deviations from what was expected is told.
const TOLD: f64 = 3.0;
/// Readings that leave more than this share of what is not known are not worth taking.
const HELPS: f64 = 0.9;
/// So many mistakes that may be are told.
const SUSPECTS: usize = 3;

/// What is known of a pipe by all that was measured and done.
pub(super) struct Known {
    pub(super) model: LandingModel,
    pub(super) belief: Belief,
    /// Of each step what was expected, and whether it stands against that; `None` of one that is about nothing there is.
    told: Vec<Option<Vec<(f64, f64)>>>,
    /// Every reading, less what acts before it did on purpose.
    readings: Vec<Observed>,
}

impl Known {
    /// By all that is noted of it in a job's record.
    pub(super) fn of_job(job: &Job, pipe: &PipeToMake<'_>, spreads: &Spreads, given: &Given<'_>) -> Self {
        let touch = |thing| touch_of(job, pipe, given.scans, thing);
        Self::of(pipe, pipe.landing_model(pipe.run.making, spreads), spreads, given.progress, &touch)
    }

    /// The chance that it lands, as far as is known.
    pub(super) fn chance(&self) -> f64 {
        let (mean, covariance) = self.model.left(&self.belief);
        self.model.chance_of(&mean, &covariance)
    }

    /// By all that is noted of it; `touch` says where it would touch a thing.
    pub(super) fn of(
        pipe: &PipeToMake<'_>,
        model: LandingModel,
        spreads: &Spreads,
        progress: &Progress,
        touch: &impl Fn(KeepOutId) -> Option<Touch>,
    ) -> Self {
        let entries = progress.fit_of(pipe.run.id);
        let mut sources = model.sources().to_vec();
        let mut now = model;
        let mut belief = Belief::before(sources.len());
        let (mut told, mut readings, mut meant) = (Vec::new(), Vec::new(), vec![0.0; sources.len()]);
        for (at, entry) in entries.iter().enumerate() {
            told.push(match entry.step {
                FitStep::Read { reading, spread } => Self::seen(pipe, &now, (reading, spread, spreads.bend), touch)
                    .map(|all| {
                        for seen in &all {
                            let on_purpose: f64 = seen.row.iter().zip(&meant).map(|(share, by)| share * by).sum();
                            readings.push(Observed { off: seen.off - on_purpose, ..seen.clone() });
                        }
                        all.iter().map(|seen| Self::take(&mut belief, seen)).collect()
                    }),
                FitStep::Acted { act } => pipe.motion_of(&act, spreads).map(|(spread, motion, amount)| {
                    // What is certain to a hair is still a source, so that it moves the pipe.
                    let spread = spread.max(1e-6);
                    let source = ErrorSource { of: ErrorOf::Act(at), spread, late: false, acts: vec![motion] };
                    sources.push(source);
                    belief = belief.with(&[amount / spread]);
                    meant.push(amount / spread);
                    // It was taken off for that, and sits otherwise when it is put on again.
                    for (at, source) in sources.iter().enumerate() {
                        if matches!(source.of, ErrorOf::Seating(_)) {
                            belief.renew(at);
                        }
                    }
                    now = now.with_sources(sources.clone());
                    Vec::new()
                }),
            });
        }
        Self { model: now, belief, told, readings }
    }

    /// A reading as sums of errors; `None` where it is about nothing this pipe has.
    fn seen(
        pipe: &PipeToMake<'_>,
        model: &LandingModel,
        (reading, spread, gauge): (FitReading, Option<f64>, f64),
        touch: &impl Fn(KeepOutId) -> Option<Touch>,
    ) -> Option<Vec<Observed>> {
        match reading {
            FitReading::Touches { keep_out } => Some(vec![pipe.touching(model, &touch(keep_out)?, spread)]),
            // Who has practised with his gauge reads it so.
            FitReading::Angle { .. } => pipe.observed(model, &reading, spread.or(Some(gauge))).ok(),
            other => pipe.observed(model, &other, spread).ok(),
        }
    }

    /// What is believed of every error of the model, in standard deviations.
    pub(super) fn errors(&self) -> DVector<f64> {
        self.belief.mean().rows(0, self.model.sources().len()).into_owned()
    }

    /// Takes a reading in; how far it was from what was expected, and that in standard deviations.
    fn take(belief: &mut Belief, seen: &Observed) -> (f64, f64) {
        let before = belief.innovation(seen);
        belief.observe(seen);
        let far = if before.spread > 0.0 { before.more.abs() / before.spread } else { 0.0 };
        (before.more, far)
    }

    /// Mistakes that would each explain what was read, as large as a mistake may be: no piece is off by more than it is long.
    pub(super) fn suspects(&self, pipe: &PipeToMake<'_>, say: &Say<'_>) -> Vec<DualUnitText> {
        let may_be = |one: &Suspect| match one.of {
            ErrorOf::Length(at) => pipe.pieces.get(at).is_some_and(|piece| one.by.abs() < piece.centre),
            _ => one.by.abs() < std::f64::consts::PI,
        };
        let found = suspects(&self.model, &self.readings).into_iter().filter(may_be);
        found.filter_map(|one| say.suspect(&one)).take(SUSPECTS).collect()
    }

    pub(super) fn steps(&self, progress: &Progress, run: RunId, say: &Say<'_>) -> Vec<FitStepWorkup> {
        let each = progress.fit_of(run).iter().zip(&self.told).enumerate().map(|(at, (entry, told))| {
            let (words, done) = match &entry.step {
                FitStep::Read { reading, .. } => (say.reading(reading), false),
                FitStep::Acted { act } => (say.act(act), true),
            };
            let worst = told.iter().flatten().copied().max_by(|p, q| p.1.total_cmp(&q.1));
            FitStepWorkup {
                deed: entry.deed.as_str().to_owned(),
                words,
                done,
                expected: worst.map(|(more, _)| {
                    let angle = matches!(entry.step, FitStep::Read { reading: FitReading::Angle { .. }, .. });
                    DualUnitText::new(|unit| {
                        let by = if angle { format!("{:.1}\u{b0}", more.abs()) } else { unit.text(more.abs()) };
                        format!("{by} {} than expected", if more < 0.0 { "less" } else { "more" })
                    })
                }),
                disagrees: worst.is_some_and(|(_, far)| far > TOLD) && !self.read_again(progress.fit_of(run), at),
                lost: told.is_none(),
            }
        });
        each.collect()
    }

    /// Whether what was read at a place of the log was read again since, when it was believed, and came out so.
    fn read_again(&self, entries: &[FitEntry], at: usize) -> bool {
        let FitStep::Read { reading, .. } = &entries[at].step else { return false };
        let since = || entries.iter().zip(&self.told).skip(at + 1);
        let came_out = |is: &dyn Fn(&FitReading) -> bool| {
            since().any(|(entry, told)| {
                let agrees = told.as_ref().is_some_and(|all| all.iter().all(|(_, far)| *far <= TOLD));
                matches!(&entry.step, FitStep::Read { reading, .. } if agrees && is(reading))
            })
        };
        // What was said roughly is settled by a rule and a straight edge too.
        let finer = matches!(reading, FitReading::Rough { .. })
            && came_out(&|other| matches!(other, FitReading::MouthGap { .. }))
            && came_out(&|other| matches!(other, FitReading::MouthStep { .. }));
        finer || came_out(&|other| other.is_of_the_same(reading))
    }

    /// How the end at B lies beside its mouth.
    pub(super) fn off(&self, pipe: &PipeToMake<'_>) -> Vec<FitOff> {
        let rough = FitReading::Rough { low: 0.0, left: 0.0, long: 0.0 };
        let rows = pipe.observed(&self.model, &rough, None).unwrap_or_default();
        let ways = [["low", "high"], ["left", "right"], ["long", "short"]];
        let each = rows.iter().zip(ways).map(|(seen, [more, less])| {
            let by = seen.row.dot(self.belief.mean());
            let spread = seen.row.dot(&(self.belief.covariance() * &seen.row)).max(0.0).sqrt();
            FitOff { how: if by < 0.0 { less } else { more }, by: Measure(by.abs()), spread: Measure(spread) }
        });
        each.collect()
    }

    /// What is expected of every reading that is usually taken, or may be by an instrument.
    pub(super) fn expected(&self, pipe: &PipeToMake<'_>) -> Vec<FitReading> {
        let seams = pipe.pieces.iter().map(|piece| {
            let piece = pipe.pipe.piece_id(&pipe.run.route, piece);
            [FitReading::SeamGap { piece, mm: 0.0 }, FitReading::Lines { piece, mm: 0.0 }]
        });
        let all = usual(pipe).into_iter().chain(seams.flatten());
        let each = all.filter_map(|reading| {
            let seen = pipe.observed(&self.model, &reading, None).ok()?;
            let [one] = &seen[..] else { return None };
            let known = self.belief.mean().rows(0, one.row.len()).dot(&one.row);
            Some(reading.with_figure(known - one.off))
        });
        each.collect()
    }

    /// The reading among those usually taken that would leave least of what is not known of what joints will take.
    pub(super) fn next(&self, pipe: &PipeToMake<'_>, say: &Say<'_>) -> Option<NextReading> {
        let now = self.model.left(&self.belief).1.trace();
        let options = usual(pipe).into_iter().filter_map(|reading| {
            let mut then = self.belief.clone();
            for seen in pipe.observed(&self.model, &reading, None).ok()? {
                then.observe(&seen);
            }
            Some((self.model.left(&then).1.trace() / now, reading))
        });
        let (left, reading) = options.filter(|(left, _)| left.is_finite()).min_by(|p, q| p.0.total_cmp(&q.0))?;
        (left < HELPS).then(|| NextReading { words: say.to_read(&reading), left, reading })
    }
}

/// The readings that are usually taken, their figures still to be read.
fn usual(pipe: &PipeToMake<'_>) -> Vec<FitReading> {
    let clocks = [0.0, 90.0, 180.0, 270.0];
    let at_mouth = clocks
        .into_iter()
        .flat_map(|clock| [FitReading::MouthGap { clock, mm: 0.0 }, FitReading::MouthStep { clock, mm: 0.0 }]);
    let bends =
        (0..pipe.pipe.tube.legs().len()).map(|at| FitReading::Angle { bend: pipe.run.route.bend_id(at), degrees: 0.0 });
    let across = clocks.into_iter().map(|clock| FitReading::EndToEnd { from: clock, to: clock, mm: 0.0 });
    let named = |piece| pipe.pipe.piece_id(&pipe.run.route, piece);
    let tubes = pipe.pieces.iter().filter(|piece| matches!(piece.kind, PieceKind::Tube { .. }));
    let lengths = tubes.map(|piece| FitReading::Length { piece: named(piece), mm: 0.0 });
    at_mouth.chain(bends).chain(across).chain(lengths).collect()
}

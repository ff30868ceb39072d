//! How a run's pipe fits as far as it is built, and what would make it land.

use serde::Serialize;
use utoipa::ToSchema;

use super::Made;
use super::fit_words::Say;
use crate::cut::{PieceId, PieceKind};
use crate::edit::EditError;
use crate::fit::{
    Among, Belief, Built, Correction, ErrorOf, ErrorSource, LIKELY, LandingModel, Observed, PipeToMake, Spreads,
    suspects,
};
use crate::job::Job;
use crate::measure::RunId;
use crate::record::{BenchAct, FitAct, FitReading, FitStep, Progress};
use crate::route::{BendId, ResolvedMake};
use nook_geometry::units::{DualUnitText, Measure};

/// How a run's pipe fits.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitWorkup {
    /// Which run.
    pub run: RunId,
    /// Why nothing is told; nothing where something is.
    pub none: Option<DualUnitText>,
    /// Its pieces from A: names, whether they are cut, and whether they are tacked to the next.
    pub pieces: Vec<FitPiece>,
    /// Its bends that have a gauge put to them.
    pub bends: Vec<FitBend>,
    /// What was measured and done, in order.
    pub steps: Vec<FitStepWorkup>,
    /// How its end at B lies beside the mouth, as far as is known, the pipe put on at A: up, aside and along; empty before anything was
    /// measured.
    pub off: Vec<FitOff>,
    /// The chance that it lands as it is, from 0 to 1.
    pub chance: f64,
    /// Whether that is likely enough to weld it, and nothing that was read stands against the rest.
    pub likely: bool,
    /// Mistakes that would each explain what was read, the likeliest first; none where it is what a bench makes.
    pub suspects: Vec<DualUnitText>,
    /// What would make it land, the cheapest first, then other ways in kind.
    pub corrections: Vec<CorrectionWorkup>,
    /// What is best measured next; nothing where it would hardly help.
    pub next: Option<NextReading>,
}

/// A piece of the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitPiece {
    /// Which.
    pub piece: PieceId,
    /// What is written on it.
    pub name: String,
    /// Whether it is cut.
    pub cut: bool,
    /// Whether it is tacked to the next piece towards B.
    pub tacked: bool,
    /// Whether there is a seam after it at all.
    pub seam: bool,
}

/// A bend of the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitBend {
    /// Which.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// The angle it should turn, in degrees.
    pub degrees: f64,
}

/// Something measured or done.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitStepWorkup {
    /// The deed that noted it.
    pub deed: String,
    /// What.
    pub words: DualUnitText,
    /// Whether it was done, not measured.
    pub done: bool,
    /// What was expected by all that was known before it, where it was measured.
    pub expected: Option<DualUnitText>,
    /// Whether it stands against what was known before it: one of the two is wrong.
    pub disagrees: bool,
    /// Whether the pipe has no such place any more, so that it does not count.
    pub lost: bool,
}

/// How the end lies beside its mouth, one way.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitOff {
    /// How: low or high, left or right, long or short.
    pub how: &'static str,
    /// By how much; never less than nothing.
    pub by: Measure,
    /// One standard deviation of that.
    pub spread: Measure,
}

/// Acts that would make it land.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CorrectionWorkup {
    /// What sort of way it is.
    pub way: &'static str,
    /// Its acts, in the order they are done.
    pub acts: Vec<FitActWorkup>,
    /// Minutes it takes.
    pub minutes: f64,
    /// Tacks that are broken.
    pub broken: u32,
    /// The chance that it lands then.
    pub chance: f64,
    /// The largest share that a joint takes then, as far as is known.
    pub share: f64,
}

/// One act.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitActWorkup {
    /// As it is noted once it is done.
    #[schema(inline = false)]
    pub act: FitAct,
    /// As a mark on metal.
    pub words: DualUnitText,
}

/// The reading that would help most.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NextReading {
    /// What to measure.
    pub words: DualUnitText,
    /// To how much of what it is now that brings what is not known, as a share.
    pub left: f64,
    /// The reading, its figure still to be read.
    #[schema(inline = false)]
    pub reading: FitReading,
}

/// A reading this many standard deviations from what was expected is told.
const TOLD: f64 = 3.0;
/// Readings that leave more than this share of what is not known are not worth taking.
const HELPS: f64 = 0.9;
/// So many other ways are told.
const WAYS: usize = 4;

/// How a run's pipe fits as far as it is built, and what would make it land.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn fit(job: &Job, id: RunId, progress: &Progress) -> Result<FitWorkup, EditError> {
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let Some(made) = Made::of(job, id, progress) else {
        let none = if decisions.hose.is_some() {
            "A hose is fitted by its length: it is cut again or turned on its fittings."
        } else {
            "There is no sound pipe yet."
        };
        return Ok(FitWorkup::none(id, none));
    };
    let pipe = made.to_make();
    let spreads = Spreads::with_saw(Some(job.saw()));
    let known = Known::of(&pipe, made.model(decisions.making, &spreads), &spreads, progress);
    let names = made.names(progress);
    let cut = |at: usize| names.get(at).is_some_and(|(piece, _)| progress.as_cut(id, *piece).is_some());
    let tacked = |at: usize| {
        cut(at) && names.get(at).is_some_and(|(piece, _)| progress.did(id, BenchAct::Meet { piece: *piece }))
    };
    let built = Built { cut: &cut, tacked: &tacked };
    let say = Say { names: &names, pipe: &pipe };
    let (mean, covariance) = known.model.left(&known.belief);
    let chance = known.model.chance_of(&mean, &covariance);
    let bend = |(at, leg): (usize, &nook_geometry::PathStep)| FitBend {
        bend: made.run.route.bend_id(at),
        number: at + 1,
        degrees: leg.bend.angle.to_degrees(),
    };
    let gauged = |at: usize| made.pipe.makes.get(at).is_some_and(|make| *make != ResolvedMake::Moulded);
    let steps = known.steps(progress, id, &say);
    let measured = progress.fit_of(id).iter().any(|entry| matches!(entry.step, FitStep::Read { .. }));
    let corrections = |among| pipe.corrections(&known.model, &known.belief, &spreads, &built, among);
    Ok(FitWorkup {
        run: id,
        none: None,
        pieces: names
            .iter()
            .enumerate()
            .map(|(at, (piece, name))| FitPiece {
                piece: *piece,
                name: name.clone(),
                cut: cut(at),
                tacked: tacked(at),
                seam: say.seam(at),
            })
            .collect(),
        bends: made.pipe.tube.legs().iter().enumerate().filter(|(at, _)| gauged(*at)).map(bend).collect(),
        suspects: known.suspects(&say),
        off: if measured { known.off(&pipe) } else { Vec::new() },
        chance,
        likely: chance >= LIKELY && !steps.iter().any(|step| step.disagrees),
        steps,
        // Before anything was measured there is nothing to mend: what would raise the chance is told by the landing.
        corrections: if measured { ways(&corrections, &say) } else { Vec::new() },
        next: known.next(&pipe, &say),
    })
}

impl FitWorkup {
    fn none(run: RunId, why: &str) -> Self {
        Self {
            run,
            none: Some(DualUnitText::same(why.to_owned())),
            pieces: Vec::new(),
            bends: Vec::new(),
            steps: Vec::new(),
            off: Vec::new(),
            chance: 0.0,
            likely: false,
            suspects: Vec::new(),
            corrections: Vec::new(),
            next: None,
        }
    }
}

/// The cheapest way, then the best of each other kind, each set of acts once.
fn ways(corrections: &impl Fn(Among) -> Vec<Correction>, say: &Say<'_>) -> Vec<CorrectionWorkup> {
    let mut all: Vec<CorrectionWorkup> = Vec::new();
    let kinds = [
        (Among::All, "Cheapest"),
        (Among::Unbroken, "No tack broken"),
        (Among::Turns, "Turns alone"),
        (Among::Trims, "Trims alone"),
    ];
    for (among, way) in kinds {
        let Some(best) = corrections(among).into_iter().next().filter(|best| !best.acts.is_empty()) else { continue };
        let acts: Vec<FitActWorkup> =
            best.acts.iter().map(|act| FitActWorkup { act: *act, words: say.act(act) }).collect();
        let again = all.iter().any(|one| {
            one.acts.len() == acts.len() && one.acts.iter().zip(&acts).all(|(p, q)| p.words.mm == q.words.mm)
        });
        if !again && all.len() < WAYS {
            let share = best.uses.iter().copied().fold(0.0, f64::max);
            all.push(CorrectionWorkup {
                way,
                acts,
                minutes: best.minutes,
                broken: best.broken,
                chance: best.chance,
                share,
            });
        }
    }
    all
}

/// What is known of a pipe by all that was measured and done.
struct Known {
    model: LandingModel,
    belief: Belief,
    /// Of each step what was expected, and whether it stands against that; `None` of one that is about nothing there is.
    told: Vec<Option<Vec<(f64, f64)>>>,
    /// Every reading, less what acts before it did on purpose.
    readings: Vec<Observed>,
}

impl Known {
    fn of(pipe: &PipeToMake<'_>, model: LandingModel, spreads: &Spreads, progress: &Progress) -> Self {
        let entries = progress.fit_of(pipe.run.id);
        let mut sources = model.sources().to_vec();
        let mut now = model;
        let mut belief = Belief::before(sources.len());
        let (mut told, mut readings, mut meant) = (Vec::new(), Vec::new(), vec![0.0; sources.len()]);
        for (at, entry) in entries.iter().enumerate() {
            told.push(match entry.step {
                FitStep::Read { reading, spread } => pipe.observed(&now, &reading, spread).ok().map(|all| {
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

    /// Takes a reading in; how far it was from what was expected, and that in standard deviations.
    fn take(belief: &mut Belief, seen: &Observed) -> (f64, f64) {
        let before = belief.innovation(seen);
        belief.observe(seen);
        let far = if before.spread > 0.0 { before.more.abs() / before.spread } else { 0.0 };
        (before.more, far)
    }

    /// Mistakes that would each explain what was read.
    fn suspects(&self, say: &Say<'_>) -> Vec<DualUnitText> {
        suspects(&self.model, &self.readings).into_iter().filter_map(|one| say.suspect(&one)).collect()
    }

    fn steps(&self, progress: &Progress, run: RunId, say: &Say<'_>) -> Vec<FitStepWorkup> {
        let each = progress.fit_of(run).iter().zip(&self.told).map(|(entry, told)| {
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
                disagrees: worst.is_some_and(|(_, far)| far > TOLD),
                lost: told.is_none(),
            }
        });
        each.collect()
    }

    /// How the end at B lies beside its mouth.
    fn off(&self, pipe: &PipeToMake<'_>) -> Vec<FitOff> {
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

    /// The reading among those usually taken that would leave least of what is not known of what joints will take.
    fn next(&self, pipe: &PipeToMake<'_>, say: &Say<'_>) -> Option<NextReading> {
        let now = self.model.left(&self.belief).1.trace();
        let clocks = [0.0, 90.0, 180.0, 270.0];
        let at_mouth = clocks
            .into_iter()
            .flat_map(|clock| [FitReading::MouthGap { clock, mm: 0.0 }, FitReading::MouthStep { clock, mm: 0.0 }]);
        let bends = (0..pipe.pipe.tube.legs().len())
            .map(|at| FitReading::Angle { bend: pipe.run.route.bend_id(at), degrees: 0.0 });
        let pieces = pipe.pieces.iter().filter(|piece| matches!(piece.kind, PieceKind::Tube { .. }));
        let pieces =
            pieces.map(|piece| FitReading::Length { piece: pipe.pipe.piece_id(&pipe.run.route, piece), mm: 0.0 });
        let options = at_mouth.chain(bends).chain(pieces).filter_map(|reading| {
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

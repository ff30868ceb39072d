//! The chance that a run's pipe lands once it is made as its list says, what that hangs on, and what would raise it.

use serde::Serialize;
use utoipa::ToSchema;

use super::ClosingWorkup;
use super::assemble::Given;
use super::fit_known::Known;
use super::help::help;
use crate::assembly::Assembly;
use crate::cut::{Piece, PieceId, closing_piece};
use crate::edit::{CutEdit, Edit, EditError, JoinEdit, JointChange, MeasureEdit, apply};
use crate::findings::assess;
use crate::fit::{Cause, LandingModel, PipeToMake, Spreads};
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::{End, Measurand, PortRef, Reading, RunId};
use crate::record::Progress;
use crate::route::{BendMake, Making, ResolvedMake, ResolvedRun};
use crate::survey::Survey;
use nook_geometry::units::{DualUnitText, SeamCount};

/// Whether a run's pipe will land.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LandingWorkup {
    /// Which run.
    pub run: RunId,
    /// The chance that it lands without being cut again, from 0 to 1; nothing where there is no pipe to make yet.
    pub chance: Option<f64>,
    /// How it is made, beside its list.
    #[schema(inline = false)]
    pub making: Making,
    /// The three largest things that it may be off by.
    pub causes: Vec<LandingCause>,
    /// What would raise the chance, each tried, the best first.
    pub remedies: Vec<LandingRemedy>,
}

/// Something that the pipe may be off by.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LandingCause {
    /// What.
    pub cause: Cause,
    /// Said in words.
    pub words: &'static str,
    /// Its share of all that is off, from 0 to 1, as a sum of squares.
    pub share: f64,
    /// What the chance would be without it.
    pub without: f64,
}

/// Something that would raise the chance.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LandingRemedy {
    /// What is done.
    pub words: DualUnitText,
    /// The chance then.
    pub chance: f64,
    /// The edit that decides on it; nothing where it is done by hand first.
    pub edit: Option<Edit>,
}

/// Remedies that raise the chance by less than this are not told.
const WORTH: f64 = 0.01;
/// So many are told.
const TOLD: usize = 6;

/// Whether a run's pipe will land, what that hangs on, and what would raise it.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn landing(job: &Job, id: RunId, progress: &Progress) -> Result<LandingWorkup, EditError> {
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let making = decisions.making;
    let Some(pipe) = Made::of(job, id, progress) else {
        return Ok(LandingWorkup { run: id, chance: None, making, causes: Vec::new(), remedies: Vec::new() });
    };
    let spreads = Spreads::of(job);
    let model = pipe.model(making, &spreads);
    let chance = model.chance();
    let mut remedies = pipe.by_working_otherwise(job, making, &spreads, progress);
    remedies.extend(by_edits(job, id, progress));
    remedies.extend(by_reading(job, id, progress));
    remedies.retain(|remedy| remedy.chance >= chance + WORTH);
    remedies.sort_by(|p, q| q.chance.total_cmp(&p.chance));
    remedies.truncate(TOLD);
    Ok(LandingWorkup { run: id, chance: Some(chance), making, causes: causes(&model), remedies })
}

/// The chance that a pipe lands as it is, by all that was measured of it and done.
pub(super) fn chance_of(
    job: &Job,
    run: &ResolvedRun,
    survey: &Survey<'_>,
    pipe: &Assembly,
    pieces: &[Piece],
    given: &Given<'_>,
) -> f64 {
    let closing = closing_of(run, pipe, pieces, given.progress);
    Known::of_job(job, &PipeToMake { run, survey, pipe, pieces, closing }, &Spreads::of(job), given).chance()
}

/// The piece that may be cut last.
fn closing_of(run: &ResolvedRun, pipe: &Assembly, pieces: &[Piece], progress: &Progress) -> Option<usize> {
    let uncut = |at: usize| progress.as_cut(run.id, pipe.piece_id(&run.route, &pieces[at])).is_none();
    closing_piece(pieces, uncut).map(|found| found.at)
}

/// The three causes that most of what is off comes from, the largest first.
fn causes(model: &LandingModel) -> Vec<LandingCause> {
    let mut all: Vec<(Cause, f64)> = Vec::new();
    for (at, source) in model.sources().iter().enumerate() {
        let Some(cause) = source.of.cause() else { continue };
        let share = model.share_of(at);
        match all.iter_mut().find(|(known, _)| *known == cause) {
            Some((_, sum)) => *sum += share,
            None => all.push((cause, share)),
        }
    }
    all.sort_by(|p, q| q.1.total_cmp(&p.1));
    let told = all.into_iter().take(3).filter(|(_, share)| *share > 0.0);
    let each = told.map(|(cause, share)| LandingCause {
        cause,
        words: cause.words(),
        share,
        without: model.chance_without(|source| source.of.cause() == Some(cause)),
    });
    each.collect()
}

/// A run's pipe, to be made.
pub(super) struct Made<'a> {
    pub(super) run: ResolvedRun,
    pub(super) survey: Survey<'a>,
    pub(super) pipe: Assembly,
    pieces: Vec<Piece>,
    closing: Option<usize>,
}

impl<'a> Made<'a> {
    /// `None` of a hose, and where there is no sound pipe.
    pub(super) fn of(job: &'a Job, id: RunId, progress: &Progress) -> Option<Self> {
        let survey = Survey::new(job);
        let run = survey.settle(job.run(id)?);
        let mut assessment = assess(&run);
        if run.hose.is_some() || !assessment.is_sound() {
            return None;
        }
        let pipe = assessment.pipe.take()?;
        let pieces = pipe.pieces();
        let closing = closing_of(&run, &pipe, &pieces, progress);
        Some(Self { run, survey, pipe, pieces, closing })
    }

    pub(super) fn to_make(&self) -> PipeToMake<'_> {
        let Self { run, survey, pipe, pieces, closing } = self;
        PipeToMake { run, survey, pipe, pieces, closing: *closing }
    }

    pub(super) fn model(&self, making: Making, spreads: &Spreads) -> LandingModel {
        self.to_make().landing_model(making, spreads)
    }

    /// Its pieces from A, and what is written on each.
    pub(super) fn names(&self, progress: &Progress) -> Vec<(PieceId, String)> {
        let ids: Vec<PieceId> = self.pieces.iter().map(|piece| self.pipe.piece_id(&self.run.route, piece)).collect();
        let mark = self.run.mark.as_ref().map_or_else(String::new, |mark| mark.as_str().to_owned());
        let names = progress.names(self.run.id, &mark, &ids);
        ids.into_iter().zip(names).collect()
    }

    fn by_working_otherwise(
        &self,
        job: &Job,
        making: Making,
        spreads: &Spreads,
        progress: &Progress,
    ) -> Vec<LandingRemedy> {
        let mut all = Vec::new();
        let edit = |making| Some(Edit::Cut(CutEdit::SetMaking { run: self.run.id, making }));
        let mut push = |words: DualUnitText, making: Making, spreads: &Spreads, edit: Option<Edit>| {
            all.push(LandingRemedy { words, chance: self.model(making, spreads).chance(), edit });
        };
        let said = |text: &str| DualUnitText::same(text.to_owned());
        if job.saw().bias.is_none() {
            let known = Spreads { saw_common: Spreads::COUPON, ..*spreads };
            push(said("Saw a coupon first, and set the saw by it"), making, &known, None);
        }
        let mitred = self.pipe.makes.iter().any(|make| make.pies_cut().is_some());
        if mitred && !making.true_bends {
            let then = Making { true_bends: true, ..making };
            push(said("Hold every bend against the gauge once it is tacked, and true it"), then, spreads, edit(then));
        }
        let names = self.names(progress);
        let closing = ClosingWorkup::of(&self.run, &self.survey, &self.pipe, &self.pieces, &names, progress);
        if let Some(closing) = closing {
            if !making.closing_last && !making.on_vehicle {
                let then = Making { closing_last: true, ..making };
                let (name, long) = (closing.name.clone(), closing.long.0);
                let words = DualUnitText::new(|unit| match closing.trim {
                    Some(end) => {
                        let end = if end == End::A { 'A' } else { 'B' };
                        format!(
                            "Leave {name} {} long at {end}, and trim it in place when the rest is tacked",
                            unit.text(long)
                        )
                    }
                    None => format!("Cut {name} last, measured in place"),
                });
                push(words, then, spreads, edit(then));
            }
            if !making.on_vehicle && self.pieces.len() > 1 {
                let then = Making { on_vehicle: true, closing_last: false, ..making };
                let name = closing.name;
                let words = format!("Tack it on the car: turn each bend to suit, and cut {name} last");
                push(DualUnitText::same(words), then, spreads, edit(then));
            }
        }
        all
    }
}

/// The chance once an edit is made; `None` where it is refused, or leaves no pipe.
fn after(job: &Job, id: RunId, edit: &Edit, progress: &Progress) -> Option<f64> {
    let next = apply(job, edit).ok()?.job;
    let made = Made::of(&next, id, progress)?;
    Some(made.model(made.run.making, &Spreads::of(&next)).chance())
}

/// Other joints, and fewer seams.
fn by_edits(job: &Job, id: RunId, progress: &Progress) -> Vec<LandingRemedy> {
    let mut all = Vec::new();
    let Some(made) = Made::of(job, id, progress) else { return all };
    let mut tried = |words: String, edit: Edit| {
        if let Some(chance) = after(job, id, &edit, progress) {
            all.push(LandingRemedy { words: DualUnitText::same(words), chance, edit: Some(edit) });
        }
    };
    for (at, joint) in made.pipe.joints.iter().enumerate() {
        if matches!(joint.kind, JointKind::Coupler | JointKind::Sleeve) {
            let to = JointChange::Kind { kind: JointKind::Hump };
            let place = match joint.end {
                Some(End::A) => "at A".to_owned(),
                Some(End::B) => "at B".to_owned(),
                None => format!("for joint {at}"),
            };
            let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint: joint.id, to });
            tried(format!("A hump coupler {place}"), edit);
        }
    }
    let most = made.pipe.makes.iter().enumerate().filter_map(|(bend, make)| match make {
        ResolvedMake::Pies { seams, ends, .. } => Some((bend, *seams, *ends)),
        _ => None,
    });
    if let Some((bend, seams, ends)) = most.max_by_key(|(_, seams, _)| seams.get())
        && let Ok(fewer) = SeamCount::new(seams.get().saturating_sub(1))
    {
        let make = Some(BendMake::Pies { seams: Some(fewer), ends });
        let edit = Edit::Cut(CutEdit::SetMake { run: id, bend: made.run.route.bend_id(bend), make });
        let number = bend + 1;
        tried(format!("One seam fewer in bend {number}: {} in place of {}", fewer.get(), seams.get()), edit);
    }
    all
}

/// One more reading of either port.
fn by_reading(job: &Job, id: RunId, progress: &Progress) -> Vec<LandingRemedy> {
    let survey = Survey::new(job);
    let each = [End::A, End::B].into_iter().filter_map(|end| {
        let port = PortRef { run: id, end };
        let of = Measurand::Port { port };
        let readings = &job.port(port)?.readings;
        let estimate = survey.port(port)?;
        let found = help(job, &survey, of, readings, &estimate)?;
        let edit = Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(found.taken) });
        let name = if end == End::A { "A" } else { "B" };
        Some(LandingRemedy {
            chance: after(job, id, &edit, progress)?,
            words: DualUnitText::new(|unit| format!("One more reading of {name}. {}", found.words.get(unit))),
            edit: None,
        })
    });
    each.collect()
}

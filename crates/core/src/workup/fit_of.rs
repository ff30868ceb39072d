//! How a run's pipe fits as far as it is built, and what would make it land.

use super::assemble::Given;
use super::fit::{CorrectionWorkup, FitActWorkup, FitBend, FitPiece, FitWorkup};
use super::fit_built::BuiltWorkup;
use super::fit_known::Known;
use super::fit_warnings::warnings;
use super::fit_words::Say;
use super::landing::Made;
use crate::cut::PieceId;
use crate::edit::{Edit, EditError, JoinEdit, JointChange, apply};
use crate::fit::{Among, Built, Correction, LIKELY, Spreads};
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::{End, RunId};
use crate::record::{BenchAct, FitStep, Progress};
use crate::route::ResolvedMake;

/// So many other ways are told.
const WAYS: usize = 4;
/// Lengths that differ by less than this, in mm, are the same piece.
const ALIKE: f64 = 0.05;
/// By how much another joint must raise the chance where it saves no time. Ours.
const SURER: f64 = 0.02;
/// A joint that leaves the chance below this is not worth buying. Ours.
const WORTH_A_JOINT: f64 = 0.5;

/// How a run's pipe fits as far as it is built, and what would make it land.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn fit(job: &Job, id: RunId, given: &Given<'_>) -> Result<FitWorkup, EditError> {
    let Given { scans, progress, .. } = *given;
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
    let spreads = Spreads::of(job);
    let known = known_of(job, &made, &spreads, given);
    let names = made.names(progress);
    let so_far = SoFar { run: id, progress, names: &names };
    let (cut, tacked) = (|at| so_far.cut(at), |at| so_far.tacked(at));
    let built = Built { cut: &cut, tacked: &tacked };
    let say = Say { names: &names, pipe: &pipe, job };
    let chance = known.chance();
    let bend = |(at, leg): (usize, &nook_geometry::PathStep)| FitBend {
        bend: made.run.route.bend_id(at),
        number: at + 1,
        degrees: leg.bend.angle.to_degrees(),
    };
    let gauged = |at: usize| made.pipe.makes.get(at).is_some_and(|make| *make != ResolvedMake::Moulded);
    let steps = known.steps(progress, id, &say);
    let unsettled = steps.iter().any(|step| step.disagrees);
    let measured = progress.fit_of(id).iter().any(|entry| matches!(entry.step, FitStep::Read { .. }));
    let built_so = (!steps.is_empty()).then(|| BuiltWorkup::of(job, &made, &pipe, &known, scans, &names));
    let fouls = built_so.as_ref().is_some_and(BuiltWorkup::fouls);
    let corrections = |among| pipe.corrections(&known.model, &known.belief, &spreads, &built, among);
    // Before anything was measured there is nothing to mend: what would raise the chance is told by the landing. While a reading
    // stands against the rest nothing is cut by it.
    let mends = measured && !unsettled && chance < LIKELY;
    let mut corrections = if mends { ways(&corrections, &say) } else { Vec::new() };
    if mends && corrections.first().is_none_or(|best| best.chance < LIKELY || best.broken > 0) {
        let best = corrections.first().map_or((chance, f64::INFINITY), |best| (best.chance, best.minutes));
        let betters = |one: &CorrectionWorkup| {
            one.chance > best.0 + SURER || (one.chance >= LIKELY.min(best.0) && one.minutes < best.1)
        };
        let found = by_other_joints(job, &made, given).filter(betters);
        let first = found.as_ref().is_some_and(|found| found.chance >= LIKELY && best.0 < LIKELY);
        let at = if first { 0 } else { corrections.len() };
        corrections.splice(at..at, found);
    }
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
        suspects: known.suspects(&pipe, &say),
        warnings: warnings(job, &made.run, progress, &say),
        off: if measured { known.off(&pipe) } else { Vec::new() },
        chance,
        likely: chance >= LIKELY && !unsettled && !fouls,
        built: built_so,
        steps,
        corrections,
        expected: known.expected(&pipe),
        next: known.next(&pipe, &say),
    })
}

/// How far a pipe is built, by what is noted.
struct SoFar<'a> {
    run: RunId,
    progress: &'a Progress,
    names: &'a [(PieceId, String)],
}

impl SoFar<'_> {
    fn cut(&self, at: usize) -> bool {
        self.names.get(at).is_some_and(|(piece, _)| self.progress.as_cut(self.run, *piece).is_some())
    }

    fn tacked(&self, at: usize) -> bool {
        let met = |piece: PieceId| self.progress.did(self.run, BenchAct::Meet { piece });
        self.cut(at) && self.names.get(at).is_some_and(|(piece, _)| met(*piece))
    }
}

fn known_of(job: &Job, made: &Made<'_>, spreads: &Spreads, given: &Given<'_>) -> Known {
    Known::of_job(job, &made.to_make(), spreads, given)
}

/// What a hump in place of each plain coupler would make of it, and of all of them; nothing where the pipe would have to be cut
/// otherwise for it, or hardly lands then either.
fn by_other_joints(job: &Job, made: &Made<'_>, given: &Given<'_>) -> Option<CorrectionWorkup> {
    let id = made.run.id;
    let plain = made.pipe.joints.iter().filter(|joint| matches!(joint.kind, JointKind::Coupler | JointKind::Sleeve));
    let to = JointChange::Kind { kind: JointKind::Hump };
    let each: Vec<(Edit, String)> = plain
        .map(|joint| {
            let place = match joint.end {
                Some(End::A) => "A",
                Some(End::B) => "B",
                None => "the joint between",
            };
            let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint: joint.id, to: to.clone() });
            (edit, place.to_owned())
        })
        .collect();
    let mut options: Vec<(Edit, String)> =
        each.iter().map(|(edit, place)| (edit.clone(), format!("A hump coupler at {place}"))).collect();
    if each.len() > 1 {
        let edits = each.iter().map(|(edit, _)| edit.clone()).collect();
        options.push((Edit::Together { edits }, "Hump couplers for all plain ones".to_owned()));
    }
    let tried = options.into_iter().filter_map(|(edit, way)| by_other_joint(job, made, given, edit, way));
    tried.filter(|one| one.chance >= WORTH_A_JOINT).max_by(|p, q| {
        // The first that lands is enough; an act less is worth more than a percent.
        let rank = |one: &CorrectionWorkup| (one.chance >= LIKELY, -one.minutes);
        let ((p_lands, p_time), (q_lands, q_time)) = (rank(p), rank(q));
        p_lands.cmp(&q_lands).then(if p_lands { p_time.total_cmp(&q_time) } else { p.chance.total_cmp(&q.chance) })
    })
}

fn by_other_joint(job: &Job, made: &Made<'_>, given: &Given<'_>, edit: Edit, way: String) -> Option<CorrectionWorkup> {
    let next = apply(job, &edit).ok()?.job;
    let id = made.run.id;
    let other = Made::of(&next, id, given.progress)?;
    let (pieces, others) = (made.to_make().pieces, other.to_make().pieces);
    let alike = pieces.iter().zip(others).all(|(p, q)| (p.centre - q.centre).abs() < ALIKE);
    if pieces.len() != others.len() || !alike {
        return None;
    }
    let spreads = Spreads::of(&next);
    let known = known_of(&next, &other, &spreads, given);
    let names = other.names(given.progress);
    let so_far = SoFar { run: id, progress: given.progress, names: &names };
    let (cut, tacked) = (|at| so_far.cut(at), |at| so_far.tacked(at));
    let built = Built { cut: &cut, tacked: &tacked };
    let pipe = other.to_make();
    let best = pipe.corrections(&known.model, &known.belief, &spreads, &built, Among::All)?;
    let say = Say { names: &names, pipe: &pipe, job: &next };
    Some(CorrectionWorkup::of(way, Some(edit), &best, &say))
}

/// The cheapest way, then the best of each other kind, each set of acts once.
fn ways(corrections: &impl Fn(Among) -> Option<Correction>, say: &Say<'_>) -> Vec<CorrectionWorkup> {
    let mut all: Vec<CorrectionWorkup> = Vec::new();
    let kinds = [
        (Among::All, "First choice"),
        (Among::Unbroken, "No tack broken"),
        (Among::Turns, "Turns alone"),
        (Among::Trims, "Trims alone"),
    ];
    for (among, way) in kinds {
        let Some(best) = corrections(among).filter(|best| !best.acts.is_empty()) else { continue };
        let way = if all.is_empty() && best.chance < LIKELY { "Comes nearest" } else { way };
        let found = CorrectionWorkup::of(way.to_owned(), None, &best, say);
        let same = |one: &CorrectionWorkup| {
            one.acts.len() == found.acts.len()
                && one.acts.iter().zip(&found.acts).all(|(p, q)| p.words.mm == q.words.mm)
        };
        if !all.iter().any(same) && all.len() < WAYS {
            all.push(found);
        }
    }
    all
}

impl CorrectionWorkup {
    fn of(way: String, edit: Option<Edit>, best: &Correction, say: &Say<'_>) -> Self {
        Self {
            way,
            edit,
            acts: best.acts.iter().map(|act| FitActWorkup { act: *act, words: say.act(act) }).collect(),
            minutes: best.minutes,
            broken: best.broken,
            chance: best.chance,
            share: best.uses.iter().copied().fold(0.0, f64::max),
        }
    }
}

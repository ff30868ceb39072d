//! How a run's pipe fits as far as it is built, and what would make it land.

use super::assemble::Given;
use super::fit::{CorrectionWorkup, FitActWorkup, FitBend, FitPiece, FitWorkup};
use super::fit_built::{BuiltWorkup, touch_of};
use super::fit_known::Known;
use super::fit_warnings::warnings;
use super::fit_words::Say;
use super::landing::Made;
use crate::edit::EditError;
use crate::fit::{Among, Built, Correction, LIKELY, Spreads};
use crate::job::Job;
use crate::measure::RunId;
use crate::record::{BenchAct, FitStep};
use crate::route::ResolvedMake;

/// So many other ways are told.
const WAYS: usize = 4;

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
    let spreads = Spreads::with_saw(Some(job.saw()));
    let known = Known::of(&pipe, made.model(decisions.making, &spreads), &spreads, progress, &|thing| {
        touch_of(job, &made, scans, thing)
    });
    let names = made.names(progress);
    let cut = |at: usize| names.get(at).is_some_and(|(piece, _)| progress.as_cut(id, *piece).is_some());
    let tacked = |at: usize| {
        cut(at) && names.get(at).is_some_and(|(piece, _)| progress.did(id, BenchAct::Meet { piece: *piece }))
    };
    let built = Built { cut: &cut, tacked: &tacked };
    let say = Say { names: &names, pipe: &pipe, job };
    let (mean, covariance) = known.model.left(&known.belief);
    let chance = known.model.chance_of(&mean, &covariance);
    let bend = |(at, leg): (usize, &nook_geometry::PathStep)| FitBend {
        bend: made.run.route.bend_id(at),
        number: at + 1,
        degrees: leg.bend.angle.to_degrees(),
    };
    let gauged = |at: usize| made.pipe.makes.get(at).is_some_and(|make| *make != ResolvedMake::Moulded);
    let steps = known.steps(progress, id, &say);
    let unsettled = steps.iter().any(|step| step.disagrees);
    let measured = progress.fit_of(id).iter().any(|entry| matches!(entry.step, FitStep::Read { .. }));
    let written: Vec<String> = names.iter().map(|(_, name)| name.clone()).collect();
    let built_so = (!steps.is_empty()).then(|| BuiltWorkup::of(job, &made, &pipe, &known, scans, &written));
    let fouls = built_so.as_ref().is_some_and(BuiltWorkup::fouls);
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
        suspects: known.suspects(&pipe, &say),
        warnings: warnings(job, &made.run, progress, &say),
        off: if measured { known.off(&pipe) } else { Vec::new() },
        chance,
        likely: chance >= LIKELY && !unsettled && !fouls,
        built: built_so,
        steps,
        // Before anything was measured there is nothing to mend: what would raise the chance is told by the landing. While a reading
        // stands against the rest nothing is cut by it.
        corrections: if measured && !unsettled { ways(&corrections, &say) } else { Vec::new() },
        expected: known.expected(&pipe),
        next: known.next(&pipe, &say),
    })
}

/// The cheapest way, then the best of each other kind, each set of acts once.
fn ways(corrections: &impl Fn(Among) -> Option<Correction>, say: &Say<'_>) -> Vec<CorrectionWorkup> {
    let mut all: Vec<CorrectionWorkup> = Vec::new();
    let kinds = [
        (Among::All, "Cheapest"),
        (Among::Unbroken, "No tack broken"),
        (Among::Turns, "Turns alone"),
        (Among::Trims, "Trims alone"),
    ];
    for (among, way) in kinds {
        let Some(best) = corrections(among).filter(|best| !best.acts.is_empty()) else { continue };
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

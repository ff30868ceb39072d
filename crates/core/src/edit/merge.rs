//! Making one change again in a job that others have changed since: a three-way merge, thing by thing.

use super::EditError;
use crate::job::Job;
use crate::measure::{Component, Datum, KeepOut, KeepOutId, Opening};
use crate::route::Run;
use nook_geometry::units::Name;

/// `ours` with the change that leads from `base` to `theirs`. With the two swapped, the change is taken back. Things that
/// the change did not touch stay as they are in `ours`, and no number is given twice.
///
/// # Errors
/// [`EditError::ChangedSince`] when the change touched a thing that is no longer as it is in `base`,
/// [`EditError::Invalid`] when what would come of it breaks what [`Job::check`] holds.
pub fn merge(base: &Job, theirs: &Job, ours: &Job) -> Result<Job, EditError> {
    let keep_outs = each(&base.keep_outs, &theirs.keep_outs, &ours.keep_outs)?;
    let job = Job {
        name: one("the name of the job", &base.name, &theirs.name, &ours.name)?,
        saw: one("the saw it is made with", &base.saw, &theirs.saw, &ours.saw)?,
        mounts: one("the engine\u{2019}s mounts", &base.mounts, &theirs.mounts, &ours.mounts)?,
        firing: one("the engine\u{2019}s speeds", &base.firing, &theirs.firing, &ours.firing)?,
        instruments: one(
            "what was checked of tape and level",
            &base.instruments,
            &theirs.instruments,
            &ours.instruments,
        )?,
        drills: one("how truly you work", &base.drills, &theirs.drills, &ours.drills)?,
        runs: each(&base.runs, &theirs.runs, &ours.runs)?,
        datums: each(&base.datums, &theirs.datums, &ours.datums)?,
        components: each(&base.components, &theirs.components, &ours.components)?,
        openings: each(&base.openings, &theirs.openings, &ours.openings)?,
        stance: one("how the car stands", &base.stance, &theirs.stance, &ours.stance)?,
        together: pairs([&base.together, &theirs.together, &ours.together], &keep_outs),
        keep_outs,
        next_id: base.next_id.max(theirs.next_id).max(ours.next_id),
    };
    job.check().map_err(|problem| EditError::Invalid { problem })?;
    Ok(job)
}

/// Pairs are set or not, each by itself; those of things that are gone are too.
fn pairs([base, theirs, ours]: [&[[KeepOutId; 2]]; 3], keep_outs: &[KeepOut]) -> Vec<[KeepOutId; 2]> {
    let kept = ours.iter().filter(|pair| theirs.contains(pair) || !base.contains(pair));
    let added = theirs.iter().filter(|pair| !base.contains(pair) && !ours.contains(pair));
    let there = |pair: &&[KeepOutId; 2]| pair.iter().all(|id| keep_outs.iter().any(|one| one.id == *id));
    kept.chain(added).filter(there).copied().collect()
}

fn one<T: Clone + PartialEq>(what: &str, base: &T, theirs: &T, ours: &T) -> Result<T, EditError> {
    if theirs == base || theirs == ours {
        Ok(ours.clone())
    } else if ours == base {
        Ok(theirs.clone())
    } else {
        Err(EditError::ChangedSince { what: what.to_owned() })
    }
}

/// What has a number that never changes, and a name.
trait Numbered: Clone + PartialEq {
    fn number(&self) -> u32;
    fn name(&self) -> &Name;
}

macro_rules! numbered {
    ($($thing:ty),*) => {
        $(impl Numbered for $thing {
            fn number(&self) -> u32 {
                self.id.0
            }
            fn name(&self) -> &Name {
                &self.name
            }
        })*
    };
}

numbered!(Run, Datum, Component, KeepOut, Opening);

fn each<T: Numbered>(base: &[T], theirs: &[T], ours: &[T]) -> Result<Vec<T>, EditError> {
    let find = |all: &[T], number| all.iter().find(|thing| thing.number() == number).cloned();
    let mut merged = ours.to_vec();
    let gone = base.iter().filter(|thing| find(theirs, thing.number()).is_none());
    for thing in theirs.iter().chain(gone) {
        let number = thing.number();
        let now = find(ours, number);
        let what = format!("\u{201c}{}\u{201d}", now.as_ref().unwrap_or(thing).name().as_str());
        let wanted = one(&what, &find(base, number), &find(theirs, number), &now)?;
        let at = merged.iter().position(|one| one.number() == number);
        match (at, wanted) {
            (Some(at), Some(thing)) => merged[at] = thing,
            (Some(at), None) => drop(merged.remove(at)),
            // Back to where it stood.
            (None, Some(thing)) => {
                let at = theirs.iter().position(|one| one.number() == number).unwrap_or(merged.len());
                merged.insert(at.min(merged.len()), thing);
            }
            (None, None) => {}
        }
    }
    in_order(base, theirs, ours, &merged)
}

/// `merged` in the order the change gave: what both know stands as in `theirs`, among things added since.
fn in_order<T: Numbered>(base: &[T], theirs: &[T], ours: &[T], merged: &[T]) -> Result<Vec<T>, EditError> {
    let known = |all: &[T], number| all.iter().any(|thing| thing.number() == number);
    let order = |all: &[T]| -> Vec<u32> {
        let numbers = all.iter().map(T::number);
        numbers.filter(|number| [base, theirs, ours].into_iter().all(|all| known(all, *number))).collect()
    };
    let wanted = one("the order of the runs", &order(base), &order(theirs), &order(ours))?;
    let mut next = wanted.iter();
    let numbers: Vec<u32> = merged.iter().map(T::number).collect();
    let slots =
        numbers.iter().map(|number| if wanted.contains(number) { next.next().unwrap_or(number) } else { number });
    Ok(slots.filter_map(|number| merged.iter().find(|thing| thing.number() == *number).cloned()).collect())
}

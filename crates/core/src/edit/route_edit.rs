//! Decisions about which way a pipe goes.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::lookup::{find_first_way, index_of, sound, take_part};
use super::twins::{set_twin, twin_follows};
use super::{EditError, Made};
use crate::job::Job;
use crate::measure::RunId;
use crate::route::{
    BendId, HeldBy, KeptRoute, LegId, Lock, Reach, Route, RouteConstraints, Run, Shaped, Snap, Target, add_bend, drag,
    hold_locks, merge_bends, remove_bend, reshape, split_bend, with_parts_of,
};
use crate::survey::Survey;
use nook_geometry::Point;
use nook_geometry::units::{BendRadius, Name};

/// A decision about which way a pipe goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum RouteEdit {
    /// Says what is asked of a pipe's way.
    SetWishes {
        /// Which pipe.
        run: RunId,
        /// What is asked.
        wishes: RouteConstraints,
    },
    /// Takes a way round. The joints at the ends stay; those along the way before that it does not have are seated on it where
    /// they stood. Bends that are not of the way before are numbered anew.
    TakeWay {
        /// Which pipe.
        run: RunId,
        /// The way.
        way: Route,
    },
    /// Sets the radius of all bends that have none of their own.
    SetRadius {
        /// Which pipe.
        run: RunId,
        /// Centre-line radius in mm.
        radius: BendRadius,
    },
    /// Sets one bend's radius; nothing returns to the pipe's.
    SetBendRadius {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
        /// Centre-line radius in mm.
        radius: Option<BendRadius>,
    },
    /// Gives one length or angle a value, typed or dragged; the rest follows by the smallest change.
    Reshape {
        /// Which pipe.
        run: RunId,
        /// Which figure, and its value.
        target: Target,
        /// Whether it must get there.
        #[serde(default, skip_serializing_if = "Reach::is_exact")]
        reach: Reach,
        /// What it snaps to on the way; nothing for freely.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        snap: Option<Snap>,
    },
    /// Puts a bend in: a leg goes by a place.
    AddBend {
        /// Which pipe.
        run: RunId,
        /// Which leg.
        leg: LegId,
        /// The new bend's vertex.
        at: Point,
    },
    /// Takes a bend out: the legs beside it become one.
    RemoveBend {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
    },
    /// Parts a bend into two of half its angle.
    SplitBend {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
    },
    /// Makes a bend and the next one.
    MergeBends {
        /// Which pipe.
        run: RunId,
        /// The first of the two.
        bend: BendId,
    },
    /// Locks something of a way, or lets it go.
    SetLock {
        /// Which pipe.
        run: RunId,
        /// What, and at which value.
        lock: Lock,
        /// Whether it is held.
        on: bool,
    },
    /// Shapes the way so that its locks hold again.
    HoldLocks {
        /// Which pipe.
        run: RunId,
    },
    /// Keeps the way taken now beside it, under a name.
    KeepWay {
        /// Which pipe.
        run: RunId,
        /// What it is called.
        name: Name,
    },
    /// Takes a way that was kept; the one taken now is kept in its place.
    TakeKept {
        /// Which pipe.
        run: RunId,
        /// Which of those kept, from 0.
        index: usize,
    },
    /// Lets a way that was kept go.
    DropKept {
        /// Which pipe.
        run: RunId,
        /// Which of those kept, from 0.
        index: usize,
    },
    /// Makes two pipes mirrored twins, the second taking the image of the first's way; nothing unlinks them.
    SetTwin {
        /// Which pipe.
        run: RunId,
        /// Its twin.
        twin: Option<RunId>,
    },
}

impl RouteEdit {
    /// The edit that gives a figure of `run` its value, exactly.
    #[must_use]
    pub const fn shaped(run: RunId, target: Target) -> Self {
        Self::Reshape { run, target, reach: Reach::Exactly, snap: None }
    }

    /// The same as far as it goes.
    #[must_use]
    pub const fn dragged(run: RunId, target: Target, snap: Option<Snap>) -> Self {
        Self::Reshape { run, target, reach: Reach::AsFarAsItGoes, snap }
    }

    /// Makes the change; tells what held it where it did not get all the way.
    pub(super) fn apply(&self, job: &mut Job, made: &mut Made) -> Result<Option<HeldBy>, EditError> {
        let index = index_of(job, self.run())?;
        let bends = |problem| EditError::Bends { problem };
        let reshaped = |problem| EditError::Reshape { problem };
        // What leans on where the ports stand is worked out before the run is touched.
        let settled = |job: &Job| Survey::new(job).settle(&job.runs[index]);
        let laid = |job: &Job| {
            let run = settled(job);
            run.way().is_some().then_some(run).ok_or(EditError::NoWayYet)
        };
        let mut held = None;
        match self {
            Self::SetWishes { wishes, .. } => job.runs[index].wishes = wishes.clone(),
            Self::TakeWay { way, .. } => {
                let run = &mut job.runs[index];
                let way = way.clone().numbered(&run.route.clone(), || take_part(run))?;
                made.bends(run.id, &run.route, &way);
                let way = with_parts_of(&settled(job), &way);
                job.runs[index].route = way;
            }
            Self::SetRadius { radius, .. } => job.runs[index].radius = *radius,
            Self::SetBendRadius { bend, radius, .. } => {
                let run = &mut job.runs[index];
                let place = place_of(run, *bend)?;
                if let Some(spec) = run.route.bend_mut(place) {
                    spec.radius = *radius;
                }
            }
            Self::Reshape { target, reach, snap, .. } => {
                let run = laid(job)?;
                job.runs[index].route = match reach {
                    Reach::Exactly => reshape(&run, &run.route, *target).map_err(reshaped)?,
                    Reach::AsFarAsItGoes => {
                        let Shaped { way, held: by } = drag(&run, &run.route, *target, *snap).map_err(reshaped)?;
                        held = by;
                        way
                    }
                };
            }
            Self::AddBend { leg, at, .. } => {
                let run = laid(job)?;
                let id = BendId(take_part(&mut job.runs[index])?);
                job.runs[index].route = add_bend(&run, &run.route, *leg, *at, id).map_err(bends)?;
                made.bend(run.id, id);
            }
            Self::RemoveBend { bend, .. } => {
                let run = laid(job)?;
                job.runs[index].route = remove_bend(&run, &run.route, *bend).map_err(bends)?;
            }
            Self::SplitBend { bend, .. } => {
                let run = laid(job)?;
                let id = BendId(take_part(&mut job.runs[index])?);
                job.runs[index].route = split_bend(&run, &run.route, *bend, id).map_err(bends)?;
                made.bend(run.id, id);
            }
            Self::MergeBends { bend, .. } => {
                let run = laid(job)?;
                job.runs[index].route = merge_bends(&run, &run.route, *bend).map_err(bends)?;
            }
            Self::SetLock { lock, on, .. } => {
                let run = laid(job)?;
                let way = run.route.clone();
                job.runs[index].route = if *on { way.locked(*lock) } else { way.unlocked(lock) };
            }
            Self::HoldLocks { .. } => {
                let run = laid(job)?;
                job.runs[index].route = hold_locks(&run, &run.route).map_err(reshaped)?;
            }
            Self::KeepWay { name, .. } => keep(&mut job.runs[index], name)?,
            Self::TakeKept { index: kept, .. } => take_kept(&mut job.runs[index], *kept)?,
            Self::DropKept { index: kept, .. } => {
                let run = &mut job.runs[index];
                if *kept >= run.kept.len() {
                    return Err(EditError::NoSuchKept { kept: run.kept.len(), index: *kept });
                }
                run.kept.remove(*kept);
            }
            Self::SetTwin { run, twin } => return set_twin(job, *run, *twin).map(|()| None),
        }
        sound(job)?;
        find_first_way(job, index)?;
        twin_follows(job, index);
        Ok(held)
    }

    const fn run(&self) -> RunId {
        match self {
            Self::SetWishes { run, .. }
            | Self::TakeWay { run, .. }
            | Self::SetRadius { run, .. }
            | Self::SetBendRadius { run, .. }
            | Self::Reshape { run, .. }
            | Self::AddBend { run, .. }
            | Self::RemoveBend { run, .. }
            | Self::SplitBend { run, .. }
            | Self::MergeBends { run, .. }
            | Self::SetLock { run, .. }
            | Self::HoldLocks { run }
            | Self::KeepWay { run, .. }
            | Self::TakeKept { run, .. }
            | Self::DropKept { run, .. }
            | Self::SetTwin { run, .. } => *run,
        }
    }
}

/// The place of a bend in the way a run takes.
pub(super) fn place_of(run: &Run, bend: BendId) -> Result<usize, EditError> {
    let way = run.way().ok_or(EditError::NoWayYet)?;
    way.bend_index(bend).ok_or(EditError::NoSuchBend { bend })
}

fn keep(run: &mut Run, name: &Name) -> Result<(), EditError> {
    let way = run.way().cloned().ok_or(EditError::NoWayYet)?;
    if run.kept.len() >= Run::MOST_KEPT {
        return Err(EditError::EnoughKept { most: Run::MOST_KEPT });
    }
    run.kept.push(KeptRoute { name: name.clone(), way });
    Ok(())
}

/// Takes a route that was kept, its joints with it; the one taken before is kept in its place.
fn take_kept(run: &mut Run, index: usize) -> Result<(), EditError> {
    let count = run.kept.len();
    let kept = run.kept.get_mut(index).ok_or(EditError::NoSuchKept { kept: count, index })?;
    if run.route.is_decided() {
        std::mem::swap(&mut run.route, &mut kept.way);
    } else {
        run.route = kept.way.clone();
    }
    Ok(())
}

//! The gap between any two things that should not meet, over the engine's movement and however they open or sweep.

use std::collections::HashMap;
use std::sync::Arc;

use crate::environment::{Scans, keep_out_obstacle};
use crate::job::Job;
use crate::measure::{Component, ComponentId, KeepOut, KeepOutId, KeepOutShape, Mounts};
use crate::survey::Survey;
use nook_geometry::clearance::{Movement, Obstacle, PairNear};

/// Two things nearer to each other than is asked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pair {
    /// The two, in the job's order.
    pub things: [KeepOutId; 2],
    /// The gap asked for, in mm: the larger of what each asks of a pipe.
    pub limit: f64,
    /// Where they are nearest.
    pub near: PairNear,
    /// Whether they stand still to each other just as they were measured, so that the car itself shows whether it is so.
    pub as_measured: bool,
}

impl Pair {
    /// Whether they overlap.
    #[must_use]
    pub fn fouls(&self) -> bool {
        self.near.gap <= 0.0
    }

    /// What is missing, in mm.
    #[must_use]
    pub fn short(&self) -> f64 {
        self.limit - self.near.gap
    }
}

/// One thing as it stands.
#[derive(Debug, Clone)]
struct Placed {
    thing: KeepOut,
    /// The shape where it stands; for a scan where its matched points put it.
    shape: KeepOutShape,
    whole: Option<ComponentId>,
    /// Whether it stands where a decision put it rather than where it was measured, or is not there yet.
    planned: bool,
    /// `None` where it could not be measured to.
    room: Option<Arc<Obstacle>>,
}

impl Placed {
    fn of(job: &Job, survey: &Survey<'_>, thing: &KeepOut, scans: &Scans) -> Self {
        let whole = job.whole_of(thing.id);
        let planned = !job.standing_of(thing).is_in_place() || whole.is_some_and(Component::is_moved);
        Self {
            thing: thing.clone(),
            shape: survey.placed(thing),
            whole: whole.map(|whole| whole.id),
            planned,
            room: keep_out_obstacle(survey, thing, scans).map(Arc::new),
        }
    }

    /// Whether nothing that a gap follows from differs. A scan may be matched to a datum that has moved, so it is never taken
    /// to be the same.
    fn same(&self, other: &Self) -> bool {
        !matches!(self.shape, KeepOutShape::Scan(_))
            && (self.whole, self.planned) == (other.whole, other.planned)
            && self.shape == other.shape
            && self.thing == other.thing
    }
}

/// Every pair of things of a job that come nearer than is asked, and what that was worked out from, so that after a change
/// only what has moved is worked out again.
#[derive(Debug, Clone)]
pub struct Pairs {
    placed: HashMap<KeepOutId, Placed>,
    /// Things in the job's order.
    order: Vec<KeepOutId>,
    movement: Option<Movement>,
    together: Vec<[KeepOutId; 2]>,
    near: Vec<Pair>,
    /// How many pairs were measured, for benchmarks: the others were far, together, or as before.
    measured: usize,
}

impl Pairs {
    /// Of all things of a job.
    #[must_use]
    pub fn of(job: &Job, survey: &Survey<'_>, scans: &Scans) -> Self {
        Self::after(None, job, survey, scans)
    }

    /// The same after a change: pairs of two things that are as they were are taken from `before`.
    #[must_use]
    pub fn after(before: Option<&Self>, job: &Job, survey: &Survey<'_>, scans: &Scans) -> Self {
        let movement = job.mounts().and_then(Mounts::movement);
        let placed: HashMap<KeepOutId, Placed> =
            job.keep_outs().iter().map(|thing| (thing.id, Placed::of(job, survey, thing, scans))).collect();
        let order: Vec<KeepOutId> = job.keep_outs().iter().map(|thing| thing.id).collect();
        let before = before.filter(|before| before.movement == movement && before.together == job.together());
        let same = |id: &KeepOutId| {
            before.is_some_and(|before| before.placed.get(id).is_some_and(|was| was.same(&placed[id])))
        };
        let kept: HashMap<KeepOutId, bool> = order.iter().map(|id| (*id, same(id))).collect();
        let mut near: Vec<Pair> = Vec::new();
        if let Some(before) = before {
            let stays = |pair: &&Pair| pair.things.iter().all(|id| kept.get(id) == Some(&true));
            near.extend(before.near.iter().filter(stays));
        }
        let mut measured = 0;
        for (index, one) in order.iter().enumerate() {
            for other in &order[index + 1..] {
                if (kept[one] && kept[other]) || job.belong_together(*one, *other) {
                    continue;
                }
                if let Some(pair) = pair(&placed[one], &placed[other], movement.as_ref(), &mut measured) {
                    near.push(pair);
                }
            }
        }
        near.sort_by(|p, q| (!p.fouls()).cmp(&!q.fouls()).then(q.short().total_cmp(&p.short())));
        Self { placed, order, movement, together: job.together().to_vec(), near, measured }
    }

    /// Pairs that are nearer than is asked, the worst first: what overlaps, then by what is missing.
    #[must_use]
    pub fn near(&self) -> &[Pair] {
        &self.near
    }

    /// How many pairs were measured.
    #[must_use]
    pub const fn measured(&self) -> usize {
        self.measured
    }

    /// Pairs of scans whose boxes come nearer than is asked: two scans are not measured against each other.
    #[must_use]
    pub fn unmeasured(&self, job: &Job) -> Vec<[KeepOutId; 2]> {
        let scans = self.order.iter().filter(|id| matches!(self.placed[id].shape, KeepOutShape::Scan(_)));
        let scans: Vec<KeepOutId> = scans.copied().collect();
        let pairs =
            scans.iter().enumerate().flat_map(|(index, one)| scans[index + 1..].iter().map(|other| [*one, *other]));
        let near = |[one, other]: &[KeepOutId; 2]| {
            let rooms = (self.placed[one].room.as_deref(), self.placed[other].room.as_deref());
            let limit = limit(&self.placed[one], &self.placed[other]);
            !job.belong_together(*one, *other)
                && matches!(rooms, (Some(p), Some(q)) if !p.apart(q, self.movement.as_ref(), limit))
        };
        pairs.filter(near).collect()
    }

    /// What is missing in all, in mm, and how many pairs overlap: of pairs with one of these things.
    #[must_use]
    pub fn lack(&self, of: &[KeepOutId]) -> (usize, f64) {
        let with = self.near.iter().filter(|pair| pair.things.iter().any(|id| of.contains(id)));
        with.fold((0, 0.0), |(fouls, short), pair| (fouls + usize::from(pair.fouls()), short + pair.short()))
    }
}

fn limit(one: &Placed, other: &Placed) -> f64 {
    one.thing.gap().max(other.thing.gap())
}

fn pair(one: &Placed, other: &Placed, movement: Option<&Movement>, measured: &mut usize) -> Option<Pair> {
    let (p, q) = (one.room.as_deref()?, other.room.as_deref()?);
    let limit = limit(one, other);
    if p.apart(q, movement, limit) {
        return None;
    }
    *measured += 1;
    let near = p.least_gap(q, movement, limit)?;
    let still = !p.moves_with_or_against(q, movement);
    let as_measured = still && !one.planned && !other.planned;
    Some(Pair { things: [one.thing.id, other.thing.id], limit, near, as_measured })
}

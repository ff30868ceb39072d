//! The smallest change of a way that does what is asked and keeps what is held.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::locked::{Values, gap_within, lock_values, tube_straight};
use super::route_geometry::{DesignVector, RouteEnds, RouteGeometry, course_of, free_of, least_straights_of};
use super::target::{HeldBy, ReshapeError, Target};
use super::{BendId, Constraint, LegDirection, LegId, Lock, QpStep, ResolvedRun, Route, build_path, solve_qp};
use crate::measure::End;
use nook_geometry::Vector;

/// How near counts as there, in mm: a thousandth of what joins are held to.
pub(super) const CLOSE: f64 = 1e-9;
/// Step in mm for the slopes: central differences of it are good to 1e-9 over the lengths met here.
const NUDGE: f64 = 1e-3;
/// Longest move in one step, in mm, so that no step jumps to another branch.
const LONGEST_STEP: f64 = 60.0;
/// How much more a dragged vertex weighs than one that follows.
const DRAGGED: f64 = 400.0;
/// Most a bend is turned by hand, in radians: 150 degrees.
const MOST_TURN: f64 = 2.617_993_878;
/// Least a bend is turned by hand: a degree.
const LEAST_TURN: f64 = 0.017_453_293;

pub(super) struct Found {
    pub(super) free: DesignVector,
    pub(super) held: Option<HeldBy>,
}

/// Something that shall hold exactly: a lock, or what is aimed at.
pub(super) type Exact = Lock;

pub(super) struct RouteSolver<'a> {
    pub(super) run: &'a ResolvedRun,
    pub(super) way: &'a Route,
    pub(super) route_ends: RouteEnds,
    pub(super) start: DesignVector,
    pub(super) route_geometry: RouteGeometry,
    pub(super) least: SmallVec<[f64; 7]>,
}

impl<'a> RouteSolver<'a> {
    pub(super) fn new(run: &'a ResolvedRun, way: &'a Route, target: Target) -> Result<Self, ReshapeError> {
        let corners = way.course().corners();
        let there = match target {
            Target::Straight { straight, .. } => way.leg_index(straight).is_some(),
            Target::Angle { bend, .. } | Target::Rotation { bend, .. } | Target::Vertex { bend, .. } => {
                way.bend_index(bend).is_some()
            }
            Target::Leg { leg, .. } | Target::LegWay { leg, .. } => {
                way.leg_index(leg).is_some_and(|leg| leg >= 1 && leg < corners)
            }
        };
        if !there {
            return Err(ReshapeError::NoSuchFigure);
        }
        let start = free_of(way).ok_or(ReshapeError::NoFreedom)?;
        build_path(run, way).map_err(ReshapeError::NotLaid)?;
        let route_ends = RouteEnds::of_way(run, way);
        let route_geometry = route_ends.geometry(&start).ok_or(ReshapeError::NoFreedom)?;
        let usual = least_straights_of(run, way);
        // What is too short already may stay so, but gets no shorter.
        let least = usual.iter().zip(&route_geometry.straights).map(|(least, now)| least.min(*now)).collect();
        Ok(Self { run, way, route_ends, start, route_geometry, least })
    }

    /// The place of a bend; one beyond the last where it is not of this way.
    fn bend(&self, id: BendId) -> usize {
        self.way.bend_index(id).unwrap_or(usize::MAX)
    }

    /// The place of a leg likewise.
    fn leg(&self, id: LegId) -> usize {
        self.way.leg_index(id).unwrap_or(usize::MAX)
    }

    pub(super) fn way_of(&self, free: &[f64]) -> Option<Route> {
        Some(self.way.rerouted(course_of(free)?))
    }

    /// What the target says must hold exactly; nothing for a drag, which goes as near as it can.
    pub(super) fn wanted(&self, target: Target) -> Vec<Exact> {
        match target {
            Target::Straight { straight, length } => vec![Lock::Straight { straight, length: length.get() }],
            Target::Angle { bend, angle } => vec![Lock::Angle { bend, angle: angle.get() }],
            Target::Rotation { bend, rotation } => vec![Lock::Rotation { bend, rotation: rotation.get() }],
            Target::LegWay { leg, way } => self
                .route_geometry
                .along
                .get(self.leg(leg))
                .and_then(|now| way.nearest(*now))
                .map_or_else(Vec::new, |direction| {
                    vec![Lock::Leg { leg, direction, level_only: way == LegDirection::Level }]
                }),
            Target::Vertex { .. } | Target::Leg { .. } => Vec::new(),
        }
    }

    /// The same aim, only `share` of the way from how it is now.
    pub(super) fn part(&self, exact: &[Exact], share: f64) -> Vec<Exact> {
        let between = |now: f64, to: f64| now + (to - now) * share;
        exact
            .iter()
            .map(|lock| match *lock {
                Lock::Straight { straight, length } => {
                    let now = tube_straight(self.run, self.way, &self.route_geometry, straight).unwrap_or(length);
                    Lock::Straight { straight, length: between(now, length) }
                }
                Lock::Angle { bend, angle } => {
                    let now = self.route_geometry.angles.get(self.bend(bend)).map_or(angle, |a| a.to_degrees());
                    Lock::Angle { bend, angle: between(now, angle) }
                }
                Lock::Rotation { bend, rotation } => {
                    let now = self.route_geometry.rotation(self.bend(bend)).to_degrees();
                    let turn = (rotation - now + 180.0).rem_euclid(360.0) - 180.0;
                    Lock::Rotation { bend, rotation: now + turn * share }
                }
                leg @ Lock::Leg { .. } => leg,
            })
            .collect()
    }

    /// Where the free numbers would like to be, and how much each cares.
    fn pulled(&self, target: Target) -> (DesignVector, DesignVector) {
        let (mut goal, mut weight) = (self.start.clone(), DesignVector::from_elem(1.0, self.start.len()));
        let last = self.way.course().corners() - 1;
        let mut drag = |bend: usize, to: Point3<f64>| {
            if bend == 0 {
                (goal[0], weight[0]) = ((to - self.route_ends.a).dot(&self.route_ends.out_a), DRAGGED);
            } else if bend == last {
                let i = goal.len() - 1;
                (goal[i], weight[i]) = ((to - self.route_ends.b).dot(&self.route_ends.out_b), DRAGGED);
            } else {
                for axis in 0..3 {
                    let i = 1 + 3 * (bend - 1) + axis;
                    (goal[i], weight[i]) = (to[axis], DRAGGED);
                }
            }
        };
        match target {
            Target::Vertex { bend, at } => drag(self.bend(bend), at.inner()),
            Target::Leg { leg, by } => {
                let leg = self.leg(leg);
                for bend in [leg - 1, leg] {
                    drag(bend, self.route_geometry.vertices[bend] + Vector::from(by));
                }
            }
            _ => {}
        }
        (goal, weight)
    }

    /// How far in mm a drag is from where it was aimed.
    pub(super) fn short_of(&self, target: Target, free: &[f64]) -> f64 {
        let vertices = self.route_ends.vertices(free);
        let off = |bend: usize, to: Point3<f64>| vertices.get(bend).map_or(f64::INFINITY, |v| (v - to).norm());
        match target {
            Target::Vertex { bend, at } => off(self.bend(bend), at.inner()),
            Target::Leg { leg, by } => {
                let leg = self.leg(leg);
                let moved = |bend: usize| off(bend, self.route_geometry.vertices[bend] + Vector::from(by));
                moved(leg - 1).max(moved(leg))
            }
            _ => {
                let Some(route_geometry) = self.route_ends.geometry(free) else { return f64::INFINITY };
                let mut all = Values::new();
                self.wanted(target)
                    .iter()
                    .for_each(|lock| lock_values(self.run, self.way, &route_geometry, lock, &mut all));
                all.iter().map(|v| v.abs()).fold(0.0, f64::max)
            }
        }
    }

    /// The way nearest to where the target pulls that keeps the locks, the limits and what is wanted exactly; with it by
    /// how much in mm that is missed.
    pub(super) fn solve(&self, target: Target, wanted: &[Exact]) -> (Found, f64) {
        let exact: Vec<Exact> = self.way.locks().iter().filter(|lock| !aimed_at(lock, target)).copied().collect();
        let exact: Vec<Exact> = exact.into_iter().chain(wanted.iter().copied()).collect();
        let (goal, weight) = self.pulled(target);
        let mut here = self.start.clone();
        let mut held = None;
        for _ in 0..60 {
            let Some((limits, owners)) = self.limits(&here, &exact) else { break };
            let pull: DesignVector = here.iter().zip(&goal).zip(&weight).map(|((x, g), w)| (x - g) * w).collect();
            let QpStep { step, forces, .. } = solve_qp(&weight, &pull, &limits);
            held = self.strongest(target, &owners, &forces, &exact);
            let long = step.iter().fold(0.0_f64, |most, d| most.max(d.abs()));
            if !long.is_finite() || long < 1e-11 {
                break;
            }
            let mut share = (LONGEST_STEP / long).min(1.0);
            let before = self.merit(&here, &goal, &weight, &exact);
            let mut moved = false;
            for _ in 0..14 {
                let tried: DesignVector = here.iter().zip(&step).map(|(x, d)| x + d * share).collect();
                // Near the end the gain is lost in the digits; a full small step is taken on trust.
                if self.merit(&tried, &goal, &weight, &exact) < before || (long < 1e-5 && share >= 1.0) {
                    (here, moved) = (tried, true);
                    break;
                }
                share *= 0.5;
            }
            if !moved {
                break;
            }
        }
        let here = self.brought_home(here, &weight, &exact);
        let off = self.missed(&here, &exact);
        (Found { free: here, held }, off)
    }

    /// The same way with what must hold exactly, and every limit that is passed by a hair, brought to the last digit.
    fn brought_home(&self, mut here: DesignVector, weight: &DesignVector, exact: &[Exact]) -> DesignVector {
        let still = DesignVector::from_elem(0.0, here.len());
        for _ in 0..20 {
            let Some((mut limits, _)) = self.limits(&here, exact) else { break };
            limits.retain(|limit| limit.exact || limit.value < 1e-3);
            let off = limits.iter().map(|l| if l.exact { l.value.abs() } else { -l.value }).fold(0.0, f64::max);
            // What is far off cannot be brought home by a nudge.
            if !(CLOSE / 10.0..=1.0).contains(&off) {
                break;
            }
            let QpStep { step, converged, .. } = solve_qp(weight, &still, &limits);
            let tried: DesignVector = here.iter().zip(&step).map(|(x, d)| x + d).collect();
            // A step cut short by its rounds still helps, or is not taken.
            let helps = || converged || self.missed(&tried, exact) < self.missed(&here, exact);
            if self.route_ends.geometry(&tried).is_none() || !helps() {
                break;
            }
            here = tried;
        }
        here
    }

    fn missed(&self, free: &[f64], exact: &[Exact]) -> f64 {
        let Some(route_geometry) = self.route_ends.geometry(free) else { return f64::INFINITY };
        let mut all = Values::new();
        exact.iter().for_each(|lock| lock_values(self.run, self.way, &route_geometry, lock, &mut all));
        all.iter().map(|v| v.abs()).fold(0.0, f64::max)
    }

    fn merit(&self, free: &[f64], goal: &[f64], weight: &[f64], exact: &[Exact]) -> f64 {
        let Some(route_geometry) = self.route_ends.geometry(free) else { return f64::INFINITY };
        let mut all = Values::new();
        exact.iter().for_each(|lock| lock_values(self.run, self.way, &route_geometry, lock, &mut all));
        let mut broken: f64 = all.iter().map(|v| v.abs()).sum();
        broken += self.slacks(&route_geometry).iter().map(|slack| (-slack).max(0.0)).sum::<f64>();
        let away: f64 = free.iter().zip(goal).zip(weight).map(|((x, g), w)| w * (x - g).powi(2)).sum();
        away / 2.0 + broken * 1e6
    }

    /// What is left of each limit in mm: straights first, then the most and the least of each bend.
    fn slacks(&self, route_geometry: &RouteGeometry) -> Values {
        let room = |(now, least): (&f64, &f64)| if least.is_finite() { now - least } else { 1e6 };
        let mut all: Values = route_geometry.straights.iter().zip(&self.least).map(room).collect();
        for (bend, angle) in route_geometry.angles.iter().enumerate() {
            let (now, radius) =
                (self.route_geometry.angles.get(bend).copied().unwrap_or(*angle), route_geometry.radii[bend]);
            all.push((MOST_TURN.max(now) - angle) * radius);
            all.push((angle - LEAST_TURN.min(now)) * radius);
        }
        all
    }

    /// Locks and limits as straight lines near `free`, and which is whose.
    fn limits(&self, free: &DesignVector, exact: &[Exact]) -> Option<(Vec<Constraint>, Vec<Owner>)> {
        let mut owners = Vec::new();
        let values = |route_geometry: &RouteGeometry, owners: &mut Vec<Owner>| {
            let mut all = Values::new();
            owners.clear();
            for (index, lock) in exact.iter().enumerate() {
                lock_values(self.run, self.way, route_geometry, lock, &mut all);
                owners.resize(all.len(), Owner::Exact(index));
            }
            let slacks = self.slacks(route_geometry);
            owners.extend((0..slacks.len()).map(|i| {
                if i < route_geometry.straights.len() {
                    Owner::Straight(i)
                } else {
                    Owner::Angle((i - route_geometry.straights.len()) / 2)
                }
            }));
            all.extend(slacks);
            all
        };
        let here = values(&self.route_ends.geometry(free)?, &mut owners);
        let mut spare = Vec::new();
        let mut limits: Vec<Constraint> = here
            .iter()
            .zip(&owners)
            .map(|(value, owner)| Constraint {
                slope: DesignVector::from_elem(0.0, free.len()),
                value: *value,
                exact: matches!(owner, Owner::Exact(_)),
            })
            .collect();
        for i in 0..free.len() {
            let mut nudged = free.clone();
            nudged[i] += NUDGE;
            let ahead = values(&self.route_ends.geometry(&nudged)?, &mut spare);
            nudged[i] -= 2.0 * NUDGE;
            let behind = values(&self.route_ends.geometry(&nudged)?, &mut spare);
            for ((limit, ahead), behind) in limits.iter_mut().zip(&ahead).zip(&behind) {
                limit.slope[i] = (ahead - behind) / (2.0 * NUDGE);
            }
        }
        Some((limits, owners))
    }

    /// What pushes hardest against the drag.
    fn strongest(&self, target: Target, owners: &[Owner], forces: &[f64], exact: &[Exact]) -> Option<HeldBy> {
        let named = owners.iter().zip(forces).filter_map(|(owner, force)| {
            let held = match owner {
                Owner::Exact(index) => {
                    HeldBy::Lock { lock: exact.get(*index).copied().filter(|one| self.way.locks().contains(one))? }
                }
                Owner::Straight(straight) => {
                    HeldBy::Straight { straight: self.way.leg_id(*straight), least: self.shown_least(*straight) }
                }
                Owner::Angle(bend) => HeldBy::Angle { bend: self.way.bend_id(*bend) },
            };
            (force.abs() > 1e-6).then_some((force.abs(), held))
        });
        let strongest = named.max_by(|p, q| p.0.total_cmp(&q.0)).map(|(_, held)| held);
        let last = self.way.course().corners() - 1;
        // A vertex in the first or last place, or a leg beside one.
        let [first, final_one] = match target {
            Target::Vertex { bend, .. } => [self.bend(bend) == 0, self.bend(bend) == last],
            Target::Leg { leg, .. } => [self.leg(leg) == 1, self.leg(leg) == last],
            _ => [false; 2],
        };
        let axis = if first {
            Some(End::A)
        } else if final_one {
            Some(End::B)
        } else {
            None
        };
        strongest.or(axis.map(|end| HeldBy::Axis { end }))
    }

    fn shown_least(&self, straight: usize) -> f64 {
        let gap = gap_within(self.run, straight, self.route_geometry.straights.len() - 1);
        self.least.get(straight).map_or(0.0, |least| least - gap)
    }

    pub(super) fn out_of_reach(&self, target: Target, free: &[f64]) -> ReshapeError {
        let route_geometry = self.route_ends.geometry(free).unwrap_or_else(|| self.route_geometry.clone());
        let nearest = match target {
            Target::Straight { straight, .. } => {
                tube_straight(self.run, self.way, &route_geometry, straight).unwrap_or(f64::NAN)
            }
            Target::Angle { bend, .. } => {
                route_geometry.angles.get(self.bend(bend)).map_or(f64::NAN, |angle| angle.to_degrees())
            }
            Target::Rotation { bend, .. } => route_geometry.rotation(self.bend(bend)).to_degrees(),
            Target::LegWay { leg, .. } => {
                route_geometry.along.get(self.leg(leg)).map_or(f64::NAN, |a| a.z.clamp(-1.0, 1.0).asin().to_degrees())
            }
            Target::Vertex { .. } | Target::Leg { .. } => self.short_of(target, free),
        };
        ReshapeError::OutOfReach { nearest, locked: !self.way.locks().is_empty() }
    }
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Owner {
    Exact(usize),
    Straight(usize),
    Angle(usize),
}

/// Whether a lock is on the very figure that is being given a value.
fn aimed_at(lock: &Lock, target: Target) -> bool {
    match (lock, target) {
        (Lock::Straight { straight, .. }, Target::Straight { straight: other, .. }) => *straight == other,
        (Lock::Angle { bend, .. }, Target::Angle { bend: other, .. })
        | (Lock::Rotation { bend, .. }, Target::Rotation { bend: other, .. }) => *bend == other,
        (Lock::Leg { leg, .. }, Target::LegWay { leg: other, .. }) => *leg == other,
        _ => false,
    }
}

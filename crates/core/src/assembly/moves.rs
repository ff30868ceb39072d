//! How the rigid sections of a pipe move as the engine does, and what its joints take of that.

use nalgebra::{Isometry3, Point3, Translation3};

use super::hung::Dangling;
use super::{Assembly, SeatedJoint, SeatedSupport};
use crate::measure::{End, Mounts, Side};
use crate::route::{JointId, ResolvedRun, SupportId};
use nook_geometry::Vector;
use nook_geometry::clearance::{Floating, Movement, Rides, Turning};
use nook_geometry::linkage::{
    Compliance, JointErrors, Linkage, LinkageJoint, NotSettled, Settled, Swept, SweptBy, floating,
};

/// Air in degrees in which a pipe is made.
const MADE_AT: f64 = 20.0;

/// How a pipe's sections move.
#[derive(Debug, Clone)]
pub struct Moves {
    /// What each section rides on, from A.
    pub rides: Vec<Rides>,
    /// The pipe from one thing that holds it to the next: from A's port over every section that a support holds to B's. None
    /// where the supports of one section are on both sides: that is told for itself, and nothing is known of how it moves.
    pub chains: Vec<Chain>,
    dangling: Vec<(Option<JointId>, [usize; 2])>,
    /// How far in mm each section may lie beside what it rides on, hung in rubber.
    swings: Vec<f64>,
    torn: bool,
    engine: Option<Movement>,
}

/// What holds an end of a chain.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Anchor {
    /// What it rides on.
    pub side: Side,
    /// The section that is held there, and by which support first; `None` for a port.
    pub held: Option<(usize, SupportId)>,
    /// Where it is held, in mm: it grows from there.
    at: Point3<f64>,
}

/// Joints and sections between two things that hold the pipe.
#[derive(Debug, Clone)]
pub struct Chain {
    /// Which joint it begins with, from 0 at A; the section after it has the same number.
    pub first: usize,
    /// What holds its two ends.
    pub ends: [Anchor; 2],
    /// Whether it comes to rest wherever the engine is; `None` where nothing moves it, or nobody said how the engine moves.
    pub rest: Option<Result<Swept, NotSettled>>,
    linkage: Linkage,
    growth: f64,
    ends_grow: [Vector; 2],
}

/// What a joint takes at its worst.
#[derive(Debug, Clone, PartialEq)]
pub struct JointUse {
    /// Which.
    pub joint: JointId,
    /// How far its two sides are from how they were fitted then.
    pub errors: JointErrors,
    /// The largest of angle, offset and axial shift as a share of what it gives; 1 is all of it.
    pub share: f64,
    /// The engine's roll then, in radians.
    pub roll: f64,
    /// The engine's shift then, in mm.
    pub shift: Vector,
    /// Whether the pipe is hot then.
    pub hot: bool,
    /// How each section has moved then.
    pub sections: Vec<Isometry3<f64>>,
}

impl Assembly {
    /// How the sections of this pipe of `run` move, at rest wherever the engine is. Source: handbook, "Joints, fittings, hoses
    /// and supports": the sum of squares of use is least, a joint without give ties, growth is taken from the same give; a
    /// section that a support fixes rides with that.
    #[must_use]
    pub fn moves(&self, run: &ResolvedRun) -> Moves {
        let engine = run.mounts().and_then(Mounts::movement);
        let count = self.joints.len().saturating_sub(1);
        let mut moves = Moves {
            rides: vec![Rides::Between; count],
            chains: Vec::new(),
            dangling: Vec::new(),
            swings: vec![0.0; count],
            torn: false,
            engine,
        };
        if run.hose.is_some() {
            moves.rides.fill(hose_rides(run));
            return moves;
        }
        let held: Vec<Vec<&SeatedSupport>> = (0..count).map(|section| self.fixing(section).collect()).collect();
        if held.iter().any(|on| on.iter().any(|one| one.to != on[0].to)) {
            moves.torn = true;
            return moves;
        }
        let port = |end: End| {
            let anchor = Anchor { side: run.port(end).rides, held: None, at: run.port(end).at.inner() };
            (!run.is_open(end)).then_some(anchor)
        };
        let (mut start, mut first) = (port(End::A), 0);
        for section in 0..=count {
            let end = match held.get(section).map(Vec::as_slice) {
                None => port(End::B),
                Some([]) => continue,
                Some(on) => Some({
                    let middle = on.iter().map(|one| one.place().coords).sum::<Vector>();
                    let share = on.iter().fold(0.0, |count, _| count + 1.0);
                    Anchor { side: on[0].to, held: Some((section, on[0].id)), at: Point3::from(middle / share) }
                }),
            };
            if let Some(ends) = start.zip(end) {
                let chain = self.chain(run, engine, [first, section], ends.into());
                self.ride(run, &chain, &mut moves.rides);
                moves.chains.push(chain);
            } else {
                self.hang(run, [first, section], [start, end], &mut moves);
            }
            if let Some((rides, end)) = moves.rides.get_mut(section).zip(end) {
                *rides = end.side.into();
            }
            (start, first) = (end, section + 1);
        }
        moves
    }

    /// Sections between joints `first` and `last`, of which one end or both hang in the air: as far as joints do not give they
    /// go with what holds the other.
    fn hang(&self, run: &ResolvedRun, [first, last]: [usize; 2], ends: [Option<Anchor>; 2], moves: &mut Moves) {
        let gives = |joint: &usize| !self.joints[*joint].spec.give.is_none();
        let sections = match ends {
            [Some(start), _] => {
                // The joint at `last` is the open end.
                let loose = (first..last).find(gives);
                moves.rides[first..loose.unwrap_or(last)].fill(start.side.into());
                loose.map(|joint| (Some(joint), [joint, last - 1]))
            }
            [None, Some(end)] => {
                let loose = (first + 1..=last).rev().find(gives);
                moves.rides[loose.unwrap_or(first)..last].fill(end.side.into());
                loose.map(|joint| (Some(joint), [first, joint - 1]))
            }
            [None, None] => Some((None, [first, last - 1])),
        };
        let Some((joint, sections)) = sections else { return };
        for hung in self.hung(sections, joint, self.skin(run)) {
            let [from, to] = hung.sections;
            match hung.held {
                Ok(swing) => moves.swings[from..=to].fill(swing),
                Err(Dangling { joint }) => {
                    let joint = joint.and_then(|index| self.joints.get(index)).map(|joint| joint.id);
                    moves.dangling.push((joint, hung.sections));
                }
            }
        }
    }

    /// The chain from joint `first` to joint `last`.
    fn chain(
        &self,
        run: &ResolvedRun,
        engine: Option<Movement>,
        [first, last]: [usize; 2],
        ends: [Anchor; 2],
    ) -> Chain {
        let joints: Vec<LinkageJoint> = self.joints[first..=last].iter().map(linkage_joint).collect();
        let on_ends = ends.map(|end| end.held.is_none());
        let places = [joints[0].at, joints[joints.len() - 1].at];
        let linkage = Linkage::new(joints).measured_on_ends(on_ends);
        let growth = free_growth(&linkage, growth_of(run));
        let ends_grow = std::array::from_fn(|end: usize| match ends[end].held {
            Some(_) => (places[end] - ends[end].at) * growth,
            None => Vector::zeros(),
        });
        let moved = engine.filter(|_| ends[0].side != ends[1].side).map(|engine| SweptBy {
            engine,
            on_engine: ends.map(|end| end.side == Side::Engine),
            growth,
            ends_grow,
        });
        let rest = moved.map(|by| Swept::new(&linkage, by));
        Chain { first, ends, rest, linkage, growth, ends_grow }
    }

    /// What the sections between the ends of a chain ride on.
    fn ride(&self, run: &ResolvedRun, chain: &Chain, rides: &mut [Rides]) {
        let Chain { first, ends, linkage, .. } = chain;
        let skin = self.skin(run);
        for (part, rides) in rides.iter_mut().skip(*first).take(linkage.count()).enumerate() {
            let tied = chain.tied_to(part);
            *rides = match &chain.rest {
                _ if ends[0].side == ends[1].side => ends[0].side.into(),
                Some(Ok(swept)) => floating(swept, linkage, part, &self.hull(first + part), skin)
                    .map_or(tied.unwrap_or(Rides::Between), Rides::Floats),
                // Where it is not known how the engine moves or where they come to rest, what is tied to one side goes with
                // it. Metal all along gives nowhere; until that is mended it is somewhere between.
                Some(Err(_)) | None => tied.filter(|_| !linkage.is_rigid()).unwrap_or(Rides::Between),
            };
        }
    }

    /// Points whose hull holds the centre line of a section: its ends, where its bends begin and end, and their vertices.
    pub(super) fn hull(&self, section: usize) -> Vec<Point3<f64>> {
        let [from, to] = [self.joints[section].gap()[0], self.joints[section + 1].gap()[1]];
        let mut all = Vec::new();
        let mut travel = self.whole.setting_out();
        let mut station = 0.0;
        let straight = |at: &nook_geometry::Travel, station: f64, length: f64, all: &mut Vec<Point3<f64>>| {
            let [first, last] = [from.max(station), to.min(station + length)];
            if last >= first {
                all.extend([first, last].map(|s| at.straight(s - station).at));
            }
        };
        for leg in self.whole.legs() {
            straight(&travel, station, leg.straight, &mut all);
            travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
            station += leg.straight;
            let end = station + leg.bend.length();
            if end > from && station < to {
                // A bend that turns further than a half has no vertex: of its two halves.
                let half = leg.bend.angle / 2.0;
                let setback = leg.bend.radius * (half / 2.0).tan();
                let middle = travel.bend(leg.bend.radius, half);
                all.extend([travel.at, travel.straight(setback).at, middle.at, middle.straight(setback).at]);
                all.push(middle.bend(leg.bend.radius, half).at);
            }
            travel = travel.bend(leg.bend.radius, leg.bend.angle);
            station = end;
        }
        straight(&travel, station, self.whole.last(), &mut all);
        all
    }

    /// How far in mm anything of the pipe stands out from its centre line, at most; corners of its pies too.
    pub(super) fn skin(&self, run: &ResolvedRun) -> f64 {
        let tube = run.tube.od() / 2.0 + self.thickest_wrap();
        let joint = |joint: &super::SeatedJoint| {
            let screw = joint.spec.screw.map_or(0.0, |screw| screw.out);
            joint.widest / 2.0 + joint.spec.stands_out(joint.kind).max(screw)
        };
        // Saws are set over by 45 degrees at most.
        let supports = self.supports.iter().map(|support| run.tube.od() / 2.0 + support.kind.stands_out());
        let branches = self.branches.iter().map(|branch| run.tube.od() / 2.0 + branch.reach + branch.od / 2.0);
        self.joints.iter().map(joint).chain(supports).chain(branches).fold(tube * std::f64::consts::SQRT_2, f64::max)
    }
}

/// What a hose rides on: the side that everything that holds it is on; between two sides each point of it goes along by some
/// share of how the engine moves.
pub(super) fn hose_rides(run: &ResolvedRun) -> Rides {
    let ends = [End::A, End::B].into_iter().filter(|end| !run.is_open(*end)).map(|end| run.port(end).rides);
    let held = run.route.supports().iter().map(|support| support.to);
    let mut sides = ends.chain(held);
    let first = sides.next();
    first.filter(|first| sides.all(|side| side == *first)).map_or(Rides::Between, Rides::from)
}

/// How far round the box of both mouths a way is taken to go, in mm, where how it moves is told before there is one.
const ABOUT: f64 = 60.0;

/// How the one section of a run from engine to body moves, whatever way it takes between its mouths; `None` where nothing moves
/// it or it does not come to rest.
pub(super) fn floats_between_ports(run: &ResolvedRun) -> Option<Floating> {
    let engine = run.mounts().and_then(Mounts::movement)?;
    let joint = |end: End| {
        let (port, spec) = (run.port(end), run.joint(end).spec(run.tube.od()));
        let along = if end == End::A { port.out.vector() } else { -port.out.vector() };
        let at = port.at.inner() + port.out.vector() * (run.gap(end) / 2.0);
        let give = Compliance { angle: spec.give.angle.to_radians(), offset: spec.give.offset, axial: spec.give.axial };
        LinkageJoint { at, along, give }
    };
    let joints = [End::A, End::B].map(joint);
    let [low, high] = [joints[0].at.coords.inf(&joints[1].at.coords), joints[0].at.coords.sup(&joints[1].at.coords)];
    let [low, high] = [low.add_scalar(-ABOUT), high.add_scalar(ABOUT)];
    let corner =
        |k: usize| Point3::from(Vector::from_fn(|axis, _| if k & (1 << axis) == 0 { low[axis] } else { high[axis] }));
    let hull: [Point3<f64>; 8] = std::array::from_fn(corner);
    let linkage = Linkage::new(joints.to_vec());
    let growth = free_growth(&linkage, growth_of(run));
    let by = SweptBy {
        engine,
        on_engine: [End::A, End::B].map(|end| run.port(end).rides == Side::Engine),
        growth,
        ends_grow: Default::default(),
    };
    let swept = Swept::new(&linkage, by).ok()?;
    floating(&swept, &linkage, 0, &hull, run.tube.od() / 2.0 + run.insulation())
}

/// The turn of what is after a chain's nth joint to what is before it, about its axis, in radians.
fn turned_by(nth: usize, settled: &Settled, outer: &[Isometry3<f64>; 2]) -> Vector {
    let before = nth.checked_sub(1).and_then(|part| settled.parts.get(part)).unwrap_or(&outer[0]);
    let after = settled.parts.get(nth).unwrap_or(&outer[1]);
    (after.rotation * before.rotation.inverse()).scaled_axis()
}

/// By what share of its length a pipe grows from where it was made to where it runs. Source: handbook, "The sums", Joints and
/// Materials.
fn growth_of(run: &ResolvedRun) -> f64 {
    run.tube.material().expansion() * (run.celsius() - MADE_AT)
}

/// Growth, unless nothing gives at all: what is held at both ends is told of that for itself.
fn free_growth(linkage: &Linkage, growth: f64) -> f64 {
    if linkage.is_rigid() { 0.0 } else { growth }
}

fn linkage_joint(joint: &SeatedJoint) -> LinkageJoint {
    let give = joint.spec.give;
    let give = Compliance { angle: give.angle.to_radians(), offset: give.offset, axial: give.axial };
    LinkageJoint { at: joint.place, along: joint.along.vector(), give }
}

impl Chain {
    /// The side that joints without give tie its nth section to, if they do.
    fn tied_to(&self, part: usize) -> Option<Rides> {
        let stiff = |joints: &[LinkageJoint]| joints.iter().all(|joint| joint.give.is_none());
        let joints = self.linkage.joints();
        if stiff(&joints[..=part]) {
            Some(self.ends[0].side.into())
        } else if stiff(&joints[part + 1..]) {
            Some(self.ends[1].side.into())
        } else {
            None
        }
    }

    /// Where it comes to rest with the engine somewhere, cold or hot, and where what holds its ends is; `None` where it does
    /// not.
    fn settled(&self, engine: Isometry3<f64>, roll: f64, hot: bool) -> Option<(Settled, [Isometry3<f64>; 2])> {
        let outer = std::array::from_fn(|end: usize| {
            let pose = if self.ends[end].side == Side::Engine { engine } else { Isometry3::identity() };
            if hot { pose * Translation3::from(self.ends_grow[end]) } else { pose }
        });
        let near = self.rest.as_ref().and_then(|rest| rest.as_ref().ok()).and_then(|swept| {
            let each = swept.rolls.iter().min_by(|p, q| (p.0 - roll).abs().total_cmp(&(q.0 - roll).abs()));
            each.map(|(_, settled)| settled)
        });
        let settled = self.linkage.settle(outer, if hot { self.growth } else { 0.0 }, near).ok()?;
        Some((settled, outer))
    }

    /// The engine's rolls and shifts at which its nth joint may take most.
    fn poses(&self, nth: usize) -> Vec<(f64, Vector)> {
        match &self.rest {
            Some(Ok(swept)) => swept.worst_of(nth, &self.linkage).into_iter().flatten().collect(),
            Some(Err(_)) => Vec::new(),
            None => vec![(0.0, Vector::zeros())],
        }
    }
}

impl Moves {
    /// How far in mm a section may lie beside what it rides on, hung in rubber.
    #[must_use]
    pub fn swings(&self, section: usize) -> f64 {
        self.swings.get(section).copied().unwrap_or(0.0)
    }

    /// Whether supports of one section are on both sides.
    #[must_use]
    pub const fn is_torn(&self) -> bool {
        self.torn
    }

    /// How the engine moves; `None` where nobody said.
    #[must_use]
    pub const fn engine(&self) -> Option<&Movement> {
        self.engine.as_ref()
    }

    /// Sections that dangle towards an open end, each with the joint from which they do.
    pub fn dangling(&self) -> impl Iterator<Item = (Option<JointId>, [usize; 2])> {
        self.dangling.iter().copied()
    }

    /// The chain that does not come to rest, and why.
    ///
    /// Metal from side to side is told even where nobody said how the engine moves.
    pub fn not_settled(&self) -> impl Iterator<Item = (&Chain, NotSettled)> {
        self.chains.iter().filter_map(|chain| match chain.rest {
            Some(Err(why)) => Some((chain, why)),
            None if chain.ends[0].side != chain.ends[1].side && chain.linkage.is_rigid() => {
                Some((chain, NotSettled::Tied))
            }
            Some(Ok(_)) | None => None,
        })
    }

    /// What each joint that gives takes at its worst: over the engine's roll and shift, cold and hot. The worst pose is found
    /// from how a joint answers to a shift and settled once more exactly there.
    #[must_use]
    pub fn uses(&self, pipe: &Assembly) -> Vec<JointUse> {
        let each = self.chains.iter().flat_map(|chain| {
            let joints = chain.linkage.joints().iter().enumerate().filter(|(_, joint)| !joint.give.is_none());
            joints.filter_map(|(nth, _)| self.worst(chain, nth, pipe.joints.get(chain.first + nth)?))
        });
        each.collect()
    }

    fn worst(&self, chain: &Chain, nth: usize, joint: &SeatedJoint) -> Option<JointUse> {
        let give = &chain.linkage.joints()[nth].give;
        let mut worst: Option<(f64, JointErrors, f64, Vector, bool)> = None;
        // Where nothing moves it heat alone does.
        let heats: &[bool] = if chain.rest.is_none() { &[true] } else { &[false, true] };
        for (roll, shift) in chain.poses(nth) {
            for hot in heats.iter().copied().filter(|hot| !hot || chain.grows() || heats.len() == 1) {
                let Some((settled, outer)) = chain.settled(self.engine_at(roll, shift), roll, hot) else { continue };
                let mut errors = settled.joints[nth];
                if joint.in_bend {
                    // What twists one leg of an elbow bends the other.
                    errors.angle = turned_by(nth, &settled, &outer);
                }
                let share = errors.share(give);
                if worst.as_ref().is_none_or(|worst| share > worst.0) {
                    worst = Some((share, errors, roll, shift, hot));
                }
            }
        }
        let (share, errors, roll, shift, hot) = worst?;
        Some(JointUse {
            joint: joint.id,
            errors,
            share,
            roll,
            shift,
            hot,
            sections: self.sections_at(roll, shift, hot),
        })
    }

    /// Where the engine is, rolled by so much, in radians, and shifted, in mm.
    fn engine_at(&self, roll: f64, shift: Vector) -> Isometry3<f64> {
        let Some(engine) = &self.engine else { return Isometry3::identity() };
        let Turning { from, to, .. } = engine.roll;
        let mut pose = engine.roll.at(roll.clamp(from, to));
        pose.translation.vector += shift;
        pose
    }

    /// How each section has moved with the engine there; those that do not come to rest not at all.
    #[must_use]
    pub fn sections_at(&self, roll: f64, shift: Vector, hot: bool) -> Vec<Isometry3<f64>> {
        let engine = self.engine_at(roll, shift);
        let mut all = vec![Isometry3::identity(); self.rides.len()];
        for chain in &self.chains {
            if let Some((settled, _)) = chain.settled(engine, roll, hot) {
                for (pose, part) in all.iter_mut().skip(chain.first).zip(settled.parts) {
                    *pose = part;
                }
            }
            if let Some((section, _)) = chain.ends[1].held
                && chain.ends[1].side == Side::Engine
            {
                all[section] = engine;
            }
        }
        all
    }
}

impl Chain {
    fn grows(&self) -> bool {
        self.growth != 0.0 || self.ends_grow.iter().any(|by| by.norm() > 0.0)
    }
}

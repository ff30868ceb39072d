//! How the rigid sections of a pipe move as the engine does, and what its joints take of that.

use nalgebra::{Isometry3, Point3};

use super::Assembly;
use crate::measure::{End, Mounts, Side};
use crate::route::{JointId, ResolvedRun};
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
    /// Whether the pipe comes to rest wherever the engine is; `None` where nothing moves it, or nobody said how the engine
    /// moves.
    pub rest: Option<Result<Swept, NotSettled>>,
    linkage: Linkage,
    growth: f64,
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
    /// and supports": the sum of squares of use is least, a joint without give ties, growth is taken from the same give.
    #[must_use]
    pub fn moves(&self, run: &ResolvedRun) -> Moves {
        let linkage = self.linkage();
        let growth = growth_of(run);
        let sides = [End::A, End::B].map(|end| run.port(end).rides);
        let engine = run.mounts().and_then(Mounts::movement);
        let count = linkage.count();
        if sides[0] == sides[1] {
            return Moves { rides: vec![sides[0].into(); count], rest: None, linkage, growth };
        }
        let Some(engine) = engine else {
            return Moves { rides: self.unsettled_rides(run), rest: None, linkage, growth };
        };
        let by = SweptBy {
            engine,
            on_engine: sides.map(|side| side == Side::Engine),
            growth: free_growth(&linkage, growth),
        };
        let rest = Swept::new(&linkage, by);
        let rides = match &rest {
            Err(_) => self.unsettled_rides(run),
            Ok(swept) => {
                let skin = self.skin(run);
                let section = |section: usize| {
                    let hull = self.hull(section);
                    match floating(swept, &linkage, section, &hull, skin) {
                        Some(floats) => Rides::Floats(floats),
                        None => self.tied_to(run, section).unwrap_or(Rides::Between),
                    }
                };
                (0..count).map(section).collect()
            }
        };
        Moves { rides, rest: Some(rest), linkage, growth }
    }

    fn linkage(&self) -> Linkage {
        let joint = |joint: &super::SeatedJoint| {
            let give = joint.spec.give;
            let give = Compliance { angle: give.angle.to_radians(), offset: give.offset, axial: give.axial };
            LinkageJoint { at: joint.place, along: joint.along.vector(), give }
        };
        Linkage::new(self.joints.iter().map(joint).collect())
    }

    /// The side that joints without give tie a section to, if they do.
    fn tied_to(&self, run: &ResolvedRun, section: usize) -> Option<Rides> {
        let stiff = |joints: &[super::SeatedJoint]| joints.iter().all(|joint| joint.spec.give.is_none());
        if stiff(&self.joints[..=section]) {
            Some(run.port(End::A).rides.into())
        } else if stiff(&self.joints[section + 1..]) {
            Some(run.port(End::B).rides.into())
        } else {
            None
        }
    }

    /// What sections ride on where it is not known how the engine moves or where they come to rest: what is tied to one side
    /// goes with it, and anything else may be anywhere between.
    fn unsettled_rides(&self, run: &ResolvedRun) -> Vec<Rides> {
        let count = self.joints.len().saturating_sub(1);
        let rigid = self.joints.iter().all(|joint| joint.spec.give.is_none());
        // Metal all along gives nowhere; until that is mended it is somewhere between.
        let of = |section: usize| self.tied_to(run, section).filter(|_| !rigid).unwrap_or(Rides::Between);
        (0..count).map(of).collect()
    }

    /// Points whose hull holds the centre line of a section: its ends, where its bends begin and end, and their vertices.
    fn hull(&self, section: usize) -> Vec<Point3<f64>> {
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
    fn skin(&self, run: &ResolvedRun) -> f64 {
        let tube = run.tube.od() / 2.0 + self.thickest_wrap();
        let joint = |joint: &super::SeatedJoint| {
            let screw = joint.spec.screw.map_or(0.0, |screw| screw.out);
            joint.widest / 2.0 + joint.spec.stands_out(joint.kind).max(screw)
        };
        // Saws are set over by 45 degrees at most.
        self.joints.iter().map(joint).fold(tube * std::f64::consts::SQRT_2, f64::max)
    }
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
    let by = SweptBy { engine, on_engine: [End::A, End::B].map(|end| run.port(end).rides == Side::Engine), growth };
    let swept = Swept::new(&linkage, by).ok()?;
    floating(&swept, &linkage, 0, &hull, run.tube.od() / 2.0 + run.insulation())
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

impl Moves {
    /// What each joint that gives takes at its worst: over the engine's roll and shift, cold and hot. The worst pose is found
    /// from how a joint answers to a shift and settled once more exactly there.
    #[must_use]
    pub fn uses(&self, pipe: &Assembly) -> Vec<JointUse> {
        match &self.rest {
            Some(Ok(swept)) => {
                let engine = swept.by().engine;
                let joints = pipe.joints.iter().enumerate().filter(|(_, joint)| !joint.spec.give.is_none());
                joints.filter_map(|(index, joint)| self.worst(index, joint.id, swept, &engine)).collect()
            }
            Some(Err(_)) => Vec::new(),
            None => {
                let still = [Isometry3::identity(); 2];
                let Ok(hot) = self.linkage.settle(still, free_growth(&self.linkage, self.growth), None) else {
                    return Vec::new();
                };
                let joints = pipe.joints.iter().enumerate().filter(|(_, joint)| !joint.spec.give.is_none());
                let each = joints.map(|(index, joint)| self.used(index, joint.id, &hot, (0.0, Vector::zeros()), true));
                each.collect()
            }
        }
    }

    fn used(&self, index: usize, joint: JointId, at: &Settled, (roll, shift): (f64, Vector), hot: bool) -> JointUse {
        let errors = at.joints[index];
        JointUse {
            joint,
            errors,
            share: errors.share(&self.linkage.joints()[index].give),
            roll,
            shift,
            hot,
            sections: at.parts.clone(),
        }
    }

    fn worst(&self, index: usize, joint: JointId, swept: &Swept, engine: &Movement) -> Option<JointUse> {
        let by = swept.by();
        let poses = swept.worst_of(index, &self.linkage);
        let near = |roll: f64| {
            let each = swept.rolls.iter().min_by(|p, q| (p.0 - roll).abs().total_cmp(&(q.0 - roll).abs()));
            each.map(|(_, settled)| settled)
        };
        let mut worst: Option<JointUse> = None;
        for (roll, shift) in poses.into_iter().flatten() {
            let Turning { from, to, .. } = engine.roll;
            let place = by.engine_at(roll.clamp(from, to), shift);
            let outer = by.on_engine.map(|on| if on { place } else { Isometry3::identity() });
            for growth in [0.0, by.growth] {
                let Ok(settled) = self.linkage.settle(outer, growth, near(roll)) else { continue };
                let used = self.used(index, joint, &settled, (roll, shift), growth != 0.0);
                if worst.as_ref().is_none_or(|worst| used.share > worst.share) {
                    worst = Some(used);
                }
            }
        }
        worst
    }
}

//! What comes out as one when a section of a pipe is parted, and what stays. Source: handbook, "Joints, fittings, hoses and
//! supports", Getting it apart.

use nalgebra::Point3;
use serde::Serialize;
use thiserror::Error;
use utoipa::ToSchema;

use crate::assembly::{Assembly, Over, SeatedJoint};
use crate::environment::{Scans, keep_out_obstacle};
use crate::job::Job;
use crate::join::{HOSE, JointKind, OverKind, SupportKind};
use crate::measure::{End, EndForm, KeepOut, KeepOutId, KeepOutKind, KeepOutShape, RunId, facets};
use crate::neighbours::{outside_obstacle, pipe_obstacle};
use crate::part_ref::PartRef;
use crate::route::{JointId, ResolvedRun};
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::clearance::{Carried, Envelope, EnvelopePart, Obstacle, Rides, Span};

/// A section that is to come out, and what stays.
#[derive(Debug)]
pub struct TakenOut {
    /// The section with its flanges, its tabs and the hoses that were slid onto it.
    pub body: Carried,
    /// Everything that stays, the engine at rest: the bonnet open, the car on stands.
    pub stays: Vec<Obstacle>,
    /// What each of them is.
    pub remaining: Vec<Remaining>,
    /// The box round all of that, in mm.
    pub bounds: [Point3<f64>; 2],
    /// How it is pulled first, in mm, as its joints want to be parted.
    pub pull: Vector,
}

/// Something that stays in the bay.
#[derive(Debug, Clone, PartialEq)]
pub struct Remaining {
    /// What.
    pub part: BayPart,
    /// What it is called.
    pub name: String,
    /// Whether it may be taken off first.
    pub comes_off: bool,
}

/// A part of the bay that comes off by itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(tag = "part", rename_all = "snake_case")]
pub enum BayPart {
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
    /// A whole pipe.
    Run {
        /// Which.
        run: RunId,
    },
    /// A section of a pipe.
    Section {
        /// Of which.
        run: RunId,
        /// Which, from 0 at A.
        section: usize,
    },
}

/// Why a section cannot be parted from the rest.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum NotParted {
    /// The job has no such run.
    #[error("this job has no run {}; it may have been removed", .0.0)]
    NoSuchRun(RunId),
    /// There is no pipe yet.
    #[error("there is no pipe yet: it needs a way that joins its ports")]
    NoPipe,
    /// The pipe has no such section.
    #[error("this pipe has {count} sections, and no section {}", section + 1)]
    NoSuchSection {
        /// The one asked for, from 0 at A.
        section: usize,
        /// How many there are.
        count: usize,
    },
    /// It is welded on.
    #[error("{name}: it is welded there, and comes off with a saw only")]
    Welded {
        /// Which joint.
        joint: JointId,
        /// What it is called.
        name: String,
    },
    /// Nothing of it is rigid.
    #[error(
        "it is a hose: undone at both ends it bends, and is drawn out by hand past what its nuts and clamps get by"
    )]
    Hose,
    /// A hose has no tube to be slid onto.
    #[error(
        "{name}: its hose is {need:.0} mm long and must be slid wholly onto one tube; the straights beside it are {have:.0} mm \
         at most"
    )]
    HoseStays {
        /// Which joint.
        joint: JointId,
        /// What it is called.
        name: String,
        /// How long the hose is, in mm.
        need: f64,
        /// The longer of the straights beside it, in mm.
        have: f64,
    },
}

/// Two faces that met are taken to be so far apart, in mm, once their bolts or bands are off: what a search needs to begin.
const PLAY: f64 = 2.5;

/// How many sections a run has; 0 where there is no pipe yet.
#[must_use]
pub fn section_count(job: &Job, id: RunId) -> usize {
    let Some(run) = job.run(id) else { return 0 };
    let run = Survey::new(job).settle(run);
    Assembly::build(&run).and_then(Result::ok).map_or(0, |pipe| pipe.sections().len())
}

/// What comes out with section `section` of a run, from 0 at A, and what stays once the parts `off` are off. Another pipe is
/// there until it is off as a whole.
///
/// # Errors
/// [`NotParted`] as its variants say.
pub fn taken_out(job: &Job, id: RunId, section: usize, scans: &Scans, off: &[BayPart]) -> Result<TakenOut, NotParted> {
    let survey = Survey::new(job);
    let run = &survey.settle(job.run(id).ok_or(NotParted::NoSuchRun(id))?);
    if run.hose.is_some() {
        return Err(NotParted::Hose);
    }
    let pipe = &Assembly::build(run).and_then(Result::ok).ok_or(NotParted::NoPipe)?;
    let sections = pipe.sections();
    let count = sections.len();
    if section >= count {
        return Err(NotParted::NoSuchSection { section, count });
    }
    let outside = pipe.envelope(run);
    let over = pipe.over(run);
    let ends = [&pipe.joints[section], &pipe.joints[section + 1]];
    let mut own = tube_of(&outside, pipe, section);
    let mut others: Vec<Vec<EnvelopePart>> = (0..count).map(|one| tube_of(&outside, pipe, one)).collect();
    // What stays on a tube as its joints are parted: flanges and tabs; hoses and bands of the joints that are parted do not.
    for one in &over {
        let parted = ends.iter().any(|joint| joint.part(run) == one.of);
        let goes = |one: &Over| match one.what {
            OverKind::Flange | OverKind::Branch => true,
            OverKind::Support => is_tab(run, one.of),
            _ => false,
        };
        let halved =
            ends.iter().enumerate().find(|(_, joint)| joint.part(run) == one.of && one.what == OverKind::Flange);
        // A flange that is bolted straight to a port has no half of its own there: it is the tube's.
        let halved = halved.filter(|(_, joint)| joint.needs.gap > 0.0);
        if let Some((side, joint)) = halved {
            // Each of the two stays on the tube it is welded to; a port's own stays with the port.
            let [from, to] = joint.gap();
            let halves = [[from, joint.middle], [joint.middle, to]].map(|stations| half(one, stations));
            own.extend(halves[1 - side]);
            let neighbour = if side == 0 { section.checked_sub(1) } else { Some(section + 1) };
            if let Some(parts) = neighbour.and_then(|at| others.get_mut(at)) {
                parts.extend(halves[side]);
            }
        } else if one.section == section {
            if goes(one) {
                own.push(bar(one));
            }
        } else if !parted || goes(one) {
            others[one.section].push(bar(one));
        }
    }
    let mut pull = Vector::zeros();
    for (side, joint) in ends.into_iter().enumerate() {
        pull += pulled(run, joint, side)?;
        if joint.kind.has_hose() && !joint.kind.is_pulled_off() {
            slide(run, pipe, joint, section, side, &mut own, &mut others)?;
        }
    }
    let mut stays: Vec<Obstacle> = Vec::new();
    let mut remaining: Vec<Remaining> = Vec::new();
    let mut stay = |obstacle: Obstacle, of: Remaining| {
        stays.push(obstacle);
        remaining.push(of);
    };
    let is_off = |part: BayPart| off.contains(&part);
    let mut bounds = Bounds::default();
    for keep_out in job.keep_outs().iter().filter(|one| stands(one)) {
        let still = KeepOut { swing: None, ..keep_out.clone() };
        let part = BayPart::KeepOut { keep_out: keep_out.id };
        if let Some(obstacle) = keep_out_obstacle(&survey, &still, scans).filter(|_| !is_off(part)) {
            let name = keep_out.name.as_str().to_owned();
            stay(obstacle, Remaining { part, name, comes_off: keep_out.comes_off });
            bounds.hold_shape(&survey, &still, scans);
        }
    }
    for other in job.runs().iter().filter(|other| other.id != id) {
        let settled = survey.settle(other);
        let part = BayPart::Run { run: other.id };
        if let Some(obstacle) = pipe_obstacle(&settled, 0.0).filter(|_| !is_off(part)) {
            stay(obstacle, Remaining { part, name: other.name.as_str().to_owned(), comes_off: true });
            if let Some(Ok(pipe)) = Assembly::build(&settled) {
                pipe.envelope(&settled).all().for_each(|part| bounds.hold(part));
            }
        }
    }
    for (other, parts) in others.iter().enumerate().filter(|(other, parts)| *other != section && !parts.is_empty()) {
        let part = BayPart::Section { run: id, section: other };
        if !is_off(part) {
            parts.iter().for_each(|part| bounds.hold(part));
            let obstacle = outside_obstacle(&Envelope::new(&[], parts.clone(), pipe.whole.length()), 0.0);
            stay(obstacle, Remaining { part, name: format!("section {}", other + 1), comes_off: true });
        }
    }
    let body = Carried::new(own);
    // Where nothing stays it is out once it has left where it sat.
    let bounds = bounds.0.unwrap_or([body.home().at; 2]);
    Ok(TakenOut { body, stays, remaining, bounds, pull })
}

/// Whether a thing stays in the bay while pipes are taken out: the bonnet is open, the wheels do not turn, the car is on stands.
fn stands(one: &KeepOut) -> bool {
    !matches!(one.kind, KeepOutKind::Bonnet | KeepOutKind::Sweep | KeepOutKind::Ground)
}

fn is_tab(run: &ResolvedRun, of: PartRef) -> bool {
    let PartRef::Support { support, .. } = of else { return false };
    run.route.support(support).is_some_and(|support| support.kind == SupportKind::Tab)
}

/// The tube of a section, cut square at its ends and there so much shorter that faces which met have their play.
fn tube_of(outside: &Envelope, pipe: &Assembly, section: usize) -> Vec<EnvelopePart> {
    let [from, to] = pipe.sections()[section];
    let short = |joint: &SeatedJoint| (PLAY - joint.needs.gap).max(0.0);
    let [from, to] = [from + short(&pipe.joints[section]), to - short(&pipe.joints[section + 1])];
    let own = |part: &EnvelopePart| {
        let cut = part.between([from, to])?;
        Some(EnvelopePart { rides: Rides::Body, ..cut })
    };
    outside.tube().iter().filter_map(own).filter(|part| part.span.length() > 1e-6).collect()
}

/// Something over the tube, a little short of the face it may meet.
fn bar(over: &Over) -> EnvelopePart {
    let [from, to] = [over.from, over.to].map(Point3::from);
    let way = to - from;
    let short = if over.what == OverKind::Flange { (PLAY / 2.0).min(way.norm() / 3.0) } else { 0.0 };
    let aside = way.try_normalize(1e-9).unwrap_or_else(Vector::zeros) * short;
    let span = Span::between(from + aside, to - aside);
    EnvelopePart { span, radius: over.radius, rides: Rides::Body, stations: over.stations, square: [true; 2] }
}

/// What of a ring lies between two stations, a little short of the face it may meet; `None` where that is nothing.
fn half(over: &Over, [from, to]: [f64; 2]) -> Option<EnvelopePart> {
    let [first, last] = [from.max(over.stations[0]), to.min(over.stations[1])];
    let (whole, long) = (over.stations[1] - over.stations[0], last - first);
    if long <= 1e-6 || whole <= 0.0 {
        return None;
    }
    let ends = [over.from, over.to].map(Point3::from);
    let at = |station: f64| ends[0] + (ends[1] - ends[0]) * ((station - over.stations[0]) / whole);
    let short = (PLAY / 2.0).min(long / 3.0);
    let span = Span::between(at(first + short), at(last - short));
    Some(EnvelopePart { span, radius: over.radius, rides: Rides::Body, stations: [first, last], square: [true; 2] })
}

/// How a joint at one side of a section wants it pulled, in mm: away from the joint.
fn pulled(run: &ResolvedRun, joint: &SeatedJoint, side: usize) -> Result<Vector, NotParted> {
    let form = joint.end.map(|end| run.port(end).form);
    let by = match joint.kind {
        JointKind::Coupler
        | JointKind::Hump
        | JointKind::Sleeve
        | JointKind::Bellows
        | JointKind::HoseEnd
        | JointKind::Open => 0.0,
        // Pulled off the section's tube by its seat.
        JointKind::Reducer | JointKind::Elbow => joint.needs.seats[1 - side],
        JointKind::VBand | JointKind::VBandSeal => 4.0,
        JointKind::RigidClamp => 8.0,
        JointKind::Flange => 3.0,
        JointKind::Slip => 45.0,
        JointKind::Metal => match form {
            Some(EndForm::Flanged) => 3.0,
            Some(EndForm::Threaded) => 20.0,
            _ => return Err(NotParted::Welded { joint: joint.id, name: run.joint_name(joint.id) }),
        },
    };
    // The joint before a section is pulled away from along travel, the one after it against that.
    let along = joint.sides[1 - side].1.vector();
    Ok(along * if side == 0 { by } else { -by })
}

/// Slides a joint's hose wholly onto the section's own tube, or onto the one that stays; a port's neck is taken to be as long
/// as the hose needs, since nobody said how long it is.
fn slide(
    run: &ResolvedRun,
    pipe: &Assembly,
    joint: &SeatedJoint,
    section: usize,
    side: usize,
    own: &mut Vec<EnvelopePart>,
    others: &mut [Vec<EnvelopePart>],
) -> Result<(), NotParted> {
    let Some(need) = joint.needs.hose() else { return Ok(()) };
    let [before, after] = straights_beside(pipe, joint);
    let (mine, its) = if side == 0 { (after, before) } else { (before, after) };
    let ring = |backwards: bool| {
        let [from, to] = joint.gap();
        let along = joint.along.vector();
        let middle = |station: f64| joint.place + along * (station - joint.middle);
        let stations = if backwards { [from - need, from] } else { [to, to + need] };
        let span = Span::between(middle(stations[0]), middle(stations[1]));
        let radius = run.tube.od() / 2.0 + HOSE;
        EnvelopePart { span, radius, rides: Rides::Body, stations, square: [true; 2] }
    };
    if mine >= need {
        own.push(ring(side == 1));
        return Ok(());
    }
    if joint.end.is_some() {
        return Ok(());
    }
    if its >= need {
        let neighbour = if side == 0 { section.checked_sub(1) } else { Some(section + 1) };
        if let Some(parts) = neighbour.and_then(|one| others.get_mut(one)) {
            parts.push(ring(side == 0));
        }
        return Ok(());
    }
    let name = run.joint_name(joint.id);
    Err(NotParted::HoseStays { joint: joint.id, name, need, have: mine.max(its) })
}

/// How much straight tube there is before and after a joint, as far as the next bend or joint, in mm.
fn straights_beside(pipe: &Assembly, joint: &SeatedJoint) -> [f64; 2] {
    let [start, end] = pipe.straight_stations()[joint.leg];
    let [from, to] = joint.gap();
    let others = || pipe.joints.iter().filter(|one| one.is_on(joint.leg) && one.id != joint.id);
    let before = others().filter(|one| one.middle < joint.middle).map(|one| one.gap()[1]).fold(start, f64::max);
    let after = others().filter(|one| one.middle > joint.middle).map(|one| one.gap()[0]).fold(end, f64::min);
    let [before, after] = [from - before, after - to];
    match joint.end {
        Some(End::A) => [0.0, after],
        Some(End::B) => [before, 0.0],
        None => [before, after],
    }
}

/// The box round what stays; nothing round nothing.
#[derive(Default)]
struct Bounds(Option<[Point3<f64>; 2]>);

impl Bounds {
    fn point(&mut self, at: Point3<f64>, by: f64) {
        let by = Vector::repeat(by);
        let [low, high] = self.0.unwrap_or([at, at]);
        self.0 = Some([low.coords.inf(&(at.coords - by)).into(), high.coords.sup(&(at.coords + by)).into()]);
    }

    fn hold(&mut self, part: &EnvelopePart) {
        for share in [0.0, 0.25, 0.5, 0.75, 1.0] {
            // Between those an arc bulges by less than its radius of tube.
            self.point(part.span.at(part.span.length() * share).0, 2.0 * part.radius);
        }
    }

    fn hold_shape(&mut self, survey: &Survey<'_>, keep_out: &KeepOut, scans: &Scans) {
        let shape = survey.placed(keep_out);
        if let KeepOutShape::Scan(scan) = &shape {
            if let (Some(mesh), Ok(found)) = (scans.get(&scan.scan, scan.unit), survey.scan(keep_out.id, scan)) {
                let [low, high] = mesh.bounds();
                for corner in 0..8_u8 {
                    let pick = |axis: usize| if corner >> axis & 1 == 0 { low[axis] } else { high[axis] };
                    self.point(found.pose * Point3::new(pick(0), pick(1), pick(2)), 0.0);
                }
            }
            return;
        }
        facets(&shape).vertices.into_iter().for_each(|at| self.point(at.into(), 0.0));
    }
}

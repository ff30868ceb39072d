//! Where the screws of a pipe's joints stand so that a hand and a tool get to them. Source of the room they need: handbook,
//! "Joints, fittings, hoses and supports", Getting it apart.

use nalgebra::Point3;

use crate::assembly::{Assembly, SeatedJoint};
use crate::environment::{Environment, Thing};
use crate::join::{Reached, Screw, clamp_band};
use crate::measure::End;
use crate::neighbours::outside_obstacle;
use crate::route::{JointId, ResolvedRun};
use nook_geometry::clearance::{EnvelopePart, Obstacle, Rides, Span, nearest};
use nook_geometry::{Direction, Point, Travel};

/// How the screw of a joint is reached, the engine at rest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Reach {
    /// Which joint.
    pub joint: JointId,
    /// The clock it stands at, in degrees from up.
    pub clock: f64,
    /// Whether it is held there.
    pub held: bool,
    /// What hand and tool have beyond the room they need there, in mm; below 0 it is not reached.
    pub spare: f64,
    /// What is in the way first.
    pub by: Option<Thing>,
    /// Whether that is a live terminal that the tool would face.
    pub live: bool,
}

impl Reach {
    /// Whether a hand and a tool get there.
    #[must_use]
    pub fn is_reached(&self) -> bool {
        self.spare >= 0.0
    }
}

/// Clocks that are tried.
const CLOCKS: u32 = 24;
/// Room in mm across a hand, and how far from the screw it reaches.
const HAND: f64 = 60.0;
/// How long in mm a driver and the hand on it are, straight from the screw.
const DRIVER: f64 = 150.0;
/// How long in mm a socket is, along the bolt past its nut.
const SOCKET: f64 = 80.0;
/// How thick a driver's shank and a socket are, in mm. Ours: the handbook says how long.
const DRIVER_THICK: f64 = 16.0;
const SOCKET_THICK: f64 = 25.0;
/// More room than this is as good as any, in mm.
pub const AMPLE: f64 = 30.0;
/// A screw within so many degrees of up is the first thing seen.
const SEEN: f64 = 45.0;

/// How the screw of each joint of a pipe is reached, in their order; `None` for joints without one. One that is held stays; any
/// other turns to where there is most room, out of sight if it can.
#[must_use]
pub fn reached(run: &ResolvedRun, pipe: &Assembly, around: &Environment) -> Vec<Option<Reach>> {
    pipe.joints.iter().map(|joint| Some(best(run, pipe, joint, &joint.spec.screw?, around))).collect()
}

/// The pipe with its screws where they are best reached.
#[must_use]
pub fn turned(run: &ResolvedRun, pipe: Assembly, around: &Environment) -> (Assembly, Vec<Option<Reach>>) {
    let found = reached(run, &pipe, around);
    let clocks: Vec<Option<f64>> = found.iter().map(|reach| reach.map(|reach| reach.clock)).collect();
    (pipe.with_clocks(&clocks), found)
}

/// What a hand or a tool may meet.
#[derive(Clone, Copy)]
struct Near<'a> {
    obstacle: &'a Obstacle,
    thing: Thing,
    /// How far it must stay away, in mm: 0, or what a live terminal asks for.
    gap: f64,
}

fn best(run: &ResolvedRun, pipe: &Assembly, joint: &SeatedJoint, screw: &Screw, around: &Environment) -> Reach {
    let screws = seats(joint);
    // All that any clock can reach is near the joint.
    let far = DRIVER + screw.out + run.tube.od() + AMPLE;
    let ball = EnvelopePart {
        span: Span::between(screws[0].place, screws[screws.len() - 1].place),
        radius: far,
        rides: Rides::Body,
        stations: [0.0; 2],
        square: [false; 2],
    };
    let owns: Vec<Obstacle> = screws.iter().map(|seat| own_pipe(run, pipe, seat.leg)).collect();
    // How long a port's neck is nobody said: what the mouth stands on is not in the way of its own joint.
    let own_box = |index: usize| joint.end.is_some_and(|end| around.stands_on(end, index));
    let each = around.obstacles.iter().zip(&around.identities).enumerate();
    let near: Vec<Near<'_>> = each
        .filter(|(index, (obstacle, _))| !own_box(*index) && !obstacle.out_of_balls(&ball, None, 0.0))
        .map(|(_, (obstacle, identity))| {
            let gap = if identity.live { obstacle.gap } else { 0.0 };
            Near { obstacle, thing: identity.thing, gap }
        })
        .collect();
    let itself = |own| near.iter().copied().chain([Near { obstacle: own, thing: Thing::Itself, gap: 0.0 }]).collect();
    let near: Vec<Vec<Near<'_>>> = owns.iter().map(itself).collect();
    let at = |clock: f64| {
        let mut worst = Room { spare: AMPLE, by: None, live: false };
        for (seat, near) in screws.iter().zip(&near) {
            let room = at_clock(run, screw, *seat, clock, near);
            if room.spare < worst.spare {
                worst = room;
            }
        }
        Reach { joint: joint.id, clock, held: joint.held.is_some(), spare: worst.spare, by: worst.by, live: worst.live }
    };
    if let Some(held) = joint.held {
        return at(held);
    }
    let hidden = |clock: f64| clock.min(360.0 - clock) > SEEN;
    let clocks = || (0..CLOCKS).map(|k| f64::from(k) * 360.0 / f64::from(CLOCKS));
    // Out of sight first; ample room there is as good as it gets.
    let mut best: Option<Reach> = None;
    for clock in clocks().filter(|clock| hidden(*clock)).chain(clocks().filter(|clock| !hidden(*clock))) {
        let here = at(clock);
        if here.spare >= AMPLE && hidden(clock) {
            return here;
        }
        let better = best.is_none_or(|best| {
            let rank = |reach: &Reach| (reach.is_reached(), reach.is_reached() && hidden(reach.clock));
            rank(&here).cmp(&rank(&best)).then(here.spare.total_cmp(&best.spare)).is_gt()
        });
        if better {
            best = Some(here);
        }
    }
    best.unwrap_or_else(|| at(0.0))
}

/// What a screw sits on: the middle of that on the centre line, in mm, the direction of travel there, and on which leg.
#[derive(Clone, Copy)]
struct Seat {
    place: Point3<f64>,
    along: Direction,
    leg: usize,
}

/// What a joint's screws sit on: the pipe's clamps on a hose, or the band.
fn seats(joint: &SeatedJoint) -> Vec<Seat> {
    if !joint.kind.has_hose() {
        return vec![Seat { place: joint.place, along: joint.along, leg: joint.leg }];
    }
    let [near, far] = clamp_band();
    let reach = f64::midpoint(near, far);
    let [(first, into), (last, out)] = joint.sides;
    let before = Seat { place: first - into.vector() * reach, along: into, leg: joint.leg };
    let after = Seat { place: last + out.vector() * reach, along: out, leg: joint.leg + usize::from(joint.in_bend) };
    let before = (joint.end != Some(End::A)).then_some(before);
    let after = (joint.end != Some(End::B)).then_some(after);
    before.into_iter().chain(after).collect()
}

/// The pipe itself away from one of its straights, as something to meet.
pub(crate) fn own_pipe(run: &ResolvedRun, pipe: &Assembly, leg: usize) -> Obstacle {
    let before = pipe.whole.legs().iter().take(leg);
    let begin: f64 = before.map(|step| step.straight + step.bend.length()).sum();
    let end = begin + pipe.whole.straights().nth(leg).unwrap_or(0.0);
    let radius = run.tube.od() / 2.0;
    let mut parts: Vec<EnvelopePart> = Vec::new();
    let mut travel = pipe.whole.setting_out();
    let mut station = 0.0;
    let mut add = |span: Span, from: f64, to: f64| {
        if to <= begin + 1e-6 || from >= end - 1e-6 {
            parts.push(EnvelopePart { span, radius, rides: Rides::Body, stations: [from, to], square: [true; 2] });
        }
    };
    for leg in pipe.whole.legs() {
        add(Span::straight(&travel, leg.straight), station, station + leg.straight);
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
        station += leg.straight;
        add(Span::arc(&travel, leg.bend.radius, leg.bend.angle), station, station + leg.bend.length());
        travel = travel.bend(leg.bend.radius, leg.bend.angle);
        station += leg.bend.length();
    }
    add(Span::straight(&travel, pipe.whole.last()), station, station + pipe.whole.last());
    let envelope = nook_geometry::clearance::Envelope::new(&parts, Vec::new(), pipe.whole.length());
    outside_obstacle(&envelope, 0.0)
}

/// Room at one clock.
struct Room {
    spare: f64,
    by: Option<Thing>,
    live: bool,
}

/// What a hand from outside and a tool from the freer of its sides have at one screw.
fn at_clock(run: &ResolvedRun, screw: &Screw, Seat { place, along, .. }: Seat, clock: f64, near: &[Near<'_>]) -> Room {
    let origin = Point::new(place.x, place.y, place.z).unwrap_or_default();
    let out = Travel::start(origin, along).at_clock(clock.to_radians()).into_inner();
    let side = along.vector().cross(&out);
    let head = place + out * (run.tube.od() / 2.0 + screw.out / 2.0);
    let hand = bar(head + out * (HAND / 2.0), head + out * HAND, HAND);
    let hand = spare(&hand, near);
    let tool = |sign: f64| {
        let way = side * sign;
        match screw.reached {
            Reached::Driver => {
                let from = screw.girth / 2.0;
                bar(head + way * from, head + way * (from + DRIVER), DRIVER_THICK)
            }
            Reached::Socket => {
                let from = screw.girth / 2.0;
                bar(head + way * from, head + way * (from + SOCKET), SOCKET_THICK)
            }
            Reached::Hand => bar(head, head + out, 1.0),
        }
    };
    let [one, other] = [-1.0, 1.0].map(|sign| spare(&tool(sign), near));
    let tool = if one.spare >= other.spare { one } else { other };
    if tool.spare < hand.spare { tool } else { hand }
}

fn bar(from: Point3<f64>, to: Point3<f64>, thick: f64) -> EnvelopePart {
    let span = Span::between(from, to);
    EnvelopePart { span, radius: thick / 2.0, rides: Rides::Body, stations: [0.0, span.length()], square: [false; 2] }
}

/// What a body has left to everything near, at most [`AMPLE`].
fn spare(body: &EnvelopePart, near: &[Near<'_>]) -> Room {
    let mut room = Room { spare: AMPLE, by: None, live: false };
    for thing in near {
        let Some(found) = nearest([body], thing.obstacle, None, room.spare + thing.gap) else { continue };
        let left = found.gap - thing.gap;
        if left < room.spare {
            room = Room { spare: left, by: Some(thing.thing), live: thing.gap > 0.0 };
        }
    }
    room
}

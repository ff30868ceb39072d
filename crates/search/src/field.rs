//! What a way of one run has to keep from, made ready for asking thousands of times.

use nalgebra::Point3;
use smallvec::SmallVec;

use nook_core::assembly::rides;
use nook_core::environment::{Environment, FROM_ITSELF, Thing};
use nook_core::measure::{End, KeepOutId};
use nook_core::route::{
    BendMake, PieCut, PieEnds, ResolvedRun, RouteConstraints, RouteGeometry, least_straights, usual_seams,
};
use nook_geometry::Vector;
use nook_geometry::clearance::{
    Convex, Counted, Envelope, EnvelopePart, Movement, Moves, Nearest, Obstacle, Part, Rides, Solid, Span, TOLERANCE,
    nearest, nearest_to_itself,
};

/// The things around a run with the gaps a way keeps from them.
pub(super) struct Field<'a> {
    pub(super) run: &'a ResolvedRun,
    pub(super) around: &'a Environment,
    /// What the joints and first bends cannot keep from, near each mouth.
    eased: [Vec<Eased>; 2],
    /// The bans, as obstacles that ask for no air.
    bans: Vec<Obstacle>,
    /// What the tube rides on.
    rides: Rides,
    /// How it moves against each obstacle, bans after the others.
    moves: Vec<Moves>,
    /// How far in mm that brings it nearer to each, at most.
    travels: Vec<f64>,
    /// Length of joint at A and B in mm, which every way begins and ends with.
    joints: [f64; 2],
    /// Air in mm that is left beyond what is asked.
    spare: f64,
}

/// An obstacle that a mouth stands too near to: no way can help that, so near the mouth ways are only asked for what there
/// is. They are told by how much they fall short all the same.
#[derive(Debug, Clone, Copy)]
struct Eased {
    obstacle: usize,
    /// How far from the mouth, in mm: what a bend needs to gain what is missing.
    reach: f64,
    /// The gap asked for there, in mm.
    asked: f64,
}

/// Air in mm that ways are given beyond what is asked, so that pies, whose corners stand out of the arc, keep it too.
const SPARE: f64 = 0.2;
/// Longest straight in mm that is asked about in one: one answer of a long one would let its far end drift.
const LONGEST: f64 = 140.0;

/// A place where a way comes near something.
#[derive(Debug, Clone, Copy)]
pub(super) struct Contact {
    /// Which span of the way.
    pub(super) span: usize,
    /// How far along it, 0 to 1.
    pub(super) share: f64,
    /// The other place, span and share, where the way comes near itself.
    pub(super) other: Option<(usize, f64)>,
    /// By how much in mm the gap is more than asked.
    pub(super) left: f64,
    /// How the gap grows as the pipe moves.
    pub(super) away: Vector,
}

/// Something a pipe comes too near to.
#[derive(Debug, Clone, Copy)]
pub(super) struct Shortfall {
    /// What, by its place; `None` for the pipe itself.
    pub(super) obstacle: Option<usize>,
    pub(super) near: Nearest,
    /// The gap asked for, in mm.
    pub(super) asked: f64,
    /// The mouth that stands too near to it, so that no way can help.
    pub(super) mouth: Option<End>,
}

/// A part of a span and the gap it is asked for, both in mm.
type Asked = ([f64; 2], f64);

impl<'a> Field<'a> {
    pub(super) fn new(run: &'a ResolvedRun, around: &'a Environment, wishes: &RouteConstraints) -> Self {
        let least = least_straights(run, 1);
        let rides = rides(run);
        let bans = wishes.bans.iter().map(|ban| {
            let room = Convex::Ball { centre: ban.at.inner(), radius: ban.radius };
            let parts = vec![Part::new(Solid::Convex(room), None, rides)];
            Obstacle::new(0.0, parts)
        });
        let bans = bans.collect();
        let bans: Vec<Obstacle> = bans;
        let moving = around.movement.as_ref();
        let moves = around.obstacles.iter().map(|thing| thing.moves(rides, moving));
        let moves: Vec<Moves> = moves.chain(bans.iter().map(|ban| ban.moves(rides, None))).collect();
        let things = around.obstacles.iter().chain(&bans);
        let travels = things.zip(&moves).map(|(thing, moves)| thing.travel(moves)).collect();
        let joints = [least[0], least[1]];
        let mut field =
            Self { run, around, eased: Default::default(), bans, rides, moves, travels, joints, spare: SPARE };
        field.eased = [End::A, End::B].map(|end| field.eased_at(end));
        field
    }

    /// The same, with more air asked of everything.
    pub(super) fn roomier(self, by: f64) -> Self {
        Self { spare: SPARE + by, ..self }
    }

    /// What the tube has too near where it leaves the joint at `end`.
    fn eased_at(&self, end: End) -> Vec<Eased> {
        let joint = self.joints[usize::from(end == End::B)];
        let port = self.run.outlet(end);
        let at = port.at.inner() + port.out.vector() * joint;
        let tip = EnvelopePart {
            square: [true; 2],
            ..self.stretch(Span::between(at, at + port.out.vector() * 0.1), self.radius_at(None))
        };
        let radius = self.run.radius.get();
        let each = self.around.obstacles.iter().enumerate().filter_map(|(obstacle, thing)| {
            let near = nearest([&tip], thing, self.around.movement.as_ref(), thing.gap + self.spare)?;
            let missing = thing.gap + self.spare - near.gap;
            // A bend straight away from it gains that much over this length.
            let gained = radius * (1.0 - missing / radius).clamp(0.0, 1.0).acos();
            Some(Eased { obstacle, reach: joint + 1.2 * gained + 10.0, asked: near.gap - self.spare - TOLERANCE })
        });
        each.collect()
    }

    /// Which parts of a way of `length` mm, between two stations, must keep which gap from an obstacle.
    fn asked(&self, obstacle: usize, [from, to]: [f64; 2], length: f64) -> SmallVec<[Asked; 3]> {
        let gap = self.around.obstacles.get(obstacle).map_or(0.0, |thing| thing.gap);
        let [low, high] = self.around.limits(obstacle, length).unwrap_or([0.0, length]);
        let (from, to) = (from.max(low), to.min(high));
        let [a, b] = [0, 1].map(|end| self.eased[end].iter().find(|eased| eased.obstacle == obstacle));
        let mut all: SmallVec<[Asked; 3]> = SmallVec::new();
        let (mut start, mut end) = (from, to);
        if let Some(eased) = a.filter(|eased| eased.reach > from) {
            start = eased.reach.min(to);
            all.push(([from, start], eased.asked));
        }
        if let Some(eased) = b.filter(|eased| length - eased.reach < to) {
            end = (length - eased.reach).max(start);
            all.push(([end, to], eased.asked));
        }
        all.push(([start, end], gap));
        all.retain(|(range, _)| range[1] - range[0] > 1e-6);
        all
    }

    /// How far from the mouth at `end` a leg need not keep from an obstacle, in mm.
    fn excused(&self, obstacle: usize, end: End) -> f64 {
        let at = usize::from(end == End::B);
        let stands =
            self.around.limits(obstacle, 0.0).map_or(0.0, |limits| if at == 0 { limits[0] } else { -limits[1] });
        let stands = stands.max(0.0);
        let eased = self.eased[at].iter().find(|eased| eased.obstacle == obstacle).map_or(0.0, |eased| eased.reach);
        stands.max(eased)
    }

    fn stretch(&self, span: Span, radius: f64) -> EnvelopePart {
        EnvelopePart { span, radius, rides: self.rides, stations: [0.0, span.length()], square: [false; 2] }
    }

    /// Half the thickness of a bend of centre-line radius `clr`, or of a straight, in mm.
    fn radius_at(&self, clr: Option<f64>) -> f64 {
        let tube = self.run.tube.od() / 2.0 + self.run.insulation();
        // What is bent whole has no corners.
        let Some(clr) = clr.filter(|_| BendMake::usual(self.run.tube) != BendMake::Drawn) else { return tube };
        let seams = usual_seams(self.run.tube, clr, std::f64::consts::FRAC_PI_2);
        let saw = PieCut::new(self.run.tube.od(), clr, std::f64::consts::FRAC_PI_2, seams, PieEnds::Mitred).saw;
        // The corners of its pies stand out to this.
        tube + (clr + tube) * (1.0 / saw.cos() - 1.0)
    }

    /// Every obstacle, the gap it asks for and how it moves; bans come last and stay with the pipe.
    fn obstacles(&self) -> impl Iterator<Item = (usize, &Obstacle, Option<&Movement>)> {
        let moving = self.around.movement.as_ref();
        let things = self.around.obstacles.iter().map(move |thing| (thing, moving));
        things.chain(self.bans.iter().map(|ban| (ban, None))).enumerate().map(|(i, (o, moving))| (i, o, moving))
    }

    /// An obstacle by its place.
    pub(super) fn obstacle(&self, index: usize) -> Option<&Obstacle> {
        self.around.obstacles.get(index).or_else(|| self.bans.get(index - self.around.obstacles.len()))
    }

    /// Which an obstacle is, by its place.
    pub(super) fn identity(&self, index: usize) -> (Thing, &str) {
        let ban = (Thing::KeepOut { keep_out: KeepOutId(0) }, "place to keep out of");
        self.around.identities.get(index).map_or(ban, |identity| (identity.thing, identity.name.as_str()))
    }

    /// Every place where the way has less than `interest` mm more than is asked.
    pub(super) fn contacts(&self, route_geometry: &RouteGeometry, interest: f64) -> Vec<Contact> {
        let spans = route_geometry.spans();
        let mut all = Vec::new();
        let length: f64 = spans.iter().map(Span::length).sum();
        let mut station = 0.0;
        let mut tube = Vec::new();
        for (index, span) in spans.iter().enumerate() {
            let start = station;
            station += span.length();
            let (from, to) = (start.max(self.joints[0]), station.min(length - self.joints[1]));
            let negative = index % 2 == 0 && route_geometry.straights[index / 2] < 0.0;
            let bent = if index % 2 == 1 { route_geometry.radii.get(index / 2).copied() } else { None };
            let whole = EnvelopePart { stations: [start, station], ..self.stretch(*span, self.radius_at(bent)) };
            tube.push(whole);
            if negative || to - from < 1e-6 {
                continue;
            }
            // A ball that moves along stands out by its half beyond where it begins, so that much is left to it.
            let thick = whole.radius;
            for (thing, obstacle, moving) in self.obstacles() {
                if obstacle.out_of_ball(&whole, self.travels[thing], obstacle.gap + self.spare + interest) {
                    continue;
                }
                for ([low, high], asked) in self.asked(thing, [self.joints[0], length - self.joints[1]], length) {
                    let part = [from.max(low + thick) - start, to.min(high - thick) - start];
                    let long = part[1] - part[0];
                    if long < 1e-6 {
                        continue;
                    }
                    let count = if bent.is_some() { 1.0 } else { (long / LONGEST).ceil().max(1.0) };
                    let beyond = asked + self.spare + interest;
                    let mut k = 0.0;
                    while k < count {
                        let range = [part[0] + long * k / count, part[0] + long * (k + 1.0) / count];
                        k += 1.0;
                        if let Some(near) = obstacle.gap_to(&whole, range, moving, beyond) {
                            let Nearest { gap, station, away, .. } = near;
                            let share = (station - start) / span.length();
                            all.push(Contact { span: index, share, other: None, left: gap - asked - self.spare, away });
                        }
                    }
                }
            }
        }
        all.extend(self.contact_with_itself(&tube, length, interest));
        all
    }

    /// Where the way comes near itself.
    fn contact_with_itself(&self, tube: &[EnvelopePart], length: f64, interest: f64) -> Option<Contact> {
        let asked = FROM_ITSELF + self.spare;
        let pipe = Envelope::new(tube, Vec::new(), length);
        let near = nearest_to_itself(&pipe, asked + interest)?;
        let place = |station: f64| {
            let index = tube.iter().position(|part| station <= part.stations[1] + 1e-9)?;
            let [from, to] = tube[index].stations;
            Some((index, if to > from { (station - from) / (to - from) } else { 0.0 }))
        };
        let ((span, share), other) = (place(near.stations[0])?, place(near.stations[1])?);
        Some(Contact { span, share, other: Some(other), left: near.gap - asked, away: near.away })
    }

    /// By how much in mm a bare leg comes too near to things, roughly: the sum of the worst shortfall of each, or
    /// anything above `most`. Its ends are left out, where bends will cut the corner. `mouths` says how far along the
    /// pipe its start is from A's mouth and its end from B's, where it is near one.
    pub(super) fn leg_shortfall(
        &self,
        from: Point3<f64>,
        to: Point3<f64>,
        trims: [f64; 2],
        most: f64,
        mouths: [Option<f64>; 2],
    ) -> f64 {
        let span = Span::between(from, to);
        let whole = [trims[0], span.length() - trims[1]];
        if whole[1] - whole[0] < 1.0 {
            return 0.0;
        }
        let still = self.stretch(span, self.radius_at(None));
        // The worst of a roll is nearly always at one of its ends; where it is not, bringing a way to its best finds it.
        let rolled = |moves: &Movement, angle: f64| EnvelopePart {
            span: span.carried(&moves.roll.at(angle)),
            radius: still.radius + moves.shift,
            ..still
        };
        let mut short = 0.0;
        for (index, obstacle, moving) in self.obstacles() {
            let [mut start, mut end] = whole;
            if let Some(lead) = mouths[0] {
                start = start.max(self.excused(index, End::A) - lead);
            }
            if let Some(lead) = mouths[1] {
                end = end.min(span.length() - (self.excused(index, End::B) - lead));
            }
            if end - start < 1.0 || obstacle.out_of_ball(&still, self.travels[index], obstacle.gap) {
                continue;
            }
            let by =
                |stretch: &EnvelopePart| obstacle.rough_shortfall(stretch, [start, end], obstacle.gap, most - short);
            short += match moving {
                Some(moves) if obstacle.moves_against(still.rides) => {
                    let rolls = obstacle.rolls(still.rides, moves);
                    rolls.into_iter().map(|angle| by(&rolled(moves, angle))).fold(0.0, f64::max)
                }
                _ => by(&still),
            };
            if short > most {
                break;
            }
        }
        short
    }

    /// What of the obstacles may come nearer to a place than `beyond` mm more than is asked.
    pub(super) fn near(&self, at: &Point3<f64>, beyond: f64) -> Vec<(usize, SmallVec<[usize; 8]>)> {
        let radius = self.radius_at(None);
        let each = self.obstacles().map(|(index, obstacle, _)| {
            (index, obstacle.parts_near(at, &self.moves[index], obstacle.gap + radius + beyond))
        });
        each.filter(|(_, parts)| !parts.is_empty()).collect()
    }

    /// How much more than is asked a ball as thick as the tube has at a place, in mm, at most `most`. What the mouths
    /// stand on, or too near to, asks nothing round them.
    pub(super) fn margin(&self, near: &[(usize, SmallVec<[usize; 8]>)], at: &Point3<f64>, most: f64) -> f64 {
        let radius = self.radius_at(None);
        let mouths = [End::A, End::B].map(|end| (end, (at - self.run.outlet(end).at.inner()).norm()));
        let mut least = most;
        for (index, parts) in near {
            let Some(obstacle) = self.obstacle(*index) else { continue };
            if mouths.iter().any(|(end, far)| *far < self.excused(*index, *end)) {
                continue;
            }
            let asked = obstacle.gap + radius;
            least = least.min(obstacle.rough_distance(parts, at, &self.moves[*index], least + asked) - asked);
        }
        least
    }

    /// What a pipe comes too near to, as it will be built. What the mouths themselves have too near is told apart from what
    /// another way might help.
    pub(super) fn shortfalls(&self, pipe: &Counted<'_>) -> SmallVec<[Shortfall; 4]> {
        let mut all = SmallVec::new();
        let length = pipe.envelope().length();
        for (index, obstacle, moving) in self.obstacles() {
            let outside = pipe.against(index);
            let Some(worst) = nearest(outside.all(), obstacle, moving, obstacle.gap) else { continue };
            let mut told = |near: Nearest, mouth| {
                all.push(Shortfall { obstacle: Some(index), near, asked: obstacle.gap, mouth });
            };
            let [a, b] = [0, 1].map(|end| self.helpless(index, end));
            let mouth = if worst.station <= a {
                Some(End::A)
            } else if worst.station >= length - b {
                Some(End::B)
            } else {
                None
            };
            told(worst, mouth);
            if mouth.is_some()
                && let Some(rest) = nearest(outside.between([a, length - b]).all(), obstacle, moving, obstacle.gap)
            {
                told(rest, None);
            }
        }
        if let Some(near) = nearest_to_itself(pipe.envelope(), FROM_ITSELF) {
            let stations = near.stations;
            let near = Nearest { gap: near.gap, station: stations[0], at: near.at[0], roll: 0.0, away: near.away };
            // Where it is the two joints that cross, no way between them helps.
            let fixed = stations[0] <= self.joints[0] && stations[1] >= length - self.joints[1];
            all.push(Shortfall { obstacle: None, near, asked: FROM_ITSELF, mouth: fixed.then_some(End::A) });
        }
        all
    }

    /// How far from a mouth, in mm, no way can help what is too near.
    fn helpless(&self, obstacle: usize, end: usize) -> f64 {
        let eased = self.eased[end].iter().find(|eased| eased.obstacle == obstacle).map_or(0.0, |eased| eased.reach);
        eased.max(self.joints[end])
    }

    /// The least air in mm left beyond what is asked, along a pipe as it will be built; at most `most`.
    pub(super) fn pipe_margin(&self, pipe: &Counted<'_>, most: f64) -> f64 {
        let mut least = most;
        // Square ends take longer to measure: by then there is mostly something nearer.
        for square in [false, true] {
            for (index, obstacle, moving) in self.obstacles() {
                let part = pipe.against(index).all().filter(|stretch| (stretch.square != [false; 2]) == square);
                if let Some(near) = nearest(part, obstacle, moving, obstacle.gap + least) {
                    least = near.gap - obstacle.gap;
                }
            }
        }
        nearest_to_itself(pipe.envelope(), FROM_ITSELF + least).map_or(least, |near| near.gap - FROM_ITSELF)
    }
}

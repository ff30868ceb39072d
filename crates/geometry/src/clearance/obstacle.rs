//! Something in the way, with how it moves, and how near a stretch of pipe comes to it.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::facets::nearest_facet;
use super::flat::flat_end;
use super::least::{Ask, Cell, Near, at_least, least};
use super::part::{Part, Solid};
use super::{Convex, EnvelopePart, Movement, Rides, Span, Turning};
use crate::Vector;

/// Something in the way.
#[derive(Debug, Clone)]
pub struct Obstacle {
    /// The gap it asks for, in mm.
    pub gap: f64,
    /// The rooms it takes; their union is kept out.
    parts: Vec<Part>,
    /// What its parts ride on, each once.
    rides: SmallVec<[Rides; 2]>,
    /// A ball that holds all of them.
    ball: (Point3<f64>, f64),
}

/// Where a stretch of pipe comes nearest to something.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nearest {
    /// The gap in mm between the pipe's skin and the thing, at most [`super::TOLERANCE`] above the truth; negative
    /// where they overlap.
    pub gap: f64,
    /// Station from A's mouth in mm.
    pub station: f64,
    /// The place on the centre line as it is at rest.
    pub at: Point3<f64>,
    /// The engine's roll it was found at, in radians.
    pub roll: f64,
    /// The way from the thing to there: how the gap grows as the pipe moves. Of length 1, or 0 where it has none.
    pub away: Vector,
}

type Turns = SmallVec<[Turning; 2]>;

/// How something moves as seen from each of what an obstacle's parts ride on; none where nothing moves.
pub type Moves = SmallVec<[Option<Movement>; 2]>;

impl Obstacle {
    /// Something that takes the union of `parts` and asks for a gap of `gap` mm.
    #[must_use]
    pub fn new(gap: f64, mut parts: Vec<Part>) -> Self {
        let far = Vector::repeat(f64::INFINITY);
        let (low, high) = parts.iter().fold((far, -far), |(low, high), Part { ball: (at, radius), .. }| {
            let around = Vector::repeat(*radius);
            (low.inf(&(at.coords - around)), high.sup(&(at.coords + around)))
        });
        let ball = match parts.as_slice() {
            [one] => one.ball,
            _ => (Point3::from((low + high) / 2.0), (high - low).norm() / 2.0),
        };
        let mut rides: SmallVec<[Rides; 2]> = SmallVec::new();
        for part in &mut parts {
            let known = rides.iter().position(|one| *one == part.rides);
            part.rides_on = known.unwrap_or_else(|| {
                rides.push(part.rides);
                rides.len() - 1
            });
        }
        Self { gap, parts, rides, ball }
    }

    /// All that several things take, asking for `gap` mm.
    #[must_use]
    pub fn union(gap: f64, of: &[Self]) -> Self {
        Self::new(gap, of.iter().flat_map(|one| one.parts.iter().cloned()).collect())
    }

    /// A ball that holds all of them, however they swing.
    #[must_use]
    pub const fn ball(&self) -> (Point3<f64>, f64) {
        self.ball
    }

    /// The rooms it takes.
    pub(super) fn parts(&self) -> &[Part] {
        &self.parts
    }

    /// The least gap in mm between the skin of `stretch`, from `from` to `to` mm along it, and this obstacle, over all
    /// their movement; `None` where it is not below `beyond`.
    #[must_use]
    pub fn gap_to(
        &self,
        stretch: &EnvelopePart,
        range: [f64; 2],
        movement: Option<&Movement>,
        beyond: f64,
    ) -> Option<Nearest> {
        let against = Against::new(self, stretch, movement);
        against.gap(&against.within_reach(range, beyond, None), range, Ask::exactly(beyond))
    }

    /// By how much in mm the gap is below `beyond`, 0 where it is not, to within a millimetre, and only roughly where it
    /// is more than `most`, where the two stand still: for what asks thousands of times.
    #[must_use]
    pub fn rough_shortfall(&self, stretch: &EnvelopePart, range: [f64; 2], beyond: f64, most: f64) -> f64 {
        let against = Against::new(self, stretch, None);
        let near = against.within_balls(beyond);
        if near.is_empty() {
            return 0.0;
        }
        let ask = Ask { beyond, floor: beyond - most, care: 1.0 };
        against.gap(&near, range, ask).map_or(0.0, |found| beyond - found.gap)
    }

    /// The parts whose balls come within `beyond` mm of a place that moves against this like `moves`.
    #[must_use]
    pub fn parts_near(&self, at: &Point3<f64>, moves: &Moves, beyond: f64) -> SmallVec<[usize; 8]> {
        let travel = |part: &Part| {
            let moving = moves.get(part.rides_on).and_then(Option::as_ref);
            moving.map_or(0.0, |moves| moves.travel(&part.ball))
        };
        let near = |part: &Part| (part.ball.0 - at).norm() - part.ball.1 - travel(part) < beyond;
        self.parts.iter().enumerate().filter(|(_, part)| near(part)).map(|(index, _)| index).collect()
    }

    /// The distance in mm from a place to some parts, at most `beyond`, at a few turns of each movement: never less than
    /// the least over all of it. For what asks of thousands of places.
    #[must_use]
    pub fn rough_distance(&self, parts: &[usize], at: &Point3<f64>, moves: &Moves, beyond: f64) -> f64 {
        let mut least = beyond;
        for part in parts.iter().filter_map(|index| self.parts.get(*index)) {
            let moving = moves.get(part.rides_on).and_then(Option::as_ref);
            let rolls = moving.map_or([0.0; 3], |m| [m.roll.from, 0.0, m.roll.to]);
            let swings = part
                .swing
                .map_or([0.0; 5], |s| [0.0, 0.25, 0.5, 0.75, 1.0].map(|share| s.from + (s.to - s.from) * share));
            let rolls = if moving.is_some() { &rolls[..] } else { &rolls[..1] };
            let swings = if part.swing.is_some() { &swings[..] } else { &swings[..1] };
            for roll in rolls {
                let rolled = moving.map_or(*at, |m| m.roll.of(*at, *roll));
                for swing in swings {
                    let place = part.swing.map_or(rolled, |s| s.of(rolled, -swing));
                    let shift = moving.map_or(0.0, |m| m.shift);
                    let far = match &part.solid {
                        Solid::Convex(room) => room.distance(&place).0,
                        // The box round it is quick to judge.
                        Solid::Mesh(..) if part.hull.is_some_and(|hull| hull.distance(&place).0 - shift >= least) => {
                            continue;
                        }
                        Solid::Mesh(mesh, pose) => mesh.distance_to_place(&(pose.inverse() * place)),
                    };
                    least = least.min(far - shift);
                }
            }
        }
        least
    }

    /// Whether a stretch certainly keeps `beyond` mm from all of this; very quick, and `false` where it cannot tell.
    #[must_use]
    pub fn out_of_balls(&self, stretch: &EnvelopePart, movement: Option<&Movement>, beyond: f64) -> bool {
        self.out_of_ball(stretch, self.travel(&self.moves(stretch.rides, movement)), beyond)
    }

    /// The same for a stretch that moves by at most `travel` mm as seen from any of this; where the two stand still, 0.
    #[must_use]
    pub fn out_of_ball(&self, stretch: &EnvelopePart, travel: f64, beyond: f64) -> bool {
        let (at, radius) = self.ball;
        stretch.span.nearest(&at) >= beyond + stretch.radius + travel + radius
    }

    /// How far in mm what moves like this as seen from its parts can come nearer to any of it, at most.
    #[must_use]
    pub fn travel(&self, moves: &Moves) -> f64 {
        moves.iter().flatten().map(|moves| moves.travel(&self.ball)).fold(0.0, f64::max)
    }

    /// The least and the most roll, in radians, by which what rides on `rides` is turned as seen from any of it.
    #[must_use]
    pub fn rolls(&self, rides: Rides, movement: &Movement) -> [f64; 2] {
        let each = self.rides.iter().filter_map(|own| movement.against(rides, *own));
        each.fold([0.0; 2], |[from, to], moves| [moves.roll.from.min(from), moves.roll.to.max(to)])
    }

    /// Whether any of it opens or sweeps.
    #[must_use]
    pub fn swings(&self) -> bool {
        self.parts.iter().any(|part| part.swing.is_some())
    }

    /// How what rides on `rides` moves as seen from each of what its parts ride on.
    #[must_use]
    pub fn moves(&self, rides: Rides, movement: Option<&Movement>) -> Moves {
        match movement {
            Some(movement) => self.rides.iter().map(|own| movement.against(rides, *own)).collect(),
            None => SmallVec::new(),
        }
    }

    /// How far in mm what rides on `rides` and any of this can come together by moving, at most.
    pub(super) fn most_travel(&self, rides: Rides, movement: &Movement) -> f64 {
        self.travel(&self.moves(rides, Some(movement)))
    }

    /// Whether all of it rides on `rides`.
    #[must_use]
    pub fn rides_with(&self, rides: Rides) -> bool {
        self.rides.iter().all(|own| *own == rides)
    }

    /// Whether what rides on `rides` moves against this.
    #[must_use]
    pub fn moves_against(&self, rides: Rides) -> bool {
        self.rides.iter().any(|own| own.moves_against(rides))
    }

    /// Whether `stretch`, from `from` to `to` mm along it, certainly keeps `beyond` mm from this; quick, and `false`
    /// where it cannot tell.
    #[must_use]
    pub fn out_of_reach(
        &self,
        stretch: &EnvelopePart,
        range: [f64; 2],
        movement: Option<&Movement>,
        beyond: f64,
    ) -> bool {
        Against::new(self, stretch, movement).within_reach(range, beyond, None).is_empty()
    }
}

/// Parts of an obstacle, by their places.
pub(super) type Parts = SmallVec<[usize; 8]>;

/// One stretch of pipe against one obstacle.
pub(super) struct Against<'a> {
    pub(super) obstacle: &'a Obstacle,
    pub(super) stretch: &'a EnvelopePart,
    /// How the stretch moves as seen from each of what the obstacle's parts ride on.
    moves: Moves,
    /// How far what moves can bring the two together, in mm, its shift included.
    travel: f64,
}

impl<'a> Against<'a> {
    pub(super) fn new(obstacle: &'a Obstacle, stretch: &'a EnvelopePart, movement: Option<&'a Movement>) -> Self {
        let moves = obstacle.moves(stretch.rides, movement);
        Self { travel: obstacle.travel(&moves), obstacle, stretch, moves }
    }

    /// How the stretch moves as seen from a part.
    fn moving(&self, part: &Part) -> Option<&Movement> {
        self.moves.get(part.rides_on).and_then(Option::as_ref)
    }

    /// From the centre line to the skin, with the shift between the two, in mm.
    fn skin(&self, part: &Part) -> f64 {
        self.stretch.radius + self.moving(part).map_or(0.0, |m| m.shift)
    }

    fn turns(&self, part: &Part) -> Turns {
        let roll = self.moving(part).map(|m| m.roll).filter(|roll| roll.to > roll.from);
        roll.into_iter().chain(part.swing.map(Turning::reversed)).collect()
    }

    /// The parts whose balls come within `beyond` mm of the stretch.
    fn within_balls(&self, beyond: f64) -> Parts {
        let reach = beyond + self.stretch.radius + self.travel;
        let near = |(at, radius): &(Point3<f64>, f64)| self.stretch.span.nearest(at) < reach + radius;
        if !near(&self.obstacle.ball) {
            return Parts::new();
        }
        let parts = self.obstacle.parts.iter().enumerate();
        parts.filter(|(_, part)| near(&part.ball)).map(|(index, _)| index).collect()
    }

    /// The parts, of those in `among`, that may come within `beyond` mm of the stretch between two places on it.
    pub(super) fn within_reach(&self, [from, to]: [f64; 2], beyond: f64, among: Option<&Parts>) -> Parts {
        let far = |part: &Part, room: &Convex| {
            let (turns, ceiling) = (self.turns(part), beyond + self.skin(part));
            at_least(room, &self.stretch.span, &turns, Cell::whole(from, to, &turns), ceiling, LOOKS) >= ceiling
        };
        let middle = self.stretch.span.at(f64::midpoint(from, to)).0;
        let reach = beyond + self.stretch.radius + self.travel + (to - from) / 2.0;
        let apart = |(at, radius): &(Point3<f64>, f64)| (at - middle).norm_squared() >= (reach + radius).powi(2);
        if reach <= -self.obstacle.ball.1 || apart(&self.obstacle.ball) {
            return Parts::new();
        }
        let near = |index: &usize| match self.obstacle.parts.get(*index) {
            None => false,
            Some(part) if apart(&part.ball) => false,
            Some(part) => {
                let room = match &part.solid {
                    Solid::Convex(room) => Some(room),
                    Solid::Mesh(..) => part.hull.as_ref(),
                };
                room.is_none_or(|room| !far(part, room))
            }
        };
        match among {
            Some(among) => among.iter().copied().filter(near).collect(),
            None => (0..self.obstacle.parts.len()).filter(near).collect(),
        }
    }

    /// The least gap to the parts in `among`, if it is below what is asked.
    pub(super) fn gap(&self, among: &Parts, range: [f64; 2], ask: Ask) -> Option<Nearest> {
        let mut ask = ask;
        let mut best: Option<(f64, Near, f64)> = None;
        for part in among.iter().filter_map(|index| self.obstacle.parts.get(*index)) {
            let found = self.part_gap(part, range, ask);
            if let Some((gap, near)) = found.filter(|(gap, _)| *gap < ask.beyond) {
                ask.beyond = gap;
                let turning = self.moving(part).filter(|m| m.roll.to > m.roll.from);
                best = Some((gap, near, turning.map_or(0.0, |m| near.turns[0] * m.roll_per_turn)));
                if ask.beyond < ask.floor {
                    break;
                }
            }
        }
        best.map(|(gap, near, roll)| Nearest {
            gap,
            station: self.stretch.station(near.s),
            at: self.stretch.span.at(near.s).0,
            roll,
            away: near.away,
        })
    }

    /// The least gap to one part, if it is below what is asked, and where.
    fn part_gap(&self, part: &Part, [from, to]: [f64; 2], ask: Ask) -> Option<(f64, Near)> {
        let (skin, turns) = (self.skin(part), self.turns(part));
        let round = |[from, to]: [f64; 2], ask: Ask| {
            // From gaps to distances of the centre line.
            let ask = Ask { beyond: ask.beyond + skin, floor: ask.floor + skin, ..ask };
            let found = distance(part, &self.stretch.span, [from, to], &turns, ask);
            found.filter(|near| near.distance < ask.beyond).map(|near| (near.distance - skin, near))
        };
        let (length, radius) = (self.stretch.span.length(), self.stretch.radius);
        // Nearer than this to a square end a ball would stand out of it.
        let low = if self.stretch.square[0] { radius } else { 0.0 };
        let high = if self.stretch.square[1] { length - radius } else { length };
        let found = round([from, to], ask)?;
        if found.1.s >= low && found.1.s <= high {
            return Some(found);
        }
        let inner = [from.max(low), to.min(high)];
        let mut best = if inner[1] - inner[0] >= 0.0 { round(inner, ask) } else { None };
        let ends = if inner[1] - inner[0] >= 0.0 { [[from, inner[0]], [inner[1], to]] } else { [[from, to], [to, to]] };
        let shift = skin - radius;
        for range in ends.into_iter().filter(|[from, to]| to - from > 1e-9) {
            let beyond = best.as_ref().map_or(ask.beyond, |best| best.0).min(ask.beyond);
            // The ball moved along it holds it all, and is quicker to judge.
            if round(range, Ask { beyond, ..ask }).is_none() {
                continue;
            }
            // Solids that overlap are no distance apart, however deep; how deep is told of those.
            let apart = (beyond + shift).max(TOUCH);
            if let Some(near) = flat_end(part, self.stretch, range, &turns, [apart, ask.care])
                && near.distance - shift < beyond
            {
                best = Some((near.distance - shift, near));
            }
        }
        best
    }
}

/// The least distance of a span to what one part takes, if it is below what is asked.
fn distance(part: &Part, span: &Span, [from, to]: [f64; 2], turns: &[Turning], ask: Ask) -> Option<Near> {
    match &part.solid {
        Solid::Convex(room) => least(room, span, turns, Cell::whole(from, to, turns), ask),
        Solid::Mesh(mesh, pose) => nearest_facet(mesh, pose, span, [from, to], turns, ask),
    }
}

/// Distances below this, in mm, are none.
const TOUCH: f64 = 1e-6;
/// Looks spent on a room before its parts are asked: more cost more than they rule out.
const LOOKS: u32 = 3;

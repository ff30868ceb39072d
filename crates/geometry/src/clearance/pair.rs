//! The least gap between two things over all that moves them against each other: the engine's roll and shift, and how each
//! opens or sweeps.

use std::collections::BinaryHeap;

use nalgebra::Point3;

use super::closest::{between, between_at};
use super::part::Part;
use super::part::Solid;
use super::{Closest, Convex, Movement, Obstacle, TOLERANCE, Turning};
use crate::Vector;

/// Where two things come nearest over all their movement.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PairNear {
    /// The gap in mm, at most [`TOLERANCE`] above the truth; below zero where they overlap, to a millimetre.
    pub gap: f64,
    /// The place on the first and on the second, both as they stand then, seen from what the second rides on.
    pub at: [Point3<f64>; 2],
    /// The engine's roll it was found at, in radians.
    pub roll: f64,
    /// How far each is swung then, in radians; nothing where it does not swing.
    pub swung: [Option<f64>; 2],
}

/// Most cells that are parted in looking for the least; where they run out, what was proven so far counts.
const MOST_CELLS: usize = 8000;
/// How deep in each other two things stand is told to this many mm: that they do is what matters.
const DEEP: f64 = 1.0;

impl Obstacle {
    /// The least gap in mm between this and `other` over all their movement; `None` where it is not below `beyond`, where one
    /// takes no room, or where both are surfaces of triangles.
    ///
    /// Where the search for the least runs out of cells, the proven lower bound is given: never more than the truth.
    #[must_use]
    pub fn least_gap(&self, other: &Self, movement: Option<&Movement>, beyond: f64) -> Option<PairNear> {
        let mut best: Option<PairNear> = None;
        for one in self.parts() {
            for two in other.parts() {
                let limit = best.map_or(beyond, |best| best.gap);
                if let Some(found) = Moving::of(one, two, movement).least(limit) {
                    best = Some(found);
                }
            }
        }
        best
    }

    /// Its support function as it stands: the most that any place of it goes along `way`, in mm times its length.
    #[must_use]
    pub fn support(&self, way: &Vector) -> f64 {
        let each = self.parts().iter().map(|part| match &part.solid {
            Solid::Convex(room) => room.support(way),
            Solid::Mesh(mesh, pose) => {
                let own = pose.rotation.inverse() * way;
                mesh.support(&own) + way.dot(&pose.translation.vector)
            }
        });
        each.fold(f64::NEG_INFINITY, f64::max)
    }

    /// Whether this and `other` certainly keep `beyond` mm from each other; very quick, and `false` where it cannot tell.
    #[must_use]
    pub fn apart(&self, other: &Self, movement: Option<&Movement>, beyond: f64) -> bool {
        let travel = movement.map_or(0.0, |movement| {
            let most = |still: &Self, moving: &Self| {
                let each = still.parts().iter().map(|part| moving.most_travel(part.rides, movement));
                each.fold(0.0, f64::max)
            };
            most(self, other).min(most(other, self))
        });
        let ((at, radius), (its, other)) = (self.ball(), other.ball());
        (at - its).norm() - radius - other - travel >= beyond
    }

    /// Whether this and `other` move against each other, or one of them opens or sweeps.
    #[must_use]
    pub fn moves_with_or_against(&self, other: &Self, movement: Option<&Movement>) -> bool {
        let against = |one: &Part| other.parts().iter().any(|two| one.rides.moves_against(two.rides));
        self.swings() || other.swings() || (movement.is_some() && self.parts().iter().any(against))
    }
}

/// Two parts with all that moves the first as seen from the second.
struct Moving<'a> {
    one: &'a Part,
    two: &'a Part,
    /// The roll of the first as seen from the second, its swing and the other's: at most these turn.
    roll: Option<Turning>,
    shift: f64,
    /// How far in mm a radian of each of the three takes any place of what it turns.
    arms: [f64; 3],
}

/// A box of turns, the one whose least gap may be the smallest first.
struct Cell {
    bound: f64,
    middle: [f64; 3],
    half: [f64; 3],
}

impl PartialEq for Cell {
    fn eq(&self, other: &Self) -> bool {
        self.bound.total_cmp(&other.bound).is_eq()
    }
}
impl Eq for Cell {}
impl PartialOrd for Cell {
    fn partial_cmp(&self, other: &Self) -> Option<std::cmp::Ordering> {
        Some(self.cmp(other))
    }
}
impl Ord for Cell {
    fn cmp(&self, other: &Self) -> std::cmp::Ordering {
        other.bound.total_cmp(&self.bound)
    }
}

fn care(gap: f64) -> f64 {
    if gap < 0.0 { DEEP } else { TOLERANCE }
}

/// The least that a room goes along `u` over turns up to these each way, each taken to go straight.
fn least_along(room: &Convex, u: &Vector, turns: [(Option<Turning>, f64); 2]) -> f64 {
    let corners = [[-1.0, -1.0], [-1.0, 1.0], [1.0, -1.0], [1.0, 1.0]];
    let at = |signs: [f64; 2]| {
        let (mut way, mut fixed) = (*u, 0.0);
        for ((turning, half), sign) in turns.iter().zip(signs) {
            if let Some(turning) = turning {
                let across = u.cross(&turning.axis) * (sign * half);
                way += across;
                fixed += across.dot(&turning.pivot.coords);
            }
        }
        -room.support(&-way) - fixed
    };
    corners.map(at).into_iter().fold(f64::INFINITY, f64::min)
}

/// How far at most a place leaves the straight by two turns after each other.
fn bent([one, other]: [f64; 2], [arm, its]: [f64; 2]) -> f64 {
    (one + other).powi(2) / 2.0 * if other > 0.0 { arm.max(its) } else { arm }
}

/// Farthest that a ball is from a turning's axis.
fn arm(turning: &Turning, (at, radius): &(Point3<f64>, f64)) -> f64 {
    turning.axis.cross(&(at - turning.pivot)).norm() + radius
}

impl<'a> Moving<'a> {
    fn of(one: &'a Part, two: &'a Part, movement: Option<&Movement>) -> Self {
        let moves = movement.and_then(|movement| movement.against(one.rides, two.rides));
        let roll = moves.map(|moves| moves.roll);
        // A part's ball holds it however it swings.
        let arms = [
            roll.as_ref().map_or(0.0, |roll| arm(roll, &one.ball)),
            one.swing.as_ref().map_or(0.0, |swing| arm(swing, &one.ball)),
            two.swing.as_ref().map_or(0.0, |swing| arm(swing, &two.ball)),
        ];
        Self { one, two, roll, shift: moves.map_or(0.0, |moves| moves.shift), arms }
    }

    /// The least gap, if it is below `beyond`.
    fn least(&self, beyond: f64) -> Option<PairNear> {
        let turnings = [self.roll, self.one.swing, self.two.swing];
        let ends = turnings.map(|turning| turning.map_or([0.0; 2], |t| [t.from.min(t.to), t.to.max(t.from)]));
        let whole = Cell {
            bound: f64::NEG_INFINITY,
            middle: ends.map(|[from, to]| f64::midpoint(from, to)),
            half: ends.map(|[from, to]| (to - from) / 2.0),
        };
        if self.balls_apart(&whole) >= beyond + self.shift {
            return None;
        }
        let mut cells = BinaryHeap::from([whole]);
        let mut best: Option<PairNear> = None;
        let mut looked = 0;
        while let Some(cell) = cells.pop() {
            let limit = best.map_or(beyond, |best| best.gap);
            if cell.bound >= limit - care(limit) {
                break;
            }
            if looked == MOST_CELLS {
                // What is left may be as near as this.
                let worst = best.map_or(beyond, |best| best.gap).min(cell.bound);
                return best.map(|best| PairNear { gap: worst, ..best }).or_else(|| {
                    let found = self.at(cell.middle)?;
                    Some(PairNear { gap: worst, ..found })
                });
            }
            looked += 1;
            let reach = cell.half.iter().zip(self.arms).map(|(half, arm)| half * arm).sum::<f64>();
            if self.balls_apart(&cell) >= limit + self.shift {
                continue;
            }
            let found = self.at(cell.middle)?;
            if found.gap < best.map_or(beyond, |best| best.gap) {
                best = Some(found);
            }
            let bound = (found.gap - reach).max(self.bound(&cell, &found));
            let limit = best.map_or(beyond, |best| best.gap);
            if bound >= limit - care(limit) {
                continue;
            }
            let widest =
                (0..3).max_by(|p, q| (cell.half[*p] * self.arms[*p]).total_cmp(&(cell.half[*q] * self.arms[*q])));
            let Some(widest) = widest.filter(|widest| cell.half[*widest] > 0.0) else { continue };
            for side in [-0.5, 0.5] {
                let (mut middle, mut half) = (cell.middle, cell.half);
                middle[widest] += side * half[widest];
                half[widest] /= 2.0;
                cells.push(Cell { bound, middle, half });
            }
        }
        best
    }

    /// A lower bound of the distance in a cell from balls alone.
    fn balls_apart(&self, cell: &Cell) -> f64 {
        let swung = |part: &Part, turn: f64| {
            let (at, radius) = part.at_rest();
            (part.swing.map_or(at, |swing| swing.of(at, turn)), radius)
        };
        let (one, its) = swung(self.one, cell.middle[1]);
        let (two, other) = swung(self.two, cell.middle[2]);
        let one = self.roll.map_or(one, |roll| roll.of(one, cell.middle[0]));
        let reach = cell.half.iter().zip(self.arms).map(|(half, arm)| half * arm).sum::<f64>();
        (one - two).norm() - its - other - reach
    }

    /// A lower bound of the gap in a cell from what was found in its middle, negative infinity where there is none.
    ///
    /// Along the direction `u` in which the two are furthest apart there, each place of a thing goes, by turns `d` about
    /// axes `w` through `p`, at least `u (x + d w (x - p))` far less half the square of the turns times their arm. The least
    /// of the former over a thing is concave in the turns, so it lies at a corner of the cell, where a support function has it.
    fn bound(&self, cell: &Cell, found: &PairNear) -> f64 {
        let none = f64::NEG_INFINITY;
        let (Solid::Convex(one), Solid::Convex(two)) = (&self.one.solid, &self.two.solid) else { return none };
        let way = found.at[0] - found.at[1];
        let Some(u) = way.try_normalize(1e-9) else { return none };
        let u = if found.gap + self.shift < 0.0 { -u } else { u };
        let [roll, first, second] = cell.middle;
        let pose = |turning: Option<Turning>, turn: f64| turning.map(|turning| turning.at(turn)).unwrap_or_default();
        let rolled = pose(self.roll, roll);
        let one = one.carried(&(rolled * pose(self.one.swing, first)));
        let two = two.carried(&pose(self.two.swing, second));
        let swing = self.one.swing.map(|swing| swing.carried(&rolled));
        let [roll, first, second] = cell.half;
        let nearest = least_along(&one, &u, [(self.roll, roll), (swing, first)])
            - bent([roll, first], [self.arms[0], self.arms[1]]);
        let furthest =
            least_along(&two, &-u, [(self.two.swing, second), (None, 0.0)]) - bent([second, 0.0], [self.arms[2], 0.0]);
        nearest + furthest - self.shift
    }

    /// The gap at one place of each turn.
    fn at(&self, [roll, one, two]: [f64; 3]) -> Option<PairNear> {
        let still = [roll, one, two].iter().all(|turn| *turn == 0.0);
        let Closest { gap, at } = if still {
            between(self.one, self.two)?
        } else {
            let pose =
                |turning: Option<Turning>, turn: f64| turning.map(|turning| turning.at(turn)).unwrap_or_default();
            let first = pose(self.roll, roll) * pose(self.one.swing, one);
            between_at(self.one, &first, self.two, &pose(self.two.swing, two))?
        };
        let swung = [self.one.swing.map(|_| one), self.two.swing.map(|_| two)];
        Some(PairNear { gap: gap - self.shift, at, roll, swung })
    }
}

//! The least distance between a moving place and a surface of triangles: the space searched and the triangles are
//! divided together, so that what lies far is judged by the bunch and what lies near by the triangle.

use nalgebra::{Isometry3, Point3};
use smallvec::SmallVec;

use super::least::{Ask, Cell, MOST_CELLS, Near, Probe, at_rest, place};
use super::{Convex, Span, Turning};
use crate::{Bunch, Bunches, Made, Mesh, Vector};

/// The least distance of a mesh that stands as `pose` says, if it is below what is asked; `None` proves that it is not,
/// to within the care asked.
pub(super) fn nearest_facet(
    mesh: &Mesh,
    pose: &Isometry3<f64>,
    span: &Span,
    [from, to]: [f64; 2],
    turns: &[Turning],
    ask: Ask,
) -> Option<Near> {
    let home = pose.inverse();
    let span = span.carried(&home);
    let turns: SmallVec<[Turning; 2]> = turns.iter().map(|turn| turn.carried(&home)).collect();
    let mut search = Search { mesh, span: &span, turns: &turns, ask, best: None, cells: 0 };
    let (whole, all) = (Cell::whole(from, to, &turns), Item::Bunch(Bunches::WHOLE));
    search.probe_at(whole.middle, all);
    search.look(&whole, &[(all, f64::NEG_INFINITY)]);
    search.best.map(|Found { distance, at: [s, turns @ ..], away }| {
        let away = pose * at_rest(search.turns, away, turns);
        Near { distance, s, turns, away }
    })
}

/// What the search has come down to.
#[derive(Debug, Clone, Copy)]
enum Item {
    Bunch(u32),
    Facet(u32),
}

struct Found {
    distance: f64,
    at: [f64; 3],
    /// How the distance grows as the moved place moves.
    away: Vector,
}

struct Search<'a> {
    mesh: &'a Mesh,
    span: &'a Span,
    turns: &'a [Turning],
    ask: Ask,
    best: Option<Found>,
    cells: u32,
}

/// The items that may hold something nearer in a cell, and what of it is worth halving.
#[derive(Default)]
struct Kept {
    items: SmallVec<[(Item, f64); 64]>,
    /// The one with the lowest bound.
    lead: Option<Lead>,
}

struct Lead {
    item: Item,
    low: f64,
    /// The coordinate worth halving.
    across: usize,
    /// Where in the cell it is nearest, to first order.
    corner: [f64; 3],
}

impl Search<'_> {
    fn open(&self, low: f64) -> bool {
        low < self.ask.ceiling()
    }

    fn found(&mut self, distance: f64, at: [f64; 3], away: Vector) {
        if distance < self.ask.beyond {
            self.ask.beyond = distance;
            self.best = Some(Found { distance, at, away });
        }
    }

    /// Finds how near something of `item` is where some coordinates put the place: what is found early rules much out.
    fn probe_at(&mut self, coordinates: [f64; 3], item: Item) {
        let at = place(self.span, self.turns, coordinates);
        let (mesh, bunches) = (self.mesh, self.mesh.bunches());
        let mut judge = |index: u32| {
            let (distance, away) = Convex::Facet(mesh.triangle(index)).distance(&at);
            self.found(distance, coordinates, away);
        };
        let mut at_hand = match item {
            Item::Facet(index) => return judge(index),
            Item::Bunch(index) => bunches.get(index),
        };
        // Down the nearer half each time: not always the nearest, but quickly something near.
        while let Some(bunch) = at_hand {
            at_hand = match bunch.of {
                Made::Triangles(first, end) => return (first..end).for_each(judge),
                Made::Halves(halves) => {
                    let [one, other] = halves.map(|half| bunches.get(half));
                    let far =
                        |half: Option<&Bunch>| half.map_or(f64::INFINITY, |half| to_box(half, &at).norm_squared());
                    if far(other) < far(one) { other } else { one }
                }
            };
        }
    }

    /// Looks for something nearer in `cell` among `items`, which hold all that may be.
    fn look(&mut self, cell: &Cell, items: &[(Item, f64)]) {
        let probe = Probe::of(self.span, self.turns, cell);
        let mut kept = self.sift(&probe, cell, items);
        let Some(Lead { item, low, across, corner }) = kept.lead.filter(|lead| self.open(lead.low)) else { return };
        self.probe_at(corner, item);
        kept.items.retain(|(_, low)| self.open(*low));
        if kept.items.is_empty() || self.ask.beyond < self.ask.floor {
            return;
        }
        self.cells += 1;
        if self.cells > MOST_CELLS {
            self.found(low, cell.middle, Vector::zeros());
            return;
        }
        let mut halves = cell.halves(across);
        // The half that may hold the least is looked into first, so that it rules the rest out.
        if corner[across] > cell.middle[across] {
            halves.swap(0, 1);
        }
        for half in &halves {
            self.look(half, &kept.items);
        }
    }

    /// Judges items from a cell's middle, halving the bunches that matter more than the cell does.
    fn sift(&mut self, probe: &Probe, cell: &Cell, items: &[(Item, f64)]) -> Kept {
        let mut kept = Kept::default();
        let mut stack: SmallVec<[Item; 64]> =
            items.iter().rev().filter(|(_, low)| self.open(*low)).map(|(item, _)| *item).collect();
        while let Some(item) = stack.pop() {
            let (here, slope, of) = match item {
                Item::Facet(index) => {
                    let (here, slope) = Convex::Facet(self.mesh.triangle(index)).distance(&probe.at);
                    self.found(here, cell.middle, slope);
                    (here, slope, None)
                }
                Item::Bunch(index) => {
                    let Some(bunch) = self.mesh.bunches().get(index) else { continue };
                    let off = to_box(bunch, &probe.at);
                    let square = off.norm_squared();
                    if square >= (self.ask.ceiling() + probe.reach).powi(2) {
                        continue;
                    }
                    let here = square.sqrt();
                    (here, if here > 0.0 { off / here } else { off }, Some(bunch))
                }
            };
            let bound = probe.bound(here, slope);
            if !self.open(bound.low) {
                continue;
            }
            match of {
                Some(bunch) if bunch.spread > here - bound.low => match bunch.of {
                    Made::Halves(halves) => stack.extend(halves.map(Item::Bunch)),
                    Made::Triangles(first, end) => stack.extend((first..end).map(Item::Facet)),
                },
                _ => {
                    kept.items.push((item, bound.low));
                    if kept.lead.as_ref().is_none_or(|lead| bound.low < lead.low) {
                        let (across, corner) = (probe.across(&bound), probe.corner(slope));
                        kept.lead = Some(Lead { item, low: bound.low, across, corner });
                    }
                }
            }
        }
        kept
    }
}

/// From a bunch's box to a place, in mm; none inside.
fn to_box(bunch: &Bunch, at: &Point3<f64>) -> Vector {
    Vector::from_fn(|i, _| at[i] - at[i].clamp(bunch.low[i], bunch.high[i]))
}

//! What is let into a pipe's tube, where it sits on its straights.

use std::f64::consts::TAU;

use nalgebra::Point3;

use super::{Assembly, straight_starts};
use crate::cut::{DoesNotSit, Saddle};
use crate::join::BranchKind;
use crate::route::{AlongAnchor, Branch, BranchId, ResolvedRun, Route};
use nook_geometry::{Path, Travel, Vector};

/// A branch of a route, where it sits.
#[derive(Debug, Clone, PartialEq)]
pub struct SeatedBranch {
    /// Which.
    pub id: BranchId,
    /// What it is for.
    pub kind: BranchKind,
    /// On which leg, 0 being the one from A.
    pub leg: usize,
    /// Station from A's mouth at which its axis pierces the tube's skin, in mm.
    pub station: f64,
    /// Where its axis pierces the tube's skin.
    pub at: Point3<f64>,
    /// The direction of travel along the tube there.
    pub along: Vector,
    /// The way out along its axis, of length 1.
    pub out: Vector,
    /// How far round the skin of the tube from up its axis pierces that, in radians, clockwise for who travels.
    pub turn: f64,
    /// Its outside diameter in mm.
    pub od: f64,
    /// How far it stands out of the skin along its axis, in mm.
    pub reach: f64,
    /// How it meets the tube; why it does not, where it does not sit on it all round.
    pub saddle: Result<Saddle, DoesNotSit>,
}

impl SeatedBranch {
    /// The middle of its end.
    #[must_use]
    pub fn tip(&self) -> Point3<f64> {
        self.at + self.out * self.reach
    }

    /// Stations from A's mouth between which its hole lies, in mm.
    #[must_use]
    pub fn hole(&self) -> [f64; 2] {
        self.extent()[0].map(|along| self.station + along)
    }

    /// How far its hole reaches along the tube and round its skin from where its axis pierces that, in mm; of one that does not
    /// sit, its own radius.
    fn extent(&self) -> [[f64; 2]; 2] {
        let Ok(saddle) = self.saddle else { return [[-self.od / 2.0, self.od / 2.0]; 2] };
        let [along, round] = saddle.extent();
        // Told from the line in the plane of both directions, not from where the axis pierces the skin.
        let middle = f64::midpoint(round[0], round[1]);
        [along, round.map(|round| round - middle)]
    }

    /// How far in mm the holes of two branches of a tube of `main` mm outside are apart on its skin, below 0 where they overlap:
    /// as ellipses, which they nearly are.
    #[must_use]
    pub fn apart(&self, other: &Self, main: f64) -> f64 {
        let middle = |one: &Self| {
            let [from, to] = one.hole();
            f64::midpoint(from, to)
        };
        let turned = (self.turn - other.turn).rem_euclid(TAU);
        let between = [middle(other) - middle(self), turned.min(TAU - turned) * main / 2.0];
        let far = between[0].hypot(between[1]);
        let way = if far > 0.0 { between.map(|one| one / far) } else { [1.0, 0.0] };
        let radius = |one: &Self| {
            let half = one.extent().map(|[from, to]| (to - from) / 2.0);
            1.0 / (way[0] / half[0]).hypot(way[1] / half[1])
        };
        far - radius(self) - radius(other)
    }
}

/// The branches of `way`, whose tube of `main` mm outside begins at station `begin`, from A. One whose leg has become shorter
/// than where it was meant sits at the end of it.
pub(super) fn seated_branches(way: &Route, tube: &Path, begin: f64, main: f64) -> Vec<SeatedBranch> {
    if way.branches().is_empty() {
        return Vec::new();
    }
    let starts = straight_starts(tube, begin);
    let mut all = Vec::with_capacity(way.branches().len());
    let mut travel = tube.setting_out();
    for (leg, length) in tube.straights().enumerate() {
        for one in way.branches().iter().filter(|one| way.leg_index(one.at.leg) == Some(leg)) {
            let along = one.at.from_start(length).clamp(0.0, length.max(0.0));
            let there: Travel = travel.straight(along).upright();
            let (angle, offset) = (one.angle().to_radians(), one.offset());
            let up = there.at_clock(one.clock().to_radians()).into_inner();
            let forward = there.along.vector();
            let left = up.cross(&forward);
            // One that does not sit is drawn as if it met the tube's middle.
            let saddle = Saddle::new(one.od(), main, angle, offset);
            let turn = one.clock().to_radians() - (2.0 * offset / main).clamp(-1.0, 1.0).asin();
            let over = saddle.map_or(main / 2.0, |saddle| saddle.pierced() * angle.sin());
            all.push(SeatedBranch {
                id: one.id,
                kind: one.kind,
                leg,
                station: starts[leg] + along,
                at: there.at + left * offset + up * over,
                along: forward,
                out: forward * angle.cos() + up * angle.sin(),
                turn,
                od: one.od(),
                reach: one.reach(),
                saddle,
            });
        }
        if let Some(step) = tube.legs().get(leg) {
            travel = travel.straight(length).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
    }
    all.sort_by(|p, q| p.station.total_cmp(&q.station).then(p.id.cmp(&q.id)));
    all
}

impl Assembly {
    /// A branch of a kind where it would sit if it were let in; `None` where the way has no such leg.
    #[must_use]
    pub fn with_branch(&self, run: &ResolvedRun, at: AlongAnchor, kind: BranchKind) -> Option<SeatedBranch> {
        let way = run.route.clone().with_branches(vec![Branch::usual(BranchId(0), at, kind)]);
        seated_branches(&way, &self.tube, self.begin(), run.tube.od()).pop()
    }
}

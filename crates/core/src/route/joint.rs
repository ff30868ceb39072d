//! Joints of a route: one at each end, and any number between them.

use nalgebra::Point3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{BendId, LegId, Route};
use crate::join::{FlangePlate, JointKind, JointPart, JointSpec, usual_kind};
use crate::measure::{End, Port};
use crate::stock::Duty;
use nook_geometry::units::{AlongLeg, Gap, Rotation, Seat};
use nook_geometry::{Path, Travel};

/// Which joint of a route; the number never changes, and is of this run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct JointId(pub u32);

/// From which end of a leg something is measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LegEnd {
    /// From the end nearer A: the tube's, or where the bend before ends.
    Start,
    /// From the end nearer B.
    End,
}

/// A place on a leg that stays where it was meant when the leg grows or shrinks at its other end.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AlongAnchor {
    /// Which leg.
    pub leg: LegId,
    /// From which end of it.
    pub from: LegEnd,
    /// How far, in mm.
    pub mm: AlongLeg,
}

/// A place that survives what is done to the route.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "on", rename_all = "snake_case", deny_unknown_fields)]
pub enum JointAnchor {
    /// Where the pipe meets its port.
    End {
        /// Which end.
        end: End,
    },
    /// On a straight of tube.
    Leg {
        /// Which leg.
        leg: LegId,
        /// From which end of it.
        from: LegEnd,
        /// How far, in mm.
        mm: AlongLeg,
    },
    /// In place of a bend.
    Bend {
        /// Which bend.
        bend: BendId,
    },
}

/// A joint of a route.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Joint {
    /// Which.
    pub id: JointId,
    /// Where it is: its middle, for one on a leg. Where a seat or another joint is in the way it stands as near as it can.
    pub at: JointAnchor,
    /// What it is.
    pub kind: JointKind,
    /// Gap between the tube ends in mm; by default as [`crate::join::GapReason`] says.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gap: Option<Gap>,
    /// Hose seat on the pipe's side, between the ends on both, in mm; by default from duty and diameter.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seat: Option<Seat>,
    /// The part it is made with; by default one that is usual for its kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<JointPart>,
    /// The clock at which its screw, bolt or latch is held, in degrees from up, right-handed about the direction of travel
    /// from A to B; by default wherever it is best reached.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<Rotation>,
    /// Whether a tie between the two sides holds it against pressure.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub tied: bool,
    /// The flange plate that is cut for it, where it is bolted to a pattern that was measured.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub plate: Option<FlangePlate>,
}

impl Joint {
    /// A joint of which only place and kind are decided.
    #[must_use]
    pub const fn new(id: JointId, at: JointAnchor, kind: JointKind) -> Self {
        Self { id, at, kind, gap: None, seat: None, part: None, clock: None, tied: false, plate: None }
    }

    /// What it is on tube of `od` mm: as usual for its kind, or as its part says.
    #[must_use]
    pub fn spec(&self, od: f64) -> JointSpec {
        let usual = JointSpec::usual(self.kind, od);
        // Nothing is bought for an open end.
        if self.kind == JointKind::Open {
            return usual;
        }
        let spec = match self.part.as_ref().filter(|part| part.kind == self.kind) {
            Some(part) => usual.with(part),
            None => usual,
        };
        match self.plate.as_ref().filter(|_| matches!(self.kind, JointKind::Flange | JointKind::Metal)) {
            Some(plate) => spec.with_plate(plate.reach(od) - od / 2.0),
            None => spec,
        }
    }

    /// What it is called where it is bought or pointed at: its part, or else its kind.
    #[must_use]
    pub fn called(&self) -> String {
        let part = self.part.as_ref().filter(|part| part.kind == self.kind);
        part.map_or_else(|| self.kind.word().to_owned(), |part| part.name.as_str().to_owned())
    }

    /// The same on a pipe that is this one's mirror image. Its plate is the same one, turned over.
    #[must_use]
    pub(crate) fn mirrored(mut self) -> Self {
        self.clock = self.clock.and_then(|clock| Rotation::new(0.0 - clock.get()).ok());
        self
    }

    /// The usual joint of an end for a duty and a port.
    #[must_use]
    pub fn usual(id: JointId, end: End, duty: Duty, port: &Port, tube_od: f64) -> Self {
        Self::new(id, JointAnchor::End { end }, usual_kind(duty, port, tube_od))
    }

    /// Where it stands on a straight; `None` for one at an end or in place of a bend.
    #[must_use]
    pub const fn along(&self) -> Option<AlongAnchor> {
        match self.at {
            JointAnchor::End { .. } | JointAnchor::Bend { .. } => None,
            JointAnchor::Leg { leg, from, mm } => Some(AlongAnchor { leg, from, mm }),
        }
    }

    /// At which end it is; `None` for one between them.
    #[must_use]
    pub const fn end(&self) -> Option<End> {
        match self.at {
            JointAnchor::End { end } => Some(end),
            JointAnchor::Leg { .. } | JointAnchor::Bend { .. } => None,
        }
    }

    /// Which bend it takes the place of; `None` for one on a straight or at an end.
    #[must_use]
    pub const fn bend(&self) -> Option<BendId> {
        match self.at {
            JointAnchor::Bend { bend } => Some(bend),
            JointAnchor::End { .. } | JointAnchor::Leg { .. } => None,
        }
    }

    /// The same on `way`, on its last leg where it has no such leg.
    #[must_use]
    pub(super) fn on_one_of(mut self, way: &Route) -> Self {
        if let JointAnchor::Leg { leg, .. } = &mut self.at
            && way.leg_index(*leg).is_none()
        {
            *leg = way.leg_id(way.course().corners());
        }
        self
    }

    /// Whether its kind can be where it is: what joins two sizes or metal to metal stands at an end, what turns in place of a
    /// bend.
    #[must_use]
    pub const fn can_stand(&self) -> bool {
        match self.at {
            JointAnchor::End { .. } => !matches!(self.kind, JointKind::Elbow),
            JointAnchor::Leg { .. } => self.kind.stands_along(),
            JointAnchor::Bend { .. } => matches!(self.kind, JointKind::Elbow),
        }
    }
}

impl From<AlongAnchor> for JointAnchor {
    fn from(AlongAnchor { leg, from, mm }: AlongAnchor) -> Self {
        Self::Leg { leg, from, mm }
    }
}

impl AlongAnchor {
    /// How far from the start of a leg of `length` mm it is.
    #[must_use]
    pub fn from_start(&self, length: f64) -> f64 {
        match self.from {
            LegEnd::Start => self.mm.get(),
            LegEnd::End => length - self.mm.get(),
        }
    }

    /// The anchor on the straights of `way`, whose tube lies along `path`, that is nearest to a place; from the nearer end
    /// of its leg. `None` where the path has no straight.
    #[must_use]
    pub fn nearest(way: &Route, path: &Path, place: &Point3<f64>) -> Option<Self> {
        let each = legs(path).enumerate().filter(|(_, (_, length))| *length > 0.0).map(|(leg, (travel, length))| {
            let along = (place - travel.at).dot(&travel.along.vector()).clamp(0.0, length);
            (leg, along, length, (travel.straight(along).at - place).norm())
        });
        let (leg, along, length, _) = each.min_by(|p, q| p.3.total_cmp(&q.3))?;
        let (from, mm) = if along <= length / 2.0 { (LegEnd::Start, along) } else { (LegEnd::End, length - along) };
        Some(Self { leg: way.leg_id(leg), from, mm: AlongLeg::new(mm).ok()? })
    }

    /// Where it is along the tube of `way`; `None` where that has no such leg.
    #[must_use]
    pub fn place(&self, way: &Route, path: &Path) -> Option<Point3<f64>> {
        let (travel, length) = legs(path).nth(way.leg_index(self.leg)?)?;
        Some(travel.straight(self.from_start(length)).at)
    }
}

/// The straights of a path with who walks them.
fn legs(path: &Path) -> impl Iterator<Item = (Travel, f64)> + '_ {
    let mut travel = path.setting_out();
    path.straights().enumerate().map(move |(leg, length)| {
        let here = travel;
        travel = travel.straight(length);
        if let Some(step) = path.legs().get(leg) {
            travel = travel.clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
        (here, length)
    })
}

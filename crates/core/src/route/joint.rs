//! Joints along a route, between its ends.

use nalgebra::Point3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::join::JointKind;
use nook_geometry::units::{AlongLeg, Gap, Seat};
use nook_geometry::{Path, Travel};

/// Which joint along a route; the number never changes.
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

/// A place on a straight of tube that stays where it was meant when the leg grows or shrinks at its other end.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JointAnchor {
    /// Which leg, 0 being the one from A.
    pub leg: usize,
    /// From which end of it.
    pub from: LegEnd,
    /// How far, in mm.
    pub mm: AlongLeg,
}

/// A joint along a route.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Joint {
    /// Which.
    pub id: JointId,
    /// Where its middle is meant to be. Where a seat or another joint is in the way it stands as near as it can.
    pub at: JointAnchor,
    /// What it is.
    pub kind: JointKind,
    /// Gap between the tube ends in mm; by default as at the ends.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gap: Option<Gap>,
    /// Hose seat on each side in mm; by default from duty and diameter.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seat: Option<Seat>,
}

impl Joint {
    /// The same on a way of `corners` bends, on its last leg where it has no such leg.
    #[must_use]
    pub(super) fn on_one_of(mut self, corners: usize) -> Self {
        self.at.leg = self.at.leg.min(corners);
        self
    }

    /// Whether it can stand between two ends of one tube.
    #[must_use]
    pub const fn stands_along(&self) -> bool {
        matches!(self.kind, JointKind::Coupler)
    }
}

impl JointAnchor {
    /// How far from the start of a leg of `length` mm it is.
    #[must_use]
    pub fn from_start(&self, length: f64) -> f64 {
        match self.from {
            LegEnd::Start => self.mm.get(),
            LegEnd::End => length - self.mm.get(),
        }
    }

    /// The anchor on the straights of a tube along `path` that is nearest to a place; from the nearer end of its
    /// leg. `None` where the path has no straight.
    #[must_use]
    pub fn nearest(path: &Path, place: &Point3<f64>) -> Option<Self> {
        let each = legs(path).enumerate().filter(|(_, (_, length))| *length > 0.0).map(|(leg, (travel, length))| {
            let along = (place - travel.at).dot(&travel.along.vector()).clamp(0.0, length);
            (leg, along, length, (travel.straight(along).at - place).norm())
        });
        let (leg, along, length, _) = each.min_by(|p, q| p.3.total_cmp(&q.3))?;
        let (from, mm) = if along <= length / 2.0 { (LegEnd::Start, along) } else { (LegEnd::End, length - along) };
        Some(Self { leg, from, mm: AlongLeg::new(mm).ok()? })
    }

    /// Where it is along a tube; `None` where that has no such leg.
    #[must_use]
    pub fn place(&self, path: &Path) -> Option<Point3<f64>> {
        let (travel, length) = legs(path).nth(self.leg)?;
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

//! How the engine moves on its mounts.

use nalgebra::{Isometry3, Point3, Translation3, UnitQuaternion};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::{Direction, Point};
use crate::units::{OutOfRange, Roll, Shift};

/// What the engine sits on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum MountKind {
    /// Soft rubber, as a road car has.
    Soft,
    /// Stiff rubber or urethane.
    Firm,
    /// Metal to metal.
    Solid,
}

impl MountKind {
    /// The three.
    pub const ALL: [Self; 3] = [Self::Soft, Self::Firm, Self::Solid];

    /// Roll each way in degrees and shift each way in mm, until the builder says otherwise. Source: handbook,
    /// "The work", Measure: soft mounts, several degrees; solid mounts, next to nothing. Solid ones still leave
    /// what brackets and bolts give.
    #[must_use]
    pub const fn usual(self) -> (f64, f64) {
        match self {
            Self::Soft => (4.0, 6.0),
            Self::Firm => (1.5, 3.0),
            Self::Solid => (0.3, 0.5),
        }
    }

    /// Why those figures.
    #[must_use]
    pub const fn reason(self) -> &'static str {
        match self {
            Self::Soft => "Road-car rubber lets the engine roll several degrees under full torque",
            Self::Firm => "Stiff rubber or urethane about halves it and more",
            Self::Solid => "Metal to metal: only what brackets and bolts give",
        }
    }
}

/// The engine's movement: a roll about the line through its mounts, and a small shift any way.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Mounts {
    /// What it sits on.
    pub kind: MountKind,
    /// A point on the roll axis.
    pub from: Point,
    /// Another.
    pub to: Point,
    /// Roll each way in degrees; by default from the kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub roll: Option<Roll>,
    /// Shift any way in mm; by default from the kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shift: Option<Shift>,
}

impl Mounts {
    /// Least distance in mm between the two points that say the axis.
    const LEAST_APART: f64 = 50.0;

    /// Roll each way in degrees.
    #[must_use]
    pub fn roll(&self) -> f64 {
        self.roll.map_or(self.kind.usual().0, Roll::get)
    }

    /// Shift any way in mm.
    #[must_use]
    pub fn shift(&self) -> f64 {
        self.shift.map_or(self.kind.usual().1, Shift::get)
    }

    /// Checks that two points say an axis.
    ///
    /// # Errors
    /// [`OutOfRange`] when they are under 50 mm apart.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let (value, min) = (self.from.distance(self.to), Self::LEAST_APART);
        if value >= min {
            return Ok(());
        }
        Err(OutOfRange {
            what: "the distance between the points of the roll axis",
            value,
            min,
            max: 20_000.0,
            unit: "mm",
        })
    }

    /// Where the engine side goes when it is rolled by `degrees`, right-handed from `from` to `to`. The identity
    /// where the axis has no direction, which [`Mounts::check`] refuses.
    #[must_use]
    pub fn rolled(&self, degrees: f64) -> Isometry3<f64> {
        let Ok(axis) = Direction::of(self.from.to(self.to)) else { return Isometry3::identity() };
        about(self.from.inner(), axis, degrees)
    }

    /// How far a point on the engine side can get from where it is at rest, in mm: the chord of its roll and the
    /// shift.
    #[must_use]
    pub fn travel(&self, at: Point) -> f64 {
        let moved = self.rolled(self.roll()) * at.inner();
        (moved - at.inner()).norm() + self.shift()
    }
}

/// A turn by `degrees` about the axis through `pivot`, right-handed.
#[must_use]
pub fn about(pivot: Point3<f64>, axis: Direction, degrees: f64) -> Isometry3<f64> {
    let turn = UnitQuaternion::from_axis_angle(&axis.unit(), degrees.to_radians());
    let back = pivot - turn * pivot.coords;
    Isometry3::from_parts(Translation3::from(back.coords), turn)
}

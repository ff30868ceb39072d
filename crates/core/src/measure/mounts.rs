//! How the engine moves on its mounts.

use nalgebra::{Isometry3, Point3, Translation3, UnitQuaternion};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::clearance::{Movement, Turning};
use nook_geometry::units::{OutOfRange, Roll, Shift};
use nook_geometry::{Direction, Point};

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

    /// How far it moves until the builder says otherwise. Source: handbook, "The sums", Temperatures: soft rubber
    /// about 4 degrees under drive torque and 1.5 on overrun; the others in proportion, and solid ones still leave what
    /// brackets and bolts give.
    #[must_use]
    pub const fn usual(self) -> Usual {
        match self {
            Self::Soft => Usual { drive: 4.0, overrun: 1.5, shift: 6.0 },
            Self::Firm => Usual { drive: 1.5, overrun: 0.6, shift: 3.0 },
            Self::Solid => Usual { drive: 0.3, overrun: 0.3, shift: 0.5 },
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

/// How far an engine moves on its mounts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Usual {
    /// Roll under drive torque in degrees.
    pub drive: f64,
    /// Roll on overrun, the other way, in degrees.
    pub overrun: f64,
    /// Shift any way in mm.
    pub shift: f64,
}

/// Which way the crank turns, looking along the roll axis from its first point to its second.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CrankTurn {
    /// As a clock's hands.
    Clockwise,
    /// Against them.
    Anticlockwise,
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
    /// Roll under drive torque in degrees; by default from the kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub roll: Option<Roll>,
    /// Roll on overrun, the other way, in degrees; by default from the kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub overrun: Option<Roll>,
    /// Which way the crank turns: under drive the block rolls the other way. While nobody said, it may roll either way as
    /// far as under drive.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub crank: Option<CrankTurn>,
    /// Shift any way in mm; by default from the kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shift: Option<Shift>,
}

impl Mounts {
    /// Least distance in mm between the two points that say the axis.
    const LEAST_APART: f64 = 50.0;

    /// Roll under drive torque in degrees.
    #[must_use]
    pub fn drive(&self) -> f64 {
        self.roll.map_or(self.kind.usual().drive, Roll::get)
    }

    /// Roll on overrun in degrees.
    #[must_use]
    pub fn overrun(&self) -> f64 {
        self.overrun.map_or(self.kind.usual().overrun, Roll::get)
    }

    /// Least and most roll in degrees, right-handed from `from` to `to`. A crank that turns clockwise seen that way turns
    /// right-handed, and pushes the block left-handed.
    #[must_use]
    pub fn rolls(&self) -> [f64; 2] {
        let (drive, overrun) = (self.drive(), self.overrun());
        match self.crank {
            Some(CrankTurn::Clockwise) => [0.0 - drive, overrun],
            Some(CrankTurn::Anticlockwise) => [0.0 - overrun, drive],
            None => [0.0 - drive.max(overrun), drive.max(overrun)],
        }
    }

    /// Shift any way in mm.
    #[must_use]
    pub fn shift(&self) -> f64 {
        self.shift.map_or(self.kind.usual().shift, Shift::get)
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

    /// How the engine moves against the body; `None` where the axis has no direction, which [`Mounts::check`] refuses.
    #[must_use]
    pub fn movement(&self) -> Option<Movement> {
        let axis = Direction::of(self.from.to(self.to)).ok()?;
        let [from, to] = self.rolls().map(f64::to_radians);
        let roll = Turning { pivot: self.from.inner(), axis: axis.unit(), from, to };
        Some(Movement::of_engine(roll, self.shift()))
    }

    /// How far a point on the engine side can get from where it is at rest, in mm: the chord of its roll and the
    /// shift.
    #[must_use]
    pub fn travel(&self, at: Point) -> f64 {
        let most = self.rolls().into_iter().map(f64::abs).fold(0.0, f64::max);
        let moved = self.rolled(most) * at.inner();
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

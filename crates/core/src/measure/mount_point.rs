//! Where a component is held, and by what.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::DatumId;
use crate::stock::Material;
use nook_geometry::units::{
    BoltSize, BossDepth, Name, RubberDiameter, RubberHeight, SheetThickness, ShoreHardness, StripWidth,
};
use nook_geometry::{Direction, Point};

/// Names one mounting point within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct MountId(pub u32);

/// A hole or a boss of a component that a bolt goes into, as it was measured, and what holds it there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MountPoint {
    /// Which one.
    pub id: MountId,
    /// What it is called.
    pub name: Name,
    /// The middle of the hole, on the face that what holds it lies against.
    pub at: Point,
    /// Out of the component, along the bolt.
    pub out: Direction,
    /// The bolt.
    pub bolt: BoltSize,
    /// How deep the thread goes, where the boss is blind; nothing for a hole that goes through.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub boss: Option<BossDepth>,
    /// Rubber between it and what holds it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rubber: Option<Rubber>,
    /// What holds it; nothing yet.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub held: Option<Holding>,
}

/// A round rubber mount with a stud at each end.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Rubber {
    /// Its diameter.
    pub diameter: RubberDiameter,
    /// Its free height.
    pub height: RubberHeight,
    /// Its hardness.
    pub hardness: ShoreHardness,
}

/// What holds a mounting point.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
pub enum Holding {
    /// It is bolted straight to the car.
    Car,
    /// A bracket.
    Bracket {
        /// How it is made and where it is bolted.
        bracket: Bracket,
    },
}

/// A bracket from a mounting point to the car.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Bracket {
    /// Where it is bolted to the car.
    pub foot: Foot,
    /// What it is cut from.
    pub stock: BracketStock,
    /// Of what.
    pub material: Material,
    /// Whether a second bolt keeps it from turning about the first, at the component's end and at the car's.
    #[serde(default, skip_serializing_if = "none")]
    pub second_bolt: [bool; 2],
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "what serde asks for")]
fn none(bolts: &[bool; 2]) -> bool {
    *bolts == [false; 2]
}

/// Where a bracket is bolted to the car.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Foot {
    /// The middle of the hole, on the face that the bracket lies against.
    pub at: FootPlace,
    /// Out of the car's metal, along the bolt.
    pub out: Direction,
    /// The bolt.
    pub bolt: BoltSize,
}

/// The middle of a hole in the car.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case", deny_unknown_fields)]
pub enum FootPlace {
    /// A datum point: a hole that is there.
    Datum {
        /// Which.
        datum: DatumId,
    },
    /// A place on a rail that will be drilled.
    Drilled {
        /// Where.
        at: Point,
    },
}

/// What a bracket is cut from.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "cut_from", rename_all = "snake_case", deny_unknown_fields)]
pub enum BracketStock {
    /// Flat strip, bent.
    Strip {
        /// How wide.
        width: StripWidth,
        /// How thick.
        thickness: SheetThickness,
        /// Inside radius of its bends in mm.
        radius: SheetThickness,
    },
    /// Angle with equal legs, not bent.
    Angle {
        /// Outside width of a leg.
        leg: StripWidth,
        /// How thick.
        thickness: SheetThickness,
    },
}

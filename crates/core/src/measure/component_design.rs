//! Radiators, coolers and tanks as they are sold or planned: a box, its mouths and its mounting points.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::EndForm;
use nook_geometry::units::{BoltSize, BossDepth, Mass, Name, OutsideDiameter};
use nook_geometry::{Direction, Triple};

/// A component that could stand in another's place. Places are in mm from the box's middle along its own axes: forward,
/// left, up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ComponentDesign {
    /// What the trade calls it.
    pub name: Name,
    /// Full lengths along its own axes in mm.
    #[schema(value_type = Triple)]
    pub size: [f64; 3],
    /// Its mass, filled.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mass: Option<Mass>,
    /// Its mouths.
    #[serde(default)]
    pub ports: Vec<DesignPort>,
    /// Its mounting points.
    #[serde(default)]
    pub mounts: Vec<DesignMount>,
    /// What is known of its spares.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Name>,
}

/// A mouth of a design.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DesignPort {
    /// Its middle.
    #[schema(value_type = Triple)]
    pub at: [f64; 3],
    /// The way out.
    pub out: Direction,
    /// Outside diameter in mm.
    pub od: OutsideDiameter,
    /// How it ends.
    pub form: EndForm,
}

/// A mounting point of a design.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DesignMount {
    /// What it is called.
    pub name: Name,
    /// The middle of its hole.
    #[schema(value_type = Triple)]
    pub at: [f64; 3],
    /// Out of the component, along the bolt.
    pub out: Direction,
    /// The bolt.
    pub bolt: BoltSize,
    /// How deep the thread goes, where the boss is blind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub boss: Option<BossDepth>,
}

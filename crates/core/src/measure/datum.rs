//! Named points on the vehicle that readings are taken from.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Reading, Side};
use nook_geometry::Point;
use nook_geometry::units::{Name, Spread};

/// Names one datum within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct DatumId(pub u32);

/// A point on the vehicle that can be found again, such as a bolt head. Without readings it is where it was typed, to
/// within its spread: such points make the frame everything else is measured in.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Datum {
    /// Which one.
    pub id: DatumId,
    /// What it is, such as `left strut bolt`.
    pub name: Name,
    /// Where it is assumed to be, or roughly is where readings fix it.
    pub at: Point,
    /// What it is part of.
    pub rides: Side,
    /// How far it may be from where it was typed, each way: one standard deviation in mm. By default
    /// [`Datum::USUAL_SPREAD`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub spread: Option<Spread>,
    /// What was measured of it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<Reading>,
}

impl Datum {
    /// Standard deviation each way, in mm, of a point that somebody measured by hand and typed.
    pub const USUAL_SPREAD: f64 = 2.0;

    /// Standard deviation each way of where it was typed, in mm.
    #[must_use]
    pub fn sigma(&self) -> f64 {
        self.spread.map_or(Self::USUAL_SPREAD, Spread::get)
    }
}

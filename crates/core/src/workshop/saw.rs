//! Saws.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{Kerf, Name};

/// Which saw of a workshop; the number never changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct SawId(pub u32);

/// A saw of a workshop.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Saw {
    /// Which.
    pub id: SawId,
    /// What it is called.
    pub name: Name,
    /// Width of its cut in mm.
    pub kerf: Kerf,
}

/// The saw a job is made with, as it was when that was decided: a job that is opened elsewhere, or after the blade was
/// changed, still says what its marks were worked out for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PinnedSaw {
    /// What it is called.
    pub name: Name,
    /// Width of its cut in mm.
    pub kerf: Kerf,
}

impl From<&Saw> for PinnedSaw {
    fn from(saw: &Saw) -> Self {
        Self { name: saw.name.clone(), kerf: saw.kerf }
    }
}

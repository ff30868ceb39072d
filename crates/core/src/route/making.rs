//! How a pipe is made, as far as that decides where it comes out.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How a pipe is made, beside its list. Source: handbook, "Fit, weld, prove", Where errors come from and Correcting.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Making {
    /// Every bend of pies is held against the gauge once it is tacked, and trued.
    #[serde(default, skip_serializing_if = "is_off")]
    pub true_bends: bool,
    /// The closing piece is cut last, measured in place.
    #[serde(default, skip_serializing_if = "is_off")]
    pub closing_last: bool,
    /// Bends are tacked on the vehicle, each at the clock that suits, and the closing piece is cut last.
    #[serde(default, skip_serializing_if = "is_off")]
    pub on_vehicle: bool,
}

impl Making {
    /// Whether it is made by its list and nothing else.
    #[must_use]
    pub fn is_usual(&self) -> bool {
        *self == Self::default()
    }
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "serde passes what it asks about by reference")]
const fn is_off(on: &bool) -> bool {
    !*on
}

//! What hoses ask for: gaps, seats, beads, and where their clamps sit.

use serde::Serialize;
use utoipa::ToSchema;

use super::JointKind;
use crate::stock::Duty;

/// Why a gap is what it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum GapReason {
    /// The builder said so.
    Chosen,
    /// Both ports ride on one side.
    OneBody,
    /// One port rides on the engine and the other on the body.
    AcrossMounts,
    /// A reducer needs room to taper.
    Taper,
    /// Metal meets metal.
    Metal,
    /// Nothing meets it.
    Open,
    /// The hose itself is the joint.
    Hose,
    /// It is the bend it takes the place of.
    Elbow,
    /// It is what such a joint takes of the centre line.
    Kind,
    /// The part that was chosen is so long.
    Part,
}

/// Distance of a hose bead from the tube's end in mm. Source: handbook, "The sums", Joints.
pub const BEAD_FROM_END: f64 = 6.0;
/// Width in mm of the band of a hose clamp that takes boost.
const CLAMP_WIDE: f64 = 14.0;

/// From where to where a hose's clamp sits, in mm from the tube's end: close behind the bead.
#[must_use]
pub const fn clamp_band() -> [f64; 2] {
    let from = BEAD_FROM_END + 2.0;
    [from, from + CLAMP_WIDE]
}

/// Gap in mm where both ports ride on one body. Source: as above.
const GAP_ONE_BODY: f64 = 6.0;
/// Gap in mm across engine and body: the least of the handbook's 12 to 25, since a pipe between two hoses
/// shares the movement between both ends.
const GAP_ACROSS: f64 = 12.0;

/// Gap in mm in a coupler of a pipe, from engine to body (`across`) or on one of them.
#[must_use]
pub const fn usual_gap(across: bool) -> f64 {
    if across { GAP_ACROSS } else { GAP_ONE_BODY }
}

/// Gap in mm that a kind needs to taper from one outside diameter to the other: a moulded taper of 45 degrees runs half the
/// step in diameter on each side of its middle. 0 for kinds that do not taper.
#[must_use]
pub fn taper(kind: JointKind, one: f64, other: f64) -> f64 {
    if kind == JointKind::Reducer { (one - other).abs() } else { 0.0 }
}

/// Seat in mm a hose needs on `od` mm tube. Source: handbook, "The sums", Joints: coolant 25 to 25.4 OD, 30 to
/// 38.1, 35 above; charge (and intake, which uses the same hose) half the diameter, at least 32.
#[must_use]
pub fn usual_seat(duty: Duty, od: f64) -> f64 {
    match duty {
        Duty::Coolant | Duty::Oil if od <= 25.4 => 25.0,
        Duty::Coolant | Duty::Oil if od <= 38.1 => 30.0,
        Duty::Coolant | Duty::Oil => 35.0,
        Duty::ChargeHot | Duty::ChargeCold | Duty::Intake | Duty::Exhaust => (od / 2.0).max(32.0),
    }
}

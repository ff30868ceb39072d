//! Kinds of joint, and what is usual of each: hose over two tube ends, or metal to metal.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::measure::Port;
use crate::stock::Duty;

/// How two tube ends, or a tube and a port, are joined.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum JointKind {
    /// A straight hose over both ends.
    Coupler,
    /// A hose that tapers from one size to the other.
    Reducer,
    /// Metal to metal with no gap. The port's form says how: a flange is bolted, a plain end welded; a kind of its own
    /// for each could only contradict it.
    #[serde(rename = "butt")]
    Metal,
}

impl JointKind {
    /// Whether a hose makes the joint.
    #[must_use]
    pub const fn has_hose(self) -> bool {
        match self {
            Self::Coupler | Self::Reducer => true,
            Self::Metal => false,
        }
    }

    /// Whether it can stand between two ends of one tube.
    #[must_use]
    pub const fn stands_along(self) -> bool {
        match self {
            Self::Coupler => true,
            Self::Reducer | Self::Metal => false,
        }
    }

    /// The kind as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Coupler => "coupler",
            Self::Reducer => "reducer",
            Self::Metal => "metal joint",
        }
    }
}

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

/// The usual kind at an end for a duty and a port: hose where a hose can go, metal on exhausts, flanges and threads.
#[must_use]
pub fn usual_kind(duty: Duty, port: &Port, tube_od: f64) -> JointKind {
    if duty == Duty::Exhaust || !port.form.takes_hose() {
        JointKind::Metal
    } else if SizeMatch::of(port.od.get(), tube_od) == SizeMatch::Reducer {
        JointKind::Reducer
    } else {
        JointKind::Coupler
    }
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

/// How well two real outside diameters go together.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SizeMatch {
    /// Within 0.5 mm.
    Good,
    /// Within 2 mm: stretch or sleeve a hose, share the step of a weld.
    Stretch,
    /// More than that: a reducer.
    Reducer,
}

impl SizeMatch {
    /// What comes of taking one size for the other, in a few words.
    #[must_use]
    pub const fn consequence(self) -> &'static str {
        match self {
            Self::Good => "goes together, but is not the same",
            Self::Stretch => "a hose must stretch, a weld has a step",
            Self::Reducer => "needs a reducer",
        }
    }

    /// Largest difference in mm that is no difference. Source: handbook, "The sums", Joints.
    pub const GOOD: f64 = 0.5;
    /// Largest difference in mm a hose may be stretched over. Source: as above.
    pub const STRETCH: f64 = 2.0;

    /// Judges two outside diameters in mm. A hair of 1e-9 mm keeps 38.1 and 36.1 at 2.0 exactly.
    #[must_use]
    pub fn of(one: f64, other: f64) -> Self {
        let apart = (one - other).abs() - 1e-9;
        if apart <= Self::GOOD {
            Self::Good
        } else if apart <= Self::STRETCH {
            Self::Stretch
        } else {
            Self::Reducer
        }
    }
}

//! What was checked of the instruments themselves.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::estimate::Instruments;
use nook_geometry::units::{PitchAngle, TapeLength};

/// A length that is known, and what the tape reads of it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TapeCheck {
    /// How long it is, by a steel rule or a gauge block.
    pub known: TapeLength,
    /// What the tape reads, hooked on as it is on the vehicle.
    pub read: TapeLength,
}

/// What an angle gauge shows laid on the vehicle itself: on a rail, a sill or a deck that lies along its axes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TiltCheck {
    /// Along the vehicle, in degrees; positive where the front is higher. 0 where the gauge was zeroed on it.
    pub nose_up: PitchAngle,
    /// Across it, in degrees; positive where the left is higher.
    pub left_up: PitchAngle,
}

/// What was checked of the tape and of how the vehicle stands. What was not is taken to be uncertain.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct InstrumentChecks {
    /// The tape against a known length.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tape: Option<TapeCheck>,
    /// The vehicle against level.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tilt: Option<TiltCheck>,
}

impl InstrumentChecks {
    /// Standard deviation in mm of an unchecked tape's zero: a bent hook is easily 2 mm out.
    pub const TAPE_ZERO: f64 = 1.5;
    /// The same after it was held against a known length: that reading's own.
    const TAPE_CHECKED: f64 = 0.4;
    /// Standard deviation in degrees of how an unchecked vehicle stands, each way: a floor may fall 1 in 60, and
    /// tyres and springs are not alike.
    pub const TILT: f64 = 1.0;
    /// The same after a gauge was laid on it, in degrees.
    const TILT_CHECKED: f64 = 0.2;

    /// Whether nothing was checked.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// The instruments as far as the checks tell.
    #[must_use]
    pub fn instruments(&self) -> Instruments {
        let (tape_zero, tape_zero_spread) = self
            .tape
            .map_or((0.0, Self::TAPE_ZERO), |check| (check.read.get() - check.known.get(), Self::TAPE_CHECKED));
        let sine = |angle: PitchAngle| angle.get().to_radians().sin();
        let (tilt, spread) = self
            .tilt
            .map_or(([0.0; 2], Self::TILT), |check| ([sine(check.nose_up), sine(check.left_up)], Self::TILT_CHECKED));
        Instruments { tape_zero, tape_zero_spread, tilt, tilt_spread: spread.to_radians() }
    }
}

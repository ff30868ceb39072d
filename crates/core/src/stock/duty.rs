//! What pipes carry.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a pipe carries.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Duty {
    /// Boost from compressor to cooler.
    ChargeHot,
    /// Boost from cooler to throttle.
    ChargeCold,
    /// Air to the compressor.
    Intake,
    /// Coolant.
    Coolant,
    /// Exhaust gas.
    Exhaust,
    /// Oil of an engine or a gearbox, to its cooler and back. Not brake, clutch or steering fluid: their lines are
    /// bought made and tested.
    Oil,
}

impl Duty {
    /// Working pressure in bar when nobody said: a warm street tune's boost, a common cap, near nothing, and
    /// back pressure before a turbine is not this pipe's; an engine's oil relief valve opens at 4 to 6. Shown as a
    /// starting value.
    #[must_use]
    pub const fn usual_pressure(self) -> f64 {
        match self {
            Self::ChargeHot | Self::ChargeCold => 1.5,
            Self::Coolant => 1.1,
            Self::Intake => 0.0,
            Self::Exhaust => 0.3,
            Self::Oil => 5.0,
        }
    }

    /// Whether a liquid flows in it.
    #[must_use]
    pub const fn is_liquid(self) -> bool {
        matches!(self, Self::Coolant | Self::Oil)
    }

    /// Whether boost can blow a joint apart.
    #[must_use]
    pub const fn is_boost(self) -> bool {
        matches!(self, Self::ChargeHot | Self::ChargeCold)
    }
}

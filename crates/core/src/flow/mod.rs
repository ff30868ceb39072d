//! What flows through a pipe, how fast, and what it costs.

mod fluid;
mod loss;

pub use fluid::{
    Fluid, FluidError, USUAL_COOLANT, USUAL_HP, USUAL_OIL, celsius_reason, compressor_outlet, fluid, usual_celsius,
};
pub use loss::{
    BendLoss, BendMade, Losses, Mouth, Stream, bend_resistance, friction_factor, losses, mitre_resistance,
    rough_factor, taper,
};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{AirMassFlow, CoolantFlow, Power, Temperature};

/// What was said about the flow; what is left open is usual for the duty.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FlowGiven {
    /// How much flows.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub amount: Option<FlowAmount>,
    /// How hot it is, in degrees Celsius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub temperature: Option<Temperature>,
}

/// How much flows.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
pub enum FlowAmount {
    /// Air or gas, by mass.
    Mass {
        /// In kg/s.
        kg_per_s: AirMassFlow,
    },
    /// Air or gas, by what the engine is to make.
    Power {
        /// In hp.
        hp: Power,
    },
    /// Coolant, by volume.
    Volume {
        /// In litres a minute.
        litres_per_min: CoolantFlow,
    },
}

//! What is let into a tube. Source: handbook, "Joints, fittings, hoses and supports", Let into the tube.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::stock::Duty;

/// What a bung or a stub let into a tube is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BranchKind {
    /// A bung for a temperature sensor.
    TemperatureSensor,
    /// A bung for a pressure sensor.
    PressureSensor,
    /// A stub for a blow-off valve.
    BlowOff,
    /// A stub by which blown-off air comes back.
    Recirculation,
    /// A stub by which an engine's breather comes back.
    Breather,
    /// A bleed screw's bung.
    Bleed,
    /// A drain plug's bung.
    Drain,
    /// A filler neck.
    Filler,
}

impl BranchKind {
    /// Every kind, in the order they are offered.
    pub const ALL: [Self; 8] = [
        Self::TemperatureSensor,
        Self::PressureSensor,
        Self::BlowOff,
        Self::Recirculation,
        Self::Breather,
        Self::Bleed,
        Self::Drain,
        Self::Filler,
    ];

    /// The kind as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::TemperatureSensor => "temperature sensor bung",
            Self::PressureSensor => "pressure sensor bung",
            Self::BlowOff => "blow-off stub",
            Self::Recirculation => "recirculation stub",
            Self::Breather => "breather stub",
            Self::Bleed => "bleed bung",
            Self::Drain => "drain bung",
            Self::Filler => "filler neck",
        }
    }

    /// Outside diameter in mm when nobody said. Ours: common weld-in bungs and stubs.
    #[must_use]
    pub const fn usual_od(self) -> f64 {
        match self {
            Self::TemperatureSensor => 22.0,
            Self::PressureSensor | Self::Drain => 18.0,
            Self::BlowOff | Self::Filler => 38.1,
            Self::Recirculation => 25.4,
            Self::Breather => 19.05,
            Self::Bleed => 14.0,
        }
    }

    /// How far in mm it stands out of the tube's skin along its own axis when nobody said. Ours: a bung's collar; a stub with
    /// room for a hose's seat and bead.
    #[must_use]
    pub const fn usual_reach(self) -> f64 {
        match self {
            Self::TemperatureSensor | Self::PressureSensor | Self::Drain => 15.0,
            Self::Bleed => 12.0,
            Self::BlowOff => 35.0,
            Self::Recirculation | Self::Breather => 45.0,
            Self::Filler => 60.0,
        }
    }

    /// The clock in degrees from up at which it is put when nobody said: what lets air out is on top, what lets liquid out
    /// below, a sensor at the side.
    #[must_use]
    pub const fn usual_clock(self) -> f64 {
        match self {
            Self::Bleed | Self::Filler | Self::BlowOff | Self::Breather | Self::Recirculation => 0.0,
            Self::Drain => 180.0,
            Self::TemperatureSensor | Self::PressureSensor => 90.0,
        }
    }

    /// Whether it belongs into a pipe of a duty. Source: as above: a temperature sensor after the cooler, recirculation back into
    /// the intake, bleed, drain and filler where there is liquid.
    #[must_use]
    pub const fn belongs_in(self, duty: Duty) -> bool {
        match self {
            Self::TemperatureSensor => !matches!(duty, Duty::ChargeHot),
            Self::PressureSensor => true,
            Self::BlowOff => duty.is_boost(),
            Self::Recirculation | Self::Breather => matches!(duty, Duty::Intake),
            Self::Bleed | Self::Filler => matches!(duty, Duty::Coolant),
            Self::Drain => duty.is_liquid(),
        }
    }

    /// Why, for whoever put it elsewhere.
    #[must_use]
    pub const fn belongs(self) -> &'static str {
        match self {
            Self::TemperatureSensor => "it tells the air after the cooler, so it goes into the cold side",
            Self::PressureSensor => "it goes anywhere",
            Self::BlowOff => "it lets off boost, so it goes into a charge pipe before the throttle",
            Self::Recirculation | Self::Breather => {
                "what comes back goes into the metered intake, before the compressor"
            }
            Self::Bleed => "it lets air out of coolant",
            Self::Filler => "coolant is filled there",
            Self::Drain => "it lets liquid out",
        }
    }

    /// Whether another pipe or hose goes on from it.
    #[must_use]
    pub const fn is_stub(self) -> bool {
        matches!(self, Self::BlowOff | Self::Recirculation | Self::Breather | Self::Filler)
    }

    /// Whether it lets air out of a liquid where it is highest.
    #[must_use]
    pub const fn lets_air_out(self) -> bool {
        matches!(self, Self::Bleed | Self::Filler)
    }
}

/// Room in mm that a stem and the hand on it need along its own axis to go in. Source: as above.
pub const WAY_IN: f64 = 60.0;

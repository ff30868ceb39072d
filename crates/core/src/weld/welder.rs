//! What a builder welds with, and what came of it.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{Bottle, Inside, Process};
use crate::stock::Material;
use nook_geometry::units::Name;

/// A machine, a bottle and a hand. Its figures are checked as it is made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
pub struct Welder {
    /// How it welds.
    process: Process,
    /// The most it gives, in A.
    most_amps: f64,
    /// How fast the torch goes, in mm/min.
    travel: f64,
    /// How fast the gas inside flows, in l/min.
    purge_flow: f64,
    /// What the gas bottle holds of water, in litres.
    bottle: f64,
    /// What keeps the air from the inside of stainless.
    inside: Inside,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    process: Process,
    most_amps: f64,
    travel: f64,
    purge_flow: f64,
    bottle: f64,
    inside: Inside,
}

/// A figure that no machine, bottle or hand has.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
#[error("{what} is {least} to {most} {unit}, not {value}")]
pub struct WelderError {
    what: &'static str,
    value: f64,
    least: f64,
    most: f64,
    unit: &'static str,
}

fn within(what: &'static str, value: f64, [least, most]: [f64; 2], unit: &'static str) -> Result<(), WelderError> {
    // What is no number is within nothing.
    if (least..=most).contains(&value) { Ok(()) } else { Err(WelderError { what, value, least, most, unit }) }
}

impl Welder {
    /// With these figures, in A, mm/min, l/min and litres of water.
    ///
    /// # Errors
    /// [`WelderError`] where one is beyond what there is.
    pub fn new(
        process: Process,
        most_amps: f64,
        travel: f64,
        purge_flow: f64,
        bottle: f64,
        inside: Inside,
    ) -> Result<Self, WelderError> {
        within("the most a machine gives", most_amps, [20.0, 600.0], "A")?;
        within("the torch\u{2019}s travel", travel, [10.0, 600.0], "mm a minute")?;
        within("the flow of gas inside", purge_flow, [2.0, 20.0], "litres a minute")?;
        within("the bottle", bottle, [1.0, 80.0], "litres of water")?;
        Ok(Self { process, most_amps, travel, purge_flow, bottle, inside })
    }

    /// How it welds.
    #[must_use]
    pub const fn process(&self) -> Process {
        self.process
    }

    /// The most it gives, in A.
    #[must_use]
    pub const fn most_amps(&self) -> f64 {
        self.most_amps
    }

    /// How fast the torch goes, in mm/min.
    #[must_use]
    pub const fn travel(&self) -> f64 {
        self.travel
    }

    /// How fast the gas inside flows, in l/min.
    #[must_use]
    pub const fn purge_flow(&self) -> f64 {
        self.purge_flow
    }

    /// What keeps the air from the inside of stainless.
    #[must_use]
    pub const fn inside(&self) -> Inside {
        self.inside
    }

    /// The bottle at so many bar.
    #[must_use]
    pub const fn bottle_at(&self, bar: f64) -> Bottle {
        Bottle { litres: self.bottle, bar }
    }
}

impl Default for Welder {
    /// A 200 A machine with a bottle of 20 litres. Travel and flow: handbook, "The sums", Welding starts.
    fn default() -> Self {
        Self {
            process: Process::Tig,
            most_amps: 200.0,
            travel: 80.0,
            purge_flow: 8.0,
            bottle: 20.0,
            inside: Inside::Purge,
        }
    }
}

impl TryFrom<Parts> for Welder {
    type Error = WelderError;
    fn try_from(parts: Parts) -> Result<Self, WelderError> {
        let Parts { process, most_amps, travel, purge_flow, bottle, inside } = parts;
        Self::new(process, most_amps, travel, purge_flow, bottle, inside)
    }
}

impl From<Welder> for Parts {
    fn from(welder: Welder) -> Self {
        let Welder { process, most_amps, travel, purge_flow, bottle, inside } = welder;
        Self { process, most_amps, travel, purge_flow, bottle, inside }
    }
}

/// How a bead came out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WeldOutcome {
    /// As it should: through, bright, and it bent without a crack.
    Good,
    /// Not through: too cold.
    Cold,
    /// Sagged or burnt through: too hot.
    Hot,
    /// Grey, black or white: air came to it.
    Dirty,
    /// It cracked as it was bent.
    Cracked,
}

impl WeldOutcome {
    /// In words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::Good => "through, bright, and bent without a crack",
            Self::Cold => "not through",
            Self::Hot => "sagged or burnt through",
            Self::Dirty => "grey: air came to it",
            Self::Cracked => "cracked as it was bent",
        }
    }
}

/// A bead laid on a scrap to try a setting.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WeldCoupon {
    /// Of what.
    pub material: Material,
    /// Its wall in mm.
    pub wall: f64,
    /// How it was welded.
    pub process: Process,
    /// What was set, in A.
    pub amps: f64,
    /// How it came out.
    pub outcome: WeldOutcome,
    /// What else is to be remembered of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Name>,
}

/// Walls within so much of each other, in mm, are set alike. Ours.
const SAME_WALL: f64 = 0.26;

impl WeldCoupon {
    /// Most that are kept.
    pub const MOST: usize = 200;

    /// Checks its figures.
    ///
    /// # Errors
    /// [`WelderError`] where one is beyond what there is.
    pub fn check(&self) -> Result<(), WelderError> {
        within("a coupon\u{2019}s wall", self.wall, [0.3, 20.0], "mm")?;
        within("what was set", self.amps, [5.0, 600.0], "A")
    }

    /// What the last good coupon of a metal and a wall in mm was set to, in A; `None` where none was good, or air, cold, heat or a crack came after it.
    #[must_use]
    pub fn proved(all: &[Self], material: Material, wall: f64, process: Process) -> Option<f64> {
        let alike =
            |one: &&Self| one.material == material && (one.wall - wall).abs() < SAME_WALL && one.process == process;
        all.iter().rev().find(alike).filter(|one| one.outcome == WeldOutcome::Good).map(|one| one.amps)
    }
}

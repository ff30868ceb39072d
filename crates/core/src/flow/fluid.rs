//! Air, exhaust gas and coolant.

use serde::Serialize;
use thiserror::Error;

use super::{FlowAmount, FlowGiven};
use crate::stock::Duty;

/// A fluid as it is in the pipe.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Fluid {
    /// Density in kg/m3.
    pub density: f64,
    /// Dynamic viscosity in Pa s.
    pub viscosity: f64,
    /// Speed of sound in m/s; nothing for a liquid.
    pub sound: Option<f64>,
    /// Mass flow in kg/s.
    pub mass_flow: f64,
    /// Absolute pressure in Pa.
    pub pressure: f64,
    /// Temperature in kelvin.
    pub kelvin: f64,
}

/// Why the flow is not known.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum FluidError {
    /// Coolant is said in litres a minute, air by mass or power.
    #[error("coolant flow is said in litres a minute, air flow by mass or by power")]
    WrongMeasure,
    /// Coolant properties are tabled from 0 to 120 C.
    #[error("coolant at {celsius} C is beyond the table, which runs from 0 to 120 C")]
    BeyondTable {
        /// The temperature asked.
        celsius: f64,
    },
}

/// Specific gas constant of dry air in J/(kg K).
pub(super) const GAS: f64 = 287.05;
/// Ratio of specific heats of air.
const HEATS: f64 = 1.4;
/// Atmosphere in Pa.
pub(super) const ATMOSPHERE: f64 = 101_325.0;
/// Air that burns enough fuel for a horsepower, in kg/s. Source: handbook, "The sums", Flow: 1 kg/s per 1330 hp.
const KG_PER_S_PER_HP: f64 = 1.0 / 1330.0;
/// What an engine is taken to make where nobody said, in hp: a warm swap.
const USUAL_HP: f64 = 250.0;
/// Speed in m/s that coolant is taken to have where nobody said how much flows: what pumps are laid out for.
const USUAL_COOLANT: f64 = 1.5;

/// Water and ethylene glycol, half each by volume: degrees Celsius, density in kg/m3, viscosity in mPa s. Source: ASHRAE
/// Handbook, Fundamentals, "Physical properties of secondary coolants", rounded to what a tape deserves.
const COOLANT: [(f64, f64, f64); 7] = [
    (0.0, 1083.0, 7.1),
    (20.0, 1074.0, 3.9),
    (40.0, 1064.0, 2.3),
    (60.0, 1051.0, 1.5),
    (80.0, 1037.0, 1.0),
    (100.0, 1021.0, 0.74),
    (120.0, 1003.0, 0.57),
];

/// What a duty's fluid has in degrees Celsius, where nobody said: past the compressor, past the cooler, under the
/// bonnet, at the thermostat, before a silencer.
#[must_use]
pub const fn usual_celsius(duty: Duty) -> f64 {
    match duty {
        Duty::ChargeHot => 130.0,
        Duty::ChargeCold => 45.0,
        Duty::Intake => 30.0,
        Duty::Coolant => 90.0,
        Duty::Exhaust => 700.0,
    }
}

/// The fluid of a duty at `bar` gauge in a tube of `bore` mm.
///
/// # Errors
/// [`FluidError`] when the amount is said in the wrong measure or coolant is colder or hotter than its table.
pub fn fluid(duty: Duty, given: &FlowGiven, bar: f64, bore: f64) -> Result<Fluid, FluidError> {
    let celsius = given.temperature.map_or_else(|| usual_celsius(duty), crate::units::Temperature::get);
    let (kelvin, pressure) = (celsius + 273.15, ATMOSPHERE + bar * 1e5);
    if duty == Duty::Coolant {
        let (density, viscosity) = coolant(celsius)?;
        let volume = match given.amount {
            None => USUAL_COOLANT * std::f64::consts::PI / 4.0 * (bore * 1e-3).powi(2),
            Some(FlowAmount::Volume { litres_per_min }) => litres_per_min.get() / 60_000.0,
            Some(_) => return Err(FluidError::WrongMeasure),
        };
        return Ok(Fluid { density, viscosity, sound: None, mass_flow: volume * density, pressure, kelvin });
    }
    let mass_flow = match given.amount {
        None => USUAL_HP * KG_PER_S_PER_HP,
        Some(FlowAmount::Mass { kg_per_s }) => kg_per_s.get(),
        Some(FlowAmount::Power { hp }) => hp.get() * KG_PER_S_PER_HP,
        Some(FlowAmount::Volume { .. }) => return Err(FluidError::WrongMeasure),
    };
    Ok(Fluid {
        density: pressure / (GAS * kelvin),
        viscosity: sutherland(kelvin),
        sound: Some((HEATS * GAS * kelvin).sqrt()),
        mass_flow,
        pressure,
        kelvin,
    })
}

/// Viscosity of air in Pa s. Source: W. Sutherland, "The viscosity of gases and molecular force", 1893, with the
/// constants of the US Standard Atmosphere 1976.
fn sutherland(kelvin: f64) -> f64 {
    1.458e-6 * kelvin.powf(1.5) / (kelvin + 110.4)
}

fn coolant(celsius: f64) -> Result<(f64, f64), FluidError> {
    let pair = COOLANT.windows(2).find(|pair| (pair[0].0..=pair[1].0).contains(&celsius));
    let pair = pair.ok_or(FluidError::BeyondTable { celsius })?;
    let share = (celsius - pair[0].0) / (pair[1].0 - pair[0].0);
    let density = pair[0].1 + share * (pair[1].1 - pair[0].1);
    // Viscosity falls by shares, not by steps.
    let viscosity = (pair[0].2.ln() + share * (pair[1].2 / pair[0].2).ln()).exp();
    Ok((density, viscosity * 1e-3))
}

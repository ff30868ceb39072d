//! Air, exhaust gas, coolant and oil.

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
    /// Coolant and oil are said in litres a minute, air by mass or power.
    #[error("the flow of coolant and oil is said in litres a minute, that of air by mass or by power")]
    WrongMeasure,
    /// A liquid's properties are tabled from one temperature to another.
    #[error("{celsius} C is beyond the table of this liquid, which runs from {from} to {to} C")]
    BeyondTable {
        /// The temperature asked.
        celsius: f64,
        /// Least in the table.
        from: f64,
        /// Most in it.
        to: f64,
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
pub const USUAL_HP: f64 = 250.0;
/// Speeds in m/s that coolant and oil are taken to have where nobody said how much flows: what pumps are laid out for.
pub const USUAL_COOLANT: f64 = 1.5;
/// The same for oil.
pub const USUAL_OIL: f64 = 2.0;
/// Air into a compressor in degrees Celsius, under a bonnet on a warm day. Source: handbook, "The sums", Temperatures:
/// 20 to 40.
const USUAL_INLET: f64 = 30.0;
/// Isentropic efficiency of a compressor. Source: as above.
const USUAL_EFFICIENCY: f64 = 0.7;

/// Water and ethylene glycol, half each by volume: degrees Celsius, density in kg/m3, viscosity in mPa s. Source: ASHRAE
/// Handbook, Fundamentals, "Physical properties of secondary coolants", rounded to what a tape deserves.
const COOLANT: [Tabled; 7] = [
    (0.0, 1083.0, 8.3),
    (20.0, 1074.0, 3.9),
    (40.0, 1064.0, 2.3),
    (60.0, 1051.0, 1.5),
    (80.0, 1037.0, 1.0),
    (100.0, 1021.0, 0.74),
    (120.0, 1003.0, 0.57),
];
/// Engine oil 10W-40: the same figures. Viscosities by ASTM D341 through 95 mm2/s at 40 C and 14 mm2/s at 100 C, the
/// middle of SAE J300's range for grade 40; density 0.87 at 15 C, falling by 0.00065 a degree.
const OIL: [Tabled; 8] = [
    (0.0, 880.0, 862.0),
    (20.0, 867.0, 226.0),
    (40.0, 854.0, 81.1),
    (60.0, 841.0, 36.4),
    (80.0, 828.0, 19.2),
    (100.0, 815.0, 11.4),
    (120.0, 802.0, 7.4),
    (150.0, 782.0, 4.37),
];
type Tabled = (f64, f64, f64);

/// Temperature in degrees Celsius of air out of a compressor, from air at `inlet_c`, at `boost_bar` gauge and an
/// isentropic `efficiency` of 0 to 1. Source: handbook, "The sums", Temperatures; textbook isentropic compression.
#[must_use]
pub fn compressor_outlet(inlet_c: f64, boost_bar: f64, efficiency: f64) -> f64 {
    let ratio = (AMBIENT_BAR + boost_bar) / AMBIENT_BAR;
    let inlet = inlet_c + ZERO;
    inlet * (1.0 + (ratio.powf((HEATS - 1.0) / HEATS) - 1.0) / efficiency) - ZERO
}

/// Air's pressure in bar. Source: as above.
const AMBIENT_BAR: f64 = 1.013;
/// Degrees Celsius of the ice point in kelvin.
const ZERO: f64 = 273.15;

/// What a duty's fluid has in degrees Celsius at `bar` gauge, where nobody said: past the compressor, past the cooler,
/// under the bonnet, at the thermostat, before a silencer, in the sump.
#[must_use]
pub fn usual_celsius(duty: Duty, bar: f64) -> f64 {
    match duty {
        Duty::ChargeHot => compressor_outlet(USUAL_INLET, bar, USUAL_EFFICIENCY),
        Duty::ChargeCold => 45.0,
        Duty::Intake => USUAL_INLET,
        Duty::Coolant => 90.0,
        Duty::Exhaust => 700.0,
        Duty::Oil => 110.0,
    }
}

/// Why a duty's fluid is taken to be so hot.
#[must_use]
pub fn celsius_reason(duty: Duty, bar: f64) -> String {
    match duty {
        Duty::ChargeHot => {
            let [cool, warm] = [20.0, 40.0].map(|inlet| compressor_outlet(inlet, bar, USUAL_EFFICIENCY));
            format!("out of a compressor at {bar} bar, 70 % efficient: {cool:.0} to {warm:.0} from air of 20 to 40")
        }
        Duty::ChargeCold => "past a cooler on a warm day".to_owned(),
        Duty::Intake => "under a bonnet on a warm day".to_owned(),
        Duty::Coolant => "at the thermostat".to_owned(),
        Duty::Exhaust => "before a silencer, under load".to_owned(),
        Duty::Oil => "in the sump of a warm engine".to_owned(),
    }
}

/// The fluid of a duty at `bar` gauge in a tube of `bore` mm.
///
/// # Errors
/// [`FluidError`] when the amount is said in the wrong measure, or a liquid is colder or hotter than its table.
pub fn fluid(duty: Duty, given: &FlowGiven, bar: f64, bore: f64) -> Result<Fluid, FluidError> {
    let celsius = given.temperature.map_or_else(|| usual_celsius(duty, bar), nook_geometry::units::Temperature::get);
    let (kelvin, pressure) = (celsius + ZERO, ATMOSPHERE + bar * 1e5);
    if duty.is_liquid() {
        let (table, usual) = if duty == Duty::Oil { (&OIL[..], USUAL_OIL) } else { (&COOLANT[..], USUAL_COOLANT) };
        let (density, viscosity) = tabled(table, celsius)?;
        let volume = match given.amount {
            None => usual * std::f64::consts::PI / 4.0 * (bore * 1e-3).powi(2),
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

/// Density in kg/m3 and viscosity in Pa s of a liquid between the rows of its table.
fn tabled(table: &[Tabled], celsius: f64) -> Result<(f64, f64), FluidError> {
    let pair = table.windows(2).find(|pair| (pair[0].0..=pair[1].0).contains(&celsius));
    let limits = [table.first(), table.last()].map(|row| row.map_or(f64::NAN, |row| row.0));
    let pair = pair.ok_or(FluidError::BeyondTable { celsius, from: limits[0], to: limits[1] })?;
    let share = (celsius - pair[0].0) / (pair[1].0 - pair[0].0);
    let density = pair[0].1 + share * (pair[1].1 - pair[0].1);
    // Viscosity falls by shares, not by steps.
    let viscosity = (pair[0].2.ln() + share * (pair[1].2 / pair[0].2).ln()).exp();
    Ok((density, viscosity * 1e-3))
}

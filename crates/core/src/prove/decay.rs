//! What two readings of a gauge on a closed pipe say of its leak.

/// Two readings of a closed pipe: gauge pressures in bar, temperatures of the gas in degrees Celsius.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Held {
    /// Volume enclosed, in litres.
    pub litres: f64,
    /// Pressure and temperature at first.
    pub first: [f64; 2],
    /// The same later.
    pub last: [f64; 2],
    /// So many seconds later.
    pub seconds: f64,
}

/// What leaked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Decay {
    /// What the gauge would show later at the first temperature, in bar.
    pub bar_at_first: f64,
    /// What of the pressure is lost, in bar.
    pub lost_bar: f64,
    /// The leak in Pa m3/s.
    pub pa_m3_s: f64,
    /// The same in standard cm3/min, at 0 C and 1.01325 bar.
    pub sccm: f64,
}

/// Pressure of the air in bar. Source: handbook, "The sums", More reference numbers, `decays`.
pub const AMBIENT: f64 = 1.013;
/// Degrees Celsius of absolute zero, below 0.
pub const KELVIN: f64 = 273.15;
/// Pa in a bar, cm3 in a m3, seconds in a minute.
const PA: f64 = 1e5;
const CM3: f64 = 1e6;
const MINUTE: f64 = 60.0;
/// Standard pressure in Pa.
const STANDARD: f64 = 101_325.0;

/// What leaked between two readings. Source: the gas law; handbook, as above.
#[must_use]
pub fn decay(held: &Held) -> Decay {
    let [[bar_1, c_1], [bar_2, c_2]] = [held.first, held.last];
    let bar_at_first = (bar_2 + AMBIENT) * (c_1 + KELVIN) / (c_2 + KELVIN) - AMBIENT;
    let lost_bar = bar_1 - bar_at_first;
    let pa_m3_s = lost_bar * PA * held.litres * 1e-3 / held.seconds;
    Decay { bar_at_first, lost_bar, pa_m3_s, sccm: pa_m3_s * sccm_of_pa_m3_s(c_1) }
}

/// Standard cm3/min in one Pa m3/s of gas at so many degrees Celsius.
fn sccm_of_pa_m3_s(celsius: f64) -> f64 {
    CM3 * MINUTE / STANDARD * KELVIN / (celsius + KELVIN)
}

/// Standard cm3/min for each litre enclosed that one bar a second is, of gas at so many degrees Celsius.
#[must_use]
pub fn sccm_a_litre(celsius: f64) -> f64 {
    PA * 1e-3 * sccm_of_pa_m3_s(celsius)
}

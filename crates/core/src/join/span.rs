//! Spans between what holds a pipe: how they ring, what they ring with, and how they grow. Source: handbook, "The sums", Joints,
//! and "Joints, fittings, hoses and supports", Supports.

use std::f64::consts::PI;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{EngineSpeed, OutOfRange};

/// What is asked of an engine once per job: it shakes the pipes that ride on it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EngineFiring {
    /// How many cylinders it has.
    #[schema(minimum = 1, maximum = 16)]
    pub cylinders: u8,
    /// Its usual top speed, in rpm.
    pub top: EngineSpeed,
    /// The least speed it usually runs at, in rpm: what rings well below that is passed through and not stayed in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub least: Option<EngineSpeed>,
}

impl EngineFiring {
    /// Most cylinders.
    const MOST_CYLINDERS: u8 = 16;

    /// Checks that it has cylinders, and that the two speeds are in their order.
    ///
    /// # Errors
    /// [`OutOfRange`] where it has none or more than 16, or the least speed is above the top.
    pub fn check(&self) -> Result<(), OutOfRange> {
        if !(1..=Self::MOST_CYLINDERS).contains(&self.cylinders) {
            return Err(OutOfRange {
                what: "the number of cylinders",
                value: self.cylinders.into(),
                min: 1.0,
                max: Self::MOST_CYLINDERS.into(),
                unit: "cylinders",
            });
        }
        match self.least {
            Some(least) if least > self.top => Err(OutOfRange {
                what: "the least usual speed of the engine",
                value: least.get(),
                min: EngineSpeed::MIN,
                max: self.top.get(),
                unit: "rpm",
            }),
            _ => Ok(()),
        }
    }
}

/// A tube as a beam: what bends and what is carried.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Beam {
    /// Outside diameter in mm.
    pub od: f64,
    /// Wall in mm.
    pub wall: f64,
    /// Young's modulus in GPa.
    pub youngs_modulus: f64,
    /// Density of the metal in kg/m3.
    pub density: f64,
    /// Density of what flows in it, in kg/m3.
    pub fluid: f64,
}

/// What a beam that is fixed at one end and free at the other rings at, as a share of one of pinned ends: both numbers are
/// the squares of the first roots of their characteristic equations, over each other.
const STANDS_OUT: f64 = 1.875_104_068_711_961 * 1.875_104_068_711_961 / (PI * PI);

impl Beam {
    /// First bending frequency in Hz of a span of `length` mm between pinned ends: `pi/2 sqrt(EI/m') / L^2`, its fluid
    /// included. Source: handbook, "The sums", Joints; Young and Budynas, Roark's Formulas, natural frequencies of uniform
    /// beams.
    #[must_use]
    pub fn frequency(&self, length: f64) -> f64 {
        let (stiff, mass) = self.stiffness_and_mass();
        let metres = length / 1000.0;
        PI / 2.0 * (stiff / mass).sqrt() / (metres * metres)
    }

    /// First bending frequency in Hz of a length of `length` mm that is held firmly at one end and stands out in the air:
    /// `1.8751^2 / (2 pi) sqrt(EI/m') / L^2`. Source: as above, fixed and free ends.
    #[must_use]
    pub fn overhang_frequency(&self, length: f64) -> f64 {
        self.frequency(length) * STANDS_OUT
    }

    /// Longest span in mm whose first bending frequency is at least `hz`.
    #[must_use]
    pub fn longest(&self, hz: f64) -> f64 {
        let (stiff, mass) = self.stiffness_and_mass();
        (PI / 2.0 * (stiff / mass).sqrt() / hz).sqrt() * 1000.0
    }

    /// Longest length in mm that stands out in the air and rings at `hz` at least.
    #[must_use]
    pub fn longest_overhang(&self, hz: f64) -> f64 {
        self.longest(hz / STANDS_OUT)
    }

    /// Bending stiffness in N m2, and mass in kg per m.
    fn stiffness_and_mass(&self) -> (f64, f64) {
        let (out, inner) = (self.od / 1000.0, (self.od - 2.0 * self.wall) / 1000.0);
        let stiff = self.youngs_modulus * 1e9 * PI / 64.0 * (out.powi(4) - inner.powi(4));
        let mass = PI / 4.0 * ((out * out - inner * inner) * self.density + inner * inner * self.fluid);
        (stiff, mass)
    }
}

/// Firing frequency in Hz of a four-stroke engine of `cylinders` at `rpm`: each fires every second turn.
#[must_use]
pub fn firing_frequency(rpm: f64, cylinders: u8) -> f64 {
    rpm / 60.0 * f64::from(cylinders) / 2.0
}

/// Engine speed in rpm at which a four-stroke engine of `cylinders` fires `hz` times a second.
#[must_use]
pub fn firing_speed(hz: f64, cylinders: u8) -> f64 {
    hz * 120.0 / f64::from(cylinders)
}

/// By how many times at least the first frequency of a span on the engine is above the firing frequency at its usual top
/// speed. Source: handbook, "Joints, fittings, hoses and supports", Supports.
pub const ABOVE_FIRING: f64 = 1.3;
/// Least first frequency in Hz of a span on the body. Source: as above.
pub const LEAST_ON_BODY: f64 = 45.0;

/// Growth in mm of a length of `mm` that gets hotter by `kelvin`, of a material that expands by `per_kelvin`.
#[must_use]
pub fn growth(mm: f64, per_kelvin: f64, kelvin: f64) -> f64 {
    mm * per_kelvin * kelvin
}

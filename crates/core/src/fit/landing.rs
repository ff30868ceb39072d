//! The chance that a pipe lands: that its end is off by no more than the joint there takes.
//!
//! The misfit is taken as jointly normal and integrated over what the joint takes, one part given the parts before it
//! (Genz 1992, "Numerical computation of multivariate normal probabilities"), on the points of a fixed lattice, so that the
//! same pipe always has the same chance.

use statrs::distribution::{ContinuousCDF, Normal};

use super::MisfitCovariance;
use crate::join::Give;

/// Points of the lattice. With these the chance is good to about one in a thousand (the suite holds it to that against sampling).
const POINTS: u32 = 2048;
/// Square roots of the first primes, of which the lattice's steps are the fractions (Richtmyer).
const STEPS: [f64; 4] =
    [std::f64::consts::SQRT_2, 1.732_050_807_568_877_2, 2.236_067_977_499_79, 2.645_751_311_064_590_6];
/// What of a spread is left of it given the others, below which that is nothing but rounding, as a share of it.
const NOTHING: f64 = 1e-9;

/// The chance that axial miss, offset and angle are each within what the joint takes, with a misfit of this covariance about
/// nothing; `None` where that is no covariance of numbers.
#[must_use]
pub fn chance_to_land(covariance: &MisfitCovariance, give: &Give) -> Option<f64> {
    let factor = factor(covariance)?;
    let normal = Normal::standard();
    let tilt = give.angle.to_radians();
    let mut sum = 0.0;
    for point in 0..POINTS {
        let mut weight = 1.0;
        let (mut parts, mut drawn) = ([0.0; 5], [0.0; 5]);
        for part in 0..5 {
            // Offset and tilt stay within a circle: what the first of two took is gone for the second.
            let reach = match part {
                0 => give.axial,
                1 => give.offset,
                2 => left(give.offset, parts[1]),
                3 => tilt,
                _ => left(tilt, parts[3]),
            };
            let mean: f64 = (0..part).map(|before| factor[part][before] * drawn[before]).sum();
            let spread = factor[part][part];
            if spread <= 0.0 {
                weight *= if mean.abs() <= reach { 1.0 } else { 0.0 };
                parts[part] = mean;
            } else {
                let [low, high] = [(-reach - mean) / spread, (reach - mean) / spread].map(|bound| normal.cdf(bound));
                weight *= (high - low).max(0.0);
                drawn[part] = match STEPS.get(part) {
                    Some(step) if weight > 0.0 => {
                        let share = low + tent(f64::from(point + 1) * step) * (high - low);
                        normal.inverse_cdf(share.clamp(1e-300, 1.0 - f64::EPSILON))
                    }
                    _ => 0.0,
                };
                parts[part] = mean + spread * drawn[part];
            }
            if weight <= 0.0 {
                break;
            }
        }
        sum += weight;
    }
    Some(sum / f64::from(POINTS))
}

/// What is left of a circle's reach beside a chord.
fn left(reach: f64, taken: f64) -> f64 {
    (reach * reach - taken * taken).max(0.0).sqrt()
}

/// A fraction folded at its middle, which makes what is summed periodic and the sum converge sooner.
fn tent(number: f64) -> f64 {
    (2.0 * number.fract() - 1.0).abs()
}

/// Lower triangle whose product with its transpose is the covariance, which may leave some directions no spread at all.
fn factor(covariance: &MisfitCovariance) -> Option<[[f64; 5]; 5]> {
    if !covariance.iter().all(|number| number.is_finite()) {
        return None;
    }
    let mut factor = [[0.0; 5]; 5];
    for row in 0..5 {
        for column in 0..=row {
            let known: f64 = (0..column).map(|at| factor[row][at] * factor[column][at]).sum();
            let rest = covariance[(row, column)] - known;
            factor[row][column] = if row == column {
                let whole = covariance[(row, row)];
                if whole < 0.0 || rest < -NOTHING * whole {
                    return None;
                }
                if rest > NOTHING * whole { rest.sqrt() } else { 0.0 }
            } else if factor[column][column] > 0.0 {
                rest / factor[column][column]
            } else {
                0.0
            };
        }
    }
    Some(factor)
}

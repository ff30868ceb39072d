//! How long a mitred seam is.

use std::f64::consts::PI;

/// Length in mm of the seam round tube of `od` mm cut at `saw` radians: the perimeter of an ellipse with half
/// axes `od / 2` and `od / 2 / cos(saw)`.
///
/// By the arithmetic-geometric mean (Abramowitz and Stegun, section 17.6): exact to rounding in a handful of
/// steps, where the usual short formulas are not.
#[must_use]
pub fn seam_length(od: f64, saw: f64) -> f64 {
    let (short, long) = (od / 2.0, od / 2.0 / saw.cos());
    let (mut a, mut b) = (long, short);
    let mut sum = long * long - (long * long - short * short) / 2.0;
    let mut weight = 0.5;
    while (a - b).abs() > 1e-15 * long {
        let c = (a - b) / 2.0;
        (a, b) = ((a + b) / 2.0, (a * b).sqrt());
        weight *= 2.0;
        sum -= weight * c * c;
    }
    2.0 * PI * sum / a
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn agrees_with_walking_round_the_ellipse() {
        for (od, degrees) in [(63.5_f64, 4.5_f64), (38.1, 22.5), (101.6, 45.0), (50.0, 0.0)] {
            let saw = degrees.to_radians();
            let (short, long) = (od / 2.0, od / 2.0 / saw.cos());
            let steps = 200_000;
            let at = |k: u32| {
                let phi = 2.0 * PI * f64::from(k) / f64::from(steps);
                (long * phi.cos(), short * phi.sin())
            };
            let walked: f64 = (0..steps).map(|k| (at(k + 1).0 - at(k).0).hypot(at(k + 1).1 - at(k).1)).sum();
            assert!((seam_length(od, saw) - walked).abs() < 1e-6, "{od} at {degrees}");
        }
    }
}

//! What pressure does to joints and bends.

use std::f64::consts::PI;

/// Newtons per square millimetre in one bar.
const N_PER_MM2_PER_BAR: f64 = 0.1;

/// Force in N that pushes a joint apart: `p pi/4 D^2` on the seal diameter, mm, at `bar` gauge.
/// Source: handbook, "The sums", Joints.
#[must_use]
pub fn end_thrust(seal_od: f64, bar: f64) -> f64 {
    bar * N_PER_MM2_PER_BAR * PI / 4.0 * seal_od * seal_od
}

/// Force in N that pushes a bend outwards: `2 p A sin(angle / 2)`, angle in radians.
/// Source: handbook, "The sums", Joints.
#[must_use]
pub fn bend_thrust(od: f64, bar: f64, angle: f64) -> f64 {
    2.0 * end_thrust(od, bar) * (angle / 2.0).sin()
}

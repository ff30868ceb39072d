//! How fast a turner turns a tube under a torch that stands still.

use std::f64::consts::PI;

/// How fast a turner turns.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TurnerSpeed {
    /// Turns a minute.
    pub rpm: f64,
    /// Seconds for one turn.
    pub seconds: f64,
}

/// For tube of `od` mm outside under a torch that travels `travel` mm/min. Source: handbook, "The sums", Welding starts.
///
/// # Panics
/// Never; both must be above 0.
#[must_use]
pub fn turner(od: f64, travel: f64) -> TurnerSpeed {
    let rpm = travel / (PI * od);
    TurnerSpeed { rpm, seconds: 60.0 / rpm }
}

//! Where the big things stand: what they come too near to, what they see of the openings they breathe through, what they
//! leave for a hand and over the ground, and how they are held.

mod beam;
mod bolt;
mod bracket;
mod bracket_meets;
mod outline;
mod pairs;
mod rules;
mod sway;

pub use beam::Compliance;
pub use bolt::{BOLT_LENGTHS, BoltError, BoltFit, bolt_fit, clamped};
pub use bracket::{BracketEnd, BracketError, BracketPlan, FlatBend, FlatHole, NEUTRAL, bracket_plan};
pub use bracket_meets::bracket_meets;
pub use pairs::{Pair, Pairs};
pub use rules::{Core, Face, Ground, Hand, Rules, Shown, over_ground, rules};
pub(crate) use sway::bracket_ends;
pub use sway::{LEAST_FREQUENCY, Sway, SwayError, SwayMode, sway};

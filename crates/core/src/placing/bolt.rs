//! Which bolt goes into a boss without bottoming.

use crate::measure::{BracketStock, Holding, MountPoint};
use nook_geometry::units::{DualUnitText, LengthUnit};

/// Lengths in mm that bolts are sold in. Source: ISO 4017 and ISO 4762, the usual range.
pub const BOLT_LENGTHS: [f64; 20] = [
    6.0, 8.0, 10.0, 12.0, 14.0, 16.0, 18.0, 20.0, 22.0, 25.0, 28.0, 30.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0, 65.0,
    70.0,
];
/// Thread that holds in aluminium, as diameters. Source: handbook gives none; VDI 2230 part 1 asks 1.1 to 1.5 of soft alloys.
const GRIP: f64 = 1.5;
/// What is left free at the bottom of a blind boss, in mm: its last thread is not cut full.
const FREE: f64 = 1.0;
/// Thickness of a washer as a share of the bolt, roughly as ISO 7089 has it.
const WASHER: f64 = 0.22;

/// The bolt for a boss.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BoltFit {
    /// Its length in mm, under the head.
    pub length: f64,
    /// How much of it is in the thread, in mm.
    pub grip: f64,
}

/// Why no bolt fits.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum BoltError {
    /// The boss is too shallow to hold by.
    Shallow {
        /// Thread there is to use.
        have: f64,
        /// Thread needed.
        need: f64,
    },
    /// One length grips too little and the next bottoms.
    Between {
        /// The one that grips too little.
        short: f64,
        /// The one that bottoms.
        long: f64,
        /// Washers that make the longer one fit.
        washers: u32,
    },
}

impl BoltError {
    /// Said in words.
    #[must_use]
    pub fn words(&self, name: &str) -> DualUnitText {
        DualUnitText::new(|unit: LengthUnit| match *self {
            Self::Shallow { have, need } => format!(
                "{name}: its boss leaves {} of thread and wants {}; a longer bolt would go through into the tank.",
                unit.text(have),
                unit.text(need)
            ),
            Self::Between { short, long, washers } => format!(
                "{name}: a bolt of {} grips too little, one of {} bottoms in the boss. Put {washers} washers under it.",
                unit.text(short),
                unit.text(long)
            ),
        })
    }
}

/// The bolt of `size` mm that goes through `stack` mm and one washer into a blind boss `depth` mm deep.
///
/// # Errors
/// [`BoltError`] as its variants say.
pub fn bolt_fit(size: f64, stack: f64, depth: f64) -> Result<BoltFit, BoltError> {
    let (need, room) = (GRIP * size, depth - FREE);
    if room < need {
        return Err(BoltError::Shallow { have: room.max(0.0), need });
    }
    let washer = WASHER * size;
    let under = stack + washer;
    let fits = BOLT_LENGTHS.iter().rev().copied().find(|length| length - under <= room);
    match fits {
        Some(length) if length - under >= need => Ok(BoltFit { length, grip: length - under }),
        short => {
            let short = short.unwrap_or(0.0);
            let long = BOLT_LENGTHS.iter().copied().find(|length| *length > short).unwrap_or(short);
            let more = ((long - under - room) / washer).ceil().max(1.0);
            // At most a handful: lengths lie 5 mm apart.
            let washers = (1..100_u32).find(|count| f64::from(*count) >= more).unwrap_or(1);
            Err(BoltError::Between { short, long, washers })
        }
    }
}

/// How thick what a bolt holds at a mounting point is, in mm; a rubber's own stud goes into the boss.
#[must_use]
pub fn clamped(mount: &MountPoint) -> Option<f64> {
    match (mount.rubber, mount.held) {
        (Some(_), _) | (_, None) => None,
        (None, Some(Holding::Car)) => Some(SHEET),
        (None, Some(Holding::Bracket { bracket })) => Some(match bracket.stock {
            BracketStock::Strip { thickness, .. } | BracketStock::Angle { thickness, .. } => thickness.get(),
        }),
    }
}

/// Thickness in mm of the car's metal where a component is bolted straight to it: a starting value for a folded tab.
const SHEET: f64 = 2.0;

#[cfg(test)]
mod tests {
    #![allow(clippy::panic, reason = "a test fails by panicking")]
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_is_told_neither_bottoms_nor_lets_go(size in 4.0..12.0_f64, stack in 1.0..12.0_f64, depth in 4.0..40.0_f64) {
            let washer = WASHER * size;
            match bolt_fit(size, stack, depth) {
                Ok(fit) => {
                    prop_assert!(fit.length - stack - washer <= depth - FREE + 1e-9);
                    prop_assert!(fit.grip >= GRIP * size && BOLT_LENGTHS.contains(&fit.length));
                }
                Err(BoltError::Shallow { have, need }) => prop_assert!(have < need),
                Err(BoltError::Between { long, washers, .. }) => {
                    let inside = long - stack - washer * f64::from(washers + 1);
                    prop_assert!(inside <= depth - FREE + 1e-9 && inside > depth - FREE - washer - 1e-9);
                }
            }
        }
    }
}

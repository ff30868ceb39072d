//! What a pipe is too near to.

use nook_geometry::units::DualUnitText;

/// Something a pipe is too near to at `at`, by its name; the gap that is left and the one wanted, in mm, and how far the
/// engine is rolled then, in radians.
pub(in crate::findings) fn near_thing(at: &str, name: &str, [gap, limit]: [f64; 2], roll: f64) -> DualUnitText {
    let degrees = roll.to_degrees().abs();
    let rolled = if degrees < 0.05 { String::new() } else { format!(" with the engine rolled {degrees:.1}\u{b0}") };
    DualUnitText::new(|unit| {
        if gap <= 0.0 {
            format!("{at} runs {} into the {name}{rolled}; {} of air wanted.", unit.text(-gap), unit.text(limit))
        } else {
            format!("{at}: {} to the {name}{rolled}; {} wanted.", unit.text(gap), unit.text(limit))
        }
    })
}

/// A pipe that meets itself says where twice.
pub(in crate::findings) fn near_itself(at: &str, other: &str, gaps: [f64; 2], roll: f64) -> DualUnitText {
    let mut letters = other.chars();
    let small: String = letters.next().map_or_else(String::new, |first| first.to_lowercase().chain(letters).collect());
    near_thing(at, &format!("same pipe's {small}"), gaps, roll)
}

/// A hose of `joint` too near to something hot.
pub(in crate::findings) fn hose_near_heat(joint: &str, thing: &str, [gap, limit]: [f64; 2]) -> DualUnitText {
    DualUnitText::new(|unit| {
        format!(
            "{joint}: its hose comes within {} of the {thing}; rubber and silicone want {} or a heat sleeve, metal less.",
            unit.text(gap.max(0.0)),
            unit.text(limit)
        )
    })
}

/// Says that the gap to something is not known.
pub fn unmeasured_words(name: &str) -> DualUnitText {
    DualUnitText::new(|_| {
        format!("The gap to the {name} is not known: its scan is not here, or it is not matched to the vehicle.")
    })
}

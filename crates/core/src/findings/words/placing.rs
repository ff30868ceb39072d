//! Where the big things stand and how they are held.

use crate::placing::{Ground, LEAST_FREQUENCY, Pair, Shown, Sway, SwayError};
use nook_geometry::Vector;
use nook_geometry::units::{DualUnitText, capital};

/// Two things too near to each other.
pub(in crate::findings) fn things_near([one, other]: [&str; 2], pair: &Pair) -> DualUnitText {
    let degrees = pair.near.roll.to_degrees().abs();
    let rolled = if degrees < 0.05 { String::new() } else { format!(" with the engine rolled {degrees:.1}\u{b0}") };
    let swung = pair.near.swung.iter().zip([one, other]).filter_map(|(swung, name)| {
        let degrees = swung.map(f64::to_degrees).filter(|degrees| degrees.abs() >= 0.05)?;
        Some(format!(" with the {name} at {degrees:.0}\u{b0} of its swing"))
    });
    let moved = rolled + &swung.collect::<String>();
    let (gap, limit, one) = (pair.near.gap, pair.limit, capital(one));
    DualUnitText::new(|unit| {
        if gap <= 0.0 {
            format!("{one} runs {} into the {other}{moved}; {} of air wanted.", unit.text(-gap), unit.text(limit))
        } else {
            format!("{one}: {} to the {other}{moved}; {} wanted.", unit.text(gap), unit.text(limit))
        }
    })
}

/// Most pairs that are named in one line.
const NAMED: usize = 3;

/// Things measured nearer than is asked that stand still to each other.
pub(in crate::findings) fn as_measured(pairs: &[[String; 2]]) -> DualUnitText {
    let named: Vec<String> = pairs.iter().take(NAMED).map(|[one, other]| format!("{one} and {other}")).collect();
    let more = pairs.len().saturating_sub(NAMED);
    let more = if more == 0 { String::new() } else { format!(", and {more} more") };
    let text = format!(
        "As measured they touch or nearly do: {}{more}. Where they belong together, say so; where not, measure again.",
        named.join("; ")
    );
    DualUnitText::new(|_| text.clone())
}

/// Two scans that are not measured against each other.
pub(in crate::findings) fn scans_unmeasured([one, other]: [&str; 2]) -> DualUnitText {
    let text = format!(
        "The gap between the {one} and the {other} is not known: two scans are not measured against each other."
    );
    DualUnitText::new(|_| text.clone())
}

pub(in crate::findings) fn face_hidden(name: &str, opening: &str, shown: &Shown, wanted: f64) -> DualUnitText {
    let (share, name) = (shown.share * 100.0, capital(name));
    let side = |by: f64, plus: &str, minus: &str, unit: &dyn Fn(f64) -> String| match by {
        by if by.abs() < 1.0 => None,
        by if by > 0.0 => Some(format!("{} {plus}", unit(by))),
        by => Some(format!("{} {minus}", unit(-by))),
    };
    DualUnitText::new(|unit| {
        let text = |by: f64| unit.text(by);
        let off: Vec<String> =
            [side(shown.aside, "left of", "right of", &text), side(shown.above, "above", "below", &text)]
                .into_iter()
                .flatten()
                .collect();
        let off = if off.is_empty() {
            String::new()
        } else {
            format!(" Its middle lies {} the opening\u{2019}s.", off.join(" and "))
        };
        format!("{name}: the {opening} shows {share:.0} % of its face; {:.0} % wanted.{off}", wanted * 100.0)
    })
}

pub(in crate::findings) fn off_centre(name: &str, opening: &str, aside: f64, most: f64) -> DualUnitText {
    let (name, side) = (capital(name), if aside > 0.0 { "left" } else { "right" });
    DualUnitText::new(|unit| {
        format!(
            "{name} stands {} to the {side} of the middle of the {opening}; {} is wished at most.",
            unit.text(aside.abs()),
            unit.text(most)
        )
    })
}

pub(in crate::findings) fn not_level(name: &str, level: f64, most: f64) -> DualUnitText {
    let (name, side) = (capital(name), if level > 0.0 { "left" } else { "right" });
    let text = format!(
        "{name} hangs {:.1}\u{b0} out of level, its {side} side up; {most:.1}\u{b0} is wished at most.",
        level.abs()
    );
    DualUnitText::new(|_| text.clone())
}

pub(in crate::findings) fn air_goes_round(name: &str, core: &str, gap: f64, most: f64) -> DualUnitText {
    let name = capital(name);
    DualUnitText::new(|unit| {
        format!(
            "{name} stands up to {} behind the {core}, so air goes round it; {} is wished at most, or a duct between them.",
            unit.text(gap),
            unit.text(most)
        )
    })
}

pub(in crate::findings) fn no_hand_room(name: &str, by: &str, free: f64, wanted: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        format!("A hand has {} at the {name}, then the {by}; {} wanted.", unit.text(free), unit.text(wanted))
    })
}

pub(in crate::findings) fn scrapes(name: &str, ground: &Ground, flat_least: f64, ramp: f64) -> DualUnitText {
    let name = capital(name);
    DualUnitText::new(|unit| {
        if ground.flat < flat_least {
            let over = if ground.flat < 0.0 {
                format!("{} into the ground", unit.text(-ground.flat))
            } else {
                format!("{} over the ground", unit.text(ground.flat))
            };
            format!("{name} comes {over} at full bump; {} wanted.", unit.text(flat_least))
        } else {
            format!(
                "{name} scrapes on a ramp of {ramp:.1}\u{b0} by {}; it clears {:.1}\u{b0}.",
                unit.text(-ground.ramp),
                ground.steepest
            )
        }
    })
}

/// What comes too near since the mounts lift a component.
pub(in crate::findings) fn lifted(name: &str, by: f64, what: &str, to: &str, [gap, limit]: [f64; 2]) -> DualUnitText {
    DualUnitText::new(|unit| {
        let how = if gap <= 0.0 {
            format!("runs {} into the {to}", unit.text(-gap))
        } else {
            format!("comes within {} of the {to}", unit.text(gap))
        };
        format!("Its mounts lift the {name} by {}, and the {what} {how}; {} wanted.", unit.text(by), unit.text(limit))
    })
}

/// A direction as a builder says a sway.
fn to_and_fro(way: &Vector) -> &'static str {
    ["forward and back", "from side to side", "up and down"][way.iamax()]
}

/// How a component is held, or why that is not known.
#[must_use]
pub fn sway_words(judged: &Result<Sway, SwayError>) -> DualUnitText {
    match judged {
        Ok(Sway { mode, .. }) if mode.frequency <= 0.0 => {
            let way = to_and_fro(&mode.way);
            DualUnitText::new(|_| {
                format!(
                    "Nothing but friction at its bolts holds it {way}: it wants a second bolt, or a mount in another direction."
                )
            })
        }
        Ok(Sway { mode, shaken, .. }) => {
            let way = to_and_fro(&mode.way);
            let most = shaken.map_or(0.0, |all| all.into_iter().fold(0.0, f64::max));
            DualUnitText::new(|unit| {
                let verdict = if mode.frequency < LEAST_FREQUENCY { "sways" } else { "stands firm; it swings first" };
                format!(
                    "It {verdict} {way} at {:.0} Hz ({LEAST_FREQUENCY:.0} wanted), and gives {} under its own weight.",
                    mode.frequency,
                    unit.text(most)
                )
            })
        }
        Err(SwayError::NoMass) => {
            DualUnitText::new(|_| "Whether it sways is not known until its mass is said.".to_owned())
        }
        Err(SwayError::NoBody) => DualUnitText::new(|_| {
            "Whether it sways is not known: it has no box, cylinder or ball for a body.".to_owned()
        }),
        Err(SwayError::NotHeld { at: None }) => DualUnitText::new(|_| "Nobody has said where it is held.".to_owned()),
        Err(SwayError::NotHeld { at: Some(at) }) => {
            DualUnitText::new(|_| format!("What holds it at the {} has not been said yet.", at.as_str()))
        }
        Err(SwayError::NoBracket { at }) => {
            DualUnitText::new(|_| format!("The bracket at the {} cannot be made as it is.", at.as_str()))
        }
    }
}

//! Where nothing fits: the least that would have to give.

use serde::Serialize;
use utoipa::ToSchema;

use super::offer::{Offer, TurnFirst};
use nook_core::environment::Thing;
use nook_geometry::units::DualUnitText;

/// Something that would make room for a way.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Relaxation {
    /// What, and by how much.
    pub words: DualUnitText,
    /// The way that there would be.
    pub offer: Box<Offer>,
}

impl Relaxation {
    /// What would have to give for an offer that does not fit: every amount, the greatest first.
    pub(super) fn gap(offer: Offer) -> Option<Self> {
        let short = offer.short.clone();
        let mouths = offer.fits_but_for_the_mouths();
        short.first()?;
        let words = DualUnitText::new(|unit| {
            let each: Vec<String> = short
                .iter()
                .map(|one| {
                    let missing = unit.text(one.limit.mm() - one.gap.mm());
                    let gap = one.gap.mm();
                    let left =
                        if gap > 0.0 { format!(" (or let that gap be {})", unit.text(gap)) } else { String::new() };
                    match (one.thing, one.mouth) {
                        (Thing::Itself, Some(_)) => format!("{missing} where the joints of A and B cross"),
                        (Thing::Itself, None) => format!("{missing} from itself"),
                        (_, Some(end)) => format!("{missing} at the {} by mouth {}{left}", one.name, end.letter()),
                        (_, None) => format!("{missing} at the {}{left}", one.name),
                    }
                })
                .collect();
            let all = match each.as_slice() {
                [all @ .., last] if !all.is_empty() => format!("{} and {last}", all.join(", ")),
                _ => each.concat(),
            };
            if mouths {
                format!(
                    "Whatever the way, the mouths stand too near: short by {all}. Move the mouth or the thing by that."
                )
            } else {
                let act = if short.iter().all(|one| one.thing == Thing::Itself) {
                    "Move or turn a mouth."
                } else {
                    "Move things by that much."
                };
                format!("The way that comes nearest to fitting is short by {all}. {act}")
            }
        });
        Some(Self { words, offer: Box::new(offer) })
    }

    /// A component that makes room when it is turned.
    pub(super) fn turned(offer: Offer, turn: &TurnFirst) -> Self {
        let (name, degrees) = (turn.name.clone(), turn.turned.get());
        let words = DualUnitText::new(|_| format!("With the {name} turned to {degrees:.0}\u{b0} a way fits."));
        Self { words, offer: Box::new(offer) }
    }
}

//! Where nothing fits: the least that would have to give.

use serde::Serialize;
use utoipa::ToSchema;

use super::offer::{Offer, TurnFirst};
use crate::units::Words;

/// Something that would make room for a way.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Give {
    /// What, and by how much.
    pub words: Words,
    /// The way that there would be.
    pub offer: Box<Offer>,
}

impl Give {
    /// What would have to give for an offer that does not fit.
    pub(super) fn gap(offer: Offer) -> Option<Self> {
        let short = offer.short.clone();
        let worst = short.first()?.clone();
        let others = short.len() - 1;
        let words = Words::new(|unit| {
            let missing = unit.say(worst.limit.mm() - worst.gap.mm());
            let more = match others {
                0 => String::new(),
                1 => format!(", and the {} too", short[1].name),
                n => format!(", and {n} other things too"),
            };
            let let_be = if worst.gap.mm() > 0.0 {
                format!(" or let that gap be {}", unit.say(worst.gap.mm()))
            } else {
                String::new()
            };
            format!(
                "The way that comes nearest to fitting is {missing} short at the {}: move it that much,{let_be}{more}.",
                worst.name
            )
            .replace("much,.", "much.")
        });
        Some(Self { words, offer: Box::new(offer) })
    }

    /// A component that makes room when it is turned.
    pub(super) fn turned(offer: Offer, turn: &TurnFirst) -> Self {
        let (name, degrees) = (turn.name.clone(), turn.turned.get());
        let words = Words::new(|_| format!("With the {name} turned to {degrees:.0}\u{b0} a way fits."));
        Self { words, offer: Box::new(offer) }
    }
}

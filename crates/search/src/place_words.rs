//! What is said of a place on offer.

use super::place_offer::{PlaceOffer, PlaceRunOutcome};
use nook_core::measure::{Component, Freedom};
use nook_geometry::units::{DualUnitText, LengthUnit};

/// Where a place is from where the component stands now.
pub(super) fn named(component: &Component, now: &[f64], then: &[f64]) -> DualUnitText {
    let moves = component.freedoms.iter().zip(now.iter().zip(then));
    let moves: Vec<(Freedom, f64)> =
        moves.map(|(freedom, (was, is))| (*freedom, is - was)).filter(|(_, by)| by.abs() >= 0.05).collect();
    DualUnitText::new(|unit| {
        let each = moves.iter().map(|(freedom, by)| said_move(freedom, *by, unit));
        let words = each.collect::<Vec<_>>().join(", ");
        if words.is_empty() { "As it stands".to_owned() } else { words }
    })
}

fn said_move(freedom: &Freedom, by: f64, unit: LengthUnit) -> String {
    let words = freedom.move_words(by, unit);
    format!("{}{}", words.done, words.by)
}

/// Says of each offer what it is best at, and what is wrong with it.
pub(super) fn said(offers: &mut [PlaceOffer]) {
    let least = |of: &dyn Fn(&PlaceOffer) -> Option<f64>| {
        offers
            .iter()
            .filter(|offer| offer.fouls == 0 && offer.spoils.is_empty())
            .filter_map(of)
            .fold(f64::INFINITY, f64::min)
    };
    let hours = least(&|offer| offer.hours);
    let length = least(&|offer| offer.length.map(|length| length.mm()));
    let hidden = least(&|offer| offer.shown.map(|shown| -shown));
    for offer in offers.iter_mut() {
        let best = |value: Option<f64>, least: f64, hair: f64| value.is_some_and(|value| value <= least + hair);
        let clear = offer.fouls == 0 && offer.spoils.is_empty();
        let short = offer.length.map(|length| length.mm());
        let mut good: Vec<String> = Vec::new();
        if clear && best(offer.hours, hours, 0.05) {
            good.push("least work on its pipes".to_owned());
        }
        if clear && best(short, length, 5.0) {
            good.push("shortest pipes".to_owned());
        }
        if clear && offer.shown.is_some() && best(offer.shown.map(|shown| -shown), hidden, 0.01) {
            good.push("breathes best".to_owned());
        }
        if clear && offer.short.mm() < 0.05 && offer.broken == 0 {
            good.push("keeps every rule".to_owned());
        } else if clear && offer.short.mm() < 0.05 {
            good.push("clear of everything".to_owned());
        }
        let ended = |as_it_did: PlaceRunOutcome| {
            let those = offer.runs.iter().filter(|run| run.outcome == as_it_did);
            those.map(|run| run.mark.as_str()).collect::<Vec<_>>().join(" and ")
        };
        let (unfit, unsought) = (ended(PlaceRunOutcome::NothingFound), ended(PlaceRunOutcome::Stopped));
        let (fouls, broken, missing) = (offer.fouls, offer.broken, offer.short.mm());
        let spoils = offer.spoils.join(" and ");
        offer.good = DualUnitText::new(|_| good.join(", "));
        let but = DualUnitText::new(|unit| {
            let mut all = Vec::new();
            if fouls > 0 {
                all.push(format!("runs into {fouls} {}", if fouls == 1 { "thing" } else { "things" }));
            } else if missing >= 0.05 {
                all.push(format!("{} of air missing", unit.text(missing)));
            }
            if !spoils.is_empty() {
                all.push(format!("in the way of {spoils}"));
            }
            if broken > 0 {
                all.push(format!("{broken} {} not kept", if broken == 1 { "rule" } else { "rules" }));
            }
            if !unfit.is_empty() {
                all.push(format!("no way found yet for {unfit}"));
            }
            if !unsought.is_empty() {
                all.push(format!("the time was up before a way was found for {unsought}"));
            }
            all.join("; ")
        });
        offer.but = (!but.mm.is_empty()).then_some(but);
    }
}

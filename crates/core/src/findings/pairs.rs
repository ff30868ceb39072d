//! Two things that should not meet.

use super::place_mend::Looked;
use super::remedy::remedy;
use super::words::{as_measured, scans_unmeasured, things_near};
use super::{Finding, FindingKind, Remedy, Severity};
use crate::edit::PlaceEdit;
use crate::environment::Thing;
use crate::measure::{Component, KeepOutId};
use crate::part_ref::PartRef;
use crate::placing::Pair;

/// Overlaps of what was measured that are no deeper, in mm, are what a tape is good to.
const TAPE: f64 = 3.0;

/// Findings of everything nearer to something than is asked.
pub(super) fn pairs(looked: &Looked<'_>, mend: bool) -> Vec<Finding> {
    let (still, told): (Vec<Pair>, Vec<Pair>) = looked.pairs.near().iter().partition(|pair| pair.as_measured);
    let unmeasured = looked.pairs.unmeasured(looked.job).into_iter().map(|things| {
        let words = scans_unmeasured(things.map(|id| name(looked, id)));
        let part = PartRef::KeepOut { keep_out: things[0] };
        Finding::new(FindingKind::GapUnknown, Severity::Warning, part, words)
            .against(Thing::KeepOut { keep_out: things[1] })
    });
    told.iter().map(|pair| finding(looked, pair, mend)).chain(together(looked, &still)).chain(unmeasured).collect()
}

fn name<'a>(looked: &Looked<'a>, id: KeepOutId) -> &'a str {
    looked.job.keep_out(id).map_or("", |one| one.name.as_str())
}

fn finding(looked: &Looked<'_>, pair: &Pair, mend: bool) -> Finding {
    let [one, other] = ordered(looked, pair.things);
    let swapped = [one, other] != pair.things;
    let pair = if swapped {
        let mut near = pair.near;
        near.at.reverse();
        near.swung.reverse();
        Pair { things: [one, other], near, ..*pair }
    } else {
        *pair
    };
    let (kind, severity) = if pair.fouls() {
        (FindingKind::ThingsFoul, Severity::Error)
    } else {
        (FindingKind::ThingsTooNear, Severity::Warning)
    };
    let words = things_near([name(looked, one), name(looked, other)], &pair);
    let remedies = if mend { remedies(looked, &pair) } else { Vec::new() };
    Finding::new(kind, severity, PartRef::KeepOut { keep_out: one }, words)
        .measured(pair.near.gap, pair.limit)
        .against(Thing::KeepOut { keep_out: other })
        .mended_by(remedies)
}

/// What can be moved is named first.
fn ordered(looked: &Looked<'_>, [one, other]: [KeepOutId; 2]) -> [KeepOutId; 2] {
    let moves = |id| looked.job.whole_of(id).is_some_and(|whole| !whole.freedoms.is_empty());
    if moves(other) && !moves(one) { [other, one] } else { [one, other] }
}

fn remedies(looked: &Looked<'_>, pair: &Pair) -> Vec<Remedy> {
    let wholes: Vec<&Component> = pair.things.iter().filter_map(|id| looked.job.whole_of(*id)).collect();
    let gone = |next: &Looked<'_>| {
        let same = |other: &Pair| pair.things.iter().all(|id| other.things.contains(id));
        !next.pairs.near().iter().any(same)
    };
    let mut all: Vec<Remedy> =
        wholes.iter().flat_map(|whole| looked.moved(whole, pair.short().floor(), &gone)).collect();
    all.push(belong(&[pair.things]));
    all
}

fn belong(pairs: &[[KeepOutId; 2]]) -> Remedy {
    let edit = PlaceEdit::BelongTogether { pairs: pairs.to_vec() };
    let words = if pairs.len() == 1 { "They belong together" } else { "They all belong together" };
    remedy(|_| words.to_owned(), edit.into())
}

/// What stands still to each other, just as measured: the car itself shows whether it is so.
fn together(looked: &Looked<'_>, pairs: &[Pair]) -> Option<Finding> {
    let worst = pairs.first()?;
    let severity = if pairs.iter().any(|pair| pair.near.gap < -TAPE) { Severity::Warning } else { Severity::Info };
    let names: Vec<[String; 2]> = pairs.iter().map(|pair| pair.things.map(|id| name(looked, id).to_owned())).collect();
    let things: Vec<[KeepOutId; 2]> = pairs.iter().map(|pair| pair.things).collect();
    let [one, other] = worst.things;
    let finding =
        Finding::new(FindingKind::ThingsAsMeasured, severity, PartRef::KeepOut { keep_out: one }, as_measured(&names));
    Some(
        finding
            .measured(worst.near.gap, worst.limit)
            .against(Thing::KeepOut { keep_out: other })
            .mended_by(vec![belong(&things)]),
    )
}

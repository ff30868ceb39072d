//! What is kept beside for pieces that are spoilt.

use std::sync::atomic::AtomicBool;

use serde::Serialize;
use utoipa::ToSchema;

use crate::nest::{NestError, NestGiven, StickSource};
use crate::nesting::nest;
use nook_geometry::units::{DualUnitText, Measure, ScrapRate};

/// What is kept beside of one sort of tube, by the share of pieces that the builder spoils.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SparePlan {
    /// For how many pieces.
    pub pieces: usize,
    /// How much tube these take at most: that of the longest ones.
    pub takes: Measure,
    /// Lengths to buy besides, and how many of each, in the order of what is on sale; none where what is left over is enough.
    pub buy: Vec<SpareLength>,
    /// What that costs.
    pub cost: f64,
    /// All of it in a sentence.
    pub words: DualUnitText,
}

/// A length that is bought to have a spare.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SpareLength {
    /// How long it is.
    pub length: Measure,
    /// What one costs.
    pub price: f64,
    /// How many.
    pub count: usize,
}

/// Spares are kept for as many as are not exceeded in nine vehicles of ten. Ours.
const ENOUGH: f64 = 0.9;
/// Steps of the search for what holds them.
const STEPS: u64 = 200_000;

/// The least count that, of `pieces` each spoilt with this chance whatever the others are, is exceeded in one case of ten at most.
#[must_use]
pub fn spare_count(pieces: usize, scrap: ScrapRate) -> usize {
    let (share, count) = (scrap.get(), f64::from(u32::try_from(pieces).unwrap_or(u32::MAX)));
    // The chance of exactly so many, and of no more than that.
    let mut exactly = (1.0 - share).powf(count);
    let mut at_most = exactly;
    let mut spares = 0;
    let mut before = 0.0;
    while at_most < ENOUGH && spares < pieces {
        exactly *= (count - before) / (before + 1.0) * share / (1.0 - share);
        before += 1.0;
        spares += 1;
        at_most += exactly;
    }
    spares
}

/// What is kept beside for pieces that take so many mm each, one by one, where `left` is what is left of the shelf and `on_sale` what
/// can be bought; `None` where none is spoilt that often.
///
/// # Errors
/// [`NestError::Stopped`] where it was called off.
pub(super) fn spares(
    mut pieces: Vec<f64>,
    scrap: ScrapRate,
    given: NestGiven,
    stop: &AtomicBool,
) -> Result<Option<SparePlan>, NestError> {
    let count = spare_count(pieces.len(), scrap);
    if count == 0 {
        return Ok(None);
    }
    pieces.sort_by(|p, q| q.total_cmp(p));
    pieces.truncate(count);
    let takes = pieces.iter().sum::<f64>();
    let buys = given.buys.clone();
    let what = if count == 1 { "one piece".to_owned() } else { format!("{count} pieces") };
    let rate = scrap.get() * 100.0;
    let told =
        |buy: Vec<SpareLength>, cost: f64, rest: &dyn Fn(nook_geometry::units::LengthUnit) -> String| SparePlan {
            pieces: count,
            takes: Measure(takes),
            words: DualUnitText::new(|unit| {
                format!(
                    "With {rate:.0} % spoilt, {what} may be sawn again ({} at most): {}",
                    unit.text(takes),
                    rest(unit)
                )
            }),
            buy,
            cost,
        };
    let spare = match nest(&NestGiven { pieces, ..given }, STEPS, stop) {
        Ok(nest) => {
            let bought =
                |index: usize| nest.sticks.iter().filter(|one| one.source == StickSource::Bought { index }).count();
            let buy = buys.iter().enumerate().map(|(index, one)| SpareLength {
                length: Measure(one.length),
                price: one.price,
                count: bought(index),
            });
            let buy: Vec<SpareLength> = buy.filter(|one| one.count > 0).collect();
            let list = buy.clone();
            told(buy, nest.cost, &move |unit| {
                if list.is_empty() {
                    return "what is left over holds them.".to_owned();
                }
                let each = list.iter().map(|one| format!("{} \u{d7} {}", one.count, unit.text(one.length.mm())));
                format!("buy {} more.", each.collect::<Vec<_>>().join(" and "))
            })
        }
        Err(NestError::Stopped) => return Err(NestError::Stopped),
        // More than can be nested: nothing is said.
        Err(NestError::TooMany { .. } | NestError::Figure { .. }) => return Ok(None),
        Err(NestError::TooLong { .. } | NestError::NotEnough { .. }) => {
            told(Vec::new(), 0.0, &|_| "what is left over does not hold them, and nothing can be bought.".to_owned())
        }
    };
    Ok(Some(spare))
}

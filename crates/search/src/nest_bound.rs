//! What no plan can be better than, however its pieces are put together: tube that could be cut anywhere without waste.

use std::sync::atomic::AtomicBool;

use crate::nest::{NestError, NestGiven};
use crate::nest_sums::{Steps, Sums, mm};
use crate::nesting::{MOST_STICKS, Tried};

/// The least cost, and the least length touched at that cost in mm, of tube that could be cut anywhere; never more than of any nest of the
/// same pieces, parted or not, since parting makes no less of them. `most` is what one is known to cost.
///
/// # Errors
/// [`NestError::Figure`], [`NestError::TooMany`] as a nest has them.
pub(super) fn least_of_any(given: &NestGiven, most: f64) -> Result<[f64; 2], NestError> {
    let sums = Sums::of(given)?;
    let stop = AtomicBool::new(false);
    let tried = Tried::new(&sums, 0, &stop);
    // Every stick counts: one that is too short for each piece as it is takes one that is parted.
    let shelf: Vec<Steps> = given.shelf.iter().map(|stick| sums.gives(*stick)).collect();
    let lacking = (sums.need - shelf.iter().sum::<Steps>()).max(0);
    let sawn = sums.need - sums.kerf * Steps::try_from(sums.pieces.len()).unwrap_or(0);
    let (purchases, complete) = tried.purchases(lacking, most);
    let Some(cheapest) = purchases.first().map(|purchase| tried.cost(purchase)).filter(|_| complete) else {
        return Ok([0.0, mm(sawn)]);
    };
    let of_least = purchases.iter().filter(|purchase| tried.cost(purchase) <= cheapest + 1e-9);
    let of_least: Vec<[Steps; 2]> = of_least
        .map(|purchase| {
            let each = purchase.iter().zip(&sums.buys);
            each.fold([0, 0], |[gives, long], (count, buy)| {
                let count = Steps::try_from(*count).unwrap_or(0);
                [gives + count * buy.0, long + count * (buy.0 - sums.kerf)]
            })
        })
        .collect();
    if shelf.len() > MOST_STICKS || of_least.len() > MOST_ALIKE {
        return Ok([cheapest, mm(sawn)]);
    }
    let chosen = (0..1_u32 << shelf.len()).map(|chosen| {
        let of = shelf.iter().enumerate().filter(|(bit, _)| chosen & (1 << bit) != 0);
        of.fold([0, 0], |[gives, long], (_, stick)| [gives + stick, long + stick - sums.kerf])
    });
    let touched = chosen.flat_map(|[gives, long]| {
        let enough = of_least.iter().filter(move |bought| gives + bought[0] >= sums.need);
        enough.map(move |bought| long + bought[1])
    });
    Ok([cheapest, mm(touched.min().unwrap_or(sawn))])
}

/// Purchases of the least price that are looked at with each choice of the shelf.
const MOST_ALIKE: usize = 50;

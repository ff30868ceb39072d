//! Which pieces are sawn from which stick: least cost, then least length of sticks touched, then the longest single remainder.
//!
//! A choice of sticks settles cost and length touched, whatever is sawn from which: so choices are tried from the cheapest and
//! shortest up, and the first that all pieces go into is the best there is. Where it could not be told of a choice whether they do, what was
//! found is told with the bound that is left.

use std::collections::HashSet;
use std::sync::atomic::{AtomicBool, Ordering};

use crate::nest::{Nest, NestError, NestGiven, NestedStick, StickSource};
use crate::nest_sums::{Steps, Sums, mm};
use crate::stick_set::{Packed, pack};

/// Of so many sticks on the shelf every choice is tried; of more the longest that are not needed are left out one by one.
pub const MOST_STICKS: usize = 14;
/// Choices of sticks that are tried, and steps of the search for one, before it is left open. Of twenty pieces nothing is left open.
const CHOICES: usize = 4_000;
/// Purchases that are looked at, and those of one price.
const PURCHASES: usize = 20_000;
const ALIKE: usize = 20;
/// Prices nearer than this are one.
const SAME_PRICE: f64 = 1e-9;
const STEPS: u64 = 3_000_000;
/// Steps after which what was found is good enough.
pub const NEST_STEPS: u64 = 60_000_000;

/// The best nest there is, as far as it was told in about so many steps; [`NEST_STEPS`] are some seconds at most.
///
/// # Errors
/// [`NestError`] as its variants say.
pub fn nest(given: &NestGiven, steps: u64, stop: &AtomicBool) -> Result<Nest, NestError> {
    let sums = Sums::of(given)?;
    let mut tried = Tried::new(&sums, steps, stop);
    let (purchases, all, least_cost) = tried.cheapest()?;
    tried.shortest(&purchases, all, least_cost)
}

/// So many of one price on top of a sum.
fn fold(sum: f64, price: f64, count: usize) -> f64 {
    (0..count).fold(sum, |sum, _| sum + price)
}

/// How many of each length on sale are bought.
pub(super) type Purchase = Vec<usize>;
/// Which sticks of the shelf are touched, a bit for each.
type Chosen = u128;

/// What was found of a choice of sticks.
enum Found {
    Goes(Vec<Vec<usize>>),
    Never,
    Open,
}

pub(super) struct Tried<'a> {
    sums: &'a Sums<'a>,
    stop: &'a AtomicBool,
    left: u64,
    /// Choices that no packing was for: nor is there for any part of one.
    infeasible: Vec<(Purchase, Chosen)>,
}

impl<'a> Tried<'a> {
    pub(super) const fn new(sums: &'a Sums<'a>, steps: u64, stop: &'a AtomicBool) -> Self {
        Self { sums, stop, left: steps, infeasible: Vec::new() }
    }

    fn gives(&self, purchase: &Purchase, chosen: Chosen) -> Vec<Steps> {
        let shelf =
            self.sums.shelf.iter().enumerate().filter(|(bit, _)| chosen & (1 << bit) != 0).map(|(_, stick)| stick.0);
        let bought = purchase.iter().zip(&self.sums.buys).flat_map(|(count, buy)| std::iter::repeat_n(buy.0, *count));
        shelf.chain(bought).collect()
    }

    pub(super) fn cost(&self, purchase: &Purchase) -> f64 {
        purchase.iter().zip(&self.sums.buys).fold(0.0, |sum, (count, buy)| fold(sum, buy.1, *count))
    }

    fn touched(&self, gives: &[Steps]) -> Steps {
        gives.iter().map(|stick| stick - self.sums.kerf).sum()
    }

    /// Whether all pieces go into a choice of sticks.
    fn goes(&mut self, purchase: &Purchase, chosen: Chosen) -> Result<Found, NestError> {
        if self.stop.load(Ordering::Relaxed) {
            return Err(NestError::Stopped);
        }
        let gives = self.gives(purchase, chosen);
        let part = |of: &(Purchase, Chosen)| {
            chosen & !of.1 == 0 && purchase.iter().zip(&of.0).all(|(count, most)| count <= most)
        };
        if gives.iter().sum::<Steps>() < self.sums.need || self.infeasible.iter().any(part) {
            return Ok(Found::Never);
        }
        let (found, steps) = pack(&self.sums.takes(), &gives, STEPS.min(self.left));
        self.left = self.left.saturating_sub(steps);
        Ok(match found {
            Packed::Goes(sticks) => Found::Goes(sticks),
            Packed::Never => {
                self.infeasible.push((purchase.clone(), chosen));
                Found::Never
            }
            Packed::Open => Found::Open,
        })
    }

    /// The cheapest purchases with which, and the whole shelf, all pieces go; and what none costs less than.
    fn cheapest(&mut self) -> Result<(Vec<Purchase>, Chosen, f64), NestError> {
        let all: Chosen = (1 << self.sums.shelf.len()) - 1;
        let shelf = self.gives(&Vec::new(), all);
        let enough = match self.enough(&shelf) {
            Some(enough) => Some(enough),
            None => self.enough_at_all(all)?,
        };
        let Some(enough) = enough else {
            return Err(NestError::NotEnough {
                shelf: mm(self.touched(&shelf)),
                need: mm(self.sums.need - self.sums.kerf),
            });
        };
        let lacking = (self.sums.need - shelf.iter().sum::<Steps>()).max(0);
        let (purchases, complete) = self.purchases(lacking, self.cost(&enough));
        let mut found: Vec<Purchase> = Vec::new();
        let (mut cheapest, mut open) = (f64::INFINITY, f64::INFINITY);
        for purchase in purchases {
            let cost = self.cost(&purchase);
            if cost > cheapest + SAME_PRICE || found.len() >= ALIKE {
                break;
            }
            match self.goes(&purchase, all)? {
                Found::Goes(_) => {
                    cheapest = cost;
                    found.push(purchase);
                }
                Found::Open => open = open.min(cost),
                Found::Never => {}
            }
        }
        if found.is_empty() {
            cheapest = self.cost(&enough);
            found.push(enough);
        }
        let mut least = open.min(cheapest);
        if !complete {
            // What tube costs at the lowest price there is.
            #[expect(clippy::cast_precision_loss, reason = "tube is shorter than a kilometre")]
            let lacking = lacking as f64;
            least = least.min(lacking * self.best_ratio(0));
        }
        // Of what was passed over nothing is known.
        Ok((found, all, if self.sums.passed_over { 0.0 } else { least }))
    }

    /// The same where that way of sawing finds none: the shelf alone, or as many of each length as there are pieces, sawn in any way.
    fn enough_at_all(&mut self, all: Chosen) -> Result<Option<Purchase>, NestError> {
        let none: Purchase = vec![0; self.sums.buys.len()];
        let each: Purchase = vec![self.sums.pieces.len(); self.sums.buys.len()];
        for purchase in [none, each] {
            if matches!(self.goes(&purchase, all)?, Found::Goes(_)) {
                return Ok(Some(purchase));
            }
        }
        Ok(None)
    }

    /// A purchase that is enough beside the shelf, by sawing each piece, longest first, from the stick where it leaves least: of one
    /// length or of several; `None` where nothing is long enough.
    fn enough(&self, shelf: &[Steps]) -> Option<Purchase> {
        let takes = self.sums.takes();
        let none: Purchase = vec![0; self.sums.buys.len()];
        let of_one = (0..none.len()).filter_map(|kind| {
            (0..=takes.len()).find_map(|count| {
                let mut purchase = none.clone();
                purchase[kind] = count;
                let gives = [shelf, &vec![self.sums.buys[kind].0; count]].concat();
                matches!(pack(&takes, &gives, 0).0, Packed::Goes(_)).then_some(purchase)
            })
        });
        let mut mixed = none.clone();
        let mut left = shelf.to_vec();
        let of_several = takes.iter().try_for_each(|takes| {
            let stick = (0..left.len()).filter(|stick| left[*stick] >= *takes).min_by_key(|stick| left[*stick]);
            let stick = stick.or_else(|| {
                let long = (0..none.len()).filter(|kind| self.sums.buys[*kind].0 >= *takes);
                let kind = long.min_by(|p, q| self.ratio(*p).total_cmp(&self.ratio(*q)))?;
                mixed[kind] += 1;
                left.push(self.sums.buys[kind].0);
                Some(left.len() - 1)
            })?;
            left[stick] -= takes;
            Some(())
        });
        let all = of_one.chain(of_several.map(|()| mixed.clone()));
        all.min_by(|p, q| self.cost(p).total_cmp(&self.cost(q)))
    }

    /// What one length on sale costs for each step it gives.
    #[expect(clippy::cast_precision_loss, reason = "a stick is shorter than 20 m")]
    fn ratio(&self, kind: usize) -> f64 {
        let (gives, price) = self.sums.buys[kind];
        price / gives as f64
    }

    /// The least of those from `kind` on.
    fn best_ratio(&self, kind: usize) -> f64 {
        (kind..self.sums.buys.len()).map(|kind| self.ratio(kind)).fold(f64::INFINITY, f64::min)
    }

    /// Purchases that give what is lacking and cost no more than `most`, the cheapest first; and whether these are all of them.
    pub(super) fn purchases(&self, lacking: Steps, most: f64) -> (Vec<Purchase>, bool) {
        let mut all = Vec::new();
        let complete = self.more(&mut vec![0; self.sums.buys.len()], 0, lacking, (0.0, most), &mut all);
        all.sort_by(|p, q| self.cost(p).total_cmp(&self.cost(q)).then_with(|| q.cmp(p)));
        (all, complete)
    }

    fn more(
        &self,
        purchase: &mut Purchase,
        kind: usize,
        lacking: Steps,
        (cost, most): (f64, f64),
        all: &mut Vec<Purchase>,
    ) -> bool {
        if all.len() >= PURCHASES {
            return false;
        }
        let Some((gives, price)) = self.sums.buys.get(kind).copied() else {
            if lacking <= 0 {
                all.push(purchase.clone());
            }
            return true;
        };
        let mut complete = true;
        // No more of anything than one for each piece.
        for count in 0..=self.sums.pieces.len() {
            let (cost, lacking) = (fold(cost, price, count), lacking - gives * Steps::try_from(count).unwrap_or(0));
            if cost > most + SAME_PRICE {
                break;
            }
            // The rest costs at least what it does at the best price that is left.
            #[expect(clippy::cast_precision_loss, reason = "as above")]
            let rest = if lacking > 0 { lacking as f64 * self.best_ratio(kind + 1) } else { 0.0 };
            if cost + rest > most + SAME_PRICE {
                continue;
            }
            purchase[kind] = count;
            complete &= self.more(purchase, kind + 1, lacking, (cost, most), all);
            purchase[kind] = 0;
            if !complete && all.len() >= PURCHASES {
                return false;
            }
        }
        complete
    }

    /// Of those purchases the one that touches least, with what of the shelf it takes.
    fn shortest(mut self, purchases: &[Purchase], all: Chosen, least_cost: f64) -> Result<Nest, NestError> {
        let mut choices: Vec<(Steps, &Purchase, Chosen)> = Vec::new();
        let each = self.sums.shelf.len() <= MOST_STICKS;
        for purchase in purchases {
            let chosen = if each { (0..=all).collect() } else { vec![self.without_needless(purchase, all)?] };
            for chosen in chosen.into_iter().filter(|chosen| !each || self.is_canonical(*chosen)) {
                let gives = self.gives(purchase, chosen);
                if gives.iter().sum::<Steps>() >= self.sums.need {
                    choices.push((self.touched(&gives), purchase, chosen));
                }
            }
        }
        choices.sort();
        // Where not every choice is tried, no less is touched than is sawn.
        let sawn = self.sums.pieces.iter().map(|piece| piece.0 - self.sums.kerf).sum();
        let mut open: Option<Steps> = (!each || purchases.len() >= ALIKE).then_some(sawn);
        let mut best = None;
        for (count, (touched, purchase, chosen)) in choices.iter().enumerate() {
            // Once the steps are used up the whole shelf is known to do.
            if (count > CHOICES || self.left == 0) && open.is_none() {
                open = Some(*touched);
            }
            if each && (count > CHOICES || self.left == 0) && *chosen != all {
                continue;
            }
            self.left = self.left.max(STEPS);
            match self.goes(purchase, *chosen)? {
                Found::Goes(sticks) => {
                    best = Some((*touched, *purchase, *chosen, sticks));
                    break;
                }
                Found::Open => open = Some(open.unwrap_or(*touched)),
                Found::Never => {}
            }
        }
        let Some((touched, purchase, chosen, sticks)) = best else {
            // Never: it was found to go before.
            return Err(NestError::Stopped);
        };
        let gives = self.gives(purchase, chosen);
        let (sticks, longest) = self.longest_left(&gives, sticks)?;
        let cost = self.cost(purchase);
        let proven_cost = least_cost >= cost - 1e-9;
        let least_touched = if proven_cost { mm(open.unwrap_or(touched).min(touched)) } else { 0.0 };
        let sticks = self.told(purchase, chosen, &gives, &sticks);
        // A stick that nothing is sawn from is not touched.
        let told: f64 = sticks.iter().map(|stick| stick.length).sum();
        let least_touched = least_touched.min(told);
        Ok(Nest {
            touched: told,
            sticks,
            cost,
            least_cost,
            least_touched,
            proven: proven_cost && open.is_none() && longest,
        })
    }

    /// The whole shelf without those of its sticks, the longest first, that all pieces go without.
    fn without_needless(&mut self, purchase: &Purchase, all: Chosen) -> Result<Chosen, NestError> {
        let mut chosen = all;
        for bit in (0..self.sums.shelf.len()).rev() {
            let less = chosen & !(1 << bit);
            self.left = self.left.max(STEPS / 10);
            if matches!(self.goes(purchase, less)?, Found::Goes(_)) {
                chosen = less;
            }
        }
        Ok(chosen)
    }

    /// Of sticks of one length on the shelf the first are taken.
    fn is_canonical(&self, chosen: Chosen) -> bool {
        let pairs = self.sums.shelf.windows(2).enumerate();
        pairs
            .into_iter()
            .all(|(bit, pair)| pair[0].0 != pair[1].0 || chosen & (1 << (bit + 1)) == 0 || chosen & (1 << bit) != 0)
    }

    /// The same sticks sawn so that one of them is left as long as it can be; and whether none can be left longer. How long each can
    /// be left is found by halving: what goes with a long remainder goes with a shorter one.
    fn longest_left(&mut self, gives: &[Steps], sticks: Vec<Vec<usize>>) -> Result<(Vec<Vec<usize>>, bool), NestError> {
        let takes = self.sums.takes();
        let left = |sticks: &[Vec<usize>], stick: usize| {
            gives[stick] - sticks[stick].iter().map(|piece| takes[*piece]).sum::<Steps>()
        };
        let mut longest = (0..gives.len()).map(|stick| left(&sticks, stick)).max().unwrap_or(0);
        let (mut best, mut proven, mut seen) = (sticks, true, HashSet::new());
        for (stick, whole) in gives.iter().enumerate().filter(|(_, whole)| seen.insert(**whole)) {
            // A stick that nothing is sawn from is not touched.
            let mut most = whole - takes.last().copied().unwrap_or(0);
            while longest < most {
                if self.stop.load(Ordering::Relaxed) {
                    return Err(NestError::Stopped);
                }
                let tried = longest + (most - longest + 1) / 2;
                let mut less = gives.to_vec();
                less[stick] = whole - tried;
                let (found, steps) = pack(&takes, &less, STEPS.min(self.left.max(STEPS / 10)));
                self.left = self.left.saturating_sub(steps);
                match found {
                    Packed::Goes(found) => {
                        longest = left(&found, stick);
                        best = found;
                    }
                    Packed::Never => most = tried - 1,
                    Packed::Open => (most, proven) = (tried - 1, false),
                }
            }
        }
        Ok((best, proven))
    }

    fn told(&self, purchase: &Purchase, chosen: Chosen, gives: &[Steps], sticks: &[Vec<usize>]) -> Vec<NestedStick> {
        let shelf = self.sums.shelf.iter().enumerate().filter(|(bit, _)| chosen & (1 << bit) != 0);
        let shelf = shelf.map(|(_, stick)| StickSource::Shelf { index: stick.1 });
        let bought = purchase.iter().enumerate();
        let bought = bought.flat_map(|(index, count)| std::iter::repeat_n(StickSource::Bought { index }, *count));
        let given = self.sums.given;
        let each = shelf.chain(bought).zip(gives).zip(sticks).map(|((source, gives), pieces)| {
            let takes: Steps = pieces.iter().map(|piece| self.sums.pieces[*piece].0).sum();
            NestedStick {
                source,
                length: match source {
                    StickSource::Shelf { index } => given.shelf[index],
                    StickSource::Bought { index } => given.buys[index].length,
                },
                pieces: pieces.iter().map(|piece| self.sums.pieces[*piece].1).collect(),
                left: mm((gives - takes - self.sums.kerf).max(0)),
            }
        });
        let mut all: Vec<NestedStick> = each.filter(|stick| !stick.pieces.is_empty()).collect();
        all.sort_by_key(|stick| stick.source);
        all
    }
}

//! What to do to a pipe that does not land: the cheapest acts, in order, after which it is likely to.
//!
//! Every act is one more twist of what is beyond it, with an error of its own. The amounts are those after which the sections settle
//! with least use, within what an act is able to do; metal is only ever taken off. Source: handbook, "Fit, weld, prove", Correcting.

use nalgebra::{DMatrix, DVector};

use super::act_sets::{ActSearch, ActSet, size_of};
use super::acts::{Candidate, Sort};
use super::{Belief, LandingModel, PipeToMake, Spreads};
use crate::record::FitAct;

/// Acts that mend a pipe, and what they come to.
#[derive(Debug, Clone, PartialEq)]
pub struct Correction {
    /// In the order they are done.
    pub acts: Vec<FitAct>,
    /// What they take, in minutes.
    pub minutes: f64,
    /// Tacks that are broken for them.
    pub broken: u32,
    /// The chance that it lands then.
    pub chance: f64,
    /// Shares of what joints take then, as far as is known.
    pub uses: Vec<f64>,
}

/// A correction with its chance told roughly, and mean and covariance of the shares of what joints take then.
type Weighed = (Correction, DVector<f64>, DMatrix<f64>);

/// How far the pipe is built.
pub struct Built<'a> {
    /// Whether a piece is cut, by its place.
    pub cut: &'a dyn Fn(usize) -> bool,
    /// Whether the seam after a piece is tacked.
    pub tacked: &'a dyn Fn(usize) -> bool,
}

/// What sort of acts are looked among.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Among {
    /// All.
    All,
    /// Ends are trimmed and nothing else.
    Trims,
    /// Joints are turned and nothing else.
    Turns,
    /// No tack is broken.
    Unbroken,
}

/// It is likely to land from here on.
pub const LIKELY: f64 = 0.95;
/// An act that comes to less than this is none: mm, and degrees.
const LEAST: f64 = 0.2;
/// Sets of one price whose chances are worked out, those that leave least first, and of all prices those that leave least.
const OF_A_PRICE: usize = 2;
const OF_ALL: usize = 12;
/// So many minutes are worth a landing that is certain over one that is not to be had. Ours: a pipe is made new in a day.
const MINUTES_FOR_SURE: f64 = 500.0;
/// How far a chance that is told roughly may be off.
const ROUGHLY: f64 = 0.03;

impl PipeToMake<'_> {
    /// The cheapest acts after which it is likely to land: such that can be undone before such that take metal off. Where none are, those
    /// that are worth their minutes, else those that leave least; no acts where it is likely to land as it is, and `None` where nothing helps.
    #[must_use]
    pub fn corrections(
        &self,
        model: &LandingModel,
        belief: &Belief,
        spreads: &Spreads,
        built: &Built<'_>,
        among: Among,
    ) -> Option<Correction> {
        let (mean, covariance) = model.left(belief);
        let none = Correction {
            acts: Vec::new(),
            minutes: 0.0,
            broken: 0,
            chance: model.chance_of(&mean, &covariance),
            uses: model.used(&mean),
        };
        if none.chance >= LIKELY {
            return Some(none);
        }
        let all: Vec<Candidate> =
            self.candidates(model, belief, spreads, built).into_iter().filter(|one| among.allows(one)).collect();
        // What can be undone is looked among for itself, and turns alone: beside what takes metal off they would be crowded out.
        let undone: Vec<Candidate> = all.iter().filter(|one| !one.of.takes_metal_off()).cloned().collect();
        let turns: Vec<Candidate> = undone.iter().filter(|one| one.of == Sort::Turn).cloned().collect();
        let mut best: Vec<Weighed> = Vec::new();
        for candidates in [&undone, &turns, &all] {
            match self.cheapest((model, spreads), &mean, &covariance, candidates) {
                Ok(likely) => return Some(likely),
                Err(mut others) => best.append(&mut others),
            }
        }
        // None is likely: what is worth its minutes, else what leaves least for the next round.
        let worth = |one: &Weighed| one.0.chance - one.0.minutes / MINUTES_FOR_SURE;
        let left = |one: &Weighed| one.1.norm_squared() * (1.0 + one.0.minutes / MINUTES_FOR_SURE);
        best.retain(|one| !one.0.acts.is_empty());
        let gains = |one: &&Weighed| worth(one) > none.chance + ROUGHLY;
        let nearer = |one: &&Weighed| one.0.chance >= none.chance && left(one) < mean.norm_squared();
        let found = best.iter().filter(gains).max_by(|p, q| worth(p).total_cmp(&worth(q)));
        let found = found.or_else(|| best.iter().filter(nearer).min_by(|p, q| left(p).total_cmp(&left(q))));
        found.map(|one| told(model, one.clone()))
    }

    /// The cheapest acts after which it is likely to land.
    ///
    /// # Errors
    /// All that were weighed, where none of them is.
    fn cheapest(
        &self,
        (model, spreads): (&LandingModel, &Spreads),
        mean: &DVector<f64>,
        covariance: &DMatrix<f64>,
        candidates: &[Candidate],
    ) -> Result<Correction, Vec<Weighed>> {
        let sets = ActSearch::new(mean, candidates).sets();
        let weigh = |set: &ActSet| {
            let chosen: Vec<&Candidate> = set.acts.iter().map(|at| &candidates[*at]).collect();
            self.correction((model, spreads), mean, covariance, &chosen, &set.amounts)
        };
        let price = |set: &ActSet| set.acts.iter().map(|at| candidates[*at].minutes).sum::<f64>();
        let mut dear: Vec<&ActSet> = sets.iter().collect();
        dear.sort_by(|p, q| price(p).total_cmp(&price(q)));
        let mut weighed: Vec<Weighed> = Vec::new();
        for alike in dear.chunk_by(|p, q| (price(p) - price(q)).abs() < 1e-9) {
            for set in alike.iter().take(OF_A_PRICE) {
                let one = weigh(set);
                if one.0.chance >= LIKELY - ROUGHLY && !one.0.acts.is_empty() {
                    let exactly = told(model, one.clone());
                    if exactly.chance >= LIKELY {
                        return Ok(exactly);
                    }
                }
                weighed.push(one);
            }
        }
        // Of each price only some were weighed: one that leaves least may be likely all the same.
        let mut least: Vec<Weighed> = sets.iter().take(OF_ALL).map(weigh).collect();
        least.sort_by(|p, q| p.0.minutes.total_cmp(&q.0.minutes));
        let near = |one: &&Weighed| one.0.chance >= LIKELY - ROUGHLY && !one.0.acts.is_empty();
        let mut exactly = least.iter().filter(near).map(|one| told(model, one.clone()));
        if let Some(likely) = exactly.find(|one| one.chance >= LIKELY) {
            return Ok(likely);
        }
        weighed.append(&mut least);
        Err(weighed)
    }

    /// What acts come to, their chance roughly, and what is left to the joints then.
    fn correction(
        &self,
        (model, spreads): (&LandingModel, &Spreads),
        mean: &DVector<f64>,
        covariance: &DMatrix<f64>,
        chosen: &[&Candidate],
        amounts: &[Vec<f64>],
    ) -> Weighed {
        let mut then = mean.clone();
        let mut spread = covariance.clone();
        let (mut acts, mut minutes, mut broken) = (Vec::new(), 0.0, 0);
        for (one, amounts) in chosen.iter().zip(amounts) {
            let Some(act) = self.act(one, amounts) else { continue };
            let Some((_, motion, amount)) = self.motion_of(&act, spreads) else { continue };
            // As it is done, a wedge off a face makes a pipe shorter too.
            then += model.share_of_act(&motion) * amount;
            acts.push((one, act));
            minutes += one.minutes;
            broken += one.broken;
            for column in &one.columns {
                spread += column * column.transpose() * (one.spread * one.spread);
            }
        }
        // What is undone by a later act comes before what is not: turning before sanding before sawing.
        acts.sort_by_key(|(one, _)| match one.of {
            Sort::CutOtherwise => 0,
            Sort::Turn => 1,
            Sort::Bend => 2,
            Sort::Sand => 3,
            Sort::Renew => 4,
            Sort::Trim(_) => 5,
        });
        let one = Correction {
            acts: acts.into_iter().map(|(_, act)| act).collect(),
            minutes,
            broken,
            chance: model.chance_roughly(&then, &spread),
            uses: model.used(&then),
        };
        (one, then, spread)
    }

    /// An act of so much; `None` where that is as good as nothing.
    fn act(&self, one: &Candidate, amounts: &[f64]) -> Option<FitAct> {
        let piece = self.piece_id(one.at);
        let size = size_of(amounts);
        if size < LEAST {
            return None;
        }
        // Clocks of the two columns are up and a quarter on.
        let clock = || amounts.get(1).copied().unwrap_or(0.0).atan2(amounts[0]).to_degrees();
        Some(match one.of {
            Sort::Trim(end) => FitAct::Trim { piece, end, mm: size },
            Sort::Turn => FitAct::Turn { piece, degrees: amounts[0] },
            Sort::CutOtherwise => FitAct::CutOtherwise { piece, mm: amounts[0] },
            Sort::Renew => FitAct::Renew { piece, mm: amounts[0] },
            Sort::Bend => FitAct::Bend { piece, clock: clock(), degrees: size },
            Sort::Sand => FitAct::Sand { piece, clock: clock(), mm: size },
        })
    }
}

/// With the chance worked out in full.
fn told(model: &LandingModel, (one, mean, covariance): Weighed) -> Correction {
    Correction { chance: model.chance_of(&mean, &covariance), ..one }
}

impl Among {
    fn allows(self, one: &Candidate) -> bool {
        match self {
            Self::All => true,
            Self::Trims => matches!(one.of, Sort::Trim(_) | Sort::CutOtherwise),
            Self::Turns => one.of == Sort::Turn,
            Self::Unbroken => one.broken == 0,
        }
    }
}

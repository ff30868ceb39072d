//! What to do to a pipe that does not land: the cheapest acts, in order, after which it is likely to.
//!
//! Every act is one more twist of what is beyond it, with an error of its own. The amounts are those after which the sections settle
//! with least use, within what an act is able to do; metal is only ever taken off. Source: handbook, "Fit, weld, prove", Correcting.

use nalgebra::{DMatrix, DVector};

use super::acts::{Candidate, Sort, after, amounts};
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
/// Sets whose chances are worked out at most; those that leave least come first.
const WEIGHED: usize = 24;

/// So many are told.
const TOLD: usize = 3;

impl PipeToMake<'_> {
    /// The cheapest acts after which it is likely to land, then others that are, cheapest first; where none is, the best there are. An
    /// empty set of acts where it is likely to land as it is.
    #[must_use]
    pub fn corrections(
        &self,
        model: &LandingModel,
        belief: &Belief,
        spreads: &Spreads,
        built: &Built<'_>,
        among: Among,
    ) -> Vec<Correction> {
        let (mean, covariance) = model.left(belief);
        let none = Correction {
            acts: Vec::new(),
            minutes: 0.0,
            broken: 0,
            chance: model.chance_of(&mean, &covariance),
            uses: model.used(&mean),
        };
        if none.chance >= LIKELY {
            return vec![none];
        }
        let candidates: Vec<Candidate> =
            self.candidates(model, spreads, built).into_iter().filter(|one| among.allows(one)).collect();
        let mut sets: Vec<(Vec<usize>, Vec<Vec<f64>>, f64)> = Vec::new();
        let mut try_set = |set: Vec<usize>| {
            let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
            let amounts = amounts(&mean, &chosen);
            let left = after(&mean, &chosen, &amounts).norm_squared();
            sets.push((set, amounts, left));
        };
        for one in 0..candidates.len() {
            try_set(vec![one]);
            for other in one + 1..candidates.len() {
                try_set(vec![one, other]);
            }
        }
        // A third act beside the pairs that leave least.
        sets.sort_by(|p, q| p.2.total_cmp(&q.2));
        let pairs: Vec<Vec<usize>> =
            sets.iter().filter(|(set, ..)| set.len() == 2).take(6).map(|(set, ..)| set.clone()).collect();
        for pair in pairs {
            for third in (0..candidates.len()).filter(|third| !pair.contains(third)) {
                let set: Vec<usize> = pair.iter().copied().chain([third]).collect();
                let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
                let amounts = amounts(&mean, &chosen);
                let left = after(&mean, &chosen, &amounts).norm_squared();
                sets.push((set, amounts, left));
            }
        }
        sets.sort_by(|p, q| p.2.total_cmp(&q.2));
        // The best of each price as well as the best of all.
        let price = |set: &[usize]| set.iter().map(|at| candidates[*at].minutes).sum::<f64>();
        let mut weighed: Vec<usize> = (0..sets.len()).take(WEIGHED / 2).collect();
        let mut cheap: Vec<usize> = (0..sets.len()).collect();
        cheap.sort_by(|p, q| price(&sets[*p].0).total_cmp(&price(&sets[*q].0)).then(sets[*p].2.total_cmp(&sets[*q].2)));
        let mut last = f64::NAN;
        for at in cheap {
            let here = price(&sets[at].0);
            if (here - last).abs() > 1e-9 || last.is_nan() {
                last = here;
                weighed.push(at);
            }
        }
        weighed.sort_unstable();
        weighed.dedup();
        let mut found: Vec<(Correction, DVector<f64>, DMatrix<f64>)> = weighed
            .into_iter()
            .map(|at| {
                let (set, amounts, _) = &sets[at];
                let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
                self.correction((model, spreads), &mean, &covariance, &chosen, amounts)
            })
            .filter(|(one, ..)| !one.acts.is_empty() && one.chance > none.chance)
            .collect();
        found.sort_by(|(p, ..), (q, ..)| {
            let likely = |one: &Correction| one.chance >= LIKELY;
            let by_chance = if likely(p) { std::cmp::Ordering::Equal } else { q.chance.total_cmp(&p.chance) };
            likely(q)
                .cmp(&likely(p))
                .then(by_chance)
                .then(p.minutes.total_cmp(&q.minutes))
                .then(q.chance.total_cmp(&p.chance))
        });
        // Ranked roughly, told exactly.
        found
            .into_iter()
            .take(TOLD)
            .map(|(one, mean, covariance)| Correction { chance: model.chance_of(&mean, &covariance), ..one })
            .collect()
    }

    /// What acts come to, their chance roughly, and what is left to the joints then.
    fn correction(
        &self,
        (model, spreads): (&LandingModel, &Spreads),
        mean: &DVector<f64>,
        covariance: &DMatrix<f64>,
        chosen: &[&Candidate],
        amounts: &[Vec<f64>],
    ) -> (Correction, DVector<f64>, DMatrix<f64>) {
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
        let size = amounts.iter().map(|amount| amount * amount).sum::<f64>().sqrt();
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

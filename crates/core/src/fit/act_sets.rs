//! Which acts together leave least of what a pipe is off by: all pairs, and further acts beside the best sets so far.

use nalgebra::{DMatrix, DVector};

use super::acts::Candidate;

/// Some acts, how much of each, and what they leave.
#[derive(Debug, Clone)]
pub(super) struct ActSet {
    /// Places of candidates.
    pub(super) acts: Vec<usize>,
    /// Amounts of each act's columns.
    pub(super) amounts: Vec<Vec<f64>>,
    /// Sum of squares of the shares that are left of what joints take.
    pub(super) left: f64,
}

/// Products of all columns with each other and with what is off, from which any set is solved without touching the columns again.
pub(super) struct ActSearch<'a> {
    candidates: &'a [Candidate],
    /// The first column of each candidate.
    first: Vec<usize>,
    products: DMatrix<f64>,
    towards: DVector<f64>,
    whole: f64,
}

/// Most acts of a set. Ours: who would do more makes the pipe new.
const MOST_ACTS: usize = 5;
/// Sets of each size that further acts are tried beside.
const BEAM: usize = 10;
/// Of collinear acts as little as possible is done of each: this share of a column's own product.
const DAMPED: f64 = 1e-9;

impl<'a> ActSearch<'a> {
    /// Among `candidates`, of a pipe whose joints are off by `mean` of what they take.
    pub(super) fn new(mean: &DVector<f64>, candidates: &'a [Candidate]) -> Self {
        let mut first = Vec::new();
        let mut columns: Vec<&DVector<f64>> = Vec::new();
        for one in candidates {
            first.push(columns.len());
            columns.extend(&one.columns);
        }
        let count = columns.len();
        let products = DMatrix::from_fn(count, count, |row, column| columns[row].dot(columns[column]));
        let towards = DVector::from_fn(count, |row, _| columns[row].dot(mean));
        Self { candidates, first, products, towards, whole: mean.norm_squared() }
    }

    /// Sets of acts, those that leave least first.
    pub(super) fn sets(&self) -> Vec<ActSet> {
        let all = 0..self.candidates.len();
        let mut sets: Vec<ActSet> = all.clone().map(|one| self.solved(vec![one])).collect();
        let mut widest: Vec<ActSet> = all
            .clone()
            .flat_map(|one| (one + 1..self.candidates.len()).map(move |other| vec![one, other]))
            .map(|acts| self.solved(acts))
            .collect();
        for _ in 2..MOST_ACTS {
            widest.sort_by(|p, q| p.left.total_cmp(&q.left));
            let mut more: Vec<Vec<usize>> = Vec::new();
            for set in widest.iter().take(BEAM) {
                for act in all.clone().filter(|act| !set.acts.contains(act)) {
                    let mut acts = set.acts.clone();
                    acts.push(act);
                    acts.sort_unstable();
                    more.push(acts);
                }
            }
            more.sort_unstable();
            more.dedup();
            sets.append(&mut widest);
            widest = more.into_iter().map(|acts| self.solved(acts)).collect();
        }
        sets.append(&mut widest);
        sets.sort_by(|p, q| p.left.total_cmp(&q.left));
        sets
    }

    /// The amounts that leave least, each act within what it is able to do: the one that is furthest over is held at its limit and the
    /// others found again, until nothing changes.
    fn solved(&self, acts: Vec<usize>) -> ActSet {
        let mut amounts: Vec<Vec<f64>> =
            acts.iter().map(|act| vec![0.0; self.candidates[*act].columns.len()]).collect();
        let mut held = vec![false; acts.len()];
        loop {
            let free: Vec<(usize, usize)> = (0..acts.len())
                .filter(|at| !held[*at])
                .flat_map(|at| (0..amounts[at].len()).map(move |column| (at, column)))
                .collect();
            if free.is_empty() {
                break;
            }
            for (at, column) in &free {
                amounts[*at][*column] = 0.0;
            }
            let count = free.len();
            let place = |at: usize| self.first[acts[free[at].0]] + free[at].1;
            let square = DMatrix::from_fn(count, count, |row, column| {
                self.products[(place(row), place(column))] * if row == column { 1.0 + DAMPED } else { 1.0 }
            });
            let off = DVector::from_fn(count, |row, _| -self.gradient(&acts, &amounts, place(row)));
            let Some(solved) = square.cholesky().map(|factor| factor.solve(&off)) else { break };
            for ((at, column), amount) in free.iter().zip(solved.iter()) {
                amounts[*at][*column] = *amount;
            }
            let over = |at: usize| {
                let one = &self.candidates[acts[at]];
                let below = amounts[at].iter().map(|amount| one.least - amount).fold(f64::NEG_INFINITY, f64::max);
                (size_of(&amounts[at]) / one.most.max(1e-9)).max(if below > 1e-9 { 2.0 } else { 0.0 })
            };
            let worst = (0..acts.len()).filter(|at| !held[*at]).max_by(|p, q| over(*p).total_cmp(&over(*q)));
            let Some(worst) = worst.filter(|at| over(*at) > 1.0 + 1e-9) else { break };
            let one = &self.candidates[acts[worst]];
            let shorter = (one.most / size_of(&amounts[worst]).max(1e-12)).min(1.0);
            amounts[worst].iter_mut().for_each(|amount| *amount = (*amount * shorter).max(one.least));
            held[worst] = true;
        }
        let each = acts.iter().zip(&amounts).flat_map(|(act, amounts)| {
            amounts.iter().enumerate().map(|(column, amount)| (self.first[*act] + column, *amount))
        });
        let gained: f64 =
            each.map(|(place, amount)| amount * (self.towards[place] + self.gradient(&acts, &amounts, place))).sum();
        ActSet { left: self.whole + gained, acts, amounts }
    }

    /// Half of what the sum of squares gains per unit more of a column.
    fn gradient(&self, acts: &[usize], amounts: &[Vec<f64>], place: usize) -> f64 {
        let mut sum = self.towards[place];
        for (act, amounts) in acts.iter().zip(amounts) {
            for (column, amount) in amounts.iter().enumerate() {
                sum += self.products[(place, self.first[*act] + column)] * amount;
            }
        }
        sum
    }
}

/// How much of an act there is, of one column or of two square to each other.
pub(super) fn size_of(amounts: &[f64]) -> f64 {
    amounts.iter().map(|amount| amount * amount).sum::<f64>().sqrt()
}

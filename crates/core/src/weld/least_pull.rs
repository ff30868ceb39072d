//! Where to begin each seam so that what all of them pull comes to least at the far end.

use nalgebra::{Point3, SVector};

use super::WeldPull;
use nook_geometry::Vector;

/// A seam that pulls.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PulledSeam {
    /// Its middle, in mm.
    pub at: Point3<f64>,
    /// The direction of travel across it.
    pub along: Vector,
    /// The middle of its quarter 0, square to that, of length 1.
    pub reference: Vector,
}

/// How far an end has gone from where it was.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Strayed {
    /// In mm.
    pub mm: f64,
    /// In degrees.
    pub degrees: f64,
}

/// Where each seam begins, and what that comes to.
#[derive(Debug, Clone, PartialEq)]
pub struct Pulls {
    /// The quarter that each seam begins with.
    pub first: Vec<usize>,
    /// What is left at the far end.
    pub left: Strayed,
    /// What would be left with every seam welded one way round from its quarter 0.
    pub one_way: Strayed,
    /// What each seam does at the far end: mm, then radians times [`ARM`].
    pub each: Vec<Effect>,
}

/// What a pull does at the far end: the shift in mm, then the turn in radians times [`ARM`].
pub type Effect = SVector<f64, 6>;

/// A radian is to the sums what so many mm are.
const ARM: f64 = 100.0;
/// Up to so many seams every beginning is tried with every other.
const EXACT: usize = 8;

fn effect(seam: &PulledSeam, far: &Point3<f64>, order: [usize; 4], pull: &WeldPull) -> Effect {
    let turn = pull.turn(order, &seam.along, &seam.reference);
    let shift = turn.cross(&(far - seam.at));
    Effect::from_iterator(shift.iter().copied().chain(turn.iter().map(|part| part * ARM)))
}

impl Strayed {
    /// Of an effect.
    #[must_use]
    pub fn of(effect: &Effect) -> Self {
        let [shift, turn] = [effect.fixed_rows::<3>(0).norm(), effect.fixed_rows::<3>(3).norm()];
        Self { mm: shift, degrees: (turn / ARM).to_degrees() }
    }
}

/// Where to begin each seam of a stiff pipe, held at its near end, so that its far end at `far` strays least: every seam welded in opposite
/// quarters. Exact up to eight seams; beyond, no two can be begun elsewhere to leave less.
#[must_use]
pub fn least_pull(seams: &[PulledSeam], far: Point3<f64>, pull: &WeldPull) -> Pulls {
    let effects: Vec<[Effect; 4]> = seams
        .iter()
        .map(|seam| [0, 1, 2, 3].map(|first| effect(seam, &far, WeldPull::opposite(first), pull)))
        .collect();
    let first = if seams.len() <= EXACT { exactly(&effects) } else { by_pairs(&effects) };
    let each: Vec<Effect> = effects.iter().zip(&first).map(|(of, first)| of[*first]).collect();
    let one_way: Effect = seams.iter().map(|seam| effect(seam, &far, WeldPull::one_way(0), pull)).sum();
    Pulls { first, left: Strayed::of(&each.iter().sum()), one_way: Strayed::of(&one_way), each }
}

fn exactly(effects: &[[Effect; 4]]) -> Vec<usize> {
    fn go(effects: &[[Effect; 4]], at: usize, sum: &Effect, now: &mut [usize], best: &mut (f64, Vec<usize>)) {
        let Some(of) = effects.get(at) else {
            // What differs by rounding alone is the same, and the first is kept.
            if sum.norm_squared() < best.0 - 1e-15 {
                *best = (sum.norm_squared(), now.to_vec());
            }
            return;
        };
        for (first, one) in of.iter().enumerate() {
            now[at] = first;
            go(effects, at + 1, &(sum + one), now, best);
        }
    }
    let mut best = (f64::INFINITY, vec![0; effects.len()]);
    go(effects, 0, &Effect::zeros(), &mut vec![0; effects.len()], &mut best);
    best.1
}

/// From each of four beginnings, two seams at a time are begun elsewhere until nothing leaves less.
fn by_pairs(effects: &[[Effect; 4]]) -> Vec<usize> {
    let sum_of = |now: &[usize]| -> Effect { effects.iter().zip(now).map(|(of, first)| of[*first]).sum() };
    let settled = |start: usize| {
        let mut now = vec![start; effects.len()];
        let mut sum = sum_of(&now);
        loop {
            let mut better = false;
            for one in 0..effects.len() {
                for other in one + 1..effects.len() {
                    let rest = sum - effects[one][now[one]] - effects[other][now[other]];
                    for (p, q) in (0..4).flat_map(|p| (0..4).map(move |q| (p, q))) {
                        let then = rest + effects[one][p] + effects[other][q];
                        if then.norm_squared() < sum.norm_squared() - 1e-12 {
                            (now[one], now[other], sum, better) = (p, q, then, true);
                            break;
                        }
                    }
                }
            }
            if !better {
                return (sum.norm_squared(), now);
            }
        }
    };
    let best = (0..4).map(settled).min_by(|p, q| p.0.total_cmp(&q.0));
    best.map_or_else(|| vec![0; effects.len()], |(_, now)| now)
}

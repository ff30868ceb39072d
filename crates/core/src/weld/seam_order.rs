//! In which order seams are welded: so that the pipe strays least on the way, since tacks hold only so much.

use super::least_pull::Effect;

/// Up to so many seams the order is the best there is.
const EXACT: usize = 12;
/// What strays by less than this, in mm, strays alike.
const ALIKE: f64 = 0.02;

/// An order so far: how far it strayed at most, and how much of it went from a seam to one beside it, which is still hot.
type Cost = (u32, u32);

/// The order of seams, from what each does at the far end, in which the largest stray on the way is least, and of such orders the one that
/// goes least from one seam to the next while that is hot. `before` names pairs of which the one is welded before the other. Exact to 12 seams, beyond that each next seam is the one after which it strays least.
#[must_use]
pub fn weld_order(each: &[Effect], stations: &[f64], before: &[(usize, usize)]) -> Vec<usize> {
    let count = each.len();
    let must = |mask: usize, next: usize| before.iter().all(|(one, other)| *other != next || mask & (1 << one) != 0);
    let stray = |sum: &Effect| grid(sum.norm() / ALIKE);
    if count > EXACT {
        return greedily(each, before);
    }
    let sums: Vec<Effect> = (0..1_usize << count)
        .map(|mask| (0..count).filter(|at| mask & (1 << at) != 0).map(|at| each[at]).sum())
        .collect();
    // For each set of seams that are welded and the last of them, the best way there.
    let mut best: Vec<Option<(Cost, usize)>> = vec![None; (1 << count) * count.max(1)];
    for at in (0..count).filter(|at| must(0, *at)) {
        best[(1 << at) * count + at] = Some(((stray(&each[at]), 0), at));
    }
    for mask in 1..1_usize << count {
        for last in 0..count {
            let Some(((most, hot), _)) = best[mask * count + last] else { continue };
            for next in (0..count).filter(|next| mask & (1 << next) == 0 && must(mask, *next)) {
                let then = mask | (1 << next);
                let near = u32::from((stations[next] - stations[last]).abs() < HOT);
                let cost = (most.max(stray(&sums[then])), hot + near);
                let held = &mut best[then * count + next];
                if held.is_none_or(|(so_far, _)| cost < so_far) {
                    *held = Some((cost, last));
                }
            }
        }
    }
    let mut mask = (1_usize << count) - 1;
    let ends = (0..count).filter_map(|last| best[mask * count + last].map(|(cost, _)| (cost, last)));
    let Some((_, mut last)) = ends.min() else { return greedily(each, before) };
    let mut order = vec![last];
    while order.len() < count {
        let Some((_, from)) = best[mask * count + last] else { break };
        mask &= !(1 << last);
        last = from;
        order.push(last);
    }
    order.reverse();
    order
}

/// Seams nearer than this, in mm, warm each other. Ours.
const HOT: f64 = 60.0;

#[expect(
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "a count of hundredths of a mm, held within range"
)]
fn grid(value: f64) -> u32 {
    value.round().clamp(0.0, f64::from(u32::MAX)) as u32
}

fn greedily(each: &[Effect], before: &[(usize, usize)]) -> Vec<usize> {
    let mut order: Vec<usize> = Vec::new();
    let mut sum = Effect::zeros();
    while order.len() < each.len() {
        let ready = |next: &usize| {
            !order.contains(next) && before.iter().all(|(one, other)| other != next || order.contains(one))
        };
        let next = (0..each.len()).filter(ready).min_by(|p, q| {
            let after = |at: &usize| (sum + each[*at]).norm();
            after(p).total_cmp(&after(q))
        });
        // Pairs that go round in a ring are welded as they come.
        let Some(next) = next.or_else(|| (0..each.len()).find(|at| !order.contains(at))) else { break };
        sum += each[next];
        order.push(next);
    }
    order
}

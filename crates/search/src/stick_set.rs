//! Whether pieces go into a choice of sticks: bins of their own sizes, filled one after the other.
//!
//! A stick may be filled until nothing more of what is left goes into it: whatever goes elsewhere in some packing may be moved there.
//! So only such fillings are tried, the fullest first, and none that leaves more over than all sticks together can spare. Source of the
//! scheme: R. E. Korf, "A new algorithm for optimal bin packing", AAAI 2002.

use std::collections::HashSet;

/// What was found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Packed {
    /// They go: for each stick the places of its pieces.
    Goes(Vec<Vec<usize>>),
    /// They do not.
    Never,
    /// It was not told in so many steps.
    Open,
}

/// Which pieces are placed, a bit for each.
type Placed = u128;

/// Whether pieces, longest first, go into sticks, in at most so many steps; and how many it took.
#[must_use]
pub(crate) fn pack(takes: &[i64], gives: &[i64], steps: u64) -> (Packed, u64) {
    if let Some(sticks) = best_fit(takes, gives) {
        return (Packed::Goes(sticks), 1);
    }
    // Shortest first: it has the fewest fillings.
    let mut order: Vec<usize> = (0..gives.len()).collect();
    order.sort_by_key(|stick| gives[*stick]);
    let sorted: Vec<i64> = order.iter().map(|stick| gives[*stick]).collect();
    let mut after: Vec<i64> = sorted
        .iter()
        .rev()
        .scan(0, |sum, gives| {
            *sum += gives;
            Some(*sum)
        })
        .collect();
    after.reverse();
    after.push(0);
    let need: i64 = takes.iter().sum();
    let mut search = Search {
        takes,
        gives: &sorted,
        after,
        dead: HashSet::new(),
        filled: vec![Vec::new(); gives.len()],
        steps,
        took: 0,
        cut_short: false,
    };
    let found = search.fill(0, 0, need);
    let took = search.took;
    let packed = match found {
        Some(true) => {
            let mut sticks = vec![Vec::new(); gives.len()];
            for (nth, stick) in order.into_iter().enumerate() {
                sticks[stick] = std::mem::take(&mut search.filled[nth]);
            }
            Packed::Goes(sticks)
        }
        Some(false) if !search.cut_short => Packed::Never,
        Some(false) | None => Packed::Open,
    };
    (packed, took)
}

/// Each piece, longest first, into the stick where it leaves least; `None` where one finds no room.
fn best_fit(takes: &[i64], gives: &[i64]) -> Option<Vec<Vec<usize>>> {
    let mut left = gives.to_vec();
    let mut sticks = vec![Vec::new(); gives.len()];
    for (piece, takes) in takes.iter().enumerate() {
        let stick = (0..left.len()).filter(|stick| left[*stick] >= *takes).min_by_key(|stick| left[*stick])?;
        left[stick] -= takes;
        sticks[stick].push(piece);
    }
    Some(sticks)
}

struct Search<'a> {
    takes: &'a [i64],
    gives: &'a [i64],
    /// What the sticks from each on give together.
    after: Vec<i64>,
    /// Sticks done and pieces placed from which nothing leads on.
    dead: HashSet<(usize, Placed)>,
    filled: Vec<Vec<usize>>,
    steps: u64,
    took: u64,
    /// Whether some fillings were not tried.
    cut_short: bool,
}

/// Fillings of one stick that are tried at most, where more pieces than this are left: of fewer all are.
const FILLINGS: usize = 3_000;
const ALL_OF: usize = 24;

impl Search<'_> {
    /// Whether what is not placed, `need` in all, goes into the sticks from `nth` on; `None` where the steps are used up.
    fn fill(&mut self, nth: usize, placed: Placed, need: i64) -> Option<bool> {
        if need == 0 {
            return Some(true);
        }
        let spare = self.after[nth] - need;
        if nth == self.gives.len() || spare < 0 || self.dead.contains(&(nth, placed)) {
            return Some(false);
        }
        let open: Vec<usize> = (0..self.takes.len()).filter(|piece| placed & (1 << piece) == 0).collect();
        let largest = self.takes[open[0]];
        if largest > self.gives[self.gives.len() - 1] || self.crowded(nth, &open) {
            self.dead.insert((nth, placed));
            return Some(false);
        }
        // Where all that are left are alike, one of them has the longest piece.
        let alike = self.gives[nth] == self.gives[self.gives.len() - 1];
        let mut fillings = Vec::new();
        let mut sums = vec![0; open.len() + 1];
        for (at, piece) in open.iter().enumerate().rev() {
            sums[at] = sums[at + 1] + self.takes[*piece];
        }
        let of = Filling { open: &open, sums: &sums, gives: self.gives[nth], least: self.gives[nth] - spare, alike };
        if !self.fillings(&of, 0, 0, &mut Vec::new(), &mut fillings) {
            return None;
        }
        fillings.sort_by_key(|(sum, _)| std::cmp::Reverse(*sum));
        for (sum, filling) in fillings {
            let with = filling.iter().fold(placed, |placed, piece| placed | (1 << piece));
            self.filled[nth].clone_from(&filling);
            if self.fill(nth + 1, with, need - sum)? {
                return Some(true);
            }
        }
        self.filled[nth].clear();
        self.dead.insert((nth, placed));
        Some(false)
    }

    /// Whether there are more pieces of some length or longer than the sticks from `nth` on hold of that length.
    fn crowded(&self, nth: usize, open: &[usize]) -> bool {
        open.iter().enumerate().any(|(count, piece)| {
            let length = self.takes[*piece];
            let held: i64 = self.gives[nth..].iter().map(|gives| gives / length).sum();
            usize::try_from(held).is_ok_and(|held| held < count + 1)
        })
    }

    /// Fillings of a stick to which nothing more can be added and which leave no more over than can be spared; `false` where the steps
    /// are used up.
    fn fillings(
        &mut self,
        of: &Filling<'_>,
        at: usize,
        sum: i64,
        now: &mut Vec<usize>,
        all: &mut Vec<(i64, Vec<usize>)>,
    ) -> bool {
        self.took += 1;
        if self.took > self.steps {
            return false;
        }
        if sum + of.sums[at] < of.least {
            return true;
        }
        if all.len() >= FILLINGS && of.open.len() > ALL_OF {
            self.cut_short = true;
            return true;
        }
        let Some(piece) = of.open.get(at).copied() else {
            if self.is_full(of, sum, now) {
                all.push((sum, now.clone()));
            }
            return true;
        };
        let takes = self.takes[piece];
        if sum + takes <= of.gives {
            now.push(piece);
            let goes_on = self.fillings(of, at + 1, sum + takes, now, all);
            now.pop();
            if !goes_on {
                return false;
            }
        }
        if at == 0 && of.alike {
            return true;
        }
        // Without this one it is without all as long: which of them is taken makes no difference.
        let next = (at + 1..of.open.len()).find(|next| self.takes[of.open[*next]] != takes).unwrap_or(of.open.len());
        self.fillings(of, next, sum, now, all)
    }

    /// Whether nothing that is left out goes in too.
    fn is_full(&self, of: &Filling<'_>, sum: i64, now: &[usize]) -> bool {
        let shortest_out = of.open.iter().rev().find(|piece| !now.contains(piece));
        sum >= of.least && shortest_out.is_none_or(|piece| sum + self.takes[*piece] > of.gives)
    }
}

/// What a stick is filled from.
struct Filling<'a> {
    /// Pieces that are not placed, longest first.
    open: &'a [usize],
    /// What those from each on take together.
    sums: &'a [i64],
    /// What the stick gives.
    gives: i64,
    /// What it has to be filled to.
    least: i64,
    /// Whether it has the longest.
    alike: bool,
}

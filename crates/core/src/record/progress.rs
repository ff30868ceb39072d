//! How far the work is, from the deeds so far.

use std::collections::{BTreeMap, HashSet};

use super::{BenchAct, CheckDone, Deed, Done, FitEntry, FitStep, PieceCut, Signature, TestDone, TestKind, Worked};
use crate::cut::PieceId;
use crate::measure::RunId;
use crate::prove::CheckId;
use crate::weld::SeamId;
use crate::work_step::WorkStep;
use nook_geometry::units::Name;

/// How far the work is.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Progress {
    cut: BTreeMap<(RunId, PieceId), PieceCut>,
    did: HashSet<(RunId, BenchAct)>,
    fit: BTreeMap<RunId, Vec<FitEntry>>,
    bottle: BTreeMap<RunId, Vec<BottleRead>>,
    tests: BTreeMap<(RunId, TestKind), By<TestDone>>,
    tested: BTreeMap<RunId, usize>,
    checks: BTreeMap<(RunId, CheckId), By<CheckDone>>,
    signed: BTreeMap<RunId, By<Signature>>,
    minutes: BTreeMap<(RunId, WorkStep), Vec<f64>>,
    spoilt: usize,
}

/// The gas bottle as it was read.
#[derive(Debug, Clone, PartialEq)]
pub struct BottleRead {
    /// What its gauge showed, in bar.
    pub bar: f64,
    /// Seams of the run that were welded by then: their gas was gone before.
    pub welded: HashSet<SeamId>,
}

/// Something that was noted, and by whom.
#[derive(Debug, Clone, PartialEq)]
pub struct By<T> {
    /// Who did it, as that device is named.
    pub who: Name,
    /// What.
    pub what: T,
}

impl Progress {
    /// Most pieces of one run that are cut: a pipe has a few dozen, and some are cut twice.
    pub const MOST_CUT: usize = 500;

    /// After these deeds, in their order.
    pub fn after<'a>(deeds: impl IntoIterator<Item = &'a Deed>) -> Self {
        let (mut cut, mut did, mut spoilt) = (BTreeMap::new(), HashSet::new(), 0);
        let mut fit: BTreeMap<RunId, Vec<FitEntry>> = BTreeMap::new();
        let mut bottle: BTreeMap<RunId, Vec<BottleRead>> = BTreeMap::new();
        let mut minutes: BTreeMap<(RunId, WorkStep), Vec<f64>> = BTreeMap::new();
        let mut tested: BTreeMap<RunId, usize> = BTreeMap::new();
        let (mut tests, mut checks, mut signed) = (BTreeMap::new(), BTreeMap::new(), BTreeMap::new());
        for deed in deeds {
            match &deed.done {
                Done::Cut { run, piece, as_cut } => {
                    cut.insert((*run, *piece), as_cut.clone());
                }
                Done::NotCut { run, piece } => {
                    cut.remove(&(*run, *piece));
                }
                Done::Spoilt { run, piece } => {
                    cut.remove(&(*run, *piece));
                    spoilt += 1;
                }
                Done::Did { run, what } => {
                    did.insert((*run, *what));
                }
                Done::DidNot { run, what } => {
                    did.remove(&(*run, *what));
                }
                Done::Fit { run, step } => {
                    let entry = FitEntry { deed: deed.id.clone(), step: *step };
                    fit.entry(*run).or_default().push(entry);
                }
                // Shown in the log, and nothing else.
                Done::Pictured { .. } => {}
                Done::Worked { run, worked: Worked { step, minutes: long, .. } } => {
                    minutes.entry((*run, *step)).or_default().push(*long);
                }
                Done::NotWorked { run, step } => {
                    minutes.entry((*run, *step)).or_default().pop();
                }
                Done::Tested { run, test } => {
                    *tested.entry(*run).or_default() += 1;
                    tests.insert((*run, test.kind), By { who: deed.by.clone(), what: test.clone() });
                }
                Done::Checked { run, answer } => {
                    checks.insert((*run, answer.item), By { who: deed.by.clone(), what: answer.clone() });
                }
                Done::NotChecked { run, item } => {
                    checks.remove(&(*run, *item));
                }
                Done::Signed { run, signature } => {
                    signed.insert(*run, By { who: deed.by.clone(), what: signature.clone() });
                }
                Done::Bottle { run, bar } => {
                    let welds = did.iter().filter_map(|(of, what)| match what {
                        BenchAct::Weld { seam } if of == run => Some(*seam),
                        _ => None,
                    });
                    let read = BottleRead { bar: *bar, welded: welds.collect() };
                    bottle.entry(*run).or_default().push(read);
                }
                Done::NotFit { run, was } => {
                    fit.entry(*run).or_default().retain(|entry| entry.deed != *was);
                }
            }
        }
        Self { cut, did, fit, bottle, tests, tested, checks, signed, minutes, spoilt }
    }

    /// A piece as it was cut; `None` where it is not.
    #[must_use]
    pub fn as_cut(&self, run: RunId, piece: PieceId) -> Option<&PieceCut> {
        self.cut.get(&(run, piece))
    }

    /// Whether something else is done at the bench.
    #[must_use]
    pub fn did(&self, run: RunId, what: BenchAct) -> bool {
        self.did.contains(&(run, what))
    }

    /// What was measured of a run's pipe as it is built and done to mend it, in its order.
    #[must_use]
    pub fn fit_of(&self, run: RunId) -> &[FitEntry] {
        self.fit.get(&run).map_or(&[], Vec::as_slice)
    }

    /// What the gas bottle's gauge showed while a run was welded, in order.
    #[must_use]
    pub fn bottle_of(&self, run: RunId) -> &[BottleRead] {
        self.bottle.get(&run).map_or(&[], Vec::as_slice)
    }

    /// The last test of a run of a sort.
    #[must_use]
    pub fn test_of(&self, run: RunId, kind: TestKind) -> Option<&By<TestDone>> {
        self.tests.get(&(run, kind))
    }

    /// The last answer to what is checked of a run.
    #[must_use]
    pub fn answer_of(&self, run: RunId, item: CheckId) -> Option<&By<CheckDone>> {
        self.checks.get(&(run, item))
    }

    /// The last signature of a run.
    #[must_use]
    pub fn signature_of(&self, run: RunId) -> Option<&By<Signature>> {
        self.signed.get(&run)
    }

    /// How long was worked on a step of a run, in minutes.
    #[must_use]
    pub fn minutes_of(&self, run: RunId, step: WorkStep) -> f64 {
        self.minutes.get(&(run, step)).map_or(0.0, |each| each.iter().sum())
    }

    /// Whether anything of a run was checked or tested.
    #[must_use]
    pub fn is_being_proved(&self, run: RunId) -> bool {
        let tested = [TestKind::Air, TestKind::Liquid].iter().any(|kind| self.tests.contains_key(&(run, *kind)));
        tested || self.checks.keys().any(|(of, _)| *of == run)
    }

    /// Whether anything of a run was tacked or tried on.
    #[must_use]
    pub fn is_being_fitted(&self, run: RunId) -> bool {
        let tacked = |one: &(RunId, BenchAct)| one.0 == run && matches!(one.1, BenchAct::Meet { .. });
        !self.fit_of(run).is_empty() || self.did.iter().any(tacked)
    }

    /// Pieces of the whole job that were spoilt, and that are cut.
    #[must_use]
    pub fn scrap(&self) -> [usize; 2] {
        [self.spoilt, self.cut.len()]
    }

    /// Pieces of a run that are cut, each as it was.
    pub fn cut_of(&self, run: RunId) -> impl Iterator<Item = (PieceId, &PieceCut)> {
        self.cut.iter().filter(move |((of, _), _)| *of == run).map(|((_, piece), as_cut)| (*piece, as_cut))
    }

    /// Whether one more deed would cut more pieces of its run than [`Self::MOST_CUT`].
    #[must_use]
    pub fn too_many_with(&self, deed: &Deed) -> bool {
        match deed.done {
            Done::Cut { run, piece, .. } => {
                self.as_cut(run, piece).is_none() && self.cut_of(run).count() >= Self::MOST_CUT
            }
            Done::Fit { run, .. } => self.fit_of(run).len() >= FitStep::MOST,
            Done::Bottle { run, .. } => self.bottle_of(run).len() >= FitStep::MOST,
            Done::Tested { run, .. } => self.tested.get(&run).is_some_and(|count| *count >= TestDone::MOST_OF_A_RUN),
            Done::NotCut { .. }
            | Done::Spoilt { .. }
            | Done::Did { .. }
            | Done::DidNot { .. }
            | Done::Checked { .. }
            | Done::NotChecked { .. }
            | Done::Worked { .. }
            | Done::NotWorked { .. }
            | Done::Pictured { .. }
            | Done::Signed { .. }
            | Done::NotFit { .. } => false,
        }
    }

    /// Names of a run's pieces in their order: what is cut keeps what is written on it, and the others are numbered from A
    /// after `mark` with what no cut piece has.
    #[must_use]
    pub fn names(&self, run: RunId, mark: &str, pieces: &[PieceId]) -> Vec<String> {
        let taken: HashSet<&str> = self.cut_of(run).map(|(_, as_cut)| as_cut.name.as_str()).collect();
        let mut free = (1_u32..).map(|number| format!("{mark}{number}")).filter(|name| !taken.contains(name.as_str()));
        let each = pieces.iter().map(|piece| match self.as_cut(run, *piece) {
            Some(as_cut) => as_cut.name.as_str().to_owned(),
            None => free.next().unwrap_or_default(),
        });
        each.collect()
    }
}

//! What an edit made, by name, so that nobody guesses numbers.

use crate::measure::{ComponentId, DatumId, KeepOutId, OpeningId, RunId};
use crate::part_ref::PartRef;
use crate::route::{BendId, BranchId, JointId, Route, Run, SupportId};

/// Names of what was made, in order.
#[derive(Debug, Default)]
pub(super) struct Made(pub(super) Vec<PartRef>);

impl Made {
    pub(super) fn run(&mut self, run: RunId) {
        self.0.push(PartRef::Run { run });
    }

    /// Bends and joints of a new run.
    pub(super) fn parts(&mut self, run: &Run) {
        let bends = run.route.bends().iter().map(|bend| PartRef::Bend { run: run.id, bend: bend.id });
        self.0.extend(bends);
        self.0.extend(run.route.joints().iter().map(|joint| PartRef::Joint { run: run.id, joint: joint.id }));
    }

    pub(super) fn bend(&mut self, run: RunId, bend: BendId) {
        self.0.push(PartRef::Bend { run, bend });
    }

    /// Bends of `now` that are not of `before`.
    pub(super) fn bends(&mut self, run: RunId, before: &Route, now: &Route) {
        let new = now.bends().iter().filter(|bend| before.bend_index(bend.id).is_none());
        self.0.extend(new.map(|bend| PartRef::Bend { run, bend: bend.id }));
    }

    pub(super) fn joint(&mut self, run: RunId, joint: JointId) {
        self.0.push(PartRef::Joint { run, joint });
    }

    pub(super) fn support(&mut self, run: RunId, support: SupportId) {
        self.0.push(PartRef::Support { run, support });
    }

    pub(super) fn branch(&mut self, run: RunId, branch: BranchId) {
        self.0.push(PartRef::Branch { run, branch });
    }

    pub(super) fn datum(&mut self, datum: DatumId) {
        self.0.push(PartRef::Datum { datum });
    }

    pub(super) fn component(&mut self, component: ComponentId) {
        self.0.push(PartRef::Component { component });
    }

    pub(super) fn opening(&mut self, opening: OpeningId) {
        self.0.push(PartRef::Opening { opening });
    }

    pub(super) fn keep_out(&mut self, keep_out: KeepOutId) {
        self.0.push(PartRef::KeepOut { keep_out });
    }
}

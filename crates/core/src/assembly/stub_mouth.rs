//! The mouths of stubs that are let into a pipe, from which others begin.

use super::{Assembly, Moves, SeatedBranch};
use crate::measure::{EndForm, InstallState, Port, Side};
use crate::route::{BranchId, ResolvedRun};
use nook_geometry::clearance::Rides;
use nook_geometry::units::OutsideDiameter;
use nook_geometry::{Direction, Point};

/// The mouth of a stub.
#[derive(Debug, Clone, PartialEq)]
pub struct StubMouth {
    /// Which stub.
    pub branch: BranchId,
    /// Its mouth, on the side that its section rides on, or on the body where that hangs between.
    pub port: Port,
    /// What its section rides on.
    pub rides: Rides,
}

impl StubMouth {
    /// Whether its section hangs between engine and body.
    #[must_use]
    pub const fn hangs(&self) -> bool {
        !matches!(self.rides, Rides::Engine | Rides::Body)
    }
}

impl Assembly {
    /// The mouths of the stubs that are let into this pipe of `run`. Its ends are rolled to a bead.
    #[must_use]
    pub fn stub_mouths(&self, run: &ResolvedRun) -> Vec<StubMouth> {
        let stubs = || self.branches.iter().filter(|branch| branch.kind.is_stub());
        if stubs().next().is_none() {
            return Vec::new();
        }
        let moves = self.moves(run);
        stubs().filter_map(|branch| self.stub_mouth(run, &moves, branch)).collect()
    }

    fn stub_mouth(&self, run: &ResolvedRun, moves: &Moves, branch: &SeatedBranch) -> Option<StubMouth> {
        let rides = moves.rides.get(self.section_of(branch.station)?).copied()?;
        let tip = branch.tip();
        let port = Port {
            name: format!("{} of {}", branch.kind.word(), run.name.as_str()),
            at: Point::new(tip.x, tip.y, tip.z).ok()?,
            out: Direction::of(branch.out).ok()?,
            od: OutsideDiameter::new(branch.od).ok()?,
            form: EndForm::Beaded,
            metal: Some(run.tube.material()),
            neck: None,
            rides: if rides == Rides::Engine { Side::Engine } else { Side::Body },
            standing: InstallState::Missing,
            readings: Vec::new(),
        };
        Some(StubMouth { branch: branch.id, port, rides })
    }
}

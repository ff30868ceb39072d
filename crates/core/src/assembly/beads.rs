//! The beads that keep hoses on a pipe's tubes, and the room there is to roll them.

use super::Assembly;
use crate::measure::End;
use crate::route::{ElbowEnd, JointId, ResolvedMake};

/// A bead on a tube's end, under a hose.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SeatedBead {
    /// The joint whose hose it keeps on.
    pub joint: JointId,
    /// Which section's tube, from A.
    pub section: usize,
    /// At which end of that tube: where it begins, seen from A, or where it ends.
    pub end: End,
    /// Straight tube in mm from that end to the first bend of the finished pipe; `None` where there is no bend to the other end.
    pub straight: Option<f64>,
    /// When it is rolled.
    pub when: BeadWhen,
}

/// When a bead is rolled, so that the tool still fits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BeadWhen {
    /// Whenever one likes.
    Whenever,
    /// Before its piece is welded to the bend.
    BeforeWelding,
    /// Before the tube is bent.
    BeforeBending,
    /// It is on the leg of a bought elbow: no roller fits, a crimper does.
    Crimped,
    /// There is no room for any tool.
    NoRoom,
}

/// Straight tube in mm that a bead roller wants from the tube's end. Source: handbook, mistake 2.
pub const ROLLER: f64 = 60.0;
/// The same of a hand crimper. Source: handbook, "Joints and fittings", clamps.
pub const CRIMPER: f64 = 30.0;

/// Height of a bead in mm on tube of `od` mm. Source: handbook, "The sums", Joints.
#[must_use]
pub fn bead_height(od: f64) -> f64 {
    if od <= 38.1 { 1.0 } else { 1.5 }
}

impl Assembly {
    /// The beads under its hoses, from A.
    #[must_use]
    pub fn beads(&self) -> Vec<SeatedBead> {
        let straights = self.straight_stations();
        // Where each bend of tube begins and ends.
        let bends = (0..self.makes.len()).filter(|bend| self.makes[*bend] != ResolvedMake::Moulded);
        let bends: Vec<(usize, [f64; 2])> =
            bends.map(|bend| (bend, [straights[bend][1], straights[bend + 1][0]])).collect();
        let mut all = Vec::new();
        for (section, [from, to]) in self.sections().into_iter().enumerate() {
            let inside = |(_, [start, end]): &&(usize, [f64; 2])| *start >= from - 1e-6 && *end <= to + 1e-6;
            let first = bends.iter().find(inside).map(|(bend, [start, _])| (*bend, start - from));
            let last = bends.iter().rfind(inside).map(|(bend, [_, end])| (*bend, to - end));
            for (end, joint, beside) in
                [(End::A, &self.joints[section], first), (End::B, &self.joints[section + 1], last)]
            {
                if joint.kind.has_hose() {
                    let when =
                        beside.map_or(BeadWhen::Whenever, |(bend, straight)| self.bead_when(bend, end, straight));
                    let straight = beside.map(|(_, straight)| straight);
                    all.push(SeatedBead { joint: joint.id, section, end, straight, when });
                }
            }
        }
        all
    }

    /// When a bead is rolled that has so much straight tube to a bend behind it.
    fn bead_when(&self, bend: usize, end: End, straight: f64) -> BeadWhen {
        if straight >= ROLLER {
            return BeadWhen::Whenever;
        }
        match &self.makes[bend] {
            ResolvedMake::Drawn => BeadWhen::BeforeBending,
            ResolvedMake::Elbow(elbow) if elbow.ends[usize::from(end == End::B)] == ElbowEnd::Free => {
                if straight >= CRIMPER { BeadWhen::Crimped } else { BeadWhen::NoRoom }
            }
            ResolvedMake::Elbow(_)
            | ResolvedMake::Pies { .. }
            | ResolvedMake::KitPies { .. }
            | ResolvedMake::Moulded => BeadWhen::BeforeWelding,
        }
    }
}

//! How a bend of a pipe is made, with what was left open worked out.

use super::{BendMake, ElbowMake, KitPie, PieCut, PieEnds, usual_seams};
use crate::stock::Tube;
use nook_geometry::Arc;
use nook_geometry::units::SeamCount;

/// How a bend of a pipe is made.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum ResolvedMake {
    /// Sawn slices, welded.
    Pies {
        /// Seams between its parts; square ends add one.
        seams: SeamCount,
        /// How the pies meet the straights.
        ends: PieEnds,
        /// Their figures.
        cut: PieCut,
    },
    /// Bought pies of one angle, welded.
    KitPies {
        /// What one of them is.
        pie: KitPie,
        /// Their figures.
        cut: PieCut,
    },
    /// The tube itself, bent; or a hose, by hand or as it was moulded.
    Drawn,
    /// A bought elbow.
    Elbow(ElbowMake),
    /// No tube at all: a moulded hose over both tube ends.
    Moulded,
}

impl ResolvedMake {
    /// How the bend `arc` of a tube is made, as was decided or as is usual.
    #[must_use]
    pub fn of(make: Option<BendMake>, tube: Tube, arc: &Arc) -> Self {
        match make.filter(|_| !tube.material().is_hose()).unwrap_or_else(|| BendMake::usual(tube)) {
            BendMake::Pies { seams, ends } => {
                let seams = seams.unwrap_or_else(|| usual_seams(tube, arc.radius, arc.angle));
                Self::pies(tube.od(), arc, seams, ends)
            }
            BendMake::KitPies { pie } => Self::KitPies { pie, cut: PieCut::kit(tube.od(), pie, arc) },
            BendMake::Drawn => Self::Drawn,
            BendMake::Elbow { stock, cut } => Self::Elbow(ElbowMake::new(stock, cut, arc.angle)),
        }
    }

    /// Pies of tube of `od` mm.
    #[must_use]
    pub fn pies(od: f64, arc: &Arc, seams: SeamCount, ends: PieEnds) -> Self {
        Self::Pies { seams, ends, cut: PieCut::new(od, arc.radius, arc.angle, seams, ends) }
    }

    /// The figures of its pies; `None` where it is made of none.
    #[must_use]
    pub const fn pies_cut(&self) -> Option<&PieCut> {
        match self {
            Self::Pies { cut, .. } | Self::KitPies { cut, .. } => Some(cut),
            Self::Drawn | Self::Elbow(_) | Self::Moulded => None,
        }
    }

    /// Turns between its parts, as what flows through meets them; `None` for a true arc.
    #[must_use]
    pub fn mitres(&self) -> Option<u32> {
        match self {
            Self::Pies { seams, .. } => Some(seams.get().into()),
            // Ends that are hardly sawn turn little more than half as far as the seams between pies: two of them are as one.
            Self::KitPies { cut, .. } => Some(cut.pies.max(1)),
            Self::Drawn | Self::Elbow(_) | Self::Moulded => None,
        }
    }

    /// Welds it takes.
    #[must_use]
    pub fn welds(&self) -> u32 {
        match self {
            Self::Pies { cut, .. } | Self::KitPies { cut, .. } => cut.pies + 1,
            Self::Elbow(elbow) => elbow.welds(),
            Self::Drawn | Self::Moulded => 0,
        }
    }

    /// Angles in radians from the start of the bend to the faces of its pies: its seams with each other and with mitred or
    /// square tube.
    #[must_use]
    pub fn faces(&self) -> Vec<f64> {
        self.pies_cut().map(|cut| cut.faces().collect()).unwrap_or_default()
    }
}

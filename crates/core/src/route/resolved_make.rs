//! How a bend of a pipe is made, with what was left open worked out.

use super::{BendMake, ElbowMake, PieCut, PieEnds, usual_seams};
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
            BendMake::Drawn => Self::Drawn,
            BendMake::Elbow { stock, cut } => Self::Elbow(ElbowMake::new(stock, cut, arc.angle)),
        }
    }

    /// Pies of tube of `od` mm.
    #[must_use]
    pub fn pies(od: f64, arc: &Arc, seams: SeamCount, ends: PieEnds) -> Self {
        Self::Pies { seams, ends, cut: PieCut::new(od, arc.radius, arc.angle, seams, ends) }
    }

    /// Seams between its parts, as what flows through meets them; `None` for a true arc.
    #[must_use]
    pub fn mitres(&self) -> Option<u32> {
        match self {
            Self::Pies { seams, .. } => Some(seams.get().into()),
            Self::Drawn | Self::Elbow(_) | Self::Moulded => None,
        }
    }

    /// Welds it takes.
    #[must_use]
    pub fn welds(&self) -> u32 {
        match self {
            Self::Pies { seams, ends, .. } => u32::from(seams.get()) + u32::from(*ends == PieEnds::Square),
            Self::Elbow(elbow) => elbow.welds(),
            Self::Drawn | Self::Moulded => 0,
        }
    }

    /// Angles in radians from the start of the bend to the faces of its pies: its seams with each other and with mitred or
    /// square tube.
    #[must_use]
    pub fn faces(&self) -> Vec<f64> {
        match self {
            Self::Pies { seams, ends: PieEnds::Mitred, cut } => {
                (0..seams.get()).map(|k| (f64::from(k) + 0.5) * cut.seam_angle).collect()
            }
            Self::Pies { seams, ends: PieEnds::Square, cut } => {
                (0..=seams.get()).map(|k| f64::from(k) * cut.seam_angle).collect()
            }
            Self::Drawn | Self::Elbow(_) | Self::Moulded => Vec::new(),
        }
    }
}

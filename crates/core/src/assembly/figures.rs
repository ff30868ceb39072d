//! What a pipe comes to: length, mass, volume, seams, cuts and tube to buy. Worked out here once, for whoever shows it.

use std::f64::consts::PI;

use super::Assembly;
use crate::cut::{CutPlan, Piece, PieceKind, seam_length};
use crate::labour::Labour;
use crate::route::{ResolvedMake, ResolvedRun};

/// Sums over one pipe.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Figures {
    /// Length of tube along the centre line in mm, without the gaps in its joints.
    pub developed: f64,
    /// From tube end to tube end in mm, gaps in joints between them included.
    pub end_to_end: f64,
    /// From mouth to mouth in mm, all gaps included.
    pub mouth_to_mouth: f64,
    /// Length in mm along the middles of its pieces, which is what is weighed: mitred pies run outside the arc.
    pub sawn: f64,
    /// Welded seams.
    pub seams: u32,
    /// Length of weld in mm.
    pub weld: f64,
    /// Bends drawn by a tube bender.
    pub drawn: u32,
    /// Cuts: one between each two pieces, and one at each end of the stick.
    pub cuts: u32,
    /// Tube in mm that one endless stick gives for it, kerf included; `None` where a piece cannot be cut.
    pub stick: Option<f64>,
    /// Mass of tube in kg.
    pub mass_kg: f64,
    /// Volume inside in litres, of tube alone.
    pub litres: f64,
}

impl Assembly {
    /// What the pipe of `run` comes to, made of its `pieces`, sawn by `plan`; `None` where a piece cannot be cut.
    #[must_use]
    pub fn figures(&self, run: &ResolvedRun, pieces: &[Piece], plan: Option<&CutPlan>) -> Figures {
        let od = run.tube.od();
        let sawn: f64 = pieces.iter().map(|piece| piece.centre).sum();
        let weld = |make: &ResolvedMake| match make {
            ResolvedMake::Pies { cut, .. } | ResolvedMake::KitPies { cut, .. } => {
                f64::from(make.welds()) * seam_length(od, cut.saw)
            }
            ResolvedMake::Elbow(elbow) => f64::from(elbow.welds()) * seam_length(od, 0.0),
            ResolvedMake::Drawn | ResolvedMake::Moulded => 0.0,
        };
        // A bought elbow is sawn too where it is trimmed; a bought pie is not.
        let is_sawn = |piece: &&Piece| !matches!(piece.kind, PieceKind::Pie { kit: true, .. });
        let spliced = u32::try_from(self.splices.len()).unwrap_or(u32::MAX);
        let gaps: f64 = self.between().iter().map(|joint| joint.needs.gap).sum();
        Figures {
            developed: self.tube.length() - gaps,
            end_to_end: self.tube.length(),
            mouth_to_mouth: self.whole.length(),
            sawn,
            seams: self.makes.iter().map(ResolvedMake::welds).sum::<u32>().saturating_add(spliced),
            weld: self.makes.iter().map(weld).sum::<f64>() + f64::from(spliced) * seam_length(od, 0.0),
            drawn: self.drawn(),
            cuts: u32::try_from(pieces.iter().filter(is_sawn).count()).unwrap_or(u32::MAX).saturating_add(1),
            stick: plan.map(|plan| plan.stock_used),
            mass_kg: run.tube.mass(sawn),
            litres: PI / 4.0 * run.tube.bore().powi(2) * sawn * 1e-6,
        }
    }
}

impl Assembly {
    /// Bends drawn by a tube bender.
    fn drawn(&self) -> u32 {
        let drawn = self.makes.iter().filter(|make| **make == ResolvedMake::Drawn).count();
        u32::try_from(drawn).unwrap_or(u32::MAX)
    }
}

impl Figures {
    /// The work it takes.
    #[must_use]
    pub fn labour(&self, run: &ResolvedRun, bends: u32) -> Labour {
        if run.hose.is_some() {
            // Cut, made up and fitted once; it bends by hand.
            let cuts = self.cuts;
            return Labour { cuts, seams: 0, weld: 0.0, bends: 0, drawn: 0, material: run.tube.material() };
        }
        let drawn = self.drawn;
        Labour { cuts: self.cuts, seams: self.seams, weld: self.weld, bends, drawn, material: run.tube.material() }
    }
}

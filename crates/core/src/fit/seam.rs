//! Where the pieces of a pipe are welded to each other.

use nalgebra::Point3;

use crate::cut::{Along, Piece, PieceKind, Solid};
use nook_geometry::Vector;

/// A weld between two pieces of one section.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Seam {
    /// Its middle, in mm.
    pub at: Point3<f64>,
    /// The direction of travel across it, square to its plane.
    pub along: Vector,
    /// About what the pipe turns there more when its faces are sawn at more; `None` where both are square.
    pub bends_about: Option<Vector>,
    /// The bend it is of.
    pub bend: Option<usize>,
}

/// Where faces turn by less than this, in radians, they are square.
const SQUARE: f64 = 1e-6;

impl Seam {
    /// The weld after a piece; `None` at a joint, and at the end.
    #[must_use]
    pub fn after(pieces: &[Piece], sections: &[usize], at: usize) -> Option<Self> {
        let [before, after] = [pieces.get(at)?, pieces.get(at + 1)?];
        if sections.get(at) != sections.get(at + 1) {
            return None;
        }
        let [last, next] = [before.solids.last()?, after.solids.first()?];
        let axis = |solid: &Solid| (Point3::from(solid.to) - Point3::from(solid.from)).try_normalize(1e-9);
        let bends_about = axis(last)?.cross(&axis(next)?).try_normalize(SQUARE);
        let bend = [after.kind, before.kind].into_iter().find_map(|kind| match kind {
            PieceKind::Pie { bend, .. } | PieceKind::Elbow { bend, .. } => Some(bend),
            PieceKind::Tube { .. } => None,
        });
        // Two tubes mitred against each other are a bend of one seam.
        let bend = bend.or(match (bends_about, last.along) {
            (Some(_), Along::Leg(leg)) => Some(leg),
            _ => None,
        });
        Some(Self { at: last.to.into(), along: Vector::from(last.to_normal), bends_about, bend })
    }
}

/// Which section each piece is of.
#[must_use]
pub fn sections_of(pieces: &[Piece]) -> Vec<usize> {
    let mut now = 0;
    let each = pieces.iter().map(|piece| {
        if let PieceKind::Tube { section, .. } | PieceKind::Elbow { section, .. } = piece.kind {
            now = section;
        }
        now
    });
    each.collect()
}

//! What to saw: pies, templates, pieces and the order of cuts.

mod elbow;
mod ellipse;
mod hose_pieces;
mod piece_id;
mod pieces;
mod saddle;
mod stick;
mod template;

pub use elbow::{ElbowCut, ElbowTooSmall};
pub use ellipse::seam_length;
pub use hose_pieces::{CutOnCurve, HosePiece, hose_pieces};
pub use piece_id::PieceId;
pub use pieces::{Along, Face, Piece, PieceKind, Solid, pieces};
pub use saddle::{DoesNotSit, Saddle, SaddlePoint};
pub use stick::{Cut, CutPlan, Meeting, ScribeLine, cut_plan};
pub use template::WrapTemplate;

//! What to saw: pies, templates, pieces and the order of cuts.

mod chain;
mod closing_piece;
mod elbow;
mod ellipse;
mod hose_pieces;
mod piece_id;
mod pieces;
mod saddle;
mod stick;
mod template;

pub use chain::Chain;
pub use closing_piece::{ClosingPiece, closing_piece};
pub use elbow::{ElbowCut, ElbowTooSmall};
pub use ellipse::seam_length;
pub use hose_pieces::{CutOnCurve, HosePiece, hose_pieces};
pub use piece_id::PieceId;
pub use pieces::{Along, Face, Parted, Piece, PieceKind, Solid, pieces};
pub use saddle::{DoesNotSit, Saddle, SaddlePoint};
pub use stick::{Cut, CutPlan, EndLine, Meeting, ScribeLine, chain_plan, cut_plan};
pub use template::WrapTemplate;

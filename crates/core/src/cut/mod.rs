//! What to saw: pies, templates, pieces and the order of cuts.

mod ellipse;
mod pieces;
mod stick;
mod template;

pub use ellipse::seam_length;
pub use pieces::{Face, Piece, PieceKind, Solid, pieces};
pub use stick::{Cut, CutPlan, ScribeLine, cut_plan};
pub use template::WrapTemplate;

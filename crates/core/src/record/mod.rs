//! The record: what was done to the metal. Deeds are only ever added, and undo does not touch them.

mod bench_act;
mod deed;
mod progress;

pub use bench_act::BenchAct;
pub use deed::{Deed, DeedId, DeedIdError, Done, PieceCut, PieceSize};
pub use progress::Progress;

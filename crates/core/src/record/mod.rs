//! The record: what was done to the metal. Deeds are only ever added, and undo does not touch them.

mod bench_act;
mod deed;
mod deed_words;
mod fit_act;
mod fit_log;
mod fit_reading;
mod picture;
mod progress;
mod proof;
mod worked;

pub use bench_act::BenchAct;
pub use deed::{Deed, DeedId, DeedIdError, Done, PieceCut, PieceSize};
pub use deed_words::{DeedWords, deed_words};
pub use fit_act::FitAct;
pub use fit_log::{FitEntry, FitStep};
pub use fit_reading::FitReading;
pub use picture::{PictureId, PictureIdError};
pub use progress::{BottleRead, By, Progress};
pub use proof::{CheckDone, Signature, TestDone, TestKind};
pub use worked::Worked;

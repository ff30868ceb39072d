//! Weld: every seam of a pipe, how each is set, in which order they are welded, and the gas inside.

mod gas;
mod least_pull;
mod process;
mod purge;
mod seam_order;
mod settings;
mod turner;
mod weld_pull;
mod weld_seam;
mod welder;

pub use gas::{Bottle, GasPlan, READ_TO, arc_minutes};
pub use least_pull::{Effect, PulledSeam, Pulls, Strayed, least_pull};
pub use process::{Filler, Inside, NotSo, Process, filler};
pub use purge::{Dams, Purge, dams, oxygen_left, volumes_for};
pub use seam_order::weld_order;
pub use settings::{Settings, WeldTimes, tack_count, widest_gap};
pub use turner::{TurnerSpeed, turner};
pub use weld_pull::WeldPull;
pub use weld_seam::{SeamId, SeamKind, WeldSeam, weld_seams};
pub use welder::{WeldCoupon, WeldOutcome, Welder, WelderError};

//! Which way the pipe goes.

mod bends;
mod bones;
mod candidate;
mod clocked;
mod family;
mod lay;
mod locked;
mod pie;
mod reshape;
mod run;
mod settled;
mod shaper;
mod skin;
mod snap;
mod step;
mod table;
mod way;
mod ways;
mod wishes;

pub use bends::{BendsError, add_bend, merge_bends, remove_bend, split_bend};
pub(crate) use bones::{Bones, Each, Free, Hung, course_of, least_straights};
pub use candidate::{Candidate, WayKind};
pub use clocked::{ClockedSeam, LinishedPie};
pub use family::{FixedBends, two_fixed_bends};
pub use lay::{LayError, lay, tube_path};
pub use locked::lock_errors;
pub use pie::{PieCut, PieEnds, least_throat, usual_seams};
pub use reshape::{HeldBy, ReshapeError, Shaped, Snap, Target, drag, hold_locks, reshape};
pub use run::{KeptWay, Run, RunDraft};
pub use settled::Settled;
pub(crate) use skin::{HOSE, Pies, makes, rides, skin};
pub(crate) use step::{Limit, best_step};
pub use table::{TableError, TableRow, TableWay, way_of_table};
pub use way::{BendSpec, Course, Lock, Way};
pub use ways::{NoWay, Ways, least_between_bends, one_bend_nearby, ways};
pub use wishes::{AngleChoice, Ban, LegWay, LegWish, Pin, Wishes};

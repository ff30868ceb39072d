//! Which way the pipe goes.

mod candidate;
mod family;
mod lay;
mod reshape;
mod way;
mod ways;

pub use candidate::{Candidate, WayKind};
pub use lay::{LayError, lay, tube_path};
pub use reshape::{ReshapeError, Target, reshape};
pub use way::{BendSpec, Course, Way};
pub use ways::{NoWay, Ways, least_between_bends, one_bend_nearby, ways};

//! Which way the pipe goes.

mod candidate;
mod family;
mod lay;
mod pie;
mod reshape;
mod run;
mod settled;
mod skin;
mod way;
mod ways;

pub use candidate::{Candidate, WayKind};
pub use lay::{LayError, lay, tube_path};
pub use pie::{PieCut, PieEnds, least_throat, usual_seams};
pub use reshape::{ReshapeError, Target, reshape};
pub use run::{Run, RunDraft};
pub use settled::Settled;
pub(crate) use skin::{Curve, skin};
pub use way::{BendSpec, Course, Way};
pub use ways::{NoWay, Ways, least_between_bends, one_bend_nearby, ways};

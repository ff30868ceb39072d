//! Which way the pipe goes.

mod bones;
mod candidate;
mod family;
mod lay;
mod pie;
mod reshape;
mod run;
mod settled;
mod skin;
mod step;
mod way;
mod ways;
mod wishes;

pub(crate) use bones::{Bones, Each, Free, Hung, course_of, free_of, least_straights, mirrored};
pub use candidate::{Candidate, WayKind};
pub use lay::{LayError, lay, tube_path};
pub use pie::{PieCut, PieEnds, least_throat, usual_seams};
pub use reshape::{ReshapeError, Target, reshape};
pub use run::{Run, RunDraft};
pub use settled::Settled;
pub(crate) use skin::{Curve, skin};
pub(crate) use step::{Limit, best_step};
pub use way::{BendSpec, Course, Way};
pub use ways::{NoWay, Ways, least_between_bends, one_bend_nearby, ways};
pub use wishes::{AngleChoice, Ban, LegWay, LegWish, Pin, Wishes};

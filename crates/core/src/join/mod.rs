//! How a pipe comes apart and holds.

mod end_joint;
mod thrust;

pub use end_joint::{BEAD_FROM_END, EndJoint, GapReason, JointKind, SizeMatch, clamp_band, usual_gap, usual_seat};
pub use thrust::{bend_thrust, end_thrust};

//! How a pipe comes apart and holds.

mod joint_kind;
mod thrust;

pub use joint_kind::{
    BEAD_FROM_END, GapReason, JointKind, SizeMatch, clamp_band, taper, usual_gap, usual_kind, usual_seat,
};
pub use thrust::{bend_thrust, end_thrust};

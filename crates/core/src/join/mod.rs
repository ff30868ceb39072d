//! How a pipe comes apart and holds.

mod hose;
mod joint_kind;
mod joint_part;
mod joint_spec;
mod size_match;
mod thrust;

pub use hose::{BEAD_FROM_END, GapReason, clamp_band, taper, usual_gap, usual_seat};
pub use joint_kind::{JointKind, usual_kind};
pub use joint_part::JointPart;
pub use joint_spec::{
    BELLOWS, CLAMP, FLANGE, FLANGE_DEEP, Give, HOSE, Holds, JointSpec, LEAST_HUMP, OverKind, Reached, Ring, Screw,
    widest_gap,
};
pub use size_match::SizeMatch;
pub use thrust::{bend_thrust, end_thrust};

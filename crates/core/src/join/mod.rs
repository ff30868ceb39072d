//! How a pipe comes apart, and what holds it.

mod branch_kind;
mod flange_plate;
mod hose;
mod joint_kind;
mod joint_part;
mod joint_spec;
mod size_match;
mod span;
mod support_kind;
mod thrust;

pub use branch_kind::{BranchKind, WAY_IN};
pub use flange_plate::{FlangePlate, NoPlate, PlateHoles, ROUND_TUBE};
pub use hose::{BEAD_FROM_END, GapReason, clamp_band, taper, usual_gap, usual_seat};
pub use joint_kind::{JointKind, usual_kind};
pub use joint_part::JointPart;
pub use joint_spec::{
    BELLOWS, CLAMP, FLANGE, FLANGE_DEEP, Give, HOSE, Holds, JointSpec, LEAST_HUMP, OverKind, Reached, Ring, SCREW_OUT,
    Screw, widest_gap,
};
pub use size_match::SizeMatch;
pub use span::{ABOVE_FIRING, Beam, EngineFiring, LEAST_ON_BODY, firing_frequency, firing_speed, growth};
pub use support_kind::{CLEAR_OF_SEAMS, SupportKind, stand_off};
pub use thrust::{bend_thrust, end_thrust};

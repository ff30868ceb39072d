//! Which way the pipe goes.

mod bend;
mod bends;
mod branch;
mod build_path;
mod candidate;
mod centreline;
mod clocked;
mod constraints;
mod family;
mod fitted;
mod joint;
mod joint_needs;
mod locked;
mod mark;
mod pie;
mod qp;
mod reseat;
mod reshape;
mod resolved_make;
mod resolved_run;
mod route_geometry;
mod routes;
mod run;
mod snap;
mod solver;
mod support;
mod table;
mod target;

pub use bend::{BendId, BendMake, BendSpec, LegId, Stretch};
pub use bends::{BendsError, add_bend, merge_bends, remove_bend, split_bend};
pub use branch::{Branch, BranchId};
pub use build_path::{LayError, build_path, tube_path};
pub use candidate::{Candidate, RouteKind};
pub use centreline::{Centreline, Lock, Route};
pub use clocked::{ClockedSeam, LinishedPie};
pub use constraints::{AngleChoice, ExclusionZone, LegConstraint, LegDirection, Pin, RouteConstraints};
pub use family::{FixedBends, two_fixed_bends};
pub use fitted::{Fitted, FittedBar, Outlet};
pub use joint::{AlongAnchor, Joint, JointAnchor, JointId, LegEnd};
pub use joint_needs::{Needs, joint_needs};
pub use locked::lock_errors;
pub use mark::{Mark, MarkError};
pub use pie::{PieCut, PieEnds, least_throat, usual_seams};
pub use qp::{Constraint, QpStep, solve_qp};
pub use reseat::{reseated, reseated_branches, reseated_supports, with_parts_of};
pub use reshape::{Shaped, drag, hold_locks, reshape};
pub use resolved_make::ResolvedMake;
pub use resolved_run::ResolvedRun;
pub use route_geometry::{
    DesignVector, Each, RouteEnds, RouteGeometry, course_of, least_straights, least_straights_of,
};
pub use routes::{NoRoute, Routes, elbow_angles, least_between_bends, one_bend_nearby, ways};
pub use run::{KeptRoute, Run, RunDraft};
pub use support::{Support, SupportDraft, SupportId};
pub use table::{TableError, TableRoute, TableRow, way_of_table};
pub use target::{HeldBy, Reach, ReshapeError, Snap, Target};

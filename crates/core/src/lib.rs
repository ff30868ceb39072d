//! The rules and the sums of Nook Bend.
//!
//! Decisions in, consequences out: a [`Job`] holds what a builder measured and decided, an [`Edit`] is one
//! more decision, [`apply`] gives the next job or a [`EditError`], and [`workup`] tells everything that follows
//! for one run. Nothing here reads a file, a clock or a socket.
//!
//! Conventions: lengths in millimetres and angles in degrees at every boundary, radians inside. Vehicle axes
//! after ISO 8855: x forward, y left, z up, right-handed.

pub mod assembly;
pub mod cautions;
pub mod cut;
pub mod edit;
mod edit_words;
pub mod environment;
pub mod fastening;
pub mod findings;
pub mod fit;
pub mod flow;
pub mod hold_up;
pub mod job;
pub mod join;
pub mod labour;
pub mod measure;
mod neighbours;
pub mod part_ref;
pub mod placing;
pub mod prove;
pub mod rack;
pub mod rates;
pub mod reach;
pub mod record;
pub mod route;
pub mod stock;
pub mod survey;
pub mod taken_out;
pub mod weld;
pub mod work_step;
pub mod workshop;
pub mod workup;

pub use edit::{
    Applied, CutEdit, Edit, EditError, JobEdit, JoinEdit, MeasureEdit, PlaceEdit, RouteEdit, SpecEdit, apply, merge,
};
pub use edit_words::edit_words;
pub use environment::Scans;
pub use job::Job;
pub use measure::RunId;
pub use part_ref::PartRef;
pub use route::Run;
pub use work_step::WorkStep;
pub use workshop::Workshop;
pub use workup::{Given, Workup, workup, workup_among, workup_given, workup_of_drag};

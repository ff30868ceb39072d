//! Where things are: datums, ports and keep-outs, what was read to find out, and how things move.

mod component;
mod component_design;
mod datum;
pub mod estimate;
mod facets;
mod freedom;
mod instrument_checks;
mod keep_out;
mod measurand;
mod mount_point;
mod mounts;
mod neck;
mod opening;
mod port;
mod reading;
mod reading_name;
mod scan;
mod shape;
mod stance;

pub use component::{BoxFace, Breathing, Component, ComponentId, HandRoom, PlacingWishes};
pub use component_design::{ComponentDesign, DesignMount, DesignPort};
pub use datum::{Datum, DatumId};
pub use facets::{Facets, facets};
pub use freedom::{Freedom, MoveWords, TurnRange};
pub use instrument_checks::{InstrumentChecks, TapeCheck, TiltCheck};
pub use keep_out::{InstallState, KeepOut, KeepOutId, KeepOutKind, Swing};
pub use measurand::Measurand;
pub use mount_point::{Bracket, BracketStock, Foot, FootPlace, Holding, MountId, MountPoint, Rubber};
pub use mounts::{CrankTurn, MountKind, Mounts, Usual, about};
pub use neck::{Mitre, Neck, NeckCut, NeckProblem};
pub use opening::{Opening, OpeningId};
pub use port::{End, EndForm, Port, PortRef, RunId, Side};
pub use reading::{Against, Anchor, Axis, Reading, RimSide, Spot, SpreadUnit, Taken};
pub use scan::{
    MatchError, Matched, MatchedPair, MatchedTo, NoScanId, Placement, Scan, ScanId, ScanUnit, match_points,
};
pub use shape::{KeepOutShape, MOST_POINTS, box_angles, box_turn};
pub use stance::Stance;

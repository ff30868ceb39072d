//! Where things are: datums, ports and keep-outs, what was read to find out, and how things move.

mod component;
mod datum;
pub mod estimate;
mod facets;
mod instrument_checks;
mod keep_out;
mod measurand;
mod mounts;
mod port;
mod reading;
mod reading_name;
mod scan;
mod shape;

pub use component::{Component, ComponentId, TurnRange};
pub use datum::{Datum, DatumId};
pub use facets::{Facets, facets};
pub use instrument_checks::{InstrumentChecks, TapeCheck, TiltCheck};
pub use keep_out::{InstallState, KeepOut, KeepOutId, KeepOutKind, Swing};
pub use measurand::Measurand;
pub use mounts::{CrankTurn, MountKind, Mounts, Usual, about};
pub use port::{End, EndForm, Port, PortRef, RunId, Side};
pub use reading::{Against, Anchor, Axis, Reading, RimSide, Spot, SpreadUnit, Taken};
pub use scan::{
    MatchError, Matched, MatchedPair, MatchedTo, NoScanId, Placement, Scan, ScanId, ScanUnit, match_points,
};
pub use shape::{KeepOutShape, MOST_POINTS, box_turn};

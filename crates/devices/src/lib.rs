//! Tape, angle gauge and caliper: the line protocol they speak (docs/instruments.md), and stand-ins that speak it with
//! the faults of real ones.

mod address;
mod protocol;
mod serve;
mod stand_in;

pub use address::{InstrumentError, NamedInstrument};
pub use protocol::{Garbled, Kind, Line, Order};
pub use serve::serve_stand_ins;
pub use stand_in::{Faults, Sent, StandIn};

//! Where things are: ports and keep-outs.

mod keep_out;
mod port;

pub use keep_out::{KeepOut, KeepOutId, KeepOutKind, KeepOutShape};
pub use port::{End, EndForm, Port, Side};

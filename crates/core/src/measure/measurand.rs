//! What can be measured.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{DatumId, KeepOutId, PortRef};

/// What is measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "of", rename_all = "snake_case", deny_unknown_fields)]
pub enum Measurand {
    /// A datum point.
    Datum {
        /// Which.
        datum: DatumId,
    },
    /// A port.
    Port {
        /// Which.
        port: PortRef,
    },
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
}

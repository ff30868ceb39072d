//! Workups as JSON text. Serialising is generic: it is compiled, and optimised or not, where it is asked for, and the
//! server that asks is not optimised.

use serde::ser::Error;
use serde::{Serialize, Serializer};
use serde_json::value::{RawValue, to_raw_value};

use super::{BayWorkup, Workup};

/// What is written as JSON on the way to every preview.
pub trait ToJson {
    /// As JSON text.
    ///
    /// # Errors
    /// None for what these hold; serde's own.
    fn to_json(&self) -> serde_json::Result<Box<RawValue>>;
}

impl ToJson for Workup {
    fn to_json(&self) -> serde_json::Result<Box<RawValue>> {
        to_raw_value(self)
    }
}

impl ToJson for BayWorkup {
    fn to_json(&self) -> serde_json::Result<Box<RawValue>> {
        to_raw_value(self)
    }
}

/// Serialises a field by its [`ToJson`].
///
/// # Errors
/// As that has.
pub fn as_json<S: Serializer>(value: &impl ToJson, serializer: S) -> Result<S::Ok, S::Error> {
    value.to_json().map_err(S::Error::custom)?.serialize(serializer)
}

//! A length as somebody gives it: a number of mm, or a text with its unit.

use std::fmt;

use serde::de::{Deserialize, Deserializer, Error, Visitor};

use super::{LengthUnit, read_length};

/// A length in mm, read from a number of mm or from a text such as `3 3/8 in`; a text without a unit is in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LengthInput(pub f64);

struct Length;

impl Visitor<'_> for Length {
    type Value = LengthInput;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a length: a number of mm, or a text such as \"3 3/8 in\"")
    }

    fn visit_f64<E: Error>(self, mm: f64) -> Result<LengthInput, E> {
        Ok(LengthInput(mm))
    }

    #[allow(clippy::cast_precision_loss, reason = "beyond 2^53 mm it is out of any range")]
    fn visit_u64<E: Error>(self, mm: u64) -> Result<LengthInput, E> {
        Ok(LengthInput(mm as f64))
    }

    #[allow(clippy::cast_precision_loss, reason = "beyond 2^53 mm it is out of any range")]
    fn visit_i64<E: Error>(self, mm: i64) -> Result<LengthInput, E> {
        Ok(LengthInput(mm as f64))
    }

    fn visit_str<E: Error>(self, text: &str) -> Result<LengthInput, E> {
        read_length(text, LengthUnit::Mm).map(LengthInput).map_err(E::custom)
    }
}

impl<'de> Deserialize<'de> for LengthInput {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        deserializer.deserialize_any(Length)
    }
}

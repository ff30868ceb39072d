//! Pictures of what was done.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// Which picture: by the SHA-256 of its file, in hexadecimal, so that the same one is kept once.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, min_length = 64, max_length = 64, pattern = "^[0-9a-f]{64}$")]
pub struct PictureId(String);

/// The text names no picture.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("a picture is named by 64 hexadecimal digits")]
pub struct PictureIdError;

impl PictureId {
    /// The text.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for PictureId {
    type Error = PictureIdError;
    fn try_from(text: String) -> Result<Self, PictureIdError> {
        let plain = text.bytes().all(|byte| byte.is_ascii_digit() || (b'a'..=b'f').contains(&byte));
        if plain && text.len() == 64 { Ok(Self(text)) } else { Err(PictureIdError) }
    }
}

impl From<PictureId> for String {
    fn from(id: PictureId) -> Self {
        id.0
    }
}

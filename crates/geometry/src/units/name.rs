//! Names that people give things.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// A name somebody gave: 1 to 80 characters, not all blank, no line breaks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, min_length = 1, max_length = 80)]
pub struct Name(String);

/// The text is no name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[error("a name needs 1 to {} characters on one line", Name::LONGEST)]
pub struct NameError;

impl Name {
    /// Most characters.
    pub const LONGEST: usize = 80;

    /// Trims and checks a name.
    ///
    /// # Errors
    /// [`NameError`] when nothing is left, more than 80 characters are, or it holds a control character.
    pub fn new(text: &str) -> Result<Self, NameError> {
        let text = text.trim();
        let good = !text.is_empty() && text.chars().count() <= Self::LONGEST && !text.chars().any(char::is_control);
        if good { Ok(Self(text.to_owned())) } else { Err(NameError) }
    }

    /// The text.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for Name {
    type Error = NameError;
    fn try_from(text: String) -> Result<Self, NameError> {
        Self::new(&text)
    }
}

impl From<Name> for String {
    fn from(name: Name) -> Self {
        name.0
    }
}

//! A document in an open file: JSON that says what it is and of which version.

use serde::de::DeserializeOwned;
use serde::ser::SerializeMap;
use serde::{Deserialize, Serialize, Serializer};
use serde_json::Value;
use thiserror::Error;

/// Largest document read, in bytes: a full one is well under one megabyte.
pub const LARGEST_JOB_FILE: usize = 4 * 1024 * 1024;

/// Why a document was not read. Nothing of it is kept.
#[derive(Debug, Error)]
pub enum DocumentError {
    /// Larger than [`LARGEST_JOB_FILE`].
    #[error("the file has {bytes} bytes; {LARGEST_JOB_FILE} is the most")]
    TooLarge {
        /// Its size.
        bytes: usize,
    },
    /// Not JSON, or cut off.
    #[error("the file is no JSON: {0}")]
    NotJson(serde_json::Error),
    /// JSON, but something else.
    #[error("the file is JSON but no {what}: it must say \"format\": \"nook-bend {what}\"")]
    OtherFormat {
        /// What was asked for, such as `job`.
        what: &'static str,
    },
    /// Written by a newer Nook Bend.
    #[error("the file has version {version}; this Nook Bend reads up to version {known}. Update Nook Bend to open it")]
    TooNew {
        /// The version found.
        version: u64,
        /// The newest that is read.
        known: u32,
    },
    /// Something in it is wrong.
    #[error("at {place}: {problem}")]
    Content {
        /// Where, as a path through the file.
        place: String,
        /// What is wrong.
        problem: String,
    },
}

/// A sort of document.
pub(crate) struct Document {
    /// What it is called, and the name of its field.
    pub(crate) what: &'static str,
    /// The version written; earlier ones are read.
    pub(crate) version: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Head {
    #[serde(rename = "format")]
    _format: String,
    #[serde(rename = "version")]
    _version: u32,
}

/// A document as it is written: what it is comes first.
struct Written<'a, T> {
    document: &'a Document,
    content: &'a T,
}

impl<T: Serialize> Serialize for Written<'_, T> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut map = serializer.serialize_map(Some(3))?;
        map.serialize_entry("format", &self.document.format())?;
        map.serialize_entry("version", &self.document.version)?;
        map.serialize_entry(self.document.what, self.content)?;
        map.end()
    }
}

impl Document {
    pub(crate) fn format(&self) -> String {
        format!("nook-bend {}", self.what)
    }

    /// The document as a file, readable by people, with a line break at its end.
    pub(crate) fn write(&self, content: &impl Serialize) -> Result<String, serde_json::Error> {
        let mut text = serde_json::to_string_pretty(&Written { document: self, content })?;
        text.push('\n');
        Ok(text)
    }

    /// What a file holds, brought to the present version by `upgraded`.
    pub(crate) fn read<T: DeserializeOwned>(
        &self,
        bytes: &[u8],
        upgraded: impl FnOnce(u32, Value) -> Value,
    ) -> Result<T, DocumentError> {
        if bytes.len() > LARGEST_JOB_FILE {
            return Err(DocumentError::TooLarge { bytes: bytes.len() });
        }
        let mut value: Value = serde_json::from_slice(bytes).map_err(DocumentError::NotJson)?;
        let Some(whole) = value.as_object_mut().filter(|whole| whole.get("format") == Some(&self.format().into()))
        else {
            return Err(DocumentError::OtherFormat { what: self.what });
        };
        let wrong = |place: &str, problem: String| DocumentError::Content { place: place.to_owned(), problem };
        let version = match whole.get("version").and_then(Value::as_u64) {
            Some(version) if version > u64::from(self.version) => {
                return Err(DocumentError::TooNew { version, known: self.version });
            }
            Some(version) if version >= 1 => u32::try_from(version).unwrap_or(self.version),
            _ => return Err(wrong("version", format!("a whole number from 1 to {} is needed", self.version))),
        };
        let content = whole.remove(self.what).ok_or_else(|| wrong(self.what, "it is missing".to_owned()))?;
        // Nothing else may stand beside it.
        let head: Result<Head, _> = serde_path_to_error::deserialize(value);
        head.map_err(|error| wrong(&error.path().to_string(), error.inner().to_string()))?;
        serde_path_to_error::deserialize(upgraded(version, content)).map_err(|error| {
            let place = format!("{}.{}", self.what, error.path());
            wrong(place.trim_end_matches(".."), error.into_inner().to_string())
        })
    }
}

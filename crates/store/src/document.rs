//! Documents as they are stored: JSON of a stated version, compressed, and read back before they are kept.

use std::io::{Read, Write};

use flate2::Compression;
use flate2::read::ZlibDecoder;
use flate2::write::ZlibEncoder;
use nook_core::Job;
use nook_core::job::upgraded;
use nook_core::measure::KeepOutShape;
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::StoreError;

/// Largest document in bytes; a full job is well under one megabyte.
const LARGEST: u64 = 16 * 1024 * 1024;

/// Why a stored document cannot be read. Its bytes are left as they are.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum Unreadable {
    /// Written by a newer Nook Bend.
    #[error("it has version {version}, and this Nook Bend reads up to version {}; update Nook Bend", Job::VERSION)]
    Newer {
        /// Its version.
        version: i64,
    },
    /// Its bytes are not those that were written, or say something that cannot be.
    #[error("it is damaged: what is kept of it is not what was written ({problem})")]
    Damaged {
        /// What is wrong.
        problem: String,
    },
}

/// What a list shows of a job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
pub(crate) struct Outline {
    /// How many runs it has.
    #[serde(default)]
    pub(crate) runs: usize,
}

/// A document ready to be stored.
#[derive(Debug)]
pub(crate) struct Packed {
    pub(crate) name: String,
    pub(crate) summary: String,
    pub(crate) document: Vec<u8>,
    /// The scans it leans on.
    pub(crate) scans: Vec<String>,
}

/// Makes a job ready to be stored, and reads it back.
///
/// # Errors
/// [`StoreError::WouldNotRead`] when what is read back is not the job.
pub(crate) fn pack(job: &Job) -> Result<Packed, StoreError> {
    let unread = |problem: &dyn std::fmt::Display| StoreError::WouldNotRead(problem.to_string());
    let text = serde_json::to_string(job).map_err(|error| unread(&error))?;
    let document = compress(text.as_bytes()).map_err(|error| unread(&error))?;
    let back = unpack(Job::VERSION.into(), &document).map_err(|error| unread(&error))?;
    if back != *job {
        return Err(unread(&"what is read back is not what was written"));
    }
    let summary = serde_json::to_string(&Outline { runs: job.runs().len() }).map_err(|error| unread(&error))?;
    Ok(Packed { name: job.name().to_owned(), summary, document, scans: scans_of(job) })
}

fn scans_of(job: &Job) -> Vec<String> {
    let scan = |shape: &KeepOutShape| match shape {
        KeepOutShape::Scan(scan) => Some(scan.scan.as_str().to_owned()),
        _ => None,
    };
    job.keep_outs().iter().filter_map(|keep_out| scan(&keep_out.shape)).collect()
}

pub(crate) fn compress(text: &[u8]) -> std::io::Result<Vec<u8>> {
    let mut encoder = ZlibEncoder::new(Vec::new(), Compression::default());
    encoder.write_all(text)?;
    encoder.finish()
}

/// The text of a stored document, whatever its version.
///
/// # Errors
/// [`Unreadable::Damaged`].
pub(crate) fn text_of(document: &[u8]) -> Result<Vec<u8>, Unreadable> {
    let damaged = |problem: &dyn std::fmt::Display| Unreadable::Damaged { problem: problem.to_string() };
    let mut text = Vec::new();
    ZlibDecoder::new(document).take(LARGEST + 1).read_to_end(&mut text).map_err(|error| damaged(&error))?;
    if u64::try_from(text.len()).is_ok_and(|size| size > LARGEST) {
        return Err(damaged(&format!("it is larger than {LARGEST} bytes")));
    }
    Ok(text)
}

/// Reads a stored document.
///
/// # Errors
/// [`Unreadable`] as its variants say.
pub(crate) fn unpack(version: i64, document: &[u8]) -> Result<Job, Unreadable> {
    if version > i64::from(Job::VERSION) {
        return Err(Unreadable::Newer { version });
    }
    let text = text_of(document)?;
    let damaged = |error: serde_json::Error| Unreadable::Damaged { problem: error.to_string() };
    let version = u32::try_from(version).unwrap_or(0);
    if version == Job::VERSION {
        return serde_json::from_slice(&text).map_err(damaged);
    }
    let value = serde_json::from_slice(&text).map_err(damaged)?;
    serde_json::from_value(upgraded(version, value)).map_err(damaged)
}

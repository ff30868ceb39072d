//! The file a builder keeps: the job as JSON with a version. Old versions are read for ever.

use nook_core::Job;
use nook_core::job::upgraded;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use thiserror::Error;
use utoipa::{PartialSchema, ToSchema};

/// What marks a file as a job.
const FORMAT: &str = "nook-bend job";
/// The version written.
const VERSION: u32 = Job::VERSION;
/// Largest file read, in bytes: a full job is well under one megabyte.
pub const LARGEST_JOB_FILE: usize = 4 * 1024 * 1024;

/// Why a file was not read. Nothing of it is kept.
#[derive(Debug, Error)]
pub enum JobFileError {
    /// Larger than [`LARGEST_JOB_FILE`].
    #[error("the file has {bytes} bytes; a job file has at most {LARGEST_JOB_FILE}")]
    TooLarge {
        /// Its size.
        bytes: usize,
    },
    /// Not JSON, or cut off.
    #[error("the file is no JSON: {0}")]
    NotJson(serde_json::Error),
    /// JSON, but something else.
    #[error("the file is JSON but no job: it must say \"format\": \"{FORMAT}\"")]
    NoJob,
    /// Written by a newer Nook Bend.
    #[error(
        "the file has version {version}; this Nook Bend reads up to version {VERSION}. Update Nook Bend to open it"
    )]
    TooNew {
        /// The version found.
        version: u64,
    },
    /// A job with something wrong in it.
    #[error("at {place}: {problem}")]
    Content {
        /// Where, as a path through the file.
        place: String,
        /// What is wrong.
        problem: String,
    },
}

#[derive(Serialize)]
struct Envelope<'a> {
    format: &'static str,
    version: u32,
    job: &'a Job,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Read {
    #[serde(rename = "format")]
    _format: String,
    #[serde(rename = "version")]
    _version: u32,
    job: Job,
}

/// The job as a file, readable by people, with a line break at its end.
///
/// # Errors
/// [`serde_json::Error`] never occurs for a [`Job`]; the type is kept so that no caller has to believe it.
pub fn write_job(job: &Job) -> Result<String, serde_json::Error> {
    let mut text = serde_json::to_string_pretty(&Envelope { format: FORMAT, version: VERSION, job })?;
    text.push('\n');
    Ok(text)
}

/// Reads a job file.
///
/// # Errors
/// [`JobFileError`] as its variants say.
pub fn read_job(bytes: &[u8]) -> Result<Job, JobFileError> {
    if bytes.len() > LARGEST_JOB_FILE {
        return Err(JobFileError::TooLarge { bytes: bytes.len() });
    }
    let mut value: Value = serde_json::from_slice(bytes).map_err(JobFileError::NotJson)?;
    if value["format"] != FORMAT {
        return Err(JobFileError::NoJob);
    }
    match value["version"].as_u64() {
        Some(version) if (1..=u64::from(VERSION)).contains(&version) => {
            let job = value["job"].take();
            value["job"] = upgraded(u32::try_from(version).unwrap_or(VERSION), job);
        }
        Some(version) if version > u64::from(VERSION) => return Err(JobFileError::TooNew { version }),
        _ => {
            let problem = format!("a whole number from 1 to {VERSION} is needed");
            return Err(JobFileError::Content { place: "version".to_owned(), problem });
        }
    }
    let read: Result<Read, _> = serde_path_to_error::deserialize(value);
    read.map(|read| read.job).map_err(|error| JobFileError::Content {
        place: error.path().to_string(),
        problem: error.into_inner().to_string(),
    })
}

/// The JSON Schema (2020-12) of the job file as it is written; older ones are read as well.
#[must_use]
pub fn job_schema() -> Value {
    let mut parts = Vec::new();
    Job::schemas(&mut parts);
    let mut defs: serde_json::Map<String, Value> =
        parts.into_iter().map(|(name, schema)| (name, json!(schema))).collect();
    defs.insert(<Job as ToSchema>::name().into_owned(), json!(Job::schema()));
    let schema = json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Nook Bend job",
        "type": "object",
        "required": ["format", "version", "job"],
        "properties": {
            "format": { "const": FORMAT },
            "version": { "const": VERSION },
            "job": { "$ref": "#/$defs/Job" },
        },
        "additionalProperties": false,
        "$defs": defs,
    });
    moved_to_defs(schema)
}

/// The types describe themselves for an API document; in a schema of its own their references live elsewhere.
fn moved_to_defs(value: Value) -> Value {
    match value {
        Value::String(text) => Value::String(text.replace("#/components/schemas/", "#/$defs/")),
        Value::Array(items) => items.into_iter().map(moved_to_defs).collect(),
        Value::Object(fields) => fields.into_iter().map(|(key, value)| (key, moved_to_defs(value))).collect(),
        other => other,
    }
}

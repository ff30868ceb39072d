//! The file a builder keeps: the job as JSON with a version. Old versions are read for ever.

use nook_core::Job;
use nook_core::job::upgraded;
use serde_json::{Value, json};
use utoipa::{PartialSchema, ToSchema};

use crate::document::{Document, DocumentError};

const JOB: Document = Document { what: "job", version: Job::VERSION };

/// The job as a file, readable by people, with a line break at its end.
///
/// # Errors
/// [`serde_json::Error`] never occurs for a [`Job`]; the type is kept so that no caller has to believe it.
pub fn write_job(job: &Job) -> Result<String, serde_json::Error> {
    JOB.write(job)
}

/// Reads a job file.
///
/// # Errors
/// [`DocumentError`] as its variants say.
pub fn read_job(bytes: &[u8]) -> Result<Job, DocumentError> {
    JOB.read(bytes, upgraded)
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
            "format": { "const": JOB.format() },
            "version": { "const": JOB.version },
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

//! Request bodies: limited in size, and when they are wrong the answer says where.

use nook_formats::LARGEST_JOB_FILE;
use rocket::data::{Data, DataStream, FromData, Limits, Outcome, ToByteUnit};
use rocket::http::Status;
use rocket::tokio::io::{AsyncReadExt, copy, sink};
use rocket::{Request, async_trait};
use serde::de::DeserializeOwned;

use super::problem::{Problem, sentence};

/// Largest JSON body in bytes; an edit is well under one kilobyte.
const LARGEST_BODY: usize = 256 * 1024;

pub(super) fn limits() -> Limits {
    Limits::default().limit("json", LARGEST_BODY.bytes()).limit("job-file", LARGEST_JOB_FILE.bytes())
}

/// How much is read after a body is known to be too large, in bytes.
const MOST_DRAINED: usize = 64 * 1024 * 1024;

/// Reads the rest of what is sent and forgets it: a client hears of a refusal only once it has sent everything.
pub(super) async fn drain(stream: &mut DataStream<'_>) {
    // A client that breaks off hears of nothing anyway.
    let _ = copy(stream, &mut sink()).await;
}

/// A JSON body.
pub(super) struct Body<T>(pub(super) T);

/// A body as it came.
pub(super) struct Raw(pub(super) Vec<u8>);

async fn read(request: &Request<'_>, data: Data<'_>, limit: &str) -> Result<Vec<u8>, Problem> {
    let most = request.limits().get(limit).unwrap_or_else(|| LARGEST_BODY.bytes());
    let mut stream = data.open(most + MOST_DRAINED.bytes());
    let mut bytes = Vec::new();
    match (&mut stream).take(most.as_u64() + 1).read_to_end(&mut bytes).await {
        Ok(count) if most >= count => Ok(bytes),
        Ok(_) => {
            drain(&mut stream).await;
            let detail = format!("What was sent is larger than {most}, the most that is read here.");
            Err(Problem::new(Status::PayloadTooLarge, "too-large", "Too large", detail))
        }
        Err(error) => Err(Problem::new(Status::BadRequest, "cut-off", "Cut off", format!("Reading failed: {error}."))),
    }
}

#[async_trait]
impl<'r, T: DeserializeOwned> FromData<'r> for Body<T> {
    type Error = Problem;

    async fn from_data(request: &'r Request<'_>, data: Data<'r>) -> Outcome<'r, Self> {
        // Read first: see `drain`.
        let bytes = read(request, data, "json").await;
        if request.content_type().is_none_or(|kind| !kind.is_json()) {
            let detail = "Send JSON, with Content-Type: application/json.";
            let status = Status::UnsupportedMediaType;
            return Outcome::Error((status, Problem::new(status, "not-json", "Not JSON", detail)));
        }
        match bytes.and_then(|bytes| parse(&bytes)) {
            Ok(value) => Outcome::Success(Self(value)),
            Err(problem) => Outcome::Error((problem.status(), problem)),
        }
    }
}

fn parse<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, Problem> {
    let mut reader = serde_json::Deserializer::from_slice(bytes);
    let value: Result<T, _> = serde_path_to_error::deserialize(&mut reader);
    let bad = |error: &serde_json::Error| {
        let detail = sentence(&error.to_string());
        Problem::new(Status::BadRequest, "bad-input", "That cannot be read", detail)
    };
    let value = value.map_err(|error| {
        let place = error.path().to_string();
        bad(&error.into_inner()).at(place)
    })?;
    // Whatever follows was meant to say something.
    reader.end().map_err(|error| bad(&error))?;
    Ok(value)
}

#[async_trait]
impl<'r> FromData<'r> for Raw {
    type Error = Problem;

    async fn from_data(request: &'r Request<'_>, data: Data<'r>) -> Outcome<'r, Self> {
        match read(request, data, "job-file").await {
            Ok(bytes) => Outcome::Success(Self(bytes)),
            Err(problem) => Outcome::Error((problem.status(), problem)),
        }
    }
}

//! Errors as problem details (RFC 9457): what was wrong, where, the limit, what to do.

use nook_store::StoreError;
use rocket::http::{ContentType, Status};
use rocket::response::{self, Responder};
use rocket::{Request, Response, catch};
use serde::Serialize;
use utoipa::ToSchema;

/// What a client is told when something is refused or fails.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct Problem {
    /// Names the kind of problem, such as `/problems/moved-on`.
    #[serde(rename = "type")]
    kind: String,
    /// The kind in a few words.
    title: String,
    /// The HTTP status.
    status: u16,
    /// What was wrong, where, the limit, what to do.
    detail: String,
    /// The place in what was sent, where that is known.
    #[serde(skip_serializing_if = "Option::is_none")]
    at: Option<String>,
    /// The job's revision now, when someone else was first.
    #[serde(skip_serializing_if = "Option::is_none")]
    revision: Option<i64>,
}

impl Problem {
    pub(super) fn new(status: Status, kind: &str, title: &str, detail: impl Into<String>) -> Self {
        Self {
            kind: format!("/problems/{kind}"),
            title: title.to_owned(),
            status: status.code,
            detail: detail.into(),
            at: None,
            revision: None,
        }
    }

    pub(super) fn at(self, place: String) -> Self {
        Self { at: Some(place), ..self }
    }

    pub(super) fn status(&self) -> Status {
        Status::from_code(self.status).unwrap_or(Status::InternalServerError)
    }

    /// Something asked for that is not there.
    pub(super) fn missing(detail: impl Into<String>) -> Self {
        Self::new(Status::NotFound, "not-found", "Not found", detail)
    }

    /// Something that was understood and cannot be.
    pub(super) fn refused(detail: impl Into<String>) -> Self {
        Self::new(Status::UnprocessableEntity, "refused", "That cannot be", detail)
    }

    /// What was sawn is not planned like that any more.
    pub(super) fn plan_changed() -> Self {
        let detail = "What is sawn from which stick was planned anew since. Nothing was noted: look at the plan again.";
        Self::new(Status::Conflict, "plan-changed", "The plan has changed", detail)
    }

    /// A failure of ours.
    pub(super) fn internal(error: &dyn std::error::Error) -> Self {
        tracing::error!(%error, "request failed");
        let detail = format!("Nothing was changed. The server's log says more: {error}");
        Self::new(Status::InternalServerError, "internal", "The server failed", detail)
    }
}

/// An error's text as a sentence: with a capital and a full stop.
pub(super) fn sentence(text: &str) -> String {
    let mut letters = text.chars();
    let capital: String = letters.next().into_iter().flat_map(char::to_uppercase).collect();
    let stop = if text.ends_with('.') { "" } else { "." };
    format!("{capital}{}{stop}", letters.as_str())
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        let told = |status, kind: &str, title: &str| {
            tracing::warn!(%error, "not done");
            Self::new(status, kind, title, sentence(&format!("nothing was changed: {error}")))
        };
        match &error {
            StoreError::NoSuchJob(_) | StoreError::NoSuchScan => Self::missing(sentence(&error.to_string())),
            StoreError::MovedOn { now, .. } => {
                let detail =
                    sentence(&format!("{error}. Nothing was overwritten; look at what changed and do it again"));
                let problem = Self::new(Status::PreconditionFailed, "moved-on", "Someone else was first", detail);
                Self { revision: Some(*now), ..problem }
            }
            StoreError::NothingTo(_) => told(Status::Conflict, "nothing-to-do", "Nothing to do"),
            StoreError::ScanInUse { .. } => told(Status::Conflict, "in-use", "It is used"),
            StoreError::Full { .. } => told(Status::Conflict, "full", "No more of them"),
            StoreError::Refused(refusal) => refusal.clone().into(),
            StoreError::RefusedByWorkshop(refusal) => Self::refused(sentence(&refusal.to_string())),
            StoreError::AnotherDeed { .. } => told(Status::Conflict, "another-deed", "Another deed has that name"),
            StoreError::WouldNotRead(_) => told(Status::UnprocessableEntity, "refused", "That cannot be"),
            StoreError::Unreadable { .. } | StoreError::NothingReadable(_) | StoreError::UnreadableWorkshop { .. } => {
                let detail = sentence(&error.to_string());
                Self::new(Status::UnprocessableEntity, "unreadable", "It cannot be opened", detail)
            }
            StoreError::NoRoom { .. } => told(Status::InsufficientStorage, "no-room", "The disk is full"),
            StoreError::Gone { .. } | StoreError::ReadOnly { .. } | StoreError::Busy { .. } => {
                told(Status::ServiceUnavailable, "cannot-save", "It cannot be saved")
            }
            StoreError::Folder { .. }
            | StoreError::InUse { .. }
            | StoreError::NewerDatabase { .. }
            | StoreError::Corrupt { .. }
            | StoreError::Database { .. }
            | StoreError::Migration { .. }
            | StoreError::BrokeOff => Self::internal(&error),
        }
    }
}

impl From<nook_core::EditError> for Problem {
    fn from(refusal: nook_core::EditError) -> Self {
        let detail = sentence(&refusal.to_string());
        match refusal {
            nook_core::EditError::NoSuchRun { .. }
            | nook_core::EditError::NoSuchBend { .. }
            | nook_core::EditError::NoSuchDatum { .. }
            | nook_core::EditError::NoSuchComponent { .. }
            | nook_core::EditError::NoSuchReading { .. }
            | nook_core::EditError::NoSuchKeepOut { .. } => Self::missing(detail),
            _ => Self::refused(detail),
        }
    }
}

impl<'r> Responder<'r, 'static> for Problem {
    fn respond_to(self, request: &'r Request<'_>) -> response::Result<'static> {
        let body = serde_json::to_string(&self).map_err(|_| Status::InternalServerError)?;
        Response::build_from(body.respond_to(request)?)
            .status(self.status())
            .header(ContentType::new("application", "problem+json"))
            .ok()
    }
}

#[catch(404)]
pub(super) fn not_found(request: &Request<'_>) -> Problem {
    Problem::missing(format!("There is nothing at {}.", request.uri().path()))
}

#[catch(default)]
pub(super) fn anything(status: Status, request: &Request<'_>) -> Problem {
    let reason = status.reason().unwrap_or("Something went wrong");
    Problem::new(status, "request", reason, format!("{} {}: {reason}.", request.method(), request.uri().path()))
}

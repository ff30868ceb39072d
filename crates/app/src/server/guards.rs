//! Request guards.

use nook_store::{Author, JobId};
use rocket::async_trait;
use rocket::http::Status;
use rocket::request::{FromParam, FromRequest, Outcome, Request};

use super::problem::{Problem, sentence};

/// The revision a change is based on, from `If-Match: "7"`.
pub(super) struct IfMatch(pub(super) i64);

#[async_trait]
impl<'r> FromRequest<'r> for IfMatch {
    type Error = Problem;

    async fn from_request(request: &'r Request<'_>) -> Outcome<Self, Self::Error> {
        let Some(text) = request.headers().get_one("If-Match") else {
            let detail = "Say which revision this changes, with the header If-Match: \"<revision>\".";
            let problem = Problem::new(Status::PreconditionRequired, "if-match-needed", "If-Match needed", detail);
            return Outcome::Error((Status::PreconditionRequired, problem));
        };
        match text.trim().trim_matches('"').parse() {
            Ok(seq) => Outcome::Success(Self(seq)),
            Err(_) => {
                let detail = format!("If-Match must be one revision number in quotes, not {text}.");
                let problem = Problem::new(Status::BadRequest, "bad-if-match", "If-Match cannot be read", detail);
                Outcome::Error((Status::BadRequest, problem))
            }
        }
    }
}

/// Who asks, from `Nook-Author: 5f2c...`; nobody in particular where it is not said.
pub(super) struct Me(pub(super) Author);

/// Names the browser or program that asks. No page of another site can send it without being asked first (CORS).
pub(super) const AUTHOR: &str = "Nook-Author";

#[async_trait]
impl<'r> FromRequest<'r> for Me {
    type Error = Problem;

    async fn from_request(request: &'r Request<'_>) -> Outcome<Self, Self::Error> {
        let Some(name) = request.headers().get_one(AUTHOR) else { return Outcome::Success(Self(Author::nobody())) };
        match Author::new(name) {
            Ok(author) => Outcome::Success(Self(author)),
            Err(error) => {
                let detail = sentence(&format!("{AUTHOR}: {error}"));
                let problem = Problem::new(Status::BadRequest, "bad-author", "Author cannot be read", detail);
                Outcome::Error((Status::BadRequest, problem))
            }
        }
    }
}

impl Me {
    /// For what has an effect by reading alone: somebody must be named.
    ///
    /// # Errors
    /// Where nobody is.
    pub(super) fn named(self) -> Result<Author, Problem> {
        if self.0 == Author::nobody() {
            let detail = format!("Say who listens with the header {AUTHOR}.");
            return Err(Problem::new(Status::BadRequest, "bad-author", "Nobody listens", detail));
        }
        Ok(self.0)
    }
}

/// A job's number in a path.
pub(super) struct Id(pub(super) JobId);

impl<'a> FromParam<'a> for Id {
    type Error = std::num::ParseIntError;

    fn from_param(param: &'a str) -> Result<Self, Self::Error> {
        param.parse().map(|id| Self(JobId(id)))
    }
}

//! Request guards.

use nook_store::JobId;
use rocket::async_trait;
use rocket::http::Status;
use rocket::request::{FromParam, FromRequest, Outcome, Request};

use super::problem::Problem;

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

/// A job's number in a path.
pub(super) struct Id(pub(super) JobId);

impl<'a> FromParam<'a> for Id {
    type Error = std::num::ParseIntError;

    fn from_param(param: &'a str) -> Result<Self, Self::Error> {
        param.parse().map(|id| Self(JobId(id)))
    }
}

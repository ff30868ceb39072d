//! The workshop over the API.

use nook_core::Workshop;
use nook_core::workshop::WorkshopEdit;
use nook_store::{Store, WorkshopRevision};
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::{IfMatch, Me};
use super::problem::Problem;

/// The workshop as it is now.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct WorkshopState {
    /// Goes into `If-Match` with the next change.
    revision: i64,
    /// The document.
    workshop: Workshop,
}

impl From<WorkshopRevision> for WorkshopState {
    fn from(WorkshopRevision { seq, workshop }: WorkshopRevision) -> Self {
        Self { revision: seq, workshop }
    }
}

/// What the builder works with, whatever the job.
#[utoipa::path(get, path = "/api/workshop", tag = "workshop", operation_id = "loadWorkshop",
    responses((status = 200, body = WorkshopState)))]
#[get("/workshop")]
pub(super) async fn load(store: &State<Store>) -> Result<Json<WorkshopState>, Problem> {
    Ok(Json(store.workshop().await?.into()))
}

/// Makes one change to the workshop.
#[utoipa::path(post, path = "/api/workshop/edits", tag = "workshop", operation_id = "keepWorkshopEdit",
    request_body = WorkshopEdit,
    params(("If-Match" = String, Header, description = super::jobs::SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = WorkshopState), (status = 412, body = Problem), (status = 422, body = Problem)))]
#[post("/workshop/edits", data = "<edit>")]
pub(super) async fn keep(
    store: &State<Store>,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    edit: Result<Body<WorkshopEdit>, Problem>,
) -> Result<Json<WorkshopState>, Problem> {
    Ok(Json(store.keep_workshop(seen?.0, &edit?.0, &me?.0).await?.into()))
}

//! The workshop over the API.

use nook_core::Workshop;
use nook_core::workshop::{PinnedSaw, SawCoupon, WorkshopEdit};
use nook_formats::{read_shelf, read_workshop, shelf_csv, write_workshop};
use nook_store::{Store, StoreError, WorkshopRevision};
use rocket::http::{ContentType, Status};
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::{Body, Raw};
use super::guards::{IfMatch, Me};
use super::jobs::Download;
use super::problem::{Problem, sentence};

/// The workshop as it is now.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct WorkshopState {
    /// Goes into `If-Match` with the next change.
    revision: i64,
    /// The document.
    workshop: Workshop,
    /// The saw in use, as a job is made with it.
    #[schema(inline = false)]
    pinned: PinnedSaw,
    /// By how many degrees one cut of it differs from the next, one standard deviation; nothing where that was not measured.
    spread: Option<f64>,
}

impl From<WorkshopRevision> for WorkshopState {
    fn from(WorkshopRevision { seq, workshop }: WorkshopRevision) -> Self {
        let saw = workshop.saw();
        let (pinned, spread) = (saw.into(), saw.coupon.as_ref().and_then(SawCoupon::spread));
        Self { revision: seq, pinned, spread, workshop }
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

/// The workshop as a file to keep.
#[utoipa::path(get, path = "/api/workshop/file", tag = "workshop", operation_id = "downloadWorkshop",
    responses((status = 200, body = Object, content_type = "application/json")))]
#[get("/workshop/file")]
pub(super) async fn file(store: &State<Store>) -> Result<Download, Problem> {
    let workshop = store.workshop().await?.workshop;
    let text = write_workshop(&workshop).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::JSON, "workshop.json"))
}

/// Takes a workshop from a file in place of the one there is; that one stays among the revisions.
#[utoipa::path(post, path = "/api/workshop/file", tag = "workshop", operation_id = "uploadWorkshop",
    request_body(content = String, content_type = "application/json"),
    params(("If-Match" = String, Header, description = super::jobs::SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = WorkshopState), (status = 412, body = Problem), (status = 422, body = Problem)))]
#[post("/workshop/file", data = "<file>")]
pub(super) async fn take_file(
    store: &State<Store>,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    file: Result<Raw, Problem>,
) -> Result<Json<WorkshopState>, Problem> {
    let workshop = read_workshop(&file?.0).map_err(|error| not_taken(&error))?;
    replaced(store, workshop, seen?, me?).await
}

/// The shelf and what can be bought as a table.
#[utoipa::path(get, path = "/api/workshop/shelf.csv", tag = "workshop", operation_id = "downloadShelf",
    responses((status = 200, body = String, content_type = "text/csv")))]
#[get("/workshop/shelf.csv")]
pub(super) async fn shelf(store: &State<Store>) -> Result<Download, Problem> {
    let workshop = store.workshop().await?.workshop;
    let text = shelf_csv(&workshop).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::CSV, "shelf.csv"))
}

/// Takes the shelf and what can be bought from a table: what is not in it is not there any more.
#[utoipa::path(post, path = "/api/workshop/shelf.csv", tag = "workshop", operation_id = "uploadShelf",
    request_body(content = String, content_type = "text/csv"),
    params(("If-Match" = String, Header, description = super::jobs::SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = WorkshopState), (status = 412, body = Problem), (status = 422, body = Problem)))]
#[post("/workshop/shelf.csv", data = "<file>")]
pub(super) async fn take_shelf(
    store: &State<Store>,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    file: Result<Raw, Problem>,
) -> Result<Json<WorkshopState>, Problem> {
    let (now, seen) = (store.workshop().await?, seen?);
    if now.seq != seen.0 {
        // Its numbers are those of another shelf.
        return Err(StoreError::MovedOn { seen: seen.0, now: now.seq }.into());
    }
    let workshop = read_shelf(&now.workshop, &file?.0).map_err(|error| not_taken(&error))?;
    replaced(store, workshop, seen, me?).await
}

fn not_taken(why: &dyn std::error::Error) -> Problem {
    let detail = sentence(&format!("nothing was taken: {why}"));
    Problem::new(Status::UnprocessableEntity, "no-workshop", "The file was not taken", detail)
}

async fn replaced(store: &Store, workshop: Workshop, seen: IfMatch, me: Me) -> Result<Json<WorkshopState>, Problem> {
    let edit = WorkshopEdit::Replace { workshop: Box::new(workshop) };
    Ok(Json(store.keep_workshop(seen.0, &edit, &me.0).await?.into()))
}

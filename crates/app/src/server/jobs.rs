//! Jobs: listing, opening, changing, undoing, and as files.

use nook_core::{Edit, Job, PartRef, Workshop};
use nook_formats::{DocumentError, read_job, write_job};
use nook_geometry::units::Name;
use nook_store::{Revision, Step, Store};
use percent_encoding::{AsciiSet, NON_ALPHANUMERIC, utf8_percent_encode};
use rocket::http::{ContentType, Header, Status};
use rocket::serde::json::Json;
use rocket::{Responder, State, delete, get, post};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{Body, Raw};
use super::guards::{Id, IfMatch, Me};
use super::problem::{Problem, sentence};
use super::workers::Workers;

/// A job in the list of jobs.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct JobLine {
    /// Its number.
    id: i64,
    /// What it is called.
    name: String,
    /// How many runs it has.
    runs: usize,
    /// When it was last changed, UTC, ISO 8601.
    changed: String,
    /// Why it cannot be opened, where it cannot; its text can still be downloaded.
    unreadable: Option<Unreadable>,
}

/// Why a job cannot be opened.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct Unreadable {
    /// Why, as a sentence.
    why: String,
    /// Whether an earlier revision may be gone back to: it is damaged, not of a newer version.
    damaged: bool,
}

/// A job as it is now.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct JobState {
    /// Its number.
    id: i64,
    /// Goes into `If-Match` with the next change.
    revision: i64,
    /// Whether there is something to undo.
    can_undo: bool,
    /// Whether there is something to redo.
    can_redo: bool,
    /// What undo would take back, in a few words, where it can be said.
    undo: Option<String>,
    /// What redo would do again, likewise.
    redo: Option<String>,
    /// The document.
    job: Job,
    /// What the edit made that was just kept, in order; empty otherwise.
    made: Vec<PartRef>,
}

/// A new job.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewJob {
    /// What it is called.
    name: Name,
}

impl From<Revision> for JobState {
    fn from(revision: Revision) -> Self {
        let Revision { id, seq, job, can_undo, can_redo, undo, redo, made } = revision;
        Self { id: id.0, revision: seq, can_undo, can_redo, undo, redo, job, made }
    }
}

/// A job state with its revision as an entity tag.
#[derive(Responder)]
pub(super) struct Tagged {
    state: Json<JobState>,
    tag: Header<'static>,
}

impl From<Revision> for Tagged {
    fn from(revision: Revision) -> Self {
        let tag = Header::new("ETag", format!("\"{}\"", revision.seq));
        Self { state: Json(revision.into()), tag }
    }
}

type Answer = Result<Tagged, Problem>;

pub(super) const SEEN_IS: &str = "The revision this changes, in quotes";
pub(super) const AUTHOR_IS: &str = "Who asks: 1 to 64 letters, digits and hyphens; undo is each author's own";

/// Every job, the one changed last first.
#[utoipa::path(get, path = "/api/jobs", tag = "jobs", operation_id = "listJobs",
    responses((status = 200, body = [JobLine])))]
#[get("/jobs")]
pub(super) async fn list(store: &State<Store>) -> Result<Json<Vec<JobLine>>, Problem> {
    let jobs = store.list().await?;
    Ok(Json(
        jobs.into_iter()
            .map(|job| JobLine {
                id: job.id.0,
                name: job.name,
                runs: job.runs,
                changed: job.changed,
                unreadable: job.unreadable.map(|why| Unreadable {
                    damaged: matches!(why, nook_store::Unreadable::Damaged { .. }),
                    why: sentence(&why.to_string()),
                }),
            })
            .collect(),
    ))
}

/// Begins an empty job.
#[utoipa::path(post, path = "/api/jobs", tag = "jobs", operation_id = "createJob", request_body = NewJob,
    responses((status = 200, body = JobState), (status = 400, body = Problem)))]
#[post("/jobs", data = "<new>")]
pub(super) async fn create(
    store: &State<Store>,
    me: Result<Me, Problem>,
    new: Result<Body<NewJob>, Problem>,
) -> Answer {
    // A workshop that cannot be opened keeps nobody from a new job.
    let workshop = store.workshop().await.map_or_else(|_| Workshop::default(), |now| now.workshop);
    let job = Job::made_with(new?.0.name, workshop.saw().into()).by_hand_of(workshop.drills().clone());
    Ok(store.create(&job, &me?.0).await?.into())
}

/// Begins a job from a job file.
#[utoipa::path(post, path = "/api/jobs/file", tag = "jobs", operation_id = "uploadJob",
    request_body(content = String, content_type = "application/octet-stream", description = "The job file"),
    responses((status = 200, body = JobState), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/file", data = "<file>")]
pub(super) async fn upload(
    store: &State<Store>,
    workers: &State<Workers>,
    me: Result<Me, Problem>,
    file: Result<Raw, Problem>,
) -> Answer {
    let file = file?.0;
    let job = workers.run(move || opened(&file)).await?;
    Ok(store.create(&job, &me?.0).await?.into())
}

fn opened(file: &[u8]) -> Result<Job, Problem> {
    read_job(file).map_err(|error| {
        let detail = format!("Nothing was opened: {error}.");
        let problem = Problem::new(Status::UnprocessableEntity, "no-job", "The file was not opened", detail);
        match error {
            DocumentError::Content { place, .. } => problem.at(place),
            _ => problem,
        }
    })
}

/// The job as it is now.
#[utoipa::path(get, path = "/api/jobs/{id}", tag = "jobs", operation_id = "loadJob", params(("id" = i64, Path)),
    responses((status = 200, body = JobState), (status = 404, body = Problem)))]
#[get("/jobs/<id>")]
pub(super) async fn load(store: &State<Store>, id: Id, me: Result<Me, Problem>) -> Answer {
    Ok(store.load(id.0, &me?.0).await?.into())
}

/// Deletes a job.
#[utoipa::path(delete, path = "/api/jobs/{id}", tag = "jobs", operation_id = "deleteJob", params(("id" = i64, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/jobs/<id>")]
pub(super) async fn delete(store: &State<Store>, id: Id, me: Result<Me, Problem>) -> Result<Status, Problem> {
    store.delete(id.0, &me?.0).await?;
    Ok(Status::NoContent)
}

/// What may stand unencoded in a header's name of a file (RFC 8187, attr-char).
const PLAIN: &AsciiSet = &NON_ALPHANUMERIC.remove(b'-').remove(b'.').remove(b'_');

/// A download.
#[derive(Responder)]
pub(super) struct Download {
    bytes: Vec<u8>,
    kind: ContentType,
    disposition: Header<'static>,
    keep: Header<'static>,
}

impl Download {
    pub(super) fn new(text: String, kind: ContentType, name: &str) -> Self {
        Self::of_bytes(text.into_bytes(), kind, name)
    }

    /// What never changes under its address.
    pub(super) fn lasting(self) -> Self {
        Self { keep: Header::new("Cache-Control", "private, max-age=31536000, immutable"), ..self }
    }

    /// What the browser shows rather than keeps.
    pub(super) fn shown(self) -> Self {
        let value = self.disposition.value().replacen("attachment", "inline", 1);
        Self { disposition: Header::new("Content-Disposition", value), ..self }
    }

    pub(super) fn of_bytes(bytes: Vec<u8>, kind: ContentType, name: &str) -> Self {
        let plain: String = name.chars().map(|c| if c.is_ascii_alphanumeric() || c == '.' { c } else { '-' }).collect();
        // The plain name is for what does not know the other, which keeps names in any script (RFC 6266).
        let whole: String =
            name.chars().map(|c| if c.is_control() || "/\\:*?\"<>|".contains(c) { '-' } else { c }).collect();
        let whole = utf8_percent_encode(&whole, PLAIN);
        let value = format!("attachment; filename=\"{plain}\"; filename*=UTF-8''{whole}");
        let disposition = Header::new("Content-Disposition", value);
        Self { bytes, kind, disposition, keep: Header::new("Cache-Control", "no-store") }
    }
}

/// The job as a file to keep.
#[utoipa::path(get, path = "/api/jobs/{id}/file", tag = "jobs", operation_id = "downloadJob", params(("id" = i64, Path)),
    responses((status = 200, body = Object, content_type = "application/json", description = "As /api/job-schema.json describes it"),
        (status = 404, body = Problem)))]
#[get("/jobs/<id>/file")]
pub(super) async fn file(store: &State<Store>, id: Id) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let text = write_job(&job).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::JSON, &format!("{}.json", job.name())))
}

/// The text that is kept of a job, whether it can be opened or not.
#[utoipa::path(get, path = "/api/jobs/{id}/raw", tag = "jobs", operation_id = "downloadRawJob",
    params(("id" = i64, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/raw")]
pub(super) async fn raw(store: &State<Store>, id: Id) -> Result<Download, Problem> {
    let (name, text) = store.raw(id.0).await?;
    Ok(Download::of_bytes(text, ContentType::Binary, &format!("{name} as kept.json")))
}

/// Goes back to the latest revision that can be read, where the last one is damaged.
#[utoipa::path(post, path = "/api/jobs/{id}/recover", tag = "jobs", operation_id = "recoverJob",
    params(("id" = i64, Path), ("Nook-Author" = Option<String>, Header, description = AUTHOR_IS)),
    responses((status = 200, body = JobState), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/recover")]
pub(super) async fn recover(store: &State<Store>, id: Id, me: Result<Me, Problem>) -> Answer {
    Ok(store.recover(id.0, &me?.0).await?.into())
}

/// Applies an edit and keeps it.
#[utoipa::path(post, path = "/api/jobs/{id}/edits", tag = "jobs", operation_id = "keepEdit", request_body = Edit,
    params(("id" = i64, Path), ("If-Match" = String, Header, description = SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = AUTHOR_IS)),
    responses((status = 200, body = JobState), (status = 400, body = Problem), (status = 412, body = Problem),
        (status = 422, body = Problem)))]
#[post("/jobs/<id>/edits", data = "<edit>")]
pub(super) async fn keep(
    store: &State<Store>,
    id: Id,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    edit: Result<Body<Edit>, Problem>,
) -> Answer {
    Ok(store.keep(id.0, seen?.0, &edit?.0, &me?.0).await?.into())
}

/// Takes one's own last change back; what others changed since stays.
#[utoipa::path(post, path = "/api/jobs/{id}/undo", tag = "jobs", operation_id = "undoEdit",
    params(("id" = i64, Path), ("If-Match" = String, Header, description = SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = AUTHOR_IS)),
    responses((status = 200, body = JobState), (status = 409, body = Problem), (status = 412, body = Problem)))]
#[post("/jobs/<id>/undo")]
pub(super) async fn undo(
    store: &State<Store>,
    id: Id,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
) -> Answer {
    Ok(store.step(id.0, seen?.0, Step::Undo, &me?.0).await?.into())
}

/// Makes one's own change that was taken back again.
#[utoipa::path(post, path = "/api/jobs/{id}/redo", tag = "jobs", operation_id = "redoEdit",
    params(("id" = i64, Path), ("If-Match" = String, Header, description = SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = AUTHOR_IS)),
    responses((status = 200, body = JobState), (status = 409, body = Problem), (status = 412, body = Problem)))]
#[post("/jobs/<id>/redo")]
pub(super) async fn redo(
    store: &State<Store>,
    id: Id,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
) -> Answer {
    Ok(store.step(id.0, seen?.0, Step::Redo, &me?.0).await?.into())
}

//! The record of a job over the API: deeds, which undo does not touch.

use nook_core::Given;
use nook_core::prove::Verdict;
use nook_core::record::{Deed, Done, FitStep, Progress, TestDone};
use nook_core::workup::{prove, under_test};
use nook_store::{JobId, KeptDeed, Store};
use rocket::http::Status;
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::{Id, Me};
use super::meshes::Meshes;
use super::problem::Problem;
use super::runs::given;
use super::workers::Workers;

/// A deed as it is kept.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct DeedLine {
    /// When it came, UTC, ISO 8601.
    at: String,
    /// What was done, and by whom.
    #[serde(flatten)]
    deed: Deed,
}

/// What was done on a job.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct RecordState {
    /// In the order it came.
    deeds: Vec<DeedLine>,
    /// How many more there are that cannot be read.
    unreadable: usize,
}

/// How far the work on a job is.
///
/// # Errors
/// What the store says.
pub(super) async fn progress(store: &Store, id: JobId) -> Result<Progress, Problem> {
    let record = store.record(id).await?;
    Ok(Progress::after(record.deeds.iter().map(|kept| &kept.deed)))
}

/// What was done on a job, in order.
#[utoipa::path(get, path = "/api/jobs/{id}/record", tag = "record", operation_id = "loadRecord",
    params(("id" = i64, Path)), responses((status = 200, body = RecordState), (status = 404, body = Problem)))]
#[get("/jobs/<id>/record")]
pub(super) async fn load(store: &State<Store>, id: Id) -> Result<Json<RecordState>, Problem> {
    store.head(id.0).await?;
    let record = store.record(id.0).await?;
    let deeds = record.deeds.into_iter().map(|KeptDeed { at, deed, .. }| DeedLine { at, deed }).collect();
    Ok(Json(RecordState { deeds, unreadable: record.unreadable.len() }))
}

/// Adds a deed. It is named by whoever did it and may be sent again without harm; it needs no revision.
#[utoipa::path(post, path = "/api/jobs/{id}/record", tag = "record", operation_id = "addDeed", request_body = Deed,
    params(("id" = i64, Path), ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/record", data = "<deed>")]
pub(super) async fn add(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    me: Result<Me, Problem>,
    deed: Result<Body<Deed>, Problem>,
) -> Result<Status, Problem> {
    let (me, deed) = (me?.0, deed?.0);
    if !deed.is_sound() {
        let why = match deed.done {
            Done::Fit { .. } => {
                "What is off by more than 200 mm, or turned by more than 360 degrees, is another pipe; a spread is 0.01 to 20."
            }
            Done::Tested { .. } => super::runs::NO_TEST,
            Done::Worked { .. } => "Work takes more than nothing, and at most 6000 minutes at a time.",
            Done::Checked { .. } => "What was read is 0 to 10,000.",
            Done::Bottle { .. } => "A bottle\u{2019}s gauge shows 0 to 400 bar.",
            _ => "A piece is between 0 and 50 m long, and sawn at 0 to 90 degrees from square.",
        };
        return Err(Problem::refused(why));
    }
    if progress(store, id.0).await?.too_many_with(&deed) {
        let why = match deed.done {
            Done::Fit { .. } => format!(
                "{} things are noted of how this run fits, the most there can be. Take some back.",
                FitStep::MOST
            ),
            Done::Tested { .. } => {
                format!("This run was tested {} times, the most that is noted.", TestDone::MOST_OF_A_RUN)
            }
            Done::Bottle { .. } => {
                format!("The bottle was read {} times for this run, the most there can be.", FitStep::MOST)
            }
            _ => format!("{} pieces of this run are cut, the most there can be. Set some aside.", Progress::MOST_CUT),
        };
        return Err(Problem::refused(why));
    }
    proves(store, meshes, workers, Id(id.0), &deed).await?;
    store.done(id.0, &deed, &me).await?;
    Ok(Status::NoContent)
}

/// Checks that a test that is noted is one, and that nothing is wanting where somebody signs.
async fn proves(store: &Store, meshes: &Meshes, workers: &Workers, id: Id, deed: &Deed) -> Result<(), Problem> {
    match deed.done.clone() {
        Done::Tested { run, test } => {
            let job = store.job(id.0).await?;
            let found = workers.run(move || Ok(under_test(&job, run, test.kind, &test.readings)?)).await?;
            if let Some(why) = found.refused {
                return Err(Problem::refused(why));
            }
            if found.verdict == Verdict::Wait {
                return Err(Problem::refused(format!("Nothing is decided yet. {}", found.words)));
            }
            Ok(())
        }
        Done::Pictured { picture, .. } => match store.picture(&picture).await? {
            Some(_) => Ok(()),
            None => Err(Problem::refused("There is no such picture: send its file first.")),
        },
        Done::Signed { run, signature } => {
            let now = store.head(id.0).await?;
            if signature.revision != now {
                return Err(Problem::refused(format!(
                    "What was signed is revision {} of the job, and it is at {now}: look at what changed first.",
                    signature.revision
                )));
            }
            let (job, scans, progress) = given(store, meshes, id).await?;
            let work = move || Ok(prove(&job, run, &Given { scans: &scans, progress: &progress, mend: false })?);
            let sign = workers.run(work).await?.sign;
            if let Some(why) = sign.wanting.first() {
                return Err(Problem::refused(format!("It cannot be signed: {why}.")));
            }
            if sign.of != signature.of {
                return Err(Problem::refused("What was signed is not the pipe as it is now."));
            }
            Ok(())
        }
        _ => Ok(()),
    }
}

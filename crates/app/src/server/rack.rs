//! How a whole job stands, and questions about two of its things.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use nook_core::hold_up::{NotHeldUp, fewest_supports, put_on};
use nook_core::rack::{RackWorkup, rack};
use nook_core::record::Progress;
use nook_core::workup::{
    GapError, GapWorkup, JigWorkup, SettingOut, ToJson, TruingWorkup, gap_between, jig, setting_out, truing,
};
use nook_core::{Edit, Given, PartRef, RunId, workup_given};
use nook_store::{Author, JobId, Store};
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::bay::LastPairs;
use super::body::Body;
use super::guards::Id;
use super::log::rates;
use super::meshes::Meshes;
use super::problem::{Problem, sentence};
use super::workers::{Computed, Workers};

/// What a rack was worked out from: the job's revision, how many deeds were done, how many of its scans were here, and how long the
/// builder takes, by the notes of all jobs.
type Reads = (i64, usize, usize, String);
/// A rack as JSON, and what it was worked out from.
type Known = (Reads, Arc<Vec<u8>>);

/// Racks by their jobs, as they were asked for last: the list of jobs asks for all it shows.
#[derive(Clone, Default)]
pub(super) struct Racks(Arc<Mutex<HashMap<JobId, Known>>>);

/// Most racks that are remembered; each takes some ten kilobytes.
const MOST: usize = 200;

impl Racks {
    fn known(&self, job: JobId, reads: &Reads) -> Option<Arc<Vec<u8>>> {
        let all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        all.get(&job).filter(|(of, _)| of == reads).map(|(_, rack)| Arc::clone(rack))
    }

    fn keep(&self, job: JobId, reads: Reads, rack: Arc<Vec<u8>>) {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if all.len() >= MOST && !all.contains_key(&job) {
            all.clear();
        }
        all.insert(job, (reads, rack));
    }
}

/// All runs of a job: how each stands, what is next, and what concerns the vehicle as a whole.
#[utoipa::path(get, path = "/api/jobs/{id}/rack", tag = "jobs", operation_id = "loadRack", params(("id" = i64, Path)),
    responses((status = 200, body = RackWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/rack")]
pub(super) async fn rack_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    racks: &State<Racks>,
    pairs: &State<LastPairs>,
    id: Id,
) -> Result<Computed, Problem> {
    let now = store.load(id.0, &Author::nobody()).await?;
    let scans = Arc::new(meshes.of(store, &now.job).await);
    let deeds = store.record(id.0).await?.deeds;
    let rates = rates(store).await?;
    let reads = (now.seq, deeds.len(), scans.count(), format!("{rates:?}"));
    if let Some(known) = racks.known(id.0, &reads) {
        return Ok(Computed::of(known.to_vec()));
    }
    let progress = Arc::new(Progress::after(deeds.iter().map(|kept| &kept.deed)));
    let job = Arc::new(now.job);
    // Each run by itself, so that every core works and a drag elsewhere gets its turn between two.
    let mut workups = Vec::new();
    for run in job.runs().iter().map(|run| run.id) {
        let (job, scans, progress) = (Arc::clone(&job), Arc::clone(&scans), Arc::clone(&progress));
        let work = move || {
            let given = Given { scans: &scans, progress: &progress, mend: true };
            Ok(workup_given(&job, run, &given)?)
        };
        workups.push(workers.run(work));
    }
    let workups = rocket::futures::future::try_join_all(workups).await?;
    let pairs = LastPairs::clone(pairs);
    let work = move || {
        let text = rack(&job, &pairs.bay(id.0, &job, &scans, true), &workups, &rates)
            .to_json()
            .map_err(|error| Problem::internal(&error))?;
        Ok(Arc::new(text.get().as_bytes().to_vec()))
    };
    let text = workers.run(work).await?;
    racks.keep(id.0, reads, Arc::clone(&text));
    Ok(Computed::of(text.to_vec()))
}

/// What level, plumb and parallel would cost or save a run.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/truing", tag = "runs", operation_id = "loadTruing",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = TruingWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/truing")]
pub(super) async fn truing_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<TruingWorkup>, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    Ok(Json(workers.run(move || Ok(truing(&job, RunId(run), &scans)?)).await?))
}

/// The fewest supports that hold a run up, and the edit that puts them on.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct HoldUp {
    /// How many more it needs.
    count: usize,
    /// What puts them on; nothing where it needs none.
    #[schema(inline = false)]
    edit: Option<Edit>,
}

/// The fewest supports that hold a run up beside those it has.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/hold-up", tag = "runs", operation_id = "holdUp",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = HoldUp), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/hold-up")]
pub(super) async fn hold_up(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<HoldUp>, Problem> {
    let job = store.job(id.0).await?;
    let work = move || match fewest_supports(&job, RunId(run)) {
        Ok(supports) => {
            let edit = (!supports.is_empty()).then(|| put_on(RunId(run), &supports));
            Ok(Json(HoldUp { count: supports.len(), edit }))
        }
        Err(error @ NotHeldUp::NoSuchRun(_)) => Err(Problem::missing(sentence(&error.to_string()))),
        Err(error) => Err(Problem::refused(sentence(&error.to_string()))),
    };
    workers.run(work).await
}

/// Two posts on a board that hold a run's mouths as the car does.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/jig", tag = "runs", operation_id = "loadJig",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = JigWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/jig")]
pub(super) async fn jig_of(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<JigWorkup>, Problem> {
    let job = store.job(id.0).await?;
    Ok(Json(workers.run(move || Ok(jig(&job, RunId(run))?)).await?))
}

/// Two things whose distance is wanted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Two {
    /// The first.
    one: PartRef,
    /// The second.
    other: PartRef,
}

/// The least distance between any two things as they stand.
#[utoipa::path(post, path = "/api/jobs/{id}/gap", tag = "bay", operation_id = "gapBetween", request_body = Two,
    params(("id" = i64, Path)),
    responses((status = 200, body = GapWorkup), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/gap", data = "<two>")]
pub(super) async fn gap_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    two: Result<Body<Two>, Problem>,
) -> Result<Json<GapWorkup>, Problem> {
    let Two { one, other } = two?.0;
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    Ok(Json(workers.run(move || Ok(gap_between(&job, one, other, &scans)?)).await?))
}

/// A part that is to be set out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct ToSetOut {
    /// The part.
    part: PartRef,
}

/// How a part's points are marked on the car, by readings from datums.
#[utoipa::path(post, path = "/api/jobs/{id}/set-out", tag = "bay", operation_id = "setOut", request_body = ToSetOut,
    params(("id" = i64, Path)), responses((status = 200, body = SettingOut), (status = 404, body = Problem)))]
#[post("/jobs/<id>/set-out", data = "<asked>")]
pub(super) async fn set_out(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    asked: Result<Body<ToSetOut>, Problem>,
) -> Result<Json<SettingOut>, Problem> {
    let ToSetOut { part } = asked?.0;
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    Ok(Json(workers.run(move || Ok(setting_out(&job, part, &scans))).await?))
}

impl From<GapError> for Problem {
    fn from(error: GapError) -> Self {
        let detail = sentence(&error.to_string());
        match error {
            GapError::NoSuchPart => Self::missing(detail),
            GapError::Same(_) | GapError::NoRoom(_) | GapError::TwoScans(..) => Self::refused(detail),
        }
    }
}

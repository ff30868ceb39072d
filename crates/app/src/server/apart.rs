//! Whether the sections of a pipe come out of the bay.

use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use nook_core::RunId;
use nook_core::taken_out::NotParted;
use nook_search::{WayOut, way_out};
use nook_store::Store;
use rocket::serde::json::Json;
use rocket::tokio::task::spawn_blocking;
use rocket::{State, get};

use super::guards::Id;
use super::meshes::Meshes;
use super::problem::{Problem, sentence};
use super::workers::Workers;

/// A search for a way out, with how much is missing where there is none, ends after so long.
const LONGEST: Duration = Duration::from_secs(20);

/// Whether a section of a run, counted from 0 at A, comes out of the bay, and how.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/sections/{section}/way-out", tag = "runs", operation_id = "wayOut",
    params(("id" = i64, Path), ("run" = u32, Path), ("section" = usize, Path)),
    responses((status = 200, body = WayOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/sections/<section>/way-out")]
pub(super) async fn look(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    section: usize,
) -> Result<Json<WayOut>, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    let leave = workers.search()?;
    let look = move || {
        let _leave = leave;
        let (stop, started) = (AtomicBool::new(false), Instant::now());
        let in_time = || {
            if started.elapsed() > LONGEST {
                stop.store(true, Ordering::Relaxed);
            }
        };
        way_out(&job, RunId(run), section, &scans, &stop, &in_time)
    };
    let found = spawn_blocking(look).await.map_err(|error| Problem::internal(&error))?;
    found.map(Json).map_err(|error| {
        let words = sentence(&error.to_string());
        match error {
            NotParted::NoSuchRun(_) | NotParted::NoSuchSection { .. } => Problem::missing(words),
            NotParted::NoPipe | NotParted::Welded { .. } | NotParted::HoseStays { .. } => Problem::refused(words),
        }
    })
}

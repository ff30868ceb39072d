//! Finding ways round, shaping them by hand and comparing them.

use std::collections::HashMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

use nook_core::workup::{TwinCheck, twin_check};
use nook_core::{EditError, Job, RunId};
use nook_search::{
    Compared, News, Offer, Preset, RoutesFound, SearchStep, Weights, compare, presets, search, still_answers,
};
use nook_store::{JobId, Store};
use rocket::response::stream::{Event, EventStream};
use rocket::serde::json::Json;
use rocket::tokio::sync::mpsc::channel;
use rocket::tokio::task::spawn_blocking;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::Id;
use super::meshes::Meshes;
use super::problem::Problem;
use super::workers::{Computed, Workers};
use crate::time_limit::stop_when_time_is_up;

/// What is told while ways are looked for, as server-sent events.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum WaysNews {
    /// How far it is.
    Progress {
        /// With what.
        step: SearchStep,
        /// 0 to 1.
        share: f32,
    },
    /// A way that fits, not yet compared with the others.
    Found {
        /// The way.
        offer: Box<Offer>,
    },
    /// All of them, ranked.
    Done {
        /// What was found.
        found: Box<RoutesFound>,
    },
    /// There was no search.
    Refused {
        /// Why.
        problem: Problem,
    },
}

/// What was found last for a run, and for which job.
#[derive(Debug, Default)]
pub(super) struct LastFound(Mutex<HashMap<(JobId, u32), Answered>>);

type Answered = (Job, Arc<RoutesFound>);

impl LastFound {
    fn get(&self, id: JobId, run: u32, job: &Job) -> Option<Arc<RoutesFound>> {
        let all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let answered = all.get(&(id, run));
        let answered = answered.filter(|(then, found)| still_answers(found, then, job, RunId(run)));
        answered.map(|(_, found)| Arc::clone(found))
    }

    fn keep(&self, id: JobId, run: u32, job: Job, found: Arc<RoutesFound>) {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        // Each holds some tens of kilobytes; nobody has so many runs open.
        if all.len() > 200 {
            all.clear();
        }
        all.insert((id, run), (job, found));
    }
}

/// Stops a search when whoever listened has gone.
struct StopWhenGone(Arc<AtomicBool>);

impl Drop for StopWhenGone {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// Looks for ways round. Tells how far it is and what fits as it goes; whoever stops listening stops it.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/search", tag = "ways", operation_id = "searchWays",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = WaysNews, content_type = "text/event-stream", description = "One event for each news")))]
#[get("/jobs/<id>/runs/<run>/search")]
pub(super) async fn look<'a>(
    store: &'a State<Store>,
    meshes: &'a State<Meshes>,
    workers: &'a State<Workers>,
    last: &'a State<LastFound>,
    id: Id,
    run: u32,
) -> Result<EventStream![Event + 'a], Problem> {
    let kept = store.job(id.0).await?;
    if kept.run(RunId(run)).is_none() {
        return Err(EditError::NoSuchRun { run: RunId(run) }.into());
    }
    let scans = meshes.of(store, &kept).await;
    let known = last.get(id.0, run, &kept);
    let leave = if known.is_none() { Some(workers.search()?) } else { None };
    Ok(EventStream! {
        if let Some(found) = known {
            yield Event::json(&WaysNews::Done { found: Box::new((*found).clone()) });
            return;
        }
        let stop = Arc::new(AtomicBool::new(false));
        let _gone = StopWhenGone(Arc::clone(&stop));
        let (tell, mut told) = channel::<WaysNews>(256);
        let job = kept.clone();
        let halt = Arc::clone(&stop);
        stop_when_time_is_up(&stop);
        let working = spawn_blocking(move || {
            // Kept until the search has ended, however soon nobody listens any more.
            let _leave = leave;
            let hundredth = Mutex::new(None);
            search(&job, RunId(run), &scans, &halt, &|news| {
                let news = match news {
                    News::Progress(step, share) => {
                        let now = Some((step, (share * 20.0).round().to_bits()));
                        let mut before = hundredth.lock().unwrap_or_else(PoisonError::into_inner);
                        if *before == now {
                            return;
                        }
                        *before = now;
                        WaysNews::Progress { step, share }
                    }
                    News::Found(offer) => WaysNews::Found { offer },
                };
                if tell.blocking_send(news).is_err() {
                    halt.store(true, Ordering::Relaxed);
                }
            })
        });
        while let Some(news) = told.recv().await {
            yield Event::json(&news);
        }
        let news = match working.await {
            Ok(Ok(found)) => {
                let found = Arc::new(found);
                if !stop.load(Ordering::Relaxed) {
                    last.keep(id.0, run, kept, Arc::clone(&found));
                }
                WaysNews::Done { found: Box::new((*found).clone()) }
            }
            Ok(Err(refusal)) => WaysNews::Refused { problem: refusal.into() },
            Err(error) => WaysNews::Refused { problem: Problem::internal(&error) },
        };
        yield Event::json(&news);
    })
}

/// The schools' weights.
#[utoipa::path(get, path = "/api/ways/presets", tag = "ways", operation_id = "wayPresets",
    responses((status = 200, body = [Preset])))]
#[get("/ways/presets")]
pub(super) fn schools() -> Json<Vec<Preset>> {
    Json(presets())
}

/// Places of the ways found last, the best first by these weights.
#[utoipa::path(post, path = "/api/jobs/{id}/runs/{run}/ways/order", tag = "ways", operation_id = "orderWays",
    request_body = Weights, params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = [usize]), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/runs/<run>/ways/order", data = "<weights>")]
pub(super) async fn order(
    store: &State<Store>,
    last: &State<LastFound>,
    id: Id,
    run: u32,
    weights: Result<Body<Weights>, Problem>,
) -> Result<Json<Vec<usize>>, Problem> {
    let weights = weights?.0;
    weights.check().map_err(|problem| Problem::refused(format!("{problem}.")))?;
    let found = last.get(id.0, run, &store.job(id.0).await?);
    let found = found
        .ok_or_else(|| Problem::missing("No ways have been looked for since the job was last changed.".to_owned()))?;
    let figures: Vec<_> = found.offers.iter().map(|offer| &offer.figures).collect();
    Ok(Json(weights.order(&figures)))
}

/// The way taken and those kept beside it, each with what follows from it.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/kept", tag = "ways", operation_id = "compareWays",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = [Compared]), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/kept")]
pub(super) async fn kept(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Computed, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    workers.json(move || Ok(compare(&job, RunId(run), &scans)?)).await
}

/// By how much the air of a pipe differs from its mirrored twin's; nothing where it has no twin.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/twin", tag = "ways", operation_id = "checkTwin",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = Option<TwinCheck>), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/twin")]
pub(super) async fn twin(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Computed, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    workers.json(move || Ok(twin_check(&job, RunId(run), &scans)?)).await
}

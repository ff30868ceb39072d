//! Finding ways round, and comparing those that are kept.

use std::sync::{Arc, Mutex, PoisonError};

use nook_core::workup::{TwinCheck, twin_check};
use nook_core::{EditError, RunId};
use nook_search::{
    Compared, News, Offer, Preset, RoutesFound, SearchStep, Weights, answers_for, compare, presets, reads, search,
};
use nook_store::{JobId, Store};
use rocket::response::stream::{Event, EventStream};
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::Id;
use super::looked_for::{Ended, LookedFor, Looking, Standing};
use super::meshes::Meshes;
use super::problem::Problem;
use super::workers::{Computed, Workers};
use crate::time_limit::search_limit;

/// What is told while ways are looked for, as server-sent events.
#[derive(Debug, Clone, Serialize, ToSchema)]
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
        #[serde(serialize_with = "shared")]
        #[schema(value_type = RoutesFound, inline = false)]
        found: Arc<RoutesFound>,
    },
    /// There was no search.
    Refused {
        /// Why.
        problem: Problem,
    },
}

fn shared<S: serde::Serializer>(found: &Arc<RoutesFound>, serializer: S) -> Result<S::Ok, S::Error> {
    found.as_ref().serialize(serializer)
}

/// Ways round that were looked for.
pub(super) type Ways = LookedFor<(JobId, u32), WaysNews, RoutesFound>;

/// How the looking for a run's ways stands.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum WaysStanding {
    /// Nobody has looked, or the job has changed since.
    NotLookedAt,
    /// Somebody is looking.
    Looking {
        /// How far it is, 0 to 1.
        share: f32,
    },
    /// It is known.
    Known {
        /// How many ways fit.
        fit: usize,
        /// How many come near.
        near: usize,
    },
}

/// What was looked for of one run.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct LookedForLine {
    /// Which run.
    run: RunId,
    /// Its ways round.
    ways: WaysStanding,
}

/// What has been looked for of each run, and how it stands.
#[utoipa::path(get, path = "/api/jobs/{id}/looked-for", tag = "ways", operation_id = "listLookedFor",
    params(("id" = i64, Path)), responses((status = 200, body = [LookedForLine]), (status = 404, body = Problem)))]
#[get("/jobs/<id>/looked-for")]
pub(super) async fn standings(
    store: &State<Store>,
    meshes: &State<Meshes>,
    ways: &State<Arc<Ways>>,
    id: Id,
) -> Result<Json<Vec<LookedForLine>>, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    let share = |news: &WaysNews| match news {
        WaysNews::Progress { share, .. } => Some(*share),
        _ => None,
    };
    let line = |run: RunId| {
        let ways = match ways.standing(&(id.0, run.0), reads(&job, run, &scans)) {
            Standing::NotLookedAt => WaysStanding::NotLookedAt,
            Standing::Looking(looking) => WaysStanding::Looking { share: looking.latest(share).unwrap_or(0.0) },
            Standing::Known(found) | Standing::Partly(found) => {
                let fit = found.offers.iter().filter(|offer| offer.fits()).count();
                WaysStanding::Known { fit, near: found.offers.len() - fit }
            }
        };
        LookedForLine { run, ways }
    };
    Ok(Json(job.runs().iter().map(|run| line(run.id)).collect()))
}

/// Looks for ways round, or follows who does. Tells how far it is and what fits from the beginning; when the last one who
/// listens goes, it is called off.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/search", tag = "ways", operation_id = "searchWays",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = WaysNews, content_type = "text/event-stream", description = "One event for each news")))]
#[get("/jobs/<id>/runs/<run>/search")]
pub(super) async fn look<'a>(
    store: &'a State<Store>,
    meshes: &'a State<Meshes>,
    workers: &'a State<Workers>,
    ways: &'a State<Arc<Ways>>,
    id: Id,
    run: u32,
) -> Result<EventStream![Event + 'a], Problem> {
    let job = store.job(id.0).await?;
    if job.run(RunId(run)).is_none() {
        return Err(EditError::NoSuchRun { run: RunId(run) }.into());
    }
    let scans = meshes.of(store, &job).await;
    let key = (id.0, run);
    let asked = reads(&job, RunId(run), &scans);
    let (known, follower) = match ways.standing(&key, asked) {
        Standing::Known(found) => (Some(found), None),
        Standing::Looking(looking) => (None, Some(looking.follow())),
        // What was found until the time was up is told and ordered, but whoever looks again looks.
        Standing::Partly(_) | Standing::NotLookedAt => {
            let leave = workers.search()?;
            let broke = || WaysNews::Refused { problem: Problem::internal(&BrokeOff) };
            let follower = ways.look(key, asked, search_limit(), leave, broke, move |looking, stop| {
                match search(&job, RunId(run), &scans, stop, &telling(looking)) {
                    Ok(found) => {
                        let found = Arc::new(found);
                        let answers = answers_for(&found, &job, RunId(run), &scans);
                        Ended { news: WaysNews::Done { found: Arc::clone(&found) }, answer: Some((answers, found)) }
                    }
                    Err(refusal) => Ended { news: WaysNews::Refused { problem: refusal.into() }, answer: None },
                }
            });
            (None, Some(follower))
        }
    };
    Ok(EventStream! {
        if let Some(found) = known {
            yield Event::json(&WaysNews::Done { found });
        }
        if let Some(mut follower) = follower {
            while let Some(news) = follower.next().await {
                yield Event::json(&news);
            }
        }
    })
}

/// A search that broke off.
#[derive(Debug, thiserror::Error)]
#[error("the search broke off")]
pub(super) struct BrokeOff;

/// Tells who follows of each twentieth, and of each way as it is found.
fn telling(looking: &Looking<WaysNews>) -> impl Fn(News) + Sync + '_ {
    let twentieth = Mutex::new(None);
    move |news| {
        looking.tell(match news {
            News::Progress(step, share) => {
                let now = Some((step, (share * 20.0).round().to_bits()));
                let mut before = twentieth.lock().unwrap_or_else(PoisonError::into_inner);
                if *before == now {
                    return;
                }
                *before = now;
                WaysNews::Progress { step, share }
            }
            News::Found(offer) => WaysNews::Found { offer },
        });
    }
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
    meshes: &State<Meshes>,
    ways: &State<Arc<Ways>>,
    id: Id,
    run: u32,
    weights: Result<Body<Weights>, Problem>,
) -> Result<Json<Vec<usize>>, Problem> {
    let weights = weights?.0;
    weights.check().map_err(|problem| Problem::refused(format!("{problem}.")))?;
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    let (Standing::Known(found) | Standing::Partly(found)) =
        ways.standing(&(id.0, run), reads(&job, RunId(run), &scans))
    else {
        return Err(Problem::missing("No ways have been looked for since the job was last changed."));
    };
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

//! Whether the pipes of a job come out of the bay, in which order, and where one should part.

use std::sync::Arc;
use std::time::Duration;

use nook_core::environment::Scans;
use nook_core::taken_out::NotParted;
use nook_core::{EditError, Job, RunId};
use nook_geometry::units::PartLength;
use nook_search::{PartingSchool, Partings, TakingApart, WayOut, job_reads, taking_apart, way_out, where_to_part};
use nook_store::{JobId, Store};
use rocket::response::stream::{Event, EventStream};
use rocket::{State, get};
use serde::Serialize;
use utoipa::ToSchema;

use super::guards::Id;
use super::looked_for::{Ended, Follower, LookedFor, Looking, Standing, Twentieths};
use super::meshes::Meshes;
use super::problem::{Problem, sentence};
use super::ways::BrokeOff;
use super::workers::Workers;
use crate::time_limit::limit_of;

/// How long a section, a whole vehicle and a proposal to part may be looked for.
const SECTION: Duration = Duration::from_secs(6);
const VEHICLE: Duration = Duration::from_secs(60);
const PARTING: Duration = Duration::from_secs(20);

/// What is told while it is looked for how a bay comes apart, as server-sent events.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum ApartNews {
    /// How far it is.
    Progress {
        /// 0 to 1.
        share: f32,
    },
    /// Whether a section comes out, and how.
    Section {
        /// That.
        #[schema(inline = false)]
        found: Box<WayOut>,
    },
    /// The order in which everything comes apart.
    Order {
        /// That.
        #[schema(inline = false)]
        found: TakingApart,
    },
    /// Where a pipe should part.
    Partings {
        /// The ways to part it.
        #[schema(inline = false)]
        found: Partings,
    },
    /// There was no search.
    Refused {
        /// Why.
        problem: Problem,
    },
}

/// What was asked of how a bay comes apart.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(super) enum ApartAsked {
    /// A section of a run.
    Section(JobId, RunId, usize),
    /// The whole vehicle.
    Order(JobId),
    /// Where a run should part, with the longest part in bits of mm.
    Parting(JobId, RunId, PartingSchool, Option<u64>),
}

/// Ways out that were looked for.
pub(super) type Apart = LookedFor<ApartAsked, ApartNews, ApartNews>;

/// All that a question about how a bay comes apart needs.
struct Asking<'a> {
    apart: &'a Arc<Apart>,
    workers: &'a Workers,
    job: Job,
    scans: Scans,
}

type Told = (Option<Arc<ApartNews>>, Option<Follower<ApartNews>>);

impl Asking<'_> {
    /// The answer, or who looks for it; `work` looks, knowing what was the answer before the job changed.
    fn ask(
        self,
        asked: ApartAsked,
        longest: Duration,
        work: impl FnOnce(&Job, &Scans, Option<&ApartNews>, &Search<'_>) -> Result<ApartNews, NotParted> + Send + 'static,
    ) -> Result<Told, Problem> {
        let Self { apart, workers, job, scans } = self;
        let reads = job_reads(&job, &scans);
        match apart.standing(&asked, reads) {
            Standing::Known(found) => Ok((Some(found), None)),
            Standing::Looking(looking) => Ok((None, Some(looking.follow()))),
            Standing::Partly(_) | Standing::NotLookedAt => {
                let leave = workers.search()?;
                let before = apart.before(&asked);
                let broke = || ApartNews::Refused { problem: Problem::internal(&BrokeOff) };
                let follower = apart.look(asked, reads, longest, leave, broke, move |looking, stop| {
                    let search = Search { looking, stop, told: Twentieths::default() };
                    match work(&job, &scans, before.as_deref(), &search) {
                        Ok(news) => {
                            let answer = Some((vec![reads], Arc::new(news.clone())));
                            Ended { news, answer }
                        }
                        Err(error) => Ended { news: ApartNews::Refused { problem: refusal(&error) }, answer: None },
                    }
                });
                Ok((None, Some(follower)))
            }
        }
    }
}

/// A search under way.
struct Search<'a> {
    looking: &'a Looking<ApartNews>,
    stop: &'a std::sync::atomic::AtomicBool,
    told: Twentieths,
}

impl Search<'_> {
    fn tell(&self, share: f64) {
        if let Some(share) = self.told.next(share) {
            self.looking.tell(ApartNews::Progress { share });
        }
    }
}

fn refusal(error: &NotParted) -> Problem {
    let words = sentence(&error.to_string());
    match error {
        NotParted::NoSuchRun(_) | NotParted::NoSuchSection { .. } => Problem::missing(words),
        NotParted::NoPipe | NotParted::Hose | NotParted::Welded { .. } | NotParted::HoseStays { .. } => {
            Problem::refused(words)
        }
    }
}

fn told((known, follower): Told) -> EventStream![Event] {
    EventStream! {
        if let Some(news) = known {
            yield Event::json(news.as_ref());
        }
        if let Some(mut follower) = follower {
            while let Some(news) = follower.next().await {
                yield Event::json(&news);
            }
        }
    }
}

/// Looks for a way out of the bay for a section of a run, counted from 0 at A, or follows who does. A way that was found before
/// the job changed is tried first. When the last one who listens goes, it is called off.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/sections/{section}/way-out", tag = "apart", operation_id = "wayOut",
    params(("id" = i64, Path), ("run" = u32, Path), ("section" = usize, Path)),
    responses((status = 200, body = ApartNews, content_type = "text/event-stream", description = "One event for each news"),
        (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/sections/<section>/way-out")]
pub(super) async fn section(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    apart: &State<Arc<Apart>>,
    id: Id,
    run: u32,
    section: usize,
) -> Result<EventStream![Event], Problem> {
    let asking = asking(store, meshes, workers, apart, &id, Some(run)).await?;
    let run = RunId(run);
    let asked = ApartAsked::Section(id.0, run, section);
    let look = move |job: &Job, scans: &Scans, before: Option<&ApartNews>, search: &Search<'_>| {
        let before = match before {
            Some(ApartNews::Section { found }) => Some(found.as_ref()),
            _ => None,
        };
        let found = way_out(job, run, section, scans, before, search.stop, &|share| search.tell(share))?;
        Ok(ApartNews::Section { found: Box::new(found) })
    };
    Ok(told(asking.ask(asked, limit_of(SECTION), look)?))
}

/// Looks for the order in which every pipe of the job comes apart, or follows who does.
#[utoipa::path(get, path = "/api/jobs/{id}/apart", tag = "apart", operation_id = "takeApart",
    params(("id" = i64, Path)),
    responses((status = 200, body = ApartNews, content_type = "text/event-stream", description = "One event for each news"),
        (status = 404, body = Problem)))]
#[get("/jobs/<id>/apart")]
pub(super) async fn order(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    apart: &State<Arc<Apart>>,
    id: Id,
) -> Result<EventStream![Event], Problem> {
    let asking = asking(store, meshes, workers, apart, &id, None).await?;
    let look = |job: &Job, scans: &Scans, _: Option<&ApartNews>, search: &Search<'_>| {
        Ok(ApartNews::Order { found: taking_apart(job, scans, search.stop, &|share| search.tell(share)) })
    };
    Ok(told(asking.ask(ApartAsked::Order(id.0), limit_of(VEHICLE), look)?))
}

/// Looks for where a run should part, with the fewest joints or so that each part comes out by itself, no part longer than
/// `longest` mm; or follows who does.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/partings", tag = "apart", operation_id = "whereToPart",
    params(("id" = i64, Path), ("run" = u32, Path), ("each_out" = Option<bool>, Query), ("longest" = Option<f64>, Query)),
    responses((status = 200, body = ApartNews, content_type = "text/event-stream", description = "One event for each news"),
        (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/partings?<each_out>&<longest>")]
#[expect(clippy::too_many_arguments, reason = "a request's parts, each by its own name")]
pub(super) async fn partings(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    apart: &State<Arc<Apart>>,
    id: Id,
    run: u32,
    each_out: Option<bool>,
    longest: Option<f64>,
) -> Result<EventStream![Event], Problem> {
    let longest = longest.map(PartLength::new).transpose();
    let longest = longest.map_err(|error| Problem::refused(sentence(&error.to_string())))?;
    let asking = asking(store, meshes, workers, apart, &id, Some(run)).await?;
    let run = RunId(run);
    let school = if each_out == Some(true) { PartingSchool::EachOut } else { PartingSchool::Fewest };
    let asked = ApartAsked::Parting(id.0, run, school, longest.map(|long| long.get().to_bits()));
    let look = move |job: &Job, scans: &Scans, _: Option<&ApartNews>, search: &Search<'_>| {
        let found = where_to_part(job, run, school, longest, scans, search.stop, &|share| search.tell(share))?;
        Ok(ApartNews::Partings { found })
    };
    Ok(told(asking.ask(asked, limit_of(PARTING), look)?))
}

async fn asking<'a>(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &'a State<Workers>,
    apart: &'a State<Arc<Apart>>,
    id: &Id,
    run: Option<u32>,
) -> Result<Asking<'a>, Problem> {
    let job = store.job(id.0).await?;
    if let Some(run) = run.map(RunId).filter(|run| job.run(*run).is_none()) {
        return Err(EditError::NoSuchRun { run }.into());
    }
    let scans = meshes.of(store, &job).await;
    Ok(Asking { apart, workers, job, scans })
}

//! Finding where a component might stand.

use std::sync::Arc;

use nook_core::EditError;
use nook_core::measure::ComponentId;
use nook_search::{PlaceNews, PlaceOffer, PlacesFound, job_reads, search_places};
use nook_store::{JobId, Store};
use rocket::response::stream::{Event, EventStream};
use rocket::{State, get};
use serde::Serialize;
use utoipa::ToSchema;

use super::guards::Id;
use super::looked_for::{Ended, LookedFor, Looking, Standing, Twentieths};
use super::meshes::Meshes;
use super::problem::Problem;
use super::ways::BrokeOff;
use super::workers::Workers;
use crate::time_limit::search_limit;

/// What is told while places are looked for, as server-sent events.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum PlacesNews {
    /// How far it is.
    Progress {
        /// 0 to 1.
        share: f32,
    },
    /// A place, not yet compared with the others.
    Found {
        /// The place.
        offer: Box<PlaceOffer>,
    },
    /// All of them, the best first.
    Done {
        /// What was found.
        #[serde(serialize_with = "shared")]
        #[schema(value_type = PlacesFound, inline = false)]
        found: Arc<PlacesFound>,
    },
    /// There was no search.
    Refused {
        /// Why.
        problem: Problem,
    },
}

fn shared<S: serde::Serializer>(found: &Arc<PlacesFound>, serializer: S) -> Result<S::Ok, S::Error> {
    found.as_ref().serialize(serializer)
}

/// Places that were looked for.
pub(super) type Places = LookedFor<(JobId, u32), PlacesNews, PlacesFound>;

/// Looks for places of a component, or follows who does. Tells how far it is and what it finds; when the last one who listens
/// goes, it is called off.
#[utoipa::path(get, path = "/api/jobs/{id}/components/{component}/places", tag = "bay", operation_id = "searchPlaces",
    params(("id" = i64, Path), ("component" = u32, Path)),
    responses((status = 200, body = PlacesNews, content_type = "text/event-stream", description = "One event for each news"),
        (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/components/<component>/places")]
pub(super) async fn look<'a>(
    store: &'a State<Store>,
    meshes: &'a State<Meshes>,
    workers: &'a State<Workers>,
    places: &'a State<Arc<Places>>,
    id: Id,
    component: u32,
) -> Result<EventStream![Event + 'a], Problem> {
    let job = store.job(id.0).await?;
    let one = ComponentId(component);
    let whole = job.component(one).ok_or(EditError::NoSuchComponent { component: one })?;
    if whole.freedoms.is_empty() {
        return Err(EditError::NothingMovesIt { name: whole.name.as_str().to_owned() }.into());
    }
    let scans = meshes.of(store, &job).await;
    let key = (id.0, component);
    let asked = job_reads(&job, &scans);
    let (known, follower) = match places.standing(&key, asked) {
        Standing::Known(found) => (Some(found), None),
        Standing::Looking(looking) => (None, Some(looking.follow())),
        Standing::Partly(_) | Standing::NotLookedAt => {
            let leave = workers.search()?;
            let broke = || PlacesNews::Refused { problem: Problem::internal(&BrokeOff) };
            let follower = places.look(key, asked, search_limit(), leave, broke, move |looking, stop| {
                match search_places(&job, one, &scans, stop, &telling(looking)) {
                    Ok(found) => {
                        let found = Arc::new(found);
                        Ended {
                            news: PlacesNews::Done { found: Arc::clone(&found) },
                            answer: Some((vec![asked], found)),
                        }
                    }
                    Err(refusal) => Ended { news: PlacesNews::Refused { problem: refusal.into() }, answer: None },
                }
            });
            (None, Some(follower))
        }
    };
    Ok(EventStream! {
        if let Some(found) = known {
            yield Event::json(&PlacesNews::Done { found });
        }
        if let Some(mut follower) = follower {
            while let Some(news) = follower.next().await {
                yield Event::json(&news);
            }
        }
    })
}

/// Tells who follows of each twentieth, and of each place as it is found.
fn telling(looking: &Looking<PlacesNews>) -> impl Fn(PlaceNews) + Sync + '_ {
    let told = Twentieths::default();
    move |news| {
        looking.tell(match news {
            PlaceNews::Progress(share) => match told.next(share.into()) {
                Some(share) => PlacesNews::Progress { share },
                None => return,
            },
            PlaceNews::Found(offer) => PlacesNews::Found { offer },
        });
    }
}

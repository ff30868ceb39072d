//! A stick of the shelf at the saw: its cards, and what is noted of it cut by cut.

use nook_core::record::{Deed, Progress};
use nook_core::workshop::{Stick, StickId};
use nook_core::workup::{OnceSawn, StickDeck, stick_deck};
use nook_geometry::units::StickLength;
use nook_store::{Store, StoreError};
use rocket::http::Status;
use rocket::{State, get, post};
use serde::Deserialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::{Id, Me};
use super::problem::Problem;
use super::record::progress;
use super::stock::planned;
use super::workers::{Computed, Workers};

/// The bench cards of a stick of the shelf, as all that is not cut yet is planned now.
#[utoipa::path(get, path = "/api/jobs/{id}/stock/sticks/{stick}/cards", tag = "jobs", operation_id = "loadStickCards",
    params(("id" = i64, Path), ("stick" = u32, Path)),
    responses((status = 200, body = StickDeck), (status = 404, body = Problem)))]
#[get("/jobs/<id>/stock/sticks/<stick>/cards")]
pub(super) async fn cards(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    stick: u32,
) -> Result<Computed, Problem> {
    let (job, plan) = planned(store, id.0).await?;
    let work = move || {
        let plan = plan(&job)?;
        let of = |one: &&nook_search::TubePlan| one.sticks.iter().any(|planned| planned.stick == Some(StickId(stick)));
        let deck = plan.tubes.iter().find(of).and_then(|tube| {
            let planned = tube.sticks.iter().find(|planned| planned.stick == Some(StickId(stick)))?;
            stick_deck(planned, &tube.tube, job.saw(), tube.what.clone())
        });
        deck.ok_or_else(|| Problem::missing(format!("Nothing more is sawn from S{stick}, as it is planned now.")))
    };
    workers.json(work).await
}

/// What was done on a stick.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct StickDeed {
    /// A piece was cut, is not cut after all, or was spoilt.
    deed: Deed,
    /// What is left of the stick then along its shortest line, in mm.
    #[schema(minimum = 0.0, maximum = 20000.0)]
    left: f64,
}

/// How often a change of the shelf is tried again where somebody else was first.
const TRIES: usize = 5;

/// Notes what was done on a stick, and what is left of it on the shelf: both or neither. It may be sent again without
/// harm. Where the stick is gone, or shorter already, the shelf stays as it is: the metal is cut all the same.
#[utoipa::path(post, path = "/api/jobs/{id}/stock/sticks/{stick}/deeds", tag = "record", operation_id = "addStickDeed",
    request_body = StickDeed,
    params(("id" = i64, Path), ("stick" = u32, Path), ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 412, body = Problem),
        (status = 422, body = Problem)))]
#[post("/jobs/<id>/stock/sticks/<stick>/deeds", data = "<done>")]
pub(super) async fn add(
    store: &State<Store>,
    id: Id,
    stick: u32,
    me: Result<Me, Problem>,
    done: Result<Body<StickDeed>, Problem>,
) -> Result<Status, Problem> {
    let (me, StickDeed { deed, left }) = (me?.0, done?.0);
    let longest = StickLength::MAX;
    if !deed.is_sound() || !(0.0..=longest).contains(&left) {
        let most = longest / 1000.0;
        return Err(Problem::refused(format!(
            "A piece is between 0 and 50 m long and sawn at 0 to 90 degrees from square, and a stick is at most {most} m long."
        )));
    }
    if progress(store, id.0).await?.too_many_with(&deed) {
        return Err(Problem::refused(format!(
            "{} pieces of this run are cut, the most there can be. Set some aside.",
            Progress::MOST_CUT
        )));
    }
    for _ in 0..TRIES {
        let shelf = store.workshop().await?;
        let on_shelf: Option<&Stick> = shelf.workshop.sticks().iter().find(|one| one.id == StickId(stick));
        let edit = on_shelf.and_then(|one| OnceSawn::after(one, &deed.done, left));
        let kept =
            store.done_with(id.0, std::slice::from_ref(&deed), edit.as_ref().map(|edit| (shelf.seq, edit)), &me).await;
        match kept {
            Err(StoreError::MovedOn { .. }) => {}
            kept => return kept.map(|()| Status::NoContent).map_err(Problem::from),
        }
    }
    let detail = "The shelf is being changed by others just now. Nothing was noted; do it again.";
    Err(Problem::new(Status::Conflict, "busy", "Others are at the shelf", detail))
}

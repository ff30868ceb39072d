//! Instruments: how they are, listening for their readings, and their raw log.

mod field;
mod hub;

use std::sync::Arc;

use nook_store::Store;
use rocket::http::Status;
use rocket::response::stream::{Event, EventStream};
use rocket::serde::json::Json;
use rocket::tokio::select;
use rocket::{Shutdown, State, get, post};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::Body;
use super::guards::Me;
use super::problem::Problem;
pub(crate) use field::Field;
use hub::NotPressed;
pub(crate) use hub::{Hub, InstrumentNews, InstrumentStatus};

/// A line an instrument sent.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct LogLine {
    /// When it came, UTC, ISO 8601.
    at: String,
    /// Which instrument.
    instrument: String,
    /// The line as it came.
    line: String,
    /// `taken`, `refused`, `unclaimed`, `garbled` or `status`.
    outcome: String,
    /// Why it was not taken.
    why: Option<String>,
}

/// What a stand-in should read.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Press {
    /// Which stand-in, by its name.
    instrument: String,
    /// What it would read if it were perfect: mm, or heading, pitch and roll in degrees.
    aim: Vec<f64>,
}

/// How every instrument is; none where the server was started without.
#[utoipa::path(get, path = "/api/instruments", tag = "instruments", operation_id = "listInstruments",
    responses((status = 200, body = [InstrumentStatus])))]
#[get("/instruments")]
pub(super) fn list(hub: &State<Arc<Hub>>) -> Json<Vec<InstrumentStatus>> {
    Json(hub.statuses())
}

/// Listens to the instruments as server-sent events. With `field` the next reading is judged for it; whoever stops
/// listening gives the focus back.
#[utoipa::path(get, path = "/api/instruments/listen", tag = "instruments", operation_id = "listenToInstruments",
    params(("field" = Option<Field>, Query), ("Nook-Author" = String, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = InstrumentNews, content_type = "text/event-stream")))]
#[get("/instruments/listen?<field>")]
pub(super) fn listen(
    hub: &State<Arc<Hub>>,
    field: Option<&str>,
    me: Result<Me, Problem>,
    mut end: Shutdown,
) -> Result<EventStream![Event], Problem> {
    let unknown = || Problem::refused("No field takes that sort of figure.");
    let field = field.map(|word| Field::of_word(word).ok_or_else(unknown)).transpose()?;
    // Listening takes the focus: no page of another site may do it.
    me?.named()?;
    let mut listener = hub.listen(field);
    let now = hub.statuses();
    Ok(EventStream! {
        for status in now {
            yield Event::json(&InstrumentNews::Status { status });
        }
        loop {
            let news = select! {
                news = listener.next() => news,
                () = &mut end => None,
            };
            match news {
                Some(news) => yield Event::json(&news),
                None => break,
            }
        }
    })
}

/// Aims a stand-in and presses its button.
#[utoipa::path(post, path = "/api/instruments/press", tag = "instruments", operation_id = "pressStandIn",
    request_body = Press, responses((status = 204), (status = 404, body = Problem)))]
#[post("/instruments/press", data = "<press>")]
pub(super) fn press(hub: &State<Arc<Hub>>, press: Result<Body<Press>, Problem>) -> Result<Status, Problem> {
    let Press { instrument, aim } = press?.0;
    let refused = |detail: String| Problem::new(Status::Conflict, "not-pressed", "Nothing was pressed", detail);
    match hub.press(&instrument, aim) {
        Ok(()) => Ok(Status::NoContent),
        Err(NotPressed::NoSuch) => {
            Err(Problem::missing("There is no such instrument. Start the server with --instrument."))
        }
        Err(NotPressed::NotConnected) => Err(refused(format!(
            "The {} does not answer, so nothing was pressed. Switch it on, or start the stand-ins.",
            instrument
        ))),
        Err(NotPressed::Busy) => {
            Err(refused(format!("The {} has not done what it was told before. Wait a moment.", instrument)))
        }
    }
}

/// The latest lines the instruments sent, as they came, the newest first.
#[utoipa::path(get, path = "/api/instruments/log", tag = "instruments", operation_id = "loadInstrumentLog",
    responses((status = 200, body = [LogLine])))]
#[get("/instruments/log")]
pub(super) async fn log(store: &State<Store>) -> Result<Json<Vec<LogLine>>, Problem> {
    let lines = store.logged_lines(200).await?.into_iter().map(|line| LogLine {
        at: line.at,
        instrument: line.instrument,
        line: line.line,
        outcome: line.outcome,
        why: line.why,
    });
    Ok(Json(lines.collect()))
}

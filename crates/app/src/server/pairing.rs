//! Pairing, as the computer sees it: the code that is out, and the devices that are paired.

use std::sync::Arc;
use std::time::Instant;

use nook_store::{Session, Store};
use rocket::http::Status;
use rocket::serde::json::Json;
use rocket::{State, delete, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::lan::{Lan, OnThisMachine, Paired};
use super::problem::Problem;

/// How devices are paired.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct Pairing {
    /// The way in from the local network; nothing where it was not opened when the server started.
    way_in: Option<WayIn>,
    /// The devices that are paired, the one paired last first.
    devices: Vec<Device>,
}

/// Where devices of the local network find the server.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct WayIn {
    /// What to open on the device.
    address: String,
    /// SHA-256 of the certificate, as browsers show it.
    fingerprint: String,
    /// The code that is out, where one is.
    code: Option<PairingCode>,
    /// Whether the last code is void because wrong ones were tried too often.
    void: bool,
}

/// A code for one device.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct PairingCode {
    /// Eight digits.
    digits: String,
    /// Seconds for which it is good.
    seconds: u64,
    /// The pairing page with the code filled in, to be shown as a picture.
    link: String,
}

/// A paired device.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(super) struct Device {
    /// Which.
    id: i64,
    /// What its owner calls it.
    name: String,
    /// When it was paired, UTC, ISO 8601.
    paired: String,
    /// When it last asked something, to about ten minutes; UTC, ISO 8601.
    seen: String,
    /// The address it last asked from.
    peer: String,
}

impl From<Session> for Device {
    fn from(session: Session) -> Self {
        let Session { id, name, began, seen, peer } = session;
        Self { id, name, paired: began, seen, peer }
    }
}

/// Who asks.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct Asker {
    /// The paired device; nothing where it is the computer itself.
    device: Option<Device>,
}

fn way_in(lan: &Lan) -> WayIn {
    let desk = lan.desk();
    let address = lan.url();
    let code = desk.out(Instant::now()).map(|(code, left)| PairingCode {
        link: format!("{address}/pair?code={}", code.digits),
        digits: code.digits.clone(),
        seconds: left.as_secs(),
    });
    WayIn { address, fingerprint: lan.fingerprint.clone(), code, void: desk.is_void() }
}

async fn now(lan: Option<&Lan>, store: &Store) -> Result<Json<Pairing>, Problem> {
    let devices = store.sessions().await?.into_iter().map(Device::from).collect();
    Ok(Json(Pairing { way_in: lan.map(way_in), devices }))
}

/// The way in, the code that is out and the paired devices. On the computer alone.
#[utoipa::path(get, path = "/api/pairing", tag = "pairing", operation_id = "pairing",
    responses((status = 200, body = Pairing)))]
#[get("/pairing")]
pub(super) async fn pairing(
    here: Result<OnThisMachine, Problem>,
    lan: &State<Option<Arc<Lan>>>,
    store: &State<Store>,
) -> Result<Json<Pairing>, Problem> {
    here?;
    now(lan.as_deref(), store).await
}

/// Puts out a new code, in place of any other. On the computer alone.
#[utoipa::path(post, path = "/api/pairing/code", tag = "pairing", operation_id = "newPairingCode",
    responses((status = 200, body = Pairing), (status = 409, body = Problem, description = "There is no way in")))]
#[post("/pairing/code")]
pub(super) async fn new_code(
    here: Result<OnThisMachine, Problem>,
    lan: &State<Option<Arc<Lan>>>,
    store: &State<Store>,
) -> Result<Json<Pairing>, Problem> {
    here?;
    let Some(open) = lan.as_deref() else {
        let detail = "The server was started for this machine alone. Start it with --host and this machine\u{2019}s address on your network.";
        return Err(Problem::new(Status::Conflict, "no-way-in", "No way in", detail));
    };
    open.put_out_code().map_err(|error| Problem::internal(&error))?;
    now(lan.as_deref(), store).await
}

/// Takes the code back. On the computer alone.
#[utoipa::path(delete, path = "/api/pairing/code", tag = "pairing", operation_id = "takeBackPairingCode",
    responses((status = 204)))]
#[delete("/pairing/code")]
pub(super) fn take_back(
    here: Result<OnThisMachine, Problem>,
    lan: &State<Option<Arc<Lan>>>,
) -> Result<Status, Problem> {
    here?;
    if let Some(lan) = lan.as_deref() {
        lan.desk().take_back();
    }
    Ok(Status::NoContent)
}

/// Ends a device's session: it gets nothing more, from this moment on. On the computer alone.
#[utoipa::path(delete, path = "/api/devices/{id}", tag = "pairing", operation_id = "endSession",
    params(("id" = i64, Path)), responses((status = 204), (status = 404, body = Problem)))]
#[delete("/devices/<id>")]
pub(super) async fn end(
    here: Result<OnThisMachine, Problem>,
    id: i64,
    lan: &State<Option<Arc<Lan>>>,
    store: &State<Store>,
) -> Result<Status, Problem> {
    here?;
    if !store.end_session(id).await? {
        return Err(Problem::missing("That device is not paired."));
    }
    if let Some(lan) = lan.as_deref() {
        lan.cut_connections();
    }
    Ok(Status::NoContent)
}

/// Who asks: the computer itself or a paired device.
#[utoipa::path(get, path = "/api/session", tag = "pairing", operation_id = "session",
    responses((status = 200, body = Asker)))]
#[get("/session")]
pub(super) fn session(paired: Result<Paired, Problem>) -> Result<Json<Asker>, Problem> {
    Ok(Json(Asker { device: paired?.0.map(Device::from) }))
}

//! The server: typed routes over the store and the core.

mod apart;
mod api;
mod assets;
mod bay;
mod body;
mod boxes;
mod changes;
mod front;
mod guards;
mod headers;
mod host;
mod instruments;
mod jobs;
mod lengths;
mod looked_for;
mod meshes;
mod places;
mod previews;
mod print;
mod problem;
mod rack;
mod record;
mod runs;
mod scans;
mod sheets;
mod statuses;
mod stock;
mod ways;
mod workers;
mod workshop;

use std::io::Cursor;
use std::ops::ControlFlow;
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};

use nook_core::join::JointPart;
use nook_core::measure::ComponentDesign;
use nook_core::stock::Catalogue;
use nook_devices::{Faults, Kind, NamedInstrument, StandIn, serve_stand_ins};
use nook_store::{Author, Store, StoreError};
use rocket::config::{Config, Ident, LogLevel};
use rocket::fairing::AdHoc;
use rocket::tokio::spawn;
use rocket::{Build, Rocket, catchers, routes};
use thiserror::Error;

use crate::{FrontEnd, built_in};

pub(crate) use api::openapi;
use front::Front;
use instruments::Hub;
pub(crate) use scans::ready_to_keep;

/// Why the server did not start, or stopped.
#[derive(Debug, Error)]
pub(crate) enum ServeError {
    /// The store.
    #[error("{0}")]
    Store(#[from] StoreError),
    /// Something compiled in is not sound; tests keep this from being released.
    #[error("built-in data: {0}")]
    BuiltIn(String),
    /// The port is taken.
    #[error("port {port} cannot be opened ({problem}); is Nook Bend running already? Try --port with another number")]
    Port {
        /// The port.
        port: u16,
        /// Why not.
        problem: std::io::Error,
    },
    /// Anything else the server framework reports.
    #[error("the server stopped: {0}")]
    Rocket(Box<rocket::Error>),
}

/// Serves on the loopback address until told to stop, then finishes what is under way.
///
/// # Errors
/// [`ServeError`] as its variants say.
pub(crate) fn serve(
    port: u16,
    data: &Path,
    demo: bool,
    instruments: &[NamedInstrument],
    front_end: FrontEnd,
) -> Result<(), ServeError> {
    rocket::execute(async {
        let refused = |problem| ServeError::Port { port, problem };
        let front = Front::bind(port).await.map_err(refused)?;
        let port = front.port().map_err(refused)?;
        let store = Store::open(data).await?;
        let catalogue = built_in::catalogue().map_err(|error| ServeError::BuiltIn(error.to_string()))?;
        let designs = built_in::component_designs().map_err(|error| ServeError::BuiltIn(error.to_string()))?;
        if demo && store.list().await?.is_empty() {
            add_demo(store.clone()).await?;
        }
        let jobs = store.list().await?;
        let first = jobs.iter().find(|job| demo && job.unreadable.is_none()).map(|job| format!("/jobs/{}", job.id));
        let page = first.unwrap_or_default();
        let hub = Hub::start(&instruments_at(demo, instruments).await?, &store);
        let joints = built_in::joint_parts().map_err(|error| ServeError::BuiltIn(error.to_string()))?;
        let rocket = rocket(port, front_end, store.clone(), (catalogue, designs, joints), hub);
        let served = rocket.attach(open_front(front, format!("http://127.0.0.1:{port}{page}"))).launch().await;
        store.close().await;
        served.map(drop).map_err(|error| ServeError::Rocket(Box::new(error)))
    })
}

async fn add_demo(store: Store) -> Result<(), ServeError> {
    let unsound = |error: &dyn std::fmt::Display| ServeError::BuiltIn(error.to_string());
    let (bytes, name) = built_in::demo_scan();
    let scan = ready_to_keep(Cursor::new(bytes), name, &mut |_, _| ControlFlow::Continue(()));
    store.keep_scan(&scan.map_err(|error| unsound(&error))?.0).await?;
    let job = built_in::demo_job().map_err(|error| unsound(&error))?;
    store.create(&job, &Author::nobody()).await?;
    let mut seen = store.workshop().await?.seq;
    // A workshop somebody has begun is theirs.
    if seen == 0 {
        for edit in built_in::demo_workshop().map_err(|error| unsound(&error))? {
            seen = store.keep_workshop(seen, &edit, &Author::nobody()).await?.seq;
        }
    }
    Ok(())
}

/// Lets the front pass connections on once the server listens, and says where it is.
fn open_front(front: Front, address: String) -> AdHoc {
    let front = Mutex::new(Some(front));
    AdHoc::on_liftoff("open the front", move |rocket| {
        Box::pin(async move {
            let front = front.lock().unwrap_or_else(PoisonError::into_inner).take();
            if let Some(front) = front {
                spawn(front.serve(rocket.config().port, rocket.shutdown()));
            }
            println!("Nook Bend is at {address}  (stop it with Ctrl-C)");
        })
    })
}

/// The instruments that are read: those that were named, or stand-ins started for the demo.
async fn instruments_at(demo: bool, named: &[NamedInstrument]) -> Result<Vec<NamedInstrument>, ServeError> {
    if !demo || !named.is_empty() {
        return Ok(named.to_vec());
    }
    let stand_ins = Kind::ALL.map(|kind| (StandIn::new(kind, Faults::usual(kind), 41), 0));
    let at = serve_stand_ins(stand_ins).await.map_err(|problem| ServeError::Port { port: 0, problem })?;
    Ok(Kind::ALL.into_iter().zip(at).map(|(kind, at)| NamedInstrument::plain(kind, at.port())).collect())
}

/// `port` is the front's; the server itself takes any.
fn rocket(
    port: u16,
    front_end: FrontEnd,
    store: Store,
    (catalogue, designs, joints): (Catalogue, Vec<ComponentDesign>, Vec<JointPart>),
    hub: Arc<Hub>,
) -> Rocket<Build> {
    let config = Config {
        port: 0,
        log_level: LogLevel::Off,
        cli_colors: false,
        ident: Ident::none(),
        limits: body::limits(),
        ..Config::default()
    };
    rocket::custom(config)
        .manage(store)
        .manage(front_end)
        .manage(catalogue)
        .manage(designs)
        .manage(joints)
        .manage(hub)
        .manage(meshes::Meshes::default())
        .manage(rack::Racks::default())
        .manage(bay::LastPairs::default())
        .manage(Arc::new(ways::Ways::default()))
        .manage(Arc::new(places::Places::default()))
        .manage(Arc::new(apart::Apart::default()))
        .manage(workers::Workers::default())
        .attach(host::OwnHostOnly(port))
        .attach(headers::Headers)
        .attach(headers::RequestLog)
        .register("/", catchers![problem::not_found, problem::anything])
        .mount("/api", api::routes())
        .mount("/api", routes![host::wrong_host, host::cross_site])
        .mount("/", routes![assets::index, assets::file])
}

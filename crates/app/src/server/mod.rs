//! The server: typed routes over the store and the core.

mod api;
mod assets;
mod bay;
mod body;
mod guards;
mod headers;
mod host;
mod instruments;
mod jobs;
mod lengths;
mod meshes;
mod problem;
mod runs;
mod scans;
mod ways;

use std::net::{Ipv4Addr, SocketAddr};
use std::ops::ControlFlow;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use nook_core::stock::Catalogue;
use nook_devices::{Faults, Kind, StandIn, serve_stand_ins};
use nook_store::{Store, StoreError};
use rocket::config::{Config, Ident, LogLevel};
use rocket::fairing::AdHoc;
use rocket::{Build, Rocket, catchers, routes};
use thiserror::Error;

use crate::built_in;

pub(crate) use api::openapi;
use instruments::Hub;
pub(crate) use scans::ready_to_keep;

/// Why the server did not start, or stopped.
#[derive(Debug, Error)]
pub(crate) enum ServeError {
    /// The data folder could not be made.
    #[error("the data folder {} cannot be made: {problem}", folder.display())]
    Folder {
        /// The folder.
        folder: PathBuf,
        /// Why not.
        problem: std::io::Error,
    },
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
pub(crate) fn serve(port: u16, data: &Path, demo: bool, instruments: Option<u16>) -> Result<(), ServeError> {
    rocket::execute(async {
        let folder = || data.to_owned();
        std::fs::create_dir_all(data).map_err(|problem| ServeError::Folder { folder: folder(), problem })?;
        let store = Store::open(&data.join("jobs.sqlite")).await?;
        let catalogue = built_in::catalogue().map_err(|error| ServeError::BuiltIn(error.to_string()))?;
        if demo && store.list().await?.is_empty() {
            let (bytes, name) = built_in::demo_scan();
            let scan = ready_to_keep(bytes, name, &mut |_, _| ControlFlow::Continue(()));
            store.keep_scan(&scan.map_err(|error| ServeError::BuiltIn(error.to_string()))?.0).await?;
            let job = built_in::demo_job().map_err(|error| ServeError::BuiltIn(error.to_string()))?;
            store.create(&job).await?;
        }
        let first = store.list().await?.first().filter(|_| demo).map(|job| format!("/jobs/{}", job.id));
        let page = first.unwrap_or_default();
        let hub = Hub::start(&instruments_at(demo, instruments).await?, &store);
        let served = rocket(port, store.clone(), catalogue, hub, page).launch().await;
        store.close().await;
        served.map(drop).map_err(|error| match error.kind() {
            rocket::error::ErrorKind::Bind(problem) => {
                let problem = std::io::Error::new(problem.kind(), problem.to_string());
                ServeError::Port { port, problem }
            }
            _ => ServeError::Rocket(Box::new(error)),
        })
    })
}

/// Where the instruments are: from the port that was named, or stand-ins started for the demo.
async fn instruments_at(demo: bool, first: Option<u16>) -> Result<Vec<(Kind, SocketAddr)>, ServeError> {
    match first {
        Some(first) => {
            let at = (first..).map(|port| SocketAddr::from((Ipv4Addr::LOCALHOST, port)));
            Ok(Kind::ALL.into_iter().zip(at).collect())
        }
        None if demo => {
            let stand_ins = Kind::ALL.map(|kind| StandIn::new(kind, Faults::usual(kind), 41));
            let started = serve_stand_ins(0, stand_ins).await;
            let at = started.map_err(|problem| ServeError::Port { port: 0, problem })?.at;
            Ok(Kind::ALL.into_iter().zip(at).collect())
        }
        None => Ok(Vec::new()),
    }
}

/// `page` is where the printed address leads.
fn rocket(port: u16, store: Store, catalogue: Catalogue, hub: Arc<Hub>, page: String) -> Rocket<Build> {
    let config = Config {
        port,
        log_level: LogLevel::Off,
        cli_colors: false,
        ident: Ident::none(),
        limits: body::limits(),
        ..Config::default()
    };
    rocket::custom(config)
        .manage(store)
        .manage(catalogue)
        .manage(hub)
        .manage(meshes::Meshes::default())
        .manage(ways::LastFound::default())
        .attach(host::OwnHostOnly)
        .attach(headers::Headers)
        .attach(headers::RequestLog)
        .attach(AdHoc::on_liftoff("say the address", |rocket| {
            let port = rocket.config().port;
            Box::pin(async move {
                println!("Nook Bend is at http://127.0.0.1:{port}{page}  (stop it with Ctrl-C)");
            })
        }))
        .register("/", catchers![problem::not_found, problem::anything])
        .mount(
            "/api",
            routes![
                api::openapi_json,
                api::job_schema_json,
                api::catalogue,
                host::wrong_host,
                jobs::list,
                jobs::create,
                jobs::upload,
                jobs::load,
                jobs::delete,
                jobs::file,
                jobs::keep,
                jobs::undo,
                jobs::redo,
                bay::bay_of,
                bay::preview,
                bay::datums,
                bay::readings,
                bay::take_datums,
                bay::take_readings,
                bay::stl,
                bay::glb,
                scans::list,
                scans::upload,
                scans::drawn,
                scans::whole,
                instruments::list,
                instruments::listen,
                instruments::press,
                instruments::log,
                lengths::read,
                lengths::show,
                runs::workup_of,
                runs::preview,
                runs::cut_list,
                runs::lra,
                runs::template,
                runs::pipe,
                runs::take_lra,
                ways::look,
                ways::schools,
                ways::order,
                ways::drag_way,
                ways::kept,
                ways::twin,
            ],
        )
        .mount("/", routes![assets::index, assets::file])
}

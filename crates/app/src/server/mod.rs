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
mod lan;
mod lengths;
mod log;
mod looked_for;
mod meshes;
mod pairing;
mod pictures;
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
mod sticks;
mod stock;
mod ways;
mod workers;
mod workshop;

use std::io::{Cursor, Write as _};
use std::net::{Ipv4Addr, SocketAddr};
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
use front::{Front, Way};
use host::OwnHostOnly;
use instruments::Hub;
pub(crate) use lan::{CertificateError, fit_address};
use lan::{Lan, Reach};
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
    /// The address for the local network cannot be opened.
    #[error(
        "{at} cannot be opened ({problem}); is it this machine\u{2019}s own address, and the port free? Try --host-port with another number"
    )]
    Address {
        /// Where.
        at: SocketAddr,
        /// Why not.
        problem: std::io::Error,
    },
    /// There is no certificate for it.
    #[error("{0}")]
    Certificate(#[from] CertificateError),
    /// Anything else the server framework reports.
    #[error("the server stopped: {0}")]
    Rocket(Box<rocket::Error>),
}

/// Where and what is served.
pub(crate) struct Serve<'a> {
    /// Port on the loopback address; 0 takes any.
    pub(crate) port: u16,
    /// Where paired devices of the local network ask too, over TLS.
    pub(crate) host: Option<SocketAddr>,
    /// The data folder.
    pub(crate) data: &'a Path,
    /// Whether the demo's job is added to an empty folder.
    pub(crate) demo: bool,
    /// Instruments that are read.
    pub(crate) instruments: &'a [NamedInstrument],
    /// The front end's files.
    pub(crate) front_end: FrontEnd,
}

/// Serves on the loopback address, and to paired devices where that is asked for, until told to stop; then finishes
/// what is under way.
///
/// # Errors
/// [`ServeError`] as its variants say.
pub(crate) fn serve(asked: &Serve<'_>) -> Result<(), ServeError> {
    let Serve { port, host, data, demo, instruments, front_end } = *asked;
    rocket::execute(async {
        let refused = |problem| ServeError::Port { port, problem };
        let front = Front::bind((Ipv4Addr::LOCALHOST, port).into()).await.map_err(refused)?;
        let port = front.at().map_err(refused)?.port();
        let outside = match host {
            Some(at) => {
                let refused = |problem| ServeError::Address { at, problem };
                let front = Front::bind(at).await.map_err(refused)?;
                let at = front.at().map_err(refused)?;
                Some((front, at))
            }
            None => None,
        };
        let store = Store::open(data).await?;
        let outside = match outside {
            Some((front, at)) => Some((front, Lan::open(at, &store)?)),
            None => None,
        };
        let unsound = |error: &dyn std::fmt::Display| ServeError::BuiltIn(error.to_string());
        if demo && store.list().await?.is_empty() {
            add_demo(store.clone()).await?;
        }
        let jobs = store.list().await?;
        let first = jobs.iter().find(|job| demo && job.unreadable.is_none()).map(|job| format!("/jobs/{}", job.id));
        let page = first.unwrap_or_default();
        let shared = Shared {
            front_end,
            store: store.clone(),
            hub: Hub::start(&instruments_at(demo, instruments).await?, &store),
            catalogue: built_in::catalogue().map_err(|error| unsound(&error))?,
            designs: built_in::component_designs().map_err(|error| unsound(&error))?,
            joints: built_in::joint_parts().map_err(|error| unsound(&error))?,
            meshes: meshes::Meshes::default(),
            racks: rack::Racks::default(),
            pairs: bay::LastPairs::default(),
            ways: Arc::default(),
            places: Arc::default(),
            apart: Arc::default(),
            workers: workers::Workers::default(),
        };
        let lan = outside.as_ref().map(|(_, (lan, _))| Arc::clone(lan));
        let inside = shared.rocket().attach(OwnHostOnly::loopback(port)).manage(Reach::Machine).manage(lan.clone());
        let mut said = format!("Nook Bend is at http://127.0.0.1:{port}{page}  (stop it with Ctrl-C)");
        if let Some(lan) = &lan {
            said += &format!(
                "\nPaired devices find it at {}\nIts certificate\u{2019}s SHA-256 fingerprint is {}",
                lan.url(),
                lan.fingerprint
            );
        }
        let inside = inside.attach(open_front(front, Way::Plain, Some(said))).launch();
        let served = match outside {
            None => inside.await.map(drop),
            Some((front, (lan, acceptor))) => {
                let outside = shared.rocket().attach(OwnHostOnly::tls(lan.at)).manage(Reach::Network);
                let outside = lan::paired_only(outside.manage(Arc::clone(&lan)).manage(Some(Arc::clone(&lan))));
                let outside = outside.attach(open_front(front, Way::Tls(acceptor, lan), None)).launch();
                rocket::tokio::try_join!(inside, outside).map(drop)
            }
        };
        store.close().await;
        served.map_err(|error| ServeError::Rocket(Box::new(error)))
    })
}

async fn add_demo(store: Store) -> Result<(), ServeError> {
    let unsound = |error: &dyn std::fmt::Display| ServeError::BuiltIn(error.to_string());
    let (bytes, name) = built_in::demo_scan();
    let scan = ready_to_keep(Cursor::new(bytes), name, &mut |_, _| ControlFlow::Continue(()));
    store.keep_scan(&scan.map_err(|error| unsound(&error))?.0).await?;
    let job = built_in::demo_job().map_err(|error| unsound(&error))?;
    let made = store.create(&job, &Author::nobody()).await?;
    for deed in built_in::demo_deeds().map_err(|error| unsound(&error))? {
        store.done(made.id, &deed, &Author::nobody()).await?;
    }
    let mut seen = store.workshop().await?.seq;
    // A workshop somebody has begun is theirs.
    if seen == 0 {
        for edit in built_in::demo_workshop().map_err(|error| unsound(&error))? {
            seen = store.keep_workshop(seen, &edit, &Author::nobody()).await?.seq;
        }
    }
    Ok(())
}

/// Lets a front pass connections on once its server listens, and says so.
fn open_front(front: Front, way: Way, said: Option<String>) -> AdHoc {
    let front = Mutex::new(Some((front, way)));
    AdHoc::on_liftoff("open the front", move |rocket| {
        Box::pin(async move {
            let front = front.lock().unwrap_or_else(PoisonError::into_inner).take();
            if let Some((front, way)) = front {
                spawn(front.serve(way, rocket.config().port, rocket.shutdown()));
            }
            if let Some(said) = said {
                // Whoever started it may have gone.
                drop(writeln!(std::io::stdout(), "{said}"));
            }
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

/// What the servers have in common.
struct Shared {
    front_end: FrontEnd,
    store: Store,
    hub: Arc<Hub>,
    catalogue: Catalogue,
    designs: Vec<ComponentDesign>,
    joints: Vec<JointPart>,
    meshes: meshes::Meshes,
    racks: rack::Racks,
    pairs: bay::LastPairs,
    ways: Arc<ways::Ways>,
    places: Arc<places::Places>,
    apart: Arc<apart::Apart>,
    workers: workers::Workers,
}

impl Shared {
    /// A server behind a front, at any port of the loopback address.
    fn rocket(&self) -> Rocket<Build> {
        let config = Config {
            port: 0,
            log_level: LogLevel::Off,
            cli_colors: false,
            ident: Ident::none(),
            ip_header: None,
            limits: body::limits(),
            ..Config::default()
        };
        rocket::custom(config)
            .manage(self.front_end)
            .manage(self.store.clone())
            .manage(Arc::clone(&self.hub))
            .manage(self.catalogue.clone())
            .manage(self.designs.clone())
            .manage(self.joints.clone())
            .manage(self.meshes.clone())
            .manage(self.racks.clone())
            .manage(self.pairs.clone())
            .manage(Arc::clone(&self.ways))
            .manage(Arc::clone(&self.places))
            .manage(Arc::clone(&self.apart))
            .manage(self.workers.clone())
            .attach(headers::Headers)
            .attach(headers::RequestLog)
            .register("/", catchers![problem::not_found, problem::anything])
            .mount("/api", api::routes())
            .mount("/api", routes![host::wrong_host, host::cross_site])
            .mount("/", routes![assets::index, assets::file])
    }
}

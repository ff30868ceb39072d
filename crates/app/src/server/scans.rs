//! Scans: bringing them in with progress, and giving them out whole or as drawn.

use std::ops::ControlFlow;

use nook_core::measure::{ScanId, ScanUnit};
use nook_formats::scan::{
    LARGEST_SCAN_FILE, ScanError, ScanFormat, ScanStep, Watch, read_scan, scan_id, thinned, write_kept,
};
use nook_store::{KeptScan, Store};
use rocket::data::{Capped, Data, ToByteUnit};
use rocket::http::{ContentType, Status};
use rocket::response::stream::{Event, EventStream};
use rocket::serde::json::Json;
use rocket::tokio::sync::mpsc::{Sender, channel};
use rocket::tokio::task::spawn_blocking;
use rocket::{State, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::jobs::Download;
use super::problem::{Problem, sentence};

/// A scan that is here.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct ScanHere {
    /// Its name by content.
    id: String,
    /// The file it came from.
    name: String,
    /// How many triangles it has.
    triangles: i64,
    /// When it was added, UTC, ISO 8601.
    added: String,
}

/// What is told while a scan is brought in, as server-sent events.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum ScanNews {
    /// How far it is.
    Progress {
        /// With what.
        step: ScanStep,
        /// 0 to 1.
        share: f32,
    },
    /// It is here.
    Done {
        /// Its name by content.
        id: String,
        /// How many vertices it has.
        vertices: usize,
        /// How many triangles it has.
        triangles: usize,
        /// Least and greatest coordinates in the file's own unit.
        #[schema(value_type = Vec<nook_core::geometry::Triple>)]
        bounds: [[f64; 3]; 2],
    },
    /// It was not taken.
    Refused {
        /// Why, and what to do.
        problem: Problem,
    },
}

/// Every scan that is here, the latest first.
#[utoipa::path(get, path = "/api/scans", tag = "scans", operation_id = "listScans",
    responses((status = 200, body = [ScanHere])))]
#[get("/scans")]
pub(super) async fn list(store: &State<Store>) -> Result<Json<Vec<ScanHere>>, Problem> {
    let scans = store.scans().await?.into_iter();
    Ok(Json(
        scans
            .map(|scan| ScanHere { id: scan.id, name: scan.name, triangles: scan.triangles, added: scan.added })
            .collect(),
    ))
}

/// Brings a scan in: STL, OBJ or PLY as its name says. Tells how far it is as it goes; whoever stops listening stops
/// it.
#[utoipa::path(post, path = "/api/scans", tag = "scans", operation_id = "uploadScan",
    params(("name" = String, Query, description = "The file's name, which says its format")),
    request_body(content = String, content_type = "application/octet-stream"),
    responses((status = 200, body = ScanNews, content_type = "text/event-stream", description = "One event for each news")))]
#[post("/scans?<name>", data = "<file>")]
pub(super) async fn upload(store: &State<Store>, name: String, file: Data<'_>) -> EventStream![Event] {
    let limit = LARGEST_SCAN_FILE.bytes();
    let bytes = file.open(limit).into_bytes().await;
    let store = store.inner().clone();
    EventStream! {
        let bytes = match bytes {
            Ok(bytes) if Capped::is_complete(&bytes) => bytes.into_inner(),
            Ok(_) => {
                let detail = format!("The file is larger than {limit}, the most that is read here.");
                yield Event::json(&refused(Status::PayloadTooLarge, detail));
                return;
            }
            Err(error) => {
                yield Event::json(&refused(Status::BadRequest, format!("The file was cut off on its way: {error}.")));
                return;
            }
        };
        let (tell, mut told) = channel(64);
        let working = spawn_blocking(move || take(bytes, &name, &tell));
        while let Some(news) = told.recv().await {
            yield Event::json(&news);
        }
        let taken = working.await.map_err(|_| ScanError::Stopped).and_then(|taken| taken);
        let news = match taken {
            Ok((scan, done)) => match store.keep_scan(&scan).await {
                Ok(()) => done,
                Err(error) => ScanNews::Refused { problem: error.into() },
            },
            Err(error) => refused(Status::UnprocessableEntity, sentence(&format!("nothing was taken: {error}"))),
        };
        yield Event::json(&news);
    }
}

fn refused(status: Status, detail: String) -> ScanNews {
    ScanNews::Refused { problem: Problem::new(status, "no-scan", "The scan was not taken", detail) }
}

/// Makes a scan ready and tells how far it is. A listener who went away stops it at the next report.
#[expect(clippy::needless_pass_by_value, reason = "the file's bytes are given back as soon as they are read")]
fn take(bytes: Vec<u8>, name: &str, tell: &Sender<ScanNews>) -> Result<(KeptScan, ScanNews), ScanError> {
    let mut last = None;
    let mut watch = |step: ScanStep, share: f32| {
        // A hundredth is as fine as a bar on the screen.
        let now = (step, (share * 100.0).round());
        if last == Some(now) && !tell.is_closed() {
            return ControlFlow::Continue(());
        }
        last = Some(now);
        match tell.blocking_send(ScanNews::Progress { step, share }) {
            Ok(()) => ControlFlow::Continue(()),
            Err(_) => ControlFlow::Break(()),
        }
    };
    let (scan, bounds) = ready_to_keep(&bytes, name, &mut watch)?;
    let size = |count: i64| usize::try_from(count).unwrap_or_default();
    let (id, vertices, triangles) = (scan.id.as_str().to_owned(), size(scan.vertices), size(scan.triangles));
    Ok((scan, ScanNews::Done { id, vertices, triangles, bounds }))
}

/// Reads a scan file, checks that it can be measured against, thins it for the screen and names it. Gives its least and
/// greatest coordinates too, in its own unit.
///
/// # Errors
/// [`ScanError`] when the file is not taken or `watch` says stop.
pub(crate) fn ready_to_keep(
    bytes: &[u8],
    name: &str,
    watch: Watch<'_>,
) -> Result<(KeptScan, [[f64; 3]; 2]), ScanError> {
    let format = ScanFormat::of_name(name).ok_or_else(|| ScanError::UnknownFormat { name: name.to_owned() })?;
    let scan = read_scan(bytes, format, watch)?;
    let mut step = |step| if watch(step, 0.0).is_break() { Err(ScanError::Stopped) } else { Ok(()) };
    step(ScanStep::Indexing)?;
    // Two cores do the slow things side by side.
    let (bounds, kept, drawn) = std::thread::scope(|both| {
        let thin = both.spawn(|| write_kept(&thinned(&scan)));
        let bounds = scan.mesh(ScanUnit::Mm).map(|mesh| mesh.bounds());
        let kept = write_kept(&scan);
        step(ScanStep::Thinning)?;
        let drawn = thin.join().map_err(|_| ScanError::Stopped)?;
        Ok::<_, ScanError>((bounds?, kept?, drawn?))
    })?;
    step(ScanStep::Keeping)?;
    let count = |count: usize| i64::try_from(count).unwrap_or(i64::MAX);
    let (vertices, triangles) = (count(scan.vertices.len()), count(scan.triangles.len()));
    Ok((KeptScan { id: scan_id(&kept), name: name.to_owned(), vertices, triangles, kept, drawn }, bounds))
}

fn named(id: &str) -> Result<ScanId, Problem> {
    ScanId::try_from(id.to_owned()).map_err(|error| Problem::missing(sentence(&error.to_string())))
}

const PLY: (&str, &str) = ("application", "octet-stream");

/// A light copy for the screen, as binary PLY in the file's own axes and unit.
#[utoipa::path(get, path = "/api/scans/{id}/drawn.ply", tag = "scans", operation_id = "downloadDrawnScan",
    params(("id" = String, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = Problem)))]
#[get("/scans/<id>/drawn.ply")]
pub(super) async fn drawn(store: &State<Store>, id: &str) -> Result<Download, Problem> {
    let bytes = store.drawn_scan(&named(id)?).await?;
    Ok(Download::of_bytes(bytes, ContentType::new(PLY.0, PLY.1), "drawn.ply").lasting())
}

/// All of a scan, as binary PLY in the file's own axes and unit.
#[utoipa::path(get, path = "/api/scans/{id}/whole.ply", tag = "scans", operation_id = "downloadScan",
    params(("id" = String, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = Problem)))]
#[get("/scans/<id>/whole.ply")]
pub(super) async fn whole(store: &State<Store>, id: &str) -> Result<Download, Problem> {
    let bytes = store.kept_scan(&named(id)?).await?;
    Ok(Download::of_bytes(bytes, ContentType::new(PLY.0, PLY.1), "scan.ply").lasting())
}

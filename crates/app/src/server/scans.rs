//! Scans: bringing them in with progress, and giving them out whole or as drawn.

use std::fs::File;
use std::io::{ErrorKind, Read, Seek};
use std::ops::ControlFlow;
use std::path::PathBuf;

use nook_core::measure::ScanId;
use nook_formats::scan::{
    LARGEST_SCAN_FILE, ScanError, ScanFormat, ScanStep, Watch, read_scan, scan_id, thinned, write_kept,
};
use nook_store::{KeptScan, ScanLine, Store};
use rocket::data::{Data, DataStream, ToByteUnit};
use rocket::http::{ContentType, Status};
use rocket::response::stream::{Event, EventStream};
use rocket::serde::json::Json;
use rocket::tokio::io::{AsyncReadExt, AsyncWriteExt};
use rocket::tokio::sync::mpsc::{Sender, channel};
use rocket::tokio::task::spawn_blocking;
use rocket::{State, delete, get, post};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::drain;
use super::jobs::Download;
use super::problem::{Problem, sentence};
use super::workers::Workers;

/// A scan that is here.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct ScanHere {
    /// Its name by content.
    id: String,
    /// The file it came from.
    name: String,
    /// How many triangles it has.
    triangles: i64,
    /// How many bytes it takes.
    bytes: i64,
    /// When it was added, UTC, ISO 8601.
    added: String,
    /// How many jobs lean on it, or may by undo; only one of none can be deleted.
    jobs: i64,
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
        #[schema(value_type = Vec<nook_geometry::Triple>)]
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
            .map(|scan| {
                let ScanLine { id, name, triangles, bytes, added, jobs } = scan;
                ScanHere { id, name, triangles, bytes, added, jobs }
            })
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
pub(super) async fn upload<'a>(
    store: &'a State<Store>,
    workers: &'a State<Workers>,
    name: String,
    file: Data<'_>,
) -> Result<EventStream![Event + 'a], Problem> {
    let mut file = file.open((2 * LARGEST_SCAN_FILE).bytes());
    let known = ScanFormat::of_name(&name).ok_or_else(|| refused(&ScanError::UnknownFormat { name: name.clone() }));
    let put = async {
        let leave = workers.upload()?;
        known?;
        Ok((leave, on_disk(store.folder().to_owned(), &mut file).await?))
    };
    let put: Result<_, Problem> = put.await;
    // Whoever is still sending hears of nothing else until it is all sent.
    if put.is_err() {
        drain(&mut file).await;
    }
    let (leave, file) = put?;
    Ok(EventStream! {
        let (tell, mut told) = channel(64);
        let working = spawn_blocking(move || {
            // Kept until the work has ended, however soon nobody listens any more.
            let _leave = leave;
            take(file, &name, &tell)
        });
        while let Some(news) = told.recv().await {
            yield Event::json(&news);
        }
        let news = match working.await {
            Ok(Ok((scan, done))) => match store.keep_scan(&scan).await {
                Ok(()) => done,
                Err(error) => ScanNews::Refused { problem: error.into() },
            },
            Ok(Err(error)) => ScanNews::Refused { problem: refused(&error) },
            Err(error) => ScanNews::Refused { problem: Problem::internal(&error) },
        };
        yield Event::json(&news);
    })
}

/// Puts what is sent on disk, in a file that has no name and is gone with the process.
async fn on_disk(folder: PathBuf, data: &mut DataStream<'_>) -> Result<File, Problem> {
    let failed = |error: std::io::Error| {
        let detail = format!("Nothing was taken: {error}. Make room on the disk, or look at the connection.");
        match error.kind() {
            ErrorKind::StorageFull | ErrorKind::QuotaExceeded | ErrorKind::FileTooLarge => {
                Problem::new(Status::InsufficientStorage, "no-room", "The disk is full", detail)
            }
            _ => Problem::new(Status::BadRequest, "cut-off", "Cut off", detail),
        }
    };
    let file =
        spawn_blocking(move || tempfile::tempfile_in(folder)).await.map_err(|error| Problem::internal(&error))?;
    let mut file = rocket::tokio::fs::File::from_std(file.map_err(failed)?);
    rocket::tokio::io::copy(&mut (&mut *data).take(LARGEST_SCAN_FILE), &mut file).await.map_err(failed)?;
    file.flush().await.map_err(failed)?;
    // Nothing more, or it is too large.
    if data.read_u8().await.is_ok() {
        let detail = format!("The file is larger than {LARGEST_SCAN_FILE} bytes, the most that is read here.");
        return Err(Problem::new(Status::PayloadTooLarge, "too-large", "Too large", detail));
    }
    Ok(file.into_std().await)
}

fn refused(error: &ScanError) -> Problem {
    let detail = sentence(&format!("nothing was taken: {error}"));
    Problem::new(Status::UnprocessableEntity, "no-scan", "The scan was not taken", detail)
}

/// Makes a scan ready and tells how far it is. A listener who went away stops it at the next report.
fn take(file: File, name: &str, tell: &Sender<ScanNews>) -> Result<(KeptScan, ScanNews), ScanError> {
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
    let (scan, bounds) = ready_to_keep(file, name, &mut watch)?;
    let size = |count: i64| usize::try_from(count).unwrap_or_default();
    let (id, vertices, triangles) = (scan.id.as_str().to_owned(), size(scan.vertices), size(scan.triangles));
    Ok((scan, ScanNews::Done { id, vertices, triangles, bounds }))
}

/// Reads a scan file, thins it for the screen and names it. Gives its least and greatest coordinates too, in its own
/// unit.
///
/// # Errors
/// [`ScanError`] when the file is not taken or `watch` says stop.
pub(crate) fn ready_to_keep(
    file: impl Read + Seek,
    name: &str,
    watch: Watch<'_>,
) -> Result<(KeptScan, [[f64; 3]; 2]), ScanError> {
    let format = ScanFormat::of_name(name).ok_or_else(|| ScanError::UnknownFormat { name: name.to_owned() })?;
    let scan = read_scan(file, format, watch)?;
    let mut step = |step| if watch(step, 0.0).is_break() { Err(ScanError::Stopped) } else { Ok(()) };
    step(ScanStep::Thinning)?;
    let drawn = write_kept(&thinned(&scan))?;
    step(ScanStep::Keeping)?;
    let kept = write_kept(&scan)?;
    let count = |count: usize| i64::try_from(count).unwrap_or(i64::MAX);
    let (vertices, triangles) = (count(scan.vertices().len()), count(scan.corners().len()));
    let bounds = scan.bounds();
    Ok((KeptScan { id: scan_id(&kept), name: name.to_owned(), vertices, triangles, kept, drawn }, bounds))
}

fn named(id: &str) -> Result<ScanId, Problem> {
    ScanId::try_from(id.to_owned()).map_err(|error| Problem::missing(sentence(&error.to_string())))
}

const PLY: (&str, &str) = ("application", "octet-stream");

/// Deletes a scan that no job leans on.
#[utoipa::path(delete, path = "/api/scans/{id}", tag = "scans", operation_id = "deleteScan",
    params(("id" = String, Path)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[delete("/scans/<id>")]
pub(super) async fn delete(store: &State<Store>, id: &str) -> Result<Status, Problem> {
    store.delete_scan(&named(id)?).await?;
    Ok(Status::NoContent)
}

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

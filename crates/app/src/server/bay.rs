//! What follows from the measuring, and the bay as files.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use nalgebra::Translation3;
use nook_core::measure::{Facets, KeepOutShape, ScanId, Side, about, facets};
use nook_core::placing::Pairs;
use nook_core::survey::Survey;
use nook_core::workup::{BayGiven, BayWorkup, bay_given};
use nook_core::{Edit, Job, Scans};
use nook_formats::scan::read_kept;
use nook_formats::{
    ModelError, Part, TableFileError, bay_glb, bay_stl, datums_csv, read_datums, read_readings, readings_csv,
};
use nook_geometry::Point;
use nook_store::{JobId, Store, StoreError};
use rocket::http::{ContentType, Status};
use rocket::{State, get, post};

use super::body::Raw;
use super::guards::{Id, IfMatch, Me};
use super::jobs::{Download, Tagged};
use super::meshes::Meshes;
use super::problem::{Problem, sentence};
use super::workers::{Computed, Workers};

/// Where everything is, and how well that is known.
#[utoipa::path(get, path = "/api/jobs/{id}/bay", tag = "bay", operation_id = "loadBay", params(("id" = i64, Path)),
    responses((status = 200, body = BayWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/bay")]
pub(super) async fn bay_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    pairs: &State<LastPairs>,
    id: Id,
) -> Result<Computed, Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    let pairs = LastPairs::clone(pairs);
    workers.workup(move || Ok(pairs.bay(id.0, &job, &scans, true))).await
}

/// Pairs of things as they were measured last, by job: what has not moved since is not measured again.
#[derive(Clone, Default)]
pub(super) struct LastPairs(Arc<Mutex<HashMap<JobId, Arc<Pairs>>>>);

/// Most jobs whose pairs are remembered.
const MOST_JOBS: usize = 50;

impl LastPairs {
    /// The bay of a job.
    pub(super) fn bay(&self, id: JobId, job: &Job, scans: &Scans, mend: bool) -> BayWorkup {
        let held = || self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let before = held().get(&id).cloned();
        let (bay, pairs) = bay_given(job, &BayGiven { scans, before: before.as_deref(), mend });
        let mut all = held();
        if all.len() >= MOST_JOBS && !all.contains_key(&id) {
            all.clear();
        }
        all.insert(id, Arc::new(pairs));
        bay
    }
}

/// The datum points as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/datums.csv", tag = "bay", operation_id = "downloadDatums",
    params(("id" = i64, Path)), responses((status = 200, body = String, content_type = "text/csv")))]
#[get("/jobs/<id>/datums.csv")]
pub(super) async fn datums(store: &State<Store>, id: Id) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let text = datums_csv(&job).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::CSV, &format!("{} datum points.csv", job.name())))
}

/// Every reading as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/readings.csv", tag = "bay", operation_id = "downloadReadings",
    params(("id" = i64, Path)), responses((status = 200, body = String, content_type = "text/csv")))]
#[get("/jobs/<id>/readings.csv")]
pub(super) async fn readings(store: &State<Store>, id: Id) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let text = readings_csv(&job).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::CSV, &format!("{} readings.csv", job.name())))
}

type Reader = fn(&Job, &[u8]) -> Result<Vec<Edit>, TableFileError>;

async fn take_table(
    (store, workers): (&Store, &Workers),
    id: Id,
    (seen, me): (IfMatch, Me),
    file: Raw,
    read: Reader,
) -> Result<Tagged, Problem> {
    let job = store.job(id.0).await?;
    let edits = workers.run(move || {
        let refused = |why: &str| {
            let detail = sentence(&format!("nothing was taken: {why}"));
            Problem::new(Status::UnprocessableEntity, "no-table", "The table was not taken", detail)
        };
        let edits = read(&job, &file.0).map_err(|error| refused(&error.to_string()))?;
        if edits.is_empty() {
            return Err(refused("every line of it is there already"));
        }
        Ok(edits)
    });
    let edit = Edit::Together { edits: edits.await? };
    Ok(store.keep(id.0, seen.0, &edit, &me.0).await?.into())
}

/// Takes a table of datum points: those of a known name are set, the others added.
#[utoipa::path(post, path = "/api/jobs/{id}/datums.csv", tag = "bay", operation_id = "uploadDatums",
    request_body(content = String, content_type = "text/csv"),
    params(("id" = i64, Path), ("If-Match" = String, Header, description = super::jobs::SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = super::jobs::JobState), (status = 412, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/datums.csv", data = "<file>")]
pub(super) async fn take_datums(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    file: Result<Raw, Problem>,
) -> Result<Tagged, Problem> {
    take_table((store, workers), id, (seen?, me?), file?, read_datums).await
}

/// Takes a table of readings; those that are there already are left out.
#[utoipa::path(post, path = "/api/jobs/{id}/readings.csv", tag = "bay", operation_id = "uploadReadings",
    request_body(content = String, content_type = "text/csv"),
    params(("id" = i64, Path), ("If-Match" = String, Header, description = super::jobs::SEEN_IS),
        ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = super::jobs::JobState), (status = 412, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/readings.csv", data = "<file>")]
pub(super) async fn take_readings(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    seen: Result<IfMatch, Problem>,
    me: Result<Me, Problem>,
    file: Result<Raw, Problem>,
) -> Result<Tagged, Problem> {
    take_table((store, workers), id, (seen?, me?), file?, read_readings).await
}

/// The bay's keep-outs and ports as one binary STL in mm.
#[utoipa::path(get, path = "/api/jobs/{id}/bay.stl", tag = "bay", operation_id = "downloadBayStl",
    params(("id" = i64, Path)), responses((status = 200, content_type = "model/stl"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/bay.stl")]
pub(super) async fn stl(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Download, Problem> {
    model(store, workers, id, "stl", ContentType::new("model", "stl"), bay_stl).await
}

/// The bay's keep-outs and ports as binary glTF, each by its name.
#[utoipa::path(get, path = "/api/jobs/{id}/bay.glb", tag = "bay", operation_id = "downloadBayGltf",
    params(("id" = i64, Path)),
    responses((status = 200, content_type = "model/gltf-binary"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/bay.glb")]
pub(super) async fn glb(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Download, Problem> {
    model(store, workers, id, "glb", ContentType::new("model", "gltf-binary"), bay_glb).await
}

type Writer = fn(&[Part]) -> Result<Vec<u8>, ModelError>;

async fn model(
    store: &Store,
    workers: &Workers,
    id: Id,
    ending: &str,
    kind: ContentType,
    write: Writer,
) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let mut kept = HashMap::new();
    for keep_out in job.keep_outs() {
        if let KeepOutShape::Scan(scan) = &keep_out.shape {
            kept.insert(scan.scan.clone(), store.kept_scan(&scan.scan).await?);
        }
    }
    let name = format!("{} bay.{ending}", job.name());
    let bytes = workers.run(move || {
        write(&parts(&job, &kept)?).map_err(|error| match error {
            ModelError::Write(_) => Problem::internal(&error),
            ModelError::Nothing | ModelError::TooLarge => Problem::refused(sentence(&error.to_string())),
        })
    });
    Ok(Download::of_bytes(bytes.await?, kind, &name))
}

/// Length of the stub that stands for a port, in mm.
const STUB: f64 = 60.0;
/// How many times a swinging thing is drawn over its range.
const SWEPT: u32 = 7;

fn parts(job: &Job, kept: &HashMap<ScanId, Vec<u8>>) -> Result<Vec<Part>, Problem> {
    let mut parts = Vec::new();
    for keep_out in job.keep_outs() {
        let part = |role, facets| {
            let name = keep_out.name.as_str().to_owned();
            Part { name, role, rides: keep_out.rides, facets }
        };
        let body = match &keep_out.shape {
            KeepOutShape::Scan(scan) => {
                let bytes = kept.get(&scan.scan).ok_or(StoreError::NoSuchScan)?;
                let read = read_kept(bytes).map_err(|error| Problem::internal(&error))?;
                let vertices = read.vertices().iter().map(|v| v.map(|c| f64::from(c) * scan.unit.in_mm())).collect();
                let whole = Facets { vertices, triangles: read.corners().to_vec() };
                // Not in place yet: it lies as its file says.
                match Survey::new(job).scan(keep_out.id, scan) {
                    Ok(placed) => whole.carried(&placed.pose),
                    Err(_) => whole,
                }
            }
            _ => facets(&Survey::new(job).placed(keep_out)),
        };
        if let Some(swing) = &Survey::new(job).swing(keep_out) {
            for turn in swing.turns(SWEPT).filter(|turn| *turn != 0.0) {
                let by = about(swing.pivot.to_array().into(), swing.axis, turn);
                parts.push(part("swept", body.clone().carried(&by)));
            }
        }
        parts.push(part("keep-out", body));
    }
    for run in job.runs() {
        let settled = Survey::new(job).settle(run);
        for port in [&settled.a, &settled.b] {
            // Made at the vehicle's zero: at the edge of what a coordinate may be there is nothing behind a mouth.
            let zero = Point::default();
            let back = zero.moved(port.out.vector() * -STUB).map_err(|error| Problem::internal(&error))?;
            let stub = facets(&KeepOutShape::Cylinder { from: back, to: zero, diameter: port.od });
            let stub = stub.carried(&Translation3::from(zero.to(port.at)).into());
            let name = format!("{}, {}", run.name.as_str(), port.name);
            let rides: Side = port.rides;
            parts.push(Part { name, role: "port", rides, facets: stub });
        }
    }
    Ok(parts)
}

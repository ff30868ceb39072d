//! Consequences of one run, and its files for the saw.

use nook_core::{Edit, Job, RunId, Workup, apply, workup_among, workup_of_drag};
use nook_formats::{cut_list_csv, lra_csv, template_svg};
use nook_store::Store;
use rocket::http::ContentType;
use rocket::serde::json::Json;
use rocket::{State, get, post};

use super::body::Body;
use super::guards::Id;
use super::jobs::Download;
use super::meshes::Meshes;
use super::problem::Problem;

async fn worked_up(store: &Store, meshes: &Meshes, id: Id, run: u32) -> Result<(Job, Workup), Problem> {
    let job = store.load(id.0).await?.job;
    let scans = meshes.of(store, &job).await;
    let workup = workup_among(&job, RunId(run), &scans)?;
    Ok((job, workup))
}

/// Everything that follows for one run.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/workup", tag = "runs", operation_id = "loadWorkup",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = Workup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/workup")]
pub(super) async fn workup_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    id: Id,
    run: u32,
) -> Result<Json<Workup>, Problem> {
    Ok(Json(worked_up(store, meshes, id, run).await?.1))
}

/// What would follow from an edit; nothing is kept.
#[utoipa::path(post, path = "/api/jobs/{id}/runs/{run}/preview", tag = "runs", operation_id = "previewEdit",
    request_body = Edit, params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = Workup), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/runs/<run>/preview", data = "<edit>")]
pub(super) async fn preview(
    store: &State<Store>,
    meshes: &State<Meshes>,
    id: Id,
    run: u32,
    edit: Result<Body<Edit>, Problem>,
) -> Result<Json<Workup>, Problem> {
    let job = apply(&store.load(id.0).await?.job, &edit?.0)?;
    let scans = meshes.of(store, &job).await;
    Ok(Json(workup_of_drag(&job, RunId(run), &scans)?))
}

/// The cut list as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/cut-list.csv", tag = "runs", operation_id = "downloadCutList",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/cut-list.csv")]
pub(super) async fn cut_list(
    store: &State<Store>,
    meshes: &State<Meshes>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let (_, workup) = worked_up(store, meshes, id, run).await?;
    let text = cut_list_csv(&workup).map_err(|error| Problem::internal(&error))?;
    let text = text.ok_or_else(|| nothing_to_cut(&workup))?;
    Ok(Download::new(text, ContentType::CSV, &format!("{} cut list.csv", workup.name)))
}

/// The length-rotation-angle table as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/lra.csv", tag = "runs", operation_id = "downloadLra",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/lra.csv")]
pub(super) async fn lra(store: &State<Store>, meshes: &State<Meshes>, id: Id, run: u32) -> Result<Download, Problem> {
    let (_, workup) = worked_up(store, meshes, id, run).await?;
    let text = lra_csv(&workup).map_err(|error| Problem::internal(&error))?;
    let text = text.ok_or_else(|| Problem::refused("The way does not join the ports, so there is no table."))?;
    Ok(Download::new(text, ContentType::CSV, &format!("{} lra.csv", workup.name)))
}

/// The wrap template for one of the run's saw settings, counted from 1 as the cut list shows them.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/templates/{setting}", tag = "runs",
    operation_id = "downloadTemplate", params(("id" = i64, Path), ("run" = u32, Path), ("setting" = usize, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/templates/<setting>")]
pub(super) async fn template(
    store: &State<Store>,
    meshes: &State<Meshes>,
    id: Id,
    run: u32,
    setting: usize,
) -> Result<Download, Problem> {
    let (_, workup) = worked_up(store, meshes, id, run).await?;
    let cutting = workup.cutting.as_ref().ok_or_else(|| nothing_to_cut(&workup))?;
    let saw = setting.checked_sub(1).and_then(|index| cutting.settings.get(index)).ok_or_else(|| {
        Problem::missing(format!("This run has {} saw settings; there is no number {setting}.", cutting.settings.len()))
    })?;
    let text = template_svg(workup.od.mm(), *saw, &workup.name);
    Ok(Download::new(text, ContentType::SVG, &format!("{} template {saw:.2} deg.svg", workup.name)))
}

fn nothing_to_cut(workup: &Workup) -> Problem {
    let why = workup.findings.first().map_or("a piece would have no length", |finding| finding.words.mm.as_str());
    Problem::refused(format!("There is no cut list until this is mended: {why}"))
}

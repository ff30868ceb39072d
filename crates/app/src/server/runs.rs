//! Consequences of one run, and its files for the saw.

use nook_core::Given;
use nook_core::assembly::Assembly;
use nook_core::prove::GaugeReading;
use nook_core::record::{Progress, TestDone, TestKind};
use nook_core::route::{ResolvedRun, TableRoute};
use nook_core::survey::Survey;
use nook_core::workup::{
    DeckWorkup, FitWorkup, LandingWorkup, ProveWorkup, UnderTest, WeldWorkup, deck, fit, landing, prove, under_test,
    weld,
};
use nook_core::{Edit, EditError, Job, RouteEdit, RunId, Scans, Workup, workup_given};
use nook_formats::{
    Hollow, bay_glb, bay_stl, cut_list_csv, fittings_csv, hose_csv, lra_csv, pipe_dxf, pipe_part, pipe_step, read_lra,
    template_of,
};
use nook_geometry::units::DualUnitText;
use nook_store::Store;
use rocket::http::ContentType;
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{Body, Raw};
use super::guards::Id;
use super::jobs::Download;
use super::meshes::Meshes;
use super::problem::{Problem, sentence};
use super::record::progress;
use super::workers::{Computed, Workers};

/// What a run's consequences follow from.
pub(super) async fn given(store: &Store, meshes: &Meshes, id: Id) -> Result<(Job, Scans, Progress), Problem> {
    let job = store.job(id.0).await?;
    let scans = meshes.of(store, &job).await;
    Ok((job, scans, progress(store, id.0).await?))
}

/// A file made from a run's workup.
pub(super) async fn file_of(
    (store, meshes, workers): (&Store, &Meshes, &Workers),
    id: Id,
    run: u32,
    make: impl FnOnce(&Workup) -> Result<Download, Problem> + Send + 'static,
) -> Result<Download, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: true };
        make(&workup_given(&job, RunId(run), &given)?)
    };
    workers.run(work).await
}

/// Everything that follows for one run.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/workup", tag = "runs", operation_id = "loadWorkup",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = Workup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/workup")]
pub(super) async fn workup_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Computed, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: true };
        Ok(workup_given(&job, RunId(run), &given)?)
    };
    workers.workup(work).await
}

/// The cut list as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/cut-list.csv", tag = "runs", operation_id = "downloadCutList",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/cut-list.csv")]
pub(super) async fn cut_list(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let make = |workup: &Workup| {
        let text = cut_list_csv(workup).map_err(|error| Problem::internal(&error))?;
        let text = text.ok_or_else(|| nothing_to_cut(workup))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} cut list.csv", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// Joints and supports as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/fittings.csv", tag = "runs", operation_id = "downloadFittings",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/fittings.csv")]
pub(super) async fn fittings(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let make = |workup: &Workup| {
        let text = fittings_csv(workup).map_err(|error| Problem::internal(&error))?;
        let text =
            text.ok_or_else(|| Problem::refused("The way does not join the ports: nothing stands anywhere yet."))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} fittings.csv", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// How a hose is cut and made up, as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/hose.csv", tag = "runs", operation_id = "downloadHose",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/hose.csv")]
pub(super) async fn hose(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let make = |workup: &Workup| {
        let text = hose_csv(workup).map_err(|error| Problem::internal(&error))?;
        let text =
            text.ok_or_else(|| Problem::refused("This pipe is no hose, or its way does not join the ports yet."))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} hose.csv", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// Whether a run's pipe will land once it is made, what that hangs on, and what would raise it.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/landing", tag = "runs", operation_id = "loadLanding",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = LandingWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/landing")]
pub(super) async fn landing_of(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<LandingWorkup>, Problem> {
    let job = store.job(id.0).await?;
    let progress = progress(store, id.0).await?;
    Ok(Json(workers.run(move || Ok(landing(&job, RunId(run), &progress)?)).await?))
}

/// How a run's pipe fits as far as it is built, and what would make it land.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/fit", tag = "runs", operation_id = "loadFit",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = FitWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/fit")]
pub(super) async fn fit_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<FitWorkup>, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        Ok(fit(&job, RunId(run), &given)?)
    };
    Ok(Json(workers.run(work).await?))
}

/// How a run's pipe is welded with what the workshop has.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/weld", tag = "runs", operation_id = "loadWeld",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = WeldWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/weld")]
pub(super) async fn weld_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<WeldWorkup>, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let workshop = store.workshop().await?.workshop;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        Ok(weld(&job, &workshop, RunId(run), &given)?)
    };
    Ok(Json(workers.run(work).await?))
}

/// Whether a run's pipe is done: its test, what is checked of it, and its signature.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/prove", tag = "runs", operation_id = "loadProve",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = ProveWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/prove")]
pub(super) async fn prove_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Json<ProveWorkup>, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        Ok(prove(&job, RunId(run), &given)?)
    };
    Ok(Json(workers.run(work).await?))
}

/// What a gauge has shown so far.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct ShownSoFar {
    /// What is tested with.
    kind: TestKind,
    /// In their order.
    readings: Vec<GaugeReading>,
}

/// How a test stands by what the gauge has shown so far; nothing is kept.
#[utoipa::path(post, path = "/api/jobs/{id}/runs/{run}/prove/judge", tag = "runs", operation_id = "judgeTest",
    request_body = ShownSoFar, params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = UnderTest), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/runs/<run>/prove/judge", data = "<shown>")]
pub(super) async fn judge_test(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    shown: Result<Body<ShownSoFar>, Problem>,
) -> Result<Json<UnderTest>, Problem> {
    let ShownSoFar { kind, readings } = shown?.0;
    if readings.len() > TestDone::MOST || !readings.iter().all(GaugeReading::is_sound) {
        return Err(Problem::refused(NO_TEST));
    }
    let job = store.job(id.0).await?;
    Ok(Json(workers.run(move || Ok(under_test(&job, RunId(run), kind, &readings)?)).await?))
}

/// What is no test.
pub(super) const NO_TEST: &str =
    "A test has 1 to 2000 readings, one after the other in time; a gauge shows -1 to 60 bar and -40 to 150 \u{b0}C.";

/// What is done at the bench on one run, one act at a time.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/cards", tag = "runs", operation_id = "loadCards",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = DeckWorkup), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/cards")]
pub(super) async fn cards(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Computed, Problem> {
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        Ok(deck(&workup_given(&job, RunId(run), &given)?, &progress))
    };
    workers.json(work).await
}

/// The length-rotation-angle table as CSV.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/lra.csv", tag = "runs", operation_id = "downloadLra",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/lra.csv")]
pub(super) async fn lra(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let make = |workup: &Workup| {
        let text = lra_csv(workup).map_err(|error| Problem::internal(&error))?;
        let text = text.ok_or_else(|| Problem::refused("The way does not join the ports, so there is no table."))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} lra.csv", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// The wrap template for one of the run's saw settings, counted from 1 as the cut list shows them.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/templates/{setting}", tag = "runs",
    operation_id = "downloadTemplate", params(("id" = i64, Path), ("run" = u32, Path), ("setting" = usize, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/templates/<setting>")]
pub(super) async fn template(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    setting: usize,
) -> Result<Download, Problem> {
    let make = move |workup: &Workup| {
        let cutting = workup.cutting.as_ref().ok_or_else(|| nothing_to_cut(workup))?;
        let missing = || {
            let count = cutting.settings.len();
            Problem::missing(format!("This run has {count} saw settings; there is no number {setting}."))
        };
        let index = setting.checked_sub(1).ok_or_else(missing)?;
        let text = template_of(workup, index).ok_or_else(missing)?;
        let saw = cutting.settings.get(index).copied().unwrap_or_default();
        Ok(Download::new(text, ContentType::SVG, &format!("{} template {saw:.2} deg.svg", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

fn nothing_to_cut(workup: &Workup) -> Problem {
    if workup.hose.is_some() {
        return Problem::refused("A hose is not sawn: how it is cut and made up is in hose.csv.");
    }
    let why = workup.findings.first().map_or("a piece would have no length", |finding| finding.words.mm.as_str());
    Problem::refused(format!("There is no cut list until this is mended: {why}"))
}

/// The pipe's centre line or its solid, for other programs: `dxf`, `step`, `stl` or `glb`.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/pipe/{form}", tag = "runs", operation_id = "downloadPipe",
    params(("id" = i64, Path), ("run" = u32, Path), ("form" = String, Path, description = "dxf, step, stl or glb")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/pipe/<form>")]
pub(super) async fn pipe(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    form: String,
) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    workers.run(move || drawn(&job, run, &form)).await
}

fn drawn(job: &Job, run: u32, form: &str) -> Result<Download, Problem> {
    let settled = settled(job, run)?;
    let pipe = Assembly::build(&settled)
        .ok_or(EditError::NoWayYet)?
        .map_err(|error| Problem::refused(format!("There is no pipe to draw: {error}.")))?;
    let name = settled.name.as_str();
    let overlap =
        || Problem::refused("The pipe cannot be drawn: its bends or joints overlap; mend that first.".to_owned());
    let bodies = Hollow::all_of(&settled, &pipe).ok_or_else(overlap)?;
    let parts: Vec<_> = bodies.iter().map(pipe_part).collect();
    let failed = |error: &dyn std::fmt::Display| Problem::refused(format!("The pipe cannot be drawn: {error}."));
    let (bytes, kind) = match form {
        "dxf" => (pipe_dxf(&pipe.tube).map_err(|error| failed(&error))?, ContentType::new("image", "vnd.dxf")),
        "step" => {
            let text = pipe_step(&bodies, name).map_err(|problem| failed(&problem))?;
            (text.into_bytes(), ContentType::new("model", "step"))
        }
        "stl" => (bay_stl(&parts).map_err(|error| failed(&error))?, ContentType::new("model", "stl")),
        "glb" => (bay_glb(&parts).map_err(|error| failed(&error))?, ContentType::new("model", "gltf-binary")),
        other => {
            return Err(Problem::missing(format!(
                "A pipe is given as dxf, step, stl or glb, not as \u{201c}{other}\u{201d}."
            )));
        }
    };
    Ok(Download::of_bytes(bytes, kind, &format!("{name}.{form}")))
}

/// What taking a length-rotation-angle table would do.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct TakenTable {
    /// The edit that takes its way.
    #[schema(inline = false)]
    edit: Edit,
    /// What of the pipe differs from now, and what of what was decided is let go; empty where nothing does.
    changes: Vec<DualUnitText>,
}

/// The edit that takes the way of a length-rotation-angle table, and what it changes; nothing is kept.
#[utoipa::path(post, path = "/api/jobs/{id}/runs/{run}/lra.csv", tag = "runs", operation_id = "readLra",
    request_body(content = String, content_type = "text/csv"), params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = TakenTable), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/runs/<run>/lra.csv", data = "<table>")]
pub(super) async fn take_lra(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    table: Result<Raw, Problem>,
) -> Result<Computed, Problem> {
    let (job, table) = (store.job(id.0).await?, table?.0);
    workers
        .json(move || {
            let read = read_lra(&table, &settled(&job, run)?);
            let TableRoute { way, changes } = read.map_err(|error| Problem::refused(sentence(&error.to_string())))?;
            Ok(TakenTable { edit: Edit::Route(RouteEdit::TakeWay { run: RunId(run), way }), changes })
        })
        .await
}

fn settled(job: &Job, run: u32) -> Result<ResolvedRun, Problem> {
    let run = RunId(run);
    Ok(Survey::new(job).settle(job.run(run).ok_or(EditError::NoSuchRun { run })?))
}

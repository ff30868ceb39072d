//! The log of a job: what was done, in words, what was planned and what it took; exported as a table and on paper.

use std::collections::HashMap;

use nook_core::labour::StepMinutes;
use nook_core::rates::Rates;
use nook_core::record::{Done, PictureId, Worked, deed_words};
use nook_core::work_step::WorkStep;
use nook_core::workshop::Lesson;
use nook_core::workup::workup_given;
use nook_core::{EditError, Job};
use nook_core::{Given, RunId};
use nook_formats::{LogEntry, log_csv};
use nook_geometry::units::DualUnitText;
use nook_print::history_pdf;
use nook_store::{KeptDeed, Store};
use rocket::http::ContentType;
use rocket::serde::json::Json;
use rocket::{State, get};
use serde::Serialize;
use utoipa::ToSchema;

use super::guards::Id;
use super::jobs::Download;
use super::meshes::Meshes;
use super::problem::Problem;
use super::runs::given;
use super::workers::Workers;

/// A line of the log.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct LoggedDeed {
    /// When it came, UTC, ISO 8601.
    at: String,
    /// Who did it.
    who: String,
    /// Of which run.
    run: RunId,
    /// Of which step.
    step: WorkStep,
    /// What was done.
    words: DualUnitText,
    /// The picture that was taken; nothing of other deeds.
    picture: Option<PictureId>,
}

/// What a step of a run was planned to take, and took.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct StepSpent {
    /// Which step.
    step: WorkStep,
    /// Minutes by the usual rates.
    planned: f64,
    /// Minutes that were noted.
    spent: f64,
}

/// What a run was planned to take, and took.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct RunSpent {
    /// Which.
    run: RunId,
    /// What it is called.
    name: String,
    /// Step by step, those that take time or took it.
    steps: Vec<StepSpent>,
    /// Hours it is likely to take: least and most, by what is usual and the builder's own record; nothing where it has no pipe yet.
    #[schema(min_items = 2, max_items = 2)]
    likely: Option<[f64; 2]>,
}

/// A lesson that matters at a step of a run.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct LessonLine {
    /// Its place in the workshop, from 0.
    at: usize,
    /// What was learnt.
    #[schema(inline = false)]
    lesson: Lesson,
}

/// Lessons that matter at the steps of a run.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/lessons", tag = "record", operation_id = "loadLessons",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = [LessonLine]), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/lessons")]
pub(super) async fn lessons(store: &State<Store>, id: Id, run: u32) -> Result<Json<Vec<LessonLine>>, Problem> {
    let job = store.job(id.0).await?;
    let run = job.run(RunId(run)).ok_or(EditError::NoSuchRun { run: RunId(run) })?;
    let workshop = store.workshop().await?.workshop;
    let matters = workshop.lessons().iter().enumerate().filter(|(_, lesson)| lesson.matters(run, lesson.step));
    Ok(Json(matters.map(|(at, lesson)| LessonLine { at, lesson: lesson.clone() }).collect()))
}

/// The log of a job.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct LogState {
    /// What was done, the latest first.
    lines: Vec<LoggedDeed>,
    /// Plan against spent, run by run.
    runs: Vec<RunSpent>,
    /// How many runs of the builder's own the estimates are from.
    from_runs: usize,
    /// Pieces that were spoilt.
    spoilt: usize,
}

/// How long the builder takes beside what is usual, by what was noted of all jobs.
pub(super) async fn rates(store: &Store) -> Result<Rates, Problem> {
    let noted = store.worked().await?;
    Ok(Rates::of(noted.iter().map(|(job, run, worked)| ((job.0, run.0), *worked))))
}

fn logged(job: &Job, deeds: &[KeptDeed]) -> Vec<LoggedDeed> {
    let each = deeds.iter().rev().map(|kept| {
        let said = deed_words(job, &kept.deed);
        let who = kept.deed.by.as_str().to_owned();
        let picture = match &kept.deed.done {
            Done::Pictured { picture, .. } => Some(picture.clone()),
            _ => None,
        };
        LoggedDeed { at: kept.at.clone(), who, run: said.run, step: said.step, words: said.words, picture }
    });
    each.collect()
}

/// Minutes noted of each run and step.
fn noted(deeds: &[KeptDeed]) -> HashMap<(RunId, WorkStep), f64> {
    let mut all: HashMap<(RunId, WorkStep), Vec<f64>> = HashMap::new();
    for kept in deeds {
        match kept.deed.done {
            Done::Worked { run, worked: Worked { step, minutes, .. } } => {
                all.entry((run, step)).or_default().push(minutes);
            }
            Done::NotWorked { run, step } => {
                all.entry((run, step)).or_default().pop();
            }
            _ => {}
        }
    }
    all.into_iter().map(|(key, minutes)| (key, minutes.iter().sum())).collect()
}

/// What was done on a job, what was planned, and what it took.
#[utoipa::path(get, path = "/api/jobs/{id}/log", tag = "record", operation_id = "loadLog", params(("id" = i64, Path)),
    responses((status = 200, body = LogState), (status = 404, body = Problem)))]
#[get("/jobs/<id>/log")]
pub(super) async fn log_of(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
) -> Result<Json<LogState>, Problem> {
    let deeds = store.record(id.0).await?.deeds;
    let rates = rates(store).await?;
    let (job, scans, progress) = given(store, meshes, id).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        let spent = noted(&deeds);
        let mut runs = Vec::new();
        for run in job.runs() {
            let totals = workup_given(&job, run.id, &given)?.totals;
            let labour: Vec<StepMinutes> = totals.map_or_else(Vec::new, |totals| totals.labour);
            let steps = WorkStep::ALL.into_iter().map(|step| StepSpent {
                step,
                planned: labour.iter().filter(|one| one.step == step).map(|one| one.minutes).sum(),
                spent: spent.get(&(run.id, step)).copied().unwrap_or(0.0),
            });
            let hours = rates.hours(&labour);
            runs.push(RunSpent {
                run: run.id,
                name: run.name.as_str().to_owned(),
                steps: steps.filter(|one| one.planned > 0.0 || one.spent > 0.0).collect(),
                likely: (!labour.is_empty()).then(|| hours.range()),
            });
        }
        Ok(LogState { lines: logged(&job, &deeds), runs, from_runs: rates.runs(), spoilt: progress.scrap()[0] })
    };
    Ok(Json(workers.run(work).await?))
}

async fn entries(store: &Store, id: Id) -> Result<(Job, Vec<LogEntry>), Problem> {
    let job = store.job(id.0).await?;
    let deeds = store.record(id.0).await?.deeds;
    let each = deeds.iter().map(|kept| {
        let said = deed_words(&job, &kept.deed);
        LogEntry { at: kept.at.clone(), who: kept.deed.by.as_str().to_owned(), step: said.step, words: said.words.mm }
    });
    let all = each.collect();
    Ok((job, all))
}

/// What was done on a job, as a table.
#[utoipa::path(get, path = "/api/jobs/{id}/log.csv", tag = "record", operation_id = "downloadLog",
    params(("id" = i64, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/log.csv")]
pub(super) async fn table(store: &State<Store>, id: Id) -> Result<Download, Problem> {
    let (job, all) = entries(store, id).await?;
    let text = log_csv(&all).map_err(|error| Problem::internal(&error))?;
    Ok(Download::new(text, ContentType::CSV, &format!("{} log.csv", job.name())))
}

/// What was done on a job, on paper: the vehicle's history.
#[utoipa::path(get, path = "/api/jobs/{id}/history.pdf", tag = "record", operation_id = "printHistory",
    params(("id" = i64, Path)),
    responses((status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/history.pdf")]
pub(super) async fn history(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Download, Problem> {
    let (job, all) = entries(store, id).await?;
    let work = move || {
        let lines = all.iter().map(|one| [one.at.clone(), one.who.clone(), one.words.clone()]);
        let bytes = history_pdf(job.name(), &lines.collect::<Vec<_>>())?;
        Ok(Download::of_bytes(bytes, ContentType::PDF, &format!("{} history.pdf", job.name())).shown())
    };
    workers.run(work).await
}

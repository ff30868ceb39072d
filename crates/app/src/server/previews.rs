//! What would follow from an edit: of one run, of the bay, or of both.

use std::sync::Arc;

use nook_core::edit::Applied;
use nook_core::findings::held_words;
use nook_core::workup::{BayWorkup, RunGlance, ToJson, glances};
use nook_core::{Edit, EditError, Given, PartRef, RunId, Workup, apply, workup_given};
use nook_geometry::units::DualUnitText;
use nook_store::Store;
use rocket::{State, post};
use serde::{Deserialize, Serialize};
use serde_json::value::RawValue;
use utoipa::ToSchema;

use super::bay::LastPairs;
use super::body::Body;
use super::guards::Id;
use super::meshes::Meshes;
use super::problem::Problem;
use super::record::progress;
use super::workers::{Computed, Workers};

/// An edit, and of what its consequences are wanted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Asked {
    /// The edit.
    edit: Edit,
    /// Of which run; nothing where only the bay is of interest.
    #[serde(default)]
    run: Option<RunId>,
}

/// What would follow.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct Preview {
    /// Everything about the run that was asked for.
    #[schema(value_type = Option<Workup>)]
    workup: Option<Box<RawValue>>,
    /// Where everything would be; nothing where the edit moves nothing in the bay.
    #[schema(value_type = Option<BayWorkup>)]
    bay: Option<Box<RawValue>>,
    /// Runs that end on components which the edit moves, as they would be.
    runs: Vec<RunGlance>,
    /// What holds an edit that goes as far as it can, where it does not get all the way.
    held: Option<DualUnitText>,
    /// What the edit would make, in order.
    made: Vec<PartRef>,
}

/// What would follow from an edit; nothing is kept.
#[utoipa::path(post, path = "/api/jobs/{id}/preview", tag = "jobs", operation_id = "previewEdit",
    request_body = Asked, params(("id" = i64, Path)),
    responses((status = 200, body = Preview), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/jobs/<id>/preview", data = "<asked>")]
pub(super) async fn preview(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    pairs: &State<LastPairs>,
    id: Id,
    asked: Result<Body<Asked>, Problem>,
) -> Result<Computed, Problem> {
    let Asked { edit, run } = asked?.0;
    let job = store.job(id.0).await?;
    let bay_too = edit.moves_things();
    let before = Arc::new(job);
    let base = Arc::clone(&before);
    let Applied { job, made, held } = workers.run(move || Ok(apply(&base, &edit)?)).await?;
    let scans = meshes.of(store, &job).await;
    let progress = progress(store, id.0).await?;
    let pairs = LastPairs::clone(pairs);
    let work = move || {
        let failed = |error: serde_json::Error| Problem::internal(&error);
        let way = |run: RunId| job.run(run).map(|run| &run.route).ok_or(EditError::NoSuchRun { run });
        let (workup, held) = match run {
            Some(run) => {
                let held = held.map(|held| Ok::<_, EditError>(held_words(&held, way(run)?))).transpose()?;
                let given = Given { scans: &scans, progress: &progress, mend: false };
                (Some(workup_given(&job, run, &given)?.to_json().map_err(failed)?), held)
            }
            None => (None, None),
        };
        let bay = bay_too.then(|| pairs.bay(id.0, &job, &scans, false).to_json().map_err(failed)).transpose()?;
        let given = Given { scans: &scans, progress: &progress, mend: false };
        let runs = glances(&before, &job, &given);
        Ok(Preview { workup, bay, runs, held, made })
    };
    workers.json(work).await
}

//! The big things: their brackets on paper, and where else they might stand.

use nook_core::measure::{ComponentId, MountId};
use nook_core::workup::{BayGiven, bay_given, jig};
use nook_core::{EditError, RunId, Scans};
use nook_formats::{bracket_svg, jig_svg};
use nook_store::Store;
use rocket::http::ContentType;
use rocket::{State, get};

use super::guards::Id;
use super::jobs::Download;
use super::problem::Problem;
use super::workers::Workers;

/// The flat pattern of a bracket at true scale.
#[utoipa::path(get, path = "/api/jobs/{id}/components/{component}/mounts/{mount}/bracket", tag = "bay",
    operation_id = "downloadBracket",
    params(("id" = i64, Path), ("component" = u32, Path), ("mount" = u32, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/components/<component>/mounts/<mount>/bracket")]
pub(super) async fn bracket(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    component: u32,
    mount: u32,
) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let (component, mount) = (ComponentId(component), MountId(mount));
    let work = move || {
        let (bay, _) = bay_given(&job, &BayGiven { scans: &Scans::default(), before: None, mend: false });
        let whole = bay.components.iter().find(|one| one.component == component);
        let whole = whole.ok_or(EditError::NoSuchComponent { component })?;
        let one = whole.placing.mounts.iter().find(|one| one.mount == mount).ok_or(EditError::NoSuchMount { mount })?;
        let text = bracket_svg(&whole.name, one).ok_or_else(|| {
            let why = one.problem.as_deref().unwrap_or("no bracket is planned there");
            Problem::refused(format!("There is no bracket to draw: {why}."))
        })?;
        Ok((text, format!("{} {} bracket.svg", whole.name, one.is.name.as_str())))
    };
    let (text, name) = workers.run(work).await?;
    Ok(Download::new(text, ContentType::SVG, &name))
}

/// A jig for the bench at true scale.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/jig.svg", tag = "runs", operation_id = "downloadJig",
    params(("id" = i64, Path), ("run" = u32, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/jig.svg")]
pub(super) async fn jig_drawing(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
) -> Result<Download, Problem> {
    let job = store.job(id.0).await?;
    let work = move || {
        let of = job.run(RunId(run)).map_or_else(String::new, |run| run.name.as_str().to_owned());
        Ok((jig_svg(&of, &jig(&job, RunId(run))?), of))
    };
    let (text, of) = workers.run(work).await?;
    Ok(Download::new(text, ContentType::SVG, &format!("{of} jig.svg")))
}

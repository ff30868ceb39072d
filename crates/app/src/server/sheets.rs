//! What of a run is cut to paper: plates, branches, tabs and necks at true scale.

use nook_core::Workup;
use nook_core::measure::End;
use nook_core::route::{BranchId, JointId, SupportId};
use nook_formats::{neck_svg, plate_svg, tab_svg};
use nook_store::Store;
use rocket::http::ContentType;
use rocket::{State, get};

use super::guards::Id;
use super::jobs::Download;
use super::meshes::Meshes;
use super::problem::Problem;
use super::runs::file_of;
use super::workers::Workers;

/// The flange plate of a joint as an SVG at true scale.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/joints/{joint}/plate.svg", tag = "runs", operation_id = "downloadPlate",
    params(("id" = i64, Path), ("run" = u32, Path), ("joint" = u32, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/joints/<joint>/plate.svg")]
pub(super) async fn plate(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    joint: u32,
) -> Result<Download, Problem> {
    let make = move |workup: &Workup| {
        let text = plate_svg(workup, JointId(joint));
        let text = text.ok_or_else(|| {
            Problem::refused("No flange plate was measured for that joint, or its distances make none.")
        })?;
        Ok(Download::new(text, ContentType::SVG, &format!("{} plate.svg", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// The template for a branch of a run: its hole in the tube, and the cope of its end.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/branches/{branch}/template", tag = "runs",
    operation_id = "downloadBranchTemplate", params(("id" = i64, Path), ("run" = u32, Path), ("branch" = u32, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/branches/<branch>/template")]
pub(super) async fn branch_template(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    branch: u32,
) -> Result<Download, Problem> {
    let make = move |workup: &Workup| {
        let missing = || Problem::missing(format!("This run has no branch {branch} that sits on its tube all round."));
        let text = nook_formats::branch_template(workup, BranchId(branch)).ok_or_else(missing)?;
        Ok(Download::new(text, ContentType::SVG, &format!("{} branch {branch}.svg", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// The pattern of a support's welded tab as an SVG at true scale.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/supports/{support}/tab.svg", tag = "runs", operation_id = "downloadTab",
    params(("id" = i64, Path), ("run" = u32, Path), ("support" = u32, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/supports/<support>/tab.svg")]
pub(super) async fn tab(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    support: u32,
) -> Result<Download, Problem> {
    let make = move |workup: &Workup| {
        let text = tab_svg(workup, SupportId(support));
        let text = text.ok_or_else(|| {
            Problem::refused("That is no welded tab, or it stands too low to be bent: less than its own thickness is left for a leg.")
        })?;
        Ok(Download::new(text, ContentType::SVG, &format!("{} tab.svg", workup.name)))
    };
    file_of((store, meshes, workers), id, run, make).await
}

/// The template for a component's neck that is sawn through to be turned, as an SVG at true scale.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/ends/{end}/neck.svg", tag = "runs", operation_id = "downloadNeck",
    params(("id" = i64, Path), ("run" = u32, Path), ("end" = String, Path, description = "a or b")),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/ends/<end>/neck.svg")]
pub(super) async fn neck(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    end: String,
) -> Result<Download, Problem> {
    let end = match end.as_str() {
        "a" => End::A,
        "b" => End::B,
        other => return Err(Problem::missing(format!("A run has ends a and b, and no \u{201c}{other}\u{201d}."))),
    };
    let make = move |workup: &Workup| {
        let text = neck_svg(workup, end);
        let text =
            text.ok_or_else(|| Problem::refused("The neck there is not turned; a square cut wants no paper."))?;
        Ok(Download::new(text, ContentType::SVG, &format!("{} neck {}.svg", workup.name, end.letter())))
    };
    file_of((store, meshes, workers), id, run, make).await
}

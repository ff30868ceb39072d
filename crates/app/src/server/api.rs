//! The description of the API, and what it serves of itself.

use nook_core::join::JointPart;
use nook_core::measure::ComponentDesign;
use nook_core::stock::Catalogue;
use rocket::serde::json::Json;
use rocket::{Route, State, get, routes};
use utoipa::OpenApi;

use super::statuses::{Statuses, Steps};
use super::{
    apart, api, bay, boxes, changes, instruments, jobs, lengths, log, pairing, pictures, places, previews, print,
    problem, rack, record, runs, scans, sheets, sticks, stock, ways, workshop,
};

/// What is served and described: each route is named once.
macro_rules! endpoints {
    ($($module:ident::$name:ident),* $(,)?) => {
        /// Everything the server offers.
        #[derive(OpenApi)]
        #[openapi(
            info(
                title = "Nook Bend",
                description = "Decisions in, consequences out: a job is changed by edits, and a workup tells what follows. Lengths in mm, angles in degrees.",
                license(name = "MIT OR Apache-2.0")
            ),
            paths($($module::$name),*),
            modifiers(&Statuses, &Steps),
            components(schemas(
                problem::Problem,
                instruments::Field,
                instruments::InstrumentNews,
                scans::ScanNews,
                nook_print::Paper,
                nook_print::SheetKind
            ))
        )]
        struct ApiDoc;

        /// The routes under `/api` that do the work, and those that describe it.
        pub(super) fn routes() -> Vec<Route> {
            routes![api::openapi_json, api::job_schema_json, $($module::$name),*]
        }
    };
}

endpoints! {
    api::catalogue,
    api::component_designs,
    api::joint_parts,
    jobs::list,
    jobs::create,
    jobs::upload,
    jobs::load,
    jobs::delete,
    jobs::file,
    jobs::keep,
    jobs::undo,
    jobs::redo,
    previews::preview,
    jobs::raw,
    jobs::recover,
    changes::follow,
    bay::bay_of,
    bay::datums,
    bay::readings,
    bay::take_datums,
    bay::take_readings,
    bay::stl,
    bay::glb,
    boxes::bracket,
    boxes::jig_drawing,
    places::look,
    apart::section,
    apart::order,
    apart::partings,
    stock::stock,
    stock::table,
    stock::sawn,
    stock::elbows,
    stock::buying,
    sticks::cards,
    sticks::add,
    print::run_packet,
    print::job_packet,
    rack::rack_of,
    rack::truing_of,
    rack::jig_of,
    rack::hold_up,
    rack::gap_of,
    rack::set_out,
    record::load,
    record::add,
    log::log_of,
    log::table,
    log::history,
    log::lessons,
    pictures::keep,
    pictures::load,
    workshop::load,
    workshop::keep,
    workshop::file,
    workshop::take_file,
    workshop::shelf,
    workshop::take_shelf,
    scans::list,
    scans::upload,
    scans::delete,
    scans::drawn,
    scans::whole,
    instruments::list,
    instruments::listen,
    instruments::press,
    instruments::log,
    lengths::read,
    lengths::show,
    pairing::pairing,
    pairing::new_code,
    pairing::take_back,
    pairing::end,
    pairing::session,
    runs::workup_of,
    runs::cut_list,
    runs::fittings,
    runs::hose,
    runs::lra,
    runs::cards,
    runs::fit_of,
    runs::landing_of,
    runs::weld_of,
    runs::prove_of,
    runs::judge_test,
    runs::template,
    runs::pipe,
    sheets::plate,
    sheets::branch_template,
    sheets::tab,
    sheets::neck,
    runs::take_lra,
    ways::look,
    ways::standings,
    ways::schools,
    ways::order,
    ways::kept,
    ways::twin,
}

/// The `OpenAPI` document.
pub(crate) fn openapi() -> utoipa::openapi::OpenApi {
    ApiDoc::openapi()
}

#[get("/openapi.json")]
pub(super) fn openapi_json() -> Json<utoipa::openapi::OpenApi> {
    Json(openapi())
}

#[get("/job-schema.json")]
pub(super) fn job_schema_json() -> Json<rocket::serde::json::Value> {
    Json(nook_formats::job_schema())
}

/// Tube as it is sold.
#[utoipa::path(get, path = "/api/catalogue", tag = "stock", operation_id = "loadCatalogue",
    responses((status = 200, body = Catalogue)))]
#[get("/catalogue")]
pub(super) fn catalogue(catalogue: &State<Catalogue>) -> Json<Catalogue> {
    Json(catalogue.inner().clone())
}

/// Boxes that coolers, radiators and tanks come as, to put in a component's place.
#[utoipa::path(get, path = "/api/catalogue/components", tag = "stock", operation_id = "loadComponentDesigns",
    responses((status = 200, body = [ComponentDesign])))]
#[get("/catalogue/components")]
pub(super) fn component_designs(designs: &State<Vec<ComponentDesign>>) -> Json<Vec<ComponentDesign>> {
    Json(designs.inner().clone())
}

/// Parts that joints are made with: one is kept whole in the job that takes it.
#[utoipa::path(get, path = "/api/catalogue/joints", tag = "stock", operation_id = "loadJointParts",
    responses((status = 200, body = [JointPart])))]
#[get("/catalogue/joints")]
pub(super) fn joint_parts(parts: &State<Vec<JointPart>>) -> Json<Vec<JointPart>> {
    Json(parts.inner().clone())
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The front end's types are made from this file. To renew it: `cargo xtask client`.
    #[test]
    fn the_committed_description_is_the_served_one() {
        let now = serde_json::to_string_pretty(&openapi()).unwrap() + "\n";
        let committed = include_str!("../../../../docs/openapi.json");
        assert!(now == committed, "docs/openapi.json has drifted; run `cargo xtask client`");
    }
}

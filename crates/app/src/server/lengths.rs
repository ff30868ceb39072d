//! Reading a length as somebody typed it.

use nook_geometry::units::{LengthUnit, Measure, read_length};
use rocket::serde::json::Json;
use rocket::{State, post};
use serde::Deserialize;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::{Problem, sentence};
use super::workers::{Computed, Workers};

/// A length as it was typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Typed {
    /// The text.
    text: String,
    /// The unit a bare number is in.
    unit: LengthUnit,
}

/// Reads a length: `86`, `85.7 mm`, `3 3/8`, `2.5in`.
#[utoipa::path(post, path = "/api/length", tag = "lengths", operation_id = "readLength", request_body = Typed,
    responses((status = 200, body = Measure), (status = 422, body = Problem)))]
#[post("/length", data = "<typed>")]
pub(super) fn read(typed: Result<Body<Typed>, Problem>) -> Result<Json<Measure>, Problem> {
    let Typed { text, unit } = typed?.0;
    let mm = read_length(&text, unit).map_err(|error| Problem::refused(sentence(&error.to_string())))?;
    Ok(Json(Measure(mm)))
}

/// How lengths in mm are shown in both units; for lengths that are in no workup yet.
#[utoipa::path(post, path = "/api/measures", tag = "lengths", operation_id = "showLengths", request_body = Vec<f64>,
    responses((status = 200, body = Vec<Measure>)))]
#[post("/measures", data = "<lengths>")]
pub(super) async fn show(
    workers: &State<Workers>,
    lengths: Result<Body<Vec<f64>>, Problem>,
) -> Result<Computed, Problem> {
    let lengths = lengths?.0;
    workers.json(move || Ok(lengths.into_iter().map(Measure).collect::<Vec<_>>())).await
}

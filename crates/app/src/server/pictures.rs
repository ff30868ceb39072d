//! Pictures that the log shows.

use nook_core::record::PictureId;
use nook_store::{PictureForm, Store};
use rocket::http::{ContentType, Status};
use rocket::serde::json::Json;
use rocket::{State, get, post};
use serde::Serialize;
use sha2::{Digest, Sha256};
use utoipa::ToSchema;

use super::body::Raw;
use super::problem::Problem;

/// Largest picture in bytes: what a phone takes.
const LARGEST: usize = 16 * 1024 * 1024;
/// What files of each form begin with.
const PNG: &[u8] = b"\x89PNG\r\n\x1a\n";
const JPEG: &[u8] = b"\xff\xd8\xff";

/// A picture that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub(super) struct KeptPicture {
    /// Which, by its content.
    id: PictureId,
}

/// Keeps a picture, PNG or JPEG, by its content.
#[utoipa::path(post, path = "/api/pictures", tag = "record", operation_id = "keepPicture",
    request_body(content = String, content_type = "application/octet-stream"),
    responses((status = 200, body = KeptPicture), (status = 413, body = Problem), (status = 422, body = Problem),
        (status = 507, body = Problem)))]
#[post("/pictures", data = "<file>")]
pub(super) async fn keep(store: &State<Store>, file: Result<Raw, Problem>) -> Result<Json<KeptPicture>, Problem> {
    let bytes = file?.0;
    if bytes.len() > LARGEST {
        let detail = format!("A picture has at most {} MB; this one has {}.", LARGEST >> 20, bytes.len() >> 20);
        return Err(Problem::new(Status::PayloadTooLarge, "too-large", "Too large", detail));
    }
    let form = if bytes.starts_with(PNG) {
        PictureForm::Png
    } else if bytes.starts_with(JPEG) {
        PictureForm::Jpeg
    } else {
        return Err(Problem::refused("That is neither a PNG nor a JPEG: other files are not kept in the log."));
    };
    let name: String = Sha256::digest(&bytes).iter().map(|byte| format!("{byte:02x}")).collect();
    let id = PictureId::try_from(name).map_err(|error| Problem::internal(&error))?;
    store.keep_picture(&id, form, &bytes).await?;
    Ok(Json(KeptPicture { id }))
}

/// A picture.
#[utoipa::path(get, path = "/api/pictures/{id}", tag = "record", operation_id = "loadPicture",
    params(("id" = String, Path)),
    responses((status = 200, content_type = "image/png"), (status = 404, body = Problem)))]
#[get("/pictures/<id>")]
pub(super) async fn load(store: &State<Store>, id: String) -> Result<(ContentType, Vec<u8>), Problem> {
    let missing = || Problem::missing("There is no such picture.");
    let id = PictureId::try_from(id).map_err(|_| missing())?;
    let (form, bytes) = store.picture(&id).await?.ok_or_else(missing)?;
    let kind = match form {
        PictureForm::Png => ContentType::PNG,
        PictureForm::Jpeg => ContentType::JPEG,
    };
    Ok((kind, bytes))
}

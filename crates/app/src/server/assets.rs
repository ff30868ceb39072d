//! The front end.

use std::path::PathBuf;

use rocket::http::{ContentType, Header, Status};
use rocket::response::{self, Responder};
use rocket::{Request, Response, State, get};

use super::headers::policy;
use super::problem::Problem;
use crate::FrontEnd;

/// A file of the front end.
pub(super) struct Asset {
    bytes: Vec<u8>,
    kind: ContentType,
    policy: Option<String>,
    lasting: bool,
}

impl<'r> Responder<'r, 'static> for Asset {
    fn respond_to(self, request: &'r Request<'_>) -> response::Result<'static> {
        let mut response = Response::build_from(self.bytes.respond_to(request)?);
        response.header(self.kind).status(Status::Ok);
        // Files under assets/ carry a hash of their content in their name.
        let keep = if self.lasting { "public, max-age=31536000, immutable" } else { "no-cache" };
        response.header(Header::new("Cache-Control", keep));
        if let Some(policy) = self.policy {
            response.header(Header::new("Content-Security-Policy", policy));
        }
        response.ok()
    }
}

/// The page. Style sheets that the interface library writes at run time carry a nonce that is new for every
/// answer.
#[get("/")]
pub(super) fn index(front_end: &State<FrontEnd>) -> Result<Asset, Problem> {
    let page = front_end("index.html").ok_or_else(|| {
        Problem::missing("This binary was built without its front end. Build it with `cargo xtask demo`.")
    })?;
    let nonce = random_hex::<16>()?;
    let text = String::from_utf8_lossy(&page).replace("__NONCE__", &nonce);
    let policy = Some(policy(&format!(" 'nonce-{nonce}'")));
    Ok(Asset { bytes: text.into_bytes(), kind: ContentType::HTML, policy, lasting: false })
}

/// So many random bytes from the operating system, in hexadecimal.
pub(super) fn random_hex<const BYTES: usize>() -> Result<String, Problem> {
    let mut bytes = [0_u8; BYTES];
    getrandom::fill(&mut bytes).map_err(|error| Problem::internal(&error))?;
    Ok(bytes.iter().map(|byte| format!("{byte:02x}")).collect())
}

/// Any other file; every other path is a place inside the application and gets the page.
#[get("/<path..>", rank = 20)]
#[expect(clippy::needless_pass_by_value, reason = "Rocket hands path segments over by value")]
pub(super) fn file(path: PathBuf, front_end: &State<FrontEnd>) -> Result<Asset, Problem> {
    let name = path.to_string_lossy().replace('\\', "/");
    if let Some(file) = front_end(&name) {
        let kind = path.extension().and_then(|e| ContentType::from_extension(&e.to_string_lossy()));
        let lasting = name.starts_with("assets/");
        // The documentation page styles itself at run time and shows nobody else's content.
        let policy = name.starts_with("docs/").then(|| policy(" 'unsafe-inline'"));
        let kind = kind.unwrap_or(ContentType::Binary);
        return Ok(Asset { bytes: file.into_owned(), kind, policy, lasting });
    }
    if name.starts_with("api/") || path.extension().is_some() {
        return Err(Problem::missing(format!("There is nothing at /{name}.")));
    }
    index(front_end)
}

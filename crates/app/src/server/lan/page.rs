//! The page where a device is paired. It is all that one that is not paired gets to see, so it stands by itself: no
//! script, and nothing of the application.

use std::sync::Arc;
use std::time::{Duration, Instant};

use nook_geometry::units::Name;
use nook_store::{Store, StoreError};
use rocket::form::{Form, FromForm};
use rocket::http::{ContentType, Cookie, CookieJar, Header, SameSite, Status};
use rocket::response::{self, Redirect, Responder};
use rocket::{Request, Response, State, get, post};

use super::desk::Try;
use super::guard::{COOKIE, digest};
use super::{Lan, Paired};
use crate::server::assets::random_hex;
use crate::server::problem::{Problem, sentence};

/// Where it is.
pub(super) const PAIR: &str = "/pair";
/// All that is open to everybody, by its exact path.
pub(super) const OPEN: [&str; 4] = [PAIR, "/pair/heading.ttf", "/pair/text.ttf", "/pair/authority.crt"];

/// How long a browser keeps its token; a device that asks nothing for 90 days is forgotten before.
const KEPT: time::Duration = time::Duration::days(400);

/// The page, with what became of the last try.
pub(super) struct PairPage {
    status: Status,
    told: String,
    code: String,
    paired_as: Option<String>,
    fingerprint: String,
}

impl PairPage {
    fn new(lan: &Lan) -> Self {
        let fingerprint = lan.fingerprint.clone();
        Self { status: Status::Ok, told: String::new(), code: String::new(), paired_as: None, fingerprint }
    }

    fn told(lan: &Lan, status: Status, told: impl Into<String>) -> Self {
        Self { status, told: told.into(), ..Self::new(lan) }
    }

    fn html(&self, nonce: &str) -> String {
        let told = match self.told.as_str() {
            "" => String::new(),
            told => format!("<p role=\"alert\">{}</p>", escaped(told)),
        };
        let body = match &self.paired_as {
            Some(name) => format!(
                "<p>This device is paired as <b>{}</b>.</p><p><a class=\"button\" href=\"/\">To the jobs</a></p>",
                escaped(name)
            ),
            None => format!(include_str!("pair_form.html"), told = told, code = escaped(&self.code)),
        };
        format!(include_str!("pair.html"), nonce = nonce, body = body, fingerprint = self.fingerprint)
    }
}

/// A text between tags or in quotes.
fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;").replace('\'', "&#39;")
}

impl<'r> Responder<'r, 'static> for PairPage {
    fn respond_to(self, request: &'r Request<'_>) -> response::Result<'static> {
        let nonce = random_hex::<16>().map_err(|_| Status::InternalServerError)?;
        let policy = format!(
            "default-src 'none'; style-src 'nonce-{nonce}'; font-src 'self'; img-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
        );
        Response::build_from(self.html(&nonce).respond_to(request)?)
            .status(self.status)
            .header(ContentType::HTML)
            .header(Header::new("Content-Security-Policy", policy))
            // Without, browsers send the form with no origin that could be told from a foreign one (Fetch, 3.2).
            .header(Header::new("Referrer-Policy", "same-origin"))
            .ok()
    }
}

/// The page; `code` comes from the picture that was scanned.
#[get("/pair?<code>")]
pub(super) fn show(code: Option<&str>, lan: &State<Arc<Lan>>, paired: Result<Paired, Problem>) -> PairPage {
    let code = code.unwrap_or_default().chars().filter(char::is_ascii_digit).take(8).collect();
    let paired_as = paired.ok().and_then(|Paired(session)| session).map(|session| session.name);
    PairPage { code, paired_as, ..PairPage::new(lan) }
}

/// What the page sends.
#[derive(FromForm)]
pub(super) struct Asked<'r> {
    code: &'r str,
    name: &'r str,
}

/// Who asks, where the front knows it.
pub(super) struct Peer(Option<std::net::IpAddr>);

#[rocket::async_trait]
impl<'r> rocket::request::FromRequest<'r> for Peer {
    type Error = std::convert::Infallible;

    async fn from_request(request: &'r Request<'_>) -> rocket::request::Outcome<Self, Self::Error> {
        let lan = request.rocket().state::<Arc<Lan>>();
        rocket::request::Outcome::Success(Self(lan.and_then(|lan| lan.peers.of(request))))
    }
}

/// Tries a code, and begins a session where it is right.
#[post("/pair", data = "<asked>")]
pub(super) async fn pair(
    asked: Option<Form<Asked<'_>>>,
    peer: Peer,
    lan: &State<Arc<Lan>>,
    store: &State<Store>,
    cookies: &CookieJar<'_>,
) -> Result<Redirect, PairPage> {
    let refused = |status, told: String| Err(PairPage::told(lan, status, told));
    let Some(asked) = asked else {
        return refused(Status::BadRequest, "The form came without its code or its name. Do it again.".to_owned());
    };
    // Before the code is tried, which uses it up.
    let Ok(name) = Name::new(asked.name) else {
        let told = "Give this device a name of 1 to 80 letters, so that you know it in the list.";
        let code = asked.code.chars().filter(char::is_ascii_digit).take(8).collect();
        return Err(PairPage { code, ..PairPage::told(lan, Status::BadRequest, told) });
    };
    let Peer(Some(peer)) = peer else {
        return refused(Status::ServiceUnavailable, "The connection broke off. Do it again.".to_owned());
    };
    let tried = lan.desk().try_code(peer, asked.code, Instant::now());
    match tried {
        Try::Right => {}
        Try::Wrong { left } => {
            tracing::warn!(%peer, "a wrong pairing code");
            let told = match left {
                0 => "That is not the code on the computer. This device has to wait now.".to_owned(),
                left => {
                    format!("That is not the code on the computer. {left} more of this device\u{2019}s tries are left.")
                }
            };
            return refused(Status::Forbidden, told);
        }
        Try::NoCode => {
            let told =
                "No code is out, or it is older than ten minutes. Press \u{201c}New code\u{201d} on the computer.";
            return refused(Status::Forbidden, told.to_owned());
        }
        Try::Wait { time } => return refused(Status::TooManyRequests, wait(time)),
    }
    let token = random_hex::<32>().map_err(|_| {
        PairPage::told(lan, Status::InternalServerError, "The computer has no random numbers. Make a new code there.")
    })?;
    let begun = store.begin_session(name.as_str(), &digest(&token), &peer.to_string()).await;
    let session = begun.map_err(|error| not_begun(lan, &error))?;
    tracing::info!(%peer, name = session.name, "a device was paired");
    let cookie = Cookie::build((COOKIE, token)).path("/").secure(true).http_only(true);
    cookies.add(cookie.same_site(SameSite::Strict).max_age(KEPT));
    Ok(Redirect::to("/"))
}

fn wait(time: Duration) -> String {
    let minutes = time.as_secs().div_ceil(60).max(1);
    let minutes = if minutes == 1 { "a minute".to_owned() } else { format!("{minutes} minutes") };
    format!("Too many wrong codes came from this device. Try again in {minutes}.")
}

fn not_begun(lan: &Lan, error: &StoreError) -> PairPage {
    tracing::warn!(%error, "a device was not paired");
    let status = match error {
        StoreError::Full { .. } => Status::Conflict,
        StoreError::NoRoom { .. } => Status::InsufficientStorage,
        _ => Status::ServiceUnavailable,
    };
    let told = sentence(&format!("the code was right, but this device was not paired: {error}"));
    PairPage::told(lan, status, told + " Mend that on the computer and make a new code.")
}

/// A font of the page.
#[get("/pair/<name>", rank = 2)]
pub(super) fn font(name: &str) -> Option<(ContentType, &'static [u8])> {
    let bytes = match name {
        "heading.ttf" => nook_print::HEADING_FONT,
        "text.ttf" => nook_print::TEXT_FONT,
        _ => return None,
    };
    Some((ContentType::TTF, bytes))
}

/// What a device may be told to trust, so that it warns no more.
#[get("/pair/authority.crt")]
pub(super) fn authority(lan: &State<Arc<Lan>>) -> (ContentType, Vec<u8>) {
    (ContentType::new("application", "x-x509-ca-cert"), lan.authority.clone())
}

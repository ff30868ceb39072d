//! Who is let in.

use std::sync::Arc;

use nook_store::{Session, Store, StoreError, TokenDigest};
use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::uri::Origin;
use rocket::http::{Method, Status};
use rocket::request::{FromRequest, Outcome};
use rocket::{Data, Request, async_trait, get};
use sha2::{Digest, Sha256};

use super::{Lan, Reach, page};
use crate::server::problem::Problem;

/// The cookie that holds a session's token. Its prefix keeps browsers from taking it from, or giving it to, anybody but
/// this server, and only over TLS (RFC 6265bis, 4.1.3.2).
pub(super) const COOKIE: &str = "__Host-session";

const UNPAIRED: &str = "/api/unpaired";
const UNKNOWN: &str = "/api/unknown-device";

/// What is known of a token: only a digest of it is kept.
pub(super) fn digest(token: &str) -> TokenDigest {
    Sha256::digest(token.as_bytes()).into()
}

/// The session a request belongs to, looked up once.
async fn session<'r>(request: &'r Request<'_>) -> &'r Result<Option<Session>, StoreError> {
    request
        .local_cache_async(async {
            let state = request.rocket();
            let token = request.cookies().get(COOKIE).map(|cookie| digest(cookie.value()));
            let (Some(store), Some(lan), Some(token)) = (state.state::<Store>(), state.state::<Arc<Lan>>(), token)
            else {
                return Ok(None);
            };
            let peer = lan.peers.of(request).map_or_else(|| "?".to_owned(), |peer| peer.to_string());
            store.session_of(&token, &peer).await
        })
        .await
}

/// Turns every request of a device that is not paired to the page where one pairs, or refuses it.
pub(super) struct PairedOnly;

#[async_trait]
impl Fairing for PairedOnly {
    fn info(&self) -> Info {
        Info { name: "paired devices only", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _data: &mut Data<'_>) {
        if page::OPEN.contains(&request.uri().path().as_str()) {
            return;
        }
        let to = match session(request).await {
            Ok(Some(_)) => return,
            Ok(None) if request.uri().path().starts_with("/api") => UNPAIRED,
            Ok(None) => page::PAIR,
            Err(_) => UNKNOWN,
        };
        request.set_method(Method::Get);
        request.set_uri(Origin::const_new(to, None::<&str>));
    }
}

#[get("/unpaired")]
pub(super) fn unpaired() -> Problem {
    let detail = "This device is not paired, or no longer. Pair it again from the computer.";
    Problem::new(Status::Unauthorized, "unpaired", "Not paired", detail)
}

/// Not the same as unpaired: nothing is lost, and the device need not be paired again.
#[get("/unknown-device")]
pub(super) fn unknown_device() -> Problem {
    let detail = "It cannot be told just now whether this device is paired: the computer cannot read its data folder.";
    Problem::new(Status::ServiceUnavailable, "cannot-read", "It cannot be read", detail)
}

/// Somebody on this machine.
pub(in crate::server) struct OnThisMachine;

#[async_trait]
impl<'r> FromRequest<'r> for OnThisMachine {
    type Error = Problem;

    async fn from_request(request: &'r Request<'_>) -> Outcome<Self, Problem> {
        if request.rocket().state::<Reach>() == Some(&Reach::Machine) {
            return Outcome::Success(Self);
        }
        let detail = "Devices are paired and their sessions ended only on the computer itself.";
        let problem = Problem::new(Status::Forbidden, "this-machine-only", "Only on the computer", detail);
        Outcome::Error((Status::Forbidden, problem))
    }
}

/// The paired device that asks; nobody where it is this machine.
pub(in crate::server) struct Paired(pub(in crate::server) Option<Session>);

#[async_trait]
impl<'r> FromRequest<'r> for Paired {
    type Error = Problem;

    async fn from_request(request: &'r Request<'_>) -> Outcome<Self, Problem> {
        if request.rocket().state::<Reach>() == Some(&Reach::Machine) {
            return Outcome::Success(Self(None));
        }
        match session(request).await {
            Ok(Some(session)) => Outcome::Success(Self(Some(session.clone()))),
            Ok(None) | Err(_) => Outcome::Error((Status::Unauthorized, unpaired())),
        }
    }
}

//! Only pages of our own may talk to the server: a foreign name that was made to resolve to the loopback address
//! (DNS rebinding) is refused by its Host header, and a foreign page by its Origin.

use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::{Method, Status, uri::Origin};
use rocket::{Data, Request, async_trait, get};

use super::problem::Problem;

/// Refuses requests that were not meant for this server.
pub(super) struct OwnHostOnly;

const REFUSED: &str = "/api/wrong-host";

#[async_trait]
impl Fairing for OwnHostOnly {
    fn info(&self) -> Info {
        Info { name: "own host only", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _data: &mut Data<'_>) {
        let port = request.rocket().config().port;
        let host_is_ours = request.headers().get_one("Host").is_some_and(|host| is_ours(host, port));
        let origin_is_ours = request
            .headers()
            .get_one("Origin")
            .is_none_or(|origin| origin.strip_prefix("http://").is_some_and(|host| is_ours(host, port)));
        if !(host_is_ours && origin_is_ours) {
            request.set_method(Method::Get);
            request.set_uri(Origin::const_new(REFUSED, None::<&str>));
        }
    }
}

fn is_ours(host: &str, port: u16) -> bool {
    ["127.0.0.1", "localhost", "[::1]"].iter().any(|name| {
        host.strip_prefix(name).is_some_and(|rest| rest.strip_prefix(':').map_or(port == 80, |p| p == port.to_string()))
    })
}

#[get("/wrong-host")]
pub(super) fn wrong_host() -> Problem {
    let detail =
        "This server answers only under its own loopback address. Open the address it printed when it started.";
    Problem::new(Status::MisdirectedRequest, "wrong-host", "Not this server", detail)
}

#[cfg(test)]
mod tests {
    use super::is_ours;

    #[test]
    fn only_loopback_names_with_our_port_are_ours() {
        for host in ["127.0.0.1:8300", "localhost:8300", "[::1]:8300"] {
            assert!(is_ours(host, 8300), "{host}");
        }
        for host in
            ["evil.example:8300", "127.0.0.1:9", "127.0.0.1", "localhost.evil.example:8300", "127.0.0.1:8300.evil", ""]
        {
            assert!(!is_ours(host, 8300), "{host}");
        }
    }
}

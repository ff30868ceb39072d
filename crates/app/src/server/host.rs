//! Only pages of our own may talk to the server: a foreign name that was made to resolve to the loopback address
//! (DNS rebinding) is refused by its Host header, and a foreign page by its Origin and by what the browser says of the
//! site a request comes from (Fetch Metadata, `Sec-Fetch-Site`), which it sends even for an embedded picture.

use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::{Method, Status, uri::Origin};
use rocket::{Data, Request, async_trait, get};

use super::problem::Problem;

/// Refuses requests that were not meant for this server, which is reached at this port.
pub(super) struct OwnHostOnly(pub(super) u16);

const WRONG_HOST: &str = "/api/wrong-host";
const CROSS_SITE: &str = "/api/cross-site";

#[async_trait]
impl Fairing for OwnHostOnly {
    fn info(&self) -> Info {
        Info { name: "own host only", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _data: &mut Data<'_>) {
        let port = self.0;
        let host_is_ours = request.headers().get_one("Host").is_some_and(|host| is_ours(host, port));
        let origin_is_ours = request
            .headers()
            .get_one("Origin")
            .is_none_or(|origin| origin.strip_prefix("http://").is_some_and(|host| is_ours(host, port)));
        // A page may be opened from anywhere; what it asks for it asks for itself. Another port of this machine is
        // another program's, though browsers call it the same site.
        let site_is_ours = !request.uri().path().starts_with("/api")
            || request.headers().get_one("Sec-Fetch-Site").is_none_or(|site| ["same-origin", "none"].contains(&site));
        let refused = if !(host_is_ours && origin_is_ours) {
            WRONG_HOST
        } else if !site_is_ours {
            CROSS_SITE
        } else {
            return;
        };
        request.set_method(Method::Get);
        request.set_uri(Origin::const_new(refused, None::<&str>));
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

#[get("/cross-site")]
pub(super) fn cross_site() -> Problem {
    let detail =
        "This server answers only its own pages; another page asked. Open the address it printed when it started.";
    Problem::new(Status::Forbidden, "cross-site", "Asked by another page", detail)
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

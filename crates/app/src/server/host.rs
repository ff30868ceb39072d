//! Only pages of our own may talk to the server: a foreign name that was made to resolve to the loopback address
//! (DNS rebinding) is refused by its Host header, and a foreign page by its Origin and by what the browser says of the
//! site a request comes from (Fetch Metadata, `Sec-Fetch-Site`), which it sends even for an embedded picture.

use std::net::{IpAddr, SocketAddr};

use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::{Method, Status, uri::Origin};
use rocket::{Data, Request, async_trait, get};

use super::problem::Problem;

/// Refuses requests that were not meant for this server.
pub(super) struct OwnHostOnly {
    /// `http` or `https`.
    scheme: &'static str,
    /// Names it is reached by, with the port.
    hosts: Vec<String>,
}

impl OwnHostOnly {
    /// Reached from this machine, at this port.
    pub(super) fn loopback(port: u16) -> Self {
        let names = ["127.0.0.1", "localhost", "[::1]"].into_iter();
        Self { scheme: "http", hosts: names.flat_map(|name| with_port(name, port, 80)).collect() }
    }

    /// Reached over TLS at this address.
    pub(super) fn tls(at: SocketAddr) -> Self {
        let name = match at.ip() {
            IpAddr::V4(address) => address.to_string(),
            IpAddr::V6(address) => format!("[{address}]"),
        };
        Self { scheme: "https", hosts: with_port(&name, at.port(), 443).collect() }
    }

    fn is_ours(&self, host: &str) -> bool {
        self.hosts.iter().any(|ours| ours == host)
    }

    fn is_our_origin(&self, origin: &str) -> bool {
        origin
            .strip_prefix(self.scheme)
            .and_then(|rest| rest.strip_prefix("://"))
            .is_some_and(|host| self.is_ours(host))
    }
}

/// Browsers leave out the usual port of a scheme.
fn with_port(name: &str, port: u16, usual: u16) -> impl Iterator<Item = String> + use<> {
    [Some(format!("{name}:{port}")), (port == usual).then(|| name.to_owned())].into_iter().flatten()
}

const WRONG_HOST: &str = "/api/wrong-host";
const CROSS_SITE: &str = "/api/cross-site";

#[async_trait]
impl Fairing for OwnHostOnly {
    fn info(&self) -> Info {
        Info { name: "own host only", kind: Kind::Request }
    }

    async fn on_request(&self, request: &mut Request<'_>, _data: &mut Data<'_>) {
        let host_is_ours = request.headers().get_one("Host").is_some_and(|host| self.is_ours(host));
        let origin_is_ours = request.headers().get_one("Origin").is_none_or(|origin| self.is_our_origin(origin));
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

#[get("/wrong-host")]
pub(super) fn wrong_host() -> Problem {
    let detail = "This server answers only under its own address. Open the address it printed when it started.";
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
    use super::OwnHostOnly;

    #[test]
    fn only_loopback_names_with_our_port_are_ours() {
        let ours = OwnHostOnly::loopback(8300);
        for host in ["127.0.0.1:8300", "localhost:8300", "[::1]:8300"] {
            assert!(ours.is_ours(host) && ours.is_our_origin(&format!("http://{host}")), "{host}");
            assert!(!ours.is_our_origin(&format!("https://{host}")), "{host}");
        }
        for host in
            ["evil.example:8300", "127.0.0.1:9", "127.0.0.1", "localhost.evil.example:8300", "127.0.0.1:8300.evil", ""]
        {
            assert!(!ours.is_ours(host), "{host}");
        }
        assert!(OwnHostOnly::loopback(80).is_ours("localhost"));
    }

    #[test]
    fn over_tls_only_the_address_that_was_given_is_ours() {
        for (at, origin) in [("192.168.1.20:8443", "https://192.168.1.20:8443"), ("[fd00::7]:443", "https://[fd00::7]")]
        {
            let Ok(at) = at.parse() else { panic!("{at}") };
            let ours = OwnHostOnly::tls(at);
            assert!(ours.is_our_origin(origin), "{origin}");
            for other in ["https://127.0.0.1:8443", "http://192.168.1.20:8443", "https://192.168.1.20", "null", ""] {
                assert!(!ours.is_our_origin(other), "{other}");
            }
        }
    }
}

//! Headers every answer carries, and a line in the log for every request.

use std::time::Instant;

use rocket::fairing::{Fairing, Info, Kind};
use rocket::http::Header;
use rocket::{Data, Request, Response, async_trait};

/// Security headers.
pub(super) struct Headers;

/// Everything from here and nothing from elsewhere. A page that needs inline styles sets its own policy with a
/// nonce (see `assets`).
pub(super) fn policy(style: &str) -> String {
    format!(
        "default-src 'none'; script-src 'self'; style-src 'self'{style}; img-src 'self' data: blob:; font-src 'self' data:; \
         connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    )
}

#[async_trait]
impl Fairing for Headers {
    fn info(&self) -> Info {
        Info { name: "security headers", kind: Kind::Response }
    }

    async fn on_response<'r>(&self, _request: &'r Request<'_>, response: &mut Response<'r>) {
        if !response.headers().contains("Content-Security-Policy") {
            response.set_header(Header::new("Content-Security-Policy", policy("")));
        }
        response.set_header(Header::new("X-Content-Type-Options", "nosniff"));
        if !response.headers().contains("Referrer-Policy") {
            response.set_header(Header::new("Referrer-Policy", "no-referrer"));
        }
        response.set_header(Header::new("Cross-Origin-Opener-Policy", "same-origin"));
        response.set_header(Header::new("Cross-Origin-Resource-Policy", "same-origin"));
        if !response.headers().contains("Cache-Control") {
            response.set_header(Header::new("Cache-Control", "no-store"));
        }
    }
}

/// Logs each request with its status and time.
pub(super) struct RequestLog;

#[derive(Clone, Copy)]
struct Began(Option<Instant>);

#[async_trait]
impl Fairing for RequestLog {
    fn info(&self) -> Info {
        Info { name: "request log", kind: Kind::Request | Kind::Response }
    }

    async fn on_request(&self, request: &mut Request<'_>, _data: &mut Data<'_>) {
        request.local_cache(|| Began(Some(Instant::now())));
    }

    async fn on_response<'r>(&self, request: &'r Request<'_>, response: &mut Response<'r>) {
        let began = request.local_cache(|| Began(None)).0;
        let micros = began.map(|began| began.elapsed().as_micros());
        tracing::debug!(
            method = %request.method(),
            path = %request.uri().path(),
            status = response.status().code,
            micros,
            "request"
        );
    }
}

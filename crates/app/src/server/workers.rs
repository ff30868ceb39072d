//! Where the heavy work is done: off the event loop, and only so much of it at once.

use std::num::NonZero;
use std::sync::Arc;

use nook_core::workup::ToJson;
use rocket::Request;
use rocket::http::{ContentType, Status};
use rocket::response::{self, Responder};
use rocket::tokio::sync::{OwnedSemaphorePermit, Semaphore};
use rocket::tokio::task::spawn_blocking;
use serde::Serialize;

use super::problem::Problem;

/// Searches at once: each takes every core.
const SEARCHES: usize = 2;
/// Scans that are brought in at once: each may take some hundred megabytes.
const UPLOADS: usize = 2;

/// What may run at once.
#[derive(Clone)]
pub(super) struct Workers {
    sums: Arc<Semaphore>,
    searches: Arc<Semaphore>,
    uploads: Arc<Semaphore>,
}

impl Default for Workers {
    fn default() -> Self {
        let cores = std::thread::available_parallelism().map_or(2, NonZero::get);
        Self {
            sums: Arc::new(Semaphore::new(cores)),
            searches: Arc::new(Semaphore::new(SEARCHES)),
            uploads: Arc::new(Semaphore::new(UPLOADS)),
        }
    }
}

/// A JSON answer that was written where it was worked out.
pub(super) struct Computed(Vec<u8>);

impl Computed {
    /// JSON that was written before.
    pub(super) const fn of(json: Vec<u8>) -> Self {
        Self(json)
    }
}

impl Workers {
    /// Does what takes milliseconds, as soon as a core is free.
    ///
    /// # Errors
    /// What the work refuses, or that it broke off.
    pub(super) async fn run<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let _core = self.sums.acquire().await.map_err(|error| Problem::internal(&error))?;
        spawn_blocking(work).await.map_err(|error| Problem::internal(&error))?
    }

    /// Works something out and writes it as JSON.
    ///
    /// # Errors
    /// As [`Workers::run`].
    pub(super) async fn json<T: Serialize>(
        &self,
        work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<Computed, Problem> {
        let written = move || {
            let value = work()?;
            serde_json::to_vec(&value).map(Computed).map_err(|error| Problem::internal(&error))
        };
        self.run(written).await
    }

    /// Works a workup out and writes it as JSON, which its own crate does faster.
    ///
    /// # Errors
    /// As [`Workers::run`].
    pub(super) async fn workup<T: ToJson>(
        &self,
        work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<Computed, Problem> {
        self.json(move || work()?.to_json().map_err(|error| Problem::internal(&error))).await
    }

    /// Leave to search; it ends when the permit goes.
    ///
    /// # Errors
    /// That others are searching.
    pub(super) fn search(&self) -> Result<OwnedSemaphorePermit, Problem> {
        let busy = |_| busy(&format!("{SEARCHES} searches are under way, which is the most at once."));
        Arc::clone(&self.searches).try_acquire_owned().map_err(busy)
    }

    /// Leave to bring in a scan; it ends when the permit goes.
    ///
    /// # Errors
    /// That others are bringing in scans.
    pub(super) fn upload(&self) -> Result<OwnedSemaphorePermit, Problem> {
        let busy = |_| busy(&format!("{UPLOADS} scans are being brought in, which is the most at once."));
        Arc::clone(&self.uploads).try_acquire_owned().map_err(busy)
    }
}

fn busy(what: &str) -> Problem {
    let detail = format!("{what} Wait until one is done and do it again.");
    Problem::new(Status::ServiceUnavailable, "busy", "Busy", detail)
}

impl<'r> Responder<'r, 'static> for Computed {
    fn respond_to(self, request: &'r Request<'_>) -> response::Result<'static> {
        (ContentType::JSON, self.0).respond_to(request)
    }
}

//! What others do to a job while one has it open.

use nook_store::Store;
use rocket::response::stream::{Event, EventStream};
use rocket::tokio::select;
use rocket::tokio::sync::broadcast::error::RecvError;
use rocket::{Shutdown, State, get};
use serde::Serialize;
use utoipa::ToSchema;

use super::guards::{Id, Me};
use super::problem::Problem;

/// What is told of a job, as server-sent events.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(super) enum JobNews {
    /// It is at this revision now.
    Revision {
        /// Its revision.
        revision: i64,
        /// Whether the one who listens made it.
        own: bool,
        /// What was changed, in a few words, where it can be said.
        what: Option<String>,
    },
    /// Something was done to its metal.
    Deed {
        /// Whether the one who listens did it.
        own: bool,
    },
    /// It was deleted.
    Deleted,
}

/// Tells the job's revision, and again whenever somebody changes it.
#[utoipa::path(get, path = "/api/jobs/{id}/changes", tag = "jobs", operation_id = "followJob",
    params(("id" = i64, Path), ("Nook-Author" = String, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 200, body = JobNews, content_type = "text/event-stream", description = "One event for each news"),
        (status = 404, body = Problem)))]
#[get("/jobs/<id>/changes")]
pub(super) async fn follow<'a>(
    store: &'a State<Store>,
    id: Id,
    me: Result<Me, Problem>,
    mut end: Shutdown,
) -> Result<EventStream![Event + 'a], Problem> {
    let me = me?.named()?;
    // Before the revision is read, so that nothing falls between the two.
    let mut changes = store.changes();
    let now = store.head(id.0).await?;
    Ok(EventStream! {
        yield Event::json(&JobNews::Revision { revision: now, own: false, what: None });
        loop {
            let changed = select! {
                changed = changes.recv() => changed,
                () = &mut end => return,
            };
            let news = match changed {
                Ok(changed) if changed.id != id.0 => continue,
                Ok(changed) if changed.deed => JobNews::Deed { own: changed.author == me },
                Ok(changed) => match changed.seq {
                    Some(revision) => JobNews::Revision { revision, own: changed.author == me, what: changed.what },
                    None => JobNews::Deleted,
                },
                // Too slow for the news: what it is now holds them all.
                Err(RecvError::Lagged(_)) => match store.head(id.0).await {
                    Ok(revision) => JobNews::Revision { revision, own: false, what: None },
                    Err(_) => JobNews::Deleted,
                },
                Err(RecvError::Closed) => return,
            };
            yield Event::json(&news);
            if matches!(news, JobNews::Deleted) {
                return;
            }
        }
    })
}

//! The store itself, and what is read from it.

use std::collections::HashMap;
use std::path::Path;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use nook_core::Job;
use sqlx::sqlite::SqliteConnection;
use sqlx::{Connection, SqlitePool};
use tokio::sync::broadcast;

use crate::document::{Outline, Unreadable, text_of, unpack};
use crate::error::of_sqlite;
use crate::folder::Folder;
use crate::stacks::Stacks;
use crate::{Author, Changed, JobId, Revision, StoreError, Summary};

/// Jobs in a data folder.
#[derive(Debug, Clone)]
pub struct Store {
    pub(crate) folder: Folder,
    /// Keeps the log open; nothing else is done with it.
    pub(crate) anchor: Arc<tokio::sync::Mutex<Option<SqliteConnection>>>,
    /// One connection writes, so that writers wait for each other here and not in the database.
    pub(crate) writer: SqlitePool,
    pub(crate) readers: SqlitePool,
    pub(crate) changes: broadcast::Sender<Changed>,
    /// Jobs whose latest document cannot be read.
    pub(crate) unreadable: Arc<Mutex<HashMap<JobId, Unreadable>>>,
}

/// The latest revision as it is stored.
pub(crate) struct Head {
    pub(crate) seq: i64,
    pub(crate) name: String,
    pub(crate) version: i64,
    pub(crate) document: Vec<u8>,
}

/// What a write inside a transaction may meet.
pub(crate) enum Met {
    Database(sqlx::Error),
    Other(StoreError),
}

impl From<sqlx::Error> for Met {
    fn from(error: sqlx::Error) -> Self {
        Self::Database(error)
    }
}

impl Store {
    /// Finishes what is under way, closes the database and lets the folder go.
    pub async fn close(&self) {
        self.writer.close().await;
        self.readers.close().await;
        if let Some(anchor) = self.anchor.lock().await.take()
            && let Err(problem) = anchor.close().await
        {
            tracing::warn!(%problem, "the database was not closed cleanly");
        }
        self.folder.let_go();
    }

    /// The data folder, for what is to be near the database.
    #[must_use]
    pub fn folder(&self) -> &Path {
        self.folder.database().parent().unwrap_or_else(|| Path::new("."))
    }

    /// News of every change from here on.
    #[must_use]
    pub fn changes(&self) -> broadcast::Receiver<Changed> {
        self.changes.subscribe()
    }

    pub(crate) fn failed(&self, problem: sqlx::Error) -> StoreError {
        of_sqlite(problem, self.folder.database().to_owned())
    }

    pub(crate) fn told(&self, met: Met) -> StoreError {
        match met {
            Met::Database(problem) => self.failed(problem),
            Met::Other(error) => error,
        }
    }

    pub(crate) fn unreadable(&self) -> MutexGuard<'_, HashMap<JobId, Unreadable>> {
        self.unreadable.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Every job, the one changed last first. No document is read.
    ///
    /// # Errors
    /// What the database says.
    pub async fn list(&self) -> Result<Vec<Summary>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT job.id AS "id!", name AS "name?", summary AS "summary?", coalesce(at, created) AS "changed!: String"
               FROM job LEFT JOIN revision ON revision.job = job.id AND revision.seq = job.head
               ORDER BY 4 DESC, job.id DESC"#
        )
        .fetch_all(&self.readers)
        .await
        .map_err(|error| self.failed(error))?;
        let unreadable = self.unreadable();
        let line = |id: i64, name: Option<String>, summary: Option<String>, changed| {
            let id = JobId(id);
            let outline: Outline = summary.and_then(|summary| serde_json::from_str(&summary).ok()).unwrap_or_default();
            let name = name.unwrap_or_else(|| format!("job {id}"));
            Summary { id, name, runs: outline.runs, changed, unreadable: unreadable.get(&id).cloned() }
        };
        Ok(rows.into_iter().map(|row| line(row.id, row.name, row.summary, row.changed)).collect())
    }

    /// The job as it is now, and whether this author has something to undo or redo.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`], [`StoreError::Unreadable`] or what the database says.
    pub async fn load(&self, id: JobId, author: &Author) -> Result<Revision, StoreError> {
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let head = Head::latest(&mut reader, id).await.map_err(|error| self.told(error))?;
        let stacks = self.stacks(&mut reader, id, author).await?;
        drop(reader);
        let seq = head.seq;
        let job = self.read(id, head).await?;
        Ok(self.revision(id, seq, job, stacks).await)
    }

    /// The job's document as it is now.
    ///
    /// # Errors
    /// As [`Store::load`].
    pub async fn job(&self, id: JobId) -> Result<Job, StoreError> {
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let head = Head::latest(&mut reader, id).await.map_err(|error| self.told(error))?;
        drop(reader);
        self.read(id, head).await
    }

    async fn read(&self, id: JobId, head: Head) -> Result<Job, StoreError> {
        let read = blocking(move || Ok((unpack(head.version, &head.document), head.name))).await?;
        match read {
            (Ok(job), _) => Ok(job),
            (Err(why), name) => {
                self.unreadable().insert(id, why.clone());
                Err(StoreError::Unreadable { job: id, name, why })
            }
        }
    }

    /// The job's revision now.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`] or what the database says.
    pub async fn head(&self, id: JobId) -> Result<i64, StoreError> {
        let head = sqlx::query_scalar!("SELECT head FROM job WHERE id = ?", id.0);
        head.fetch_optional(&self.readers).await.map_err(|error| self.failed(error))?.ok_or(StoreError::NoSuchJob(id))
    }

    /// The latest document's text, whether it can be read as a job or not, and the job's name. Where it cannot even be
    /// unpacked, its bytes.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`] or what the database says.
    pub async fn raw(&self, id: JobId) -> Result<(String, Vec<u8>), StoreError> {
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let head = Head::latest(&mut reader, id).await.map_err(|error| self.told(error))?;
        Ok((head.name, text_of(&head.document).unwrap_or(head.document)))
    }

    /// The author's stacks as they are now: after the last revision of his own or of nobody's.
    pub(crate) async fn stacks(
        &self,
        connection: &mut SqliteConnection,
        id: JobId,
        author: &Author,
    ) -> Result<Stacks, StoreError> {
        let author = author.as_str();
        let last = sqlx::query_as!(
            Stacks,
            "SELECT undoes, redoes, beneath FROM revision WHERE job = ?1 AND seq = max(
                 coalesce((SELECT max(seq) FROM revision WHERE job = ?1 AND author = ?2), 0),
                 coalesce((SELECT max(seq) FROM revision WHERE job = ?1 AND author = ''), 0))",
            id.0,
            author
        );
        Ok(last.fetch_optional(connection).await.map_err(|error| self.failed(error))?.unwrap_or_default())
    }

    /// One revision's stacks, and its document with its version.
    pub(crate) async fn stored(
        &self,
        connection: &mut SqliteConnection,
        id: JobId,
        seq: i64,
    ) -> Result<(Stacks, (i64, Vec<u8>)), StoreError> {
        let row = sqlx::query!(
            "SELECT undoes, redoes, beneath, version, document FROM revision WHERE job = ? AND seq = ?",
            id.0,
            seq
        );
        let row = row.fetch_optional(connection).await.map_err(|error| self.failed(error))?;
        let row = row.ok_or(StoreError::NoSuchJob(id))?;
        let stacks = Stacks { undoes: row.undoes, redoes: row.redoes, beneath: row.beneath };
        Ok((stacks, (row.version, row.document)))
    }
}

impl Head {
    /// The latest revision.
    pub(crate) async fn latest(connection: &mut SqliteConnection, id: JobId) -> Result<Self, Met> {
        let head = sqlx::query_as!(
            Self,
            "SELECT seq, name, version, document FROM revision JOIN job ON job.id = revision.job AND job.head = revision.seq
             WHERE job.id = ?",
            id.0
        );
        head.fetch_optional(connection).await?.ok_or(Met::Other(StoreError::NoSuchJob(id)))
    }
}

/// Works on documents off the event loop.
pub(crate) async fn blocking<T: Send + 'static>(
    work: impl FnOnce() -> Result<T, StoreError> + Send + 'static,
) -> Result<T, StoreError> {
    tokio::task::spawn_blocking(work).await.unwrap_or_else(|error| {
        tracing::error!(%error, "work on a document broke off");
        Err(StoreError::BrokeOff)
    })
}

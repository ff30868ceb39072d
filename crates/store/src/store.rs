//! The store itself: jobs and their revisions.

use std::collections::HashMap;
use std::path::Path;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use nook_core::{Edit, Job, apply};
use sqlx::sqlite::SqliteConnection;
use sqlx::{Connection, Sqlite, SqlitePool, Transaction};
use tokio::sync::broadcast;

use crate::document::{Outline, Packed, Unreadable, pack, text_of, unpack};
use crate::error::of_sqlite;
use crate::folder::Folder;
use crate::undo::Stacks;
use crate::{Author, Changed, JobId, Revision, StoreError, Summary};

/// Most jobs that are kept.
pub const MOST_JOBS: i64 = 1000;

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

/// What makes a new revision.
pub(crate) struct Change<'a> {
    pub(crate) kind: &'static str,
    pub(crate) edit: Option<String>,
    pub(crate) author: &'a Author,
    pub(crate) stacks: Stacks,
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

    fn unreadable(&self) -> MutexGuard<'_, HashMap<JobId, Unreadable>> {
        self.unreadable.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Begins to write.
    ///
    /// # Errors
    /// [`StoreError::Gone`] when the files are no longer those that were opened, or what the database says.
    pub(crate) async fn begin(&self) -> Result<Transaction<'static, Sqlite>, StoreError> {
        self.folder.still_there()?;
        self.writer.begin_with("BEGIN IMMEDIATE").await.map_err(|error| self.failed(error))
    }

    /// Ends a write. Once this has returned, what was written lasts.
    ///
    /// # Errors
    /// As [`Store::begin`].
    pub(crate) async fn commit(&self, tx: Transaction<'static, Sqlite>) -> Result<(), StoreError> {
        tx.commit().await.map_err(|error| self.failed(error))?;
        self.folder.still_there()
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

    /// Begins a job with this document.
    ///
    /// # Errors
    /// [`StoreError::Full`] when there are [`MOST_JOBS`], [`StoreError::WouldNotRead`], or what the database says.
    pub async fn create(&self, job: &Job, author: &Author) -> Result<Revision, StoreError> {
        let job = job.clone();
        let (job, packed) = blocking(move || pack(&job).map(|packed| (job, packed))).await?;
        let mut tx = self.begin().await?;
        let failed = |error| self.failed(error);
        let jobs = sqlx::query_scalar!("SELECT count(*) FROM job").fetch_one(&mut *tx).await.map_err(failed)?;
        if jobs >= MOST_JOBS {
            return Err(StoreError::Full { what: "jobs", most: MOST_JOBS });
        }
        let made = sqlx::query!("INSERT INTO job DEFAULT VALUES").execute(&mut *tx).await.map_err(failed)?;
        let change = Change { kind: "begin", edit: None, author, stacks: Stacks::default() };
        self.append(tx, JobId(made.last_insert_rowid()), 1, change, job, packed).await
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
        Ok(Revision { id, seq, job, can_undo: stacks.undoes.is_some(), can_redo: stacks.redoes.is_some() })
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

    /// Applies an edit to revision `seen` and keeps edit and document.
    ///
    /// # Errors
    /// [`StoreError::MovedOn`] when `seen` is not the latest revision, [`StoreError::Refused`] when the core
    /// refuses, [`StoreError::WouldNotRead`], else as [`Store::load`].
    pub async fn keep(&self, id: JobId, seen: i64, edit: &Edit, author: &Author) -> Result<Revision, StoreError> {
        let mut tx = self.begin().await?;
        let head = Head::of(&mut tx, id, seen).await.map_err(|error| self.told(error))?;
        let stacks = self.stacks(&mut tx, id, author).await?;
        let seq = head.seq + 1;
        let edit = edit.clone();
        let (job, packed, edit) = blocking(move || {
            let job = unpack(head.version, &head.document);
            let job = job.map_err(|why| StoreError::Unreadable { job: id, name: head.name, why })?;
            let next = apply(&job, &edit)?;
            let packed = pack(&next)?;
            let edit = serde_json::to_string(&edit).map_err(|error| StoreError::WouldNotRead(error.to_string()))?;
            Ok((next, packed, edit))
        })
        .await?;
        let change = Change { kind: "edit", edit: Some(edit), author, stacks: stacks.edited(seq) };
        self.append(tx, id, seq, change, job, packed).await
    }

    /// Goes back to the latest revision that can be read, where the last one is damaged. That is a new revision; the
    /// damaged one stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NothingReadable`], [`StoreError::NoSuchJob`] or what the database says.
    pub async fn recover(&self, id: JobId, author: &Author) -> Result<Revision, StoreError> {
        let mut tx = self.begin().await?;
        let head = Head::latest(&mut tx, id).await.map_err(|error| self.told(error))?;
        let mut at = head.seq;
        let job = loop {
            let (_, (version, document)) = match self.stored(&mut tx, id, at).await {
                Ok(stored) => stored,
                Err(StoreError::NoSuchJob(_)) => return Err(StoreError::NothingReadable(id)),
                Err(error) => return Err(error),
            };
            if let Ok(job) = unpack(version, &document) {
                break job;
            }
            at -= 1;
        };
        let packed = pack(&job)?;
        let change = Change { kind: "recover", edit: None, author, stacks: Stacks::default() };
        self.append(tx, id, head.seq + 1, change, job, packed).await
    }

    /// Deletes a job and its revisions.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`] or what the database says.
    pub async fn delete(&self, id: JobId, author: &Author) -> Result<(), StoreError> {
        let mut tx = self.begin().await?;
        let deleted = sqlx::query!("DELETE FROM job WHERE id = ?", id.0).execute(&mut *tx).await;
        if deleted.map_err(|error| self.failed(error))?.rows_affected() == 0 {
            return Err(StoreError::NoSuchJob(id));
        }
        self.commit(tx).await?;
        self.unreadable().remove(&id);
        self.tell(Changed { id, seq: None, author: author.clone() });
        Ok(())
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

    /// Adds a revision, ends the transaction and tells of it.
    pub(crate) async fn append(
        &self,
        mut tx: Transaction<'static, Sqlite>,
        id: JobId,
        seq: i64,
        change: Change<'_>,
        job: Job,
        packed: Packed,
    ) -> Result<Revision, StoreError> {
        insert(&mut tx, id, seq, &change, &packed).await.map_err(|error| self.failed(error))?;
        self.commit(tx).await?;
        self.unreadable().remove(&id);
        self.tell(Changed { id, seq: Some(seq), author: change.author.clone() });
        let Stacks { undoes, redoes, .. } = change.stacks;
        Ok(Revision { id, seq, job, can_undo: undoes.is_some(), can_redo: redoes.is_some() })
    }

    fn tell(&self, changed: Changed) {
        // Nobody need be listening.
        let _ = self.changes.send(changed);
    }
}

async fn insert(
    tx: &mut Transaction<'static, Sqlite>,
    id: JobId,
    seq: i64,
    change: &Change<'_>,
    packed: &Packed,
) -> Result<(), sqlx::Error> {
    let Change { kind, edit, author, stacks } = change;
    let (author, version) = (author.as_str(), i64::from(Job::VERSION));
    sqlx::query!(
        "INSERT INTO revision (job, seq, author, kind, edit, undoes, redoes, beneath, name, summary, version, document)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        id.0,
        seq,
        author,
        kind,
        edit,
        stacks.undoes,
        stacks.redoes,
        stacks.beneath,
        packed.name,
        packed.summary,
        version,
        packed.document
    )
    .execute(&mut **tx)
    .await?;
    sqlx::query!("UPDATE job SET head = ? WHERE id = ?", seq, id.0).execute(&mut **tx).await?;
    for scan in &packed.scans {
        sqlx::query!("INSERT OR IGNORE INTO job_scan (job, scan) VALUES (?, ?)", id.0, scan).execute(&mut **tx).await?;
    }
    Ok(())
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

    /// The latest revision, which must be `seen`.
    pub(crate) async fn of(connection: &mut SqliteConnection, id: JobId, seen: i64) -> Result<Self, Met> {
        let head = Self::latest(connection, id).await?;
        let now = head.seq;
        if now == seen { Ok(head) } else { Err(Met::Other(StoreError::MovedOn { seen, now })) }
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

#[cfg(test)]
#[allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]
mod tests {
    use nook_core::units::{Kerf, Name};
    use sqlx::Executor;

    use super::*;

    /// A full disk and a full database are one to SQLite (result code 13), which then takes the transaction back itself.
    #[tokio::test]
    async fn saving_works_again_after_the_disk_was_full() {
        let folder = tempfile::tempdir().unwrap();
        let (store, me) = (Store::open(folder.path()).await.unwrap(), Author::nobody());
        let mut now = store.create(&Job::new(Name::new("Test bay").unwrap()), &me).await.unwrap();
        let edit = |step: i64| {
            let kerf = Kerf::new(if step % 2 == 0 { 1.0 } else { 2.0 }).unwrap();
            Edit::SetKerf { kerf }
        };
        for round in 0..3 {
            store.writer.execute("PRAGMA max_page_count = 1").await.unwrap();
            let told = loop {
                match store.keep(now.id, now.seq, &edit(now.seq), &me).await {
                    Ok(next) => now = next,
                    Err(told) => break told,
                }
            };
            assert!(matches!(told, StoreError::NoRoom { .. }), "round {round}: {told}");
            store.writer.execute("PRAGMA max_page_count = 4294967294").await.unwrap();
            now = store.keep(now.id, now.seq, &edit(now.seq), &me).await.expect("there is room again");
        }
        assert_eq!(store.load(now.id, &me).await.unwrap(), now);
    }
}

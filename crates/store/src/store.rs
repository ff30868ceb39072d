//! The store itself.

use std::path::Path;
use std::time::Duration;

use nook_core::{Edit, Job, apply};
use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Sqlite, SqlitePool, Transaction};

use crate::{JobId, Revision, Step, StoreError, Summary};

/// Jobs in a SQLite database.
#[derive(Debug, Clone)]
pub struct Store {
    pool: SqlitePool,
}

/// A revision as its row has it.
struct Row {
    seq: i64,
    document: String,
    undo_to: Option<i64>,
    redo_to: Option<i64>,
}

impl Row {
    fn revision(self, id: JobId) -> Result<Revision, StoreError> {
        let job = serde_json::from_str(&self.document)?;
        let (can_undo, can_redo) = (self.undo_to.is_some(), self.redo_to.is_some());
        Ok(Revision { id, seq: self.seq, job, can_undo, can_redo })
    }
}

/// What makes a new revision.
struct Change<'a> {
    kind: &'static str,
    edit: Option<String>,
    document: &'a str,
    undo_to: Option<i64>,
    redo_to: Option<i64>,
}

impl Store {
    /// Opens the database at `path`, making it and bringing it up to date as needed.
    ///
    /// # Errors
    /// [`StoreError::Database`] or [`StoreError::Migration`].
    pub async fn open(path: &Path) -> Result<Self, StoreError> {
        let options = SqliteConnectOptions::new()
            .filename(path)
            .create_if_missing(true)
            .foreign_keys(true)
            .journal_mode(SqliteJournalMode::Wal)
            // What is acknowledged must outlive a power cut in a garage, not only a crash.
            .synchronous(SqliteSynchronous::Full)
            .busy_timeout(Duration::from_secs(5));
        let pool = SqlitePoolOptions::new().max_connections(4).connect_with(options).await?;
        sqlx::migrate!().run(&pool).await?;
        Ok(Self { pool })
    }

    pub(crate) const fn pool(&self) -> &SqlitePool {
        &self.pool
    }

    /// Finishes what is under way and closes the database.
    pub async fn close(&self) {
        self.pool.close().await;
    }

    /// Every job, the one changed last first.
    ///
    /// # Errors
    /// [`StoreError::Database`] or [`StoreError::Damaged`].
    pub async fn list(&self) -> Result<Vec<Summary>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT job AS "job!", at AS "at!", document AS "document!" FROM revision AS r
               WHERE seq = (SELECT max(seq) FROM revision WHERE job = r.job)
               ORDER BY at DESC, job DESC"#
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|row| {
                let job: Job = serde_json::from_str(&row.document)?;
                let name = job.name().to_owned();
                Ok(Summary { id: JobId(row.job), name, runs: job.runs().len(), changed: row.at })
            })
            .collect()
    }

    /// Begins a job with this document.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn create(&self, job: &Job) -> Result<Revision, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let id = JobId(sqlx::query!("INSERT INTO job DEFAULT VALUES").execute(&mut *tx).await?.last_insert_rowid());
        let document = serde_json::to_string(job)?;
        let change = Change { kind: "begin", edit: None, document: &document, undo_to: None, redo_to: None };
        let row = append(&mut tx, id, 1, change).await?;
        tx.commit().await?;
        row.revision(id)
    }

    /// The job as it is now.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`], [`StoreError::Damaged`] or [`StoreError::Database`].
    pub async fn load(&self, id: JobId) -> Result<Revision, StoreError> {
        let row = sqlx::query_as!(
            Row,
            "SELECT seq, document, undo_to, redo_to FROM revision WHERE job = ? ORDER BY seq DESC LIMIT 1",
            id.0
        )
        .fetch_optional(&self.pool)
        .await?;
        row.ok_or(StoreError::NoSuchJob(id))?.revision(id)
    }

    /// Applies an edit to revision `seen` and keeps edit and document.
    ///
    /// # Errors
    /// [`StoreError::MovedOn`] when `seen` is not the latest revision, [`StoreError::Refused`] when the core
    /// refuses, else as [`Store::load`].
    pub async fn keep(&self, id: JobId, seen: i64, edit: &Edit) -> Result<Revision, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let head = latest(&mut tx, id, seen).await?;
        let job: Job = serde_json::from_str(&head.document)?;
        let document = serde_json::to_string(&apply(&job, edit)?)?;
        let edit = Some(serde_json::to_string(edit)?);
        let change = Change { kind: "edit", edit, document: &document, undo_to: Some(head.seq), redo_to: None };
        let row = append(&mut tx, id, head.seq + 1, change).await?;
        tx.commit().await?;
        row.revision(id)
    }

    /// Goes a step back or forward from revision `seen`. That is a new revision like any other.
    ///
    /// # Errors
    /// [`StoreError::NothingTo`] at either end, [`StoreError::MovedOn`] when `seen` is not the latest revision,
    /// else as [`Store::load`].
    pub async fn step(&self, id: JobId, seen: i64, step: Step) -> Result<Revision, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let head = latest(&mut tx, id, seen).await?;
        let to = match step {
            Step::Undo => head.undo_to,
            Step::Redo => head.redo_to,
        };
        let to = to.ok_or(StoreError::NothingTo(step.word()))?;
        let target = sqlx::query_as!(
            Row,
            "SELECT seq, document, undo_to, redo_to FROM revision WHERE job = ? AND seq = ?",
            id.0,
            to
        )
        .fetch_one(&mut *tx)
        .await?;
        let redo_to = match step {
            Step::Undo => Some(head.seq),
            Step::Redo => target.redo_to,
        };
        let change =
            Change { kind: step.word(), edit: None, document: &target.document, undo_to: target.undo_to, redo_to };
        let row = append(&mut tx, id, head.seq + 1, change).await?;
        tx.commit().await?;
        row.revision(id)
    }

    /// Deletes a job and its revisions.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`] or [`StoreError::Database`].
    pub async fn delete(&self, id: JobId) -> Result<(), StoreError> {
        let gone = sqlx::query!("DELETE FROM job WHERE id = ?", id.0).execute(&self.pool).await?.rows_affected();
        if gone == 0 { Err(StoreError::NoSuchJob(id)) } else { Ok(()) }
    }
}

async fn latest(tx: &mut Transaction<'_, Sqlite>, id: JobId, seen: i64) -> Result<Row, StoreError> {
    let row = sqlx::query_as!(
        Row,
        "SELECT seq, document, undo_to, redo_to FROM revision WHERE job = ? ORDER BY seq DESC LIMIT 1",
        id.0
    )
    .fetch_optional(&mut **tx)
    .await?;
    let row = row.ok_or(StoreError::NoSuchJob(id))?;
    if row.seq == seen { Ok(row) } else { Err(StoreError::MovedOn { seen, now: row.seq }) }
}

async fn append(tx: &mut Transaction<'_, Sqlite>, id: JobId, seq: i64, change: Change<'_>) -> Result<Row, StoreError> {
    let Change { kind, edit, document, undo_to, redo_to } = change;
    sqlx::query!(
        "INSERT INTO revision (job, seq, edit, kind, document, undo_to, redo_to) VALUES (?, ?, ?, ?, ?, ?, ?)",
        id.0,
        seq,
        edit,
        kind,
        document,
        undo_to,
        redo_to
    )
    .execute(&mut **tx)
    .await?;
    Ok(Row { seq, document: document.to_owned(), undo_to, redo_to })
}

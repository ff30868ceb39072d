//! Changes of jobs: each a new revision in one transaction, acknowledged once it lasts.

use nook_core::{Applied, Edit, Job, apply};
use sqlx::{Sqlite, Transaction};

use crate::document::{Packed, pack, unpack};
use crate::edit_words::words_of;
use crate::stacks::Stacks;
use crate::store::{Head, Store, blocking};

use crate::{Author, Changed, JobId, Revision, StoreError};

/// Most jobs that are kept.
pub const MOST_JOBS: i64 = 1000;

/// What makes a new revision.
pub(crate) struct Change<'a> {
    pub(crate) kind: &'static str,
    pub(crate) edit: Option<String>,
    pub(crate) author: &'a Author,
    pub(crate) stacks: Stacks,
}

impl Store {
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

    /// Applies an edit to revision `seen` and keeps edit and document. The edit is worked out before anything is
    /// locked, so that a slow one keeps nobody else from saving.
    ///
    /// # Errors
    /// [`StoreError::MovedOn`] when `seen` is not the latest revision, [`StoreError::Refused`] when the core
    /// refuses, [`StoreError::WouldNotRead`], else as [`Store::load`].
    pub async fn keep(&self, id: JobId, seen: i64, edit: &Edit, author: &Author) -> Result<Revision, StoreError> {
        let (head, stacks) = self.seen(id, seen, author).await?;
        let edit = edit.clone();
        let (job, packed, edit, made) = blocking(move || {
            let job = unpack(head.version, &head.document);
            let job = job.map_err(|why| StoreError::Unreadable { job: id, name: head.name, why })?;
            let Applied { job: next, made, .. } = apply(&job, &edit)?;
            let packed = pack(&next)?;
            let edit = serde_json::to_string(&edit).map_err(|error| StoreError::WouldNotRead(error.to_string()))?;
            Ok((next, packed, edit, made))
        })
        .await?;
        let seq = seen + 1;
        let change = Change { kind: "edit", edit: Some(edit), author, stacks: stacks.edited(seq) };
        let tx = self.begin_on(id, seen).await?;
        let kept = self.append(tx, id, seq, change, job, packed).await?;
        Ok(Revision { made, ..kept })
    }

    /// The latest revision, which must be `seen`, and the author's stacks.
    pub(crate) async fn seen(&self, id: JobId, seen: i64, author: &Author) -> Result<(Head, Stacks), StoreError> {
        // Told before anything is worked out in vain.
        self.folder.still_there()?;
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let head = Head::latest(&mut reader, id).await.map_err(|error| self.told(error))?;
        if head.seq != seen {
            return Err(StoreError::MovedOn { seen, now: head.seq });
        }
        let stacks = self.stacks(&mut reader, id, author).await?;
        Ok((head, stacks))
    }

    /// Begins to write a revision after `seen`, which must still be the latest.
    pub(crate) async fn begin_on(&self, id: JobId, seen: i64) -> Result<Transaction<'static, Sqlite>, StoreError> {
        let mut tx = self.begin().await?;
        let head = sqlx::query_scalar!("SELECT head FROM job WHERE id = ?", id.0);
        let now = head.fetch_optional(&mut *tx).await.map_err(|error| self.failed(error))?;
        let now = now.ok_or(StoreError::NoSuchJob(id))?;
        if now == seen { Ok(tx) } else { Err(StoreError::MovedOn { seen, now }) }
    }

    /// Goes back to the latest revision that can be read, where the last one is damaged. That is a new revision; the
    /// damaged one stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NothingReadable`], [`StoreError::NoSuchJob`] or what the database says.
    pub async fn recover(&self, id: JobId, author: &Author) -> Result<Revision, StoreError> {
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let head = Head::latest(&mut reader, id).await.map_err(|error| self.told(error))?;
        let mut at = head.seq;
        let job = loop {
            let (_, (version, document)) = match self.stored(&mut reader, id, at).await {
                Ok(stored) => stored,
                Err(StoreError::NoSuchJob(_)) => return Err(StoreError::NothingReadable(id)),
                Err(error) => return Err(error),
            };
            if let Ok(job) = blocking(move || Ok(unpack(version, &document))).await? {
                break job;
            }
            at -= 1;
        };
        drop(reader);
        let (job, packed) = blocking(move || pack(&job).map(|packed| (job, packed))).await?;
        let change = Change { kind: "recover", edit: None, author, stacks: Stacks::default() };
        let tx = self.begin_on(id, head.seq).await?;
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
        self.tell(Changed { id, seq: None, author: author.clone(), deed: false, what: None });
        Ok(())
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
        let what = change.edit.as_deref().and_then(|edit| words_of(edit, &job));
        let what = what.map(|words| match change.kind {
            "undo" => format!("taken back: {words}"),
            "redo" => format!("made again: {words}"),
            _ => words,
        });
        self.tell(Changed { id, seq: Some(seq), author: change.author.clone(), deed: false, what });
        Ok(self.revision(id, seq, job, change.stacks).await)
    }

    pub(crate) fn tell(&self, changed: Changed) {
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

#[cfg(test)]
#[allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]
mod tests {
    use nook_geometry::units::{Kerf, Name};
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
            let saw = nook_core::workshop::PinnedSaw {
                name: Name::new("Saw").unwrap(),
                kerf,
                bias: None,
                reach: nook_core::workshop::SawReach::default(),
            };
            Edit::Cut(nook_core::CutEdit::PinSaw { saw })
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

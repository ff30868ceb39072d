//! The record: deeds as they were done, in order, never changed.

use nook_core::RunId;
use nook_core::record::{Deed, DeedId, Done, Worked};
use nook_core::workshop::WorkshopEdit;
use sqlx::{Row, Sqlite, Transaction};

use crate::{Author, Changed, JobId, Store, StoreError};

/// Most deeds of one job: every piece of every run, ticked and unticked many times.
pub const MOST_DEEDS: i64 = 20_000;

/// A deed as it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptDeed {
    /// Counts the job's deeds.
    pub seq: i64,
    /// When it came, UTC, ISO 8601.
    pub at: String,
    /// What was done.
    pub deed: Deed,
}

/// What was done on a job.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Record {
    /// In the order it came.
    pub deeds: Vec<KeptDeed>,
    /// Places of deeds that cannot be read; they stay as they are.
    pub unreadable: Vec<i64>,
}

impl Store {
    /// What was done on a job, in order; nothing for a job that is not there. One deed that cannot be read hides no other.
    ///
    /// # Errors
    /// What the database says.
    pub async fn record(&self, id: JobId) -> Result<Record, StoreError> {
        let rows = sqlx::query("SELECT seq, at, version, document FROM deed WHERE job = ? ORDER BY seq")
            .bind(id.0)
            .fetch_all(&self.readers)
            .await
            .map_err(|error| self.failed(error))?;
        let read = |row: sqlx::sqlite::SqliteRow| {
            let (seq, version, document): (i64, i64, String) =
                (row.get("seq"), row.get("version"), row.get("document"));
            let deed = if version > i64::from(Deed::VERSION) {
                Err(format!("it has version {version}, and this Nook Bend reads up to version {}", Deed::VERSION))
            } else {
                serde_json::from_str(&document).map_err(|error| error.to_string())
            };
            deed.map(|deed| KeptDeed { seq, at: row.get("at"), deed }).map_err(|why| {
                tracing::warn!(job = id.0, deed = seq, why, "a deed cannot be read");
                seq
            })
        };
        let mut record = Record::default();
        for row in rows {
            match read(row) {
                Ok(deed) => record.deeds.push(deed),
                Err(seq) => record.unreadable.push(seq),
            }
        }
        Ok(record)
    }

    /// How long was worked, as it was noted in all jobs: the last of each that was taken back is left out. What cannot be read is passed over.
    ///
    /// # Errors
    /// What the database says.
    pub async fn worked(&self) -> Result<Vec<(JobId, RunId, Worked)>, StoreError> {
        // Only deeds of this sort are read in full.
        let rows = sqlx::query(
            "SELECT job, document FROM deed WHERE document LIKE '%\"deed\":\"worked\"%' OR document LIKE '%\"deed\":\"not_worked\"%' ORDER BY job, seq",
        )
        .fetch_all(&self.readers)
        .await
        .map_err(|error| self.failed(error))?;
        let mut all: Vec<(JobId, RunId, Worked)> = Vec::new();
        for row in rows {
            let (job, document): (i64, String) = (row.get("job"), row.get("document"));
            match serde_json::from_str::<Deed>(&document).map(|deed| deed.done) {
                Ok(Done::Worked { run, worked }) => all.push((JobId(job), run, worked)),
                Ok(Done::NotWorked { run, step }) => {
                    let of = |one: &(JobId, RunId, Worked)| one.0 == JobId(job) && one.1 == run && one.2.step == step;
                    if let Some(last) = all.iter().rposition(of) {
                        all.remove(last);
                    }
                }
                _ => {}
            }
        }
        Ok(all)
    }

    /// Adds a deed. The same one sent again is there already, and nothing happens.
    ///
    /// # Errors
    /// [`StoreError::NoSuchJob`], [`StoreError::AnotherDeed`] when a different one has its name,
    /// [`StoreError::Full`] when there are [`MOST_DEEDS`], or what the database says.
    pub async fn done(&self, id: JobId, deed: &Deed, author: &Author) -> Result<(), StoreError> {
        let mut tx = self.begin().await?;
        if let Some(head) = self.add_deed(&mut tx, id, deed).await? {
            self.commit(tx).await?;
            self.tell(Changed { id, seq: Some(head), author: author.clone(), deed: true, what: None });
        }
        Ok(())
    }

    /// Adds several deeds and what becomes of the workshop at revision `seen`, all of it or nothing. Sent again, it is there already and
    /// nothing happens.
    ///
    /// # Errors
    /// As [`Store::done`] and [`Store::keep_workshop`].
    pub async fn done_with(
        &self,
        id: JobId,
        deeds: &[Deed],
        workshop: Option<(i64, &WorkshopEdit)>,
        author: &Author,
    ) -> Result<(), StoreError> {
        let mut tx = self.begin().await?;
        let mut head = None;
        for deed in deeds {
            head = self.add_deed(&mut tx, id, deed).await?.or(head);
        }
        let Some(head) = head else { return Ok(()) };
        if let Some((seen, edit)) = workshop {
            self.next_workshop(&mut tx, seen, edit, author).await?;
        }
        self.commit(tx).await?;
        self.tell(Changed { id, seq: Some(head), author: author.clone(), deed: true, what: None });
        Ok(())
    }

    /// Writes a deed as part of a larger write: the job's head, or nothing where the deed is there already.
    async fn add_deed(
        &self,
        tx: &mut Transaction<'static, Sqlite>,
        id: JobId,
        deed: &Deed,
    ) -> Result<Option<i64>, StoreError> {
        let unread = |error: serde_json::Error| StoreError::WouldNotRead(error.to_string());
        let document = serde_json::to_string(deed).map_err(unread)?;
        let failed = |error| self.failed(error);
        let head: Option<i64> = sqlx::query_scalar("SELECT head FROM job WHERE id = ?")
            .bind(id.0)
            .fetch_optional(&mut **tx)
            .await
            .map_err(failed)?;
        let head = head.ok_or(StoreError::NoSuchJob(id))?;
        let known: Option<String> = sqlx::query_scalar("SELECT document FROM deed WHERE job = ? AND id = ?")
            .bind(id.0)
            .bind(deed.id.as_str())
            .fetch_optional(&mut **tx)
            .await
            .map_err(failed)?;
        if let Some(known) = known {
            let same = serde_json::from_str::<Deed>(&known).is_ok_and(|known| known == *deed);
            return if same { Ok(None) } else { Err(another(&deed.id)) };
        }
        let last: i64 = sqlx::query_scalar("SELECT coalesce(max(seq), 0) FROM deed WHERE job = ?")
            .bind(id.0)
            .fetch_one(&mut **tx)
            .await
            .map_err(failed)?;
        if last >= MOST_DEEDS {
            return Err(StoreError::Full { what: "deeds of a job", most: MOST_DEEDS });
        }
        sqlx::query("INSERT INTO deed (job, seq, id, version, document) VALUES (?, ?, ?, ?, ?)")
            .bind(id.0)
            .bind(last + 1)
            .bind(deed.id.as_str())
            .bind(i64::from(Deed::VERSION))
            .bind(document)
            .execute(&mut **tx)
            .await
            .map_err(failed)?;
        Ok(Some(head))
    }
}

fn another(id: &DeedId) -> StoreError {
    StoreError::AnotherDeed { id: id.as_str().to_owned() }
}

//! The workshop: one for all jobs, each change a new revision.

use nook_core::Workshop;
use nook_core::workshop::WorkshopEdit;
use sqlx::{Row, Sqlite, Transaction};

use crate::{Author, Store, StoreError};

/// The workshop as it is now.
#[derive(Debug, Clone, PartialEq)]
pub struct WorkshopRevision {
    /// Counts the changes; 0 where there was none.
    pub seq: i64,
    /// The document.
    pub workshop: Workshop,
}

impl Store {
    /// The workshop as it is now; a new one where nothing was ever decided.
    ///
    /// # Errors
    /// [`StoreError::UnreadableWorkshop`] or what the database says.
    pub async fn workshop(&self) -> Result<WorkshopRevision, StoreError> {
        let latest = sqlx::query("SELECT seq, version, document FROM workshop ORDER BY seq DESC LIMIT 1");
        let row = latest.fetch_optional(&self.readers).await.map_err(|error| self.failed(error))?;
        let Some(row) = row else { return Ok(WorkshopRevision { seq: 0, workshop: Workshop::default() }) };
        let (version, document): (i64, String) = (row.get("version"), row.get("document"));
        let unreadable = |why: String| StoreError::UnreadableWorkshop { why };
        if version > i64::from(Workshop::VERSION) {
            let known = Workshop::VERSION;
            return Err(unreadable(format!(
                "it has version {version}, and this Nook Bend reads up to version {known}"
            )));
        }
        let workshop = serde_json::from_str(&document).map_err(|error| unreadable(error.to_string()))?;
        Ok(WorkshopRevision { seq: row.get("seq"), workshop })
    }

    /// Makes one change to the workshop at revision `seen`.
    ///
    /// # Errors
    /// [`StoreError::MovedOn`] when `seen` is not the latest revision, [`StoreError::RefusedByWorkshop`] when the core
    /// refuses, else as [`Store::workshop`].
    pub async fn keep_workshop(
        &self,
        seen: i64,
        edit: &WorkshopEdit,
        author: &Author,
    ) -> Result<WorkshopRevision, StoreError> {
        let mut tx = self.begin().await?;
        let next = self.next_workshop(&mut tx, seen, edit, author).await?;
        self.commit(tx).await?;
        Ok(next)
    }

    /// Writes one change to the workshop as part of a larger write.
    pub(crate) async fn next_workshop(
        &self,
        tx: &mut Transaction<'static, Sqlite>,
        seen: i64,
        edit: &WorkshopEdit,
        author: &Author,
    ) -> Result<WorkshopRevision, StoreError> {
        // The one write there is at a time: what is read now is not changed before it ends.
        let now = self.workshop().await?;
        if now.seq != seen {
            return Err(StoreError::MovedOn { seen, now: now.seq });
        }
        let workshop = now.workshop.apply(edit)?;
        let unread = |error: serde_json::Error| StoreError::WouldNotRead(error.to_string());
        let (edit, document) =
            (serde_json::to_string(edit).map_err(unread)?, serde_json::to_string(&workshop).map_err(unread)?);
        let seq = seen + 1;
        let added = sqlx::query(
            "INSERT INTO workshop (seq, author, edit, version, document) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
        )
        .bind(seq)
        .bind(author.as_str())
        .bind(edit)
        .bind(i64::from(Workshop::VERSION))
        .bind(document)
        .execute(&mut **tx)
        .await
        .map_err(|error| self.failed(error))?;
        if added.rows_affected() == 0 {
            // Somebody was first between the look and the write.
            return Err(StoreError::MovedOn { seen, now: seq });
        }
        Ok(WorkshopRevision { seq, workshop })
    }
}

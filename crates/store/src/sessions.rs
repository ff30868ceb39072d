//! Sessions of paired devices, which outlive a restart. A token is known here by its digest alone, so that who reads the
//! folder cannot ask in a device's name.

use crate::{Store, StoreError};

/// SHA-256 of a session's token.
pub type TokenDigest = [u8; 32];

/// Most devices that are paired at once.
pub const MOST_SESSIONS: i64 = 40;
/// Days after which a device that asked nothing has to be paired again, as an SQLite modifier.
const UNSEEN: &str = "-90 days";
/// How old the note of when it last asked may be, as an SQLite modifier: not every request is worth a write.
const STALE: &str = "-10 minutes";

/// A paired device.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Session {
    /// Names it in a list; never given twice.
    pub id: i64,
    /// What its owner calls it.
    pub name: String,
    /// When it was paired, UTC, ISO 8601.
    pub began: String,
    /// When it last asked something, to about ten minutes; UTC, ISO 8601.
    pub seen: String,
    /// The address it last asked from.
    pub peer: String,
}

impl Store {
    /// Begins a session for a device that calls itself `name` and asks from `peer`.
    ///
    /// # Errors
    /// [`StoreError::Full`] where [`MOST_SESSIONS`] are paired, or what the database says.
    pub async fn begin_session(&self, name: &str, digest: &TokenDigest, peer: &str) -> Result<Session, StoreError> {
        let failed = |error| self.failed(error);
        let mut tx = self.begin().await?;
        sqlx::query!("DELETE FROM session WHERE seen < strftime('%Y-%m-%dT%H:%M:%fZ', 'now', ?)", UNSEEN)
            .execute(&mut *tx)
            .await
            .map_err(failed)?;
        let count = sqlx::query_scalar!("SELECT count(*) FROM session").fetch_one(&mut *tx).await.map_err(failed)?;
        if count >= MOST_SESSIONS {
            return Err(StoreError::Full { what: "paired devices", most: MOST_SESSIONS });
        }
        let digest = digest.as_slice();
        let session = sqlx::query_as!(
            Session,
            r#"INSERT INTO session (name, digest, peer) VALUES (?, ?, ?)
               RETURNING id AS "id!", name AS "name!", began AS "began!", seen AS "seen!", peer AS "peer!""#,
            name,
            digest,
            peer
        )
        .fetch_one(&mut *tx)
        .await
        .map_err(failed)?;
        self.commit(tx).await?;
        Ok(session)
    }

    /// The session of a token that asks from `peer`; nothing where it was ended, or not seen for 90 days.
    ///
    /// # Errors
    /// What the database says when it cannot be read. That it cannot be noted when the device asked is no error.
    pub async fn session_of(&self, digest: &TokenDigest, peer: &str) -> Result<Option<Session>, StoreError> {
        let digest = digest.as_slice();
        let found = sqlx::query!(
            r#"SELECT id AS "id!", name, began, seen, peer,
                   seen < strftime('%Y-%m-%dT%H:%M:%fZ', 'now', ?) AS "stale!: bool"
               FROM session WHERE digest = ? AND seen >= strftime('%Y-%m-%dT%H:%M:%fZ', 'now', ?)"#,
            STALE,
            digest,
            UNSEEN
        )
        .fetch_optional(&self.readers)
        .await
        .map_err(|error| self.failed(error))?;
        let Some(row) = found else { return Ok(None) };
        if (row.stale || row.peer != peer)
            && let Err(problem) = self.saw_session(row.id, peer).await
        {
            tracing::warn!(%problem, "it could not be noted when a device asked");
        }
        Ok(Some(Session { id: row.id, name: row.name, began: row.began, seen: row.seen, peer: peer.to_owned() }))
    }

    async fn saw_session(&self, id: i64, peer: &str) -> Result<(), StoreError> {
        let mut tx = self.begin().await?;
        sqlx::query!(
            "UPDATE session SET seen = strftime('%Y-%m-%dT%H:%M:%fZ', 'now'), peer = ? WHERE id = ?",
            peer,
            id
        )
        .execute(&mut *tx)
        .await
        .map_err(|error| self.failed(error))?;
        self.commit(tx).await
    }

    /// The paired devices, the one paired last first.
    ///
    /// # Errors
    /// What the database says.
    pub async fn sessions(&self) -> Result<Vec<Session>, StoreError> {
        let rows = sqlx::query_as!(
            Session,
            r#"SELECT id AS "id!", name, began, seen, peer FROM session
               WHERE seen >= strftime('%Y-%m-%dT%H:%M:%fZ', 'now', ?) ORDER BY id DESC"#,
            UNSEEN
        )
        .fetch_all(&self.readers)
        .await;
        rows.map_err(|error| self.failed(error))
    }

    /// Ends a session; whether there was one.
    ///
    /// # Errors
    /// What the database says.
    pub async fn end_session(&self, id: i64) -> Result<bool, StoreError> {
        let mut tx = self.begin().await?;
        let done = sqlx::query!("DELETE FROM session WHERE id = ?", id)
            .execute(&mut *tx)
            .await
            .map_err(|error| self.failed(error))?;
        self.commit(tx).await?;
        Ok(done.rows_affected() > 0)
    }
}

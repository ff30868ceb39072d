//! Scans, kept by their content.

use nook_core::measure::ScanId;

use crate::{Store, StoreError};

/// A scan as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptScan {
    /// Its name: the SHA-256 of `kept`.
    pub id: ScanId,
    /// The file it came from.
    pub name: String,
    /// How many vertices it has.
    pub vertices: i64,
    /// How many triangles it has.
    pub triangles: i64,
    /// Binary PLY of all of it.
    pub kept: Vec<u8>,
    /// Binary PLY of a light copy.
    pub drawn: Vec<u8>,
}

/// A scan in the list of scans.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ScanLine {
    /// Its name by content.
    pub id: String,
    /// The file it came from.
    pub name: String,
    /// How many triangles it has.
    pub triangles: i64,
    /// How many bytes it takes here.
    pub bytes: i64,
    /// When it was added, UTC, ISO 8601.
    pub added: String,
    /// How many jobs lean on it, or did in a revision that undo can come back to.
    pub jobs: i64,
}

/// Most scans that are kept.
const MOST_SCANS: i64 = 200;
/// Most room they take together, in MB.
const MOST_MEGABYTES: i64 = 4096;

impl Store {
    /// Keeps a scan. One that is there already is left as it is: its content is the same.
    ///
    /// # Errors
    /// [`StoreError::Full`] when there are as many as are kept or they take as much room, or what the database says.
    pub async fn keep_scan(&self, scan: &KeptScan) -> Result<(), StoreError> {
        let id = scan.id.as_str();
        let mut tx = self.begin().await?;
        let failed = |error| self.failed(error);
        let kept = sqlx::query!(
            r#"SELECT count(*) AS "count!", coalesce(sum(length(kept) + length(drawn)), 0) AS "bytes!: i64",
                      coalesce(max(id = ?), 0) AS "here!: bool" FROM scan"#,
            id
        )
        .fetch_one(&mut *tx)
        .await
        .map_err(failed)?;
        if kept.here {
            return Ok(());
        }
        if kept.count >= MOST_SCANS {
            return Err(StoreError::Full { what: "scans", most: MOST_SCANS });
        }
        let more = i64::try_from(scan.kept.len() + scan.drawn.len()).unwrap_or(i64::MAX);
        if kept.bytes.saturating_add(more) > MOST_MEGABYTES * 1_000_000 {
            return Err(StoreError::Full { what: "MB of scans", most: MOST_MEGABYTES });
        }
        sqlx::query!(
            "INSERT INTO scan (id, name, vertices, triangles, kept, drawn) VALUES (?, ?, ?, ?, ?, ?)",
            id,
            scan.name,
            scan.vertices,
            scan.triangles,
            scan.kept,
            scan.drawn
        )
        .execute(&mut *tx)
        .await
        .map_err(failed)?;
        self.commit(tx).await
    }

    /// Deletes a scan that no job leans on.
    ///
    /// # Errors
    /// [`StoreError::NoSuchScan`], [`StoreError::ScanInUse`] or what the database says.
    pub async fn delete_scan(&self, id: &ScanId) -> Result<(), StoreError> {
        let id = id.as_str();
        let mut tx = self.begin().await?;
        let failed = |error| self.failed(error);
        let users = sqlx::query_scalar!(
            "SELECT name FROM job_scan JOIN job ON job.id = job_scan.job
             JOIN revision ON revision.job = job.id AND revision.seq = job.head WHERE scan = ? LIMIT 4",
            id
        );
        let users = users.fetch_all(&mut *tx).await.map_err(failed)?;
        if !users.is_empty() {
            let named: Vec<String> = users.iter().map(|name| format!("\u{201c}{name}\u{201d}")).collect();
            return Err(StoreError::ScanInUse { jobs: named.join(", ") });
        }
        let deleted = sqlx::query!("DELETE FROM scan WHERE id = ?", id).execute(&mut *tx).await.map_err(failed)?;
        if deleted.rows_affected() == 0 {
            return Err(StoreError::NoSuchScan);
        }
        self.commit(tx).await
    }

    /// All of a scan.
    ///
    /// # Errors
    /// [`StoreError::NoSuchScan`] or what the database says.
    pub async fn kept_scan(&self, id: &ScanId) -> Result<Vec<u8>, StoreError> {
        let name = id.as_str();
        let row = sqlx::query!("SELECT kept FROM scan WHERE id = ?", name).fetch_optional(&self.readers).await;
        let row = row.map_err(|error| self.failed(error))?;
        row.map(|row| row.kept).ok_or(StoreError::NoSuchScan)
    }

    /// The light copy of a scan.
    ///
    /// # Errors
    /// As [`Store::kept_scan`].
    pub async fn drawn_scan(&self, id: &ScanId) -> Result<Vec<u8>, StoreError> {
        let name = id.as_str();
        let row = sqlx::query!("SELECT drawn FROM scan WHERE id = ?", name).fetch_optional(&self.readers).await;
        let row = row.map_err(|error| self.failed(error))?;
        row.map(|row| row.drawn).ok_or(StoreError::NoSuchScan)
    }

    /// Every scan, the latest first.
    ///
    /// # Errors
    /// What the database says.
    pub async fn scans(&self) -> Result<Vec<ScanLine>, StoreError> {
        let rows = sqlx::query_as!(
            ScanLine,
            r#"SELECT id, name, triangles, length(kept) + length(drawn) AS "bytes!: i64", added,
                      (SELECT count(*) FROM job_scan WHERE job_scan.scan = scan.id) AS "jobs!: i64"
               FROM scan ORDER BY added DESC, id"#
        );
        rows.fetch_all(&self.readers).await.map_err(|error| self.failed(error))
    }
}

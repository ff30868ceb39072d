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
    /// When it was added, UTC, ISO 8601.
    pub added: String,
}

impl Store {
    /// Keeps a scan. One that is there already is left as it is: its content is the same.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn keep_scan(&self, scan: &KeptScan) -> Result<(), StoreError> {
        let id = scan.id.as_str();
        sqlx::query!(
            "INSERT INTO scan (id, name, vertices, triangles, kept, drawn) VALUES (?, ?, ?, ?, ?, ?)
             ON CONFLICT (id) DO NOTHING",
            id,
            scan.name,
            scan.vertices,
            scan.triangles,
            scan.kept,
            scan.drawn
        )
        .execute(self.pool())
        .await?;
        Ok(())
    }

    /// All of a scan.
    ///
    /// # Errors
    /// [`StoreError::NoSuchScan`] or [`StoreError::Database`].
    pub async fn kept_scan(&self, id: &ScanId) -> Result<Vec<u8>, StoreError> {
        let name = id.as_str();
        let row = sqlx::query!("SELECT kept FROM scan WHERE id = ?", name).fetch_optional(self.pool()).await?;
        row.map(|row| row.kept).ok_or(StoreError::NoSuchScan)
    }

    /// The light copy of a scan.
    ///
    /// # Errors
    /// As [`Store::kept_scan`].
    pub async fn drawn_scan(&self, id: &ScanId) -> Result<Vec<u8>, StoreError> {
        let name = id.as_str();
        let row = sqlx::query!("SELECT drawn FROM scan WHERE id = ?", name).fetch_optional(self.pool()).await?;
        row.map(|row| row.drawn).ok_or(StoreError::NoSuchScan)
    }

    /// Every scan, the latest first.
    ///
    /// # Errors
    /// [`StoreError::Database`].
    pub async fn scans(&self) -> Result<Vec<ScanLine>, StoreError> {
        let rows = sqlx::query_as!(ScanLine, "SELECT id, name, triangles, added FROM scan ORDER BY added DESC, id")
            .fetch_all(self.pool())
            .await?;
        Ok(rows)
    }
}

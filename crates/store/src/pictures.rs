//! Pictures, kept by their content.

use nook_core::record::PictureId;
use sqlx::Row;

use crate::{Store, StoreError};

/// How a picture is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PictureForm {
    /// PNG.
    Png,
    /// JPEG.
    Jpeg,
}

/// Most pictures that are kept.
const MOST_PICTURES: i64 = 5_000;
/// Most room they take together, in MB.
const MOST_MEGABYTES: i64 = 4_096;

impl PictureForm {
    const fn word(self) -> &'static str {
        match self {
            Self::Png => "png",
            Self::Jpeg => "jpeg",
        }
    }
}

impl Store {
    /// Keeps a picture. One that is there already is left as it is: its content is the same.
    ///
    /// # Errors
    /// [`StoreError::Full`] when there are as many as are kept or they take as much room, or what the database says.
    pub async fn keep_picture(&self, id: &PictureId, form: PictureForm, bytes: &[u8]) -> Result<(), StoreError> {
        let mut tx = self.begin().await?;
        let failed = |error| self.failed(error);
        let kept = sqlx::query(
            "SELECT count(*) AS count, coalesce(sum(length(bytes)), 0) AS bytes, coalesce(max(id = ?), 0) AS here FROM picture",
        )
        .bind(id.as_str())
        .fetch_one(&mut *tx)
        .await
        .map_err(failed)?;
        if kept.get::<i64, _>("here") != 0 {
            return Ok(());
        }
        if kept.get::<i64, _>("count") >= MOST_PICTURES {
            return Err(StoreError::Full { what: "pictures", most: MOST_PICTURES });
        }
        let more = i64::try_from(bytes.len()).unwrap_or(i64::MAX);
        if kept.get::<i64, _>("bytes").saturating_add(more) > MOST_MEGABYTES * 1_000_000 {
            return Err(StoreError::Full { what: "MB of pictures", most: MOST_MEGABYTES });
        }
        sqlx::query("INSERT INTO picture (id, form, bytes) VALUES (?, ?, ?)")
            .bind(id.as_str())
            .bind(form.word())
            .bind(bytes)
            .execute(&mut *tx)
            .await
            .map_err(failed)?;
        self.commit(tx).await
    }

    /// A picture; nothing where it is not kept.
    ///
    /// # Errors
    /// What the database says.
    pub async fn picture(&self, id: &PictureId) -> Result<Option<(PictureForm, Vec<u8>)>, StoreError> {
        let row = sqlx::query("SELECT form, bytes FROM picture WHERE id = ?").bind(id.as_str());
        let row = row.fetch_optional(&self.readers).await.map_err(|error| self.failed(error))?;
        Ok(row.map(|row| {
            let form = if row.get::<String, _>("form") == "png" { PictureForm::Png } else { PictureForm::Jpeg };
            (form, row.get("bytes"))
        }))
    }
}

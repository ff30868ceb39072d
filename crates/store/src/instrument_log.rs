//! Every line an instrument sent, as it came.

use crate::{Store, StoreError};

/// What became of a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LineOutcome {
    /// A field took its reading.
    Taken,
    /// Its reading is impossible for the field.
    Refused,
    /// No field was waiting.
    Unclaimed,
    /// It could not be read.
    Garbled,
    /// It told of the instrument, such as its battery.
    Status,
}

impl LineOutcome {
    /// The word that is kept.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Taken => "taken",
            Self::Refused => "refused",
            Self::Unclaimed => "unclaimed",
            Self::Garbled => "garbled",
            Self::Status => "status",
        }
    }
}

/// A line in the log.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LoggedLine {
    /// When it came, UTC, ISO 8601.
    pub at: String,
    /// Which instrument sent it.
    pub instrument: String,
    /// The line as it came.
    pub line: String,
    /// What became of it.
    pub outcome: String,
    /// Why, where it was not taken.
    pub why: Option<String>,
}

/// How many lines are kept, the latest; the oldest go when a hundredth of them more have come.
const MOST_LINES: i64 = 20_000;

impl Store {
    /// Logs a line.
    ///
    /// # Errors
    /// What the database says.
    pub async fn log_line(
        &self,
        instrument: &str,
        line: &str,
        outcome: LineOutcome,
        why: Option<&str>,
    ) -> Result<(), StoreError> {
        let outcome = outcome.word();
        let mut tx = self.begin().await?;
        let failed = |error| self.failed(error);
        let made = sqlx::query!(
            "INSERT INTO instrument_line (instrument, line, outcome, why) VALUES (?, ?, ?, ?)",
            instrument,
            line,
            outcome,
            why
        )
        .execute(&mut *tx)
        .await
        .map_err(failed)?;
        let id = made.last_insert_rowid();
        if id % (MOST_LINES / 100) == 0 {
            let oldest = id - MOST_LINES;
            sqlx::query!("DELETE FROM instrument_line WHERE id <= ?", oldest)
                .execute(&mut *tx)
                .await
                .map_err(failed)?;
        }
        self.commit(tx).await
    }

    /// The latest lines, the newest first, at most `most`.
    ///
    /// # Errors
    /// What the database says.
    pub async fn logged_lines(&self, most: u32) -> Result<Vec<LoggedLine>, StoreError> {
        let rows = sqlx::query_as!(
            LoggedLine,
            "SELECT at, instrument, line, outcome, why FROM instrument_line ORDER BY id DESC LIMIT ?",
            most
        )
        .fetch_all(&self.readers)
        .await;
        rows.map_err(|error| self.failed(error))
    }
}

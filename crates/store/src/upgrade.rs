//! Carries over what the second layout kept: documents as bare JSON, and one undo for everybody.

use std::path::Path;

use nook_core::Job;
use nook_core::job::upgraded;
use sqlx::{Row, SqlitePool};
use thiserror::Error;

use crate::StoreError;
use crate::document::{Outline, compress};
use crate::error::of_sqlite;
use crate::stacks::Stacks;

#[derive(Debug, Error)]
pub(crate) enum UpgradeError {
    #[error(transparent)]
    Database(#[from] sqlx::Error),
    #[error(transparent)]
    Compress(#[from] std::io::Error),
}

impl UpgradeError {
    pub(crate) fn or_database(self, path: &Path) -> StoreError {
        match self {
            Self::Database(problem) => of_sqlite(problem, path.to_owned()),
            Self::Compress(problem) => of_sqlite(sqlx::Error::Io(problem), path.to_owned()),
        }
    }
}

/// Version the second layout's documents had.
const VERSION: i64 = 3;

/// Moves every revision of the second layout into the third, if there are any: all of them or none.
pub(crate) async fn upgrade(pool: &SqlitePool) -> Result<(), UpgradeError> {
    let old = "SELECT count(*) FROM sqlite_schema WHERE name = 'revision_2'";
    if sqlx::query_scalar::<_, i64>(old).fetch_one(pool).await? == 0 {
        return Ok(());
    }
    let mut tx = pool.begin().await?;
    let jobs: Vec<i64> = sqlx::query_scalar("SELECT DISTINCT job FROM revision_2").fetch_all(&mut *tx).await?;
    for job in &jobs {
        let seqs: Vec<i64> = sqlx::query_scalar("SELECT seq FROM revision_2 WHERE job = ? ORDER BY seq")
            .bind(job)
            .fetch_all(&mut *tx)
            .await?;
        let mut made: Vec<(i64, Stacks)> = Vec::new();
        for seq in seqs {
            let row = sqlx::query("SELECT at, edit, kind, document FROM revision_2 WHERE job = ? AND seq = ?")
                .bind(job)
                .bind(seq)
                .fetch_one(&mut *tx)
                .await?;
            let (kind, text): (String, String) = (row.get("kind"), row.get("document"));
            let before = made.last().map_or_else(Stacks::default, |(_, stacks)| *stacks);
            let of = |seq: Option<i64>| {
                let at = made.binary_search_by_key(&seq?, |(one, _)| *one).ok()?;
                made.get(at).map(|(_, stacks)| *stacks)
            };
            let stacks = match kind.as_str() {
                "edit" => before.edited(seq),
                "undo" => before.undone(seq, of(before.undoes).unwrap_or_default()),
                "redo" => before.redone(seq, of(before.redoes).unwrap_or_default()),
                _ => Stacks::default(),
            };
            made.push((seq, stacks));
            let (name, runs) = told_of(&text, *job);
            let summary = serde_json::to_string(&Outline { runs }).unwrap_or_default();
            sqlx::query(
                "INSERT INTO revision (job, seq, at, author, kind, edit, undoes, redoes, beneath, name, summary, version, document)
                 VALUES (?, ?, ?, '', ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            )
            .bind(job)
            .bind(seq)
            .bind(row.get::<String, _>("at"))
            .bind(&kind)
            .bind(row.get::<Option<String>, _>("edit"))
            .bind(stacks.undoes)
            .bind(stacks.redoes)
            .bind(stacks.beneath)
            .bind(name)
            .bind(summary)
            .bind(VERSION)
            .bind(compress(text.as_bytes())?)
            .execute(&mut *tx)
            .await?;
        }
    }
    for step in [
        "UPDATE job SET head = (SELECT coalesce(max(seq), 0) FROM revision WHERE job = job.id)",
        "INSERT OR IGNORE INTO job_scan SELECT r.job, s.id FROM revision_2 AS r JOIN scan AS s ON instr(r.document, s.id) > 0",
        "DROP TABLE revision_2",
    ] {
        sqlx::query(step).execute(&mut *tx).await?;
    }
    tx.commit().await?;
    if !jobs.is_empty() {
        tracing::info!(jobs = jobs.len(), "the jobs were brought to the new layout");
        // Gives the room back; without it the file is only larger than it need be.
        if let Err(problem) = sqlx::query("VACUUM").execute(pool).await {
            tracing::warn!(%problem, "the database was not made smaller");
        }
    }
    Ok(())
}

/// A document's name and how many runs it has, as far as it can be read.
fn told_of(text: &str, job: i64) -> (String, usize) {
    let value: serde_json::Value = serde_json::from_str(text).unwrap_or_default();
    match serde_json::from_value::<Job>(upgraded(3, value.clone())) {
        Ok(job) => (job.name().to_owned(), job.runs().len()),
        Err(_) => {
            let name = value["name"].as_str().map_or_else(|| format!("job {job}"), str::to_owned);
            (name, value["runs"].as_array().map_or(0, Vec::len))
        }
    }
}

//! Opening a data folder.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};
use std::time::Duration;

use sqlx::migrate::MigrateError;
use sqlx::sqlite::{
    SqliteConnectOptions, SqliteConnection, SqliteJournalMode, SqlitePool, SqlitePoolOptions, SqliteSynchronous,
};
use sqlx::{Connection, Executor};
use tokio::sync::broadcast;

use crate::document::{Unreadable, unpack};
use crate::error::of_sqlite;
use crate::folder::Folder;
use crate::store::Store;
use crate::upgrade::upgrade;
use crate::{JobId, StoreError};

/// Connections that read.
const READERS: u32 = 4;
/// News that somebody who is slow may fall behind.
const NEWS: usize = 256;

impl Store {
    /// Opens the data folder, making it and bringing it up to date as needed.
    ///
    /// # Errors
    /// [`StoreError::Folder`], [`StoreError::InUse`], [`StoreError::NewerDatabase`], [`StoreError::Migration`], or what
    /// the database says.
    pub fn open(folder: &Path) -> impl Future<Output = Result<Self, StoreError>> + Send + use<> {
        Self::open_owned(folder.to_owned())
    }

    async fn open_owned(folder: PathBuf) -> Result<Self, StoreError> {
        let folder = Folder::hold(&folder)?;
        let path = folder.database().to_owned();
        let failed = |problem| of_sqlite(problem, path.clone());
        let options = SqliteConnectOptions::new()
            .filename(&path)
            // Made by `Folder::hold`. A connection that is opened later must not make an empty one in its place.
            .create_if_missing(false)
            .foreign_keys(true)
            .journal_mode(SqliteJournalMode::Wal)
            // What is acknowledged must outlive a power cut in a garage, not only a crash.
            .synchronous(SqliteSynchronous::Full)
            .busy_timeout(Duration::from_secs(5));
        // Without references: dropping an old table would look each of its rows up in all the others.
        let builder = pool(1).connect_with(options.clone().foreign_keys(false)).await.map_err(failed)?;
        migrate(&builder, &path).await?;
        upgrade(&builder).await.map_err(|error| error.or_database(&path))?;
        builder.close().await;
        let writer = pool(1).connect_with(options.clone()).await.map_err(failed)?;
        // Stays open, so that the log is not put away and made anew while others come and go.
        let mut anchor = SqliteConnection::connect_with(&options).await.map_err(failed)?;
        anchor.execute("BEGIN IMMEDIATE; COMMIT").await.map_err(failed)?;
        folder.watch()?;
        let readers = pool(READERS).connect_with(options).await.map_err(failed)?;
        let (changes, _) = broadcast::channel(NEWS);
        let unreadable = Arc::new(Mutex::new(unreadable(&readers).await.map_err(failed)?));
        Ok(Self {
            folder,
            anchor: Arc::new(tokio::sync::Mutex::new(Some(anchor))),
            writer,
            readers,
            changes,
            unreadable,
        })
    }
}

fn pool(most: u32) -> SqlitePoolOptions {
    let options = SqlitePoolOptions::new().max_connections(most).idle_timeout(None).max_lifetime(None);
    options.after_release(|connection, _| {
        Box::pin(async move {
            // A full disk makes SQLite take a transaction back by itself; the driver's own roll-back then fails and it
            // believes the transaction goes on. Such a connection is not handed out again.
            connection.ping().await?;
            Ok(!connection.is_in_transaction())
        })
    })
}

async fn migrate(pool: &SqlitePool, path: &Path) -> Result<(), StoreError> {
    sqlx::migrate!().run(pool).await.map_err(|problem| match problem {
        MigrateError::VersionMissing(_) | MigrateError::VersionTooNew(..) => {
            StoreError::NewerDatabase { path: path.to_owned() }
        }
        MigrateError::Execute(problem) => of_sqlite(problem, path.to_owned()),
        problem => StoreError::Migration { path: path.to_owned(), problem },
    })
}

/// The jobs whose latest document cannot be read, and why. Read once here, so that no list has to.
async fn unreadable(pool: &SqlitePool) -> Result<HashMap<JobId, Unreadable>, sqlx::Error> {
    let mut all = HashMap::new();
    let jobs = sqlx::query_scalar!("SELECT id FROM job").fetch_all(pool).await?;
    for id in jobs {
        let head = sqlx::query!(
            "SELECT version, document FROM revision JOIN job ON job.id = revision.job AND job.head = revision.seq WHERE job.id = ?",
            id
        );
        let read = match head.fetch_optional(pool).await? {
            Some(head) => unpack(head.version, &head.document).map(drop),
            None => Err(Unreadable::Damaged { problem: "it has no document".to_owned() }),
        };
        if let Err(why) = read {
            tracing::warn!(job = id, %why, "a job cannot be opened");
            all.insert(JobId(id), why);
        }
    }
    Ok(all)
}

//! The data folder: made for its owner alone, held by one server at a time, and watched while it is used.

use std::fs::{self, DirBuilder, File, Metadata, OpenOptions, TryLockError};
use std::io::{self, Read, Seek, Write};
use std::os::unix::fs::{DirBuilderExt, MetadataExt, OpenOptionsExt, PermissionsExt};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use crate::StoreError;

const DATABASE: &str = "jobs.sqlite";
const LOCK: &str = "nook-bend.lock";
/// For the owner alone.
const OWN_FOLDER: u32 = 0o700;
const OWN_FILE: u32 = 0o600;

/// A data folder that is held.
#[derive(Debug, Clone)]
pub(crate) struct Folder {
    database: PathBuf,
    /// Held until it is let go, or the last clone goes.
    lock: Arc<File>,
    /// The files as they were when they were seen last; empty until [`Folder::watch`].
    seen: Arc<Mutex<Vec<Seen>>>,
}

#[derive(Debug)]
struct Seen {
    path: PathBuf,
    file: (u64, u64),
    size: u64,
}

impl Folder {
    /// Makes the folder if it is not there, and takes hold of it.
    ///
    /// # Errors
    /// [`StoreError::Folder`] when it cannot be made or written, [`StoreError::InUse`] when another process has it.
    pub(crate) fn hold(folder: &Path) -> Result<Self, StoreError> {
        let failed = |problem| StoreError::Folder { folder: folder.to_owned(), problem };
        DirBuilder::new().recursive(true).mode(OWN_FOLDER).create(folder).map_err(failed)?;
        // Before anything is changed in it.
        let lock = lock(folder)?;
        let database = folder.join(DATABASE);
        if is_ours(folder).map_err(failed)? {
            fs::set_permissions(folder, fs::Permissions::from_mode(OWN_FOLDER)).map_err(failed)?;
        }
        OpenOptions::new().create(true).append(true).mode(OWN_FILE).open(&database).map_err(failed)?;
        Ok(Self { database, lock: Arc::new(lock), seen: Arc::default() })
    }

    /// The database in it.
    pub(crate) fn database(&self) -> &Path {
        &self.database
    }

    /// Lets another process have the folder.
    pub(crate) fn let_go(&self) {
        if let Err(problem) = self.lock.unlock() {
            tracing::warn!(%problem, "the data folder was not let go");
        }
    }

    /// Begins to watch the database and its log, which are there once it is open.
    ///
    /// # Errors
    /// [`StoreError::Folder`] when one of them is not there.
    pub(crate) fn watch(&self) -> Result<(), StoreError> {
        let log = self.database.with_extension("sqlite-wal");
        let failed = |problem| StoreError::Folder { folder: self.database.clone(), problem };
        let seen = |path: PathBuf| fs::metadata(&path).map(|now| Seen { path, file: identity(&now), size: now.len() });
        let all = [self.database.clone(), log].into_iter().map(seen).collect::<io::Result<_>>().map_err(failed)?;
        *self.seen.lock().unwrap_or_else(PoisonError::into_inner) = all;
        Ok(())
    }

    /// That the files are those that were opened, and hold what they held. SQLite itself goes on writing into files
    /// that have no name any more.
    ///
    /// # Errors
    /// [`StoreError::Gone`].
    pub(crate) fn still_there(&self) -> Result<(), StoreError> {
        for seen in self.seen.lock().unwrap_or_else(PoisonError::into_inner).iter_mut() {
            let now = fs::metadata(&seen.path).ok();
            // Neither ever shrinks while it is open.
            let Some(now) = now.filter(|now| identity(now) == seen.file && now.len() >= seen.size) else {
                return Err(StoreError::Gone { path: seen.path.clone() });
            };
            seen.size = now.len();
        }
        Ok(())
    }
}

fn identity(of: &Metadata) -> (u64, u64) {
    (of.dev(), of.ino())
}

/// Whether nothing in the folder is anybody else's: somebody may have named the home folder.
fn is_ours(folder: &Path) -> io::Result<bool> {
    for entry in fs::read_dir(folder)? {
        let name = entry?.file_name();
        if name != LOCK && !name.to_string_lossy().starts_with(DATABASE) {
            return Ok(false);
        }
    }
    Ok(true)
}

fn lock(folder: &Path) -> Result<File, StoreError> {
    let failed = |problem| StoreError::Folder { folder: folder.to_owned(), problem };
    let path = folder.join(LOCK);
    let opened = OpenOptions::new().read(true).write(true).create(true).truncate(false).mode(OWN_FILE).open(path);
    let mut file = opened.map_err(failed)?;
    match file.try_lock() {
        Ok(()) => {
            // Who holds it is for people to read; the lock holds without.
            let told = file.set_len(0).and_then(|()| writeln!(file, "{}", std::process::id()));
            told.map_err(failed)?;
            Ok(file)
        }
        Err(TryLockError::WouldBlock) => {
            let mut holder = String::new();
            let read = file.rewind().and_then(|()| (&mut file).take(20).read_to_string(&mut holder));
            let holder = match (read, holder.trim()) {
                (Ok(_), process) if !process.is_empty() => format!(" (process {process})"),
                _ => String::new(),
            };
            Err(StoreError::InUse { folder: folder.to_owned(), holder })
        }
        Err(TryLockError::Error(problem)) => Err(failed(problem)),
    }
}

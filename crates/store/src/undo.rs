//! Undo and redo, each author's own. An author's stacks are linked lists through the revisions: every revision says what
//! is on top of its author's two stacks after it, and what was beneath it on the one it was put on. Taking a revision
//! back is a three-way merge, so that what others did since stays.

use nook_core::{Edit, Job, edit_words, merge};
use sqlx::SqliteConnection;

use crate::change::Change;
use crate::document::{pack, unpack};
use crate::stacks::Stacks;
use crate::store::{Store, blocking};
use crate::{Author, JobId, Revision, Step, StoreError};

impl Store {
    /// Takes the author's last change back, or the last taking back, from revision `seen`. That is a new revision like
    /// any other; what others changed since stays.
    ///
    /// # Errors
    /// [`StoreError::NothingTo`] at either end, [`StoreError::MovedOn`] when `seen` is not the latest revision,
    /// [`StoreError::Refused`] when somebody else has changed the same thing since, else as [`Store::load`].
    pub async fn step(&self, id: JobId, seen: i64, step: Step, author: &Author) -> Result<Revision, StoreError> {
        let (head, stacks) = self.seen(id, seen, author).await?;
        let top = match step {
            Step::Undo => stacks.undoes,
            Step::Redo => stacks.redoes,
        };
        let top = top.ok_or(StoreError::NothingTo(step.word()))?;
        let mut reader = self.readers.acquire().await.map_err(|error| self.failed(error))?;
        let (taken, after) = self.stored(&mut reader, id, top).await?;
        let (_, before) = self.stored(&mut reader, id, top - 1).await?;
        let edit = self.edit_of(&mut reader, id, top).await?;
        drop(reader);
        let (seq, name) = (seen + 1, head.name);
        let (job, packed) = blocking(move || {
            let why = |why| StoreError::Unreadable { job: id, name: name.clone(), why };
            let read = |stored: &(i64, Vec<u8>)| unpack(stored.0, &stored.1).map_err(why);
            let job = merge(&read(&after)?, &read(&before)?, &read(&(head.version, head.document))?)?;
            let packed = pack(&job)?;
            Ok((job, packed))
        })
        .await?;
        let stacks = match step {
            Step::Undo => stacks.undone(seq, taken),
            Step::Redo => stacks.redone(seq, taken),
        };
        let change = Change { kind: step.word(), edit, author, stacks };
        let tx = self.begin_on(id, seen).await?;
        self.append(tx, id, seq, change, job, packed).await
    }

    /// A revision as its author is told of it. What cannot be read of the stacks is not said: the revision stands.
    pub(crate) async fn revision(&self, id: JobId, seq: i64, job: Job, stacks: Stacks) -> Revision {
        let mut words = [None, None];
        if let Ok(mut reader) = self.readers.acquire().await {
            for (words, top) in words.iter_mut().zip([stacks.undoes, stacks.redoes]) {
                let Some(top) = top else { continue };
                let edit = self.edit_of(&mut reader, id, top).await.unwrap_or_default();
                *words = edit.and_then(|edit| words_of(&edit, &job));
            }
        }
        let ([undo, redo], can_undo, can_redo) = (words, stacks.undoes.is_some(), stacks.redoes.is_some());
        Revision { id, seq, job, can_undo, can_redo, undo, redo, made: Vec::new() }
    }

    /// The edit a revision made, took back or made again, as it is kept.
    async fn edit_of(
        &self,
        connection: &mut SqliteConnection,
        id: JobId,
        seq: i64,
    ) -> Result<Option<String>, StoreError> {
        let edit = sqlx::query_scalar("SELECT edit FROM revision WHERE job = ? AND seq = ?").bind(id.0).bind(seq);
        let edit: Option<Option<String>> = edit.fetch_optional(connection).await.map_err(|error| self.failed(error))?;
        Ok(edit.flatten())
    }
}

/// What a kept edit is about; nothing for one that an older version kept and this one does not read.
pub(crate) fn words_of(edit: &str, job: &Job) -> Option<String> {
    serde_json::from_str::<Edit>(edit).ok().map(|edit| edit_words(&edit, job))
}

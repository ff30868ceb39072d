//! What was changed last, and what undo and redo would be about, in words.

use nook_core::{Edit, Job, edit_words};
use sqlx::SqliteConnection;

use crate::stacks::Stacks;
use crate::store::Store;
use crate::{JobId, Revision, StoreError};

impl Store {
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
    pub(crate) async fn edit_of(
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

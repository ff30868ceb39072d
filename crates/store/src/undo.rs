//! Undo and redo, each author's own. An author's stacks are linked lists through the revisions: every revision says what
//! is on top of its author's two stacks after it, and what was beneath it on the one it was put on. Taking a revision
//! back is a three-way merge, so that what others did since stays.

use nook_core::merge;

use crate::change::Change;
use crate::document::{pack, unpack};
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
}

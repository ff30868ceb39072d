//! An author's stacks of what can be taken back: linked lists through the revisions.

/// Tops of an author's stacks after a revision, and what was beneath the revision on its stack.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) struct Stacks {
    pub(crate) undoes: Option<i64>,
    pub(crate) redoes: Option<i64>,
    pub(crate) beneath: Option<i64>,
}

impl Stacks {
    /// After an edit, revision `seq`.
    pub(crate) const fn edited(self, seq: i64) -> Self {
        Self { undoes: Some(seq), redoes: None, beneath: self.undoes }
    }

    /// After revision `seq` took back the one on top, which had `taken`.
    pub(crate) const fn undone(self, seq: i64, taken: Self) -> Self {
        Self { undoes: taken.beneath, redoes: Some(seq), beneath: self.redoes }
    }

    /// After revision `seq` took back an undo, which had `taken`.
    pub(crate) const fn redone(self, seq: i64, taken: Self) -> Self {
        Self { undoes: Some(seq), redoes: taken.beneath, beneath: self.undoes }
    }
}

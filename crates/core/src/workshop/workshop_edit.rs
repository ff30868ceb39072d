//! Decisions about the workshop.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{Saw, SawId, Workshop};
use nook_geometry::units::{Kerf, Name};

/// One decision about the workshop.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum WorkshopEdit {
    /// Adds a saw.
    AddSaw {
        /// What it is called.
        name: Name,
        /// Width of its cut in mm.
        kerf: Kerf,
    },
    /// Gives a saw another name.
    RenameSaw {
        /// Which one.
        saw: SawId,
        /// The new name.
        name: Name,
    },
    /// Says how wide a saw cuts: a blade was changed, or a cut was measured.
    SetKerf {
        /// Which saw.
        saw: SawId,
        /// Width in mm.
        kerf: Kerf,
    },
    /// New jobs are made with this saw.
    UseSaw {
        /// Which one.
        saw: SawId,
    },
    /// Takes a saw out that is not in use.
    RemoveSaw {
        /// Which one.
        saw: SawId,
    },
}

/// Why a workshop stays as it was.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum WorkshopError {
    /// It has no such saw.
    #[error("this workshop has no saw {}; it may have been removed", saw.0)]
    NoSuchSaw {
        /// The number asked for.
        saw: SawId,
    },
    /// The saw that is in use.
    #[error("\u{201c}{name}\u{201d} is the saw in use; use another one first")]
    InUse {
        /// Its name.
        name: String,
    },
    /// Two saws of one name could not be told apart.
    #[error("there is a saw \u{201c}{name}\u{201d} already; give this one another name")]
    NameTaken {
        /// The name.
        name: String,
    },
    /// More than there is room for.
    #[error("a workshop holds at most {most} saws; this one has {count}")]
    TooManySaws {
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// Two saws share a number, or one is beyond the next to be given.
    #[error("two saws are numbered {id}, or the number is beyond the last one given")]
    Numbering {
        /// The number.
        id: u32,
    },
    /// Every number there is has been given once.
    #[error("this workshop has no number left to give")]
    NumbersUsedUp,
}

impl Workshop {
    /// The workshop after one more decision; this one is not touched.
    ///
    /// # Errors
    /// [`WorkshopError`] as its variants say.
    pub fn apply(&self, edit: &WorkshopEdit) -> Result<Self, WorkshopError> {
        let mut next = self.clone();
        match edit {
            WorkshopEdit::AddSaw { name, kerf } => {
                let id = SawId(next.next_id);
                next.next_id = id.0.checked_add(1).ok_or(WorkshopError::NumbersUsedUp)?;
                next.saws.push(Saw { id, name: name.clone(), kerf: *kerf });
            }
            WorkshopEdit::RenameSaw { saw, name } => next.saw_mut(*saw)?.name = name.clone(),
            WorkshopEdit::SetKerf { saw, kerf } => next.saw_mut(*saw)?.kerf = *kerf,
            WorkshopEdit::UseSaw { saw } => next.saw = next.saw_mut(*saw)?.id,
            WorkshopEdit::RemoveSaw { saw } => {
                let name = next.saw_mut(*saw)?.name.as_str().to_owned();
                if *saw == next.saw {
                    return Err(WorkshopError::InUse { name });
                }
                next.saws.retain(|one| one.id != *saw);
            }
        }
        next.check()?;
        Ok(next)
    }

    fn saw_mut(&mut self, saw: SawId) -> Result<&mut Saw, WorkshopError> {
        self.saws.iter_mut().find(|one| one.id == saw).ok_or(WorkshopError::NoSuchSaw { saw })
    }
}

//! The workshop: what the builder works with, whatever the job. It outlives jobs and is shared by them.

mod saw;
mod workshop_edit;

pub use saw::{PinnedSaw, Saw, SawId};
pub use workshop_edit::{WorkshopEdit, WorkshopError};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{Kerf, Name};

/// What a builder works with. Its fields change only through [`Workshop::apply`], so what that checks always holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
pub struct Workshop {
    /// Saws; there is always one.
    saws: Vec<Saw>,
    /// The one that new jobs are made with.
    saw: SawId,
    /// The next number to give; numbers are never used twice.
    next_id: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    saws: Vec<Saw>,
    saw: SawId,
    next_id: u32,
}

/// Kerf in mm of a common 14 inch cold saw, until the builder says otherwise.
const USUAL_KERF: f64 = 2.0;

impl Workshop {
    /// Version of the document.
    pub const VERSION: u32 = 1;
    /// Most saws.
    pub const MOST_SAWS: usize = 30;

    /// Saws.
    #[must_use]
    pub fn saws(&self) -> &[Saw] {
        &self.saws
    }

    /// The saw that new jobs are made with.
    #[must_use]
    pub fn saw(&self) -> &Saw {
        // There is always one, and the one in use is among them.
        self.saws.iter().find(|saw| saw.id == self.saw).unwrap_or(&self.saws[0])
    }

    fn check(&self) -> Result<(), WorkshopError> {
        if self.saws.len() > Self::MOST_SAWS {
            return Err(WorkshopError::TooManySaws { count: self.saws.len(), most: Self::MOST_SAWS });
        }
        if !self.saws.iter().any(|saw| saw.id == self.saw) {
            return Err(WorkshopError::NoSuchSaw { saw: self.saw });
        }
        for (index, saw) in self.saws.iter().enumerate() {
            let others = &self.saws[..index];
            if saw.id.0 >= self.next_id || others.iter().any(|other| other.id == saw.id) {
                return Err(WorkshopError::Numbering { id: saw.id.0 });
            }
            if others.iter().any(|other| other.name.as_str().eq_ignore_ascii_case(saw.name.as_str())) {
                return Err(WorkshopError::NameTaken { name: saw.name.as_str().to_owned() });
            }
        }
        Ok(())
    }
}

impl Default for Workshop {
    fn default() -> Self {
        let name = Name::new("Cold saw").unwrap_or_else(|_| unreachable!("a name of two words"));
        let kerf = Kerf::new(USUAL_KERF).unwrap_or_else(|_| unreachable!("2 mm is within the range of a kerf"));
        Self { saws: vec![Saw { id: SawId(1), name, kerf }], saw: SawId(1), next_id: 2 }
    }
}

impl TryFrom<Parts> for Workshop {
    type Error = WorkshopError;
    fn try_from(Parts { saws, saw, next_id }: Parts) -> Result<Self, WorkshopError> {
        let workshop = Self { saws, saw, next_id };
        workshop.check()?;
        Ok(workshop)
    }
}

impl From<Workshop> for Parts {
    fn from(Workshop { saws, saw, next_id }: Workshop) -> Self {
        Self { saws, saw, next_id }
    }
}

//! What is changed about a component.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::measure::{Breathing, Component, Freedom, InstallState, KeepOutId, PlacingWishes, PortRef};
use nook_geometry::units::{Mass, MountHeight, Name};

/// One thing about a component.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum ComponentChange {
    /// What it is called.
    Name {
        /// The new name.
        name: Name,
    },
    /// What belongs to it.
    Parts {
        /// The keep-outs that are its body.
        body: Vec<KeepOutId>,
        /// The ports on it.
        ports: Vec<PortRef>,
    },
    /// What it may be moved by, and how far it is.
    Freedoms {
        /// The one nearest to the car first.
        freedoms: Vec<Freedom>,
    },
    /// How much higher it stands on its mounts than when it was measured.
    Raised {
        /// In mm; nothing where it was measured on them.
        raised: Option<MountHeight>,
    },
    /// Whether it was there when it was measured.
    Standing {
        /// In place, a mock-up, on order or missing.
        standing: InstallState,
    },
    /// Its mass with what is in it.
    Mass {
        /// In kg.
        mass: Option<Mass>,
    },
    /// What it breathes.
    Breathing {
        /// By which face, through which opening.
        breathing: Option<Breathing>,
    },
    /// What is wished of its place.
    Wishes {
        /// All of it.
        wishes: PlacingWishes,
    },
    /// Why this one.
    Note {
        /// A line.
        note: Option<Name>,
    },
}

impl ComponentChange {
    pub(super) fn apply(&self, component: &mut Component) {
        match self {
            Self::Name { name } => component.name = name.clone(),
            Self::Parts { body, ports } => (component.body, component.ports) = (body.clone(), ports.clone()),
            Self::Freedoms { freedoms } => component.freedoms.clone_from(freedoms),
            Self::Raised { raised } => component.raised = *raised,
            Self::Standing { standing } => component.standing = *standing,
            Self::Mass { mass } => component.mass = *mass,
            Self::Breathing { breathing } => component.breathing = *breathing,
            Self::Wishes { wishes } => component.wishes = *wishes,
            Self::Note { note } => component.note.clone_from(note),
        }
    }
}

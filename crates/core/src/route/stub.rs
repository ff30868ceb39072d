//! A stub let into one pipe as the mouth of another.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::BranchId;
use crate::measure::{End, RunId};

/// A stub let into another pipe.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StubRef {
    /// Which pipe it is let into.
    pub run: RunId,
    /// Which of its branches.
    pub branch: BranchId,
}

/// Which ends of a run are stubs of other pipes: their mouths go wherever those go, and what was typed of them is passed over.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StubEnds {
    /// The stub that A is.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub a: Option<StubRef>,
    /// The stub that B is.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub b: Option<StubRef>,
}

impl StubEnds {
    /// Whether neither end is one.
    #[must_use]
    pub const fn is_none(&self) -> bool {
        self.a.is_none() && self.b.is_none()
    }

    /// The stub that an end is.
    #[must_use]
    pub const fn at(&self, end: End) -> Option<StubRef> {
        match end {
            End::A => self.a,
            End::B => self.b,
        }
    }

    /// Says which stub an end is.
    pub(crate) const fn set(&mut self, end: End, stub: Option<StubRef>) {
        match end {
            End::A => self.a = stub,
            End::B => self.b = stub,
        }
    }

    /// Both.
    pub fn each(&self) -> impl Iterator<Item = (End, StubRef)> {
        let stubs = [(End::A, self.a), (End::B, self.b)];
        stubs.into_iter().filter_map(|(end, stub)| Some((end, stub?)))
    }
}

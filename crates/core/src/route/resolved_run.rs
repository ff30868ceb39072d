//! A run whose ports stand where they were found to be.

use std::ops::Deref;

use super::Run;
use crate::flow::Mouth;
use crate::measure::{End, Mounts, Port};
use nook_geometry::Point;

/// A run with its ports where the survey puts them, and how the engine they may ride on moves. A job holds what was typed and read; geometry is done only on
/// this, so that no sum takes the one for the other.
#[derive(Debug, Clone, PartialEq)]
pub struct ResolvedRun {
    run: Run,
    mounts: Option<Mounts>,
}

impl ResolvedRun {
    /// A run whose ports stand where they were typed, as they do without readings, on an engine of which nobody said how it
    /// moves.
    #[must_use]
    pub fn as_typed(run: &Run) -> Self {
        Self { run: run.clone(), mounts: None }
    }

    /// The run with these ports in place of those typed, on an engine that moves like this.
    #[must_use]
    pub(crate) fn at(run: &Run, a: Port, b: Port, mounts: Option<Mounts>) -> Self {
        Self { run: Run { a, b, ..run.clone() }, mounts }
    }

    /// The same on an engine that moves like this.
    #[must_use]
    pub fn on_mounts(self, mounts: Option<Mounts>) -> Self {
        Self { mounts, ..self }
    }

    /// How the engine moves; `None` where nobody said.
    #[must_use]
    pub const fn mounts(&self) -> Option<&Mounts> {
        self.mounts.as_ref()
    }

    /// The ports as what flows meets them: as wide as a tube of their size with this tube's wall, and changing within
    /// the gaps of their joints.
    #[must_use]
    pub fn mouths(&self) -> [Mouth; 2] {
        // A hose is as wide inside as what it sits on is outside, and a fitting as the hose.
        let bore = |end| {
            if self.hose.is_some() { self.tube.bore() } else { self.port(end).od.get() - 2.0 * self.tube.wall() }
        };
        let mouth = |end| Mouth { bore: bore(end), gap: self.gap(end) };
        [End::A, End::B].map(mouth)
    }

    /// The same with one port elsewhere.
    #[must_use]
    pub(crate) fn with_port_at(&self, end: End, at: Point) -> Self {
        let mut moved = self.clone();
        moved.run.port_mut(end).at = at;
        moved
    }
}

impl Deref for ResolvedRun {
    type Target = Run;
    fn deref(&self) -> &Run {
        &self.run
    }
}

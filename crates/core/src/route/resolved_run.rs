//! A run whose ports stand where they were found to be.

use std::ops::Deref;

use super::Run;
use crate::flow::Mouth;
use crate::measure::{End, Mounts, NeckCut, Port};
use nook_geometry::Point;
use nook_geometry::clearance::Rides;

/// A run with its ports where the survey puts them, and how the engine they may ride on moves. A job holds what was typed and read; geometry is done only on
/// this, so that no sum takes the one for the other.
#[derive(Debug, Clone, PartialEq)]
pub struct ResolvedRun {
    run: Run,
    mounts: Option<Mounts>,
    /// What the mouths that are stubs of other pipes ride on.
    on_stubs: [Option<Rides>; 2],
    /// What is sawn off the necks of its ports.
    necks: [Option<NeckCut>; 2],
}

impl ResolvedRun {
    /// A run whose ports stand where they were typed, as they do without readings, on an engine of which nobody said how it
    /// moves.
    #[must_use]
    pub fn as_typed(run: &Run) -> Self {
        Self { run: run.clone(), mounts: None, on_stubs: [None, None], necks: [None, None] }
    }

    /// The run with these ports in place of those typed, on an engine that moves like this.
    #[must_use]
    pub(crate) fn at(run: &Run, a: Port, b: Port, mounts: Option<Mounts>) -> Self {
        Self { run: Run { a, b, ..run.clone() }, mounts, on_stubs: [None, None], necks: [None, None] }
    }

    /// Another run, typed where this one stands, whose mouths ride as this one's do.
    #[must_use]
    pub(crate) fn with_decisions_of(&self, other: &Run) -> Self {
        Self { run: other.clone(), mounts: self.mounts, on_stubs: self.on_stubs, necks: self.necks }
    }

    /// The same with mouths that ride on what stubs of other pipes do.
    #[must_use]
    pub(crate) fn on_stubs(self, on_stubs: [Option<Rides>; 2]) -> Self {
        Self { on_stubs, ..self }
    }

    /// The same with what is sawn off the necks of its ports.
    #[must_use]
    pub(crate) fn with_necks(self, necks: [Option<NeckCut>; 2]) -> Self {
        Self { necks, ..self }
    }

    /// What is sawn off the neck at an end; nothing where that is taken as it stands.
    #[must_use]
    pub fn neck_cut(&self, end: End) -> Option<&NeckCut> {
        self.necks[usize::from(end == End::B)].as_ref()
    }

    /// Whether the mouth at an end is to be the stub of another pipe that has no place: its port stands where it was typed, which
    /// means nothing then.
    #[must_use]
    pub fn is_off_its_stub(&self, end: End) -> bool {
        self.stubs.at(end).is_some() && self.on_stubs[usize::from(end == End::B)].is_none()
    }

    /// What the mouth at an end rides on: its side, or, where it is the stub of a pipe that hangs between the two, as that does.
    #[must_use]
    pub fn mouth_rides(&self, end: End) -> Rides {
        let on_stub = self.on_stubs[usize::from(end == End::B)];
        on_stub.unwrap_or_else(|| self.port(end).rides.into())
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

//! What is always true of mouths that are stubs of other pipes.

use std::collections::HashSet;

use super::{Invalid, Job};
use crate::measure::{End, PortRef, RunId};
use crate::route::Run;

impl Job {
    /// Every stub that a mouth is on is there, of a pipe that does not hang on that mouth's own; and nothing else places it.
    pub(super) fn check_stubs(&self) -> Result<(), Invalid> {
        for run in self.runs() {
            let name = || run.name.as_str().to_owned();
            for (end, stub) in run.stubs.each() {
                let branch = self.run(stub.run).and_then(|host| host.route.branch(stub.branch));
                if !branch.is_some_and(|branch| branch.kind.is_stub()) {
                    return Err(Invalid::NoSuchStub { run: name(), end: end.letter() });
                }
                if self.is_placed_otherwise(run, end) {
                    return Err(Invalid::StubPlaced { run: name(), end: end.letter() });
                }
            }
            let mut hosts = HashSet::new();
            if self.hangs_on(run, run.id, &mut hosts) {
                return Err(Invalid::StubCircle { run: name() });
            }
        }
        let mut taken = HashSet::new();
        for run in self.runs() {
            if run.stubs.each().any(|(_, stub)| !taken.insert(stub)) {
                return Err(Invalid::StubTwice { run: run.name.as_str().to_owned() });
            }
        }
        Ok(())
    }

    fn is_placed_otherwise(&self, run: &Run, end: End) -> bool {
        let id = PortRef { run: run.id, end };
        let leaned = || self.readings().flat_map(|(_, readings)| readings).any(|one| one.taken.port() == Some(id));
        !run.port(end).readings.is_empty() || self.carrier_of(id).is_some() || leaned()
    }

    /// Whether a run hangs on another by its stubs, or by those of the pipes they are let into.
    fn hangs_on(&self, run: &Run, on: RunId, seen: &mut HashSet<RunId>) -> bool {
        run.stubs.each().any(|(_, stub)| {
            stub.run == on
                || (seen.insert(stub.run) && self.run(stub.run).is_some_and(|host| self.hangs_on(host, on, seen)))
        })
    }
}

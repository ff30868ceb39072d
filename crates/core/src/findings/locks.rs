//! Locks that no longer hold, since something else was changed.

use super::remedy::remedy;
use super::words::lock_let_go;
use super::{Finding, FindingKind, Severity};
use crate::edit::{Edit, RouteEdit};
use crate::part_ref::PartRef;
use crate::route::{Lock, ResolvedRun, Route, hold_locks, lock_errors};

/// A lock that is off by less than this, in mm, holds: a tenth of what a tape shows.
pub(crate) const LOCK_HOLDS: f64 = 0.05;

/// A finding for every lock of the run's way that does not hold.
pub(crate) fn locks_let_go(run: &ResolvedRun) -> Vec<Finding> {
    let Some(way) = run.way() else { return Vec::new() };
    let off = lock_errors(run, way);
    let loose = way.locks().iter().zip(off).filter(|(_, off)| *off >= LOCK_HOLDS);
    // The nearest way that holds them may still miss one: then it is no remedy.
    let holds = |held: Route| lock_errors(run, &held).into_iter().all(|off| off < LOCK_HOLDS);
    let can = hold_locks(run, way).is_ok_and(holds);
    loose
        .map(|(lock, off)| {
            let words = lock_let_go(way, lock, off);
            let again = remedy(|_| "Hold it again".to_owned(), Edit::Route(RouteEdit::HoldLocks { run: run.id }));
            let part = match *lock {
                Lock::Straight { straight, .. } | Lock::Leg { leg: straight, .. } => {
                    PartRef::Straight { run: run.id, straight }
                }
                Lock::Angle { bend, .. } | Lock::Rotation { bend, .. } => PartRef::Bend { run: run.id, bend },
            };
            Finding::new(FindingKind::LockLetGo, Severity::Warning, part, words)
                .measured(off, LOCK_HOLDS)
                .mended_by(if can { vec![again] } else { Vec::new() })
        })
        .collect()
}

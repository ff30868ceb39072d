//! Locks that no longer hold, since something else was changed.

use super::remedy::remedy;
use super::{Finding, Place, Severity};
use crate::edit::Edit;
use crate::route::{Lock, ResolvedRun, hold_locks, lock_errors};
use nook_geometry::units::DualUnitText;

/// A lock that is off by less than this, in mm, holds: a tenth of what a tape shows.
pub(crate) const LOCK_HOLDS: f64 = 0.05;

/// What a lock holds, in words.
pub fn lock_words(lock: &Lock) -> DualUnitText {
    DualUnitText::new(|unit| match lock {
        Lock::Straight { straight, length } => format!("Straight {} at {}", straight + 1, unit.text(*length)),
        Lock::Angle { bend, angle } => format!("Bend {} at {angle:.1}\u{b0}", bend + 1),
        Lock::Rotation { bend, rotation } => format!("Bend {} clocked at {rotation:.1}\u{b0}", bend + 1),
        Lock::Leg { leg, level_only: true, .. } => format!("Leg {} level", leg + 1),
        Lock::Leg { leg, direction, .. } => {
            format!("Leg {} heading {:.1}\u{b0}, pitch {:.1}\u{b0}", leg + 1, direction.heading(), direction.pitch())
        }
    })
}

/// A finding for every lock of the run's way that does not hold.
pub(crate) fn locks_let_go(run: &ResolvedRun) -> Vec<Finding> {
    let Some(way) = &run.way else { return Vec::new() };
    let off = lock_errors(run, way);
    let loose = way.locks().iter().zip(off).filter(|(_, off)| *off >= LOCK_HOLDS);
    let can = hold_locks(run, way).is_ok();
    loose
        .map(|(lock, off)| {
            let said = lock_words(lock);
            let words =
                DualUnitText::new(|unit| format!("{} is locked and is off by {}.", said.get(unit), unit.text(off)));
            let again = remedy(|_| "Hold it again".to_owned(), Edit::HoldLocks { run: run.id });
            let place = match *lock {
                Lock::Straight { straight, .. } | Lock::Leg { leg: straight, .. } => Place::Straight { straight },
                Lock::Angle { bend, .. } | Lock::Rotation { bend, .. } => Place::Bend { bend },
            };
            Finding { severity: Severity::Warning, place, words, remedies: if can { vec![again] } else { Vec::new() } }
        })
        .collect()
}

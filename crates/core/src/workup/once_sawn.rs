//! What is noted once something is sawn: which pieces are cut, and what becomes of the stick or the elbow.

use crate::record::Done;
use crate::route::StockElbow;
use crate::stock::Tube;
use crate::workshop::{ElbowId, ShelfPies, Stick, StickId, WorkshopEdit};
use nook_geometry::units::StickLength;

/// What is noted once something is sawn.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct OnceSawn {
    /// The pieces that are cut then.
    pub done: Vec<Done>,
    /// What becomes of the shelf; nothing where that stays as it is.
    pub shelf: Option<WorkshopEdit>,
}

/// What is left of a stick goes back on the shelf where it is longer than this, in mm: no vice holds and squares less. Ours.
pub const LEAST_OFFCUT: f64 = 50.0;
/// What is left of an elbow's arc is kept where it turns more than this, in degrees. Ours.
pub const LEAST_ARC: f64 = 10.0;

impl OnceSawn {
    /// Of a stick, the shelf's or a bought one, with `left` mm left of it.
    #[must_use]
    pub fn stick(stick: Option<StickId>, tube: Tube, left: f64, done: Vec<Done>) -> Self {
        // To the tenth below: what is on the shelf is never longer than it is.
        let kept = StickLength::new((left * 10.0 + 1e-6).floor() / 10.0).ok().filter(|_| left > LEAST_OFFCUT);
        let shelf = match (stick, kept) {
            (Some(stick), Some(length)) => Some(WorkshopEdit::SetStick { stick, length }),
            (Some(stick), None) => Some(WorkshopEdit::RemoveStick { stick }),
            (None, Some(length)) => Some(WorkshopEdit::AddStick { tube, length }),
            (None, None) => None,
        };
        Self { done, shelf }
    }

    /// What becomes of a stick of the shelf once a deed leaves `left` mm of it: what is sawn only shortens it, and what is taken back only
    /// makes it longer again. `None` where it stays as it is.
    #[must_use]
    pub fn after(stick: &Stick, done: &Done, left: f64) -> Option<WorkshopEdit> {
        let now = stick.length.get();
        let changes = match done {
            Done::Cut { .. } | Done::Spoilt { .. } => left < now,
            Done::NotCut { .. } => left > now && left <= StickLength::MAX,
            Done::Did { .. }
            | Done::DidNot { .. }
            | Done::Fit { .. }
            | Done::NotFit { .. }
            | Done::Bottle { .. }
            | Done::Tested { .. }
            | Done::Checked { .. }
            | Done::NotChecked { .. }
            | Done::Worked { .. }
            | Done::NotWorked { .. }
            | Done::Pictured { .. }
            | Done::Signed { .. } => false,
        };
        changes.then(|| Self::stick(Some(stick.id), stick.tube, left, Vec::new()).shelf).flatten()
    }

    /// Of an elbow, the shelf's or a bought one, with so much left of it.
    #[must_use]
    pub fn elbow(elbow: Option<ElbowId>, tube: Tube, left: Option<StockElbow>, done: Option<Done>) -> Self {
        let kept = left.filter(|left| left.angle.get() > LEAST_ARC);
        let shelf = match (elbow, kept) {
            (Some(elbow), Some(to)) => Some(WorkshopEdit::SetElbow { elbow, to }),
            (Some(elbow), None) => Some(WorkshopEdit::RemoveElbow { elbow }),
            (None, Some(elbow)) => Some(WorkshopEdit::AddElbow { tube, elbow }),
            (None, None) => None,
        };
        Self { done: done.into_iter().collect(), shelf }
    }

    /// Of bought pies, of which so many are of a box of the shelf.
    #[must_use]
    pub fn pies(from: Option<(&ShelfPies, u32)>, done: Vec<Done>) -> Self {
        let shelf =
            from.map(|(one, used)| WorkshopEdit::SetPies { pies: one.id, count: one.count.saturating_sub(used) });
        Self { done, shelf }
    }
}

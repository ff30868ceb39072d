//! How findings are said: the only wording of them there is. What is said follows from data; nothing is decided by it.

mod across;
pub(super) mod branched;
mod done;
mod held;
pub(super) mod hose;
mod measuring;
mod near;
mod placing;
mod problem;
pub(super) mod supported;

pub(super) use done::{cut_gone, cut_longer, cut_slanted};
pub(super) use held::{not_reached, pushed_apart, thing_name};
pub(super) use measuring::{
    many_are_wrong, not_fixed, one_of_is_wrong, reading_name, size_mistaken, some_are_wrong, standing, taken_as_twin,
    two_answers,
};
pub use near::unmeasured_words;
pub(super) use near::{hose_near_heat, near_itself, near_thing};
pub use placing::sway_words;
pub(super) use placing::{
    air_goes_round, as_measured, face_hidden, lifted, no_hand_room, not_level, off_centre, scans_unmeasured, scrapes,
    things_near,
};

use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::{HeldBy, Lock, Route, Run};
use nook_geometry::units::DualUnitText;

/// What a part of a run is called, counted from 1 at A.
#[must_use]
pub fn part_words(run: &Run, part: PartRef) -> String {
    let way = &run.route;
    let number =
        |index: Option<usize>| index.map_or_else(|| "that is gone".to_owned(), |index| (index + 1).to_string());
    match part {
        PartRef::Run { .. } => "The run".to_owned(),
        PartRef::End { end, .. } => format!("Joint {}", end.letter()),
        PartRef::Straight { straight, .. } => format!("Straight {}", number(way.leg_index(straight))),
        PartRef::Bend { bend, .. } => format!("Bend {}", number(way.bend_index(bend))),
        PartRef::Joint { joint, .. } => run.joint_name(joint),
        PartRef::Support { support, .. } => {
            way.support_name(support).unwrap_or_else(|| "A support that is gone".to_owned())
        }
        PartRef::Branch { branch, .. } => way.branch_name(branch).unwrap_or_else(|| "A branch that is gone".to_owned()),
        PartRef::Piece { .. } => "A piece".to_owned(),
        PartRef::Datum { .. }
        | PartRef::KeepOut { .. }
        | PartRef::Component { .. }
        | PartRef::Mount { .. }
        | PartRef::Opening { .. } => "The bay".to_owned(),
    }
}

/// What a lock holds, in words.
#[must_use]
pub fn lock_words(way: &Route, lock: &Lock) -> DualUnitText {
    let bend = |id| way.bend_index(id).map_or(0, |index| index + 1);
    let leg = |id| way.leg_index(id).map_or(0, |index| index + 1);
    DualUnitText::new(|unit| match lock {
        Lock::Straight { straight, length } => format!("Straight {} at {}", leg(*straight), unit.text(*length)),
        Lock::Angle { bend: id, angle } => format!("Bend {} at {angle:.1}\u{b0}", bend(*id)),
        Lock::Rotation { bend: id, rotation } => format!("Bend {} clocked at {rotation:.1}\u{b0}", bend(*id)),
        Lock::Leg { leg: id, level_only: true, .. } => format!("Leg {} level", leg(*id)),
        Lock::Leg { leg: id, direction, .. } => {
            format!("Leg {} heading {:.1}\u{b0}, pitch {:.1}\u{b0}", leg(*id), direction.heading(), direction.pitch())
        }
    })
}

/// What held a drag back, in words.
#[must_use]
pub fn held_words(held: &HeldBy, way: &Route) -> DualUnitText {
    DualUnitText::new(|unit| match held {
        HeldBy::Lock { lock } => format!("Held by a lock: {}.", lock_words(way, lock).get(unit).to_lowercase()),
        HeldBy::Straight { straight, least } => {
            let number = way.leg_index(*straight).map_or(0, |index| index + 1);
            format!("Held by straight {number}: {} is its least.", unit.text(*least))
        }
        HeldBy::Angle { bend } => {
            format!("Held by bend {}: it turns no further.", way.bend_index(*bend).map_or(0, |index| index + 1))
        }
        HeldBy::Axis { end } => {
            let which = match end {
                End::A => "first",
                End::B => "last",
            };
            format!("The {which} bend stays on the axis of port {}.", end.letter())
        }
    })
}

/// A lock that no longer holds.
pub(super) fn lock_let_go(way: &Route, lock: &Lock, off: f64) -> DualUnitText {
    let said = lock_words(way, lock);
    DualUnitText::new(|unit| format!("{} is locked and is off by {}.", said.get(unit), unit.text(off)))
}

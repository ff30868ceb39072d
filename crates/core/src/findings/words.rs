//! How a problem is said. The only wording of findings there is.

use super::Problem;
use crate::join::BEAD_FROM_END;
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::{HeldBy, Lock, ResolvedRun, Route, Run};
use nook_geometry::units::DualUnitText;

impl Problem {
    /// Says what is wrong of `part` of `run`: where, how much, which limit.
    #[must_use]
    pub fn words(&self, run: &ResolvedRun, part: PartRef) -> DualUnitText {
        let at = match part {
            PartRef::End { end, .. } => format!("End {}, {}", end.letter(), run.port(end).name),
            other => part_words(run, other),
        };
        if let Self::NoRoute(why) = self {
            return why.words();
        }
        DualUnitText::new(|unit| {
            let say = |mm: f64| unit.text(mm);
            match *self {
                Self::NoRoute(_) => String::new(),
                Self::NoWayTaken => "No way round is taken yet. Take one of those listed.".to_owned(),
                Self::DoesNotJoin(why) => format!("The way taken no longer joins the ports: {why}."),
                Self::NegativeStraight { length } => {
                    format!("{at}: the bends overlap by {}. There must be some straight between them.", say(-length))
                }
                Self::ShortStraight { length, least } => {
                    format!(
                        "{at}: {} between two bends; {} wanted, so that their seams stay apart.",
                        say(length),
                        say(least)
                    )
                }
                Self::ShortSeat { have, need } => format!(
                    "{at}: {} of straight tube; the hose wants {}, bead at {} included.",
                    say(have),
                    say(need),
                    say(BEAD_FROM_END)
                ),
                Self::ShortRoom { have, need, overlap } => format!(
                    "{at}: {} of straight; {} wanted for its gap, seats and beads and what else is on it.{}",
                    say(have),
                    say(need),
                    if overlap { " There is no tube left between." } else { "" }
                ),
                Self::ThinThroat { throat, .. } if throat <= 0.0 => {
                    format!("{at}: the radius is under half the tube, so the pies have no inside. Open the radius.")
                }
                Self::ThinThroat { throat, least, seams } => format!(
                    "{at}: {} throat with {seams} seams; {} wanted, so that two welds do not melt into one.",
                    say(throat),
                    say(least)
                ),
                Self::SawTooFar { degrees, most } => {
                    format!("{at}: the saw would be set at {degrees:.1}\u{b0}; {most:.0}\u{b0} is the most a saw does.")
                }
                Self::SizesDiffer { port, tube, joint } => {
                    let off = (port - tube).abs();
                    let advice = if off > crate::join::SizeMatch::STRETCH {
                        format!("{} is the most it takes", say(crate::join::SizeMatch::STRETCH))
                    } else if joint.has_hose() {
                        format!("over {} a hose must be stretched or sleeved", say(crate::join::SizeMatch::GOOD))
                    } else {
                        "a weld must share the step".to_owned()
                    };
                    format!(
                        "{at}: the port is {} and the tube {}, {} apart for a {}; {advice}.",
                        say(port),
                        say(tube),
                        say(off),
                        joint.word()
                    )
                }
                Self::NeedlessReducer => format!("{at}: port and tube are one size; a plain coupler does."),
                Self::HoseOnMetal { form } => {
                    format!("{at}: a hose cannot be clamped on a {} port.", form.word())
                }
                Self::WideGap { gap, most } => format!(
                    "{at}: {} gap inside a hose under boost; {} is the most, half the bore, before it balloons.",
                    say(gap),
                    say(most)
                ),
                Self::EndStep { step, most } => format!(
                    "{at}: square pie ends stand {} proud, oval on round tube; up to {}, half the wall, welds well.",
                    say(step),
                    say(most)
                ),
            }
        })
    }
}

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
        PartRef::Piece { .. } => "A piece".to_owned(),
        PartRef::Datum { .. } | PartRef::KeepOut { .. } | PartRef::Component { .. } => "The bay".to_owned(),
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

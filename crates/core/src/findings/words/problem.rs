//! What is wrong with a pipe before anything is around it.

use super::part_words;
use crate::assembly::{CRIMPER, ROLLER};
use crate::findings::Problem;
use crate::join::{BEAD_FROM_END, JointKind};
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
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
                Self::ShortStraight { length, least, drawn } => format!(
                    "{at}: {} between two bends; {} wanted, {}.",
                    say(length),
                    say(least),
                    if drawn { "for the bender to hold" } else { "so that their seams stay apart" }
                ),
                Self::ShortSeat { have, need, joint: JointKind::HoseEnd } => format!(
                    "{at}: {} of straight hose; {} wanted {}.",
                    say(have),
                    say(need),
                    if run.is_threaded() {
                        "from where it is cut, its socket included, before it bends"
                    } else {
                        "past the mouth, so that it is cut and clamped on a straight"
                    }
                ),
                Self::ShortSeat { have, need, joint } if joint.has_hose() => format!(
                    "{at}: {} of straight tube; the hose wants {}, bead at {} included.",
                    say(have),
                    say(need),
                    say(BEAD_FROM_END)
                ),
                Self::ShortSeat { have, need, joint } => {
                    format!("{at}: {} of straight tube; the {} wants {}.", say(have), joint.word(), say(need))
                }
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
                Self::TightBend { radius, none, .. } if radius <= none => {
                    format!(
                        "{at}: {} radius is under half the tube, so it has no inside. Open the radius.",
                        say(radius)
                    )
                }
                Self::TightBend { radius, least, moulded: true, .. } => format!(
                    "{at}: {} radius, and moulded elbows of this size have {} at least, their bore.",
                    say(radius),
                    say(least)
                ),
                Self::ElbowAngle { degrees, nearest, most } => format!(
                    "{at}: turns {degrees:.1}\u{b0}, and moulded elbows turn 45, 90 or 135. {nearest:.0}\u{b0} is the \
                     nearest, and one may be pulled {most:.0}\u{b0}."
                ),
                Self::ElbowRadius { radius, elbow } => format!(
                    "{at}: laid at {} radius, and what it is made of has {}. It would not lie on its line.",
                    say(radius),
                    say(elbow)
                ),
                Self::ElbowTooSmall { degrees, elbow } => format!(
                    "{at}: turns {degrees:.1}\u{b0}, and the elbow it is made of turns {elbow:.1}\u{b0}. Nothing can be added to it."
                ),
                Self::PieTooWide { degrees, pie } => format!(
                    "{at}: turns {degrees:.1}\u{b0}, less than one of the pies it is made of, which turns {pie:.1}\u{b0}."
                ),
                Self::OutOfRound { elbow: true } => format!(
                    "{at}: sawn in its arc, the elbow's end is no longer round. Measure it across two ways and press it round before it \
                     is tacked."
                ),
                Self::OutOfRound { elbow: false } => format!(
                    "{at}: the wall is thin for the tube, which the saw's vice presses oval. Hold it in a half-round block, and measure \
                     sawn ends across two ways."
                ),
                Self::BeadFirst { count, straight } => {
                    let (beads, they) = if count == 1 { ("a bead is", "it is") } else { ("beads are", "they are") };
                    format!(
                        "{at}: {beads} to be rolled before {they} welded or bent in: afterwards the roller has {} of straight tube and \
                         wants {}. The cut list says which.",
                        say(straight),
                        say(ROLLER)
                    )
                }
                Self::NoRoomForBead { straight } => format!(
                    "{at}: the hose's bead is on an elbow's leg of {}, and the smallest tool wants {}. Take an elbow with a longer leg, or \
                     weld a piece of tube to it.",
                    say(straight),
                    say(CRIMPER)
                ),
                Self::NoPlaceForSplice { takes, longest } => format!(
                    "{at}: takes {} of one stick, and the longest to be had is {}. Nowhere on its straights is a weld clear of bends, seats, \
                     supports and what is let in: buy a longer one, or move what is in the way.",
                    say(takes),
                    say(longest)
                ),
                Self::TightBend { radius, least, .. } => format!(
                    "{at}: drawn at {} radius; {} is the least before thin tube kinks, one and a half diameters.",
                    say(radius),
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
                Self::HoseOnMetal { form, joint } if joint.has_hose() => {
                    format!("{at}: a hose cannot be clamped on a {} port.", form.word())
                }
                Self::HoseOnMetal { form, joint } => {
                    format!(
                        "{at}: a {} is welded on, and a {} port has no plain tube for it.",
                        joint.word(),
                        form.word()
                    )
                }
                Self::TwoMetals { port, tube } => format!(
                    "{at}: {} and {} do not fuse. Clamp them: a V-band, an O-ring joint or a flange has one half of each.",
                    port.name(),
                    tube.name()
                ),
                Self::ShortNeck { have, need, joint } => {
                    format!("{at}: {} are left of its neck; a {} wants {} on it.", say(have), joint.word(), say(need))
                }
                Self::NeckCutAway { left, must_stay } => format!(
                    "{at}: {} are left of its neck, and {} of it must stay. Saw less off.",
                    say(left),
                    say(must_stay)
                ),
                Self::NeckImpossible(why) => format!("{at}: {why}. Saw less off, or turn it less."),
                Self::StubNotThere => format!(
                    "{at}: it is the stub of another pipe, and that has no way yet or does not join its ports. Mend that pipe first."
                ),
                Self::UnfitHose { joint, why } => format!(
                    "{at}: a {} is of silicone as they are sold, and {why}. Take one made for it, or join it by metal.",
                    joint.word()
                ),
                Self::TooHot { joint, celsius, most } => {
                    format!("{at}: {celsius:.0} \u{b0}C in it; a {} bears {most:.0} \u{b0}C.", joint.word())
                }
                Self::TooMuchPressure { joint, bar, most } => {
                    format!("{at}: {bar:.2} bar in it; a {} of this size bears {most:.2} bar.", joint.word())
                }
                Self::NotForThis { joint } => {
                    format!("{at}: a {} leaks a little and is for exhausts only.", joint.word())
                }
                Self::PartSize { part, tube } => format!(
                    "{at}: the part is for {} tube and this is {}, {} apart.",
                    say(part),
                    say(tube),
                    say((part - tube).abs())
                ),
                Self::NarrowGap { gap, least } => {
                    format!("{at}: a gap of {}; what goes into it is {} long.", say(gap), say(least))
                }
                Self::WideGap { gap, most, joint: JointKind::Bellows } => {
                    format!("{at}: {} for the bellows; {} is the longest that is sold.", say(gap), say(most))
                }
                Self::WideGap { gap, most, joint: JointKind::Hump } => {
                    format!("{at}: {} gap in a hump coupler; {} is the most, the bore or 30.", say(gap), say(most))
                }
                Self::WideGap { gap, most, .. } => format!(
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

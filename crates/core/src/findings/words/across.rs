//! A pipe that does not take the engine's movement.

use crate::findings::{Across, GiveWay, OverGive};
use crate::route::{Joint, ResolvedRun};
use nook_geometry::units::{DualUnitText, LengthUnit, capital};

impl Across {
    /// Says what is wrong.
    pub fn words(&self, run: &ResolvedRun) -> DualUnitText {
        DualUnitText::new(|unit| match *self {
            Self::Stiff { engine, travel, solid } => {
                let how = match travel {
                    Some(travel) if solid => {
                        format!("even solid mounts let the engine move {} there", unit.text(travel))
                    }
                    Some(travel) => format!("the engine moves {} there and it will crack", unit.text(travel)),
                    None => "nobody has said yet how the engine moves".to_owned(),
                };
                let [a, b] = [engine, engine.other()].map(|end| run.joint(end).kind.word());
                format!(
                    "{} at {} on the engine, {b} at {} on the body: the pipe gives nowhere; {how}. Put a joint that gives between.",
                    capital(a),
                    engine.letter(),
                    engine.other().letter()
                )
            }
            Self::Bracketed { support, to, moves } => {
                let name = run.route.support_name(support).unwrap_or_else(|| "A support".to_owned());
                let then = match (moves, run.mounts()) {
                    (true, _) => "it will crack",
                    (false, Some(_)) => "even solid mounts move a little",
                    (false, None) => "nobody has said yet how the engine moves",
                };
                format!(
                    "{name} fixes to the {} a section that joints without give tie to the {}: {then}.",
                    to.word(),
                    to.other().word()
                )
            }
            Self::Dangles { at, .. } => {
                let mend = "Fix it with clamps or a tab, hang it in two places";
                match at {
                    Some(at) => format!(
                        "{}: it gives, and what follows it towards the open end swings freely. {mend}, or take a joint that \
                         does not give.",
                        run.joint_name(at)
                    ),
                    None => format!("Both ends are open, and the pipe swings freely. {mend}."),
                }
            }
            Self::Loose => "The joints let a section swing about as the engine moves: nothing says where it comes to \
                            rest. One joint less, or one that gives less."
                .to_owned(),
            Self::Over(over) => over.words(run, unit),
        })
    }
}

impl OverGive {
    fn words(&self, run: &ResolvedRun, unit: LengthUnit) -> String {
        let name = run.joint_name(self.at);
        let (does, value, limit) = match self.way {
            GiveWay::Angle => ("bends", degrees(self.value), degrees(self.limit)),
            GiveWay::Offset => ("is pushed sideways", unit.text(self.value), unit.text(self.limit)),
            GiveWay::Axial => ("is drawn or pushed along", unit.text(self.value), unit.text(self.limit)),
        };
        let when = if !self.moved {
            " as the pipe gets hot".to_owned()
        } else if self.roll.abs() < 0.05 {
            " as the engine shifts".to_owned()
        } else {
            format!(" with the engine rolled {}", degrees(self.roll.abs()))
        };
        let called = run.route.joint(self.at).map_or_else(|| self.kind.word().to_owned(), Joint::called);
        format!("{name}: it {does} {value}{when}; the {called} gives {limit}.")
    }
}

fn degrees(angle: f64) -> String {
    format!("{angle:.1}\u{b0}")
}

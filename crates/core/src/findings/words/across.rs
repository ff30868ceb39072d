//! A pipe that does not take the engine's movement.

use crate::findings::Across;
use crate::route::ResolvedRun;
use nook_geometry::units::DualUnitText;

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
                format!(
                    "Metal at both ends, {} on the engine and {} on the body: the pipe gives nowhere; {how}. Put a hose at one end.",
                    engine.letter(),
                    engine.other().letter()
                )
            }
            Self::BeyondGaps { at, travel, gaps } => format!(
                "{}: the engine moves {} there; the gaps in its hoses take {}. Wider gaps, stiffer mounts or a joint that gives more.",
                run.joint_name(at),
                unit.text(travel),
                unit.text(gaps)
            ),
        })
    }
}

//! A pipe from engine to body: what its joints give against how far the engine moves.

use super::remedy::remedy;
use super::{Finding, Place, Remedy, Severity};
use crate::edit::{Edit, apply};
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::{End, MountKind, Mounts, Side};
use crate::route::{ResolvedRun, joint_needs};
use crate::survey::Survey;
use nook_geometry::units::{DualUnitText, Gap, LengthUnit};

/// Why a pipe from engine to body does not take the engine's movement.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Across {
    /// Metal at both ends: it gives nowhere.
    Stiff {
        /// The end on the engine.
        engine: End,
        /// How far the engine moves there, in mm; `None` where nobody said how it moves.
        travel: Option<f64>,
        /// Whether the engine is bolted metal to metal.
        solid: bool,
    },
    /// It moves further than the gaps in its couplers, so that tube ends meet inside a hose or leave it.
    BeyondGaps {
        /// Where.
        end: End,
        /// How far, in mm.
        travel: f64,
        /// What the gaps add up to, in mm.
        gaps: f64,
    },
}

/// Whether the joints of a run take the engine's movement; `None` where they do, or it does not move against the run.
/// Source: handbook, "Joints, fittings, hoses and supports": a rigid section tied to engine and to body by joints without
/// give is a fault, a warning where the engine is solid-mounted.
pub fn across(run: &ResolvedRun, mounts: Option<&Mounts>) -> Option<Across> {
    let side = |end: End| run.port(end).rides;
    if side(End::A) == side(End::B) {
        return None;
    }
    let engine = if side(End::A) == Side::Engine { End::A } else { End::B };
    let travel = |end: End| mounts.map(|mounts| mounts.travel(run.port(end).at));
    let gives = |end: End| run.joint(end).kind.has_hose();
    // What parts the tube between its ends gives as well.
    let along: f64 = run.way.iter().flat_map(|way| way.joints()).map(|joint| joint_needs(run, joint).gap).sum();
    let (end, gaps) = match (gives(engine), gives(engine.other())) {
        (false, false) if along > 0.0 => (engine, along),
        (false, false) => {
            let solid = mounts.is_some_and(|mounts| mounts.kind == MountKind::Solid);
            return Some(Across::Stiff { engine, travel: travel(engine), solid });
        }
        (true, true) => (engine, run.gap(End::A) + run.gap(End::B) + along),
        (true, false) => (engine, run.gap(engine) + along),
        // The tube goes with the engine, so the movement is at the other end.
        (false, true) => (engine.other(), run.gap(engine.other()) + along),
    };
    let travel = travel(end)?;
    (travel > gaps).then_some(Across::BeyondGaps { end, travel, gaps })
}

impl Across {
    /// Says what is wrong.
    pub fn words(&self) -> DualUnitText {
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
            Self::BeyondGaps { end, travel, gaps } => format!(
                "Joint {}: the engine moves {} there; the gaps in its hoses take {}. Wider gaps, stiffer mounts or a joint that gives more.",
                end.letter(),
                unit.text(travel),
                unit.text(gaps)
            ),
        })
    }

    fn severity(&self) -> Severity {
        match self {
            Self::Stiff { travel: Some(_), solid: false, .. } => Severity::Error,
            Self::Stiff { .. } | Self::BeyondGaps { .. } => Severity::Warning,
        }
    }

    const fn end(&self) -> End {
        match self {
            Self::Stiff { engine, .. } => *engine,
            Self::BeyondGaps { end, .. } => *end,
        }
    }

    /// As a finding, with the edits after which there is none left.
    pub(crate) fn finding(&self, job: &Job, run: &ResolvedRun, mend: bool) -> Finding {
        let remedies = if mend { self.remedies(job, run) } else { Vec::new() };
        Finding { severity: self.severity(), place: Place::End { end: self.end() }, words: self.words(), remedies }
    }

    fn remedies(&self, job: &Job, run: &ResolvedRun) -> Vec<Remedy> {
        let id = run.id;
        let tried = match *self {
            Self::Stiff { engine, .. } => [engine, engine.other()]
                .into_iter()
                .filter(|end| run.port(*end).form.takes_hose())
                .map(|end| {
                    let edit = Edit::SetJoint { run: id, end, kind: JointKind::Coupler };
                    remedy(|_| format!("Put a coupler at {}", end.letter()), edit)
                })
                .collect(),
            Self::BeyondGaps { end, travel, gaps } => {
                let wider = (run.gap(end) + travel - gaps).ceil();
                // Wider than half the bore a hose balloons under boost.
                let most = if run.duty.is_boost() { run.tube.bore() / 2.0 } else { f64::INFINITY };
                let gap = Gap::new(wider).ok().filter(|gap| gap.get() <= most);
                let say = |unit: LengthUnit| format!("Make the gap at {} {}", end.letter(), unit.text(wider));
                gap.map(|gap| remedy(say, Edit::SetGap { run: id, end, gap: Some(gap) })).into_iter().collect()
            }
        };
        let works = |remedy: &Remedy| {
            let Ok(next) = apply(job, &remedy.edit) else { return false };
            let Some(after) = next.run(id) else { return false };
            let left = across(&Survey::new(&next).settle(after), next.mounts());
            !matches!((self, left), (Self::Stiff { .. }, Some(Self::Stiff { .. })) | (Self::BeyondGaps { .. }, Some(_)))
        };
        let tried: Vec<Remedy> = tried;
        tried.into_iter().filter(works).collect()
    }
}

//! A pipe from engine to body: what its joints give against how far the engine moves.

use super::remedy::remedy;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::Assembly;
use crate::edit::{Applied, Edit, JoinEdit, JointChange, apply};
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::{End, MountKind, Mounts, Side};
use crate::part_ref::PartRef;
use crate::route::{Joint, JointId, ResolvedRun};
use crate::survey::Survey;
use nook_geometry::Point;
use nook_geometry::units::{Gap, LengthUnit};

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
        /// The first joint that gives, seen from the engine.
        at: JointId,
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
    let mut giving = giving(run);
    if engine == End::B {
        giving.reverse();
    }
    let Some(first) = giving.first() else {
        let travel = mounts.map(|mounts| mounts.travel(run.port(engine).at));
        let solid = mounts.is_some_and(|mounts| mounts.kind == MountKind::Solid);
        return Some(Across::Stiff { engine, travel, solid });
    };
    // Up to the first joint that gives the pipe goes with the engine, so the movement is there.
    let travel = mounts?.travel(first.at);
    let gaps = giving.iter().map(|joint| joint.gap).sum();
    (travel > gaps).then_some(Across::BeyondGaps { at: first.id, travel, gaps })
}

/// A joint that gives: which, where, and its gap in mm.
struct Giving {
    id: JointId,
    at: Point,
    gap: f64,
}

/// The joints of a run that give, from A.
fn giving(run: &ResolvedRun) -> Vec<Giving> {
    let end = |end: End| {
        let joint = run.joint(end);
        joint.kind.has_hose().then(|| Giving { id: joint.id, at: run.port(end).at, gap: run.gap(end) })
    };
    let pipe = Assembly::build(run).and_then(Result::ok);
    let between = pipe.iter().flat_map(|pipe| pipe.between()).filter_map(|joint| {
        let at = Point::new(joint.place.x, joint.place.y, joint.place.z).ok()?;
        Some(Giving { id: joint.id, at, gap: joint.needs.gap })
    });
    end(End::A).into_iter().chain(between).chain(end(End::B)).collect()
}

impl Across {
    fn severity(&self) -> Severity {
        match self {
            Self::Stiff { travel: Some(_), solid: false, .. } => Severity::Error,
            Self::Stiff { .. } | Self::BeyondGaps { .. } => Severity::Warning,
        }
    }

    fn part(&self, run: &ResolvedRun) -> PartRef {
        match *self {
            Self::Stiff { engine: end, .. } => PartRef::End { run: run.id, end },
            Self::BeyondGaps { at, .. } => PartRef::of_joint(run.id, at, run.route.joint(at).and_then(Joint::end)),
        }
    }

    /// As a finding, with the edits after which there is none left.
    pub(crate) fn finding(&self, job: &Job, run: &ResolvedRun, mend: bool) -> Finding {
        let remedies = if mend { self.remedies(job, run) } else { Vec::new() };
        let (kind, measured) = match *self {
            Self::Stiff { travel, .. } => (FindingKind::Stiff, travel.map(|travel| [travel, 0.0])),
            Self::BeyondGaps { travel, gaps, .. } => (FindingKind::BeyondGaps, Some([travel, gaps])),
        };
        let finding = Finding::new(kind, self.severity(), self.part(run), self.words(run)).mended_by(remedies);
        match measured {
            Some([value, limit]) => finding.measured(value, limit),
            None => finding,
        }
    }

    fn remedies(&self, job: &Job, run: &ResolvedRun) -> Vec<Remedy> {
        let id = run.id;
        let tried = match *self {
            Self::Stiff { engine, .. } => [engine, engine.other()]
                .into_iter()
                .filter(|end| run.port(*end).form.takes_hose())
                .map(|end| {
                    let to = JointChange::Kind { kind: JointKind::Coupler };
                    let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint: run.joint(end).id, to });
                    remedy(|_| format!("Put a coupler at {}", end.letter()), edit)
                })
                .collect(),
            Self::BeyondGaps { at, travel, gaps } => {
                let now = giving(run).into_iter().find(|joint| joint.id == at).map_or(0.0, |joint| joint.gap);
                let wider = (now + travel - gaps).ceil();
                // Wider than half the bore a hose balloons under boost.
                let most = if run.duty.is_boost() { run.tube.bore() / 2.0 } else { f64::INFINITY };
                let gap = Gap::new(wider).ok().filter(|gap| gap.get() <= most);
                let place = match run.route.joint(at).and_then(Joint::end) {
                    Some(end) => end.letter().to_string(),
                    None => "the coupler".to_owned(),
                };
                let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint: at, to: JointChange::Gap { gap } });
                let say = |unit: LengthUnit| format!("Make the gap at {place} {}", unit.text(wider));
                gap.map(|_| remedy(say, edit)).into_iter().collect()
            }
        };
        let works = |remedy: &Remedy| {
            let Ok(Applied { job: next, .. }) = apply(job, &remedy.edit) else { return false };
            let Some(after) = next.run(id) else { return false };
            let left = across(&Survey::new(&next).settle(after), next.mounts());
            !matches!((self, left), (Self::Stiff { .. }, Some(Self::Stiff { .. })) | (Self::BeyondGaps { .. }, Some(_)))
        };
        let tried: Vec<Remedy> = tried;
        tried.into_iter().filter(works).collect()
    }
}

//! The finished pipe by station: what lies where along its centre line. Everything that follows from a pipe's shape reads
//! it, so that nobody walks the path for himself.

mod envelope;
mod figures;
mod over;
mod seated;

pub use envelope::{Pies, rides};
pub use figures::Figures;
pub use over::{HOSE, JointRef, Over, OverKind};
pub use seated::SeatedJoint;

use crate::cut::{Piece, pieces};
use crate::measure::End;
use crate::route::{
    Joint, LayError, PieCut, ResolvedRun, Route, build_path, gap_reason, joint_needs, tube_path, usual_seams,
};
use nook_geometry::Path;

/// The finished pipe.
#[derive(Debug, Clone, PartialEq)]
pub struct Assembly {
    /// Its centre line from mouth to mouth, gaps included.
    pub whole: Path,
    /// The same from tube end to tube end.
    pub tube: Path,
    /// Joints between the ends, from A.
    pub joints: Vec<SeatedJoint>,
    /// How each bend is made.
    pub makes: Vec<Pies>,
    /// Pie figures of each bend.
    pub cuts: Vec<PieCut>,
    /// Gaps at the ends, A's first, in mm.
    gaps: [f64; 2],
    od: f64,
}

impl Assembly {
    /// The pipe of `run` along its own route; `None` where it has none.
    ///
    /// # Errors
    /// [`LayError`] when that does not join the ports.
    pub fn build(run: &ResolvedRun) -> Option<Result<Self, LayError>> {
        run.way.as_ref().map(|way| Self::along(run, way))
    }

    /// The pipe of `run` along another route.
    ///
    /// # Errors
    /// [`LayError`] when that does not join the ports.
    pub fn along(run: &ResolvedRun, way: &Route) -> Result<Self, LayError> {
        let whole = build_path(run, way)?;
        let tube = tube_path(run, &whole);
        let made = |(bend, step): (usize, &nook_geometry::PathStep)| {
            let spec = way.bends().get(bend).copied().unwrap_or_default();
            let arc = step.bend;
            let seams = spec.seams.unwrap_or_else(|| usual_seams(run.tube, arc.radius, arc.angle));
            ((seams, spec.ends), PieCut::new(run.tube.od(), arc.radius, arc.angle, seams, spec.ends))
        };
        let (makes, cuts) = whole.legs().iter().enumerate().map(made).unzip();
        let gaps = [run.gap(End::A), run.gap(End::B)];
        let joints = seated_joints(run, way, &tube, gaps[0]);
        Ok(Self { whole, tube, joints, makes, cuts, gaps, od: run.tube.od() })
    }

    /// Stations from A's mouth between which there is tube, in mm: one pair for each section.
    #[must_use]
    pub fn sections(&self) -> Vec<[f64; 2]> {
        let mut from = self.gaps[0];
        let mut all = Vec::with_capacity(self.joints.len() + 1);
        for joint in &self.joints {
            let [to, next] = joint.gap();
            all.push([from, to]);
            from = next;
        }
        all.push([from, self.whole.length() - self.gaps[1]]);
        all
    }

    /// The centre line of each section's tube, from A; `None` where a joint's gap lies in a bend, since bends overlap.
    #[must_use]
    pub fn section_paths(&self) -> Option<Vec<Path>> {
        self.sections().into_iter().map(|section| self.whole.between(section)).collect()
    }

    /// Joints on one leg.
    pub fn joints_on(&self, leg: usize) -> impl Iterator<Item = &SeatedJoint> {
        self.joints.iter().filter(move |joint| joint.leg == leg)
    }

    /// The pieces of tube it is made of, in order.
    #[must_use]
    pub fn pieces(&self) -> Vec<Piece> {
        let starts = straight_starts(&self.tube, self.gaps[0]);
        let gaps = |leg: usize| {
            let start = starts[leg];
            self.joints_on(leg).map(move |joint| joint.gap().map(|station| station - start)).collect()
        };
        let gaps: Vec<Vec<[f64; 2]>> = (0..starts.len()).map(gaps).collect();
        pieces(&self.tube, self.od, &self.makes, &gaps)
    }
}

/// Stations in mm at which the straights of a tube begin that itself begins at `station`.
fn straight_starts(tube: &Path, mut station: f64) -> Vec<f64> {
    let mut all = vec![station];
    for step in tube.legs() {
        station += step.straight + step.bend.length();
        all.push(station);
    }
    all
}

fn seated_joints(run: &ResolvedRun, way: &Route, tube: &Path, begin: f64) -> Vec<SeatedJoint> {
    let starts = straight_starts(tube, begin);
    let last = starts.len() - 1;
    let mut all = Vec::with_capacity(way.joints().len());
    let mut travel = tube.setting_out();
    for (leg, length) in tube.straights().enumerate() {
        let mut here: Vec<(f64, &Joint)> = way
            .joints()
            .iter()
            .filter(|joint| joint.at.leg.min(last) == leg)
            .map(|joint| (joint.at.from_start(length), joint))
            .collect();
        here.sort_by(|p, q| p.0.total_cmp(&q.0).then(p.1.id.cmp(&q.1.id)));
        let taken = |end: End, at: bool| if at { run.straight_needed(end) } else { 0.0 };
        let room = [taken(End::A, leg == 0), length - taken(End::B, leg == last)];
        let wanted: Vec<seated::Wanted> = here.iter().map(|(at, joint)| (*at, joint_needs(run, joint))).collect();
        let (middles, short) = seated::seat(room, &wanted);
        all.extend(here.iter().zip(wanted).zip(middles).map(|(((_, joint), (_, needs)), middle)| SeatedJoint {
            id: joint.id,
            kind: joint.kind,
            meant: joint.at,
            leg,
            start: starts[leg],
            middle: starts[leg] + middle,
            place: travel.straight(middle).at,
            needs,
            reason: gap_reason(run, joint),
            short,
        }));
        if let Some(step) = tube.legs().get(leg) {
            travel = travel.straight(length).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
    }
    all
}

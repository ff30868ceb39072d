//! The finished pipe by station: what lies where along its centre line. Everything that follows from a pipe's shape reads
//! it, so that nobody walks the path for himself.

mod bore;
mod branched;
mod clock;
mod envelope;
mod fall;
mod figures;
mod free_span;
mod hose_cut;
mod hung;
mod moves;
mod over;
mod seated;
mod supported;

pub use crate::join::OverKind;
pub use bore::BoreExtreme;
pub use branched::SeatedBranch;
pub use envelope::rides;
pub use fall::{LeastFall, SLOPE, Slope};
pub use figures::Figures;
pub(crate) use free_span::Judged;
pub use free_span::{BeamOfPipe, FreeSpan};
pub use hose_cut::{HoseLength, insert_half};
pub use moves::{Anchor, Chain, JointUse, Moves};
pub use over::Over;
pub use seated::SeatedJoint;
pub use supported::SeatedSupport;

use crate::cut::{Piece, PieceId, PieceKind, pieces};
use crate::measure::End;
use crate::route::{Joint, LayError, ResolvedMake, ResolvedRun, Route, Stretch, build_path, joint_needs, tube_path};
use nook_geometry::Path;
use nook_geometry::units::{Insulation, Rotation};

/// The finished pipe.
#[derive(Debug, Clone, PartialEq)]
pub struct Assembly {
    /// Its centre line from mouth to mouth, gaps included.
    pub whole: Path,
    /// The same from tube end to tube end.
    pub tube: Path,
    /// Its joints: A's, those between the ends in their order, B's.
    pub joints: Vec<SeatedJoint>,
    /// What holds it between its joints, from A.
    pub supports: Vec<SeatedSupport>,
    /// What is let into it, from A.
    pub branches: Vec<SeatedBranch>,
    /// How each bend is made.
    pub makes: Vec<ResolvedMake>,
    /// How thick what is wrapped round each leg is, in mm.
    pub legs_wrapped: Vec<f64>,
    /// The same of each bend.
    pub bends_wrapped: Vec<f64>,
}

impl Assembly {
    /// The pipe of `run` along its own route; `None` where it has none.
    ///
    /// # Errors
    /// [`LayError`] when that does not join the ports.
    pub fn build(run: &ResolvedRun) -> Option<Result<Self, LayError>> {
        run.way().map(|way| Self::along(run, way))
    }

    /// The pipe of `run` along another route, with the joints the run has at its ends.
    ///
    /// # Errors
    /// [`LayError`] when that does not join the ports.
    pub fn along(run: &ResolvedRun, way: &Route) -> Result<Self, LayError> {
        let whole = build_path(run, way)?;
        let tube = tube_path(run, &whole);
        let made = |(bend, step): (usize, &nook_geometry::PathStep)| {
            let make = way.bends().get(bend).and_then(|spec| spec.make);
            ResolvedMake::of(make, run.tube, &step.bend)
        };
        let makes = whole.legs().iter().enumerate().map(made).collect();
        let joints = seated_joints(run, way, &whole, &tube);
        let thick = |stretch: Stretch| way.wrapped(stretch).map_or_else(|| run.insulation(), Insulation::get);
        let bends = whole.legs().len();
        let legs_wrapped: Vec<f64> = (0..=bends).map(|leg| thick(Stretch::Leg { leg: way.leg_id(leg) })).collect();
        let bends_wrapped = (0..bends).map(|bend| thick(Stretch::Bend { bend: way.bend_id(bend) })).collect();
        let begin = joints.first().map_or(0.0, |joint| joint.gap()[1]);
        let supports = supported::seated_supports(way, &tube, begin, &legs_wrapped);
        let branches = branched::seated_branches(way, &tube, begin, run.tube.od());
        Ok(Self { whole, tube, joints, supports, branches, makes, legs_wrapped, bends_wrapped })
    }

    /// How thick what is wrapped round it is where it is thickest, in mm.
    #[must_use]
    pub fn thickest_wrap(&self) -> f64 {
        self.legs_wrapped.iter().chain(&self.bends_wrapped).copied().fold(0.0, f64::max)
    }

    /// Joints between the ends, from A.
    #[must_use]
    pub fn between(&self) -> &[SeatedJoint] {
        self.joints.get(1..self.joints.len().saturating_sub(1)).unwrap_or(&[])
    }

    /// The same with the screws of joints at other clocks, in degrees; as many as it has joints.
    #[must_use]
    pub fn with_clocks(mut self, clocks: &[Option<f64>]) -> Self {
        for (joint, clock) in self.joints.iter_mut().zip(clocks) {
            joint.clock = *clock;
        }
        self
    }

    /// The joint at an end.
    #[must_use]
    pub fn joint_at(&self, end: End) -> Option<&SeatedJoint> {
        match end {
            End::A => self.joints.first(),
            End::B => self.joints.last(),
        }
    }

    /// Station from A's mouth at which its first tube begins, in mm.
    #[must_use]
    pub fn begin(&self) -> f64 {
        self.joints.first().map_or(0.0, |joint| joint.gap()[1])
    }

    /// Stations from A's mouth between which there is tube, in mm: one pair for each section.
    #[must_use]
    pub fn sections(&self) -> Vec<[f64; 2]> {
        self.joints.windows(2).map(|pair| [pair[0].gap()[1], pair[1].gap()[0]]).collect()
    }

    /// The centre line of each section's tube, from A; `None` where a joint's gap lies in a bend, since bends overlap.
    #[must_use]
    pub fn section_paths(&self) -> Option<Vec<Path>> {
        self.sections().into_iter().map(|section| self.whole.between(section)).collect()
    }

    /// Joints between the ends that are on one leg.
    pub fn joints_on(&self, leg: usize) -> impl Iterator<Item = &SeatedJoint> {
        self.between().iter().filter(move |joint| joint.leg == leg)
    }

    /// The pieces of tube it is made of, in order.
    #[must_use]
    pub fn pieces(&self) -> Vec<Piece> {
        let starts = straight_starts(&self.tube, self.begin());
        let gaps = |leg: usize| {
            let start = starts[leg];
            self.joints_on(leg).map(move |joint| joint.gap().map(|station| station - start)).collect()
        };
        let gaps: Vec<Vec<[f64; 2]>> = (0..starts.len()).map(gaps).collect();
        pieces(&self.tube, &self.makes, &gaps)
    }

    /// Stations in mm from A's mouth between which a piece lies: of tube as far as its straights and drawn bends go, of pies
    /// from seam to seam; and how far hoses cover it from either end.
    #[must_use]
    pub fn place_of(&self, piece: &Piece) -> ([f64; 2], [f64; 2]) {
        let starts = straight_starts(&self.tube, self.begin());
        match piece.kind {
            PieceKind::Tube { leg, section, drawn } => {
                let lengths: Vec<f64> = self.tube.straights().collect();
                let end = starts[leg + drawn] + lengths[leg + drawn];
                let [first, last] = self.sections()[section];
                let [from, to] = [starts[leg].max(first), end.min(last)];
                // A straight shorter than nothing lies wholly in what is beside it.
                let at = |edge: bool, seat: f64| if edge { seat } else { 0.0 };
                let hoses = [
                    at(from <= first, self.joints[section].needs.seats[1]),
                    at(to >= last, self.joints[section + 1].needs.seats[0]),
                ];
                ([from, to], hoses)
            }
            PieceKind::Pie { bend, pie } => {
                let faces = self.makes[bend].faces();
                let arc = self.tube.legs()[bend].bend;
                let begin = starts[bend + 1] - arc.length();
                ([faces[pie], faces[pie + 1]].map(|angle| begin + angle * arc.radius), [0.0; 2])
            }
        }
    }

    /// Which piece of `way`, along which this lies, a piece is.
    #[must_use]
    pub fn piece_id(&self, way: &Route, piece: &Piece) -> PieceId {
        match piece.kind {
            PieceKind::Tube { leg, section, .. } => {
                let before = section.checked_sub(1).and_then(|before| self.between().get(before));
                let after = before.filter(|joint| joint.leg == leg).map(|joint| joint.id);
                PieceId::Tube { leg: way.leg_id(leg), after }
            }
            PieceKind::Pie { bend, pie } => PieceId::Pie { bend: way.bend_id(bend), pie },
        }
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

fn seated_joints(run: &ResolvedRun, way: &Route, whole: &Path, tube: &Path) -> Vec<SeatedJoint> {
    let needs = [End::A, End::B].map(|end| run.needs(end));
    let starts = straight_starts(tube, needs[0].gap);
    let last = starts.len() - 1;
    let mut all = Vec::with_capacity(way.joints().len() + 2);
    all.push(SeatedJoint::at_end(run, End::A, whole, (0, starts[0])));
    let mut travel = tube.setting_out();
    for (leg, length) in tube.straights().enumerate() {
        let mut here: Vec<(f64, &Joint)> = way.joints_on(leg, length).collect();
        here.sort_by(|p, q| p.0.total_cmp(&q.0).then(p.1.id.cmp(&q.1.id)));
        let taken = |end: End, at: bool| if at { run.straight_needed(end) } else { 0.0 };
        let room = [taken(End::A, leg == 0), length - taken(End::B, leg == last)];
        let wanted: Vec<seated::Wanted> = here.iter().map(|(at, joint)| (*at, joint_needs(run, joint))).collect();
        let (middles, short) = seated::seat(room, &wanted);
        all.extend(here.iter().zip(wanted).zip(middles).map(|(((_, joint), (_, needs)), middle)| SeatedJoint {
            id: joint.id,
            kind: joint.kind,
            spec: joint.spec(run.tube.od()),
            held: joint.clock.map(Rotation::get),
            clock: joint.clock.map(Rotation::get),
            along: travel.along,
            end: None,
            leg,
            start: starts[leg],
            middle: starts[leg] + middle,
            place: travel.straight(middle).at,
            needs,
            widest: run.tube.od(),
            short,
        }));
        if let Some(step) = tube.legs().get(leg) {
            travel = travel.straight(length).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
    }
    all.push(SeatedJoint::at_end(run, End::B, whole, (last, starts[last])));
    all
}

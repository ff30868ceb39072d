//! The finished pipe by station: what lies where along its centre line. Everything that follows from a pipe's shape reads
//! it, so that nobody walks the path for himself.

mod beads;
mod bore;
mod branched;
mod clock;
mod elbows;
mod envelope;
mod fall;
mod figures;
mod free_span;
mod hose_cut;
mod hung;
mod moves;
mod over;
mod seated;
mod spliced;
mod stub_mouth;
mod supported;

pub use crate::join::OverKind;
pub use beads::{BeadWhen, CRIMPER, ROLLER, SeatedBead, bead_height};
pub use bore::BoreExtreme;
pub use branched::SeatedBranch;
pub use elbows::WeldOf;
pub use envelope::rides;
pub use fall::{LeastFall, SLOPE, Slope};
pub use figures::Figures;
pub(crate) use free_span::Judged;
pub use free_span::{BeamOfPipe, FreeSpan};
pub use hose_cut::{HoseLength, insert_half};
pub use moves::{Anchor, Chain, JointUse, Moves};
pub use over::Over;
pub use seated::SeatedJoint;
pub use spliced::{Splice, Unspliced};
pub use stub_mouth::StubMouth;
pub use supported::SeatedSupport;

use crate::cut::{Parted, Piece, PieceId, PieceKind, pieces};
use crate::measure::End;
use crate::route::{
    ElbowEnd, Joint, LayError, ResolvedMake, ResolvedRun, Route, Stretch, build_path, joint_needs, taken_of_leg,
    tube_path,
};
use nook_geometry::Path;
use nook_geometry::units::Insulation;

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
    /// Welds where tube longer than any stick is spliced, from A.
    pub splices: Vec<Splice>,
    /// Pieces longer than any stick that there is no place for a splice in, from A.
    pub unspliced: Vec<Unspliced>,
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
            if way.joint_at_bend(way.bend_id(bend)).is_some() {
                return ResolvedMake::Moulded;
            }
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
        let (splices, unspliced) = (Vec::new(), Vec::new());
        let mut pipe =
            Self { whole, tube, joints, supports, branches, makes, splices, unspliced, legs_wrapped, bends_wrapped };
        pipe.seat_elbows(run.tube.od());
        pipe.seat_splices(run);
        Ok(pipe)
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
        self.between().iter().filter(move |joint| joint.leg == leg && !joint.in_bend)
    }

    /// The joint that takes the place of a bend.
    #[must_use]
    pub fn joint_in_bend(&self, bend: usize) -> Option<&SeatedJoint> {
        self.between().iter().find(|joint| joint.leg == bend && joint.in_bend)
    }

    /// The pieces of tube it is made of, in order.
    #[must_use]
    pub fn pieces(&self) -> Vec<Piece> {
        let starts = straight_starts(&self.tube, self.begin());
        let parted = |leg: usize| {
            let start = starts[leg];
            let gaps = self.joints_on(leg).map(|joint| Parted::Gap(joint.gap().map(|station| station - start)));
            let splices = self.splices.iter().filter(|splice| splice.leg == leg);
            let mut all: Vec<Parted> =
                gaps.chain(splices.map(|splice| Parted::Splice(splice.station - start))).collect();
            all.sort_by(|p, q| p.from().total_cmp(&q.from()));
            all
        };
        let parted: Vec<Vec<Parted>> = (0..starts.len()).map(parted).collect();
        let beside = |bend: usize| {
            let arc = self.tube.legs()[bend].bend.length();
            self.joint_in_bend(bend).map_or(0.0, |elbow| (elbow.needs.gap - arc) / 2.0)
        };
        let beside: Vec<f64> = (0..self.makes.len()).map(beside).collect();
        pieces(&self.tube, &self.makes, &parted, &beside)
    }

    /// Stations in mm from A's mouth between which a piece lies: of tube as far as its straights and drawn bends go, of pies
    /// from seam to seam; and how far hoses cover it from either end.
    #[must_use]
    pub fn place_of(&self, piece: &Piece) -> ([f64; 2], [f64; 2]) {
        let starts = straight_starts(&self.tube, self.begin());
        match piece.kind {
            PieceKind::Tube { leg, section, drawn, spliced } => {
                let lengths: Vec<f64> = self.tube.straights().collect();
                let end = starts[leg + drawn] + lengths[leg + drawn];
                let [first, last] = self.sections()[section];
                // What is used of elbows' legs is theirs.
                let legs =
                    |bend: Option<usize>| bend.and_then(|bend| self.elbow(bend)).map_or([0.0; 2], |elbow| elbow.legs);
                let (start, end) = (starts[leg] + legs(leg.checked_sub(1))[1], end - legs(Some(leg + drawn))[0]);
                let [from, to] = [start.max(first), end.min(last)];
                let here = self.splices.iter().map(|splice| splice.station).filter(|at| (from..=to).contains(at));
                let here: Vec<f64> = here.collect();
                let before = spliced.checked_sub(1).and_then(|before| here.get(before));
                let [from, to] = [before.copied().unwrap_or(from), here.get(spliced).copied().unwrap_or(to)];
                // A straight shorter than nothing lies wholly in what is beside it.
                let at = |edge: bool, seat: f64| if edge { seat } else { 0.0 };
                let hoses = [
                    at(from <= first + SAME, self.joints[section].needs.seats[1]),
                    at(to >= last - SAME, self.joints[section + 1].needs.seats[0]),
                ];
                ([from, to], hoses)
            }
            PieceKind::Elbow { bend, section } => {
                let ResolvedMake::Elbow(elbow) = &self.makes[bend] else { return ([starts[bend + 1]; 2], [0.0; 2]) };
                let arc = self.tube.legs()[bend].bend.length();
                let seat = |side: usize| match elbow.ends[side] {
                    ElbowEnd::Free => self.joints[section + side].needs.seats[1 - side],
                    ElbowEnd::Tube | ElbowEnd::Elbow => 0.0,
                };
                let [into, out] = elbow.legs;
                ([starts[bend + 1] - arc - into, starts[bend + 1] + out], [seat(0), seat(1)])
            }
            PieceKind::Pie { bend, pie, .. } => {
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
            PieceKind::Tube { leg, section, spliced, .. } => {
                let before = section.checked_sub(1).and_then(|before| self.between().get(before));
                let after = before.filter(|joint| joint.leg == leg && !joint.in_bend).map(|joint| joint.id);
                PieceId::Tube { leg: way.leg_id(leg), after, spliced: u8::try_from(spliced).unwrap_or(u8::MAX) }
            }
            PieceKind::Elbow { bend, .. } => PieceId::Elbow { bend: way.bend_id(bend) },
            PieceKind::Pie { bend, pie, .. } => PieceId::Pie { bend: way.bend_id(bend), pie },
        }
    }
}

/// Stations nearer than this, in mm, are one: sums along a pipe from either end differ by that little.
const SAME: f64 = 1e-6;

/// Stations in mm at which the straights of a tube begin that itself begins at `station`.
fn straight_starts(tube: &Path, mut station: f64) -> Vec<f64> {
    let mut all = vec![station];
    for step in tube.legs() {
        station += step.straight + step.bend.length();
        all.push(station);
    }
    all
}

/// The joints of a route: between the ends those on each straight, then the one in place of the bend after it.
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
        let [before, after] = taken_of_leg(run, way, leg);
        let wanted: Vec<seated::Wanted> = here.iter().map(|(at, joint)| (*at, joint_needs(run, joint))).collect();
        let (middles, short) = seated::seat([before, length - after], &wanted);
        all.extend(here.iter().zip(wanted).zip(middles).map(|(((_, joint), (_, needs)), middle)| {
            SeatedJoint::on_leg(run, joint, needs, (leg, starts[leg]), &travel, middle, short)
        }));
        if let Some(step) = tube.legs().get(leg) {
            let setting_in = travel.straight(length).clocked(step.bend.rotation);
            if let Some(elbow) = way.joint_at_bend(way.bend_id(leg)) {
                all.push(SeatedJoint::in_bend(run, elbow, (leg, starts[leg]), length, &setting_in, &step.bend));
            }
            travel = setting_in.bend(step.bend.radius, step.bend.angle);
        }
    }
    all.push(SeatedJoint::at_end(run, End::B, whole, (last, starts[last])));
    all
}

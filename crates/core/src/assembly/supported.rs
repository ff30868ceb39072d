//! Supports of a pipe, where they sit on its straights.

use nalgebra::Point3;

use super::{Assembly, straight_starts};
use crate::join::{CLEAR_OF_SEAMS, JointKind, SupportKind};
use crate::measure::{End, Side};
use crate::route::{AlongAnchor, BranchId, JointId, LegEnd, ResolvedRun, Route, SupportId};
use nook_geometry::units::{AlongLeg, Rotation, StandsOut};
use nook_geometry::{Path, Travel};

/// A support of a route, where it sits.
#[derive(Debug, Clone, PartialEq)]
pub struct SeatedSupport {
    /// Which.
    pub id: SupportId,
    /// What it is.
    pub kind: SupportKind,
    /// What it is fixed to.
    pub to: Side,
    /// The clock at which it is held, in degrees from up; `None` where it turns towards what it is fixed to.
    pub clock: Option<f64>,
    /// How high its stand-off is held, in mm from the tube's skin; `None` where it reaches to what it is fixed to.
    pub stand_off: Option<f64>,
    /// On which leg, 0 being the one from A.
    pub leg: usize,
    /// Station of its middle from A's mouth, in mm.
    pub station: f64,
    /// Who walks the pipe and is there, with up as his clock.
    pub travel: Travel,
    /// How thick what is wrapped round the pipe is there, in mm.
    pub wrapped: f64,
}

impl SeatedSupport {
    /// Where its middle is, on the centre line.
    #[must_use]
    pub fn place(&self) -> Point3<f64> {
        self.travel.at
    }

    /// Stations from A's mouth between which it lies, in mm.
    #[must_use]
    pub fn reach(&self) -> [f64; 2] {
        let half = self.kind.long() / 2.0;
        [self.station - half, self.station + half]
    }
}

/// The supports of `way`, whose tube begins at station `begin`, from A. One whose leg has become shorter than where it was
/// meant sits at the end of it.
pub(super) fn seated_supports(way: &Route, tube: &Path, begin: f64, wrapped: &[f64]) -> Vec<SeatedSupport> {
    if way.supports().is_empty() {
        return Vec::new();
    }
    let starts = straight_starts(tube, begin);
    let mut all = Vec::with_capacity(way.supports().len());
    let mut travel = tube.setting_out();
    for (leg, length) in tube.straights().enumerate() {
        let here = way.supports().iter().filter(|one| way.leg_index(one.at.leg) == Some(leg));
        all.extend(here.map(|one| {
            let along = one.at.from_start(length).clamp(0.0, length.max(0.0));
            SeatedSupport {
                id: one.id,
                kind: one.kind,
                to: one.to,
                clock: one.clock.map(Rotation::get),
                stand_off: one.stand_off.map(StandsOut::get),
                leg,
                station: starts[leg] + along,
                travel: travel.straight(along).upright(),
                wrapped: wrapped.get(leg).copied().unwrap_or(0.0),
            }
        }));
        if let Some(step) = tube.legs().get(leg) {
            travel = travel.straight(length).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
    }
    all.sort_by(|p, q| p.station.total_cmp(&q.station).then(p.id.cmp(&q.id)));
    all
}

impl Assembly {
    /// The section a station is in; `None` in the gap of a joint.
    #[must_use]
    pub fn section_of(&self, station: f64) -> Option<usize> {
        self.sections().iter().position(|[from, to]| (*from..=*to).contains(&station))
    }

    /// Supports that fix a section, from A.
    pub fn fixing(&self, section: usize) -> impl Iterator<Item = &SeatedSupport> {
        let fixes = self.supports.iter().filter(|support| support.kind.fixes());
        fixes.filter(move |support| self.section_of(support.station) == Some(section))
    }

    /// Stations in mm between which the middle of a support of a kind may be.
    #[must_use]
    pub fn places_for(&self, kind: SupportKind) -> Vec<[f64; 2]> {
        self.places_clear(kind.long(), None)
    }

    /// Stations in mm between which the middle of something so long may be: on straights, clear of bends, seams, what joints
    /// want, and what is let in but for the branch `but`.
    #[must_use]
    pub fn places_clear(&self, long: f64, but: Option<BranchId>) -> Vec<[f64; 2]> {
        let clear = CLEAR_OF_SEAMS + long / 2.0;
        let mut all = Vec::new();
        for (leg, [start, end]) in self.straight_stations().into_iter().enumerate() {
            let joints = self.joints.iter().filter(|joint| joint.is_on(leg)).map(super::SeatedJoint::reach);
            let holes = self.branches.iter().filter(|one| one.leg == leg && Some(one.id) != but);
            let welds = self.welds_on(leg).map(|(_, at)| [at; 2]);
            let mut taken: Vec<[f64; 2]> = joints.chain(holes.map(super::SeatedBranch::hole)).chain(welds).collect();
            taken.sort_by(|p, q| p[0].total_cmp(&q[0]));
            let mut from = start;
            let mut add = |from: f64, to: f64| {
                if to - from >= 2.0 * clear {
                    all.push([from + clear, to - clear]);
                }
            };
            for [here, beyond] in taken {
                add(from, here);
                from = from.max(beyond);
            }
            add(from, end);
        }
        all
    }

    /// The station of an anchor, from A's mouth, in mm; `None` where the way has no such leg.
    #[must_use]
    pub fn station_of(&self, way: &Route, at: AlongAnchor) -> Option<f64> {
        let [from, to] = *self.straight_stations().get(way.leg_index(at.leg)?)?;
        Some(from + at.from_start(to - from).clamp(0.0, (to - from).max(0.0)))
    }

    /// Stations in mm from A's mouth at which each straight of tube begins and ends.
    #[must_use]
    pub fn straight_stations(&self) -> Vec<[f64; 2]> {
        let starts = straight_starts(&self.tube, self.begin());
        starts.into_iter().zip(self.tube.straights()).map(|(start, length)| [start, start + length]).collect()
    }

    /// The anchor of a station on a straight, from the nearer end of its leg; `None` in a bend.
    #[must_use]
    pub fn anchor_at(&self, way: &Route, station: f64) -> Option<AlongAnchor> {
        let straights = self.straight_stations();
        let leg = straights.iter().position(|[from, to]| (from - 1e-9..=to + 1e-9).contains(&station))?;
        let [from, to] = straights[leg];
        let (before, after) = (station - from, to - station);
        let (end, mm) = if before <= after { (LegEnd::Start, before) } else { (LegEnd::End, after) };
        Some(AlongAnchor { leg: way.leg_id(leg), from: end, mm: AlongLeg::new(mm.max(0.0)).ok()? })
    }

    /// Whether brackets, ports and joints that do not give keep both sides of a joint from being pushed apart along it.
    /// Cushioned clamps let a tube slide.
    #[must_use]
    pub fn is_bracketed(&self, run: &ResolvedRun, joint: JointId) -> bool {
        // A port keeps its own side; without a bracket on the other nothing does.
        let any = self.supports.iter().any(|one| one.kind.holds_along());
        any && self.loose_beside(run, joint).is_empty()
    }

    /// Sections beside a joint that nothing keeps from being pushed off along it.
    #[must_use]
    pub fn loose_beside(&self, run: &ResolvedRun, joint: JointId) -> Vec<usize> {
        let Some(index) = self.joints.iter().position(|one| one.id == joint) else { return Vec::new() };
        let last = self.joints.len() - 1;
        let stiff = |joint: usize| self.joints[joint].spec.give.is_none() && self.joints[joint].kind != JointKind::Open;
        let tabbed = |section: usize| self.fixing(section).any(|one| one.kind.holds_along());
        let port = |end: End| !run.is_open(end);
        let mut loose = Vec::new();
        if let Some(before) = index.checked_sub(1) {
            // From there towards A as far as joints do not give.
            let from = (1..=before).rev().find(|joint| !stiff(*joint)).unwrap_or(0);
            let on_port = from == 0 && stiff(0) && port(End::A);
            if !on_port && !(from..=before).any(tabbed) {
                loose.push(before);
            }
        }
        if index < last {
            let to = (index + 1..last).find(|joint| !stiff(*joint)).unwrap_or(last);
            let on_port = to == last && stiff(last) && port(End::B);
            if !on_port && !(index..to).any(tabbed) {
                loose.push(index);
            }
        }
        loose
    }
}

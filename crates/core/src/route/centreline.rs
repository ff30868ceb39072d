//! The decisions that make a route. A way is kept as places, not as lengths and angles, so that it lands on
//! both ports however they move; lengths and angles follow.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{
    AlongAnchor, BendId, BendSpec, Branch, BranchId, Joint, JointId, LegId, Lock, Stretch, Support, SupportId,
};
use crate::measure::End;
use nook_geometry::Point;
use nook_geometry::units::{BendRadius, Insulation, Lead};

/// Where a pipe's vertices lie.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Centreline {
    /// Nobody has chosen a way round yet, and none was found.
    Undecided,
    /// No bend: the two axes are one line.
    Straight,
    /// One bend, at the only place it can be: where the two axes meet.
    OneBend,
    /// Two bends or more: one vertex on each port's axis and any number between them.
    Vertices {
        /// From A's mouth to the first vertex, along A's direction.
        lead_a: Lead,
        /// Vertices between the first and the last.
        between: Vec<Point>,
        /// From B's mouth to the last vertex, along B's direction.
        lead_b: Lead,
    },
}

impl Centreline {
    /// How many bends this course has.
    #[must_use]
    pub const fn corners(&self) -> usize {
        match self {
            Self::Undecided | Self::Straight => 0,
            Self::OneBend => 1,
            Self::Vertices { between, .. } => between.len() + 2,
        }
    }
}

/// A way round: where the vertices lie, how each bend is made, and what joins it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Route {
    course: Centreline,
    bends: Vec<BendSpec>,
    /// What stays as it is when the rest is changed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    locks: Vec<Lock>,
    /// Joints, in no order: one at each end, unless it is on offer, and any between them.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    joints: Vec<Joint>,
    /// What holds it between its joints, in no order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    supports: Vec<Support>,
    /// What is let into it, in no order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    branches: Vec<Branch>,
    /// How thick what is wrapped round the leg from A is; by default as the run. Of other legs the bend before them says it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    wrapped_from_a: Option<Insulation>,
}

impl Route {
    /// Most locks.
    pub const MOST_LOCKS: usize = 30;
    /// Most joints, the ends' included.
    pub const MOST_JOINTS: usize = 14;
    /// Most supports.
    pub const MOST_SUPPORTS: usize = 30;
    /// Most branches.
    pub const MOST_BRANCHES: usize = 30;

    /// A way on offer along `course`: its bends are all left to the defaults, and it has no joints of its own.
    #[must_use]
    pub fn along(course: Centreline) -> Self {
        let bends = (0..course.corners()).map(|index| BendSpec::new(BendId::on_offer(index))).collect();
        Self { course, bends, ..Self::undecided(Vec::new()) }
    }

    /// No way yet, only joints.
    #[must_use]
    pub(crate) const fn undecided(joints: Vec<Joint>) -> Self {
        Self {
            course: Centreline::Undecided,
            bends: Vec::new(),
            locks: Vec::new(),
            joints,
            supports: Vec::new(),
            branches: Vec::new(),
            wrapped_from_a: None,
        }
    }

    /// Whether somebody has chosen where it goes.
    #[must_use]
    pub const fn is_decided(&self) -> bool {
        !matches!(self.course, Centreline::Undecided)
    }

    /// The place of a bend, from 0 at A.
    #[must_use]
    pub fn bend_index(&self, id: BendId) -> Option<usize> {
        self.bends.iter().position(|bend| bend.id == id)
    }

    /// The place of a leg, 0 being the one from A.
    #[must_use]
    pub fn leg_index(&self, id: LegId) -> Option<usize> {
        if id == LegId::FROM_A { Some(0) } else { self.bend_index(BendId(id.0)).map(|bend| bend + 1) }
    }

    /// The bend in a place; one on offer where there is none.
    #[must_use]
    pub fn bend_id(&self, index: usize) -> BendId {
        self.bends.get(index).map_or_else(|| BendId::on_offer(index), |bend| bend.id)
    }

    /// The leg in a place, 0 being the one from A.
    #[must_use]
    pub fn leg_id(&self, index: usize) -> LegId {
        index.checked_sub(1).map_or(LegId::FROM_A, |bend| LegId::after(self.bend_id(bend)))
    }

    /// The same way with its bends numbered anew, but for those of `old`; `next` gives numbers nothing of the run has had.
    ///
    /// # Errors
    /// Whatever `next` says.
    pub(crate) fn numbered<E>(mut self, old: &Self, mut next: impl FnMut() -> Result<u32, E>) -> Result<Self, E> {
        let mut renamed = Vec::new();
        for bend in &mut self.bends {
            if old.bend_index(bend.id).is_none() || renamed.iter().any(|(_, new)| *new == bend.id) {
                let id = BendId(next()?);
                renamed.push((bend.id, id));
                bend.id = id;
            } else {
                renamed.push((bend.id, bend.id));
            }
        }
        let bend_of = |id: BendId| renamed.iter().find(|(was, _)| *was == id).map_or(id, |(_, new)| *new);
        let leg_of = |id: LegId| if id == LegId::FROM_A { id } else { LegId::after(bend_of(BendId(id.0))) };
        self.locks = self.locks.into_iter().map(|lock| lock.renumbered(bend_of, leg_of)).collect();
        for joint in &mut self.joints {
            match &mut joint.at {
                super::JointAnchor::Leg { leg, .. } => *leg = leg_of(*leg),
                super::JointAnchor::Bend { bend } => *bend = bend_of(*bend),
                super::JointAnchor::End { .. } => {}
            }
        }
        for support in &mut self.supports {
            support.at.leg = leg_of(support.at.leg);
        }
        for branch in &mut self.branches {
            branch.at.leg = leg_of(branch.at.leg);
        }
        Ok(self)
    }

    /// The same way with tube in all its bends: what is made in place of a bend goes with it when another way is looked for.
    #[must_use]
    pub fn without_elbows(mut self) -> Self {
        self.joints.retain(|joint| joint.bend().is_none());
        self
    }

    /// What stays as it is when the rest is changed.
    #[must_use]
    pub fn locks(&self) -> &[Lock] {
        &self.locks
    }

    /// The same way with one more lock, in place of any on the same thing.
    #[must_use]
    pub fn locked(mut self, lock: Lock) -> Self {
        self.locks.retain(|other| !other.is_of(&lock));
        self.locks.push(lock);
        self
    }

    /// The same way without any lock on the same thing.
    #[must_use]
    pub fn unlocked(mut self, lock: &Lock) -> Self {
        self.locks.retain(|other| !other.is_of(lock));
        self
    }

    /// Joints, in no order: one at each end, unless it is on offer, and any between them.
    #[must_use]
    pub fn joints(&self) -> &[Joint] {
        &self.joints
    }

    /// The same way with these joints and no others.
    #[must_use]
    pub fn with_joints(mut self, joints: Vec<Joint>) -> Self {
        self.joints = joints;
        self
    }

    /// What holds it between its joints, in no order.
    #[must_use]
    pub fn supports(&self) -> &[Support] {
        &self.supports
    }

    /// One of those.
    #[must_use]
    pub fn support(&self, id: SupportId) -> Option<&Support> {
        self.supports.iter().find(|support| support.id == id)
    }

    /// The same way held by these and nothing else.
    #[must_use]
    pub fn with_supports(mut self, supports: Vec<Support>) -> Self {
        self.supports = supports;
        self
    }

    /// What is let into it, in no order.
    #[must_use]
    pub fn branches(&self) -> &[Branch] {
        &self.branches
    }

    /// One of those.
    #[must_use]
    pub fn branch(&self, id: BranchId) -> Option<&Branch> {
        self.branches.iter().find(|branch| branch.id == id)
    }

    /// The same way with these let in and nothing else.
    #[must_use]
    pub fn with_branches(mut self, branches: Vec<Branch>) -> Self {
        self.branches = branches;
        self
    }

    /// What a branch is called: by its leg, since it moves along that.
    #[must_use]
    pub fn branch_name(&self, id: BranchId) -> Option<String> {
        let branch = self.branch(id)?;
        Some(self.on_leg(branch.kind.word(), branch.at))
    }

    /// A thing on a leg.
    fn on_leg(&self, word: &str, at: AlongAnchor) -> String {
        let leg = self.leg_index(at.leg).unwrap_or(self.course.corners());
        format!("{} on straight {}", nook_geometry::units::capital(word), leg + 1)
    }

    /// What a support is called: by its leg, since it moves along that.
    #[must_use]
    pub fn support_name(&self, id: SupportId) -> Option<String> {
        let support = self.support(id)?;
        Some(self.on_leg(support.kind.word(), support.at))
    }

    /// How thick what is wrapped round a stretch is, where that is said of it alone; `None` where it is as the run is.
    #[must_use]
    pub fn wrapped(&self, stretch: Stretch) -> Option<Insulation> {
        let bend = |id: BendId| self.bends.iter().find(|bend| bend.id == id);
        match stretch {
            Stretch::Leg { leg: LegId::FROM_A } => self.wrapped_from_a,
            Stretch::Leg { leg } => bend(BendId(leg.0))?.leg_wrapped,
            Stretch::Bend { bend: id } => bend(id)?.wrapped,
        }
    }

    /// Says that of a stretch; `false` where the way has none such.
    pub(crate) fn wrap(&mut self, stretch: Stretch, thick: Option<Insulation>) -> bool {
        let bend = match stretch {
            Stretch::Leg { leg: LegId::FROM_A } => {
                self.wrapped_from_a = thick;
                return true;
            }
            Stretch::Leg { leg } => BendId(leg.0),
            Stretch::Bend { bend } => bend,
        };
        let Some(spec) = self.bends.iter_mut().find(|one| one.id == bend) else { return false };
        match stretch {
            Stretch::Leg { .. } => spec.leg_wrapped = thick,
            Stretch::Bend { .. } => spec.wrapped = thick,
        }
        true
    }

    /// One of its joints.
    #[must_use]
    pub fn joint(&self, id: JointId) -> Option<&Joint> {
        self.joints.iter().find(|joint| joint.id == id)
    }

    /// The joint at an end; `None` on a way on offer.
    #[must_use]
    pub fn joint_at(&self, end: End) -> Option<&Joint> {
        self.joints.iter().find(|joint| joint.end() == Some(end))
    }

    /// The joint that takes the place of a bend.
    #[must_use]
    pub fn joint_at_bend(&self, bend: BendId) -> Option<&Joint> {
        self.joints.iter().find(|joint| joint.bend() == Some(bend))
    }

    /// Joints between the ends on one leg, in no order, each with how far its middle is meant to be from the start of that
    /// leg, which is `length` mm long. One on a leg that is gone is on the last.
    pub fn joints_on(&self, leg: usize, length: f64) -> impl Iterator<Item = (f64, &Joint)> {
        let last = self.course.corners();
        self.joints.iter().filter_map(move |joint| {
            let along = joint.along()?;
            (self.leg_index(along.leg).unwrap_or(last) == leg).then(|| (along.from_start(length), joint))
        })
    }

    /// What a joint is called: by its end, or by its leg, since it moves along that.
    #[must_use]
    pub fn joint_name(&self, id: JointId) -> Option<String> {
        let joint = self.joint(id)?;
        let kind = nook_geometry::units::capital(joint.kind.word());
        if let Some(bend) = joint.bend() {
            return Some(format!("{kind} at bend {}", self.bend_index(bend)? + 1));
        }
        let Some(along) = joint.along() else { return joint.end().map(|end| format!("Joint {}", end.letter())) };
        Some(format!("{kind} on straight {}", self.leg_index(along.leg).unwrap_or(self.course.corners()) + 1))
    }

    /// Where the vertices lie.
    #[must_use]
    pub const fn course(&self) -> &Centreline {
        &self.course
    }

    /// How each bend is made; as many as the course has corners once the job is checked.
    #[must_use]
    pub fn bends(&self) -> &[BendSpec] {
        &self.bends
    }

    /// The same way with every bend of its own `radius`.
    #[must_use]
    pub fn with_radius(mut self, radius: BendRadius) -> Self {
        for bend in &mut self.bends {
            bend.radius = Some(radius);
        }
        self
    }

    pub(crate) fn bend_mut(&mut self, index: usize) -> Option<&mut BendSpec> {
        self.bends.get_mut(index)
    }

    pub(crate) const fn branches_mut(&mut self) -> &mut Vec<Branch> {
        &mut self.branches
    }

    pub(crate) const fn supports_mut(&mut self) -> &mut Vec<Support> {
        &mut self.supports
    }

    pub(crate) const fn joints_mut(&mut self) -> &mut Vec<Joint> {
        &mut self.joints
    }

    /// The same bends along another course of as many corners.
    pub(crate) fn rerouted(&self, course: Centreline) -> Self {
        debug_assert_eq!(course.corners(), self.bends.len(), "a reroute keeps the bends");
        Self { course, ..self.clone() }
    }

    /// The same way with the bend `id` put in before bend `index`; what was locked of the leg it parts is let go. Joints
    /// and supports are for whoever knows their places to seat anew.
    pub(crate) fn with_bend(&self, course: Centreline, index: usize, id: BendId) -> Self {
        let parted = self.leg_id(index);
        let mut way = Self { course, ..self.clone() };
        way.bends.insert(index.min(self.bends.len()), BendSpec::new(id));
        way.locks.retain(|lock| !lock.is_of_leg(parted));
        way
    }

    /// The same way without bend `index`; what was locked of it and of the legs beside it is let go.
    pub(crate) fn without_bend(&self, course: Centreline, index: usize) -> Self {
        let (gone, legs) = (self.bend_id(index), [self.leg_id(index), self.leg_id(index + 1)]);
        let mut way = Self { course, ..self.clone() };
        way.bends.retain(|bend| bend.id != gone);
        way.joints.retain(|joint| joint.bend() != Some(gone));
        way.locks.retain(|lock| !lock.is_of_bend(gone) && !legs.iter().any(|leg| lock.is_of_leg(*leg)));
        way
    }

    /// The image of this way in the vehicle's middle plane.
    #[must_use]
    pub fn mirrored(&self) -> Self {
        let course = match &self.course {
            Centreline::Vertices { lead_a, between, lead_b } => Centreline::Vertices {
                lead_a: *lead_a,
                between: between.iter().map(|point| point.mirrored()).collect(),
                lead_b: *lead_b,
            },
            other => other.clone(),
        };
        let locks = self.locks.iter().copied().map(Lock::mirrored);
        let joints = self.joints.iter().cloned().map(Joint::mirrored).collect();
        let supports = self.supports.iter().cloned().map(Support::mirrored).collect();
        let branches = self.branches.iter().cloned().map(Branch::mirrored).collect();
        Self { course, locks: locks.collect(), joints, supports, branches, ..self.clone() }
    }
}

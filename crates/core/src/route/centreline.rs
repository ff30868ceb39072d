//! The decisions that make a route. A way is kept as places, not as lengths and angles, so that it lands on
//! both ports however they move; lengths and angles follow.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Joint, JointId};
use crate::route::PieEnds;
use nook_geometry::units::{BendRadius, Lead, SeamCount};
use nook_geometry::{Direction, Point};

/// Where a pipe's vertices lie.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Centreline {
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
            Self::Straight => 0,
            Self::OneBend => 1,
            Self::Vertices { between, .. } => between.len() + 2,
        }
    }
}

/// What was decided about one bend; what is left open follows from the run and the angle.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BendSpec {
    /// Centre-line radius; by default the run's.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub radius: Option<BendRadius>,
    /// Seams; by default one for every ten degrees begun that leaves a useful throat.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seams: Option<SeamCount>,
    /// How the pies meet the straights.
    #[serde(default)]
    pub ends: PieEnds,
}

/// Something of a way that stays as it is while the rest is changed. Counted from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "hold", rename_all = "snake_case", deny_unknown_fields)]
pub enum Lock {
    /// The length of a straight of tube.
    Straight {
        /// Which straight.
        straight: usize,
        /// Its length in mm.
        length: f64,
    },
    /// The angle of a bend.
    Angle {
        /// Which bend.
        bend: usize,
        /// In degrees.
        angle: f64,
    },
    /// The rotation of a bend.
    Rotation {
        /// Which bend.
        bend: usize,
        /// In degrees.
        rotation: f64,
    },
    /// The direction of a leg between two bends.
    Leg {
        /// Which leg: 1 is the one after the first bend.
        leg: usize,
        /// The direction.
        direction: Direction,
        /// Whether only its height is held: level, whatever its heading.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        level_only: bool,
    },
}

impl Lock {
    /// The same lock after the places it names were counted anew; `None` where its own is gone.
    fn counted(self, bends: impl Fn(usize) -> Option<usize>, legs: impl Fn(usize) -> Option<usize>) -> Option<Self> {
        Some(match self {
            Self::Straight { straight, length } => Self::Straight { straight: legs(straight)?, length },
            Self::Angle { bend, angle } => Self::Angle { bend: bends(bend)?, angle },
            Self::Rotation { bend, rotation } => Self::Rotation { bend: bends(bend)?, rotation },
            Self::Leg { leg, direction, level_only } => Self::Leg { leg: legs(leg)?, direction, level_only },
        })
    }

    /// Whether both are about one thing.
    #[must_use]
    pub fn is_of(&self, other: &Self) -> bool {
        match (self, other) {
            (Self::Straight { straight: p, .. }, Self::Straight { straight: q, .. }) => p == q,
            (Self::Angle { bend: p, .. }, Self::Angle { bend: q, .. })
            | (Self::Rotation { bend: p, .. }, Self::Rotation { bend: q, .. }) => p == q,
            (Self::Leg { leg: p, .. }, Self::Leg { leg: q, .. }) => p == q,
            _ => false,
        }
    }

    /// Whether a way with so many bends has what this is about, and its figure is a number.
    pub(crate) fn is_sound(&self, corners: usize) -> bool {
        match *self {
            Self::Straight { straight, length } => straight <= corners && length.abs() <= 20_000.0,
            Self::Angle { bend, angle } => bend < corners && (0.0..180.0).contains(&angle),
            Self::Rotation { bend, rotation } => bend < corners && rotation.abs() <= 360.0,
            Self::Leg { leg, .. } => leg >= 1 && leg < corners,
        }
    }
}

/// A way round: where the vertices lie and how each bend is made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Route {
    course: Centreline,
    bends: Vec<BendSpec>,
    /// What stays as it is when the rest is changed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    locks: Vec<Lock>,
    /// Joints between its ends, in no order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    joints: Vec<Joint>,
}

impl Route {
    /// Most locks.
    pub const MOST_LOCKS: usize = 30;
    /// Most joints between the ends.
    pub const MOST_JOINTS: usize = 12;

    /// A way along `course` whose bends are all left to the defaults.
    #[must_use]
    pub fn along(course: Centreline) -> Self {
        let bends = vec![BendSpec::default(); course.corners()];
        Self { course, bends, locks: Vec::new(), joints: Vec::new() }
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

    /// Joints between its ends, in no order.
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

    /// What a joint between the ends is called: by its leg, since it moves along that.
    #[must_use]
    pub fn joint_name(&self, id: JointId) -> Option<String> {
        let joint = self.joints.iter().find(|joint| joint.id == id)?;
        let kind = nook_geometry::units::capital(joint.kind.word());
        Some(format!("{kind} on straight {}", joint.at.leg.min(self.course.corners()) + 1))
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

    /// The same bends along another course of as many corners.
    pub(crate) fn rerouted(&self, course: Centreline) -> Self {
        debug_assert_eq!(course.corners(), self.bends.len(), "a reroute keeps the bends");
        Self { course, bends: self.bends.clone(), locks: self.locks.clone(), joints: self.joints.clone() }
    }

    /// The same way with a bend put in before bend `index`; what was locked of the leg it parts is let go. Joints are for
    /// whoever knows their places to seat anew.
    pub(crate) fn with_bend(&self, course: Centreline, index: usize) -> Self {
        let mut bends = self.bends.clone();
        bends.insert(index.min(bends.len()), BendSpec::default());
        let shift = |bend: usize| Some(if bend >= index { bend + 1 } else { bend });
        let legs = |leg: usize| match leg.cmp(&index) {
            std::cmp::Ordering::Less => Some(leg),
            std::cmp::Ordering::Equal => None,
            std::cmp::Ordering::Greater => Some(leg + 1),
        };
        let locks = self.locks.iter().filter_map(|lock| lock.counted(shift, legs)).collect();
        Self { course, bends, locks, joints: self.joints.clone() }
    }

    /// The same way without bend `index`; what was locked of it and of the legs beside it is let go.
    pub(crate) fn without_bend(&self, course: Centreline, index: usize) -> Self {
        let mut bends = self.bends.clone();
        if index < bends.len() {
            bends.remove(index);
        }
        let shift = |bend: usize| match bend.cmp(&index) {
            std::cmp::Ordering::Less => Some(bend),
            std::cmp::Ordering::Equal => None,
            std::cmp::Ordering::Greater => Some(bend - 1),
        };
        let legs = |leg: usize| {
            if leg < index {
                Some(leg)
            } else if leg > index + 1 {
                Some(leg - 1)
            } else {
                None
            }
        };
        let locks = self.locks.iter().filter_map(|lock| lock.counted(shift, legs)).collect();
        Self { course, bends, locks, joints: self.joints.clone() }
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
        let locks = self.locks.iter().map(|lock| match *lock {
            Lock::Rotation { bend, rotation } => Lock::Rotation { bend, rotation: -rotation },
            Lock::Leg { leg, direction, level_only } => {
                let [x, y, z] = direction.to_array();
                Lock::Leg { leg, direction: Direction::new(x, -y, z).unwrap_or(direction), level_only }
            }
            same => same,
        });
        Self { course, bends: self.bends.clone(), locks: locks.collect(), joints: self.joints.clone() }
    }
}

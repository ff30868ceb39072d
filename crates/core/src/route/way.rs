//! The decisions that make a route. A way is kept as places, not as lengths and angles, so that it lands on
//! both ports however they move; lengths and angles follow.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::Point;
use crate::route::PieEnds;
use crate::units::{BendRadius, Lead, SeamCount};

/// Where a pipe's vertices lie.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Course {
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

impl Course {
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

/// A way round: where the vertices lie and how each bend is made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Way {
    course: Course,
    bends: Vec<BendSpec>,
}

impl Way {
    /// A way along `course` whose bends are all left to the defaults.
    #[must_use]
    pub fn along(course: Course) -> Self {
        let bends = vec![BendSpec::default(); course.corners()];
        Self { course, bends }
    }

    /// Where the vertices lie.
    #[must_use]
    pub const fn course(&self) -> &Course {
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
    pub(crate) fn rerouted(&self, course: Course) -> Self {
        debug_assert_eq!(course.corners(), self.bends.len(), "a reroute keeps the bends");
        Self { course, bends: self.bends.clone() }
    }
}

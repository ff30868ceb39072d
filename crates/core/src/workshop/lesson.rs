//! What was learnt, tied to the kind of thing it is about, so that it returns where that matters next time.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use crate::join::JointKind;
use crate::route::Run;
use crate::stock::Material;
use crate::work_step::WorkStep;

/// A lesson.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Lesson {
    /// A sentence.
    #[schema(min_length = 3, max_length = 300)]
    pub text: String,
    /// The step it returns at.
    pub step: WorkStep,
    /// The metal it is about; any where nothing is said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub material: Option<Material>,
    /// The kind of joint it is about; any where nothing is said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub joint: Option<JointKind>,
}

/// A text that is no lesson.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("a lesson has {} to {} letters; this one has {count}", Lesson::SHORTEST, Lesson::LONGEST)]
pub struct LessonError {
    count: usize,
}

impl Lesson {
    /// Most of them.
    pub const MOST: usize = 500;
    /// Fewest letters of one.
    pub const SHORTEST: usize = 3;
    /// Most letters of one.
    pub const LONGEST: usize = 300;

    /// Checks its length.
    ///
    /// # Errors
    /// [`LessonError`] where it is too short or too long.
    pub fn check(&self) -> Result<(), LessonError> {
        let count = self.text.trim().chars().count();
        if (Self::SHORTEST..=Self::LONGEST).contains(&count) { Ok(()) } else { Err(LessonError { count }) }
    }

    /// Whether it matters at a step of a run.
    #[must_use]
    pub fn matters(&self, run: &Run, step: WorkStep) -> bool {
        let joints = || run.route.joints().iter().map(|joint| joint.kind);
        self.step == step
            && self.material.is_none_or(|material| run.tube.material() == material)
            && self.joint.is_none_or(|kind| joints().any(|one| one == kind))
    }
}

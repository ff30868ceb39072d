//! Components that can be turned on their bolts.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::PortRef;
use nook_geometry::units::{Name, OutOfRange, TurnAngle};
use nook_geometry::{Direction, Point};

/// Names one component within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct ComponentId(pub u32);

/// How far a component turns, in degrees from how it stood when it was measured, right-handed about its axis.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "turns", rename_all = "snake_case", deny_unknown_fields)]
pub enum TurnRange {
    /// To any angle.
    Freely {
        /// Least.
        from: TurnAngle,
        /// Most.
        to: TurnAngle,
    },
    /// By whole steps, such as bolt holes.
    Steps {
        /// One step.
        step: TurnAngle,
        /// Steps it can go back.
        back: u8,
        /// Steps it can go on.
        on: u8,
    },
}

impl TurnRange {
    /// Least and most turn in degrees.
    #[must_use]
    pub fn limits(&self) -> (f64, f64) {
        match *self {
            Self::Freely { from, to } => (from.get(), to.get()),
            Self::Steps { step, back, on } => (0.0 - step.get() * f64::from(back), step.get() * f64::from(on)),
        }
    }

    /// The nearest turn it can have to `degrees`.
    #[must_use]
    pub fn nearest(&self, degrees: f64) -> f64 {
        let (least, most) = self.limits();
        let held = match *self {
            Self::Freely { .. } => degrees,
            Self::Steps { step, .. } => (degrees / step.get()).round() * step.get(),
        };
        held.clamp(least, most)
    }
}

/// A compressor housing, a water neck or a throttle body whose ports move as it is turned.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Component {
    /// Which one.
    pub id: ComponentId,
    /// What it is.
    pub name: Name,
    /// A point on the axis it turns about.
    pub pivot: Point,
    /// The axis.
    pub axis: Direction,
    /// How far it turns.
    pub range: TurnRange,
    /// How far it is turned now, in degrees from how it stood when it was measured.
    pub turned: TurnAngle,
    /// The ports on it.
    pub ports: Vec<PortRef>,
}

impl Component {
    /// The turn it can have that is nearest to its own, where that is none of its steps.
    #[must_use]
    pub fn off_its_steps(&self) -> Option<f64> {
        let nearest = self.range.nearest(self.turned.get());
        ((nearest - self.turned.get()).abs() > 1e-9).then_some(nearest)
    }

    /// Checks what the fields alone do not: that the range is one and the turn lies in it.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the step, the range's end or the turn.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let (min, max) = self.range.limits();
        let turn = |what, value, min, max| OutOfRange { what, value, min, max, unit: "degrees" };
        if let TurnRange::Steps { step, .. } = self.range
            && !(1.0..=180.0).contains(&step.get())
        {
            return Err(turn("a turning step", step.get(), 1.0, 180.0));
        }
        if min > 0.0 || max < 0.0 {
            let value = if min > 0.0 { min } else { max };
            return Err(turn(
                "as it was measured (0) must be in the range, whose end",
                value,
                min.min(0.0),
                max.max(0.0),
            ));
        }
        let turned = self.turned.get();
        if (min..=max).contains(&turned) { Ok(()) } else { Err(turn("the component's turn", turned, min, max)) }
    }
}

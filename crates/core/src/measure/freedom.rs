//! Ways in which a component may be moved from where it was measured: turned on its bolts or slid along its slots.

use nalgebra::{Isometry3, Translation3};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::about;
use nook_geometry::units::{LengthUnit, OutOfRange, Slide, TurnAngle};
use nook_geometry::{Direction, Point};

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
    pub fn limits(&self) -> [f64; 2] {
        match *self {
            Self::Freely { from, to } => [from.get(), to.get()],
            Self::Steps { step, back, on } => [0.0 - step.get() * f64::from(back), step.get() * f64::from(on)],
        }
    }
}

/// One degree of freedom of a component: a revolute or a prismatic joint between it and what carries it, with its axis as
/// it was measured, and how far it is set.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "moves", rename_all = "snake_case", deny_unknown_fields)]
pub enum Freedom {
    /// It turns about an axis: a housing on its bolts, a lean on its lower mounts.
    Turn {
        /// A point on the axis.
        pivot: Point,
        /// The axis.
        axis: Direction,
        /// How far it turns.
        range: TurnRange,
        /// How far it is turned, in degrees.
        turned: TurnAngle,
    },
    /// It slides along a straight line: in slots, or wherever its mounts are made to hold it.
    Slide {
        /// Which way counts as positive.
        along: Direction,
        /// Least, in mm from where it was measured.
        from: Slide,
        /// Most.
        to: Slide,
        /// How far it is slid, in mm.
        slid: Slide,
    },
}

/// A move in words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MoveWords {
    /// What is done, such as `Lean`.
    pub act: &'static str,
    /// How it stands then, such as `leaned `; empty for a slide.
    pub done: &'static str,
    /// By how much and which way, such as `3.0\u{b0} back`.
    pub by: String,
}

/// Settings this close, in degrees or mm, are one.
const SAME: f64 = 1e-9;

impl Freedom {
    /// How far it is set: degrees for a turn, mm for a slide.
    #[must_use]
    pub const fn setting(&self) -> f64 {
        match self {
            Self::Turn { turned, .. } => turned.get(),
            Self::Slide { slid, .. } => slid.get(),
        }
    }

    /// Least and most setting.
    #[must_use]
    pub fn limits(&self) -> [f64; 2] {
        match self {
            Self::Turn { range, .. } => range.limits(),
            Self::Slide { from, to, .. } => [from.get(), to.get()],
        }
    }

    /// The unit of its setting.
    #[must_use]
    pub const fn unit(&self) -> &'static str {
        match self {
            Self::Turn { .. } => "degrees",
            Self::Slide { .. } => "mm",
        }
    }

    /// The smallest step between settings, where there are only some.
    #[must_use]
    pub const fn step(&self) -> Option<f64> {
        match self {
            Self::Turn { range: TurnRange::Steps { step, .. }, .. } => Some(step.get()),
            _ => None,
        }
    }

    /// The nearest setting it can have to `setting`.
    #[must_use]
    pub fn nearest(&self, setting: f64) -> f64 {
        let [least, most] = self.limits();
        let stepped = self.step().map_or(setting, |step| (setting / step).round() * step);
        stepped.max(least).min(most)
    }

    /// Whether it can be set so.
    #[must_use]
    pub fn takes(&self, setting: f64) -> bool {
        (self.nearest(setting) - setting).abs() < SAME
    }

    /// The same, set otherwise; [`Freedom::check`] says whether it goes so far.
    ///
    /// # Errors
    /// [`OutOfRange`] when the setting is none at all.
    pub fn set(&self, setting: f64) -> Result<Self, OutOfRange> {
        Ok(match *self {
            Self::Turn { pivot, axis, range, .. } => {
                Self::Turn { pivot, axis, range, turned: TurnAngle::new(setting)? }
            }
            Self::Slide { along, from, to, .. } => Self::Slide { along, from, to, slid: Slide::new(setting)? },
        })
    }

    /// Where what it carries goes from where it was measured.
    #[must_use]
    pub fn displacement(&self) -> Isometry3<f64> {
        match *self {
            Self::Turn { pivot, axis, turned, .. } => about(pivot.inner(), axis, turned.get()),
            Self::Slide { along, slid, .. } => Translation3::from(along.vector() * slid.get()).into(),
        }
    }

    /// A move by so many degrees or mm, as a builder says it.
    #[must_use]
    pub fn move_words(&self, by: f64, unit: LengthUnit) -> MoveWords {
        match self {
            Self::Slide { along, .. } => {
                let way = along.vector() * by.signum();
                let towards = match way.iamax() {
                    0 if way.x > 0.0 => "forward",
                    0 => "back",
                    1 if way.y > 0.0 => "left",
                    1 => "right",
                    _ if way.z > 0.0 => "up",
                    _ => "down",
                };
                MoveWords { act: "Slide", done: "", by: format!("{} {towards}", unit.text(by.abs())) }
            }
            Self::Turn { axis, .. } => {
                // A turn about the car's left drops the nose: the top goes forward.
                let about = axis.vector() * by.signum();
                let (act, done, towards) = match about.iamax() {
                    1 if about.y > 0.0 => ("Lean", "leaned ", "forward"),
                    1 => ("Lean", "leaned ", "back"),
                    2 if about.z > 0.0 => ("Turn", "turned ", "left"),
                    2 => ("Turn", "turned ", "right"),
                    _ if about.x > 0.0 => ("Roll", "rolled ", "to the right"),
                    _ => ("Roll", "rolled ", "to the left"),
                };
                MoveWords { act, done, by: format!("{:.1}\u{b0} {towards}", by.abs()) }
            }
        }
    }

    /// Checks what the fields alone do not: that the range holds 0, as it was measured, and the
    /// setting lies in it. A setting between two steps is told by [`Freedom::takes`].
    ///
    /// # Errors
    /// [`OutOfRange`] naming the step, the range's end or the setting.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let [min, max] = self.limits();
        let unit = self.unit();
        if let Some(step) = self.step()
            && !(1.0..=180.0).contains(&step)
        {
            return Err(OutOfRange { what: "a turning step", value: step, min: 1.0, max: 180.0, unit });
        }
        if min > 0.0 || max < 0.0 {
            let value = if min > 0.0 { min } else { max };
            let what = "as it was measured (0) must be in the range, whose end";
            return Err(OutOfRange { what, value, min: min.min(0.0), max: max.max(0.0), unit });
        }
        let (what, value) = match self {
            Self::Turn { .. } => ("the component\u{2019}s turn", self.setting()),
            Self::Slide { .. } => ("the component\u{2019}s slide", self.setting()),
        };
        if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit }) }
    }
}

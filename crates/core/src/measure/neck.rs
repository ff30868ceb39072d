//! The neck behind a component's mouth, and what is sawn off it or turned.

use std::f64::consts::FRAC_PI_2;

use nalgebra::Point3;
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::EndForm;
use nook_geometry::units::Straight;
use nook_geometry::{Direction, Point, Travel, Vector};

/// A component's own outlet as it stands, and what is done to it before the pipe is made. Source: handbook, "Joints, fittings,
/// hoses and supports", What else is made to join.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Neck {
    /// How long it is from where it leaves the component to its mouth, as it stands, in mm.
    pub length: Straight,
    /// How much of it is sawn off, in mm.
    pub cut_back: Straight,
    /// How much of it must stay, from where it leaves the component, in mm: a seal, or metal that must not be warmed.
    pub must_stay: Straight,
    /// The way its end points once it is sawn through at a mitre, turned half round and welded on again; nothing where it is not.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub turned: Option<Direction>,
}

/// What cannot be done to a neck.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
pub enum NeckProblem {
    /// More is sawn off than there is.
    #[error("{cut_back:.1} mm are to be sawn off a neck of {length:.1} mm; nothing would be left")]
    NothingLeft {
        /// How much is sawn off.
        cut_back: f64,
        /// How long it is.
        length: f64,
    },
    /// It is too short to be sawn through at that angle.
    #[error(
        "to turn it by {degrees:.0} degrees a neck of this size wants {need:.1} mm, {saw:.1} degrees at the saw; {left:.1} are left"
    )]
    NoRoomToTurn {
        /// By how much it is turned, in degrees.
        degrees: f64,
        /// The saw's setting, in degrees.
        saw: f64,
        /// Length wanted, in mm.
        need: f64,
        /// What is left of it, in mm.
        left: f64,
    },
    /// It points into the component.
    #[error("it would be turned by {degrees:.0} degrees; a neck cut at a mitre turns by less than {most:.0}")]
    TurnedBack {
        /// By how much it is turned, in degrees.
        degrees: f64,
        /// The limit.
        most: f64,
    },
}

/// A neck as it is sawn through to be turned.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mitre {
    /// Saw setting from square, in degrees: half of what it turns.
    pub saw: f64,
    /// From where the neck leaves the component to where the cut crosses its axis, in mm.
    pub at: f64,
}

/// What is sawn off a neck and how, told from where it stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct NeckCut {
    /// The neck.
    pub neck: Neck,
    /// How it is sawn through to be turned; nothing where it stays on.
    pub mitre: Option<Mitre>,
    /// The clock in degrees, from up, right-handed about the way it points as it stands, towards which it is turned: there what
    /// stays on the component is shortest. 0 where it is not turned.
    pub towards: f64,
    /// Why it cannot be sawn so where it was found to stand; what was typed may have been possible.
    pub problem: Option<NeckProblem>,
}

impl NeckCut {
    /// Of a neck of `od` mm whose mouth points along `out` as it stands; nothing where it is left as it is.
    #[must_use]
    pub fn of(neck: Neck, out: Direction, od: f64) -> Option<Self> {
        if !neck.is_altered(out) {
            return None;
        }
        let here = Travel::start(Point::default(), out).upright();
        let lean = neck.turned.map_or_else(Vector::zeros, |turned| turned.vector());
        let [up, beside] = [0.0, FRAC_PI_2].map(|clock| here.at_clock(clock).into_inner().dot(&lean));
        let towards = if up.hypot(beside) > 1e-9 { beside.atan2(up).to_degrees().rem_euclid(360.0) } else { 0.0 };
        Some(Self { neck, mitre: neck.mitre(out, od), towards, problem: neck.check(out, od).err() })
    }
}

/// A neck is turned by less than this many degrees: the mitre is half of it, and a saw goes no further than 45.
const MOST_TURNED: f64 = 90.0;
/// Turned by less than this, in degrees, it is not.
const NOT_TURNED: f64 = 0.05;

impl Neck {
    /// Checks that something is left of it and that it can be mitred.
    ///
    /// # Errors
    /// [`NeckProblem`] as its variants say, for a mouth of `od` mm that points along `out` as it stands.
    pub fn check(&self, out: Direction, od: f64) -> Result<(), NeckProblem> {
        let (length, cut_back) = (self.length.get(), self.cut_back.get());
        if cut_back >= length {
            return Err(NeckProblem::NothingLeft { cut_back, length });
        }
        let degrees = self.turned_by(out);
        if degrees >= MOST_TURNED {
            return Err(NeckProblem::TurnedBack { degrees, most: MOST_TURNED });
        }
        if let Some(Mitre { saw, at }) = self.mitre(out, od) {
            let (need, left) = (at + od / 2.0 * saw.to_radians().tan(), self.left());
            if need >= left {
                return Err(NeckProblem::NoRoomToTurn { degrees, saw, need, left });
            }
        }
        Ok(())
    }

    /// How long it is once it is sawn, in mm.
    #[must_use]
    pub fn left(&self) -> f64 {
        self.length.get() - self.cut_back.get()
    }

    /// By how many degrees a neck that points along `out` as it stands is turned; 0 where it stays on.
    #[must_use]
    pub fn turned_by(&self, out: Direction) -> f64 {
        let Some(turned) = self.turned else { return 0.0 };
        let (one, other) = (out.vector(), turned.vector());
        let degrees = one.cross(&other).norm().atan2(one.dot(&other)).to_degrees();
        if degrees < NOT_TURNED { 0.0 } else { degrees }
    }

    /// Whether anything is done to it.
    #[must_use]
    pub fn is_altered(&self, out: Direction) -> bool {
        self.cut_back.get() > 0.0 || self.turned_by(out) > 0.0
    }

    /// How it is sawn through to be turned: as near to the component as what must stay and the short side of the cut allow.
    /// `None` where it is not turned.
    #[must_use]
    pub fn mitre(&self, out: Direction, od: f64) -> Option<Mitre> {
        let degrees = self.turned_by(out);
        let saw = degrees / 2.0;
        let short = od / 2.0 * saw.to_radians().tan();
        (degrees > 0.0).then(|| Mitre { saw, at: self.must_stay.get() + short })
    }

    /// Where the mouth of `od` mm is, and which way it points, once that is done: from where it stands.
    #[must_use]
    pub fn altered(&self, at: Point3<f64>, out: Direction, od: f64) -> (Point3<f64>, Vector) {
        let (along, way) = (out.vector(), self.turned.map_or_else(|| out.vector(), |turned| turned.vector()));
        let through = self.mitre(out, od).map_or(0.0, |mitre| mitre.at);
        let root = at - along * self.length.get();
        (root + along * through + way * (self.left() - through), way)
    }

    /// How a mouth of `form` ends once that is done: what was on its end is sawn off with it.
    #[must_use]
    pub fn form(&self, form: EndForm) -> EndForm {
        if self.cut_back.get() > 0.0 { EndForm::Plain } else { form }
    }
}

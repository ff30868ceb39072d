//! How the car stands over the ground: where its tyres touch, how far it sinks, what it must drive up.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::Point;
use nook_geometry::units::{Gap, OutOfRange, PitchAngle};

/// How the car stands.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Stance {
    /// Where the front tyres touch the ground, between the two.
    pub front: Point,
    /// Where the rear tyres do.
    pub rear: Point,
    /// How far the wheels travel from standing to full bump, in mm; by default [`Stance::TRAVEL`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub travel: Option<Gap>,
    /// The steepest ramp it must drive up and down, in degrees; by default [`Stance::RAMP`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ramp: Option<PitchAngle>,
}

impl Stance {
    /// Wheel travel in mm of a road car from standing to the bump stop. A starting value; the stop's clearance is measured
    /// in a minute.
    pub const TRAVEL: f64 = 60.0;
    /// Degrees of a ramp of 1 in 6, the steepest that public car parks are built with.
    pub const RAMP: f64 = 9.5;
    /// Least and most degrees of a ramp.
    const RAMPS: [f64; 2] = [0.0, 45.0];
    /// Least distance in mm between front and rear.
    const LEAST_WHEELBASE: f64 = 500.0;

    /// Wheel travel in mm.
    #[must_use]
    pub fn travel(&self) -> f64 {
        self.travel.map_or(Self::TRAVEL, Gap::get)
    }

    /// The ramp in degrees.
    #[must_use]
    pub fn ramp(&self) -> f64 {
        self.ramp.map_or(Self::RAMP, PitchAngle::get)
    }

    /// Checks that front is ahead of rear, and that the ramp is one.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the wheelbase or the ramp.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let [min, max] = Self::RAMPS;
        let value = self.ramp();
        if !(min..=max).contains(&value) {
            return Err(OutOfRange { what: "the ramp", value, min, max, unit: "degrees" });
        }
        let value = self.rear.to(self.front).x;
        let (min, max) = (Self::LEAST_WHEELBASE, 20_000.0);
        let what = "how far the front tyres are ahead of the rear ones";
        if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit: "mm" }) }
    }
}

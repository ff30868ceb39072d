//! Quantities that exist only inside their range. The range is written once here; it gives the check, the
//! message, the published schema and the test generators.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::openapi::RefOr;
use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
use utoipa::{PartialSchema, ToSchema};

use super::LengthInput;

/// A number outside the range its quantity may have.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[error("{what} must be between {min} and {max} {unit}; {value} is outside")]
pub struct OutOfRange {
    /// The quantity, in the field's words.
    pub what: &'static str,
    /// What was given, in `unit`.
    pub value: f64,
    /// Smallest allowed value, in `unit`.
    pub min: f64,
    /// Largest allowed value, in `unit`.
    pub max: f64,
    /// `mm`, `degrees`, `bar` or `seams`.
    pub unit: &'static str,
}

/// A length: read from a number of mm, or from a text as people type it.
macro_rules! length {
    ($(#[$doc:meta])* $name:ident, $what:literal, $min:literal ..= $max:literal) => {
        bounded!(@ "LengthInput", $(#[$doc])* $name, $what, $min ..= $max, "mm");

        impl TryFrom<LengthInput> for $name {
            type Error = OutOfRange;
            fn try_from(input: LengthInput) -> Result<Self, OutOfRange> {
                Self::new(input.0)
            }
        }
    };
}

macro_rules! bounded {
    ($(#[$doc:meta])* $name:ident, $what:literal, $min:literal ..= $max:literal, $unit:literal) => {
        bounded!(@ "f64", $(#[$doc])* $name, $what, $min ..= $max, $unit);
    };
    (@ $read:literal, $(#[$doc:meta])* $name:ident, $what:literal, $min:literal ..= $max:literal, $unit:literal) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
        #[serde(try_from = $read, into = "f64")]
        pub struct $name(f64);

        impl $name {
            /// Smallest allowed value.
            pub const MIN: f64 = $min;
            /// Largest allowed value.
            pub const MAX: f64 = $max;

            /// Checks the range.
            ///
            /// # Errors
            /// [`OutOfRange`] when `value` is not a number or outside `MIN..=MAX`.
            pub fn new(value: f64) -> Result<Self, OutOfRange> {
                if (Self::MIN..=Self::MAX).contains(&value) {
                    Ok(Self(value))
                } else {
                    Err(OutOfRange { what: $what, value, min: Self::MIN, max: Self::MAX, unit: $unit })
                }
            }

            /// The allowed value nearest to `value`; the smallest where that is no number.
            #[must_use]
            pub fn nearest(value: f64) -> Self {
                Self(value.max(Self::MIN).min(Self::MAX))
            }

            /// The value in the unit the type states.
            #[must_use]
            pub const fn get(self) -> f64 {
                self.0
            }
        }

        impl PartialSchema for $name {
            fn schema() -> RefOr<Schema> {
                let number = ObjectBuilder::new().schema_type(Type::Number);
                let ranged = number.minimum(Some(Self::MIN)).maximum(Some(Self::MAX));
                ranged.description(Some(concat!($what, ", ", $unit))).into()
            }
        }

        impl ToSchema for $name {
            fn name() -> Cow<'static, str> {
                stringify!($name).into()
            }
        }

        impl TryFrom<f64> for $name {
            type Error = OutOfRange;
            fn try_from(value: f64) -> Result<Self, OutOfRange> {
                Self::new(value)
            }
        }

        impl From<$name> for f64 {
            fn from(value: $name) -> f64 {
                value.0
            }
        }
    };
}

length!(
    /// One vehicle coordinate in mm. Fifty metres holds any vehicle and keeps sums exact to 1e-9 mm.
    Coordinate, "a coordinate", -50_000.0 ..= 50_000.0
);
length!(
    /// Outside diameter of a tube or mouth in mm.
    OutsideDiameter, "the outside diameter", 3.0 ..= 300.0
);
length!(
    /// Wall thickness in mm; a tube also keeps it under the tube's radius.
    Wall, "the wall", 0.3 ..= 12.0
);
length!(
    /// Centre-line radius of a bend in mm.
    BendRadius, "the centre-line radius", 5.0 ..= 2000.0
);
length!(
    /// Gap between two tube ends inside a coupler in mm.
    Gap, "the gap", 0.0 ..= 150.0
);
length!(
    /// Length of tube a hose sits on in mm.
    Seat, "the hose seat", 5.0 ..= 150.0
);
length!(
    /// Width of the saw cut in mm.
    Kerf, "the kerf", 0.0 ..= 6.0
);
length!(
    /// Length asked of a straight in mm.
    Straight, "a straight", 0.0 ..= 20_000.0
);
length!(
    /// How far a branch stands out of the tube's skin along its own axis, in mm.
    BranchReach, "how far a branch stands out", 3.0 ..= 300.0
);
length!(
    /// How far a branch's axis passes beside the tube's, in mm.
    BranchOffset, "how far a branch is off the middle", -140.0 ..= 140.0
);
bounded!(
    /// Between a branch's axis and the direction of travel, in degrees.
    BranchAngle, "a branch's angle", 20.0 ..= 160.0, "degrees"
);
length!(
    /// How long a part of a pipe may be that a bench or a welder holds, in mm.
    PartLength, "the longest part", 100.0 ..= 20_000.0
);
length!(
    /// Distance from a mouth to the nearest vertex, along the mouth's direction, in mm. Negative means behind
    /// the mouth: it can be said, and is found to be unbuildable.
    Lead, "a lead", -20_000.0 ..= 20_000.0
);
length!(
    /// Distance of a joint's middle from an end of its leg in mm.
    AlongLeg, "a joint's place along its leg", 0.0 ..= 20_000.0
);
bounded!(
    /// Angle asked of a bend in degrees.
    BendAngle, "a bend's angle", 0.5 ..= 175.0, "degrees"
);
bounded!(
    /// Turn of a bend's plane from the one before, in degrees, right-handed about the direction of travel.
    Rotation, "a rotation", -360.0 ..= 360.0, "degrees"
);
bounded!(
    /// Gauge pressure in bar.
    Pressure, "the pressure", 0.0 ..= 10.0, "bar"
);

length!(
    /// Thickness of insulation round a pipe in mm.
    Insulation, "the insulation", 0.0 ..= 60.0
);
bounded!(
    /// Mass flow of air or gas in kg/s.
    AirMassFlow, "the air flow", 0.001 ..= 5.0, "kg/s"
);
bounded!(
    /// What an engine makes, in hp.
    Power, "the power", 1.0 ..= 3000.0, "hp"
);
bounded!(
    /// Flow of coolant in litres a minute.
    CoolantFlow, "the coolant flow", 0.1 ..= 1000.0, "l/min"
);
bounded!(
    /// Temperature in degrees Celsius.
    Temperature, "the temperature", -40.0 ..= 1100.0, "C"
);
length!(
    /// What a tape reads between two points in mm.
    TapeLength, "a tape reading", 0.1 ..= 20_000.0
);
length!(
    /// Distance out of a mouth along a stick pushed into it, in mm; negative is inside.
    OnStick, "a mark on the stick", -1000.0 ..= 3000.0
);
bounded!(
    /// Heading read off an angle gauge in degrees to the left from forward.
    HeadingAngle, "a heading", -360.0 ..= 360.0, "degrees"
);
bounded!(
    /// Pitch read off an angle gauge in degrees above level.
    PitchAngle, "a pitch", -90.0 ..= 90.0, "degrees"
);
length!(
    /// Distance round a tube in mm, as a strip of paper gives it; pi times the smallest and largest diameter.
    Girth, "the girth", 9.5 ..= 942.0
);
bounded!(
    /// Angle between the ways out of two mouths in degrees.
    BetweenAngle, "the angle between two mouths", 0.0 ..= 180.0, "degrees"
);
bounded!(
    /// A place round a mouth's face as on a clock, for who looks into the mouth: 12 is up.
    FaceClock, "the clock on a face", 0.0 ..= 12.0, "hours"
);
length!(
    /// Distance of a point on a mouth's face from its centre in mm.
    FaceRadius, "the distance from a face's centre", 1.0 ..= 500.0
);
length!(
    /// Inside diameter of a mouth in mm.
    Bore, "the bore", 2.0 ..= 298.0
);
bounded!(
    /// How far a reading may be out: one standard deviation, in mm or degrees as the reading is.
    Spread, "a reading's spread", 0.01 ..= 100.0, "mm or degrees"
);
bounded!(
    /// Turn about an axis in degrees.
    TurnAngle, "a turn", -360.0 ..= 360.0, "degrees"
);
length!(
    /// How far a component is slid along one of its slots in mm.
    Slide, "a slide", -1_000.0 ..= 1_000.0
);
length!(
    /// How much higher a component stands on its mounts than when it was measured, in mm.
    MountHeight, "the height of the mounts", 0.0 ..= 150.0
);
bounded!(
    /// Mass of a component, filled, in kg.
    Mass, "a mass", 0.01 ..= 500.0, "kg"
);
bounded!(
    /// A share of a whole, 0 to 1.
    Share, "a share", 0.0 ..= 1.0, "of 1"
);
length!(
    /// Thickness of strip or angle in mm.
    SheetThickness, "the thickness of strip", 0.5 ..= 12.0
);
length!(
    /// Width of strip, or of one leg of angle, in mm.
    StripWidth, "the width of strip", 8.0 ..= 150.0
);
length!(
    /// Nominal diameter of a bolt in mm.
    BoltSize, "the size of a bolt", 3.0 ..= 16.0
);
length!(
    /// Depth of the thread in a blind boss in mm.
    BossDepth, "the depth of a boss", 3.0 ..= 100.0
);
length!(
    /// Height of a rubber mount, free, in mm.
    RubberHeight, "the height of a rubber mount", 3.0 ..= 80.0
);
length!(
    /// Diameter of a rubber mount in mm.
    RubberDiameter, "the diameter of a rubber mount", 8.0 ..= 80.0
);
bounded!(
    /// Hardness of rubber in degrees Shore A.
    ShoreHardness, "the hardness of rubber", 30.0 ..= 80.0, "Shore A"
);
bounded!(
    /// Roll of the engine on its mounts, one way, in degrees.
    Roll, "the engine's roll", 0.0 ..= 15.0, "degrees"
);
length!(
    /// Shift of the engine on its mounts, each way, in mm.
    Shift, "the engine's shift", 0.0 ..= 50.0
);

bounded!(
    /// How far a joint bends while running, in degrees.
    GiveAngle, "what a joint bends", 0.0 ..= 30.0, "degrees"
);
length!(
    /// How far a joint gives sideways or along, in mm.
    GiveLength, "what a joint gives", 0.0 ..= 60.0
);
length!(
    /// How far something stands out beyond the outside of the tube it is on, in mm.
    StandsOut, "how far it stands out", 0.0 ..= 120.0
);
length!(
    /// Distance between the middles of two holes, in mm.
    HoleSpacing, "the distance between two holes", 5.0 ..= 500.0
);
length!(
    /// Diameter of a hole for a bolt, in mm.
    HoleDiameter, "the diameter of a hole", 2.0 ..= 30.0
);
length!(
    /// Thickness of a flange plate in mm.
    PlateThickness, "the thickness of a plate", 2.0 ..= 40.0
);
bounded!(
    /// Speed of an engine's crankshaft in rpm.
    EngineSpeed, "the engine's speed", 300.0 ..= 20_000.0, "rpm"
);
bounded!(
    /// What a saw is set to, from square, in degrees.
    SawSetting, "what the saw is set to", 0.5 ..= 45.0, "degrees"
);
bounded!(
    /// The angle between two pieces that were sawn alike and joined with one turned half round, in degrees.
    JointedAngle, "the angle between the two pieces", 0.0 ..= 100.0, "degrees"
);
bounded!(
    /// By how much a saw cuts more than it is set to, in degrees.
    SawBias, "the saw's error", -5.0 ..= 5.0, "degrees"
);
bounded!(
    /// The step of a saw's scale, in degrees: it is set to multiples of that and nothing between.
    SawStep, "the step of the saw's scale", 0.05 ..= 5.0, "degrees"
);
length!(
    /// The shortest end of tube that a saw's vice holds, in mm.
    HeldEnd, "the shortest end the saw holds", 5.0 ..= 500.0
);
bounded!(
    /// How far a bought elbow turns, in degrees.
    ElbowAngle, "the angle of an elbow", 1.0 ..= 180.0, "degrees"
);
bounded!(
    /// How far a bought pie turns from face to face, in degrees.
    PieAngle, "the angle of a bought pie", 1.0 ..= 60.0, "degrees"
);
length!(
    /// How long the straight leg of a bought elbow is beyond its tangent line, in mm.
    ElbowLeg, "the leg of an elbow", 0.0 ..= 1_000.0
);
bounded!(
    /// Share of what is sawn that is spoilt, 0 to a half.
    ScrapRate, "the share that is spoilt", 0.0 ..= 0.5, "of all"
);
length!(
    /// What a bar of 100 mm measures as a printer prints it, in mm.
    PrintedBar, "the printed bar of 100 mm", 97.0 ..= 103.0
);
length!(
    /// Length of a stick of tube in mm.
    StickLength, "the length of a stick", 10.0 ..= 20_000.0
);
length!(
    /// Length of the longest stick of tube that is to be had, in mm.
    LongestStick, "the longest stick to be had", 200.0 ..= 20_000.0
);
bounded!(
    /// A price, in whatever money the builder pays with.
    Price, "a price", 0.0 ..= 100_000.0, "in money"
);

/// How many welded seams a bend is made with: 1 to 20.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "u8", into = "u8")]
#[schema(value_type = u8, minimum = 1, maximum = 20)]
pub struct SeamCount(u8);

impl SeamCount {
    /// Fewest seams.
    pub const MIN: u8 = 1;
    /// Most seams.
    pub const MAX: u8 = 20;
    /// A single mitre.
    pub const ONE: Self = Self(1);
    /// Two seams.
    pub const TWO: Self = Self(2);

    /// One seam more, unless there are 20 already.
    #[must_use]
    pub fn one_more(self) -> Option<Self> {
        Self::new(self.0 + 1).ok()
    }

    /// One seam fewer, unless there is only one.
    #[must_use]
    pub fn one_fewer(self) -> Option<Self> {
        Self::new(self.0 - 1).ok()
    }

    /// Checks the range.
    ///
    /// # Errors
    /// [`OutOfRange`] when `value` is outside `MIN..=MAX`.
    pub fn new(value: u8) -> Result<Self, OutOfRange> {
        if (Self::MIN..=Self::MAX).contains(&value) {
            Ok(Self(value))
        } else {
            Err(OutOfRange {
                what: "the number of seams",
                value: f64::from(value),
                min: f64::from(Self::MIN),
                max: f64::from(Self::MAX),
                unit: "seams",
            })
        }
    }

    /// The count.
    #[must_use]
    pub const fn get(self) -> u8 {
        self.0
    }
}

impl TryFrom<u8> for SeamCount {
    type Error = OutOfRange;
    fn try_from(value: u8) -> Result<Self, OutOfRange> {
        Self::new(value)
    }
}

impl From<SeamCount> for u8 {
    fn from(value: SeamCount) -> u8 {
        value.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn limits_belong_to_the_range_and_nothing_beyond() {
        assert!(OutsideDiameter::new(OutsideDiameter::MIN).is_ok());
        assert!(OutsideDiameter::new(OutsideDiameter::MAX).is_ok());
        for bad in [f64::NAN, f64::INFINITY, -38.1, 2.999] {
            assert!(OutsideDiameter::new(bad).is_err(), "{bad} must be refused");
        }
    }

    #[test]
    fn deserialising_goes_through_the_check_and_says_the_limit() {
        let error = serde_json::from_str::<OutsideDiameter>("-38.1").unwrap_err().to_string();
        assert!(error.contains("between 3 and 300 mm; -38.1 is outside"), "{error}");
        assert!(serde_json::from_str::<SeamCount>("21").is_err());
        assert!(serde_json::from_str::<SeamCount>("20").is_ok());
    }
}

//! Lengths, angles and pressures: their ranges, how they are read and how they are shown.

mod bounded;
mod length;
mod length_input;
mod measure;
mod name;
mod read_length;

pub use bounded::{
    AirMassFlow, AlongLeg, BendAngle, BendRadius, BetweenAngle, BoltSize, Bore, BossDepth, BranchAngle, BranchOffset,
    BranchReach, CoolantFlow, Coordinate, ElbowAngle, ElbowLeg, EngineSpeed, FaceClock, FaceRadius, Gap, Girth,
    GiveAngle, GiveLength, HeadingAngle, HeldEnd, HoleDiameter, HoleSpacing, Insulation, JointedAngle, Kerf, Lead,
    LongestStick, Mass, MountHeight, OnStick, OutOfRange, OutsideDiameter, PartLength, PieAngle, PitchAngle,
    PlateThickness, Power, Pressure, Price, PrintedBar, Roll, Rotation, RubberDiameter, RubberHeight, SawBias,
    SawSetting, SawStep, ScrapRate, SeamCount, Seat, Share, SheetThickness, Shift, ShoreHardness, Slide, Spread,
    StandsOut, StickLength, Straight, StripWidth, TapeLength, Temperature, TurnAngle, Wall,
};
pub use length::{LengthUnit, MM_PER_INCH};
pub use length_input::LengthInput;
pub use measure::{DualUnitText, Measure, capital};
pub use name::{Name, NameError};
pub use read_length::{ReadLengthError, read_length};

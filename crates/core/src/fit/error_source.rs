//! What may be off about a pipe and its ports, and what that moves.

use serde::Serialize;
use utoipa::ToSchema;

use super::Twist;
use crate::measure::End;

/// What an error is the error of. Pieces, bends and seams count from 0 at A; a seam has the number of the piece before it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum ErrorOf {
    /// Place of a port, along one of three directions.
    PortPlace(End, u8),
    /// Direction of a port, about one of two axes.
    PortAxis(End, u8),
    /// Length of a piece.
    Length(usize),
    /// Angle of a saw, common to all its cuts.
    SawBias,
    /// Angle of one sawn face: that of a piece towards an end. A square one leans in one of two directions.
    Face(usize, End, u8),
    /// Angle of a whole bend.
    Bend(usize),
    /// Clock at which a bend stands in a tube that it is drawn in.
    BendClock(usize),
    /// Clock at which a piece is tacked to the one before.
    Clock(usize),
    /// Gap that is pulled in at a seam.
    Gap(usize),
    /// Tilt that a weld pulls, in one of two directions.
    Pull(usize, u8),
    /// Shrinking of a weld along the tube.
    Shrink(usize),
    /// How a pipe is held against its port while it is measured, which is no error of its own.
    Seating(u8),
    /// How an act came out, by its place among those done.
    Act(usize),
}

/// What errors come from, as a builder would say it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Cause {
    /// Where the port at A is.
    PortA,
    /// Where the port at B is.
    PortB,
    /// How long pieces come out.
    Lengths,
    /// What the saw cuts more or less than it is set to.
    SawBias,
    /// How one cut differs from the next.
    Cuts,
    /// Angles of bends that are bought, drawn or trued.
    Bends,
    /// Clocks of tacks and bends.
    Clocks,
    /// Gaps pulled in at seams.
    Gaps,
    /// What welds pull and shrink.
    Welds,
    /// How what was done to mend it came out.
    Acts,
}

/// An error: normal about nothing, independent of all others.
#[derive(Debug, Clone, PartialEq)]
pub struct ErrorSource {
    /// Of what.
    pub of: ErrorOf,
    /// One standard deviation, in mm or radians.
    pub spread: f64,
    /// Whether it happens after whatever is measured in place was cut to suit.
    pub late: bool,
    /// What it moves, per mm or radian.
    pub acts: Vec<ErrorAct>,
}

/// What an error moves.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ErrorAct {
    /// Which body; of a section all that is nearer B than this.
    pub on: Body,
    /// Its place along the pipe, from A, in any unit that grows.
    pub station: f64,
    /// How.
    pub twist: Twist,
}

/// A rigid body of a pipe between its ports.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Body {
    /// A port.
    Port(End),
    /// A section of the pipe, from A.
    Section(usize),
}

impl ErrorOf {
    /// What it comes from; `None` of what is no error of the pipe.
    #[must_use]
    pub const fn cause(self) -> Option<Cause> {
        Some(match self {
            Self::PortPlace(End::A, _) | Self::PortAxis(End::A, _) => Cause::PortA,
            Self::PortPlace(End::B, _) | Self::PortAxis(End::B, _) => Cause::PortB,
            Self::Length(_) => Cause::Lengths,
            Self::SawBias => Cause::SawBias,
            Self::Face(..) => Cause::Cuts,
            Self::Bend(_) => Cause::Bends,
            Self::BendClock(_) | Self::Clock(_) => Cause::Clocks,
            Self::Gap(_) => Cause::Gaps,
            Self::Pull(..) | Self::Shrink(_) => Cause::Welds,
            Self::Seating(_) => return None,
            Self::Act(_) => Cause::Acts,
        })
    }
}

impl Cause {
    /// In words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::PortA => "where end A is",
            Self::PortB => "where end B is",
            Self::Lengths => "lengths of pieces",
            Self::SawBias => "what the saw cuts beside its setting",
            Self::Cuts => "how cuts differ from each other",
            Self::Bends => "angles of bends",
            Self::Clocks => "clocks of tacks, by their lines",
            Self::Gaps => "gaps pulled in at seams",
            Self::Welds => "what welds pull and shrink",
            Self::Acts => "how what was done came out",
        }
    }
}

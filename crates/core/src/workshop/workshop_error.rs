//! Why a workshop stays as it was.

use serde::Serialize;
use thiserror::Error;

use super::{ElbowId, OnSaleId, PiesId, PrinterId, SawId, StickId};

/// Why a workshop stays as it was.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum WorkshopError {
    /// It has no such saw.
    #[error("this workshop has no saw {}; it may have been removed", saw.0)]
    NoSuchSaw {
        /// The number asked for.
        saw: SawId,
    },
    /// The saw that is in use.
    #[error("\u{201c}{name}\u{201d} is the saw in use; use another one first")]
    InUse {
        /// Its name.
        name: String,
    },
    /// Two saws of one name could not be told apart.
    #[error("there is a saw \u{201c}{name}\u{201d} already; give this one another name")]
    NameTaken {
        /// The name.
        name: String,
    },
    /// More than there is room for.
    #[error("a workshop holds at most {most} saws; this one has {count}")]
    TooManySaws {
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// A coupon of no pairs, or of more than anybody saws.
    #[error("a coupon has 1 to {most} pairs; this one has {count}")]
    Pairs {
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// A saw so far off is set wrong, or the pair was measured wrong.
    #[error(
        "that would be {bias:.1} degrees off what it was set to; more than 5 is a wrong setting or a wrong reading"
    )]
    FarOff {
        /// By how many degrees.
        bias: f64,
    },
    /// It has no such stick.
    #[error("the shelf has no stick {}; it may have been used", stick.0)]
    NoSuchStick {
        /// The number asked for.
        stick: StickId,
    },
    /// It has no such elbow.
    #[error("the shelf has no elbow {}; it may have been used", elbow.0)]
    NoSuchElbow {
        /// The number asked for.
        elbow: ElbowId,
    },
    /// It has no such printer.
    #[error("this workshop has no printer {}; it may have been removed", printer.0)]
    NoSuchPrinter {
        /// The number asked for.
        printer: PrinterId,
    },
    /// It has no such box of pies.
    #[error("the shelf has no box of pies {}; they may have been used", pies.0)]
    NoSuchPies {
        /// The number asked for.
        pies: PiesId,
    },
    /// A box of more pies than anybody has, or of none.
    #[error("a box has 1 to {most} pies; this one has {count}")]
    PieCount {
        /// How many.
        count: u32,
        /// The limit.
        most: u32,
    },
    /// An elbow or a pie whose inside would turn over itself.
    #[error("an elbow or a pie of {radius:.1} mm radius has no inside; half the tube, {least:.1} mm, is the least")]
    NoThroat {
        /// Its radius in mm.
        radius: f64,
        /// The least.
        least: f64,
    },
    /// It has no such line of what can be bought.
    #[error("nothing on sale is numbered {}; it may have been taken out", on_sale.0)]
    NotOnSale {
        /// The number asked for.
        on_sale: OnSaleId,
    },
    /// Hose is not kept as sticks.
    #[error("{material} is a hose; sticks are of metal")]
    NotTube {
        /// What it is of.
        material: &'static str,
    },
    /// A figure that no machine, bottle or hand has, or a text that is no lesson.
    #[error("{why}")]
    Noted {
        /// Which, and the limit.
        why: String,
    },
    /// More than there is room for.
    #[error("a workshop holds at most {most} {what}; this one has {count}")]
    TooMany {
        /// What there are too many of.
        what: &'static str,
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// Two saws share a number, or one is beyond the next to be given.
    #[error("two saws are numbered {id}, or the number is beyond the last one given")]
    Numbering {
        /// The number.
        id: u32,
    },
    /// Every number there is has been given once.
    #[error("this workshop has no number left to give")]
    NumbersUsedUp,
}

impl From<super::LessonError> for WorkshopError {
    fn from(why: super::LessonError) -> Self {
        Self::Noted { why: why.to_string() }
    }
}

impl From<crate::weld::WelderError> for WorkshopError {
    fn from(why: crate::weld::WelderError) -> Self {
        Self::Noted { why: why.to_string() }
    }
}

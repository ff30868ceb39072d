//! The line protocol. A line is ASCII, ends with a line feed and is guarded by a checksum: `READ 12 D 523.4*4F`.

use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// What an instrument is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
#[schema(as = InstrumentKind)]
pub enum Kind {
    /// A tape: one distance in mm.
    Tape,
    /// An angle gauge: heading, pitch and roll in degrees.
    Gauge,
    /// A caliper: one diameter in mm.
    Caliper,
    /// A tapered feeler: one gap in mm.
    Feeler,
    /// A depth gauge across a step: how far one side stands above the other in mm, less than nothing where it stands below.
    Depth,
    /// A pressure gauge with a thermometer in the gas: seconds since it was shut in, bar gauge, degrees Celsius.
    Manometer,
}

impl Kind {
    /// All of them.
    pub const ALL: [Self; 6] = [Self::Tape, Self::Gauge, Self::Caliper, Self::Feeler, Self::Depth, Self::Manometer];

    /// Its name in the protocol.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Tape => "tape",
            Self::Gauge => "gauge",
            Self::Caliper => "caliper",
            Self::Feeler => "feeler",
            Self::Depth => "depth",
            Self::Manometer => "manometer",
        }
    }

    /// The letter before its figures, and how many there are.
    const fn figures(self) -> (&'static str, usize) {
        match self {
            Self::Tape => ("D", 1),
            Self::Gauge => ("A", 3),
            Self::Caliper => ("C", 1),
            Self::Feeler => ("F", 1),
            Self::Depth => ("H", 1),
            Self::Manometer => ("P", 3),
        }
    }

    /// Decimals its display has.
    pub(crate) const fn decimals(self) -> usize {
        match self {
            Self::Tape | Self::Gauge => 1,
            Self::Caliper | Self::Feeler | Self::Depth => 2,
            Self::Manometer => 4,
        }
    }
}

/// A line an instrument sends.
#[derive(Debug, Clone, PartialEq)]
pub enum Line {
    /// Sent once when somebody connects: what it is, and the version of the protocol.
    Hello {
        /// What it is.
        kind: Kind,
    },
    /// Charge left in percent.
    Battery {
        /// 0 to 100.
        percent: u8,
    },
    /// A reading.
    Read {
        /// Counts readings from 1, so that a lost one is noticed.
        count: u32,
        /// Which instrument.
        kind: Kind,
        /// Its figures: mm, degrees, or of a manometer seconds, bar and degrees Celsius.
        figures: Vec<f64>,
    },
}

/// Why a line was not understood.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum Garbled {
    /// No checksum at its end.
    #[error("the line has no checksum; its end is missing")]
    CutOff,
    /// The checksum is another.
    #[error("the checksum is {found} where {expected} belongs; the line was damaged on its way")]
    Checksum {
        /// What the line says.
        found: String,
        /// What it should be.
        expected: String,
    },
    /// It says nothing known.
    #[error("\u{201c}{line}\u{201d} is no line of this protocol")]
    Unknown {
        /// The line without its checksum.
        line: String,
    },
}

/// The exclusive or of all bytes, as two hexadecimal digits.
fn checksum(text: &str) -> String {
    format!("{:02X}", text.bytes().fold(0, |sum, byte| sum ^ byte))
}

impl fmt::Display for Line {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let text = match self {
            Self::Hello { kind } => format!("HELLO 1 {}", kind.word()),
            Self::Battery { percent } => format!("BAT {percent}"),
            Self::Read { count, kind, figures } => {
                let decimals = kind.decimals();
                let figures: Vec<String> = figures.iter().map(|figure| format!("{figure:.decimals$}")).collect();
                format!("READ {count} {} {}", kind.figures().0, figures.join(" "))
            }
        };
        write!(f, "{text}*{}", checksum(&text))
    }
}

impl FromStr for Line {
    type Err = Garbled;

    fn from_str(line: &str) -> Result<Self, Garbled> {
        let line = line.trim_end_matches(['\r', '\n']);
        let (text, found) = line.rsplit_once('*').ok_or(Garbled::CutOff)?;
        let expected = checksum(text);
        if found != expected {
            return Err(Garbled::Checksum { found: found.to_owned(), expected });
        }
        parse(text).ok_or_else(|| Garbled::Unknown { line: text.to_owned() })
    }
}

fn parse(text: &str) -> Option<Line> {
    let words: Vec<&str> = text.split(' ').collect();
    match words.as_slice() {
        ["HELLO", "1", kind] => Some(Line::Hello { kind: Kind::ALL.into_iter().find(|one| one.word() == *kind)? }),
        ["BAT", percent] => {
            let percent = percent.parse().ok().filter(|percent| *percent <= 100)?;
            Some(Line::Battery { percent })
        }
        ["READ", count, letter, figures @ ..] => {
            let kind = Kind::ALL.into_iter().find(|kind| kind.figures().0 == *letter)?;
            let figures: Vec<f64> = figures.iter().map(|figure| figure.parse().ok()).collect::<Option<_>>()?;
            let whole = figures.len() == kind.figures().1 && figures.iter().all(|figure| figure.is_finite());
            whole.then_some(Line::Read { count: count.parse().ok()?, kind, figures })
        }
        _ => None,
    }
}

/// What a stand-in is told. Real instruments have no ear; they read what is in front of them when their button is
/// pressed.
#[derive(Debug, Clone, PartialEq)]
pub enum Order {
    /// What it would read if it were perfect.
    Aim(Vec<f64>),
    /// Press its button.
    Press,
}

impl fmt::Display for Order {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Aim(figures) => {
                write!(f, "AIM")?;
                figures.iter().try_for_each(|figure| write!(f, " {figure}"))
            }
            Self::Press => write!(f, "PRESS"),
        }
    }
}

impl FromStr for Order {
    type Err = Garbled;

    fn from_str(line: &str) -> Result<Self, Garbled> {
        let line = line.trim_end_matches(['\r', '\n']);
        let unknown = || Garbled::Unknown { line: line.to_owned() };
        let mut words = line.split(' ');
        match words.next() {
            Some("PRESS") if words.next().is_none() => Ok(Self::Press),
            Some("AIM") => {
                let figures = words.map(|word| word.parse().ok().filter(|figure: &f64| figure.is_finite()));
                figures.collect::<Option<_>>().map(Self::Aim).ok_or_else(unknown)
            }
            _ => Err(unknown()),
        }
    }
}

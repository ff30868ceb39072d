//! Instruments by name: which one answers on which port.

use std::fmt;
use std::str::FromStr;

use thiserror::Error;

use crate::Kind;

/// An instrument and where it answers, on loopback.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NamedInstrument {
    /// What it is called; unique among those that are read.
    pub name: String,
    /// What it is.
    pub kind: Kind,
    /// Its port; 0 for any free one, where it is to be started.
    pub port: u16,
}

/// The text names no instrument.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum InstrumentError {
    /// Not of that form.
    #[error("\u{201c}{text}\u{201d} is no instrument: say KIND@PORT or NAME=KIND@PORT, such as tape@8391")]
    Form {
        /// The text.
        text: String,
    },
    /// Of no kind there is.
    #[error("\u{201c}{kind}\u{201d} is no kind of instrument: tape, gauge, caliper, feeler and depth are")]
    Kind {
        /// What was said.
        kind: String,
    },
    /// No port.
    #[error("\u{201c}{port}\u{201d} is no port: a number from 1 to 65535 is")]
    Port {
        /// What was said.
        port: String,
    },
    /// No name.
    #[error("an instrument is named by 1 to {} letters, digits, spaces and hyphens", NamedInstrument::LONGEST)]
    Name,
}

impl NamedInstrument {
    /// Most characters of a name.
    pub const LONGEST: usize = 40;

    /// An instrument called after its kind.
    #[must_use]
    pub fn plain(kind: Kind, port: u16) -> Self {
        Self { name: kind.word().to_owned(), kind, port }
    }
}

impl FromStr for NamedInstrument {
    type Err = InstrumentError;

    /// `tape@8391`, or with a name of its own `long tape=tape@8392`.
    fn from_str(text: &str) -> Result<Self, InstrumentError> {
        let form = || InstrumentError::Form { text: text.to_owned() };
        let (name, rest) = text.split_once('=').map_or((None, text), |(name, rest)| (Some(name.trim()), rest));
        let (word, port) = rest.split_once('@').ok_or_else(form)?;
        let kind = Kind::ALL.into_iter().find(|kind| kind.word() == word.trim());
        let kind = kind.ok_or_else(|| InstrumentError::Kind { kind: word.trim().to_owned() })?;
        let number: Option<u16> = port.trim().parse().ok().filter(|port| *port > 0);
        let port = number.ok_or_else(|| InstrumentError::Port { port: port.trim().to_owned() })?;
        let name = name.unwrap_or(kind.word()).to_owned();
        let plain = name.chars().all(|c| c.is_alphanumeric() || c == ' ' || c == '-');
        if plain && (1..=Self::LONGEST).contains(&name.chars().count()) {
            Ok(Self { name, kind, port })
        } else {
            Err(InstrumentError::Name)
        }
    }
}

impl fmt::Display for NamedInstrument {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}={}@{}", self.name, self.kind.word(), self.port)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_instrument_is_named_by_its_kind_or_by_itself() {
        let read = |text: &str| text.parse::<NamedInstrument>();
        assert_eq!(read("tape@8391"), Ok(NamedInstrument::plain(Kind::Tape, 8391)));
        let long = read("long tape=tape@8392").unwrap();
        assert_eq!((long.name.as_str(), long.kind, long.port), ("long tape", Kind::Tape, 8392));
        assert_eq!(read(&long.to_string()), Ok(long));
        for (text, says) in [
            ("tape", "say KIND@PORT"),
            ("ruler@1", "no kind of instrument"),
            ("tape@0", "no port"),
            ("tape@70000", "no port"),
            ("=tape@5", "is named by"),
            ("a/b=tape@5", "is named by"),
        ] {
            assert!(read(text).unwrap_err().to_string().contains(says), "{text}");
        }
    }
}

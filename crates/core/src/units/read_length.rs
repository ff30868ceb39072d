//! Reading a length as people type it: `86`, `85.7 mm`, `3 3/8`, `2 1/2"`, `2.5in`.

use thiserror::Error;

use super::LengthUnit;

/// Why a text is no length.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ReadLengthError {
    /// Nothing was typed.
    #[error("type a length, such as 86, 85.7 mm or 3 3/8 in")]
    Empty,
    /// A character or word that has no place in a length.
    #[error("\u{201c}{found}\u{201d} has no place in a length; type it like 86, 85.7 mm or 3 3/8 in")]
    Unexpected {
        /// The part that could not be read.
        found: String,
    },
    /// A fraction whose lower number is zero.
    #[error("a fraction cannot have 0 below the line")]
    ZeroDenominator,
    /// More than fifty metres.
    #[error("{mm} mm is beyond 50000 mm, the longest length there is here")]
    TooLong {
        /// What was read, in mm.
        mm: f64,
    },
}

/// Longest readable length in mm; the same bound as [`super::Coordinate`].
const LONGEST: f64 = super::Coordinate::MAX;

/// Reads `text` as a length and gives mm. A number without a unit is in `default_unit`, but a fraction
/// without a unit is inches: nobody has a tape in sixteenths of a millimetre. A leading minus is allowed.
///
/// # Errors
/// [`ReadLengthError`] for an empty text, anything that is not one number, one fraction or a whole number and
/// a fraction with at most one unit, a zero below the line, and lengths beyond 50 m.
pub fn read_length(text: &str, default_unit: LengthUnit) -> Result<f64, ReadLengthError> {
    let lower = text.trim().to_lowercase().replace('\u{2212}', "-").replace(['\u{201d}', '\u{2033}'], "\"");
    if lower.is_empty() {
        return Err(ReadLengthError::Empty);
    }
    let (number, unit) = split_unit(&lower);
    let (negative, number) = match number.strip_prefix('-') {
        Some(rest) => (true, rest.trim_start()),
        None => (false, number),
    };
    let parts: Vec<&str> = number.split_whitespace().collect();
    let (amount, has_fraction) = match parts.as_slice() {
        [] => return Err(ReadLengthError::Unexpected { found: text.trim().to_owned() }),
        [one] if one.contains('/') => (fraction(one)?, true),
        [one] => (decimal(one)?, false),
        [whole, over] if over.contains('/') => (integer(whole)? + fraction(over)?, true),
        [_, extra, ..] => return Err(ReadLengthError::Unexpected { found: (*extra).to_owned() }),
    };
    let unit = unit.unwrap_or(if has_fraction { LengthUnit::In } else { default_unit });
    let mm = amount * unit.in_mm() * if negative { -1.0 } else { 1.0 };
    if mm.abs() > LONGEST {
        return Err(ReadLengthError::TooLong { mm });
    }
    Ok(mm)
}

fn split_unit(text: &str) -> (&str, Option<LengthUnit>) {
    let endings = [
        ("mm", LengthUnit::Mm),
        ("inches", LengthUnit::In),
        ("inch", LengthUnit::In),
        ("in", LengthUnit::In),
        ("\"", LengthUnit::In),
    ];
    for (ending, unit) in endings {
        if let Some(rest) = text.strip_suffix(ending) {
            return (rest.trim_end(), Some(unit));
        }
    }
    (text, None)
}

fn unexpected(found: &str) -> ReadLengthError {
    ReadLengthError::Unexpected { found: found.to_owned() }
}

/// Plain digits with at most one point or comma; no exponents, no `NaN`, no `inf`.
fn decimal(text: &str) -> Result<f64, ReadLengthError> {
    let dotted = text.replacen(',', ".", 1);
    let plain = dotted.chars().all(|c| c.is_ascii_digit() || c == '.') && dotted.chars().any(|c| c.is_ascii_digit());
    if plain { dotted.parse().map_err(|_| unexpected(text)) } else { Err(unexpected(text)) }
}

fn integer(text: &str) -> Result<f64, ReadLengthError> {
    if text.chars().all(|c| c.is_ascii_digit()) { decimal(text) } else { Err(unexpected(text)) }
}

fn fraction(text: &str) -> Result<f64, ReadLengthError> {
    let (over, under) = text.split_once('/').ok_or_else(|| unexpected(text))?;
    if over.is_empty() || under.is_empty() {
        return Err(unexpected(text));
    }
    let (over, under) = (integer(over).map_err(|_| unexpected(text))?, integer(under).map_err(|_| unexpected(text))?);
    if under > 0.0 { Ok(over / under) } else { Err(ReadLengthError::ZeroDenominator) }
}

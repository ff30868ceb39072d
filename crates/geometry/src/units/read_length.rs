//! Reading a length as people type it: `86`, `85.7 mm`, `3 3/8`, `1-1/2"`, `2½ in.`, `1'2"`, `10 cm`.

use thiserror::Error;

use super::{LengthUnit, MM_PER_INCH};

/// Why a text is no length.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ReadLengthError {
    /// Nothing was typed.
    #[error("type a length, such as 86, 85.7 mm, 3 3/8 in or 1' 2\"")]
    Empty,
    /// A character or word that has no place in a length.
    #[error("\u{201c}{found}\u{201d} has no place in a length; type it like 86, 85.7 mm, 3 3/8 in or 1' 2\"")]
    Unexpected {
        /// The part that could not be read.
        found: String,
    },
    /// A comma before three digits, which some write for thousands and some for a decimal point.
    #[error(
        "\u{201c}{found}\u{201d} could be thousands or a decimal comma; type it with a point, or without the comma"
    )]
    Ambiguous {
        /// The number.
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

/// The units a length may be typed in, longest ending first, with mm in one of them.
const UNITS: [(&str, f64); 13] = [
    ("inches", MM_PER_INCH),
    ("inch", MM_PER_INCH),
    ("in.", MM_PER_INCH),
    ("in", MM_PER_INCH),
    ("\"", MM_PER_INCH),
    ("feet", FOOT),
    ("foot", FOOT),
    ("ft.", FOOT),
    ("ft", FOOT),
    ("'", FOOT),
    ("mm", 1.0),
    ("cm", 10.0),
    ("m", 1000.0),
];
const FOOT: f64 = 12.0 * MM_PER_INCH;

/// Fractions that have a letter of their own.
const LETTERS: [(char, &str); 12] = [
    ('\u{bd}', "1/2"),
    ('\u{bc}', "1/4"),
    ('\u{be}', "3/4"),
    ('\u{215b}', "1/8"),
    ('\u{215c}', "3/8"),
    ('\u{215d}', "5/8"),
    ('\u{215e}', "7/8"),
    ('\u{2153}', "1/3"),
    ('\u{2154}', "2/3"),
    ('\u{2155}', "1/5"),
    ('\u{2159}', "1/6"),
    ('\u{2150}', "1/7"),
];

/// Reads `text` as a length and gives mm. A number without a unit is in `default_unit`, but a fraction without a unit is
/// inches, and so is what follows feet: nobody has a tape in sixteenths of a millimetre. A leading minus is allowed.
///
/// # Errors
/// [`ReadLengthError`] for an empty text, anything that is not one number, one fraction or a whole number and a fraction
/// with at most one unit, or feet and inches; for a comma before exactly three digits, a zero below the line, and lengths
/// beyond 50 m.
pub fn read_length(text: &str, default_unit: LengthUnit) -> Result<f64, ReadLengthError> {
    let plain = plain(text);
    let (negative, rest) = match plain.strip_prefix('-') {
        Some(rest) => (true, rest.trim_start()),
        None => (false, plain.as_str()),
    };
    if plain.is_empty() {
        return Err(ReadLengthError::Empty);
    }
    let mm = match feet_and_inches(rest) {
        Some((feet, inches)) => {
            let inches = split_unit(inches).map_or(inches, |(number, _)| number);
            amount(feet, text)?.0 * FOOT + amount(inches, text)?.0 * MM_PER_INCH
        }
        None => {
            let (number, unit) = split_unit(rest).map_or((rest, None), |(number, unit)| (number, Some(unit)));
            let (amount, has_fraction) = amount(number, text)?;
            let usual = if has_fraction { MM_PER_INCH } else { default_unit.in_mm() };
            amount * unit.unwrap_or(usual)
        }
    };
    let mm = if negative { -mm } else { mm };
    if mm.abs() > LONGEST {
        return Err(ReadLengthError::TooLong { mm });
    }
    Ok(mm)
}

/// The text in small letters with one sign for each thing: quotes, minus, and fractions written out.
fn plain(text: &str) -> String {
    let mut plain = String::with_capacity(text.len());
    for letter in text.trim().to_lowercase().chars() {
        match (letter, LETTERS.iter().find(|(sign, _)| *sign == letter)) {
            (_, Some((_, fraction))) => {
                plain.push(' ');
                plain.push_str(fraction);
            }
            ('\u{2212}', _) => plain.push('-'),
            ('\u{201d}' | '\u{2033}', _) => plain.push('"'),
            ('\u{2019}' | '\u{2032}', _) => plain.push('\''),
            ('\u{2044}', _) => plain.push('/'),
            ('\u{a0}' | '\u{202f}' | '\u{2009}', _) => plain.push(' '),
            _ => plain.push(letter),
        }
    }
    plain.replace("''", "\"").trim().to_owned()
}

/// The feet and the inches of a text that says both.
fn feet_and_inches(text: &str) -> Option<(&str, &str)> {
    let feet = ["feet", "foot", "ft.", "ft", "'"];
    let (at, ending) = feet.iter().find_map(|ending| Some((text.find(ending)?, *ending)))?;
    let inches = text[at + ending.len()..].trim();
    (!inches.is_empty()).then(|| (text[..at].trim(), inches))
}

/// A number and how many mm its unit is; `None` without a unit.
fn split_unit(text: &str) -> Option<(&str, f64)> {
    UNITS.iter().find_map(|(ending, mm)| Some((text.strip_suffix(ending)?.trim_end(), *mm)))
}

/// A number, a fraction or both, and whether there was a fraction. `whole` is the text it is part of.
fn amount(number: &str, whole: &str) -> Result<(f64, bool), ReadLengthError> {
    let parts: Vec<&str> = number.split_whitespace().collect();
    match parts.as_slice() {
        [] => Err(unexpected(whole.trim())),
        [one] if one.contains('/') => match one.split_once('-') {
            Some((full, over)) => Ok((integer(full)? + fraction(over)?, true)),
            None => Ok((fraction(one)?, true)),
        },
        [one] => Ok((decimal(one)?, false)),
        [full, over] if over.contains('/') => Ok((integer(full)? + fraction(over)?, true)),
        [_, extra, ..] => Err(unexpected(extra)),
    }
}

fn unexpected(found: &str) -> ReadLengthError {
    ReadLengthError::Unexpected { found: found.to_owned() }
}

/// Plain digits with at most one point or comma; no exponents, no `NaN`, no `inf`.
fn decimal(text: &str) -> Result<f64, ReadLengthError> {
    if let Some((_, after)) = text.split_once(',')
        && after.len() == 3
        && after.chars().all(|c| c.is_ascii_digit())
    {
        return Err(ReadLengthError::Ambiguous { found: text.to_owned() });
    }
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

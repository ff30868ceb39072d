//! What is written on the metal of a run.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// The letters a run's pieces are marked with, before their numbers: 1 to 4 capitals and digits, the last a letter, since a
/// digit would run into the number.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, min_length = 1, max_length = 4, pattern = "^[A-Z0-9]{0,3}[A-Z]$")]
pub struct Mark(String);

/// The text is no mark.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[error("a mark is 1 to {} of the letters A to Z and digits, a letter last; it is scratched into metal", Mark::LONGEST)]
pub struct MarkError;

impl Mark {
    /// Most letters.
    pub const LONGEST: usize = 4;

    /// Trims a mark, puts it in capitals and checks it.
    ///
    /// # Errors
    /// [`MarkError`] when it is no mark.
    pub fn new(text: &str) -> Result<Self, MarkError> {
        let text = text.trim().to_ascii_uppercase();
        let plain = text.chars().all(|c| c.is_ascii_uppercase() || c.is_ascii_digit());
        let good = plain && text.len() <= Self::LONGEST && text.ends_with(|c: char| c.is_ascii_uppercase());
        if good { Ok(Self(text)) } else { Err(MarkError) }
    }

    /// The text.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }

    /// A mark for a run of this name that is none of `taken`: the initials of its first words, at most `letters` of them,
    /// else with other last letters.
    #[must_use]
    pub fn proposed(name: &str, letters: usize, taken: &[&Self]) -> Self {
        let initial = |word: &str| word.chars().find(char::is_ascii_alphanumeric);
        let initials: String = name.split_whitespace().filter_map(initial).take(letters).collect();
        let free = |text: &str| Self::new(text).ok().filter(|mark| !taken.contains(&mark));
        let letter = || (b'A'..=b'Z').map(char::from);
        // A digit at the end would run into the piece's number.
        let padded =
            if initials.ends_with(|c: char| c.is_ascii_alphabetic()) { initials } else { format!("{initials}P") };
        let stem = &padded[..padded.len() - 1];
        free(&padded)
            .or_else(|| letter().find_map(|last| free(&format!("{stem}{last}"))))
            .or_else(|| letter().find_map(|first| letter().find_map(|last| free(&format!("{first}{last}")))))
            // More than 676 runs are beyond what a job holds.
            .unwrap_or_else(|| Self("ZZZZ".to_owned()))
    }
}

impl TryFrom<String> for Mark {
    type Error = MarkError;
    fn try_from(text: String) -> Result<Self, MarkError> {
        Self::new(&text)
    }
}

impl From<Mark> for String {
    fn from(mark: Mark) -> Self {
        mark.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_mark_is_what_can_be_scratched_and_told_from_a_number() {
        assert_eq!(Mark::new(" hs ").unwrap().as_str(), "HS");
        for wrong in ["", "H2", "HOSES", "H-S", "\u{dc}", "H S"] {
            assert_eq!(Mark::new(wrong), Err(MarkError), "{wrong}");
        }
    }

    #[test]
    fn one_is_proposed_that_nobody_has() {
        let proposed = |name: &str, taken: &[&str]| {
            let taken: Vec<Mark> = taken.iter().map(|text| Mark::new(text).unwrap()).collect();
            Mark::proposed(name, 2, &taken.iter().collect::<Vec<_>>()).as_str().to_owned()
        };
        assert_eq!(proposed("Hot side charge pipe", &[]), "HS");
        assert_eq!(proposed("Hose, sleeved", &["HS"]), "HA");
        assert_eq!(proposed("1st line 2", &[]), "1L");
        assert_eq!(proposed("\u{5de6}\u{53f3}", &[]), "P");
        assert_eq!(proposed("3", &["3P"]), "3A");
    }
}

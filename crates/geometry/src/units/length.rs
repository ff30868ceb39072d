//! The two length units people saw to.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Millimetres in an inch, exact by definition since 1959.
pub const MM_PER_INCH: f64 = 25.4;

/// The unit a length is typed or shown in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LengthUnit {
    /// Millimetres.
    #[default]
    Mm,
    /// Inches.
    In,
}

impl LengthUnit {
    /// How many millimetres one of this unit is.
    #[must_use]
    pub const fn in_mm(self) -> f64 {
        match self {
            Self::Mm => 1.0,
            Self::In => MM_PER_INCH,
        }
    }

    /// A length in mm as a bare number of this unit: `86.4`, `3.402`.
    #[must_use]
    pub fn figure(self, mm: f64) -> String {
        match self {
            Self::Mm => mm_text(mm),
            Self::In => inch_text(mm),
        }
    }

    /// A length in mm as a sentence says it: `86.4 mm`, `3.402 in`.
    #[must_use]
    pub fn text(self, mm: f64) -> String {
        let name = match self {
            Self::Mm => "mm",
            Self::In => "in",
        };
        format!("{} {name}", self.figure(mm))
    }
}

/// Tenths of a millimetre: what a scriber holds.
pub(super) fn mm_text(mm: f64) -> String {
    // Halves go away from zero, as a reader of 95.25 expects, not to the even digit.
    without_negative_zero(format!("{:.1}", (mm * 10.0).round() / 10.0))
}

/// Thousandths of an inch: what an inch caliper reads.
pub(super) fn inch_text(mm: f64) -> String {
    without_negative_zero(format!("{:.3}", mm / MM_PER_INCH))
}

/// The nearest thirty-second of an inch as a tape shows it: `3 3/8`, `-1/16`, `0`.
pub(super) fn fraction_text(mm: f64) -> String {
    let total = (mm / MM_PER_INCH * 32.0).round();
    let sign = if total < 0.0 { "-" } else { "" };
    let whole = (total.abs() / 32.0).floor();
    let mut over = total.abs() - whole * 32.0;
    let mut under = 32.0;
    while over > 0.0 && over % 2.0 == 0.0 {
        over /= 2.0;
        under /= 2.0;
    }
    match (whole > 0.0, over > 0.0) {
        (_, false) => format!("{sign}{whole}"),
        (false, true) => format!("{sign}{over}/{under}"),
        (true, true) => format!("{sign}{whole} {over}/{under}"),
    }
}

fn without_negative_zero(text: String) -> String {
    match text.strip_prefix('-') {
        Some(rest) if rest.chars().all(|c| matches!(c, '0' | '.')) => rest.to_owned(),
        _ => text,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn fractions_read_like_a_tape() {
        for (mm, want) in [
            (85.725, "3 3/8"),
            (0.0, "0"),
            (-0.2, "0"),
            (25.4, "1"),
            (12.7, "1/2"),
            (-1.5875, "-1/16"),
            (101.6, "4"),
            (50.0, "1 31/32"),
            (0.8, "1/32"),
        ] {
            assert_eq!(fraction_text(mm), want, "{mm}");
        }
    }

    #[test]
    fn a_rounded_away_minus_is_not_shown() {
        assert_eq!(mm_text(-0.04), "0.0");
        assert_eq!(mm_text(-0.06), "-0.1");
        assert_eq!(inch_text(-0.001), "0.000");
    }
}

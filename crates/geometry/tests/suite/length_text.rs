//! Reading lengths as people type them, and reading back what is shown.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use nook_geometry::units::{Gap, LengthUnit, Measure, ReadLengthError, read_length};
use proptest::prelude::*;

#[test]
fn people_type_lengths_in_many_ways() {
    for (text, unit, want) in [
        ("86", LengthUnit::Mm, 86.0),
        ("86 mm", LengthUnit::In, 86.0),
        ("85,7", LengthUnit::Mm, 85.7),
        ("3 3/8", LengthUnit::Mm, 85.725),
        ("3 3/8 in", LengthUnit::Mm, 85.725),
        ("2.5in", LengthUnit::Mm, 63.5),
        ("2 1/2\"", LengthUnit::Mm, 63.5),
        ("7/16", LengthUnit::In, 11.1125),
        ("-12.5", LengthUnit::Mm, -12.5),
        (" 1 INCH ", LengthUnit::Mm, 25.4),
        ("2", LengthUnit::In, 50.8),
        ("1'2\"", LengthUnit::Mm, 355.6),
        ("1\u{2032} 2 1/2\u{2033}", LengthUnit::Mm, 368.3),
        ("1' 2", LengthUnit::Mm, 355.6),
        ("2 ft", LengthUnit::Mm, 609.6),
        ("2 feet 3 in.", LengthUnit::Mm, 685.8),
        ("-1 ft 6 in", LengthUnit::Mm, -457.2),
        ("\u{bd}", LengthUnit::Mm, 12.7),
        ("2\u{bd} in", LengthUnit::Mm, 63.5),
        ("3\u{215d}\"", LengthUnit::Mm, 92.075),
        ("1-1/2", LengthUnit::Mm, 38.1),
        ("1-1/2\"", LengthUnit::Mm, 38.1),
        ("10 cm", LengthUnit::Mm, 100.0),
        ("1.2 m", LengthUnit::In, 1200.0),
        ("2.5 in.", LengthUnit::Mm, 63.5),
        ("12 5/32", LengthUnit::In, 308.76875),
        ("1234,5", LengthUnit::Mm, 1234.5),
        ("85,7250", LengthUnit::Mm, 85.725),
    ] {
        let got = read_length(text, unit).unwrap_or_else(|e| panic!("{text}: {e}"));
        assert!((got - want).abs() < 1e-9, "{text}: {got}");
    }
}

#[test]
fn what_is_no_length_is_refused_with_its_reason() {
    assert_eq!(read_length("  ", LengthUnit::Mm), Err(ReadLengthError::Empty));
    assert_eq!(read_length("3/0", LengthUnit::Mm), Err(ReadLengthError::ZeroDenominator));
    assert!(matches!(read_length("1e9", LengthUnit::Mm), Err(ReadLengthError::Unexpected { .. })));
    assert!(matches!(read_length("99999999", LengthUnit::Mm), Err(ReadLengthError::TooLong { .. })));
    for text in [
        "3//8", "NaN", "inf", "1.2.3", "3 3", "3 / 8", "3 3/8 3", "mm", "-", "--3", "3/8/2", "1.5/2", "12 km",
        "1' 2' 3", "1-2-3/4", "ft", "1/2-1",
    ] {
        let error = read_length(text, LengthUnit::Mm).expect_err(text);
        assert!(matches!(error, ReadLengthError::Unexpected { .. }), "{text}: {error}");
    }
}

#[test]
fn a_comma_before_three_digits_is_not_guessed_at() {
    for text in ["1,234", "85,725 mm", "0,125 in", "-2,000"] {
        let error = read_length(text, LengthUnit::Mm).expect_err(text);
        assert!(matches!(error, ReadLengthError::Ambiguous { .. }), "{text}: {error}");
        assert!(error.to_string().contains("thousands or a decimal comma"));
    }
}

proptest! {
    #[test]
    fn what_is_shown_reads_back_to_its_rounding(mm in -40_000.0..40_000.0_f64) {
        let shown = serde_json::to_value(Measure(mm)).unwrap();
        let text = |name: &str| shown[name].as_str().unwrap().to_owned();
        prop_assert!((read_length(&text("mm_text"), LengthUnit::Mm).unwrap() - mm).abs() <= 0.05 + 1e-9);
        prop_assert!((read_length(&text("inch_text"), LengthUnit::In).unwrap() - mm).abs() <= 0.0127 + 1e-9);
        prop_assert!((read_length(&text("fraction"), LengthUnit::In).unwrap() - mm).abs() <= 25.4 / 64.0 + 1e-9);
    }

    #[test]
    fn reading_never_panics(text in "\\PC{0,24}") {
        let _ = read_length(&text, LengthUnit::In);
    }
}

/// A typed field needs no round trip of its own: wherever a length is, its text is read.
#[test]
fn a_length_is_read_from_a_number_or_from_a_text() {
    let gap = |json: &str| serde_json::from_str::<Gap>(json);
    for (json, mm) in [("12", 12.0), ("12.5", 12.5), ("\"12.5\"", 12.5), ("\"1 1/2 in\"", 38.1), ("\"1.5 cm\"", 15.0)] {
        assert!((gap(json).unwrap().get() - mm).abs() < 1e-9, "{json}");
    }
    for (json, says) in [
        ("\"wide\"", "has no place in a length"),
        ("\"9 in\"", "between 0 and 150 mm; 228.6"),
        ("true", "a length"),
        ("\"\"", "type a length"),
        ("-1", "-1 is outside"),
    ] {
        let refused = gap(json).unwrap_err().to_string();
        assert!(refused.contains(says), "{json}: {refused}");
    }
    assert_eq!(serde_json::to_string(&gap("\"1 in\"").unwrap()).unwrap(), "25.4");
}

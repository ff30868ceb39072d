//! What a field on the screen can take from an instrument.

use nook_core::record::FitReading;
use nook_devices::Kind;
use nook_geometry::units::{Coordinate, Girth, HeadingAngle, OutOfRange, OutsideDiameter, PitchAngle, TapeLength};
use serde::de::IntoDeserializer;
use serde::de::value::{Error, StrDeserializer};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The sort of figure a field takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum Field {
    /// A tape between two points.
    Tape,
    /// Along one axis from a point.
    Offset,
    /// A heading.
    Heading,
    /// A pitch.
    Pitch,
    /// An outside diameter.
    Caliper,
    /// A strip round the outside.
    Girth,
    /// A gap between a tube's end and its mouth, or at a seam.
    Gap,
    /// How far a tube's outside stands beyond that of its mouth.
    Step,
    /// The pressure in a pipe under test, with time and temperature beside it.
    Pressure,
}

impl Field {
    /// The field of a name, such as `offset`.
    pub(crate) fn of_word(word: &str) -> Option<Self> {
        let word: StrDeserializer<'_, Error> = word.into_deserializer();
        Self::deserialize(word).ok()
    }

    /// The instrument whose readings it takes, and which of its figures.
    pub(crate) const fn takes(self) -> (Kind, usize) {
        match self {
            Self::Tape | Self::Offset | Self::Girth => (Kind::Tape, 0),
            Self::Heading => (Kind::Gauge, 0),
            Self::Pitch => (Kind::Gauge, 1),
            Self::Caliper => (Kind::Caliper, 0),
            Self::Gap => (Kind::Feeler, 0),
            Self::Step => (Kind::Depth, 0),
            Self::Pressure => (Kind::Manometer, 1),
        }
    }

    const fn word(self) -> &'static str {
        match self {
            Self::Tape => "a tape reading",
            Self::Offset => "a distance along an axis",
            Self::Heading => "a heading",
            Self::Pitch => "a pitch",
            Self::Caliper => "an outside diameter",
            Self::Girth => "a girth",
            Self::Gap => "a gap",
            Self::Step => "a step",
            Self::Pressure => "a pressure",
        }
    }

    /// The figure for this field, in mm or degrees.
    ///
    /// # Errors
    /// Why the reading is impossible here: another instrument's, or out of the quantity's range.
    pub(crate) fn take(self, kind: Kind, figures: &[f64]) -> Result<f64, String> {
        let (wanted, at) = self.takes();
        if kind != wanted {
            return Err(format!(
                "the {} was pressed, but this field takes {} from the {}",
                kind.word(),
                self.word(),
                wanted.word()
            ));
        }
        let figure = figures.get(at).copied().unwrap_or(f64::NAN);
        self.check(figure).map(|()| figure)
    }

    fn check(self, figure: f64) -> Result<(), String> {
        let most = FitReading::MOST_OFF;
        let checked: Result<(), OutOfRange> = match self {
            Self::Gap | Self::Step => {
                let fits = figure.abs() <= most;
                return fits
                    .then_some(())
                    .ok_or_else(|| format!("{} must lie between -{most} and {most}, not {figure}", self.word()));
            }
            Self::Pressure => {
                let fits = (-1.0..=60.0).contains(&figure);
                return fits
                    .then_some(())
                    .ok_or_else(|| format!("a pressure must lie between -1 and 60 bar, not {figure}"));
            }
            Self::Tape => TapeLength::new(figure).map(drop),
            Self::Offset => Coordinate::new(figure).map(drop),
            Self::Heading => HeadingAngle::new(figure).map(drop),
            Self::Pitch => PitchAngle::new(figure).map(drop),
            Self::Caliper => OutsideDiameter::new(figure).map(drop),
            Self::Girth => Girth::new(figure).map(drop),
        };
        checked.map_err(|error| error.to_string())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_field_takes_its_own_instrument_within_its_range_and_says_why_not() {
        assert_eq!(Field::Tape.take(Kind::Tape, &[523.4]), Ok(523.4));
        assert_eq!(Field::Pitch.take(Kind::Gauge, &[120.0, -12.5, 3.0]), Ok(-12.5));
        let why = Field::Pitch.take(Kind::Tape, &[523.4]).unwrap_err();
        assert_eq!(why, "the tape was pressed, but this field takes a pitch from the gauge");
        let why = Field::Pitch.take(Kind::Gauge, &[0.0, 97.0, 0.0]).unwrap_err();
        assert!(why.contains("between -90 and 90"), "{why}");
        assert_eq!(Field::Step.take(Kind::Depth, &[-1.2]), Ok(-1.2));
        assert_eq!(Field::Gap.take(Kind::Feeler, &[3.4]), Ok(3.4));
        assert!(Field::Gap.take(Kind::Depth, &[3.4]).unwrap_err().contains("takes a gap from the feeler"));
        assert!(Field::Step.take(Kind::Depth, &[250.0]).unwrap_err().contains("between -200 and 200"));
        assert_eq!(Field::Pressure.take(Kind::Manometer, &[12.0, 1.49, 20.1]), Ok(1.49));
        assert!(
            Field::Pressure.take(Kind::Manometer, &[12.0, 99.0, 20.1]).unwrap_err().contains("between -1 and 60 bar")
        );
        assert!(Field::Caliper.take(Kind::Caliper, &[1.2]).unwrap_err().contains("between 3 and 300"));
    }
}

//! A length on its way out: the number, and how each unit shows it.

use serde::{Serialize, Serializer, ser::SerializeStruct};
use utoipa::ToSchema;

use super::LengthUnit;
use super::length::{fraction_text, inch_text, mm_text};

/// A worked-out length in mm. It serialises with its texts in both units, so that no reader rounds it anew.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct Measure(pub f64);

impl Measure {
    /// The length in mm.
    #[must_use]
    pub const fn mm(self) -> f64 {
        self.0
    }
}

impl Serialize for Measure {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut out = serializer.serialize_struct("Measure", 4)?;
        out.serialize_field("mm", &self.0)?;
        out.serialize_field("mm_text", &mm_text(self.0))?;
        out.serialize_field("inch_text", &inch_text(self.0))?;
        out.serialize_field("fraction", &fraction_text(self.0))?;
        out.end()
    }
}

/// The published shape of [`Measure`].
#[derive(ToSchema)]
#[schema(as = Measure)]
#[expect(dead_code, reason = "only its schema is used")]
struct MeasureShape {
    /// Millimetres, unrounded.
    mm: f64,
    /// To a tenth of a millimetre.
    mm_text: String,
    /// To a thousandth of an inch.
    inch_text: String,
    /// The nearest thirty-second of an inch, as a fraction.
    fraction: String,
}

impl utoipa::PartialSchema for Measure {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        MeasureShape::schema()
    }
}

impl ToSchema for Measure {
    fn name() -> std::borrow::Cow<'static, str> {
        "Measure".into()
    }
}

/// A text with its first letter as a sentence begins.
pub fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().into_iter().flat_map(char::to_uppercase).chain(letters).collect()
}

/// A sentence that mentions lengths, in both units.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct DualUnitText {
    /// With lengths in mm.
    pub mm: String,
    /// With lengths in inches.
    pub inch: String,
}

impl DualUnitText {
    /// Builds both sentences from one wording.
    pub fn new(say: impl Fn(LengthUnit) -> String) -> Self {
        Self { mm: say(LengthUnit::Mm), inch: say(LengthUnit::In) }
    }

    /// A sentence without a length in it.
    #[must_use]
    pub fn same(said: String) -> Self {
        Self { mm: said.clone(), inch: said }
    }

    /// The sentence in `unit`.
    #[must_use]
    pub fn get(&self, unit: LengthUnit) -> &str {
        match unit {
            LengthUnit::Mm => &self.mm,
            LengthUnit::In => &self.inch,
        }
    }
}

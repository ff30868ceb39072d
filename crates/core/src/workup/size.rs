//! What a diameter is called, for the screen.

use serde::Serialize;
use utoipa::ToSchema;

use crate::join::SizeMatch;
use crate::stock::{Nominal, SizeGuess, name_bore, name_size};
use nook_geometry::units::DualUnitText;

/// What a diameter is called, and what it must not be mixed up with.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SizeWorkup {
    /// The likely nominal size: `63.4 mm: 2 1/2 in tube, 63.5 mm`.
    pub likely: Option<DualUnitText>,
    /// Sizes it is easily mistaken for, and what comes of it; nothing where there are none.
    pub beware: Option<DualUnitText>,
    /// What the bore is called; nothing where it was not measured.
    pub bore: Option<DualUnitText>,
}

impl SizeWorkup {
    /// Names an outside diameter and a bore, in mm.
    pub(super) fn of(od: f64, bore: Option<f64>) -> Self {
        let SizeGuess { likely, twins, namesake } = name_size(od);
        let said = likely
            .as_ref()
            .map(|size| DualUnitText::new(|unit| format!("{}: {}, {}", unit.text(od), size.name, unit.text(size.od))));
        // The three nearest say it; a list of five is read by nobody.
        let others: Vec<_> = twins.into_iter().take(3).chain(namesake).collect();
        let beware = (!others.is_empty()).then(|| traps(likely.as_ref(), &others));
        let bore = bore.and_then(|bore| {
            let names: Vec<String> = name_bore(bore).into_iter().map(|size| size.name).collect();
            (!names.is_empty())
                .then(|| DualUnitText::new(|unit| format!("Bore {}: {}", unit.text(bore), names.join(", "))))
        });
        Self { likely: said, beware, bore }
    }
}

/// The sizes a likely one is taken for, by what comes of taking one for the other.
fn traps(likely: Option<&Nominal>, others: &[Nominal]) -> DualUnitText {
    DualUnitText::new(|unit| {
        let each = others.iter().map(|size| {
            let off = likely.map(|likely| SizeMatch::of(size.od, likely.od).consequence());
            let off = off.map_or_else(String::new, |word| format!(" ({word})"));
            format!("{}, {}{off}", size.name, unit.text(size.od))
        });
        format!("Not to be taken for {}.", each.collect::<Vec<_>>().join("; or "))
    })
}

//! A bought elbow as it is marked and sawn for its bend.

use serde::Serialize;
use utoipa::ToSchema;

use crate::cut::ElbowCut;
use crate::measure::End;
use crate::route::{ElbowMake, StockElbow};
use nook_geometry::Arc;
use nook_geometry::units::{DualUnitText, Measure};

/// A bend made of a bought elbow.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StockElbowWorkup {
    /// Its centre-line radius.
    pub radius: Measure,
    /// How far it turns as it was bought, in degrees.
    pub angle: f64,
    /// Its legs as they were bought, the one towards A first.
    #[schema(min_items = 2, max_items = 2)]
    pub legs: [Measure; 2],
    /// What is used of them.
    #[schema(min_items = 2, max_items = 2)]
    pub used: [Measure; 2],
    /// Where it is sawn in its arc; nothing where it is whole.
    pub trim: Option<TrimWorkup>,
    /// What is done to it, in order.
    pub acts: Vec<DualUnitText>,
}

/// Marks of a cut through an elbow's arc, along its outside from the tangent line of the leg that stays.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TrimWorkup {
    /// The end of the pipe towards which it is sawn.
    pub end: End,
    /// Along the inside of the bend.
    pub throat: Measure,
    /// Along the centre line, on either side.
    pub centre: Measure,
    /// Along the outside.
    pub back: Measure,
    /// Degrees of its arc that are left over beyond the kerf.
    pub left_over: f64,
}

/// Legs that are longer by less than this, in mm, are not sawn: the fit takes it.
const AS_LONG: f64 = 0.05;

impl StockElbowWorkup {
    /// Of a bend along an arc of tube of `od` mm, sawn with a kerf of so many mm.
    pub(super) fn of(elbow: &ElbowMake, arc: &Arc, od: f64, kerf: f64) -> Self {
        let StockElbow { radius, angle, legs } = elbow.stock;
        let stock = angle.get().to_radians();
        // One that is too small is told as a finding and marked nowhere.
        let marks =
            elbow.trimmed.and_then(|end| Some((end, ElbowCut::new(od, radius.get(), stock, arc.angle, kerf).ok()?)));
        let trim = marks.map(|(end, cut)| TrimWorkup {
            end,
            throat: Measure(cut.throat),
            centre: Measure(cut.centre),
            back: Measure(cut.back),
            left_over: cut.left_over.to_degrees(),
        });
        let mut told = Self {
            radius: Measure(radius.get()),
            angle: angle.get(),
            legs: legs.map(|leg| Measure(leg.get())),
            used: elbow.legs.map(Measure),
            trim,
            acts: Vec::new(),
        };
        told.acts = told.acts();
        told
    }

    fn acts(&self) -> Vec<DualUnitText> {
        let letter = |end: End| if end == End::A { 'A' } else { 'B' };
        let mut acts = Vec::new();
        if let Some(trim) = &self.trim {
            let (end, other) = (letter(trim.end), letter(trim.end.other()));
            acts.push(DualUnitText::new(|unit| {
                let [throat, centre, back] = [&trim.throat, &trim.centre, &trim.back].map(|mark| unit.text(mark.mm()));
                format!(
                    "Mark from the tangent line of the leg towards {other}: throat {throat}, both sides {centre}, back {back}. Tape \
                     through the four marks and saw along it, square to the curve; the sawn end looks to {end}."
                )
            }));
            acts.push(DualUnitText::same(
                "Measure the sawn end across two ways: cut in its arc it is no longer round. Press it round before it is tacked."
                    .to_owned(),
            ));
        }
        for end in [End::A, End::B] {
            let side = usize::from(end == End::B);
            let (have, used) = (self.legs[side].mm(), self.used[side].mm());
            if self.trim.as_ref().is_some_and(|trim| trim.end == end) || have - used < AS_LONG {
                continue;
            }
            acts.push(DualUnitText::new(|unit| {
                let at = if used > 0.0 {
                    format!("{} from its tangent line", unit.text(used))
                } else {
                    "at its tangent line".to_owned()
                };
                format!("Saw the leg towards {} square, {at}.", letter(end))
            }));
        }
        if acts.is_empty() {
            acts.push(DualUnitText::same("Nothing is sawn of it.".to_owned()));
        }
        acts
    }
}

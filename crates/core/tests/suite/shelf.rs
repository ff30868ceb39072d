//! The workshop's shelf: what is put on it is there until it is taken off, and what cannot be is refused.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::Workshop;
use nook_core::route::StockElbow;
use nook_core::stock::{HoseBuild, Material, Tube};
use nook_core::workshop::{ElbowId, OnSaleId, StickId, WorkshopEdit, WorkshopError};
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg, Price, StickLength};
use proptest::prelude::*;
use serde_json::json;

use crate::support::tube;

fn length(mm: f64) -> StickLength {
    StickLength::new(mm).unwrap()
}

fn elbow(radius: f64, angle: f64, leg: f64) -> StockElbow {
    let legs = [ElbowLeg::new(leg).unwrap(), ElbowLeg::new(leg / 2.0).unwrap()];
    StockElbow { radius: BendRadius::new(radius).unwrap(), angle: ElbowAngle::new(angle).unwrap(), legs }
}

fn any_elbow() -> impl Strategy<Value = StockElbow> {
    (40.0..200.0_f64, 10.0..180.0_f64, 0.0..200.0_f64).prop_map(|(radius, angle, leg)| elbow(radius, angle, leg))
}

fn any_shelf_edit() -> impl Strategy<Value = WorkshopEdit> {
    let mm = || (10.0..6000.0_f64).prop_map(length);
    let any_tube = || prop_oneof![Just(tube(63.5, 2.0)), Just(tube(38.1, 1.5))];
    let price = (0.0..900.0_f64).prop_map(|price| Price::new(price).unwrap());
    prop_oneof![
        4 => (any_tube(), mm()).prop_map(|(tube, length)| WorkshopEdit::AddStick { tube, length }),
        2 => (1..30_u32, mm()).prop_map(|(id, length)| WorkshopEdit::SetStick { stick: StickId(id), length }),
        2 => (1..30_u32).prop_map(|id| WorkshopEdit::RemoveStick { stick: StickId(id) }),
        2 => (any_tube(), mm(), price).prop_map(|(tube, length, price)| WorkshopEdit::AddOnSale { tube, length, price }),
        2 => (any_tube(), any_elbow()).prop_map(|(tube, elbow)| WorkshopEdit::AddElbow { tube, elbow }),
        1 => (1..30_u32).prop_map(|id| WorkshopEdit::RemoveElbow { elbow: ElbowId(id) }),
        1 => (any_tube(), any_elbow(), 0.0..90.0_f64).prop_map(|(tube, elbow, price)| {
            WorkshopEdit::AddElbowOnSale { tube, elbow, price: Price::new(price).unwrap() }
        }),
        1 => (1..30_u32).prop_map(|id| WorkshopEdit::RemoveOnSale { on_sale: OnSaleId(id) }),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Whatever is done to it, it is read as it was written, and no number is given twice.
    #[test]
    fn a_shelf_is_read_as_it_was_written(edits in prop::collection::vec(any_shelf_edit(), 0..30)) {
        let mut workshop = Workshop::default();
        let mut given = Vec::new();
        for edit in &edits {
            let count = workshop.sticks().len();
            match workshop.apply(edit) {
                Ok(next) => {
                    if let (WorkshopEdit::AddStick { .. }, Some(stick)) = (edit, next.sticks().last()) {
                        prop_assert!(!given.contains(&stick.id), "a number is written on metal once");
                        given.push(stick.id);
                    }
                    workshop = next;
                }
                Err(
                    WorkshopError::NoSuchStick { .. }
                    | WorkshopError::NotOnSale { .. }
                    | WorkshopError::NoSuchElbow { .. },
                ) => {
                    prop_assert_eq!(workshop.sticks().len(), count);
                }
                Err(other) => prop_assert!(false, "{other}"),
            }
        }
        let text = serde_json::to_string(&workshop).unwrap();
        prop_assert_eq!(serde_json::from_str::<Workshop>(&text).unwrap(), workshop);
    }
}

/// Until version 2 a workshop had no shelf.
#[test]
fn a_workshop_of_version_1_is_read_with_an_empty_shelf() {
    let old = json!({ "saws": [{ "id": 1, "name": "Cold saw", "kerf": 2.0 }], "saw": 1, "next_id": 2 });
    let workshop: Workshop = serde_json::from_value(old).unwrap();
    assert!(workshop.sticks().is_empty() && workshop.on_sale().is_empty() && workshop.saws().len() == 1);
}

#[test]
fn what_cannot_be_on_a_shelf_is_refused() {
    let narrow = WorkshopEdit::AddElbow { tube: tube(63.5, 2.0), elbow: elbow(31.0, 90.0, 50.0) };
    assert!(matches!(Workshop::default().apply(&narrow), Err(WorkshopError::NoThroat { .. })));
    let empty = Workshop::default();
    let hose: Tube = HoseBuild::Corrugated.tube(Material::Silicone, 30.0).unwrap();
    let refused = empty.apply(&WorkshopEdit::AddStick { tube: hose, length: length(500.0) }).unwrap_err();
    assert!(matches!(refused, WorkshopError::NotTube { .. }) && refused.to_string().contains("hose"));
    let mut full = empty;
    let add = WorkshopEdit::AddStick { tube: tube(63.5, 2.0), length: length(500.0) };
    for _ in 0..Workshop::MOST_STICKS {
        full = full.apply(&add).unwrap();
    }
    assert!(matches!(full.apply(&add), Err(WorkshopError::TooMany { count, most, .. }) if count == most + 1));
    // One that names a number twice, or one that was never given, is no workshop.
    let stick = |id: u32| json!({ "id": id, "tube": { "material": "stainless304l", "od": 63.5, "wall": 2.0 }, "length": 500.0 });
    for sticks in [json!([stick(3), stick(3)]), json!([stick(9)]), json!([stick(1)])] {
        let file =
            json!({ "saws": [{ "id": 1, "name": "Cold saw", "kerf": 2.0 }], "saw": 1, "sticks": sticks, "next_id": 5 });
        assert!(serde_json::from_value::<Workshop>(file).is_err());
    }
}

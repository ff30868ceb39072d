//! Edits of components, openings and how the car stands.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::edit::ComponentChange;
use nook_core::measure::{
    BoxFace, Bracket, BracketStock, Breathing, ComponentDesign, ComponentId, DesignPort, EndForm, Foot, FootPlace,
    Freedom, HandRoom, Holding, InstallState, KeepOutId, MountId, MountPoint, OpeningId, PlacingWishes, Stance,
    TurnRange,
};
use nook_core::stock::Material;
use nook_core::{Edit, PlaceEdit};
use nook_geometry::Point;
use nook_geometry::units::{
    BoltSize, Gap, Mass, MountHeight, Name, OutsideDiameter, SheetThickness, Slide, StripWidth, TurnAngle,
};
use proptest::prelude::*;

use super::{any_direction, any_point, any_port_ref};

fn turn(degrees: f64) -> TurnAngle {
    TurnAngle::new(degrees).unwrap()
}

pub fn any_range() -> impl Strategy<Value = TurnRange> {
    prop_oneof![
        (0.0..60.0_f64, 0.0..60.0_f64).prop_map(|(back, on)| TurnRange::Freely { from: turn(-back), to: turn(on) }),
        (5.0..90.0_f64, 0..3_u8, 0..3_u8).prop_map(|(step, back, on)| TurnRange::Steps { step: turn(step), back, on }),
    ]
}

/// A turn or a slide, set anywhere in its range.
pub fn any_freedom() -> impl Strategy<Value = Freedom> {
    let turns =
        (any_point(600.0), any_direction(), any_range(), 0.0..1.0_f64).prop_map(|(pivot, axis, range, share)| {
            let free = Freedom::Turn { pivot, axis, range, turned: turn(0.0) };
            let [least, most] = free.limits();
            free.set(free.nearest(least + (most - least) * share)).unwrap()
        });
    let slides =
        (any_direction(), 0.0..200.0_f64, 0.0..200.0_f64, 0.0..1.0_f64).prop_map(|(along, back, on, share)| {
            let slide = |mm| Slide::new(mm).unwrap();
            Freedom::Slide { along, from: slide(-back), to: slide(on), slid: slide((back + on) * share - back) }
        });
    prop_oneof![turns, slides]
}

/// A name without two blanks in a row, which would look like a name that is missing.
fn any_name() -> impl Strategy<Value = Name> {
    "[a-z]{1,9}( [a-z]{1,9})?".prop_map(|text| Name::new(&text).unwrap())
}

fn any_mount() -> impl Strategy<Value = MountPoint> {
    let bracket = (any_point(700.0), any_direction(), any::<bool>()).prop_map(|(at, out, second)| {
        let sheet = |mm| SheetThickness::new(mm).unwrap();
        let stock =
            BracketStock::Strip { width: StripWidth::new(25.0).unwrap(), thickness: sheet(3.0), radius: sheet(3.0) };
        let foot = Foot { at: FootPlace::Drilled { at }, out, bolt: BoltSize::new(8.0).unwrap() };
        Holding::Bracket {
            bracket: Bracket { foot, stock, material: Material::MildSteel, second_bolt: [second, false] },
        }
    });
    let held = prop_oneof![Just(None), Just(Some(Holding::Car)), bracket.prop_map(Some)];
    (1..12_u32, any_name(), any_point(700.0), any_direction(), held).prop_map(|(id, name, at, out, held)| MountPoint {
        id: MountId(id),
        name,
        at,
        out,
        bolt: BoltSize::new(6.0).unwrap(),
        boss: None,
        rubber: None,
        held,
    })
}

fn any_component_change() -> impl Strategy<Value = ComponentChange> {
    let keep_outs = prop::collection::vec((1..12_u32).prop_map(KeepOutId), 0..3);
    let face = prop::sample::select(vec![BoxFace::Front, BoxFace::Back, BoxFace::Left, BoxFace::Top]);
    let breathing = ((1..12_u32).prop_map(KeepOutId), face.clone(), prop::option::of((1..12_u32).prop_map(OpeningId)))
        .prop_map(|(body, face, through)| Breathing { body, face, through });
    let wishes = ((1..12_u32).prop_map(KeepOutId), face, 0.0..80.0_f64).prop_map(|(body, face, mm)| PlacingWishes {
        centred: Gap::new(mm).ok(),
        hand: Some(HandRoom { body, face, depth: None }),
        ..PlacingWishes::default()
    });
    prop_oneof![
        any_name().prop_map(|name| ComponentChange::Name { name }),
        (keep_outs, prop::collection::vec(any_port_ref(), 0..3))
            .prop_map(|(body, ports)| ComponentChange::Parts { body, ports }),
        prop::collection::vec(any_freedom(), 0..4).prop_map(|freedoms| ComponentChange::Freedoms { freedoms }),
        prop::option::of((0.0..60.0_f64).prop_map(|mm| MountHeight::new(mm).unwrap()))
            .prop_map(|raised| ComponentChange::Raised { raised }),
        Just(ComponentChange::Standing { standing: InstallState::OnOrder }),
        (0.1..40.0_f64).prop_map(|kg| ComponentChange::Mass { mass: Mass::new(kg).ok() }),
        prop::option::of(breathing).prop_map(|breathing| ComponentChange::Breathing { breathing }),
        wishes.prop_map(|wishes| ComponentChange::Wishes { wishes }),
        prop::option::of(any_name()).prop_map(|note| ComponentChange::Note { note }),
    ]
}

fn any_design() -> impl Strategy<Value = ComponentDesign> {
    let port = (prop::array::uniform3(-300.0..300.0_f64), any_direction(), 20.0..80.0_f64)
        .prop_map(|(at, out, od)| DesignPort { at, out, od: OutsideDiameter::new(od).unwrap(), form: EndForm::Beaded });
    (any_name(), prop::array::uniform3(20.0..500.0_f64), prop::collection::vec(port, 0..3)).prop_map(
        |(name, size, ports)| ComponentDesign { name, size, mass: None, ports, mounts: Vec::new(), note: None },
    )
}

/// Any edit of what stands where as a whole.
pub fn any_place_edit() -> impl Strategy<Value = Edit> {
    let component = || (1..12_u32).prop_map(ComponentId);
    let keep_outs = prop::collection::vec((1..12_u32).prop_map(KeepOutId), 0..3);
    let outline = || prop::collection::vec(any_point(600.0), 3..5);
    let stance = (200.0..900.0_f64, 1000.0..3000.0_f64).prop_map(|(front, base)| Stance {
        front: Point::new(front, 0.0, -430.0).unwrap(),
        rear: Point::new(front - base, 0.0, -430.0).unwrap(),
        travel: None,
        ramp: None,
    });
    let pair = || (1..12_u32, 1..12_u32).prop_map(|(one, other)| [KeepOutId(one), KeepOutId(other)]);
    prop_oneof![
        4 => (any_name(), keep_outs, prop::collection::vec(any_port_ref(), 0..2), prop::collection::vec(any_freedom(), 0..3))
            .prop_map(|(name, body, ports, freedoms)| PlaceEdit::AddComponent { name, body, ports, freedoms }),
        4 => (component(), any_component_change()).prop_map(|(component, to)| PlaceEdit::ChangeComponent { component, to }),
        3 => (component(), 0..3_usize, -40.0..40.0_f64)
            .prop_map(|(component, freedom, to)| PlaceEdit::SetFreedom { component, freedom, to }),
        2 => (component(), any_point(600.0)).prop_map(|(component, to)| PlaceEdit::MoveComponent { component, to }),
        1 => (component(), any_name(), any_point(300.0), any::<bool>())
            .prop_map(|(component, name, by, mirrored)| PlaceEdit::CopyComponent { component, name, by, mirrored }),
        1 => (component(), any_design()).prop_map(|(component, with)| PlaceEdit::SwapComponent { component, with }),
        1 => component().prop_map(|component| PlaceEdit::RemoveComponent { component }),
        2 => (component(), any_mount()).prop_map(|(component, mount)| PlaceEdit::AddMount { component, mount }),
        1 => (component(), any_mount()).prop_map(|(component, mount)| PlaceEdit::SetMount { component, mount }),
        1 => (component(), (1..12_u32).prop_map(MountId))
            .prop_map(|(component, mount)| PlaceEdit::RemoveMount { component, mount }),
        1 => (any_name(), outline()).prop_map(|(name, outline)| PlaceEdit::AddOpening { name, outline }),
        1 => ((1..12_u32).prop_map(OpeningId), any_name(), outline())
            .prop_map(|(opening, name, outline)| PlaceEdit::SetOpening { opening, name, outline }),
        1 => (1..12_u32).prop_map(|id| PlaceEdit::RemoveOpening { opening: OpeningId(id) }),
        1 => prop::option::of(stance).prop_map(|stance| PlaceEdit::SetStance { stance }),
        1 => prop::collection::vec(pair(), 0..3).prop_map(|pairs| PlaceEdit::BelongTogether { pairs }),
        1 => pair().prop_map(|pair| PlaceEdit::StandApart { pair }),
    ]
    .prop_map(Edit::Place)
}

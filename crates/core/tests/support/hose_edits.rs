//! Random edits that build pipes of hose, and drain them.

use nook_core::measure::End;
use nook_core::stock::{Dash, FittingAngle, HoseBuild, HoseFitting, Material};
use nook_core::{Edit, RunId, SpecEdit};
use nook_geometry::units::{OutsideDiameter, Rotation};
use proptest::prelude::*;

fn any_fitting() -> impl Strategy<Value = HoseFitting> {
    let angle = prop::sample::select(FittingAngle::ALL.to_vec());
    (angle, prop::option::of(-180.0..180.0_f64), any::<bool>()).prop_map(|(angle, clock, swivels)| HoseFitting {
        angle,
        clock: clock.map(|clock| Rotation::new(clock).unwrap()),
        swivels,
    })
}

fn any_hose() -> impl Strategy<Value = HoseBuild> {
    let threaded = (prop::sample::select(Dash::ALL.to_vec()), [any_fitting(), any_fitting()])
        .prop_map(|(dash, fittings)| HoseBuild::Threaded { dash, fittings });
    prop_oneof![
        2 => threaded,
        2 => any::<bool>().prop_map(|inserts| HoseBuild::Moulded { inserts }),
        1 => Just(HoseBuild::Corrugated),
    ]
}

pub fn any_hose_edit() -> impl Strategy<Value = Edit> {
    let run = || (1..4_u32).prop_map(RunId);
    let material = prop::option::of(prop::sample::select(Material::HOSES.to_vec()));
    let bore = prop::option::of((10.0..100.0_f64).prop_map(|bore| OutsideDiameter::new(bore).unwrap()));
    prop_oneof![
        3 => (run(), any_hose(), material, bore)
            .prop_map(|(run, hose, material, bore)| SpecEdit::SetHose { run, hose, material, bore }.into()),
        1 => (run(), prop::option::of(prop_oneof![Just(End::A), Just(End::B)]))
            .prop_map(|(run, to)| SpecEdit::SetDrains { run, to }.into()),
    ]
}

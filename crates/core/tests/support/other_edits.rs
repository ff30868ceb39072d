//! Edits of what is not a pipe's shape: names, sizes, what is measured with, what turns and what is in the way.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "each value is within its bounds")]

use nook_core::RunId;
use nook_core::edit::KeepOutChange;
use nook_core::flow::{FlowAmount, FlowGiven};
use nook_core::measure::{
    CrankTurn, DatumId, InstallState, InstrumentChecks, KeepOutId, KeepOutKind, KeepOutShape, MountKind, Mounts,
    Reading, Side, Swing, Taken, TapeCheck, TiltCheck,
};
use nook_core::route::{BendId, Centreline, LegId, Mark, Route, Stretch};
use nook_core::stock::Duty;
use nook_core::{Edit, JobEdit, MeasureEdit, RouteEdit, SpecEdit};
use nook_geometry::units::{
    AirMassFlow, CoolantFlow, Gap, Insulation, Lead, Name, PitchAngle, Power, Pressure, Roll, Shift, Spread,
    TapeLength, Temperature, TurnAngle,
};
use proptest::prelude::*;

use super::{any_direction, any_end, any_point, any_port, any_subject, any_taken};

fn any_name() -> impl Strategy<Value = Name> {
    "[A-Za-z][a-z0-9]{0,9}( [a-z0-9]{1,8})?".prop_map(|text| Name::new(&text).unwrap())
}

fn any_run() -> impl Strategy<Value = RunId> {
    (1..4_u32).prop_map(RunId)
}

fn any_side() -> impl Strategy<Value = Side> {
    prop_oneof![Just(Side::Engine), Just(Side::Body)]
}

fn any_turn(most: f64) -> impl Strategy<Value = TurnAngle> {
    (-most..most).prop_map(|turned| TurnAngle::new(turned).unwrap())
}

fn any_standing() -> impl Strategy<Value = InstallState> {
    prop_oneof![Just(InstallState::InPlace), Just(InstallState::MockUp), Just(InstallState::Missing)]
}

fn any_flow() -> impl Strategy<Value = FlowGiven> {
    let amount = prop_oneof![
        (0.01..0.5_f64).prop_map(|kg| FlowAmount::Mass { kg_per_s: AirMassFlow::new(kg).unwrap() }),
        (50.0..600.0_f64).prop_map(|hp| FlowAmount::Power { hp: Power::new(hp).unwrap() }),
        (10.0..150.0_f64).prop_map(|l| FlowAmount::Volume { litres_per_min: CoolantFlow::new(l).unwrap() }),
    ];
    let temperature = (20.0..150.0_f64).prop_map(|celsius| Temperature::new(celsius).unwrap());
    (prop::option::of(amount), prop::option::of(temperature))
        .prop_map(|(amount, temperature)| FlowGiven { amount, temperature })
}

fn any_route() -> impl Strategy<Value = Route> {
    let lead = || (10.0..300.0_f64).prop_map(|mm| Lead::new(mm).unwrap());
    (lead(), prop::collection::vec(any_point(600.0), 0..3), lead())
        .prop_map(|(lead_a, between, lead_b)| Route::along(Centreline::Vertices { lead_a, between, lead_b }))
}

fn any_stretch() -> impl Strategy<Value = Stretch> {
    prop_oneof![
        (0..6_u32).prop_map(|leg| Stretch::Leg { leg: LegId(leg) }),
        (3..9_u32).prop_map(|bend| Stretch::Bend { bend: BendId(bend) }),
    ]
}

/// Edits of a run's data.
fn any_edit_of_a_run() -> impl Strategy<Value = Edit> {
    let duty = prop::sample::select(vec![
        Duty::ChargeHot,
        Duty::ChargeCold,
        Duty::Intake,
        Duty::Coolant,
        Duty::Exhaust,
        Duty::Oil,
    ]);
    let pressure = prop::option::of((0.1..4.0_f64).prop_map(|bar| Pressure::new(bar).unwrap()));
    let insulation = prop::option::of((1.0..20.0_f64).prop_map(|mm| Insulation::new(mm).unwrap()));
    let wrap = prop::option::of((0.0..20.0_f64).prop_map(|mm| Insulation::new(mm).unwrap()));
    prop_oneof![
        (any_run(), 0..5_usize).prop_map(|(run, to)| Edit::Job(JobEdit::PlaceRun { run, to })),
        (any_run(), any_name()).prop_map(|(run, name)| Edit::Job(JobEdit::RenameRun { run, name })),
        (any_run(), "[A-Z]{1,2}[A-C]")
            .prop_map(|(run, mark)| Edit::Job(JobEdit::SetMark { run, mark: Mark::new(&mark).unwrap() })),
        (any_run(), duty).prop_map(|(run, duty)| Edit::Spec(SpecEdit::SetDuty { run, duty })),
        (any_run(), pressure).prop_map(|(run, pressure)| Edit::Spec(SpecEdit::SetPressure { run, pressure })),
        (any_run(), insulation).prop_map(|(run, insulation)| Edit::Spec(SpecEdit::SetInsulation { run, insulation })),
        (any_run(), any_stretch(), wrap)
            .prop_map(|(run, stretch, insulation)| { Edit::Spec(SpecEdit::WrapStretch { run, stretch, insulation }) }),
        (any_run(), any_flow()).prop_map(|(run, flow)| Edit::Spec(SpecEdit::SetFlow { run, flow })),
        (any_run(), any_end(), any_port()).prop_map(|(run, end, port)| Edit::Measure(MeasureEdit::SetPort {
            run,
            end,
            port
        })),
        (any_run(), any_route()).prop_map(|(run, way)| Edit::Route(RouteEdit::TakeWay { run, way })),
    ]
}

fn any_mounts() -> impl Strategy<Value = Mounts> {
    let kind = prop::sample::select(MountKind::ALL.to_vec());
    let crank = prop::option::of(prop_oneof![Just(CrankTurn::Clockwise), Just(CrankTurn::Anticlockwise)]);
    let roll = || prop::option::of((0.0..8.0_f64).prop_map(|roll| Roll::new(roll).unwrap()));
    let shift = prop::option::of((0.0..20.0_f64).prop_map(|mm| Shift::new(mm).unwrap()));
    (kind, any_point(900.0), any_point(900.0), roll(), roll(), crank, shift).prop_map(
        |(kind, from, to, roll, overrun, crank, shift)| Mounts { kind, from, to, roll, overrun, crank, shift },
    )
}

/// Edits of datums, readings, instruments and mounts.
fn any_edit_of_what_is_measured() -> impl Strategy<Value = Edit> {
    let datum = || (1..9_u32).prop_map(DatumId);
    let spread = prop::option::of((0.1..10.0_f64).prop_map(|mm| Spread::new(mm).unwrap()));
    let tape = (100.0..1000.0_f64, -4.0..4.0_f64).prop_map(|(known, off)| TapeCheck {
        known: TapeLength::new(known).unwrap(),
        read: TapeLength::new(known + off).unwrap(),
    });
    let tilt = (-3.0..3.0_f64, -3.0..3.0_f64).prop_map(|(nose, left)| TiltCheck {
        nose_up: PitchAngle::new(nose).unwrap(),
        left_up: PitchAngle::new(left).unwrap(),
    });
    let checks =
        (prop::option::of(tape), prop::option::of(tilt)).prop_map(|(tape, tilt)| InstrumentChecks { tape, tilt });
    let reading = |taken: Taken, counts| Reading { counts, ..Reading::of(taken) };
    prop_oneof![
        (datum(), any_name(), any_point(900.0), any_side())
            .prop_map(|(datum, name, at, rides)| Edit::Measure(MeasureEdit::SetDatum { datum, name, at, rides })),
        datum().prop_map(|datum| Edit::Measure(MeasureEdit::RemoveDatum { datum })),
        (datum(), spread).prop_map(|(datum, spread)| Edit::Measure(MeasureEdit::SetDatumSpread { datum, spread })),
        checks.prop_map(|checks| Edit::Measure(MeasureEdit::SetInstruments { checks })),
        (any_subject(), 0..3_usize, any_taken(), any::<bool>()).prop_map(move |(of, index, taken, counts)| {
            Edit::Measure(MeasureEdit::SetReading { of, index, reading: reading(taken, counts) })
        }),
        (any_subject(), any_standing())
            .prop_map(|(of, standing)| Edit::Measure(MeasureEdit::SetStanding { of, standing })),
        prop::option::of(any_mounts()).prop_map(|mounts| Edit::Measure(MeasureEdit::SetMounts { mounts })),
    ]
}

fn any_shape() -> impl Strategy<Value = KeepOutShape> {
    prop_oneof![
        (any_point(900.0), 5.0..300.0_f64).prop_map(|(centre, diameter)| KeepOutShape::Sphere { centre, diameter }),
        (prop::collection::vec(any_point(900.0), 2..5), 4.0..40.0_f64)
            .prop_map(|(points, diameter)| KeepOutShape::Line { points, diameter }),
        (any_point(900.0), any_direction(), 50.0..900.0_f64).prop_map(|(centre, normal, side)| KeepOutShape::Plane {
            centre,
            normal,
            size: [side, side / 2.0]
        }),
    ]
}

fn any_change() -> impl Strategy<Value = KeepOutChange> {
    let gap = prop::option::of((0.0..40.0_f64).prop_map(|mm| Gap::new(mm).unwrap()));
    let swing = (any_point(900.0), any_direction(), any_turn(90.0), any_turn(90.0))
        .prop_map(|(pivot, axis, from, to)| Swing { pivot, axis, from, to });
    prop_oneof![
        any_name().prop_map(|name| KeepOutChange::Name { name }),
        prop::sample::select(KeepOutKind::ALL.to_vec()).prop_map(|kind| KeepOutChange::Kind { kind }),
        any_side().prop_map(|rides| KeepOutChange::Rides { rides }),
        any_shape().prop_map(|shape| KeepOutChange::Shape { shape }),
        gap.prop_map(|gap| KeepOutChange::Gap { gap }),
        any::<bool>().prop_map(|big| KeepOutChange::Big { big }),
        any::<bool>().prop_map(|comes_off| KeepOutChange::ComesOff { comes_off }),
        prop::option::of(swing).prop_map(|swing| KeepOutChange::Swing { swing }),
    ]
}

/// Any edit that shapes no pipe.
pub fn any_other_edit() -> impl Strategy<Value = Edit> {
    let keep_out = || (1..9_u32).prop_map(KeepOutId);
    prop_oneof![
        1 => any_name().prop_map(|name| Edit::Job(JobEdit::RenameJob { name })),
        8 => any_edit_of_a_run(),
        9 => any_edit_of_what_is_measured(),
        4 => (keep_out(), any_change()).prop_map(|(keep_out, to)| Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to })),
        1 => (keep_out(), any_point(900.0)).prop_map(|(keep_out, at)| Edit::Measure(MeasureEdit::MoveKeepOut { keep_out, at })),
    ]
}

//! Random jobs and edits for the property tests.

#![allow(
    dead_code,
    unreachable_pub,
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    reason = "each test target uses its own part of this module"
)]

use nook_core::edit::JointChange;
use nook_core::join::{FlangePlate, JointKind, JointPart};
use nook_core::measure::End;
use nook_core::measure::{
    Against, Anchor, Axis, DatumId, EndForm, Freedom, InstallState, KeepOutId, KeepOutKind, KeepOutShape, Measurand,
    Neck, Port, PortRef, Reading, RimSide, Side, Spot, Taken, TurnRange,
};
use nook_core::route::{
    AlongAnchor, BendId, BendMake, BranchId, JointId, KitPie, LegEnd, LegId, Lock, Making, PieEnds, Pin, Reach,
    RouteConstraints, RunDraft, Snap, StockElbow, StubEnds, StubRef, Target,
};
use nook_core::stock::Duty;
use nook_core::stock::{Material, Tube};
use nook_core::workshop::{Drills, PinnedSaw};
use nook_core::{CutEdit, Edit, Job, JobEdit, JoinEdit, MeasureEdit, PlaceEdit, RouteEdit, RunId, SpecEdit};
use nook_geometry::units::Name;
use nook_geometry::units::{
    AlongLeg, BendAngle, BendRadius, BetweenAngle, Bore, Coordinate, ElbowAngle, ElbowLeg, FaceClock, FaceRadius, Gap,
    GiveAngle, GiveLength, HeadingAngle, HoleDiameter, HoleSpacing, Kerf, LongestStick, OnStick, OutsideDiameter,
    PieAngle, PitchAngle, Pressure, Rotation, SeamCount, Seat, StandsOut, Straight, TapeLength, TurnAngle, Wall,
};
use nook_geometry::{Direction, Point};
use proptest::prelude::*;

#[path = "../../../geometry/tests/support/mod.rs"]
mod places;
pub use places::{any_direction, any_point};
pub mod branched;
pub mod by_place;
pub mod chains;
pub mod held;
#[path = "hose_edits.rs"]
mod hose_edits;
#[path = "other_edits.rs"]
mod other_edits;
pub mod place_edits;
#[path = "support_edits.rs"]
mod support_edits;
use hose_edits::any_hose_edit;
use other_edits::any_other_edit;
pub use place_edits::any_place_edit;
use support_edits::{any_branch_edit, any_support_edit};

/// A saw that cuts `kerf` mm wide.
pub fn saw(kerf: f64) -> PinnedSaw {
    PinnedSaw {
        name: Name::new("Saw").unwrap(),
        kerf: Kerf::new(kerf).unwrap(),
        bias: None,
        reach: nook_core::workshop::SawReach::default(),
    }
}

/// An empty job.
pub fn empty_job() -> Job {
    Job::new(Name::new("Test bay").unwrap())
}

pub fn tube(od: f64, wall: f64) -> Tube {
    Tube::new(Material::Stainless304l, OutsideDiameter::new(od).unwrap(), Wall::new(wall).unwrap()).unwrap()
}

pub fn port(at: [f64; 3], out: [f64; 3], od: f64) -> Port {
    Port {
        name: "mouth".to_owned(),
        at: Point::try_from(at).unwrap(),
        out: Direction::try_from(out).unwrap(),
        od: OutsideDiameter::new(od).unwrap(),
        form: EndForm::Beaded,
        rides: Side::Body,
        neck: None,
        metal: None,
        standing: InstallState::InPlace,
        readings: Vec::new(),
    }
}

/// A charge pipe of 63.5 mm tube between two ports of its size.
pub fn draft(a: Port, b: Port) -> RunDraft {
    RunDraft {
        name: Name::new("Hot side").unwrap(),
        duty: Duty::ChargeHot,
        tube: tube(63.5, 1.5),
        hose: None,
        radius: None,
        a,
        b,
        stubs: StubEnds::default(),
    }
}

/// A job with one run, and the run's number.
pub fn job_with(draft: RunDraft) -> (Job, RunId) {
    let job = nook_core::apply(&empty_job(), &Edit::Job(JobEdit::AddRun { run: draft })).unwrap().job;
    let id = job.runs()[0].id;
    (job, id)
}

fn any_od() -> impl Strategy<Value = OutsideDiameter> {
    (15.0..110.0_f64).prop_map(|od| OutsideDiameter::new(od).unwrap())
}

pub fn any_port() -> impl Strategy<Value = Port> {
    let form =
        prop_oneof![Just(EndForm::Plain), Just(EndForm::Beaded), Just(EndForm::Flanged), Just(EndForm::Threaded)];
    let side = prop_oneof![Just(Side::Engine), Just(Side::Body)];
    (any_point(900.0), any_direction(), any_od(), form, side).prop_map(|(at, out, od, form, rides)| Port {
        name: "mouth".to_owned(),
        at,
        out,
        od,
        form,
        rides,
        neck: None,
        metal: None,
        standing: InstallState::InPlace,
        readings: Vec::new(),
    })
}

/// What is sawn off a neck or turned of it, lawful or not.
fn any_neck() -> impl Strategy<Value = Neck> {
    let mm = |most: f64| (0.0..most).prop_map(|length| Straight::new(length).unwrap());
    (mm(120.0), mm(60.0), mm(60.0), prop::option::of(any_direction()))
        .prop_map(|(length, cut_back, must_stay, turned)| Neck { length, cut_back, must_stay, turned })
}

pub fn any_tube() -> impl Strategy<Value = Tube> {
    (any_od(), 0.8..3.0_f64, prop::sample::select(Material::METALS.to_vec()))
        .prop_map(|(od, wall, material)| Tube::new(material, od, Wall::new(wall).unwrap()).unwrap())
}

pub fn any_draft() -> impl Strategy<Value = RunDraft> {
    let duty = prop_oneof![Just(Duty::ChargeHot), Just(Duty::Coolant), Just(Duty::Intake), Just(Duty::Exhaust)];
    let ports = (any_port(), any_port()).prop_filter("ports apart", |(a, b)| a.at.distance(b.at) >= Job::LEAST_APART);
    (duty, any_tube(), ports).prop_map(|(duty, tube, (a, b))| RunDraft {
        name: Name::new("Hot side").unwrap(),
        duty,
        tube,
        hose: None,
        radius: None,
        a,
        b,
        stubs: StubEnds::default(),
    })
}

fn any_end() -> impl Strategy<Value = End> {
    prop_oneof![Just(End::A), Just(End::B)]
}

/// A bend of a run that was made by an edit or two: its joints at the ends are 1 and 2.
fn any_bend() -> impl Strategy<Value = BendId> {
    (3..9_u32).prop_map(BendId)
}

fn any_leg() -> impl Strategy<Value = LegId> {
    prop_oneof![Just(LegId::FROM_A), any_bend().prop_map(LegId::after)]
}

fn any_target() -> impl Strategy<Value = Target> {
    prop_oneof![
        (any_leg(), 0.0..500.0_f64)
            .prop_map(|(straight, length)| Target::Straight { straight, length: Straight::new(length).unwrap() }),
        (any_bend(), 1.0..150.0_f64)
            .prop_map(|(bend, angle)| Target::Angle { bend, angle: BendAngle::new(angle).unwrap() }),
        (any_bend(), -180.0..180.0_f64)
            .prop_map(|(bend, rotation)| Target::Rotation { bend, rotation: Rotation::new(rotation).unwrap() }),
    ]
}

fn any_port_ref() -> impl Strategy<Value = PortRef> {
    ((1..4_u32), any_end()).prop_map(|(run, end)| PortRef { run: RunId(run), end })
}

fn any_subject() -> impl Strategy<Value = Measurand> {
    prop_oneof![
        3 => any_port_ref().prop_map(|port| Measurand::Port { port }),
        1 => (1..9_u32).prop_map(|id| Measurand::Datum { datum: DatumId(id) }),
        1 => (1..9_u32).prop_map(|id| Measurand::KeepOut { keep_out: KeepOutId(id) }),
    ]
}

fn any_taken() -> impl Strategy<Value = Taken> {
    let anchor = || {
        prop_oneof![
            Just(Anchor::Zero),
            (1..9_u32).prop_map(|id| Anchor::Datum { datum: DatumId(id) }),
            any_port_ref().prop_map(|port| Anchor::Port { port, rim: None }),
            any_port_ref().prop_map(|port| Anchor::Port { port, rim: Some(RimSide::Far) }),
        ]
    };
    let spot = || {
        prop_oneof![
            3 => Just(Spot::Centre),
            1 => (-100.0..600.0_f64).prop_map(|mm| Spot::Stick { mm: OnStick::new(mm).unwrap() }),
            1 => Just(Spot::Corner { towards: [1, -1, 1] }),
            1 => Just(Spot::Rim { side: RimSide::Near }),
            1 => (0.0..12.0_f64, 10.0..60.0_f64).prop_map(|(clock, mm)| Spot::Face {
                clock: FaceClock::new(clock).unwrap(),
                mm: FaceRadius::new(mm).unwrap(),
            }),
        ]
    };
    let axis = || prop::sample::select(Axis::ALL.to_vec());
    prop_oneof![
        4 => (anchor(), spot(), 1.0..2000.0_f64)
            .prop_map(|(from, to, mm)| Taken::Tape { from, to, mm: TapeLength::new(mm).unwrap() }),
        3 => (anchor(), spot(), axis(), -900.0..900.0_f64)
            .prop_map(|(from, to, axis, mm)| Taken::Offset { from, to, axis, mm: Coordinate::new(mm).unwrap() }),
        1 => (-180.0..180.0_f64).prop_map(|degrees| Taken::Heading { degrees: HeadingAngle::new(degrees).unwrap() }),
        1 => (-90.0..90.0_f64).prop_map(|degrees| Taken::Pitch { degrees: PitchAngle::new(degrees).unwrap() }),
        1 => axis().prop_map(|axis| Taken::Square { to: Against::Axis { axis } }),
        1 => any_port_ref().prop_map(|of| Taken::Mirror { of }),
        1 => any_od().prop_map(|mm| Taken::Caliper { mm }),
        1 => (any_port_ref(), 0.0..180.0_f64)
            .prop_map(|(port, degrees)| Taken::Between { port, degrees: BetweenAngle::new(degrees).unwrap() }),
        1 => (2.0..250.0_f64, 0.5..5.0_f64).prop_map(|(mm, wall)| Taken::Bore {
            mm: Bore::new(mm).unwrap(),
            wall: Wall::new(wall).unwrap(),
        }),
    ]
}

fn any_lock() -> impl Strategy<Value = Lock> {
    prop_oneof![
        (any_leg(), 0.0..400.0_f64).prop_map(|(straight, length)| Lock::Straight { straight, length }),
        (any_bend(), 1.0..150.0_f64).prop_map(|(bend, angle)| Lock::Angle { bend, angle }),
        (any_bend(), -180.0..180.0_f64).prop_map(|(bend, rotation)| Lock::Rotation { bend, rotation }),
        (any_leg(), any_direction(), any::<bool>()).prop_map(|(leg, direction, level_only)| Lock::Leg {
            leg,
            direction,
            level_only
        }),
    ]
}

fn any_anchor() -> impl Strategy<Value = AlongAnchor> {
    let from = prop_oneof![Just(LegEnd::Start), Just(LegEnd::End)];
    (any_leg(), from, 0.0..500.0_f64).prop_map(|(leg, from, mm)| AlongAnchor {
        leg,
        from,
        mm: AlongLeg::new(mm).unwrap(),
    })
}

fn any_joint() -> impl Strategy<Value = JointId> {
    (1..9_u32).prop_map(JointId)
}

fn any_joint_change() -> impl Strategy<Value = JointChange> {
    let gap = prop::option::of((0.0..60.0_f64).prop_map(|gap| Gap::new(gap).unwrap()));
    let seat = prop::option::of((15.0..90.0_f64).prop_map(|seat| Seat::new(seat).unwrap()));
    let kind = prop::sample::select(JointKind::ALL.to_vec());
    let clock = prop::option::of((0.0..360.0_f64).prop_map(|clock| Rotation::new(clock).unwrap()));
    prop_oneof![
        1 => prop::option::of(any_joint_part()).prop_map(|part| JointChange::Part { part }),
        1 => clock.prop_map(|clock| JointChange::Clock { clock }),
        1 => any::<bool>().prop_map(|tied| JointChange::Tied { tied }),
        2 => any_anchor().prop_map(|at| JointChange::Place { at }),
        1 => kind.prop_map(|kind| JointChange::Kind { kind }),
        1 => gap.prop_map(|gap| JointChange::Gap { gap }),
        1 => seat.prop_map(|seat| JointChange::Seat { seat }),
        1 => prop::option::of(any_plate()).prop_map(|plate| JointChange::Plate { plate }),
    ]
}

/// Distances of which most make a plate.
fn any_plate() -> impl Strategy<Value = FlangePlate> {
    (prop::collection::vec(60.0..110.0_f64, 1..6), 80.0..140.0_f64).prop_map(|(sides, across)| {
        let spacing = |mm: f64| HoleSpacing::new(mm).unwrap();
        let diagonals = vec![spacing(across); sides.len().saturating_sub(3)];
        let sides = sides.into_iter().map(spacing).collect();
        FlangePlate {
            sides,
            diagonals,
            check: None,
            bore: None,
            hole: HoleDiameter::new(8.5).unwrap(),
            thickness: None,
        }
    })
}

fn any_joint_part() -> impl Strategy<Value = JointPart> {
    let some = |range: std::ops::Range<f64>| prop::option::of(range);
    let kind = prop::sample::select(JointKind::ALL.to_vec());
    (kind, some(0.0..10.0), some(0.0..10.0), some(3.0..120.0), some(0.0..40.0), some(0.5..8.0)).prop_map(
        |(kind, angle, offset, gap, out, bar)| JointPart {
            name: Name::new("off the shelf").unwrap(),
            kind,
            od: None,
            give_angle: angle.map(|angle| GiveAngle::new(angle).unwrap()),
            give_offset: offset.map(|mm| GiveLength::new(mm).unwrap()),
            give_axial: offset.map(|mm| GiveLength::new(mm).unwrap()),
            gap: gap.map(|mm| Gap::new(mm).unwrap()),
            straight: out.map(|mm| Straight::new(mm).unwrap()),
            stands_out: out.map(|mm| StandsOut::new(mm).unwrap()),
            screw_out: out.map(|mm| StandsOut::new(mm).unwrap()),
            bar: bar.map(|bar| Pressure::new(bar).unwrap()),
            celsius: None,
            price: None,
        },
    )
}

/// Edits that shape a way by hand, keep it, steer it or tie it to another.
fn any_edit_by_hand() -> impl Strategy<Value = Edit> {
    let run = || (1..4_u32).prop_map(RunId);
    let place = || 0..4_usize;
    prop_oneof![
        2 => (run(), any_leg(), any_point(900.0)).prop_map(|(run, leg, at)| Edit::Route(RouteEdit::AddBend { run, leg, at })),
        1 => (run(), any_bend()).prop_map(|(run, bend)| Edit::Route(RouteEdit::RemoveBend { run, bend })),
        2 => (run(), any_bend()).prop_map(|(run, bend)| Edit::Route(RouteEdit::SplitBend { run, bend })),
        2 => (run(), any_bend()).prop_map(|(run, bend)| Edit::Route(RouteEdit::MergeBends { run, bend })),
        3 => (run(), any_lock(), any::<bool>()).prop_map(|(run, lock, on)| Edit::Route(RouteEdit::SetLock { run, lock, on })),
        1 => run().prop_map(|run| Edit::Route(RouteEdit::HoldLocks { run })),
        2 => run().prop_map(|run| Edit::Route(RouteEdit::KeepWay { run, name: Name::new("the other way").unwrap() })),
        1 => (run(), place()).prop_map(|(run, index)| Edit::Route(RouteEdit::TakeKept { run, index })),
        1 => (run(), place()).prop_map(|(run, index)| Edit::Route(RouteEdit::DropKept { run, index })),
        2 => (run(), prop::option::of(run())).prop_map(|(run, twin)| Edit::Route(RouteEdit::SetTwin { run, twin })),
        1 => (run(), any_point(900.0), 0.0..200.0_f64, 1..=5_u8).prop_map(|(run, at, within, most)| {
            let wishes = RouteConstraints { pins: vec![Pin { at, within }], most_bends: Some(most), ..RouteConstraints::default() };
            Edit::Route(RouteEdit::SetWishes { run, wishes })
        }),
    ]
}

/// Any edit, of runs and keep-outs that may or may not be there; sometimes several as one.
pub fn any_edit() -> impl Strategy<Value = Edit> {
    prop_oneof![
        24 => any_single_edit(),
        1 => prop::collection::vec(any_single_edit(), 0..4).prop_map(|edits| Edit::Together { edits }),
    ]
}

fn any_single_edit() -> impl Strategy<Value = Edit> {
    let run = || (1..4_u32).prop_map(RunId);
    let radius = || (20.0..220.0_f64).prop_map(|radius| BendRadius::new(radius).unwrap());
    let seams = prop::option::of((1..=20_u8).prop_map(|seams| SeamCount::new(seams).unwrap()));
    let ends = prop_oneof![Just(PieEnds::Mitred), Just(PieEnds::Square)];
    let pies = (seams, ends).prop_map(|(seams, ends)| BendMake::Pies { seams, ends });
    let bought =
        (30.0..180.0_f64, 20.0..200.0_f64, 0.0..120.0_f64, any::<bool>()).prop_map(|(angle, radius, leg, at_a)| {
            let legs = [leg, 120.0 - leg].map(|leg| ElbowLeg::new(leg).unwrap());
            let (radius, angle) = (BendRadius::new(radius).unwrap(), ElbowAngle::new(angle).unwrap());
            let cut = if at_a { nook_core::measure::End::A } else { nook_core::measure::End::B };
            BendMake::Elbow { stock: StockElbow { radius, angle, legs }, cut }
        });
    let kit = (1.0..60.0_f64, 20.0..220.0_f64).prop_map(|(angle, radius)| BendMake::KitPies {
        pie: KitPie { angle: PieAngle::new(angle).unwrap(), radius: BendRadius::new(radius).unwrap() },
    });
    let make = prop_oneof![3 => pies, 1 => Just(BendMake::Drawn), 2 => bought, 1 => kit];
    let snap = prop::option::of(prop_oneof![Just(Snap::Degrees), Just(Snap::Elbows), Just(Snap::True)]);
    prop_oneof![
        2 => any_draft().prop_map(|run| Edit::Job(JobEdit::AddRun { run })),
        1 => run().prop_map(|run| Edit::Job(JobEdit::RemoveRun { run })),
        1 => (prop::collection::vec(-3.0..3.0_f64, 0..6), prop::collection::vec(40.0..50.0_f64, 0..6))
            .prop_map(|(clocks, angles)| Edit::Cut(CutEdit::PinDrills { drills: Drills::new(clocks, angles).unwrap() })),
        1 => (0.5..4.0_f64).prop_map(|kerf| Edit::Cut(CutEdit::PinSaw { saw: saw(kerf) })),
        1 => (run(), any_tube()).prop_map(|(run, tube)| Edit::Spec(SpecEdit::SetTube { run, tube })),
        2 => (run(), any_end(), any_point(900.0)).prop_map(|(run, end, at)| Edit::Measure(MeasureEdit::MovePort { run, end, at })),
        2 => (run(), any_end(), any_direction()).prop_map(|(run, end, out)| Edit::Measure(MeasureEdit::AimPort { run, end, out })),
        2 => (run(), any_anchor()).prop_map(|(run, at)| Edit::Join(JoinEdit::AddJoint { run, at, kind: JointKind::Coupler })),
        2 => (run(), any_bend()).prop_map(|(run, bend)| Edit::Join(JoinEdit::AddElbow { run, bend })),
        2 => (run(), any_end(), run(), 1..14_u32, any::<bool>()).prop_map(|(run, end, on, branch, joined)| {
            let stub = joined.then_some(StubRef { run: on, branch: BranchId(branch) });
            Edit::Measure(MeasureEdit::JoinStub { run, end, stub })
        }),
        2 => (run(), any_end(), any_port(), any_neck()).prop_map(|(run, end, port, neck)| {
            Edit::Measure(MeasureEdit::SetPort { run, end, port: Port { neck: Some(Box::new(neck)), ..port } })
        }),
        2 => (run(), any_joint(), any_joint_change()).prop_map(|(run, joint, to)| Edit::Join(JoinEdit::ChangeJoint { run, joint, to })),
        1 => (run(), any_joint()).prop_map(|(run, joint)| Edit::Join(JoinEdit::RemoveJoint { run, joint })),
        3 => any_support_edit(),
        3 => any_hose_edit(),
        3 => any_branch_edit(),
        1 => (run(), radius()).prop_map(|(run, radius)| Edit::Route(RouteEdit::SetRadius { run, radius })),
        1 => (run(), any_bend(), prop::option::of(radius()))
            .prop_map(|(run, bend, radius)| Edit::Route(RouteEdit::SetBendRadius { run, bend, radius })),
        3 => (run(), any_target(), any::<bool>(), snap).prop_map(|(run, target, far, snap)| {
            let reach = if far { Reach::AsFarAsItGoes } else { Reach::Exactly };
            RouteEdit::Reshape { run, target, reach, snap }.into()
        }),
        8 => any_edit_by_hand(),
        8 => any_other_edit(),
        1 => (run(), prop::option::of(200.0..3000.0_f64)).prop_map(|(run, longest)| {
            CutEdit::SetLongest { run, longest: longest.map(|mm| LongestStick::new(mm).unwrap()) }.into()
        }),
        1 => (run(), any::<[bool; 3]>()).prop_map(|(run, [true_bends, closing_last, on_vehicle])| {
            CutEdit::SetMaking { run, making: Making { true_bends, closing_last, on_vehicle } }.into()
        }),
        2 => (run(), any_bend(), prop::option::of(make)).prop_map(|(run, bend, make)| CutEdit::SetMake { run, bend, make }.into()),
        1 => (any_point(900.0), 1.0..400.0_f64).prop_map(|(centre, side)| Edit::Measure(MeasureEdit::AddKeepOut {
            name: Name::new("lump").unwrap(),
            kind: KeepOutKind::StillMetal,
            rides: Side::Engine,
            shape: KeepOutShape::Box { centre, size: [side, side, side], heading: 12.0, pitch: 0.0, roll: 20.0 }, big: false })),
        1 => (any_point(900.0), 0..10_000_u32).prop_map(|(at, k)| {
            Edit::Measure(MeasureEdit::AddDatum { name: Name::new(&format!("bolt {k}")).unwrap(), at, rides: Side::Body })
        }),
        4 => (any_subject(), any_taken(), any::<bool>()).prop_map(|(of, taken, counts)| {
            Edit::Measure(MeasureEdit::AddReading { of, reading: Reading { counts, ..Reading::of(taken) } })
        }),
        1 => (any_subject(), 0..3_usize).prop_map(|(of, index)| Edit::Measure(MeasureEdit::RemoveReading { of, index })),
        1 => (any_subject(), any_point(900.0)).prop_map(|(of, near)| Edit::Measure(MeasureEdit::PickPlace { of, near, out: None })),
        1 => (any_point(900.0), any_direction(), -30.0..30.0_f64, any_port_ref()).prop_map(|(pivot, axis, turned, port)| {
            let turn = |degrees| TurnAngle::new(degrees).unwrap();
            let range = TurnRange::Freely { from: turn(turned.min(0.0)), to: turn(turned.max(0.0)) };
            let turn = Freedom::Turn { pivot, axis, range, turned: turn(turned) };
            Edit::Place(PlaceEdit::AddComponent {
                name: Name::new("housing").unwrap(), body: vec![], ports: vec![port], freedoms: vec![turn]
            })
        }),
        4 => any_place_edit(),
        1 => (1..6_u32).prop_map(|id| Edit::Measure(MeasureEdit::RemoveKeepOut { keep_out: KeepOutId(id) })),
    ]
}

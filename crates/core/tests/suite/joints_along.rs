//! Joints between the ends of a pipe: they stand where they are meant to, are never lost, and everything that follows
//! knows of them.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::{Point3, Vector3};
use nook_core::PartRef;
use nook_core::assembly::Assembly;
use nook_core::cut::PieceId;
use nook_core::edit::JointChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::flow::FlowGiven;
use nook_core::join::JointKind;
use nook_core::measure::{End, KeepOutKind, KeepOutShape, MountKind, Mounts, Side};
use nook_core::route::{AlongAnchor, JointId, LegEnd, LegId, ResolvedRun, Target};
use nook_core::{
    Applied, Edit, Job, JobEdit, JoinEdit, MeasureEdit, RouteEdit, RunId, SpecEdit, Workup, apply, workup,
};
use nook_geometry::Point;
use nook_geometry::clearance::Rides;
use nook_geometry::units::{AlongLeg, Gap, Name, Roll, Seat, Shift, Straight, Temperature};
use proptest::prelude::*;

use crate::support::by_place::{bend as bend_at, kind, leg as leg_at};
use crate::support::{any_edit, any_point, draft, job_with, port};

/// A charge pipe of two bends from the origin.
fn pipe_to(b: [f64; 3]) -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port(b, [0.0, 0.1, -1.0], 63.5)))
}

/// The same with long straights.
fn pipe() -> (Job, RunId) {
    pipe_to([620.0, 360.0, 410.0])
}

fn anchor(job: &Job, run: RunId, leg: usize, from: LegEnd, mm: f64) -> AlongAnchor {
    AlongAnchor { leg: leg_at(job, run, leg), from, mm: AlongLeg::new(mm).unwrap() }
}

fn with_joint(job: &Job, run: RunId, at: AlongAnchor) -> Job {
    apply(job, &Edit::Join(JoinEdit::AddJoint { run, at, kind: JointKind::Coupler })).unwrap().job
}

/// Those at ends and on straights; a moulded elbow goes with its bend.
fn joint_ids(job: &Job, run: RunId) -> Vec<JointId> {
    let joints = job.run(run).unwrap().route.joints().iter().filter(|joint| joint.bend().is_none());
    let mut ids: Vec<JointId> = joints.map(|joint| joint.id).collect();
    ids.sort();
    ids
}

fn assembly(job: &Job, run: RunId) -> Assembly {
    Assembly::build(&ResolvedRun::as_typed(job.run(run).unwrap())).unwrap().unwrap()
}

/// Where a joint's middle stands in the vehicle.
fn place(workup: &Workup, joint: usize) -> Point3<f64> {
    // Halfway between the two pieces it parts.
    let station = |p: [f64; 3], q: [f64; 3]| nalgebra::center(&Point3::from(p), &Point3::from(q));
    let parted: Vec<(usize, usize)> = (1..workup.pieces.len())
        .map(|i| (i - 1, i))
        .filter(|(p, q)| [p, q].iter().all(|i| matches!(workup.pieces[**i].piece, PieceId::Tube { .. })))
        .collect();
    let (p, q) = parted[joint];
    station(workup.pieces[p].solids[0].solid.to, workup.pieces[q].solids[0].solid.from)
}

#[test]
fn a_coupler_half_way_parts_the_pipe_in_everything_that_follows() {
    let (whole, run) = pipe();
    let before = workup(&whole, run).unwrap();
    let job = with_joint(&whole, run, anchor(&whole, run, 1, LegEnd::Start, 140.0));
    let after = workup(&job, run).unwrap();

    // Half of 63.5 is under 32, so that is the seat; 6 of bead; 6 of gap where both ports ride on one body.
    let joint = &after.joints[0];
    assert_eq!(
        (joint.gap.mm(), joint.seat.mm(), joint.straight_needed.mm(), joint.hose.as_ref().unwrap().mm()),
        (6.0, 32.0, 38.0, 70.0)
    );
    let leg = &after.straights[1];
    assert!((joint.at.mm() - leg.from.mm() - 140.0).abs() < 1e-9);
    assert_eq!((joint.hose_od.mm(), joint.straight, joint.short.mm()), (73.5, leg.straight, 0.0));

    // One piece more; what is missing is the gap, of metal, mass and volume.
    assert_eq!(after.pieces.len(), before.pieces.len() + 1);
    let (totals, whole_totals) = (after.totals.as_ref().unwrap(), before.totals.as_ref().unwrap());
    assert!((whole_totals.developed.mm() - totals.developed.mm() - 6.0).abs() < 1e-9);
    assert!((whole_totals.mouth_to_mouth.mm() - totals.mouth_to_mouth.mm()).abs() < 1e-9);
    let metal = |workup: &Workup| workup.pieces.iter().map(|piece| piece.centre.mm()).sum::<f64>();
    assert!((metal(&before) - metal(&after) - 6.0).abs() < 1e-9);
    let ratio = totals.mass_kg / whole_totals.mass_kg;
    assert!(
        (ratio - metal(&after) / metal(&before)).abs() < 1e-12
            && (totals.litres / whole_totals.litres - ratio).abs() < 1e-12
    );
    assert_eq!((totals.seams, totals.weld.mm()), (whole_totals.seams, whole_totals.weld.mm()));

    // The saw parts it by a square cut more; a bender gets two tubes.
    let cuts = |workup: &Workup| workup.cutting.as_ref().unwrap().cuts.len();
    assert_eq!(cuts(&after), cuts(&before) + 1);
    let lengths = |workup: &Workup, tube: usize| {
        workup.lra.iter().filter(|row| row.tube == tube).map(|row| row.length.mm()).sum::<f64>()
    };
    assert_eq!(after.lra.iter().filter(|row| row.angle.is_none()).count(), 2);
    assert!((lengths(&before, 0) - lengths(&after, 0) - lengths(&after, 1) - 6.0).abs() < 1e-9);
    assert!((lengths(&after, 0) - before.lra[0].length.mm() - (140.0 - 3.0)).abs() < 1e-9);
}

#[test]
fn what_stands_beside_its_hose_and_clamps_is_told_by_their_thickness() {
    let (whole, run) = pipe();
    let job = with_joint(&whole, run, anchor(&whole, run, 1, LegEnd::Start, 140.0));
    let workups = [workup(&whole, run).unwrap(), workup(&job, run).unwrap()];
    let along = Vector3::from(workups[1].straights[1].along);
    let aside = along.cross(&Vector3::z()).normalize();
    let middle = place(&workups[1], 0);
    // A knob of 10 mm beside the tube, beside a clamp (3 of gap, 8 of bead, half of 14), and between the clamps beside the
    // hose's middle, so near that the hose is nearer than the clamps' edges.
    for (off, far, thick) in [(90.0, 65.0, 31.75), (3.0 + 8.0 + 7.0, 65.0, 43.75), (0.0, 46.0, 36.75)] {
        let at = middle + along * off + aside * far;
        let shape = KeepOutShape::Sphere { centre: Point::new(at.x, at.y, at.z).unwrap(), diameter: 10.0 };
        let (name, kind) = (Name::new("knob").unwrap(), KeepOutKind::StillMetal);
        let there =
            apply(&job, &Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false }))
                .unwrap()
                .job;
        let air = workup(&there, run).unwrap().air.unwrap();
        let knob = air.things.iter().position(|thing| thing.name == "knob");
        let gaps = air.trace.iter().filter(|piece| piece.thing.is_some() && piece.thing == knob);
        let near = gaps.filter_map(|piece| piece.gap.as_ref()).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min);
        let hull = |half: f64, centre: f64, radius: f64| {
            let beyond = ((off - centre).abs() - half).max(0.0);
            beyond.hypot(far - radius) - 5.0
        };
        let expect =
            hull(41.0, 0.0, 36.75).min(hull(7.0, 18.0, 43.75)).min(hull(7.0, -18.0, 43.75)).min(far - 31.75 - 5.0);
        assert!((near - expect).abs() < 0.11, "{off}: {near}, by hand {expect}");
        let alone = off > 80.0 || (expect - (far - thick - 5.0)).abs() < 1e-9;
        assert!(alone, "what is meant to be nearest is: {expect}, {thick}");
    }
}

#[test]
fn two_joints_make_room_and_too_short_a_straight_is_told_and_mended() {
    let (whole, run) = pipe_to([450.0, 200.0, 260.0]);
    let room = workup(&whole, run).unwrap().straights[1].length.mm();
    let job = with_joint(&whole, run, anchor(&whole, run, 1, LegEnd::Start, 100.0));
    let two = with_joint(&job, run, anchor(&job, run, 1, LegEnd::Start, 110.0));
    let joints = workup(&two, run).unwrap().joints;
    assert!(joints[1].at.mm() - joints[0].at.mm() > 81.9 && joints.iter().all(|joint| joint.short.mm() == 0.0));
    // Seats that together want more than there is.
    let wide = Edit::Join(JoinEdit::ChangeJoint {
        run,
        joint: joints[0].joint,
        to: JointChange::Seat { seat: Seat::new(140.0).ok() },
    });
    let wide = apply(&two, &wide).unwrap().job;
    let need = 2.0 * (146.0 + 38.0) + 12.0;
    assert!(need > room, "{room}");
    let told = workup(&wide, run).unwrap();
    let finding = told.findings.iter().find(|one| matches!(one.part, PartRef::Joint { .. })).unwrap();
    assert!(finding.words.mm.contains("wanted for its gap, seats and beads"), "{}", finding.words.mm);
    assert!(!finding.remedies.is_empty());
    for remedy in &finding.remedies {
        let mended = workup(&apply(&wide, &remedy.edit).unwrap().job, run).unwrap();
        assert!(!mended.findings.iter().any(|one| one.words == finding.words), "{}", remedy.label.mm);
    }
}

#[test]
fn only_a_coupler_stands_between_two_ends_of_one_tube() {
    let (job, run) = pipe();
    for kind in [JointKind::Metal, JointKind::Reducer] {
        let refused =
            apply(&job, &Edit::Join(JoinEdit::AddJoint { run, at: anchor(&job, run, 1, LegEnd::Start, 100.0), kind }));
        assert!(refused.unwrap_err().to_string().contains("straight coupler"));
    }
    let beyond = Edit::Join(JoinEdit::AddJoint {
        run,
        at: AlongAnchor { leg: LegId(900), ..anchor(&job, run, 1, LegEnd::Start, 100.0) },
        kind: JointKind::Coupler,
    });
    assert!(apply(&job, &beyond).unwrap_err().to_string().contains("does not have"));
    let gone = Edit::Join(JoinEdit::RemoveJoint { run, joint: JointId(900) });
    assert!(apply(&job, &gone).unwrap_err().to_string().contains("no joint 900"));
}

#[test]
fn metal_at_both_ends_gives_in_between() {
    let (mut job, run) = pipe();
    let [from, to] = [[-200.0, 0.0, -300.0], [200.0, 0.0, -300.0]].map(|at| Point::try_from(at).unwrap());
    let (roll, overrun, crank, shift) = (None, None, None, None);
    let mounts = Some(Mounts { kind: MountKind::Firm, from, to, roll, overrun, crank, shift });
    let mut a = job.run(run).unwrap().a.clone();
    a.rides = Side::Engine;
    let ends = [nook_core::measure::End::A, nook_core::measure::End::B];
    let edits = [
        Edit::Measure(MeasureEdit::SetMounts { mounts }),
        Edit::Measure(MeasureEdit::SetPort { run, end: ends[0], port: a }),
    ];
    let stiff = ends.map(|end| kind(&job, run, end, JointKind::Metal));
    for edit in edits.iter().chain(&stiff) {
        job = apply(&job, edit).unwrap().job;
    }
    let cracks =
        |job: &Job| workup(job, run).unwrap().findings.iter().any(|one| one.words.mm.contains("gives nowhere"));
    assert!(cracks(&job));
    let parted = with_joint(&job, run, anchor(&job, run, 1, LegEnd::Start, 140.0));
    assert!(!cracks(&parted));
    // Each tube goes with its own side, and each half of the hose with the tube it is on.
    let run = ResolvedRun::as_typed(parted.run(run).unwrap());
    let pipe = Assembly::build(&run).unwrap().unwrap();
    let middle_of_gap = pipe.between()[0].middle;
    for part in pipe.envelope(&run).all() {
        let middle = f64::midpoint(part.stations[0], part.stations[1]);
        let expect = if middle < middle_of_gap { Rides::Engine } else { Rides::Body };
        assert_eq!(part.rides, expect, "at {middle} of {middle_of_gap}");
    }
}

/// Metal at both ends, the roll axis through the engine's mouth, one coupler between: it takes all of the movement, worked out
/// here from what a roll does to the place and the direction of the tube on the engine.
#[test]
fn one_joint_that_gives_takes_all_of_the_movement() {
    for engine in [End::A, End::B] {
        let (mut job, run) = pipe();
        let mut port = job.run(run).unwrap().port(engine).clone();
        let pivot = port.at.inner();
        let [from, to] = [-200.0, 200.0].map(|y| Point::new(pivot.x, pivot.y + y, pivot.z).unwrap());
        let (roll, shift) = (Roll::new(8.0).ok(), Shift::new(0.0).ok());
        let mounts = Some(Mounts { kind: MountKind::Firm, from, to, roll, overrun: roll, crank: None, shift });
        port.rides = Side::Engine;
        // As cold as it was made, so that nothing grows.
        let flow = FlowGiven { amount: None, temperature: Temperature::new(20.0).ok() };
        let edits = [
            Edit::Measure(MeasureEdit::SetMounts { mounts }),
            Edit::Measure(MeasureEdit::SetPort { run, end: engine, port }),
            Edit::Spec(SpecEdit::SetFlow { run, flow }),
        ];
        let metal = [End::A, End::B].map(|end| kind(&job, run, end, JointKind::Metal));
        for edit in edits.into_iter().chain(metal) {
            job = apply(&job, &edit).unwrap().job;
        }
        let job = with_joint(&job, run, anchor(&job, run, 1, LegEnd::Start, 240.0));
        let told = workup(&job, run).unwrap();
        let (at, along) = (place(&told, 0), Vector3::from(told.straights[1].along));
        // By hand, for a roll either way.
        let by_hand = |degrees: f64| {
            let turn = nalgebra::Rotation3::from_axis_angle(&Vector3::y_axis(), degrees.to_radians());
            let (moved, turned) = (pivot + turn * (at - pivot), turn * along);
            let axis = (turned + along).normalize();
            let apart = if engine == End::A { at - moved } else { moved - at };
            let axial = apart.dot(&axis);
            (turned.dot(&along).acos().to_degrees(), (apart - axis * axial).norm(), axial)
        };
        let share = |(angle, offset, axial): (f64, f64, f64)| (angle / 2.0).max(offset / 2.0).max(axial.abs() / 3.0);
        let hand = if share(by_hand(8.0)) > share(by_hand(-8.0)) { by_hand(8.0) } else { by_hand(-8.0) };
        let takes = told.joints[0].figures.takes.as_ref().unwrap();
        let near = |one: f64, other: f64| assert!((one - other).abs() < 0.02 * other.abs().max(1.0), "{one} {other}");
        near(takes.share.unwrap(), share(hand));
        near(takes.angle, hand.0);
        near(takes.offset.mm(), hand.1);
        near(takes.axial.mm().abs(), hand.2.abs());
        let finding = told.findings.iter().find(|one| one.kind == FindingKind::OverGive).unwrap();
        assert_eq!(finding.part, PartRef::Joint { run, joint: told.joints[0].joint });
    }
}

#[test]
fn rubber_along_the_pipe_asks_for_more_near_heat() {
    let (whole, run) = pipe();
    let job = with_joint(&whole, run, anchor(&whole, run, 1, LegEnd::Start, 240.0));
    let told = workup(&job, run).unwrap();
    let along = Vector3::from(told.straights[1].along);
    let aside = along.cross(&Vector3::z()).normalize();
    let hot = |job: &Job, off: f64, far: f64| {
        let at = place(&told, 0) + along * off + aside * far;
        let shape = KeepOutShape::Sphere { centre: Point::new(at.x, at.y, at.z).unwrap(), diameter: 10.0 };
        let (name, kind) = (Name::new("turbine").unwrap(), KeepOutKind::Hot);
        apply(job, &Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false }))
            .unwrap()
            .job
    };
    let says = |job: &Job| {
        let words = "its hose comes within";
        workup(job, run).unwrap().findings.into_iter().find(|one| one.words.mm.contains(words))
    };
    let limit = KeepOutKind::Hot.gap_to_soft().unwrap();
    let metal = KeepOutKind::Hot.default_gap();
    assert!(limit > metal + 10.0);
    // Clear of the metal, too near for the rubber: its outside is 36.75 from the axis.
    let far = 36.75 + 5.0 + limit - 4.0;
    let finding = says(&hot(&job, 0.0, far)).unwrap();
    assert!(finding.words.mm.starts_with("Coupler on straight 2"), "{}", finding.words.mm);
    assert!(finding.words.mm.contains(&format!("within {:.1} mm", limit - 4.0)), "{}", finding.words.mm);
    assert_eq!(finding.part, PartRef::Joint { run, joint: told.joints[0].joint });
    assert!(says(&hot(&job, 0.0, far + 8.0)).is_none(), "far enough");
    assert!(says(&hot(&whole, 0.0, far)).is_none(), "no hose, no rubber");
}

/// A neighbour is cleared whole, its hoses and clamps as well.
#[test]
fn a_neighbour_keeps_from_the_coupler_and_not_only_from_the_tube() {
    let (whole, run) = pipe();
    let job = with_joint(&whole, run, anchor(&whole, run, 1, LegEnd::Start, 240.0));
    let told = workup(&job, run).unwrap();
    let along = Vector3::from(told.straights[1].along);
    let aside = along.cross(&Vector3::z()).normalize();
    let across = along.cross(&aside);
    // A thin pipe square to this one passes its clamp, whose screw may be at any clock: 20.5 behind the middle of the coupler, 3 of gap, 8 and half of 14.
    let near = |job: &Job| {
        let middle = place(&told, 0) + along * 18.0 + aside * 60.0;
        let mouth = |by: f64| (middle + across * by).coords.into();
        let (a, b) = (mouth(-200.0), mouth(200.0));
        let mut other = draft(port(a, across.into(), 19.05), port(b, (-across).into(), 19.05));
        other.tube = crate::support::tube(19.05, 1.5);
        other.name = Name::new("Thin line").unwrap();
        let job = apply(job, &Edit::Job(JobEdit::AddRun { run: other })).unwrap().job;
        let id = job.runs().last().unwrap().id;
        let way = nook_core::route::Route::along(nook_core::route::Centreline::Straight);
        let job = apply(&job, &Edit::Route(RouteEdit::TakeWay { run: id, way })).unwrap().job;
        let air = workup(&job, id).unwrap().air.unwrap();
        air.trace.iter().filter_map(|piece| piece.gap.as_ref()).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min)
    };
    // To the screw of 49.75, and without it to the tube of 31.75.
    assert!((near(&job) - (60.0 - 49.75 - 9.525)).abs() < 0.1, "{}", near(&job));
    assert!((near(&whole) - (60.0 - 31.75 - 9.525)).abs() < 0.1, "{}", near(&whole));
}

#[test]
fn couplers_that_leave_no_tube_between_cannot_be() {
    let (mut job, run) = pipe_to([450.0, 200.0, 260.0]);
    for mm in [100.0, 150.0, 200.0, 250.0] {
        job = with_joint(&job, run, anchor(&job, run, 1, LegEnd::Start, mm));
    }
    for joint in joint_ids(&job, run).split_off(2) {
        let to = JointChange::Gap { gap: Gap::new(100.0).ok() };
        job = apply(&job, &Edit::Join(JoinEdit::ChangeJoint { run, joint, to })).unwrap().job;
    }
    let told = workup(&job, run).unwrap();
    assert!(told.cutting.is_none());
    let finding = told.findings.iter().find(|one| matches!(one.part, PartRef::Joint { .. })).unwrap();
    assert_eq!(finding.severity, Severity::Error, "what cannot be sawn is not merely tight");
    assert!(finding.words.mm.contains("no tube left between"), "{}", finding.words.mm);
    assert!(assembly(&job, run).section_paths().is_none());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Never lost by anything but being taken out, and always somewhere.
    #[test]
    fn a_joint_outlasts_every_other_edit(
        leg in 0..3_usize,
        mm in 0.0..400.0_f64,
        end in any::<bool>(),
        edits in prop::collection::vec(any_edit(), 1..20),
    ) {
        let (job, run) = pipe();
        let from = if end { LegEnd::End } else { LegEnd::Start };
        let mut job = with_joint(&job, run, anchor(&job, run, leg, from, mm));
        for edit in &edits {
            let before = joint_ids(&job, run);
            let Ok(Applied { job: next, .. }) = apply(&job, edit) else { continue };
            let takes = |edit: &Edit| matches!(edit,
                Edit::Join(JoinEdit::RemoveJoint { .. }) | Edit::Join(JoinEdit::AddJoint { .. }) | Edit::Job(JobEdit::RemoveRun { .. }) | Edit::Route(RouteEdit::TakeKept { .. }) | Edit::Route(RouteEdit::SetTwin { .. })
                // Nothing is joined in a hose.
                | Edit::Spec(SpecEdit::SetHose { .. }));
            let twinned = job.run(run).is_some_and(|run| run.twin.is_some());
            let free = matches!(edit, Edit::Together { .. }) || takes(edit) || twinned;
            if next.run(run).is_none() {
                break;
            }
            if !free {
                prop_assert_eq!(joint_ids(&next, run), before, "{:?}", edit);
            }
            let workup = workup(&next, run).unwrap();
            if workup.totals.is_some() {
                prop_assert_eq!(workup.joints.len() + 2, next.run(run).unwrap().route.joints().len());
                let metal: f64 = workup.pieces.iter().map(|piece| piece.centre.mm()).sum();
                prop_assert!((metal / 1000.0).is_finite());
            }
            job = next;
        }
    }

    /// Adding, splitting, merging and taking bends out leaves it as near to its place as the pipe is.
    #[test]
    fn a_joint_stays_where_it_was_when_bends_come_and_go(share in 0.2..0.8_f64, aside in any_point(25.0), bend in 0..2_usize) {
        let (job, run) = pipe();
        let length = workup(&job, run).unwrap().straights[1].length.mm();
        let job = with_joint(&job, run, anchor(&job, run, 1, LegEnd::Start, share * length));
        let stood = place(&workup(&job, run).unwrap(), 0);
        let [x, y, z] = aside.to_array();
        let at = Point::new(stood.x + x + 12.0, stood.y + y, stood.z + z + 12.0).unwrap();
        for edit in [Edit::Route(RouteEdit::AddBend { run, leg: leg_at(&job, run, 1), at }), Edit::Route(RouteEdit::SplitBend { run, bend: bend_at(&job, run, bend) })] {
            let Ok(Applied { job: next, .. }) = apply(&job, &edit) else { continue };
            let pipe = assembly(&next, run);
            let joint = &pipe.between()[0];
            let way = &next.run(run).unwrap().route;
            let meant = way.joint(joint.id).unwrap().along().unwrap();
            let anchored = meant.place(way, &pipe.tube).unwrap();
            let nearest = AlongAnchor::nearest(way, &pipe.tube, &stood).unwrap().place(way, &pipe.tube).unwrap();
            prop_assert!((anchored - nearest).norm() < 1e-6, "{:?}", edit);
        }
    }

    /// A leg that grows or shrinks at its other end leaves it alone, and no shaping takes the room it needs.
    #[test]
    fn shaping_keeps_its_distance_and_its_room(mm in 60.0..160.0_f64, length in 0.0..300.0_f64, leg in 0..3_usize) {
        let (job, run) = pipe();
        let job = with_joint(&job, run, anchor(&job, run, leg, LegEnd::Start, mm + 44.0));
        let before = workup(&job, run).unwrap();
        prop_assume!(before.joints[0].short.mm() == 0.0);
        let target = Target::Straight { straight: leg_at(&job, run, leg), length: Straight::new(length).unwrap() };
        if let Ok(Applied { job: next, .. }) = apply(&job, &Edit::Route(RouteEdit::shaped(run, target))) {
            let after = workup(&next, run).unwrap();
            // It was asked for by its figure; only that may be too short, and then it is told.
            let told = after.findings.iter().any(|one| matches!(one.part, PartRef::Joint { .. } | PartRef::End { .. }));
            prop_assert!(after.joints[0].short.mm() < 1e-6 || told);
            if after.joints[0].short.mm() < 1e-6 {
                let kept = |workup: &Workup| workup.joints[0].at.mm() - workup.straights[leg].from.mm();
                let room = after.straights[leg].length.mm() - after.joints[0].straight_needed.mm() - after.joints[0].gap.mm() / 2.0;
                let last = if leg == 2 { after.ends[1].straight_needed.mm() } else { 0.0 };
                prop_assert!((kept(&after) - kept(&before)).abs() < 1e-6 || kept(&after) >= room - last - 1e-6);
            }
        }
        let gap = Gap::new(20.0).unwrap();
        let joint = before.joints[0].joint;
        let wider = apply(&job, &Edit::Join(JoinEdit::ChangeJoint { run, joint, to: JointChange::Gap { gap: Some(gap) } })).unwrap().job;
        let metal = |workup: &Workup| workup.totals.as_ref().unwrap().developed.mm();
        prop_assert!((metal(&before) - metal(&workup(&wider, run).unwrap()) - 14.0).abs() < 1e-9);
    }
}

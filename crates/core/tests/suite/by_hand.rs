//! Shaping by hand: ends stay on their ports, locks hold, the change is small, and what cannot be is told.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::by_place::{bend as bend_at, leg};
use crate::support::{any_point, draft, job_with, port};
use nook_core::environment::Scans;
use nook_core::measure::{End, KeepOutKind, KeepOutShape, Side};
use nook_core::route::{
    Centreline, HeldBy, LegDirection, LegId, Lock, ResolvedRun, Route, Snap, Target, build_path, drag,
    least_between_bends, lock_errors, reshape, tube_path,
};
use nook_core::workup::twin_check;
use nook_core::{Edit, EditError, Job, JobEdit, MeasureEdit, RouteEdit, RunId, apply, workup};
use nook_geometry::units::{BendAngle, Lead, LengthUnit, Name, Straight};
use nook_geometry::{Point, Vector};
use proptest::prelude::*;

/// A run with four bends through open air.
fn four_bends() -> (Job, RunId) {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([900.0, 350.0, -80.0], [-1.0, 0.0, 0.0], 63.5)));
    let at = |x, y, z| Point::new(x, y, z).unwrap();
    let course = Centreline::Vertices {
        lead_a: Lead::new(160.0).unwrap(),
        between: vec![at(330.0, -120.0, 190.0), at(610.0, 200.0, 210.0)],
        lead_b: Lead::new(170.0).unwrap(),
    };
    (apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: Route::along(course) })).unwrap().job, run)
}

fn settled(job: &Job, run: RunId) -> ResolvedRun {
    ResolvedRun::as_typed(job.run(run).unwrap())
}

fn vertices(run: &ResolvedRun, way: &Route) -> Vec<Vector> {
    build_path(run, way).unwrap().vertices().iter().map(|v| v.coords).collect()
}

fn on_its_ports(run: &ResolvedRun, way: &Route) {
    let arrival = build_path(run, way).unwrap().arrival();
    assert!((arrival.at.coords - Vector::from(run.b.at.to_array())).norm() < 1e-6);
    assert!(arrival.along.angle(run.b.out.reversed()) < 1e-9);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    #[test]
    fn a_dragged_vertex_goes_where_it_is_taken_and_locks_hold(by in any_point(60.0), bend in 0..4_usize, locked in any::<bool>()) {
        let (mut job, run) = four_bends();
        let before = settled(&job, run);
        let straight = tube_path(&before, &build_path(&before, before.way().unwrap()).unwrap()).straights().nth(2).unwrap();
        if locked {
            for lock in [Lock::Straight { straight: leg(&job, run, 2), length: straight }, Lock::Leg {
                leg: leg(&job, run, 1),
                direction: nook_geometry::Direction::of(vertices(&before, before.way().unwrap())[1] - vertices(&before, before.way().unwrap())[0]).unwrap(),
                level_only: false,
            }] {
                job = apply(&job, &Edit::Route(RouteEdit::SetLock { run, lock, on: true })).unwrap().job;
            }
        }
        let now = settled(&job, run);
        let way = now.way().cloned().unwrap();
        let start = vertices(&now, &way)[bend];
        let to = start + Vector::from(by.to_array());
        let target = Target::Vertex { bend: way.bend_id(bend), at: Point::new(to.x, to.y, to.z).unwrap() };
        let shaped = drag(&now, &way, target, None).unwrap();
        on_its_ports(&now, &shaped.way);
        for off in lock_errors(&now, &shaped.way) {
            prop_assert!(off < 1e-6, "a lock is off by {off}");
        }
        let there = vertices(&now, &shaped.way)[bend];
        let off = (there - to).norm();
        prop_assert!(shaped.held.is_some() == (off > 0.5), "{off} mm short, held by {:?}", shaped.held);
        // Straights keep their least, and nothing that was not dragged runs away.
        for (index, length) in tube_path(&now, &build_path(&now, &shaped.way).unwrap()).straights().enumerate() {
            let least = match index { 0 => now.straight_needed(End::A), 4 => now.straight_needed(End::B), _ => least_between_bends(&now) };
            prop_assert!(length >= least - 1e-6, "straight {index} is {length}");
        }
        if !locked && (bend == 1 || bend == 2) && off < 0.5 {
            for (index, (p, q)) in vertices(&now, &way).iter().zip(vertices(&now, &shaped.way)).enumerate() {
                prop_assert!(index == bend || (p - q).norm() < 1.0, "bend {index} moved {}", (p - q).norm());
            }
        }
    }

    #[test]
    fn a_snapped_drag_ends_on_whole_degrees(by in any_point(50.0)) {
        let (job, run) = four_bends();
        let now = settled(&job, run);
        let way = now.way().cloned().unwrap();
        let to = vertices(&now, &way)[1] + Vector::from(by.to_array());
        let target = Target::Vertex { bend: way.bend_id(1), at: Point::new(to.x, to.y, to.z).unwrap() };
        let shaped = drag(&now, &way, target, Some(Snap::Degrees)).unwrap();
        on_its_ports(&now, &shaped.way);
        let angles: Vec<f64> = build_path(&now, &shaped.way).unwrap().legs().iter().map(|leg| leg.bend.angle.to_degrees()).collect();
        let whole = angles.iter().filter(|angle| (*angle - angle.round()).abs() < 1e-6).count();
        prop_assert!(whole >= 3, "{angles:?}");
    }

    #[test]
    fn split_and_merged_a_bend_is_what_it_was(bend in 0..4_usize) {
        let (job, run) = four_bends();
        let now = settled(&job, run);
        let split = apply(&job, &Edit::Route(RouteEdit::SplitBend { run, bend: bend_at(&job, run, bend) })).unwrap().job;
        let two = settled(&split, run);
        let angles = |run: &ResolvedRun| build_path(run, run.way().unwrap()).unwrap().legs().iter().map(|leg| leg.bend.angle).collect::<Vec<_>>();
        prop_assert_eq!(angles(&two).len(), 5);
        prop_assert!((angles(&two)[bend] - angles(&now)[bend] / 2.0).abs() < 1e-9);
        prop_assert!((angles(&two)[bend] - angles(&two)[bend + 1]).abs() < 1e-9);
        let merged = settled(&apply(&split, &Edit::Route(RouteEdit::MergeBends { run, bend: bend_at(&job, run, bend) })).unwrap().job, run);
        for (p, q) in vertices(&now, now.way().unwrap()).iter().zip(vertices(&merged, merged.way().unwrap())) {
            prop_assert!((p - q).norm() < 1e-6);
        }
    }
}

#[test]
fn a_drag_past_a_limit_stops_there_and_says_which() {
    let (job, run) = four_bends();
    let now = settled(&job, run);
    let way = now.way().cloned().unwrap();
    // The first vertex lies on A's axis: aside it cannot go.
    let aside =
        drag(&now, &way, Target::Vertex { bend: way.bend_id(0), at: Point::new(160.0, 200.0, 0.0).unwrap() }, None)
            .unwrap();
    assert!(matches!(aside.held, Some(HeldBy::Axis { end: End::A })), "{:?}", aside.held);
    // Towards the mouth it goes until the hose has only its seat left.
    let inward =
        drag(&now, &way, Target::Vertex { bend: way.bend_id(0), at: Point::new(-50.0, 0.0, 0.0).unwrap() }, None)
            .unwrap();
    assert!(matches!(inward.held, Some(HeldBy::Straight { straight: LegId::FROM_A, .. })), "{:?}", inward.held);
    let first = tube_path(&now, &build_path(&now, &inward.way).unwrap()).straights().next().unwrap();
    assert!((first - now.straight_needed(End::A)).abs() < 1e-6, "{first}");
    // A locked length stops a straight where it is.
    let lock = Lock::Straight {
        straight: way.leg_id(2),
        length: tube_path(&now, &build_path(&now, &way).unwrap()).straights().nth(2).unwrap(),
    };
    let locked = way.clone().locked(lock);
    let typed =
        reshape(&now, &locked, Target::Straight { straight: way.leg_id(2), length: Straight::new(200.0).unwrap() });
    assert!(typed.is_ok(), "what is typed on the locked figure itself is meant");
    let far = Target::Angle { bend: way.bend_id(1), angle: BendAngle::new(174.0).unwrap() };
    let held = drag(&now, &locked, far, None).unwrap();
    assert!(held.held.is_some());
}

/// Bends are kept apart for their welds, but may be told to meet.
#[test]
fn a_straight_is_typed_as_nothing_so_that_two_bends_meet() {
    let (job, run) = four_bends();
    let now = settled(&job, run);
    let way = now.way().cloned().unwrap();
    let typed =
        |mm: f64| reshape(&now, &way, Target::Straight { straight: way.leg_id(2), length: Straight::new(mm).unwrap() });
    let straight = |way: &Route| build_path(&now, way).unwrap().straights().nth(2).unwrap();
    assert!(straight(&typed(0.0).unwrap()).abs() < 1e-6);
}

#[test]
fn a_lock_outlives_bends_put_in_and_taken_out_elsewhere() {
    let (job, run) = four_bends();
    let lock = Lock::Angle { bend: bend_at(&job, run, 3), angle: 25.0 };
    let job = apply(&job, &Edit::Route(RouteEdit::SetLock { run, lock, on: true })).unwrap().job;
    let more = apply(
        &job,
        &Edit::Route(RouteEdit::AddBend { run, leg: leg(&job, run, 1), at: Point::new(250.0, -40.0, 130.0).unwrap() }),
    )
    .unwrap()
    .job;
    assert_eq!(more.run(run).unwrap().route.locks(), [lock], "the bend has the name it had");
    assert_eq!(bend_at(&more, run, 4), bend_at(&job, run, 3));
    let back = apply(&more, &Edit::Route(RouteEdit::RemoveBend { run, bend: bend_at(&more, run, 1) })).unwrap().job;
    assert_eq!(back.run(run).unwrap().route, job.run(run).unwrap().route);
    // A lock that does not hold is told, with the edit that makes it hold.
    let said = workup(&job, run).unwrap();
    let finding =
        said.findings.iter().find(|f| f.words.mm.contains("is locked and is off by")).expect("25 is not its angle");
    let mended = apply(&job, &finding.remedies[0].edit).unwrap().job;
    assert!(workup(&mended, run).unwrap().locks.iter().all(|lock| lock.holds));
}

#[test]
fn the_last_bend_is_not_taken_out_where_the_axes_pass() {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([500.0, 300.0, 40.0], [0.0, -1.0, 0.0], 63.5)));
    let refused = apply(&job, &Edit::Route(RouteEdit::RemoveBend { run, bend: bend_at(&job, run, 0) })).unwrap_err();
    assert!(matches!(refused, EditError::Bends { .. }), "{refused}");
    assert!(refused.to_string().contains("do not meet"), "{refused}");
}

#[test]
fn a_leg_is_made_level_by_the_smallest_change() {
    let (job, run) = four_bends();
    let target = Target::LegWay { leg: leg(&job, run, 2), way: LegDirection::Level };
    let level = settled(&apply(&job, &Edit::Route(RouteEdit::shaped(run, target))).unwrap().job, run);
    let there = vertices(&level, level.way().unwrap());
    assert!((there[2].z - there[1].z).abs() < 1e-8);
    let before = settled(&job, run);
    let here = vertices(&before, before.way().unwrap());
    // 190 and 210 meet half-way.
    assert!((there[1].z - 200.0).abs() < 0.5 && (there[1] - here[1]).norm() < 11.0);
}

#[test]
fn kept_ways_are_swapped_in_and_let_go() {
    let (job, run) = four_bends();
    let name = |text: &str| Name::new(text).unwrap();
    let kept = apply(&job, &Edit::Route(RouteEdit::KeepWay { run, name: name("high") })).unwrap().job;
    let fewer = apply(&kept, &Edit::Route(RouteEdit::RemoveBend { run, bend: bend_at(&kept, run, 2) })).unwrap().job;
    let swapped = apply(&fewer, &Edit::Route(RouteEdit::TakeKept { run, index: 0 })).unwrap().job;
    assert_eq!(swapped.run(run).unwrap().route, job.run(run).unwrap().route);
    assert_eq!(swapped.run(run).unwrap().kept[0].way, fewer.run(run).unwrap().route);
    assert!(apply(&swapped, &Edit::Route(RouteEdit::DropKept { run, index: 1 })).is_err());
    assert!(
        apply(&swapped, &Edit::Route(RouteEdit::DropKept { run, index: 0 }))
            .unwrap()
            .job
            .run(run)
            .unwrap()
            .kept
            .is_empty()
    );
    let mut full = job;
    for count in 0..6 {
        full = apply(&full, &Edit::Route(RouteEdit::KeepWay { run, name: name(&format!("way {count}")) })).unwrap().job;
    }
    assert!(matches!(
        apply(&full, &Edit::Route(RouteEdit::KeepWay { run, name: name("one more") })),
        Err(EditError::EnoughKept { most: 6 })
    ));
}

#[test]
fn twins_follow_each_other_until_they_are_unlinked() {
    let (job, left) = four_bends();
    let mut mirrored =
        draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([900.0, -350.0, -80.0], [-1.0, 0.0, 0.0], 63.5));
    mirrored.name = Name::new("Right").unwrap();
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run: mirrored })).unwrap().job;
    let right = job.runs()[1].id;
    let linked = apply(&job, &Edit::Route(RouteEdit::SetTwin { run: left, twin: Some(right) })).unwrap().job;
    let image = |job: &Job| {
        let (one, other) = (settled(job, left), settled(job, right));
        let across = vertices(&one, one.way().unwrap()).iter().map(|v| Vector::new(v.x, -v.y, v.z)).collect::<Vec<_>>();
        across.iter().zip(vertices(&other, other.way().unwrap())).all(|(p, q)| (p - q).norm() < 1e-9)
    };
    assert!(image(&linked));
    let target = Target::Angle { bend: bend_at(&linked, left, 1), angle: BendAngle::new(70.0).unwrap() };
    let shaped = apply(&linked, &Edit::Route(RouteEdit::shaped(left, target))).unwrap().job;
    assert!(image(&shaped) && shaped != linked);
    // The two meet at A, alike from either side; then a block stands below the left one's middle leg.
    let check = |job: &Job| twin_check(job, left, &Scans::default()).unwrap();
    let same = check(&shaped).unwrap();
    assert!(same.twin == right && same.differ.mm() < 0.2, "{same:?}");
    let corners = vertices(&settled(&shaped, left), settled(&shaped, left).way().unwrap());
    let below = corners[1] * 0.25 + corners[2] * 0.75 - Vector::z() * (31.75 + 20.0 + 50.0);
    let centre = Point::new(below.x, below.y, below.z).unwrap();
    let block = Edit::Measure(MeasureEdit::AddKeepOut {
        name: Name::new("block").unwrap(),
        kind: KeepOutKind::StillMetal,
        rides: Side::Body,
        shape: KeepOutShape::Box { centre, size: [40.0, 40.0, 100.0], heading: 0.0, pitch: 0.0, roll: 0.0 },
        big: false,
    });
    let differs = check(&apply(&shaped, &block).unwrap().job).unwrap();
    assert!(
        differs.differ.mm() > 30.0 && differs.words.get(LengthUnit::Mm).contains("block on this side"),
        "{differs:?}"
    );
    assert!(twin_check(&job, left, &Scans::default()).unwrap().is_none(), "no twin, nothing to compare");
    let unlinked = apply(&shaped, &Edit::Route(RouteEdit::SetTwin { run: left, twin: None })).unwrap().job;
    assert!(unlinked.run(right).unwrap().twin.is_none(), "both sides are unlinked");
    let alone = apply(&unlinked, &Edit::Route(RouteEdit::SplitBend { run: left, bend: bend_at(&unlinked, left, 1) }))
        .unwrap()
        .job;
    assert_eq!(alone.run(right).unwrap().route, unlinked.run(right).unwrap().route);
    assert!(matches!(
        apply(&job, &Edit::Route(RouteEdit::SetTwin { run: left, twin: Some(left) })),
        Err(EditError::OwnTwin)
    ));
}

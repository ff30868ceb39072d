//! What is let into a tube: where it sits, the seam it is welded along, what is wrong with it, and where a line lacks a bleed;
//! against figures worked out here from the definitions.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use crate::support::by_place::kind;
use crate::support::held::{OD, at, block, found, held, mended, on, straight, told, with};
use crate::support::{draft, job_with, port, tube};
use nalgebra::Vector3;
use nook_core::assembly::Assembly;
use nook_core::cut::{Saddle, SaddlePoint};
use nook_core::edit::BranchChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::join::{BranchKind, JointKind, SupportKind};
use nook_core::measure::{End, EndForm, MountKind, Side};
use nook_core::route::{BranchId, Centreline, Route};
use nook_core::stock::Duty;
use nook_core::survey::Survey;
use nook_core::workup::BranchWorkup;
use nook_core::{Edit, Job, JobEdit, JoinEdit, PartRef, RouteEdit, RunId, SpecEdit, apply};
use nook_geometry::units::{BranchAngle, BranchOffset, BranchReach, Lead, OutsideDiameter, Rotation};
use proptest::prelude::*;

type V3 = Vector3<f64>;

fn let_in(job: &Job, run: RunId, (leg, mm): (usize, f64), kind: BranchKind) -> (Job, BranchId) {
    let applied = apply(job, &Edit::Join(JoinEdit::AddBranch { run, at: at(job, run, leg, mm), kind })).unwrap();
    let Some(PartRef::Branch { branch, .. }) = applied.made.first().copied() else { panic!("it names what it made") };
    (applied.job, branch)
}

fn change(run: RunId, branch: BranchId, to: BranchChange) -> Edit {
    Edit::Join(JoinEdit::ChangeBranch { run, branch, to })
}

fn one(job: &Job, run: RunId) -> BranchWorkup {
    told(job, run).branches[0].clone()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// The seam lies on both outsides: each place of the coped end, put where the branch sits, is on the tube's skin, and the
    /// hole unrolled from there is the same place.
    #[test]
    fn the_coped_end_fits_the_hole_it_is_let_into(
        main in 20.0..120.0_f64, share in 0.1..0.9_f64, off in -0.9..0.9_f64, angle in 25.0..155.0_f64,
    ) {
        let branch = main * share;
        let offset = off * (main - branch) / 2.0;
        let angle = angle.to_radians();
        let saddle = Saddle::new(branch, main, angle, offset).unwrap();
        let (radius, skin) = (branch / 2.0, main / 2.0);
        // The tube along x, the branch leaning up and forward, its left y.
        let (out, left) = (V3::new(angle.cos(), 0.0, angle.sin()), V3::y());
        let forward = left.cross(&out);
        let axis = |t: f64| V3::new(0.0, offset, 0.0) + out * t;
        let pierced = axis(saddle.pierced());
        prop_assert!((pierced.yz().norm() - skin).abs() < 1e-9);
        let outline = saddle.outline(36);
        let meets = |point: &SaddlePoint| {
            let turn = point.round / skin;
            V3::new(pierced.x + point.along, skin * turn.sin(), skin * turn.cos())
        };
        let along = |at: V3| (at - V3::new(0.0, offset, 0.0)).dot(&out);
        let shortest = outline.iter().find(|point| point.height == 0.0).unwrap();
        for point in &outline {
            let phi = point.girth / radius;
            let rim = forward * (radius * phi.cos()) + left * (radius * phi.sin());
            // From the branch's axis it is one radius, at that turn.
            let at = meets(point);
            let off_axis = at - V3::new(0.0, offset, 0.0) - out * along(at);
            prop_assert!((off_axis - rim).norm() < 1e-9, "{point:?}");
            // How much is left of the end is how far further out it meets the tube than the shortest place.
            prop_assert!((along(at) - along(meets(shortest)) - point.height).abs() < 1e-9, "{point:?}");
        }
        let [[from, to], _] = saddle.extent();
        prop_assert!(outline.iter().all(|point| (from - 1e-9..=to + 1e-9).contains(&point.along)));
    }
}

#[test]
fn a_branch_as_wide_as_its_tube_does_not_sit() {
    assert!(Saddle::new(38.1, 38.1, 1.5, 0.0).is_err() && Saddle::new(20.0, 38.1, 1.5, 9.1).is_err());
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Bleed);
    assert_eq!(found(&job, run, FindingKind::BranchDoesNotSit), []);
    let wide = with(&job, &[change(run, id, BranchChange::Od { od: OutsideDiameter::new(38.1).ok() })]);
    assert_eq!(found(&wide, run, FindingKind::BranchDoesNotSit)[0].severity, Severity::Error);
    assert!(!one(&wide, run).sits);
}

#[test]
fn it_stands_where_it_is_said_to() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::TemperatureSensor);
    let begin = told(&job, run).ends[0].gap.mm();
    // Clock 90 for who travels forward, right-handed about travel, is to the right.
    let here = one(&job, run);
    let near = |p: [f64; 3], q: [f64; 3]| (V3::from(p) - V3::from(q)).norm() < 1e-9;
    assert!(near(here.pierces, [begin + 400.0, -OD / 2.0, 0.0]) && near(here.out, [0.0, -1.0, 0.0]), "{here:?}");
    assert!((here.round.mm() - OD / 2.0 * std::f64::consts::FRAC_PI_2).abs() < 1e-9);
    // Leaning back, and beside the middle: to the left with the branch upwards, which is up here.
    let lean = BranchChange::Angle { angle: BranchAngle::new(135.0).ok() };
    let aside = BranchChange::Offset { offset: BranchOffset::new(5.0).ok() };
    let leaning = with(&job, &[change(run, id, lean), change(run, id, aside)]);
    let there = one(&leaning, run);
    let over = ((OD / 2.0_f64).powi(2) - 25.0).sqrt();
    assert!(near(there.pierces, [begin + 400.0, -over, 5.0]), "{:?}", there.pierces);
    let half = std::f64::consts::FRAC_1_SQRT_2;
    assert!(near(there.out, [-half, -half, 0.0]));
    // The image has it on the other side.
    let way = leaning.run(run).unwrap().route.mirrored();
    let image = way.branch(id).unwrap();
    assert_eq!((image.clock(), image.offset(), image.angle()), (-90.0, -5.0, 135.0));
    // Out of the job when somebody takes it out.
    let gone = with(&leaning, &[Edit::Join(JoinEdit::RemoveBranch { run, branch: id })]);
    assert!(told(&gone, run).branches.is_empty());
    assert!(apply(&gone, &Edit::Join(JoinEdit::RemoveBranch { run, branch: id })).is_err());
}

/// A long stub on a section that floats goes further than its tube: held against poses the linkage settles in.
#[test]
fn what_stands_far_out_of_a_floating_section_is_followed() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let job = with(
        &on(&job, MountKind::Soft),
        &[kind(&job, run, End::A, JointKind::Hump), kind(&job, run, End::B, JointKind::Hump)],
    );
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Breather);
    let long = BranchChange::Reach { reach: BranchReach::new(280.0).ok() };
    let job = with(&job, &[change(run, id, long)]);
    let tip = V3::from(one(&job, run).pierces) + V3::z() * 280.0;
    for (x, y) in [(60.0, 0.0), (-60.0, 0.0), (0.0, 60.0), (0.0, -60.0)] {
        let (centre, half) = (tip + V3::new(x, y, 0.0), V3::new(20.0, 20.0, 30.0));
        let job = with(&job, &[block(centre.into(), (half * 2.0).into(), Side::Body)]);
        let gaps = told(&job, run).air.unwrap().trace.into_iter().filter_map(|part| Some(part.gap?.mm()));
        let said = gaps.fold(f64::INFINITY, f64::min);
        let settled = Survey::new(&job).settle(job.run(run).unwrap());
        let pipe = Assembly::build(&settled).unwrap().unwrap();
        let (branch, moves) = (pipe.branches[0].clone(), pipe.moves(&settled));
        let mut least = f64::INFINITY;
        for used in moves.uses(&pipe) {
            for turn in 0..24 {
                let (sin, cos) = (f64::from(turn) * std::f64::consts::PI / 12.0).sin_cos();
                let rim = branch.tip() + V3::new(cos, sin, 0.0) * (branch.od / 2.0);
                let over = ((used.sections[0] * rim).coords - centre).abs() - half;
                least = least.min(over.sup(&V3::zeros()).norm());
            }
        }
        assert!(said <= least + 0.05, "{said} told, {least} where it settles");
        assert!(60.0 - 20.0 - branch.od / 2.0 - said > 0.5, "it moves: {said}");
    }
}

/// Another pipe begins where a stub ends, and goes on from it.
#[test]
fn a_stub_is_a_mouth_for_another_pipe() {
    let (job, run) = straight([Side::Engine, Side::Engine]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Breather);
    let (job, _) = let_in(&job, run, (0, 600.0), BranchKind::PressureSensor);
    let stubs = nook_core::workup::bay(&job).stubs;
    assert_eq!(stubs.len(), 1, "a bung is none");
    let (mouth, here) = (&stubs[0], one(&job, run));
    assert_eq!((mouth.run, mouth.branch, mouth.port.rides), (run, id, Side::Engine));
    let tip = V3::from(here.pierces) + V3::from(here.out) * here.reach.mm();
    assert!((V3::from(mouth.port.at.to_array()) - tip).norm() < 1e-9);
    assert!((mouth.port.out.vector() - V3::from(here.out)).norm() < 1e-9 && mouth.port.od.get() == here.od.mm());

    // A pipe on from there stands on it, however the one it is let into moves; a mouth beside it stands on nothing.
    let rolls = on(&job, MountKind::Soft);
    let fouls = |job: &Job, by: f64, rides: Side| {
        let mut b = port([tip.x + by, tip.y, tip.z + 500.0], [0.0, 0.0, -1.0], 19.05);
        (b.form, b.rides) = (EndForm::Beaded, Side::Body);
        let mut a = mouth.port.clone();
        a.at = nook_geometry::Point::new(tip.x + by, tip.y, tip.z).unwrap();
        a.rides = rides;
        let mut next = draft(a, b);
        (next.tube, next.duty) = (tube(19.05, 1.5), Duty::Coolant);
        let applied = apply(job, &Edit::Job(JobEdit::AddRun { run: next })).unwrap();
        let next = applied.job.runs().last().unwrap().id;
        let way = RouteEdit::TakeWay { run: next, way: Route::along(Centreline::Straight) };
        let job = apply(&applied.job, &Edit::Route(way)).map_or(applied.job, |applied| applied.job);
        let all = told(&job, next).findings.into_iter();
        all.filter(|one| matches!(one.kind, FindingKind::Fouls | FindingKind::TooNear)).count()
    };
    assert_eq!(fouls(&rolls, 0.0, Side::Engine), 0);
    assert_eq!(fouls(&rolls, 0.0, Side::Body), 0, "it goes with the stub, whatever the form says");
    assert!(fouls(&rolls, 8.0, Side::Body) > 0);
}

/// Mistake 12's sister: nothing is let into a seat, a seam or a bend.
#[test]
fn a_hole_keeps_clear_of_seats_and_bends() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let seat = told(&job, run).ends[0].straight_needed.mm();
    let half = BranchKind::Bleed.usual_od() / 2.0;
    for (apart, severity) in [(-1.0, Some(Severity::Error)), (14.9, Some(Severity::Warning)), (15.0, None)] {
        let (job, _) = let_in(&job, run, (0, seat + half + apart), BranchKind::Bleed);
        let told = found(&job, run, FindingKind::BranchOnSeam);
        assert_eq!(told.first().map(|one| one.severity), severity, "{apart} {told:?}");
        if let Some(finding) = told.first() {
            assert!((finding.value.unwrap() - apart).abs() < 0.05, "{:?}", finding.value);
            mended(&job, run, finding);
        }
    }
}

#[test]
fn what_goes_in_needs_room_along_its_axis() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::PressureSensor);
    let tip = OD / 2.0 + BranchKind::PressureSensor.usual_reach();
    // A plate to the right, so far beyond its tip.
    let plate = |room: f64| block([410.0, -tip - room - 5.0, 0.0], [100.0, 10.0, 100.0], Side::Body);
    for (room, met) in [(59.0, true), (61.0, false)] {
        let job = with(&job, &[plate(room)]);
        let told = found(&job, run, FindingKind::NoWayIn);
        assert_eq!(!told.is_empty(), met, "{room}");
        if met {
            assert!((told[0].value.unwrap() - room).abs() < 0.1 && told[0].words.mm.contains("frame rail"));
        }
        assert!((one(&job, run).way_in.mm() - room.min(60.0)).abs() < 0.1);
    }
    // Turned away from it, it goes in.
    let turned = BranchChange::Clock { clock: Rotation::new(270.0).ok() };
    let away = with(&job, &[plate(30.0), change(run, id, turned)]);
    assert_eq!(found(&away, run, FindingKind::NoWayIn), []);
    // Its own body keeps the gap of the pipe.
    let close = with(&job, &[plate(4.0)]);
    assert_eq!(found(&close, run, FindingKind::TooNear).len(), 1);
    let without = with(&close, &[Edit::Join(JoinEdit::RemoveBranch { run, branch: id })]);
    assert_eq!(found(&without, run, FindingKind::TooNear), []);
}

#[test]
fn it_goes_into_the_pipe_where_it_does_what_it_is_for() {
    let (job, run) = straight([Side::Body, Side::Body]);
    for (kind, duty, right) in [
        (BranchKind::TemperatureSensor, Duty::ChargeHot, false),
        (BranchKind::TemperatureSensor, Duty::ChargeCold, true),
        (BranchKind::Recirculation, Duty::ChargeCold, false),
        (BranchKind::Recirculation, Duty::Intake, true),
        (BranchKind::BlowOff, Duty::Intake, false),
        (BranchKind::BlowOff, Duty::ChargeHot, true),
        (BranchKind::Bleed, Duty::Oil, false),
        (BranchKind::Drain, Duty::Oil, true),
    ] {
        let (job, _) = let_in(&job, run, (0, 400.0), kind);
        let job = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run, duty })]);
        assert_eq!(found(&job, run, FindingKind::BranchElsewhere).is_empty(), right, "{kind:?} {duty:?}");
    }
}

#[test]
fn the_rack_shows_its_hole_and_lists_it_to_buy() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, _) = let_in(&job, run, (0, 300.0), BranchKind::Bleed);
    let (job, _) = let_in(&job, run, (0, 500.0), BranchKind::Bleed);
    let all = told(&job, run);
    let rack = nook_core::rack::rack(&job, &nook_core::workup::bay(&job), std::slice::from_ref(&all));
    let holes = &rack.runs[0].rod.as_ref().unwrap().holes;
    let middles: Vec<f64> = holes.iter().map(|[from, to]| f64::midpoint(*from, *to)).collect();
    assert!((middles[0] - 300.0).abs() < 1e-9 && (middles[1] - 500.0).abs() < 1e-9, "{middles:?}");
    let line = rack.vehicle.buy.iter().find(|line| line.what.mm == "14.0 mm bleed bung").unwrap();
    assert_eq!(line.count, Some(2));
}

/// Two holes keep as clear of each other as of seams, on the skin; a clamp keeps clear of a branch at every clock.
#[test]
fn what_is_let_in_keeps_clear_of_its_like_and_clamps_of_it() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, _) = let_in(&job, run, (0, 400.0), BranchKind::Bleed);
    let radius = BranchKind::Bleed.usual_od() / 2.0;
    for (along, clock, told) in [
        (0.0, 0.0, Some(Severity::Error)),
        (2.0 * radius + 14.0, 0.0, Some(Severity::Warning)),
        (2.0 * radius + 16.0, 0.0, None),
        // Over there it is far enough round the skin: half a girth of 120 mm.
        (0.0, 180.0, None),
        (0.0, 45.0, Some(Severity::Warning)),
    ] {
        let (job, id) = let_in(&job, run, (0, 400.0 + along), BranchKind::Bleed);
        let job = with(&job, &[change(run, id, BranchChange::Clock { clock: Rotation::new(clock).ok() })]);
        let found = found(&job, run, FindingKind::BranchOnSeam);
        assert_eq!(found.first().map(|one| one.severity), told, "{along} {clock}: {found:?}");
        // Each of the two says it of the other.
        assert_eq!(found.len(), if told.is_some() { 2 } else { 0 });
        // Round the skin a hole is as wide as the arc over it.
        let half = if clock > 0.0 { OD / 2.0 * (radius / (OD / 2.0)).asin() } else { radius };
        let gap = along.hypot(clock.to_radians() * OD / 2.0) - 2.0 * half;
        if let Some(one) = found.first() {
            assert!((one.value.unwrap() - gap).abs() < 0.02, "{:?} {gap}", one.value);
            mended(&job, run, one);
        }
    }
    for (mm, told) in [(400.0, true), (400.0 + radius + 14.0 + 15.0, true), (400.0 + radius + 16.0 + 15.0, false)] {
        let (clamped, _) = held(&job, run, (0, mm), SupportKind::Clamps, Side::Body);
        let found = found(&clamped, run, FindingKind::SupportOnSeam);
        assert_eq!(!found.is_empty(), told, "{mm}");
        if let Some(one) = found.first() {
            assert!(one.words.mm.contains("bleed bung"), "{}", one.words.mm);
            mended(&clamped, run, one);
        }
    }
}

#[test]
fn one_that_leans_is_moved_clear_and_comes_out_of_its_tube_all_round() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let seat = told(&job, run).ends[0].straight_needed.mm();
    let (job, id) = let_in(&job, run, (0, seat + 10.0), BranchKind::Breather);
    let lean = |angle: f64| change(run, id, BranchChange::Angle { angle: BranchAngle::new(angle).ok() });
    for angle in [35.0, 145.0] {
        let leaning = with(&job, &[lean(angle)]);
        let finding = &found(&leaning, run, FindingKind::BranchOnSeam)[0];
        mended(&leaning, run, finding);
    }
    // Square to it a short one comes out; leaning, its seam reaches further than it does.
    let short = change(run, id, BranchChange::Reach { reach: BranchReach::new(8.0).ok() });
    let square = with(&job, &[short.clone()]);
    assert_eq!(found(&square, run, FindingKind::BranchDoesNotSit), []);
    let finding = found(&with(&square, &[lean(30.0)]), run, FindingKind::BranchDoesNotSit)[0].clone();
    // At its side towards A: half its width over the tangent of the lean, the tube round there left out.
    let least = BranchKind::Breather.usual_od() / 2.0 / 30.0_f64.to_radians().tan();
    assert!((finding.limit.unwrap() - least).abs() < 0.2, "{:?} {least}", finding.limit);
}

/// A bung that looks at its own pipe round a bend is not let in either.
#[test]
fn the_pipe_itself_is_in_the_way_of_a_stem() {
    let (job, run) = arch(160.0, 300.0);
    let (job, id) = let_in(&job, run, (0, 120.0), BranchKind::PressureSensor);
    let job = with(&job, &[change(run, id, BranchChange::Reach { reach: BranchReach::new(80.0).ok() })]);
    // On a straight that goes up clock 0 is forward, to where the pipe comes down again.
    let looks = |clock: f64| with(&job, &[change(run, id, BranchChange::Clock { clock: Rotation::new(clock).ok() })]);
    let finding = found(&looks(0.0), run, FindingKind::NoWayIn)[0].clone();
    let room = 160.0 - OD - 80.0;
    assert!((one(&looks(0.0), run).way_in.mm() - room).abs() < 0.2, "{}", one(&looks(0.0), run).way_in.mm());
    assert!(finding.words.mm.contains("pipe itself"), "{}", finding.words.mm);
    assert_eq!(found(&looks(180.0), run, FindingKind::NoWayIn), []);
}

/// Where a hole is marked on its piece, against the mitre planes worked out from the bends beside it: each halves the angle
/// between the straight and the pie next to it, where their axes meet.
#[test]
fn a_hole_is_marked_from_the_sawn_ends_of_its_piece() {
    let (job, run) = arch(500.0, 250.0);
    let all = told(&job, run);
    let level = all.straights[1].length.mm();
    for clock in [0.0, 50.0, 180.0, 270.0] {
        let (job, id) = let_in(&job, run, (1, 0.3 * level), BranchKind::Bleed);
        let job = with(&job, &[change(run, id, BranchChange::Clock { clock: Rotation::new(clock).ok() })]);
        let branch = one(&job, run);
        let mark = branch.mark.clone().unwrap();
        for (bend, from, sign) in [(0, &mark.from_a, 1.0), (1, &mark.from_b, -1.0)] {
            let bend = &all.bends[bend];
            let seam = (bend.angle / f64::from(bend.pies.as_ref().unwrap().seams.get())).to_radians();
            let radius = bend.radius.mm();
            // The straight runs on past its tangent point by this, and its face leans by half a seam towards the bend's middle,
            // which is below: longest on top.
            let over = radius * (seam / 2.0).tan();
            let off_axis = OD / 2.0 * clock.to_radians().cos();
            let tangent = if sign > 0.0 { branch.from_start.mm() } else { branch.from_end.mm() };
            let want = tangent + over + off_axis * (seam / 2.0).tan();
            assert!((from.as_ref().unwrap().mm() - want).abs() < 1e-6, "{clock} {sign}: {from:?} {want}");
        }
        let piece = all.pieces.iter().find(|piece| piece.name == mark.piece).unwrap();
        let line = mark.from_a.unwrap().mm() + mark.from_b.unwrap().mm();
        assert!((piece.shortest.mm() - 1e-6..=piece.longest.mm() + 1e-6).contains(&line), "{line}");
    }
}

/// A coolant line over an arch: up, level, down; its highest straight so long and so high over its ends, in mm.
fn arch(level: f64, high: f64) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [0.0, 0.0, 1.0], OD), port([level, 0.0, 0.0], [0.0, 0.0, 1.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
    let (job, run) = job_with(run);
    let (lead_a, lead_b) = (Lead::new(high).unwrap(), Lead::new(high).unwrap());
    let way = Route::along(Centreline::Vertices { lead_a, between: Vec::new(), lead_b });
    (with(&job, &[Edit::Route(RouteEdit::TakeWay { run, way })]), run)
}

/// Mistake 37: water is trapped where no bleed is at the high point.
#[test]
fn a_high_without_a_bleed_traps_air_and_one_with_it_does_not() {
    let (job, run) = arch(500.0, 250.0);
    let trapped = found(&job, run, FindingKind::AirTrapped);
    assert_eq!(trapped.len(), 1);
    mended(&job, run, &trapped[0]);
    let highs: Vec<_> = told(&job, run).bore_extremes;
    assert_eq!(highs.len(), 1);
    let middle = told(&job, run).totals.unwrap().end_to_end.mm() / 2.0;
    assert!(highs[0].high && !highs[0].served && (highs[0].at.mm() - middle).abs() < 1.0, "{highs:?}");
    // A drain there, a bleed below the line, or a bleed on its way up lets no air out.
    let leg = |job: &Job| told(job, run).straights[1].length.mm();
    for (leg, mm, kind, clock, served) in [
        (1, leg(&job) / 2.0, BranchKind::Bleed, 0.0, true),
        (1, leg(&job) / 2.0, BranchKind::Filler, 0.0, true),
        (1, leg(&job) / 2.0, BranchKind::Bleed, 50.0, true),
        (1, leg(&job) / 2.0, BranchKind::Bleed, 100.0, false),
        (1, leg(&job) / 2.0, BranchKind::Drain, 0.0, false),
        (0, 100.0, BranchKind::Bleed, 0.0, false),
    ] {
        let (job, id) = let_in(&job, run, (leg, mm), kind);
        let job = with(&job, &[change(run, id, BranchChange::Clock { clock: Rotation::new(clock).ok() })]);
        assert_eq!(found(&job, run, FindingKind::AirTrapped).is_empty(), served, "{kind:?} on {leg} at {clock}");
    }
    // Air is no matter in a charge pipe, nor where the line rises to an end.
    let charge = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run, duty: Duty::ChargeCold })]);
    assert_eq!(found(&charge, run, FindingKind::AirTrapped), []);
    let (level, run) = straight([Side::Body, Side::Body]);
    assert_eq!(found(&level, run, FindingKind::AirTrapped), []);
    assert!(told(&level, run).bore_extremes.is_empty());
}

#[test]
fn highs_and_lows_follow_each_other_and_a_low_is_drained() {
    // Down, level, and up again: a sag.
    let mut run = draft(port([0.0; 3], [0.0, 0.0, -1.0], OD), port([500.0, 0.0, 0.0], [0.0, 0.0, -1.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
    let (job, run) = job_with(run);
    let lead = Lead::new(250.0).unwrap();
    let way = Route::along(Centreline::Vertices { lead_a: lead, between: Vec::new(), lead_b: lead });
    let job = with(&job, &[Edit::Route(RouteEdit::TakeWay { run, way })]);
    assert_eq!(found(&job, run, FindingKind::AirTrapped), []);
    let low = told(&job, run).bore_extremes[0].clone();
    assert!(!low.high && !low.served);
    let drained = with(&job, &[low.edit.unwrap()]);
    assert!(told(&drained, run).bore_extremes[0].served);
    let drain = one(&drained, run);
    assert!(drain.kind == BranchKind::Drain && drain.out[2] < -0.99, "{:?}", drain.out);
}

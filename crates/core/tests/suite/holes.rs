//! Holes of what is let in: what they keep clear of, the room for what goes in, and where they are marked on the sawn piece.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use crate::support::branched::{arch, change_branch as change, let_in, one};
use crate::support::held::{LONG, OD, block, five, found, held, mended, straight, told, with};
use nook_core::edit::BranchChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::hold_up::{fewest_supports, put_on};
use nook_core::join::{BranchKind, SupportKind};
use nook_core::measure::Side;
use nook_core::{Edit, JoinEdit, apply};
use nook_geometry::units::{BranchAngle, BranchReach, Rotation};

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
    let square = with(&job, std::slice::from_ref(&short));
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
            let seam = (bend.angle / f64::from(bend.pies.as_ref().unwrap().seams)).to_radians();
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

/// The fewest supports that hold a pipe stand clear of what is let in, wherever that is.
#[test]
fn supports_that_are_proposed_keep_clear_of_what_is_let_in() {
    let (bare, run) = straight([Side::Engine, Side::Engine]);
    let bare = with(&bare, &[five(7000.0, None)]);
    let without = fewest_supports(&bare, run).unwrap();
    assert!(!without.is_empty());
    for support in &without {
        // A bung right where it would have stood.
        let (job, _) = let_in(&bare, run, (0, support.at.from_start(LONG)), BranchKind::PressureSensor);
        let there = fewest_supports(&job, run).unwrap();
        let after = apply(&job, &put_on(run, &there)).unwrap().job;
        assert_eq!(found(&after, run, FindingKind::SupportOnSeam), []);
        assert_eq!(found(&after, run, FindingKind::SpanRings), []);
    }
}

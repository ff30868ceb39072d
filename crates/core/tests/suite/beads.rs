//! Beads that must be rolled before a piece is welded or bent, and those no tool has room for.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nook_core::assembly::{CRIMPER, ROLLER};
use nook_core::findings::FindingKind;
use nook_core::join::JointKind;
use nook_core::measure::{End, Side};
use nook_core::route::{BendMake, Centreline, Route, StockElbow};
use nook_core::workup::BeadWorkup;
use nook_core::{CutEdit, Edit, Job, RouteEdit, RunId};
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg};
use proptest::prelude::*;

use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, straight, told, with};
use crate::support::{any_draft, draft, job_with, port};

const OD: f64 = 63.5;
const RADIUS: f64 = 95.25;

/// A charge pipe of one square bend, with so much straight tube from A's hose to it.
fn bent(room: f64) -> (Job, RunId) {
    let at = |room: f64| {
        let x = room + RADIUS;
        let (job, run) =
            job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([x, 400.0, 0.0], [0.0, -1.0, 0.0], OD)));
        let radius = RouteEdit::SetRadius { run, radius: BendRadius::new(RADIUS).unwrap() };
        let way = RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) };
        (with(&job, &[radius.into(), way.into()]), run)
    };
    let (job, run) = at(room + 100.0);
    let gap = told(&job, run).ends[0].gap.mm();
    at(room + gap)
}

fn made(job: &Job, run: RunId, make: BendMake) -> Job {
    with(job, &[CutEdit::SetMake { run, bend: bend_at(job, run, 0), make: Some(make) }.into()])
}

fn beads(job: &Job, run: RunId) -> Vec<BeadWorkup> {
    told(job, run).cutting.unwrap().beads
}

#[test]
fn a_bead_without_room_for_the_roller_afterwards_is_rolled_first() {
    for (room, first) in [(ROLLER - 15.0, true), (ROLLER - 0.5, true), (ROLLER + 0.5, false), (120.0, false)] {
        let (job, run) = bent(room);
        let all = beads(&job, run);
        assert_eq!(all.len(), 2, "one under each hose");
        let bead = &all[0];
        assert_eq!((bead.end, bead.piece.as_str(), bead.first), (End::A, "HS1", first), "{room}");
        assert_eq!((bead.from_end.mm(), bead.height.mm()), (6.0, 1.5));
        // That of B has 300 mm.
        assert!(!all[1].first && all[1].end == End::B && all[1].piece == told(&job, run).pieces.last().unwrap().name);
        let said = found(&job, run, FindingKind::BeadFirst);
        assert_eq!(said.len(), usize::from(first));
        for one in said {
            assert!(one.words.mm.contains("before it is welded"), "{}", one.words.mm);
        }
        // Bent instead of welded of pies: before the bender has it.
        let words = &beads(&made(&job, run, BendMake::Drawn), run)[0].words.mm;
        assert_eq!(words.contains("Before it is bent"), first, "{words}");
    }
}

#[test]
fn on_the_leg_of_an_elbow_a_crimper_serves_or_nothing_does() {
    for (room, crimped, none) in
        [(ROLLER + 2.0, false, false), (CRIMPER + 12.0, true, false), (CRIMPER - 4.0, false, true)]
    {
        let (job, run) = bent(room);
        let leg = ElbowLeg::new(200.0).unwrap();
        let stock = StockElbow {
            radius: BendRadius::new(RADIUS).unwrap(),
            angle: ElbowAngle::new(90.0).unwrap(),
            legs: [leg; 2],
        };
        let job = made(&job, run, BendMake::Elbow { stock, cut: End::B });
        let all = told(&job, run);
        assert!(all.pieces[0].elbow.is_some(), "its leg goes to the hose");
        let bead = &all.cutting.as_ref().unwrap().beads[0];
        assert_eq!(bead.words.mm.contains("crimper"), crimped, "{}", bead.words.mm);
        assert_eq!(found(&job, run, FindingKind::NoRoomForBead).len(), usize::from(none));
        assert_eq!(found(&job, run, FindingKind::BeadFirst).len(), usize::from(crimped));
    }
}

#[test]
fn a_hose_on_the_sawn_end_of_an_elbow_has_no_seat() {
    // So little straight that the sawn end would come under the hose: the straight is too short for a seat, and that is told.
    for (room, seated) in [(20.0, false), (110.0, true)] {
        let (job, run) = bent(room);
        let leg = ElbowLeg::new(60.0).unwrap();
        let angle = ElbowAngle::new(120.0).unwrap();
        let stock = StockElbow { radius: BendRadius::new(RADIUS).unwrap(), angle, legs: [leg; 2] };
        let job = made(&job, run, BendMake::Elbow { stock, cut: End::A });
        assert_eq!(found(&job, run, FindingKind::ShortSeat).is_empty(), seated, "{room}");
    }
}

#[test]
fn a_straight_pipe_has_room_and_one_without_hoses_has_no_beads() {
    let (job, run) = straight([Side::Body, Side::Engine]);
    assert!(beads(&job, run).iter().all(|bead| !bead.first && bead.height.mm() == 1.0));
    let joints: Vec<_> = told(&job, run).ends.iter().map(|end| end.joint_id).collect();
    let kind = |joint| nook_core::JoinEdit::ChangeJoint {
        run,
        joint,
        to: nook_core::edit::JointChange::Kind { kind: JointKind::VBand },
    };
    let clamped = with(&job, &joints.into_iter().map(|joint| Edit::Join(kind(joint))).collect::<Vec<_>>());
    assert!(beads(&clamped, run).is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Of whatever pipe: one bead for each end of tube under a hose, on the piece that is there, and none anywhere else.
    #[test]
    fn every_end_under_a_hose_has_its_bead(draft in any_draft()) {
        let (job, run) = job_with(draft);
        let all = told(&job, run);
        prop_assume!(all.cutting.is_some());
        let beads = &all.cutting.as_ref().unwrap().beads;
        let covered = all.pieces.iter().map(|piece| piece.hoses.iter().filter(|over| over.mm() > 0.0).count()).sum::<usize>();
        let hoses = all.ends.iter().filter(|end| end.hose.is_some()).count();
        prop_assert_eq!(beads.len(), hoses);
        prop_assert!(covered >= beads.len());
        for bead in beads {
            let piece = all.pieces.iter().find(|piece| piece.name == bead.piece).unwrap();
            prop_assert!(piece.hoses[usize::from(bead.end == End::B)].mm() > bead.from_end.mm());
        }
        let told_first = all.findings.iter().any(|one| one.kind == FindingKind::BeadFirst);
        prop_assert_eq!(beads.iter().any(|bead| bead.first && !bead.words.mm.contains("No tool")), told_first);
    }
}

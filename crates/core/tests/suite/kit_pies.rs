//! Bends made of bought pies: what is sawn beside them, and that the pipe put together from what is told joins its ports.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nalgebra::{Point3, Unit, UnitQuaternion, Vector3};
use nook_core::cut::PieceId;
use nook_core::findings::FindingKind;
use nook_core::record::Progress;
use nook_core::route::{BendMake, KitPie};
use nook_core::survey::Survey;
use nook_core::workup::to_saw;
use nook_core::{CutEdit, Job, RunId, Workup};
use nook_geometry::units::{BendRadius, PieAngle};
use proptest::prelude::*;

use super::bought_elbows::turning;
use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, mended, told, with};
use crate::support::{draft, job_with, port};

type V3 = Vector3<f64>;

const OD: f64 = 63.5;

pub(crate) fn kit(angle: f64, radius: f64) -> KitPie {
    KitPie { angle: PieAngle::new(angle).unwrap(), radius: BendRadius::new(radius).unwrap() }
}

pub(crate) fn made(job: &Job, run: RunId, bend: usize, pie: KitPie) -> Job {
    let bend = bend_at(job, run, bend);
    with(job, &[CutEdit::SetMake { run, bend, make: Some(BendMake::KitPies { pie }) }.into()])
}

fn pipe(to: [f64; 3], out: [f64; 3]) -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port(to, out, OD)))
}

fn is_pie(id: PieceId) -> bool {
    matches!(id, PieceId::Pie { .. })
}

/// Puts the pipe together from what is told, as somebody would who has the pieces in hand: each is pushed on by its length, and at a seam
/// the next one leans by what both faces were sawn at. Where the pipe ends and which way.
fn put_together(all: &Workup, at: V3) -> (V3, V3) {
    let (mut at, mut along) = (at, V3::x());
    let mut clock = V3::z();
    let mut pieces = all.pieces.iter().peekable();
    for bend in &all.bends {
        let pies = bend.pies.as_ref().unwrap();
        clock = UnitQuaternion::from_axis_angle(&Unit::new_normalize(along), bend.rotation.to_radians()) * clock;
        let axis = Unit::new_normalize(along.cross(&clock));
        let mut lean = |along: &mut V3, degrees: f64| {
            let turn = UnitQuaternion::from_axis_angle(&axis, degrees.to_radians());
            (*along, clock) = (turn * *along, turn * clock);
        };
        at += along * pieces.next().unwrap().centre.mm();
        lean(&mut along, pies.end_saw + pies.saw);
        for pie in 0..pies.count {
            let piece = pieces.next().unwrap();
            assert!(is_pie(piece.piece));
            at += along * piece.centre.mm();
            lean(&mut along, if pie + 1 < pies.count { 2.0 * pies.saw } else { pies.saw + pies.end_saw });
        }
    }
    at += along * pieces.next().unwrap().centre.mm();
    assert!(pieces.next().is_none());
    (at, along)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Whatever the pies' angle, and whatever radius they were made for: the straights beside them are sawn so that the pipe lands; the
    /// pieces follow each other without a gap, and no pie is asked of the saw.
    #[test]
    fn put_together_as_told_it_ends_at_its_port(
        x in 400.0..700.0_f64, y in -300.0..300.0_f64, z in 350.0..600.0_f64,
        angles in prop::array::uniform2(5.0..25.0_f64), off in prop::array::uniform2(0.8..1.2_f64),
    ) {
        let (mut job, run) = pipe([x, y, z], [0.0, 0.1, -1.0]);
        let plain = told(&job, run);
        prop_assume!(plain.bends.len() == 2 && plain.totals.is_some());
        prop_assume!((0..2).all(|bend| plain.bends[bend].angle > angles[bend] + 1.0));
        for bend in 0..2 {
            job = made(&job, run, bend, kit(angles[bend], plain.bends[bend].radius.mm() * off[bend]));
        }
        let all = told(&job, run);
        prop_assume!(all.cutting.is_some());
        let [a, b] = [0, 1].map(|end| V3::from(all.ends[end].tube_end));
        let (reached, along) = put_together(&all, a);
        prop_assert!((reached - b).norm() < 1e-6, "{reached} is not {b}");
        prop_assert!((along + V3::new(0.0, 0.1, -1.0).normalize()).norm() < 1e-9);
        for pair in all.pieces.windows(2) {
            let [last, first] = [pair[0].solids.last().unwrap(), &pair[1].solids[0]];
            prop_assert!((Point3::from(last.solid.to) - Point3::from(first.solid.from)).norm() < 1e-6);
            prop_assert!((V3::from(last.solid.to_normal) - V3::from(first.solid.from_normal)).norm() < 1e-9);
        }
        for bend in &all.bends {
            let pies = bend.pies.as_ref().unwrap();
            let each = pies.kit.unwrap().angle.get();
            prop_assert!((f64::from(pies.count) * each + 2.0 * pies.end_saw - bend.angle).abs() < 1e-6);
            prop_assert!(pies.count == 20 || pies.end_saw < each / 2.0 + 1e-6);
            prop_assert_eq!(bend.welds, pies.count + 1);
        }
        let cutting = all.cutting.as_ref().unwrap();
        let pies: Vec<&str> = all.pieces.iter().filter(|one| is_pie(one.piece)).map(|one| one.name.as_str()).collect();
        prop_assert!(cutting.cuts.iter().all(|cut| cut.frees.as_deref().is_none_or(|name| !pies.contains(&name))));
        prop_assert_eq!(cutting.cuts.iter().filter(|cut| cut.frees.is_some()).count(), 3);
    }
}

/// A quarter bend in a level pipe.
fn quarter() -> (Job, RunId, f64) {
    let (job, run) = turning(90.0);
    let all = told(&job, run);
    assert_eq!(all.bends.len(), 1);
    (job, run, all.bends[0].radius.mm())
}

#[test]
fn where_they_turn_as_far_as_the_bend_the_straights_are_sawn_square() {
    let (job, run, radius) = quarter();
    let all = told(&made(&job, run, 0, kit(15.0, radius)), run);
    let pies = all.bends[0].pies.as_ref().unwrap();
    assert_eq!((pies.count, pies.end_saw, all.bends[0].welds), (6, 0.0, 7));
    assert_eq!(all.cutting.as_ref().unwrap().settings, Vec::<f64>::new());
    // Handbook, Pie cuts: the pie as it is sold, and the step of its oval against the round end.
    let half = 7.5_f64.to_radians();
    assert!((pies.centre.mm() - 2.0 * radius * half.tan()).abs() < 1e-9);
    assert!((pies.throat.mm() - 2.0 * (radius - OD / 2.0) * half.tan()).abs() < 1e-9);
    assert!((pies.end_step.mm() - OD / 2.0 * (1.0 / half.cos() - 1.0)).abs() < 1e-9);
    // The centre line steps out by R(1/cos(d/2) - 1), by which the straights are shorter.
    let straight = all.pieces[0].centre.mm() - (400.0 - radius - all.ends[0].gap.mm());
    assert!((straight + radius * (1.0 / half.cos() - 1.0)).abs() < 1e-9, "{straight}");
}

#[test]
fn what_is_left_of_the_angle_is_halved_between_the_ends_which_share_a_cut_on_the_stick() {
    let (job, run, radius) = quarter();
    let job = made(&job, run, 0, kit(20.0, radius));
    let all = told(&job, run);
    let pies = all.bends[0].pies.as_ref().unwrap();
    assert_eq!(pies.count, 4);
    assert!((pies.end_saw - 5.0).abs() < 1e-9);
    let cutting = all.cutting.as_ref().unwrap();
    assert_eq!((cutting.cuts.len(), cutting.settings.len()), (2, 1));
    // The sum of both straights, a cut between them and one at the end.
    let lengths: f64 = all.pieces.iter().filter(|one| !is_pie(one.piece)).map(|one| one.centre.mm()).sum();
    let kerf = job.kerf();
    let used = lengths + kerf / 5.0_f64.to_radians().cos() + kerf;
    assert!((cutting.stock_used.mm() - used).abs() < 1e-6, "{} {used}", cutting.stock_used.mm());
    // From the shelf the two come off in chains of their own, and the pies are wanted.
    let saw = to_saw(&job, &Survey::new(&job), run, &Progress::default()).unwrap();
    assert_eq!(saw.uncut, [0..1, 5..6]);
    assert_eq!(saw.kits.iter().map(|kit| (kit.number, kit.at.clone())).collect::<Vec<_>>(), [(1, vec![1, 2, 3, 4])]);
}

#[test]
fn pies_that_turn_further_than_the_bend_or_were_made_for_another_radius_are_told_and_mended() {
    let (job, run, radius) = quarter();
    for sound in [kit(15.0, radius), kit(60.0, radius)] {
        let job = made(&job, run, 0, sound);
        assert_eq!(found(&job, run, FindingKind::PieTooWide), []);
        assert_eq!(found(&job, run, FindingKind::ElbowRadius), []);
    }
    let other = made(&job, run, 0, kit(15.0, radius * 1.3));
    let finding = found(&other, run, FindingKind::ElbowRadius);
    mended(&other, run, &finding[0]);
    let (flat, run) = turning(30.0);
    let wide = made(&flat, run, 0, kit(45.0, radius));
    let finding = found(&wide, run, FindingKind::PieTooWide);
    assert!(finding[0].words.mm.contains("less than one of the pies"), "{}", finding[0].words.mm);
    mended(&wide, run, &finding[0]);
}

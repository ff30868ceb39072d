//! The figures of bends and of the whole pipe, each worked out a second way.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::by_place::pies;
use crate::support::{draft, job_with, port, tube};
use nook_core::route::{PieCut, PieEnds, least_throat, usual_seams};
use nook_core::{Job, RunId, Workup, apply, workup};
use nook_geometry::units::SeamCount;
use proptest::prelude::*;
use std::f64::consts::PI;

fn two_bends() -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)))
}

fn with_seams(job: &Job, run: RunId, seams: u8, ends: PieEnds) -> Workup {
    workup(&apply(job, &pies(job, run, 0, Some(seams), ends)).unwrap().job, run).unwrap()
}

#[test]
fn every_count_of_seams_turns_the_whole_angle() {
    let (job, run) = two_bends();
    for seams in SeamCount::MIN..=SeamCount::MAX {
        let mitred = with_seams(&job, run, seams, PieEnds::Mitred);
        let bend = &mitred.bends[0];
        let cut = bend.pies.as_ref().unwrap();
        assert!((cut.saw * 2.0 * f64::from(seams) - bend.angle).abs() < 1e-9);
        assert_eq!((cut.count, bend.welds), (u32::from(seams) - 1, u32::from(seams)));
        let square = with_seams(&job, run, seams, PieEnds::Square);
        let butted = square.bends[0].pies.as_ref().unwrap();
        assert_eq!((butted.count, square.bends[0].welds), (u32::from(seams), u32::from(seams) + 1));
        // Oval on round: the long half axis of the cut less the tube's radius.
        let step = 63.5 / 2.0 / cut.saw.to_radians().cos() - 63.5 / 2.0;
        assert!((butted.end_step.mm() - step).abs() < 1e-9);
        for bend in [bend, &square.bends[0]] {
            assert_eq!(bend.weld_stations.len(), usize::try_from(bend.welds).unwrap());
            let inside = |station: &f64| *station >= bend.from.mm() - 1e-9 && *station <= bend.to.mm() + 1e-9;
            assert!(bend.weld_stations.iter().all(inside));
            assert!(bend.weld_stations.windows(2).all(|pair| pair[0] < pair[1]));
        }
    }
}

#[test]
fn seams_and_ends_change_nothing_but_the_cutting() {
    let (job, run) = two_bends();
    let before = workup(&job, run).unwrap();
    let after = with_seams(&job, run, 3, PieEnds::Square);
    assert_eq!(before.lra, after.lra);
    assert_eq!(before.bends[1], after.bends[1]);
    assert_eq!(before.totals.unwrap().developed, after.totals.unwrap().developed);
}

#[test]
fn sums_over_the_pipe_are_the_sums_of_its_parts() {
    let (job, run) = two_bends();
    let workup = workup(&job, run).unwrap();
    let totals = workup.totals.as_ref().unwrap();
    let straights: f64 = workup.straights.iter().map(|straight| straight.length.mm()).sum();
    let arcs: f64 = workup.bends.iter().map(|bend| bend.radius.mm() * bend.angle.to_radians()).sum();
    assert!((totals.developed.mm() - straights - arcs).abs() < 1e-9);
    let gaps: f64 = workup.ends.iter().map(|end| end.gap.mm()).sum();
    assert!((totals.mouth_to_mouth.mm() - totals.developed.mm() - gaps).abs() < 1e-9);
    // 63.5 by 1.5 mm stainless weighs pi (63.5 - 1.5) 1.5 mm2 x 7930 kg/m3 for its length of sawn pieces.
    let sawn: f64 = workup.pieces.iter().map(|piece| piece.centre.mm()).sum();
    assert!((totals.mass_kg - PI * 62.0 * 1.5 * 7930e-9 * sawn).abs() < 1e-9);
    assert!((totals.litres - PI / 4.0 * 60.5 * 60.5 * sawn * 1e-6).abs() < 1e-9);
    assert!(sawn > totals.developed.mm(), "mitred pies run outside the arc");
    let cutting = workup.cutting.as_ref().unwrap();
    assert!(cutting.stock_used.mm() > sawn && cutting.stock_used.mm() < sawn + 2.1 * 20.0);
    let stations: f64 = workup.straights.last().unwrap().to.mm();
    assert!((stations - totals.developed.mm()).abs() < 1e-9);
}

#[test]
fn the_table_walks_from_the_tube_s_end_at_a_to_its_end_at_b() {
    let (job, run) = two_bends();
    let workup = workup(&job, run).unwrap();
    let [a, b] = &workup.ends;
    let start = nook_geometry::Point::try_from(a.tube_end).unwrap();
    let leaving = nook_geometry::Direction::try_from(a.out).unwrap();
    let mut travel = nook_geometry::Travel::start(start, leaving);
    for row in &workup.lra {
        travel = travel.straight(row.length.mm());
        if let (Some(rotation), Some(angle), Some(radius)) = (row.rotation, row.angle, row.radius) {
            travel = travel.clocked(rotation.to_radians()).bend(radius.mm(), angle.to_radians());
        }
    }
    let reached: [f64; 3] = travel.at.coords.into();
    for (got, want) in reached.iter().zip(b.tube_end) {
        assert!((got - want).abs() < 1e-6, "{reached:?} is not {:?}", b.tube_end);
    }
}

proptest! {
    #[test]
    fn the_usual_count_is_smooth_or_as_many_as_the_throat_allows(
        od in 20.0..110.0_f64,
        wall in 0.8..2.5_f64,
        radius_in_diameters in 0.8..3.0_f64,
        angle in 2.0..170.0_f64,
    ) {
        let (tube, clr, angle) = (tube(od, wall), od * radius_in_diameters, angle.to_radians());
        let seams = usual_seams(tube, clr, angle);
        let throat = |seams: SeamCount| PieCut::new(od, clr, angle, seams, PieEnds::Mitred).throat;
        let smooth = angle.to_degrees() / f64::from(seams.get()) <= 10.0 + 1e-6;
        let at_limit = seams.one_more().is_none_or(|more| throat(more) < least_throat(tube));
        prop_assert!(smooth || at_limit, "{} seams are neither", seams.get());
        prop_assert!(angle.to_degrees() / f64::from(seams.get()) <= 90.0 + 1e-6, "no saw sets beyond 45");
    }

    /// The three lengths of a pie lie as far apart as the tube is wide, seen under the seam angle.
    #[test]
    fn throat_centre_and_back_are_evenly_spaced(
        od in 20.0..110.0_f64, clr in 20.0..300.0_f64, angle in 2.0..170.0_f64, seams in 2..20_u8,
        ends in prop_oneof![Just(PieEnds::Mitred), Just(PieEnds::Square)],
    ) {
        let pie = PieCut::new(od, clr, angle.to_radians(), SeamCount::new(seams).unwrap(), ends);
        prop_assert!((pie.back - 2.0 * pie.centre + pie.throat).abs() < 1e-9);
        prop_assert!((pie.back - pie.throat - 2.0 * od * pie.saw.tan()).abs() < 1e-9);
    }
}

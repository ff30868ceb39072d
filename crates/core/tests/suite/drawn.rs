//! Bends drawn by a tube bender: one piece of tube with true arcs in it, against closed forms.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::f64::consts::PI;

use nalgebra::{Point3, Vector3};
use nook_core::cut::PieceId;
use nook_core::measure::{KeepOutKind, KeepOutShape, Side};
use nook_core::route::{BendMake, LegId, PieEnds, RunDraft};
use nook_core::{CutEdit, Job, MeasureEdit, RunId, Workup, apply, workup};
use nook_geometry::units::{Name, OutsideDiameter};
use nook_geometry::{Direction, Point, Travel};
use proptest::prelude::*;

use crate::support::by_place::{bend, pies};
use crate::support::{draft, job_with, port, tube};

/// A pipe of two bends of tube of `od` mm.
fn pipe(od: f64) -> (Job, RunId) {
    let ends = draft(port([0.0; 3], [1.0, 0.0, 0.0], od), port([420.0, 210.0, 260.0], [0.0, 0.1, -1.0], od));
    job_with(RunDraft { tube: tube(od, 1.2), ..ends })
}

fn made(job: &Job, run: RunId, index: usize, make: Option<BendMake>) -> Job {
    let bend = bend(job, run, index);
    apply(job, &CutEdit::SetMake { run, bend, make }.into()).unwrap().job
}

fn told(job: &Job, run: RunId) -> Workup {
    workup(job, run).unwrap()
}

#[test]
fn small_tube_is_drawn_and_larger_is_sawn_unless_somebody_says() {
    for (od, drawn) in [(12.7, true), (24.99, true), (25.0, false), (63.5, false)] {
        let (job, run) = pipe(od);
        let bends = told(&job, run).bends;
        assert!(bends.iter().all(|bend| bend.pies.is_none() == drawn && !bend.make_chosen), "{od}");
        let other = if drawn { BendMake::PIES } else { BendMake::Drawn };
        let asked = made(&job, run, 0, Some(other));
        let bends = told(&asked, run).bends;
        assert_eq!(bends[0].pies.is_none(), !drawn, "{od}");
        assert_eq!(bends[1].pies.is_none(), drawn, "{od}: the other one stays as it is");
        assert_eq!(made(&asked, run, 0, None), job, "and back to usual");
    }
}

#[test]
fn what_is_drawn_is_one_piece_as_long_as_its_centre_line_with_nothing_to_weld() {
    let (job, run) = pipe(12.7);
    let told = told(&job, run);
    assert_eq!(told.pieces.len(), 1);
    let piece = &told.pieces[0];
    assert_eq!(piece.piece, PieceId::Tube { leg: LegId::FROM_A, after: None, spliced: 0 });
    assert_eq!(piece.drawn, told.bends.iter().map(|bend| bend.bend).collect::<Vec<_>>());
    let straights: f64 = told.straights.iter().map(|straight| straight.length.mm()).sum();
    let arcs: f64 = told.bends.iter().map(|bend| bend.radius.mm() * bend.angle.to_radians()).sum();
    assert!((piece.centre.mm() - straights - arcs).abs() < 1e-9);
    assert!((piece.longest.mm() - piece.shortest.mm()).abs() < 1e-9, "square at both ends");
    let totals = told.totals.as_ref().unwrap();
    assert_eq!((totals.seams, totals.weld.mm()), (0, 0.0));
    assert!((totals.mass_kg - PI * (12.7 - 1.2) * 1.2 * 7930e-9 * piece.centre.mm()).abs() < 1e-9);
    let cutting = told.cutting.as_ref().unwrap();
    assert_eq!((cutting.cuts.len(), cutting.lines.len()), (1, 0));
    // The bender's table, walked from A's tube end, ends on B's.
    let [a, b] = &told.ends;
    let mut travel = Travel::start(Point::try_from(a.tube_end).unwrap(), Direction::try_from(a.out).unwrap());
    let mut length = 0.0;
    for row in &told.lra {
        travel = travel.straight(row.length.mm());
        length += row.length.mm();
        if let (Some(rotation), Some(angle), Some(radius)) = (row.rotation, row.angle, row.radius) {
            travel = travel.clocked(rotation.to_radians()).bend(radius.mm(), angle.to_radians());
            length += radius.mm() * angle.to_radians();
        }
    }
    assert!((travel.at - Point3::from(b.tube_end)).norm() < 1e-6);
    assert!((length - piece.centre.mm()).abs() < 1e-9, "the blank is as long as its table");
}

#[test]
fn a_pipe_may_be_sawn_here_and_bent_there() {
    let (job, run) = pipe(38.1);
    let job = apply(&job, &pies(&job, run, 0, Some(4), PieEnds::Mitred)).unwrap().job;
    let job = made(&job, run, 1, Some(BendMake::Drawn));
    let told = told(&job, run);
    // A straight, three pies, and the rest of the tube with its bend in it.
    assert_eq!(told.pieces.len(), 5);
    let last = told.pieces.last().unwrap();
    assert_eq!(last.piece, PieceId::Tube { leg: LegId::after(told.bends[0].bend), after: None, spliced: 0 });
    assert_eq!(last.drawn, [told.bends[1].bend]);
    let saw = told.bends[0].pies.as_ref().unwrap().saw;
    assert!((last.saw_from - saw).abs() < 1e-9 && last.saw_to.abs() < 1e-9);
    let (second, third) = (&told.straights[1], &told.straights[2]);
    let overrun = told.bends[0].radius.mm() * saw.to_radians().tan();
    let arc = told.bends[1].radius.mm() * told.bends[1].angle.to_radians();
    assert!((last.centre.mm() - overrun - second.length.mm() - arc - third.length.mm()).abs() < 1e-9);
    assert_eq!(told.totals.as_ref().unwrap().seams, 4);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(80))]

    /// A ball beside a drawn bend: the gap is that to a torus, which has a closed form.
    #[test]
    fn the_air_beside_a_drawn_bend_is_that_of_a_torus(
        share in 0.15..0.85_f64,
        clock in 0.0..std::f64::consts::TAU,
        off in 3.0..14.0_f64,
        index in 0..2_usize,
    ) {
        let od = 19.05;
        let (job, run) = pipe(od);
        let told = told(&job, run);
        // The bend's own frame: from where it begins, along the straight before, towards its centre.
        let (one, before, after) = (&told.bends[index], &told.straights[index], &told.straights[index + 1]);
        let vertex = Point3::new(one.vertex[0].mm(), one.vertex[1].mm(), one.vertex[2].mm());
        let (along, onward) = (Vector3::from(before.along), Vector3::from(after.along));
        let inward = (onward - along * along.dot(&onward)).normalize();
        let (radius, angle) = (one.radius.mm(), one.angle.to_radians());
        let centre = vertex - along * (radius * (angle / 2.0).tan()) + inward * radius;
        let turned = angle * share;
        let outward = -inward * turned.cos() + along * turned.sin();
        let side = along.cross(&inward);
        // Beside the tube there, all round; within the tube's own plane towards the centre the gap is the same.
        let ball = 6.0;
        let place = centre + outward * radius + (outward * clock.cos() + side * clock.sin()) * (od / 2.0 + off + ball / 2.0);
        let shape = KeepOutShape::Sphere { centre: Point::new(place.x, place.y, place.z).unwrap(), diameter: ball };
        let add = MeasureEdit::AddKeepOut {
            name: Name::new("knob").unwrap(), kind: KeepOutKind::StillMetal, rides: Side::Body, shape, big: false,
        };
        let air = workup(&apply(&job, &add.into()).unwrap().job, run).unwrap().air.unwrap();
        let knob = air.things.iter().position(|thing| thing.name == "knob");
        // Only the arc: the hose at an end is fatter, and may be nearer.
        let begins: f64 = told.straights[..=index].iter().map(|straight| straight.length.mm()).sum::<f64>()
            + told.bends[..index].iter().map(|bend| bend.radius.mm() * bend.angle.to_radians()).sum::<f64>();
        let on_arc = |from: f64, to: f64| from >= begins - 1e-6 && to <= begins + radius * angle + 1e-6;
        let gaps = air.trace.iter().filter(|piece| piece.thing.is_some() && piece.thing == knob);
        let gaps = gaps.filter(|piece| on_arc(piece.from, piece.to));
        let near = gaps.filter_map(|piece| piece.gap.as_ref()).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min);
        prop_assume!(near.is_finite());
        // What clearance is proven to.
        prop_assert!(near <= off + nook_geometry::clearance::TOLERANCE, "told {near}, and it is {off}");
        prop_assert!(near >= off - 0.1, "told {near}, and it is {off}");
    }
}

#[test]
fn a_hose_of_one_size_is_drawn_as_well_where_both_ends_are_small() {
    // What decides is the tube, not its ports.
    let (job, run) = pipe(24.0);
    let mut port = job.run(run).unwrap().a.clone();
    port.od = OutsideDiameter::new(60.0).unwrap();
    let end = nook_core::measure::End::A;
    let job = apply(&job, &MeasureEdit::SetPort { run, end, port }.into()).unwrap().job;
    assert!(told(&job, run).bends.iter().all(|bend| bend.pies.is_none()));
}

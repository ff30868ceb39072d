//! The outside that is held against things is the outside of what is sawn: pieces of tube between their planes, sampled
//! densely, mitred and square ends, few seams and many.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::f64::consts::TAU;

use super::kit_pies::{kit, made};
use crate::support::by_place::{kind as kind_of, pies};
use crate::support::{draft, job_with, port};
use nook_core::join::JointKind;
use nook_core::measure::{End, KeepOutKind, KeepOutShape, Side};
use nook_core::route::PieEnds;
use nook_core::workup::PieceWorkup;
use nook_core::{Edit, MeasureEdit, apply, workup};
use nook_geometry::units::Name;
use nook_geometry::{Point, Vector};
use proptest::prelude::*;

/// Distance in mm from a place to the outside of a piece.
fn to_piece(piece: &PieceWorkup, od: f64, at: &Vector) -> f64 {
    let solid = &piece.solids[0].solid;
    let [from, to, start, end] = [solid.from, solid.to, solid.from_normal, solid.to_normal].map(Vector::from);
    let along = (to - from).normalize();
    let aside = along.cross(&Vector::ith(along.iamin(), 1.0)).normalize();
    let other = along.cross(&aside);
    let lines = (0..180).map(|k| {
        let phi = TAU * f64::from(k) / 180.0;
        let out = (aside * phi.cos() + other * phi.sin()) * (od / 2.0);
        // Where this line of the tube meets both planes, and the nearest place between.
        let (first, last) = (from + out, to + out);
        let first = first - along * (start.dot(&(first - from)) / start.dot(&along));
        let last = last - along * (end.dot(&(last - to)) / end.dot(&along));
        let way = last - first;
        let share = ((at - first).dot(&way) / way.norm_squared()).clamp(0.0, 1.0);
        (at - (first + way * share)).norm()
    });
    lines.fold(f64::INFINITY, f64::min)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]
    #[test]
    fn nothing_sawn_is_nearer_than_the_trace_says(
        seams in 1..9_u8,
        sort in 0..3_u8,
        bend in 0..2_usize,
        along in 0.0..1.0_f64,
        clock in 0.0..TAU,
        off in 6.0..30.0_f64,
    ) {
        let ends = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5));
        let (mut job, run) = job_with(ends);
        let ends = if sort == 1 { PieEnds::Square } else { PieEnds::Mitred };
        let edits = [
            kind_of(&job, run, End::A, JointKind::Metal),
            kind_of(&job, run, End::B, JointKind::Metal),
            pies(&job, run, bend, Some(seams), ends),
        ];
        for edit in &edits {
            job = apply(&job, edit).unwrap().job;
        }
        if sort == 2 {
            // Bought pies, the straights' ends sawn at what is left of the angle.
            let of = &workup(&job, run).unwrap().bends[bend];
            let each = (of.angle / (f64::from(seams) + 0.5)).min(60.0);
            job = made(&job, run, bend, kit(each, of.radius.mm()));
        }
        let before = workup(&job, run).unwrap();
        prop_assume!(before.cutting.is_some());
        let slices: Vec<&PieceWorkup> = before.pieces.iter().filter(|piece| {
            matches!(piece.piece, nook_core::cut::PieceId::Pie { bend: of, .. } if of == before.bends[bend].bend)
        }).collect();
        // Beside one of the bend's pies, or beside its only seam.
        let beside = slices.get(slices.len() / 2).copied().unwrap_or(&before.pieces[bend]);
        let [from, to] = [beside.solids[0].solid.from, beside.solids[0].solid.to].map(Vector::from);
        let way = (to - from).normalize();
        let aside = way.cross(&Vector::ith(way.iamin(), 1.0)).normalize();
        let radial = aside * clock.cos() + way.cross(&aside) * clock.sin();
        let centre = from + (to - from) * along + radial * (63.5 / 2.0 + off + 5.0);
        let shape = KeepOutShape::Sphere { centre: Point::new(centre.x, centre.y, centre.z).unwrap(), diameter: 10.0 };
        let add = Edit::Measure(MeasureEdit::AddKeepOut {
            name: Name::new("knob").unwrap(), kind: KeepOutKind::StillMetal, rides: Side::Body, shape, big: false });
        let after = workup(&apply(&job, &add).unwrap().job, run).unwrap();
        let air = after.air.as_ref().unwrap();
        let knob = air.things.iter().position(|thing| thing.name == "knob");
        let told = air.trace.iter().filter(|piece| piece.thing.is_some() && piece.thing == knob);
        let told = told.filter_map(|piece| piece.gap.as_ref()).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min);
        prop_assume!(told.is_finite());
        let sawn = before.pieces.iter().map(|piece| to_piece(piece, 63.5, &centre)).fold(f64::INFINITY, f64::min) - 5.0;
        prop_assert!(told <= sawn + 0.1, "told {told:.2}, sawn {sawn:.2}");
        // A corner counts all round, along the middle of the seam as far as it reaches on the outer side: 0.5 mm for the
        // usual saws, tens of mm for a single mitre.
        let saw = before.bends[bend].pies.as_ref().unwrap().saw.to_radians();
        let corner = 63.5 / 2.0 * (1.0 / saw.cos() - 1.0 + saw.tan().powi(2));
        prop_assert!(sawn <= told + 0.7 + corner, "told {told:.2}, sawn {sawn:.2}, corners {corner:.2}");
    }
}

//! The outside of a pipe's ends and what its parts ride on, against a list of lengths and radii written out by hand.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::by_place::change;
use crate::support::{draft, job_with, port, tube};
use nook_core::assembly::Assembly;
use nook_core::edit::JointChange;
use nook_core::join::JointKind;
use nook_core::measure::{End, EndForm, Side};
use nook_core::route::ResolvedRun;
use nook_core::{Edit, SpecEdit, apply};
use nook_geometry::clearance::{Envelope, Rides};
use nook_geometry::units::{Gap, Insulation, Seat};
use proptest::prelude::*;

/// One end of a straight pipe along x.
#[derive(Debug, Clone, Copy)]
struct Given {
    kind: JointKind,
    form: EndForm,
    rides: Side,
    od: f64,
    gap: f64,
    seat: f64,
}

const APART: f64 = 400.0;
const TUBE: f64 = 60.0;

fn outside(ends: [Given; 2], wrapped: Option<f64>) -> Envelope {
    let [a, b] = ends;
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], a.od), port([APART, 0.0, 0.0], [-1.0, 0.0, 0.0], b.od));
    (run.a.form, run.a.rides, run.b.form, run.b.rides) = (a.form, a.rides, b.form, b.rides);
    run.tube = tube(TUBE, 1.5);
    let (mut job, run) = job_with(run);
    for (end, given) in [(End::A, a), (End::B, b)] {
        let (gap, seat) = (Gap::new(given.gap).ok(), Seat::new(given.seat).ok());
        for edit in [JointChange::Kind { kind: given.kind }, JointChange::Gap { gap }, JointChange::Seat { seat }] {
            job = apply(&job, &change(&job, run, end, edit)).unwrap().job;
        }
    }
    let insulation = wrapped.map(|mm| Insulation::new(mm).unwrap());
    job = apply(&job, &Edit::Spec(SpecEdit::SetInsulation { run, insulation })).unwrap().job;
    let run = ResolvedRun::as_typed(job.run(run).unwrap());
    Assembly::build(&run).unwrap().unwrap().envelope(&run)
}

fn any_end() -> impl Strategy<Value = Given> {
    let kind = prop_oneof![Just(JointKind::Coupler), Just(JointKind::Reducer), Just(JointKind::Metal)];
    let form = prop_oneof![Just(EndForm::Plain), Just(EndForm::Beaded), Just(EndForm::Flanged)];
    let rides = prop_oneof![Just(Side::Engine), Just(Side::Body)];
    (kind, form, rides, 40.0..80.0_f64, 1.0..50.0_f64, 26.0..60.0_f64)
        .prop_map(|(kind, form, rides, od, gap, seat)| Given { kind, form, rides, od, gap, seat })
}

/// How thick the pipe is at most at `x`, from the parts that reach there.
fn radius_at(envelope: &Envelope, x: f64) -> f64 {
    let there = envelope.all().filter(|part| {
        let [from, to] = [part.span.at(0.0).0.x, part.span.at(part.span.length()).0.x];
        (from..=to).contains(&x)
    });
    there.map(|part| part.radius).fold(0.0, f64::max)
}

/// The same as the handbook has it: four plies of silicone 5 mm, over both ends' sizes and both seats with the bead's 6 mm;
/// a clamp 12 mm high, 18 where its screw is, which may be at any clock, and 14 wide, 8 mm behind the tube's end; a flange 22 mm
/// beyond the tube and 10 mm deep. Where a hose joins what moves to what does not, it may lie beside either by half of what it
/// gives, 2 mm aside and 3 along at once.
fn by_hand(end: Given, from_mouth: f64, bare: f64, tube: Rides) -> f64 {
    let wider = TUBE.max(end.od) / 2.0;
    let mut thick = bare;
    match (end.kind, end.form) {
        (JointKind::Metal, EndForm::Flanged) if from_mouth <= 10.0 => thick = thick.max(wider + 22.0),
        (JointKind::Metal, _) => {}
        _ => {
            if from_mouth <= end.gap + end.seat + 6.0 {
                thick = thick.max(wider + 5.0);
            }
            let moves = tube != side(end.rides) && tube != Rides::Between;
            if moves && from_mouth < end.gap {
                thick += f64::hypot(2.0, 3.0) / 2.0;
            }
            if (end.gap + 8.0..=end.gap + 22.0).contains(&from_mouth) {
                thick = thick.max(TUBE / 2.0 + 18.0);
            }
        }
    }
    thick
}

fn side(side: Side) -> Rides {
    if side == Side::Engine { Rides::Engine } else { Rides::Body }
}

fn stiff(end: Given) -> bool {
    end.kind == JointKind::Metal
}

/// What a tube rides on: its ends' side where that is one; else the side metal ties it to; between where both give or
/// neither does.
fn tube_rides(ends: [Given; 2]) -> Rides {
    let [a, b] = ends;
    let of = side;
    match (a.rides == b.rides, stiff(a), stiff(b)) {
        (true, ..) | (false, true, false) => of(a.rides),
        (false, false, true) => of(b.rides),
        (false, true, true) | (false, false, false) => Rides::Between,
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]
    #[test]
    fn hoses_clamps_and_flanges_stand_where_they_are_made(
        a in any_end(),
        b in any_end(),
        wrapped in prop::option::of(1.0..20.0_f64),
        x in 0.0..APART,
    ) {
        // Not within a hair of where something begins.
        let ends = |g: Given| [0.0, 10.0, g.gap / 2.0, g.gap, g.gap + 8.0, g.gap + 22.0, g.gap + g.seat + 6.0];
        prop_assume!(ends(a).iter().all(|s| (x - s).abs() > 1e-6));
        prop_assume!(ends(b).iter().all(|s| (APART - x - s).abs() > 1e-6));
        let envelope = outside([a, b], wrapped);
        let bare = TUBE / 2.0 + wrapped.unwrap_or(0.0);
        let tube = tube_rides([a, b]);
        let expect = by_hand(a, x, bare, tube).max(by_hand(b, APART - x, bare, tube));
        prop_assert!((radius_at(&envelope, x) - expect).abs() < 1e-9, "{} {expect}", radius_at(&envelope, x));
    }

    #[test]
    fn every_part_rides_on_what_holds_it(a in any_end(), b in any_end()) {
        let envelope = outside([a, b], None);
        let tube = tube_rides([a, b]);
        let gap = |end: Given| if stiff(end) { 0.0 } else { end.gap };
        for part in envelope.all() {
            let middle = f64::midpoint(part.stations[0], part.stations[1]);
            let near = [(a, middle), (b, APART - middle)].into_iter().find(|(end, s)| *s < gap(*end));
            let expect = near.map_or(tube, |(end, s)| {
                let port = side(end.rides);
                let half = if s < gap(end) / 2.0 { port } else { tube };
                if port == tube || tube != Rides::Between { half } else { Rides::Between }
            });
            prop_assert_eq!(part.rides, expect, "at {}", middle);
        }
    }
}

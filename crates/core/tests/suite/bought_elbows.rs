//! Bends made of bought elbows: what is sawn of them, and that the pipe put together from what is printed joins its ports.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nalgebra::{Point3, Vector3};
use nook_core::findings::FindingKind;
use nook_core::join::{BranchKind, SupportKind};
use nook_core::measure::{End, Side};
use nook_core::record::Progress;
use nook_core::route::{BendMake, Centreline, Route, StockElbow};
use nook_core::survey::Survey;
use nook_core::workup::{StockElbowWorkup, to_saw};
use nook_core::{CutEdit, Edit, Job, RouteEdit, RunId, Workup};
use nook_geometry::Direction;
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg};
use proptest::prelude::*;

use crate::support::branched::let_in;
use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, held, mended, told, with};
use crate::support::{draft, job_with, port};

type V3 = Vector3<f64>;

const OD: f64 = 63.5;
const RADIUS: f64 = 95.25;

fn elbow(angle: f64, legs: [f64; 2]) -> StockElbow {
    let legs = legs.map(|leg| ElbowLeg::new(leg).unwrap());
    StockElbow { radius: BendRadius::new(RADIUS).unwrap(), angle: ElbowAngle::new(angle).unwrap(), legs }
}

/// A charge pipe of one bend of so many degrees, 400 from either mouth to the corner.
pub(crate) fn turning(degrees: f64) -> (Job, RunId) {
    let (sin, cos) = degrees.to_radians().sin_cos();
    let b = port([400.0 + 400.0 * cos, 400.0 * sin, 0.0], [-cos, -sin, 0.0], OD);
    let (job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), b));
    let radius = RouteEdit::SetRadius { run, radius: BendRadius::new(RADIUS).unwrap() };
    let way = RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) };
    (with(&job, &[radius.into(), way.into()]), run)
}

fn made(job: &Job, run: RunId, bend: usize, stock: StockElbow, cut: End) -> Job {
    let bend = bend_at(job, run, bend);
    with(job, &[CutEdit::SetMake { run, bend, make: Some(BendMake::Elbow { stock, cut }) }.into()])
}

fn bought(workup: &Workup, bend: usize) -> &StockElbowWorkup {
    workup.bends[bend].bought.as_ref().unwrap()
}

#[test]
fn a_whole_elbow_is_welded_between_two_tubes_at_the_ends_of_its_legs() {
    let (job, run) = turning(90.0);
    let job = made(&job, run, 0, elbow(90.0, [40.0, 60.0]), End::B);
    let all = told(&job, run);
    let gap = all.ends[0].gap.mm();
    let lengths: Vec<f64> = all.pieces.iter().map(|piece| piece.centre.mm()).collect();
    let arc = RADIUS * std::f64::consts::FRAC_PI_2;
    let wanted = [400.0 - RADIUS - gap - 40.0, 40.0 + arc + 60.0, 400.0 - RADIUS - gap - 60.0];
    assert!(lengths.len() == 3 && lengths.iter().zip(wanted).all(|(have, want)| (have - want).abs() < 1e-9));
    assert_eq!((all.bends[0].welds, all.totals.as_ref().unwrap().seams, all.bends[0].pies.is_none()), (2, 2, true));
    assert_eq!(all.pieces.iter().map(|piece| piece.elbow.is_some()).collect::<Vec<_>>(), [false, true, false]);
    let acts = &bought(&all, 0).acts;
    assert!(bought(&all, 0).trim.is_none() && acts.len() == 1 && acts[0].mm == "Nothing is sawn of it.");
    // The stick gives the two tubes and no more; the elbow is told by its throat.
    let cutting = all.cutting.as_ref().unwrap();
    assert_eq!(cutting.cuts.iter().filter_map(|cut| cut.frees.clone()).collect::<Vec<_>>().len(), 2);
    assert_eq!(cutting.meetings.iter().map(|one| one.next_line.as_str()).next(), Some("throat"));
    // From the shelf it is two chains, and neither is the elbow.
    let survey = Survey::new(&job);
    assert_eq!(to_saw(&job, &survey, run, &Progress::default()).unwrap().uncut, [0..1, 2..3]);
}

#[test]
fn a_trimmed_elbow_has_its_marks_and_no_leg_where_it_is_sawn() {
    let (job, run) = turning(60.0);
    for (end, used) in [(End::B, [40.0, 0.0]), (End::A, [0.0, 60.0])] {
        let job = made(&job, run, 0, elbow(90.0, [40.0, 60.0]), end);
        let all = told(&job, run);
        let one = bought(&all, 0);
        let trim = one.trim.as_ref().unwrap();
        let turn = 60.0_f64.to_radians();
        for (mark, at) in [(&trim.throat, RADIUS - OD / 2.0), (&trim.centre, RADIUS), (&trim.back, RADIUS + OD / 2.0)] {
            assert!((mark.mm() - at * turn).abs() < 1e-9);
        }
        assert_eq!((one.used.map(|leg| leg.mm()), trim.end), (used, end));
        assert_eq!(found(&job, run, FindingKind::OutOfRound).len(), 1);
    }
    // A quarter of a degree too much is not sawn off.
    let (job, run) = turning(89.8);
    let whole = made(&job, run, 0, elbow(90.0, [40.0, 60.0]), End::B);
    assert!(bought(&told(&whole, run), 0).trim.is_none());
    assert!(found(&whole, run, FindingKind::OutOfRound).is_empty());
}

#[test]
fn an_elbow_that_does_not_fit_its_bend_is_told_and_mended() {
    let (job, run) = turning(90.0);
    let small = made(&job, run, 0, elbow(45.0, [40.0, 40.0]), End::B);
    let found_small = found(&small, run, FindingKind::ElbowTooSmall);
    assert_eq!(found_small.len(), 1);
    mended(&small, run, &found_small[0]);
    let other = StockElbow { radius: BendRadius::new(101.6).unwrap(), ..elbow(90.0, [40.0, 40.0]) };
    let wide = made(&job, run, 0, other, End::B);
    let found_wide = found(&wide, run, FindingKind::ElbowRadius);
    assert_eq!(found_wide.len(), 1);
    mended(&wide, run, &found_wide[0]);
    assert!(found_wide[0].remedies.len() == 2);
    for kind in [FindingKind::ElbowTooSmall, FindingKind::ElbowRadius] {
        assert_eq!(found(&made(&job, run, 0, elbow(90.0, [40.0, 40.0]), End::B), run, kind), []);
    }
}

#[test]
fn a_leg_that_reaches_the_joint_needs_no_weld_and_none_comes_into_a_seat() {
    let (job, run) = turning(90.0);
    let gap = told(&job, run).ends[0].gap.mm();
    let straight = 400.0 - RADIUS - gap;
    // As long as the straight, or longer: sawn to it and free.
    for leg in [straight, straight + 50.0] {
        let all = told(&made(&job, run, 0, elbow(90.0, [leg, 60.0]), End::B), run);
        assert_eq!((all.pieces.len(), all.bends[0].welds), (2, 1));
        assert!((bought(&all, 0).used[0].mm() - straight).abs() < 1e-9);
        assert!(all.pieces[0].hoses[0].mm() > 0.0, "the hose sits on the leg");
    }
    // A little less would weld under the hose: the leg is sawn back until the weld is clear of the seat.
    let all = told(&made(&job, run, 0, elbow(90.0, [straight - 5.0, 60.0]), End::B), run);
    let tube = all.pieces[0].centre.mm();
    assert!(all.pieces.len() == 3 && tube > all.pieces[0].hoses[0].mm() + 6.0, "{tube}");
}

#[test]
fn what_holds_the_pipe_stands_clear_of_an_elbows_weld() {
    let (job, run) = turning(90.0);
    let job = made(&job, run, 0, elbow(90.0, [60.0, 60.0]), End::B);
    let weld = told(&job, run).bends[0].weld_stations[1];
    let start = told(&job, run).bends[0].to.mm();
    for (beside, severe) in [(0.0, true), (15.0 + 15.0 + 1.0, false)] {
        let (clamped, _) = held(&job, run, (1, weld - start + beside), SupportKind::Clamps, Side::Body);
        let seams = found(&clamped, run, FindingKind::SupportOnSeam);
        assert_eq!(!seams.is_empty(), severe, "{beside}");
        seams.iter().for_each(|finding| mended(&clamped, run, finding));
    }
}

#[test]
fn what_is_let_in_stands_clear_of_an_elbows_weld() {
    let (job, run) = turning(90.0);
    let job = made(&job, run, 0, elbow(90.0, [60.0, 60.0]), End::B);
    let mouth = 60.0;
    for (beside, told_of) in [(0.0, true), (60.0, false)] {
        let (let_in, _) = let_in(&job, run, (1, mouth + beside), BranchKind::TemperatureSensor);
        let seams = found(&let_in, run, FindingKind::BranchOnSeam);
        assert_eq!(!seams.is_empty(), told_of, "{beside}");
        for seam in &seams {
            assert!(seam.words.mm.contains("the weld of bend 1's elbow"), "{}", seam.words.mm);
            mended(&let_in, run, seam);
        }
    }
}

#[test]
fn thin_tube_is_said_to_go_oval_and_thick_tube_is_not() {
    for (wall, thin) in [(1.2, true), (2.0, false)] {
        let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([600.0, 0.0, 0.0], [-1.0, 0.0, 0.0], OD));
        run.tube = crate::support::tube(OD, wall);
        let (job, run) = job_with(run);
        let way = RouteEdit::TakeWay { run, way: Route::along(Centreline::Straight) };
        assert_eq!(!found(&with(&job, &[Edit::Route(way)]), run, FindingKind::OutOfRound).is_empty(), thin);
    }
}

/// Degrees clockwise of its throat at which a line of an elbow lies, by its name.
fn off_throat(line: &str) -> f64 {
    match line.split_once('\u{b0}') {
        Some((degrees, way)) => degrees.parse::<f64>().unwrap() * if way.starts_with(" clock") { 1.0 } else { -1.0 },
        None => {
            if line == "back" {
                180.0
            } else {
                0.0
            }
        }
    }
}

/// Puts the pipe together from what is printed: lengths of tube, legs, marks, and the clocks that throats stand at.
/// Where the pipe ends, which way, and whether all was told exactly.
fn put_together(all: &Workup, at: Point3<f64>, along: Direction) -> (Point3<f64>, V3, bool) {
    let mut exact = true;
    let (mut at, mut along, mut up) = (at, along.vector(), V3::z());
    let meetings = &all.cutting.as_ref().unwrap().meetings;
    for piece in &all.pieces {
        let Some(bend) = piece.elbow.and_then(|bend| all.bends.iter().find(|one| one.bend == bend)) else {
            at += along * piece.centre.mm();
            continue;
        };
        let bought = bend.bought.as_ref().unwrap();
        // The throat of this elbow, by its line that meets a neighbour.
        let mine = |row: &nook_core::workup::MeetingRow| {
            let line = if row.piece == piece.name { Some(&row.line) } else { None };
            Some((off_throat(line.or((row.next == piece.name).then_some(&row.next_line))?), row.stands))
        };
        let lines: Vec<(f64, f64)> = meetings.iter().filter_map(mine).collect();
        // One that is the throat itself is told exactly; another to a tenth of a degree.
        let (off, stands) = *lines.iter().min_by(|p, q| p.0.abs().total_cmp(&q.0.abs())).unwrap();
        exact &= off == 0.0;
        let clock = (stands - off).to_radians();
        let turn = bought.trim.as_ref().map_or(bought.angle.to_radians(), |trim| trim.centre.mm() / bought.radius.mm());
        let towards = up * clock.cos() + along.cross(&up) * clock.sin();
        let turned = |v: V3| {
            let (a, c) = (v.dot(&along), v.dot(&towards));
            v + along * (a * (turn.cos() - 1.0) - c * turn.sin()) + towards * (a * turn.sin() + c * (turn.cos() - 1.0))
        };
        at += along * bought.used[0].mm();
        at += (along * turn.sin() + towards * (1.0 - turn.cos())) * bought.radius.mm();
        (along, up) = (turned(along), turned(up));
        at += along * bought.used[1].mm();
    }
    (at, along, exact)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Whatever the legs, the pipe sawn and welded as printed ends at B; tube and elbows are the whole of it, each piece begins
    /// where the one before it ends, and what is welded is what meets.
    #[test]
    fn put_together_as_printed_it_ends_at_its_port(
        x in 350.0..700.0_f64, y in -300.0..300.0_f64, z in 300.0..600.0_f64,
        legs in prop::array::uniform4(0.0..220.0_f64), whole in any::<bool>(), cut in prop::sample::select(vec![End::A, End::B]),
    ) {
        let (job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([x, y, z], [0.0, 0.1, -1.0], OD)));
        let plain = told(&job, run);
        prop_assume!(plain.bends.len() == 2 && plain.totals.is_some());
        let mut with_elbows = job.clone();
        for bend in 0..2 {
            let angle = if whole { plain.bends[bend].angle } else { (plain.bends[bend].angle + 20.0).min(179.0) };
            let radius = BendRadius::new(plain.bends[bend].radius.mm()).unwrap();
            let stock = StockElbow { radius, ..elbow(angle, [legs[2 * bend], legs[2 * bend + 1]]) };
            with_elbows = made(&with_elbows, run, bend, stock, cut);
        }
        let all = told(&with_elbows, run);
        prop_assert!(all.findings.iter().all(|one| one.kind != FindingKind::ElbowTooSmall));
        let totals = all.totals.as_ref().unwrap();
        let sum: f64 = all.pieces.iter().map(|piece| piece.centre.mm()).sum();
        prop_assert!((sum - totals.developed.mm()).abs() < 1e-6);
        prop_assert_eq!(usize::try_from(totals.seams).unwrap(), all.pieces.len() - 1);
        for pair in all.pieces.windows(2) {
            prop_assert!((pair[0].to.mm() - pair[1].from.mm()).abs() < 1e-6);
            let [last, first] = [pair[0].solids.last().unwrap(), &pair[1].solids[0]];
            prop_assert!((Point3::from(last.solid.to) - Point3::from(first.solid.from)).norm() < 1e-6);
        }
        // No leg is longer than it was bought, no tube shorter than half its diameter.
        for bend in 0..2 {
            let one = bought(&all, bend);
            prop_assert!(one.used.iter().zip(&one.legs).all(|(used, leg)| used.mm() >= 0.0 && used.mm() <= leg.mm() + 1e-9));
        }
        let tubes = all.pieces.iter().filter(|piece| piece.elbow.is_none());
        for tube in tubes {
            prop_assert!(tube.centre.mm() >= OD / 2.0 - 1e-6 || tube.centre.mm() >= plain.straights.iter().map(|one| one.length.mm()).fold(f64::INFINITY, f64::min) - 1e-6);
        }
        let begin = all.ends[0].tube_end;
        let (at, along, exact) = put_together(&all, Point3::from(begin), Direction::new(1.0, 0.0, 0.0).unwrap());
        let end = Point3::from(all.ends[1].tube_end);
        // A twentieth of a degree, over the length of the pipe.
        let good = if exact { 1e-6 } else { 0.05_f64.to_radians() * totals.developed.mm() };
        prop_assert!((at - end).norm() < good, "{at} {end}");
        let aim = if exact { 1e-9 } else { 1e-3 };
        prop_assert!((along + V3::new(0.0, 0.1, -1.0).normalize()).norm() < aim);
    }
}

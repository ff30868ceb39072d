//! What is printed is sawn: the cut list as it is written, read by somebody who knows nothing else. The stick is sawn
//! numerically, its pieces are put together line to line, and the pipe must land on both ports. No code is shared with
//! what made the list.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::cast_precision_loss,
    reason = "a test fails by panicking, and its counts are small"
)]

use std::collections::HashMap;
use std::f64::consts::PI;

use crate::support::by_place::pies;
use crate::support::{any_draft, job_with};
use nook_core::edit::JointChange;
use nook_core::join::JointKind;
use nook_core::measure::End;
use nook_core::route::{AlongAnchor, LegEnd, PieEnds};
use nook_core::{Edit, Job, JoinEdit, RunId, Workup, apply, workup};
use nook_formats::cut_list_csv;
use nook_geometry::units::AlongLeg;
use proptest::prelude::*;

pub(crate) type V3 = [f64; 3];

fn add(a: V3, b: V3, by: f64) -> V3 {
    [0, 1, 2].map(|i| a[i] + b[i] * by)
}

fn dot(a: V3, b: V3) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn cross(a: V3, b: V3) -> V3 {
    [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
}

fn unit(a: V3) -> V3 {
    let size = dot(a, a).sqrt();
    a.map(|c| c / size)
}

/// A place and three square axes.
#[derive(Clone, Copy)]
pub(crate) struct Frame {
    at: V3,
    axes: [V3; 3],
}

impl Frame {
    /// With its first axis along `along`, its second as near to `towards` as that leaves.
    fn new(at: V3, along: V3, towards: V3) -> Self {
        let x = unit(along);
        let y = unit(add(towards, x, -dot(towards, x)));
        Self { at, axes: [x, y, cross(x, y)] }
    }

    fn out(&self, local: V3) -> V3 {
        (0..3).fold(self.at, |at, i| add(at, self.axes[i], local[i]))
    }

    fn turned_out(&self, local: V3) -> V3 {
        (0..3).fold([0.0; 3], |at, i| add(at, self.axes[i], local[i]))
    }

    fn inward(&self, at: V3) -> V3 {
        let off = add(at, self.at, -1.0);
        self.axes.map(|axis| dot(off, axis))
    }

    fn turned_in(&self, way: V3) -> V3 {
        self.axes.map(|axis| dot(way, axis))
    }
}

/// A plane across the stick: where it meets the axis, and how it rises towards the line on top. The stick lies along x
/// from its squared end; seen from there, z is up and a clock counts to the right, which is -y.
#[derive(Clone, Copy)]
pub(crate) struct Plane {
    centre: f64,
    slope: f64,
    top: f64,
}

fn towards(clock: f64) -> V3 {
    [0.0, -clock.sin(), clock.cos()]
}

impl Plane {
    fn normal(&self) -> V3 {
        unit(add([1.0, 0.0, 0.0], towards(self.top), -self.slope))
    }

    /// The place on the rim at a line.
    fn rim(&self, clock: f64, radius: f64) -> V3 {
        let x = self.centre + radius * self.slope * (clock - self.top).cos();
        add([x, 0.0, 0.0], towards(clock), radius)
    }

    fn beyond(&self, kerf: f64) -> Self {
        Self { centre: self.centre + kerf * self.slope.hypot(1.0), ..*self }
    }
}

pub(crate) struct Piece {
    pub(crate) name: String,
    from: Plane,
    to: Plane,
    /// The piece it meets towards B, its own line there and the line of that.
    pub(crate) meets: Option<[String; 3]>,
    pub(crate) stands: Option<f64>,
    pub(crate) gap: f64,
}

pub(crate) struct Sawn {
    pub(crate) pieces: Vec<Piece>,
    /// Clocks of the scribed lines in radians.
    pub(crate) lines: HashMap<String, f64>,
    pub(crate) cuts: usize,
}

fn off_turn(angle: f64) -> f64 {
    (angle + PI).rem_euclid(2.0 * PI) - PI
}

/// A table as it is read: its heads and some of its rows.
pub(crate) struct Table {
    pub(crate) heads: csv::StringRecord,
    pub(crate) rows: Vec<csv::StringRecord>,
}

impl Table {
    pub(crate) fn of(text: &str) -> Self {
        let mut reader = csv::Reader::from_reader(text.as_bytes());
        let heads = reader.headers().unwrap().clone();
        Self { heads, rows: reader.records().map(Result::unwrap).collect() }
    }

    /// What stands in a row under the head that begins so; nothing where there is no such head.
    pub(crate) fn cell(&self, row: usize, name: &str) -> Option<String> {
        let column = self.heads.iter().position(|head| head.starts_with(name))?;
        Some(self.rows[row][column].to_owned())
    }
}

/// Saws a stick as the list says, from so many mm of its squared end, and checks on the way that the list says the same thing
/// twice over.
pub(crate) fn saw(table: &Table, od: f64, from: f64) -> Sawn {
    let rows = &table.rows;
    let cell = |row: usize, name: &str| table.cell(row, name).unwrap_or_default();
    let number = |row: usize, name: &str| cell(row, name).parse::<f64>().ok();
    let mut lines = HashMap::new();
    for row in 0..rows.len() {
        if let Some(round) = number(row, "line_up_round") {
            lines.insert(cell(row, "line_up"), round / (od / 2.0));
        }
    }
    // A line's other name: `a` and `b` of a pair lie opposite.
    for (name, clock) in lines.clone() {
        let other = if name.ends_with('a') { name.replace('a', "b") } else { name.replace('b', "a") };
        lines.entry(other).or_insert(clock + PI);
    }
    let mut top: Option<f64> = None;
    let mut before = Plane { centre: from, slope: 0.0, top: 0.0 };
    let mut pieces = Vec::new();
    for row in 0..rows.len() {
        let [up, down] = ["mark_up_mm", "mark_down_mm"].map(|mark| number(row, mark).unwrap());
        let line = cell(row, "line_up");
        if !line.is_empty() {
            let now = lines[&line];
            // Turning the tube clockwise by d brings up what lay d anticlockwise of the top.
            let turned = match (cell(row, "turn").as_str(), number(row, "turn_deg")) {
                ("line up", None) => now,
                ("stay", Some(_)) => top.unwrap(),
                ("half turn", Some(_)) => top.unwrap() + PI,
                ("clockwise seen from the squared end", Some(degrees)) => top.unwrap() - degrees.to_radians(),
                ("anticlockwise seen from the squared end", Some(degrees)) => top.unwrap() + degrees.to_radians(),
                other => panic!("{other:?} is no way to turn"),
            };
            let off = off_turn(turned - now).abs();
            assert!(
                off < 1e-3 + 0.0101 / od * 2.0,
                "turned as told, line {line} is {:.2} degrees from the top",
                off.to_degrees()
            );
            top = Some(now);
        }
        // The saw is set by its degrees; the mark on top is nearer the squared end.
        let (marked, printed) = (((down - up) / od).atan().to_degrees(), number(row, "saw_deg").unwrap());
        assert!((marked - printed).abs() < 0.006 + (0.0101 / od).to_degrees(), "marks at {marked}, saw at {printed}");
        let slope = -printed.to_radians().tan();
        let plane = Plane { centre: number(row, "mark_centre_mm").unwrap(), slope, top: top.unwrap_or(0.0) };
        assert!((plane.centre - (up + down) / 2.0).abs() < 0.011);
        assert!(cell(row, "blade_takes").starts_with("beyond the mark, away from the squared end"));
        let name = cell(row, "piece");
        if name != "waste" {
            let meets = ["meets_piece", "this_line", "meets_line"].map(|what| cell(row, what));
            let stands = number(row, "this_line_stands").map(f64::to_radians);
            let meets = (!meets[0].is_empty()).then_some(meets);
            let gap = number(row, "gap_between_mm").unwrap_or(0.0);
            let piece = Piece { name, from: before, to: plane, meets, stands, gap };
            // Its shortest and longest line, found by walking round.
            let rims = (0..720).map(|k| {
                let clock = f64::from(k) * PI / 360.0;
                piece.to.rim(clock, od / 2.0)[0] - piece.from.rim(clock, od / 2.0)[0]
            });
            let (short, long) = rims.fold((f64::INFINITY, 0.0_f64), |(s, l), x| (s.min(x), l.max(x)));
            for (what, found) in [("piece_shortest_mm", short), ("piece_longest_mm", long)] {
                let Some(said) = number(row, what) else { continue };
                assert!((said - found).abs() < 0.03, "{}: {what} {said} is {found:.2}", piece.name);
            }
            pieces.push(piece);
        }
        before = plane.beyond(number(row, "kerf_mm").unwrap());
    }
    let used = number(0, "tube_used_mm").unwrap_or(before.centre);
    assert!((used - before.centre).abs() < 0.02, "{used} mm of tube are used, not {}", before.centre);
    Sawn { pieces, lines, cuts: rows.len() }
}

/// Puts the pieces together, the first on `start` along `out`, line to line. Gives where the last ends and its direction.
pub(crate) fn put_together(sawn: &Sawn, od: f64, start: V3, out: V3) -> (V3, V3) {
    let radius = od / 2.0;
    // Up at A: world up made square to the leaving direction, or forward where that is plumb.
    let up = if out[2].abs() > 1_f64.to_radians().cos() { [1.0, 0.0, 0.0] } else { [0.0, 0.0, 1.0] };
    let at_a = Frame::new(start, out, up);
    let first = &sawn.pieces[0];
    // The frame of the stick as the first piece stands: its line at the clock the list says, to the right seen from A.
    let turn = first.meets.as_ref().map_or(0.0, |meets| first.stands.unwrap() - sawn.lines[&meets[1]]);
    // Looking along the pipe with up above, the third axis points to the right.
    let [x, up, right] = at_a.axes;
    let stick_up = add(up.map(|c| c * turn.cos()), right, turn.sin());
    let mut stick = Frame::new(start, x, stick_up);
    // The stick's own axes: x along, z up, y left of up.
    stick.axes = [stick.axes[0], stick.axes[2].map(|c| -c), stick.axes[1]];
    stick.axes[1] = cross(stick.axes[2], stick.axes[0]);
    stick.at = add(start, stick.axes[0], -first.from.centre);
    for pair in sawn.pieces.windows(2) {
        let [_, this_line, next_line] = pair[0].meets.as_ref().expect("it says what it meets");
        assert_eq!(pair[0].meets.as_ref().unwrap()[0], pair[1].name);
        let (this, next) = (sawn.lines[this_line], sawn.lines[next_line]);
        let face = |plane: &Plane, line: f64| {
            let centre = [plane.centre, 0.0, 0.0];
            Frame::new(centre, plane.normal(), add(plane.rim(line, radius), centre, -1.0))
        };
        let (leaving, entering) = (face(&pair[0].to, this), face(&pair[1].from, next));
        // Across a gap in a hose both ends are square and in one line.
        let across = stick.turned_out(leaving.axes[0]);
        let joint = Frame {
            at: add(stick.out(leaving.at), across, pair[0].gap),
            axes: leaving.axes.map(|axis| stick.turned_out(axis)),
        };
        let carry = |local: V3| joint.turned_out(entering.turned_in(local));
        let axes = [carry([1.0, 0.0, 0.0]), carry([0.0, 1.0, 0.0]), carry([0.0, 0.0, 1.0])];
        stick = Frame { at: joint.out(entering.inward([0.0; 3])), axes };
    }
    let last = sawn.pieces.last().unwrap();
    (stick.out([last.to.centre, 0.0, 0.0]), stick.axes[0])
}

/// Saws and assembles a run's printed list, and holds it against both ports.
fn lands(workup: &Workup) -> Result<usize, String> {
    let Some(text) = cut_list_csv(workup).unwrap() else { return Ok(0) };
    let od = workup.od.mm();
    let sawn = saw(&Table::of(&text), od, 0.0);
    let a = &workup.ends[0];
    let (reached, along) = put_together(&sawn, od, a.tube_end, a.out);
    within(workup, &sawn, reached, along).map_err(|why| format!("{why}:\n{text}"))
}

/// Whether what was put together meets B, as far as its figures were printed.
pub(crate) fn within(workup: &Workup, sawn: &Sawn, reached: V3, along: V3) -> Result<usize, String> {
    let (od, b) = (workup.od.mm(), &workup.ends[1]);
    let miss = (0..3).map(|i| (reached[i] - b.tube_end[i]).powi(2)).sum::<f64>().sqrt();
    let off = (-dot(along, b.out)).clamp(-1.0, 1.0).acos().to_degrees();
    // Each cut is printed to 0.005 mm and 0.005 degrees, which both faces it makes have, and each line to 0.005 mm round
    // the girth. What that turns, it turns all of the pipe from there on.
    let turned = 2.0 * 0.005_f64.to_radians() + 0.005 / od;
    let mut rest: f64 = sawn.pieces.iter().map(|piece| piece.to.centre - piece.from.centre).sum();
    let each = sawn.pieces.iter().map(|piece| {
        let tolerance = 0.01 + turned * rest;
        rest -= piece.to.centre - piece.from.centre;
        tolerance
    });
    let tolerance: f64 = each.sum::<f64>() + 0.01;
    if miss > tolerance || off.to_radians() > sawn.cuts as f64 * turned {
        return Err(format!("{miss:.2} mm and {off:.2} degrees off, of {tolerance:.2}"));
    }
    Ok(sawn.pieces.len())
}

pub(crate) fn made(job: &Job, run: RunId, seams: &[u8], ends: &[bool]) -> Job {
    let bends = job.run(run).and_then(|run| run.way()).map_or(0, |way| way.bends().len());
    let mut job = job.clone();
    for bend in 0..bends {
        let ends = if ends[bend % ends.len()] { PieEnds::Square } else { PieEnds::Mitred };
        job = apply(&job, &pies(&job, run, bend, Some(seams[bend % seams.len()]), ends)).unwrap().job;
    }
    job
}

#[test]
fn every_run_of_the_demo_lands_as_printed() {
    let demo = include_bytes!("../../../../demo/pellow-van.json");
    let job = nook_formats::read_job(demo).unwrap();
    for run in job.runs() {
        let told = workup(&job, run.id).unwrap();
        // What is bent and not welded is landed by its table.
        if told.bends.iter().any(|bend| bend.pies.is_none()) {
            continue;
        }
        let pieces = lands(&told).unwrap_or_else(|why| panic!("{}: {why}", run.name.as_str()));
        assert!(pieces > 1, "{}: {pieces} pieces", run.name.as_str());
    }
}

/// Kinds that part a pipe between its ends.
fn along() -> impl Strategy<Value = JointKind> {
    prop::sample::select(JointKind::ALL.into_iter().filter(|kind| kind.stands_along()).collect::<Vec<_>>())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]
    #[test]
    fn every_pipe_that_can_be_cut_lands_as_printed(
        draft in any_draft(),
        seams in prop::collection::vec(2..9_u8, 1..4),
        ends in prop::collection::vec(any::<bool>(), 1..4),
        joints in prop::collection::vec((0..5_usize, 0.0..400.0_f64, along()), 0..3),
        open: bool,
    ) {
        let (job, run) = job_with(draft);
        let mut job = made(&job, run, &seams, &ends);
        for (leg, mm, kind) in joints {
            let at = AlongAnchor { leg: crate::support::by_place::leg(&job, run, leg), from: LegEnd::Start, mm: AlongLeg::new(mm).unwrap() };
            job = apply(&job, &Edit::Join(JoinEdit::AddJoint { run, at, kind })).map_or(job, |applied| applied.job);
        }
        if open {
            let to = JointChange::Kind { kind: JointKind::Open };
            job = apply(&job, &crate::support::by_place::change(&job, run, End::B, to)).unwrap().job;
            // What had no way may have one now, whose bends nobody has said to saw.
            job = made(&job, run, &seams, &ends);
        }
        let workup = workup(&job, run).unwrap();
        if let Err(why) = lands(&workup) {
            return Err(TestCaseError::fail(why));
        }
    }
}

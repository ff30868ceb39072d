//! Other pipes as something to keep from.

use std::cell::RefCell;

use nalgebra::Point3;

use crate::assembly::Assembly;
use crate::job::Job;
use crate::measure::{End, Port};
use crate::route::ResolvedRun;
use nook_geometry::Vector;
use nook_geometry::clearance::{Convex, Envelope, EnvelopePart, Obstacle, Part, Solid};

/// A thing no further than this from a mouth's disc, in mm, is what the mouth stands on, and the tube may overlap it by as
/// much: what a tape is good to.
pub(crate) const STANDS_ON: f64 = 3.0;
/// How far in mm the chords that stand in for another pipe's bends stray from them.
const STRAY: f64 = 0.05;

/// The end of a stub: the middle of it, and the way out.
pub(crate) type StubEnd = (Point3<f64>, Vector);

/// A mouth looks the way its stub does where the cosine between the two is more than this: some 5 degrees.
const SAME_WAY: f64 = 0.996;

/// The ends of the stubs let into a pipe, each with its way out.
pub(crate) fn stub_ends(run: &ResolvedRun) -> Vec<StubEnd> {
    if !run.route.branches().iter().any(|branch| branch.kind.is_stub()) {
        return Vec::new();
    }
    let pipe = Assembly::build(run).and_then(Result::ok);
    let stubs = pipe.map(|pipe| pipe.branches).unwrap_or_default().into_iter().filter(|branch| branch.kind.is_stub());
    stubs.map(|branch| (branch.tip(), branch.out)).collect()
}

/// Whether a mouth is the end of a stub.
pub(crate) fn is_end_of(port: &Port, (tip, out): &StubEnd) -> bool {
    (tip - port.at.inner()).norm() <= STANDS_ON && out.dot(&port.out.vector()) > SAME_WAY
}

/// How much of another pipe from each of its mouths goes on from the stubs of a pipe, in mm: what is round the stub itself, which
/// the other pipe is judged by.
pub(crate) fn on_stubs(other: &ResolvedRun, stubs: &[StubEnd]) -> [f64; 2] {
    [End::A, End::B].map(|end| {
        let port = other.port(end);
        let goes_on = !other.is_open(end) && stubs.iter().any(|stub| is_end_of(port, stub));
        if goes_on { port.od.get().max(other.tube.od()) } else { 0.0 }
    })
}

/// Another pipe with its hoses, clamps and flanges, where it joins its ports; each part moves with what it rides on.
pub(crate) fn pipe_obstacle(other: &ResolvedRun, gap: f64) -> Option<Obstacle> {
    pipe_past(other, gap, [0.0; 2])
}

/// The same without so many mm of it from each mouth.
pub(crate) fn pipe_past(other: &ResolvedRun, gap: f64, past: [f64; 2]) -> Option<Obstacle> {
    let figures = [gap, past[0], past[1]].map(f64::to_bits);
    NEIGHBOURS.with_borrow_mut(|known| {
        if let Some(at) = known.iter().position(|(run, of, _)| *of == figures && run == other) {
            // The last asked for is the last forgotten.
            let found = known.remove(at);
            let obstacle = found.2.clone();
            known.push(found);
            return obstacle;
        }
        let outside = Assembly::build(other).and_then(Result::ok).map(|pipe| pipe.envelope(other));
        let obstacle = outside.map(|outside| {
            let whole = past.iter().all(|left| *left <= 0.0);
            // Fittings lie before 0 and beyond the length: where nothing is left out they count.
            let [from, to] = [past[0], outside.length() - past[1]];
            let open = |at: f64, left: f64, out: f64| if left > 0.0 { at } else { out };
            let [from, to] = [open(from, past[0], f64::NEG_INFINITY), open(to, past[1], f64::INFINITY)];
            outside_obstacle(&if whole { outside } else { outside.between([from, to]) }, gap)
        });
        if known.len() >= NEIGHBOURS_KEPT {
            known.remove(0);
        }
        known.push((other.clone(), figures, obstacle.clone()));
        obstacle
    })
}

/// As many neighbours are kept as a full job has pipes, for metal and for exhausts.
const NEIGHBOURS_KEPT: usize = 2 * Job::MOST_RUNS;

/// A pipe and what was asked of it, with the obstacle it is; none where it has no way.
type Known = (ResolvedRun, [u64; 3], Option<Obstacle>);

thread_local! {
    /// What pipes take as somebody dragged another: how each moves is settled at a dozen poses, and nothing of it changed.
    static NEIGHBOURS: RefCell<Vec<Known>> = const { RefCell::new(Vec::new()) };
}

/// The outside of a pipe, or of some of it, as something to measure to.
pub(crate) fn outside_obstacle(outside: &Envelope, gap: f64) -> Obstacle {
    let parts = outside.all().flat_map(|stretch| {
        let rides = stretch.rides;
        bars(stretch).into_iter().map(move |room| Part::new(Solid::Convex(room), None, rides))
    });
    Obstacle::new(gap, parts.collect())
}

/// A stretch of pipe as rooms: cut square where it ends, round where it goes on.
fn bars(stretch: &EnvelopePart) -> Vec<Convex> {
    let (span, radius) = (&stretch.span, stretch.radius);
    let step = 2.0 * (1.0 - 2.0 * STRAY * span.curvature()).clamp(0.0, 1.0).acos();
    let turn = span.length() * span.curvature();
    let count = if turn > 0.0 { (turn / step).ceil().max(1.0) } else { 1.0 };
    let mut rooms = Vec::new();
    let mut k = 0.0;
    while k < count && span.length() > 1e-9 {
        let [start, end] = [k, k + 1.0].map(|k| span.length() * k / count);
        let [from, to] = [start, end].map(|s| span.at(s).0);
        let way = to - from;
        let square = (stretch.square[0] && start < radius) || (stretch.square[1] && span.length() - end < radius);
        rooms.push(if square {
            // At a square end it stands along the pipe itself: along the chord its flat end would lie askew in the mouth.
            let (from, axis) = if stretch.square[0] && k == 0.0 {
                (from, span.at(0.0).1)
            } else if stretch.square[1] && k + 1.0 >= count {
                let along = span.at(span.length()).1;
                (to - along * way.norm(), along)
            } else {
                (from, way.normalize())
            };
            let half = way.norm() / 2.0;
            Convex::Drum { middle: from + axis * half, axis, half, radius }
        } else {
            Convex::Bar { from, way, radius }
        });
        k += 1.0;
    }
    rooms
}

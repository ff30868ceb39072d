//! Laying the pieces out on one straight stick of tube, so that neighbouring pieces share a cut wherever they
//! can: the tube is turned half a turn between the cuts of a bend, and clocked between bends.

use std::f64::consts::{PI, TAU};

use nalgebra::Vector2;

use super::Piece;

/// A line scribed along the stick.
#[derive(Debug, Clone, PartialEq)]
pub struct ScribeLine {
    /// `1a`, `1b` opposite it, `2a` and so on.
    pub name: String,
    /// Distance in mm round the girth from line `1a`, clockwise seen from the end that is cut first.
    pub round: f64,
}

/// One cut across the stick.
#[derive(Debug, Clone, PartialEq)]
pub struct Cut {
    /// The piece that comes off, as an index into the pieces; `None` where only a wedge of waste does.
    pub frees: Option<usize>,
    /// Saw setting in radians from square.
    pub saw: f64,
    /// Name of the scribed line that faces up; `None` on a square cut, which may lie as it likes.
    pub line_up: Option<String>,
    /// Turn of the tube since the last angled cut in radians, -pi to pi, positive clockwise seen from the end
    /// that is cut first; `None` for square cuts and the first angled one. To bring up a line that lies clockwise of
    /// the one that is up, the tube is turned the other way.
    pub turn: Option<f64>,

    /// Station of the blade's near side on the centre line, in mm from the squared end.
    pub centre: f64,
    /// The same along the line that faces up.
    pub up: f64,
    /// The same along the line underneath.
    pub down: f64,
}

/// How two neighbouring pieces are turned to each other when they are put together: these two scribed lines meet.
#[derive(Debug, Clone, PartialEq)]
pub struct Meeting {
    /// The line on the piece nearer A.
    pub line: String,
    /// Clock in radians, 0 to a whole turn, at which it stands when the piece is in the pipe: about the direction of
    /// travel from "up" at A, carried along without twist.
    pub stands: f64,
    /// The line on the next piece.
    pub next_line: String,
}

/// How to cut all pieces of a pipe from one stick with a squared end.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct CutPlan {
    /// Lines to scribe first.
    pub lines: Vec<ScribeLine>,
    /// Cuts in order.
    pub cuts: Vec<Cut>,
    /// How each piece meets the next; none where no line is scribed.
    pub meetings: Vec<Meeting>,
    /// Tube used, kerf and wedges included, in mm.
    pub stock_used: f64,
}

/// Clocks nearer than this, in radians, are one scribed line: 0.05 degrees is 0.03 mm on a 76 mm tube.
const SAME_LINE: f64 = 8.7e-4;

/// Plans the cuts for `pieces`, in order, from tube of `od` mm with a saw that takes `kerf` mm. `None` when a
/// piece has no length along some line, so that it cannot be cut at all.
#[must_use]
pub fn cut_plan(pieces: &[Piece], od: f64, kerf: f64) -> Option<CutPlan> {
    let mut plan = CutPlan::default();
    let mut bases: Vec<f64> = Vec::new();
    let (mut x, mut flip) = (0.0, 0.0_f64);
    let mut last_up: Option<f64> = None;
    let mut flips = Vec::new();
    for (index, piece) in pieces.iter().enumerate() {
        if piece.extremes(od)[0] <= 0.0 {
            return None;
        }
        flips.push(flip);
        let end = x + piece.centre;
        let mut saw_at = |plan: &mut CutPlan, station: f64, slope: Vector2<f64>, frees: Option<usize>| {
            let saw = slope.norm().atan();
            let reach = od / 2.0 * slope.norm();
            let up = (saw > 0.0).then(|| (-slope.y).atan2(-slope.x));
            let line_up = up.map(|clock| line_named(&mut bases, clock));
            let turn = up.zip(last_up).map(|(now, before)| wrapped(before - now));
            last_up = up.or(last_up);
            plan.cuts.push(Cut {
                frees,
                saw,
                line_up,
                turn,
                centre: station,
                up: station - reach,
                down: station + reach,
            });
        };
        let leaving = end_slope(piece, flip);
        saw_at(&mut plan, end, leaving, Some(index));
        x = end + kerf / leaving.norm().atan().cos();
        if let Some(next) = pieces.get(index + 1) {
            let shared = piece.to.saw > 0.0 && (piece.to.saw - next.from.saw).abs() < 1e-12;
            if shared {
                flip += PI;
            } else {
                let entering = start_slope(next, flip);
                if (entering - leaving).norm() > 0.0 {
                    // Two faces that are not parallel: a wedge falls out between two cuts.
                    let wedge = od / 2.0 * (entering - leaving).norm();
                    let kerf_along = kerf / entering.norm().atan().cos();
                    saw_at(&mut plan, x + wedge, entering, None);
                    x += wedge + kerf_along;
                }
            }
        }
    }
    plan.stock_used = x;
    plan.meetings = meetings(&mut bases, pieces, &flips);
    plan.lines = scribe_lines(&bases, od);
    Some(plan)
}

/// How each piece meets the next: by the line in whose plane they turn. Anywhere else a line that runs to an oval face
/// does not meet the same line on a round one. Where neither face turns, by the first line there is. Where a piece was
/// turned half a turn to share a cut, the line opposite meets it.
fn meetings(bases: &mut Vec<f64>, pieces: &[Piece], flips: &[f64]) -> Vec<Meeting> {
    let Some(first) = bases.first().copied() else { return Vec::new() };
    let each = pieces.windows(2).zip(flips.windows(2)).map(|(pair, flips)| {
        let [leaving, entering] = [pair[0].to, pair[1].from];
        let stands = if leaving.saw > 0.0 {
            leaving.short_at
        } else if entering.saw > 0.0 {
            entering.short_at
        } else {
            first - flips[0]
        };
        let [line, next_line] = [flips[0], flips[1]].map(|flip| line_named(bases, stands + flip));
        Meeting { line, stands: stands.rem_euclid(TAU), next_line }
    });
    each.collect()
}

/// Slope of a piece's last face on the stick, as the rise along the tube per mm towards each clock.
fn end_slope(piece: &Piece, flip: f64) -> Vector2<f64> {
    -tilt(piece.to.saw, piece.to.short_at + flip)
}

fn start_slope(piece: &Piece, flip: f64) -> Vector2<f64> {
    tilt(piece.from.saw, piece.from.short_at + flip)
}

fn tilt(saw: f64, clock: f64) -> Vector2<f64> {
    Vector2::new(clock.cos(), clock.sin()) * saw.tan()
}

/// An angle brought to -pi (excluded) to pi.
fn wrapped(angle: f64) -> f64 {
    let turn = angle.rem_euclid(TAU);
    if turn > PI + 1e-9 { turn - TAU } else { turn }
}

/// The name of the line at `clock`; a clock in no known plane starts a new pair of lines.
fn line_named(bases: &mut Vec<f64>, clock: f64) -> String {
    for (pair, base) in bases.iter().enumerate() {
        let off = wrapped(clock - base);
        if off.abs() < SAME_LINE {
            return format!("{}a", pair + 1);
        }
        if (off.abs() - PI).abs() < SAME_LINE {
            return format!("{}b", pair + 1);
        }
    }
    bases.push(clock);
    format!("{}a", bases.len())
}

fn scribe_lines(bases: &[f64], od: f64) -> Vec<ScribeLine> {
    let Some(first) = bases.first() else { return Vec::new() };
    let round = |clock: f64| {
        let turn = (clock - first).rem_euclid(TAU);
        // A hair under a whole turn is line 1a itself.
        od / 2.0 * if TAU - turn < 1e-9 { 0.0 } else { turn }
    };
    let pairs = bases.iter().enumerate();
    pairs
        .flat_map(|(pair, base)| {
            let name = pair + 1;
            [
                ScribeLine { name: format!("{name}a"), round: round(*base) },
                ScribeLine { name: format!("{name}b"), round: round(base + PI) },
            ]
        })
        .collect()
}

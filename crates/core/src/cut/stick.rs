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
    /// that is cut first; `None` for square cuts and the first angled one.
    pub turn: Option<f64>,
    /// Station of the blade's near side on the centre line, in mm from the squared end.
    pub centre: f64,
    /// The same along the line that faces up.
    pub up: f64,
    /// The same along the line underneath.
    pub down: f64,
}

/// How to cut all pieces of a pipe from one stick with a squared end.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct CutPlan {
    /// Lines to scribe first.
    pub lines: Vec<ScribeLine>,
    /// Cuts in order.
    pub cuts: Vec<Cut>,
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
    for (index, piece) in pieces.iter().enumerate() {
        if shortest(piece, od) <= 0.0 {
            return None;
        }
        let end = x + piece.centre;
        let mut saw_at = |plan: &mut CutPlan, station: f64, slope: Vector2<f64>, frees| {
            let saw = slope.norm().atan();
            let reach = od / 2.0 * slope.norm();
            let up = (saw > 0.0).then(|| (-slope.y).atan2(-slope.x));
            let line_up = up.map(|clock| line_named(&mut bases, clock));
            let turn = up.zip(last_up).map(|(now, before)| wrapped(now - before));
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
    plan.lines = scribe_lines(&bases, od);
    Some(plan)
}

/// Length of a piece along its shortest line, in mm.
fn shortest(piece: &Piece, od: f64) -> f64 {
    // The length along clock c is centre + slope . e(c); the least over all clocks takes the whole slope.
    piece.centre - od / 2.0 * (end_slope(piece, 0.0) - start_slope(piece, 0.0)).norm()
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

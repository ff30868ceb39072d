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

/// A scribed line on the first or the last piece of a chain, by which it meets a piece that is on another stick.
#[derive(Debug, Clone, PartialEq)]
pub struct EndLine {
    /// The line.
    pub line: String,
    /// Clock in radians at which it stands when the piece is in the pipe, as of [`Meeting`].
    pub stands: f64,
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
    /// Lines by which the first piece meets the one before it, and the last the one after it, where those are sawn elsewhere.
    pub ends: [Option<EndLine>; 2],
    /// Tube used, kerf and wedges included, in mm.
    pub stock_used: f64,
}

/// Clocks nearer than this, in radians, are one scribed line: 0.05 degrees is 0.03 mm on a 76 mm tube.
const SAME_LINE: f64 = 8.7e-4;

/// Plans the cuts for `pieces`, in order, from tube of `od` mm with a saw that takes `kerf` mm. Where the first begins at an angle, a
/// wedge is sawn off the squared end first; where the last ends at one, the stick is squared behind it. `None` when a piece has no
/// length along some line, so that it cannot be cut at all.
#[must_use]
pub fn cut_plan(pieces: &[Piece], od: f64, kerf: f64) -> Option<CutPlan> {
    chain_plan(pieces, od, kerf, [None; 2])
}

/// The same of some of a pipe's pieces. `ends` says at which clocks, in radians, the first and the last of them are turned to pieces
/// that are sawn elsewhere: a line is scribed there, so that both can be laid to it.
#[must_use]
pub fn chain_plan(pieces: &[Piece], od: f64, kerf: f64, ends: [Option<f64>; 2]) -> Option<CutPlan> {
    let mut stick = Laid { od, kerf, plan: CutPlan::default(), bases: Vec::new(), last_up: None, x: 0.0 };
    let mut flip = 0.0_f64;
    let mut flips = Vec::new();
    if let Some(first) = pieces.first() {
        stick.wedge(Vector2::zeros(), start_slope(first, flip));
    }
    for (index, piece) in pieces.iter().enumerate() {
        if piece.is_bought() {
            // The stick goes on with what comes after it.
            flips.push(flip);
            continue;
        }
        if piece.extremes(od)[0] <= 0.0 {
            return None;
        }
        flips.push(flip);
        let leaving = end_slope(piece, flip);
        stick.saw(stick.x + piece.centre, leaving, Some(index));
        match pieces[index + 1..].iter().find(|next| !next.is_bought()) {
            Some(next) if piece.to.saw > 0.0 && (piece.to.saw - next.from.saw).abs() < 1e-12 => flip += PI,
            Some(next) => stick.wedge(leaving, start_slope(next, flip)),
            None => stick.wedge(leaving, Vector2::zeros()),
        }
    }
    let Laid { mut plan, mut bases, x, .. } = stick;
    plan.stock_used = x;
    plan.meetings = meetings(&mut bases, pieces, &flips);
    let outer = [flips.first(), flips.last()];
    plan.ends = std::array::from_fn(|end| {
        let (stands, flip) = ends[end].zip(outer[end].copied())?;
        Some(EndLine { line: line_named(&mut bases, stands + flip), stands: stands.rem_euclid(TAU) })
    });
    plan.lines = scribe_lines(&bases, od);
    Some(plan)
}

/// A stick as it is laid out.
struct Laid {
    od: f64,
    kerf: f64,
    plan: CutPlan,
    /// Clocks of the first line of each pair, in radians.
    bases: Vec<f64>,
    /// The clock that faced up last.
    last_up: Option<f64>,
    /// Where the next piece may begin on the centre line, in mm.
    x: f64,
}

impl Laid {
    /// A cut at a station and a slope.
    fn saw(&mut self, station: f64, slope: Vector2<f64>, frees: Option<usize>) {
        let saw = slope.norm().atan();
        let reach = self.od / 2.0 * slope.norm();
        let up = (saw > 0.0).then(|| (-slope.y).atan2(-slope.x));
        let line_up = up.map(|clock| line_named(&mut self.bases, clock));
        let turn = up.zip(self.last_up).map(|(now, before)| wrapped(before - now));
        self.last_up = up.or(self.last_up);
        self.plan.cuts.push(Cut {
            frees,
            saw,
            line_up,
            turn,
            centre: station,
            up: station - reach,
            down: station + reach,
        });
        self.x = station + self.kerf / saw.cos();
    }

    /// Two faces that are not parallel: a wedge falls out between two cuts.
    fn wedge(&mut self, leaving: Vector2<f64>, entering: Vector2<f64>) {
        let between = (entering - leaving).norm();
        if between > 0.0 {
            self.saw(self.x + self.od / 2.0 * between, entering, None);
        }
    }
}

/// How each piece meets the next: by the line in whose plane they turn. Anywhere else a line that runs to an oval face
/// does not meet the same line on a round one. Where neither face turns, by the first line there is. Where a piece was
/// turned half a turn to share a cut, the line opposite meets it.
fn meetings(bases: &mut Vec<f64>, pieces: &[Piece], flips: &[f64]) -> Vec<Meeting> {
    let Some(first) = bases.first().copied().or_else(|| pieces.iter().find_map(throat)) else { return Vec::new() };
    let each = pieces.windows(2).zip(flips.windows(2)).map(|(pair, flips)| {
        let [leaving, entering] = [pair[0].to, pair[1].from];
        let elbows = throat(&pair[0]).or_else(|| throat(&pair[1]));
        let stands = if let Some(throat) = elbows {
            throat
        } else if leaving.saw > 0.0 {
            leaving.short_at
        } else if entering.saw > 0.0 {
            entering.short_at
        } else {
            first - flips[0]
        };
        let [line, next_line] = [0, 1].map(|side| match throat(&pair[side]) {
            Some(throat) => elbow_line(stands - throat),
            None => line_named(bases, stands + flips[side]),
        });
        Meeting { line, stands: stands.rem_euclid(TAU), next_line }
    });
    each.collect()
}

/// The clock in radians of a bought piece's throat; `None` of what is sawn from the stick.
fn throat(piece: &Piece) -> Option<f64> {
    piece.is_bought().then_some(piece.from.short_at)
}

/// What the line of an elbow is called that lies so many radians clockwise of its throat, seen from A.
fn elbow_line(off: f64) -> String {
    let degrees = wrapped(off).to_degrees();
    if degrees.abs() < SAME_LINE.to_degrees() {
        "throat".to_owned()
    } else if degrees.abs() > 180.0 - SAME_LINE.to_degrees() {
        "back".to_owned()
    } else {
        format!("{:.1}\u{b0} {} of throat", degrees.abs(), if degrees > 0.0 { "clockwise" } else { "anticlockwise" })
    }
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

//! A jig for the bench: the two mouths of a run as two posts on a board, so that its pipe is tacked away from the car.

use nalgebra::{Point3, Rotation3};
use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::edit::EditError;
use crate::job::Job;
use crate::measure::{End, RunId};
use crate::route::ResolvedRun;
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::clearance::Span;
use nook_geometry::units::{DualUnitText, Measure};

/// Two posts on a level board, upright as in the car. On the board, x runs from A's foot to B's and y to its left.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JigWorkup {
    /// A's post, then B's.
    #[schema(min_items = 2, max_items = 2)]
    pub posts: [JigPost; 2],
    /// Distances that hold only where both posts are right, each to a millimetre.
    #[schema(min_items = 4, max_items = 4)]
    pub checks: [JigCheck; 4],
    /// How long each stick is that is pushed into a mouth for the checks, from the mouth's middle out.
    pub stick: Measure,
    /// Least room between the pipe with its hoses and the board.
    pub under: Measure,
}

/// A post that holds a stub of tube as a mouth holds it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JigPost {
    /// Which mouth.
    pub end: End,
    /// What it is of.
    pub name: String,
    /// Outside diameter of the stub.
    pub od: Measure,
    /// Where the point of the board lies that is below the middle of the mouth, along x and y.
    #[schema(min_items = 2, max_items = 2)]
    pub foot: [Measure; 2],
    /// From the board up to the middle of the mouth.
    pub height: Measure,
    /// The way out of the mouth, seen from above: degrees to the left from x, -180 to 180.
    pub turn: f64,
    /// The way out of the mouth: degrees above the board.
    pub tilt: f64,
    /// Said in words.
    pub words: DualUnitText,
}

/// A distance that is measured once the posts stand.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JigCheck {
    /// Between what.
    pub between: &'static str,
    /// How far.
    pub mm: Measure,
}

/// Length in mm of the sticks for the checks: long enough that a degree shows, short enough to reach.
const STICK: f64 = 250.0;
/// Room in mm left under the pipe: for a hand and a clamp.
const UNDER: f64 = 60.0;
/// Feet nearer to each other than this, in mm, give the board no line; it then runs forward.
const LINE: f64 = 20.0;

/// The jig of a run.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn jig(job: &Job, id: RunId) -> Result<JigWorkup, EditError> {
    let run = Survey::new(job).settle(job.run(id).ok_or(EditError::NoSuchRun { run: id })?);
    let [a, b] = [End::A, End::B].map(|end| run.port(end));
    let across = a.at.to(b.at);
    let heading = if across.xy().norm() < LINE { 0.0 } else { across.y.atan2(across.x) };
    let onto = Rotation3::from_axis_angle(&Vector::z_axis(), -heading);
    let board = lowest(&run) - UNDER;
    let middle = |end: End| -> Point3<f64> {
        let flat = onto * a.at.to(run.port(end).at);
        Point3::new(flat.x, flat.y, run.port(end).at.inner().z - board)
    };
    let out = |end: End| onto * run.port(end).out.vector();
    let post = |end: End| {
        let (at, way, port) = (middle(end), out(end), run.port(end));
        let turn = if way.xy().norm() < 1e-9 { 0.0 } else { way.y.atan2(way.x).to_degrees() };
        let tilt = way.z.clamp(-1.0, 1.0).asin().to_degrees();
        JigPost {
            end,
            name: port.name.clone(),
            od: Measure(port.od.get()),
            foot: [Measure(at.x), Measure(at.y)],
            height: Measure(at.z),
            turn,
            tilt,
            words: words(at.z, turn, tilt),
        }
    };
    let tip = |end: End| middle(end) + out(end) * STICK;
    let far = |p: Point3<f64>, q: Point3<f64>| Measure((q - p).norm());
    let (at_a, at_b) = (middle(End::A), middle(End::B));
    Ok(JigWorkup {
        posts: [post(End::A), post(End::B)],
        checks: [
            JigCheck { between: "middle of A to middle of B", mm: far(at_a, at_b) },
            JigCheck { between: "tip of A\u{2019}s stick to middle of B", mm: far(tip(End::A), at_b) },
            JigCheck { between: "middle of A to tip of B\u{2019}s stick", mm: far(at_a, tip(End::B)) },
            JigCheck { between: "tip to tip", mm: far(tip(End::A), tip(End::B)) },
        ],
        stick: Measure(STICK),
        under: Measure(UNDER),
    })
}

/// How high the lowest place of the pipe's outside is, in mm; of its mouths where it has none.
fn lowest(run: &ResolvedRun) -> f64 {
    let mouths = [End::A, End::B].map(|end| run.port(end).at.inner().z - run.port(end).od.get() / 2.0);
    let outside = Assembly::build(run).and_then(Result::ok).map(|pipe| pipe.envelope(run));
    let parts = outside.iter().flat_map(|outside| outside.all());
    let low = parts.map(|part| lowest_of(&part.span) - part.radius);
    low.chain(mouths).fold(f64::INFINITY, f64::min)
}

/// How high the lowest place of a straight or an arc is, in mm: an end, or where an arc runs level.
fn lowest_of(span: &Span) -> f64 {
    let (_, along, inward) = span.at(0.0);
    let level = f64::atan2(-along.z, inward.z).rem_euclid(std::f64::consts::PI);
    let turned = |k: f64| (level + k * std::f64::consts::PI) / span.curvature();
    let turns = if span.curvature() > 0.0 { vec![turned(0.0), turned(1.0)] } else { Vec::new() };
    let places = turns.into_iter().filter(|s| *s < span.length()).chain([0.0, span.length()]);
    places.map(|s| span.at(s).0.z).fold(f64::INFINITY, f64::min)
}

fn words(height: f64, turn: f64, tilt: f64) -> DualUnitText {
    let side = if turn.abs() < 0.05 {
        "along the line".to_owned()
    } else {
        format!("{:.1}\u{b0} to the {} of the line", turn.abs(), if turn > 0.0 { "left" } else { "right" })
    };
    let slope = if tilt.abs() < 0.05 {
        "level".to_owned()
    } else {
        format!("{:.1}\u{b0} {}", tilt.abs(), if tilt > 0.0 { "up" } else { "down" })
    };
    DualUnitText::new(|unit| format!("Middle {} over the board, facing {side}, {slope}.", unit.text(height)))
}

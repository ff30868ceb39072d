//! The survey backwards: what is planned, set out on the car by readings a person can take.

use nalgebra::{Matrix3, Point3};
use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::environment::{Environment, Scans, keep_out_obstacle};
use crate::fastening::fastened;
use crate::job::Job;
use crate::measure::{
    ComponentId, DatumId, FootPlace, Holding, KeepOut, KeepOutKind, KeepOutShape, MountId, RunId, box_turn,
};
use crate::neighbours::pipe_obstacle;
use crate::part_ref::PartRef;
use crate::route::{RouteGeometry, Run, SupportId};
use crate::survey::Survey;
use nook_geometry::clearance::{EnvelopePart, Obstacle, Rides, Span, nearest};
use nook_geometry::units::{DualUnitText, LengthUnit, Measure};
use nook_geometry::{Triple, Vector};

/// Points of a part, each with the readings that set it out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SettingOut {
    /// The points; none for what has none that could be marked.
    pub points: Vec<SetPoint>,
}

/// A point that is set out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SetPoint {
    /// What it is.
    pub name: String,
    /// Where it is to be, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub at: [f64; 3],
    /// Three readings that fix it; nothing where the datums that can be seen from there do not.
    pub set: Option<SetBy>,
    /// Datums that something stands before, as far as what is in the bay tells.
    pub hidden: Vec<String>,
}

/// Three readings that fix a point.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SetBy {
    /// Each of them.
    #[schema(min_items = 3, max_items = 3)]
    pub readings: [SetReading; 3],
    /// How far the point is off at most where each reading is off by [`READ`].
    pub off: Measure,
    /// Which of the two places that the readings leave is meant, and how far off it may be.
    pub words: DualUnitText,
}

/// One reading.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SetReading {
    /// From which datum point.
    pub datum: DatumId,
    /// What it is.
    pub kind: SetKind,
    /// The distance, or how much higher the point is.
    pub mm: Measure,
    /// Said in words.
    pub words: DualUnitText,
}

/// What sort of reading sets a point out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SetKind {
    /// A tape from the datum.
    Tape,
    /// How much higher than the datum, by a level.
    Height,
}

/// How far each reading may be off in mm: what a tape held to a point in the air is good to.
pub const READ: f64 = 2.0;
/// Heights below this, in mm, are level.
const LEVEL: f64 = 0.5;
/// A tape shorter than this, in mm, is not read well.
const SHORTEST: f64 = 60.0;
/// As far from either end, in mm, a tape is not asked to be free: it starts on a thing and ends on one.
const ENDS: f64 = 15.0;
/// Three readings that leave the point further off than this, in mm, fix it badly.
const BADLY: f64 = 40.0;

/// The points of a part and how they are set out.
#[must_use]
pub fn setting_out(job: &Job, part: PartRef, scans: &Scans) -> SettingOut {
    let survey = Survey::new(job);
    let datums: Vec<Known> = job
        .datums()
        .iter()
        .filter_map(|datum| {
            let at = survey.datum(datum.id)?.pose.at;
            Some(Known { id: datum.id, name: datum.name.as_str().to_owned(), at })
        })
        .collect();
    let around = around(job, &survey, part, scans);
    let points = match part {
        PartRef::Support { run, support } => holes_of_support(job, &survey, (run, support), scans),
        _ => points_of(job, &survey, part),
    };
    SettingOut { points: points.into_iter().map(|(name, at)| set_point(name, at, &datums, &around)).collect() }
}

/// A datum point where the survey has it.
struct Known {
    id: DatumId,
    name: String,
    at: Point3<f64>,
}

/// What may stand before a datum: everything in the bay as it stands but the part itself. The bonnet is open while one works,
/// and what only sweeps is not there.
fn around(job: &Job, survey: &Survey<'_>, part: PartRef, scans: &Scans) -> Vec<Obstacle> {
    let stands = |one: &&KeepOut| {
        let own = part == PartRef::KeepOut { keep_out: one.id };
        !own && !matches!(one.kind, KeepOutKind::Bonnet | KeepOutKind::Sweep)
    };
    let still = |one: &KeepOut| keep_out_obstacle(survey, &KeepOut { swing: None, ..one.clone() }, scans);
    let things = job.keep_outs().iter().filter(stands).filter_map(still);
    let run = run_of(part);
    let pipes = job.runs().iter().filter(|other| Some(other.id) != run);
    things.chain(pipes.filter_map(|other| pipe_obstacle(&survey.settle(other), 0.0))).collect()
}

const fn run_of(part: PartRef) -> Option<RunId> {
    match part {
        PartRef::Run { run }
        | PartRef::End { run, .. }
        | PartRef::Straight { run, .. }
        | PartRef::Bend { run, .. }
        | PartRef::Joint { run, .. }
        | PartRef::Support { run, .. }
        | PartRef::Branch { run, .. }
        | PartRef::Piece { run, .. } => Some(run),
        PartRef::Datum { .. }
        | PartRef::KeepOut { .. }
        | PartRef::Component { .. }
        | PartRef::Mount { .. }
        | PartRef::Opening { .. } => None,
    }
}

fn points_of(job: &Job, survey: &Survey<'_>, part: PartRef) -> Vec<(String, Point3<f64>)> {
    match part {
        PartRef::KeepOut { keep_out } => job.keep_out(keep_out).map_or_else(Vec::new, |one| corners(survey, one)),
        PartRef::Mount { component, mount } => holes_of(job, component, mount),
        PartRef::Datum { .. }
        | PartRef::Component { .. }
        | PartRef::Opening { .. }
        | PartRef::Support { .. }
        | PartRef::Branch { .. } => Vec::new(),
        PartRef::Run { run }
        | PartRef::End { run, .. }
        | PartRef::Straight { run, .. }
        | PartRef::Bend { run, .. }
        | PartRef::Joint { run, .. }
        | PartRef::Piece { run, .. } => job.run(run).map_or_else(Vec::new, |of| on_run(survey, of, part)),
    }
}

/// The hole that a bracket is bolted by to the car, and the one of the component where it stands.
fn holes_of(job: &Job, component: ComponentId, mount: MountId) -> Vec<(String, Point3<f64>)> {
    let Some(whole) = job.component(component) else { return Vec::new() };
    let Some(point) = whole.mounts.iter().find(|one| one.id == mount) else { return Vec::new() };
    let foot = match point.held {
        Some(Holding::Bracket { bracket }) => match bracket.foot.at {
            // A hole that is there need not be marked.
            FootPlace::Datum { .. } => None,
            FootPlace::Drilled { at } => Some(("hole in the car".to_owned(), at.inner())),
        },
        _ => None,
    };
    let own = ("hole of the component".to_owned(), whole.displacement() * point.at.inner());
    foot.into_iter().chain([own]).collect()
}

/// Where a support is bolted: the holes of its feet, or of a grommet the middle of the hole the pipe goes through.
fn holes_of_support(
    job: &Job,
    survey: &Survey<'_>,
    (run, support): (RunId, SupportId),
    scans: &Scans,
) -> Vec<(String, Point3<f64>)> {
    let Some(run) = job.run(run).map(|run| survey.settle(run)) else { return Vec::new() };
    let Some(Ok(pipe)) = Assembly::build(&run) else { return Vec::new() };
    let Some(place) = pipe.supports.iter().position(|one| one.id == support) else { return Vec::new() };
    let seated = &pipe.supports[place];
    let fastened = fastened(&run, &pipe, &Environment::of(job, survey, &run, scans)).swap_remove(place);
    let on = seated.to.word();
    if fastened.feet.is_empty() {
        return vec![(format!("middle of the hole in the {on}"), seated.place())];
    }
    let many = fastened.feet.len() > 1;
    let name = |nth: usize| if many { format!("hole {} in the {on}", nth + 1) } else { format!("hole in the {on}") };
    fastened.feet.iter().enumerate().map(|(nth, foot)| (name(nth), foot.hole)).collect()
}

/// Points on a pipe: a mouth's middle, a bend's crest and corner, a joint's middle.
fn on_run(survey: &Survey<'_>, of: &Run, part: PartRef) -> Vec<(String, Point3<f64>)> {
    let run = survey.settle(of);
    if let PartRef::End { end, .. } = part {
        return vec![(format!("middle of mouth {}", end.letter()), run.port(end).at.inner())];
    }
    let Some(Ok(pipe)) = Assembly::build(&run) else { return Vec::new() };
    match part {
        PartRef::Bend { bend, .. } => {
            let Some(index) = run.route.bend_index(bend) else { return Vec::new() };
            let lines = RouteGeometry::of(&pipe.whole);
            let (Some(vertex), Some(before), Some(after)) =
                (lines.vertices.get(index), lines.along.get(index), lines.along.get(index + 1))
            else {
                return Vec::new();
            };
            let arc = pipe.whole.legs()[index].bend;
            let inward = (after - before).try_normalize(1e-9).unwrap_or_else(Vector::zeros);
            // From the corner to the middle of the arc, and out to the skin.
            let deep = arc.radius * ((arc.angle / 2.0).cos().recip() - 1.0) - run.tube.od() / 2.0;
            let number = index + 1;
            vec![
                (format!("crest of bend {number}"), vertex + inward * deep),
                (format!("corner of bend {number}"), *vertex),
            ]
        }
        PartRef::Joint { joint, .. } => {
            let seated = pipe.between().iter().find(|one| one.id == joint);
            seated.map_or_else(Vec::new, |one| vec![(format!("middle of {}", run.joint_name(joint)), one.place)])
        }
        PartRef::Run { .. }
        | PartRef::End { .. }
        | PartRef::Straight { .. }
        | PartRef::Support { .. }
        | PartRef::Branch { .. }
        | PartRef::Piece { .. }
        | PartRef::Datum { .. }
        | PartRef::KeepOut { .. }
        | PartRef::Component { .. }
        | PartRef::Mount { .. }
        | PartRef::Opening { .. } => Vec::new(),
    }
}

/// The corners of a box, by its own axes; of anything else the point it is placed by.
fn corners(survey: &Survey<'_>, keep_out: &KeepOut) -> Vec<(String, Point3<f64>)> {
    let shape = survey.placed(keep_out);
    let KeepOutShape::Box { centre, size, heading, pitch, roll } = shape else {
        return vec![("the point it is placed by".to_owned(), shape.reference().inner())];
    };
    let turn = box_turn(heading, pitch, roll);
    let sides = [-1.0, 1.0];
    let each = sides.into_iter().flat_map(|x| sides.into_iter().flat_map(move |y| sides.map(|z| [x, y, z])));
    let word = |[x, y, z]: [f64; 3]| {
        let pick = |side: f64, low: &'static str, high: &'static str| if side > 0.0 { high } else { low };
        format!("{} {} {} corner", pick(z, "lower", "upper"), pick(x, "rear", "front"), pick(y, "right", "left"))
    };
    each.map(|side| {
        let own = Vector::new(side[0] * size[0], side[1] * size[1], side[2] * size[2]) / 2.0;
        (word(side), centre.inner() + turn * own)
    })
    .collect()
}

fn set_point(name: String, at: Point3<f64>, datums: &[Known], around: &[Obstacle]) -> SetPoint {
    let (seen, hidden): (Vec<&Known>, Vec<&Known>) = datums.iter().partition(|datum| is_seen(datum, &at, around));
    let set = best(&at, &seen).map(|(rows, off)| told(&at, &rows, off));
    let hidden = hidden.into_iter().map(|datum| datum.name.clone()).collect();
    SetPoint { name, at: at.coords.into(), set, hidden }
}

/// Whether a tape from a datum to a place lies free, but for what the datum itself is in.
fn is_seen(datum: &Known, at: &Point3<f64>, around: &[Obstacle]) -> bool {
    let way = at - datum.at;
    let long = way.norm();
    if long <= 2.0 * ENDS {
        return true;
    }
    let line = |from: f64, to: f64| EnvelopePart {
        span: Span::between(datum.at + way * (from / long), datum.at + way * (to / long)),
        radius: 0.5,
        rides: Rides::Body,
        stations: [from, to],
        square: [false; 2],
    };
    let touches = |part: EnvelopePart, obstacle: &Obstacle| nearest([&part], obstacle, None, 1e-3).is_some();
    let (tape, start) = (line(ENDS, long - ENDS), line(0.0, 1e-3));
    around.iter().all(|obstacle| !touches(tape, obstacle) || touches(start, obstacle))
}

/// One reading that could be taken.
#[derive(Clone, Copy)]
struct Row<'a> {
    datum: &'a Known,
    kind: SetKind,
}

impl Row<'_> {
    /// What it is at a place, in mm, and how it changes there.
    fn at(&self, at: &Point3<f64>) -> (f64, Vector) {
        let way = at - self.datum.at;
        match self.kind {
            SetKind::Tape => (way.norm(), way / way.norm().max(f64::MIN_POSITIVE)),
            SetKind::Height => (way.z, Vector::z()),
        }
    }
}

/// The three readings in which an error of [`READ`] in each moves the point least, and by how much at most; `None` where none
/// fix it.
fn best<'a>(at: &Point3<f64>, seen: &[&'a Known]) -> Option<([Row<'a>; 3], f64)> {
    let tapes: Vec<Row<'a>> = seen
        .iter()
        .filter(|datum| (at - datum.at).norm() >= SHORTEST)
        .map(|datum| Row { datum, kind: SetKind::Tape })
        .collect();
    // A level carries furthest from the nearest: all heights fix the same.
    let flat = |datum: &Known| (at - datum.at).xy().norm();
    let nearest = seen.iter().min_by(|p, q| flat(p).total_cmp(&flat(q)));
    let height = nearest.map(|datum| Row { datum, kind: SetKind::Height });
    let rows: Vec<Row<'a>> = tapes.into_iter().chain(height).collect();
    let mut found: Option<([Row<'a>; 3], f64)> = None;
    for (i, one) in rows.iter().enumerate() {
        for (j, two) in rows.iter().enumerate().skip(i + 1) {
            for three in &rows[j + 1..] {
                let Some(off) = most_off(at, &[*one, *two, *three]) else { continue };
                if off < BADLY && found.as_ref().is_none_or(|(_, best)| off < *best) {
                    found = Some(([*one, *two, *three], off));
                }
            }
        }
    }
    found
}

/// How far a point is off at most where each of three readings is off by [`READ`] either way; `None` where they fix none, or
/// would not meet any more.
fn most_off(at: &Point3<f64>, rows: &[Row<'_>; 3]) -> Option<f64> {
    let mut most: f64 = 0.0;
    for signs in 0..8_u8 {
        let off = [0, 1, 2].map(|bit| if signs >> bit & 1 == 1 { READ } else { -READ });
        most = most.max((meet(at, rows, off)? - at).norm());
    }
    Some(most)
}

/// Steps of Newton's iteration at most: it is quick, or does not get there.
const STEPS: usize = 25;
/// Readings that are met to this, in mm, are met.
const MET: f64 = 1e-6;

/// Where three readings meet that are `off` mm from what they would be at a place, as near to it as they do; `None` where they
/// do not.
fn meet(at: &Point3<f64>, rows: &[Row<'_>; 3], off: [f64; 3]) -> Option<Point3<f64>> {
    let wanted = [0, 1, 2].map(|k| rows[k].at(at).0 + off[k]);
    let mut here = *at;
    for _ in 0..STEPS {
        let now = rows.map(|row| row.at(&here));
        let miss = Vector::new(wanted[0] - now[0].0, wanted[1] - now[1].0, wanted[2] - now[2].0);
        if miss.amax() < MET {
            return Some(here);
        }
        let slopes = Matrix3::from_rows(&now.map(|(_, slope)| slope.transpose()));
        let step = slopes.try_inverse()? * miss;
        // Beyond this it would leap to the other place.
        here += step * (BADLY / step.norm().max(BADLY));
    }
    None
}

fn told(at: &Point3<f64>, rows: &[Row<'_>; 3], off: f64) -> SetBy {
    let readings = rows.map(|row| {
        let mm = row.at(at).0;
        let name = &row.datum.name;
        let words = DualUnitText::new(|unit| match row.kind {
            SetKind::Tape => format!("{} from {name}", unit.text(mm)),
            SetKind::Height if mm.abs() < LEVEL => format!("level with {name}"),
            SetKind::Height if mm > 0.0 => format!("{} above {name}", unit.text(mm)),
            SetKind::Height => format!("{} below {name}", unit.text(-mm)),
        });
        SetReading { datum: row.datum.id, kind: row.kind, mm: Measure(mm), words }
    });
    let away = at - mirrored(at, rows);
    let words = DualUnitText::new(|unit| {
        let (read, off) = (unit.text(READ), unit.text(off));
        format!("{} With each reading {read} off it is off by {off} at most.", which_words(away, unit))
    });
    SetBy { readings, off: Measure(off), words }
}

/// The other place that fits the same three readings.
fn mirrored(at: &Point3<f64>, rows: &[Row<'_>; 3]) -> Point3<f64> {
    let tapes: Vec<Point3<f64>> = rows.iter().filter(|row| row.kind == SetKind::Tape).map(|row| row.datum.at).collect();
    let normal = match tapes.as_slice() {
        [p, q, r] => (q - p).cross(&(r - p)),
        // With a height the two places are level, one on each side of the line between the datums.
        [p, q, ..] => (q - p).cross(&Vector::z()),
        _ => Vector::zeros(),
    };
    match normal.try_normalize(1e-9) {
        Some(normal) => at - normal * (2.0 * (at - tapes[0]).dot(&normal)),
        None => *at,
    }
}

/// Which of two places is meant, by the way from the other to it.
fn which_words(away: Vector, unit: LengthUnit) -> String {
    let apart = away.norm();
    if apart < READ {
        return "They meet in one place.".to_owned();
    }
    let axis = away.iamax();
    let word = match (axis, away[axis] > 0.0) {
        (0, true) => "further forward",
        (0, false) => "further back",
        (1, true) => "further left",
        (1, false) => "further right",
        (_, true) => "higher",
        (_, false) => "lower",
    };
    format!("Of the two places they meet in, {} apart, it is the one {word}.", unit.text(apart))
}

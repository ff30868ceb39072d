//! What level, plumb and parallel would cost or save: told before metal is cut, since a line that works and looks thrown
//! together is made a second time.

use serde::Serialize;
use utoipa::ToSchema;

use super::{Workup, workup_of_drag};
use crate::edit::{Applied, Edit, EditError, RouteEdit, apply};
use crate::environment::Scans;
use crate::findings::Severity;
use crate::job::Job;
use crate::measure::{KeepOutKind, KeepOutShape, RunId};
use crate::route::{LegDirection, LegId, Reach, Target};
use crate::survey::Survey;
use nook_geometry::units::{DualUnitText, LengthUnit};
use nook_geometry::{Direction, Vector};

/// How a run's straights stand to level, plumb and parallel.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TruingWorkup {
    /// Straights it has.
    pub straights: usize,
    /// How many of them run level, plumb, or parallel with the bonnet.
    pub already: usize,
    /// What could be brought there, the least off first.
    pub offers: Vec<TruingOffer>,
}

/// What a straight is brought to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TrueWay {
    /// Level.
    Level,
    /// Plumb.
    Plumb,
    /// Straight along the vehicle, and so with its frame.
    Lengthwise,
    /// Straight across the vehicle.
    Across,
    /// Parallel with the closed bonnet.
    Bonnet,
}

/// A straight that is nearly so, and what bringing it there costs or saves.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TruingOffer {
    /// Which.
    pub straight: LegId,
    /// What it is brought to.
    pub way: TrueWay,
    /// How far it is off, in degrees.
    pub off: f64,
    /// What the button says.
    pub label: DualUnitText,
    /// What it costs or saves.
    pub price: DualUnitText,
    /// Whether something that can be now could not be then.
    pub spoils: bool,
    /// The edit.
    pub edit: Edit,
}

/// Straights within this many degrees read as meant: what a level shows. The same as in the figures of ways round.
const TRUE: f64 = 0.5;
/// Straights further off than this, in degrees, are not brought there: they are another way round.
const NEARLY: f64 = 15.0;
/// Bonnets that lie within this many degrees of level are told as level.
const LEVEL_BONNET: f64 = 2.0;

/// What level, plumb and parallel would cost or save a run; nothing to offer where it has no way that joins its ports.
/// Straights at the ends run as the ports point, so they are counted and not offered.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn truing(job: &Job, id: RunId, scans: &Scans) -> Result<TruingWorkup, EditError> {
    let now = workup_of_drag(job, id, scans)?;
    let bonnet = bonnet(job);
    let along = |straight: &super::StraightWorkup| Vector::from(straight.along);
    let is_true =
        |way: Vector| ways(bonnet).into_iter().any(|(name, _)| off_by(name, way, bonnet) <= TRUE && name.reads());
    let already = now.straights.iter().filter(|straight| is_true(along(straight))).count();
    let inner = now.straights.iter().skip(1).take(now.straights.len().saturating_sub(2));
    let mut offers: Vec<TruingOffer> = Vec::new();
    for straight in inner {
        let way = along(straight);
        for (name, direction) in ways(bonnet) {
            let off = off_by(name, way, bonnet);
            if off <= TRUE || off > NEARLY {
                continue;
            }
            let Some(direction) = direction.or_else(|| onto_plane(way, bonnet?)) else { continue };
            let target = Target::LegWay { leg: straight.straight, way: direction };
            let edit = Edit::Route(RouteEdit::Reshape { run: id, target, reach: Reach::Exactly, snap: None });
            let Ok(Applied { job: next, .. }) = apply(job, &edit) else { continue };
            let then = workup_of_drag(&next, id, scans)?;
            if then.totals.is_none() {
                continue;
            }
            let number = now.straights.iter().position(|one| one.straight == straight.straight).map_or(0, |k| k + 1);
            offers.push(TruingOffer {
                straight: straight.straight,
                way: name,
                off,
                label: DualUnitText::new(|_| format!("Bring straight {number} {}", name.words())),
                price: price(&now, &then),
                spoils: errors(&then) > errors(&now),
                edit,
            });
        }
    }
    offers.sort_by(|p, q| p.spoils.cmp(&q.spoils).then(p.off.total_cmp(&q.off)));
    Ok(TruingWorkup { straights: now.straights.len(), already, offers })
}

impl TrueWay {
    const fn words(self) -> &'static str {
        match self {
            Self::Level => "level",
            Self::Plumb => "plumb",
            Self::Lengthwise => "lengthwise",
            Self::Across => "straight across",
            Self::Bonnet => "parallel with the bonnet",
        }
    }

    /// Whether a straight that runs so reads as meant by itself. One that runs level at any heading does.
    const fn reads(self) -> bool {
        match self {
            Self::Level | Self::Plumb | Self::Bonnet => true,
            // Each of these is level too.
            Self::Lengthwise | Self::Across => false,
        }
    }
}

/// What a straight can be brought to, and the direction of each but the bonnet's, which follows from the straight.
fn ways(bonnet: Option<Vector>) -> Vec<(TrueWay, Option<LegDirection>)> {
    let mut all = vec![
        (TrueWay::Level, Some(LegDirection::Level)),
        (TrueWay::Plumb, Some(LegDirection::Plumb)),
        (TrueWay::Lengthwise, Some(LegDirection::Lengthwise)),
        (TrueWay::Across, Some(LegDirection::Across)),
    ];
    all.extend(bonnet.map(|_| (TrueWay::Bonnet, None)));
    all
}

/// How far a unit vector is from running so, in degrees.
fn off_by(way: TrueWay, along: Vector, bonnet: Option<Vector>) -> f64 {
    let from_axis = |axis: Vector| along.dot(&axis).abs().min(1.0).acos().to_degrees();
    let from_plane = |normal: Vector| along.dot(&normal).abs().min(1.0).asin().to_degrees();
    match way {
        TrueWay::Level => from_plane(Vector::z()),
        TrueWay::Plumb => from_axis(Vector::z()),
        TrueWay::Lengthwise => from_axis(Vector::x()),
        TrueWay::Across => from_axis(Vector::y()),
        TrueWay::Bonnet => bonnet.map_or(f64::INFINITY, from_plane),
    }
}

/// A direction laid into a plane; `None` where it stands square on it.
fn onto_plane(along: Vector, normal: Vector) -> Option<LegDirection> {
    let direction = Direction::of(along - normal * along.dot(&normal)).ok()?;
    Some(LegDirection::Along { direction })
}

/// Square to the closed bonnet, where there is one that leans.
fn bonnet(job: &Job) -> Option<Vector> {
    let survey = Survey::new(job);
    let bonnets = job.keep_outs().iter().filter(|one| one.kind == KeepOutKind::Bonnet);
    bonnets.map(|one| survey.placed(one)).find_map(|shape| match shape {
        KeepOutShape::Plane { normal, .. } => {
            let normal = normal.vector();
            let leans = normal.z.abs().min(1.0).acos().to_degrees();
            (leans > LEVEL_BONNET).then_some(normal)
        }
        _ => None,
    })
}

fn errors(workup: &Workup) -> usize {
    workup.findings.iter().filter(|finding| finding.severity == Severity::Error).count()
}

/// What is other then than now, in words.
fn price(now: &Workup, then: &Workup) -> DualUnitText {
    DualUnitText::new(|unit| {
        let parts = differences(now, then, unit);
        if parts.is_empty() { "It costs nothing.".to_owned() } else { format!("{}.", parts.join(", ")) }
    })
}

fn differences(now: &Workup, then: &Workup, unit: LengthUnit) -> Vec<String> {
    let mut parts = Vec::new();
    let (Some(before), Some(after)) = (&now.totals, &then.totals) else { return parts };
    let longer = after.mouth_to_mouth.mm() - before.mouth_to_mouth.mm();
    if longer.abs() >= 0.05 {
        let word = if longer > 0.0 { "longer" } else { "shorter" };
        parts.push(format!("{} {word}", unit.text(longer.abs())));
    }
    if after.seams != before.seams {
        let (count, word) =
            (after.seams.abs_diff(before.seams), if after.seams > before.seams { "more" } else { "fewer" });
        parts.push(format!("{count} {} {word}", if count == 1 { "seam" } else { "seams" }));
    }
    let hours = after.hours - before.hours;
    if hours.abs() >= 0.05 {
        parts.push(format!("{:.1} h {}", hours.abs(), if hours > 0.0 { "more" } else { "less" }));
    }
    let margin = |workup: &Workup| workup.air.as_ref().map(|air| air.margin.map_or(air.of_interest.mm(), |m| m.mm()));
    if let (Some(was), Some(is)) = (margin(now), margin(then))
        && (is - was).abs() >= 0.5
    {
        parts.push(format!("{} {} air to spare", unit.text((is - was).abs()), if is > was { "more" } else { "less" }));
    }
    let spoilt = errors(then).saturating_sub(errors(now));
    if spoilt > 0 {
        let first = then
            .findings
            .iter()
            .find(|one| now.findings.iter().all(|known| known.kind != one.kind || known.part != one.part));
        let what = first.map_or("and then it cannot be".to_owned(), |one| {
            let words = one.words.get(unit).trim_end_matches('.');
            format!("and then: {words}")
        });
        parts.push(what);
    }
    parts
}

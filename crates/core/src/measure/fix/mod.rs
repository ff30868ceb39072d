//! From readings to a place and a direction: least squares over everything known of one thing at once, how good the
//! answer is, which reading looks wrong, and which further one would help.

mod doubt;
mod help;
mod sight;
mod solve;

use std::cell::OnceCell;

use nalgebra::{DMatrix, Matrix3, Point3, Rotation3, Unit};

pub use doubt::Doubt;
pub use help::Gain;
pub use sight::{Kind, Lever, Pose, Sight};

use crate::geometry::{Vector, spread_axes};
use solve::{Free, Solved, knowledge, solve, worst_of};

/// How a part of the answer came about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Basis {
    /// No reading bears on it: what was typed holds.
    Typed,
    /// Readings bear on it but leave it open: what was typed holds.
    Open,
    /// Readings fix it.
    Fixed,
}

/// How the known points lie that tapes were stretched from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AnchorShape {
    /// Fewer than three tapes.
    Few,
    /// In one line: tapes alone leave a circle about it.
    InLine,
    /// In one plane: tapes alone leave two answers, one on each side.
    InPlane,
    /// In space.
    InSpace,
}

/// One reading beside the answer.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ReadingFit {
    /// Its place among the thing's readings.
    pub index: usize,
    /// What the answer gives less what was read, in mm, or in radians for an angle; for a reading of several
    /// figures, how far off they are together.
    pub off: f64,
    /// Whether `off` is an angle.
    pub angle: bool,
    /// `off` in standard deviations of itself; `None` where no other reading checks this one, or it does not count.
    pub normalised: Option<f64>,
    /// How much the others check it: 0 not at all, 1 fully.
    pub checked: f64,
}

/// Where a thing is, and how well that is known.
#[derive(Debug, Clone)]
pub struct Fix {
    /// The answer.
    pub pose: Pose,
    /// How its place came about.
    pub place: Basis,
    /// How its direction came about.
    pub aim: Basis,
    /// The place's covariance in mm2; zero where it was typed.
    pub spread: Matrix3<f64>,
    /// Worst standard deviation of the direction in radians; 0 where it was typed.
    pub aim_spread: f64,
    /// Every reading beside the answer, in order.
    pub readings: Vec<ReadingFit>,
    /// The other place that fits as well, where there is one.
    pub other: Option<Point3<f64>>,
    /// How the tapes' ends lie.
    pub anchors: AnchorShape,
    /// Where readings leave the place open: the direction it can still go.
    pub loose: Option<Unit<Vector>>,
    /// What the counting readings bear on, whether they fix it or not.
    wanted: Free,
    /// How much they tell of it at the answer: the normal matrix of the scaled unknowns.
    known: DMatrix<f64>,
    /// What the doubt is worked out from, when somebody asks.
    evidence: Option<(Solved, Vec<Sight>)>,
    doubt: OnceCell<Doubt>,
}

/// Sums of squares that differ by less than this are as good as each other: three standard deviations.
const AS_GOOD: f64 = 9.0;
/// Two answers nearer than this, in mm, are one.
const ONE_PLACE: f64 = 5.0;

/// Works out where a thing is from its `sights`. `rough` is what was typed: where the sum starts, which of two
/// answers is meant, and what holds where readings leave something open.
#[must_use]
pub fn fix(rough: Pose, sights: &[Sight]) -> Fix {
    let anchors = anchor_shape(sights);
    let start = started(rough, sights);
    let bears = bearing(&start, sights);
    let wanted = Free { place: bears.0, aim: bears.1 && rough.out.is_some() };
    let options = [wanted, Free::PLACE, Free::AIM].into_iter().filter(|free| free.count() > 0);
    let mut found = options
        .filter(|free| *free == wanted || wanted == Free::BOTH)
        .filter_map(|free| solve(sights, partly(rough, start, free), free))
        .find(Solved::fixed);
    let mut other = None;
    if let Some(solved) = found.take_if(|solved| solved.free.place) {
        let (chosen, second) = of_two(solved, sights, rough);
        other = second;
        found = Some(chosen);
    }
    let basis = |bears: bool, free: bool| match (bears, free) {
        (_, true) => Basis::Fixed,
        (true, false) => Basis::Open,
        (false, false) => Basis::Typed,
    };
    let free = found.as_ref().map_or(Free { place: false, aim: false }, |solved| solved.free);
    let pose = found.as_ref().map_or(rough, |solved| solved.pose);
    let place = basis(bears.0, free.place);
    let known = knowledge(sights, &pose, wanted);
    let loose = (place == Basis::Open && wanted.place)
        .then(|| worst_of(&known).1)
        .and_then(|way| Unit::try_new(Vector::new(way[0], way[1], way[2]), 1e-6));
    Fix {
        pose,
        place,
        aim: basis(wanted.aim, free.aim),
        spread: found.as_ref().map_or_else(Matrix3::zeros, Solved::place_covariance),
        aim_spread: found.as_ref().map_or(0.0, Solved::aim_spread),
        readings: beside(&pose, found.as_ref(), sights),
        other,
        anchors,
        loose,
        wanted,
        known,
        evidence: found.map(|solved| (solved, sights.to_vec())),
        doubt: OnceCell::new(),
    }
}

impl Fix {
    /// What does not agree. Worked out when it is first asked for: it takes several fits, and a drag needs only one.
    #[must_use]
    pub fn doubt(&self) -> &Doubt {
        self.doubt.get_or_init(|| {
            self.evidence.as_ref().map_or(Doubt::Nothing, |(solved, sights)| doubt::doubt(solved, sights))
        })
    }

    /// Worst standard deviation of the place in mm; 0 where it was typed.
    #[must_use]
    pub fn worst(&self) -> f64 {
        spread_axes(self.spread).map_or(f64::INFINITY, |[_, _, worst]| worst.0.max(0.0).sqrt())
    }

    /// The half axes of the place's error ellipsoid, each one standard deviation long, in mm; the longest first.
    #[must_use]
    pub fn axes(&self) -> [Vector; 3] {
        let Some([least, middle, most]) = spread_axes(self.spread) else { return [Vector::zeros(); 3] };
        [most, middle, least].map(|(variance, way)| way * variance.max(0.0).sqrt())
    }
}

/// Which of place and direction the counting readings bear on.
fn bearing(pose: &Pose, sights: &[Sight]) -> (bool, bool) {
    let mut rows = Vec::new();
    sights.iter().filter(|sight| sight.counts).for_each(|sight| sight.rows(pose, &mut rows));
    (rows.iter().any(sight::Row::uses_place), rows.iter().any(sight::Row::uses_aim))
}

/// Where the sum starts: as typed, but pointing as the gauge says, which turns round what was typed back to front.
fn started(rough: Pose, sights: &[Sight]) -> Pose {
    let said = |pick: fn(&Kind) -> Option<f64>| sights.iter().filter(|s| s.counts).find_map(|s| pick(&s.kind));
    let heading = said(|kind| if let Kind::Heading(angle) = kind { Some(*angle) } else { None });
    let pitch = said(|kind| if let Kind::Pitch(angle) = kind { Some(*angle) } else { None });
    let straight = sights.iter().filter(|s| s.counts).find_map(|sight| match sight.kind {
        Kind::Parallel(to, _) | Kind::Image { out: (to, _), .. } => Some(to),
        _ => None,
    });
    let out = rough.out.map(|typed| {
        if let Some(to) = straight {
            return to;
        }
        let heading = heading.unwrap_or_else(|| typed.y.atan2(typed.x));
        let pitch = pitch.unwrap_or_else(|| typed.z.clamp(-1.0, 1.0).asin());
        Unit::new_normalize(Vector::new(pitch.cos() * heading.cos(), pitch.cos() * heading.sin(), pitch.sin()))
    });
    Pose { out, ..rough }
}

/// What is not free stays as typed.
fn partly(rough: Pose, start: Pose, free: Free) -> Pose {
    if free.aim { start } else { rough }
}

/// Tapes from points in a plane or a line fit two places. Looks for the second, and says which is meant: the one that
/// fits clearly better, else the one nearer to what was typed.
fn of_two(solved: Solved, sights: &[Sight], rough: Pose) -> (Solved, Option<Point3<f64>>) {
    let Some(image) = image_of(solved.pose.at, sights) else { return (solved, None) };
    let second = solve(sights, Pose { at: image, ..solved.pose }, solved.free).filter(Solved::fixed);
    let apart = |other: &Solved| (other.pose.at - solved.pose.at).norm() > ONE_PLACE;
    let Some(second) = second.filter(apart) else { return (solved, None) };
    let gap = second.squares - solved.squares;
    let nearer = (second.pose.at - rough.at).norm() < (solved.pose.at - rough.at).norm();
    match (gap.abs() < AS_GOOD, nearer, gap < 0.0) {
        (true, true, _) => (second, Some(solved.pose.at)),
        (true, false, _) => {
            let other = second.pose.at;
            (solved, Some(other))
        }
        (false, _, true) => (second, None),
        (false, _, false) => (solved, None),
    }
}

fn tape_ends(sights: &[Sight]) -> Vec<Point3<f64>> {
    let counting = sights.iter().filter(|sight| sight.counts);
    counting.filter_map(|sight| if let Kind::Tape { from, .. } = sight.kind { Some(from) } else { None }).collect()
}

/// Middle of points and the square roots of their spread along the three axes, least first, with the axes.
fn spread_of(points: &[Point3<f64>]) -> Option<(Point3<f64>, [f64; 3], [Vector; 3])> {
    let count = u32::try_from(points.len()).ok().filter(|count| *count > 0).map(f64::from)?;
    let middle = Point3::from(points.iter().map(|p| p.coords).sum::<Vector>() / count);
    let spread: Matrix3<f64> = points.iter().map(|p| (p - middle) * (p - middle).transpose()).sum();
    let axes = spread_axes(spread / count)?;
    Some((middle, axes.map(|axis| axis.0.max(0.0).sqrt()), axes.map(|axis| axis.1)))
}

/// Spread in mm below which points are in line or in plane: what tapes cannot tell from it.
const FLAT: f64 = 4.0;

fn anchor_shape(sights: &[Sight]) -> AnchorShape {
    let ends = tape_ends(sights);
    match spread_of(&ends) {
        Some((_, [least, middle, _], _)) if ends.len() >= 3 => {
            if middle < FLAT {
                AnchorShape::InLine
            } else if least < FLAT {
                AnchorShape::InPlane
            } else {
                AnchorShape::InSpace
            }
        }
        _ => AnchorShape::Few,
    }
}

/// The image of a place in the plane of the tapes' ends, or half a turn about their line.
fn image_of(at: Point3<f64>, sights: &[Sight]) -> Option<Point3<f64>> {
    let ends = tape_ends(sights);
    let (middle, [_, between, longest], [normal, _, line]) = spread_of(&ends)?;
    let off = at - middle;
    if longest < FLAT {
        return None;
    }
    if between < FLAT {
        let half = Rotation3::from_axis_angle(&Unit::new_normalize(line), std::f64::consts::PI);
        return Some(middle + half * off);
    }
    Some(at - normal * (2.0 * normal.dot(&off)))
}

fn beside(pose: &Pose, solved: Option<&Solved>, sights: &[Sight]) -> Vec<ReadingFit> {
    let covariance = solved.and_then(Solved::covariance);
    let one = |sight: &Sight| {
        let mut rows = Vec::new();
        sight.rows(pose, &mut rows);
        let length = |rows: &mut dyn Iterator<Item = f64>| rows.map(|r| r * r).sum::<f64>().sqrt();
        let angle = rows.iter().all(|row| row.angle);
        // A mirror image is off by its place; its direction is judged in the sum.
        let off = match rows.as_slice() {
            [row] => row.residual,
            rows => length(&mut rows.iter().filter(|row| row.angle == angle).map(|row| row.residual)),
        };
        let figures = solved.zip(covariance.as_ref()).filter(|_| sight.counts).map(|(solved, covariance)| {
            let rows = solved.rows.iter().filter(|row| row.index == sight.index);
            rows.map(|row| doubt::normalised(solved, covariance, row))
                .fold((0.0_f64, 0.0_f64), |(w, q), (each_w, each_q)| {
                    (if each_w.abs() > w.abs() { each_w } else { w }, q.max(each_q))
                })
        });
        let (normalised, checked) = figures.unwrap_or((0.0, 0.0));
        let normalised = (checked > doubt::CHECKED).then_some(normalised);
        ReadingFit { index: sight.index, off, angle, normalised, checked }
    };
    sights.iter().map(one).collect()
}

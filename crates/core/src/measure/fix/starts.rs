//! Where the sum starts, and how many answers there are: a least-squares sum finds the hollow it starts in, and
//! distances from points in a plane have two.

use nalgebra::{Matrix3, Point3, Rotation3, Unit};

use super::instruments::Instruments;
use super::sight::{Kind, Lever, Pose, Sight};
use super::solve::{Free, Solved, counting, solve};
use crate::geometry::{Vector, spread_axes};

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

/// Sums of squares that differ by less than this are as good as each other: three standard deviations.
pub(super) const AS_GOOD: f64 = 9.0;
/// Two answers nearer than this, in mm and radians, are one.
const ONE_PLACE: f64 = 5.0;
const ONE_WAY: f64 = 0.05;
/// Directions nearer than this, in radians, lead into one hollow.
const APART: f64 = 0.8;
/// Directions tried from one place, the best at the start first.
const TRIED: usize = 4;

/// Every answer that readings have for what is `free`, the best first: the sum is started at what was typed and its
/// image, and in several directions.
pub(super) fn answers(sights: &[Sight], instruments: &Instruments, rough: Pose, free: Free) -> Vec<Solved> {
    let mut found: Vec<Solved> = Vec::new();
    for at in places(sights, instruments, rough, free) {
        for out in directions(sights, instruments, Pose { at, ..rough }, free) {
            let Some(solved) = solve(sights, instruments, Pose { at, out }, free).filter(Solved::fixed) else {
                continue;
            };
            if !found.iter().any(|other| same(&other.pose, &solved.pose)) {
                found.push(solved);
            }
        }
    }
    found.sort_by(|p, q| p.squares.total_cmp(&q.squares));
    found
}

/// Two poses that are one answer.
fn same(one: &Pose, other: &Pose) -> bool {
    (one.at - other.at).norm() < ONE_PLACE && turn_between(one, other) < ONE_WAY
}

/// The angle between two ways out in radians; 0 where there are none.
pub(super) fn turn_between(one: &Pose, other: &Pose) -> f64 {
    one.out.zip(other.out).map_or(0.0, |(one, other)| one.angle(&other))
}

/// What was typed, the place that the tapes to the centre alone fix, and the images of both.
fn places(sights: &[Sight], instruments: &Instruments, rough: Pose, free: Free) -> Vec<Point3<f64>> {
    if !free.place {
        return vec![rough.at];
    }
    let alone = || solve(sights, instruments, rough, Free::PLACE).filter(Solved::fixed).map(|solved| solved.pose.at);
    let first = if free.aim { alone().unwrap_or(rough.at) } else { rough.at };
    // Tapes to the mouth's centre may lie in a plane where those to the stick do not.
    let to_centre = |sight: &&Sight| !matches!(sight.kind, Kind::Tape { to: Lever::Stick(_), .. });
    let centred: Vec<Sight> = sights.iter().filter(to_centre).copied().collect();
    let mut places = vec![first];
    for image in [image_of(first, sights), image_of(first, &centred)].into_iter().flatten() {
        if places.iter().all(|place| (place - image).norm() > ONE_PLACE) {
            places.push(image);
        }
    }
    places
}

/// Directions to start from: as the gauge says or as typed, and those round about that fit best at the place.
fn directions(sights: &[Sight], instruments: &Instruments, rough: Pose, free: Free) -> Vec<Option<Unit<Vector>>> {
    let Some(typed) = rough.out.filter(|_| free.aim) else { return vec![rough.out] };
    let cost = |out: Unit<Vector>| -> f64 {
        let rows = counting(sights, &Pose { out: Some(out), ..rough }, instruments, free);
        rows.iter().map(|row| row.residual.powi(2) / row.variance(instruments)).sum()
    };
    let steps = [-1.0, 0.0, 1.0];
    let round = steps.iter().flat_map(|x| steps.iter().flat_map(move |y| steps.map(move |z| Vector::new(*x, *y, z))));
    let mut tried: Vec<(f64, Unit<Vector>)> =
        round.filter_map(|way| Unit::try_new(way, 0.5)).map(|way| (cost(way), way)).collect();
    tried.sort_by(|p, q| p.0.total_cmp(&q.0));
    let mut chosen = vec![started(typed, sights)];
    for (_, way) in tried {
        if chosen.len() < TRIED && chosen.iter().all(|other| other.angle(&way) > APART) {
            chosen.push(way);
        }
    }
    chosen.into_iter().map(Some).collect()
}

/// As typed, but pointing as the gauge or a straight edge says.
fn started(typed: Unit<Vector>, sights: &[Sight]) -> Unit<Vector> {
    let said = |pick: fn(&Kind) -> Option<f64>| sights.iter().filter(|s| s.counts).find_map(|s| pick(&s.kind));
    let heading = said(|kind| if let Kind::Heading(angle) = kind { Some(*angle) } else { None });
    let pitch = said(|kind| if let Kind::Pitch(angle) = kind { Some(*angle) } else { None });
    let straight = sights.iter().filter(|s| s.counts).find_map(|sight| match sight.kind {
        Kind::Parallel(to, _) | Kind::Image { out: (to, _), .. } => Some(to),
        _ => None,
    });
    straight.unwrap_or_else(|| {
        let heading = heading.unwrap_or_else(|| typed.y.atan2(typed.x));
        let pitch = pitch.unwrap_or_else(|| typed.z.clamp(-1.0, 1.0).asin());
        Unit::new_normalize(Vector::new(pitch.cos() * heading.cos(), pitch.cos() * heading.sin(), pitch.sin()))
    })
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

pub(super) fn anchor_shape(sights: &[Sight]) -> AnchorShape {
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

//! Where the sum starts, and how many answers there are: a least-squares sum finds the hollow it starts in, and
//! distances from points in a plane have two.

use nalgebra::{Matrix3, Point3, Rotation3, Unit};

use super::instruments::Instruments;
use super::observation::{Kind, LeverArm, Observation, Pose, Rim};
use super::solve::{Solved, Unknowns, approach, counting, settle};
use nook_geometry::{Vector, spread_axes};

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
/// A direction nearer than this, in radians, to where the sum is started anyway leads into the same hollow.
const APART: f64 = 0.2;
/// Neighbours on the grid of directions are no further apart than this, in radians.
const NEIGHBOUR: f64 = 0.96;
/// Directions tried from one place beside what was typed, those that fit best there.
const TRIED: usize = 6;
/// An image whose sum of squares is so many times that of the first place has no answer near it.
const HOPELESS: f64 = 5000.0;

/// Every answer that readings have for what is `free`, the best first; none where they leave it loose. The sum is started
/// at what was typed and its image, and in several directions; where it is to be `thorough`, from everywhere before anybody
/// is accused, and where a direction follows from a rim alone, which leaves many hollows.
pub(super) fn answers(
    sights: &[Observation],
    instruments: &Instruments,
    rough: Pose,
    free: Unknowns,
    thorough: bool,
) -> Vec<Solved> {
    let mut found: Vec<Solved> = Vec::new();
    let try_from = |found: &mut Vec<Solved>, at: Point3<f64>, out: Option<Unit<Vector>>| {
        let Some(near) = approach(sights, instruments, Pose { at, out }, free) else { return };
        let known = |pose: &Pose, found: &[Solved]| found.iter().any(|other| same(&other.pose, pose));
        if known(&near, found) {
            return;
        }
        if let Some(solved) = settle(sights, instruments, near, free).filter(|solved| !known(&solved.pose, found)) {
            found.push(solved);
        }
        found.sort_by(|p, q| p.squares.total_cmp(&q.squares));
    };
    let places = places(sights, instruments, rough, free);
    for at in &places {
        for out in directions(sights, instruments, Pose { at: *at, ..rough }, free) {
            try_from(&mut found, *at, out);
        }
    }
    let agreed = found.first().is_some_and(agrees);
    if thorough && free.aim && rough.out.is_some() && !said_outright(sights) && !(agreed && points(sights)) {
        places.iter().for_each(|at| round_about().for_each(|out| try_from(&mut found, *at, Some(out))));
    }
    // Where what fits as well as anything is left loose, no other answer may stand in for it.
    let best = found.first().map_or(0.0, |best| best.squares);
    if found.iter().take_while(|solved| solved.squares < best + AS_GOOD).all(Solved::fixed) {
        found
    } else {
        Vec::new()
    }
}

/// Whether chance explains what is left: three standard deviations of a chi squared.
fn agrees(solved: &Solved) -> bool {
    let spare = f64::from(u32::try_from(solved.spare()).unwrap_or(u32::MAX));
    solved.squares <= spare + 3.0 * (2.0 * spare).sqrt() + 1e-6
}

/// Directions all round, evenly enough: towards the sides, edges and corners of a cube.
fn round_about() -> impl Iterator<Item = Unit<Vector>> {
    let steps = [-1.0, 0.0, 1.0];
    let all = steps
        .into_iter()
        .flat_map(move |x| steps.into_iter().flat_map(move |y| steps.into_iter().map(move |z| Vector::new(x, y, z))));
    all.filter_map(|way| Unit::try_new(way, 0.5))
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
fn places(sights: &[Observation], instruments: &Instruments, rough: Pose, free: Unknowns) -> Vec<Point3<f64>> {
    if !free.place {
        return vec![rough.at];
    }
    // Tapes to the mouth's centre may lie in a plane where those to the stick do not.
    let centred: Vec<Observation> = sights.iter().filter_map(about_the_centre).collect();
    let first = approach(&centred, instruments, rough, Unknowns::PLACE).map_or(rough.at, |pose| pose.at);
    let mut places = vec![first];
    let off = |at: Point3<f64>| -> f64 {
        let rows = counting(&centred, &Pose { at, ..rough }, instruments, Unknowns::PLACE);
        rows.iter().map(|row| row.residual.powi(2) / row.variance(instruments)).sum()
    };
    let hopeless = HOPELESS + HOPELESS * off(first);
    for image in [image_of(first, sights), image_of(first, &centred)].into_iter().flatten() {
        let far = places.iter().all(|place| (place - image).norm() > ONE_PLACE);
        if far && off(image) < hopeless {
            places.push(image);
        }
    }
    places
}

/// A reading as one that goes to the centre, where it does so roughly: a rim and a face lie about it. `None` for one to
/// a stick.
fn about_the_centre(sight: &Observation) -> Option<Observation> {
    let mut centred = *sight;
    if let Kind::Tape { to, .. } | Kind::Offset { to, .. } = &mut centred.kind {
        match *to {
            LeverArm::Fixed(_) => {}
            LeverArm::Stick(_) => return None,
            LeverArm::Rim(Rim { radius, .. }) | LeverArm::Face { radius, .. } => {
                (*to, centred.sigma) = (LeverArm::Fixed(Vector::zeros()), sight.sigma + radius);
            }
        }
    }
    Some(centred)
}

/// Directions to start from: as the gauge says or as typed, and those round about that fit best at the place.
fn directions(
    sights: &[Observation],
    instruments: &Instruments,
    rough: Pose,
    free: Unknowns,
) -> Vec<Option<Unit<Vector>>> {
    let Some(typed) = rough.out.filter(|_| free.aim) else { return vec![rough.out] };
    let cost = |out: Unit<Vector>| -> f64 {
        let rows = counting(sights, &Pose { out: Some(out), ..rough }, instruments, free);
        rows.iter().map(|row| row.residual.powi(2) / row.variance(instruments)).sum()
    };
    if said_outright(sights) {
        return vec![Some(started(typed, sights))];
    }
    let tried: Vec<(f64, Unit<Vector>)> = round_about().map(|way| (cost(way), way)).collect();
    // Each hollow has a direction on the grid that is better than its neighbours.
    let lowest = |(own, way): &&(f64, Unit<Vector>)| {
        tried.iter().all(|(other, beside)| beside.angle(way) > NEIGHBOUR || beside.angle(way) < 1e-6 || other >= own)
    };
    let mut chosen: Vec<(f64, Unit<Vector>)> = tried.iter().filter(lowest).copied().collect();
    chosen.sort_by(|p, q| p.0.total_cmp(&q.0));
    let first = started(typed, sights);
    let others = chosen.into_iter().map(|(_, way)| way).take(TRIED).filter(|way| way.angle(&first) > APART);
    std::iter::once(first).chain(others).map(Some).collect()
}

/// Whether readings say the direction itself: by gauge both ways, along something, or as an image.
fn said_outright(sights: &[Observation]) -> bool {
    let any = |pick: fn(&Kind) -> bool| sights.iter().any(|sight| sight.counts && pick(&sight.kind));
    any(|kind| matches!(kind, Kind::Parallel(..) | Kind::Image { .. }))
        || (any(|kind| matches!(kind, Kind::Heading(_))) && any(|kind| matches!(kind, Kind::Pitch(_))))
}

/// Whether any reading is of the direction itself or of a point along it, not only of the rim about it.
fn points(sights: &[Observation]) -> bool {
    sights.iter().filter(|sight| sight.counts).any(|sight| match sight.kind {
        Kind::Tape { to, .. } | Kind::Offset { to, .. } => matches!(to, LeverArm::Stick(_)),
        _ => true,
    })
}

/// As typed, but pointing as the gauge or a straight edge says.
fn started(typed: Unit<Vector>, sights: &[Observation]) -> Unit<Vector> {
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

fn tape_ends(sights: &[Observation]) -> Vec<Point3<f64>> {
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

pub(super) fn anchor_shape(sights: &[Observation]) -> AnchorShape {
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
fn image_of(at: Point3<f64>, sights: &[Observation]) -> Option<Point3<f64>> {
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

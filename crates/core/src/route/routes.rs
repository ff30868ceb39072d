//! Finding the ways round with no bend, one or two, best first.

use std::f64::consts::FRAC_PI_2;

use serde::Serialize;
use utoipa::ToSchema;

use super::build_path::axes_meet;
use super::candidate::{BEND_WORTH, SEAM_WORTH};
use super::family::{Family, Leads, Shape};
use super::{Candidate, Centreline, Route, RouteKind, build_path, tube_path};
use crate::measure::End;
use crate::route::{ResolvedMake, ResolvedRun, Run};
use crate::stock::{HoseBuild, MOULDED_ANGLES, MOULDED_GIVE};
use nook_geometry::units::{BendRadius, DualUnitText, Lead, Measure};

/// The ways that join two ports, best first, or why there is none.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Routes {
    /// Best first.
    pub ways: Vec<Candidate>,
    /// Why there is none; only when `ways` is empty.
    pub none: Option<NoRoute>,
}

/// Why no way with up to two bends joins the ports.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
#[serde(tag = "reason", rename_all = "snake_case")]
pub enum NoRoute {
    /// A smaller radius would do.
    RadiusTooLarge {
        /// The largest radius found to do, in mm.
        would_do: Measure,
    },
    /// The straights come out too short for hose seats and joints, even at the least useful radius.
    NoRoom {
        /// By how much the tightest straight misses at best, at the run's radius.
        short_by: Measure,
    },
    /// Two bends cannot turn from one port to the other.
    NeedsMoreBends,
}

impl NoRoute {
    /// Says why, and what would help.
    #[must_use]
    pub fn words(&self) -> DualUnitText {
        DualUnitText::new(|unit| {
            match self {
            Self::RadiusTooLarge { would_do } => format!(
                "Two bends of this radius do not fit between the ports with room for both hose seats. A radius of {} would.",
                unit.text(would_do.mm())
            ),
            Self::NoRoom { short_by } => format!(
                "With up to two bends the tightest straight comes out {} too short at best. Move the ports that much apart, turn one, or give an end a joint that needs less straight tube.",
                unit.text(short_by.mm())
            ),
            Self::NeedsMoreBends => {
                "Up to two bends cannot get from A round to B: the mouths point too far away from each other. Turn a port on its bolts, or move one.".to_owned()
            }
        }
        })
    }
}

/// Angles below a half turn that elbows are sold in for what a run is built of, in degrees. Sources: handbook, "The work", Route;
/// of moulded hose "Joints, fittings, hoses and supports", Joint kinds.
#[must_use]
pub const fn elbow_angles(run: &Run) -> &'static [f64] {
    match run.hose {
        Some(HoseBuild::Moulded { .. }) => &MOULDED_ANGLES,
        _ => &[15.0, 30.0, 45.0, 60.0, 90.0, 120.0],
    }
}
/// Fineness of the lead grids; halving it changes no way of the test bays by a millimetre.
const GRID: u32 = 56;
/// Length a gentler way may add, as a share of the shortest.
const GENTLER_COSTS: f64 = 0.12;

/// Least straight in mm between the tangent points of two bends: the end seams' heat must not meet, and moulded elbows need their
/// legs.
#[must_use]
pub fn least_between_bends(run: &Run) -> f64 {
    run.hose.map_or_else(|| (4.0 * run.tube.wall()).max(10.0), HoseBuild::between_bends)
}

/// Every kind of way with up to two free bends at the run's radius that joins the ports and leaves room for
/// seats, best first. Deterministic.
#[must_use]
pub fn ways(run: &ResolvedRun) -> Routes {
    let mut found = few_bends(run);
    found.extend(two_bends(run));
    let shortest = found.iter().map(|candidate| candidate.length.mm()).fold(f64::INFINITY, f64::min);
    found.sort_by(|one, other| one.score.total_cmp(&other.score));
    let mut kept: Vec<Candidate> = Vec::new();
    for mut candidate in found {
        if !kept.iter().any(|other| alike(other, &candidate)) {
            candidate.explain(shortest);
            kept.push(candidate);
        }
    }
    let none = kept.is_empty().then(|| why_none(run));
    Routes { ways: kept, none }
}

/// Two ways a builder would call the same: as many bends, and each vertex within 12 mm of the other's.
fn alike(one: &Candidate, other: &Candidate) -> bool {
    let near = |(p, q): (&[f64; 3], &[f64; 3])| (p[0] - q[0]).hypot(p[1] - q[1]).hypot(p[2] - q[2]) < 12.0;
    one.corners.len() == other.corners.len() && one.corners.iter().zip(&other.corners).all(near)
}

fn few_bends(run: &ResolvedRun) -> Vec<Candidate> {
    let straight = candidate(run, Route::along(Centreline::Straight), RouteKind::Straight);
    let one = candidate(run, Route::along(Centreline::OneBend), RouteKind::OneBend);
    [straight, one].into_iter().flatten().collect()
}

fn two_bends(run: &ResolvedRun) -> Vec<Candidate> {
    let family = Family::new(run, run.radius.get(), least_between_bends(run));
    let mut found: Vec<(RouteKind, Leads)> = Vec::new();
    // Only where nothing lies near is a long way round worth offering.
    let lengths = |family: &Family| best(family, |shape| shape.length);
    let near = lengths(&family).map(|best| (family, best));
    let Some((family, (short, shape))) = near.or_else(|| lengths(&family.far()).map(|best| (family.far(), best)))
    else {
        return Vec::new();
    };
    found.push((RouteKind::Shortest, whole_degrees(&family, &shape).unwrap_or(short)));
    let longest = shape.length * (1.0 + GENTLER_COSTS);
    let turning = |shape: &Shape| {
        let over = (shape.length - longest).max(0.0);
        shape.angles[0] + shape.angles[1] + over
    };
    if let Some((gentle, shape)) = best(&family, turning) {
        found.push((RouteKind::Gentlest, whole_degrees(&family, &shape).unwrap_or(gentle)));
    }
    let square = family.with_angles([FRAC_PI_2; 2]);
    found.extend(square.into_iter().map(|leads| (RouteKind::SquareBends, leads)));
    found.extend(along_level(&family).map(|leads| (RouteKind::LevelMiddle, leads)));
    found.extend(equal_bends(&family).map(|leads| (RouteKind::EqualBends, leads)));
    found.extend(stock_pairs(run, &family).into_iter().map(|leads| (RouteKind::StockAngles, leads)));
    found.extend(one_stock_bend(run, &family).into_iter().map(|leads| (RouteKind::OneStockAngle, leads)));
    found
        .into_iter()
        .filter(|(_, leads)| family.buildable(*leads).is_some())
        .filter_map(|(kind, leads)| candidate(run, way_of(leads)?, kind))
        .collect()
}

fn way_of(leads: Leads) -> Option<Route> {
    let (lead_a, lead_b) = (Lead::new(leads.a).ok()?, Lead::new(leads.b).ok()?);
    Some(Route::along(Centreline::Vertices { lead_a, between: Vec::new(), lead_b }))
}

/// Whether a bend of a run can have an angle, in radians: moulded elbows give a little, all else is made to any.
fn is_sold(run: &Run, angle: f64) -> bool {
    let near = |sold: &f64| (angle.to_degrees() - sold).abs() <= MOULDED_GIVE;
    !matches!(run.hose, Some(HoseBuild::Moulded { .. })) || elbow_angles(run).iter().any(near)
}

/// A way as an offer, if it can be laid and its ends have their straights.
fn candidate(run: &ResolvedRun, way: Route, kind: RouteKind) -> Option<Candidate> {
    let whole = build_path(run, &way).ok()?;
    let tube = tube_path(run, &whole);
    let straights: Vec<f64> = tube.straights().collect();
    let (first, last) = (*straights.first()?, *straights.last()?);
    let (need_a, need_b) = (run.straight_needed(End::A), run.straight_needed(End::B));
    let seated = if straights.len() == 1 {
        first >= need_a + need_b - 1e-9
    } else {
        first >= need_a - 1e-9 && last >= need_b - 1e-9
    };
    if !seated || !whole.legs().iter().all(|leg| is_sold(run, leg.bend.angle)) {
        return None;
    }
    let seams = whole.legs().iter().map(|leg| ResolvedMake::of(None, run.tube, &leg.bend).welds()).sum();
    let mut corners = vec![run.outlet(End::A).at.to_array()];
    corners.extend(whole.vertices().iter().map(|vertex| <[f64; 3]>::from(vertex.coords)));
    corners.push(run.outlet(End::B).at.to_array());
    let length = whole.length();
    let bends = whole.legs().iter().map(|_| BEND_WORTH).sum::<f64>();
    Some(Candidate {
        way,
        kind,
        reason: DualUnitText::new(|_| String::new()),
        angles: whole.legs().iter().map(|leg| leg.bend.angle.to_degrees()).collect(),
        length: Measure(length),
        seams,
        corners,
        score: length + SEAM_WORTH * f64::from(seams) + bends,
    })
}

/// The buildable member with the least `cost`: a grid first, then eight directions with ever smaller steps.
fn best(family: &Family, cost: impl Fn(&Shape) -> f64) -> Option<(Leads, Shape)> {
    best_of(family, |leads| family.buildable(leads), cost)
}

/// The same among the members that `build` allows.
fn best_of(
    family: &Family,
    build: impl Fn(Leads) -> Option<Shape>,
    cost: impl Fn(&Shape) -> f64,
) -> Option<(Leads, Shape)> {
    let mut top: Option<(f64, Leads, Shape)> = None;
    let consider = |top: &mut Option<(f64, Leads, Shape)>, leads: Leads| {
        // Some costs fall for ever as the leads grow; nobody walks further than the grid reaches.
        let Some(shape) = build(leads).filter(|_| family.reaches(leads)) else { return false };
        let price = cost(&shape);
        let better = top.as_ref().is_none_or(|(least, ..)| price < *least - 1e-9);
        if better {
            *top = Some((price, leads, shape));
        }
        better
    };
    for a in family.lead_grid(0, GRID) {
        for b in family.lead_grid(1, GRID) {
            consider(&mut top, Leads { a, b });
        }
    }
    let mut step = family.span() / 16.0 + 1.0;
    while step > 1e-3 {
        let (_, at, _) = top?;
        let aside = [-1.0, 0.0, 1.0];
        let moved = aside.iter().flat_map(|i| aside.iter().map(move |j| (i * step, j * step)));
        let mut better = false;
        for (da, db) in moved {
            better |= consider(&mut top, Leads { a: at.a + da, b: at.b + db });
        }
        if !better {
            step *= 0.5;
        }
    }
    top.map(|(_, leads, shape)| (leads, shape))
}

/// The shortest buildable member with whole-degree bends next to `shape`.
fn whole_degrees(family: &Family, shape: &Shape) -> Option<Leads> {
    let near = |angle: f64| (-3..=3).map(move |k| (angle.to_degrees().round() + f64::from(k)).to_radians());
    let pairs = near(shape.angles[0]).flat_map(|first| near(shape.angles[1]).map(move |second| [first, second]));
    let close = |leads: &Leads| {
        let now = family.buildable(*leads)?;
        let drift = (now.middle - shape.middle).norm();
        // Another solution with the same angles lies elsewhere; this one must stay beside the shape.
        (drift < 0.2 && now.length < shape.length * 1.08).then_some(now.length)
    };
    let options = pairs.flat_map(|angles| family.with_angles(angles));
    options
        .filter_map(|leads| close(&leads).map(|length| (length, leads)))
        .min_by(|p, q| p.0.total_cmp(&q.0))
        .map(|p| p.1)
}

/// The shortest member among those that `partner` completes from a lead at A.
fn shortest_along(family: &Family, partner: impl Fn(f64) -> Vec<f64>) -> Option<Leads> {
    let members = |a: f64| {
        let built = move |b: f64| family.buildable(Leads { a, b }).map(|shape| (shape.length, Leads { a, b }));
        partner(a).into_iter().filter_map(built).collect::<Vec<_>>()
    };
    let mut top = family.lead_grid(0, GRID).flat_map(members).min_by(|p, q| p.0.total_cmp(&q.0))?;
    let mut step = family.span() / 16.0 + 1.0;
    while step > 1e-3 {
        let tries = [top.1.a - step, top.1.a + step];
        match tries.into_iter().flat_map(members).min_by(|p, q| p.0.total_cmp(&q.0)) {
            Some(next) if next.0 < top.0 - 1e-9 => top = next,
            _ => step *= 0.5,
        }
    }
    Some(top.1)
}

/// The shortest member whose middle leg is level. Ports at one height have only level legs, so there is
/// nothing special to offer then.
fn along_level(family: &Family) -> Option<Leads> {
    let height = |leads: Leads| {
        let [first, second] = family.vertices(leads);
        second.z - first.z
    };
    let fall = height(Leads { a: 0.0, b: 1.0 }) - height(Leads { a: 0.0, b: 0.0 });
    if fall.abs() < 1e-6 {
        let rise = height(Leads { a: 1.0, b: 0.0 }) - height(Leads { a: 0.0, b: 0.0 });
        if rise.abs() < 1e-6 {
            return None;
        }
        // Only A's lead sets the height.
        let a = -height(Leads { a: 0.0, b: 0.0 }) / rise;
        let members = family.lead_grid(1, GRID).map(|b| Leads { a, b });
        let built = members.filter_map(|leads| family.buildable(leads).map(|shape| (shape.length, leads)));
        return built.min_by(|p, q| p.0.total_cmp(&q.0)).map(|p| p.1);
    }
    shortest_along(family, |a| vec![-height(Leads { a, b: 0.0 }) / fall])
}

/// The shortest member with two equal bends, as far as sign changes between the grid's leads show one.
fn equal_bends(family: &Family) -> Option<Leads> {
    let differ = |a: f64, b: f64| family.shape(Leads { a, b }).map(|shape| shape.angles[0] - shape.angles[1]);
    let grid: Vec<f64> = family.lead_grid(1, GRID).collect();
    shortest_along(family, |a| {
        let mut roots = Vec::new();
        for pair in grid.windows(2) {
            let (Some(low), Some(high)) = (differ(a, pair[0]), differ(a, pair[1])) else { continue };
            if low * high < 0.0 {
                roots.extend(bisect(pair[0], pair[1], |b| differ(a, b)));
            }
        }
        roots
    })
}

/// The shortest members with one bend of a stock angle and the other free, at most two of them.
fn one_stock_bend(run: &Run, family: &Family) -> Vec<Leads> {
    let angles = elbow_angles(run).iter().map(|degrees| degrees.to_radians());
    let each = angles.flat_map(|angle| [(0, angle), (1, angle)]);
    let along = |(bend, angle)| shortest_along(family, |a| family.leads_with_angle(a, bend, angle).collect());
    let found = each.filter_map(along);
    // Where the other bend has a stock angle too, the pair is listed already.
    let stock = |angle: f64| elbow_angles(run).iter().any(|one| (angle.to_degrees() - one).abs() < 0.05);
    let pair = |leads: &Leads| family.shape(*leads).is_some_and(|shape| shape.angles.iter().all(|angle| stock(*angle)));
    shortest_two(family, found.filter(|leads| !pair(leads)))
}

fn shortest_two(family: &Family, members: impl Iterator<Item = Leads>) -> Vec<Leads> {
    let built = |leads: Leads| family.buildable(leads).map(|shape| (shape.length, leads));
    let mut built: Vec<(f64, Leads)> = members.filter_map(built).collect();
    built.sort_by(|p, q| p.0.total_cmp(&q.0));
    built.into_iter().take(2).map(|p| p.1).collect()
}

fn bisect(mut low: f64, mut high: f64, f: impl Fn(f64) -> Option<f64>) -> Option<f64> {
    let sign = f(low)?.signum();
    for _ in 0..60 {
        let middle = f64::midpoint(low, high);
        if f(middle)?.signum() * sign > 0.0 {
            low = middle;
        } else {
            high = middle;
        }
    }
    Some(f64::midpoint(low, high))
}

/// The two shortest buildable members with stock angles, each of another pair.
fn stock_pairs(run: &Run, family: &Family) -> Vec<Leads> {
    let angles = || elbow_angles(run).iter().map(|degrees| degrees.to_radians());
    let pairs = angles().flat_map(|first| angles().map(move |second| [first, second]));
    // Two 90s are listed as square bends.
    let both_square = |pair: &[f64; 2]| pair.iter().all(|angle| (angle - FRAC_PI_2).abs() < 1e-12);
    let members = pairs.filter(|pair| !both_square(pair)).flat_map(|pair| family.with_angles(pair));
    shortest_two(family, members)
}

fn why_none(run: &ResolvedRun) -> NoRoute {
    let between = least_between_bends(run);
    let (now, tightest) = (run.radius.get(), run.tightest_radius());
    let radii = (1..=12_i32).map(|k| now - (now - tightest) * f64::from(k) / 12.0);
    for radius in radii.filter(|radius| *radius < now) {
        let whole = (radius / 0.5).floor() * 0.5;
        let fits = |radius| best(&Family::new(run, radius, between), |shape| shape.length).is_some();
        if BendRadius::new(whole).is_ok() && fits(whole) {
            return NoRoute::RadiusTooLarge { would_do: Measure(whole) };
        }
    }
    let family = Family::new(run, now, between).far();
    // With every shape allowed, the best slack says how much is missing.
    let slack = |shape: &Shape| family.slack(shape).unwrap_or(f64::NEG_INFINITY);
    let any = |leads: Leads| family.shape(leads).filter(|shape| slack(shape).is_finite());
    match best_of(&family, any, |shape| -slack(shape)) {
        Some((_, shape)) => NoRoute::NoRoom { short_by: Measure(-slack(&shape)) },
        None => NoRoute::NeedsMoreBends,
    }
}

/// How to make one bend do where the axes nearly meet: where B would have to be. `None` where they meet
/// already, pass further off than `within` mm, or one bend would not fit even then.
#[must_use]
pub fn one_bend_nearby(run: &ResolvedRun, within: f64) -> Option<(nook_geometry::Point, f64)> {
    let meet = axes_meet(run).ok().filter(|meet| meet.apart > 1e-6 && meet.apart <= within)?;
    let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
    let on_a = a.at.inner() + a.out.vector() * meet.lead_a;
    let on_b = b.at.inner() + b.out.vector() * meet.lead_b;
    let moved = run.b.at.moved(on_a - on_b).ok()?;
    let there = run.with_port_at(End::B, moved);
    candidate(&there, Route::along(Centreline::OneBend), RouteKind::OneBend).map(|_| (moved, meet.apart))
}

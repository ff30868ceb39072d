//! Other shapes of a way that fits: bent to whole degrees, level and square, of whole elbows.

use super::offer::Style;
use super::refine::Hold;
use nook_core::route::{LegDirection, ResolvedRun, RouteConstraints, RouteGeometry, elbow_angles};
use nook_geometry::Vector;

/// Legs within this cosine of plumb, or of level, are brought to it: 30 degrees.
const NEARLY: f64 = 0.866;
/// Legs within this cosine of lengthwise or across are brought to it too: 20 degrees.
const NEARLY_TRUE: f64 = 0.94;
/// Whole elbows further than this many radians from the angle that fits are not tried: 25 degrees.
const FAR: f64 = 0.436;

/// Shapes to try beside `route_geometry`, each with what it must hold.
pub(super) fn variants(run: &ResolvedRun, route_geometry: &RouteGeometry) -> Vec<(Style, Vec<Hold>)> {
    let bends = route_geometry.angles.len();
    let mut all = Vec::new();
    let whole = route_geometry.angles.iter().map(|angle| angle.to_degrees().round().to_radians());
    all.push((Style::WholeDegrees, whole.enumerate().map(|(i, angle)| Hold::Angle(i, angle)).collect()));
    let square = squared(route_geometry);
    if !square.is_empty() {
        all.push((Style::Square, square));
    }
    all.extend(elbows(run, route_geometry).into_iter().map(|angles| {
        (Style::WholeElbows, angles.into_iter().enumerate().map(|(i, angle)| Hold::Angle(i, angle)).collect())
    }));
    debug_assert!(bends >= 2, "fewer bends leave nothing to choose");
    all
}

/// Directions a leg must run square to, to be level, plumb, lengthwise or across as it nearly is.
fn squared(route_geometry: &RouteGeometry) -> Vec<Hold> {
    let mut holds = Vec::new();
    let inner = route_geometry.vertices.len() - 1;
    for leg in 1..=inner {
        let along = route_geometry.along[leg];
        if along.z.abs() > NEARLY {
            holds.extend([Hold::Square(leg, Vector::x()), Hold::Square(leg, Vector::y())]);
        } else if along.z.abs() < 0.5 {
            holds.push(Hold::Square(leg, Vector::z()));
            if along.x.abs() > NEARLY_TRUE {
                holds.push(Hold::Square(leg, Vector::y()));
            } else if along.y.abs() > NEARLY_TRUE {
                holds.push(Hold::Square(leg, Vector::x()));
            }
        }
    }
    // More than the way has freedom for cannot be held.
    holds.truncate(3 * inner - 1);
    holds
}

/// Sets of whole-elbow angles near those of `route_geometry`, the nearest first.
fn elbows(run: &ResolvedRun, route_geometry: &RouteGeometry) -> Vec<Vec<f64>> {
    let choices: Vec<Vec<f64>> = route_geometry
        .angles
        .iter()
        .map(|angle| {
            let mut near: Vec<f64> =
                elbow_angles(run).iter().map(|d| d.to_radians()).filter(|w| (w - angle).abs() < FAR).collect();
            near.sort_by(|p, q| (p - angle).abs().total_cmp(&(q - angle).abs()));
            near.truncate(2);
            near
        })
        .collect();
    if choices.iter().any(Vec::is_empty) {
        return Vec::new();
    }
    let mut sets: Vec<Vec<f64>> = vec![Vec::new()];
    for choice in &choices {
        sets =
            sets.iter().flat_map(|set| choice.iter().map(move |angle| [set.as_slice(), &[*angle]].concat())).collect();
    }
    let off = |set: &[f64]| set.iter().zip(&route_geometry.angles).map(|(p, q)| (p - q).powi(2)).sum::<f64>();
    sets.sort_by(|p, q| off(p).total_cmp(&off(q)));
    sets.truncate(6);
    sets
}

/// What the wished legs of a way must hold.
pub(super) fn wished(wishes: &RouteConstraints, route_geometry: &RouteGeometry) -> Vec<Hold> {
    let mut holds: Vec<Hold> = wishes.pins.iter().map(|pin| Hold::Pass(pin.at.inner(), pin.within)).collect();
    let inner = route_geometry.vertices.len().saturating_sub(1);
    for wish in &wishes.legs {
        let length = |leg: usize| (route_geometry.vertices[leg] - route_geometry.vertices[leg - 1]).norm();
        let away = |leg: usize, at: &nalgebra::Point3<f64>| {
            nook_geometry::clearance::Span::between(route_geometry.vertices[leg - 1], route_geometry.vertices[leg])
                .nearest(at)
        };
        let leg = match wish.near {
            Some(near) => (1..=inner).min_by(|p, q| away(*p, &near.inner()).total_cmp(&away(*q, &near.inner()))),
            None => (1..=inner).max_by(|p, q| length(*p).total_cmp(&length(*q))),
        };
        let Some(leg) = leg else { continue };
        let square_to: Vec<Vector> = match wish.way {
            LegDirection::Level => vec![Vector::z()],
            LegDirection::Plumb => vec![Vector::x(), Vector::y()],
            LegDirection::Lengthwise => vec![Vector::y(), Vector::z()],
            LegDirection::Across => vec![Vector::x(), Vector::z()],
            LegDirection::Along { direction } => {
                let along = direction.vector();
                let aside = Vector::ith(along.iamin(), 1.0).cross(&along).normalize();
                vec![aside, along.cross(&aside)]
            }
        };
        holds.extend(square_to.into_iter().map(|way| Hold::Square(leg, way)));
    }
    holds
}

//! Bringing a rough way to its best: the cheapest one near it that keeps every limit, by a sequence of small quadratic
//! programs.

use super::field::{Contact, Field};
use nook_core::route::{Constraint, DesignVector, QpStep, RouteEnds, RouteGeometry, least_straights, solve_qp};
use nook_geometry::Vector;
use nook_geometry::clearance::Span;

/// Something beyond clearance and room that a way shall hold.
#[derive(Debug, Clone)]
pub(super) enum Hold {
    /// A bend turns exactly this many radians.
    Angle(usize, f64),
    /// A leg has no part along a direction: it runs square to it.
    Square(usize, Vector),
    /// The centre line passes within so many mm of a place.
    Pass(nalgebra::Point3<f64>, f64),
}

/// What a mm of length, a radian of turn and a mm off the wished height are worth.
#[derive(Debug, Clone, Copy)]
pub(super) struct Price {
    pub(super) length: f64,
    pub(super) turn: f64,
    pub(super) height: Option<f64>,
}

impl Price {
    /// What a way costs, its bends not counted.
    pub(super) fn of(&self, route_geometry: &RouteGeometry) -> f64 {
        let inner = route_geometry.vertices.iter();
        let off = self.height.map_or(0.0, |height| inner.map(|v| (v.z - height).abs()).sum::<f64>() * 0.3);
        self.length * route_geometry.length() + self.turn * route_geometry.turning() + off
    }
}

/// A way brought to its best.
#[derive(Debug, Clone)]
pub(super) struct Refined {
    pub(super) free: DesignVector,
    pub(super) route_geometry: RouteGeometry,
    pub(super) cost: f64,
    /// The sum in mm by which limits are broken; 0 where the way is clear.
    pub(super) broken: f64,
}

/// What one mm of a broken limit costs: more than any detour saves.
const PENALTY: f64 = 30.0;
/// Steps after which a way is as good as it gets.
const STEPS: u32 = 36;
/// Contacts further than this beyond what is asked, in mm, hold no step back that is not cut short anyway.
const INTEREST: f64 = 25.0;
/// Step in mm for slopes.
const NUDGE: f64 = 1e-4;
/// Most degrees a bend of a way turns: beyond this it folds back on itself.
const MOST_TURN: f64 = 2.617_993_878;
/// Least turn of a bend: less is a misalignment a hose takes.
const LEAST_TURN: f64 = 0.052_359_878;
/// Straight in mm beyond its least that a way is given, so that no rounding makes a seat too short.
const SEATED: f64 = 0.05;
/// Sums below this, in mm, are no shortfall.
pub(super) const CLEAR: f64 = 0.02;

pub(super) struct Refiner<'a> {
    pub(super) field: &'a Field<'a>,
    pub(super) route_ends: &'a RouteEnds,
    pub(super) price: Price,
}

impl Refiner<'_> {
    /// The best way near `free` that holds what is asked; `None` where it cannot be laid at all.
    pub(super) fn refine(&self, free: &DesignVector, holds: &[Hold]) -> Option<Refined> {
        let mut here = self.judge(free, holds)?;
        let mut stiff = self.price.length / 40.0;
        for _ in 0..STEPS {
            let pull = self.pull(&here.0)?;
            let QpStep { step, converged, .. } = solve_qp(&DesignVector::from_elem(stiff, free.len()), &pull, &here.1);
            let long = step.iter().fold(0.0_f64, |most, d| most.max(d.abs()));
            if long < 0.01 && converged {
                break;
            }
            // The limits are straight only near by.
            let shorten = (60.0 / long).min(1.0);
            let tried: DesignVector = here.0.free.iter().zip(&step).map(|(x, d)| x + d * shorten).collect();
            match self.judge(&tried, holds).filter(|next| merit(&next.0) < merit(&here.0) - 1e-6) {
                Some(next) => {
                    let gained = merit(&here.0) - merit(&next.0);
                    here = next;
                    stiff = (stiff * 0.5).max(1e-4);
                    if gained < 0.02 && here.0.broken < CLEAR {
                        break;
                    }
                }
                None => {
                    stiff *= 4.0;
                    if stiff > 1e4 {
                        break;
                    }
                }
            }
        }
        // What must hold exactly is brought home to the last digit.
        for _ in 0..4 {
            let exact: Vec<Constraint> = here.1.iter().filter(|limit| limit.exact).cloned().collect();
            if exact.is_empty() || here.0.broken > 1.0 {
                break;
            }
            let still = DesignVector::from_elem(0.0, free.len());
            let QpStep { step, .. } = solve_qp(&DesignVector::from_elem(1.0, free.len()), &still, &exact);
            let tried: DesignVector = here.0.free.iter().zip(&step).map(|(x, d)| x + d).collect();
            here = self.judge(&tried, holds)?;
        }
        Some(here.0)
    }

    fn judge(&self, free: &DesignVector, holds: &[Hold]) -> Option<(Refined, Vec<Constraint>)> {
        let route_geometry = self.route_ends.geometry(free)?;
        let contacts = self.field.contacts(&route_geometry, INTEREST);
        let least = least_straights(self.field.run, route_geometry.angles.len());
        let mut values: Vec<(f64, bool)> = Vec::new();
        let all = |route_geometry: &RouteGeometry, values: &mut Vec<(f64, bool)>| {
            values.clear();
            values
                .extend(route_geometry.straights.iter().zip(&least).map(|(have, need)| (have - need - SEATED, false)));
            for (angle, radius) in route_geometry.angles.iter().zip(&route_geometry.radii) {
                values.push(((MOST_TURN - angle) * radius, false));
                values.push(((angle - LEAST_TURN) * radius, false));
            }
            values.extend(holds.iter().map(|hold| held(hold, route_geometry)));
        };
        all(&route_geometry, &mut values);
        let rigid = values.len();
        values.extend(contacts.iter().map(|contact| (contact.left, false)));
        let spans = route_geometry.spans();
        let apart = |spans: &[Span], contact: &Contact| {
            let at = |(span, share): (usize, f64)| spans[span].at(share * spans[span].length()).0;
            at((contact.span, contact.share)) - contact.other.map_or_else(nalgebra::Point3::origin, at)
        };
        let places: Vec<_> = contacts.iter().map(|contact| apart(&spans, contact)).collect();
        let mut limits: Vec<Constraint> = values
            .iter()
            .map(|(value, exact)| Constraint {
                slope: DesignVector::from_elem(0.0, free.len()),
                value: *value,
                exact: *exact,
            })
            .collect();
        let mut nudged = free.clone();
        let mut moved: Vec<(f64, bool)> = Vec::new();
        for i in 0..free.len() {
            nudged[i] += NUDGE;
            let there = self.route_ends.geometry(&nudged)?;
            nudged[i] = free[i];
            all(&there, &mut moved);
            for (limit, (value, _)) in limits.iter_mut().zip(&moved) {
                limit.slope[i] = (value - limit.value) / NUDGE;
            }
            let spans = there.spans();
            for ((contact, place), limit) in contacts.iter().zip(&places).zip(&mut limits[rigid..]) {
                limit.slope[i] = contact.away.dot(&(apart(&spans, contact) - place)) / NUDGE;
            }
        }
        let broken = limits.iter().map(|l| if l.exact { l.value.abs() } else { (-l.value).max(0.0) }).sum();
        let cost = self.price.of(&route_geometry);
        Some((Refined { free: free.clone(), route_geometry, cost, broken }, limits))
    }

    fn pull(&self, here: &Refined) -> Option<DesignVector> {
        let mut nudged = here.free.clone();
        let mut pull = DesignVector::new();
        for i in 0..nudged.len() {
            let at = nudged[i];
            nudged[i] = at + NUDGE;
            pull.push((self.price.of(&self.route_ends.geometry(&nudged)?) - here.cost) / NUDGE);
            nudged[i] = at;
        }
        Some(pull)
    }
}

fn merit(way: &Refined) -> f64 {
    way.cost + PENALTY * way.broken
}

/// How far a way is from holding something, in mm, and whether it shall be exactly so.
fn held(hold: &Hold, route_geometry: &RouteGeometry) -> (f64, bool) {
    match hold {
        Hold::Angle(bend, wanted) => {
            let angle = route_geometry.angles.get(*bend).copied().unwrap_or(0.0);
            ((angle - wanted) * route_geometry.radii.get(*bend).copied().unwrap_or(1.0), true)
        }
        Hold::Square(leg, way) => {
            let length = leg.checked_sub(1).and_then(|from| {
                Some((route_geometry.vertices.get(*leg)? - route_geometry.vertices.get(from)?).dot(way))
            });
            (length.unwrap_or(0.0), true)
        }
        Hold::Pass(place, within) => {
            let near = route_geometry.spans().iter().map(|span| span.nearest(place)).fold(f64::INFINITY, f64::min);
            (within - near, false)
        }
    }
}

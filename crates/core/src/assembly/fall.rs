//! How a pipe that drains by gravity falls, with the car level and standing on slopes. Source: handbook, "Joints, fittings,
//! hoses and supports", What else is made to join.

use nalgebra::Rotation3;

use super::Assembly;
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::{Travel, Vector};

/// How the car stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Slope {
    /// Level.
    Level,
    /// Nose up.
    NoseUp,
    /// Nose down.
    NoseDown,
    /// Left side up.
    LeftUp,
    /// Right side up.
    RightUp,
}

/// By how many degrees it stands askew.
pub const SLOPE: f64 = 5.0;

impl Slope {
    /// Every one that is looked at.
    pub const ALL: [Self; 5] = [Self::Level, Self::NoseUp, Self::NoseDown, Self::LeftUp, Self::RightUp];

    /// Which way is up, in vehicle axes: x forward, y to the left, z up.
    #[must_use]
    pub fn up(self) -> Vector {
        let by = SLOPE.to_radians();
        let axis = match self {
            Self::Level => Vector::zeros(),
            Self::NoseUp => Vector::y() * by,
            Self::NoseDown => Vector::y() * -by,
            Self::LeftUp => Vector::x() * -by,
            Self::RightUp => Vector::x() * by,
        };
        Rotation3::new(axis) * Vector::z()
    }
}

/// Where a pipe falls least.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LeastFall {
    /// In degrees below level, going with what drains; below 0 it rises.
    pub degrees: f64,
    /// On which straight, in which bend, or in the fitting at which end.
    pub part: PartRef,
    /// How the car stands then.
    pub slope: Slope,
}

impl Assembly {
    /// Where the pipe falls least towards its end `to`, over every stand of the car, its fittings counted in.
    #[must_use]
    pub fn least_fall(&self, run: &ResolvedRun, to: End) -> LeastFall {
        let sign = if to == End::B { 1.0 } else { -1.0 };
        let mut stretches: Vec<(PartRef, Travel, f64)> = Vec::new();
        let mut travel = self.whole.setting_out();
        let id = run.id;
        for (index, step) in self.whole.legs().iter().enumerate() {
            stretches.push((PartRef::Straight { run: id, straight: run.route.leg_id(index) }, travel, 0.0));
            travel = travel.straight(step.straight).clocked(step.bend.rotation);
            stretches.push((PartRef::Bend { run: id, bend: run.route.bend_id(index) }, travel, step.bend.angle));
            travel = travel.bend(step.bend.radius, step.bend.angle);
        }
        let last = run.route.leg_id(self.whole.legs().len());
        stretches.push((PartRef::Straight { run: id, straight: last }, travel, 0.0));
        let mut least = LeastFall { degrees: 90.0, part: PartRef::Run { run: id }, slope: Slope::Level };
        for slope in Slope::ALL {
            let up = slope.up();
            let mut consider = |part: PartRef, travel: &Travel, angle: f64, sign: f64| {
                let degrees = -steepest(travel, angle, up * sign).to_degrees();
                if degrees < least.degrees - 1e-12 {
                    least = LeastFall { degrees, part, slope };
                }
            };
            for (part, travel, angle) in &stretches {
                consider(*part, travel, *angle, sign);
            }
            for end in [End::A, End::B] {
                if let Some(fitted) = run.fitted(end) {
                    // Out of its port: with what drains at the end that it leaves, against it at the other.
                    let out = if end == to { -1.0 } else { 1.0 };
                    consider(PartRef::End { run: id, end }, &fitted.on_seat(), fitted.turned(), out);
                }
            }
        }
        least
    }
}

/// The steepest rise in radians towards `up` of whoever turns through `angle` radians from here.
fn steepest(travel: &Travel, angle: f64, up: Vector) -> f64 {
    let (t, n) = (travel.along.vector().dot(&up), travel.clock().dot(&up));
    // Along a bend the way is t cos + n sin, most where both are in proportion.
    let most = n.atan2(t);
    let at = |turned: f64| t * turned.cos() + n * turned.sin();
    let inside = if (0.0..=angle).contains(&most) { at(most) } else { f64::NEG_INFINITY };
    at(0.0).max(at(angle)).max(inside).clamp(-1.0, 1.0).asin()
}

//! A path of straights and bends, told as steps (length, rotation, angle) or as vertices; each gives the other.

use nalgebra::Point3;
use serde::Serialize;
use thiserror::Error;

use super::{Direction, Point, Travel};

/// One end of a path: a place, and the direction of travel there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mouth {
    /// Where.
    pub at: Point,
    /// The direction the path travels there: out of the first mouth, into the last.
    pub along: Direction,
}

/// One bend of a path.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Arc {
    /// Centre-line radius in mm.
    pub radius: f64,
    /// How far it turns, in radians, more than 0 and less than pi.
    pub angle: f64,
    /// Turn of its plane from the bend before, in radians; the first counts from "up".
    pub rotation: f64,
}

impl Arc {
    /// Distance from either tangent point to the vertex, in mm: `radius tan(angle / 2)`.
    #[must_use]
    pub fn setback(self) -> f64 {
        self.radius * (self.angle / 2.0).tan()
    }

    /// Length along the centre line in mm.
    #[must_use]
    pub fn length(self) -> f64 {
        self.radius * self.angle
    }
}

/// A straight and the bend that follows it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PathStep {
    /// Length of the straight in mm; negative where two bends overlap.
    pub straight: f64,
    /// The bend after it.
    pub bend: Arc,
}

/// Why vertices make no path.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum PathError {
    /// Two neighbouring vertices lie in one place, so the leg between them has no direction.
    #[error("leg {leg} has no length")]
    NoLeg {
        /// Which leg, from 0.
        leg: usize,
    },
    /// The path turns straight back on itself, which no bend can do.
    #[error("the path turns straight back at bend {bend}")]
    TurnsBack {
        /// Which bend, from 0.
        bend: usize,
    },
    /// The path does not turn at a vertex, so the bend there has no plane.
    #[error("the path does not turn at bend {bend}")]
    NoTurn {
        /// Which bend, from 0.
        bend: usize,
    },
}

/// Smallest turn that still has a plane: below it the rotation is noise.
const LEAST_TURN: f64 = 1e-6;

/// A centre line: straight, bend, straight, ... straight.
#[derive(Debug, Clone, PartialEq)]
pub struct Path {
    start: Point,
    leaving: Direction,
    legs: Vec<PathStep>,
    last: f64,
}

impl Path {
    /// A path from its steps. `last` is the straight after the last bend, in mm.
    #[must_use]
    pub const fn new(start: Point, leaving: Direction, legs: Vec<PathStep>, last: f64) -> Self {
        Self { start, leaving, legs, last }
    }

    /// The path that leaves `from` and arrives at `to`, with a vertex and its radius in mm for each bend. The
    /// first vertex must lie on the axis of `from` and the last on that of `to`; either may lie behind its
    /// mouth. Straights come out negative where bends overlap: that is for the caller to judge.
    ///
    /// # Errors
    /// [`PathError`] when two neighbouring vertices coincide, or the path turns by less than 1e-6 radians or by
    /// pi.
    pub fn joining(from: Mouth, vertices: &[(Point3<f64>, f64)], to: Mouth) -> Result<Self, PathError> {
        let (Some(first), Some(last)) = (vertices.first(), vertices.last()) else {
            let straight = from.along.vector().dot(&from.at.to(to.at));
            return Ok(Self { start: from.at, leaving: from.along, legs: Vec::new(), last: straight });
        };
        let mut ways = vec![from.along];
        let mut lengths = vec![(first.0 - from.at.inner()).dot(&from.along.vector())];
        for (leg, pair) in vertices.windows(2).enumerate() {
            let way = pair[1].0 - pair[0].0;
            ways.push(Direction::of(way).map_err(|_| PathError::NoLeg { leg: leg + 1 })?);
            lengths.push(way.norm());
        }
        ways.push(to.along);
        let arriving = (to.at.inner() - last.0).dot(&to.along.vector());

        let mut travel = Travel::start(from.at, from.along);
        let mut legs = Vec::with_capacity(vertices.len());
        let mut setback_before = 0.0;
        for (bend, &(_, radius)) in vertices.iter().enumerate() {
            let angle = ways[bend].angle(ways[bend + 1]);
            if angle > std::f64::consts::PI - LEAST_TURN {
                return Err(PathError::TurnsBack { bend });
            }
            let rotation = travel.rotation_towards(ways[bend + 1].vector());
            let Some(rotation) = rotation.filter(|_| angle >= LEAST_TURN) else {
                return Err(PathError::NoTurn { bend });
            };
            let arc = Arc { radius, angle, rotation };
            legs.push(PathStep { straight: lengths[bend] - setback_before - arc.setback(), bend: arc });
            setback_before = arc.setback();
            travel = travel.clocked(rotation).turned(angle);
        }
        Ok(Self { start: from.at, leaving: from.along, legs, last: arriving - setback_before })
    }

    /// Straights and the bends after them, in order.
    #[must_use]
    pub fn legs(&self) -> &[PathStep] {
        &self.legs
    }

    /// The straight after the last bend, in mm.
    #[must_use]
    pub const fn last(&self) -> f64 {
        self.last
    }

    /// All straights in mm, one more than there are bends.
    pub fn straights(&self) -> impl Iterator<Item = f64> {
        self.legs.iter().map(|leg| leg.straight).chain([self.last])
    }

    /// The frame at the start.
    #[must_use]
    pub fn setting_out(&self) -> Travel {
        Travel::start(self.start, self.leaving)
    }

    /// The frame at the end.
    #[must_use]
    pub fn arrival(&self) -> Travel {
        let bent = self.legs.iter().fold(self.setting_out(), |travel, leg| {
            travel.straight(leg.straight).clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle)
        });
        bent.straight(self.last)
    }

    /// Where the axes of neighbouring straights meet, in mm, vehicle axes.
    #[must_use]
    pub fn vertices(&self) -> Vec<Point3<f64>> {
        let mut travel = self.setting_out();
        let mut vertices = Vec::with_capacity(self.legs.len());
        for leg in &self.legs {
            travel = travel.straight(leg.straight);
            vertices.push(travel.straight(leg.bend.setback()).at);
            travel = travel.clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle);
        }
        vertices
    }

    /// The part between two stations in mm, both on straights; `None` where one is in a bend or beyond the path, or the
    /// second before the first. Its first
    /// rotation is from up at its own start.
    #[must_use]
    pub fn between(&self, [from, to]: [f64; 2]) -> Option<Self> {
        /// Stations nearer than this, in mm, are one.
        const HAIR: f64 = 1e-6;
        if to < from - HAIR {
            return None;
        }
        let mut travel = self.setting_out();
        let mut station = 0.0;
        let mut part: Option<(Point, Travel, Vec<PathStep>)> = None;
        for (leg, straight) in self.straights().enumerate() {
            let end = station + straight;
            let on = |wanted: f64| (station - HAIR..=end + HAIR).contains(&wanted);
            let begins = part.is_none();
            if begins && on(from) {
                let start = travel.straight(from - station);
                let at = Point::new(start.at.x, start.at.y, start.at.z).ok()?;
                part = Some((at, Travel::start(at, start.along), Vec::new()));
            }
            let begin = if begins { from } else { station };
            if let (Some((at, start, steps)), true) = (&part, on(to)) {
                return Some(Self::new(*at, start.along, steps.clone(), to - begin));
            }
            let step = self.legs.get(leg)?;
            let bent = travel.straight(straight).clocked(step.bend.rotation);
            let after = bent.bend(step.bend.radius, step.bend.angle);
            if let Some((_, start, steps)) = &mut part {
                let rotation = if steps.is_empty() {
                    start.rotation_towards(bent.clock().into_inner()).unwrap_or(step.bend.rotation)
                } else {
                    step.bend.rotation
                };
                steps.push(PathStep { straight: end - begin, bend: Arc { rotation, ..step.bend } });
            }
            travel = after;
            station = end + step.bend.length();
        }
        None
    }

    /// Length along the centre line in mm.
    #[must_use]
    pub fn length(&self) -> f64 {
        self.straights().sum::<f64>() + self.legs.iter().map(|leg| leg.bend.length()).sum::<f64>()
    }
}

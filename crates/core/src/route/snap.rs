//! Snapping a way to whole degrees, to stock angles, to level and plumb.

use super::route_geometry::DesignVector;
use super::solver::{CLOSE, Exact, RouteSolver};
use super::target::{Snap, Target};
use super::{LegDirection, Lock, elbow_angles};
use nook_geometry::Point;

impl RouteSolver<'_> {
    /// The way with its angles or legs snapped, by the smallest change; `None` where that cannot be.
    pub(super) fn snapped(&self, free: &DesignVector, snap: Snap) -> Option<DesignVector> {
        let route_geometry = self.route_ends.geometry(free)?;
        let wanted: Vec<Exact> = match snap {
            Snap::Degrees => {
                let whole = |(bend, angle): (usize, &f64)| Lock::Angle {
                    bend: self.way.bend_id(bend),
                    angle: angle.to_degrees().round(),
                };
                route_geometry.angles.iter().enumerate().map(whole).collect()
            }
            Snap::Elbows => {
                let near = |(bend, angle): (usize, &f64)| {
                    let degrees = angle.to_degrees();
                    let nearest = elbow_angles(self.run)
                        .iter()
                        .copied()
                        .min_by(|p, q| (p - degrees).abs().total_cmp(&(q - degrees).abs()))?;
                    ((nearest - degrees).abs() < 6.0)
                        .then_some(Lock::Angle { bend: self.way.bend_id(bend), angle: nearest })
                };
                route_geometry.angles.iter().enumerate().filter_map(near).collect()
            }
            Snap::True => (1..route_geometry.vertices.len())
                .filter_map(|leg| {
                    let along = *route_geometry.along.get(leg)?;
                    let way = if along.z.abs() < 0.17 {
                        LegDirection::Level
                    } else if along.z.abs() > 0.985 {
                        LegDirection::Plumb
                    } else {
                        return None;
                    };
                    let leg = self.way.leg_id(leg);
                    Some(Lock::Leg { leg, direction: way.nearest(along)?, level_only: way == LegDirection::Level })
                })
                .collect(),
        };
        let here = Self {
            run: self.run,
            way: self.way,
            route_ends: self.route_ends.clone(),
            start: free.clone(),
            route_geometry,
            least: self.least.clone(),
        };
        // Where not all can snap, as many as can, from A on.
        let mut wanted = wanted;
        let still = here.route_ends.vertices(free).first().and_then(|v| Point::new(v.x, v.y, v.z).ok())?;
        while !wanted.is_empty() {
            let (found, off) = here.solve(Target::Vertex { bend: here.way.bend_id(0), at: still }, &wanted);
            if off < CLOSE {
                return Some(found.free);
            }
            wanted.pop();
        }
        None
    }
}

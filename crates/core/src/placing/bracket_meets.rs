//! Whether a bracket runs through something.

use nalgebra::{Isometry3, Matrix3, UnitQuaternion};

use super::bracket::{BracketEnd, BracketPlan};
use crate::environment::{Scans, keep_out_obstacle};
use crate::job::Job;
use crate::measure::{BracketStock, KeepOutId};
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::clearance::{Convex, Obstacle, Part, Rides, Solid};

/// A bracket that is this much smaller all round, in mm, lies against what it is bolted to without meeting it.
const FLUSH: f64 = 0.5;
/// What lies under a washer is what the bracket is bolted to: as bolt diameters from the hole.
const UNDER_WASHER: f64 = 1.2;

/// The first thing that a bracket runs through as it stands, beside what its washers press it against; of angle the legs as far
/// as the holes.
#[must_use]
pub fn bracket_meets(
    job: &Job,
    survey: &Survey<'_>,
    plan: &BracketPlan,
    ends: &[BracketEnd; 2],
    scans: &Scans,
) -> Option<KeepOutId> {
    let (thick, wide) = match plan.stock {
        BracketStock::Strip { thickness, width, .. } => (thickness.get(), width.get()),
        BracketStock::Angle { thickness, .. } => (thickness.get(), thickness.get()),
    };
    let last = plan.line.len().checked_sub(2)?;
    let legs = plan.line.windows(2).enumerate().filter_map(|(index, leg)| {
        let way = leg[1] - leg[0];
        let trims = [
            if index == 0 { UNDER_WASHER * ends[0].bolt } else { 0.0 },
            if index == last { UNDER_WASHER * ends[1].bolt } else { 0.0 },
        ];
        let length = way.norm() - trims[0] - trims[1];
        let x = way.try_normalize(1e-9)?;
        let z = x.cross(&plan.across).try_normalize(1e-9)?;
        let half = Vector::new(length / 2.0 - FLUSH, wide / 2.0 - FLUSH, thick / 2.0 - FLUSH.min(thick / 3.0));
        if half.iter().any(|side| *side <= 0.0) {
            return None;
        }
        let turn = UnitQuaternion::from_matrix(&Matrix3::from_columns(&[x, z.cross(&x), z]));
        let middle = leg[0] + x * (trims[0] + length / 2.0);
        let inward = Isometry3::from_parts(middle.coords.into(), turn).inverse();
        Some(Part::new(Solid::Convex(Convex::Block { inward, half }), None, Rides::Body))
    });
    let legs: Vec<Part> = legs.collect();
    if legs.is_empty() {
        return None;
    }
    let bracket = Obstacle::new(0.0, legs);
    let met = job.keep_outs().iter().find(|one| {
        let room = keep_out_obstacle(survey, one, scans);
        room.is_some_and(|room| {
            !bracket.apart(&room, None, 0.0) && bracket.closest(&room).is_some_and(|near| near.gap <= 0.0)
        })
    });
    met.map(|one| one.id)
}

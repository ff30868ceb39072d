//! Distances on demand: how far any two things stand from each other.

use nalgebra::Point3;
use serde::Serialize;
use thiserror::Error;
use utoipa::ToSchema;

use crate::environment::{Scans, keep_out_obstacle, mouth_obstacle, shape_obstacle};
use crate::job::Job;
use crate::measure::KeepOutShape;
use crate::neighbours::pipe_obstacle;
use crate::part_ref::PartRef;
use crate::survey::Survey;
use nook_geometry::Triple;
use nook_geometry::clearance::{Closest, Convex, Obstacle, Part, Rides, Solid};
use nook_geometry::units::{DualUnitText, Measure};

/// The least distance between two things as they stand, the engine at rest.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct GapWorkup {
    /// The distance; below zero, how deep they stand in each other at least.
    pub gap: Measure,
    /// The place on the first, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// The place on the second.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// Along x, y and z from the first to the second.
    #[schema(min_items = 3, max_items = 3)]
    pub along: [Measure; 3],
    /// What it is between.
    pub words: DualUnitText,
}

/// Why there is no distance.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum GapError {
    /// The job has no such thing.
    #[error("the job has no such thing; it may have been taken away")]
    NoSuchPart,
    /// Both are one.
    #[error("{0} has no distance to itself; press another thing")]
    Same(String),
    /// It takes no room that could be measured from.
    #[error("{0} takes no room yet: a run needs a way, and a scan must be here and matched")]
    NoRoom(String),
    /// Both are scans.
    #[error("{0} and {1} are both scans, and two scans are not measured against each other")]
    TwoScans(String, String),
}

/// A thing and the room it takes.
struct Placed {
    name: String,
    room: Obstacle,
}

/// The least distance between two things of a job. Any part of a run stands for the whole pipe with its hoses and clamps,
/// an end for the disc of its mouth.
///
/// # Errors
/// [`GapError`] as its variants say.
pub fn gap_between(job: &Job, one: PartRef, other: PartRef, scans: &Scans) -> Result<GapWorkup, GapError> {
    let (one, other) = (whole(one), whole(other));
    let survey = Survey::new(job);
    let first = placed(job, &survey, one, scans)?;
    if one == other {
        return Err(GapError::Same(first.name));
    }
    let second = placed(job, &survey, other, scans)?;
    let none = || GapError::TwoScans(first.name.clone(), second.name.clone());
    let Closest { gap, at: [from, to] } = first.room.closest(&second.room).ok_or_else(none)?;
    let (name, its) = (&first.name, &second.name);
    let words = DualUnitText::new(|unit| {
        if gap > 0.0 {
            format!("{} between {name} and {its}.", unit.text(gap))
        } else {
            format!("{name} and {its} stand {} in each other.", unit.text(-gap))
        }
    });
    let along = <[f64; 3]>::from(to - from).map(Measure);
    Ok(GapWorkup { gap: Measure(gap), from: from.coords.into(), to: to.coords.into(), along, words })
}

/// What is measured from for a part: of a run all of it, but for its mouths.
const fn whole(part: PartRef) -> PartRef {
    match part {
        PartRef::Straight { run, .. }
        | PartRef::Bend { run, .. }
        | PartRef::Joint { run, .. }
        | PartRef::Support { run, .. }
        | PartRef::Branch { run, .. }
        | PartRef::Piece { run, .. } => PartRef::Run { run },
        PartRef::Run { .. }
        | PartRef::End { .. }
        | PartRef::Datum { .. }
        | PartRef::KeepOut { .. }
        | PartRef::Component { .. }
        | PartRef::Mount { .. }
        | PartRef::Opening { .. } => part,
    }
}

fn dot(centre: Point3<f64>) -> Obstacle {
    let dot = Convex::Ball { centre, radius: 0.0 };
    Obstacle::new(0.0, vec![Part::new(Solid::Convex(dot), None, Rides::Body)])
}

fn placed(job: &Job, survey: &Survey<'_>, part: PartRef, scans: &Scans) -> Result<Placed, GapError> {
    let (name, room) = match part {
        PartRef::Run { run } => {
            let run = job.run(run).ok_or(GapError::NoSuchPart)?;
            (run.name.as_str().to_owned(), pipe_obstacle(&survey.settle(run), 0.0))
        }
        PartRef::End { run, end } => {
            let run = job.run(run).ok_or(GapError::NoSuchPart)?;
            let settled = survey.settle(run);
            let port = settled.port(end);
            let name = if port.name.is_empty() { format!("mouth {}", end.letter()) } else { port.name.clone() };
            (name, Some(mouth_obstacle(port)))
        }
        PartRef::Datum { datum } => {
            let known = job.datums().iter().find(|one| one.id == datum).ok_or(GapError::NoSuchPart)?;
            let estimate = survey.datum(datum).ok_or(GapError::NoSuchPart)?;
            (known.name.as_str().to_owned(), Some(dot(estimate.pose.at)))
        }
        PartRef::KeepOut { keep_out } => {
            let known = job.keep_out(keep_out).ok_or(GapError::NoSuchPart)?;
            (known.name.as_str().to_owned(), keep_out_obstacle(survey, known, scans))
        }
        PartRef::Component { component } => {
            let known = job.component(component).ok_or(GapError::NoSuchPart)?;
            let body = known.body.iter().filter_map(|part| job.keep_out(*part));
            let rooms: Vec<Obstacle> = body.filter_map(|part| keep_out_obstacle(survey, part, scans)).collect();
            (known.name.as_str().to_owned(), (!rooms.is_empty()).then(|| Obstacle::union(0.0, &rooms)))
        }
        PartRef::Mount { component, mount } => {
            let whole = job.component(component).ok_or(GapError::NoSuchPart)?;
            let known = whole.mounts.iter().find(|one| one.id == mount).ok_or(GapError::NoSuchPart)?;
            (known.name.as_str().to_owned(), Some(dot(whole.displacement() * known.at.inner())))
        }
        PartRef::Opening { opening } => {
            let known = job.opening(opening).ok_or(GapError::NoSuchPart)?;
            let sheet = KeepOutShape::Sheet { corners: known.outline.clone() };
            (known.name.as_str().to_owned(), Some(shape_obstacle(&sheet)))
        }
        PartRef::Straight { .. }
        | PartRef::Bend { .. }
        | PartRef::Joint { .. }
        | PartRef::Support { .. }
        | PartRef::Branch { .. }
        | PartRef::Piece { .. } => {
            return placed(job, survey, whole(part), scans);
        }
    };
    match room {
        Some(room) => Ok(Placed { name, room }),
        None => Err(GapError::NoRoom(name)),
    }
}

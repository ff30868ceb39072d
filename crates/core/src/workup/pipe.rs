//! A pipe of the job as it stands in the bay, seen from beside: its outside, as it is cleared.

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::{Assembly, Over, rides};
use crate::measure::RunId;
use crate::route::ResolvedRun;
use nook_geometry::Triple;
use nook_geometry::clearance::{EnvelopePart, Rides};

/// What moves with what.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PipeRides {
    /// It stands still with the body.
    Body,
    /// It moves with the engine.
    Engine,
    /// It hangs between the two and may take any share of the engine's movement.
    Between,
}

impl From<Rides> for PipeRides {
    fn from(rides: Rides) -> Self {
        match rides {
            Rides::Body => Self::Body,
            Rides::Engine => Self::Engine,
            Rides::Between | Rides::Floats(_) => Self::Between,
        }
    }
}

/// One pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PipeWorkup {
    /// Of which run.
    pub run: RunId,
    /// What that is called.
    pub name: String,
    /// What it rides on.
    pub rides: PipeRides,
    /// Its centre line from mouth to mouth, in mm, vehicle axes: straight from point to point, bends in steps of a few
    /// degrees.
    #[schema(value_type = Vec<Triple>)]
    pub line: Vec<[f64; 3]>,
    /// From the centre line to its skin in mm, wrapping included.
    pub radius: f64,
    /// What stands out over it.
    pub over: Vec<Over>,
}

/// Most degrees between two points on a bend: fewer show as corners.
const STEP: f64 = 6.0;

impl PipeWorkup {
    /// The pipe of a run; `None` where its way does not join its ports.
    pub(super) fn of(run: &ResolvedRun) -> Option<Self> {
        let pipe = Assembly::build(run)?.ok()?;
        let outside = pipe.envelope(run);
        let first = outside.tube().first()?.span.at(0.0).0;
        let mut line = vec![first.coords.into()];
        line.extend(outside.tube().iter().flat_map(points_after_start));
        Some(Self {
            run: run.id,
            name: run.name.as_str().to_owned(),
            rides: rides(run).into(),
            line,
            radius: run.tube.od() / 2.0 + pipe.thickest_wrap(),
            over: pipe.over(run),
        })
    }
}

fn points_after_start(part: &EnvelopePart) -> Vec<[f64; 3]> {
    let span = &part.span;
    let turn = (span.length() * span.curvature()).to_degrees();
    let count = (turn / STEP).ceil().max(1.0);
    let mut points = Vec::new();
    let mut k = 1.0;
    while k <= count {
        points.push(span.at(span.length() * k / count).0.coords.into());
        k += 1.0;
    }
    points
}

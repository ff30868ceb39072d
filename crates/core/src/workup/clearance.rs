//! The air round a pipe: its gap all along, and the worst place against each thing near it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::environment::{Environment, FROM_ITSELF, Thing};
use crate::findings::TooNear;
use crate::measure::End;
use crate::neighbours::outside_obstacle;
use crate::route::ResolvedRun;
use nook_geometry::Triple;
use nook_geometry::clearance::{Closest, Counted, Nearest, OF_INTEREST, TOLERANCE, nearest, trace};
use nook_geometry::units::Measure;

/// How a gap stands against its limit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ClearanceState {
    /// As much as is wanted.
    Clear,
    /// Less than is wanted.
    Tight,
    /// None.
    Fouls,
}

impl ClearanceState {
    /// How a gap in mm stands against a limit in mm.
    #[must_use]
    pub fn of(gap: f64, limit: f64) -> Self {
        if gap <= 0.0 {
            Self::Fouls
        } else if gap < limit {
            Self::Tight
        } else {
            Self::Clear
        }
    }
}

/// The air round one pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClearanceWorkup {
    /// Short pieces from A to B, each with its worst gap.
    pub trace: Vec<ClearancePiece>,
    /// What the trace comes near to, each named once; pieces count into this.
    pub things: Vec<ClearanceThing>,
    /// Gaps beyond this are not told apart.
    pub of_interest: Measure,
    /// The least gap left beyond what each thing asks for; below zero where something is too near, and nothing where
    /// all is beyond interest.
    pub margin: Option<Measure>,
}

/// Something near the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClearanceThing {
    /// What it is.
    pub thing: Thing,
    /// What it is called.
    pub name: String,
    /// The gap it asks for.
    pub limit: Measure,
    /// The least gap to it over all movement; below zero where they meet.
    pub gap: Measure,
    /// How that stands.
    pub state: ClearanceState,
    /// The engine's roll at which that is, in degrees.
    pub roll: f64,
    /// The two nearest places there as they stand, the engine at rest; nothing for the pipe itself, and during a drag for
    /// what is clear.
    pub line: Option<NearLine>,
}

/// From the pipe's skin to the nearest place of a thing, as both stand.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NearLine {
    /// On the pipe, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// On the thing.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// How far apart those are; below zero, how deep they stand in each other.
    pub gap: Measure,
}

/// A short piece of the pipe and the worst gap on it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClearancePiece {
    /// Station of its start along the tube's centre line in mm; below zero in the coupler.
    pub from: f64,
    /// Station of its end in mm.
    pub to: f64,
    /// Its middle on the centre line in mm.
    #[schema(value_type = Triple)]
    pub at: [f64; 3],
    /// The gap; nothing where it is beyond interest.
    pub gap: Option<Measure>,
    /// To which of the things.
    pub thing: Option<usize>,
    /// How that stands.
    pub state: ClearanceState,
}

impl ClearanceWorkup {
    pub(super) fn of(
        run: &ResolvedRun,
        around: &Environment,
        pipe: &Counted<'_>,
        worst: &[TooNear<'_>],
        exactly: bool,
    ) -> Self {
        let pieces = trace(pipe, &around.obstacles, around.movement.as_ref(), FROM_ITSELF);
        let mut things: Vec<Option<usize>> =
            pieces.iter().filter_map(|piece| piece.worst.map(|worst| worst.obstacle)).collect();
        things.extend(worst.iter().map(|near| near.index));
        things.sort_unstable();
        things.dedup();
        let thing = |index: Option<usize>| {
            let known = worst.iter().find(|near| near.index == index).map(|near| near.near);
            let gaps = pieces.iter().filter_map(|piece| piece.worst).filter(|worst| worst.obstacle == index);
            let traced = gaps.map(|worst| worst.gap).min_by(f64::total_cmp);
            let Some(index) = index else { return Some(itself(known.map(|near| near.gap).or(traced)?)) };
            let found = known.or_else(|| if exactly { clear_of(around, pipe, index) } else { None });
            let gap = found.map(|near| near.gap).or(traced)?;
            other(around, pipe, index, gap, found)
        };
        let things: Vec<(Option<usize>, ClearanceThing)> =
            things.into_iter().filter_map(|index| Some((index, thing(index)?))).collect();
        let begin = run.gap(End::A);
        let margin = pieces.iter().filter_map(|piece| piece.worst.map(|worst| worst.gap - worst.limit));
        let margin = margin.min_by(f64::total_cmp).map(Measure);
        let told = pieces.iter().map(|piece| ClearancePiece {
            from: piece.stations[0] - begin,
            to: piece.stations[1] - begin,
            at: piece.middle.coords.into(),
            gap: piece.worst.map(|worst| Measure(worst.gap)),
            thing: piece.worst.and_then(|worst| things.iter().position(|(index, _)| *index == worst.obstacle)),
            state: piece.worst.map_or(ClearanceState::Clear, |worst| ClearanceState::of(worst.gap, worst.limit)),
        });
        let trace = told.collect();
        let things = things.into_iter().map(|(_, thing)| thing).collect();
        Self { trace, of_interest: Measure(OF_INTEREST), margin, things }
    }
}

/// Where the pipe comes nearest to something that it keeps its gap from.
pub(super) fn clear_of(around: &Environment, pipe: &Counted<'_>, index: usize) -> Option<Nearest> {
    let obstacle = around.obstacles.get(index)?;
    let beyond = OF_INTEREST.max(obstacle.gap) + TOLERANCE;
    nearest(pipe.against(index).all(), obstacle, around.movement.as_ref(), beyond)
}

/// How the pipe stands to itself.
fn itself(gap: f64) -> ClearanceThing {
    ClearanceThing {
        thing: Thing::Itself,
        name: "pipe itself".to_owned(),
        limit: Measure(FROM_ITSELF),
        gap: Measure(gap),
        state: ClearanceState::of(gap, FROM_ITSELF),
        roll: 0.0,
        line: None,
    }
}

/// How something else stands to the pipe, at the worst place where that is known.
fn other(
    around: &Environment,
    pipe: &Counted<'_>,
    index: usize,
    gap: f64,
    worst: Option<Nearest>,
) -> Option<ClearanceThing> {
    let (identity, obstacle) = (around.identities.get(index)?, around.obstacles.get(index)?);
    let line = worst.and_then(|near| closest_about(around, pipe, index, near.station));
    Some(ClearanceThing {
        thing: identity.thing,
        name: identity.name.as_str().to_owned(),
        limit: Measure(obstacle.gap),
        gap: Measure(gap),
        state: ClearanceState::of(gap, obstacle.gap),
        roll: worst.map_or(0.0, |near| near.roll.to_degrees()),
        line: line.map(|Closest { gap, at: [from, to] }| NearLine {
            from: from.coords.into(),
            to: to.coords.into(),
            gap: Measure(gap),
        }),
    })
}

/// The two nearest places of the pipe about a station and of something else, both at rest.
pub(super) fn closest_about(around: &Environment, pipe: &Counted<'_>, index: usize, station: f64) -> Option<Closest> {
    let about = [station - ABOUT, station + ABOUT];
    outside_obstacle(&pipe.against(index).between(about), 0.0).closest(around.obstacles.get(index)?)
}

/// How far along the pipe from the worst place, in mm, the nearest places at rest are looked for: as far as a bend or a
/// clamp beside it reaches.
const ABOUT: f64 = 60.0;

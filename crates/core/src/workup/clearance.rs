//! The air round a pipe: its gap all along, and the worst place against each thing near it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::environment::{Environment, FROM_ITSELF, Thing};
use crate::findings::TooNear;
use crate::measure::End;
use crate::route::ResolvedRun;
use nook_geometry::Triple;
use nook_geometry::clearance::{Counted, trace};
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
    pub(super) fn of(run: &ResolvedRun, around: &Environment, pipe: &Counted<'_>, worst: &[TooNear<'_>]) -> Self {
        let pieces = trace(pipe, &around.obstacles, around.movement.as_ref(), FROM_ITSELF);
        let mut things: Vec<Option<usize>> =
            pieces.iter().filter_map(|piece| piece.worst.map(|worst| worst.obstacle)).collect();
        things.extend(worst.iter().map(|near| near.index));
        things.sort_unstable();
        things.dedup();
        let begin = run.gap(End::A);
        let margin = pieces.iter().filter_map(|piece| piece.worst.map(|worst| worst.gap - worst.limit));
        let margin = margin.min_by(f64::total_cmp).map(Measure);
        let told = pieces.iter().map(|piece| ClearancePiece {
            from: piece.stations[0] - begin,
            to: piece.stations[1] - begin,
            at: piece.middle.coords.into(),
            gap: piece.worst.map(|worst| Measure(worst.gap)),
            thing: piece.worst.and_then(|worst| things.iter().position(|index| *index == worst.obstacle)),
            state: piece.worst.map_or(ClearanceState::Clear, |worst| ClearanceState::of(worst.gap, worst.limit)),
        });
        let thing = |index: &Option<usize>| match index {
            Some(index) => {
                let identity = around.identities.get(*index)?;
                Some((identity.thing, identity.name.as_str(), around.obstacles.get(*index)?.gap))
            }
            None => Some((Thing::Itself, "pipe itself", FROM_ITSELF)),
        };
        let things = things.iter().filter_map(thing);
        Self {
            trace: told.collect(),
            of_interest: Measure(nook_geometry::clearance::OF_INTEREST),
            margin,
            things: things
                .map(|(thing, name, limit)| ClearanceThing { thing, name: name.to_owned(), limit: Measure(limit) })
                .collect(),
        }
    }
}

//! A rigid section of a pipe, from joint to joint, and how it moves.

use serde::Serialize;
use utoipa::ToSchema;

use super::PipeRides;
use crate::assembly::{Assembly, Moves};
use nook_geometry::Triple;
use nook_geometry::clearance::{Movement, Rides};
use nook_geometry::units::Measure;

/// A rigid section between two joints. Stations in mm along the tube, from its end at A.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SectionWorkup {
    /// Where it begins.
    pub from: Measure,
    /// Where it ends.
    pub to: Measure,
    /// What it rides on.
    pub rides: PipeRides,
    /// How it moves as the engine rolls, where it floats between two joints that give.
    pub turns: Option<SectionTurn>,
}

/// A turn of a section about one axis, in step with the engine's roll.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SectionTurn {
    /// A point on the axis, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub pivot: [f64; 3],
    /// The axis.
    #[schema(value_type = Triple)]
    pub axis: [f64; 3],
    /// How many degrees it turns for each degree of the engine's roll, right-handed.
    pub per_roll: f64,
    /// How far it may lie beside that: the engine's shift as it takes it, and what heat and a slide along the axis add.
    pub beside: Measure,
}

impl SectionWorkup {
    /// The sections of a pipe.
    pub(super) fn all(pipe: &Assembly, moves: &Moves) -> Vec<Self> {
        let begin = pipe.begin();
        let each = pipe.sections().into_iter().zip(&moves.rides);
        let section = |([from, to], rides): ([f64; 2], &Rides)| Self {
            from: Measure(from - begin),
            to: Measure(to - begin),
            rides: (*rides).into(),
            turns: match rides {
                Rides::Floats(floats) => Some(SectionTurn::of(&floats.from_body)),
                Rides::Body | Rides::Engine | Rides::Between => None,
            },
        };
        each.map(section).collect()
    }
}

impl SectionTurn {
    fn of(movement: &Movement) -> Self {
        let per_roll = if movement.roll_per_turn == 0.0 { 0.0 } else { 1.0 / movement.roll_per_turn };
        Self {
            pivot: movement.roll.pivot.coords.into(),
            axis: movement.roll.axis.into_inner().into(),
            per_roll,
            beside: Measure(movement.shift),
        }
    }
}

//! What stands around the big things: the openings they breathe through, the ground, and what comes near to what.

use serde::Serialize;
use utoipa::ToSchema;

use crate::measure::{KeepOutId, Opening, OpeningId, Stance};
use crate::placing::Pair;
use nook_geometry::Triple;
use nook_geometry::units::Measure;

/// An opening.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OpeningWorkup {
    /// Which.
    pub opening: OpeningId,
    /// What it is.
    pub name: String,
    /// Its outline in order.
    #[schema(value_type = Vec<[Measure; 3]>)]
    pub outline: Vec<[Measure; 3]>,
    /// The middle of its outline's points.
    #[schema(min_items = 3, max_items = 3)]
    pub middle: [Measure; 3],
    /// Square to it, one way or the other.
    #[schema(value_type = Triple)]
    pub through: [f64; 3],
}

/// How the car stands over the ground.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StanceWorkup {
    /// Where the front tyres touch it.
    #[schema(min_items = 3, max_items = 3)]
    pub front: [Measure; 3],
    /// Where the rear ones do.
    #[schema(min_items = 3, max_items = 3)]
    pub rear: [Measure; 3],
    /// Wheel travel to full bump.
    pub travel: Measure,
    /// Whether somebody chose it.
    pub travel_chosen: bool,
    /// The steepest ramp in degrees.
    pub ramp: f64,
    /// Whether somebody chose it.
    pub ramp_chosen: bool,
}

/// Two things nearer to each other than is asked.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PairLine {
    /// The two.
    #[schema(min_items = 2, max_items = 2)]
    pub things: [KeepOutId; 2],
    /// The gap there is at worst.
    pub gap: Measure,
    /// The gap asked for.
    pub limit: Measure,
    /// The place on the first, as it stands then, in mm.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// The place on the second.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// How far the engine is rolled then, in degrees.
    pub roll: f64,
    /// Whether they stand still to each other just as they were measured.
    pub as_measured: bool,
}

impl OpeningWorkup {
    pub(super) fn of(opening: &Opening) -> Option<Self> {
        let (middle, through) = opening.plane()?;
        Some(Self {
            opening: opening.id,
            name: opening.name.as_str().to_owned(),
            outline: opening.outline.iter().map(|point| point.to_array().map(Measure)).collect(),
            middle: middle.to_array().map(Measure),
            through: through.to_array(),
        })
    }
}

impl StanceWorkup {
    pub(super) fn of(stance: &Stance) -> Self {
        Self {
            front: stance.front.to_array().map(Measure),
            rear: stance.rear.to_array().map(Measure),
            travel: Measure(stance.travel()),
            travel_chosen: stance.travel.is_some(),
            ramp: stance.ramp(),
            ramp_chosen: stance.ramp.is_some(),
        }
    }
}

impl PairLine {
    pub(super) fn of(pair: &Pair) -> Self {
        Self {
            things: pair.things,
            gap: Measure(pair.near.gap),
            limit: Measure(pair.limit),
            from: pair.near.at[0].coords.into(),
            to: pair.near.at[1].coords.into(),
            roll: pair.near.roll.to_degrees(),
            as_measured: pair.as_measured,
        }
    }
}

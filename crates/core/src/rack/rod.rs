//! A run's stick as the rack draws it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::route::BendId;
use crate::workup::{ClearanceState, RodSide, Workup};

/// A run unrolled to a stick. Stations in mm along the tube's centre line, from the tube's end at A.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RackRod {
    /// From the tube's end at A to its end at B.
    pub length: f64,
    /// Outside diameter in mm.
    pub od: f64,
    /// How far the hoses at A and B reach past the tube's ends, in mm.
    #[schema(min_items = 2, max_items = 2)]
    pub beyond: [f64; 2],
    /// How far they cover the tube, in mm.
    #[schema(min_items = 2, max_items = 2)]
    pub seats: [f64; 2],
    /// Its bends.
    pub bends: Vec<RackBend>,
    /// Joints between its ends: from where to where their hoses reach.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub joints: Vec<[f64; 2]>,
    /// Holes of what is let in: where they begin and end.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub holes: Vec<[f64; 2]>,
    /// Stations of the welds of splices.
    pub splices: Vec<f64>,
    /// Where it has too little air.
    pub short: Vec<RackShort>,
}

/// A bend on the stick.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RackBend {
    /// Which.
    pub bend: BendId,
    /// Station of its start.
    pub from: f64,
    /// Station of its end.
    pub to: f64,
    /// How far it turns, in degrees.
    pub angle: f64,
    /// Which way.
    pub side: RodSide,
    /// Stations of its welds.
    pub welds: Vec<f64>,
}

/// A stretch with too little air.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RackShort {
    /// Station of its start.
    pub from: f64,
    /// Station of its end.
    pub to: f64,
    /// Whether it is tight or fouls.
    pub state: ClearanceState,
}

impl RackRod {
    pub(super) fn of(workup: &Workup) -> Option<Self> {
        let totals = workup.totals.as_ref()?;
        let ends = &workup.ends;
        Some(Self {
            length: totals.end_to_end.mm(),
            od: workup.od.mm(),
            beyond: [&ends[0], &ends[1]].map(|end| end.gap.mm() + end.port_seat.mm()),
            seats: [&ends[0], &ends[1]].map(|end| if end.hose.is_some() { end.seat.mm() } else { 0.0 }),
            bends: workup
                .bends
                .iter()
                .map(|bend| RackBend {
                    bend: bend.bend,
                    from: bend.from.mm(),
                    to: bend.to.mm(),
                    angle: bend.angle,
                    side: bend.side,
                    welds: bend.weld_stations.clone(),
                })
                .collect(),
            splices: workup.splices.iter().map(|at| at.mm()).collect(),
            holes: workup.branches.iter().map(|one| [one.from.mm(), one.to.mm()]).collect(),
            joints: workup
                .joints
                .iter()
                .map(|joint| [joint.from.mm() - joint.seat.mm(), joint.to.mm() + joint.seat.mm()])
                .collect(),
            short: short(workup),
        })
    }
}

/// Stretches with too little air, neighbours that are alike as one.
fn short(workup: &Workup) -> Vec<RackShort> {
    let mut all: Vec<RackShort> = Vec::new();
    for piece in workup.air.iter().flat_map(|air| &air.trace) {
        if piece.state == ClearanceState::Clear {
            continue;
        }
        match all.last_mut() {
            Some(last) if last.state == piece.state && (last.to - piece.from).abs() < 1e-6 => last.to = piece.to,
            _ => all.push(RackShort { from: piece.from, to: piece.to, state: piece.state }),
        }
    }
    all
}

//! What stands out over a pipe's tube: hoses, clamps and flanges.

use serde::Serialize;
use utoipa::ToSchema;

use super::Assembly;
use crate::join::{JointKind, clamp_band};
use crate::measure::{End, EndForm};
use crate::route::{JointId, ResolvedRun};
use nook_geometry::Triple;

/// What a hose adds to the radius it sits on, in mm: four plies of silicone.
pub const HOSE: f64 = 5.0;
/// What a clamp adds, in mm: its band and, at one clock, its bolt.
const CLAMP: f64 = 12.0;
/// What a flange adds beyond the tube, in mm: the width of its face and bolts.
const FLANGE: f64 = 20.0;
/// Length of tube in mm beside which a flange stands.
const FLANGE_DEEP: f64 = 10.0;

/// What something over a tube is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OverKind {
    /// A hose.
    Hose,
    /// A clamp on it.
    Clamp,
    /// A flange.
    Flange,
}

/// Which joint something belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "part", rename_all = "snake_case")]
pub enum JointRef {
    /// The one at an end.
    End {
        /// Which end.
        end: End,
    },
    /// One between them.
    Joint {
        /// Which.
        joint: JointId,
    },
}

/// Something over the tube, as a round bar: what is cleared is what is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Over {
    /// What it is.
    pub what: OverKind,
    /// The joint it belongs to.
    pub of: JointRef,
    /// Its radius in mm.
    pub radius: f64,
    /// Middle of its end nearer A, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// Middle of its other end.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// On which leg it is, from 0 at A.
    #[serde(skip)]
    pub leg: usize,
    /// Stations from A's mouth, in mm.
    #[serde(skip)]
    pub stations: [f64; 2],
}

struct Band {
    what: OverKind,
    of: JointRef,
    stations: [f64; 2],
    radius: f64,
}

impl Assembly {
    /// Everything that stands out over the tube, from mouth to mouth; what reaches into a bend ends where that begins.
    #[must_use]
    pub fn over(&self, run: &ResolvedRun) -> Vec<Over> {
        let bands = self.bands(run);
        let mut all = Vec::with_capacity(bands.len());
        let mut travel = self.whole.setting_out();
        let mut start = 0.0;
        for (leg, straight) in self.whole.straights().enumerate() {
            for band in &bands {
                let stations = [band.stations[0].max(start), band.stations[1].min(start + straight)];
                if stations[1] > stations[0] {
                    let [from, to] = stations.map(|station| travel.straight(station - start).at.coords.into());
                    all.push(Over { what: band.what, of: band.of, radius: band.radius, from, to, leg, stations });
                }
            }
            if let Some(step) = self.whole.legs().get(leg) {
                travel = travel.straight(straight).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
                start += straight + step.bend.length();
            }
        }
        all
    }

    fn bands(&self, run: &ResolvedRun) -> Vec<Band> {
        let length = self.whole.length();
        let tube = run.tube.od() / 2.0;
        let mut all = Vec::new();
        for end in [End::A, End::B] {
            let of = JointRef::End { end };
            let (gap, need) = (run.gap(end), run.straight_needed(end));
            let from_end = |range: [f64; 2]| match end {
                End::A => range,
                End::B => [length - range[1], length - range[0]],
            };
            let wider = run.tube.od().max(run.port(end).od.get()) / 2.0;
            match run.joint(end).kind {
                JointKind::Coupler | JointKind::Reducer => {
                    let hose = from_end([0.0, gap + need]);
                    all.push(Band { what: OverKind::Hose, of, stations: hose, radius: wider + HOSE });
                    let clamp = from_end(clamp_band().map(|s| s + gap));
                    all.push(Band { what: OverKind::Clamp, of, stations: clamp, radius: tube + CLAMP });
                }
                JointKind::Metal if run.port(end).form == EndForm::Flanged => {
                    let stations = from_end([0.0, FLANGE_DEEP]);
                    all.push(Band { what: OverKind::Flange, of, stations, radius: wider + FLANGE });
                }
                JointKind::Metal => {}
            }
        }
        for joint in &self.joints {
            let of = JointRef::Joint { joint: joint.id };
            let [from, to] = joint.gap();
            let [near, far] = clamp_band();
            all.push(Band { what: OverKind::Hose, of, stations: joint.reach(), radius: tube + HOSE });
            for stations in [[from - far, from - near], [to + near, to + far]] {
                all.push(Band { what: OverKind::Clamp, of, stations, radius: tube + CLAMP });
            }
        }
        all
    }
}

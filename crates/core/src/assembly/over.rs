//! What stands out over a pipe's tube: hoses, clamps and flanges.

use serde::Serialize;
use utoipa::ToSchema;

use super::Assembly;
use crate::join::{JointKind, clamp_band};
use crate::measure::{End, EndForm};
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
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

/// Something over the tube, as a round bar: what is cleared is what is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Over {
    /// What it is.
    pub what: OverKind,
    /// The joint it belongs to.
    pub of: PartRef,
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
    of: PartRef,
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
        let tube = run.tube.od() / 2.0;
        let mut all = Vec::new();
        for joint in &self.joints {
            let (of, [from, to]) = (joint.part(run), joint.gap());
            match joint.kind {
                JointKind::Coupler | JointKind::Reducer => {
                    let hose =
                        Band { what: OverKind::Hose, of, stations: joint.reach(), radius: joint.widest / 2.0 + HOSE };
                    all.push(hose);
                    let [near, far] = clamp_band();
                    // A port's own clamp is on the port.
                    let before = (joint.end != Some(End::A)).then_some([from - far, from - near]);
                    let after = (joint.end != Some(End::B)).then_some([to + near, to + far]);
                    let clamps = before.into_iter().chain(after);
                    all.extend(clamps.map(|stations| Band {
                        what: OverKind::Clamp,
                        of,
                        stations,
                        radius: tube + CLAMP,
                    }));
                }
                JointKind::Metal => {
                    let flanged = joint.end.filter(|end| run.port(*end).form == EndForm::Flanged);
                    let stations = match flanged {
                        Some(End::A) => [0.0, FLANGE_DEEP],
                        Some(End::B) => [to - FLANGE_DEEP, to],
                        None => continue,
                    };
                    all.push(Band { what: OverKind::Flange, of, stations, radius: joint.widest / 2.0 + FLANGE });
                }
            }
        }
        all
    }
}

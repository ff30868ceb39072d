//! What follows at each end.

use serde::Serialize;
use utoipa::ToSchema;

use super::{JointFigures, NeckWorkup};
use crate::join::{GapReason, JointKind};
use crate::measure::End;
use crate::route::{JointId, ResolvedRun};
use nook_geometry::units::{DualUnitText, Measure};
use nook_geometry::{Path, Triple};

/// One end of a run.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct EndWorkup {
    /// A or B.
    pub end: End,
    /// Where the mouth's centre is: x forward, y left, z up.
    #[schema(min_items = 3, max_items = 3)]
    pub at: [Measure; 3],
    /// The way out of the component.
    #[schema(value_type = Triple)]
    pub out: [f64; 3],
    /// What the port is called.
    pub name: String,
    /// Heading of the way out, degrees to the left from forward.
    pub heading: f64,
    /// Pitch of the way out, degrees above level.
    pub pitch: f64,
    /// Outside diameter of the port.
    pub port_od: Measure,
    /// How the pipe meets it.
    pub joint: JointKind,
    /// Which joint that is.
    pub joint_id: JointId,
    /// Gap between the tube ends.
    pub gap: Measure,
    /// Why that gap.
    pub gap_reason: DualUnitText,
    /// What the hose is cut to; nothing for a metal joint.
    pub hose: Option<Measure>,
    /// How far the hose sits on the port.
    pub port_seat: Measure,
    /// How far it sits on the tube.
    pub seat: Measure,
    /// Straight tube needed for seat and bead.
    pub straight_needed: Measure,
    /// Straight tube there is; nothing where the way does not join the ports.
    pub straight_have: Option<Measure>,
    /// What the joint gives and takes, and how it is reached and held; nothing where the way does not join the ports.
    pub figures: Option<JointFigures>,
    /// What is sawn off the component's neck there, or turned; nothing where it is taken as it stands.
    pub neck: Option<NeckWorkup>,
    /// Where the tube ends, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub tube_end: [f64; 3],
}

impl EndWorkup {
    pub(super) fn of(run: &ResolvedRun, end: End, tube: Option<&Path>, figures: Option<JointFigures>) -> Self {
        let (port, joint) = (run.port(end), run.joint(end));
        let needs = run.needs(end);
        let gap = needs.gap;
        let [port_seat, seat] = match end {
            End::A => needs.seats,
            End::B => [needs.seats[1], needs.seats[0]],
        };
        let straight_have = tube.and_then(|tube| match end {
            End::A => tube.straights().next(),
            End::B => Some(tube.last()),
        });
        let tube_end = port.at.moved(port.out.vector() * gap).unwrap_or(port.at);
        Self {
            end,
            at: port.at.to_array().map(Measure),
            out: port.out.to_array(),
            name: port.name.clone(),
            heading: port.out.heading(),
            pitch: port.out.pitch(),
            port_od: Measure(port.od.get()),
            joint: joint.kind,
            joint_id: joint.id,
            gap: Measure(gap),
            gap_reason: reason_words(needs.reason),
            hose: needs.hose().map(Measure),
            port_seat: Measure(port_seat),
            seat: Measure(seat),
            straight_needed: Measure(run.straight_needed(end)),
            straight_have: straight_have.map(Measure),
            figures,
            neck: NeckWorkup::of(run, end),
            tube_end: tube_end.to_array(),
        }
    }
}

pub(super) fn reason_words(reason: GapReason) -> DualUnitText {
    let text = match reason {
        GapReason::Chosen => "as you chose",
        GapReason::Open => "nothing meets it",
        GapReason::OneBody => "usual where both ports ride on one body",
        GapReason::AcrossMounts => "least for a joint between engine and body",
        GapReason::Taper => "room for the reducer to taper",
        GapReason::Metal => "metal meets metal",
        GapReason::Hose => "the hose itself is the joint",
        GapReason::Elbow => "the bend it takes the place of, and its legs past the seats",
        GapReason::Kind => "what such a joint takes of the centre line",
        GapReason::Part => "as the part is made",
    };
    DualUnitText::new(|_| text.to_owned())
}

//! One pipe of a job.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{BendMake, Joint, JointId, Making, Mark, Needs, Route, RouteConstraints, StubEnds, joint_needs};
use crate::flow::{FlowGiven, usual_celsius};
use crate::join::{BEAD_FROM_END, FlangePlate, JointKind};
use crate::measure::{End, EndForm, Port, RunId};
use crate::stock::{Duty, HoseBuild, Tube};
use nook_geometry::units::{BendRadius, Insulation, LongestStick, Name, Pressure, Temperature};

/// One pipe: its ports, its tube and the way it takes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Run {
    /// Which run.
    pub id: RunId,
    /// What it is called.
    pub name: Name,
    /// What its pieces are marked with. Always there once a job is read: older files have none and get what was written
    /// on the metal then.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mark: Option<Mark>,
    /// What it carries.
    pub duty: Duty,
    /// What it is made of.
    pub tube: Tube,
    /// What it is built of where it is no rigid tube; its tube is of a hose's stuff then.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hose: Option<HoseBuild>,
    /// Centre-line radius of bends that were given none of their own.
    pub radius: BendRadius,
    /// Length of the longest stick of its tube that is to be had: longer pieces are spliced. Nothing where there is one for every piece.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub longest: Option<LongestStick>,
    /// How it is made, beside its list.
    #[serde(default, skip_serializing_if = "Making::is_usual")]
    pub making: Making,
    /// Working pressure; by default from the duty.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pressure: Option<Pressure>,
    /// Thickness of what is wrapped round it; nothing where it is bare.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub insulation: Option<Insulation>,
    /// What flows through it, where it was said.
    #[serde(default, skip_serializing_if = "flows_as_usual")]
    pub flow: FlowGiven,
    /// What is asked of its way.
    #[serde(default, skip_serializing_if = "RouteConstraints::is_none")]
    pub wishes: RouteConstraints,
    /// Where it leaves.
    pub a: Port,
    /// Where it arrives.
    pub b: Port,
    /// Which of the two are stubs of other pipes.
    #[serde(default, skip_serializing_if = "StubEnds::is_none")]
    pub stubs: StubEnds,
    /// Its joints, and the way round it takes once one is chosen or found.
    pub route: Route,
    /// Other ways round, kept beside it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub kept: Vec<KeptRoute>,
    /// Towards which end it drains by gravity alone; nothing where it is under pressure, or need not drain.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub drains: Option<End>,
    /// The pipe that is its image on the other side of the vehicle and follows it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub twin: Option<RunId>,
    /// The next number to give to a bend or joint of it; numbers are never used twice.
    pub next_part: u32,
}

/// A way round that is kept beside the one taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeptRoute {
    /// What it is called.
    pub name: Name,
    /// The way, with joints of its own.
    pub way: Route,
}

fn flows_as_usual(given: &FlowGiven) -> bool {
    *given == FlowGiven::default()
}

/// A run that is about to be added: what the builder must say, the rest being usual.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RunDraft {
    /// What it is called.
    pub name: Name,
    /// What it carries.
    pub duty: Duty,
    /// What it is made of.
    pub tube: Tube,
    /// What it is built of where it is no rigid tube; its tube is of a hose's stuff then.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hose: Option<HoseBuild>,
    /// Bend radius; by default one and a half diameters, of a hose as it is built.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub radius: Option<BendRadius>,
    /// Where it leaves.
    pub a: Port,
    /// Where it arrives.
    pub b: Port,
    /// Which of the two are stubs of other pipes.
    #[serde(default, skip_serializing_if = "StubEnds::is_none")]
    pub stubs: StubEnds,
}

impl Run {
    /// Most numbers given to bends and joints of one run.
    pub const MOST_PARTS: u32 = 1_000_000_000;
    /// Most ways kept beside the one taken.
    pub const MOST_KEPT: usize = 6;

    /// The port at `end`.
    #[must_use]
    pub const fn port(&self, end: End) -> &Port {
        match end {
            End::A => &self.a,
            End::B => &self.b,
        }
    }

    pub(crate) const fn port_mut(&mut self, end: End) -> &mut Port {
        match end {
            End::A => &mut self.a,
            End::B => &mut self.b,
        }
    }

    /// The way round it takes; `None` until one is chosen or found.
    #[must_use]
    pub fn way(&self) -> Option<&Route> {
        self.route.is_decided().then_some(&self.route)
    }

    /// The joint at `end`.
    #[must_use]
    pub fn joint(&self, end: End) -> &Joint {
        self.route.joint_at(end).unwrap_or_else(|| unreachable!("a run of a job has a joint at each end"))
    }

    /// Whether nothing meets the pipe at `end`.
    #[must_use]
    pub fn is_open(&self, end: End) -> bool {
        self.joint(end).kind == JointKind::Open
    }

    /// The least centre-line radius in mm that its bends are usually made to.
    #[must_use]
    pub fn tightest_radius(&self) -> f64 {
        let tube = self.tube;
        self.hose.map_or_else(|| BendMake::usual(tube).least_radius(tube.od()), |hose| hose.least_radius(tube))
    }

    /// Whether it is joined by a nut on a thread at its ends.
    #[must_use]
    pub const fn is_threaded(&self) -> bool {
        matches!(self.hose, Some(HoseBuild::Threaded { .. }))
    }

    /// The flange plate of a joint; `None` where it has none or is not bolted.
    #[must_use]
    pub fn plate_of<'a>(&self, joint: &'a Joint) -> Option<&'a FlangePlate> {
        joint.plate.as_ref().filter(|_| self.is_bolted(joint))
    }

    /// Whether a joint is bolted by plates.
    #[must_use]
    pub fn is_bolted(&self, joint: &Joint) -> bool {
        match joint.kind {
            JointKind::Flange => true,
            JointKind::Metal => joint.end().is_some_and(|end| self.port(end).form == EndForm::Flanged),
            _ => false,
        }
    }

    /// What the joint at `end` needs.
    #[must_use]
    pub fn needs(&self, end: End) -> Needs {
        joint_needs(self, self.joint(end))
    }

    /// Gap between the tube ends at `end` in mm.
    #[must_use]
    pub fn gap(&self, end: End) -> f64 {
        self.needs(end).gap
    }

    /// Straight tube the joint at `end` needs on the pipe's side, in mm.
    #[must_use]
    pub fn straight_needed(&self, end: End) -> f64 {
        let [before, after] = self.needs(end).straights;
        match end {
            End::A => after,
            End::B => before,
        }
    }

    /// Straight neck in mm that the joint at `end` sits on at the port's side: seat and bead of a hose, or what is welded or
    /// bolted there and the room behind it.
    #[must_use]
    pub fn neck_needed(&self, end: End) -> f64 {
        let (needs, kind) = (self.needs(end), self.joint(end).kind);
        let seat = needs.seats[usize::from(end == End::B)];
        let bead = if kind.has_hose() { BEAD_FROM_END } else { 0.0 };
        seat.max(self.joint(end).spec(self.tube.od()).straight) + bead
    }

    /// What a joint is called.
    #[must_use]
    pub fn joint_name(&self, joint: JointId) -> String {
        self.route.joint_name(joint).unwrap_or_else(|| "A joint".to_owned())
    }

    /// Working pressure in bar.
    #[must_use]
    pub fn bar(&self) -> f64 {
        self.pressure.map_or_else(|| self.duty.usual_pressure(), Pressure::get)
    }

    /// How hot what flows through it is, in degrees Celsius: as was said, or as is usual for what it carries.
    #[must_use]
    pub fn celsius(&self) -> f64 {
        self.flow.temperature.map_or_else(|| usual_celsius(self.duty, self.bar()), Temperature::get)
    }

    /// Thickness of what is wrapped round it, in mm.
    #[must_use]
    pub fn insulation(&self) -> f64 {
        self.insulation.map_or(0.0, Insulation::get)
    }

    /// Centre-line radius of bend `index` in mm.
    #[must_use]
    pub fn bend_radius(&self, index: usize) -> f64 {
        let own = self.route.bends().get(index).and_then(|bend| bend.radius);
        own.unwrap_or(self.radius).get()
    }
}

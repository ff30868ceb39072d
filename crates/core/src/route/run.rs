//! One pipe of a job.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{JointId, Mark, Route, RouteConstraints};
use crate::flow::FlowGiven;
use crate::join::EndJoint;
use crate::measure::{End, Port, RunId};
use crate::stock::{Duty, Tube};
use nook_geometry::units::{BendRadius, Insulation, Name, Pressure};

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
    /// Centre-line radius of bends that were given none of their own.
    pub radius: BendRadius,
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
    /// The joint at A.
    pub joint_a: EndJoint,
    /// The joint at B.
    pub joint_b: EndJoint,
    /// The way round it takes; nothing until one is chosen or found.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub way: Option<Route>,
    /// Other ways round, kept beside it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub kept: Vec<KeptRoute>,
    /// The pipe that is its image on the other side of the vehicle and follows it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub twin: Option<RunId>,
}

/// A way round that is kept beside the one taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeptRoute {
    /// What it is called.
    pub name: Name,
    /// The way.
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
    /// Bend radius; by default one and a half diameters.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub radius: Option<BendRadius>,
    /// Where it leaves.
    pub a: Port,
    /// Where it arrives.
    pub b: Port,
}

impl Run {
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

    /// The joint at `end`.
    #[must_use]
    pub const fn joint(&self, end: End) -> &EndJoint {
        match end {
            End::A => &self.joint_a,
            End::B => &self.joint_b,
        }
    }

    pub(crate) const fn joint_mut(&mut self, end: End) -> &mut EndJoint {
        match end {
            End::A => &mut self.joint_a,
            End::B => &mut self.joint_b,
        }
    }

    /// Gap between the tube ends at `end` in mm.
    #[must_use]
    pub fn gap(&self, end: End) -> f64 {
        self.joint(end).gap(self.port(end), self.port(end.other()), self.tube.od()).0
    }

    /// Straight tube the joint at `end` needs, in mm.
    #[must_use]
    pub fn straight_needed(&self, end: End) -> f64 {
        self.joint(end).straight_needed(self.duty, self.tube.od())
    }

    /// What a joint between the ends is called.
    #[must_use]
    pub fn joint_name(&self, joint: JointId) -> String {
        self.way.as_ref().and_then(|way| way.joint_name(joint)).unwrap_or_else(|| "A joint".to_owned())
    }

    /// Working pressure in bar.
    #[must_use]
    pub fn bar(&self) -> f64 {
        self.pressure.map_or_else(|| self.duty.usual_pressure(), Pressure::get)
    }

    /// Thickness of what is wrapped round it, in mm.
    #[must_use]
    pub fn insulation(&self) -> f64 {
        self.insulation.map_or(0.0, Insulation::get)
    }

    /// Centre-line radius of bend `index` in mm.
    #[must_use]
    pub fn bend_radius(&self, index: usize) -> f64 {
        let own = self.way.as_ref().and_then(|way| way.bends().get(index)).and_then(|bend| bend.radius);
        own.unwrap_or(self.radius).get()
    }
}

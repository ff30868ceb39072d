//! A part that a joint is made with, as bought: one row of a catalogue.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::JointKind;
use nook_geometry::units::{
    Gap, GiveAngle, GiveLength, Name, OutsideDiameter, Pressure, Price, StandsOut, Straight, Temperature,
};

/// A part a joint is made with, from a catalogue or of the builder's own. It is kept in the job whole, so that the job
/// opens alike where the catalogue is another. What it does not say is as usual for its kind, see [`super::JointSpec`].
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JointPart {
    /// What the shelf label says.
    pub name: Name,
    /// What it is.
    pub kind: JointKind,
    /// The tube it goes on, by its real outside diameter in mm; any tube where nothing is said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub od: Option<OutsideDiameter>,
    /// How far it bends while running, in degrees.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub give_angle: Option<GiveAngle>,
    /// How far it gives sideways, in mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub give_offset: Option<GiveLength>,
    /// How far it gives along, either way, in mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub give_axial: Option<GiveLength>,
    /// What it takes of the centre line between the tube ends, in mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gap: Option<Gap>,
    /// Straight tube it wants on each side, in mm; a hose's is its seat and bead.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub straight: Option<Straight>,
    /// How far it stands out all round beyond the tube, in mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stands_out: Option<StandsOut>,
    /// How far its screw, bolt or latch stands out at its clock, in mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub screw_out: Option<StandsOut>,
    /// Pressure it is sold for, in bar gauge.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bar: Option<Pressure>,
    /// Heat it is sold for, in degrees Celsius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub celsius: Option<Temperature>,
    /// What it costs, clamps included, in the builder's own money.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub price: Option<Price>,
}

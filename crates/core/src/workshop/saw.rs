//! Saws.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{HeldEnd, JointedAngle, Kerf, Name, SawBias, SawSetting, SawStep};

/// Which saw of a workshop; the number never changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct SawId(pub u32);

/// What sort of saw it is, as far as that matters to what it cuts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SawKind {
    /// A cold, band or chop saw with a scale: it is set to an angle.
    #[default]
    Set,
    /// A hacksaw along a template wrapped round the tube.
    Template,
    /// A wheel cutter: it cuts square and nothing else, and presses as it does.
    Cutter,
}

impl SawKind {
    fn is_usual(&self) -> bool {
        *self == Self::default()
    }
}

/// What a saw is able to do.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SawReach {
    /// What sort it is.
    #[serde(default, skip_serializing_if = "SawKind::is_usual")]
    pub kind: SawKind,
    /// The step of its scale in degrees; nothing where it is set to any angle.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub step: Option<SawStep>,
    /// The shortest end of tube that its vice holds, in mm; nothing where that was not said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub holds: Option<HeldEnd>,
}

impl SawReach {
    fn is_usual(&self) -> bool {
        *self == Self::default()
    }

    /// The setting nearest to one, in degrees, that its scale has.
    #[must_use]
    pub fn nearest(&self, set: f64) -> f64 {
        self.step.map(SawStep::get).map_or(set, |step| (set / step).round() * step)
    }
}

/// A saw of a workshop.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Saw {
    /// Which.
    pub id: SawId,
    /// What it is called.
    pub name: Name,
    /// Width of its cut in mm.
    pub kerf: Kerf,
    /// What was measured of how true it cuts; nothing where nobody did.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub coupon: Option<SawCoupon>,
    /// What it is able to do.
    #[serde(default, skip_serializing_if = "SawReach::is_usual")]
    pub reach: SawReach,
}

/// Pieces sawn in pairs at one setting, one of each turned half round, and the angle between the two measured. Source: handbook,
/// "The sums", Pie cuts: Saw bias.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SawCoupon {
    /// What the saw was set to, in degrees from square.
    pub set: SawSetting,
    /// The angle measured of each pair, in degrees.
    pub joints: Vec<JointedAngle>,
}

impl SawCoupon {
    /// Most pairs.
    pub const MOST: usize = 20;

    /// By how many degrees the saw cuts more than it is set to: half of what each pair shows, less the setting, on the mean; `None`
    /// without a pair.
    #[must_use]
    pub fn bias(&self) -> Option<f64> {
        let (sum, count) =
            self.joints.iter().fold((0.0, 0.0), |(sum, count), joint| (sum + joint.get() / 2.0, count + 1.0));
        (count > 0.0).then(|| sum / count - self.set.get())
    }

    /// By how many degrees one cut differs from the next, one standard deviation; `None` of fewer than two pairs. A pair has two cuts,
    /// and shows the sum of both.
    #[must_use]
    pub fn spread(&self) -> Option<f64> {
        let mean = self.bias()? + self.set.get();
        let (sum, count) = self.joints.iter().fold((0.0, 0.0), |(sum, count), joint| {
            let off = joint.get() / 2.0 - mean;
            (sum + off * off, count + 1.0)
        });
        (count > 1.0).then(|| (2.0 * sum / (count - 1.0)).sqrt())
    }
}

/// By how many degrees a bend of so many seams is out where a saw's error is not corrected for: each seam has two faces. Source: as
/// above.
#[must_use]
pub fn bend_out(seams: u32, bias: f64) -> f64 {
    2.0 * f64::from(seams) * bias
}

/// The saw a job is made with, as it was when that was decided: a job that is opened elsewhere, or after the blade was
/// changed, still says what its marks were worked out for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PinnedSaw {
    /// What it is called.
    pub name: Name,
    /// Width of its cut in mm.
    pub kerf: Kerf,
    /// By how many degrees it cuts more than it is set to; nothing where nobody measured it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bias: Option<SawBias>,
    /// What it is able to do.
    #[serde(default, skip_serializing_if = "SawReach::is_usual")]
    pub reach: SawReach,
}

/// Parts of a degree that a saw's error is kept in.
const FINEST: f64 = 10_000.0;

impl From<&Saw> for PinnedSaw {
    fn from(saw: &Saw) -> Self {
        // No saw is read finer than this, and what is written is what was worked with.
        let rounded = |bias: f64| (bias * FINEST).round() / FINEST;
        let bias = saw.coupon.as_ref().and_then(SawCoupon::bias).and_then(|bias| SawBias::new(rounded(bias)).ok());
        Self { name: saw.name.clone(), kerf: saw.kerf, bias, reach: saw.reach }
    }
}

impl PinnedSaw {
    /// By how many degrees it cuts more than it is set to; 0 where nobody measured it.
    #[must_use]
    pub fn bias(&self) -> f64 {
        self.bias.map_or(0.0, SawBias::get)
    }
}

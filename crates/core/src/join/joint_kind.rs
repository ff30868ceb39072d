//! The kinds of joint there are.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::SizeMatch;
use crate::measure::Port;
use crate::stock::Duty;

/// How two tube ends, or a tube and a port, are joined. Figures of each are in [`super::JointSpec`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum JointKind {
    /// A straight hose over both ends.
    Coupler,
    /// A hose with a hump between its seats, that gives more.
    Hump,
    /// A hose that tapers from one size to the other.
    Reducer,
    /// A moulded hose that turns, in place of a bend of the tube.
    Elbow,
    /// Two flanges drawn together by a band of V section, metal to metal.
    VBand,
    /// The same with a soft seal between the flanges.
    VBandSeal,
    /// A sleeve over two O-rings, that gives a little.
    Sleeve,
    /// A clamp over two O-rings, that gives nothing.
    RigidClamp,
    /// Two flange plates with a gasket, bolted.
    Flange,
    /// A bought piece of exhaust in which one tube slides in the other.
    Slip,
    /// A bought piece of corrugated tube under a braid, for exhausts.
    Bellows,
    /// Metal to metal with no gap. The port's form says how: a flange is bolted, a plain end welded; a kind of its own
    /// for each could only contradict it.
    #[serde(rename = "butt")]
    Metal,
    /// A hose's own end: its fitting on a thread, or pushed over the mouth and clamped. The port's form says which.
    HoseEnd,
    /// Nothing: a tip or a mouth in the air, where and which way it was wanted.
    Open,
}

impl JointKind {
    /// Every kind, in the order they are offered.
    pub const ALL: [Self; 14] = [
        Self::Coupler,
        Self::Hump,
        Self::Reducer,
        Self::Elbow,
        Self::Sleeve,
        Self::RigidClamp,
        Self::VBand,
        Self::VBandSeal,
        Self::Flange,
        Self::Slip,
        Self::Bellows,
        Self::Metal,
        Self::HoseEnd,
        Self::Open,
    ];

    /// Whether a hose makes the joint.
    #[must_use]
    pub const fn has_hose(self) -> bool {
        matches!(self, Self::Coupler | Self::Hump | Self::Reducer | Self::Elbow)
    }

    /// Whether it is parted by pulling a tube out of its hose, which is no straight piece that could be slid onto one.
    #[must_use]
    pub const fn is_pulled_off(self) -> bool {
        matches!(self, Self::Reducer | Self::Elbow)
    }

    /// Whether rubber or silicone makes it tight.
    #[must_use]
    pub const fn is_soft(self) -> bool {
        self.has_hose() || matches!(self, Self::VBandSeal | Self::Sleeve | Self::RigidClamp)
    }

    /// Whether it is made by welding something onto the tube's end.
    #[must_use]
    pub const fn is_welded_on(self) -> bool {
        !self.has_hose() && !matches!(self, Self::Metal | Self::HoseEnd | Self::Open)
    }

    /// Whether it can stand on a straight, between two ends of one tube.
    #[must_use]
    pub const fn stands_along(self) -> bool {
        !matches!(self, Self::Reducer | Self::Elbow | Self::Metal | Self::HoseEnd | Self::Open)
    }

    /// The kind as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Coupler => "coupler",
            Self::Hump => "hump coupler",
            Self::Reducer => "reducer",
            Self::Elbow => "moulded elbow",
            Self::VBand => "V-band",
            Self::VBandSeal => "V-band with a soft seal",
            Self::Sleeve => "O-ring sleeve",
            Self::RigidClamp => "rigid O-ring clamp",
            Self::Flange => "bolted flange",
            Self::Slip => "slip joint",
            Self::Bellows => "bellows",
            Self::Metal => "metal joint",
            Self::HoseEnd => "hose end",
            Self::Open => "open end",
        }
    }
}

/// The usual kind at an end for a duty and a port: hose where a hose can go, metal on exhausts, flanges and threads.
#[must_use]
pub fn usual_kind(duty: Duty, port: &Port, tube_od: f64) -> JointKind {
    if duty == Duty::Exhaust || !port.form.takes_hose() {
        JointKind::Metal
    } else if SizeMatch::of(port.od.get(), tube_od) == SizeMatch::Reducer {
        JointKind::Reducer
    } else {
        JointKind::Coupler
    }
}

//! Hoses: with threaded ends, of moulded pieces, and corrugated. Source of all figures, unless said otherwise: handbook,
//! "Joints, fittings, hoses and supports", Hoses with threaded ends, Hose built from moulded pieces.

use std::f64::consts::PI;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{Duty, Material, Tube, TubeError};
use nook_geometry::units::{OutsideDiameter, Rotation, Wall};

/// What a run that is no rigid tube is built of.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "build", rename_all = "snake_case", deny_unknown_fields)]
pub enum HoseBuild {
    /// Braided hose with a swivelling nut of 37 degrees at each end.
    Threaded {
        /// Its size.
        dash: Dash,
        /// The fittings at A and at B.
        #[schema(min_items = 2, max_items = 2)]
        fittings: [HoseFitting; 2],
    },
    /// Moulded elbows and straights of hose over thin metal inserts, clamped over the mouths.
    Moulded {
        /// Whether there is an insert wherever two pieces meet; without one it leaks.
        inserts: bool,
    },
    /// Corrugated hose, clamped over the mouths: bends anywhere, and costs flow.
    Corrugated,
}

/// A fitting at an end of a hose with threaded ends.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HoseFitting {
    /// By how much it turns.
    pub angle: FittingAngle,
    /// Towards which clock, in degrees from up, right-handed about the direction of travel from A to B; by default towards
    /// the other end. A straight one has none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<Rotation>,
    /// Whether it turns in its nut after the hose is made up, so that no clock need be set.
    pub swivels: bool,
}

impl HoseFitting {
    /// A straight one that swivels.
    pub const STRAIGHT: Self = Self { angle: FittingAngle(0), clock: None, swivels: true };
}

/// By how many degrees a fitting turns: one of those that are sold.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "u16", into = "u16")]
pub struct FittingAngle(u16);

/// No fitting turns by so much.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[error("no hose fitting turns by {degrees} degrees; they are sold with 0, 30, 45, 60, 90, 120, 150 and 180")]
pub struct NoSuchFitting {
    /// What was asked.
    pub degrees: u16,
}

impl FittingAngle {
    /// Every one that is sold.
    pub const ALL: [Self; 8] = [Self(0), Self(30), Self(45), Self(60), Self(90), Self(120), Self(150), Self(180)];

    /// Checks that one is sold.
    ///
    /// # Errors
    /// [`NoSuchFitting`] where none is.
    pub fn new(degrees: u16) -> Result<Self, NoSuchFitting> {
        Self::ALL.into_iter().find(|one| one.0 == degrees).ok_or(NoSuchFitting { degrees })
    }

    /// In degrees.
    #[must_use]
    pub fn degrees(self) -> f64 {
        f64::from(self.0)
    }
}

impl TryFrom<u16> for FittingAngle {
    type Error = NoSuchFitting;
    fn try_from(degrees: u16) -> Result<Self, NoSuchFitting> {
        Self::new(degrees)
    }
}

impl From<FittingAngle> for u16 {
    fn from(angle: FittingAngle) -> Self {
        angle.0
    }
}

/// A size of hose with threaded ends: sixteenths of an inch of the tube it stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
pub enum Dash {
    /// 3/16 in.
    #[serde(rename = "-3")]
    D3,
    /// 1/4 in.
    #[serde(rename = "-4")]
    D4,
    /// 3/8 in.
    #[serde(rename = "-6")]
    D6,
    /// 1/2 in.
    #[serde(rename = "-8")]
    D8,
    /// 5/8 in.
    #[serde(rename = "-10")]
    D10,
    /// 3/4 in.
    #[serde(rename = "-12")]
    D12,
    /// 1 in.
    #[serde(rename = "-16")]
    D16,
    /// 1 1/4 in.
    #[serde(rename = "-20")]
    D20,
}

/// What a size comes to, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DashSize {
    /// Inside diameter.
    pub bore: f64,
    /// Outside diameter.
    pub outside: f64,
    /// Least radius of the inside of a bend.
    pub least_radius_inside: f64,
    /// The thread's name.
    pub thread: &'static str,
    /// Its outside diameter.
    pub thread_od: f64,
    /// From the seat on the thread to where the hose is cut, along the fitting: straight, of 45 and of 90 degrees.
    pub cut_off: [f64; 3],
}

impl Dash {
    /// Every size, smallest first.
    pub const ALL: [Self; 8] = [Self::D3, Self::D4, Self::D6, Self::D8, Self::D10, Self::D12, Self::D16, Self::D20];

    /// What it comes to.
    #[must_use]
    pub const fn size(self) -> DashSize {
        match self {
            Self::D3 => of([3.2, 6.4, 38.0, 9.525], "3/8-24", [12.0, 20.0, 25.0]),
            Self::D4 => of([5.6, 11.0, 50.0, 11.1125], "7/16-20", [15.0, 25.0, 30.0]),
            Self::D6 => of([8.7, 14.5, 65.0, 14.2875], "9/16-18", [17.0, 30.0, 35.0]),
            Self::D8 => of([11.1, 17.5, 75.0, 19.05], "3/4-16", [20.0, 35.0, 42.0]),
            Self::D10 => of([14.3, 21.0, 90.0, 22.225], "7/8-14", [22.0, 40.0, 48.0]),
            Self::D12 => of([17.5, 25.0, 110.0, 26.9875], "1 1/16-12", [25.0, 46.0, 56.0]),
            Self::D16 => of([22.2, 31.0, 140.0, 33.3375], "1 5/16-12", [28.0, 55.0, 68.0]),
            Self::D20 => of([28.6, 38.0, 180.0, 41.275], "1 5/8-12", [32.0, 64.0, 80.0]),
        }
    }

    /// What it is called.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::D3 => "-3",
            Self::D4 => "-4",
            Self::D6 => "-6",
            Self::D8 => "-8",
            Self::D10 => "-10",
            Self::D12 => "-12",
            Self::D16 => "-16",
            Self::D20 => "-20",
        }
    }

    /// The size whose thread is nearest to a mouth's outside diameter in mm.
    #[must_use]
    pub fn nearest(thread_od: f64) -> Self {
        let off = |dash: &Self| (dash.size().thread_od - thread_od).abs();
        Self::ALL.into_iter().min_by(|p, q| off(p).total_cmp(&off(q))).unwrap_or(Self::D6)
    }

    /// Radius in mm of the bend in its fittings: half of a fitting of 90 degrees is bend. Ours; a maker's drawing comes first.
    #[must_use]
    pub fn neck_radius(self) -> f64 {
        self.size().cut_off[2] / PI
    }

    /// From the seat on the thread to where the hose is cut, in mm along a fitting: by the table, between its rows by the
    /// angle, and beyond 90 degrees longer by what the bend goes on.
    #[must_use]
    pub fn cut_off(self, angle: FittingAngle) -> f64 {
        let [straight, half, square] = self.size().cut_off;
        let degrees = angle.degrees();
        if degrees <= 45.0 {
            straight + (half - straight) * degrees / 45.0
        } else if degrees <= 90.0 {
            half + (square - half) * (degrees - 45.0) / 45.0
        } else {
            square + self.neck_radius() * (degrees - 90.0).to_radians()
        }
    }

    /// Half of a nut's width across its corners, in mm: a hexagon of 1.25 times the thread.
    #[must_use]
    pub fn nut_radius(self) -> f64 {
        1.25 * self.size().thread_od / 2.0 / (PI / 6.0).cos()
    }

    /// How far a socket reaches over the hose from where that is cut, in mm. Ours, by what is sold.
    #[must_use]
    pub fn socket(self) -> f64 {
        1.4 * self.size().outside
    }

    /// Half of a socket's width in mm. Ours likewise.
    #[must_use]
    pub fn socket_radius(self) -> f64 {
        self.size().outside / 2.0 + 2.5
    }
}

const fn of(
    [bore, outside, least_radius_inside, thread_od]: [f64; 4],
    thread: &'static str,
    cut_off: [f64; 3],
) -> DashSize {
    DashSize { bore, outside, least_radius_inside, thread, thread_od, cut_off }
}

/// Wall in mm of moulded hose: four plies.
const MOULDED_WALL: f64 = 5.0;
/// Wall in mm of corrugated hose, its corrugations counted in. Ours.
const CORRUGATED_WALL: f64 = 4.0;
/// How much longer a hose is cut than its way between the cut-off points, as a share.
pub const SLACK: f64 = 0.03;
/// Straight legs of a moulded elbow beyond its bend as it is bought, in mm. Ours: the longer of those that are sold.
pub const LEG: f64 = 120.0;
/// What a leg may be cut to, in mm.
pub const LEAST_LEG: f64 = 35.0;
/// Angles in degrees that moulded elbows are sold in.
pub const MOULDED_ANGLES: [f64; 3] = [45.0, 90.0, 135.0];
/// By how many degrees a moulded elbow may be pulled from its angle.
pub const MOULDED_GIVE: f64 = 4.0;
/// Straight a hose with threaded ends needs out of its fitting before it bends, in outside diameters.
const STRAIGHT_OUT: f64 = 1.5;

/// The angle in degrees of the moulded elbow that is sold nearest to one.
#[must_use]
pub fn nearest_moulded(degrees: f64) -> f64 {
    let off = |sold: f64| (sold - degrees).abs();
    MOULDED_ANGLES.into_iter().fold(MOULDED_ANGLES[0], |best, sold| if off(sold) < off(best) { sold } else { best })
}

impl HoseBuild {
    /// With two straight fittings that swivel.
    #[must_use]
    pub const fn threaded(dash: Dash) -> Self {
        Self::Threaded { dash, fittings: [HoseFitting::STRAIGHT; 2] }
    }

    /// The hose as a round tube of its stuff: with threaded ends by its size, else over mouths of `bore` mm.
    ///
    /// # Errors
    /// [`TubeError`] where `bore` leaves none, as none that a mouth can have does.
    pub fn tube(self, material: Material, bore: f64) -> Result<Tube, TubeError> {
        let (od, wall) = match self {
            Self::Threaded { dash, .. } => {
                let size = dash.size();
                (size.outside, (size.outside - size.bore) / 2.0)
            }
            Self::Moulded { .. } => (bore + 2.0 * MOULDED_WALL, MOULDED_WALL),
            Self::Corrugated => (bore + 2.0 * CORRUGATED_WALL, CORRUGATED_WALL),
        };
        let wrong = |_| TubeError { wall, od };
        Tube::new(material, OutsideDiameter::new(od).map_err(wrong)?, Wall::new(wall).map_err(wrong)?)
    }

    /// Whether a tube is what it is built of, to a tenth of a millimetre.
    #[must_use]
    pub fn suits(self, tube: Tube) -> bool {
        let near = |wanted: Tube| (wanted.od() - tube.od()).abs() < 0.1 && (wanted.wall() - tube.wall()).abs() < 0.1;
        tube.material().is_hose() && self.tube(tube.material(), tube.bore()).is_ok_and(near)
    }

    /// Least centre-line radius in mm it bends to, or is moulded to.
    #[must_use]
    pub fn least_radius(self, tube: Tube) -> f64 {
        match self {
            Self::Threaded { dash, .. } => dash.size().least_radius_inside + tube.od() / 2.0,
            Self::Moulded { .. } => tube.bore(),
            // Ours: the makers' lists of corrugated coolant hose.
            Self::Corrugated => 1.5 * tube.od(),
        }
    }

    /// Centre-line radius in mm of its bends where nobody said.
    #[must_use]
    pub fn usual_radius(self, tube: Tube) -> f64 {
        match self {
            Self::Moulded { .. } => 1.25 * tube.bore(),
            Self::Threaded { .. } | Self::Corrugated => self.least_radius(tube),
        }
    }

    /// Straight hose in mm it needs between two bends.
    #[must_use]
    pub const fn between_bends(self) -> f64 {
        match self {
            // Two elbows meet over an insert, each with the least leg; else the cut would be on a curve.
            Self::Moulded { .. } => 2.0 * LEAST_LEG,
            Self::Threaded { .. } | Self::Corrugated => 0.0,
        }
    }

    /// Straight hose in mm it needs from where it is cut, or from a mouth it sits on by `seat` mm, to its first bend.
    #[must_use]
    pub fn straight_out(self, seat: f64) -> f64 {
        match self {
            Self::Threaded { dash, .. } => dash.socket() + STRAIGHT_OUT * dash.size().outside,
            Self::Moulded { .. } | Self::Corrugated => (LEAST_LEG - seat).max(0.0),
        }
    }

    /// Its size and its fittings at A and at B; `None` where the hose itself is pushed on.
    #[must_use]
    pub const fn fittings(self) -> Option<(Dash, [HoseFitting; 2])> {
        match self {
            Self::Threaded { dash, fittings } => Some((dash, fittings)),
            Self::Moulded { .. } | Self::Corrugated => None,
        }
    }

    /// The same on a pipe that is this one's mirror image.
    #[must_use]
    pub(crate) fn mirrored(self) -> Self {
        match self {
            Self::Threaded { dash, fittings } => Self::Threaded {
                dash,
                fittings: fittings.map(|one| HoseFitting {
                    clock: one.clock.and_then(|clock| Rotation::new(0.0 - clock.get()).ok()),
                    ..one
                }),
            },
            other => other,
        }
    }

    /// What it is called.
    #[must_use]
    pub const fn word(&self) -> &'static str {
        match self {
            Self::Threaded { .. } => "hose with threaded ends",
            Self::Moulded { .. } => "hose of moulded pieces",
            Self::Corrugated => "corrugated hose",
        }
    }
}

/// Why hose of a material may not carry something; `None` where it may, or where it is metal. Source: handbook, Hose by what it
/// carries; exhaust gas is hotter than any hose bears.
#[must_use]
pub const fn unfit(material: Material, duty: Duty) -> Option<&'static str> {
    match (material, duty) {
        (Material::Silicone, Duty::Oil) => Some("oil softens plain silicone and goes through it"),
        (Material::FluoroSilicone, Duty::Oil | Duty::Coolant) => {
            Some("a fluoro lining is for air with oil mist in it, not for what fills the hose")
        }
        (Material::Epdm, Duty::Oil) => Some("oil swells EPDM until it bursts"),
        (Material::Epdm, Duty::ChargeHot | Duty::ChargeCold | Duty::Intake) => {
            Some("the oil mist that comes with the air swells EPDM")
        }
        (Material::Nitrile, Duty::Coolant) => Some("hot coolant hardens nitrile"),
        (
            Material::Silicone | Material::FluoroSilicone | Material::Epdm | Material::Nitrile | Material::Ptfe,
            Duty::Exhaust,
        ) => Some("no hose bears exhaust gas"),
        _ => None,
    }
}

/// What hose for a duty is made of where nobody said.
#[must_use]
pub const fn usual_hose(duty: Duty) -> Material {
    match duty {
        Duty::Oil => Material::Ptfe,
        Duty::Coolant => Material::Epdm,
        Duty::ChargeHot | Duty::ChargeCold | Duty::Intake | Duty::Exhaust => Material::Silicone,
    }
}

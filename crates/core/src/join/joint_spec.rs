//! What each kind of joint is: what it gives, what it takes, how far it stands out and what it bears.
//! Source of all figures, unless said otherwise: handbook, "Joints, fittings, hoses and supports", Joint kinds.

use serde::Serialize;
use utoipa::ToSchema;

use super::{JointKind, JointPart};
use nook_geometry::units::{Gap, GiveAngle, GiveLength, Pressure, Straight, Temperature};

/// What a joint takes while running, over and above how it was fitted: up to so much each way.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Give {
    /// Between the axes of the two sides, in degrees.
    pub angle: f64,
    /// Of one side's end beside the other's axis, in mm.
    pub offset: f64,
    /// Along that axis, in mm.
    pub axial: f64,
}

impl Give {
    /// Nothing at all.
    pub const NONE: Self = Self::new(0.0, 0.0, 0.0);

    const fn new(angle: f64, offset: f64, axial: f64) -> Self {
        Self { angle, offset, axial }
    }

    /// Whether it gives in no way: the two sides are one then.
    #[must_use]
    pub fn is_none(&self) -> bool {
        *self == Self::NONE
    }
}

/// What something over the tube is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OverKind {
    /// A hose.
    Hose,
    /// A moulded hose round a bend, as chords.
    Elbow,
    /// A clamp on it.
    Clamp,
    /// A flange.
    Flange,
    /// A band round two flanges, or a sleeve or clamp over O-rings.
    Band,
    /// The screw, bolt or latch of one of those, at its clock.
    Screw,
    /// What of a support is round the tube.
    Support,
    /// A bung or a stub let into the tube, square to its stretch.
    Branch,
    /// The nut, neck or socket of a hose's fitting.
    Fitting,
    /// Corrugated tube under its braid, or the outer tube of a slip joint.
    Flexible,
}

/// A ring of a joint round the pipe.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ring {
    /// What it is.
    pub what: OverKind,
    /// How far it reaches past each end of the gap, in mm; below 0 it ends short of it.
    pub beyond: f64,
    /// How far it stands out beyond the tube's outside, in mm.
    pub out: f64,
}

/// A screw, bolt or latch that stands out at one clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Screw {
    /// How far beyond the tube's outside, in mm.
    pub out: f64,
    /// Over how much of the girth, in mm.
    pub girth: f64,
    /// How it is reached.
    pub reached: Reached,
}

/// Room that a hand and a tool need at a screw. Source: as above, Getting it apart.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reached {
    /// By a hand and a driver straight to the screw's head, square to the tube.
    Driver,
    /// By a socket along the bolt, past its nut.
    Socket,
    /// By a hand alone.
    Hand,
}

/// What holds a joint together against pressure.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Holds {
    /// It slides when it is pushed harder than this, in N.
    Up(f64),
    /// Metal locks it; only its rated pressure counts.
    Locked,
}

/// What a joint is, on tube of one size.
#[derive(Debug, Clone, PartialEq)]
pub struct JointSpec {
    /// What it gives.
    pub give: Give,
    /// Straight tube it wants behind each tube end, in mm; 0 for hoses, which want seat and bead.
    pub straight: f64,
    /// What it takes of the centre line, in mm, where that is not the builder's to choose.
    pub takes: Option<f64>,
    /// Rings round the pipe, hoses and their clamps aside.
    pub rings: Vec<Ring>,
    /// What stands out at one clock.
    pub screw: Option<Screw>,
    /// Pressure it bears in bar gauge; `None` where the part says it or nothing does.
    pub bar: Option<f64>,
    /// Heat it bears in degrees Celsius; `None` for metal.
    pub celsius: Option<f64>,
    /// How it holds against pressure.
    pub holds: Holds,
}

/// What a hose adds to the radius it sits on, in mm: four plies of silicone.
pub const HOSE: f64 = 5.0;
/// What a hose's clamp adds, in mm: its band.
pub const CLAMP: f64 = 12.0;
/// What the screw of a hose's clamp adds at its clock, in mm.
pub const SCREW_OUT: f64 = 18.0;
/// The same, and over how much of the girth.
const SCREW: [f64; 2] = [SCREW_OUT, 25.0];
/// What a V-band's bolt adds at its clock, in mm, and over how much of the girth.
const T_BOLT: [f64; 2] = [30.0, 40.0];
/// What a latch adds at its clock, in mm; over how much of the girth is ours: as a clamp's screw.
const LATCH: [f64; 2] = [20.0, 25.0];
/// What a flange adds beyond the tube, in mm: bolt circle and 12, which is 44 more across.
pub const FLANGE: f64 = 22.0;
/// Thickness of one flange plate in mm.
pub const FLANGE_DEEP: f64 = 10.0;
/// How far past its flanges a V-band reaches, in mm. Ours: its lips.
const BAND_LIP: f64 = 4.0;
/// Length of the ferrule under an O-ring joint, in mm.
const FERRULE: f64 = 20.0;
/// Size of tube in mm for which pressure and hold of hoses are told, and those.
const TOLD_AT: f64 = 63.5;
const HOSE_BAR: f64 = 2.5;
const HOSE_HOLDS: f64 = 900.0;
/// Heat in degrees that reinforced silicone, and an O-ring, bear.
const SILICONE: f64 = 180.0;
const O_RING: f64 = 150.0;

impl JointSpec {
    /// What a kind is on tube of `od` mm.
    #[must_use]
    pub fn usual(kind: JointKind, od: f64) -> Self {
        let screw = |[out, girth]: [f64; 2], reached| Some(Screw { out, girth, reached });
        let ring = |what, beyond, out| Ring { what, beyond, out };
        let metal = Self {
            give: Give::NONE,
            straight: 0.0,
            takes: None,
            rings: Vec::new(),
            screw: None,
            bar: None,
            celsius: None,
            holds: Holds::Locked,
        };
        let hose_bar = HOSE_BAR * (TOLD_AT / od).min(1.0);
        let hose = Self {
            give: Give::new(2.0, 2.0, 3.0),
            screw: screw(SCREW, Reached::Driver),
            bar: Some(hose_bar),
            celsius: Some(SILICONE),
            holds: Holds::Up(HOSE_HOLDS * od / TOLD_AT),
            ..metal.clone()
        };
        match kind {
            JointKind::Coupler | JointKind::Reducer => hose,
            JointKind::Elbow => Self { give: Give::new(4.0, 4.0, 4.0), ..hose },
            JointKind::Hump => Self {
                give: Give::new(6.0, 6.0, 6.0),
                rings: vec![ring(OverKind::Hose, 0.0, 12.0)],
                bar: Some(hose_bar * 0.8),
                ..hose
            },
            JointKind::VBand | JointKind::VBandSeal => {
                let soft = kind == JointKind::VBandSeal;
                Self {
                    give: if soft { Give::new(0.5, 0.0, 0.0) } else { Give::NONE },
                    straight: 15.0,
                    takes: Some(if soft { 14.0 } else { 12.0 }),
                    rings: vec![ring(OverKind::Flange, 0.0, 11.0), ring(OverKind::Band, BAND_LIP, 16.0)],
                    screw: screw(T_BOLT, Reached::Socket),
                    bar: Some(3.0),
                    celsius: soft.then_some(O_RING),
                    ..metal
                }
            }
            JointKind::Sleeve => Self {
                give: Give::new(1.5, 2.5, 4.0),
                straight: FERRULE,
                takes: Some(6.0),
                rings: vec![ring(OverKind::Band, FERRULE, 12.0)],
                screw: screw(LATCH, Reached::Hand),
                bar: Some(4.0),
                celsius: Some(O_RING),
                ..metal
            },
            JointKind::RigidClamp => Self {
                straight: FERRULE,
                takes: Some(3.0),
                rings: vec![ring(OverKind::Band, FERRULE, 14.0)],
                screw: screw(LATCH, Reached::Hand),
                bar: Some(6.0),
                celsius: Some(O_RING),
                ..metal
            },
            JointKind::Flange => Self {
                straight: 20.0,
                takes: Some(2.0 * FLANGE_DEEP),
                rings: vec![ring(OverKind::Flange, 0.0, FLANGE)],
                ..metal
            },
            JointKind::Slip => Self {
                give: Give::new(1.0, 1.0, 15.0),
                takes: Some(40.0),
                rings: vec![ring(OverKind::Flexible, 0.0, 2.0), ring(OverKind::Clamp, -12.0, 15.0)],
                holds: Holds::Up(0.0),
                ..metal
            },
            JointKind::Bellows => Self {
                give: Give::new(6.0, 10.0, 10.0),
                straight: 20.0,
                takes: Some(100.0),
                rings: vec![ring(OverKind::Flexible, 0.0, od * 0.15)],
                celsius: Some(900.0),
                ..metal
            },
            JointKind::Metal | JointKind::HoseEnd | JointKind::Open => metal,
        }
    }

    /// The same with a flange plate that stands out so far from the tube's outside, in mm, where that is further than is usual.
    #[must_use]
    pub fn with_plate(mut self, out: f64) -> Self {
        match self.rings.iter_mut().find(|ring| ring.what == OverKind::Flange) {
            Some(ring) => ring.out = ring.out.max(out),
            // Bolted straight to a flanged port.
            None => self.rings.push(Ring { what: OverKind::Flange, beyond: FLANGE_DEEP, out }),
        }
        self
    }

    /// The same with what a part says of itself.
    #[must_use]
    pub fn with(mut self, part: &JointPart) -> Self {
        let or = |own: Option<f64>, usual: f64| own.unwrap_or(usual);
        self.give = Give {
            angle: or(part.give_angle.map(GiveAngle::get), self.give.angle),
            offset: or(part.give_offset.map(GiveLength::get), self.give.offset),
            axial: or(part.give_axial.map(GiveLength::get), self.give.axial),
        };
        self.straight = or(part.straight.map(Straight::get), self.straight);
        self.takes = part.gap.map(Gap::get).or(self.takes);
        self.bar = part.bar.map(Pressure::get).or(self.bar);
        self.celsius = part.celsius.map(Temperature::get).or(self.celsius);
        // The ring that stands out furthest is what the part's figure is of.
        let furthest = self.rings.iter_mut().max_by(|p, q| p.out.total_cmp(&q.out));
        if let (Some(ring), Some(out)) = (furthest, part.stands_out) {
            ring.out = out.get();
        }
        if let (Some(screw), Some(out)) = (&mut self.screw, part.screw_out) {
            screw.out = out.get();
        }
        self
    }

    /// How far it stands out all round beyond the tube, in mm.
    #[must_use]
    pub fn stands_out(&self, kind: JointKind) -> f64 {
        let clamp = if kind.has_hose() { CLAMP } else { 0.0 };
        self.rings.iter().map(|ring| ring.out).fold(clamp, f64::max)
    }
}

/// Widest gap in mm that a kind bridges under boost in tube of `bore` mm before it balloons; `None` where its length is its
/// own. Source: as above, and "The sums", Joints: never above half the bore on boost without a hump.
#[must_use]
pub fn widest_gap(kind: JointKind, bore: f64) -> Option<f64> {
    match kind {
        JointKind::Coupler | JointKind::Reducer => Some(bore / 2.0),
        JointKind::Hump => Some(bore.max(30.0)),
        _ => None,
    }
}

/// Least gap in mm of a hump coupler: that of its hump.
pub const LEAST_HUMP: f64 = 15.0;

/// Shortest and longest bellows that are sold, in mm.
pub const BELLOWS: [f64; 2] = [100.0, 200.0];

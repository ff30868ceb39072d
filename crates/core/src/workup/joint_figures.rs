//! What a joint is, what it gives and takes, and how it is reached and held; alike for joints at the ends and between them.

use nalgebra::Isometry3;
use serde::Serialize;
use utoipa::ToSchema;

use super::plate::PlateWorkup;
use crate::assembly::{JointUse, SeatedJoint};
use crate::findings::{holding, parting_force, refused_kind};
use crate::join::{Give, JointKind, JointPart, JointSpec};
use crate::part_ref::PartRef;
use crate::reach::{AMPLE, Reach};
use crate::route::ResolvedRun;
use crate::stock::Material;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, Measure};

/// What a joint is, gives and takes.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JointFigures {
    /// What it gives while running: degrees, and mm.
    pub give: Give,
    /// What it takes of that at its worst; nothing where nothing moves it, or it does not give.
    pub takes: Option<GiveTaken>,
    /// How far it stands out all round beyond the tube.
    pub stands_out: Measure,
    /// Where its screw, bolt or latch stands, and how it is reached; nothing where it has none.
    pub screw: Option<ScrewWorkup>,
    /// Pressure it bears in bar; nothing where none is told.
    pub bar: Option<f64>,
    /// Heat it bears in degrees Celsius; nothing for metal.
    pub celsius: Option<f64>,
    /// Force that pushes it apart at working pressure, in N.
    pub thrust_n: f64,
    /// Force up to which it holds, in N; nothing where metal locks it.
    pub holds_n: Option<f64>,
    /// Whether a tie across it holds it.
    pub tied: bool,
    /// The part it is made with, where one was chosen.
    #[schema(inline = false)]
    pub part: Option<JointPart>,
    /// What the half that is welded to the port is of, where that is another metal than the tube's.
    pub port_half: Option<&'static str>,
    /// Whether it is bolted by a plate that can be cut to a measured pattern.
    pub takes_plate: bool,
    /// The flange plate that is cut for it.
    pub plate: Option<PlateWorkup>,
}

/// What a joint takes of its give at its worst.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct GiveTaken {
    /// Between the two axes, in degrees.
    pub angle: f64,
    /// Sideways, in mm.
    pub offset: Measure,
    /// Along, apart above 0, in mm.
    pub axial: Measure,
    /// The largest of the three as a share of what it gives: 1 is all of it. Nothing where it may not move that way at all.
    pub share: Option<f64>,
    /// The engine's roll then, in degrees.
    pub roll: f64,
    /// The engine's shift then, in mm.
    #[schema(value_type = Triple)]
    pub shift: [f64; 3],
    /// Whether the pipe is hot then.
    pub hot: bool,
    /// All that in words.
    pub said: DualUnitText,
    /// Where each section is then: unit vectors of its axes, which are the vehicle's at rest, then where the vehicle's zero
    /// has gone, in mm.
    #[schema(value_type = Vec<Vec<Triple>>)]
    pub sections: Vec<[[f64; 3]; 4]>,
}

/// A screw, bolt or latch.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ScrewWorkup {
    /// How far it stands out beyond the tube.
    pub out: Measure,
    /// Its clock in degrees from up, right-handed about the direction of travel.
    pub clock: f64,
    /// Whether somebody holds it there.
    pub held: bool,
    /// What hand and tool have left beyond the room they need, up to 30; below 0 they do not get there.
    pub spare: Measure,
    /// That in words.
    pub said: DualUnitText,
}

/// A kind of joint that a pipe may have, or why it may not.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct KindOffer {
    /// The kind.
    pub kind: JointKind,
    /// What it would give: degrees, and mm.
    pub give: Give,
    /// Whether it can stand between two ends of the tube.
    pub along: bool,
    /// Why it may not be on this pipe; nothing where it may.
    pub refused: Option<DualUnitText>,
}

impl KindOffer {
    /// Every kind for a run of tube, or of hose.
    pub(super) fn all(run: &ResolvedRun) -> Vec<Self> {
        let offer = |kind: JointKind| Self {
            kind,
            give: JointSpec::usual(kind, run.tube.od()).give,
            along: kind.stands_along(),
            refused: refused_kind(run, kind).map(|problem| problem.words(run, PartRef::Run { run: run.id })),
        };
        let suits = |kind: &JointKind| match run.hose {
            Some(_) => matches!(kind, JointKind::HoseEnd | JointKind::Open),
            None => !matches!(kind, JointKind::HoseEnd | JointKind::Elbow),
        };
        JointKind::ALL.into_iter().filter(suits).map(offer).collect()
    }
}

impl JointFigures {
    pub(super) fn of(run: &ResolvedRun, joint: &SeatedJoint, used: Option<&JointUse>, reach: Option<&Reach>) -> Self {
        let spec = &joint.spec;
        let decided = run.route.joint(joint.id);
        Self {
            give: spec.give,
            takes: used.map(GiveTaken::of),
            stands_out: Measure(spec.stands_out(joint.kind)),
            screw: spec.screw.zip(reach).map(|(screw, reach)| ScrewWorkup {
                out: Measure(screw.out),
                clock: reach.clock,
                held: reach.held,
                spare: Measure(reach.spare),
                said: room_words(reach.spare),
            }),
            bar: spec.bar,
            celsius: spec.celsius,
            thrust_n: parting_force(run, joint),
            holds_n: holding(run, joint),
            tied: decided.is_some_and(|joint| joint.tied),
            part: decided.and_then(|decided| decided.part.clone()).filter(|part| part.kind == joint.kind),
            port_half: joint
                .end
                .and_then(|end| run.port(end).metal)
                .filter(|metal| joint.kind.is_welded_on() && !metal.fuses_with(run.tube.material()))
                .map(Material::name),
            takes_plate: decided.is_some_and(|decided| run.is_bolted(decided)),
            plate: decided.and_then(|decided| PlateWorkup::of(run, decided)),
        }
    }
}

fn room_words(spare: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        if spare < 0.0 {
            format!("{} too little room", unit.text(-spare))
        } else if spare >= AMPLE {
            "hand and tool have room".to_owned()
        } else {
            format!("{} to spare", unit.text(spare))
        }
    })
}

fn taken_words(used: &JointUse) -> DualUnitText {
    let [angle, offset, axial] = used.errors.sizes();
    DualUnitText::new(|unit| {
        let way = if used.errors.axial < 0.0 { "together" } else { "apart" };
        let hot = if used.hot { ", hot" } else { "" };
        let roll = used.roll.to_degrees().abs();
        let rolled = if roll < 0.05 { String::new() } else { format!(", rolled {roll:.1}\u{b0}") };
        let angle = angle.to_degrees();
        format!("{angle:.1}\u{b0}, {} aside, {} {way}{hot}{rolled}", unit.text(offset), unit.text(axial))
    })
}

fn frame(pose: &Isometry3<f64>) -> [[f64; 3]; 4] {
    let turn = pose.rotation.to_rotation_matrix().into_inner();
    let axis = |i: usize| turn.column(i).into_owned().into();
    [axis(0), axis(1), axis(2), pose.translation.vector.into()]
}

impl GiveTaken {
    fn of(used: &JointUse) -> Self {
        let [angle, offset, _] = used.errors.sizes();
        Self {
            angle: angle.to_degrees(),
            offset: Measure(offset),
            axial: Measure(used.errors.axial),
            share: Some(used.share).filter(|share| share.is_finite()),
            roll: used.roll.to_degrees(),
            shift: used.shift.into(),
            hot: used.hot,
            said: taken_words(used),
            sections: used.sections.iter().map(frame).collect(),
        }
    }
}

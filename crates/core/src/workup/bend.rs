//! What follows for each bend.

use serde::Serialize;
use utoipa::ToSchema;

use super::StockElbowWorkup;
use crate::assembly::{Assembly, SeatedJoint};
use crate::join::bend_thrust;
use crate::route::{BendId, BendMake, JointId, KitPie, PieEnds, ResolvedMake, ResolvedRun, StockElbow, Stretch};
use nook_geometry::Arc;
use nook_geometry::units::{DualUnitText, Insulation, LengthUnit, Measure};

/// On which side of the story rod a bend is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RodSide {
    /// Turns within a quarter of the way the first bend turns.
    Above,
    /// Turns the other way.
    Below,
}

/// One bend.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BendWorkup {
    /// Which.
    pub bend: BendId,
    /// How far it turns, in degrees.
    pub angle: f64,
    /// Turn of its plane from the last bend's (the first: from up), in degrees, -180 to 180, positive clockwise
    /// looking from A to B.
    pub rotation: f64,
    /// The same round the outside of the tube, always positive.
    pub rotation_girth: Measure,
    /// Centre-line radius.
    pub radius: Measure,
    /// Radius in tube diameters.
    pub radius_diameters: f64,
    /// Tangent point to vertex.
    pub setback: Measure,
    /// Where the axes of the straights before and after meet: x forward, y left, z up.
    #[schema(min_items = 3, max_items = 3)]
    pub vertex: [Measure; 3],
    /// How thick what is wrapped round it is.
    pub wrapped: Measure,
    /// Whether that is said of it alone; else it is as the run is.
    pub wrapped_chosen: bool,
    /// Whether somebody chose how it is made; else that is usual for the tube.
    pub make_chosen: bool,
    /// The moulded elbow that takes its place; nothing where it is of tube.
    pub elbow: Option<JointId>,
    /// The bought elbow it is made of; nothing where it is made otherwise.
    pub bought: Option<StockElbowWorkup>,
    /// The bought elbow it is taken to be made of where that is chosen and no elbow is yet; nothing where none is sold for it.
    pub usual_elbow: Option<StockElbow>,
    /// What one of the bought pies is that it would be made of, until others are chosen; nothing where it turns too little.
    pub usual_kit: Option<KitPie>,
    /// Its pies; nothing where it is drawn or moulded.
    pub pies: Option<PiesWorkup>,
    /// Welds it takes.
    pub welds: u32,
    /// Station of its start along the tube's centre line.
    pub from: Measure,
    /// Station of its end.
    pub to: Measure,
    /// Stations of its welds.
    pub weld_stations: Vec<f64>,
    /// Which way it turns on the rod.
    pub side: RodSide,
    /// Force that pushes it outwards at working pressure, in N.
    pub thrust_n: f64,
    /// What it does, in a sentence.
    pub words: DualUnitText,
}

/// The pies of a bend.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PiesWorkup {
    /// Turns between its parts (square ends add a seam, and so do bought pies).
    pub seams: u32,
    /// Whether somebody chose that count.
    pub seams_chosen: bool,
    /// How its pies meet the straights.
    pub ends: PieEnds,
    /// Full pies it takes.
    pub count: u32,
    /// Saw setting from square, in degrees; of bought pies, how their faces slope.
    pub saw: f64,
    /// Saw setting of the straights' ends, in degrees.
    pub end_saw: f64,
    /// Length of a full pie along the throat.
    pub throat: Measure,
    /// Smallest useful throat.
    pub least_throat: Measure,
    /// Length of a full pie along the centre line.
    pub centre: Measure,
    /// Length of a full pie along the back.
    pub back: Measure,
    /// How far square ends step out; 0 with mitred ends.
    pub end_step: Measure,
    /// What one of them is, where they are bought.
    pub kit: Option<KitPie>,
}

/// One row of the length-rotation-angle table.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LraRow {
    /// Which tube, from 0 at A: one between each two joints.
    pub tube: usize,
    /// Straight before the bend; in a tube's last row, after its last bend.
    pub length: Measure,
    /// Turn of the bend's plane in degrees; nothing in a tube's last row.
    pub rotation: Option<f64>,
    /// Angle in degrees; nothing in a tube's last row.
    pub angle: Option<f64>,
    /// Centre-line radius; nothing in a tube's last row.
    pub radius: Option<Measure>,
}

/// What a bend's sums need beside its arc.
pub(super) struct BendGiven {
    pub(super) bend: BendId,
    pub(super) arc: Arc,
    pub(super) make: ResolvedMake,
    /// Stations of the welds of its elbow, in mm.
    pub(super) elbow_welds: Vec<f64>,
    /// The joint that takes its place.
    pub(super) elbow: Option<JointId>,
    /// What was decided of that.
    pub(super) chosen: Option<BendMake>,
    /// Station where it starts, in mm.
    pub(super) from: f64,
    /// Clock of its plane, in radians, counted from the first bend's.
    pub(super) clock: f64,
    /// Where the axes before and after meet, in mm.
    pub(super) vertex: [f64; 3],
    /// Pitch of the straights before and after, in degrees.
    pub(super) pitches: [f64; 2],
}

impl BendWorkup {
    pub(super) fn of(run: &ResolvedRun, given: BendGiven, kerf: f64) -> Self {
        let BendGiven { bend, arc, make, elbow_welds, elbow, chosen, from, clock, vertex, pitches } = given;
        let pie_welds = make.faces().into_iter().map(|face| from + face * arc.radius);
        let rotation = arc.rotation.sin().atan2(arc.rotation.cos());
        Self {
            bend,
            angle: arc.angle.to_degrees(),
            rotation: rotation.to_degrees(),
            rotation_girth: Measure(rotation.abs() * run.tube.od() / 2.0),
            radius: Measure(arc.radius),
            radius_diameters: arc.radius / run.tube.od(),
            setback: Measure(arc.setback()),
            vertex: vertex.map(Measure),
            wrapped: Measure(
                run.route.wrapped(Stretch::Bend { bend }).map_or_else(|| run.insulation(), Insulation::get),
            ),
            wrapped_chosen: run.route.wrapped(Stretch::Bend { bend }).is_some(),
            make_chosen: chosen.is_some(),
            elbow,
            bought: match &make {
                ResolvedMake::Elbow(elbow) => Some(StockElbowWorkup::of(elbow, &arc, run.tube.od(), kerf)),
                ResolvedMake::Pies { .. }
                | ResolvedMake::KitPies { .. }
                | ResolvedMake::Drawn
                | ResolvedMake::Moulded => None,
            },
            usual_elbow: StockElbow::usual(arc.radius, arc.angle),
            usual_kit: KitPie::usual(arc.radius, arc.angle),
            pies: PiesWorkup::of(run, &make, chosen),
            welds: make.welds(),
            from: Measure(from),
            to: Measure(from + arc.length()),
            weld_stations: pie_welds.chain(elbow_welds).collect(),
            side: if clock.cos() >= -1e-9 { RodSide::Above } else { RodSide::Below },
            thrust_n: bend_thrust(run.tube.od(), run.bar(), arc.angle),
            words: DualUnitText::new(|unit| sentence(pitches, from, unit)),
        }
    }
}

impl PiesWorkup {
    fn of(run: &ResolvedRun, make: &ResolvedMake, chosen: Option<BendMake>) -> Option<Self> {
        let cut = make.pies_cut()?;
        Some(Self {
            seams: make.mitres()?,
            seams_chosen: matches!(chosen, Some(BendMake::Pies { seams: Some(_), .. })),
            ends: if let ResolvedMake::Pies { ends, .. } = make { *ends } else { PieEnds::Square },
            count: cut.pies,
            saw: cut.saw.to_degrees(),
            end_saw: cut.end_saw.to_degrees(),
            throat: Measure(cut.throat),
            least_throat: Measure(crate::route::least_throat(run.tube)),
            centre: Measure(cut.centre),
            back: Measure(cut.back),
            end_step: Measure(cut.end_step),
            kit: if let ResolvedMake::KitPies { pie, .. } = make { Some(*pie) } else { None },
        })
    }
}

fn sentence([before, after]: [f64; 2], from: f64, unit: LengthUnit) -> String {
    format!("Turns from {} to {}, {} along the tube from A.", slope(before), slope(after), unit.text(from))
}

/// How a straight lies, to the whole degree of a bubble gauge.
fn slope(pitch: f64) -> String {
    if pitch.abs() < 0.5 {
        "level".to_owned()
    } else if pitch.abs() >= 89.5 {
        if pitch > 0.0 { "straight up" } else { "straight down" }.to_owned()
    } else if pitch > 0.0 {
        format!("rising {pitch:.0}\u{b0}")
    } else {
        format!("falling {:.0}\u{b0}", -pitch)
    }
}

pub(super) fn lra(pipe: &Assembly) -> Vec<LraRow> {
    let begin = pipe.sections().first().map_or(0.0, |section| section[0]);
    let mut rows = Vec::new();
    let (mut tube, mut station) = (0, begin);
    let bends = pipe.tube.legs().iter().map(|leg| Some(leg.bend)).chain([None]);
    for (leg, (bend, straight)) in bends.zip(pipe.tube.straights()).enumerate() {
        let to = station + straight;
        let gaps = pipe.joints_on(leg).map(SeatedJoint::gap);
        let splices = pipe.splices.iter().filter(|splice| splice.leg == leg).map(|splice| [splice.station; 2]);
        let mut gaps: Vec<[f64; 2]> = gaps.chain(splices).collect();
        gaps.sort_by(|p, q| p[0].total_cmp(&q[0]));
        for [end, next] in gaps {
            let length = Measure(end - station);
            rows.push(LraRow { tube, length, rotation: None, angle: None, radius: None });
            (tube, station) = (tube + 1, next);
        }
        if let Some(elbow) = pipe.joint_in_bend(leg) {
            let [end, next] = elbow.gap();
            let length = Measure(end - station);
            rows.push(LraRow { tube, length, rotation: None, angle: None, radius: None });
            (tube, station) = (tube + 1, next);
            continue;
        }
        rows.push(LraRow {
            tube,
            length: Measure(to - station),
            rotation: bend.map(|bend| bend.rotation.sin().atan2(bend.rotation.cos()).to_degrees()),
            angle: bend.map(|bend| bend.angle.to_degrees()),
            radius: bend.map(|bend| Measure(bend.radius)),
        });
        station = to + bend.map_or(0.0, |bend| bend.length());
    }
    rows
}

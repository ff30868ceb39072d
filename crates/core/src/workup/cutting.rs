//! Pieces with the names that go on the metal, and the cuts that make them.

use serde::Serialize;
use utoipa::ToSchema;

use super::{BeadWorkup, ClockCheck, ClosingWorkup};
use crate::assembly::Assembly;
use crate::cut::{Along, Cut, CutPlan, Piece, PieceId, PieceKind, Solid};
use crate::join::JointKind;
use crate::part_ref::PartRef;
use crate::record::PieceSize;
use crate::route::{BendId, ResolvedRun};
use crate::workshop::{PinnedSaw, SawReach, bend_out};
use nook_geometry::units::{Measure, SawBias};

/// One piece of tube.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PieceWorkup {
    /// What is written on it.
    pub name: String,
    /// Which it is.
    pub piece: PieceId,
    /// Whether it is cut already.
    pub cut: bool,
    /// Bends drawn in it, from A; none where it is straight or a pie.
    pub drawn: Vec<BendId>,
    /// The bend that it makes as a bought elbow; nothing where it is sawn from a stick.
    pub elbow: Option<BendId>,
    /// Station along the tube's centre line, from the tube's end at A, where it begins.
    pub from: Measure,
    /// Station where it ends.
    pub to: Measure,
    /// How far hoses cover it from either end.
    #[schema(min_items = 2, max_items = 2)]
    pub hoses: [Measure; 2],
    /// Length on the centre line.
    pub centre: Measure,
    /// Length along its shortest line.
    pub shortest: Measure,
    /// Length along its longest line.
    pub longest: Measure,
    /// Saw setting of the face towards A, in degrees.
    pub saw_from: f64,
    /// Saw setting of the face towards B, in degrees.
    pub saw_to: f64,
    /// Where it stands: one stretch, and where a bend is drawn as many as it takes to look round.
    pub solids: Vec<SolidWorkup>,
}

/// A straight stretch of a piece, as it stands.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SolidWorkup {
    /// What is pointed at there: a straight or a bend.
    pub part: PartRef,
    /// Where it stands.
    #[serde(flatten)]
    pub solid: Solid,
}

/// A line to scribe along the stick first.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LineWorkup {
    /// `1a`, `1b` opposite it, and so on.
    pub name: String,
    /// Round the girth from line 1a, clockwise seen from the squared end.
    pub round: Measure,
}

/// How the tube is turned before a cut.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[serde(tag = "turn", rename_all = "snake_case")]
pub enum Turn {
    /// It lies as it likes: the cut is square.
    AsItLies,
    /// The first angled cut: only its line must face up.
    First,
    /// It stays as it lies from the cut before.
    Stay,
    /// Half a turn.
    HalfTurn,
    /// Less than half a turn.
    Clock {
        /// Which way.
        way: TurnWay,
        /// Degrees, 0 to 180.
        degrees: f64,
        /// The same round the girth.
        girth: Measure,
    },
}

/// Which way a tube is turned, seen from the squared end of the stick, looking along it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TurnWay {
    /// Clockwise.
    Clockwise,
    /// The other way.
    Anticlockwise,
}

/// How a piece meets the next one.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MeetingRow {
    /// The piece nearer A.
    pub piece: String,
    /// The scribed line on it.
    pub line: String,
    /// Clock in degrees, 0 to 360, at which that line stands when the piece is in the pipe: clockwise seen from A along
    /// the pipe, from up at A, carried along without twist.
    pub stands: f64,
    /// The next piece.
    pub next: String,
    /// The scribed line on that, which meets the other.
    pub next_line: String,
    /// What joins the two; nothing where they are welded to each other.
    pub joint: Option<JointKind>,
    /// What that is called.
    pub joint_word: Option<String>,
    /// The gap left between the two tube ends; nothing where they are welded.
    pub gap: Option<Measure>,
    /// What that hose is cut to.
    pub hose: Option<Measure>,
}

/// One cut.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CutRow {
    /// From 1.
    pub number: usize,
    /// The piece that comes off; nothing where only a wedge of waste does.
    pub frees: Option<String>,
    /// Which that is.
    pub piece: Option<PieceId>,
    /// Angle of the cut from square, in degrees.
    pub saw: f64,
    /// What the saw is set to for that, in degrees: its error is taken off, and it is the nearest its scale has. A square cut is squared
    /// by the stop.
    pub set: f64,
    /// The scribed line that faces up; nothing on a square cut.
    pub line_up: Option<String>,
    /// How the tube is turned before.
    pub turn: Turn,
    /// Mark on the centre line, from the squared end of the stick.
    pub centre: Measure,
    /// Mark on the line that faces up.
    pub up: Measure,
    /// Mark on the line underneath.
    pub down: Measure,
}

/// The saw's day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CuttingWorkup {
    /// The saw it is worked out for.
    pub saw: String,
    /// Width of the cut. Every mark is the side of it towards the squared end: the blade takes what lies beyond.
    pub kerf: Measure,
    /// Lines to scribe first.
    pub lines: Vec<LineWorkup>,
    /// Cuts in order.
    pub cuts: Vec<CutRow>,
    /// How the pieces are put together, from A.
    pub meetings: Vec<MeetingRow>,
    /// Tube used, kerf included.
    pub stock_used: Measure,
    /// What the saw is able to do.
    #[schema(inline = false)]
    pub reach: SawReach,
    /// By how many degrees the saw cuts more than it is set to; nothing where nobody measured it.
    pub bias: Option<f64>,
    /// By how many degrees the pipe's worst bend would be out were that not taken off.
    pub worst_out: f64,
    /// Beads to roll, from A.
    pub beads: Vec<BeadWorkup>,
    /// What shows while it is tacked that each bend is clocked the right way, from A.
    pub checks: Vec<ClockCheck>,
    /// The piece that is cut last; nothing where all that could be it are cut.
    pub closing: Option<ClosingWorkup>,
    /// Each different angle above 0, in degrees, in the order it is first needed.
    pub settings: Vec<f64>,
}

impl PieceWorkup {
    pub(super) fn of(name: String, id: PieceId, cut: bool, piece: &Piece, pipe: &Assembly, run: &ResolvedRun) -> Self {
        let (stations, hoses) = pipe.place_of(piece);
        let [from, to] = stations.map(|station| Measure(station - pipe.begin()));
        let [shortest, longest] = piece.extremes(run.tube.od());
        let bends = match piece.kind {
            PieceKind::Tube { leg, drawn, .. } => leg..leg + drawn,
            PieceKind::Pie { .. } | PieceKind::Elbow { .. } => 0..0,
        };
        Self {
            name,
            piece: id,
            cut,
            elbow: match piece.kind {
                PieceKind::Elbow { bend, .. } => Some(run.route.bend_id(bend)),
                PieceKind::Tube { .. } | PieceKind::Pie { .. } => None,
            },
            from,
            to,
            hoses: hoses.map(Measure),
            drawn: bends.map(|bend| run.route.bend_id(bend)).collect(),
            centre: Measure(piece.centre),
            shortest: Measure(shortest),
            longest: Measure(longest),
            saw_from: piece.from.saw.to_degrees(),
            saw_to: piece.to.saw.to_degrees(),
            solids: piece.solids.iter().map(|solid| SolidWorkup::of(run, solid)).collect(),
        }
    }
}

impl SolidWorkup {
    pub(super) fn of(run: &ResolvedRun, solid: &Solid) -> Self {
        let (id, way) = (run.id, &run.route);
        let part = match solid.along {
            Along::Leg(leg) => PartRef::Straight { run: id, straight: way.leg_id(leg) },
            Along::Bend(bend) => PartRef::Bend { run: id, bend: way.bend_id(bend) },
        };
        Self { part, solid: *solid }
    }
}

impl PieceWorkup {
    /// How it is cut.
    pub(super) const fn size(&self) -> PieceSize {
        PieceSize { centre: self.centre.mm(), longest: self.longest.mm(), saws: [self.saw_from, self.saw_to] }
    }
}

impl LineWorkup {
    /// The lines of a plan.
    pub(super) fn all(plan: &CutPlan) -> Vec<Self> {
        plan.lines.iter().map(|line| Self { name: line.name.clone(), round: Measure(line.round) }).collect()
    }
}

impl CutRow {
    /// Of the cut at a place of its plan, which begins `from` mm from the squared end of the stick, with what is written on the pieces.
    pub(super) fn of(
        index: usize,
        cut: &Cut,
        from: f64,
        names: &[(PieceId, String)],
        od: f64,
        saw: &PinnedSaw,
    ) -> Self {
        let piece = cut.frees.and_then(|index| names.get(index));
        Self {
            number: index + 1,
            frees: piece.map(|(_, name)| name.clone()),
            piece: piece.map(|(id, _)| *id),
            saw: cut.saw.to_degrees(),
            set: if cut.saw > 0.0 { saw.reach.nearest(cut.saw.to_degrees() - saw.bias()) } else { 0.0 },
            line_up: cut.line_up.clone(),
            turn: turn_of(cut, od),
            centre: Measure(from + cut.centre),
            up: Measure(from + cut.up),
            down: Measure(from + cut.down),
        }
    }
}

impl CuttingWorkup {
    /// `told` is what is told of the pieces, in their order.
    pub(super) fn of(
        plan: &CutPlan,
        (run, pipe): (&ResolvedRun, &Assembly),
        pieces: &[Piece],
        told: &[PieceWorkup],
        saw: &PinnedSaw,
        (closing, beads): (Option<ClosingWorkup>, Vec<BeadWorkup>),
    ) -> Self {
        let (way, od) = (&run.route, run.tube.od());
        let name = |index: usize| told.get(index).map_or_else(String::new, |piece| piece.name.clone());
        let mut settings: Vec<f64> = Vec::new();
        for cut in plan.cuts.iter().filter(|cut| cut.saw > 0.0) {
            let degrees = cut.saw.to_degrees();
            if !settings.iter().any(|known| (known - degrees).abs() < SAME_SETTING) {
                settings.push(degrees);
            }
        }
        let names: Vec<(PieceId, String)> = told.iter().map(|piece| (piece.piece, piece.name.clone())).collect();
        let row = |(index, cut)| CutRow::of(index, cut, 0.0, &names, od, saw);
        // Two tubes side by side are parted by a joint; pies are welded.
        let parted = |index: usize| {
            let section = |index: usize| match pieces.get(index)?.kind {
                PieceKind::Tube { section, .. } | PieceKind::Elbow { section, .. } => Some(section),
                PieceKind::Pie { .. } => None,
            };
            section(index).zip(section(index + 1)).is_some_and(|(this, next)| this != next)
        };
        let mut joints = pipe.between().iter();
        let meeting = |(index, meeting): (usize, &crate::cut::Meeting)| {
            let joint = if parted(index) { joints.next() } else { None };
            MeetingRow {
                piece: name(index),
                line: meeting.line.clone(),
                stands: meeting.stands.to_degrees(),
                next: name(index + 1),
                next_line: meeting.next_line.clone(),
                joint: joint.map(|joint| joint.kind),
                joint_word: joint.and_then(|joint| Some(way.joint(joint.id)?.called())),
                gap: joint.map(|joint| Measure(joint.needs.gap)),
                hose: joint.and_then(|joint| joint.needs.hose()).map(Measure),
            }
        };
        Self {
            saw: saw.name.as_str().to_owned(),
            kerf: Measure(saw.kerf.get()),
            lines: LineWorkup::all(plan),
            cuts: plan.cuts.iter().enumerate().map(row).collect(),
            meetings: plan.meetings.iter().enumerate().map(meeting).collect(),
            stock_used: Measure(plan.stock_used),
            reach: saw.reach,
            bias: saw.bias.map(SawBias::get),
            worst_out: pipe
                .makes
                .iter()
                .map(|make| bend_out(make.mitres().unwrap_or(0), saw.bias()).abs())
                .fold(0.0, f64::max),
            beads,
            checks: ClockCheck::all(run, pipe),
            closing,
            settings,
        }
    }
}

/// Saw settings nearer than this, in degrees, are one: no saw is read finer.
const SAME_SETTING: f64 = 0.005;

fn turn_of(cut: &Cut, od: f64) -> Turn {
    if cut.line_up.is_none() {
        return Turn::AsItLies;
    }
    let Some(turn) = cut.turn else { return Turn::First };
    let degrees = turn.to_degrees();
    if degrees.abs() < 0.05 {
        Turn::Stay
    } else if degrees.abs() > 179.95 {
        Turn::HalfTurn
    } else {
        let way = if degrees > 0.0 { TurnWay::Clockwise } else { TurnWay::Anticlockwise };
        Turn::Clock { way, degrees: degrees.abs(), girth: Measure(turn.abs() * od / 2.0) }
    }
}

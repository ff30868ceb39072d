//! What of a run is still to be sawn, and how a chain of it is sawn from a stick.

use std::ops::Range;

use serde::Serialize;
use utoipa::ToSchema;

use super::OnceSawn;
use super::cutting::{CutRow, LineWorkup};
use crate::assembly::Assembly;
use crate::cut::{Chain, CutPlan, Face, Piece, PieceId, PieceKind, chain_plan};
use crate::findings::assess;
use crate::job::Job;
use crate::measure::RunId;
use crate::record::{Done, PieceCut, PieceSize, Progress};
use crate::route::{BendId, KitPie, ResolvedMake, StockElbow};
use crate::stock::Tube;
use crate::survey::Survey;
use crate::workshop::{OnSaleId, PinnedSaw, StickId};
use nook_geometry::units::{DualUnitText, LongestStick, Measure, Name};

/// A run's pieces, those that are cut already among them.
#[derive(Debug, Clone, PartialEq)]
pub struct ToSaw {
    /// Which run.
    pub run: RunId,
    /// What it is called.
    pub name: String,
    /// What it is sawn from.
    pub tube: Tube,
    /// The longest stick of it that is to be had, in mm, where that was said.
    pub longest: Option<f64>,
    /// Its pieces, from A.
    pub pieces: Vec<Piece>,
    /// Which each is, and what is written on it.
    pub names: Vec<(PieceId, String)>,
    /// Places of those that are not cut yet, as far as they follow each other.
    pub uncut: Vec<Range<usize>>,
    /// Bought elbows that are not sawn yet.
    pub elbows: Vec<ElbowToSaw>,
    /// Bends of bought pies that are not all used yet.
    pub kits: Vec<KitToUse>,
}

/// Bought pies of a bend that are not used yet.
#[derive(Debug, Clone, PartialEq)]
pub struct KitToUse {
    /// Which bend.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// What one of them is.
    pub pie: KitPie,
    /// The places of their pieces; never none.
    pub at: Vec<usize>,
}

/// A bought elbow that is not sawn yet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ElbowToSaw {
    /// The place of its piece.
    pub at: usize,
    /// What it is made of.
    pub stock: StockElbow,
    /// What is left of that; nothing where it is used whole.
    pub left: Option<StockElbow>,
}

/// What of a run is sawn; `None` of a hose, and of one that is no sound pipe yet.
#[must_use]
pub fn to_saw(job: &Job, survey: &Survey<'_>, id: RunId, progress: &Progress) -> Option<ToSaw> {
    let run = survey.settle(job.run(id)?);
    let assessment = assess(&run);
    if run.hose.is_some() || !assessment.is_sound() {
        return None;
    }
    let pipe: Assembly = assessment.pipe?;
    let pieces = pipe.pieces();
    let ids: Vec<PieceId> = pieces.iter().map(|piece| pipe.piece_id(&run.route, piece)).collect();
    let mark = run.mark.as_ref().map_or_else(String::new, |mark| mark.as_str().to_owned());
    let names = progress.names(id, &mark, &ids);
    let mut uncut: Vec<Range<usize>> = Vec::new();
    for (at, piece) in ids.iter().enumerate() {
        // What is bought comes off no stick; what is before and after it may.
        if progress.as_cut(id, *piece).is_some() || pieces[at].is_bought() {
            continue;
        }
        match uncut.last_mut().filter(|last| last.end == at) {
            Some(last) => last.end = at + 1,
            None => uncut.push(at..at + 1),
        }
    }
    let elbow = |(at, piece): (usize, &Piece)| match piece.kind {
        PieceKind::Elbow { bend, .. } => {
            let (make, arc) = (pipe.elbow(bend)?, pipe.tube.legs().get(bend)?.bend);
            Some(ElbowToSaw { at, stock: make.stock, left: make.left_over(run.tube.od(), arc.angle, job.kerf()) })
        }
        PieceKind::Tube { .. } | PieceKind::Pie { .. } => None,
    };
    let elbows =
        pieces.iter().enumerate().filter_map(elbow).filter(|elbow| progress.as_cut(id, ids[elbow.at]).is_none());
    let elbows = elbows.collect();
    let kit = |(place, make): (usize, &ResolvedMake)| {
        let ResolvedMake::KitPies { pie, .. } = make else { return None };
        let bend = run.route.bend_id(place);
        let open = |at: &usize| {
            let of_bend = matches!(pieces[*at].kind, PieceKind::Pie { bend, kit: true, .. } if bend == place);
            of_bend && progress.as_cut(id, ids[*at]).is_none()
        };
        let at: Vec<usize> = (0..pieces.len()).filter(open).collect();
        (!at.is_empty()).then_some(KitToUse { bend, number: place + 1, pie: *pie, at })
    };
    let kits = pipe.makes.iter().enumerate().filter_map(kit).collect();
    Some(ToSaw {
        elbows,
        kits,
        run: id,
        name: run.name.as_str().to_owned(),
        tube: run.tube,
        longest: run.longest.map(LongestStick::get),
        pieces,
        names: ids.into_iter().zip(names).collect(),
        uncut,
    })
}

/// A stick, and what is sawn from it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StickPlan {
    /// Which of the shelf; nothing where it is bought.
    pub stick: Option<StickId>,
    /// Which line of what is on sale; nothing where it is of the shelf.
    pub on_sale: Option<OnSaleId>,
    /// How long it is.
    pub length: Measure,
    /// What is sawn from it, from its squared end.
    pub chains: Vec<ChainWorkup>,
    /// What is left of it.
    pub left: Measure,
    /// What to do where the last cut leaves nothing long enough to hold; nothing where the saw holds it.
    pub hold: Option<DualUnitText>,
    /// What is noted once it is sawn.
    #[serde(skip)]
    pub once_sawn: OnceSawn,
}

/// What to do at the last cut of a stick, where neither its last piece, `shortest` mm along its shortest line, nor the `left` mm beyond
/// are long enough for the saw's vice; `None` where one is, or where nobody said what that holds.
#[must_use]
pub fn last_cut(saw: &PinnedSaw, name: &str, shortest: f64, left: f64) -> Option<DualUnitText> {
    let holds = saw.reach.holds?.get();
    (shortest < holds && left < holds).then(|| {
        let name = name.to_owned();
        DualUnitText::new(|unit| {
            format!(
                "At the last cut neither {name} nor the {} left is long enough for the vice, which holds {}: put a plug of wood into the \
                 end and hold that.",
                unit.text(left.max(0.0)),
                unit.text(holds)
            )
        })
    })
}

/// A chain of a run's pieces as it is sawn from a stick. Its lines are its own: others are scribed for the whole run's cut list.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ChainWorkup {
    /// Which run it is of.
    pub run: RunId,
    /// What that is called.
    pub name: String,
    /// What is written on its pieces, in the order they come off.
    pub pieces: Vec<String>,
    /// Where it begins, from the stick's squared end; what comes before is off by then, and the end is square there.
    pub from: Measure,
    /// Length of stick it takes.
    pub takes: Measure,
    /// Lines to scribe along it first; none where no piece of it has to be turned to another.
    pub lines: Vec<LineWorkup>,
    /// Its cuts, in order; marks from the stick's squared end.
    pub cuts: Vec<CutRow>,
    /// How its pieces are turned to those they meet, on this stick or on another.
    pub joins: Vec<ChainJoin>,
}

/// One side of where two pieces meet: both have a scribed line there that stands at one clock.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ChainJoin {
    /// The piece.
    pub piece: String,
    /// The piece it meets.
    pub meets: String,
    /// Whether that is the one nearer A.
    pub towards_a: bool,
    /// The scribed line on it.
    pub line: String,
    /// Where that is scribed: round the girth from line 1a of this chain, clockwise seen from the squared end.
    pub round: Measure,
    /// Clock in degrees, 0 to 360, at which the line stands when the piece is in the pipe: clockwise seen from A along the pipe, from
    /// up at A, carried along without twist. The other piece's line stands there too.
    pub stands: f64,
}

impl ToSaw {
    /// The clock in radians at which lines on a run's piece and on the next meet: in the plane they turn in, or where neither turns in
    /// that of the run's first angled face, so that both chains have it; `None` where nothing of the run is sawn at an angle.
    fn meets_at(&self, piece: usize) -> Option<f64> {
        let turns = |face: &Face| (face.saw > 0.0).then_some(face.short_at);
        // By the throat of what is bought, of which the plane is known.
        let throat = |at: usize| self.pieces.get(at).filter(|piece| piece.is_bought()).map(|one| one.from.short_at);
        if let Some(throat) = throat(piece).or_else(|| throat(piece + 1)) {
            return Some(throat);
        }
        let here = turns(&self.pieces.get(piece)?.to).or_else(|| turns(&self.pieces.get(piece + 1)?.from));
        here.or_else(|| self.pieces.iter().find_map(|one| turns(&one.from).or_else(|| turns(&one.to))))
    }

    /// That a piece is cut as it is listed; `None` where there is none such or it has no name.
    #[must_use]
    pub fn is_cut(&self, at: usize) -> Option<Done> {
        let (piece, (id, name)) = (self.pieces.get(at)?, self.names.get(at)?);
        let size = PieceSize {
            centre: piece.centre,
            longest: piece.extremes(self.tube.od())[1],
            saws: [piece.from.saw.to_degrees(), piece.to.saw.to_degrees()],
        };
        let as_cut = PieceCut { name: Name::new(name).ok()?, size };
        Some(Done::Cut { run: self.run, piece: *id, as_cut })
    }

    /// How a chain is sawn from a stick, `from` mm from its squared end; `None` where a piece cannot be cut at all.
    #[must_use]
    pub fn sawn(&self, chain: &Chain, from: f64, saw: &PinnedSaw) -> Option<ChainWorkup> {
        let pieces = chain.pieces.clone();
        let before = pieces.start.checked_sub(1).and_then(|before| self.meets_at(before));
        let after = if pieces.end < self.pieces.len() { self.meets_at(pieces.end.checked_sub(1)?) } else { None };
        let (od, slice) = (self.tube.od(), self.pieces.get(pieces.clone())?);
        let plan = chain_plan(slice, od, saw.kerf.get(), [before, after])?;
        let names = self.names.get(pieces.clone())?;
        let row = |(index, cut)| CutRow::of(index, cut, from, names, od, saw);
        Some(ChainWorkup {
            run: self.run,
            name: self.name.clone(),
            pieces: names.iter().map(|(_, name)| name.clone()).collect(),
            from: Measure(from),
            takes: Measure(chain.takes),
            lines: LineWorkup::all(&plan),
            cuts: plan.cuts.iter().enumerate().map(row).collect(),
            joins: self.joins(pieces, &plan),
        })
    }

    fn joins(&self, pieces: Range<usize>, plan: &CutPlan) -> Vec<ChainJoin> {
        let name = |piece: usize| self.names.get(piece).map_or_else(String::new, |(_, name)| name.clone());
        let round = |line: &str| plan.lines.iter().find(|one| one.name == line).map_or(0.0, |one| one.round);
        let join = |piece: usize, meets: usize, line: &str, stands: f64| ChainJoin {
            piece: name(piece),
            meets: name(meets),
            towards_a: meets < piece,
            line: line.to_owned(),
            round: Measure(round(line)),
            stands: stands.to_degrees(),
        };
        let (first, last) = (pieces.start, pieces.end.saturating_sub(1));
        let mut all = Vec::new();
        if let Some(end) = &plan.ends[0] {
            all.push(join(first, first.saturating_sub(1), &end.line, end.stands));
        }
        for (at, meeting) in (first..last).zip(&plan.meetings) {
            all.push(join(at, at + 1, &meeting.line, meeting.stands));
            all.push(join(at + 1, at, &meeting.next_line, meeting.stands));
        }
        if let Some(end) = &plan.ends[1] {
            all.push(join(last, last + 1, &end.line, end.stands));
        }
        all
    }
}

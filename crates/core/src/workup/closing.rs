//! The piece of a run that is cut last: measured in place when the rest is tacked, so that most of the error never happens.

use nalgebra::{Point3, Vector3};
use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::cut::{Piece, PieceId, closing_piece};
use crate::measure::{End, PortRef};
use crate::record::Progress;
use crate::route::{ResolvedMake, ResolvedRun};
use crate::survey::Survey;
use nook_geometry::Travel;
use nook_geometry::units::{DualUnitText, Measure};

/// One standard deviation each. Source: handbook, "Fit, weld, prove", Where errors come from.
const PIECE: f64 = 0.5;
const BEND: f64 = 0.3;
const CLOCK_ROUND: f64 = 1.0;
const SEAM_GAP: f64 = 0.3;
/// Of a hundred errors 95 are less than so many standard deviations on the side that matters: too short.
const OF_95: f64 = 1.645;
/// It is left long in steps of this, in mm.
const STEP: f64 = 0.5;

/// The closing piece of a run, and by how much it is left long.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClosingWorkup {
    /// Which piece.
    pub piece: PieceId,
    /// What is written on it.
    pub name: String,
    /// The end of it that is sawn square at a joint and trimmed; nothing where both are welded.
    pub trim: Option<End>,
    /// Which way it can go wrong along it, one standard deviation.
    pub spread: Measure,
    /// By how much it is left long: enough for 95 of 100.
    pub long: Measure,
    /// What most of that comes from, the largest first, with its own standard deviation.
    pub causes: Vec<ClosingCause>,
    /// What to do.
    pub words: DualUnitText,
}

/// A cause of what a closing piece has to take up.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClosingCause {
    /// What it is.
    pub what: DualUnitText,
    /// Along the piece, one standard deviation.
    pub spread: Measure,
}

impl ClosingWorkup {
    /// Of a run made of `pieces`, which are called `names`. `None` where every straight piece is cut already, or there is none.
    pub(super) fn of(
        run: &ResolvedRun,
        survey: &Survey<'_>,
        pipe: &Assembly,
        pieces: &[Piece],
        names: &[(PieceId, String)],
        progress: &Progress,
    ) -> Option<Self> {
        let uncut = |at: usize| names.get(at).is_some_and(|(id, _)| progress.as_cut(run.id, *id).is_none());
        let chosen = closing_piece(pieces, uncut)?;
        let (id, name) = names.get(chosen.at)?.clone();
        let solids = &pieces[chosen.at].solids;
        let [from, to] = [solids.first()?.from, solids.last()?.to].map(Point3::from);
        let along = (to - from).try_normalize(1e-9)?;
        let mut causes = causes(run, survey, pipe, pieces, (chosen.at, nalgebra::center(&from, &to), along));
        causes.sort_by(|p, q| q.1.total_cmp(&p.1));
        let spread = causes.iter().map(|(_, variance)| variance).sum::<f64>().sqrt();
        let long = ((OF_95 * spread / STEP).ceil() * STEP).max(STEP);
        let told = causes.into_iter().take(3).filter(|(_, variance)| *variance > 0.0);
        Some(Self {
            words: words(chosen.trim, long),
            piece: id,
            name,
            trim: chosen.trim,
            spread: Measure(spread),
            long: Measure(long),
            causes: told
                .map(|(what, variance)| ClosingCause {
                    what: DualUnitText::same(what.to_owned()),
                    spread: Measure(variance.sqrt()),
                })
                .collect(),
        })
    }
}

/// What the closing piece has to take up along it, as variances in mm2.
fn causes(
    run: &ResolvedRun,
    survey: &Survey<'_>,
    pipe: &Assembly,
    pieces: &[Piece],
    (closing, middle, along): (usize, Point3<f64>, Vector3<f64>),
) -> Vec<(&'static str, f64)> {
    let port = |end: End| {
        let spread = survey.port_spread(PortRef { run: run.id, end });
        (along.transpose() * spread * along).x
    };
    let square = |by: f64| by * by;
    let others = pieces.iter().enumerate().filter(|(at, _)| *at != closing).filter_map(|(_, piece)| {
        let [from, to] = [piece.solids.first()?.from, piece.solids.last()?.to].map(Point3::from);
        Some((to - from).try_normalize(1e-9)?.dot(&along))
    });
    let others: Vec<f64> = others.collect();
    let welds = |make: &ResolvedMake| f64::from(make.welds());
    let (mut gaps, mut bends, mut clocks) = (0.0, 0.0, 0.0);
    let spliced = |leg: usize, travel: &Travel| {
        let here = pipe.splices.iter().filter(|splice| splice.leg == leg);
        here.map(|_| square(SEAM_GAP * travel.along.vector().dot(&along))).sum::<f64>()
    };
    let mut travel = pipe.tube.setting_out();
    for (leg, (step, make)) in pipe.tube.legs().iter().zip(&pipe.makes).enumerate() {
        gaps += spliced(leg, &travel);
        let setting_in = travel.straight(step.straight).clocked(step.bend.rotation);
        let half_way = setting_in.bend(step.bend.radius, step.bend.angle / 2.0);
        travel = setting_in.bend(step.bend.radius, step.bend.angle);
        let normal = setting_in.along.vector().cross(&travel.along.vector());
        let arm = middle - half_way.at;
        if *make == ResolvedMake::Moulded {
            continue;
        }
        gaps += welds(make) * square(SEAM_GAP * half_way.along.vector().dot(&along));
        if let Some(normal) = normal.try_normalize(1e-9) {
            bends += square(BEND.to_radians() * normal.cross(&arm).dot(&along));
        }
        if *make != ResolvedMake::Drawn {
            let turn = CLOCK_ROUND / (run.tube.od() / 2.0);
            clocks += square(turn * setting_in.along.vector().cross(&arm).dot(&along));
        }
    }
    gaps += spliced(pipe.tube.legs().len(), &travel);
    vec![
        ("where end A is", port(End::A)),
        ("where end B is", port(End::B)),
        ("lengths of the other pieces", others.iter().map(|share| square(PIECE * share)).sum()),
        ("angles of bends, trued when tacked", bends),
        ("clocks of bends, by their lines", clocks),
        ("gaps pulled in at seams", gaps),
    ]
}

fn words(trim: Option<End>, long: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        let long = unit.text(long);
        match trim {
            Some(end) => {
                let (end, marks) = match end {
                    End::A => ('A', "its marks and those after it"),
                    End::B => ('B', "its last mark and those after it"),
                };
                format!(
                    "Leave it {long} longer than listed at its square end towards {end}: set {marks} that much further on. When the \
                     rest is tacked, offer it up, measure what is too much, and trim that end square."
                )
            }
            None => format!(
                "Saw it after all others, {long} longer than listed. Tack the rest from both ends, measure the gap in place, and saw the \
                 face towards B at its listed angle to fit."
            ),
        }
    })
}

//! Putting a workup together.

use super::bend::{BendGiven, lra};
use super::landing::chance_of;
use super::{
    BeadWorkup, BendWorkup, BoreExtremeWorkup, BranchWorkup, ClearanceWorkup, ClosingWorkup, CuttingWorkup, EndWorkup,
    FlowWorkup, HoseWorkup, JointFigures, JointWorkup, KindOffer, LockWorkup, MadeSoFar, PieceWorkup, SectionWorkup,
    SpanWorkup, StraightWorkup, SupportWorkup, Totals, Workup,
};
use crate::assembly::{Assembly, Figures, FreeSpan, JointUse, Moves};
use crate::cut::{Piece, PieceId, cut_plan};
use crate::edit::EditError;
use crate::environment::{Environment, Scans};
use crate::fastening::{bolt, fastened};
use crate::findings::{
    Assessment, Finding, Holds, LOCK_HOLDS, TooNear, across, assess, branched, cut_otherwise, held_and_reached, hose,
    hot_hoses, lock_words, locks_let_go, measuring, mend, plates, sawing, stiff_all_along, supported, too_near,
    unmeasured, with_remedies, without_remedies,
};
use crate::job::Job;
use crate::measure::{End, Measurand, PortRef, RunId};
use crate::part_ref::PartRef;
use crate::prove::Fingerprint;
use crate::reach::{Reach, turned};
use crate::record::{BenchAct, Progress};
use crate::route::{ResolvedRun, Stretch, lock_errors};
use crate::survey::Survey;
use crate::weld::{WeldSeam, weld_seams};
use crate::work_step::WorkStep;
use nook_geometry::clearance::Envelope;
use nook_geometry::units::{Insulation, Measure};
use nook_geometry::{Travel, Vector};

/// Works out everything about one run of a job whose scans are not at hand; the gap to those is told as not known.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn workup(job: &Job, id: RunId) -> Result<Workup, EditError> {
    workup_among(job, id, &Scans::default())
}

/// Works out everything about one run, among the scans that have been read.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn workup_among(job: &Job, id: RunId, scans: &Scans) -> Result<Workup, EditError> {
    workup_given(job, id, &Given { scans, progress: &Progress::default(), mend: true })
}

/// The same while somebody drags: what is too near is told without what would mend it, which takes longer to find than a
/// hand stands still.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn workup_of_drag(job: &Job, id: RunId, scans: &Scans) -> Result<Workup, EditError> {
    workup_given(job, id, &Given { scans, progress: &Progress::default(), mend: false })
}

/// What a workup follows from beside the job.
#[derive(Debug, Clone, Copy)]
pub struct Given<'a> {
    /// The scans that have been read.
    pub scans: &'a Scans,
    /// What is done already: what is written on metal stays its name.
    pub progress: &'a Progress,
    /// Whether to look for what would mend what is wrong.
    pub mend: bool,
}

/// Works out everything about one run.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn workup_given(job: &Job, id: RunId, given: &Given<'_>) -> Result<Workup, EditError> {
    let Given { scans, progress, mend } = *given;
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let survey = Survey::new(job);
    let run = &survey.settle(decisions);
    let around = Environment::of(job, &survey, run, scans);
    let mut assessment = assess(run);
    let (pipe, reach) = match assessment.pipe.take() {
        Some(pipe) => {
            let (pipe, reach) = turned(run, pipe, &around);
            (Some(pipe), reach)
        }
        None => (None, Vec::new()),
    };
    assessment.pipe = pipe;
    let pipe = assessment.pipe.as_ref();
    let tube = pipe.map(|pipe| &pipe.tube);
    let mark = run.mark.as_ref().map_or_else(String::new, |mark| mark.as_str().to_owned());
    let parts: Vec<Piece> = pipe.map_or_else(Vec::new, Assembly::pieces);
    // Mitred ends could hide a small overlap of bends in pieces that still have a length; it is no pipe to cut.
    let sound = assessment.is_sound();
    let plan = cut_plan(&parts, run.tube.od(), job.kerf()).filter(|_| sound && run.hose.is_none());
    let figures = pipe.map(|pipe| pipe.figures(run, &parts, plan.as_ref()));
    let moves = pipe.filter(|_| sound).map(|pipe| pipe.moves(run));
    let uses = pipe.zip(moves.as_ref()).map_or_else(Vec::new, |(pipe, moves)| moves.uses(pipe));
    let figured = pipe.map_or_else(Vec::new, |pipe| figures_of(run, pipe, &uses, &reach));
    let outside = pipe.zip(moves.as_ref()).map(|(pipe, moves)| pipe.envelope_moving(run, moves));
    let fastened = pipe.map_or_else(Vec::new, |pipe| fastened(run, pipe, &around));
    let counted = outside.as_ref().zip(pipe).map(|(outside, pipe)| {
        let mut counted = around.counted(outside, run.tube.od() / 2.0);
        bolt(&mut counted, run, pipe, &fastened, &around);
        counted
    });
    let spans: Vec<FreeSpan> =
        pipe.zip(moves.as_ref()).map_or_else(Vec::new, |(pipe, moves)| pipe.free_spans(run, moves, job.firing()));
    let near = counted.as_ref().map_or_else(Vec::new, |pipe| too_near(&around, pipe));
    let air = counted.as_ref().map(|pipe| ClearanceWorkup::of(run, &around, pipe, &near, mend));
    let holds = pipe.zip(moves.as_ref()).map(|(pipe, moves)| Holds {
        pipe,
        moves,
        fastened: &fastened,
        spans: &spans,
        around: &around,
    });
    let (straights, bends) = pipe.map_or_else(Default::default, |pipe| along_the_tube(run, pipe, job.kerf()));
    let pieces: Vec<PieceWorkup> = pipe.map_or_else(Vec::new, |pipe| {
        let ids: Vec<PieceId> = parts.iter().map(|piece| pipe.piece_id(&run.route, piece)).collect();
        let names = progress.names(id, &mark, &ids);
        let cut = |piece: PieceId| progress.as_cut(id, piece).is_some();
        let each = parts.iter().zip(ids).zip(names);
        each.map(|((piece, id), name)| PieceWorkup::of(name, id, cut(id), piece, pipe, run)).collect()
    });
    let branches = pipe.map_or_else(Vec::new, |pipe| BranchWorkup::all(run, pipe, &around, &pieces));
    let sizes: Vec<_> = pieces.iter().filter(|_| sound).map(|piece| (piece.piece, piece.size())).collect();
    Ok(Workup {
        run: id,
        name: run.name.as_str().to_owned(),
        duty: run.duty,
        decisions: decisions.clone(),
        od: Measure(run.tube.od()),
        wall: Measure(run.tube.wall()),
        radius: Measure(run.radius.get()),
        longest: run.longest.map(|longest| Measure(longest.get())),
        splices: pipe.map_or_else(Vec::new, |pipe| {
            pipe.splices.iter().map(|splice| Measure(splice.station - pipe.begin())).collect()
        }),
        bar: run.bar(),
        ends: [End::A, End::B].map(|end| {
            let at = if end == End::A { figured.first() } else { figured.last() };
            EndWorkup::of(run, end, tube, at.cloned())
        }),
        lra: pipe.map_or_else(Vec::new, lra),
        cutting: plan.zip(pipe).map(|(plan, pipe)| {
            let names: Vec<_> = pieces.iter().map(|piece| (piece.piece, piece.name.clone())).collect();
            let closing = ClosingWorkup::of(run, &survey, pipe, &parts, &names, progress);
            let beside = (closing, BeadWorkup::all(run, pipe, &pieces));
            CuttingWorkup::of(&plan, (run, pipe), &parts, &pieces, job.saw(), beside)
        }),
        chance: pipe
            .filter(|_| sound && mend && run.hose.is_none())
            .map(|pipe| chance_of(job, run, &survey, pipe, &parts, given)),
        made: {
            let seams = pipe.filter(|_| sound && run.hose.is_none());
            made(run, &seams.map_or_else(Vec::new, |pipe| weld_seams(run, pipe, &parts)), progress)
        },
        hose: pipe.filter(|_| sound).and_then(|pipe| HoseWorkup::of(run, pipe)),
        pieces,
        totals: figures.as_ref().map(|figures| totals(run, figures, bends.len())),
        air,
        findings: {
            let air = Air {
                near: &near,
                around: &around,
                scans,
                moves: moves.as_ref(),
                uses: &uses,
                outside: outside.as_ref(),
                reach: &reach,
                mend,
            };
            let mut done = cut_otherwise(id, &sizes, progress);
            done.extend(holds.as_ref().into_iter().flat_map(|holds| supported(job, run, holds)));
            done.extend(pipe.filter(|_| sound).into_iter().flat_map(|pipe| branched(run, pipe, &around)));
            done.extend(plates(run));
            done.extend(pipe.filter(|_| sound).into_iter().flat_map(|pipe| hose(job, run, pipe, mend)));
            findings(job, &survey, run, &assessment, &air, done)
        },
        flow: tube
            .zip(figures.as_ref())
            .zip(pipe)
            .and_then(|((tube, figures), pipe)| FlowWorkup::of(run, pipe, tube.length(), figures.sawn)),
        over: pipe.map_or_else(Vec::new, |pipe| pipe.over(run)),
        joints: pipe.map_or_else(Vec::new, |pipe| joints(run, pipe, &figured)),
        branches,
        bore_extremes: pipe.filter(|_| sound).map_or_else(Vec::new, |pipe| BoreExtremeWorkup::all(run, pipe)),
        supports: holds.as_ref().map_or_else(Vec::new, |holds| SupportWorkup::all(job, run, holds)),
        spans: SpanWorkup::all(&spans, pipe.map_or(0.0, Assembly::begin)),
        kinds: KindOffer::all(run),
        sections: pipe.zip(moves.as_ref()).map_or_else(Vec::new, |(pipe, moves)| SectionWorkup::all(pipe, moves)),
        locks: locks(run),
        straights,
        bends,
        mark,
    })
}

/// How far a pipe with these welds is made.
fn made(settled: &ResolvedRun, seams: &[WeldSeam], progress: &Progress) -> MadeSoFar {
    let run = settled.id;
    let welded = |seam: &&WeldSeam| progress.did(run, BenchAct::Weld { seam: seam.id });
    let signed = progress.signature_of(run);
    MadeSoFar {
        fitting: progress.is_being_fitted(run),
        seams: seams.len(),
        welded: seams.iter().filter(welded).count(),
        proving: progress.is_being_proved(run),
        signed: signed.is_some_and(|signed| signed.what.of == Fingerprint::of_run(settled)),
        minutes: WorkStep::ALL.into_iter().map(|step| progress.minutes_of(run, step)).sum(),
    }
}

/// What is known of the air round a pipe.
struct Air<'a> {
    near: &'a [TooNear<'a>],
    around: &'a Environment,
    scans: &'a Scans,
    /// How its sections move; `None` where there is no pipe.
    moves: Option<&'a Moves>,
    /// What its joints take of that.
    uses: &'a [JointUse],
    /// Its outside; `None` where there is no pipe.
    outside: Option<&'a Envelope>,
    /// How its joints are reached, in their order.
    reach: &'a [Option<Reach>],
    /// Whether to look for what would mend it.
    mend: bool,
}

/// The worst so many places get remedies; the rest mostly go with them.
const MENDED: usize = 3;

fn locks(run: &ResolvedRun) -> Vec<LockWorkup> {
    let Some(way) = run.way() else { return Vec::new() };
    let off = lock_errors(run, way);
    let each = way.locks().iter().zip(off);
    each.map(|(lock, off)| LockWorkup { lock: *lock, words: lock_words(way, lock), holds: off < LOCK_HOLDS }).collect()
}

/// What is wrong with the pipe, then with how its ends were measured; worst first.
fn findings(
    job: &Job,
    survey: &Survey<'_>,
    run: &ResolvedRun,
    assessment: &Assessment,
    air: &Air<'_>,
    done: Vec<Finding>,
) -> Vec<Finding> {
    let pipe = assessment.problems.iter().map(|(place, problem)| {
        if air.mend {
            with_remedies(job, run, air.around, *place, *problem)
        } else {
            without_remedies(run, *place, *problem)
        }
    });
    let ends = [End::A, End::B].into_iter().flat_map(|end| {
        let port = PortRef { run: run.id, end };
        measuring(job, survey, Measurand::Port { port }, PartRef::End { run: run.id, end })
    });
    let near = air.near.iter().enumerate().filter_map(|(rank, near)| {
        let mut finding = near.finding(run, assessment.pipe.as_ref()?);
        if air.mend && rank < MENDED {
            finding.remedies = mend(job, run, (air.around, air.scans), near, finding.part);
        }
        Some(finding)
    });
    let let_go = locks_let_go(run);
    let moves = assessment.pipe.as_ref().filter(|_| assessment.is_sound()).zip(air.moves);
    let moves = match moves {
        Some((pipe, moves)) => across(run, pipe, moves, air.uses),
        None => stiff_all_along(run).into_iter().collect(),
    };
    let moves = moves.into_iter().map(|across| across.finding(job, run, air.around, air.mend));
    let mut found: Vec<Finding> = pipe
        .chain(near)
        .chain(moves)
        .chain(let_go)
        .chain(ends)
        .chain(hot_hoses(job, run, assessment.pipe.as_ref().zip(air.outside), air.around))
        .chain(held_and_reached(job, run, assessment.pipe.as_ref(), air.reach, air.mend))
        .chain(assessment.pipe.iter().filter(|_| assessment.is_sound()).flat_map(|pipe| sawing(job, run, pipe)))
        .chain(unmeasured(job, &air.around.unmeasured))
        .chain(done)
        .collect();
    found.sort_by_key(|finding| finding.severity);
    found
}

fn along_the_tube(run: &ResolvedRun, pipe: &Assembly, kerf: f64) -> (Vec<StraightWorkup>, Vec<BendWorkup>) {
    let tube = &pipe.tube;
    let mut travel = tube.setting_out();
    let mut station = 0.0;
    let mut clock = 0.0;
    let (mut straights, mut bends) = (Vec::new(), Vec::new());
    let specs = run.route.bends();
    for (index, leg) in tube.legs().iter().enumerate() {
        let before = travel.along.pitch();
        straights.push(straight(run, index, leg.straight, station, &travel));
        station += leg.straight;
        let vertex = travel.straight(leg.straight + leg.bend.setback()).at;
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle);
        if index > 0 {
            clock += leg.bend.rotation;
        }
        let given = BendGiven {
            arc: leg.bend,
            bend: run.route.bend_id(index),
            make: pipe.makes[index],
            elbow_welds: pipe.elbow_welds(index).into_iter().map(|at| at - pipe.begin()).collect(),
            elbow: pipe.joint_in_bend(index).map(|joint| joint.id),
            chosen: specs.get(index).and_then(|spec| spec.make),
            from: station,
            clock,
            vertex: vertex.coords.into(),
            pitches: [before, travel.along.pitch()],
        };
        bends.push(BendWorkup::of(run, given, kerf));
        station += leg.bend.length();
    }
    straights.push(straight(run, tube.legs().len(), tube.last(), station, &travel));
    (straights, bends)
}

/// How far aside a bend that is put into a straight lies, as a share of its length: a turn of some ten degrees.
const ASIDE: f64 = 0.1;

fn straight(run: &ResolvedRun, leg: usize, length: f64, from: f64, travel: &Travel) -> StraightWorkup {
    let up = if travel.along.vector().z.abs() > 0.9 { Vector::x() } else { Vector::z() };
    let new_bend = travel.straight(length / 2.0).at + up * (length.abs() * ASIDE).max(10.0);
    let thick = run.route.wrapped(Stretch::Leg { leg: run.route.leg_id(leg) });
    StraightWorkup {
        straight: run.route.leg_id(leg),
        length: Measure(length),
        from: Measure(from),
        to: Measure(from + length),
        pitch: travel.along.pitch(),
        along: travel.along.to_array(),
        wrapped: Measure(thick.map_or_else(|| run.insulation(), Insulation::get)),
        wrapped_chosen: thick.is_some(),
        new_bend: new_bend.coords.into(),
    }
}

fn totals(run: &ResolvedRun, figures: &Figures, bends: usize) -> Totals {
    let labour = figures.labour(run, u32::try_from(bends).unwrap_or(u32::MAX));
    Totals {
        hours: labour.hours(),
        labour: labour.by_step(),
        developed: Measure(figures.developed),
        end_to_end: Measure(figures.end_to_end),
        mouth_to_mouth: Measure(figures.mouth_to_mouth),
        seams: figures.seams,
        weld: Measure(figures.weld),
        mass_kg: figures.mass_kg,
        litres: figures.litres,
    }
}

/// What every joint of a pipe gives and takes, from A.
fn figures_of(run: &ResolvedRun, pipe: &Assembly, uses: &[JointUse], reach: &[Option<Reach>]) -> Vec<JointFigures> {
    let each = pipe.joints.iter().zip(reach);
    let used = |id| uses.iter().find(|used| used.joint == id);
    each.map(|(joint, reach)| JointFigures::of(run, joint, used(joint.id), reach.as_ref())).collect()
}

fn joints(run: &ResolvedRun, pipe: &Assembly, figures: &[JointFigures]) -> Vec<JointWorkup> {
    let each = pipe.between().iter().zip(&figures[1..]);
    each.map(|(joint, figures)| JointWorkup::of(run, joint, &pipe.tube, pipe.begin(), figures.clone())).collect()
}

//! Everything that follows from what was measured: where things are, how well that is known, and how they move.

use nalgebra::Isometry3;
use serde::Serialize;
use utoipa::ToSchema;

use super::{
    BranchMouth, ComponentWorkup, EstimateWorkup, InstrumentsWorkup, OpeningWorkup, PairLine, PipeWorkup, SizeWorkup,
    StanceWorkup,
};
use crate::environment::{Scans, keep_out_obstacle, neck_obstacle};
use crate::findings::{Finding, measuring, not_in_place, placing};
use crate::job::Job;
use crate::join::EngineFiring;
use crate::measure::{
    ComponentId, CrankTurn, Datum, DatumId, End, InstallState, KeepOut, KeepOutId, KeepOutKind, KeepOutShape,
    Measurand, MountKind, Port, PortRef, Side, Swing,
};
use crate::neighbours::STANDS_ON;
use crate::part_ref::PartRef;
use crate::placing::Pairs;
use crate::route::Run;
use crate::survey::{Survey, measured_bore};
use nook_geometry::Triple;
use nook_geometry::units::Measure;

/// The bay of one job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BayWorkup {
    /// Datum points.
    pub datums: Vec<DatumWorkup>,
    /// Ports of all runs, A before B.
    pub ports: Vec<PortWorkup>,
    /// Mouths of stubs let into pipes.
    pub stubs: Vec<BranchMouth>,
    /// Every pipe that joins its ports, as its outside.
    pub pipes: Vec<PipeWorkup>,
    /// Keep-outs, the big boxes among them.
    pub keep_outs: Vec<KeepOutWorkup>,
    /// The big things, each as one.
    pub components: Vec<ComponentWorkup>,
    /// What components breathe through.
    pub openings: Vec<OpeningWorkup>,
    /// How the car stands over the ground; nothing until somebody says.
    pub stance: Option<StanceWorkup>,
    /// Pairs of things nearer to each other than is asked, the worst first.
    pub pairs: Vec<PairLine>,
    /// Pairs of things that belong together and may touch.
    pub together: Vec<[KeepOutId; 2]>,
    /// How the engine moves; nothing until somebody says.
    pub mounts: Option<MountsWorkup>,
    /// How many cylinders the engine has and how fast it turns; nothing until somebody says.
    #[schema(inline = false)]
    pub firing: Option<EngineFiring>,
    /// The tape and the level: what was checked of them, and what all readings together tell.
    pub instruments: InstrumentsWorkup,
    /// What is wrong with the measuring, worst first.
    pub findings: Vec<Finding>,
}

/// One datum point.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct DatumWorkup {
    /// Which.
    pub datum: DatumId,
    /// What it is.
    pub name: String,
    /// What it is part of.
    pub rides: Side,
    /// Where it is: x forward, y left, z up.
    #[schema(min_items = 3, max_items = 3)]
    pub at: [Measure; 3],
    /// How far it may be from where it was typed, each way: one standard deviation.
    pub spread: Measure,
    /// Whether somebody said so.
    pub spread_chosen: bool,
    /// How well that is known.
    pub found: EstimateWorkup,
}

/// One port.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PortWorkup {
    /// Which.
    pub port: PortRef,
    /// The run it belongs to.
    pub run_name: String,
    /// What it is.
    pub name: String,
    /// What it rides on.
    pub rides: Side,
    /// Whether it was there when it was measured.
    pub standing: InstallState,
    /// Where the mouth's centre is, as its component is turned.
    #[schema(min_items = 3, max_items = 3)]
    pub at: [Measure; 3],
    /// The way out.
    #[schema(value_type = Triple)]
    pub out: [f64; 3],
    /// Heading of the way out, degrees to the left from forward.
    pub heading: f64,
    /// Pitch of the way out, degrees above level.
    pub pitch: f64,
    /// Outside diameter.
    pub od: Measure,
    /// What that is called.
    pub size: SizeWorkup,
    /// How far the mouth can get from its place as the engine moves; nothing where it rides on the body.
    pub travel: Option<Measure>,
    /// The component it is on.
    pub component: Option<ComponentId>,
    /// The big box it is of: of its component, or else the nearest that the neck behind its mouth reaches.
    pub on: Option<KeepOutId>,
    /// How well its place is known.
    pub found: EstimateWorkup,
}

/// Where a scan was put.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ScanWorkup {
    /// Unit vectors of the file's axes on the vehicle, then its zero, in mm.
    #[schema(value_type = Vec<Triple>)]
    pub frame: [[f64; 3]; 4],
    /// How many mm one of the file's units is.
    pub scale: f64,
    /// How far each matched point ends from where it should be.
    pub residuals: Vec<Measure>,
    /// Why it is not in place yet.
    pub problem: Option<String>,
}

/// One keep-out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct KeepOutWorkup {
    /// Which.
    pub keep_out: KeepOutId,
    /// What it is.
    pub name: String,
    /// What sort of thing it is.
    pub kind: KeepOutKind,
    /// What it rides on.
    pub rides: Side,
    /// Whether it is one of the big boxes.
    pub big: bool,
    /// Whether it was there when it was measured.
    pub standing: InstallState,
    /// The room it takes, where its readings put it.
    pub shape: KeepOutShape,
    /// The point it is placed by.
    #[schema(min_items = 3, max_items = 3)]
    pub at: [Measure; 3],
    /// Its sizes in order, as its shape has them.
    pub sizes: Vec<Measure>,
    /// Gap a pipe leaves it.
    pub gap: Measure,
    /// Why that gap.
    pub gap_reason: String,
    /// How it opens or sweeps.
    pub swing: Option<Swing>,
    /// For a scan, where its matched points put it.
    pub scan: Option<ScanWorkup>,
    /// How well its place is known.
    pub found: EstimateWorkup,
}

/// How the engine moves.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MountsWorkup {
    /// What it sits on.
    pub kind: MountKind,
    /// Why its usual figures are what they are.
    pub reason: String,
    /// A point on the roll axis.
    #[schema(min_items = 3, max_items = 3)]
    pub from: [Measure; 3],
    /// Another.
    #[schema(min_items = 3, max_items = 3)]
    pub to: [Measure; 3],
    /// Roll under drive torque in degrees.
    pub roll: f64,
    /// Whether somebody chose it.
    pub roll_chosen: bool,
    /// Roll on overrun in degrees.
    pub overrun: f64,
    /// Whether somebody chose it.
    pub overrun_chosen: bool,
    /// Which way the crank turns, looking along the axis; nothing until somebody says.
    pub crank: Option<CrankTurn>,
    /// Least and most roll in degrees, right-handed along the axis.
    pub rolls: [f64; 2],
    /// Shift any way.
    pub shift: Measure,
    /// Whether somebody chose it.
    pub shift_chosen: bool,
}

/// What a bay follows from beside the job.
#[derive(Debug, Clone, Copy)]
pub struct BayGiven<'a> {
    /// The scans that have been read.
    pub scans: &'a Scans,
    /// Pairs of things as they were measured before a change, so that only what has moved is measured again.
    pub before: Option<&'a Pairs>,
    /// Whether to look for what would mend what is wrong with where things stand.
    pub mend: bool,
}

/// Works out the bay of a job whose scans are not at hand.
#[must_use]
pub fn bay(job: &Job) -> BayWorkup {
    bay_given(job, &BayGiven { scans: &Scans::default(), before: None, mend: true }).0
}

/// Works out the bay, and the pairs of things it was worked out from.
#[must_use]
pub fn bay_given(job: &Job, given: &BayGiven<'_>) -> (BayWorkup, Pairs) {
    let survey = Survey::new(job);
    let scans = given.scans;
    let pairs = Pairs::after(given.before, job, &survey, scans);
    let ends = job.runs().iter().flat_map(|run| [(run, End::A), (run, End::B)]);
    let bay = BayWorkup {
        datums: job.datums().iter().filter_map(|datum| datum_workup(job, &survey, datum)).collect(),
        ports: ends.filter_map(|(run, end)| port_workup(job, &survey, run, end)).collect(),
        stubs: BranchMouth::all(job, &survey),
        pipes: job.runs().iter().filter_map(|run| PipeWorkup::of(&survey.settle(run))).collect(),
        keep_outs: job.keep_outs().iter().filter_map(|keep_out| keep_out_workup(job, &survey, keep_out)).collect(),
        components: job.components().iter().map(|one| ComponentWorkup::of(job, &survey, one, scans)).collect(),
        openings: job.openings().iter().filter_map(OpeningWorkup::of).collect(),
        stance: job.stance().map(StanceWorkup::of),
        pairs: pairs.near().iter().map(PairLine::of).collect(),
        together: job.together().to_vec(),
        mounts: mounts_workup(job),
        firing: job.firing().copied(),
        instruments: InstrumentsWorkup::of(job, &survey),
        findings: findings(job, &survey, &pairs, given),
    };
    (bay, pairs)
}

fn findings(job: &Job, survey: &Survey<'_>, pairs: &Pairs, given: &BayGiven<'_>) -> Vec<Finding> {
    let datums =
        job.datums().iter().map(|datum| (Measurand::Datum { datum: datum.id }, PartRef::Datum { datum: datum.id }));
    let keep_outs = job
        .keep_outs()
        .iter()
        .map(|one| (Measurand::KeepOut { keep_out: one.id }, PartRef::KeepOut { keep_out: one.id }));
    let of_things = datums.chain(keep_outs).flat_map(|(of, place)| measuring(job, survey, of, place));
    let placed = placing(job, survey, pairs, given.scans, given.mend);
    let mut found: Vec<Finding> = placed.into_iter().chain(of_things).chain(not_in_place(job)).collect();
    found.sort_by_key(|finding| finding.severity);
    found
}

fn datum_workup(job: &Job, survey: &Survey<'_>, datum: &Datum) -> Option<DatumWorkup> {
    let estimate = survey.datum(datum.id)?;
    let of = Measurand::Datum { datum: datum.id };
    Some(DatumWorkup {
        datum: datum.id,
        name: datum.name.as_str().to_owned(),
        rides: datum.rides,
        at: <[f64; 3]>::from(estimate.pose.at.coords).map(Measure),
        spread: Measure(datum.sigma()),
        spread_chosen: datum.spread.is_some(),
        found: EstimateWorkup::of(job, survey, of, &datum.readings, &estimate),
    })
}

fn port_workup(job: &Job, survey: &Survey<'_>, run: &Run, end: End) -> Option<PortWorkup> {
    let id = PortRef { run: run.id, end };
    let estimate = survey.port(id)?;
    let settled = survey.settle(run);
    let port = settled.port(end);
    let mounts = job.mounts().filter(|_| port.rides == Side::Engine);
    Some(PortWorkup {
        port: id,
        run_name: run.name.as_str().to_owned(),
        name: port.name.clone(),
        rides: port.rides,
        standing: port.standing,
        at: port.at.to_array().map(Measure),
        out: port.out.to_array(),
        heading: port.out.heading(),
        pitch: port.out.pitch(),
        od: Measure(port.od.get()),
        size: SizeWorkup::of(port.od.get(), measured_bore(&port.readings)),
        travel: mounts.map(|mounts| Measure(mounts.travel(port.at))),
        component: job.carrier_of(id).map(|component| component.id),
        on: stands_on(job, survey, id, port),
        found: EstimateWorkup::of(job, survey, Measurand::Port { port: id }, &port.readings, &estimate),
    })
}

/// The big box that a mouth's neck reaches into, as far as a tape is good to.
fn stands_on(job: &Job, survey: &Survey<'_>, id: PortRef, port: &Port) -> Option<KeepOutId> {
    if let Some(body) = job.carrier_of(id).and_then(|carrier| carrier.body.first()) {
        return Some(*body);
    }
    let neck = neck_obstacle(port);
    let boxes = job.keep_outs().iter().filter(|one| one.big && one.rides == port.rides);
    let near = boxes.filter_map(|one| {
        let room = keep_out_obstacle(survey, one, &Scans::default())?;
        let gap = neck.closest(&room)?.gap;
        (gap < STANDS_ON).then_some((gap, one.id))
    });
    near.min_by(|p, q| p.0.total_cmp(&q.0)).map(|(_, id)| id)
}

fn keep_out_workup(job: &Job, survey: &Survey<'_>, keep_out: &KeepOut) -> Option<KeepOutWorkup> {
    let estimate = survey.keep_out(keep_out.id)?;
    let shape = survey.placed(keep_out);
    let of = Measurand::KeepOut { keep_out: keep_out.id };
    let scan = match &keep_out.shape {
        KeepOutShape::Scan(scan) => {
            let placed = survey.scan(keep_out.id, scan);
            let (pose, residuals, problem) = match placed {
                Ok(placed) => (placed.pose, placed.residuals, None),
                // With no point matched at all, the file's own axes are taken to be the vehicle's.
                Err(_) if scan.matched.is_empty() => (Isometry3::identity(), Vec::new(), None),
                Err(problem) => (Isometry3::identity(), Vec::new(), Some(problem.to_string())),
            };
            let turn = pose.rotation.to_rotation_matrix().into_inner();
            let axis = |i: usize| turn.column(i).into_owned().into();
            Some(ScanWorkup {
                frame: [axis(0), axis(1), axis(2), pose.translation.vector.into()],
                scale: scan.unit.in_mm(),
                residuals: residuals.into_iter().map(Measure).collect(),
                problem,
            })
        }
        _ => None,
    };
    Some(KeepOutWorkup {
        keep_out: keep_out.id,
        name: keep_out.name.as_str().to_owned(),
        kind: keep_out.kind,
        rides: keep_out.rides,
        big: keep_out.big,
        standing: job.standing_of(keep_out),
        at: shape.reference().to_array().map(Measure),
        sizes: shape.sizes().into_iter().map(Measure).collect(),
        shape,
        gap: Measure(keep_out.gap()),
        gap_reason: if keep_out.gap.is_some() { "as you chose" } else { keep_out.kind.gap_reason() }.to_owned(),
        swing: survey.swing(keep_out),
        scan,
        found: EstimateWorkup::of(job, survey, of, &keep_out.readings, &estimate),
    })
}

fn mounts_workup(job: &Job) -> Option<MountsWorkup> {
    let mounts = job.mounts()?;
    Some(MountsWorkup {
        kind: mounts.kind,
        reason: mounts.kind.reason().to_owned(),
        from: mounts.from.to_array().map(Measure),
        to: mounts.to.to_array().map(Measure),
        roll: mounts.drive(),
        overrun: mounts.overrun(),
        overrun_chosen: mounts.overrun.is_some(),
        crank: mounts.crank,
        rolls: mounts.rolls(),
        roll_chosen: mounts.roll.is_some(),
        shift: Measure(mounts.shift()),
        shift_chosen: mounts.shift.is_some(),
    })
}

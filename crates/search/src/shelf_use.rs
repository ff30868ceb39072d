//! What the elbows of the shelf could make: for each bend that one would do for, the change that makes it of that.

use std::sync::atomic::{AtomicBool, Ordering};

use serde::Serialize;
use utoipa::ToSchema;

use nook_core::edit::{CutEdit, Edit, RouteEdit, apply};
use nook_core::environment::Scans;
use nook_core::findings::Severity;
use nook_core::job::Job;
use nook_core::measure::{End, RunId};
use nook_core::record::Progress;
use nook_core::route::{BendId, BendMake, StockElbow};
use nook_core::workshop::{ElbowId, ShelfElbow, Workshop};
use nook_core::workup::{Workup, workup_of_drag};
use nook_geometry::units::DualUnitText;

/// A bend that an elbow of the shelf could make.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ShelfUse {
    /// Which run.
    pub run: RunId,
    /// What that is called.
    pub name: String,
    /// Which bend.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// Which elbow makes it.
    pub elbow: ElbowId,
    /// How, in a few words: whole or sawn, and whether the bend is laid at another radius for it.
    pub how: DualUnitText,
    /// Hours it saves.
    pub hours: f64,
    /// Seams it saves.
    pub seams: u32,
    /// Makes the bend of it.
    #[schema(inline = false)]
    pub edit: Edit,
}

/// What the elbows of the shelf could make, no elbow twice.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ShelfUses {
    /// The greatest saving first; each holds beside those before it.
    pub uses: Vec<ShelfUse>,
    /// All of them as one change; nothing where there are none.
    #[schema(inline = false)]
    pub all: Option<Edit>,
    /// Hours that all of them save.
    pub hours: f64,
    /// Seams that all of them save.
    pub seams: u32,
    /// Whether it was called off, or its time was up, before all was tried.
    pub stopped: bool,
}

/// An elbow is not used to save less than this, in hours: it may do better elsewhere. Ours.
const WORTH: f64 = 0.1;
/// A bend is not laid at a radius that differs by more than this share of its own: that is another pipe.
const OTHER_RADIUS: f64 = 0.35;

/// What the elbows of the shelf could make of a job's bends. One after the other the greatest saving of hours is taken, an elbow once,
/// where the run is then no worse off: nothing that keeps it from being built, and no warning, that it had not.
#[must_use]
pub fn shelf_uses(job: &Job, progress: &Progress, workshop: &Workshop, scans: &Scans, stop: &AtomicBool) -> ShelfUses {
    let mut now = job.clone();
    let mut shelf: Vec<&ShelfElbow> = workshop.elbows().iter().collect();
    let mut uses: Vec<ShelfUse> = Vec::new();
    // A run of which metal is cut stays as it is.
    let open = |run: &&RunId| progress.cut_of(**run).next().is_none();
    let runs: Vec<RunId> = job.runs().iter().filter(|run| run.hose.is_none()).map(|run| run.id).collect();
    let mut found: Vec<(RunId, Vec<ShelfUse>)> =
        runs.iter().filter(open).map(|run| (*run, of_run(&now, *run, &shelf, scans, stop))).collect();
    loop {
        let all = found.iter().flat_map(|(_, uses)| uses);
        let Some(best) = all.max_by(|p, q| p.hours.total_cmp(&q.hours)).cloned() else { break };
        let Ok(applied) = apply(&now, &best.edit) else { break };
        now = applied.job;
        shelf.retain(|one| one.id != best.elbow);
        for (run, uses) in &mut found {
            // What it takes of a straight its neighbours have no more.
            if *run == best.run || uses.iter().any(|one| one.elbow == best.elbow) {
                *uses = of_run(&now, *run, &shelf, scans, stop);
            }
        }
        uses.push(best);
    }
    let edits: Vec<Edit> = uses.iter().flat_map(|one| one.edits()).cloned().collect();
    ShelfUses {
        hours: uses.iter().map(|one| one.hours).sum(),
        seams: uses.iter().map(|one| one.seams).sum(),
        all: (!edits.is_empty()).then_some(Edit::Together { edits }),
        uses,
        stopped: stop.load(Ordering::Relaxed),
    }
}

impl ShelfUse {
    /// The changes it is made of.
    fn edits(&self) -> &[Edit] {
        match &self.edit {
            Edit::Together { edits } => edits,
            one => std::slice::from_ref(one),
        }
    }
}

/// The best elbow for each bend of a run that one would save work on.
fn of_run(job: &Job, run: RunId, shelf: &[&ShelfElbow], scans: &Scans, stop: &AtomicBool) -> Vec<ShelfUse> {
    let Some(decided) = job.run(run) else { return Vec::new() };
    let mut mine: Vec<&&ShelfElbow> = shelf.iter().filter(|one| one.tube == decided.tube).collect();
    // Of those that save as much the last is taken: the one of which least is left over.
    mine.sort_by(|p, q| q.elbow.angle.get().total_cmp(&p.elbow.angle.get()));
    if mine.is_empty() || stop.load(Ordering::Relaxed) {
        return Vec::new();
    }
    let Ok(before) = workup_of_drag(job, run, scans) else { return Vec::new() };
    let each = before.bends.iter().enumerate().filter(|(_, bend)| bend.elbow.is_none() && bend.bought.is_none());
    let each = each.filter_map(|(place, _)| {
        let tries = mine.iter().flat_map(|elbow| tried(&before, place, elbow));
        let tries = tries.filter_map(|one| {
            if stop.load(Ordering::Relaxed) {
                return None;
            }
            let after = workup_of_drag(&apply(job, &one.edit).ok()?.job, run, scans).ok()?;
            worth(&before, &after).map(|(hours, seams)| ShelfUse { hours, seams, ..one })
        });
        tries.max_by(|p, q| p.hours.total_cmp(&q.hours))
    });
    each.collect()
}

/// The ways an elbow could make a bend, either way round and sawn at either end.
fn tried(before: &Workup, place: usize, elbow: &ShelfElbow) -> Vec<ShelfUse> {
    let bend = &before.bends[place];
    let (stock, angle) = (elbow.elbow, bend.angle.to_radians());
    let (own, other) = (bend.radius.mm(), stock.radius.get());
    let another = (own - other).abs() > StockElbow::SAME_RADIUS;
    if bend.angle - stock.angle.get() > StockElbow::WHOLE || (another && (own - other).abs() > OTHER_RADIUS * own) {
        return Vec::new();
    }
    let ends: &[End] = if stock.is_trimmed_to(angle) { &[End::A, End::B] } else { &[End::B] };
    let lies: Vec<StockElbow> = if stock == stock.turned() { vec![stock] } else { vec![stock, stock.turned()] };
    let how = DualUnitText::new(|unit| {
        let sawn = if stock.is_trimmed_to(angle) {
            format!("sawn from {:.1}\u{b0} to {:.1}\u{b0}", stock.angle.get(), bend.angle)
        } else {
            "whole".to_owned()
        };
        if another { format!("{sawn}, the bend laid at its {} radius", unit.text(other)) } else { sawn }
    });
    let one = |(stock, cut): (StockElbow, End)| {
        let make = CutEdit::SetMake { run: before.run, bend: bend.bend, make: Some(BendMake::Elbow { stock, cut }) };
        let radius = RouteEdit::SetBendRadius { run: before.run, bend: bend.bend, radius: Some(stock.radius) };
        let edits = if another { vec![radius.into(), make.into()] } else { vec![make.into()] };
        ShelfUse {
            run: before.run,
            name: before.name.clone(),
            bend: bend.bend,
            number: place + 1,
            elbow: elbow.id,
            how: how.clone(),
            hours: 0.0,
            seams: 0,
            edit: Edit::Together { edits },
        }
    };
    lies.into_iter().flat_map(|lie| ends.iter().map(move |end| (lie, *end))).map(one).collect()
}

/// Hours and seams that are saved; `None` where it is not worth an elbow, or where anything is worse.
fn worth(before: &Workup, after: &Workup) -> Option<(f64, u32)> {
    let count = |one: &Workup, severity| one.findings.iter().filter(|finding| finding.severity == severity).count();
    let worse = |severity| count(after, severity) > count(before, severity);
    if worse(Severity::Error) || worse(Severity::Warning) {
        return None;
    }
    let (was, is) = (before.totals.as_ref()?, after.totals.as_ref()?);
    let (hours, seams) = (was.hours - is.hours, was.seams.checked_sub(is.seams)?);
    (hours >= WORTH).then_some((hours, seams))
}

//! What the saw a job is made with cannot do, or does badly.

use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::Assembly;
use crate::edit::{CutEdit, Edit};
use crate::job::Job;
use crate::part_ref::PartRef;
use crate::route::{BendMake, PieCut, PieEnds, ResolvedMake, ResolvedRun, least_throat};
use crate::workshop::{PinnedSaw, SawKind};
use nook_geometry::Arc;
use nook_geometry::units::{DualUnitText, SawStep, SeamCount};

/// Tube whose wall is under this share of its diameter is pinched by a wheel cutter. Source: handbook, mistake 30, which names thin wall
/// and no figure; this is ours.
const PINCHED: f64 = 1.0 / 25.0;
/// A bend that would be out by more than this, in degrees, because the scale has no such setting is told. Ours: what truing takes at a
/// tack without pulling the seam open.
const OUT: f64 = 0.5;

/// What is wrong with sawing a pipe of `run` with the job's saw.
pub(crate) fn sawing(job: &Job, run: &ResolvedRun, pipe: &Assembly) -> Vec<Finding> {
    let saw = job.saw();
    if run.hose.is_some() {
        return Vec::new();
    }
    match saw.reach.kind {
        SawKind::Cutter => cutter(run, pipe),
        SawKind::Set if saw.reach.step.is_some() => scale(saw, run, pipe),
        SawKind::Set | SawKind::Template => Vec::new(),
    }
}

/// A wheel cutter cuts square and presses.
fn cutter(run: &ResolvedRun, pipe: &Assembly) -> Vec<Finding> {
    let mut all = Vec::new();
    let part = PartRef::Run { run: run.id };
    let angled = |make: &ResolvedMake| match make {
        // Bought pies are sawn; the straights beside them are square where they turn as far as the bend.
        ResolvedMake::KitPies { cut, .. } => Some(if cut.end_saw > 0.0 { 2 } else { 0 }),
        make => make.mitres(),
    };
    let angled: u32 = pipe.makes.iter().filter_map(angled).sum();
    if angled > 0 {
        let words = DualUnitText::same(format!(
            "A wheel cutter cuts square, and {angled} {} of this pipe cut at an angle. Use a saw for them, or bought elbows and drawn bends.",
            if angled == 1 { "seam is" } else { "seams are" }
        ));
        all.push(Finding::new(FindingKind::CutterCannotMitre, Severity::Error, part, words));
    }
    let (wall, od) = (run.tube.wall(), run.tube.od());
    if wall < PINCHED * od {
        let words = DualUnitText::new(|unit| {
            format!(
                "A wheel cutter pinches tube of {} wall at {} diameter: the end turns in and goes oval. Saw it, or turn the wheel in lightly, \
                 ream the end and press it round over a plug; it is measured across two ways before a hose or a weld.",
                unit.text(wall),
                unit.text(od)
            )
        });
        all.push(Finding::new(FindingKind::CutterPinches, Severity::Warning, part, words).measured(wall, PINCHED * od));
    }
    all
}

/// By how many degrees a bend is out whose faces, so many of them, are sawn at the setting nearest to `face` degrees there is.
fn out_by(saw: &PinnedSaw, faces: f64, face: f64) -> f64 {
    let set = face - saw.bias();
    faces * (saw.reach.nearest(set) - set)
}

/// Bends whose setting lies between two that the scale has.
fn scale(saw: &PinnedSaw, run: &ResolvedRun, pipe: &Assembly) -> Vec<Finding> {
    let step = saw.reach.step.map_or(0.0, SawStep::get);
    let each = pipe.makes.iter().enumerate().filter_map(|(place, make)| {
        let arc = pipe.tube.legs()[place].bend;
        let (faces, face) = match make {
            ResolvedMake::Pies { cut, .. } => (arc.angle / cut.saw, cut.saw.to_degrees()),
            ResolvedMake::KitPies { cut, .. } if cut.end_saw > 0.0 => (2.0, cut.end_saw.to_degrees()),
            _ => return None,
        };
        let out = out_by(saw, faces, face);
        if out.abs() <= OUT {
            return None;
        }
        let set = face - saw.bias();
        let words = DualUnitText::same(format!(
            "Bend {}: the saw would be set at {set:.2}\u{b0}, and its scale goes by {step}\u{b0}. At {}\u{b0} the bend comes out {:.1}\u{b0} {}.",
            place + 1,
            saw.reach.nearest(set),
            out.abs(),
            if out > 0.0 { "more" } else { "less" }
        ));
        let bend = run.route.bend_id(place);
        let part = PartRef::Bend { run: run.id, bend };
        let finding = Finding::new(FindingKind::SettingBetween, Severity::Warning, part, words).measured(out.abs(), OUT);
        let ResolvedMake::Pies { seams, ends, .. } = *make else { return Some(finding) };
        let better = better(saw, run, &arc, (seams, ends)).map(|(count, set)| {
            let label = DualUnitText::same(format!("{} seams at {set}\u{b0}", count.get()));
            let make = Some(BendMake::Pies { seams: Some(count), ends });
            Remedy { label, edit: Edit::Cut(CutEdit::SetMake { run: run.id, bend, make }) }
        });
        Some(finding.mended_by(better.into_iter().collect()))
    });
    each.collect()
}

/// The count of seams nearest to the present one, with a useful throat, at which the bend comes out well enough; and its setting.
fn better(
    saw: &PinnedSaw,
    run: &ResolvedRun,
    arc: &Arc,
    (now, ends): (SeamCount, PieEnds),
) -> Option<(SeamCount, f64)> {
    let cut = |count| PieCut::new(run.tube.od(), arc.radius, arc.angle, count, ends);
    let good = |count: &SeamCount| {
        let cut = cut(*count);
        let sound = *count == SeamCount::ONE || cut.throat >= least_throat(run.tube);
        sound && out_by(saw, arc.angle / cut.saw, cut.saw.to_degrees()).abs() <= OUT
    };
    let counts = (SeamCount::MIN..=SeamCount::MAX).filter_map(|count| SeamCount::new(count).ok()).filter(good);
    let count = counts.min_by_key(|count| count.get().abs_diff(now.get()))?;
    Some((count, saw.reach.nearest(cut(count).saw.to_degrees() - saw.bias())))
}

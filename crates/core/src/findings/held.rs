//! Joints that no hand reaches, and joints that pressure pushes apart.

use super::remedy::remedy;
use super::words::{not_reached, pushed_apart};
use super::{Across, Finding, FindingKind, Remedy, Severity, across, assess};
use crate::assembly::{Assembly, SeatedJoint};
use crate::edit::{Edit, JoinEdit, JointChange, apply};
use crate::job::Job;
use crate::join::{Holds, JointKind, JointSpec, SupportKind, end_thrust};
use crate::measure::{EndForm, Side};
use crate::reach::Reach;
use crate::route::{Joint, ResolvedRun, SupportDraft};
use crate::survey::Survey;

/// What is wrong with how the joints of a pipe are reached and held.
pub(crate) fn held_and_reached(
    job: &Job,
    run: &ResolvedRun,
    pipe: Option<&Assembly>,
    reach: &[Option<Reach>],
    mend: bool,
) -> Vec<Finding> {
    let Some(pipe) = pipe else { return Vec::new() };
    let mut all = Vec::new();
    for (joint, reach) in pipe.joints.iter().zip(reach) {
        if let Some(reach) = reach.filter(|reach| !reach.is_reached()) {
            all.push(unreached(job, run, joint, &reach, mend));
        }
        let (force, holds) = (parting_force(run, joint), holding(run, joint));
        let kept = is_tied(run, joint) || pipe.is_bracketed(run, joint.id);
        if let Some(holds) = holds.filter(|holds| force > *holds && !kept) {
            let words = pushed_apart(run, joint, force, holds);
            let remedies = if mend { what_holds(job, run, pipe, joint) } else { Vec::new() };
            let finding = Finding::new(FindingKind::PushedApart, Severity::Error, joint.part(run), words);
            all.push(finding.measured(force, holds).mended_by(remedies));
        }
    }
    all
}

fn is_tied(run: &ResolvedRun, joint: &SeatedJoint) -> bool {
    run.route.joint(joint.id).is_some_and(|joint| joint.tied)
}

/// Force in N that pushes a joint apart at working pressure: on the larger of the two sizes it seals on. What a bend is pushed
/// by is what the joints at its two ends hold, so it is no more than this. Source: handbook, "The sums", Joints.
#[must_use]
pub fn parting_force(run: &ResolvedRun, joint: &SeatedJoint) -> f64 {
    // A hose is pushed off over what it sits on, however thick it is itself.
    let sealed = joint.end.filter(|_| joint.kind == JointKind::HoseEnd).map(|end| run.port(end).od.get());
    end_thrust(sealed.unwrap_or(joint.widest), run.bar())
}

/// Share of its hold that a hose keeps on a tube end without a bead. Source: handbook, "Joints, fittings, hoses and supports".
const WITHOUT_BEAD: f64 = 1.0 / 3.0;

/// Force in N up to which a joint does not slide; `None` where metal locks it. The pipe's own ends are beaded; a plain port is
/// not.
#[must_use]
pub fn holding(run: &ResolvedRun, joint: &SeatedJoint) -> Option<f64> {
    match joint.spec.holds {
        // A hose's end that is pushed on and clamped holds as a coupler does.
        Holds::Locked if joint.kind == JointKind::HoseEnd && !run.is_threaded() => {
            let port = run.port(joint.end?);
            let Holds::Up(most) = JointSpec::usual(JointKind::Coupler, port.od.get()).holds else { return None };
            Some(if port.form == EndForm::Plain { most * WITHOUT_BEAD } else { most })
        }
        Holds::Locked => None,
        // A slip joint is drawn together by nothing: what holds its two sides does.
        Holds::Up(_) if joint.kind == JointKind::Slip => None,
        Holds::Up(most) => {
            let bare = joint.end.is_some_and(|end| run.port(end).form == EndForm::Plain);
            Some(if bare { most * WITHOUT_BEAD } else { most })
        }
    }
}

/// A tie between the two beads, tabs that take the thrust, or a kind that locks, as long as nothing else is worse for it.
fn what_holds(job: &Job, run: &ResolvedRun, pipe: &Assembly, joint: &SeatedJoint) -> Vec<Remedy> {
    let change = |to: JointChange| Edit::Join(JoinEdit::ChangeJoint { run: run.id, joint: joint.id, to });
    let mut all = vec![remedy(|_| "Tie it across".to_owned(), change(JointChange::Tied { tied: true }))];
    if run.hose.is_none() {
        all.extend(brackets(run, pipe, joint).filter(|remedy| sound_after(job, run, &remedy.edit)));
    }
    for kind in [JointKind::Sleeve, JointKind::VBand].into_iter().filter(|_| run.hose.is_none()) {
        let edit = change(JointChange::Kind { kind });
        let label = if kind == JointKind::Sleeve { "Use an O-ring sleeve" } else { "Use a V-band" };
        if JointSpec::usual(kind, run.tube.od()).holds == Holds::Locked && sound_after(job, run, &edit) {
            all.push(remedy(|_| label.to_owned(), edit));
        }
    }
    all
}

/// Tabs on whichever of the two sections beside a joint nothing keeps from being pushed off, to either side.
fn brackets<'a>(run: &'a ResolvedRun, pipe: &'a Assembly, joint: &SeatedJoint) -> impl Iterator<Item = Remedy> + 'a {
    let loose = pipe.loose_beside(run, joint.id);
    [Side::Body, Side::Engine].into_iter().filter_map(move |to| {
        let add = |section: &usize| {
            let places = pipe.places_for(SupportKind::Tab).into_iter();
            let within = places.filter(|[from, to]| pipe.section_of(f64::midpoint(*from, *to)) == Some(*section));
            let [from, to_station] = within.max_by(|p, q| (p[1] - p[0]).total_cmp(&(q[1] - q[0])))?;
            let at = pipe.anchor_at(&run.route, f64::midpoint(from, to_station))?;
            let support = SupportDraft { at, kind: SupportKind::Tab, to: Some(to) };
            Some(Edit::Join(JoinEdit::AddSupport { run: run.id, support }))
        };
        let edits: Option<Vec<Edit>> = loose.iter().map(add).collect();
        let label = format!("Tab it to the {}", to.word());
        let edits = edits.filter(|edits| !edits.is_empty())?;
        Some(remedy(|_| label.clone(), Edit::Together { edits }))
    })
}

/// Whether an edit leaves the run without an error of its own that it did not have, and with joints that take what moves it.
fn sound_after(job: &Job, run: &ResolvedRun, edit: &Edit) -> bool {
    let errors = |run: &ResolvedRun| {
        let assessment = assess(run);
        let mine = assessment.problems.iter().filter(|(_, problem)| problem.severity() == Severity::Error).count();
        let moved = assessment.pipe.as_ref().filter(|_| assessment.is_sound());
        let moved: Vec<Across> = moved.map_or_else(Vec::new, |pipe| {
            let moves = pipe.moves(run);
            across(run, pipe, &moves, &moves.uses(pipe))
        });
        (mine, moved.len())
    };
    let Ok(applied) = apply(job, edit) else { return false };
    let Some(next) = applied.job.run(run.id) else { return false };
    let (before, after) = (errors(run), errors(&Survey::new(&applied.job).settle(next)));
    after.0 <= before.0 && after.1 <= before.1
}

fn unreached(job: &Job, run: &ResolvedRun, joint: &SeatedJoint, reach: &Reach, mend: bool) -> Finding {
    let by = reach.by.and_then(|thing| super::words::thing_name(job, run, thing));
    let words = not_reached(run, joint, reach, by.as_deref());
    let held = run.route.joint(joint.id).and_then(|joint: &Joint| joint.clock).is_some();
    let remedies = if mend && held {
        let edit = JoinEdit::ChangeJoint { run: run.id, joint: joint.id, to: JointChange::Clock { clock: None } };
        vec![remedy(|_| "Let it turn to where it is reached".to_owned(), Edit::Join(edit))]
    } else {
        Vec::new()
    };
    let finding = Finding::new(FindingKind::NotReached, Severity::Error, joint.part(run), words);
    let finding = finding.measured(reach.spare, 0.0).mended_by(remedies);
    match reach.by {
        Some(thing) => finding.against(thing),
        None => finding,
    }
}

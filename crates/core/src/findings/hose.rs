//! What is wrong with a hose, and with a pipe that is to drain by gravity. Source: handbook, "Joints, fittings, hoses and
//! supports", Hoses with threaded ends to Hose by what it carries, What else is made to join; "Mistakes the product must foresee",
//! 12, 15, 21 and 31.

use super::remedy::remedy;
use super::words::hose as said;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::Assembly;
use crate::edit::{Edit, RouteEdit, SpecEdit, apply};
use crate::flow::{Stream, fluid, losses};
use crate::job::Job;
use crate::join::{JointKind, JointSpec, SizeMatch};
use crate::measure::{End, EndForm};
use crate::part_ref::PartRef;
use crate::route::{ResolvedRun, Target};
use crate::stock::{HoseBuild, MOULDED_GIVE, Material, nearest_moulded, unfit};
use crate::survey::Survey;
use nook_geometry::units::{BendAngle, BendRadius};

/// Shortfalls below this, in mm or degrees, are rounding.
const HAIR: f64 = 1e-6;
/// A mouth's thread may measure so much less or more than its size says, in mm. Ours: half a pitch.
const THREAD_OFF: f64 = 0.8;
/// A hose that loses so many times what smooth hose does is told of. Ours.
const CHOKES: f64 = 2.0;
/// Least fall in degrees of what drains by gravity.
pub(crate) const LEAST_FALL: f64 = 3.0;
/// A drain narrower than what it drains by more than this, in mm, is told of: a wall and a caliper.
const NARROWER: f64 = 4.0;

/// What is wrong with the hose of a run, whose pipe has no bends that overlap; nothing where it is tube.
pub(crate) fn hose(job: &Job, run: &ResolvedRun, pipe: &Assembly, mend: bool) -> Vec<Finding> {
    let mut all = drains(run, pipe);
    let Some(build) = run.hose else { return all };
    all.extend(stuff(run, build));
    all.extend([End::A, End::B].into_iter().filter_map(|end| end_fits(run, build, end)));
    all.extend(bends(run, pipe, build));
    all.extend(pieces(run, pipe, build));
    all.extend(clocked(run, build));
    all.extend(chokes(run, pipe, build));
    if !mend {
        all.iter_mut().for_each(|finding| finding.remedies.clear());
    } else if !all.is_empty() {
        only_what_mends(job, run, &mut all);
    }
    all
}

/// Keeps of each finding's remedies those after which it is gone.
fn only_what_mends(job: &Job, run: &ResolvedRun, all: &mut [Finding]) {
    let alone = job.with_only(run);
    let mends = |kind: FindingKind, part: PartRef, edit: &Edit| {
        let Ok(applied) = apply(&alone, edit) else { return false };
        let Some(after) = applied.job.run(run.id) else { return false };
        let after = Survey::new(&applied.job).settle(after);
        let Some(Ok(pipe)) = Assembly::build(&after) else { return false };
        !hose(&applied.job, &after, &pipe, false).iter().any(|left| left.kind == kind && left.part == part)
    };
    for finding in all {
        let (kind, part) = (finding.kind, finding.part);
        finding.remedies.retain(|remedy| mends(kind, part, &remedy.edit));
        finding.remedies.truncate(2);
    }
}

/// Whether its stuff bears what it carries, how hot that is, and its pressure.
fn stuff(run: &ResolvedRun, build: HoseBuild) -> Vec<Finding> {
    let part = PartRef::Run { run: run.id };
    let (material, celsius) = (run.tube.material(), run.celsius());
    let bears = |material: Material| {
        unfit(material, run.duty).is_none() && material.bears().is_some_and(|most| most >= celsius)
    };
    let others = || -> Vec<Remedy> {
        let each = Material::HOSES.into_iter().filter(|other| *other != material && bears(*other));
        each.map(|other| {
            let edit = SpecEdit::SetHose { run: run.id, hose: build, material: Some(other), bore: None };
            remedy(|_| format!("Build it of {}", other.name()), edit.into())
        })
        .collect()
    };
    let mut all = Vec::new();
    if let Some(why) = unfit(material, run.duty) {
        let words = said::unfit(material, why);
        all.push(Finding::new(FindingKind::HoseUnfit, Severity::Error, part, words).mended_by(others()));
    }
    if let Some(most) = material.bears().filter(|most| celsius > *most) {
        let words = said::too_hot(material, celsius, most);
        let finding = Finding::new(FindingKind::HoseTooHot, Severity::Error, part, words);
        all.push(finding.measured(celsius, most).mended_by(others()));
    }
    // Braided hose with threaded ends bears what its maker says.
    let as_coupler = if run.is_threaded() { None } else { JointSpec::usual(JointKind::Coupler, run.tube.bore()).bar };
    if let Some(most) = as_coupler.filter(|most| run.bar() > most + HAIR) {
        let words = said::bursts(run.bar(), most);
        all.push(Finding::new(FindingKind::JointPressure, Severity::Error, part, words).measured(run.bar(), most));
    }
    all
}

/// Whether an end goes onto its port.
fn end_fits(run: &ResolvedRun, build: HoseBuild, end: End) -> Option<Finding> {
    let port = run.port(end);
    if run.joint(end).kind != JointKind::HoseEnd {
        return None;
    }
    let part = PartRef::End { run: run.id, end };
    match build {
        HoseBuild::Threaded { dash, .. } => {
            if port.form != EndForm::Threaded {
                let words = said::no_thread(run, end);
                return Some(Finding::new(FindingKind::HoseOnMetal, Severity::Error, part, words));
            }
            let (have, need) = (port.od.get(), dash.size().thread_od);
            ((have - need).abs() > THREAD_OFF).then(|| {
                let words = said::other_thread(run, end, dash);
                Finding::new(FindingKind::SizesDiffer, Severity::Error, part, words)
                    .measured((have - need).abs(), THREAD_OFF)
            })
        }
        HoseBuild::Moulded { .. } | HoseBuild::Corrugated => {
            if !port.form.takes_hose() {
                let words = said::not_pushed_on(run, end);
                return Some(Finding::new(FindingKind::HoseOnMetal, Severity::Error, part, words));
            }
            let (mouth, bore) = (port.od.get(), run.tube.bore());
            let severity = match SizeMatch::of(mouth, bore) {
                SizeMatch::Good => return None,
                SizeMatch::Stretch => Severity::Warning,
                SizeMatch::Reducer => Severity::Error,
            };
            let finding = Finding::new(FindingKind::SizesDiffer, severity, part, said::other_bore(run, end));
            Some(finding.measured((mouth - bore).abs(), SizeMatch::GOOD))
        }
    }
}

/// Bends tighter than it bends, and angles that no moulded elbow has.
fn bends(run: &ResolvedRun, pipe: &Assembly, build: HoseBuild) -> Vec<Finding> {
    let least = build.least_radius(run.tube);
    let mut all = Vec::new();
    for (index, step) in pipe.whole.legs().iter().enumerate() {
        let bend = run.route.bend_id(index);
        let part = PartRef::Bend { run: run.id, bend };
        let radius = step.bend.radius;
        if radius < least - HAIR {
            let open = BendRadius::new((least * 2.0).ceil() / 2.0).ok();
            let own = run.route.bends().get(index).is_some_and(|spec| spec.radius.is_some());
            let edit = open.map(|radius| {
                if own {
                    RouteEdit::SetBendRadius { run: run.id, bend, radius: Some(radius) }
                } else {
                    RouteEdit::SetRadius { run: run.id, radius }
                }
            });
            let mends = edit.map(|edit| remedy(|unit| format!("Open it to {} radius", unit.text(least)), edit.into()));
            let words = said::tight(run, part, build, [radius, least]);
            let finding = Finding::new(FindingKind::HoseBend, Severity::Error, part, words);
            all.push(finding.measured(radius, least).mended_by(mends.into_iter().collect()));
        }
        let degrees = step.bend.angle.to_degrees();
        let nearest = nearest_moulded(degrees);
        let off = (degrees - nearest).abs();
        if matches!(build, HoseBuild::Moulded { .. }) && off > MOULDED_GIVE + HAIR {
            let angle = BendAngle::new(nearest).ok();
            let edit = angle.map(|angle| RouteEdit::shaped(run.id, Target::Angle { bend, angle }));
            let mends = edit.map(|edit| remedy(|_| format!("Turn it to {nearest:.0}\u{b0}"), edit.into()));
            let words = said::odd_angle(run, part, degrees, nearest);
            let finding = Finding::new(FindingKind::ElbowAngle, Severity::Error, part, words);
            all.push(finding.measured(off, MOULDED_GIVE).mended_by(mends.into_iter().collect()));
        }
    }
    all
}

/// Cuts on a curve, and pieces that meet without an insert.
fn pieces(run: &ResolvedRun, pipe: &Assembly, build: HoseBuild) -> Vec<Finding> {
    let HoseBuild::Moulded { inserts } = build else { return Vec::new() };
    let mut all = Vec::new();
    match pipe.hose_pieces(run) {
        Err(short) => {
            let part = PartRef::Straight { run: run.id, straight: run.route.leg_id(short.leg) };
            let words = said::cut_on_curve(run, part, &short);
            all.push(
                Finding::new(FindingKind::CutOnCurve, Severity::Error, part, words).measured(short.have, short.need),
            );
        }
        Ok(pieces) if !inserts && pieces.len() > 1 => {
            let hose = HoseBuild::Moulded { inserts: true };
            let edit = SpecEdit::SetHose { run: run.id, hose, material: None, bore: None };
            let words = said::no_insert(pieces.len() - 1);
            let finding = Finding::new(FindingKind::NoInsert, Severity::Error, PartRef::Run { run: run.id }, words);
            all.push(finding.mended_by(vec![remedy(|_| "Put an insert into each".to_owned(), edit.into())]));
        }
        Ok(_) => {}
    }
    all
}

/// Clocks that nobody needs to set.
fn clocked(run: &ResolvedRun, build: HoseBuild) -> Vec<Finding> {
    let Some((_, fittings)) = build.fittings() else { return Vec::new() };
    let needless = [End::A, End::B].into_iter().zip(fittings).filter(|(_, one)| one.swivels && one.clock.is_some());
    let told = needless.map(|(end, _)| {
        Finding::new(FindingKind::ClockNeedless, Severity::Info, PartRef::End { run: run.id, end }, said::swivels(end))
    });
    told.collect()
}

/// What corrugations cost.
fn chokes(run: &ResolvedRun, pipe: &Assembly, build: HoseBuild) -> Option<Finding> {
    if build != HoseBuild::Corrugated {
        return None;
    }
    let fluid = fluid(run.duty, &run.flow, run.bar(), run.tube.bore()).ok()?;
    let bends: Vec<_> = pipe.whole.legs().iter().map(|step| (step.bend.radius, step.bend.angle, None)).collect();
    let smooth = Stream::of(&fluid, run.tube);
    let lost = |stream: &Stream| losses(stream, pipe.whole.length(), &bends, run.mouths()).total() / 1000.0;
    let [now, then] = [lost(&smooth.corrugated()), lost(&smooth)];
    (now > CHOKES * then).then(|| {
        let words = said::chokes(now, then);
        let part = PartRef::Run { run: run.id };
        Finding::new(FindingKind::ChokesFlow, Severity::Warning, part, words).measured(now / then, CHOKES)
    })
}

/// What drains by gravity falls all the way, and is as wide as what it drains.
fn drains(run: &ResolvedRun, pipe: &Assembly) -> Vec<Finding> {
    let Some(to) = run.drains else { return Vec::new() };
    let mut all = Vec::new();
    let least = pipe.least_fall(run, to);
    if least.degrees < LEAST_FALL - 1e-9 {
        // Where it rises what should run out stands in it.
        let severity = if least.degrees < 0.0 { Severity::Error } else { Severity::Warning };
        let words = said::falls_little(run, &least, to, LEAST_FALL);
        all.push(
            Finding::new(FindingKind::DoesNotDrain, severity, least.part, words).measured(least.degrees, LEAST_FALL),
        );
    }
    let mouth = run.port(to.other());
    let narrow = mouth.od.get() - run.tube.bore();
    if mouth.form != EndForm::Threaded && narrow > NARROWER {
        let words = said::drain_narrow(run, to.other());
        let part = PartRef::Run { run: run.id };
        let finding = Finding::new(FindingKind::DrainNarrow, Severity::Warning, part, words);
        all.push(finding.measured(narrow, NARROWER));
    }
    all
}

//! Edits that mend a problem. Each is tried on the job first; only what works is offered.

use super::lack::Lack;
use super::{Finding, Problem, Remedy, Severity, assess};
use crate::edit::{Applied, CutEdit, Edit, JoinEdit, JointChange, MeasureEdit, RouteEdit, apply};
use crate::environment::Environment;
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use crate::route::{BendId, BendMake, Joint, LegId, NoRoute, Target, least_between_bends, one_bend_nearby, ways};
use crate::route::{PieEnds, least_throat};
use crate::survey::Survey;
use nook_geometry::Point;
use nook_geometry::units::{BendAngle, BendRadius, DualUnitText, Gap, LengthUnit, SeamCount, Straight};

/// How far a port is suggested to be moved, in mm, at most: what a bracket or a turned housing gives.
const MOST_MOVED: f64 = 40.0;

/// The problem as a finding, without looking for what would mend it.
pub(crate) fn without_remedies(run: &ResolvedRun, place: PartRef, problem: Problem) -> Finding {
    let finding = Finding::new(problem.kind(), problem.severity(), place, problem.words(run, place));
    match problem.measured() {
        Some([value, limit]) => finding.measured(value, limit),
        None => finding,
    }
}

/// The problem as a finding, with the edits that mend it and after which the pipe has no more that cannot be, nor less
/// air.
pub(crate) fn with_remedies(
    job: &Job,
    run: &ResolvedRun,
    around: &Environment,
    place: PartRef,
    problem: Problem,
) -> Finding {
    let errors =
        |problems: &[(PartRef, Problem)]| problems.iter().filter(|p| p.1.severity() == Severity::Error).count();
    let before = errors(&assess(run).problems);
    // Where there is no pipe yet, any is better.
    let lack = Lack::of(run, around);
    let mends = |job: &Job, edit: &Edit| {
        let Ok(Applied { job: next, .. }) = apply(job, edit) else { return false };
        let Some(after) = next.run(run.id) else { return false };
        let after = Survey::new(&next).settle(after);
        let left = assess(&after).problems;
        let gone = !left.iter().any(|(p, other)| *p == place && same_kind(other, &problem));
        let clear = || {
            let moved = matches!(edit, Edit::Measure(MeasureEdit::MovePort { .. }))
                .then(|| around.clone().around_mouths_of(&after));
            Lack::of(&after, moved.as_ref().unwrap_or(around))
                .zip(lack.as_ref())
                .is_none_or(|(left, before)| left.no_worse_than(before, None))
        };
        gone && errors(&left) <= before && clear()
    };
    // Tried on the run alone, with its ports where they were found, so that the bay is not surveyed for each try. Only
    // where a port is to be moved does the bay have a say: readings or a component may hold it.
    let alone = job.with_only(run);
    let allowed = |edit: &Edit| !matches!(edit, Edit::Measure(MeasureEdit::MovePort { .. })) || mends(job, edit);
    let remedies = options(run, place, &problem)
        .into_iter()
        .filter_map(|mut choices| choices.find(|remedy| mends(&alone, &remedy.edit) && allowed(&remedy.edit)))
        .collect();
    Finding { remedies, ..without_remedies(run, place, problem) }
}

fn same_kind(one: &Problem, other: &Problem) -> bool {
    std::mem::discriminant(one) == std::mem::discriminant(other)
}

type Choices<'a> = Box<dyn Iterator<Item = Remedy> + 'a>;

/// Kinds of remedy, each as choices from the smallest change up: the first that works is offered.
fn options<'a>(run: &'a ResolvedRun, place: PartRef, problem: &Problem) -> Vec<Choices<'a>> {
    let id = run.id;
    match (*problem, place) {
        (Problem::NoRoute(NoRoute::RadiusTooLarge { would_do }), _) => one(set_radius(run, would_do.mm())),
        (Problem::NoRoute(_), _) => vec![bring_axes_together(run)],
        (Problem::NoWayTaken, _) => vec![take_best_way(run)],
        (Problem::DoesNotJoin(_), _) => vec![take_best_way(run), bring_axes_together(run)],
        (Problem::NegativeStraight { .. }, PartRef::Straight { straight, .. }) => {
            let ends = |at: bool, end| if at { run.straight_needed(end) } else { 0.0 };
            let last = run.route.leg_id(run.route.course().corners());
            let seats = ends(straight == LegId::FROM_A, End::A) + ends(straight == last, End::B);
            lengthen(run, straight, seats.max(least_between_bends(run)))
        }
        (Problem::ShortStraight { least, .. }, PartRef::Straight { straight, .. }) => lengthen(run, straight, least),
        (Problem::ShortSeat { need, .. }, PartRef::End { end, .. }) => {
            let last = run.route.leg_id(run.route.course().corners());
            lengthen(run, if end == End::A { LegId::FROM_A } else { last }, need)
        }
        (Problem::ShortSeat { need, .. }, PartRef::Joint { joint, .. }) => {
            let bend = run.route.joint(joint).and_then(Joint::bend);
            let index = bend.and_then(|bend| run.route.bend_index(bend));
            let beside = index.map_or_else(Vec::new, |bend| vec![bend, bend + 1]);
            let mut all: Vec<Choices<'_>> =
                beside.into_iter().flat_map(|leg| lengthen(run, run.route.leg_id(leg), need)).collect();
            let edit = Edit::Join(JoinEdit::RemoveJoint { run: id, joint });
            all.extend(one(Some(remedy(|_| "Make the bend of tube instead".to_owned(), edit))));
            all
        }
        (Problem::ElbowAngle { nearest, .. }, PartRef::Bend { bend, .. }) => {
            let turned = BendAngle::new(nearest).ok().map(|angle| {
                let edit = RouteEdit::shaped(id, Target::Angle { bend, angle });
                remedy(|_| format!("Turn it to {nearest:.0}\u{b0}"), edit.into())
            });
            let mut all = one(turned);
            let elbow = run.route.joint_at_bend(bend).map(|joint| {
                let edit = Edit::Join(JoinEdit::RemoveJoint { run: id, joint: joint.id });
                remedy(|_| "Make the bend of tube instead".to_owned(), edit)
            });
            all.extend(one(elbow));
            all
        }
        (Problem::ShortRoom { need, .. }, PartRef::Joint { joint, .. }) => {
            let leg = run.route.joint(joint).and_then(Joint::along).map(|along| along.leg);
            let edit = Edit::Join(JoinEdit::RemoveJoint { run: id, joint });
            let mut all = leg.map_or_else(Vec::new, |leg| lengthen(run, leg, need));
            all.extend(one(Some(remedy(|_| "Take the joint out".to_owned(), edit))));
            all
        }
        (Problem::WideGap { most, .. }, PartRef::Joint { joint, .. }) => {
            let gap = Gap::new(most.floor()).ok();
            let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint, to: JointChange::Gap { gap } });
            one(gap.map(|gap| remedy(|unit| format!("Close the gap to {}", unit.text(gap.get())), edit)))
        }
        (Problem::ThinThroat { throat, seams, .. }, PartRef::Bend { bend, .. }) => {
            vec![fewer_seams(run, bend, seams), wider_bend(run, bend, throat)]
        }
        (Problem::TightBend { least, .. }, PartRef::Bend { bend, .. }) => {
            let pies = Edit::Cut(CutEdit::SetMake { run: id, bend, make: Some(BendMake::PIES) });
            let mut all = one(open_bend(run, bend, least));
            all.extend(one(Some(remedy(|_| "Saw it as pies".to_owned(), pies))));
            all
        }
        (Problem::ElbowRadius { elbow, .. }, PartRef::Bend { bend, .. }) => {
            let radius = BendRadius::new(elbow).ok();
            let edit = Edit::Route(RouteEdit::SetBendRadius { run: id, bend, radius });
            let mut all = one(radius.map(|_| remedy(|unit| format!("Lay it at {} radius", unit.text(elbow)), edit)));
            all.extend(one(Some(of_tube(run, bend))));
            all
        }
        (Problem::ElbowTooSmall { .. } | Problem::PieTooWide { .. }, PartRef::Bend { bend, .. }) => {
            one(Some(of_tube(run, bend)))
        }
        (Problem::SawTooFar { .. }, PartRef::Bend { bend, .. }) => {
            one(Some(remedy(|_| "Use two seams".to_owned(), of_seams(run, bend, SeamCount::TWO))))
        }
        (Problem::SizesDiffer { .. }, PartRef::End { end, .. }) => {
            let edit = of_kind(run, end, JointKind::Reducer);
            let (port, tube) = (run.port(end).od.get(), run.tube.od());
            one(Some(remedy(|unit| format!("Use a {} to {} reducer", unit.text(port), unit.text(tube)), edit)))
        }
        (Problem::NeedlessReducer, PartRef::End { end, .. }) => {
            let edit = of_kind(run, end, JointKind::Coupler);
            one(Some(remedy(|_| "Use a plain coupler".to_owned(), edit)))
        }
        (Problem::HoseOnMetal { form, .. }, PartRef::End { end, .. }) => {
            let edit = of_kind(run, end, JointKind::Metal);
            one(Some(remedy(|_| format!("Join metal to metal at the {} port", form.word()), edit)))
        }
        (Problem::WideGap { most, .. }, PartRef::End { end, .. }) => {
            let gap = Gap::new(most.floor()).ok();
            let joint = run.joint(end).id;
            let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint, to: JointChange::Gap { gap } });
            one(gap.map(|gap| remedy(|unit| format!("Close the gap to {}", unit.text(gap.get())), edit)))
        }
        (Problem::TwoMetals { .. }, PartRef::End { end, .. }) => {
            let band = of_kind(run, end, JointKind::VBand);
            let sleeve = of_kind(run, end, JointKind::Sleeve);
            vec![Box::new(
                [("Use a V-band", band), ("Use an O-ring sleeve", sleeve)]
                    .into_iter()
                    .map(|(label, edit)| remedy(|_| label.to_owned(), edit)),
            )]
        }
        (Problem::EndStep { .. }, PartRef::Bend { bend, .. }) => {
            let spec = run.route.bends().iter().find(|spec| spec.id == bend);
            let seams = match spec.and_then(|spec| spec.make) {
                Some(BendMake::KitPies { .. }) => return one(Some(of_tube(run, bend))),
                Some(BendMake::Pies { seams, .. }) => seams,
                _ => None,
            };
            let make = Some(BendMake::Pies { seams, ends: PieEnds::Mitred });
            let edit = Edit::Cut(CutEdit::SetMake { run: id, bend, make });
            one(Some(remedy(|_| "Mitre the straights instead".to_owned(), edit)))
        }
        _ => Vec::new(),
    }
}

/// A bend in so many seams, its ends as they are.
fn of_seams(run: &ResolvedRun, bend: BendId, seams: SeamCount) -> Edit {
    let ends = run.route.bends().iter().find(|spec| spec.id == bend).and_then(|spec| match spec.make {
        Some(BendMake::Pies { ends, .. }) => Some(ends),
        _ => None,
    });
    let make = Some(BendMake::Pies { seams: Some(seams), ends: ends.unwrap_or_default() });
    Edit::Cut(CutEdit::SetMake { run: run.id, bend, make })
}

/// The joint of an end as another kind.
fn of_kind(run: &ResolvedRun, end: End, kind: JointKind) -> Edit {
    let (joint, to) = (run.joint(end).id, JointChange::Kind { kind });
    Edit::Join(JoinEdit::ChangeJoint { run: run.id, joint, to })
}

/// The bend made as is usual for the tube.
fn of_tube(run: &ResolvedRun, bend: BendId) -> Remedy {
    let edit = Edit::Cut(CutEdit::SetMake { run: run.id, bend, make: None });
    remedy(|_| "Make it of the tube instead".to_owned(), edit)
}

pub(super) fn remedy(say: impl Fn(LengthUnit) -> String, edit: Edit) -> Remedy {
    Remedy { label: DualUnitText::new(say), edit }
}

fn one<'a>(remedy: Option<Remedy>) -> Vec<Choices<'a>> {
    vec![Box::new(remedy.into_iter())]
}

fn set_radius(run: &ResolvedRun, radius: f64) -> Option<Remedy> {
    let edit = Edit::Route(RouteEdit::SetRadius { run: run.id, radius: BendRadius::new(radius).ok()? });
    Some(remedy(|unit| format!("Bend at {} radius", unit.text(radius)), edit))
}

/// Makes a straight at least `least` mm: as little more as possible in whole millimetres, or by bending
/// tighter, as far as its bends are usually made.
fn lengthen(run: &ResolvedRun, straight: LegId, least: f64) -> Vec<Choices<'_>> {
    let number = run.route.leg_index(straight).map_or(0, |index| index + 1);
    let more = (0..4_i32).filter_map(move |k| {
        let length = Straight::new(least.ceil() + f64::from(k) * 5.0).ok()?;
        let edit = Edit::Route(RouteEdit::shaped(run.id, Target::Straight { straight, length }));
        let say = |unit: LengthUnit| format!("Make straight {number} {} long", unit.text(length.get()));
        Some(remedy(say, edit))
    });
    let (now, tightest) = (run.radius.get(), run.tightest_radius());
    let tighter = (1..=8_i32)
        .map(move |k| ((now - (now - tightest) * f64::from(k) / 8.0) * 2.0).floor() / 2.0)
        .filter(move |radius| *radius < now && *radius >= tightest - 0.5)
        .filter_map(move |radius| set_radius(run, radius));
    vec![Box::new(more), Box::new(tighter)]
}

fn fewer_seams(run: &ResolvedRun, bend: BendId, seams: u8) -> Choices<'_> {
    Box::new((SeamCount::MIN..seams).rev().filter_map(move |count| {
        let edit = of_seams(run, bend, SeamCount::new(count).ok()?);
        let label = if count == 1 { "Use a single mitre".to_owned() } else { format!("Use {count} seams") };
        Some(remedy(|_| label.clone(), edit))
    }))
}

/// The throat grows in step with what the radius has beyond half the tube.
fn wider_bend(run: &ResolvedRun, bend: BendId, throat: f64) -> Choices<'_> {
    let index = run.route.bend_index(bend).unwrap_or(usize::MAX);
    let beyond = run.bend_radius(index) - run.tube.od() / 2.0;
    let wanted = run.tube.od() / 2.0 + beyond * least_throat(run.tube) / throat;
    Box::new((beyond > 0.0 && throat > 0.0).then(|| open_bend(run, bend, wanted)).flatten().into_iter())
}

/// A bend of at least `radius` mm, in half millimetres.
fn open_bend(run: &ResolvedRun, bend: BendId, radius: f64) -> Option<Remedy> {
    let radius = BendRadius::new((radius * 2.0).ceil() / 2.0).ok()?;
    let number = run.route.bend_index(bend)? + 1;
    let edit = Edit::Route(RouteEdit::SetBendRadius { run: run.id, bend, radius: Some(radius) });
    Some(remedy(|unit| format!("Open bend {number} to {} radius", unit.text(radius.get())), edit))
}

fn take_best_way(run: &ResolvedRun) -> Choices<'_> {
    let best = ways(run).ways.into_iter().next();
    Box::new(best.into_iter().map(move |best| {
        let count = best.angles.len();
        let label = match count {
            0 => "Take the straight way".to_owned(),
            1 => "Take the way with one bend".to_owned(),
            _ => format!("Take the best way with {count} bends"),
        };
        remedy(|_| label.clone(), Edit::Route(RouteEdit::TakeWay { run: run.id, way: best.way.clone() }))
    }))
}

fn bring_axes_together(run: &ResolvedRun) -> Choices<'_> {
    Box::new(one_bend_nearby(run, MOST_MOVED).into_iter().map(move |(at, by): (Point, f64)| {
        let edit = Edit::Measure(MeasureEdit::MovePort { run: run.id, end: End::B, at });
        remedy(|unit| format!("Move B by {} so that one bend does it", unit.text(by)), edit)
    }))
}

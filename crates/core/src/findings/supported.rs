//! What is wrong with how a pipe is held between its joints. Source: handbook, "Joints, fittings, hoses and supports",
//! Supports; "Mistakes the product must foresee", 1 and 28.

use super::remedy::remedy;
use super::words::supported as said;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::{Assembly, BeamOfPipe, FreeSpan, Moves, SeatedJoint, SeatedSupport};
use crate::edit::{Edit, JoinEdit, SupportChange};
use crate::environment::Environment;
use crate::fastening::Fastening;
use crate::job::Job;
use crate::join::{CLEAR_OF_SEAMS, JointKind, SupportKind, growth};
use crate::measure::{End, Side};
use crate::part_ref::PartRef;
use crate::route::{BranchId, ResolvedRun, SupportId};
use nook_geometry::clearance::Rides;

/// How far in mm a tube may grow between two tabs before it bends them. Ours: what a thin tab gives.
const TABS_GIVE: f64 = 0.5;
/// Air in degrees in which a pipe is made.
const MADE_AT: f64 = 20.0;
/// Tabs whose directions are this near, in degrees, or opposite, hold from one direction only. Ours.
const ONE_WAY: f64 = 30.0;

/// What a pipe's holds are judged by.
pub(crate) struct Holds<'a> {
    pub(crate) pipe: &'a Assembly,
    pub(crate) moves: &'a Moves,
    pub(crate) fastened: &'a [Fastening],
    pub(crate) spans: &'a [FreeSpan],
    pub(crate) around: &'a Environment,
}

/// What is wrong with how the pipe is held.
pub(crate) fn supported(job: &Job, run: &ResolvedRun, holds: &Holds<'_>) -> Vec<Finding> {
    let pipe = holds.pipe;
    let mut all = Vec::new();
    for (support, fastened) in pipe.supports.iter().zip(holds.fastened) {
        all.extend(on_seam(run, pipe, support));
        all.extend(feet(job, run, support, fastened, holds.around));
        all.extend(over_give(run, holds, support));
    }
    if run.hose.is_some() {
        return all;
    }
    for section in 0..pipe.joints.len().saturating_sub(1) {
        let fixing: Vec<&SeatedSupport> = pipe.fixing(section).collect();
        all.extend(both_sides(run, &fixing));
        all.extend(one_way(run, pipe, section, &fixing, holds.fastened));
    }
    all.extend(pipe.beams(holds.moves).iter().filter_map(|beam| grows(run, pipe, beam)));
    all.extend(holds.spans.iter().filter(|span| span.holds() == Some(false)).map(|span| rings(run, span)));
    all.extend([End::A, End::B].into_iter().filter(|end| run.is_open(*end)).map(|end| {
        Finding::new(FindingKind::OpenEnd, Severity::Info, PartRef::End { run: run.id, end }, said::open_end(run, end))
    }));
    if pipe.beam_of(run).is_none() {
        let part = PartRef::Run { run: run.id };
        all.push(Finding::new(FindingKind::SpanUnknown, Severity::Info, part, said::flow_unknown()));
    }
    let shaken = holds.spans.iter().any(|span| span.rides == Rides::Engine);
    if shaken && job.firing().is_none() {
        let part = PartRef::Run { run: run.id };
        all.push(Finding::new(FindingKind::SpanUnknown, Severity::Info, part, said::speed_unknown()));
    }
    all
}

fn part(run: &ResolvedRun, support: SupportId) -> PartRef {
    PartRef::Support { run: run.id, support }
}

/// An edit of one support as something to press.
fn change(run: &ResolvedRun, support: SupportId, label: &str, to: SupportChange) -> Remedy {
    remedy(|_| label.to_owned(), Edit::Join(JoinEdit::ChangeSupport { run: run.id, support, to }))
}

/// A support that lies over a seam, a bead, a hose, a bend or a branch, or nearer to one than torch and clamp want.
fn on_seam(run: &ResolvedRun, pipe: &Assembly, support: &SeatedSupport) -> Option<Finding> {
    let [from, to] = support.reach();
    // A clamp goes all round: a branch is in its way at every clock.
    let branches = pipe.branches.iter().filter(|branch| branch.leg == support.leg);
    let branches = branches.map(|branch| {
        let [start, end] = branch.hole();
        let apart = if support.station < branch.station { start - to } else { from - end };
        (apart, said::Beside::Branch(branch.id))
    });
    let seam = nearest_seam(pipe, support.leg, support.station, [from, to]);
    let (apart, beside) = branches.chain(seam).min_by(|p, q| p.0.total_cmp(&q.0))?;
    if apart >= CLEAR_OF_SEAMS - 1e-6 {
        return None;
    }
    let severity = if apart < 0.0 { Severity::Error } else { Severity::Warning };
    let words = said::on_seam(run, support.id, apart, beside);
    let finding = Finding::new(FindingKind::SupportOnSeam, severity, part(run, support.id), words);
    Some(finding.measured(apart, CLEAR_OF_SEAMS).mended_by(moved(run, pipe, support).into_iter().collect()))
}

/// How far in mm what lies between two stations of a leg is from the nearest seam, seat or bend, below 0 where it lies over it;
/// and which that is.
pub(super) fn nearest_seam(
    pipe: &Assembly,
    leg: usize,
    station: f64,
    [from, to]: [f64; 2],
) -> Option<(f64, said::Beside)> {
    let [start, end] = pipe.straight_stations().get(leg).copied()?;
    // What joints want of the straight: seats with their beads, ferrules, flanges; and the seam of what is welded there.
    let joints = pipe.joints.iter().filter(|joint| joint.is_on(leg));
    let joints = joints.map(|joint| {
        let [before, after] = joint.reach();
        let apart = if station < joint.middle { before - to } else { from - after };
        (apart, said::Beside::Joint(joint.id))
    });
    let bends = [
        leg.checked_sub(1).map(|before| (from - start, said::Beside::Bend(before))),
        (leg < pipe.tube.legs().len()).then_some((end - to, said::Beside::Bend(leg))),
    ];
    let welds = pipe.welds_on(leg).map(|(of, at)| {
        let apart = if station < at { at - to } else { from - at };
        (apart, said::Beside::Weld(of))
    });
    joints.chain(bends.into_iter().flatten()).chain(welds).min_by(|p, q| p.0.total_cmp(&q.0))
}

/// How far in mm what lies between two stations of a leg, beside a third, is from the nearest seam, seat or bend, below 0 where it
/// lies over it; `None` of a leg there is not.
pub(crate) fn clear_of_seams(pipe: &Assembly, leg: usize, station: f64, reach: [f64; 2]) -> Option<f64> {
    nearest_seam(pipe, leg, station, reach).map(|(apart, _)| apart)
}

/// The station nearest to one at which something so long is clear of all that and of what is let in but for `but`, in mm, in the
/// same section.
pub(super) fn clear_place(pipe: &Assembly, long: f64, station: f64, but: Option<BranchId>) -> Option<f64> {
    let places = pipe.places_clear(long, but).into_iter();
    let places = places.filter(|[from, to]| pipe.section_of(f64::midpoint(*from, *to)) == pipe.section_of(station));
    let nearest = places.map(|[from, to]| station.clamp(from, to));
    nearest.min_by(|p, q| (p - station).abs().total_cmp(&(q - station).abs()))
}

/// The nearest place where it is clear.
fn moved(run: &ResolvedRun, pipe: &Assembly, support: &SeatedSupport) -> Option<Remedy> {
    let station = clear_place(pipe, support.kind.long(), support.station, None)?;
    let at = pipe.anchor_at(&run.route, station)?;
    Some(change(run, support.id, "Move it clear", SupportChange::Place { at }))
}

/// Feet that stand too low, or on nothing.
fn feet(
    job: &Job,
    run: &ResolvedRun,
    support: &SeatedSupport,
    fastened: &Fastening,
    around: &Environment,
) -> Vec<Finding> {
    let mut all = Vec::new();
    let lowest = fastened.feet.iter().min_by(|p, q| p.height.total_cmp(&q.height));
    if let Some(foot) = lowest.filter(|foot| foot.height < fastened.least - 1e-6) {
        let on = foot.on.and_then(|thing| super::words::thing_name(job, run, thing));
        let words = said::low(run, support, foot.height, fastened.least, on.as_deref());
        let finding = Finding::new(FindingKind::StandOffLow, Severity::Warning, part(run, support.id), words);
        let mut remedies = Vec::new();
        if support.stand_off.is_some() {
            remedies.push(change(run, support.id, "Let it reach", SupportChange::StandOff { stand_off: None }));
        }
        all.push(finding.measured(foot.height, fastened.least).mended_by(remedies));
    }
    let missing = fastened.feet.iter().filter(|foot| foot.on.is_none()).count();
    // Without a bay nothing can be found; a stand-off that was measured says that something is there.
    if missing > 0 && support.stand_off.is_none() && !around.obstacles.is_empty() {
        let words = said::nothing_there(run, support, missing, fastened.feet.len());
        all.push(Finding::new(FindingKind::NothingToHoldOn, Severity::Warning, part(run, support.id), words));
    }
    all
}

/// A grommet or hanger in which the tube moves further than it gives.
fn over_give(run: &ResolvedRun, holds: &Holds<'_>, support: &SeatedSupport) -> Option<Finding> {
    let gives = support.kind.gives()?;
    let moved = moved_in(holds, support)?;
    if moved <= gives {
        return None;
    }
    let words = said::over_give(run, support, moved, gives);
    let finding = Finding::new(FindingKind::SupportOverGive, Severity::Error, part(run, support.id), words);
    Some(finding.measured(moved, gives))
}

/// How far in mm the tube moves in a support at most, as the engine does and as it gets hot; `None` where it does not.
pub(crate) fn moved_in(holds: &Holds<'_>, support: &SeatedSupport) -> Option<f64> {
    let section = holds.pipe.section_of(support.station)?;
    let from_body = support.to == Side::Body;
    match holds.moves.rides.get(section)? {
        Rides::Floats(floats) => {
            let movement = if from_body { &floats.from_body } else { &floats.from_engine };
            Some(movement.travel(&(support.place(), 0.0)))
        }
        Rides::Body if from_body => None,
        Rides::Engine if !from_body => None,
        Rides::Body | Rides::Engine => holds.moves.engine().map(|engine| engine.travel(&(support.place(), 0.0))),
        Rides::Between => None,
    }
}

/// Supports of one section on both sides.
fn both_sides(run: &ResolvedRun, fixing: &[&SeatedSupport]) -> Option<Finding> {
    let first = fixing.first()?;
    let other = fixing.iter().find(|one| one.to != first.to)?;
    let words = said::both_sides(run, first, other);
    let remedies = [(other, first.to), (first, other.to)].map(|(which, to)| {
        let name = run.route.support_name(which.id).unwrap_or_default();
        change(run, which.id, &format!("{name} to the {}", to.word()), SupportChange::To { to })
    });
    let finding = Finding::new(FindingKind::HeldOnBothSides, Severity::Error, part(run, other.id), words);
    Some(finding.mended_by(remedies.into()))
}

/// A tube that grows between two tabs, or between a tab and a port it is fixed to without give.
fn grows(run: &ResolvedRun, pipe: &Assembly, beam: &BeamOfPipe) -> Option<Finding> {
    let [from, to] = beam.stations;
    let tabs: Vec<&SeatedSupport> =
        pipe.supports.iter().filter(|one| one.kind.holds_along() && (from..=to).contains(&one.station)).collect();
    let last = *tabs.last()?;
    let firm = |joint: &&SeatedJoint| joint.end.is_some() && joint.spec.give.is_none() && joint.kind != JointKind::Open;
    let ports = [beam.sections[0], beam.sections[1] + 1].map(|joint| &pipe.joints[joint]);
    let ports = ports.into_iter().filter(firm).map(|joint| (joint.place, said::Fixed::Port(joint.id)));
    let others = tabs.iter().filter(|one| one.id != last.id).map(|one| (one.place(), said::Fixed::Tab(one.id)));
    let apart = |place: &nalgebra::Point3<f64>| (last.place() - place).norm();
    let (place, other) = ports.chain(others).max_by(|p, q| apart(&p.0).total_cmp(&apart(&q.0)))?;
    let apart = apart(&place);
    let grown = growth(apart, run.tube.material().expansion(), run.celsius() - MADE_AT).abs();
    if grown <= TABS_GIVE {
        return None;
    }
    let words = said::grows(run, last.id, other, apart, grown);
    let finding = Finding::new(FindingKind::NoRoomToGrow, Severity::Warning, part(run, last.id), words);
    let slide = change(run, last.id, "Let it slide in clamps", SupportChange::Kind { kind: SupportKind::Clamps });
    Some(finding.measured(grown, TABS_GIVE).mended_by(vec![slide]))
}

/// A section that nothing but tabs from one direction holds, whatever its joints let it do sideways.
fn one_way(
    run: &ResolvedRun,
    pipe: &Assembly,
    section: usize,
    fixing: &[&SeatedSupport],
    fastened: &[Fastening],
) -> Option<Finding> {
    let stiff = [section, section + 1].iter().any(|joint| {
        let joint = &pipe.joints[*joint];
        joint.spec.give.is_none() && joint.kind != JointKind::Open
    });
    let mut others = pipe.supports.iter().filter(|one| one.kind != SupportKind::Tab);
    let held = others.any(|one| pipe.section_of(one.station) == Some(section));
    if stiff || held {
        return None;
    }
    let first = fixing.first()?;
    let way = |one: &SeatedSupport| {
        let clock = fastened.iter().find(|other| other.support == one.id)?.clock?;
        Some(one.travel.at_clock(clock.to_radians()).into_inner())
    };
    let from = way(first)?;
    let steep = fixing.iter().filter_map(|one| way(one)).map(|other| from.dot(&other).abs().clamp(0.0, 1.0).acos());
    let widest = steep.fold(0.0, f64::max).to_degrees();
    if widest >= ONE_WAY {
        return None;
    }
    let words = said::one_way(run, first, fixing.len());
    let finding = Finding::new(FindingKind::HeldOneWay, Severity::Warning, part(run, first.id), words);
    let clamps = change(run, first.id, "Use clamps from two sides", SupportChange::Kind { kind: SupportKind::Clamps });
    Some(finding.mended_by(vec![clamps]))
}

/// A stretch whose frequency is met in running.
fn rings(run: &ResolvedRun, span: &FreeSpan) -> Finding {
    let place = match span.between {
        [_, at @ PartRef::Support { .. }] | [at @ PartRef::Support { .. }, _] => at,
        [at, _] => at,
    };
    let finding = Finding::new(FindingKind::SpanRings, Severity::Warning, place, said::rings(run, span));
    finding.measured(span.hz, span.least.unwrap_or(0.0))
}

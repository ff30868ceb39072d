//! What is wrong with what is let into a pipe, and where it lacks a bleed. Source: handbook, "Joints, fittings, hoses and
//! supports", Let into the tube; "Mistakes the product must foresee", 37.

use super::remedy::remedy;
use super::supported::{clear_place, nearest_seam};
use super::words::branched as said;
use super::words::supported::Beside;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::{Assembly, BoreExtreme, SeatedBranch};
use crate::edit::{BranchChange, Edit, JoinEdit};
use crate::environment::{Environment, Thing};
use crate::join::{BranchKind, CLEAR_OF_SEAMS, WAY_IN};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::reach::own_pipe;
use crate::route::ResolvedRun;
use crate::stock::Duty;
use nook_geometry::clearance::{Convex, EnvelopePart, Obstacle, Part, Rides, Solid, Span, nearest};
use nook_geometry::units::Rotation;

/// What is wrong with the branches of a pipe.
pub(crate) fn branched(run: &ResolvedRun, pipe: &Assembly, around: &Environment) -> Vec<Finding> {
    let mut all = Vec::new();
    for branch in &pipe.branches {
        all.extend(seated(run, pipe, branch));
        all.extend(elsewhere(run, branch));
        all.extend(in_shadow(run, pipe, branch));
        all.extend(no_way_in(run, pipe, branch, around));
    }
    all.extend(trapped(run, pipe));
    all
}

fn part(run: &ResolvedRun, branch: &SeatedBranch) -> PartRef {
    PartRef::Branch { run: run.id, branch: branch.id }
}

/// A hole over a seam, a seat or a bend, or nearer to one than a torch wants; and a branch that is wider than its tube.
fn seated(run: &ResolvedRun, pipe: &Assembly, branch: &SeatedBranch) -> Option<Finding> {
    if let Err(error) = &branch.saddle {
        let words = said::does_not_sit(run, branch, *error);
        return Some(Finding::new(FindingKind::BranchDoesNotSit, Severity::Error, part(run, branch), words));
    }
    if let Some(least) = branch.saddle.ok().map(|saddle| saddle.stands_out()).filter(|least| *least > branch.reach) {
        let words = said::too_short(run, branch, least);
        let finding = Finding::new(FindingKind::BranchDoesNotSit, Severity::Error, part(run, branch), words);
        return Some(finding.measured(branch.reach, least));
    }
    let [from, to] = branch.hole();
    let others = pipe.branches.iter().filter(|other| other.leg == branch.leg && other.id != branch.id);
    let others = others.map(|other| (branch.apart(other, run.tube.od()), Beside::Branch(other.id)));
    let seam = nearest_seam(pipe, branch.leg, branch.station, [from, to]);
    let (apart, beside) = others.chain(seam).min_by(|p, q| p.0.total_cmp(&q.0))?;
    if apart >= CLEAR_OF_SEAMS - 1e-6 {
        return None;
    }
    let severity = if apart < 0.0 { Severity::Error } else { Severity::Warning };
    let words = said::on_seam(run, branch, apart, beside);
    // One that leans pierces the skin beside the middle of its hole.
    let middle = f64::midpoint(from, to);
    let moved = clear_place(pipe, to - from, middle, Some(branch.id)).map(|station| station + branch.station - middle);
    let remedies = moved.and_then(|station| pipe.anchor_at(&run.route, station)).map(|at| {
        let to = BranchChange::Place { at };
        let edit = JoinEdit::ChangeBranch { run: run.id, branch: branch.id, to };
        remedy(|_| "Move it clear".to_owned(), Edit::Join(edit))
    });
    let finding = Finding::new(FindingKind::BranchOnSeam, severity, part(run, branch), words);
    Some(finding.measured(apart, CLEAR_OF_SEAMS).mended_by(remedies.into_iter().collect()))
}

/// Something let into a pipe in which it does not do what it is for.
fn elsewhere(run: &ResolvedRun, branch: &SeatedBranch) -> Option<Finding> {
    let words = said::elsewhere(run, branch);
    let finding = Finding::new(FindingKind::BranchElsewhere, Severity::Warning, part(run, branch), words);
    (!branch.kind.belongs_in(run.duty)).then_some(finding)
}

/// So many bores after a bend the stream has filled its inside again. Ours: a bend's wake is mixed out within two or three.
const WAKE: f64 = 2.0;
/// A branch within so many degrees of a bend's inside is in its wake. Ours.
const INSIDE: f64 = 60.0;

/// A temperature sensor on the inside just after a bend, where the stream has left the wall and the air stands. From A to B is the
/// way it flows in what such a sensor belongs into.
fn in_shadow(run: &ResolvedRun, pipe: &Assembly, branch: &SeatedBranch) -> Option<Finding> {
    if branch.kind != BranchKind::TemperatureSensor {
        return None;
    }
    let bend = branch.leg.checked_sub(1)?;
    let step = pipe.whole.legs().get(bend)?;
    let after = branch.station - pipe.straight_stations().get(branch.leg)?[0];
    let wanted = WAKE * run.tube.bore();
    let mut travel = pipe.whole.setting_out();
    for leg in pipe.whole.legs().iter().take(bend + 1) {
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle);
    }
    let off = branch.out.dot(&travel.clock().into_inner()).clamp(-1.0, 1.0).acos().to_degrees();
    if after >= wanted || off >= INSIDE || step.bend.angle < SLIGHT.to_radians() {
        return None;
    }
    let at = run.route.branch(branch.id)?.clock();
    let turned = Rotation::new((at + 180.0).rem_euclid(360.0)).ok().map(|clock| {
        let to = BranchChange::Clock { clock: Some(clock) };
        let edit = JoinEdit::ChangeBranch { run: run.id, branch: branch.id, to };
        remedy(|_| "Turn it to the outside of the bend".to_owned(), Edit::Join(edit))
    });
    let words = said::in_shadow(run, branch, bend, after, wanted);
    let finding = Finding::new(FindingKind::SensorInShadow, Severity::Warning, part(run, branch), words);
    Some(finding.measured(after, wanted).mended_by(turned.into_iter().collect()))
}

/// A bend of fewer degrees leaves no wake to speak of. Ours.
const SLIGHT: f64 = 15.0;

/// What is in the way of a stem or a hose that goes in along the branch's axis; how far beyond its tip that is, in mm.
pub(crate) fn way_in(
    run: &ResolvedRun,
    pipe: &Assembly,
    branch: &SeatedBranch,
    around: &Environment,
) -> Option<(f64, Thing)> {
    // Beside what is around, the pipe itself away from its straight, and what else is let in.
    let own = own_pipe(run, pipe, branch.leg);
    let stubs = pipe.branches.iter().filter(|other| other.id != branch.id).map(|other| {
        let (middle, half, radius) = (other.at + other.out * (other.reach / 2.0), other.reach / 2.0, other.od / 2.0);
        let drum = Convex::Drum { middle, axis: other.out, half, radius };
        Obstacle::new(0.0, vec![Part::new(Solid::Convex(drum), None, Rides::Body)])
    });
    let own: Vec<Obstacle> = std::iter::once(own).chain(stubs).collect();
    let meets = |long: f64, obstacle: &Obstacle| {
        let span = Span::between(branch.tip(), branch.tip() + branch.out * long);
        let (radius, stations) = (branch.od / 2.0, [0.0, 1.0]);
        let stem = EnvelopePart { span, radius, rides: Rides::Body, stations, square: [true; 2] };
        nearest([&stem], obstacle, None, 0.0).is_some_and(|near| near.gap < 0.0)
    };
    // What goes on from a stub is what goes in.
    let (tip, all) = (branch.tip(), around.obstacles.iter().enumerate());
    let each = all.zip(around.identities.iter().map(|identity| identity.thing));
    let each = each.filter(|((index, _), _)| !around.goes_on_from(&tip, *index)).map(|((_, one), thing)| (one, thing));
    let each = each.chain(own.iter().map(|own| (own, Thing::Itself)));
    let met = each.filter(|(obstacle, _)| meets(WAY_IN, obstacle)).map(|(obstacle, thing)| {
        let (mut free, mut taken) = (0.0, WAY_IN);
        while taken - free > FINE {
            let tried = f64::midpoint(free, taken);
            if meets(tried, obstacle) { taken = tried } else { free = tried }
        }
        (free, thing)
    });
    met.min_by(|p, q| p.0.total_cmp(&q.0))
}

/// Room is told to this, in mm.
const FINE: f64 = 0.05;

fn no_way_in(run: &ResolvedRun, pipe: &Assembly, branch: &SeatedBranch, around: &Environment) -> Option<Finding> {
    let (room, thing) = way_in(run, pipe, branch, around)?;
    let by = around.name_of(thing);
    let words = said::no_way_in(run, branch, room, &by);
    let finding = Finding::new(FindingKind::NoWayIn, Severity::Error, part(run, branch), words);
    Some(finding.measured(room, WAY_IN).against(thing))
}

/// A high at which air stays, with the bleed that lets it out.
fn trapped(run: &ResolvedRun, pipe: &Assembly) -> Vec<Finding> {
    if run.duty != Duty::Coolant {
        return Vec::new();
    }
    let radius = run.tube.bore() / 2.0;
    let highs = pipe.bore_extremes(radius).into_iter().filter(|one| one.high);
    let unserved = highs.filter(|high| !pipe.branches.iter().any(|branch| branch.serves(high, pipe, radius)));
    let told = unserved.map(|high| {
        let words = said::trapped(run, pipe, high.station);
        let finding = Finding::new(FindingKind::AirTrapped, Severity::Warning, part_at(run, pipe, high.station), words);
        // Nothing is let into a hose.
        let mend = if run.hose.is_some() { None } else { let_in_at(run, pipe, &high, BranchKind::Bleed) };
        let label = |_| "Let in a bleed there".to_owned();
        finding.mended_by(mend.map(|edit| remedy(label, edit)).into_iter().collect::<Vec<Remedy>>())
    });
    told.collect()
}

/// The edit that lets in what serves a high or a low, where a straight near enough has room for it.
pub(crate) fn let_in_at(run: &ResolvedRun, pipe: &Assembly, extreme: &BoreExtreme, kind: BranchKind) -> Option<Edit> {
    let radius = run.tube.bore() / 2.0;
    let station = clear_place(pipe, kind.usual_od(), extreme.station, None)?;
    let at = pipe.anchor_at(&run.route, station)?;
    let edit = Edit::Join(JoinEdit::AddBranch { run: run.id, at, kind });
    let served = |branch: &SeatedBranch| branch.serves(extreme, pipe, radius);
    let seated = pipe.with_branch(run, at, kind)?;
    served(&seated).then_some(edit)
}

/// What a station is on: a straight, a bend, or an end.
fn part_at(run: &ResolvedRun, pipe: &Assembly, station: f64) -> PartRef {
    let mut start = 0.0;
    for (index, step) in pipe.whole.legs().iter().enumerate() {
        if station <= start + step.straight {
            return PartRef::Straight { run: run.id, straight: run.route.leg_id(index) };
        }
        start += step.straight + step.bend.length();
        if station <= start {
            return PartRef::Bend { run: run.id, bend: run.route.bend_id(index) };
        }
    }
    if station <= pipe.whole.length() {
        return PartRef::Straight { run: run.id, straight: run.route.leg_id(pipe.whole.legs().len()) };
    }
    PartRef::End { run: run.id, end: End::B }
}

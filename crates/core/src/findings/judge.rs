//! Looking a run over: its path, how its bends are made, and every problem.

use super::{Problem, Severity};
use crate::assembly::{Assembly, BeadWhen};
use crate::join::{BELLOWS, JointKind, LEAST_HUMP, SizeMatch, widest_gap};
use crate::measure::{End, EndForm};
use crate::part_ref::PartRef;
use crate::route::{BendMake, ElbowMake, KitPie, ResolvedMake, StockElbow, least_between_bends, least_throat, ways};
use crate::route::{Joint, JointAnchor, JointId, ResolvedRun, joint_needs, taken_of_leg};
use crate::stock::{Duty, MOULDED_GIVE, Material, nearest_moulded, unfit};
use nook_geometry::units::OutsideDiameter;
use nook_geometry::{Arc, Path};

/// What can be told of a run before any piece is planned.
#[derive(Debug, Clone)]
pub struct Assessment {
    /// The pipe; `None` where the way does not join the ports.
    pub pipe: Option<Assembly>,
    /// What is wrong, worst first.
    pub problems: Vec<(PartRef, Problem)>,
}

/// Most degrees a saw sets over.
const MOST_SAW: f64 = 45.0;
/// Shortfalls below this, in mm, are rounding.
const HAIR: f64 = 1e-6;
/// Bends that overlap by more than this, in mm, make no pipe.
const OVERLAP: f64 = HAIR;

/// Bends with less than this between them, in mm, meet.
const MEETING: f64 = 0.05;
/// Planes that differ by less than this, in radians, are one: what a saw cut shows.
const SAME_WAY: f64 = 0.0044;

impl Assessment {
    /// Whether it is a pipe: a way that joins its ports without bends that overlap.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        self.pipe.as_ref().is_some_and(|pipe| pipe.tube.straights().all(|straight| straight > -OVERLAP))
    }
}

/// Looks `run` over.
#[must_use]
pub fn assess(run: &ResolvedRun) -> Assessment {
    let mut found = Assessment { pipe: None, problems: Vec::new() };
    let mut all_there = true;
    for end in [End::A, End::B] {
        if run.is_off_its_stub(end) {
            found.problems.push((PartRef::End { run: run.id, end }, Problem::StubNotThere));
            all_there = false;
        }
        judge_joint(run, end, &mut found.problems);
    }
    // Nothing is made to a mouth of which nobody knows where it is.
    if all_there {
        judge_way(run, &mut found);
    }
    found.problems.sort_by_key(|(_, problem)| problem.severity());
    found
}

fn judge_way(run: &ResolvedRun, found: &mut Assessment) {
    match Assembly::build(run) {
        None => {
            let problem = ways(run).none.map_or(Problem::NoWayTaken, Problem::NoRoute);
            found.problems.push((PartRef::Run { run: run.id }, problem));
        }
        Some(Err(why)) => found.problems.push((PartRef::Run { run: run.id }, Problem::DoesNotJoin(why))),
        Some(Ok(pipe)) => {
            judge_straights(run, &pipe, &mut found.problems);
            judge_joints(run, &pipe, &mut found.problems);
            judge_bends(run, &pipe, &mut found.problems);
            if run.hose.is_none() {
                judge_beads(run, &pipe, &mut found.problems);
            }
            found.pipe = Some(pipe);
        }
    }
}

/// What is left of a component's neck, against what sits on it and what must stay.
fn judge_neck(run: &ResolvedRun, end: End, problems: &mut Vec<(PartRef, Problem)>) {
    let (Some(neck), joint) = (&run.port(end).neck, run.joint(end).kind) else { return };
    let place = PartRef::End { run: run.id, end };
    let (have, need, must_stay) = (neck.left(), run.neck_needed(end), neck.must_stay.get());
    if let Some(why) = run.neck_cut(end).and_then(|cut| cut.problem) {
        problems.push((place, Problem::NeckImpossible(why)));
    }
    if have < need - HAIR {
        problems.push((place, Problem::ShortNeck { have, need, joint }));
    }
    if have < must_stay - HAIR {
        problems.push((place, Problem::NeckCutAway { left: have, must_stay }));
    }
}

fn judge_joint(run: &ResolvedRun, end: End, problems: &mut Vec<(PartRef, Problem)>) {
    let (port, joint) = (run.port(end), run.joint(end));
    let place = PartRef::End { run: run.id, end };
    judge_neck(run, end, problems);
    // A hose's own ends are judged for themselves.
    if matches!(joint.kind, JointKind::Open | JointKind::HoseEnd) {
        return;
    }
    let (port_od, tube) = (port.od.get(), run.tube.od());
    let refused = match port.form {
        EndForm::Plain | EndForm::Beaded => false,
        EndForm::Barbed => joint.kind.is_welded_on(),
        EndForm::Flanged | EndForm::Threaded => joint.kind.has_hose() || joint.kind.is_welded_on(),
    };
    if refused {
        problems.push((place, Problem::HoseOnMetal { form: port.form, joint: joint.kind }));
    }
    match (SizeMatch::of(port_od, tube), joint.kind) {
        (SizeMatch::Good, JointKind::Reducer) => problems.push((place, Problem::NeedlessReducer)),
        (SizeMatch::Good, _) | (_, JointKind::Reducer) => {}
        (SizeMatch::Stretch | SizeMatch::Reducer, joint) => {
            problems.push((place, Problem::SizesDiffer { port: port_od, tube, joint }));
        }
    }
    let fused = joint.kind == JointKind::Metal && matches!(port.form, EndForm::Plain | EndForm::Beaded);
    if let Some(metal) = port.metal.filter(|metal| fused && !metal.fuses_with(run.tube.material())) {
        problems.push((place, Problem::TwoMetals { port: metal, tube: run.tube.material() }));
    }
    judge_kind(run, joint, run.gap(end), place, problems);
}

/// Why a kind of joint may not be on a pipe at all, whatever its place: its heat, its pressure, what it is for; `None` where it
/// may.
#[must_use]
pub fn refused_kind(run: &ResolvedRun, kind: JointKind) -> Option<Problem> {
    let joint = Joint::new(JointId(0), JointAnchor::End { end: End::A }, kind);
    let gap = joint_needs(run, &joint).gap;
    let mut problems = Vec::new();
    judge_kind(run, &joint, gap, PartRef::Run { run: run.id }, &mut problems);
    problems.into_iter().map(|(_, problem)| problem).find(|problem| problem.severity() == Severity::Error)
}

/// What a joint must be wherever it stands: its gap, its heat, its pressure, its part.
fn judge_kind(run: &ResolvedRun, joint: &Joint, gap: f64, place: PartRef, problems: &mut Vec<(PartRef, Problem)>) {
    let (kind, tube) = (joint.kind, run.tube.od());
    let spec = joint.spec(tube);
    let mut told = |problem: Problem| problems.push((place, problem));
    let widest = match kind {
        JointKind::Bellows => Some(BELLOWS[1]),
        JointKind::Hump => widest_gap(kind, run.tube.bore()),
        _ => widest_gap(kind, run.tube.bore()).filter(|_| run.duty.is_boost()),
    };
    if let Some(most) = widest.filter(|most| gap > most + HAIR) {
        told(Problem::WideGap { gap, most, joint: kind });
    }
    let shortest = match kind {
        JointKind::Bellows => BELLOWS[0],
        JointKind::Hump => LEAST_HUMP,
        _ => 0.0,
    };
    if gap < shortest - HAIR {
        told(Problem::NarrowGap { gap, least: shortest });
    }
    if matches!(kind, JointKind::Slip | JointKind::Bellows) && run.duty != Duty::Exhaust {
        told(Problem::NotForThis { joint: kind });
    }
    let celsius = run.celsius();
    if let Some(most) = spec.celsius.filter(|most| celsius > *most) {
        told(Problem::TooHot { joint: kind, celsius, most });
    }
    if let Some(most) = spec.bar.filter(|most| run.bar() > most + HAIR) {
        told(Problem::TooMuchPressure { joint: kind, bar: run.bar(), most });
    }
    let unfit = unfit(Material::Silicone, run.duty).filter(|_| kind.has_hose());
    // What is too hot for it is told already.
    if let Some(why) = unfit.filter(|_| spec.celsius.is_none_or(|most| celsius <= most)) {
        told(Problem::UnfitHose { joint: kind, why });
    }
    let made_for = joint.part.as_ref().and_then(|part| part.od).map(OutsideDiameter::get);
    if let Some(part) = made_for.filter(|part| SizeMatch::of(*part, tube) != SizeMatch::Good) {
        told(Problem::PartSize { part, tube });
    }
}

fn judge_straights(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    let tube = &pipe.tube;
    let bends = tube.legs().len();
    for (straight, length) in tube.straights().enumerate() {
        let place = PartRef::Straight { run: run.id, straight: run.route.leg_id(straight) };
        let [before, after] = taken_of_leg(run, &run.route, straight);
        let seats = before + after;
        if length < -OVERLAP {
            problems.push((place, Problem::NegativeStraight { length }));
        } else if seats > 0.0 && length < seats - HAIR {
            let end = if straight == 0 && before > 0.0 {
                Some(End::A)
            } else {
                (straight == bends && after > 0.0).then_some(End::B)
            };
            let elbow = || pipe.joint_in_bend(straight).or_else(|| pipe.joint_in_bend(straight.checked_sub(1)?));
            let (place, joint) = match (end, elbow()) {
                (Some(end), _) => (PartRef::End { run: run.id, end }, run.joint(end).kind),
                (None, Some(elbow)) => (elbow.part(run), elbow.kind),
                (None, None) => continue,
            };
            problems.push((place, Problem::ShortSeat { have: length, need: seats, joint }));
        } else if straight > 0
            && straight < bends
            && run.hose.is_none()
            && length < least_between_bends(run) - HAIR
            && !meet(tube, straight)
            && !(length >= 0.0 && [straight - 1, straight].iter().all(|bend| pipe.elbow(*bend).is_some()))
        {
            let least = least_between_bends(run);
            let drawn = pipe.makes[straight - 1..=straight].iter().all(|make| *make == ResolvedMake::Drawn);
            problems.push((place, Problem::ShortStraight { length, least, drawn }));
        }
    }
}

/// Whether the bends before and after a straight meet and go on turning the same way, so that they are one bend: two of 90
/// degrees make one of 180, which no vertex can say.
fn meet(tube: &Path, straight: usize) -> bool {
    let legs = tube.legs();
    let one = |leg: &nook_geometry::PathStep| leg.straight.abs() < MEETING && leg.bend.rotation.abs() < SAME_WAY;
    let radius = |bend: Option<usize>| bend.and_then(|bend| legs.get(bend)).map(|leg| leg.bend.radius);
    let same = radius(straight.checked_sub(1)) == radius(Some(straight));
    legs.get(straight).is_some_and(one) && same
}

fn judge_joints(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    let straights: Vec<f64> = pipe.tube.straights().collect();
    // Sections meet where one ends; whichever joint bounds one that has no length is told of it.
    let sections = pipe.sections();
    for (index, joint) in pipe.between().iter().enumerate() {
        let place = joint.part(run);
        let have = straights.get(joint.leg).copied().unwrap_or(0.0);
        let overlap = sections[index..=index + 1].iter().any(|[from, to]| *to <= *from) || have < joint.needs.gap;
        if joint.short > HAIR && have >= -OVERLAP {
            problems.push((place, Problem::ShortRoom { have, need: have + joint.short, overlap }));
        }
        if let Some(decided) = run.route.joint(joint.id) {
            judge_kind(run, decided, joint.needs.gap, place, problems);
        }
    }
}

/// Beads that a roller does not reach any more, or that nothing reaches.
fn judge_beads(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    let beads = pipe.beads();
    let joint = |id| pipe.joints.iter().find(|joint| joint.id == id);
    for bead in beads.iter().filter(|bead| bead.when == BeadWhen::NoRoom) {
        if let Some((joint, straight)) = joint(bead.joint).zip(bead.straight) {
            problems.push((joint.part(run), Problem::NoRoomForBead { straight }));
        }
    }
    let first = |when| matches!(when, BeadWhen::BeforeWelding | BeadWhen::BeforeBending | BeadWhen::Crimped);
    let first: Vec<f64> = beads.iter().filter(|bead| first(bead.when)).filter_map(|bead| bead.straight).collect();
    if let Some(straight) = first.iter().copied().min_by(f64::total_cmp) {
        problems.push((PartRef::Run { run: run.id }, Problem::BeadFirst { count: first.len(), straight }));
    }
}

fn judge_kit(place: PartRef, pie: KitPie, arc: &Arc, problems: &mut Vec<(PartRef, Problem)>) {
    let radius = pie.radius.get();
    if (radius - arc.radius).abs() > StockElbow::SAME_RADIUS {
        problems.push((place, Problem::ElbowRadius { radius: arc.radius, elbow: radius }));
    }
    if pie.count(arc.angle) == 0 {
        problems.push((place, Problem::PieTooWide { degrees: arc.angle.to_degrees(), pie: pie.angle.get() }));
    }
}

fn judge_elbow(place: PartRef, elbow: &ElbowMake, arc: &Arc, problems: &mut Vec<(PartRef, Problem)>) {
    let (radius, degrees) = (elbow.stock.radius.get(), arc.angle.to_degrees());
    if (radius - arc.radius).abs() > StockElbow::SAME_RADIUS {
        problems.push((place, Problem::ElbowRadius { radius: arc.radius, elbow: radius }));
    }
    if degrees - elbow.stock.angle.get() > StockElbow::WHOLE {
        problems.push((place, Problem::ElbowTooSmall { degrees, elbow: elbow.stock.angle.get() }));
    }
    if elbow.trimmed.is_some() {
        problems.push((place, Problem::OutOfRound { elbow: true }));
    }
}

/// Tube whose wall is thinner than this share of its diameter is pressed oval in a vice. Source: handbook, mistake 16, which names wall
/// over diameter and no figure; this is ours.
const THIN: f64 = 1.0 / 45.0;

fn judge_bends(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    if run.hose.is_none() && run.tube.wall() < THIN * run.tube.od() {
        problems.push((PartRef::Run { run: run.id }, Problem::OutOfRound { elbow: false }));
    }
    for piece in &pipe.unspliced {
        let place = PartRef::Straight { run: run.id, straight: run.route.leg_id(piece.leg) };
        problems.push((place, Problem::NoPlaceForSplice { takes: piece.takes, longest: piece.longest }));
    }
    // A hose's bends are judged by how it is built.
    let makes = pipe.makes.iter().enumerate().filter(|_| run.hose.is_none());
    for (bend, make) in makes {
        let place = PartRef::Bend { run: run.id, bend: run.route.bend_id(bend) };
        let arc = pipe.tube.legs()[bend].bend;
        if let ResolvedMake::Elbow(elbow) = make {
            judge_elbow(place, elbow, &arc, problems);
            continue;
        }
        if let ResolvedMake::KitPies { pie, .. } = make {
            judge_kit(place, *pie, &arc, problems);
        }
        let Some(cut) = make.pies_cut() else {
            let radius = arc.radius;
            let moulded = *make == ResolvedMake::Moulded;
            // A moulded elbow's bore is the tube's outside.
            let od = run.tube.od();
            let least = if moulded { od } else { BendMake::Drawn.least_radius(od) };
            if radius < least - HAIR {
                problems.push((place, Problem::TightBend { radius, least, none: od / 2.0, moulded }));
            }
            let degrees = arc.angle.to_degrees();
            let nearest = nearest_moulded(degrees);
            if moulded && (degrees - nearest).abs() > MOULDED_GIVE + HAIR {
                problems.push((place, Problem::ElbowAngle { degrees, nearest, most: MOULDED_GIVE }));
            }
            continue;
        };
        let degrees = cut.saw.max(cut.end_saw).to_degrees();
        if degrees > MOST_SAW + 1e-9 {
            problems.push((place, Problem::SawTooFar { degrees, most: MOST_SAW }));
        } else if cut.pies > 0 && cut.throat < least_throat(run.tube) - HAIR {
            // A single mitre has no full pie and so no throat to be thin.
            let (throat, least) = (cut.throat, least_throat(run.tube));
            let seams = u8::try_from(make.mitres().unwrap_or(0)).unwrap_or(u8::MAX);
            problems.push((place, Problem::ThinThroat { throat, least, seams }));
        }
        let most = run.tube.wall() / 2.0;
        if cut.end_step > most + HAIR {
            problems.push((place, Problem::EndStep { step: cut.end_step, most }));
        }
    }
}

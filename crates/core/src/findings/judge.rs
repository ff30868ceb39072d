//! Looking a run over: its path, how its bends are made, and every problem.

use super::Problem;
use crate::assembly::Assembly;
use crate::join::{JointKind, SizeMatch};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use crate::route::{BendMake, PieEnds, ResolvedMake, least_between_bends, least_throat, ways};
use nook_geometry::Path;
use nook_geometry::units::SeamCount;

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
    for end in [End::A, End::B] {
        judge_joint(run, end, &mut found.problems);
    }
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
            found.pipe = Some(pipe);
        }
    }
    found.problems.sort_by_key(|(_, problem)| problem.severity());
    found
}

fn judge_joint(run: &ResolvedRun, end: End, problems: &mut Vec<(PartRef, Problem)>) {
    let (port, joint) = (run.port(end), run.joint(end));
    let place = PartRef::End { run: run.id, end };
    let (port_od, tube) = (port.od.get(), run.tube.od());
    if joint.kind.has_hose() && !port.form.takes_hose() {
        problems.push((place, Problem::HoseOnMetal { form: port.form }));
    }
    match (SizeMatch::of(port_od, tube), joint.kind) {
        (SizeMatch::Good, JointKind::Reducer) => problems.push((place, Problem::NeedlessReducer)),
        (SizeMatch::Good, _) | (_, JointKind::Reducer) => {}
        (SizeMatch::Stretch | SizeMatch::Reducer, joint) => {
            problems.push((place, Problem::SizesDiffer { port: port_od, tube, joint }));
        }
    }
    let (gap, most) = (run.gap(end), run.tube.bore() / 2.0);
    if run.duty.is_boost() && gap > most + HAIR {
        problems.push((place, Problem::WideGap { gap, most }));
    }
}

fn judge_straights(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    let tube = &pipe.tube;
    let bends = tube.legs().len();
    for (straight, length) in tube.straights().enumerate() {
        let place = PartRef::Straight { run: run.id, straight: run.route.leg_id(straight) };
        let at_a = if straight == 0 { run.straight_needed(End::A) } else { 0.0 };
        let at_b = if straight == bends { run.straight_needed(End::B) } else { 0.0 };
        let seats = at_a + at_b;
        if length < -OVERLAP {
            problems.push((place, Problem::NegativeStraight { length }));
        } else if seats > 0.0 && length < seats - HAIR {
            let end = if at_a > 0.0 { End::A } else { End::B };
            problems.push((PartRef::End { run: run.id, end }, Problem::ShortSeat { have: length, need: seats }));
        } else if straight > 0
            && straight < bends
            && length < least_between_bends(run.tube) - HAIR
            && !meet(tube, straight)
        {
            let least = least_between_bends(run.tube);
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
    let most = run.tube.bore() / 2.0;
    // Sections meet where one ends; whichever joint bounds one that has no length is told of it.
    let sections = pipe.sections();
    for (index, joint) in pipe.between().iter().enumerate() {
        let place = joint.part(run);
        let have = straights.get(joint.leg).copied().unwrap_or(0.0);
        let overlap = sections[index..=index + 1].iter().any(|[from, to]| *to <= *from) || have < joint.needs.gap;
        if joint.short > HAIR && have >= -OVERLAP {
            problems.push((place, Problem::ShortRoom { have, need: have + joint.short, overlap }));
        }
        if run.duty.is_boost() && joint.needs.gap > most + HAIR {
            problems.push((place, Problem::WideGap { gap: joint.needs.gap, most }));
        }
    }
}

fn judge_bends(run: &ResolvedRun, pipe: &Assembly, problems: &mut Vec<(PartRef, Problem)>) {
    for (bend, make) in pipe.makes.iter().enumerate() {
        let place = PartRef::Bend { run: run.id, bend: run.route.bend_id(bend) };
        let ResolvedMake::Pies { seams, ends, cut } = make else {
            let radius = pipe.tube.legs()[bend].bend.radius;
            let least = BendMake::Drawn.least_radius(run.tube.od());
            if radius < least - HAIR {
                problems.push((place, Problem::TightBend { radius, least, none: run.tube.od() / 2.0 }));
            }
            continue;
        };
        // A single mitre has no full pie and so no throat to be thin.
        let has_pies = *ends == PieEnds::Square || *seams > SeamCount::ONE;
        if cut.saw.to_degrees() > MOST_SAW + 1e-9 {
            let degrees = cut.saw.to_degrees();
            problems.push((place, Problem::SawTooFar { degrees, most: MOST_SAW }));
        } else if has_pies && cut.throat < least_throat(run.tube) - HAIR {
            let (throat, least) = (cut.throat, least_throat(run.tube));
            problems.push((place, Problem::ThinThroat { throat, least, seams: seams.get() }));
        }
        let most = run.tube.wall() / 2.0;
        if cut.end_step > most + HAIR {
            problems.push((place, Problem::EndStep { step: cut.end_step, most }));
        }
    }
}

//! What is always true of a job.

use std::collections::{HashMap, HashSet};

use super::{Invalid, Job};
use crate::join::{JointKind, SupportKind};
use crate::measure::{
    Anchor, Component, End, FootPlace, Holding, KeepOutId, KeepOutShape, MatchedTo, Measurand, Reading, Spot, Taken,
};
use crate::route::{BendId, Joint, Route, Run};
use nook_geometry::units::Name;

impl Job {
    /// Checks everything that is always true of a job.
    ///
    /// # Errors
    /// The first [`Invalid`] found.
    pub fn check(&self) -> Result<(), Invalid> {
        at_most("runs", self.runs.len(), Self::MOST_RUNS)?;
        at_most("keep-outs", self.keep_outs.len(), Self::MOST_KEEP_OUTS)?;
        at_most("datum points", self.datums.len(), Self::MOST_DATUMS)?;
        at_most("components", self.components.len(), Self::MOST_COMPONENTS)?;
        at_most("openings", self.openings.len(), Self::MOST_OPENINGS)?;
        at_most("pairs that belong together", self.together.len(), Self::MOST_TOGETHER)?;
        let mut seen = HashSet::new();
        let runs = self.runs.iter().map(|run| ("runs", run.id.0));
        let keep_outs = self.keep_outs.iter().map(|keep_out| ("keep-outs", keep_out.id.0));
        let datums = self.datums.iter().map(|datum| ("datum points", datum.id.0));
        let components = self.components.iter().map(|component| ("components", component.id.0));
        let mounts = self.components.iter().flat_map(|component| &component.mounts);
        let mounts = mounts.map(|mount| ("mounting points", mount.id.0));
        let openings = self.openings.iter().map(|opening| ("openings", opening.id.0));
        for (what, id) in runs.chain(keep_outs).chain(datums).chain(components).chain(mounts).chain(openings) {
            if !seen.insert(id) || id >= self.next_id {
                return Err(Invalid::Numbering { what, id });
            }
        }
        let mut marks = HashSet::new();
        if let Some(mark) = self.marks().into_iter().find(|mark| !marks.insert(*mark)) {
            return Err(Invalid::MarkTwice { mark: mark.as_str().to_owned() });
        }
        self.runs.iter().try_for_each(check_run)?;
        self.check_keep_outs()?;
        self.check_components()?;
        for opening in &self.openings {
            opening.check().map_err(|problem| Invalid::Opening { name: opening.name.as_str().to_owned(), problem })?;
        }
        if let Some(stance) = &self.stance {
            stance.check().map_err(|problem| Invalid::Stance { problem })?;
        }
        if let Some(firing) = &self.firing {
            firing.check().map_err(|problem| Invalid::Firing { problem })?;
        }
        if let Some(mounts) = &self.mounts {
            mounts.check().map_err(|problem| Invalid::Mounts { problem })?;
        }
        self.check_stubs()?;
        self.check_readings()
    }

    fn check_keep_outs(&self) -> Result<(), Invalid> {
        for keep_out in &self.keep_outs {
            let name = || keep_out.name.as_str().to_owned();
            keep_out.shape.check().map_err(|problem| Invalid::KeepOut { name: name(), problem })?;
            if let KeepOutShape::Scan(scan) = &keep_out.shape {
                let there = |matched: &MatchedTo| match matched {
                    MatchedTo::Datum { datum } => self.datum(*datum).is_some(),
                    MatchedTo::Point { .. } => true,
                };
                if let Some(index) = scan.matched.iter().position(|matched| !there(&matched.to)) {
                    return Err(Invalid::LeansOnNothing { name: name(), index, what: "datum point" });
                }
            }
        }
        Ok(())
    }

    fn check_components(&self) -> Result<(), Invalid> {
        let (mut ports, mut bodies) = (HashSet::new(), HashSet::new());
        for component in &self.components {
            let name = || component.name.as_str().to_owned();
            at_most("freedoms of one component", component.freedoms.len(), Component::MOST_FREEDOMS)?;
            at_most("mounting points of one component", component.mounts.len(), Component::MOST_MOUNTS)?;
            component.check().map_err(|problem| Invalid::Component { name: name(), problem })?;
            if let Some((turned, nearest)) = component.off_its_steps() {
                return Err(Invalid::NotAStep { name: name(), turned, nearest });
            }
            if !component.ports.iter().all(|port| self.port(*port).is_some() && ports.insert(*port)) {
                return Err(Invalid::ComponentPort { name: name() });
            }
            // A one-sided sheet is drawn square to the car and cannot be turned with a body.
            let is_body = |id: &KeepOutId| {
                self.keep_out(*id).is_some_and(|part| !matches!(part.shape, KeepOutShape::Plane { .. }))
            };
            if !component.body.iter().all(|part| is_body(part) && bodies.insert(*part)) {
                return Err(Invalid::ComponentBody { name: name() });
            }
            self.check_what_leans_on_its_body(component)?;
        }
        let there = |pair: &&[KeepOutId; 2]| pair[0] < pair[1] && pair.iter().all(|id| self.keep_out(*id).is_some());
        let mut seen = HashSet::new();
        match self.together.iter().find(|pair| !there(pair) || !seen.insert(**pair)) {
            Some([one, other]) => Err(Invalid::Together { one: one.0, other: other.0 }),
            None => Ok(()),
        }
    }

    /// What a component breathes, where a hand goes and how it is held name things that are there.
    fn check_what_leans_on_its_body(&self, component: &Component) -> Result<(), Invalid> {
        let name = || component.name.as_str().to_owned();
        let is_box = |id: KeepOutId| {
            let part = self.keep_out(id).filter(|_| component.body.contains(&id));
            part.is_some_and(|part| matches!(part.shape, KeepOutShape::Box { .. }))
        };
        let breathes = component.breathing.map(|breathing| breathing.body);
        let hand = component.wishes.hand.map(|hand| hand.body);
        if !breathes.into_iter().chain(hand).all(is_box) {
            return Err(Invalid::NoSuchFace { name: name() });
        }
        let through = component.breathing.and_then(|breathing| breathing.through);
        if through.is_some_and(|opening| self.opening(opening).is_none()) {
            return Err(Invalid::NoSuchOpening { name: name() });
        }
        for mount in &component.mounts {
            if let Some(Holding::Bracket { bracket }) = mount.held
                && let FootPlace::Datum { datum } = bracket.foot.at
                && self.datum(datum).is_none()
            {
                return Err(Invalid::NoSuchFoot { name: name(), mount: mount.name.as_str().to_owned() });
            }
        }
        Ok(())
    }

    fn check_readings(&self) -> Result<(), Invalid> {
        let mut leans: HashMap<Measurand, Vec<Measurand>> = HashMap::new();
        for (of, name, readings) in self.measured() {
            at_most("readings of one thing", readings.len(), Self::MOST_READINGS)?;
            for (index, reading) in readings.iter().enumerate() {
                let name = || name.to_owned();
                if let Some(why) = self.misfit(of, reading) {
                    return Err(Invalid::ReadingDoesNotFit { name: name(), index, why });
                }
                let on = leans.entry(of).or_default();
                if let Some(datum) = reading.taken.datum() {
                    if self.datum(datum).is_none() {
                        return Err(Invalid::LeansOnNothing { name: name(), index, what: "datum point" });
                    }
                    on.push(Measurand::Datum { datum });
                }
                if let Some(port) = reading.taken.port() {
                    if self.port(port).is_none() {
                        return Err(Invalid::LeansOnNothing { name: name(), index, what: "port" });
                    }
                    on.push(Measurand::Port { port });
                }
            }
        }
        let mut done = HashSet::new();
        for (of, name, _) in self.measured() {
            if circles(of, &leans, &mut HashSet::new(), &mut done) {
                return Err(Invalid::Circle { name: name.to_owned() });
            }
        }
        Ok(())
    }

    /// Why a reading says nothing of its thing.
    fn misfit(&self, of: Measurand, reading: &Reading) -> Option<&'static str> {
        let mouth = matches!(of, Measurand::Port { .. });
        if !mouth && reading.taken.needs_mouth() {
            return Some("only a port has a direction, a twin and an outside diameter");
        }
        if let Taken::Offset { from: Anchor::Port { rim: Some(_), .. }, .. } = reading.taken {
            return Some("a level or plumb line starts at a mouth\u{2019}s centre, a tape at its rim");
        }
        match (reading.taken.spot(), of) {
            (Some(Spot::Corner { towards }), Measurand::KeepOut { keep_out }) => {
                let shape = self.keep_out(keep_out).map(|keep_out| &keep_out.shape);
                if !matches!(shape, Some(KeepOutShape::Box { .. })) {
                    Some("only a box has corners")
                } else if towards.iter().any(|side| side.abs() > 1) || towards == [0; 3] {
                    Some("a corner is said by 1, 0 or -1 forward, left and up")
                } else {
                    None
                }
            }
            (Some(Spot::Corner { .. }), _) => Some("only a box has corners"),
            (Some(Spot::Rim { .. }), _) if !matches!(reading.taken, Taken::Tape { .. }) => {
                Some("the rim\u{2019}s near and far point are told by a tape; a level goes to a point on the face")
            }
            (Some(_), Measurand::KeepOut { keep_out }) => {
                let shape = self.keep_out(keep_out).map(|keep_out| &keep_out.shape);
                matches!(shape, Some(KeepOutShape::Scan(_))).then_some("a scan is placed by matched points")
            }
            _ => None,
        }
    }
}

/// Whether what `of` leans on leads back to it. `above` are the things on the way here, `done` those found sound.
fn circles(
    of: Measurand,
    leans: &HashMap<Measurand, Vec<Measurand>>,
    above: &mut HashSet<Measurand>,
    done: &mut HashSet<Measurand>,
) -> bool {
    if done.contains(&of) {
        return false;
    }
    if !above.insert(of) {
        return true;
    }
    let found = leans.get(&of).is_some_and(|on| on.iter().any(|next| circles(*next, leans, above, done)));
    above.remove(&of);
    done.insert(of);
    found
}

fn check_run(run: &Run) -> Result<(), Invalid> {
    named("a port", &run.a.name)?;
    named("a port", &run.b.name)?;
    if run.twin == Some(run.id) {
        return Err(Invalid::OwnTwin { run: run.name.as_str().to_owned() });
    }
    for (end, port) in [(End::A, &run.a), (End::B, &run.b)] {
        if let Some(problem) = port.neck.as_ref().and_then(|neck| neck.check(port.out, port.od.get()).err()) {
            return Err(Invalid::Neck { run: run.name.as_str().to_owned(), end: end.letter(), problem });
        }
    }
    let apart = run.a.at.distance(run.b.at);
    if apart < Job::LEAST_APART {
        let run = run.name.as_str().to_owned();
        return Err(Invalid::PortsInOnePlace { run, apart, least: Job::LEAST_APART });
    }
    run.wishes.check().map_err(|problem| Invalid::Wish { run: run.name.as_str().to_owned(), problem })?;
    check_hose(run)?;
    at_most("ways kept for one run", run.kept.len(), Run::MOST_KEPT)?;
    for way in [&run.route].into_iter().chain(run.kept.iter().map(|kept| &kept.way)) {
        check_route(run, way)?;
    }
    if run.kept.iter().any(|kept| !kept.way.is_decided()) {
        return Err(Invalid::NoWayKept { run: run.name.as_str().to_owned() });
    }
    Ok(())
}

/// A hose is of a hose's stuff and size, and is joined by its own ends; nothing is joined in it or let into it.
fn check_hose(run: &Run) -> Result<(), Invalid> {
    let name = || run.name.as_str().to_owned();
    let ways = || [&run.route].into_iter().chain(run.kept.iter().map(|kept| &kept.way));
    let mut joints = ways().flat_map(Route::joints);
    let Some(hose) = run.hose else {
        if run.tube.material().is_hose() {
            return Err(Invalid::HoseNotBuilt { run: name(), material: run.tube.material().name() });
        }
        return match joints.find(|joint| joint.kind == JointKind::HoseEnd) {
            Some(_) => Err(Invalid::HoseEndOnTube { run: name() }),
            None => Ok(()),
        };
    };
    if !hose.suits(run.tube) {
        let (material, od, wall) = (run.tube.material().name(), run.tube.od(), run.tube.wall());
        return Err(Invalid::NotThatHose { run: name(), hose: hose.word(), material, od, wall });
    }
    if let Some(joint) = joints.find(|joint| !matches!(joint.kind, JointKind::HoseEnd | JointKind::Open)) {
        return Err(Invalid::JointInHose { run: name(), what: joint.kind.word() });
    }
    if ways().flat_map(Route::supports).any(|support| support.kind == SupportKind::Tab) {
        return Err(Invalid::JointInHose { run: name(), what: "welded tab" });
    }
    match ways().flat_map(Route::branches).next() {
        Some(branch) => Err(Invalid::JointInHose { run: name(), what: branch.kind.word() }),
        None => Ok(()),
    }
}

fn check_route(run: &Run, way: &Route) -> Result<(), Invalid> {
    let (bends, corners) = (way.bends().len(), way.course().corners());
    let name = || run.name.as_str().to_owned();
    at_most("bends in one run", bends, Job::MOST_BENDS)?;
    if bends != corners {
        return Err(Invalid::BendsDoNotMatch { run: name(), bends, corners });
    }
    // Numbers are the run's own, since twins have the same; none is beyond the last one given.
    let mut seen = HashSet::new();
    let numbers = way.bends().iter().map(|bend| bend.id.0);
    let numbers = numbers.chain(way.joints().iter().map(|joint| joint.id.0));
    let numbers = numbers.chain(way.supports().iter().map(|support| support.id.0));
    let numbers = numbers.chain(way.branches().iter().map(|branch| branch.id.0));
    for id in numbers {
        if id == 0 || id >= run.next_part || !seen.insert(id) {
            return Err(Invalid::PartNumber { run: name(), id });
        }
    }
    at_most("locks on one way", way.locks().len(), Route::MOST_LOCKS)?;
    check_joints(run, way)?;
    at_most("supports of one run", way.supports().len(), Route::MOST_SUPPORTS)?;
    if way.supports().iter().any(|support| !way.is_decided() || way.leg_index(support.at.leg).is_none()) {
        return Err(Invalid::SupportOnNothing { run: name(), corners });
    }
    at_most("branches of one run", way.branches().len(), Route::MOST_BRANCHES)?;
    if way.branches().iter().any(|branch| !way.is_decided() || way.leg_index(branch.at.leg).is_none()) {
        return Err(Invalid::BranchOnNothing { run: name(), corners });
    }
    if way.locks().iter().any(|lock| !lock.is_sound(way)) {
        return Err(Invalid::LockOnNothing { run: name(), corners });
    }
    Ok(())
}

fn check_joints(run: &Run, way: &Route) -> Result<(), Invalid> {
    at_most("joints of one run", way.joints().len(), Route::MOST_JOINTS)?;
    let corners = way.course().corners();
    let name = || run.name.as_str().to_owned();
    for end in [End::A, End::B] {
        let count = way.joints().iter().filter(|joint| joint.end() == Some(end)).count();
        if count != 1 {
            return Err(Invalid::JointsAtEnd { run: name(), end: end.letter(), count });
        }
    }
    let mut elbows: Vec<BendId> = way.joints().iter().filter_map(Joint::bend).collect();
    elbows.sort_unstable();
    if elbows.windows(2).any(|pair| pair[0] == pair[1]) {
        return Err(Invalid::TwoElbows { run: name() });
    }
    for joint in way.joints() {
        let there = joint.along().is_none_or(|along| way.is_decided() && way.leg_index(along.leg).is_some());
        let bend = joint.bend().is_none_or(|bend| way.is_decided() && way.bend_index(bend).is_some());
        if !there || !bend {
            return Err(Invalid::JointOnNothing { run: name(), corners });
        }
        if let Some(problem) = joint.plate.as_ref().and_then(|plate| plate.check().err()) {
            return Err(Invalid::Plate { run: name(), problem });
        }
        if !joint.can_stand() {
            return Err(Invalid::JointCannotStand { run: name(), kind: joint.kind.word() });
        }
    }
    Ok(())
}

fn named(what: &'static str, name: &str) -> Result<(), Invalid> {
    Name::new(name).map(drop).map_err(|problem| Invalid::Unnamed { what, problem })
}

const fn at_most(what: &'static str, count: usize, most: usize) -> Result<(), Invalid> {
    if count <= most { Ok(()) } else { Err(Invalid::TooMany { what, count, most }) }
}

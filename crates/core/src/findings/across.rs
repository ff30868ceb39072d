//! A pipe from engine to body: what its joints give against how far the engine moves.

use super::lack::Lack;
use super::remedy::remedy;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::assembly::{Assembly, Chain, JointUse, Moves};
use crate::edit::{Applied, Edit, JoinEdit, JointChange, RouteEdit, SupportChange, apply};
use crate::environment::Environment;
use crate::job::Job;
use crate::join::{Give, JointKind, JointSpec, SupportKind};
use crate::measure::{End, MountKind, Side};
use crate::part_ref::PartRef;
use crate::route::{AlongAnchor, Joint, JointId, LegEnd, Reach, ResolvedRun, SupportDraft, SupportId, Target};
use crate::stock::Duty;
use crate::survey::Survey;
use nook_geometry::linkage::NotSettled;
use nook_geometry::units::{AlongLeg, LengthUnit, Straight};

/// Why the joints of a pipe do not take how its sections move.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Across {
    /// It is held at both ends by joints that do not give where they would have to.
    Stiff {
        /// The end on the engine.
        engine: End,
        /// How far the engine moves there, in mm; `None` where nobody said how it moves.
        travel: Option<f64>,
        /// Whether the engine is bolted metal to metal.
        solid: bool,
    },
    /// A support holds a section on one side that joints without give tie to the other.
    Bracketed {
        /// Which support.
        support: SupportId,
        /// What that is fixed to.
        to: Side,
        /// Whether the engine is known to move: not bolted metal to metal, and somebody said how.
        moves: bool,
    },
    /// Nothing holds what is between a joint that gives and an open end.
    Dangles {
        /// The joint; `None` where both ends are open and nothing holds the pipe at all.
        at: Option<JointId>,
        /// The sections that dangle, from 0 at A.
        sections: [usize; 2],
    },
    /// Its sections do not come to rest where the engine moves.
    Loose,
    /// A joint takes more than it gives.
    Over(OverGive),
}

/// A joint that takes more than it gives.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OverGive {
    /// Which.
    pub at: JointId,
    /// What it is.
    pub kind: JointKind,
    /// Which way it takes the largest share.
    pub way: GiveWay,
    /// How much it takes that way: degrees or mm.
    pub value: f64,
    /// How much it gives that way, likewise.
    pub limit: f64,
    /// The engine's roll then, in degrees.
    pub roll: f64,
    /// Whether the engine moves at all, or only heat does.
    pub moved: bool,
}

/// Which way a joint gives.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum GiveWay {
    /// It bends.
    Angle,
    /// One side stands beside the other.
    Offset,
    /// The two come apart or together.
    Axial,
}

/// What the joints of a pipe of `run` do not take, which moves like `moves` and takes `uses`; none where they take all of it, or it does not move against itself.
/// Source: handbook, "Joints, fittings, hoses and supports": a rigid section tied to engine and to body by joints without
/// give is a fault, a warning where the engine is solid-mounted; a joint is over when it passes its give.
#[must_use]
pub fn across(run: &ResolvedRun, pipe: &Assembly, moves: &Moves, uses: &[JointUse]) -> Vec<Across> {
    if let Some(stiff) = stiff_all_along(run) {
        return vec![stiff];
    }
    let unsettled = moves.not_settled().map(|(chain, why)| match why {
        NotSettled::Tied => bracketed(run, chain).unwrap_or_else(|| stiff(run)),
        NotSettled::Loose | NotSettled::NoRest => Across::Loose,
    });
    let dangles = moves.dangling().map(|(at, sections)| Across::Dangles { at, sections });
    let unsettled = unsettled.chain(dangles);
    let over = uses.iter().filter(|used| used.share > 1.0 + 1e-9);
    unsettled.chain(over.filter_map(|used| Some(Across::Over(over_give(pipe, used)?)))).collect()
}

/// Where a chain that does not give ends at a support.
fn bracketed(run: &ResolvedRun, chain: &Chain) -> Option<Across> {
    let [one, other] = &chain.ends;
    let (_, support) = other.held.or(one.held)?;
    let to = if other.held.is_some() { other.side } else { one.side };
    Some(Across::Bracketed { support, to, moves: run.mounts().is_some() && !is_solid(run) })
}

fn is_solid(run: &ResolvedRun) -> bool {
    run.mounts().is_some_and(|mounts| mounts.kind == MountKind::Solid)
}

fn stiff(run: &ResolvedRun) -> Across {
    let engine = if run.port(End::A).rides == Side::Engine { End::A } else { End::B };
    let travel = run.mounts().map(|mounts| mounts.travel(run.port(engine).at));
    Across::Stiff { engine, travel, solid: is_solid(run) }
}

/// A pipe from engine to body none of whose joints gives, whichever way it takes.
#[must_use]
pub fn stiff_all_along(run: &ResolvedRun) -> Option<Across> {
    let od = run.tube.od();
    if run.hose.is_some() || [End::A, End::B].into_iter().any(|end| run.is_open(end)) {
        return None;
    }
    let rigid = run.route.joints().iter().all(|joint| joint.spec(od).give.is_none());
    (run.port(End::A).rides != run.port(End::B).rides && rigid).then(|| stiff(run))
}

fn over_give(pipe: &Assembly, used: &JointUse) -> Option<OverGive> {
    let joint = pipe.joints.iter().find(|joint| joint.id == used.joint)?;
    let Give { angle, offset, axial } = joint.spec.give;
    let [by_angle, by_offset, by_axial] = used.errors.sizes();
    let ways = [
        (GiveWay::Angle, by_angle.to_degrees(), angle),
        (GiveWay::Offset, by_offset, offset),
        (GiveWay::Axial, by_axial, axial),
    ];
    let share = |(_, value, limit): &(GiveWay, f64, f64)| if *limit > 0.0 { value / limit } else { 0.0 };
    let (way, value, limit) = ways.into_iter().max_by(|p, q| share(p).total_cmp(&share(q)))?;
    let moved = used.roll != 0.0 || used.shift.norm() > 0.0;
    Some(OverGive { at: used.joint, kind: joint.kind, way, value, limit, roll: used.roll.to_degrees(), moved })
}

impl Across {
    fn severity(&self) -> Severity {
        match self {
            Self::Stiff { travel: Some(_), solid: false, .. }
            | Self::Bracketed { moves: true, .. }
            | Self::Dangles { .. }
            | Self::Over(_) => Severity::Error,
            Self::Stiff { .. } | Self::Bracketed { .. } | Self::Loose => Severity::Warning,
        }
    }

    fn part(&self, run: &ResolvedRun) -> PartRef {
        match *self {
            Self::Stiff { engine: end, .. } => PartRef::End { run: run.id, end },
            Self::Bracketed { support, .. } => PartRef::Support { run: run.id, support },
            Self::Dangles { at: Some(at), .. } => {
                PartRef::of_joint(run.id, at, run.route.joint(at).and_then(Joint::end))
            }
            Self::Dangles { at: None, .. } | Self::Loose => PartRef::Run { run: run.id },
            Self::Over(over) => PartRef::of_joint(run.id, over.at, run.route.joint(over.at).and_then(Joint::end)),
        }
    }

    /// As a finding, with the edits after which there is none left; `around` is what a pipe that is reshaped must keep from.
    pub(crate) fn finding(&self, job: &Job, run: &ResolvedRun, around: &Environment, mend: bool) -> Finding {
        let remedies = if mend { self.remedies(job, run, around) } else { Vec::new() };
        let (kind, measured) = match *self {
            Self::Stiff { travel, .. } => (FindingKind::Stiff, travel.map(|travel| [travel, 0.0])),
            Self::Bracketed { .. } => (FindingKind::Bracketed, None),
            Self::Dangles { .. } | Self::Loose => (FindingKind::HangsLoose, None),
            Self::Over(over) => (FindingKind::OverGive, Some([over.value, over.limit])),
        };
        let finding = Finding::new(kind, self.severity(), self.part(run), self.words(run)).mended_by(remedies);
        match measured {
            Some([value, limit]) => finding.measured(value, limit),
            None => finding,
        }
    }

    /// Edits after which the joints of the run take all that moves it, the smallest change first.
    fn remedies(&self, job: &Job, run: &ResolvedRun, around: &Environment) -> Vec<Remedy> {
        // A way that is reshaped has no less air, either.
        let lack = std::cell::OnceCell::new();
        let clear = |edit: &Edit| {
            let Edit::Route(_) = edit else { return true };
            let before: &Option<Lack> = lack.get_or_init(|| Lack::of(run, around));
            let after = apply(job, edit).ok().and_then(|applied| {
                let next = Survey::new(&applied.job).settle(applied.job.run(run.id)?);
                Lack::of(&next, around)
            });
            after.zip(before.as_ref()).is_some_and(|(after, before)| after.no_worse_than(before, None))
        };
        let holds = |edit: &Edit| left_after(job, run, edit).is_some_and(|left| left.is_empty()) && clear(edit);
        let mut all: Vec<Remedy> =
            tried(run, self).into_iter().filter(|remedy| holds(&remedy.edit)).take(MOST).collect();
        if all.is_empty()
            && let Self::Stiff { .. } = self
        {
            // Better than what cracks: what is left then is told of for itself.
            let gives = |edit: &Edit| {
                left_after(job, run, edit).is_some_and(|left| !left.iter().any(|one| matches!(one, Self::Stiff { .. })))
            };
            all = tried(run, self).into_iter().filter(|remedy| gives(&remedy.edit)).take(MOST).collect();
        }
        all
    }
}

/// Most remedies offered for one finding.
const MOST: usize = 3;

/// What would be left after an edit; `None` where it is refused.
fn left_after(job: &Job, run: &ResolvedRun, edit: &Edit) -> Option<Vec<Across>> {
    let Applied { job: next, .. } = apply(job, edit).ok()?;
    let settled = Survey::new(&next).settle(next.run(run.id)?);
    let pipe = Assembly::build(&settled)?.ok()?;
    // No room for it is no help.
    let room = pipe.between().iter().all(|joint| joint.short <= 1e-6);
    let moves = pipe.moves(&settled);
    room.then(|| across(&settled, &pipe, &moves, &moves.uses(&pipe)))
}

/// Changes that may help: a kind that gives more where it is over, at the other end, or at both; and one more joint that
/// gives, on each straight in turn, the longest first.
fn tried(run: &ResolvedRun, what: &Across) -> Vec<Remedy> {
    let id = run.id;
    let kinds = kinds_that_give(run);
    let change = |joint: JointId, kind: JointKind| {
        Edit::Join(JoinEdit::ChangeJoint { run: id, joint, to: JointChange::Kind { kind } })
    };
    let mut all = Vec::new();
    let first: Vec<JointId> = match what {
        Across::Over(over) => vec![over.at],
        Across::Stiff { engine, .. } => vec![run.joint(*engine).id, run.joint(engine.other()).id],
        Across::Bracketed { .. } | Across::Dangles { .. } | Across::Loose => Vec::new(),
    };
    if let Across::Dangles { sections: [first, last], .. } = *what
        && let Some(Ok(pipe)) = Assembly::build(run)
    {
        let places = pipe.places_for(SupportKind::Clamps).into_iter();
        let within = |station: f64| pipe.section_of(station).is_some_and(|one| (first..=last).contains(&one));
        let places = places.filter(|[from, to]| within(f64::midpoint(*from, *to)));
        let longest = places.max_by(|p, q| (p[1] - p[0]).total_cmp(&(q[1] - q[0])));
        for to in [Side::Body, Side::Engine] {
            let at = longest.and_then(|[from, to]| pipe.anchor_at(&run.route, f64::midpoint(from, to)));
            let Some(at) = at else { continue };
            let support = SupportDraft { at, kind: SupportKind::Clamps, to: Some(to) };
            let edit = Edit::Join(JoinEdit::AddSupport { run: id, support });
            all.push(remedy(|_| format!("Clamp it to the {}", to.word()), edit));
        }
    }
    if let Across::Bracketed { support, to, .. } = *what {
        let other = to.other();
        let change = SupportChange::To { to: other };
        let edit = JoinEdit::ChangeSupport { run: id, support, to: change };
        all.push(remedy(|_| format!("Fix it to the {}", other.word()), Edit::Join(edit)));
        let edit = JoinEdit::RemoveSupport { run: id, support };
        all.push(remedy(|_| "Take it off".to_owned(), Edit::Join(edit)));
    }
    let others = run.route.joints().iter().map(|joint| joint.id).filter(|joint| !first.contains(joint));
    for joint in first.iter().copied().chain(others) {
        let Some(now) = run.route.joint(joint) else { continue };
        let here = kinds.iter().filter(|kind| match now.end() {
            Some(end) => !kind.has_hose() || run.port(end).form.takes_hose(),
            None => true,
        });
        for kind in here.filter(|kind| more(run, **kind, now)) {
            let label = match now.end() {
                Some(end) => format!("Put {} {} at {}", article(*kind), kind.word(), end.letter()),
                None => format!("Make the {} {} {}", run.joint_name(joint), article(*kind), kind.word()),
            };
            all.push(remedy(|_| label.clone(), change(joint, *kind)));
        }
    }
    if let Across::Over(over) = *what
        && let Some(Ok(pipe)) = Assembly::build(run)
    {
        all.extend(elsewhere(run, &pipe, over.at));
    }
    if let Some(kind) = kinds.first()
        && let Some(Ok(pipe)) = Assembly::build(run)
    {
        let mut legs: Vec<(usize, f64)> = pipe.tube.straights().enumerate().collect();
        legs.sort_by(|p, q| q.1.total_cmp(&p.1));
        for (leg, length) in legs {
            let Ok(mm) = AlongLeg::new((length / 2.0).max(0.0).round()) else { continue };
            let at = AlongAnchor { leg: run.route.leg_id(leg), from: LegEnd::Start, mm };
            let edit = Edit::Join(JoinEdit::AddJoint { run: id, at, kind: *kind });
            all.push(remedy(|_| format!("Put {} {} on straight {}", article(*kind), kind.word(), leg + 1), edit));
        }
    }
    all
}

/// By how much in mm a straight is made longer: a section that is longer leans less for the same offset.
const LONGER: [f64; 2] = [40.0, 100.0];

/// The same joint in the middle or a quarter of the way along each straight, and each straight made longer.
fn elsewhere(run: &ResolvedRun, pipe: &Assembly, joint: JointId) -> Vec<Remedy> {
    let id = run.id;
    let mut all = Vec::new();
    let along = run.route.joint(joint).and_then(Joint::along).is_some();
    for (leg, length) in pipe.tube.straights().enumerate() {
        let straight = run.route.leg_id(leg);
        for share in [0.5, 0.25, 0.75] {
            let Ok(mm) = AlongLeg::new((length * share).max(0.0).round()) else { continue };
            let at = AlongAnchor { leg: straight, from: LegEnd::Start, mm };
            let edit = Edit::Join(JoinEdit::ChangeJoint { run: id, joint, to: JointChange::Place { at } });
            if along {
                let label = |unit: LengthUnit| format!("Move it to {} along straight {}", unit.text(mm.get()), leg + 1);
                all.push(remedy(label, edit));
            }
        }
    }
    for (longer, (leg, length)) in
        LONGER.into_iter().flat_map(|by| pipe.tube.straights().enumerate().map(move |of| (by, of)))
    {
        let Ok(wanted) = Straight::new(length + longer) else { continue };
        let target = Target::Straight { straight: run.route.leg_id(leg), length: wanted };
        let edit = RouteEdit::Reshape { run: id, target, reach: Reach::Exactly, snap: None };
        let label = |unit: LengthUnit| format!("Make straight {} {} longer", leg + 1, unit.text(longer));
        all.push(remedy(label, Edit::Route(edit)));
    }
    all
}

const fn article(kind: JointKind) -> &'static str {
    match kind {
        JointKind::Sleeve => "an",
        _ => "a",
    }
}

/// Kinds that give and that this pipe's heat and pressure allow, the plainest first.
fn kinds_that_give(run: &ResolvedRun) -> Vec<JointKind> {
    let od = run.tube.od();
    let kinds: &[JointKind] = match run.duty {
        Duty::Exhaust => &[JointKind::Bellows],
        _ => &[JointKind::Coupler, JointKind::Hump, JointKind::Sleeve],
    };
    let celsius = run.celsius();
    let bears = |kind: &JointKind| {
        let spec = JointSpec::usual(*kind, od);
        spec.celsius.is_none_or(|most| celsius <= most) && spec.bar.is_none_or(|most| run.bar() <= most)
    };
    kinds.iter().copied().filter(bears).collect()
}

/// Whether a kind gives more than what is there.
fn more(run: &ResolvedRun, kind: JointKind, now: &Joint) -> bool {
    let od = run.tube.od();
    let (there, then) = (now.spec(od).give, JointSpec::usual(kind, od).give);
    kind != now.kind && (then.angle > there.angle || then.offset > there.offset || then.axial > there.axial)
}

//! Edits that give a pipe the air it lacks. Each is tried; only what works is offered.

use super::lack::{Lack, stops};
use super::near::TooNear;
use super::remedy::remedy;
use super::words::part_words;
use super::{Remedy, assess};
use crate::edit::{Applied, Edit, PlaceEdit, RouteEdit, SpecEdit, apply};
use crate::environment::{Environment, Scans};
use crate::job::Job;
use crate::measure::{Freedom, RunId};
use crate::part_ref::PartRef;
use crate::route::{LegId, ResolvedRun, Stretch, Target};
use crate::survey::Survey;
use nook_geometry::units::{BendRadius, Insulation, LengthUnit, Rotation};
use nook_geometry::{Point, Vector};

/// Shares of what is missing that a leg is moved by, until one is enough: what moves drags bends along.
const SHARES: [f64; 4] = [1.05, 1.35, 1.8, 2.5];
/// Furthest in mm that a remedy moves anything: more is another way round.
const FURTHEST: f64 = 60.0;
/// Most remedies offered for one thing.
const MOST: usize = 3;

/// Edits after which `near` has its air, and nothing else has less than before.
pub(crate) fn mend(
    job: &Job,
    run: &ResolvedRun,
    (around, scans): (&Environment, &Scans),
    near: &TooNear<'_>,
    place: PartRef,
) -> Vec<Remedy> {
    let trial = Trial { job, run, around, scans, near, before: Lack::of(run, around) };
    let kinds: [Box<dyn Iterator<Item = Remedy> + '_>; 5] = [
        Box::new(trial.bare(place).into_iter()),
        Box::new(trial.moved(place).into_iter()),
        Box::new(trial.clocked(place).into_iter()),
        Box::new(trial.radius(place).into_iter()),
        Box::new(trial.turned().into_iter()),
    ];
    kinds.into_iter().filter_map(|mut choices| choices.find(|remedy| trial.works(&remedy.edit))).take(MOST).collect()
}

struct Trial<'a> {
    job: &'a Job,
    run: &'a ResolvedRun,
    around: &'a Environment,
    scans: &'a Scans,
    near: &'a TooNear<'a>,
    /// What is lacking before anything is done; nothing where it is no pipe.
    before: Option<Lack>,
}

impl Trial<'_> {
    fn works(&self, edit: &Edit) -> bool {
        let turns = matches!(edit, Edit::Place(PlaceEdit::SetFreedom { .. }));
        let alone = if turns { None } else { Some(self.job.with_only(self.run)) };
        let Ok(Applied { job: next, .. }) = apply(alone.as_ref().unwrap_or(self.job), edit) else { return false };
        let Some(after) = next.run(self.run.id) else { return false };
        let after = if turns { Survey::new(&next).settle(after) } else { self.run.with_decisions_of(after) };
        let stops = |run: &ResolvedRun| assess(run).problems.len();
        // A turned component carries its mouths off what they stood on, and other pipes with it.
        let around = turns.then(|| Environment::of(&next, &Survey::new(&next), &after, self.scans));
        let Some(left) = Lack::of(&after, around.as_ref().unwrap_or(self.around)) else { return false };
        !left.at(self.near.index)
            && self.before.as_ref().is_none_or(|before| left.no_worse_than(before, Some(self.near.index)))
            && stops(&after) <= stops(self.run)
            && (!turns || self.spares_others(&next))
    }

    /// Whether no other pipe is worse off in `next`, where a component that may carry a port of it was turned: no more
    /// that cannot be built, and nothing more that it runs into.
    fn spares_others(&self, next: &Job) -> bool {
        let stops = |job: &Job, other: RunId| stops(job, &Survey::new(job), other, self.scans);
        let others = next.runs().iter().map(|run| run.id).filter(|id| *id != self.run.id);
        let mut others =
            others.filter(|id| self.job.components().iter().any(|one| one.ports.iter().any(|p| p.run == *id)));
        others.all(|id| stops(next, id) <= stops(self.job, id))
    }

    /// What is missing, in mm.
    fn short(&self) -> f64 {
        self.near.limit - self.near.near.gap
    }

    /// The stretch at the place with less wrapped round it, or nothing: where a frame's corner leaves no room for more.
    fn bare(&self, place: PartRef) -> Vec<Remedy> {
        let stretch = match place {
            PartRef::Straight { straight: leg, .. } => Stretch::Leg { leg },
            PartRef::Bend { bend, .. } => Stretch::Bend { bend },
            _ => return Vec::new(),
        };
        let now = self.run.route.wrapped(stretch).map_or_else(|| self.run.insulation(), Insulation::get);
        let name = part_words(self.run, place);
        let thinner = [now - self.short().ceil(), 0.0].into_iter().filter(|mm| *mm >= 0.0 && *mm < now);
        let edit = |mm: f64| {
            let insulation = Insulation::new(mm).ok();
            let edit = Edit::Spec(SpecEdit::WrapStretch { run: self.run.id, stretch, insulation });
            let say = |unit: LengthUnit| match mm > 0.0 {
                true => format!("Wrap {} {} thick", name.to_lowercase(), unit.text(mm)),
                false => format!("Leave {} bare", name.to_lowercase()),
            };
            remedy(say, edit)
        };
        thinner.map(edit).collect()
    }

    /// The leg or vertex at the place, moved away from the thing.
    fn moved(&self, place: PartRef) -> Vec<Remedy> {
        let (id, away) = (self.run.id, self.near.near.away);
        let Some(way) = self.run.way() else { return Vec::new() };
        let corners = way.course().corners();
        let Some(vertices) = crate::route::build_path(self.run, way).ok().map(|path| path.vertices()) else {
            return Vec::new();
        };
        let by = SHARES.map(|share| (self.short() * share).ceil()).into_iter().filter(|by| *by <= FURTHEST);
        by.filter_map(|by| {
            let step = plain(away) * by;
            let (target, what) = match place {
                PartRef::Straight { straight: leg, .. }
                    if way.leg_index(leg).is_some_and(|at| at >= 1 && at < corners) =>
                {
                    let number = way.leg_index(leg).map_or(0, |index| index + 1);
                    (Target::Leg { leg, by: step.into() }, format!("straight {number}"))
                }
                _ => {
                    let bend = match place {
                        PartRef::Bend { bend, .. } => way.bend_index(bend)?,
                        PartRef::Straight { straight: LegId::FROM_A, .. } => 0,
                        _ => corners.checked_sub(1)?,
                    };
                    let at = vertices.get(bend)? + step;
                    let at = Point::new(at.x, at.y, at.z).ok()?;
                    (Target::Vertex { bend: way.bend_id(bend), at }, format!("bend {}", bend + 1))
                }
            };
            let say = |unit: LengthUnit| format!("{} {what} {}{}", verb(step), unit.text(by), towards(step));
            Some(remedy(say, Edit::Route(RouteEdit::shaped(id, target))))
        })
        .collect()
    }

    fn clocked(&self, place: PartRef) -> Vec<Remedy> {
        let Some(way) = self.run.way() else { return Vec::new() };
        let Ok(path) = crate::route::build_path(self.run, way) else { return Vec::new() };
        let bend = match place {
            PartRef::Bend { bend, .. } => way.bend_index(bend),
            PartRef::Straight { straight, .. } => way.leg_index(straight).map(|leg| leg.saturating_sub(1)),
            _ => None,
        };
        let Some(bend) = bend else { return Vec::new() };
        let Some(now) = path.legs().get(bend).map(|leg| leg.bend.rotation.to_degrees()) else { return Vec::new() };
        let turns = [3.0, -3.0, 6.0, -6.0, 12.0, -12.0];
        let tried = turns.into_iter().filter_map(|by: f64| {
            let rotation = Rotation::new(now + by).ok()?;
            let target = Target::Rotation { bend: way.bend_id(bend), rotation };
            let say =
                |_| format!("Turn bend {} by {:.0}\u{b0} {}", bend + 1, by.abs(), if by > 0.0 { "on" } else { "back" });
            Some(remedy(say, Edit::Route(RouteEdit::shaped(self.run.id, target))))
        });
        tried.collect()
    }

    fn radius(&self, place: PartRef) -> Vec<Remedy> {
        let PartRef::Bend { bend, .. } = place else { return Vec::new() };
        let Some(index) = self.run.route.bend_index(bend) else { return Vec::new() };
        let now = self.run.bend_radius(index);
        let shares = [0.9, 0.8, 0.7, 1.15, 1.3];
        let tried = shares.into_iter().filter_map(|share: f64| {
            let radius = BendRadius::new((now * share * 2.0).round() / 2.0).ok()?;
            let edit = Edit::Route(RouteEdit::SetBendRadius { run: self.run.id, bend, radius: Some(radius) });
            Some(remedy(|unit| format!("Bend {} at {} radius", index + 1, unit.text(radius.get())), edit))
        });
        tried.collect()
    }

    /// A component with a port of this run, turned by one step.
    fn turned(&self) -> Vec<Remedy> {
        let mine = |component: &&crate::measure::Component| component.ports.iter().any(|port| port.run == self.run.id);
        let mut all = Vec::new();
        for component in self.job.components().iter().filter(mine) {
            let turns = component.freedoms.iter().enumerate();
            for (index, freedom) in turns.filter(|(_, freedom)| matches!(freedom, Freedom::Turn { .. })) {
                let step = freedom.step().unwrap_or(TURNED_BY);
                for to in [step, -step].map(|by| freedom.setting() + by) {
                    if !freedom.takes(to) {
                        continue;
                    }
                    let edit = PlaceEdit::SetFreedom { component: component.id, freedom: index, to };
                    let name = component.name.as_str().to_owned();
                    all.push(remedy(|_| format!("Turn the {name} to {to:.0}\u{b0}"), edit.into()));
                }
            }
        }
        all
    }
}

/// Degrees by which what turns to any angle is tried.
const TURNED_BY: f64 = 10.0;

/// A direction along one of the vehicle's axes where it nearly is one, so that it can be said and measured.
fn plain(away: Vector) -> Vector {
    let main = away.iamax();
    if away[main].abs() > 0.8 { Vector::ith(main, away[main].signum()) } else { away }
}

fn verb(step: Vector) -> &'static str {
    match step.iamax() {
        2 if step.z < 0.0 => "Drop",
        2 => "Raise",
        _ => "Move",
    }
}

fn towards(step: Vector) -> &'static str {
    match step.iamax() {
        0 if step.x > 0.0 => " forward",
        0 => " back",
        1 if step.y > 0.0 => " to the left",
        1 => " to the right",
        _ => "",
    }
}

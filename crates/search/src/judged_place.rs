//! What a place of a component is worth: what it meets, what it is judged by, and the pipes that would end on it.

use super::place_offer::{PlaceOffer, PlaceRun, PlaceRunOutcome};
use super::place_words::named;
use super::rank::best_of;
use super::route_search::{Effort, RouteSearch, Setup};
use super::worker_pool::WorkerPool;
use nook_core::edit::{Edit, PlaceEdit, apply};
use nook_core::environment::Scans;
use nook_core::findings::stops;
use nook_core::job::Job;
use nook_core::measure::{Component, Freedom, KeepOutKind, RunId};
use nook_core::placing::{Pairs, Rules, rules};
use nook_core::survey::Survey;
use nook_geometry::units::{DualUnitText, Gap, Measure, PitchAngle, Share};

/// What a place is brought to its best for, so that places on offer differ in kind.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Taste {
    /// All of it, as the total has it.
    Balanced,
    /// Above all that it breathes.
    Breath,
    /// Above all that its pipes are short and leave straight.
    Pipes,
    /// Above all that it stays near where it stands.
    Near,
    /// Whatever is unlike the others: it stays near the place it was strewn at.
    Unlike,
}

impl Taste {
    /// Those that have a best place of their own.
    pub(super) const ALL: [Self; 4] = [Self::Balanced, Self::Breath, Self::Pipes, Self::Near];
}
/// Rough ways that are brought to their best for each pipe.
const WAYS: usize = 9;
/// Settings that differ by this share of their range, or by as many mm or degrees, are of another kind.
const APART: f64 = 0.22;
const APART_MM: f64 = 15.0;
const APART_DEGREES: f64 = 3.0;
/// What is paid, in mm of pipe: for a thing run into, a mm of missing air, a broken rule, and a radian that a mouth looks away.
const FOUL: f64 = 2000.0;
const SHORT: f64 = 15.0;
const BROKEN: f64 = 150.0;
const AWAY: f64 = 60.0;
/// What is paid for a pipe that no way was found for: more than any pipe is long.
const UNFIT: f64 = 10_000.0;
/// What is paid for an hour of work, in mm of pipe.
const HOUR: f64 = 150.0;

/// What a place is judged by before its pipes are looked for.
#[derive(Debug, Clone)]
pub(super) struct Judged {
    pub(super) settings: Vec<f64>,
    pub(super) fouls: usize,
    pub(super) short: f64,
    pub(super) rules: Rules,
    pub(super) broken: Vec<f64>,
    /// Roughly how long its pipes are, and how much their mouths look away, in mm.
    pub(super) pipes: f64,
    pub(super) cost: f64,
}

/// Whole millimetres and half degrees: what is set on a car.
pub(super) fn rounded(setting: f64) -> f64 {
    (setting * 2.0).round() / 2.0
}

/// Settings of a freedom that lie further apart than this are of another kind.
pub(super) fn kind_of(freedom: &Freedom) -> f64 {
    let [least, most] = freedom.limits();
    let by = if matches!(freedom, Freedom::Slide { .. }) { APART_MM } else { APART_DEGREES };
    by.max(APART * (most - least)).min((most - least) / 2.0)
}

/// What an offer costs in all, in mm of pipe.
pub(super) fn total(offer: &PlaceOffer) -> f64 {
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    let unfit = count(offer.runs.iter().filter(|run| run.outcome != PlaceRunOutcome::Fits).count());
    FOUL * count(offer.fouls + offer.spoils.len())
        + UNFIT * unfit
        + SHORT * offer.short.mm()
        + BROKEN * count(offer.broken)
        + offer.length.map_or(0.0, |length| length.mm())
        + HOUR * offer.hours.unwrap_or(0.0)
}

/// What places are judged on.
pub(super) struct Bench<'a> {
    pub(super) job: &'a Job,
    pub(super) component: &'a Component,
    pub(super) scans: &'a Scans,
    pub(super) before: &'a Pairs,
}

impl Bench<'_> {
    fn placed(&self, settings: &[f64]) -> Option<Job> {
        apply(self.job, &self.edit(settings)).ok().map(|applied| applied.job)
    }

    fn edit(&self, settings: &[f64]) -> Edit {
        let component = self.component.id;
        let edits = settings.iter().enumerate();
        let edits = edits.map(|(freedom, to)| PlaceEdit::SetFreedom { component, freedom, to: *to }.into());
        Edit::Together { edits: edits.collect() }
    }

    pub(super) fn judged(&self, settings: &[f64]) -> Option<Judged> {
        let job = self.placed(settings)?;
        let survey = Survey::new(&job);
        let component = job.component(self.component.id)?;
        let pairs = Pairs::after(Some(self.before), &job, &survey, self.scans);
        let (fouls, short) = pairs.lack(&component.body);
        let judged = rules(&job, &survey, component, self.scans);
        let broken = broken(&job, component, &judged);
        let pipes: f64 = component
            .ports
            .iter()
            .filter_map(|port| job.run(port.run))
            .map(|run| {
                let run = survey.settle(run);
                let across = run.a.at.to(run.b.at);
                let away = |way: nook_geometry::Vector, to: nook_geometry::Vector| way.angle(&to);
                across.norm() + AWAY * (away(run.a.out.vector(), across) + away(run.b.out.vector(), -across))
            })
            .sum();
        let count = f64::from(u32::try_from(fouls).unwrap_or(u32::MAX));
        // A rule that is broken by more costs more, so that the search knows which way to go.
        let breaks: f64 = broken.iter().map(|by| BROKEN * (1.0 + by)).sum();
        let cost = FOUL * count + SHORT * short + breaks + pipes;
        Some(Judged { settings: settings.to_vec(), fouls, short, rules: judged, broken, pipes, cost })
    }

    /// What a place costs to a taste, in mm of pipe.
    pub(super) fn cost(&self, place: &Judged, taste: Taste) -> f64 {
        let moved = || {
            let each = self.component.freedoms.iter().zip(&place.settings).map(|(freedom, to)| {
                let by = (to - freedom.setting()).abs();
                // A degree moves the far edge of a box by about as much as 5 mm do.
                if matches!(freedom, Freedom::Slide { .. }) { by } else { 5.0 * by }
            });
            each.sum::<f64>()
        };
        place.cost
            + match taste {
                Taste::Balanced | Taste::Unlike => 0.0,
                Taste::Breath => -1500.0 * place.rules.shown.map_or(0.0, |shown| shown.share),
                Taste::Pipes => 4.0 * place.pipes,
                Taste::Near => 4.0 * moved(),
            }
    }

    /// A place brought to its best, one freedom after another, in ever smaller steps; and how many were tried.
    pub(super) fn refined(&self, seed: &Judged, taste: Taste, pool: &WorkerPool<'_>) -> (Judged, usize) {
        let mut tried = 0;
        let mut best = seed.clone();
        let strays = |settings: &[f64]| {
            taste == Taste::Unlike
                && self
                    .component
                    .freedoms
                    .iter()
                    .zip(settings.iter().zip(&seed.settings))
                    .any(|(freedom, (p, q))| (p - q).abs() > kind_of(freedom) / 2.0)
        };
        for share in [0.1, 0.04, 0.015] {
            let mut better = true;
            let mut rounds = 0;
            while better && rounds < 6 && !pool.stopped() {
                better = false;
                rounds += 1;
                for index in 0..best.settings.len() {
                    let freedom = &self.component.freedoms[index];
                    let [least, most] = freedom.limits();
                    let step = freedom.step().unwrap_or_else(|| rounded((most - least) * share).max(0.5));
                    for by in [step, -step] {
                        let mut settings = best.settings.clone();
                        settings[index] = freedom.nearest(settings[index] + by);
                        if strays(&settings) {
                            continue;
                        }
                        tried += 1;
                        let better_than = self.cost(&best, taste) - 1e-6;
                        if let Some(found) =
                            self.judged(&settings).filter(|found| self.cost(found, taste) < better_than)
                        {
                            best = found;
                            better = true;
                        }
                    }
                }
            }
        }
        (best, tried)
    }

    /// A place with the best ways of the runs that end on it.
    pub(super) fn offer(&self, place: &Judged, stands: bool, pool: &WorkerPool<'_>) -> Option<PlaceOffer> {
        let job = self.placed(&place.settings)?;
        let mut runs: Vec<RunId> = self.component.ports.iter().map(|port| port.run).collect();
        runs.sort_unstable();
        runs.dedup();
        let runs: Vec<PlaceRun> = runs.into_iter().filter_map(|run| self.pipe(&job, run, pool)).collect();
        let sum = |of: &dyn Fn(&PlaceRun) -> Option<f64>| runs.iter().map(of).sum::<Option<f64>>();
        let now: Vec<f64> = self.component.freedoms.iter().map(Freedom::setting).collect();
        Some(PlaceOffer {
            edit: (!stands).then(|| self.edit(&place.settings)),
            name: named(self.component, &now, &place.settings),
            good: DualUnitText::new(|_| String::new()),
            but: None,
            spoils: self.spoiled(&job),
            fouls: place.fouls,
            short: Measure(place.short),
            shown: place.rules.shown.map(|shown| shown.share),
            broken: place.broken.len(),
            hours: sum(&|run| run.hours),
            length: sum(&|run| run.length.map(|length| length.mm())).map(Measure),
            settings: place.settings.clone(),
            runs,
        })
    }

    /// Marks of runs that do not end on the component and have more that keeps them from being built than now.
    fn spoiled(&self, job: &Job) -> Vec<String> {
        let ends_on_it = |run: RunId| self.component.ports.iter().any(|port| port.run == run);
        let others = self.job.runs().iter().filter(|run| !ends_on_it(run.id));
        let (now, then) = (Survey::new(self.job), Survey::new(job));
        let worse =
            others.filter(|run| stops(job, &then, run.id, self.scans) > stops(self.job, &now, run.id, self.scans));
        worse.map(|run| run.mark.as_ref().map_or_else(String::new, |mark| mark.as_str().to_owned())).collect()
    }

    fn pipe(&self, job: &Job, id: RunId, pool: &WorkerPool<'_>) -> Option<PlaceRun> {
        let run = job.run(id)?;
        let wishes = run.wishes.clone();
        let setup = Setup::to_search(job, id, self.scans, None).ok()?;
        let quiet = |_| {};
        let mut search = RouteSearch { wishes: &wishes, worker_pool: pool, tell: &quiet, judged: 0, closed: false };
        let best = best_of(search.all_ways(&setup, Effort::OneShape(WAYS)));
        let figures = best.as_ref().map(|offer| &offer.figures);
        Some(PlaceRun {
            run: id,
            mark: run.mark.as_ref().map_or_else(String::new, |mark| mark.as_str().to_owned()),
            outcome: match best {
                Some(_) => PlaceRunOutcome::Fits,
                None if pool.stopped() => PlaceRunOutcome::Stopped,
                None => PlaceRunOutcome::NothingFound,
            },
            hours: figures.map(|figures| figures.hours),
            length: figures.map(|figures| figures.length),
            bends: figures.map(|figures| figures.bends),
            way: best.map(|offer| offer.way),
        })
    }
}

/// By how much each broken rule is broken, as a share of what it asks, at most 3.
fn broken(job: &Job, component: &Component, judged: &Rules) -> Vec<f64> {
    let wishes = &component.wishes;
    let over = |value: f64, most: f64| (value > most).then(|| ((value - most) / most.max(1.0)).min(3.0));
    let under = |value: f64, least: f64| (value < least).then(|| ((least - value) / least.abs().max(1.0)).min(3.0));
    let shown = judged.shown;
    let share = shown
        .zip(wishes.share.map(Share::get))
        .and_then(|(shown, least)| (shown.share < least).then(|| (least - shown.share) / least.max(0.05)));
    let aside = shown.zip(wishes.centred.map(Gap::get)).and_then(|(shown, most)| over(shown.aside.abs(), most));
    let level =
        judged.level.zip(wishes.level.map(PitchAngle::get)).and_then(|(level, most)| over(level.abs(), most.abs()));
    let core = judged.core.zip(wishes.duct.map(Gap::get)).and_then(|(core, most)| over(core.gap, most));
    let hand = judged.hand.and_then(|hand| under(hand.free, hand.wanted));
    let ground = judged.ground.filter(|_| job.stance().is_some()).and_then(|ground| {
        under(ground.flat, KeepOutKind::Ground.default_gap())
            .or_else(|| (ground.ramp < 0.0).then(|| (-ground.ramp / 20.0).min(3.0)))
    });
    [share, aside, level, core, hand, ground].into_iter().flatten().collect()
}

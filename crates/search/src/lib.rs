//! Ways round: from port to port through what is in the way, found, brought to their best, compared and explained.

mod compare;
mod elbow_plan;
mod field;
mod figures;
mod grid;
mod judged_place;
mod nest;
mod nest_bound;
mod nest_sums;
mod nesting;
mod offer;
mod parting;
mod pie_plan;
mod place;
mod place_offer;
mod place_words;
mod rank;
mod refine;
mod relaxation;
mod roadmap;
mod route_search;
mod sampling;
mod shelf_use;
mod spares;
mod stick_set;
mod stock_plan;
mod taking_apart;
mod variants;
mod way_out;
mod withdraw;
mod worker_pool;

use std::sync::atomic::AtomicBool;

use serde::Serialize;
use utoipa::ToSchema;

pub use compare::{Compared, compare};
pub use elbow_plan::{ElbowPlan, ElbowSource};
pub use figures::{Figures, Preset, Weights, presets};
pub use nest::{BuyLength, Nest, NestError, NestGiven, NestedStick, StickSource};
pub use nest_sums::MOST_PIECES;
pub use nesting::{MOST_STICKS, NEST_STEPS, nest};
use nook_core::edit::{EditError, PlaceEdit, SpecEdit, apply};
use nook_core::environment::Scans;
use nook_core::findings::{stiff_all_along, unmeasured_words};
use nook_core::job::Job;
use nook_core::measure::{KeepOutShape, RunId};
use nook_core::route::{AlongAnchor, AngleChoice, Joint, LegId, Route};
use nook_core::stock::{FittingAngle, HoseBuild, HoseFitting};
use nook_geometry::units::DualUnitText;
pub use offer::{Offer, Short, TurnFirst};
pub use parting::{Parting, PartingSchool, Partings, where_to_part};
pub use pie_plan::PiePlan;
pub use place::search_places;
pub use place_offer::{PlaceNews, PlaceOffer, PlaceRun, PlaceRunOutcome, PlacesFound};
use rank::{MOST_SHORT, best_of, ranked};
pub use relaxation::Relaxation;
use route_search::{Effort, RouteSearch, Setup, turns_of};
pub use shelf_use::{ShelfUse, ShelfUses, shelf_uses};
pub use spares::{SpareLength, SparePlan, spare_count};
use std::hash::{DefaultHasher, Hash, Hasher};
pub use stock_plan::{BuyPlan, LeftOut, ScrapCount, StockPlan, TubePlan, stock_plan};
pub use taking_apart::{Stuck, TakenOff, TakingApart, taking_apart};
pub use way_out::{WayOut, way_out};
pub use withdraw::{AIR, ASKS, Motion, NoWayOut, OUTSIDE, Out, followed, withdraw};
use worker_pool::WorkerPool;

/// What a search is at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SearchStep {
    /// Finding legs that are clear.
    Legs,
    /// Bringing ways to their best.
    Ways,
    /// Trying other shapes of them.
    Shapes,
    /// Turning components.
    Turns,
    /// Trying other fittings of a hose.
    Fittings,
}

/// What a search has to say while it runs.
#[derive(Debug, Clone, PartialEq)]
pub enum News {
    /// How far it is, 0 to 1.
    Progress(SearchStep, f32),
    /// A way that fits, not yet compared with others.
    Found(Box<Offer>),
}

/// What a search found.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RoutesFound {
    /// Ways that fit, the best first by the usual weights, and after them a few that nearly do.
    pub offers: Vec<Offer>,
    /// Where none fits: what would have to give, the least first.
    pub give: Vec<Relaxation>,
    /// What holds for every way and must be known before one is taken: things whose place is not known, joints that do not
    /// take the engine's movement.
    pub cautions: Vec<DualUnitText>,
    /// What came of it.
    pub outcome: Outcome,
    /// The same in words.
    pub said: DualUnitText,
    /// How many ways were brought to their best and judged.
    pub judged: usize,
}

/// What came of a search.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Outcome {
    /// At least one way fits.
    Fits,
    /// At least one way fits all that is known, but some things could not be measured against.
    FitsWhatIsKnown,
    /// Ways fit but for what the mouths themselves stand too near to.
    MouthsTooNear,
    /// Nothing was found, which proves nothing.
    NothingFound,
    /// It is proven that nothing as thick as the tube, with the gaps asked for, gets from A to B.
    Closed,
    /// It was stopped before anything was found, which proves nothing either.
    Stopped,
}

impl Outcome {
    /// Said in words.
    #[must_use]
    pub fn words(self) -> DualUnitText {
        DualUnitText::new(|_| {
            match self {
                Self::Fits => "Ways that fit.",
                Self::FitsWhatIsKnown => "Ways that fit what is known; not everything could be measured against.",
                Self::MouthsTooNear => "Ways fit, but for what the mouths themselves stand too near to.",
                Self::NothingFound => "Nothing was found that fits. That does not prove that nothing does.",
                Self::Closed => {
                    "It is proven that nothing fits: a ball as thick as the tube, with the gaps asked for, cannot get from A to B."
                }
                Self::Stopped => "Nothing was found in the time there was. That does not prove that nothing fits.",
            }
            .to_owned()
        })
    }
}

/// Finds ways round for one run. Says what it finds through `tell` as it goes, stops when `stop` says so, and gives the
/// same answer for the same job, whatever the number of cores.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn search(
    job: &Job,
    id: RunId,
    scans: &Scans,
    stop: &AtomicBool,
    tell: &(dyn Fn(News) + Sync),
) -> Result<RoutesFound, EditError> {
    let run = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let mut wishes = run.wishes.clone();
    if matches!(run.hose, Some(HoseBuild::Moulded { .. })) {
        // Hose is moulded to few angles and bent to no other.
        wishes.angles = AngleChoice::WholeElbows;
    }
    let worker_pool = WorkerPool::new(stop);
    let asis = Setup::to_search(job, id, scans, None)?;
    let mut route_search = RouteSearch { wishes: &wishes, worker_pool: &worker_pool, tell, judged: 0, closed: false };
    let mut all = route_search.all_ways(&asis, Effort::Full);
    for (index, hose) in other_fittings(run.hose).into_iter().enumerate() {
        if worker_pool.stopped() {
            break;
        }
        route_search.progress(SearchStep::Fittings, index, MOST_FITTINGS);
        let edit = SpecEdit::SetHose { run: id, hose, material: None, bore: None };
        let setup = Setup::to_search(&apply(job, &edit.into())?.job, id, scans, None)?.with_hose(hose);
        all.extend(route_search.all_ways(&setup, Effort::Short(10)));
    }
    let fits = all.iter().any(Offer::fits);
    let mut give = Vec::new();
    if (wishes.turn_components || !fits) && !worker_pool.stopped() {
        let turns = turns_of(job, id);
        for (index, turn) in turns.iter().enumerate() {
            route_search.progress(SearchStep::Turns, index, turns.len());
            let edit =
                PlaceEdit::SetFreedom { component: turn.component, freedom: turn.freedom, to: turn.turned.get() };
            let turned = apply(job, &edit.into())?.job;
            let setup = Setup::to_search(&turned, id, scans, Some(turn.clone()))?;
            let found = route_search.all_ways(&setup, Effort::Short(10));
            if wishes.turn_components {
                all.extend(found);
            } else if let Some(best) = best_of(found) {
                give.push(Relaxation::turned(best, turn));
            }
        }
    }
    let (judged, closed) = (route_search.judged, route_search.closed);
    let (mut offers, short) = ranked(all);
    let outcome = match offers.first() {
        Some(offer) if offer.fits() && asis.around.unmeasured.is_empty() => Outcome::Fits,
        Some(offer) if offer.fits() => Outcome::FitsWhatIsKnown,
        Some(_) => Outcome::MouthsTooNear,
        None if closed => Outcome::Closed,
        None if worker_pool.stopped() => Outcome::Stopped,
        None => Outcome::NothingFound,
    };
    if !matches!(outcome, Outcome::Fits | Outcome::FitsWhatIsKnown) {
        let nearest = offers.first().or(short.first()).cloned();
        give.splice(0..0, nearest.and_then(Relaxation::gap));
    }
    offers.extend(short.into_iter().take(MOST_SHORT));
    Ok(RoutesFound { offers, give, cautions: cautions(job, &asis), outcome, said: outcome.words(), judged })
}

/// Fittings that are tried at an end of a hose, in degrees: what a shelf has.
const TRIED: [u16; 3] = [0, 45, 90];
/// As many pairs of them as are tried beside the one that is.
const MOST_FITTINGS: usize = 8;

/// The same hose with other fittings, where they turn in their nuts and nobody set a clock.
fn other_fittings(hose: Option<HoseBuild>) -> Vec<HoseBuild> {
    let Some(HoseBuild::Threaded { dash, fittings }) = hose else { return Vec::new() };
    let choices = |now: HoseFitting| -> Vec<HoseFitting> {
        if now.clock.is_some() || !now.swivels {
            return vec![now];
        }
        let angles = TRIED.into_iter().filter_map(|degrees| FittingAngle::new(degrees).ok());
        angles.map(|angle| HoseFitting { angle, ..now }).collect()
    };
    let pairs = choices(fittings[0]).into_iter().flat_map(|a| choices(fittings[1]).into_iter().map(move |b| [a, b]));
    pairs.filter(|pair| *pair != fittings).map(|fittings| HoseBuild::Threaded { dash, fittings }).collect()
}

/// What holds for every way of a run.
fn cautions(job: &Job, setup: &Setup) -> Vec<DualUnitText> {
    let unknown = setup.around.unmeasured.iter().filter_map(|id| job.keep_out(*id));
    let unknown = unknown.map(|keep_out| unmeasured_words(keep_out.name.as_str()));
    let moves = stiff_all_along(&setup.run).map(|across| across.words(&setup.run));
    let parted = setup.run.route.joints().iter().any(|joint| joint.end().is_none());
    let joints = parted.then(|| {
        DualUnitText::new(|_| {
            "Only ways with straights long enough for the joints along the pipe are offered.".to_owned()
        })
    });
    let branches = (!setup.run.route.branches().is_empty()).then(|| {
        DualUnitText::same(
            "What is let into the pipe is not looked at: on the way that is taken it stands as near as can be to where it did, \
             and what it then meets is told."
                .to_owned(),
        )
    });
    let elbows = job.run(setup.run.id).is_some_and(|run| run.route.joints().iter().any(|joint| joint.bend().is_some()));
    let elbows = elbows.then(|| {
        DualUnitText::same(
            "All bends of what is offered are of tube: a moulded elbow goes with its bend, and is made anew on the way that is taken."
                .to_owned(),
        )
    });
    unknown.chain(moves).chain(joints).chain(branches).chain(elbows).collect()
}

/// A hash of exactly what a search for a run reads: the job but for which route the run takes and keeps, the joints along
/// it, which come along with each way that is offered, and which scans are at hand.
#[must_use]
pub fn reads(job: &Job, id: RunId, scans: &Scans) -> u64 {
    let along = job.run(id).map_or_else(Vec::new, |run| in_order(&run.route));
    reads_with(job, id, scans, &along)
}

/// A hash of exactly what a search for a component's place or for a way out reads: all of the job, and which scans are at
/// hand.
#[must_use]
pub fn job_reads(job: &Job, scans: &Scans) -> u64 {
    hash_of(job, job, scans)
}

fn hash_of(what: &impl Serialize, job: &Job, scans: &Scans) -> u64 {
    let mut hasher = DefaultHasher::new();
    // A job is always JSON; if it ever were not, nothing would be taken for an answer.
    serde_json::to_string(what).map_err(|error| error.to_string()).hash(&mut hasher);
    for keep_out in job.keep_outs() {
        if let KeepOutShape::Scan(scan) = &keep_out.shape {
            scans.get(&scan.scan, scan.unit).is_some().hash(&mut hasher);
        }
    }
    hasher.finish()
}

/// Hashes of all it answers for: what it was asked, and the same once one of its offers is taken, whose joints stand as
/// that has them.
#[must_use]
pub fn answers_for(found: &RoutesFound, job: &Job, id: RunId, scans: &Scans) -> Vec<u64> {
    let offers = found.offers.iter().map(|offer| reads_with(job, id, scans, &in_order(&offer.way)));
    let mut all: Vec<u64> = [reads(job, id, scans)].into_iter().chain(offers).collect();
    all.sort_unstable();
    all.dedup();
    all
}

fn reads_with(job: &Job, id: RunId, scans: &Scans, along: &[(Joint, Option<usize>)]) -> u64 {
    let job = job.without_routes_of(id);
    hash_of(&(&job, along), &job, scans)
}

/// The joints between the ends of a route, with the places of their legs: bends are numbered anew when a route is taken.
fn in_order(way: &Route) -> Vec<(Joint, Option<usize>)> {
    let legs = way.joints().iter().filter_map(|joint| {
        let along = joint.along()?;
        let place = AlongAnchor { leg: LegId::FROM_A, ..along };
        Some((Joint { at: place.into(), ..joint.clone() }, way.leg_index(along.leg)))
    });
    let mut joints: Vec<_> = legs.collect();
    joints.sort_by_key(|(joint, _)| joint.id);
    joints
}

//! One search at work: rough ways brought to their best, in every shape worth having, and measured as offers.

use std::sync::atomic::{AtomicUsize, Ordering};

use nalgebra::Point3;

use super::field::Field;
use super::figures::Figures;
use super::grid::Grid;
use super::offer::{Offer, Style, TurnFirst, name_of, short_of};
use super::rank::{MOST_AIR, SAME_PLACE};
use super::refine::{CLEAR, Hold, Price, Refined, Refiner};
use super::roadmap::{Roadmap, Rough};
use super::sampling::{MOST_ROUNDS, Sampling};
use super::variants::{variants, wished};
use super::worker_pool::WorkerPool;
use super::{News, SearchStep};
use nook_core::assembly::Assembly;
use nook_core::edit::EditError;
use nook_core::environment::{Environment, Scans};
use nook_core::job::Job;
use nook_core::measure::{Component, End, Freedom, PortRef, RunId};
use nook_core::reach::turned;
use nook_core::route::{
    AngleChoice, DesignVector, ResolvedRun, Route, RouteConstraints, RouteEnds, RouteGeometry, Run, course_of, ways,
    with_parts_of,
};
use nook_core::stock::HoseBuild;
use nook_core::survey::Survey;
use nook_geometry::units::TurnAngle;

/// What one bend is worth in mm of pipe: clocking and fitting it.
const BEND_COSTS: f64 = 40.0;
/// What a radian of turn is worth in mm of pipe: a seam of ten degrees is worth 20 mm.
const TURN_COSTS: f64 = 20.0 * 5.729_577_951_308_232;
/// Air in mm beyond what is asked that roomy ways are given: half a finger.
const ROOMY: f64 = 8.0;
/// Bends under this many radians are not offered: without them the way is as good.
const SLIGHT: f64 = 0.07;
/// Ways longer than this many times what a ball needs may be bettered.
const LONGER: f64 = 1.25;
/// Ways measured after a search has been stopped.
const LAST: usize = 6;
/// The share of the work that the ways with few bends take.
const FEW_TAKE: f32 = 0.3;

/// A run in its surroundings, with what was turned for it.
pub(super) struct Setup {
    pub(super) run: ResolvedRun,
    pub(super) around: Environment,
    /// How wide the saw cuts, in mm.
    kerf: f64,
    turn: Option<TurnFirst>,
    /// The fittings a hose was given for it.
    hose: Option<HoseBuild>,
}

impl Setup {
    /// A run as it is.
    pub(super) fn of(job: &Job, id: RunId, scans: &Scans) -> Result<Self, EditError> {
        let run = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
        Ok(Self::settled(job, run, scans, None))
    }

    /// A run that other ways are looked for, a component turned first: those are offered in tube, as a moulded elbow goes with the
    /// bend it is in.
    pub(super) fn to_search(job: &Job, id: RunId, scans: &Scans, turn: Option<TurnFirst>) -> Result<Self, EditError> {
        let run = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
        let run = Run { route: run.route.clone().without_elbows(), ..run.clone() };
        Ok(Self::settled(job, &run, scans, turn))
    }

    fn settled(job: &Job, run: &Run, scans: &Scans, turn: Option<TurnFirst>) -> Self {
        let survey = Survey::new(job);
        let run = survey.settle(run);
        let around = Environment::of(job, &survey, &run, scans);
        Self { run, around, kerf: job.kerf(), turn, hose: None }
    }

    /// The same with fittings that a hose was given for it.
    pub(super) fn with_hose(self, hose: HoseBuild) -> Self {
        Self { hose: Some(hose), ..self }
    }
}

/// Turns of components worth trying for a run: a step or two each way, or ten and twenty degrees.
pub(super) fn turns_of(job: &Job, id: RunId) -> Vec<TurnFirst> {
    let on_it = |component: &&Component| component.ports.iter().any(|port: &PortRef| port.run == id);
    let mut all = Vec::new();
    for component in job.components().iter().filter(on_it) {
        let turns = component.freedoms.iter().enumerate();
        for (freedom, turn) in turns.filter(|(_, freedom)| matches!(freedom, Freedom::Turn { .. })) {
            let step = turn.step().unwrap_or(TURNED_BY);
            for k in [-1.0, 1.0, -2.0, 2.0] {
                let Ok(turned) = TurnAngle::new(turn.setting() + k * step) else { continue };
                if turn.takes(turned.get()) {
                    let name = component.name.as_str().to_owned();
                    all.push(TurnFirst { component: component.id, name, freedom, turned });
                }
            }
        }
    }
    all
}

/// Degrees by which what turns to any angle is tried.
const TURNED_BY: f64 = 10.0;

/// How much is tried for one setup.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Effort {
    /// All there is: for the run that was asked about.
    Full,
    /// So many rough ways, brought to their best in every shape: for one of several setups.
    Short(usize),
    /// So many rough ways, brought to their best, in other shapes only where none fits as it is: for what compares places, not
    /// ways.
    OneShape(usize),
}

impl Effort {
    /// Most rough ways that are brought to their best.
    const fn most(self) -> usize {
        match self {
            Self::Full => usize::MAX,
            Self::Short(most) | Self::OneShape(most) => most,
        }
    }
}

pub(super) struct RouteSearch<'a> {
    pub(super) wishes: &'a RouteConstraints,
    pub(super) worker_pool: &'a WorkerPool<'a>,
    pub(super) tell: &'a (dyn Fn(News) + Sync),
    pub(super) judged: usize,
    /// Whether it is proven that nothing as thick as the tube gets through.
    pub(super) closed: bool,
}

impl RouteSearch<'_> {
    pub(super) fn progress(&self, step: SearchStep, done: usize, of: usize) {
        self.progress_between(step, [0.0, 1.0], done, of);
    }

    /// The same where the work is the part of its step between two shares.
    fn progress_between(&self, step: SearchStep, [from, to]: [f32; 2], done: usize, of: usize) {
        let part = |n: usize| f32::from(u16::try_from(n).unwrap_or(u16::MAX));
        (self.tell)(News::Progress(step, from + (to - from) * part(done) / part(of).max(1.0)));
    }

    /// Every way of a setup worth offering that so much effort finds.
    pub(super) fn all_ways(&mut self, setup: &Setup, effort: Effort) -> Vec<Offer> {
        let most = effort.most();
        let field = Field::new(&setup.run, &setup.around, self.wishes);
        let route_ends = RouteEnds::new(&setup.run, &[]);
        let price = Price {
            length: 1.0,
            turn: TURN_COSTS,
            height: self.wishes.height.map(nook_geometry::units::Coordinate::get),
        };
        let polisher = Refiner { field: &field, route_ends: &route_ends, price };
        let mut offers = self.simple_ways(setup, &field);
        let bends = usize::from(self.wishes.most_bends.unwrap_or(RouteConstraints::MOST_BENDS));
        if bends < 2 {
            return offers;
        }
        let pins: Vec<Point3<f64>> = self.wishes.pins.iter().map(|pin| pin.at.inner()).collect();
        let mut polished = self.round(&polisher, setup, &field, &pins, Sampling::Even, [0.0, 0.4], most);
        // Where nothing fits, or what does is far longer than need be, it is looked where a ball gets through.
        let shortest = |polished: &[Refined]| {
            let clear = polished.iter().filter(|way| way.broken < CLEAR).map(|way| way.route_geometry.length());
            let simple = offers.iter().filter(|offer| offer.fits_but_for_the_mouths()).map(|o| o.figures.length.mm());
            clear.chain(simple).fold(f64::INFINITY, f64::min)
        };
        let free = offers.iter().map(|offer| offer.figures.length.mm()).fold(f64::INFINITY, f64::min);
        let free = free.min((route_ends.b - route_ends.a).norm() * 1.2);
        if effort == Effort::Full && shortest(&polished) > free * LONGER && !self.worker_pool.stopped() {
            let least = nook_core::route::least_straights(&setup.run, 1);
            let least = [least[0], least[1]];
            let grid = Grid::new(&field, &route_ends, self.worker_pool);
            let reach = grid.reach(&route_ends, least, self.worker_pool);
            if !reach.shortest.is_finite() && !self.worker_pool.stopped() {
                self.closed = grid.proves_closed(&route_ends, least);
            }
            for round in 0..MOST_ROUNDS {
                let now = shortest(&polished);
                let far = if round == 0 { now > reach.shortest * LONGER } else { !now.is_finite() };
                if !reach.shortest.is_finite() || !far || self.worker_pool.stopped() {
                    break;
                }
                let sampling = Sampling::Guided { grid: &grid, reach: &reach, round };
                let shares = [0.4 + 0.2 * f32::from(u8::try_from(round).unwrap_or(0)); 2];
                polished.extend(self.round(
                    &polisher,
                    setup,
                    &field,
                    &pins,
                    sampling,
                    [shares[0], shares[0] + 0.2],
                    most,
                ));
            }
        }
        // Only where nothing at all is clear are ways taken up that run through things.
        if !shortest(&polished).is_finite() && !self.worker_pool.stopped() {
            polished.extend(self.round(&polisher, setup, &field, &pins, Sampling::Through, [0.0, 1.0], most));
        }
        let best = distinct(polished);
        let one_shape = matches!(effort, Effort::OneShape(_));
        if one_shape {
            offers.extend(self.shapes(&polisher, setup, &field, &best, false));
        }
        // Another shape, or more air, may get by where the shortest way does not.
        if !one_shape || !offers.iter().any(Offer::fits) {
            offers.extend(self.shapes(&polisher, setup, &field, &best, true));
            let roomy = Field::new(&setup.run, &setup.around, self.wishes).roomier(ROOMY);
            let roomy = Refiner { field: &roomy, route_ends: &route_ends, price };
            offers.extend(self.again(&roomy, setup, &field, &best, Style::Roomy));
        }
        if self.wishes.tight_pies || !offers.iter().any(Offer::fits_but_for_the_mouths) {
            offers.extend(self.tight(setup, &field, price, &best));
        }
        offers
    }

    /// Rough ways through places strewn in one manner, brought to their best; few bends first, so that somebody who waits
    /// sees something soon.
    #[allow(clippy::too_many_arguments, reason = "one step of all_ways, which has them at hand")]
    fn round(
        &mut self,
        polisher: &Refiner<'_>,
        setup: &Setup,
        field: &Field<'_>,
        pins: &[Point3<f64>],
        sampling: Sampling<'_>,
        [from, to]: [f32; 2],
        most: usize,
    ) -> Vec<Refined> {
        let bends = usize::from(self.wishes.most_bends.unwrap_or(RouteConstraints::MOST_BENDS));
        self.progress(SearchStep::Legs, 0, 1);
        let map = Roadmap::new(field, polisher.route_ends, polisher.price, BEND_COSTS, pins, sampling);
        let legs = map.legs(self.worker_pool);
        let mut few = map.few_bends(bends, &legs, self.worker_pool);
        few.truncate(most);
        let middle = from + FEW_TAKE * (to - from);
        let mut polished = self.polish_all(polisher, setup, field, &few, [from, middle]);
        let mut many = map.many_bends(bends, &legs, self.worker_pool);
        many.truncate(most - few.len());
        polished.extend(self.polish_all(polisher, setup, field, &many, [middle, to]));
        polished
    }

    /// Ways with no bend, one, or two of special angles, as they come.
    fn simple_ways(&mut self, setup: &Setup, field: &Field<'_>) -> Vec<Offer> {
        let found = ways(&setup.run).ways;
        self.judged += found.len();
        let offers =
            found.into_iter().filter_map(|candidate| self.offer(setup, field, &candidate.way, Style::DesignVector));
        offers.collect()
    }

    fn polish_all(
        &mut self,
        polisher: &Refiner<'_>,
        setup: &Setup,
        field: &Field<'_>,
        rough: &[Rough],
        shares: [f32; 2],
    ) -> Vec<Refined> {
        self.judged += rough.len();
        let told = AtomicUsize::new(0);
        let polished = self.worker_pool.each(rough.len(), |index| {
            let way = self.held(polisher, &rough[index].free);
            let done = told.fetch_add(1, Ordering::Relaxed);
            self.progress_between(SearchStep::Ways, shares, done, rough.len());
            if let Some(found) = way.as_ref().filter(|way| way.broken < CLEAR)
                && let Some(offer) = self.offer_of(setup, field, found, Style::DesignVector).filter(Offer::fits)
            {
                (self.tell)(News::Found(Box::new(offer)));
            }
            way
        });
        polished.into_iter().flatten().collect()
    }

    /// A way brought to its best with what is wished.
    fn held(&self, polisher: &Refiner<'_>, free: &DesignVector) -> Option<Refined> {
        let route_geometry = polisher.route_ends.geometry(free)?;
        polisher.refine(free, &wished(self.wishes, &route_geometry))
    }

    /// The best ways as they are, and where `others` says so in other shapes.
    fn shapes(
        &mut self,
        polisher: &Refiner<'_>,
        setup: &Setup,
        field: &Field<'_>,
        best: &[Refined],
        others: bool,
    ) -> Vec<Offer> {
        let mut tasks: Vec<(DesignVector, Style, Vec<Hold>)> = Vec::new();
        for way in best {
            let wished = wished(self.wishes, &way.route_geometry);
            tasks.push((way.free.clone(), Style::DesignVector, wished.clone()));
            if others && way.broken < 20.0 {
                for (style, holds) in variants(&setup.run, &way.route_geometry) {
                    tasks.push((way.free.clone(), style, [wished.clone(), holds].concat()));
                }
            }
        }
        self.judged += tasks.len();
        let done = AtomicUsize::new(0);
        let found = self.worker_pool.each(tasks.len(), |index| {
            let (free, style, holds) = &tasks[index];
            let at = done.fetch_add(1, Ordering::Relaxed);
            self.progress(SearchStep::Shapes, at, tasks.len());
            let way = if *style == Style::DesignVector {
                best.iter().find(|way| way.free == *free).cloned()
            } else {
                polisher.refine(free, holds)
            };
            let way = way.filter(|way| *style == Style::DesignVector || way.broken < CLEAR)?;
            self.offer_of(setup, field, &way, *style)
        });
        let mut found: Vec<Offer> = found.into_iter().flatten().collect();
        if self.worker_pool.stopped() {
            // What was found by then is worth telling, once it is measured.
            let clear = best.iter().filter(|way| way.broken < CLEAR).take(LAST);
            found.extend(clear.filter_map(|way| self.offer_of(setup, field, way, Style::DesignVector)));
        }
        found
    }

    /// The best ways again with pies of the tightest radius whose throat is still useful.
    fn tight(&mut self, setup: &Setup, field: &Field<'_>, price: Price, best: &[Refined]) -> Vec<Offer> {
        if setup.run.hose.is_some() {
            return Vec::new();
        }
        let radius = tightest_pies(&setup.run);
        if radius >= setup.run.radius.get() - 1.0 {
            return Vec::new();
        }
        let route_ends = RouteEnds::new(&setup.run, &[radius]);
        self.again(&Refiner { field, route_ends: &route_ends, price }, setup, field, best, Style::Tight)
    }

    /// The best ways once more, under other conditions.
    fn again(
        &mut self,
        polisher: &Refiner<'_>,
        setup: &Setup,
        field: &Field<'_>,
        best: &[Refined],
        style: Style,
    ) -> Vec<Offer> {
        let few = best.len().min(12);
        self.judged += few;
        let found = self.worker_pool.each(few, |index| {
            let way = self.held(polisher, &best[index].free)?;
            self.offer_of(setup, field, &way, style)
        });
        found.into_iter().flatten().collect()
    }

    fn offer_of(&self, setup: &Setup, field: &Field<'_>, way: &Refined, style: Style) -> Option<Offer> {
        let mut taken = Route::along(course_of(&way.free)?);
        if style == Style::Tight {
            let radius = way.route_geometry.radii.first().copied()?;
            taken = taken.with_radius(nook_geometry::units::BendRadius::new(radius).ok()?);
        }
        self.offer(setup, field, &taken, style)
    }

    /// A way as an offer; `None` where it cannot be built, has no room for its seats or is not what was asked.
    fn offer(&self, setup: &Setup, field: &Field<'_>, way: &Route, style: Style) -> Option<Offer> {
        let run = &setup.run;
        // What is joined along the pipe stays, wherever it goes.
        let way = with_parts_of(run, way);
        let pipe = Assembly::along(run, &way).ok()?;
        let route_geometry = RouteGeometry::of(&pipe.whole);
        let bends = route_geometry.angles.len();
        let least = nook_core::route::least_straights(run, bends);
        let roomy = route_geometry.straights.iter().zip(&least).all(|(have, need)| *have >= need - 1e-6);
        let most_bends = usize::from(self.wishes.most_bends.unwrap_or(RouteConstraints::MOST_BENDS));
        let slight = bends > 2 && route_geometry.angles.iter().any(|angle| *angle < SLIGHT);
        let seated = pipe.between().iter().all(|joint| joint.short <= 1e-6);
        if !roomy || !seated || slight || bends > most_bends {
            return None;
        }
        let pinned = self.wishes.pins.iter().all(|pin| {
            let near =
                route_geometry.spans().iter().map(|span| span.nearest(&pin.at.inner())).fold(f64::INFINITY, f64::min);
            near <= pin.within + 0.1
        });
        let offer = measured(setup, field, way, style)?;
        let figures = &offer.figures;
        let whole_elbows = self.wishes.angles != AngleChoice::WholeElbows || figures.whole_elbows == figures.bends;
        let few_seams = self.wishes.most_seams.is_none_or(|most| figures.seams <= u32::from(most));
        (pinned && few_seams && whole_elbows).then_some(offer)
    }
}

/// A way as an offer, measured as it will be built, whether or not it has room for its seats; `None` where it does not
/// join the ports.
pub(super) fn measured(setup: &Setup, field: &Field<'_>, way: Route, style: Style) -> Option<Offer> {
    let run = &setup.run;
    let pipe = Assembly::along(run, &way).ok()?;
    let route_geometry = RouteGeometry::of(&pipe.whole);
    let (pipe, _) = turned(run, pipe, &setup.around);
    let outside = pipe.envelope(run);
    let counted = setup.around.counted(&outside, run.tube.od() / 2.0);
    let margin = field.pipe_margin(&counted, MOST_AIR);
    // Moulded elbows are not welded in.
    let elbows = style == Style::WholeElbows && run.hose.is_none();
    let figures = Figures::of(run, &pipe, setup.kerf, margin, elbows);
    let shortfalls = field.shortfalls(&counted).into_iter().filter(|short| short.near.gap < short.asked - CLEAR);
    let mut short: Vec<_> = shortfalls.map(|short| short_of(field, &short)).collect();
    short.sort_by(|p, q| (p.gap.mm() - p.limit.mm()).total_cmp(&(q.gap.mm() - q.limit.mm())));
    let [from, to] = [End::A, End::B].map(|end| run.outlet(end).at.to_array());
    let mut corners = vec![from];
    corners.extend(route_geometry.vertices.iter().map(|v| <[f64; 3]>::from(v.coords)));
    corners.push(to);
    Some(Offer {
        name: name_of(&route_geometry, style, setup.turn.as_ref(), setup.hose),
        good: nook_geometry::units::DualUnitText::new(|_| String::new()),
        but: None,
        angles: route_geometry.angles.iter().map(|angle| angle.to_degrees()).collect(),
        turn: setup.turn.clone(),
        hose: setup.hose,
        figures,
        short,
        corners,
        elbows,
        line: line_of(&route_geometry),
        way,
    })
}

/// Places along a centre line, some 5 mm apart.
fn line_of(route_geometry: &RouteGeometry) -> Vec<Point3<f64>> {
    let mut line = Vec::new();
    for span in route_geometry.spans() {
        let count = (span.length() / 5.0).ceil().max(1.0);
        let mut k = 0.0;
        while k < count {
            line.push(span.at(span.length() * k / count).0);
            k += 1.0;
        }
    }
    line
}

/// The tightest radius in mm at which ten-degree pies still have a useful throat; whole half millimetres.
fn tightest_pies(run: &ResolvedRun) -> f64 {
    let half_seam = 5.0_f64.to_radians();
    let least = run.tube.od() / 2.0 + nook_core::route::least_throat(run.tube) / (2.0 * half_seam.tan());
    (least * 2.0).ceil() / 2.0
}

/// The best polished ways, no two in one place: those that fit first, then those that nearly do.
fn distinct(mut all: Vec<Refined>) -> Vec<Refined> {
    let cost =
        |way: &Refined| way.cost + BEND_COSTS * f64::from(u16::try_from(way.route_geometry.angles.len()).unwrap_or(0));
    let short = |way: &Refined| if way.broken < CLEAR { 0.0 } else { way.broken };
    all.sort_by(|p, q| short(p).total_cmp(&short(q)).then(cost(p).total_cmp(&cost(q))));
    let mut kept: Vec<Refined> = Vec::new();
    for way in all {
        let bends = way.route_geometry.angles.len();
        let alike = |other: &&Refined| {
            let places = way.route_geometry.vertices.iter().zip(&other.route_geometry.vertices);
            other.route_geometry.angles.len() == bends && places.into_iter().all(|(p, q)| (p - q).norm() < SAME_PLACE)
        };
        let many = kept.iter().filter(|other| other.route_geometry.angles.len() == bends).count() >= 8;
        if !many && kept.iter().find(alike).is_none() {
            kept.push(way);
        }
    }
    kept
}

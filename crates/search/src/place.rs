//! Where a component might stand: its freedoms searched for what its place is judged by, what it should not meet, and the pipes
//! that end on it.

use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};

use super::judged_place::{Bench, Judged, Taste, kind_of, rounded, total};
use super::place_offer::{PlaceNews, PlacesFound};
use super::place_words::said;
use super::worker_pool::WorkerPool;
use nook_core::edit::EditError;
use nook_core::environment::Scans;
use nook_core::job::Job;
use nook_core::measure::{Component, ComponentId, Freedom};
use nook_core::placing::Pairs;
use nook_core::survey::Survey;

/// Places strewn over the freedoms, how many of the best are brought to their best for each taste, and whose pipes are looked for.
const STREWN: usize = 480;
const REFINED: usize = 3;
const LOOKED_AT: usize = 6;

/// Looks for places of a component: at most [`LOOKED_AT`] that differ in kind, and as it stands. Says what it finds through `tell`, stops when `stop` says so, and
/// gives the same answer for the same job, whatever the number of cores.
///
/// # Errors
/// [`EditError::NoSuchComponent`] when the job has none such, [`EditError::NothingMovesIt`] when it has no freedom.
pub fn search_places(
    job: &Job,
    id: ComponentId,
    scans: &Scans,
    stop: &AtomicBool,
    tell: &(dyn Fn(PlaceNews) + Sync),
) -> Result<PlacesFound, EditError> {
    let component = job.component(id).ok_or(EditError::NoSuchComponent { component: id })?;
    if component.freedoms.is_empty() {
        return Err(EditError::NothingMovesIt { name: component.name.as_str().to_owned() });
    }
    let pool = WorkerPool::new(stop);
    let now: Vec<f64> = component.freedoms.iter().map(Freedom::setting).collect();
    let before = Pairs::of(job, &Survey::new(job), scans);
    let bench = Bench { job, component, scans, before: &before };
    let done = AtomicUsize::new(0);
    let progress = |of: f32, from: f32, share: f32| tell(PlaceNews::Progress(from + share * of));
    let strewn = strewn(component);
    let mut judged = pool.each(strewn.len(), |index| {
        let count = done.fetch_add(1, Ordering::Relaxed);
        if count.is_multiple_of(16) {
            progress(part(count, strewn.len()), 0.0, 0.3);
        }
        bench.judged(&strewn[index])
    });
    judged.retain(|one| one.is_some());
    let mut all: Vec<Judged> = judged.into_iter().flatten().collect();
    let seeds: Vec<(Taste, Judged)> = Taste::ALL
        .into_iter()
        .flat_map(|taste| {
            let cost = |place: &Judged| bench.cost(place, taste);
            apart(component, &mut all, &[], REFINED, &cost).into_iter().map(move |seed| (taste, seed))
        })
        .collect();
    let refined = |seeds: &[(Taste, Judged)], from: f32| {
        let done = AtomicUsize::new(0);
        pool.each(seeds.len(), |index| {
            let count = done.fetch_add(1, Ordering::Relaxed);
            progress(part(count, seeds.len()), from, 0.1);
            let (taste, seed) = &seeds[index];
            let (place, tried) = bench.refined(seed, *taste, &pool);
            (*taste, place, tried)
        })
    };
    let mut counted = strewn.len();
    // The best for each taste, as far as no two are of one kind.
    let mut places: Vec<Judged> = Vec::new();
    let found = refined(&seeds, 0.3);
    for taste in Taste::ALL {
        let of = found.iter().filter(|(one, ..)| *one == taste).map(|(_, place, _)| place.clone());
        let best = of.min_by(|p, q| bench.cost(p, taste).total_cmp(&bench.cost(q, taste)));
        places.extend(best.filter(|place| !places.iter().any(|other| alike(component, place, other))));
    }
    // Then what is unlike all of them, each brought to its best near where it was strewn.
    let left = LOOKED_AT.saturating_sub(places.len());
    let others = apart(component, &mut all, &places, left, &|place| place.cost);
    let others: Vec<_> = others.into_iter().map(|seed| (Taste::Unlike, seed)).collect();
    let unlike = refined(&others, 0.4);
    counted += found.iter().chain(&unlike).map(|(.., tried)| tried).sum::<usize>();
    places.extend(unlike.into_iter().map(|(_, place, _)| place));
    let same = |one: &Judged| one.settings.iter().zip(&now).all(|(p, q)| (p - q).abs() < 0.05);
    places.retain(|place| !same(place));
    places.extend(bench.judged(&now));
    let mut offers = Vec::new();
    for (index, place) in places.iter().enumerate() {
        progress(part(index, places.len()), 0.5, 0.5);
        if let Some(offer) = bench.offer(place, same(place), &pool) {
            tell(PlaceNews::Found(Box::new(offer.clone())));
            offers.push(offer);
        }
    }
    offers.sort_by(|p, q| total(p).total_cmp(&total(q)));
    said(&mut offers);
    Ok(PlacesFound { offers, judged: counted, stopped: pool.stopped() })
}

fn part(count: usize, of: usize) -> f32 {
    let number = |n: usize| f32::from(u16::try_from(n).unwrap_or(u16::MAX));
    number(count) / number(of).max(1.0)
}

/// Settings strewn evenly over the freedoms. Source: Halton, On the efficiency of certain quasi-random sequences of points, 1960.
fn strewn(component: &Component) -> Vec<Vec<f64>> {
    const PRIMES: [u32; 8] = [2, 3, 5, 7, 11, 13, 17, 19];
    let halton = |mut index: u32, base: u32| {
        let (mut share, mut unit) = (0.0, 1.0);
        while index > 0 {
            unit /= f64::from(base);
            share += unit * f64::from(index % base);
            index /= base;
        }
        share
    };
    let at = |index: u32| {
        component.freedoms.iter().zip(PRIMES).map(move |(freedom, base)| {
            let [least, most] = freedom.limits();
            freedom.nearest(rounded(least + (most - least) * halton(index, base)))
        })
    };
    (1_u32..).take(STREWN).map(|index| at(index).collect()).collect()
}

/// Whether two places are of one kind: no freedom is set far from the other's.
fn alike(component: &Component, one: &Judged, other: &Judged) -> bool {
    component
        .freedoms
        .iter()
        .zip(one.settings.iter().zip(&other.settings))
        .all(|(freedom, (p, q))| (p - q).abs() < kind_of(freedom))
}

/// The best places of which no two are of one kind, nor of one kind with any of `beside`, at most so many.
fn apart(
    component: &Component,
    all: &mut [Judged],
    beside: &[Judged],
    most: usize,
    cost: &dyn Fn(&Judged) -> f64,
) -> Vec<Judged> {
    all.sort_by(|p, q| cost(p).total_cmp(&cost(q)));
    let mut kept: Vec<Judged> = Vec::new();
    for place in all.iter() {
        if kept.len() < most && !kept.iter().chain(beside).any(|other| alike(component, place, other)) {
            kept.push(place.clone());
        }
    }
    kept
}

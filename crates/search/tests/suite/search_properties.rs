//! Every way that is found is really clear, joins the ports and keeps what is asked; and none that a slow, plain search
//! knows is much cheaper.

#![allow(
    clippy::unwrap_used,
    clippy::panic,
    clippy::float_cmp,
    clippy::print_stdout,
    reason = "a test fails by panicking"
)]

use std::sync::atomic::{AtomicBool, Ordering};

use crate::bays::{AIR, Bay, RouteEnds, bay};
use nalgebra::Point3;
use nook_core::measure::{End, KeepOutShape};
use nook_core::route::{
    ExclusionZone, LegConstraint, LegDirection, Pin, ResolvedRun, RouteConstraints, build_path, least_between_bends,
    tube_path,
};
use nook_core::{Edit, Job, MeasureEdit, RouteEdit, RunId, Scans, apply, workup};
use nook_geometry::{Point, Vector};
use nook_search::{News, Offer, RoutesFound, Weights, search};

fn ways(job: &Job, run: RunId) -> RoutesFound {
    search(job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap()
}

fn fitting(found: &RoutesFound) -> Vec<&Offer> {
    found.offers.iter().filter(|offer| offer.fits()).collect()
}

/// Places along a way, some half a millimetre apart, without the straights that its hoses need.
fn sampled(job: &Job, run: RunId, offer: &Offer) -> Vec<Point3<f64>> {
    let settled = ResolvedRun::as_typed(job.run(run).unwrap());
    let path = build_path(&settled, &offer.way).unwrap();
    let mut travel = path.setting_out();
    let mut places = Vec::new();
    let skip = |end| settled.gap(end) + settled.straight_needed(end);
    let last = path.legs().len();
    let mut straight = |travel: nook_geometry::Travel, length: f64, index: usize| {
        let from = if index == 0 { skip(End::A) } else { 0.0 };
        let to = length - if index == last { skip(End::B) } else { 0.0 };
        let mut s = from;
        while s <= to {
            places.push(travel.straight(s).at);
            s += 0.5;
        }
    };
    let mut arcs = Vec::new();
    for (index, leg) in path.legs().iter().enumerate() {
        straight(travel, leg.straight, index);
        let bend = travel.straight(leg.straight).clocked(leg.bend.rotation);
        let mut turned = 0.0;
        while turned <= leg.bend.angle {
            arcs.push(bend.bend(leg.bend.radius, turned).at);
            turned += 0.005;
        }
        travel = bend.bend(leg.bend.radius, leg.bend.angle);
    }
    straight(travel, path.last(), last);
    places.extend(arcs);
    places
}

fn really_clear(bay: &Bay, offer: &Offer) {
    for at in sampled(&bay.job, bay.run, offer) {
        for lump in &bay.lumps {
            let gap = lump.distance(&at) - crate::bays::TUBE;
            assert!(gap >= AIR - 0.11, "{}: {gap} mm at {at}", offer.name);
        }
    }
}

fn really_joins(job: &Job, run: RunId, offer: &Offer) {
    let settled = ResolvedRun::as_typed(job.run(run).unwrap());
    let path = build_path(&settled, &offer.way).unwrap();
    let arrival = path.arrival();
    assert!((arrival.at.coords - Vector::from(settled.b.at.to_array())).norm() < 1e-6);
    assert!(arrival.along.angle(settled.b.out.reversed()) < 1e-9);
    let straights: Vec<f64> = tube_path(&settled, &path).straights().collect();
    let last = straights.len() - 1;
    for (index, straight) in straights.iter().enumerate() {
        let least = match index {
            0 => settled.straight_needed(End::A),
            i if i == last => settled.straight_needed(End::B),
            _ => least_between_bends(&settled),
        };
        assert!(*straight >= least - 1e-6, "{}: straight {index} is {straight}, {least} needed", offer.name);
    }
}

#[test]
fn every_way_found_is_really_clear_and_joins_its_ports() {
    for seed in [1, 4, 7, 12, 23, 31] {
        let bay = bay(seed);
        let found = ways(&bay.job, bay.run);
        for offer in fitting(&found) {
            really_clear(&bay, offer);
            really_joins(&bay.job, bay.run, offer);
            // The workup, which measures the pies themselves, finds nothing too near either.
            let taken =
                apply(&bay.job, &Edit::Route(RouteEdit::TakeWay { run: bay.run, way: offer.way.clone() })).unwrap().job;
            let said: Vec<String> = workup(&taken, bay.run).unwrap().findings.into_iter().map(|f| f.words.mm).collect();
            assert!(!said.iter().any(|words| words.contains("lump")), "{}: {said:?}", offer.name);
        }
    }
}

/// The cheapest way found, by the prices both searches are given; pies at their usual count cost by whole seams, so the
/// turn is priced anew here.
fn cheapest(found: &RoutesFound) -> Option<f64> {
    let price = |offer: &Offer| {
        let turn: f64 = offer.angles.iter().sum();
        offer.figures.length.mm() + 40.0 * f64::from(offer.figures.bends) + 2.0 * turn
    };
    fitting(found).into_iter().map(price).min_by(f64::total_cmp)
}

/// Fifty bays against a plain search over a grid, each brought to its best. `NOOK_SAY=1` prints the figures that
/// docs/performance.md reports.
#[test]
fn nothing_that_a_slow_plain_search_finds_is_missed_or_much_cheaper() {
    let (mut found_both, mut worst, mut sum, mut ours_only) = (0_u32, f64::NEG_INFINITY, 0.0, 0_u32);
    for seed in 0..50 {
        let bay = bay(seed);
        let plain = RouteEnds::of(&bay).exhaustive(&bay.lumps, AIR + 1.0);
        let ours = cheapest(&ways(&bay.job, bay.run));
        match (plain, ours) {
            (Some(plain), Some(ours)) => {
                let over = ours / plain.cost - 1.0;
                assert!(over <= 0.05, "seed {seed}: {ours:.0} against {:.0}", plain.cost);
                (found_both, worst, sum) = (found_both + 1, worst.max(over), sum + over);
            }
            (Some(plain), None) => panic!("seed {seed}: a way that costs {:.0} was missed", plain.cost),
            (None, Some(_)) => ours_only += 1,
            (None, None) => {}
        }
    }
    assert!(found_both >= 25, "the bays are worth searching: {found_both} have a way");
    if std::env::var_os("NOOK_SAY").is_some() {
        let mean = sum / f64::from(found_both) * 100.0;
        println!(
            "{found_both} bays by both, {ours_only} by the search alone; worst {:.1} %, mean {mean:.1} %",
            worst * 100.0
        );
    }
}

#[test]
fn the_same_job_gives_the_same_ways_whatever_is_told_meanwhile() {
    let bay = bay(3);
    let slow =
        search(&bay.job, bay.run, &Scans::default(), &AtomicBool::new(false), &|_| std::thread::yield_now()).unwrap();
    assert_eq!(slow, ways(&bay.job, bay.run));
}

#[test]
fn a_search_that_is_called_off_ends_at_once_and_offers_only_what_is_sound() {
    let bay = bay(5);
    let stop = AtomicBool::new(false);
    let found = search(&bay.job, bay.run, &Scans::default(), &stop, &|news| {
        if matches!(news, News::Found(_)) {
            stop.store(true, Ordering::Relaxed);
        }
    });
    fitting(&found.unwrap()).into_iter().for_each(|offer| really_clear(&bay, offer));
    let stopped = AtomicBool::new(true);
    assert!(search(&bay.job, bay.run, &Scans::default(), &stopped, &|_| {}).unwrap().judged < 60);
}

#[test]
fn more_air_asked_never_makes_a_way_appear() {
    for seed in [2, 6, 9] {
        let bay = bay(seed);
        let mut wide = bay.job.clone();
        for keep_out in bay.job.keep_outs() {
            let gap = Some(nook_geometry::units::Gap::new(45.0).unwrap());
            let to = nook_core::edit::KeepOutChange::Gap { gap };
            wide = apply(&wide, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out: keep_out.id, to })).unwrap().job;
        }
        let (tight, wide) = (ways(&bay.job, bay.run), ways(&wide, bay.run));
        let (before, after) = (cheapest(&tight), cheapest(&wide));
        match (before, after) {
            (None, Some(_)) => panic!("seed {seed}: a way appeared as more air was asked"),
            (Some(before), Some(after)) => assert!(after >= before * 0.97, "seed {seed}: {after} undercuts {before}"),
            _ => {}
        }
    }
}

fn moved(job: &Job, run: RunId, place: impl Fn([f64; 3]) -> [f64; 3], turn: impl Fn([f64; 3]) -> [f64; 3]) -> Job {
    let mut next = job.clone();
    for end in [End::A, End::B] {
        let mut port = job.run(run).unwrap().port(end).clone();
        port.at = Point::try_from(place(port.at.to_array())).unwrap();
        port.out = turn(port.out.to_array()).try_into().unwrap();
        next = apply(&next, &Edit::Measure(MeasureEdit::SetPort { run, end, port })).unwrap().job;
    }
    for keep_out in job.keep_outs() {
        let shape = match keep_out.shape.clone() {
            KeepOutShape::Sphere { centre, diameter } => {
                KeepOutShape::Sphere { centre: place(centre.to_array()).try_into().unwrap(), diameter }
            }
            KeepOutShape::Box { centre, size, .. } => {
                // A turn about plumb turns a box's heading with it.
                let [x, y, _] = turn([1.0, 0.0, 0.0]);
                let heading = y.atan2(x).to_degrees();
                KeepOutShape::Box {
                    centre: place(centre.to_array()).try_into().unwrap(),
                    size,
                    heading,
                    pitch: 0.0,
                    roll: 0.0,
                }
            }
            other => panic!("{other:?} is in no such bay"),
        };
        let to = nook_core::edit::KeepOutChange::Shape { shape };
        next = apply(&next, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out: keep_out.id, to })).unwrap().job;
    }
    next
}

#[test]
fn a_bay_carried_turned_about_plumb_or_mirrored_has_the_same_ways() {
    let bay = bay(11);
    let here = ways(&bay.job, bay.run);
    assert!(!fitting(&here).is_empty());
    let (sin, cos) = 0.7_f64.sin_cos();
    let turn = move |[x, y, z]: [f64; 3]| [x * cos - y * sin, x * sin + y * cos, z];
    let jobs = [
        moved(&bay.job, bay.run, |[x, y, z]| [x + 120.0, y - 40.0, z + 15.0], |d| d),
        moved(&bay.job, bay.run, turn, turn),
        moved(&bay.job, bay.run, |[x, y, z]| [x, -y, z], |[x, y, z]| [x, -y, z]),
    ];
    for (index, job) in jobs.iter().enumerate() {
        let there = ways(job, bay.run);
        let (p, q) = (cheapest(&here).unwrap(), cheapest(&there).unwrap());
        assert!((p - q).abs() < 0.01 * p, "bay {index}: {p} against {q}");
        assert_eq!(fitting(&here).is_empty(), fitting(&there).is_empty());
    }
}

#[test]
fn what_is_wished_holds() {
    let bay = bay(8);
    let free = ways(&bay.job, bay.run);
    let best = fitting(&free)[0];
    let ask = |wishes: RouteConstraints| {
        let asked = apply(&bay.job, &Edit::Route(RouteEdit::SetWishes { run: bay.run, wishes })).unwrap().job;
        ways(&asked, bay.run)
    };
    // Few bends.
    let few = ask(RouteConstraints { most_bends: Some(2), ..RouteConstraints::default() });
    assert!(few.offers.iter().all(|offer| offer.figures.bends <= 2));
    // A place to pass, beside where the best goes.
    let middle = best.corners[best.corners.len() / 2];
    let at = Point::new(middle[0], middle[1], middle[2] + 60.0).unwrap();
    let pinned = ask(RouteConstraints { pins: vec![Pin { at, within: 20.0 }], ..RouteConstraints::default() });
    for offer in fitting(&pinned) {
        let near = sampled(&bay.job, bay.run, offer)
            .iter()
            .map(|p| (p - Point3::from(at.to_array())).norm())
            .fold(f64::INFINITY, f64::min);
        assert!(near <= 20.6, "{} passes {near} mm off", offer.name);
    }
    // A place to keep out of: where the best goes.
    let at = Point::try_from(middle).unwrap();
    let banned =
        ask(RouteConstraints { bans: vec![ExclusionZone { at, radius: 50.0 }], ..RouteConstraints::default() });
    for offer in fitting(&banned) {
        let near = sampled(&bay.job, bay.run, offer)
            .iter()
            .map(|p| (p - Point3::from(middle)).norm())
            .fold(f64::INFINITY, f64::min);
        assert!(near >= 50.0 + crate::bays::TUBE - 0.2, "{} comes {near} mm near", offer.name);
    }
    // A level leg: the longest between the first and the last bend.
    let level = ask(RouteConstraints {
        legs: vec![LegConstraint { near: None, way: LegDirection::Level }],
        ..RouteConstraints::default()
    });
    let legs = |offer: &Offer| {
        let inner = &offer.corners[1..offer.corners.len() - 1];
        inner.windows(2).map(|pair| (pair[1][2] - pair[0][2]).abs()).fold(f64::INFINITY, f64::min)
    };
    assert!(fitting(&level).iter().filter(|offer| offer.figures.bends >= 3).all(|offer| legs(offer) < 0.5));
}

#[test]
fn weights_put_first_what_they_name() {
    let found = ways(&bay(10).job, bay(10).run);
    let figures: Vec<_> = found.offers.iter().map(|offer| &offer.figures).collect();
    let none = Weights {
        air: 0.0,
        bends: 0.0,
        seams: 0.0,
        hours: 0.0,
        length: 0.0,
        loss: 0.0,
        mass: 0.0,
        looks: 0.0,
        stock: 0.0,
    };
    let first = |weights: Weights| figures[weights.order(&figures)[0]];
    let fits = || figures.iter().filter(|f| f.margin.mm() >= 0.0);
    let shortest = fits().map(|f| f.length.mm()).fold(f64::INFINITY, f64::min);
    assert_eq!(first(Weights { length: 1.0, ..none }).length.mm(), shortest);
    let fewest = fits().map(|f| f.seams).min().unwrap();
    assert_eq!(first(Weights { seams: 1.0, ..none }).seams, fewest);
}

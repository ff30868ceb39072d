//! Places on offer: taken, each is what it says it is.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, Ordering};

use nook_core::edit::{ComponentChange, EditError};
use nook_core::environment::Scans;
use nook_core::job::upgraded;
use nook_core::measure::{Component, ComponentId};
use nook_core::workup::{BayWorkup, bay};
use nook_core::{Edit, Job, PlaceEdit, apply};
use nook_search::{PlaceNews, PlaceOffer, PlaceRunOutcome, PlacesFound, search_places};

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../../demo/pellow-van.json")).unwrap();
    let version = u32::try_from(file["version"].as_u64().unwrap()).unwrap();
    serde_json::from_value(upgraded(version, file["job"].clone())).unwrap()
}

fn named<'a>(job: &'a Job, name: &str) -> &'a Component {
    job.components().iter().find(|one| one.name.as_str() == name).unwrap()
}

fn places(job: &Job, id: ComponentId) -> PlacesFound {
    search_places(job, id, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap()
}

/// Pairs with a body of the component that overlap, and the air missing in all, from the bay as it is told.
fn lack(bay: &BayWorkup, component: &Component) -> (usize, f64) {
    let own = bay.pairs.iter().filter(|pair| pair.things.iter().any(|id| component.body.contains(id)));
    own.fold((0, 0.0), |(fouls, short), pair| {
        (fouls + usize::from(pair.gap.mm() <= 0.0), short + pair.limit.mm() - pair.gap.mm())
    })
}

fn is_what_it_says(job: &Job, id: ComponentId, offer: &PlaceOffer) {
    let moved = offer.edit.as_ref().map_or_else(|| job.clone(), |edit| apply(job, edit).unwrap().job);
    let component = moved.component(id).unwrap();
    let settings: Vec<f64> = component.freedoms.iter().map(|one| one.setting()).collect();
    assert_eq!(settings, offer.settings);
    let bay = bay(&moved);
    let (fouls, short) = lack(&bay, component);
    assert_eq!(fouls, offer.fouls, "{:?}", offer.name);
    assert!((short - offer.short.mm()).abs() < 1e-6);
    let told = bay.components.iter().find(|one| one.component == id).unwrap();
    let shown = told.placing.shown.as_ref().map(|shown| shown.share);
    assert!(
        shown.zip(offer.shown).is_none_or(|(p, q)| (p - q).abs() < 1e-9) && shown.is_some() == offer.shown.is_some()
    );
    // Whatever passes it is as it was, or is named.
    for run in job.runs().iter().filter(|run| component.ports.iter().all(|port| port.run != run.id)) {
        let fouls = |job: &Job| {
            let found = nook_core::workup(job, run.id).unwrap().findings;
            found.iter().filter(|one| one.severity == nook_core::findings::Severity::Error).count()
        };
        let mark = run.mark.as_ref().unwrap().as_str();
        assert_eq!(fouls(&moved) > fouls(job), offer.spoils.iter().any(|one| one == mark), "{mark}: {:?}", offer.name);
    }
    for run in &offer.runs {
        let Some(way) = &run.way else { continue };
        assert_eq!(run.outcome, PlaceRunOutcome::Fits);
        let edit = nook_core::RouteEdit::TakeWay { run: run.run, way: way.clone() };
        let taken = apply(&moved, &Edit::Route(edit)).unwrap().job;
        let workup = nook_core::workup(&taken, run.run).unwrap();
        let length = workup.totals.as_ref().unwrap().mouth_to_mouth.mm();
        assert!((length - run.length.unwrap().mm()).abs() < 0.2, "{length}");
        // What is said to fit runs into nothing.
        let fouls = workup.findings.iter().filter(|one| one.kind == nook_core::findings::FindingKind::Fouls).count();
        assert_eq!(fouls, 0, "{:?}: {:?}", offer.name, workup.findings);
    }
}

#[test]
fn every_place_of_the_cooler_is_what_it_says_and_at_least_four_differ() {
    let job = demo();
    let id = named(&job, "charge cooler").id;
    let found = places(&job, id);
    assert!(found.offers.len() >= 4, "{}", found.offers.len());
    assert_eq!(found.offers.iter().filter(|offer| offer.edit.is_none()).count(), 1, "as it stands is among them, once");
    for offer in &found.offers {
        is_what_it_says(&job, id, offer);
    }
    // Each differs from each by 10 mm or more somewhere.
    for (index, one) in found.offers.iter().enumerate() {
        for other in &found.offers[index + 1..] {
            let most = one.settings.iter().zip(&other.settings).map(|(p, q)| (p - q).abs()).fold(0.0, f64::max);
            assert!(most >= 5.0, "{:?} and {:?}", one.name, other.name);
        }
    }
    assert_eq!(places(&job, id), found, "the same job has the same places");
}

#[test]
fn progress_is_told_and_a_search_that_is_called_off_ends() {
    let job = demo();
    let id = named(&job, "radiator").id;
    let told = Mutex::new((0, 0));
    let stop = AtomicBool::new(false);
    let tell = |news| {
        let mut told = told.lock().unwrap();
        match news {
            PlaceNews::Progress(share) => {
                assert!((0.0..=1.0).contains(&share));
                told.0 += 1;
            }
            PlaceNews::Found(_) => told.1 += 1,
        }
    };
    let found = search_places(&job, id, &Scans::default(), &stop, &tell).unwrap();
    let (progress, places) = *told.lock().unwrap();
    assert!(progress > 10 && places == found.offers.len());
    let off = AtomicBool::new(true);
    let none = search_places(&job, id, &Scans::default(), &off, &|_| {}).unwrap();
    assert!(none.stopped && none.offers.len() <= 1, "nothing was looked through");
}

#[test]
fn what_was_not_looked_for_in_time_is_not_said_to_have_no_way() {
    let job = demo();
    let id = named(&job, "charge cooler").id;
    // Called off as soon as its first place is told: nothing is known of the pipes of the others.
    let stop = AtomicBool::new(false);
    let tell = |news| stop.fetch_or(matches!(news, PlaceNews::Found(_)), Ordering::Relaxed);
    let found = search_places(&job, id, &Scans::default(), &stop, &|news| {
        tell(news);
    })
    .unwrap();
    assert!(found.stopped && found.offers.len() > 2);
    let whole = places(&job, id);
    assert!(!whole.stopped);
    let outcomes = |found: &PlacesFound, settings: &[f64]| {
        let offer = found.offers.iter().find(|offer| offer.settings == settings).unwrap();
        offer.runs.iter().map(|run| run.outcome).collect::<Vec<_>>()
    };
    let mut unsought = 0;
    for offer in &found.offers {
        let words = offer.but.as_ref().map_or("", |but| but.mm.as_str());
        for (run, known) in offer.runs.iter().zip(outcomes(&whole, &offer.settings)) {
            let open = run.outcome == PlaceRunOutcome::Stopped;
            assert!(open || run.outcome == known, "{:?}: {known:?}", offer.name);
            assert_eq!(run.way.is_some(), run.outcome == PlaceRunOutcome::Fits);
            assert!(!open || words.contains("time was up"), "{words}");
            unsought += usize::from(open);
        }
    }
    assert!(unsought >= 4, "{unsought}");
}

#[test]
fn what_nothing_moves_is_refused() {
    let job = demo();
    let engine = named(&job, "engine").id;
    let search = |job: &Job, id| search_places(job, id, &Scans::default(), &AtomicBool::new(false), &|_| {});
    assert!(matches!(search(&job, engine), Err(EditError::NothingMovesIt { .. })));
    assert!(matches!(search(&job, ComponentId(9999)), Err(EditError::NoSuchComponent { .. })));
    // A freedom without any range has nowhere to go, and says so by offering only where it stands.
    let id = named(&job, "radiator").id;
    let still = nook_core::measure::Freedom::Slide {
        along: nook_geometry::Direction::new(1.0, 0.0, 0.0).unwrap(),
        from: nook_geometry::units::Slide::new(0.0).unwrap(),
        to: nook_geometry::units::Slide::new(0.0).unwrap(),
        slid: nook_geometry::units::Slide::new(0.0).unwrap(),
    };
    let to = ComponentChange::Freedoms { freedoms: vec![still] };
    let job = apply(&job, &PlaceEdit::ChangeComponent { component: id, to }.into()).unwrap().job;
    let found = search(&job, id).unwrap();
    assert_eq!(found.offers.len(), 1);
    assert!(found.offers[0].edit.is_none());
}

//! The order in which pipes come apart, what is tried first, and where a pipe should part; in bays of boxes where the answer is
//! known.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::sync::Mutex;
use std::sync::atomic::AtomicBool;

use crate::support::by_place::kind;
use crate::support::held::{OD, straight, with};
use crate::support::{draft, port};
use nook_core::edit::KeepOutChange;
use nook_core::environment::Scans;
use nook_core::join::JointKind;
use nook_core::measure::{End, EndForm, KeepOutId, KeepOutKind, KeepOutShape, Side};
use nook_core::route::{Centreline, Route};
use nook_core::taken_out::{BayPart, NotParted};
use nook_core::{Edit, Job, JobEdit, MeasureEdit, PartRef, RouteEdit, RunId, apply};
use nook_geometry::Point;
use nook_geometry::units::{Name, PartLength};
use nook_search::{PartingSchool, Partings, WayOut, taking_apart, way_out, where_to_part};

fn boxed(job: &Job, name: &str, from: [f64; 3], to: [f64; 3]) -> (Job, KeepOutId) {
    let centre = Point::try_from([0, 1, 2].map(|i| f64::midpoint(from[i], to[i]))).unwrap();
    let size = [0, 1, 2].map(|i| to[i] - from[i]);
    let shape = KeepOutShape::Box { centre, size, heading: 0.0, pitch: 0.0, roll: 0.0 };
    let name = Name::new(name).unwrap();
    let edit = MeasureEdit::AddKeepOut { name, kind: KeepOutKind::StillMetal, rides: Side::Body, shape, big: false };
    let applied = apply(job, &Edit::Measure(edit)).unwrap();
    let Some(PartRef::KeepOut { keep_out }) = applied.made.first().copied() else { panic!("it names what it made") };
    (applied.job, keep_out)
}

/// A trough round x from 0 to 900, open upwards, so deep below the axis and so high above it.
fn trough(job: &Job, low: f64, high: f64) -> Job {
    let walls = [
        ("floor", [-100.0, -120.0, low - 20.0], [1000.0, 120.0, low]),
        ("left wall", [-100.0, 100.0, low], [1000.0, 120.0, high]),
        ("right wall", [-100.0, -120.0, low], [1000.0, -100.0, high]),
        ("wall at A", [-100.0, -120.0, low], [-60.0, 120.0, high]),
        ("wall at B", [960.0, -120.0, low], [1000.0, 120.0, high]),
    ];
    walls.iter().fold(job.clone(), |job, (name, from, to)| boxed(&job, name, *from, *to).0)
}

fn lid(job: &Job, high: f64) -> (Job, KeepOutId) {
    boxed(job, "lid", [-100.0, -120.0, high], [1000.0, 120.0, high + 20.0])
}

fn comes_off(job: &Job, keep_out: KeepOutId) -> Job {
    let to = KeepOutChange::ComesOff { comes_off: true };
    with(job, &[Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to })])
}

/// One more line above or below the first.
fn beside(job: &Job, z: f64) -> (Job, RunId) {
    let mut run = draft(port([0.0, 0.0, z], [1.0, 0.0, 0.0], OD), port([900.0, 0.0, z], [-1.0, 0.0, 0.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    run.name = Name::new("upper line").unwrap();
    let applied = apply(job, &Edit::Job(JobEdit::AddRun { run })).unwrap();
    let run = applied.job.runs().last().unwrap().id;
    (with(&applied.job, &[Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::Straight) })]), run)
}

fn out(job: &Job, run: RunId, section: usize, before: Option<&WayOut>) -> WayOut {
    way_out(job, run, section, &Scans::default(), before, &AtomicBool::new(false), &|_| {}).unwrap()
}

#[test]
fn a_lid_stops_it_and_is_taken_off_first_where_that_may_be() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let open = trough(&job, -60.0, 60.0);
    assert!(out(&open, run, 0, None).words.mm.contains("up, straight"));
    let (shut, id) = lid(&open, 60.0);
    let lid = BayPart::KeepOut { keep_out: id };
    let stuck = out(&shut, run, 0, None);
    assert!(stuck.frames.is_empty() && stuck.motion.is_none());
    let off = comes_off(&shut, id);
    let found = out(&off, run, 0, None);
    assert_eq!((found.first.as_slice(), found.by), (&[lid][..], None), "{}", found.words.mm);
    assert!(found.words.mm.starts_with("With the lid off first"), "{}", found.words.mm);
    let apart = taking_apart(&off, &Scans::default(), &AtomicBool::new(false), &|_| {});
    let order: Vec<BayPart> = apart.steps.iter().map(|one| one.part).collect();
    assert_eq!(order, [lid, BayPart::Section { run, section: 0 }]);
    // Nobody says that it may: it stays.
    let apart = taking_apart(&shut, &Scans::default(), &AtomicBool::new(false), &|_| {});
    assert_eq!((apart.steps.len(), apart.stuck.len()), (0, 1));
    assert!(apart.stuck[0].by.is_some());
}

#[test]
fn what_lies_above_comes_out_first() {
    let (job, lower) = straight([Side::Body, Side::Body]);
    let (job, upper) = beside(&trough(&job, -60.0, 220.0), 120.0);
    // A ledge on either side, under which the lower line cannot pass the upper.
    let (job, _) = boxed(&job, "left ledge", [-60.0, 28.0, 50.0], [960.0, 100.0, 90.0]);
    let (job, _) = boxed(&job, "right ledge", [-60.0, -100.0, 50.0], [960.0, -28.0, 90.0]);
    let apart = taking_apart(&job, &Scans::default(), &AtomicBool::new(false), &|_| {});
    let order: Vec<BayPart> = apart.steps.iter().map(|one| one.part).collect();
    assert_eq!(order, [upper, lower].map(|run| BayPart::Section { run, section: 0 }), "{:?}", apart.stuck);
    assert_eq!(out(&job, lower, 0, None).first, [BayPart::Run { run: upper }]);
    assert!(out(&job, upper, 0, None).first.is_empty());
}

#[test]
fn a_way_that_was_found_is_tried_first_and_only_taken_while_it_is_free() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let open = trough(&job, -60.0, 60.0);
    let before = out(&open, run, 0, None);
    // Something far away was added: the same way, without a search.
    let (far, _) = boxed(&open, "battery", [0.0, 400.0, 0.0], [100.0, 500.0, 400.0]);
    let told = Mutex::new(0);
    let look = |job: &Job| {
        let tell = |_: f64| *told.lock().unwrap() += 1;
        way_out(job, run, 0, &Scans::default(), Some(&before), &AtomicBool::new(false), &tell).unwrap()
    };
    let again = look(&far);
    assert_eq!(*told.lock().unwrap(), 0);
    // It leaves further up now: 50 mm over the box round all of it.
    let top = |found: &WayOut| found.frames.last().unwrap()[3][2];
    assert!(top(&before) < top(&again) && top(&again) >= 400.0 + 50.0, "{} {}", top(&before), top(&again));
    // A lid over it, and the same way is none any more.
    let (shut, _) = lid(&open, 60.0);
    assert!(look(&shut).frames.is_empty());
    assert!(*told.lock().unwrap() > 0, "it was looked for");
    // Nor is a way for a pipe that is another now.
    assert!(matches!(
        way_out(&far, run, 1, &Scans::default(), Some(&before), &AtomicBool::new(false), &|_| {}),
        Err(NotParted::NoSuchSection { section: 1, count: 1 })
    ));
}

/// A line of 900 mm at the bottom of a shaft that is open over its first 560 mm: no rod so thick and longer than 848 mm
/// gets round that corner, by the ladder's length (a^2/3 + b^2/3)^3/2.
fn shaft() -> (Job, RunId) {
    let (job, run) = straight([Side::Body, Side::Body]);
    let walls = [
        ("floor", [-100.0, -125.0, -80.0], [1000.0, 125.0, -60.0]),
        ("left wall", [-100.0, 105.0, -60.0], [1000.0, 125.0, 900.0]),
        ("right wall", [-100.0, -125.0, -60.0], [1000.0, -105.0, 900.0]),
        ("wall at A", [-100.0, -125.0, -60.0], [-40.0, 125.0, 900.0]),
        ("block over B", [560.0, -105.0, 40.0], [1000.0, 105.0, 900.0]),
        ("wall at B", [940.0, -105.0, -60.0], [1000.0, 105.0, 40.0]),
    ];
    (walls.iter().fold(job, |job, (name, from, to)| boxed(&job, name, *from, *to).0), run)
}

fn partings(job: &Job, run: RunId, school: PartingSchool, longest: Option<f64>) -> Partings {
    let longest = longest.map(|mm| PartLength::new(mm).unwrap());
    where_to_part(job, run, school, longest, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap()
}

#[test]
fn a_pipe_that_does_not_come_out_whole_is_parted_once_where_it_does() {
    let (job, run) = shaft();
    assert!(out(&job, run, 0, None).frames.is_empty());
    let found = partings(&job, run, PartingSchool::Fewest, None);
    assert!(!found.offers.is_empty(), "{}", found.words.mm);
    for offer in &found.offers {
        let parted = apply(&job, &offer.edit).unwrap().job;
        assert_eq!(parted.run(run).unwrap().route.joints().len(), 3, "one more than its ends");
        assert!(offer.steps.len() == 2 && offer.longest.mm() < 848.0);
    }
    // In the order that is told, each past the other or once that is off.
    for offer in &found.offers[..1] {
        let parted = apply(&job, &offer.edit).unwrap().job;
        for step in &offer.steps {
            let BayPart::Section { section, .. } = step.part else { panic!("only sections come off: {step:?}") };
            assert!(!out(&parted, run, section, None).frames.is_empty(), "{}", step.words.mm);
        }
    }
    // The part under the block never passes the other.
    assert!(partings(&job, run, PartingSchool::EachOut, None).offers.is_empty());
    // Shorter parts ask for more joints; every part is as short as was asked.
    let short = partings(&job, run, PartingSchool::Fewest, Some(430.0));
    for offer in &short.offers {
        assert!(offer.longest.mm() <= 430.0 && offer.steps.len() > 2, "{}", offer.words.mm);
    }
    assert!(!short.offers.is_empty(), "{}", short.words.mm);
    // In the open it need not part at all, but for its length.
    let (free, run) = straight([Side::Body, Side::Body]);
    let none = partings(&free, run, PartingSchool::EachOut, None);
    assert!(none.offers.is_empty() && none.words.mm.contains("need not"), "{}", none.words.mm);
    assert_eq!(partings(&free, run, PartingSchool::EachOut, Some(600.0)).offers.len(), 3);
}

#[test]
fn what_is_welded_on_is_told_instead_of_looked_for() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let mut plain = job.run(run).unwrap().a.clone();
    plain.form = EndForm::Plain;
    let port = Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port: plain });
    let welded = with(&job, &[port, kind(&job, run, End::A, JointKind::Metal)]);
    let never = AtomicBool::new(false);
    let asked = where_to_part(&welded, run, PartingSchool::Fewest, None, &Scans::default(), &never, &|_| {});
    assert!(matches!(asked, Err(NotParted::Welded { .. })), "{asked:?}");
    let apart = taking_apart(&welded, &Scans::default(), &never, &|_| {});
    assert!(apart.steps.is_empty() && apart.stuck[0].words.mm.contains("welded"), "{:?}", apart.stuck);
}

/// Called off before it began nothing is claimed: neither that something comes out nor what stops it.
#[test]
fn a_search_that_is_called_off_says_so() {
    let (job, run) = shaft();
    let off = AtomicBool::new(true);
    let found = way_out(&job, run, 0, &Scans::default(), None, &off, &|_| {}).unwrap();
    assert!(found.frames.is_empty() && found.by.is_none() && found.short.is_none(), "{}", found.words.mm);
    let apart = taking_apart(&job, &Scans::default(), &off, &|_| {});
    assert!(apart.steps.is_empty() && apart.stuck[0].words.mm.contains("in the time"), "{:?}", apart.stuck);
    let none = where_to_part(&job, run, PartingSchool::Fewest, None, &Scans::default(), &off, &|_| {}).unwrap();
    assert!(none.offers.is_empty() && none.words.mm.contains("in the time"), "{}", none.words.mm);
}

//! Every remedy that is offered mends its finding and makes nothing worse, in the whole bay as it is told afterwards.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::BTreeMap;

use crate::support::{draft, job_with, port};
use nook_core::findings::Severity;
use nook_core::measure::{Freedom, KeepOutKind, KeepOutShape, MountKind, Mounts, PortRef, Side, TurnRange};
use nook_core::route::Target;
use nook_core::workup::ClearancePiece;
use nook_core::{Edit, Job, JobEdit, MeasureEdit, PlaceEdit, RouteEdit, RunId, Workup, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::{Name, Straight, TurnAngle};
use proptest::prelude::*;

/// What is missing in mm of the air that each thing asks for: a piece of the trace names only the worst, so each thing is
/// put alone beside the pipe.
fn missing(job: &Job, run: RunId) -> BTreeMap<String, f64> {
    let each = job.keep_outs().iter().map(|one| {
        let mut alone = job.clone();
        for other in job.keep_outs().iter().filter(|other| other.id != one.id) {
            alone = apply(&alone, &Edit::Measure(MeasureEdit::RemoveKeepOut { keep_out: other.id })).unwrap().job;
        }
        let air = workup(&alone, run).unwrap().air;
        let short = air.map_or(0.0, |air| {
            let knob =
                |piece: &ClearancePiece| piece.thing.is_some_and(|thing| air.things[thing].name == one.name.as_str());
            let gaps = air.trace.iter().filter(|piece| knob(piece)).filter_map(|piece| piece.gap.as_ref());
            gaps.map(|gap| 10.0 - gap.mm()).fold(0.0, f64::max)
        });
        (one.name.as_str().to_owned(), short)
    });
    each.collect()
}

/// Whether the pipe is near nothing else, itself or another pipe.
fn only_knobs(workup: &Workup) -> bool {
    workup.air.iter().all(|air| air.things.iter().all(|thing| thing.name.starts_with("knob")))
}

fn errors(workup: &Workup) -> usize {
    workup.findings.iter().filter(|finding| finding.severity == Severity::Error).count()
}

/// Applies every remedy there is and looks at all runs; how many were tried.
fn tried(job: &Job, run: RunId) -> Result<usize, TestCaseError> {
    let before = workup(job, run).unwrap();
    let others: Vec<RunId> = job.runs().iter().map(|other| other.id).filter(|id| *id != run).collect();
    let mut count = 0;
    for finding in &before.findings {
        for remedy in &finding.remedies {
            count += 1;
            let (what, label) = (&finding.words.mm, &remedy.label.mm);
            let after = apply(job, &remedy.edit).unwrap().job;
            let left = workup(&after, run).unwrap();
            let still = left.findings.iter().any(|one| one.part == finding.part && one.words == finding.words);
            prop_assert!(!still, "{what} is still there after: {label}");
            let (was, now) = (errors(&before), errors(&left));
            // Where there was no pipe yet, any is better.
            if before.air.is_none() {
                continue;
            }
            prop_assert!(now <= was, "{what}: {was} errors became {now} by: {label}");
            let named = |name: &String| what.contains(name.as_str());
            let (was, now) = (missing(job, run), missing(&after, run));
            // Air may be traded between things that lack it, but none that was clear is run into, and no more is missing in
            // all; where only these things are near, all is their sum.
            for (name, short) in now.iter().filter(|(name, _)| !named(name)) {
                prop_assert!(*short <= 10.0 || was[name] > 10.0, "{what}: runs into the {name} after: {label}");
            }
            let beside = |all: &BTreeMap<String, f64>| -> f64 {
                all.iter().filter(|(name, _)| !named(name)).map(|(_, short)| short).sum()
            };
            // How deep a pipe is in a thing it runs into is told only roughly.
            let shallow = was.values().chain(now.values()).all(|short| *short <= 10.0);
            if shallow && only_knobs(&before) && only_knobs(&left) {
                prop_assert!(beside(&now) <= beside(&was) + 0.4, "{what}: other air went by: {label}");
            }
            for other in &others {
                let (was, now) = (errors(&workup(job, *other).unwrap()), errors(&workup(&after, *other).unwrap()));
                prop_assert!(now <= was, "{what}: another pipe's {was} errors became {now} by: {label}");
            }
        }
    }
    Ok(count)
}

/// A pipe of two bends that ends at `b`, with things beside it, and a second one whose port turns with the first's.
fn bay(b: [f64; 3], places: &[([f64; 3], f64)], moving: bool, turning: bool) -> (Job, RunId) {
    let (mut job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port(b, [0.0, 0.1, -1.0], 63.5)));
    for (index, (at, diameter)) in places.iter().enumerate() {
        let shape = KeepOutShape::Sphere { centre: Point::try_from(*at).unwrap(), diameter: *diameter };
        let (name, kind, rides) = (Name::new(&format!("knob {index}")).unwrap(), KeepOutKind::StillMetal, Side::Body);
        job =
            apply(&job, &Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides, shape, big: false })).unwrap().job;
    }
    if moving {
        let [from, to] = [[-200.0, 0.0, -100.0], [400.0, 0.0, -100.0]].map(|at| Point::try_from(at).unwrap());
        let (roll, overrun, crank, shift) = (None, None, None, None);
        let mounts = Some(Mounts { kind: MountKind::Firm, from, to, roll, overrun, crank, shift });
        job = apply(&job, &Edit::Measure(MeasureEdit::SetMounts { mounts })).unwrap().job;
    }
    if turning {
        let mut second =
            draft(port([0.0, -150.0, 0.0], [1.0, 0.0, 0.0], 63.5), port([500.0, -150.0, 0.0], [-1.0, 0.0, 0.0], 63.5));
        second.name = Name::new("Cold side").unwrap();
        job = apply(&job, &Edit::Job(JobEdit::AddRun { run: second })).unwrap().job;
        let other = job.runs().last().unwrap().id;
        let turn = |degrees| TurnAngle::new(degrees).unwrap();
        let ports = vec![
            PortRef { run, end: nook_core::measure::End::A },
            PortRef { run: other, end: nook_core::measure::End::A },
        ];
        let add = Edit::Place(PlaceEdit::AddComponent {
            name: Name::new("compressor").unwrap(),
            body: Vec::new(),
            ports,
            freedoms: vec![Freedom::Turn {
                pivot: Point::try_from([-40.0, -75.0, 0.0]).unwrap(),
                axis: nook_geometry::Direction::try_from([1.0, 0.0, 0.0]).unwrap(),
                range: TurnRange::Freely { from: turn(-30.0), to: turn(30.0) },
                turned: turn(0.0),
            }],
        });
        job = apply(&job, &add).unwrap().job;
    }
    (job, run)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(160))]
    #[test]
    fn a_remedy_mends_and_makes_nothing_worse(
        near in prop::collection::vec((any::<prop::sample::Index>(), prop::array::uniform3(-70.0..70.0_f64), 20.0..90.0_f64), 1..4),
        // Near enough that seats are short and bends come close.
        b in (200.0..560.0_f64, 90.0..300.0_f64, 130.0..330.0_f64),
        short in prop::option::of((0..3_usize, 0.0..60.0_f64)),
        moving in any::<bool>(),
        turning in any::<bool>(),
    ) {
        let b = b.into();
        let (bare, run) = bay(b, &[], moving, turning);
        prop_assume!(workup(&bare, run).unwrap().air.is_some());
        let trace = workup(&bare, run).unwrap().air.unwrap().trace;
        let places: Vec<([f64; 3], f64)> = near
            .iter()
            .map(|(piece, off, diameter)| {
                let at = piece.get(&trace).at;
                ([at[0] + off[0], at[1] + off[1], at[2] + off[2]], *diameter)
            })
            .collect();
        let (mut job, run) = bay(b, &places, moving, turning);
        if let Some((straight, length)) = short {
            let target = Target::Straight { straight: crate::support::by_place::leg(&job, run, straight), length: Straight::new(length).unwrap() };
            job = apply(&job, &Edit::Route(RouteEdit::shaped(run, target))).map_or(job, |applied| applied.job);
        }
        tried(&job, run)?;
    }
}

const B: [f64; 3] = [520.0, 260.0, 310.0];

#[test]
fn remedies_are_offered_at_all() {
    // A knob 6 mm above the middle leg, and one in it.
    let (bare, run) = bay(B, &[], false, false);
    let air = workup(&bare, run).unwrap().air.unwrap();
    let at = air.trace[air.trace.len() / 2].at;
    for (off, at_least) in [(31.75 + 10.0 + 6.0, 1), (31.75, 1)] {
        let (job, run) = bay(B, &[([at[0], at[1], at[2] + off], 20.0)], false, false);
        assert!(tried(&job, run).unwrap() >= at_least);
    }
}

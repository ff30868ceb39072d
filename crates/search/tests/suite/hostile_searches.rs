//! Searches that no sane person would ask for: ports anywhere, things through everything, lids that swing right round. None
//! may panic, and what is called clear the workup must call clear as well.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::sync::atomic::AtomicBool;

use crate::support::{any_direction, any_draft, any_point, empty_job};
use nook_core::edit::KeepOutChange;
use nook_core::measure::{KeepOutKind, KeepOutShape, MountKind, Mounts, Side, Swing};
use nook_core::route::{RouteConstraints, RunDraft};
use nook_core::{Applied, Edit, Job, JobEdit, MeasureEdit, RouteEdit, Scans, apply, workup};
use nook_geometry::units::{BendRadius, Name, OutsideDiameter, TurnAngle};
use nook_geometry::{Direction, Point};
use nook_search::search;
use proptest::prelude::*;

fn any_shape() -> impl Strategy<Value = KeepOutShape> {
    let turned = (-180.0..180.0_f64, -90.0..90.0_f64, -180.0..180.0_f64);
    prop_oneof![
        (any_point(700.0), [1.0..1500.0_f64, 1.0..600.0_f64, 1.0..600.0_f64], turned).prop_map(
            |(centre, size, (heading, pitch, roll))| KeepOutShape::Box { centre, size, heading, pitch, roll }
        ),
        (any_point(700.0), any_point(700.0), 12.0..100.0_f64).prop_map(|(from, to, d)| KeepOutShape::Cylinder {
            from,
            to,
            diameter: OutsideDiameter::new(d).unwrap()
        }),
        (any_point(700.0), 1.0..600.0_f64).prop_map(|(centre, diameter)| KeepOutShape::Sphere { centre, diameter }),
        (any_point(700.0), any_direction(), [1.0..1500.0_f64, 1.0..1500.0_f64])
            .prop_map(|(centre, normal, size)| KeepOutShape::Plane { centre, normal, size }),
        (prop::collection::vec(any_point(700.0), 2..6), 1.0..80.0_f64)
            .prop_map(|(points, diameter)| KeepOutShape::Line { points, diameter }),
    ]
}

type Thing = (KeepOutShape, bool, Option<(Point, Direction, f64)>);

fn any_things() -> impl Strategy<Value = Vec<Thing>> {
    let swing = prop::option::of((any_point(500.0), any_direction(), 5.0..170.0_f64));
    prop::collection::vec((any_shape(), any::<bool>(), swing), 0..10)
}

/// The job with whatever of these edits is not refused.
fn bay(drafts: Vec<RunDraft>, things: Vec<Thing>, mounts: Option<(Point, Point)>, radius: Option<f64>) -> Job {
    let mut job = empty_job();
    let keep = |job: &mut Job, edit: &Edit| {
        if let Ok(Applied { job: next, .. }) = apply(job, edit) {
            *job = next;
        }
    };
    for run in drafts {
        keep(&mut job, &Edit::Job(JobEdit::AddRun { run }));
    }
    for (index, (shape, engine, swing)) in things.into_iter().enumerate() {
        let (name, kind) = (Name::new(&format!("thing {index}")).unwrap(), KeepOutKind::ALL[index % 9]);
        let rides = if engine { Side::Engine } else { Side::Body };
        let before = job.keep_outs().len();
        keep(&mut job, &Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides, shape, big: false }));
        let added = job.keep_outs().last().filter(|_| job.keep_outs().len() > before).map(|thing| thing.id);
        if let Some(((pivot, axis, to), keep_out)) = swing.zip(added) {
            let angle = |degrees| TurnAngle::new(degrees).unwrap();
            let swing = Some(Swing { pivot, axis, from: angle(0.0), to: angle(to) });
            keep(&mut job, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to: KeepOutChange::Swing { swing } }));
        }
    }
    let mounts = mounts.map(|(from, to)| Mounts {
        kind: MountKind::Soft,
        from,
        to,
        roll: None,
        overrun: None,
        crank: None,
        shift: None,
    });
    keep(&mut job, &Edit::Measure(MeasureEdit::SetMounts { mounts }));
    if let Some((run, radius)) = job.runs().first().map(|run| run.id).zip(radius) {
        keep(&mut job, &Edit::Route(RouteEdit::SetRadius { run, radius: BendRadius::new(radius).unwrap() }));
        // Few bends keep a hopeless search short.
        keep(
            &mut job,
            &Edit::Route(RouteEdit::SetWishes {
                run,
                wishes: RouteConstraints { most_bends: Some(3), ..RouteConstraints::default() },
            }),
        );
    }
    job
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    #[test]
    fn nothing_panics_and_nothing_is_called_clear_that_the_workup_denies(
        drafts in prop::collection::vec(any_draft(), 1..3),
        things in any_things(),
        mounts in prop::option::of((any_point(400.0), any_point(400.0))),
        radius in prop::option::of(10.0..300.0_f64),
    ) {
        let job = bay(drafts, things, mounts, radius);
        prop_assume!(!job.runs().is_empty());
        let run = job.runs()[0].id;
        let found = search(&job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
        for offer in &found.offers {
            let taken = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: offer.way.clone() })).unwrap().job;
            let air = workup(&taken, run).unwrap().air;
            if offer.fits() {
                let margin = air.unwrap().margin.map_or(0.0, |margin| margin.mm());
                prop_assert!(margin > -0.15, "{} fits, but lacks {margin} mm", offer.name);
            }
        }
    }
}

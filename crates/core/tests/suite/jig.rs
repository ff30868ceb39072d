//! A jig built from its printed figures holds both mouths as the car does: its own sums, from what is printed alone.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::any_draft;
use nalgebra::Vector3;
use nook_core::workup::{JigWorkup, jig, workup};
use nook_core::{Edit, Job, JobEdit, RunId, apply};
use proptest::prelude::*;

type V3 = Vector3<f64>;

/// To the tenth that is printed.
fn printed(value: f64) -> f64 {
    (value * 10.0).round() / 10.0
}

/// Middle and way out of a post's mouth, as a builder sets it up from the figures.
fn built(jig: &JigWorkup, post: usize) -> (V3, V3) {
    let post = &jig.posts[post];
    let middle = V3::new(printed(post.foot[0].mm()), printed(post.foot[1].mm()), printed(post.height.mm()));
    let (turn, tilt) = (printed(post.turn).to_radians(), printed(post.tilt).to_radians());
    (middle, V3::new(turn.cos() * tilt.cos(), turn.sin() * tilt.cos(), tilt.sin()))
}

fn holds(job: &Job, run: RunId) {
    let told = jig(job, run).unwrap();
    let workup = workup(job, run).unwrap();
    let there = [0, 1].map(|k| {
        let end = &workup.ends[k];
        (V3::from(end.at.map(|c| c.mm())), V3::from(end.out))
    });
    let here = [0, 1].map(|k| built(&told, k));
    // Whatever does not turn with the board is the same on it as in the car: distances, angles, heights.
    let same = |one: [(V3, V3); 2]| {
        let across = one[1].0 - one[0].0;
        [
            across.norm(),
            across.z,
            one[0].1.dot(&one[1].1),
            one[0].1.dot(&across),
            one[1].1.dot(&across),
            one[0].1.cross(&one[1].1).dot(&across),
        ]
    };
    let long = there[0].0.metric_distance(&there[1].0).max(300.0);
    for (p, q) in same(here).into_iter().zip(same(there)) {
        assert!((p - q).abs() < 0.01 * long, "{p} on the board, {q} in the car: {told:?}");
    }
    // The checks are those of the posts, and hold to what a tape shows.
    let tip = |(at, out): (V3, V3)| at + out * told.stick.mm();
    let checks = [
        here[0].0.metric_distance(&here[1].0),
        tip(here[0]).metric_distance(&here[1].0),
        here[0].0.metric_distance(&tip(here[1])),
        tip(here[0]).metric_distance(&tip(here[1])),
    ];
    for (check, measured) in told.checks.iter().zip(checks) {
        assert!((check.mm.mm() - measured).abs() < 1.2, "{}: {} and {measured}", check.between, check.mm.mm());
    }
    // The pipe hangs over the board.
    let lift = told.posts[0].height.mm() - there[0].0.z;
    for piece in &workup.pieces {
        for solid in &piece.solids {
            let low = solid.solid.from[2].min(solid.solid.to[2]) + lift - workup.od.mm() / 2.0;
            assert!(low >= told.under.mm() - 1.0, "{low} over the board");
        }
    }
}

#[test]
fn every_run_of_the_demo_can_be_built_on_the_bench() {
    let job = demo();
    job.runs().iter().for_each(|run| holds(&job, run.id));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]
    #[test]
    fn any_two_mouths_have_a_jig(run in any_draft()) {
        let Ok(added) = apply(&crate::support::empty_job(), &Edit::Job(JobEdit::AddRun { run })) else { return Ok(()) };
        holds(&added.job, added.job.runs()[0].id);
    }
}

#[test]
fn a_post_that_stands_wrong_fails_its_checks() {
    let job = demo();
    let told = jig(&job, job.runs()[0].id).unwrap();
    let (a, b) = (built(&told, 0), built(&told, 1));
    let tip = |(at, out): (V3, V3)| at + out * told.stick.mm();
    let worst = |a: (V3, V3), b: (V3, V3)| {
        let measured = [
            a.0.metric_distance(&b.0),
            tip(a).metric_distance(&b.0),
            a.0.metric_distance(&tip(b)),
            tip(a).metric_distance(&tip(b)),
        ];
        told.checks.iter().zip(measured).map(|(check, mm)| (check.mm.mm() - mm).abs()).fold(0.0, f64::max)
    };
    // A foot 6 mm off, a post turned by 2 degrees or tilted by 2: some tape shows it.
    assert!(worst((a.0 + V3::new(6.0, 0.0, 0.0), a.1), b) > 1.5);
    let turned = nalgebra::Rotation3::from_axis_angle(&V3::z_axis(), 2.0_f64.to_radians()) * b.1;
    assert!(worst(a, (b.0, turned)) > 1.5);
}

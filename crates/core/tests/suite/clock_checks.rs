//! The bench shows which way a bend is clocked: what is told of it is what the pieces, put together, do.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::{Point3, Vector3};
use nook_core::route::{Centreline, Route};
use nook_core::{Edit, Job, RouteEdit, RunId, Workup};
use nook_geometry::Point;
use proptest::prelude::*;

use crate::support::held::{told, with};
use crate::support::{draft, job_with, port};

const OD: f64 = 63.5;

fn pipe(to: [f64; 3], out: [f64; 3]) -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port(to, out, OD)))
}

/// Two straights laid flat, from the pieces where they stand: how high the next one's end is over them.
fn on_the_bench(all: &Workup, number: usize) -> f64 {
    let leg = |at: usize| Vector3::from(all.straights[at].along);
    // Up is up where the bend between them turns left.
    let up = leg(number - 2).cross(&leg(number - 1)).normalize();
    let corner = |bend: usize| Point3::from(all.bends[bend].vertex.map(|mm| mm.mm()));
    let last = number == all.bends.len();
    let end = if last {
        Point3::from(all.ends[1].tube_end)
    } else {
        // The tangent point before the next bend.
        corner(number) - leg(number) * all.bends[number].setback.mm()
    };
    up.dot(&(end - corner(number - 1)))
}

#[test]
fn a_pipe_of_one_bend_has_nothing_to_clock_and_a_flat_one_lies_flat() {
    let (one, run) = pipe([400.0, 400.0, 0.0], [0.0, -1.0, 0.0]);
    let way = RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) };
    let all = told(&with(&one, &[Edit::Route(way)]), run);
    assert!(all.bends.len() == 1 && all.cutting.unwrap().checks.is_empty());
    let (flat, run) = pipe([600.0, 200.0, 0.0], [-1.0, 0.0, 0.0]);
    let all = told(&flat, run);
    let checks = all.cutting.unwrap().checks;
    assert_eq!(checks.len() + 1, all.bends.len());
    for check in &checks {
        assert!(check.height.mm().abs() < 1e-6 && check.words.mm.contains("lies flat too"), "{}", check.words.mm);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Each check says what the pieces do; the image of the pipe in a mirror stands the other way, and the words with it.
    #[test]
    fn what_is_told_is_what_stands_on_the_bench(
        x in 350.0..700.0_f64, y in 120.0..300.0_f64, z in 200.0..600.0_f64, aim in -0.6..0.6_f64,
    ) {
        let mirrored = |by: f64| pipe([x, by * y, z], [0.0, by * aim, -1.0]);
        let [(job, run), (image, other)] = [mirrored(1.0), mirrored(-1.0)];
        let all = told(&job, run);
        prop_assume!(all.cutting.is_some() && all.bends.len() >= 2);
        let checks = &all.cutting.as_ref().unwrap().checks;
        prop_assert_eq!(checks.len(), all.bends.len() - 1);
        for check in checks {
            let height = on_the_bench(&all, check.number);
            prop_assert!((check.height.mm() - height).abs() < 1e-6, "{} {height}", check.height.mm());
            if height.abs() > 2.0 {
                let over = check.words.mm.contains("over them, middle");
                prop_assert_eq!(over, height > 0.0, "{}", check.words.mm);
            }
        }
        let way = RouteEdit::TakeWay { run: other, way: job.run(run).unwrap().route.mirrored() };
        let image = with(&image, &[Edit::Route(way)]);
        let image = told(&image, other);
        if let Some(cutting) = image.cutting.filter(|_| image.bends.len() == all.bends.len()) {
            for (one, mirror) in checks.iter().zip(&cutting.checks) {
                prop_assert!((one.height.mm() + mirror.height.mm()).abs() < 1e-6);
            }
        }
    }

    /// With three bends and more, wherever the middle vertex lies.
    #[test]
    fn it_holds_for_every_bend_of_a_longer_pipe(by in -120.0..120.0_f64, up in 40.0..160.0_f64) {
        let (job, run) = pipe([700.0, 260.0, 380.0], [-0.2, 0.1, -1.0]);
        let at = Point::new(330.0 + by, 120.0 + by / 2.0, up).unwrap();
        let leg = job.run(run).unwrap().route.leg_id(1);
        let added = nook_core::apply(&job, &Edit::Route(RouteEdit::AddBend { run, leg, at }));
        prop_assume!(added.is_ok());
        let all = told(&added.unwrap().job, run);
        prop_assume!(all.cutting.is_some() && all.bends.len() >= 3);
        for check in &all.cutting.as_ref().unwrap().checks {
            prop_assert!((check.height.mm() - on_the_bench(&all, check.number)).abs() < 1e-6);
        }
    }
}

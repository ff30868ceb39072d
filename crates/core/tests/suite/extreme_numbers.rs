//! Numbers at the ends of what a number can be: refused, or kept so that they read back the same.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::{draft, job_with, port, tube};
use nook_core::measure::End;
use nook_core::{Edit, EditError, Job, JobEdit, apply, workup};
use nook_geometry::Direction;
use proptest::num::f64::ANY;
use proptest::prelude::*;
use serde_json::json;

proptest! {
    #[test]
    fn a_direction_is_a_unit_and_reads_back_or_there_is_none(x in ANY, y in ANY, z in ANY, scale in 150..309_i32) {
        let large = 10_f64.powi(scale);
        for [x, y, z] in [[x, y, z], [large, -large, large / 3.0], [large, x, 0.0], [1.0 / large, y, z]] {
            let Ok(direction) = Direction::new(x, y, z) else { continue };
            let [a, b, c] = direction.to_array();
            prop_assert!((a.hypot(b).hypot(c) - 1.0).abs() < 1e-15, "{x:e} {y:e} {z:e}: {a} {b} {c}");
            let text = serde_json::to_string(&direction).unwrap();
            prop_assert_eq!(serde_json::from_str::<Direction>(&text).unwrap(), direction);
        }
    }
}

#[test]
fn a_port_aimed_by_huge_numbers_points_where_they_say() {
    let ends = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5));
    let (job, run) = job_with(ends);
    let aim = json!({ "step": "measure", "edit": "aim_port", "run": run, "end": "a", "out": [1e155, 1e155, 0] });
    let aimed = apply(&job, &serde_json::from_value(aim).unwrap()).unwrap().job;
    let out = aimed.run(run).unwrap().port(End::A).out;
    assert!((out.heading() - 45.0).abs() < 1e-9, "{out:?}");
    let text = serde_json::to_string(&aimed).unwrap();
    assert_eq!(serde_json::from_str::<Job>(&text).unwrap(), aimed);
}

#[test]
fn the_thinnest_tube_there_is_makes_a_run() {
    let mut thin = draft(port([0.0; 3], [1.0, 0.0, 0.0], 3.0), port([120.0, 60.0, 70.0], [0.0, 0.1, -1.0], 3.0));
    thin.tube = tube(3.0, 0.3);
    let (job, run) = job_with(thin);
    assert!((job.run(run).unwrap().radius.get() - 5.0).abs() < 1e-12, "the least radius there is");
    workup(&job, run).unwrap();
}

#[test]
fn when_every_number_has_been_given_nothing_new_is_added() {
    let ends = || draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5));
    let (job, _) = job_with(ends());
    let mut last = serde_json::to_value(&job).unwrap();
    last["next_id"] = u32::MAX.into();
    let last: Job = serde_json::from_value(last).unwrap();
    assert_eq!(apply(&last, &Edit::Job(JobEdit::AddRun { run: ends() })), Err(EditError::NumbersUsedUp));
}

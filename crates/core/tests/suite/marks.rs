//! What is written on metal is a decision: it outlasts renaming and more bends, and no two runs share it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::route::Mark;
use nook_core::{Edit, Job, JobEdit, RouteEdit, RunId, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::Name;

use crate::support::by_place::leg;
use crate::support::{draft, job_with, port};

fn two_runs() -> (Job, [RunId; 2]) {
    let b = [520.0, 260.0, 310.0];
    let run = |z: f64, name: &str| {
        let mut run =
            draft(port([0.0, 0.0, z], [1.0, 0.0, 0.0], 63.5), port([b[0], b[1], b[2] + z], [0.0, 0.1, -1.0], 63.5));
        run.name = Name::new(name).unwrap();
        run
    };
    let (job, first) = job_with(run(0.0, "Hot side charge pipe"));
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run: run(900.0, "Heater supply") })).unwrap().job;
    let second = job.runs()[1].id;
    (job, [first, second])
}

fn names(job: &Job, run: RunId) -> Vec<String> {
    workup(job, run).unwrap().pieces.into_iter().map(|piece| piece.name).collect()
}

#[test]
fn renaming_a_run_renames_no_piece() {
    let (job, [first, second]) = two_runs();
    assert!(names(&job, first).iter().all(|name| name.starts_with("HS")));
    // Both would be HS.
    assert!(names(&job, second).iter().all(|name| name.starts_with("HA") || name.starts_with("HS")));
    assert_ne!(names(&job, first)[0], names(&job, second)[0]);
    let renamed =
        apply(&job, &Edit::Job(JobEdit::RenameRun { run: first, name: Name::new("Upper pipe").unwrap() })).unwrap().job;
    assert_eq!(names(&renamed, first), names(&job, first));
    let at = Point::new(200.0, 160.0, 60.0).unwrap();
    let more = apply(&job, &Edit::Route(RouteEdit::AddBend { run: first, leg: leg(&job, first, 1), at })).unwrap().job;
    assert!(names(&more, first).iter().all(|name| name.starts_with("HS")));
}

#[test]
fn no_two_runs_are_marked_alike() {
    let (job, [first, second]) = two_runs();
    let marked = |run, text: &str| {
        apply(&job, &Edit::Job(JobEdit::SetMark { run, mark: Mark::new(text).unwrap() })).map(|applied| applied.job)
    };
    let refused = marked(second, workup(&job, first).unwrap().mark.as_str()).unwrap_err();
    assert!(refused.to_string().contains("two runs are marked HS"), "{refused}");
    let set = marked(second, "q1x").unwrap();
    assert_eq!(names(&set, second)[0], "Q1X1");
}

#[test]
fn a_job_from_before_marks_keeps_what_was_on_its_metal() {
    let (job, [first, _]) = two_runs();
    let mut text = serde_json::to_value(&job).unwrap();
    for run in text["runs"].as_array_mut().unwrap() {
        run.as_object_mut().unwrap().remove("mark");
    }
    let old: Job = serde_json::from_value(text).unwrap();
    // Three initials, as pieces were marked then.
    assert_eq!(workup(&old, first).unwrap().mark, "HSC");
    let again: Job = serde_json::from_value(serde_json::to_value(&old).unwrap()).unwrap();
    assert_eq!(again, old);
}

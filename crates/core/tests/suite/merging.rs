//! Taking a change back, or making it again, where others have changed the job since.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::by_place::change;
use crate::support::{any_edit, draft, empty_job, job_with, port};
use nook_core::edit::JointChange;
use nook_core::measure::End;
use nook_core::{Applied, Edit, EditError, Job, JobEdit, MeasureEdit, RunId, apply, merge};
use nook_geometry::units::{Gap, Name};
use proptest::prelude::*;
use serde_json::{Value, json};

/// What the job holds, each kind of thing by its number, without the order and the next number.
fn held(job: &Job) -> Value {
    let mut whole = serde_json::to_value(job).unwrap();
    whole.as_object_mut().unwrap().remove("next_id");
    for things in whole.as_object_mut().unwrap().values_mut().filter_map(Value::as_array_mut) {
        things.sort_by_key(|thing| thing["id"].as_u64());
    }
    whole
}

fn after(job: &Job, edits: &[Edit]) -> Job {
    edits.iter().fold(job.clone(), |job, edit| apply(&job, edit).map_or(job, |applied| applied.job))
}

fn two_runs() -> (Job, [RunId; 2]) {
    let ends = || draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5));
    let (job, one) = job_with(ends());
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run: ends() })).unwrap().job;
    let two = job.runs()[1].id;
    (job, [one, two])
}

fn rename(run: RunId, name: &str) -> Edit {
    Edit::Job(JobEdit::RenameRun { run, name: Name::new(name).unwrap() })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]
    #[test]
    fn a_change_taken_back_at_once_leaves_what_was_there(
        first in prop::collection::vec(any_edit(), 1..12),
        edit in any_edit(),
    ) {
        let before = after(&empty_job(), &first);
        let Ok(Applied { job: then, .. }) = apply(&before, &edit) else { return Ok(()) };
        let back = merge(&then, &before, &then).unwrap();
        prop_assert_eq!(held(&back), held(&before));
        prop_assert_eq!(back.runs(), before.runs(), "in their order too");
        prop_assert_eq!(held(&merge(&before, &then, &back).unwrap()), held(&then));
    }

    #[test]
    fn two_changes_that_merge_do_so_in_either_order(
        first in prop::collection::vec(any_edit(), 1..12),
        mine in any_edit(),
        yours in any_edit(),
    ) {
        let base = after(&empty_job(), &first);
        let (Ok(Applied { job: mine, .. }), Ok(Applied { job: yours, .. })) = (apply(&base, &mine), apply(&base, &yours)) else { return Ok(()) };
        let (one, other) = (merge(&base, &mine, &yours), merge(&base, &yours, &mine));
        prop_assert_eq!(one.is_ok(), other.is_ok());
        let (Ok(one), Ok(other)) = (one, other) else { return Ok(()) };
        one.check().unwrap();
        prop_assert_eq!(held(&one), held(&other));
        // Each can be taken out again and leaves the other's.
        prop_assert_eq!(held(&merge(&mine, &base, &one).unwrap()), held(&yours));
    }
}

#[test]
fn my_change_to_one_pipe_is_taken_back_and_yours_to_another_stays() {
    let (base, [one, two]) = two_runs();
    let mine = apply(&base, &rename(one, "Mine")).unwrap().job;
    let both = apply(&mine, &rename(two, "Yours")).unwrap().job;
    let left = merge(&mine, &base, &both).unwrap();
    let names = |job: &Job| job.runs().iter().map(|run| run.name.as_str().to_owned()).collect::<Vec<_>>();
    assert_eq!(names(&left), [names(&base)[0].clone(), "Yours".to_owned()]);
}

#[test]
fn a_change_to_what_somebody_changed_since_is_not_taken_back_and_the_thing_is_named() {
    let (base, [one, _]) = two_runs();
    let mine = apply(&base, &rename(one, "Mine")).unwrap().job;
    let yours = apply(&mine, &change(&mine, one, End::A, JointChange::Gap { gap: Gap::new(9.0).ok() }));
    let refused = merge(&mine, &base, &yours.unwrap().job).unwrap_err();
    assert_eq!(refused, EditError::ChangedSince { what: "\u{201c}Mine\u{201d}".to_owned() });
}

#[test]
fn what_others_lean_on_is_not_taken_away_beneath_them() {
    let (base, [one, _]) = two_runs();
    let datum =
        json!({ "step": "measure", "edit": "add_datum", "name": "left bolt", "at": [0, 400, 300], "rides": "body" });
    let mine = apply(&base, &serde_json::from_value(datum).unwrap()).unwrap().job;
    let reading = json!({
        "step": "measure", "edit": "add_reading", "of": { "of": "port", "port": { "run": one, "end": "a" } },
        "reading": { "taken": { "by": "tape", "from": { "from": "datum", "datum": mine.datums()[0].id }, "mm": 500.0 } },
    });
    let yours = apply(&mine, &serde_json::from_value(reading).unwrap()).unwrap().job;
    assert!(matches!(merge(&mine, &base, &yours), Err(EditError::Invalid { .. })));
}

#[test]
fn a_number_that_was_given_since_is_not_given_again() {
    let (base, _) = two_runs();
    let add = |name: &str| {
        let datum =
            json!({ "step": "measure", "edit": "add_datum", "name": name, "at": [0, 400, 300], "rides": "body" });
        serde_json::from_value::<Edit>(datum).unwrap()
    };
    let mine = apply(&base, &add("mine")).unwrap().job;
    let without = merge(&mine, &base, &mine).unwrap();
    let yours = apply(&without, &add("yours")).unwrap().job;
    let again = merge(&base, &mine, &yours).unwrap();
    let ids: Vec<u32> = again.datums().iter().map(|datum| datum.id.0).collect();
    assert_eq!((ids.len(), ids[0] == ids[1]), (2, false), "{ids:?}");
}

#[test]
fn two_datum_points_cannot_share_a_name() {
    let (base, _) = two_runs();
    let add = |name: &str| {
        let datum =
            json!({ "step": "measure", "edit": "add_datum", "name": name, "at": [0, 400, 300], "rides": "body" });
        serde_json::from_value::<Edit>(datum).unwrap()
    };
    let one = apply(&base, &add("Left bolt")).unwrap().job;
    let taken = EditError::DatumNameTaken { name: "Left bolt".to_owned() };
    assert_eq!(apply(&one, &add("left BOLT")), Err(taken.clone()));
    let two = apply(&one, &add("right bolt")).unwrap().job;
    let rename = |index: usize, name: &str| {
        let datum = &two.datums()[index];
        Edit::Measure(MeasureEdit::SetDatum {
            datum: datum.id,
            name: Name::new(name).unwrap(),
            at: datum.at,
            rides: datum.rides,
        })
    };
    assert_eq!(apply(&two, &rename(1, "Left bolt")), Err(taken));
    assert!(apply(&two, &rename(0, "LEFT bolt")).is_ok(), "its own name in other letters");
}

#[test]
fn a_run_that_is_its_own_twin_is_refused_in_a_file() {
    let (base, [one, _]) = two_runs();
    let mut file = serde_json::to_value(&base).unwrap();
    file["runs"][0]["twin"] = json!(one);
    let refused = serde_json::from_value::<Job>(file).unwrap_err().to_string();
    assert!(refused.contains("is its own twin"), "{refused}");
}

//! The published schema takes every job file the product writes, and not just anything.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::{any_draft, any_edit, empty_job};
use jsonschema::Validator;
use nook_core::apply;
use nook_formats::{job_schema, read_job, write_job};
use proptest::prelude::*;
use serde_json::{Value, json};

fn schema() -> Validator {
    jsonschema::draft202012::new(&job_schema()).unwrap()
}

fn assert_taken(schema: &Validator, text: &str, of: &str) {
    let file: Value = serde_json::from_str(text).unwrap();
    let problems: Vec<String> =
        schema.iter_errors(&file).map(|error| format!("{error} at {}", error.instance_path())).collect();
    assert!(problems.is_empty(), "{of}: {problems:#?}");
}

#[test]
fn the_demo_and_every_kept_file_are_taken_as_written() {
    let schema = schema();
    let files = std::fs::read_dir(concat!(env!("CARGO_MANIFEST_DIR"), "/tests/files")).unwrap();
    let mut taken = 0;
    for file in files.map(|file| file.unwrap().path()).chain(["../../demo/pellow-van.json".into()]) {
        if file.extension().is_none_or(|kind| kind != "json") {
            continue;
        }
        let text = std::fs::read_to_string(&file).unwrap();
        assert_taken(&schema, &write_job(&read_job(text.as_bytes()).unwrap()).unwrap(), "written anew");
        taken += 1;
    }
    assert!(taken > 2, "only {taken} files");
}

#[test]
fn what_is_no_job_is_refused() {
    let schema = schema();
    let sound: Value = serde_json::from_str(&write_job(&empty_job()).unwrap()).unwrap();
    assert!(schema.is_valid(&sound));
    for (place, value) in [
        ("/format", json!("another")),
        ("/version", json!(99)),
        ("/job/saw/kerf", json!(-1)),
        ("/job/name", json!("")),
        ("/job/runs", json!([{}])),
        ("/job/datums", json!(3)),
    ] {
        let mut spoilt = sound.clone();
        spoilt["job"]["datums"] = json!([]);
        *spoilt.pointer_mut(place).unwrap() = value;
        assert!(!schema.is_valid(&spoilt), "{place}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]
    #[test]
    fn every_job_that_edits_lead_to_is_taken(run in any_draft(), edits in prop::collection::vec(any_edit(), 1..25)) {
        let schema = schema();
        let mut job = empty_job();
        for edit in std::iter::once(nook_core::Edit::Job(nook_core::JobEdit::AddRun { run })).chain(edits) {
            job = apply(&job, &edit).map_or(job, |applied| applied.job);
        }
        assert_taken(&schema, &write_job(&job).unwrap(), "a random job");
    }
}

//! Files that are broken, cut short or tampered with are refused in words and never bring anything down.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use nook_core::Job;
use nook_formats::{read_catalogue, read_job, write_job};
use proptest::prelude::*;
use serde_json::Value;

const DEMO: &str = include_str!("../../../../demo/pellow-van.json");

fn read(text: &str) -> Result<Job, String> {
    read_job(text.as_bytes()).map_err(|error| error.to_string())
}

#[test]
fn a_file_cut_short_anywhere_is_refused() {
    for end in (0..DEMO.trim_end().len()).step_by(97) {
        let error = read(&DEMO[..end]).unwrap_err();
        assert!(error.contains("no JSON"), "at {end}: {error}");
    }
}

/// Paths of all values in a document.
fn places(value: &Value, at: &str, out: &mut Vec<String>) {
    out.push(at.to_owned());
    match value {
        Value::Array(items) => items.iter().enumerate().for_each(|(i, item)| places(item, &format!("{at}/{i}"), out)),
        Value::Object(fields) => fields.iter().for_each(|(key, field)| places(field, &format!("{at}/{key}"), out)),
        _ => {}
    }
}

#[test]
fn any_one_value_replaced_is_refused_or_still_a_sound_job() {
    let whole: Value = serde_json::from_str(DEMO).unwrap();
    let mut all = Vec::new();
    places(&whole, "", &mut all);
    let strange = [
        Value::Null,
        (-1).into(),
        1e300.into(),
        1e155.into(),
        5e-324.into(),
        u32::MAX.into(),
        "x".into(),
        Value::Array(Vec::new()),
        serde_json::json!({}),
    ];
    let (mut refused, mut taken) = (0, 0);
    for place in &all {
        for value in &strange {
            let mut spoilt = whole.clone();
            *spoilt.pointer_mut(place).unwrap() = value.clone();
            match read(&spoilt.to_string()) {
                Ok(job) => {
                    job.check().unwrap();
                    assert_eq!(read(&write_job(&job).unwrap()).as_ref(), Ok(&job), "{place}: {value}");
                    // One run of each: all of every one would take minutes.
                    if let Some(run) = job.runs().get(taken % job.runs().len().max(1)) {
                        nook_core::workup(&job, run.id).unwrap();
                    }
                    taken += 1;
                }
                Err(words) => {
                    assert!(words.len() > 10, "{place}: {words}");
                    refused += 1;
                }
            }
        }
    }
    assert!(refused > all.len() * 4, "only {refused} of {} were refused", all.len() * strange.len());
}

#[test]
fn an_unknown_field_is_named() {
    let mut whole: Value = serde_json::from_str(DEMO).unwrap();
    whole["job"]["runs"][0]["colour"] = "red".into();
    let error = read(&whole.to_string()).unwrap_err();
    assert!(error.contains("runs[0]") && error.contains("colour"), "{error}");
}

#[test]
fn a_catalogue_with_an_impossible_tube_is_refused() {
    let sound = "[[tubes]]\nname = \"2 in\"\nod = 50.8\nwalls = [1.5]\nmaterials = [\"mild_steel\"]\n";
    assert_eq!(read_catalogue(sound).unwrap().tubes.len(), 1);
    let thick = sound.replace("50.8", "3.0");
    assert!(read_catalogue(&thick).unwrap_err().to_string().contains("leaves no bore"));
    assert!(read_catalogue(&sound.replace("mild_steel", "cheese")).unwrap_err().to_string().contains("line 5"));
}

proptest! {
    #[test]
    fn no_bytes_bring_the_reader_down(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
        prop_assert!(read_job(&bytes).is_err());
    }
}

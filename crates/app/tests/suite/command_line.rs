//! The command line as scripts use it.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use std::path::{Path, PathBuf};
use std::process::{Command, Output};

fn nook_bend(arguments: &[&str]) -> Output {
    let mut program = Command::new(env!("CARGO_BIN_EXE_nook-bend"));
    // What is found must not depend on how fast this machine is.
    program.env("NOOK_BEND_SEARCH_SECONDS", "120").args(arguments).output().unwrap()
}

fn demo() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/pellow-van.json")
}

fn text(bytes: &[u8]) -> String {
    String::from_utf8(bytes.to_vec()).unwrap()
}

#[test]
fn workup_prints_json_for_a_named_run() {
    let demo = demo();
    let done = nook_bend(&["workup", demo.to_str().unwrap(), "--run", "Hot side charge pipe", "--json"]);
    let workup: serde_json::Value = serde_json::from_slice(&done.stdout).unwrap();
    assert_eq!(workup["bends"].as_array().unwrap().len(), 4);
    let straights: f64 =
        workup["straights"].as_array().unwrap().iter().map(|s| s["length"]["mm"].as_f64().unwrap()).sum();
    let arcs: f64 = workup["bends"]
        .as_array()
        .unwrap()
        .iter()
        .map(|b| b["radius"]["mm"].as_f64().unwrap() * b["angle"].as_f64().unwrap().to_radians())
        .sum();
    assert!((workup["totals"]["developed"]["mm"].as_f64().unwrap() - straights - arcs).abs() < 1e-6);
}

#[test]
fn packet_writes_the_files_for_the_saw() {
    let folder = tempfile::tempdir().unwrap();
    let out = folder.path().join("packet");
    let demo = demo();
    let packet = |run: &str, out: &Path| {
        nook_bend(&["packet", demo.to_str().unwrap(), "--run", run, "--out", out.to_str().unwrap()])
    };
    let fouls = folder.path().join("fouls");
    assert_eq!(packet("Hot side charge pipe", &fouls).status.code(), Some(3), "it fouls the alternator");
    assert!(fouls.join("cut-list.csv").is_file(), "and comes all the same");
    let done = packet("Bottom coolant line", &out);
    assert_eq!(done.status.code(), Some(0), "{}", text(&done.stderr));
    for name in ["workup.json", "cut-list.csv", "lra.csv"] {
        assert!(out.join(name).is_file(), "{name}");
    }
    let workup: serde_json::Value = serde_json::from_slice(&std::fs::read(out.join("workup.json")).unwrap()).unwrap();
    let templates =
        std::fs::read_dir(&out).unwrap().filter(|f| f.as_ref().unwrap().path().extension().is_some_and(|e| e == "svg"));
    assert_eq!(templates.count(), workup["cutting"]["settings"].as_array().unwrap().len());
}

#[test]
fn exit_codes_tell_failure_misuse_and_what_cannot_be_apart() {
    let demo = demo();
    let demo = demo.to_str().unwrap();
    assert_eq!(
        nook_bend(&["workup", demo, "--run", "Top coolant line"]).status.code(),
        Some(3),
        "a 34 mm neck on 38.1 mm tube"
    );
    let missing = nook_bend(&["workup", demo, "--run", "No such pipe"]);
    assert_eq!(missing.status.code(), Some(1));
    assert!(text(&missing.stderr).contains("it has: Hot side charge pipe, Top coolant line"));
    assert_eq!(nook_bend(&["workup", "/no/such/file.json"]).status.code(), Some(1));
    let no_job = nook_bend(&["workup", concat!(env!("CARGO_MANIFEST_DIR"), "/Cargo.toml")]);
    assert!(text(&no_job.stderr).contains("no JSON"), "{}", text(&no_job.stderr));
    assert_eq!(nook_bend(&["saw"]).status.code(), Some(2));
    let help = nook_bend(&["--help"]);
    assert!(text(&help.stdout).contains("Exit codes") && help.status.success());
}

#[test]
fn ways_are_printed_for_people_and_as_json_and_their_exit_code_says_whether_one_fits() {
    let demo = demo();
    let scan = demo.with_file_name("reservoir.ply");
    let unknown = ["ways", demo.to_str().unwrap(), "--run", "Hot side charge pipe"];
    // A scan that is not given is said, and nothing is called clear.
    let without = nook_bend(&unknown);
    assert_eq!(without.status.code(), Some(3));
    assert!(
        text(&without.stdout).contains("The gap to the steering reservoir is not known"),
        "{}",
        text(&without.stdout)
    );
    let hot = [&unknown[..], &["--scan", scan.to_str().unwrap()]].concat();
    let done = nook_bend(&[&hot[..], &["--json"]].concat());
    assert_eq!(done.status.code(), Some(0), "{}", text(&done.stderr));
    let found: serde_json::Value = serde_json::from_slice(&done.stdout).unwrap();
    let offers = found["offers"].as_array().unwrap();
    assert!(offers.len() >= 6);
    let said = text(&nook_bend(&hot).stdout);
    assert!(offers.iter().all(|offer| said.contains(offer["name"].as_str().unwrap())), "{said}");
    let missing = nook_bend(&["ways", demo.to_str().unwrap(), "--run", "No such pipe"]);
    assert!(missing.status.code().is_some_and(|code| code != 0) && !missing.stderr.is_empty());
}

#[test]
fn runs_whose_names_differ_only_in_signs_get_folders_of_their_own() {
    let folder = tempfile::tempdir().unwrap();
    let mut job: serde_json::Value = serde_json::from_slice(&std::fs::read(demo()).unwrap()).unwrap();
    let runs = job["job"]["runs"].as_array_mut().unwrap();
    runs.truncate(4);
    for (run, name) in runs.iter_mut().zip(["Coolant 1", "coolant-1", "\u{2014}", "Coolant 1-2"]) {
        run["name"] = name.into();
        run["twin"] = serde_json::Value::Null;
    }
    // The runs that go take their mouths off the big things.
    job["job"]["components"] = serde_json::json!([]);
    let file = folder.path().join("job.json");
    std::fs::write(&file, job.to_string()).unwrap();
    let out = folder.path().join("packet");
    let done = nook_bend(&["packet", file.to_str().unwrap(), "--out", out.to_str().unwrap()]);
    assert!(matches!(done.status.code(), Some(0 | 3)), "{}", text(&done.stderr));
    let mut folders: Vec<String> = std::fs::read_dir(&out)
        .unwrap()
        .map(|entry| {
            let folder = entry.unwrap().path();
            let workup = std::fs::read(folder.join("workup.json")).unwrap();
            let workup: serde_json::Value = serde_json::from_slice(&workup).unwrap();
            format!("{}: {}", folder.file_name().unwrap().to_str().unwrap(), workup["name"].as_str().unwrap())
        })
        .collect();
    folders.sort();
    assert_eq!(
        folders,
        ["coolant-1-2-2: Coolant 1-2", "coolant-1-2: coolant-1", "coolant-1: Coolant 1", "run: \u{2014}"]
    );
}

#[test]
fn instruments_that_cannot_be_are_refused_in_words() {
    for (named, code, says) in [
        (&["tape"][..], 2, "say KIND@PORT"),
        (&["ruler@8391"], 2, "tape, gauge, caliper, feeler and depth"),
        (&["tape@0"], 2, "from 1 to 65535"),
        (&["tape@8391", "tape@8392"], 1, "two instruments are called"),
        (&["tape@8391", "gauge@8391"], 1, "on port 8391"),
    ] {
        for command in ["instruments", "serve", "demo"] {
            let named = named.iter().flat_map(|one| ["--instrument", one]);
            let arguments: Vec<&str> = [command].into_iter().chain(named).collect();
            let done = nook_bend(&arguments);
            assert_eq!(done.status.code(), Some(code), "{arguments:?}: {}", text(&done.stderr));
            assert!(text(&done.stderr).contains(says), "{}", text(&done.stderr));
        }
    }
}

#[test]
fn what_keeps_the_server_from_starting_is_told_with_its_path() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("file");
    std::fs::write(&file, "no folder").unwrap();
    for command in ["serve", "demo"] {
        let done = nook_bend(&[command, "--port", "0", "--data", file.to_str().unwrap()]);
        assert_eq!(done.status.code(), Some(1));
        let said = text(&done.stderr);
        assert!(said.contains(file.to_str().unwrap()) && said.contains("choose another folder"), "{said}");
    }
}

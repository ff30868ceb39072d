//! Whether a pipe is done: what is checked of it follows from what it has, what was signed is void once that changes, and nothing is
//! tested above what its weakest part bears.

#![allow(
    clippy::unwrap_used,
    clippy::cast_possible_truncation,
    reason = "a test fails by panicking, and tenths of a mm are whole numbers"
)]

use nook_core::findings::Severity;
use nook_core::prove::{CheckId, Fingerprint, GaugeReading, Verdict};
use nook_core::record::{BenchAct, CheckDone, Deed, Done, Progress, Signature, TestDone, TestKind};
use nook_core::route::LegId;
use nook_core::workup::{CheckWorkup, ProveWorkup, prove, under_test, weld};
use nook_core::{Edit, Given, Job, JobEdit, RunId, Scans, SpecEdit, Workshop, apply, workup};

use crate::corrections::demo_job;
use crate::support::{any_edit, draft, job_with, port};
use nook_core::survey::Survey;
use proptest::prelude::*;

fn deeds(all: impl IntoIterator<Item = Done>) -> Vec<Deed> {
    let deed = |(at, done): (usize, Done)| Deed {
        id: format!("a-deed-{at:04}").try_into().unwrap(),
        by: nook_geometry::units::Name::new("Me").unwrap(),
        done,
    };
    all.into_iter().enumerate().map(deed).collect()
}

fn proof(job: &Job, run: RunId, done: &[Done]) -> ProveWorkup {
    let deeds = deeds(done.iter().cloned());
    let progress = Progress::after(&deeds);
    prove(job, run, &Given { scans: &Scans::default(), progress: &progress, mend: false }).unwrap()
}

fn run_of(job: &Job, mark: &str) -> RunId {
    job.runs().iter().find(|run| run.mark.as_ref().is_some_and(|one| one.as_str() == mark)).unwrap().id
}

/// A gauge that stands still, or drops by so many bar a minute.
fn shown(bar: f64, drops: f64) -> Vec<GaugeReading> {
    let each = (0..200).map(|at| {
        let seconds = 4.0 * f64::from(at);
        GaugeReading { seconds, bar: bar - drops * seconds / 60.0, celsius: 20.0 }
    });
    each.collect()
}

fn test_at(of: &ProveWorkup, drops: f64) -> Done {
    let test = of.test.as_ref().unwrap();
    let readings = shown(test.bar, drops);
    Done::Tested { run: of.run, test: TestDone { kind: test.kind, bar: test.bar, of: test.of.clone(), readings } }
}

/// Every weld of a run, as it is noted.
fn welds(job: &Job, run: RunId) -> Vec<Done> {
    let progress = Progress::default();
    let given = Given { scans: &Scans::default(), progress: &progress, mend: false };
    let plan = weld(job, &Workshop::default(), run, &given).unwrap();
    plan.seams.iter().map(|seam| Done::Did { run, what: BenchAct::Weld { seam: seam.seam } }).collect()
}

fn answer(of: &ProveWorkup, check: &CheckWorkup, good: bool) -> Done {
    let answer = CheckDone { item: check.item, of: check.of.clone(), good, reading: None, note: None };
    Done::Checked { run: of.run, answer }
}

#[test]
fn every_pipe_has_its_own_list_and_no_item_twice() {
    let job = demo_job();
    for run in job.runs() {
        let of = proof(&job, run.id, &[]);
        if of.none.is_some() {
            continue;
        }
        let mut items: Vec<CheckId> = of.checks.iter().map(|check| check.item).collect();
        items.sort();
        assert!(items.windows(2).all(|pair| pair[0] != pair[1]), "{}", run.name.as_str());
        let workup = workup(&job, run.id).unwrap();
        // Every joint, support and branch it has is asked about, and none that it has not.
        let asked = |of: fn(&CheckId) -> bool| items.iter().filter(|item| of(item)).count();
        assert_eq!(asked(|item| matches!(item, CheckId::Held { .. })), workup.supports.len());
        assert_eq!(asked(|item| matches!(item, CheckId::LetIn { .. })), workup.branches.len());
        assert!(asked(|item| matches!(item, CheckId::Tight { .. })) <= workup.joints.len() + 2);
        assert_eq!(items.contains(&CheckId::Bled), run.duty == nook_core::stock::Duty::Coolant);
        assert!(items.contains(&CheckId::CountedOut), "a rag is asked after, always");
        assert_eq!(of.soap.is_empty(), run.duty.is_liquid());
        assert!(of.soap.len() >= 2 || run.duty.is_liquid());
        // A torque is never made up.
        assert!(of.checks.iter().all(|check| check.reading.is_none()));
    }
}

#[test]
fn a_flange_has_its_gasket_asked_after_and_a_coupler_has_none() {
    let job = demo_job();
    let seals = |mark: &str| {
        let of = proof(&job, run_of(&job, mark), &[]);
        of.checks.iter().filter(|check| matches!(check.item, CheckId::Seal { .. })).count()
    };
    assert_eq!(seals("N"), 0);
    // Bolted to a flanged port.
    let [mut a, b] = [port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([420.0, 180.0, 90.0], [0.0, 0.1, -1.0], 63.5)];
    a.form = nook_core::measure::EndForm::Flanged;
    let (job, run) = job_with(draft(a, b));
    let of = proof(&job, run, &[]);
    let asked: Vec<&CheckWorkup> =
        of.checks.iter().filter(|check| matches!(check.item, CheckId::Seal { .. })).collect();
    assert!(asked.len() == 1 && asked[0].words.contains("gasket") && asked[0].words.contains("at A"), "{asked:?}");
    assert!(of.soap.iter().any(|place| place.why == "a gasket"));
}

#[test]
fn it_is_signed_only_when_nothing_is_wanting_and_a_change_voids_what_it_touches() {
    let job = demo_job();
    let run = run_of(&job, "N");
    let of = proof(&job, run, &[]);
    assert!(!of.sign.wanting.is_empty());
    let mut done: Vec<Done> = of.checks.iter().map(|check| answer(&of, check, true)).collect();
    assert_eq!(proof(&job, run, &done).sign.wanting, ["9 seams are not welded yet", "It was not tested yet"]);
    done.extend(welds(&job, run));
    assert_eq!(proof(&job, run, &done).sign.wanting, ["It was not tested yet"]);
    done.push(test_at(&of, 0.0));
    let tested = proof(&job, run, &done);
    assert_eq!(tested.test.as_ref().unwrap().last.as_ref().unwrap().verdict, Verdict::Pass);
    assert_eq!(tested.sign.wanting, Vec::<String>::new());
    done.push(Done::Signed { run, signature: Signature { of: tested.sign.of.clone(), revision: 7 } });
    let signed = proof(&job, run, &done);
    assert_eq!((signed.sign.revision, signed.sign.changed.len()), (Some(7), 0));

    // A thicker wall: test, signature and what is about the whole are void; they say why.
    let decided = job.run(run).unwrap();
    let tube = nook_core::stock::Tube::new(
        decided.tube.material(),
        nook_geometry::units::OutsideDiameter::new(decided.tube.od()).unwrap(),
        nook_geometry::units::Wall::new(2.0).unwrap(),
    )
    .unwrap();
    let next = apply(&job, &Edit::Spec(SpecEdit::SetTube { run, tube })).unwrap().job;
    let after = proof(&next, run, &done);
    assert_eq!(after.sign.changed, ["its tube"]);
    assert_eq!(after.test.as_ref().unwrap().last.as_ref().unwrap().changed, ["its tube"]);
    assert!(after.checks.iter().any(|check| check.void && check.good.is_none()));
    assert!(after.sign.wanting.iter().any(|why| why.contains("test it again")));
    // Undone, all of it counts again.
    assert_eq!(proof(&job, run, &done), signed);
    // What belongs to another run changes nothing here.
    let other = run_of(&job, "T");
    let rename = Edit::Job(JobEdit::RenameRun { run: other, name: nook_geometry::units::Name::new("Other").unwrap() });
    assert_eq!(proof(&apply(&job, &rename).unwrap().job, run, &done).sign, signed.sign);
}

#[test]
fn what_is_not_right_is_wanting_and_may_be_asked_again() {
    let job = demo_job();
    let run = run_of(&job, "N");
    let of = proof(&job, run, &[]);
    let mut done: Vec<Done> = of.checks.iter().map(|check| answer(&of, check, true)).collect();
    done.extend(welds(&job, run));
    done.push(test_at(&of, 0.0));
    done.push(answer(&of, &of.checks[0], false));
    assert!(proof(&job, run, &done).sign.wanting[0].contains(&of.checks[0].words));
    done.push(Done::NotChecked { run, item: of.checks[0].item });
    assert_eq!(proof(&job, run, &done).sign.wanting, ["1 thing is not checked yet"]);
    // A test that leaks.
    done.push(test_at(&of, 0.06));
    assert!(proof(&job, run, &done).sign.wanting.contains(&"It did not pass its test".to_owned()));
}

#[test]
fn nothing_is_tested_above_its_weakest_part_nor_far_below() {
    let job = demo_job();
    for run in job.runs() {
        let of = proof(&job, run.id, &[]);
        let Some(test) = &of.test else { continue };
        assert!(test.bar <= test.never + 1e-12 && test.bar > 0.0, "{test:?}");
        let refused = |bar: f64| under_test(&job, run.id, test.kind, &shown(bar, 0.0)).unwrap().refused;
        assert_eq!(refused(test.bar), None, "{}", run.name.as_str());
        assert!(refused(test.never + 0.05).unwrap().contains("Let it off"));
        assert!(refused(test.bar * 0.5).unwrap().contains("proves nothing"));
        let other = if test.kind == TestKind::Air { TestKind::Liquid } else { TestKind::Air };
        assert!(under_test(&job, run.id, other, &shown(test.bar, 0.0)).unwrap().refused.is_some());
    }
}

#[test]
fn tests_of_a_run_have_a_bound() {
    let job = demo_job();
    let run = run_of(&job, "N");
    let one = test_at(&proof(&job, run, &[]), 0.0);
    let deeds = deeds(std::iter::repeat_n(one, TestDone::MOST_OF_A_RUN));
    assert!(Progress::after(&deeds).too_many_with(&deeds[0]));
    assert!(!Progress::after(&deeds[1..]).too_many_with(&deeds[0]));
}

#[test]
fn what_no_gauge_shows_is_no_test() {
    let good = TestDone { kind: TestKind::Air, bar: 1.0, of: Fingerprint::of(&1), readings: shown(1.0, 0.0) };
    assert!(good.is_sound());
    let with = |change: fn(&mut TestDone)| {
        let mut test = good.clone();
        change(&mut test);
        test.is_sound()
    };
    assert!(!with(|test| test.readings[3].bar = f64::NAN));
    assert!(!with(|test| test.readings[3].seconds = 0.0));
    assert!(!with(|test| test.readings.clear()));
    assert!(!with(|test| test.bar = 1e6));
    assert!(!with(|test| test.readings =
        (0..3000).map(|at| GaugeReading { seconds: f64::from(at), bar: 1.0, celsius: 20.0 }).collect()));
    assert!(serde_json::from_str::<Fingerprint>("\"no hash\"").is_err());
    let text = serde_json::to_string(&Fingerprint::of(&(1, LegId(2)))).unwrap();
    assert_eq!(serde_json::from_str::<Fingerprint>(&text).unwrap(), Fingerprint::of(&(1, LegId(2))));
}

#[test]
fn a_pipe_that_fouls_is_not_signed() {
    let job = demo_job();
    for run in job.runs() {
        let of = proof(&job, run.id, &[]);
        let errors = workup(&job, run.id).unwrap().findings.iter().any(|finding| finding.severity == Severity::Error);
        let told = of.sign.wanting.iter().any(|why| why.contains("cannot be as planned"));
        assert!(of.none.is_some() || errors == told, "{}", run.name.as_str());
    }
}

/// What of a pipe would be felt on the metal: where every stretch of its pieces lies and what it is of, to a tenth of a mm.
fn metal(job: &Job, run: RunId) -> Option<(String, Vec<[i64; 6]>)> {
    let made = workup(job, run).ok()?;
    let tenths = |mm: f64| (mm * 10.0).round() as i64;
    let solids = made.pieces.iter().flat_map(|piece| &piece.solids).map(|one| {
        let [a, b, c] = one.solid.from.map(tenths);
        let [d, e, f] = one.solid.to.map(tenths);
        [a, b, c, d, e, f]
    });
    Some((format!("{:?}", made.decisions.tube), solids.collect()))
}

fn print_of(job: &Job, run: RunId) -> Fingerprint {
    Fingerprint::of_run(&Survey::new(job).settle(job.run(run).unwrap()))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Whatever was decided: where the metal would be another, what was signed is void.
    #[test]
    fn nothing_changes_the_metal_and_leaves_a_signature(before in prop::collection::vec(any_edit(), 1..14), after in prop::collection::vec(any_edit(), 1..5)) {
        let taken = |job: Job, edits: &[Edit]| edits.iter().fold(job, |job, edit| match apply(&job, edit) {
            Ok(applied) => applied.job,
            Err(_) => job,
        });
        let ends = [port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([420.0, 180.0, 90.0], [0.0, 0.1, -1.0], 63.5)];
        let [a, b] = ends;
        let signed = taken(job_with(draft(a, b)).0, &before);
        let now = taken(signed.clone(), &after);
        for run in signed.runs().iter().map(|run| run.id).filter(|run| now.run(*run).is_some()) {
            let same_metal = metal(&signed, run) == metal(&now, run);
            prop_assert!(same_metal || print_of(&signed, run) != print_of(&now, run), "{after:?}");
            prop_assert_eq!(print_of(&signed, run), print_of(&signed.clone(), run));
        }
    }
}

//! How a job stands as a whole: one definition, from findings and the record.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::{any_edit, draft, empty_job, job_with, port};
use nook_core::findings::Severity;
use nook_core::rack::{BeginStage, RackWorkup, StepState, rack};
use nook_core::rates::Rates;
use nook_core::record::{Deed, Done, PieceCut, PieceSize, Progress};
use nook_core::workup::bay;
use nook_core::{Edit, Given, Job, JobEdit, RunId, Scans, WorkStep, Workup, apply, edit_words, workup_given};
use nook_geometry::units::Name;
use proptest::prelude::*;

fn workups(job: &Job, progress: &Progress) -> Vec<Workup> {
    let scans = Scans::default();
    let given = Given { scans: &scans, progress, mend: true };
    job.runs().iter().map(|run| workup_given(job, run.id, &given).unwrap()).collect()
}

fn rack_of(job: &Job, deeds: &[Deed]) -> RackWorkup {
    rack(job, &bay(job), &workups(job, &Progress::after(deeds)), &Rates::default())
}

fn state(rack: &RackWorkup, run: usize, step: WorkStep) -> StepState {
    rack.runs[run].steps.iter().find(|standing| standing.step == step).unwrap().state
}

fn plain_job() -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)))
}

/// That the first so many pieces of a run are cut.
fn cut(job: &Job, run: RunId, count: usize) -> Vec<Deed> {
    let workup = workups(job, &Progress::default()).into_iter().find(|one| one.run == run).unwrap();
    let deed = |(index, piece): (usize, &nook_core::workup::PieceWorkup)| {
        let size =
            PieceSize { centre: piece.centre.mm(), longest: piece.longest.mm(), saws: [piece.saw_from, piece.saw_to] };
        let as_cut = PieceCut { name: Name::new(&piece.name).unwrap(), size };
        let id = format!("deed-{index:08}").try_into().unwrap();
        Deed { id, by: Name::new("bench").unwrap(), done: Done::Cut { run, piece: piece.piece, as_cut } }
    };
    workup.pieces.iter().enumerate().take(count).map(deed).collect()
}

#[test]
fn a_run_goes_from_the_saw_on_as_its_pieces_are_cut() {
    let (job, run) = plain_job();
    let pieces = workups(&job, &Progress::default())[0].pieces.len();
    let at = |count: usize| rack_of(&job, &cut(&job, run, count));
    for (count, wanted) in [(0, StepState::Nothing), (1, StepState::Begun), (pieces, StepState::Done)] {
        let rack = at(count);
        assert_eq!(state(&rack, 0, WorkStep::Cut), wanted, "{count} of {pieces}");
        assert_eq!((rack.vehicle.pieces, rack.vehicle.cut), (pieces, count));
    }
    let next = &at(0).runs[0].next;
    assert_eq!((next.step, next.severity, next.edit.as_ref()), (WorkStep::Cut, None, None));
    assert_eq!(at(0).runs[0].next.words.mm, format!("{pieces} pieces to cut; nothing is wrong."));
    assert_eq!(at(pieces).runs[0].next.step, WorkStep::Fit, "what is cut is tried on the car");
    // What is begun is bought already.
    assert!(at(0).vehicle.buy.len() >= 2 && at(1).vehicle.buy.is_empty());
}

#[test]
fn every_step_of_the_demo_stands_as_its_findings_say() {
    let job = demo();
    let (rack, workups) = (rack_of(&job, &[]), workups(&job, &Progress::default()));
    assert_eq!(rack.runs.len(), 10);
    let (mut wrong, mut tight) = (0, 0);
    for (run, workup) in rack.runs.iter().zip(&workups) {
        for standing in run.steps {
            let of = |severity: Severity| {
                workup.findings.iter().any(|one| one.step == standing.step && one.severity == severity)
            };
            match standing.state {
                StepState::Wrong => assert!(of(Severity::Error)),
                StepState::Tight => assert!(of(Severity::Warning) && !of(Severity::Error)),
                StepState::Nothing | StepState::Begun | StepState::Done => {
                    assert!(!of(Severity::Error) && !of(Severity::Warning), "{} {standing:?}", run.name);
                }
            }
        }
        wrong += run.counts.errors;
        tight += run.counts.warnings;
        let worst = workup.findings.iter().map(|one| one.severity).find(|severity| *severity != Severity::Info);
        assert_eq!(run.next.severity, worst, "{}", run.name);
        // The button does what the finding offers, and the job takes it.
        if let Some(edit) = &run.next.edit {
            apply(&job, edit).unwrap();
        }
    }
    let bay = bay(&job).findings.iter().filter(|one| one.severity == Severity::Warning).count();
    assert_eq!((rack.counts.errors, rack.counts.warnings), (wrong, tight + bay));
}

#[test]
fn an_empty_job_says_what_to_begin_with_and_in_which_order() {
    let begin = |job: &Job| {
        let lines = rack_of(job, &[]).vehicle.begin;
        lines.into_iter().map(|line| (line.stage, line.enough)).collect::<Vec<_>>()
    };
    use BeginStage::{Boxes, Datums, Ports, Way};
    assert_eq!(begin(&empty_job()), [(Datums, false), (Boxes, false), (Ports, false), (Way, false)]);
    assert_eq!(begin(&plain_job().0)[2], (Ports, true));
    assert!(begin(&demo()).iter().all(|(_, enough)| *enough));
}

#[test]
fn a_run_hangs_where_it_is_put_and_beyond_the_last_is_the_last() {
    let job = demo();
    let order = |job: &Job| rack_of(job, &[]).runs.iter().map(|run| run.run).collect::<Vec<_>>();
    let before = order(&job);
    let put = |to: usize| apply(&job, &Edit::Job(JobEdit::PlaceRun { run: before[5], to })).unwrap().job;
    assert_eq!(order(&put(0))[..2], [before[5], before[0]]);
    assert_eq!(order(&put(5)), before);
    assert_eq!(order(&put(usize::MAX)).last(), Some(&before[5]));
}

#[test]
fn tube_to_buy_is_what_the_saw_takes_and_no_less_than_the_pipes_are_long() {
    let job = demo();
    let workups = workups(&job, &Progress::default());
    let lines = rack_of(&job, &[]).vehicle.buy;
    let tubes = lines.iter().filter(|line| line.what.mm.ends_with("tube"));
    let bought: f64 = tubes.filter_map(|line| line.length).map(|length| length.mm()).sum();
    let pipes = workups.iter().filter(|one| one.hose.is_none());
    let sawn: f64 = pipes.flat_map(|one| &one.pieces).map(|piece| piece.centre.mm()).sum();
    let kerfs: f64 =
        workups.iter().filter_map(|one| one.cutting.as_ref()).flat_map(|c| c.cuts.iter().map(|_| c.kerf.mm())).sum();
    assert!(bought > sawn && bought < sawn + kerfs + 600.0, "{bought} bought, {sawn} sawn, {kerfs} kerf");
    let clamps = lines.iter().find(|line| line.what.mm == "hose clamps").and_then(|line| line.count);
    let hoses = lines.iter().filter(|line| line.what.mm.contains("coupler") || line.what.mm.contains("reducer"));
    let on_hoses: usize = workups.iter().filter_map(|one| one.hose.as_ref()).map(|hose| hose.clamps).sum();
    assert_eq!(clamps, Some(2 * hoses.filter_map(|line| line.count).sum::<usize>() + on_hoses));
    // A made-up hose is bought as it is cut, its fittings each by itself.
    let cooler = workups.iter().find(|one| one.name == "Oil cooler hose").and_then(|one| one.hose.as_ref()).unwrap();
    let length = lines.iter().find(|line| line.what == cooler.called).and_then(|line| line.length).unwrap();
    assert!((length.mm() - cooler.length.as_ref().unwrap().cut.mm()).abs() < 1e-9);
    assert!(
        cooler.fittings.iter().all(|one| lines.iter().any(|line| line.what.mm == one.called && line.count == Some(1)))
    );
    let bands = lines.iter().find(|line| line.what.mm == "63.5 mm V-band");
    assert_eq!(bands.and_then(|line| line.count), Some(1), "no clamps of their own");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Whatever was decided: every run is on the rack once, in the builder's order, its counts are those of its findings, and
    /// every edit can be said in words.
    #[test]
    fn any_job_has_a_rack(edits in prop::collection::vec(any_edit(), 1..24)) {
        let mut job = empty_job();
        for edit in &edits {
            let words = edit_words(edit, &job);
            // Names drawn have no two blanks in a row, nor do our words.
            prop_assert!(!words.trim().is_empty() && !words.contains("  "), "{words:?}");
            if let Ok(applied) = apply(&job, edit) {
                job = applied.job;
            }
        }
        let rack = rack_of(&job, &[]);
        let order: Vec<RunId> = job.runs().iter().map(|run| run.id).collect();
        prop_assert_eq!(rack.runs.iter().map(|run| run.run).collect::<Vec<_>>(), order);
        for run in &rack.runs {
            prop_assert_eq!(run.next.severity.is_some(), run.counts.errors + run.counts.warnings > 0);
            // What cannot be makes its step wrong; that no way is taken yet is no fault of the route.
            let wrong = run.steps.iter().any(|standing| standing.state == StepState::Wrong);
            let cannot_be = run.next.severity == Some(Severity::Error);
            prop_assert!(wrong == cannot_be || (cannot_be && run.next.step == WorkStep::Route), "{:?}", run.next);
        }
    }
}

//! Estimates from the builder's own record, lessons that return, and the log in words.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::join::JointKind;
use nook_core::labour::StepMinutes;
use nook_core::rates::Rates;
use nook_core::record::{Deed, Done, Worked, deed_words};
use nook_core::stock::Material;
use nook_core::work_step::WorkStep;
use nook_core::workshop::{Lesson, Workshop, WorkshopEdit};
use proptest::prelude::*;

use crate::corrections::demo_job;

fn worked(step: WorkStep, minutes: f64, planned: f64) -> Worked {
    Worked { step, minutes, planned }
}

const LABOUR: [StepMinutes; 2] =
    [StepMinutes { step: WorkStep::Cut, minutes: 120.0 }, StepMinutes { step: WorkStep::Weld, minutes: 60.0 }];

#[test]
fn without_a_record_it_is_what_is_usual() {
    let hours = Rates::default().hours(&LABOUR);
    assert!((hours.mean - 3.0).abs() < 1e-12 && hours.spread > 0.3 && hours.spread < 1.5, "{hours:?}");
    assert_eq!(Rates::default().runs(), 0);
}

#[test]
fn what_is_usual_counts_as_three_runs() {
    // Three runs that took twice as long to cut: half way between.
    let noted = (0..3).map(|run| (run, worked(WorkStep::Cut, 240.0, 120.0)));
    let rates = Rates::of(noted);
    assert!((rates.share(WorkStep::Cut).0 - 1.5).abs() < 1e-12 && rates.runs() == 3);
    assert!((rates.share(WorkStep::Weld).0 - 1.0).abs() < 1e-12);
    assert!((rates.hours(&LABOUR).mean - 4.0).abs() < 1e-12);
    // Noted in two parts it is one run.
    let parts = [(1, worked(WorkStep::Cut, 100.0, 120.0)), (1, worked(WorkStep::Cut, 140.0, 120.0))];
    assert!((Rates::of(parts).share(WorkStep::Cut).0 - 5.0 / 4.0).abs() < 1e-12);
}

#[test]
fn a_lesson_returns_where_it_matters() {
    let job = demo_job();
    let lesson = |step, material, joint| Lesson { text: "Bead before welding".to_owned(), step, material, joint };
    let run = job.runs().iter().find(|run| run.tube.material() == Material::Stainless304l).unwrap();
    assert!(lesson(WorkStep::Weld, Some(Material::Stainless304l), None).matters(run, WorkStep::Weld));
    assert!(!lesson(WorkStep::Weld, Some(Material::Aluminium6061), None).matters(run, WorkStep::Weld));
    assert!(!lesson(WorkStep::Weld, None, None).matters(run, WorkStep::Cut));
    assert!(!lesson(WorkStep::Weld, None, Some(JointKind::Bellows)).matters(run, WorkStep::Weld));
    let kept =
        Workshop::default().apply(&WorkshopEdit::AddLesson { lesson: lesson(WorkStep::Cut, None, None) }).unwrap();
    assert_eq!(kept.lessons().len(), 1);
    let none = Lesson { text: " ".repeat(40), ..lesson(WorkStep::Cut, None, None) };
    assert!(
        kept.apply(&WorkshopEdit::AddLesson { lesson: none }).unwrap_err().to_string().contains("3 to 300 letters")
    );
    assert!(kept.apply(&WorkshopEdit::RemoveLesson { at: 1 }).is_err());
    assert!(kept.apply(&WorkshopEdit::RemoveLesson { at: 0 }).unwrap().lessons().is_empty());
}

#[test]
fn every_deed_of_the_demo_is_said_in_words() {
    let job = demo_job();
    let deeds: Vec<Deed> = serde_json::from_str(include_str!("../../../../demo/deeds.json")).unwrap();
    assert!(!deeds.is_empty());
    for deed in &deeds {
        let said = deed_words(&job, deed);
        let name = job.run(said.run).unwrap().name.as_str();
        assert!(said.words.mm.starts_with(name) && said.words.mm.len() > name.len() + 10, "{}", said.words.mm);
    }
}

#[test]
fn no_time_that_nobody_works_is_noted() {
    let is_sound = |minutes, planned| worked(WorkStep::Cut, minutes, planned).is_sound();
    assert!(is_sound(30.0, 0.0) && !is_sound(0.0, 30.0) && !is_sound(f64::NAN, 30.0) && !is_sound(30.0, f64::INFINITY));
    assert!(!is_sound(7000.0, 30.0) && !is_sound(-5.0, 30.0));
}

proptest! {
    /// The mean lies between what is usual and what was taken; with more of his own runs it comes nearer to those.
    #[test]
    fn an_estimate_is_a_blend(share in 0.2..5.0_f64, count in 1_usize..30) {
        let rates = |count: usize| Rates::of((0..count).map(|run| (run, worked(WorkStep::Weld, 60.0 * share, 60.0))));
        let (mean, spread) = rates(count).share(WorkStep::Weld);
        prop_assert!(mean >= share.min(1.0) - 1e-12 && mean <= share.max(1.0) + 1e-12 && spread > 0.0);
        let more = rates(count + 1).share(WorkStep::Weld).0;
        prop_assert!((more - share).abs() <= (mean - share).abs() + 1e-12);
        // Of another step nothing is learnt.
        prop_assert_eq!(rates(count).share(WorkStep::Cut), Rates::default().share(WorkStep::Cut));
    }
}

#[test]
fn a_note_taken_back_is_gone() {
    let run = demo_job().runs()[0].id;
    let deed = |at: usize, done| Deed {
        id: format!("a-deed-{at:04}").try_into().unwrap(),
        by: nook_geometry::units::Name::new("Me").unwrap(),
        done,
    };
    let deeds = [
        deed(0, Done::Worked { run, worked: worked(WorkStep::Cut, 30.0, 60.0) }),
        deed(1, Done::Worked { run, worked: worked(WorkStep::Cut, 45.0, 60.0) }),
        deed(2, Done::NotWorked { run, step: WorkStep::Cut }),
    ];
    let progress = nook_core::record::Progress::after(&deeds);
    assert!((progress.minutes_of(run, WorkStep::Cut) - 30.0).abs() < 1e-12);
    assert!(progress.minutes_of(run, WorkStep::Weld).abs() < 1e-12);
}

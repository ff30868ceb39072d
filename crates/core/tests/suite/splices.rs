//! Pieces longer than any stick: welded of several, clear of all that is on them, and still the same pipe.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nalgebra::Point3;
use nook_core::cut::PieceId;
use nook_core::findings::FindingKind;
use nook_core::join::{BranchKind, SupportKind};
use nook_core::measure::Side;
use nook_core::record::Progress;
use nook_core::route::{BendMake, Centreline, Route};
use nook_core::survey::Survey;
use nook_core::workup::to_saw;
use nook_core::{CutEdit, Edit, Job, RouteEdit, RunId, Workup};
use nook_geometry::units::LongestStick;
use proptest::prelude::*;

use crate::support::branched::let_in;
use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, held, straight, told, with};
use crate::support::{any_draft, draft, job_with, port};

fn longest(job: &Job, run: RunId, mm: f64) -> Job {
    with(job, &[CutEdit::SetLongest { run, longest: Some(LongestStick::new(mm).unwrap()) }.into()])
}

/// The longest line of each piece, from A.
fn lengths(all: &Workup) -> Vec<f64> {
    all.pieces.iter().filter(|piece| piece.elbow.is_none()).map(|piece| piece.longest.mm()).collect()
}

#[test]
fn a_straight_longer_than_the_stick_is_welded_of_sticks_used_as_far_as_they_go() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let plain = told(&job, run);
    let tube = plain.totals.as_ref().unwrap().developed.mm();
    assert!(plain.splices.is_empty() && plain.pieces.len() == 1 && plain.longest.is_none());
    let all = told(&longest(&job, run, 400.0), run);
    // 5 mm of each stick go for squaring its ends.
    let parts = lengths(&all);
    assert_eq!(parts.len(), 3);
    assert!(parts[..2].iter().all(|part| (part - 395.0).abs() < 1e-9), "{parts:?}");
    assert!((parts.iter().sum::<f64>() - tube).abs() < 1e-9);
    let [before, after] = [&plain, &all].map(|one| one.totals.as_ref().unwrap().clone());
    assert_eq!((before.seams, after.seams), (0, 2));
    let round = std::f64::consts::PI * 38.1;
    assert!((after.weld.mm() - 2.0 * round).abs() < 1e-6 && after.hours > before.hours);
    assert_eq!(after.mass_kg, before.mass_kg);
    // What meets there is welded, not joined by a hose; each piece has a name and a number of its own.
    let cutting = all.cutting.as_ref().unwrap();
    assert!(cutting.meetings.iter().all(|row| row.joint.is_none() && row.gap.is_none()));
    assert_eq!(cutting.cuts.iter().filter(|cut| cut.frees.is_some()).count(), 3);
    let ids: Vec<PieceId> = all.pieces.iter().map(|piece| piece.piece).collect();
    assert!(ids.windows(2).all(|pair| pair[0] != pair[1]));
    // None that is long enough needs one.
    assert!(told(&longest(&job, run, tube + 5.1), run).splices.is_empty());
    assert_eq!(told(&longest(&job, run, tube + 4.9), run).splices.len(), 1);
    // And each is a chain of its own that goes into the stick.
    let job = longest(&job, run, 400.0);
    let saw = to_saw(&job, &Survey::new(&job), run, &Progress::default()).unwrap();
    let chains = nook_core::cut::Chain::all(&saw.pieces, 0..3, saw.tube.od(), job.kerf()).unwrap();
    assert!(chains.len() == 3 && chains.iter().all(|chain| chain.takes <= 400.0), "{chains:?}");
}

#[test]
fn the_weld_stands_clear_of_supports_and_of_what_is_let_in_wherever_they_are_put() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let job = longest(&job, run, 500.0);
    let free = told(&job, run).splices[0].mm();
    // Put where the weld would be, and round it.
    for beside in [-60.0, -25.0, 0.0, 12.0, 40.0] {
        let (clamped, _) = held(&job, run, (0, free + beside), SupportKind::Clamps, Side::Body);
        let (tapped, _) = let_in(&job, run, (0, free + beside), BranchKind::TemperatureSensor);
        for (job, kind) in [(clamped, FindingKind::SupportOnSeam), (tapped, FindingKind::BranchOnSeam)] {
            let all = told(&job, run);
            assert_eq!(found(&job, run, kind), [], "{beside}");
            assert!(lengths(&all).iter().all(|part| *part <= 495.0 + 1e-9));
            assert!(all.splices[0].mm() <= free + 1e-9, "a stick is not longer for it");
        }
    }
}

#[test]
fn where_there_is_no_place_for_a_weld_that_is_told_and_nothing_is_parted() {
    let (job, run) = straight([Side::Body, Side::Body]);
    // Clamps every 40 mm leave no place 15 mm clear of two of them.
    let mut crowded = longest(&job, run, 300.0);
    for k in 1..21 {
        crowded = held(&crowded, run, (0, 40.0 * f64::from(k)), SupportKind::Clamps, Side::Body).0;
    }
    let all = told(&crowded, run);
    let said = found(&crowded, run, FindingKind::NoPlaceForSplice);
    assert!(said.len() == 1 && all.splices.is_empty() && all.pieces.len() == 1, "{said:?}");
    assert!(said[0].words.mm.contains("300.0 mm") && said[0].words.mm.contains("Straight 1"), "{}", said[0].words.mm);
    assert_eq!(found(&longest(&job, run, 300.0), run, FindingKind::NoPlaceForSplice), []);
    // A bend longer than the stick has no straight to weld on.
    let (sin, cos) = 100.0_f64.to_radians().sin_cos();
    let b = port([400.0 + 300.0 * cos, 300.0 * sin, 0.0], [-cos, -sin, 0.0], 63.5);
    let (bent, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), b));
    let way = RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) };
    let bent = with(&bent, &[Edit::Route(way)]);
    let drawn = CutEdit::SetMake { run, bend: bend_at(&bent, run, 0), make: Some(BendMake::Drawn) };
    let drawn = with(&bent, &[drawn.into()]);
    assert_eq!(told(&drawn, run).pieces.len(), 1);
    let short = longest(&drawn, run, 200.0);
    assert_eq!(found(&short, run, FindingKind::NoPlaceForSplice).len(), 1);
    // Welded on the straight after it a drawn bend needs no more than its own part.
    let parted = told(&longest(&drawn, run, 500.0), run);
    assert_eq!((parted.pieces.len(), parted.splices.len()), (2, 1));
    assert_eq!(parted.pieces[1].drawn, []);
    // The bender's table begins a new tube there.
    assert_eq!(parted.lra.iter().map(|row| row.tube).collect::<Vec<_>>(), [0, 0, 1]);
}

#[test]
fn a_hose_is_sold_by_the_metre_and_never_spliced() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let hose =
        nook_core::SpecEdit::SetHose { run, hose: nook_core::stock::HoseBuild::Corrugated, material: None, bore: None };
    let job = longest(&with(&job, &[hose.into()]), run, 300.0);
    assert!(told(&job, run).splices.is_empty());
    assert_eq!(found(&job, run, FindingKind::NoPlaceForSplice), []);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(128))]

    /// Of whatever pipe: the parts are the pipe, each begins where the one before it ends, none takes more than the stick unless that is
    /// told, every weld is on a straight clear of bends and seats, and nothing else of the pipe changes.
    #[test]
    fn a_spliced_pipe_is_the_same_pipe(draft in any_draft(), mm in 200.0..700.0_f64) {
        let (job, run) = job_with(draft);
        let plain = told(&job, run);
        prop_assume!(plain.totals.is_some() && plain.cutting.is_some());
        let all = told(&longest(&job, run, mm), run);
        prop_assert_eq!(&plain.bends, &all.bends);
        let [sum, parts] = [&plain, &all].map(|one| one.pieces.iter().map(|piece| piece.centre.mm()).sum::<f64>());
        prop_assert!((sum - parts).abs() < 1e-6);
        prop_assert_eq!(all.pieces.len(), plain.pieces.len() + all.splices.len());
        let seams = |one: &Workup| one.totals.as_ref().unwrap().seams as usize;
        prop_assert_eq!(seams(&all), seams(&plain) + all.splices.len());
        for pair in all.pieces.windows(2) {
            let [last, first] = [pair[0].solids.last().unwrap(), &pair[1].solids[0]];
            prop_assert!((Point3::from(last.solid.to) - Point3::from(first.solid.from)).norm() < 1e-6);
        }
        let told_of = all.findings.iter().filter(|one| one.kind == FindingKind::NoPlaceForSplice).count();
        let over = all.pieces.iter().filter(|piece| piece.longest.mm() > mm - 5.0 + 1e-6).count();
        prop_assert!(over <= told_of, "{over} {told_of}");
        let mut numbers: Vec<PieceId> = all.pieces.iter().map(|piece| piece.piece).collect();
        numbers.sort();
        prop_assert!(numbers.windows(2).all(|pair| pair[0] != pair[1]));
        for splice in all.splices.iter().map(|at| at.mm()) {
            let on = all.straights.iter().find(|one| splice >= one.from.mm() && splice <= one.to.mm()).unwrap();
            let clear = |beside: f64| (splice - beside).abs() >= 15.0 - 1e-6;
            let [first, last] = [on.from.mm() == 0.0, on.straight == all.straights.last().unwrap().straight];
            prop_assert!((first || clear(on.from.mm())) && (last || clear(on.to.mm())));
            // Hoses cover the ends.
            // No hose lies over it.
            let covered = all.pieces.iter().flat_map(|piece| {
                let [from, to, over] = [piece.from.mm(), piece.to.mm(), 0.0];
                [[from, from + over.max(piece.hoses[0].mm())], [to - over.max(piece.hoses[1].mm()), to]]
            });
            let under = |[from, to]: [f64; 2]| to > from && splice > from - 1e-6 && splice < to + 1e-6;
            prop_assert!(!covered.clone().any(under), "{splice}: {:?}", covered.collect::<Vec<_>>());
        }
    }
}

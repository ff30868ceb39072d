//! The highs and lows of a bore, and what lets air and liquid out there.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use crate::support::branched::{arch, change_branch as change, let_in, one};
use crate::support::held::{OD, found, mended, straight, told, with};
use crate::support::{draft, job_with, port, tube};
use nook_core::assembly::Assembly;
use nook_core::edit::BranchChange;
use nook_core::findings::FindingKind;
use nook_core::join::BranchKind;
use nook_core::measure::{EndForm, Side};
use nook_core::route::{Centreline, Route};
use nook_core::stock::Duty;
use nook_core::survey::Survey;
use nook_core::{Edit, Job, RouteEdit, SpecEdit, apply};
use nook_geometry::Travel;
use nook_geometry::units::{Lead, Rotation};
use proptest::prelude::*;

/// Mistake 37: water is trapped where no bleed is at the high point.
#[test]
fn a_high_without_a_bleed_traps_air_and_one_with_it_does_not() {
    let (job, run) = arch(500.0, 250.0);
    let trapped = found(&job, run, FindingKind::AirTrapped);
    assert_eq!(trapped.len(), 1);
    mended(&job, run, &trapped[0]);
    let highs: Vec<_> = told(&job, run).bore_extremes;
    assert_eq!(highs.len(), 1);
    let middle = told(&job, run).totals.unwrap().end_to_end.mm() / 2.0;
    assert!(highs[0].high && !highs[0].served && (highs[0].at.mm() - middle).abs() < 1.0, "{highs:?}");
    // A drain there, a bleed below the line, or a bleed on its way up lets no air out.
    let leg = |job: &Job| told(job, run).straights[1].length.mm();
    for (leg, mm, kind, clock, served) in [
        (1, leg(&job) / 2.0, BranchKind::Bleed, 0.0, true),
        (1, leg(&job) / 2.0, BranchKind::Filler, 0.0, true),
        (1, leg(&job) / 2.0, BranchKind::Bleed, 50.0, true),
        (1, leg(&job) / 2.0, BranchKind::Bleed, 100.0, false),
        (1, leg(&job) / 2.0, BranchKind::Drain, 0.0, false),
        (0, 100.0, BranchKind::Bleed, 0.0, false),
    ] {
        let (job, id) = let_in(&job, run, (leg, mm), kind);
        let job = with(&job, &[change(run, id, BranchChange::Clock { clock: Rotation::new(clock).ok() })]);
        assert_eq!(found(&job, run, FindingKind::AirTrapped).is_empty(), served, "{kind:?} on {leg} at {clock}");
    }
    // Air is no matter in a charge pipe, nor where the line rises to an end.
    let charge = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run, duty: Duty::ChargeCold })]);
    assert_eq!(found(&charge, run, FindingKind::AirTrapped), []);
    let (level, run) = straight([Side::Body, Side::Body]);
    assert_eq!(found(&level, run, FindingKind::AirTrapped), []);
    assert!(told(&level, run).bore_extremes.is_empty());
}

#[test]
fn highs_and_lows_follow_each_other_and_a_low_is_drained() {
    // Down, level, and up again: a sag.
    let mut run = draft(port([0.0; 3], [0.0, 0.0, -1.0], OD), port([500.0, 0.0, 0.0], [0.0, 0.0, -1.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
    let (job, run) = job_with(run);
    let lead = Lead::new(250.0).unwrap();
    let way = Route::along(Centreline::Vertices { lead_a: lead, between: Vec::new(), lead_b: lead });
    let job = with(&job, &[Edit::Route(RouteEdit::TakeWay { run, way })]);
    assert_eq!(found(&job, run, FindingKind::AirTrapped), []);
    let low = told(&job, run).bore_extremes[0].clone();
    assert!(!low.high && !low.served);
    let drained = with(&job, &[low.edit.unwrap()]);
    assert!(told(&drained, run).bore_extremes[0].served);
    let drain = one(&drained, run);
    assert!(drain.kind == BranchKind::Drain && drain.out[2] < -0.99, "{:?}", drain.out);
}

/// Places of a pipe a millimetre apart: station, and the level of the bore's bottom and top.
fn walked(pipe: &Assembly, radius: f64) -> Vec<(f64, [f64; 2])> {
    let mut all = Vec::new();
    let mut station = 0.0;
    let mut travel = pipe.whole.setting_out();
    let mut place = |station: f64, travel: &Travel| {
        let slope = travel.along.vector().z;
        let half = radius * (1.0 - slope * slope).max(0.0).sqrt();
        all.push((station, [travel.at.z - half, travel.at.z + half]));
    };
    let mut line = |from: &Travel, begin: f64, long: f64, bend: Option<f64>| {
        let count = long.max(1.0).ceil();
        let mut k = 0.0;
        while k <= count {
            let s = long * k / count;
            place(begin + s, &bend.map_or_else(|| from.straight(s), |radius| from.bend(radius, s / radius)));
            k += 1.0;
        }
    };
    for step in pipe.whole.legs() {
        line(&travel, station, step.straight, None);
        travel = travel.straight(step.straight).clocked(step.bend.rotation);
        station += step.straight;
        line(&travel, station, step.bend.length(), Some(step.bend.radius));
        travel = travel.bend(step.bend.radius, step.bend.angle);
        station += step.bend.length();
    }
    line(&travel, station, pipe.whole.last(), None);
    all
}

/// Whether a place is as high as any on the way to where the line has gone down by 2 mm on both sides: by the definition.
fn is_high(line: &[f64], nth: usize) -> bool {
    let down = |mut side: Box<dyn Iterator<Item = &f64> + '_>| {
        side.find_map(|level| match level {
            level if *level > line[nth] + 0.05 => Some(false),
            level if *level < line[nth] - 2.0 => Some(true),
            _ => None,
        })
        .unwrap_or(false)
    };
    down(Box::new(line[..nth].iter().rev())) && down(Box::new(line[nth..].iter()))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    /// On any pipe, each high that is told is one by the definition, and each that is one is told; lows likewise.
    #[test]
    fn highs_and_lows_are_those_of_the_walked_bore(
        far in 500.0..900.0_f64, aside in -300.0..300.0_f64, up in -300.0..300.0_f64,
        pitch_a in -70.0..70.0_f64, pitch_b in -70.0..70.0_f64, leads in [120.0..320.0_f64, 120.0..320.0_f64],
    ) {
        let out = |pitch: f64, sign: f64| [sign * pitch.to_radians().cos(), 0.0, pitch.to_radians().sin()];
        let mut run = draft(port([0.0; 3], out(pitch_a, 1.0), OD), port([far, aside, up], out(pitch_b, -1.0), OD));
        (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
        let (job, run) = job_with(run);
        let [lead_a, lead_b] = leads.map(|mm| Lead::new(mm).unwrap());
        let way = RouteEdit::TakeWay {
            run, way: Route::along(Centreline::Vertices { lead_a, between: Vec::new(), lead_b }),
        };
        let applied = apply(&job, &Edit::Route(way));
        prop_assume!(applied.is_ok());
        let applied = applied.unwrap();
        let settled = Survey::new(&applied.job).settle(applied.job.run(run).unwrap());
        let pipe = Assembly::build(&settled).and_then(Result::ok);
        prop_assume!(pipe.is_some());
        let pipe = pipe.unwrap();
        // Of bends that overlap nothing is told.
        prop_assume!(pipe.whole.straights().all(|straight| straight >= 0.0));
        let radius = OD / 2.0 - 1.5;
        let walked = walked(&pipe, radius);
        let told = pipe.bore_extremes(radius);
        for (high, side, sign) in [(true, 1, 1.0), (false, 0, -1.0)] {
            let line: Vec<f64> = walked.iter().map(|(_, levels)| sign * levels[side]).collect();
            // Runs of places that are highs, each one high.
            let highs: Vec<usize> = (0..line.len()).filter(|nth| is_high(&line, *nth)).collect();
            let mut apart = highs.clone();
            apart.dedup_by(|next, last| line[*last..*next].iter().all(|level| *level > line[*last] - 2.0));
            let these: Vec<_> = told.iter().filter(|one| one.high == high).collect();
            prop_assert_eq!(these.len(), apart.len(), "{:?} {:?}", these, apart);
            for (one, nth) in these.iter().zip(&apart) {
                prop_assert!((sign * one.level - line[*nth]).abs() < 0.2, "{} {}", one.level, line[*nth]);
                prop_assert!((one.between[0]..=one.between[1]).contains(&one.station), "{one:?} {told:?}");
            }
        }
    }
}

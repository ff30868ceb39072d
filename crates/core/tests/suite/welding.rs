//! The weld plan of whole pipes: every seam once, settings by the sums and the builder's own coupons, gas, and what is warned of.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::record::{BenchAct, Deed, Done, FitReading, FitStep, Progress};
use nook_core::stock::Material;
use nook_core::weld::{
    Inside, NotSo, Process, SeamId, SeamKind, Settings, WeldCoupon, WeldOutcome, WeldTimes, Welder, dams, filler,
    widest_gap,
};
use nook_core::workshop::{Workshop, WorkshopEdit};
use nook_core::workup::{WeldWarningKind, WeldWorkup, weld};
use nook_core::{Given, Job, RunId, Scans, workup};

use crate::corrections::demo_job;

fn deeds(all: impl IntoIterator<Item = Done>) -> Vec<Deed> {
    let deed = |(at, done): (usize, Done)| Deed {
        id: format!("a-deed-{at:04}").try_into().unwrap(),
        by: nook_geometry::units::Name::new("Me").unwrap(),
        done,
    };
    all.into_iter().enumerate().map(deed).collect()
}

fn plan_after(job: &Job, workshop: &Workshop, run: RunId, done: impl IntoIterator<Item = Done>) -> WeldWorkup {
    let deeds = deeds(done);
    let progress = Progress::after(&deeds);
    weld(job, workshop, run, &Given { scans: &Scans::default(), progress: &progress, mend: false }).unwrap()
}

fn plan(job: &Job, workshop: &Workshop, run: RunId) -> WeldWorkup {
    plan_after(job, workshop, run, [])
}

fn run_of(job: &Job, mark: &str) -> RunId {
    job.runs().iter().find(|run| run.mark.as_ref().is_some_and(|one| one.as_str() == mark)).unwrap().id
}

fn with(workshop: &Workshop, edit: &WorkshopEdit) -> Workshop {
    workshop.apply(edit).unwrap()
}

fn welder(process: Process, amps: f64) -> WorkshopEdit {
    WorkshopEdit::SetWelder { welder: Welder::new(process, amps, 80.0, 8.0, 20.0, Inside::Purge).unwrap() }
}

#[test]
fn every_seam_of_every_pipe_is_planned_once() {
    let job = demo_job();
    let mut planned = 0;
    for run in job.runs() {
        let of = plan(&job, &Workshop::default(), run.id);
        let totals = workup(&job, run.id).unwrap().totals;
        if of.none.is_some() {
            // A hose, and a pipe that cannot be yet.
            assert!(of.seams.is_empty());
            continue;
        }
        planned += 1;
        let totals = totals.unwrap();
        let butts: Vec<_> = of.seams.iter().filter(|seam| seam.kind == SeamKind::Butt).collect();
        // Those between pieces are what the sums over the pipe count, and as long.
        assert_eq!(butts.len(), usize::try_from(totals.seams).unwrap(), "{}", run.name.as_str());
        let length: f64 = butts.iter().map(|seam| seam.length.mm()).sum();
        assert!((length - totals.weld.mm()).abs() < 1e-6 * length.max(1.0), "{length} {}", totals.weld.mm());
        let mut turns: Vec<usize> = of.seams.iter().map(|seam| seam.turn).collect();
        turns.sort_unstable();
        assert_eq!(turns, (1..=of.seams.len()).collect::<Vec<_>>());
        assert!(of.seams.windows(2).all(|pair| pair[0].station.mm() <= pair[1].station.mm()));
        for (at, seam) in of.seams.iter().enumerate() {
            assert_eq!(seam.number, at + 1);
            assert!(!of.seams[..at].iter().any(|one| one.seam == seam.seam), "{:?} twice", seam.seam);
            assert!(seam.length.mm() > 20.0 && seam.amps > 20.0 && seam.amps <= 200.0 && seam.arc > 0.0);
        }
        for section in &of.sections {
            assert!(section.pulled.mm() <= section.straight.mm() + 1e-9, "{section:?}");
        }
        assert!(of.hours > 0.5 && of.gas.as_ref().unwrap().litres > 0.0);
    }
    assert!(planned >= 5);
}

#[test]
fn amps_follow_the_sums() {
    let welder = Welder::default();
    let set = |metal, walls| Settings::of(metal, walls, &welder, None);
    assert!((set(Material::Aluminium6061, [2.0, 2.0]).amps - 90.0).abs() < 1e-9);
    assert!((set(Material::Stainless304l, [1.5, 1.5]).amps - 60.0).abs() < 1e-9);
    assert!((set(Material::TitaniumGrade2, [1.0, 1.0]).amps - 35.0).abs() < 1e-9);
    // Thin to thick: 25 to 50 % more than the thin side alone, growing with the thick one.
    let (near, thick) = (set(Material::MildSteel, [1.5, 2.0]), set(Material::MildSteel, [1.5, 8.0]));
    assert!(near.amps >= 75.0 && near.amps < 90.0 && (thick.amps - 90.0).abs() < 1e-9, "{near:?} {thick:?}");
    assert_eq!([set(Material::Aluminium6061, [2.0; 2]).electrode, thick.electrode], [Some(1.6), Some(1.6)]);
    assert_eq!(set(Material::Aluminium6061, [3.0; 2]).electrode, Some(2.4));
    // The machine ends before.
    let small = Welder::new(Process::Tig, 80.0, 80.0, 8.0, 20.0, Inside::Purge).unwrap();
    let cold = Settings::of(Material::Aluminium6061, [2.0, 10.0], &small, None);
    assert!(cold.is_cold() && (cold.amps - 80.0).abs() < 1e-9 && cold.wanted > 120.0);
    // Pauses are told at 1 mm.
    let times = WeldTimes::of(Material::TitaniumGrade2, 160.0, 1.2, 80.0);
    assert!((times.arc - 120.0).abs() < 1e-9 && (times.pause - 108.0).abs() < 1e-9);
}

#[test]
fn filler_and_process_go_by_both_metals() {
    let fed = |one, other| filler(one, other).map(|filler| filler.name);
    assert_eq!(fed(Material::Stainless304l, Material::MildSteel), Some("309L"));
    assert_eq!(fed(Material::MildSteel, Material::MildSteel), Some("ER70S-2"));
    assert_eq!(fed(Material::Stainless321, Material::Stainless304l), Some("347"));
    assert_eq!(fed(Material::TitaniumGrade2, Material::Stainless304l), None);
    for metal in Material::METALS {
        assert!(filler(metal, metal).is_some());
        // What fuses is the same seen from either side.
        for other in Material::METALS {
            assert_eq!(fed(metal, other), fed(other, metal), "{metal:?} {other:?}");
            assert_eq!(fed(metal, other).is_some(), Process::Tig.suits(metal, other).is_ok());
        }
    }
    let aluminium = Material::Aluminium6061;
    assert_eq!(Process::TigFused.suits(aluminium, aluminium), Err(NotSo::CracksWithoutFiller));
    assert_eq!(Process::Mig.suits(Material::TitaniumGrade2, Material::TitaniumGrade2), Err(NotSo::NotByWire));
    assert_eq!(Process::Mig.suits(Material::MildSteel, Material::Stainless304l), Ok(()));
    assert_eq!(Inside::wanted(Material::TitaniumGrade2, Inside::Flux), Some(Inside::Purge));
    assert_eq!(Inside::wanted(Material::Stainless316l, Inside::Flux), Some(Inside::Flux));
    assert_eq!(Inside::wanted(aluminium, Inside::Purge), None);
    let gap = |metal, process| widest_gap(metal, process, 2.0);
    assert!(
        (gap(aluminium, Process::Tig) - 1.0).abs() < 1e-12 && (gap(aluminium, Process::TigFused) - 0.2).abs() < 1e-12
    );
    assert!((gap(Material::TitaniumGrade2, Process::Tig) - 0.5).abs() < 1e-12);
}

#[test]
fn dams_are_set_where_they_save_more_than_they_cost() {
    // A long pipe of one seam: the most of it need not be filled.
    let found = dams([0.0, 2000.0], 60.0, &[1000.0], 10.0).unwrap();
    assert_eq!(found.stretches, [[850.0, 1150.0]]);
    // Seams all along it: nothing is saved.
    let all: Vec<f64> = (0..10).map(|at| 200.0 * f64::from(at) + 100.0).collect();
    assert_eq!(dams([0.0, 2000.0], 60.0, &all, 10.0), None);
    // A short pipe: the dams cost more gas than they save.
    assert_eq!(dams([0.0, 500.0], 38.0, &[250.0], 7.0), None);
    // Near an end one dam serves.
    let found = dams([0.0, 2000.0], 80.0, &[50.0, 120.0], 10.0).unwrap();
    assert_eq!(found.stretches, [[0.0, 270.0]]);
}

#[test]
fn a_good_coupon_is_the_next_start_and_a_bad_one_is_none() {
    let job = demo_job();
    let run = run_of(&job, "T");
    let before = plan(&job, &Workshop::default(), run);
    let tube = job.run(run).unwrap().tube;
    let coupon = |amps, outcome| WorkshopEdit::AddWeldCoupon {
        coupon: WeldCoupon {
            material: tube.material(),
            wall: tube.wall(),
            process: Process::Tig,
            amps,
            outcome,
            note: None,
        },
    };
    let good = with(&Workshop::default(), &coupon(47.0, WeldOutcome::Good));
    let after = plan(&job, &good, run);
    let butt = |of: &WeldWorkup| of.seams.iter().find(|seam| seam.kind == SeamKind::Butt).unwrap().clone();
    assert!((butt(&after).amps - 47.0).abs() < 1e-9 && butt(&after).why.mm.contains("your coupon"));
    assert!((butt(&before).amps - 47.0).abs() > 1.0);
    // A later one that came out cold is worth more than an earlier good one.
    let bad = with(&good, &coupon(47.0, WeldOutcome::Cold));
    assert_eq!(butt(&plan(&job, &bad, run)).why, butt(&before).why);
    // Taken out again, the good one counts.
    let again = with(&bad, &WorkshopEdit::RemoveWeldCoupon { at: 1 });
    assert_eq!(butt(&plan(&job, &again, run)), butt(&after));
    assert!(again.apply(&WorkshopEdit::RemoveWeldCoupon { at: 1 }).is_err());
    let wild = WeldCoupon { wall: f64::NAN, ..again.weld_coupons()[0].clone() };
    assert!(again.apply(&WorkshopEdit::AddWeldCoupon { coupon: wild }).is_err());
    let kept: Workshop = serde_json::from_str(&serde_json::to_string(&again).unwrap()).unwrap();
    assert_eq!(kept, again);
}

#[test]
fn figures_no_machine_has_are_refused() {
    let refused = |amps, travel, flow, bottle| Welder::new(Process::Tig, amps, travel, flow, bottle, Inside::Purge);
    assert!(refused(5.0, 80.0, 8.0, 20.0).unwrap_err().to_string().contains("20 to 600 A"));
    assert!(refused(200.0, 0.0, 8.0, 20.0).is_err() && refused(200.0, 80.0, f64::NAN, 20.0).is_err());
    assert!(refused(200.0, 80.0, 8.0, 900.0).is_err() && refused(200.0, 80.0, 8.0, 20.0).is_ok());
    assert!(
        serde_json::from_str::<Welder>(
            r#"{"process":"tig","most_amps":1e9,"travel":80,"purge_flow":8,"bottle":20,"inside":"purge"}"#
        )
        .is_err()
    );
}

fn kinds(of: &WeldWorkup) -> Vec<WeldWarningKind> {
    of.warnings.iter().map(|warning| warning.kind).collect()
}

#[test]
fn a_gap_too_wide_is_told_until_it_is_read_again_or_welded() {
    let job = demo_job();
    let run = run_of(&job, "T");
    let of = plan(&job, &Workshop::default(), run);
    let SeamId::After { piece } = of.seams.iter().find(|seam| seam.kind == SeamKind::Butt).unwrap().seam else {
        unreachable!("a butt seam is after a piece")
    };
    let wall = job.run(run).unwrap().tube.wall();
    let read = |mm| Done::Fit { run, step: FitStep::Read { reading: FitReading::SeamGap { piece, mm }, spread: None } };
    let told = |done: Vec<Done>| kinds(&plan_after(&job, &Workshop::default(), run, done));
    assert!(!told(vec![read(0.5 * wall)]).contains(&WeldWarningKind::Gap));
    assert!(told(vec![read(0.5 * wall + 0.05)]).contains(&WeldWarningKind::Gap));
    assert!(!told(vec![read(2.0 * wall), read(0.1)]).contains(&WeldWarningKind::Gap));
    let welded = Done::Did { run, what: BenchAct::Weld { seam: SeamId::After { piece } } };
    let after = plan_after(&job, &Workshop::default(), run, vec![read(2.0 * wall), welded]);
    assert!(
        !kinds(&after).contains(&WeldWarningKind::Gap) && after.seams.iter().filter(|seam| seam.welded).count() == 1
    );
    assert!(after.arc < of.arc && after.gas.unwrap().litres < of.gas.unwrap().litres);
}

#[test]
fn a_machine_too_small_for_the_thick_side_is_told() {
    let job = demo_job();
    let (mut small_told, mut large_told) = (0, 0);
    for run in job.runs() {
        let at = |amps| kinds(&plan(&job, &with(&Workshop::default(), &welder(Process::Tig, amps)), run.id));
        let cold = |kinds: Vec<WeldWarningKind>| kinds.iter().filter(|kind| **kind == WeldWarningKind::Cold).count();
        small_told += cold(at(40.0));
        large_told += cold(at(400.0));
    }
    assert!(small_told > 0 && large_told == 0, "{small_told} {large_told}");
}

#[test]
fn a_process_that_is_none_for_the_metal_is_told_once() {
    let job = demo_job();
    for run in job.runs() {
        let metal = job.run(run.id).unwrap().tube.material();
        for process in Process::ALL {
            let of = plan(&job, &with(&Workshop::default(), &welder(process, 200.0)), run.id);
            let told = kinds(&of).iter().filter(|kind| **kind == WeldWarningKind::Process).count();
            let wrong = of.none.is_none() && process.suits(metal, metal).is_err();
            assert_eq!(told, usize::from(wrong), "{} {process:?}", run.name.as_str());
        }
    }
}

#[test]
fn gas_that_runs_out_and_gas_that_leaks_are_told() {
    let job = demo_job();
    let run = run_of(&job, "T");
    let workshop = Workshop::default();
    let of = plan(&job, &workshop, run);
    let needs = of.gas.as_ref().unwrap().bar;
    let read = |bar| Done::Bottle { run, bar };
    let told = |done: Vec<Done>| kinds(&plan_after(&job, &workshop, run, done));
    assert!(told(vec![read(needs - 1.0)]).contains(&WeldWarningKind::GasRunsOut));
    assert!(!told(vec![read(needs + 1.0)]).contains(&WeldWarningKind::GasRunsOut));
    // As much gone as the gauge is read to explains itself; 20 bar of 20 litres with nothing welded do not.
    assert!(!told(vec![read(150.0), read(144.0)]).contains(&WeldWarningKind::GasLeaks));
    assert!(told(vec![read(150.0), read(130.0)]).contains(&WeldWarningKind::GasLeaks));
    // All welded, what that takes is explained.
    let welded = of.seams.iter().map(|seam| Done::Did { run, what: BenchAct::Weld { seam: seam.seam } });
    let welded: Vec<Done> = welded.collect();
    let mut done = vec![read(150.0)];
    done.extend(welded.clone());
    done.push(read(150.0 - needs));
    assert!(!told(done.clone()).contains(&WeldWarningKind::GasLeaks));
    done.push(read(150.0 - 2.0 * needs - 20.0));
    assert!(told(done.clone()).contains(&WeldWarningKind::GasLeaks));
    // What was welded before the first reading explains nothing that went after it.
    let mut before = welded;
    before.extend([read(150.0), read(150.0 - needs - 10.0)]);
    assert!(told(before).contains(&WeldWarningKind::GasLeaks));
    // A bottle that was changed begins anew.
    done.push(read(200.0));
    assert!(!told(done).contains(&WeldWarningKind::GasLeaks));
}

#[test]
fn titanium_is_purged_and_aluminium_is_not() {
    let job = demo_job();
    for run in job.runs() {
        let of = plan(&job, &Workshop::default(), run.id);
        let metal = job.run(run.id).unwrap().tube.material();
        for section in &of.sections {
            assert_eq!(section.purge.is_some(), Inside::wanted(metal, Inside::Purge).is_some());
            if let Some(purge) = &section.purge {
                let litres = workup(&job, run.id).unwrap().totals.unwrap().litres;
                assert!(purge.litres > 0.0 && purge.litres <= litres * 1.01, "{} of {litres}", purge.litres);
                assert!((purge.seconds - purge.volumes * purge.litres / purge.flow * 60.0).abs() < 1e-9);
            }
        }
        let argon = of.cautions.iter().any(|caution| caution.contains("Argon is heavier"));
        assert_eq!(argon, of.sections.iter().any(|section| section.purge.is_some()));
    }
}

#[test]
fn fingerprints_are_warned_of_where_they_show_and_nowhere_else() {
    let job = demo_job();
    for run in job.runs() {
        let of = plan(&job, &Workshop::default(), run.id);
        let told = of.before.iter().any(|words| words.mm.contains("fingerprint"));
        assert_eq!(told, of.none.is_none() && run.tube.material().colours(), "{}", run.name.as_str());
    }
}

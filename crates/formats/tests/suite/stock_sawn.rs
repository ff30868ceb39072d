//! What is printed of sticks is sawn: every chain from its own stick, wherever the run was parted; the pieces of all sticks are put
//! together line to line, and the pipe must land on both ports.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashMap;

use nook_core::cut::Chain;
use nook_core::record::Progress;
use nook_core::survey::Survey;
use nook_core::workshop::{PinnedSaw, StickId};
use nook_core::workup::{StickPlan, to_saw};
use nook_core::{CutEdit, Edit, Job, RunId, Workup, apply, workup};
use nook_formats::stock_csv;
use nook_geometry::units::{LongestStick, Measure, SawBias};
use proptest::prelude::*;

use super::sawn::{Sawn, Table, made, put_together, saw, within};
use crate::support::{any_draft, job_with};

/// Chains of a run, parted before some of its pieces too, on sticks of two and two.
fn on_sticks(job: &Job, run: RunId, parted: &[usize]) -> Option<Vec<StickPlan>> {
    let all = to_saw(job, &Survey::new(job), run, &Progress::default())?;
    let (od, kerf) = (all.tube.od(), job.kerf());
    let mut chains = Chain::all(&all.pieces, 0..all.pieces.len(), od, kerf)?;
    for at in parted.iter().map(|at| at % all.pieces.len()) {
        let which = chains.iter().position(|chain| chain.pieces.contains(&at))?;
        if let Some(two) = chains[which].parted(&all.pieces, at, od, kerf) {
            chains.splice(which..=which, two);
        }
    }
    // The last first, so that nothing follows from their order.
    chains.reverse();
    let sticks = chains.chunks(2).zip(1..).map(|(chains, id)| {
        let mut from = 0.0;
        let each = chains.iter().map(|chain| {
            let sawn = all.sawn(chain, from, job.saw());
            from += chain.takes + kerf;
            sawn
        });
        let chains: Option<Vec<_>> = each.collect();
        Some(StickPlan {
            stick: Some(StickId(id)),
            on_sale: None,
            length: Measure(from),
            chains: chains?,
            left: Measure(0.0),
            hold: None,
            once_sawn: nook_core::workup::OnceSawn::default(),
        })
    });
    sticks.collect()
}

/// Saws everything a table says and puts the pieces of all sticks in order.
fn sawn(text: &str, workup: &Workup, bias: f64) -> Sawn {
    let table = Table::of(text);
    let mut chains: HashMap<(String, String), Vec<csv::StringRecord>> = HashMap::new();
    for (row, record) in table.rows.iter().enumerate() {
        let key = ["stick", "chain_from_mm"].map(|name| table.cell(row, name).unwrap());
        chains.entry(key.into()).or_default().push(record.clone());
        let number = |name: &str| table.cell(row, name).unwrap().parse::<f64>().unwrap();
        let (wanted, set) = (number("saw_deg"), number("saw_set_deg"));
        assert!(wanted <= 0.0 || (set + bias - wanted).abs() < 0.0101, "set at {set} it cuts {wanted}");
    }
    let gaps: HashMap<String, f64> = workup
        .cutting
        .iter()
        .flat_map(|cutting| &cutting.meetings)
        .map(|one| (one.piece.clone(), one.gap.as_ref().map_or(0.0, |gap| gap.mm())))
        .collect();
    let mut all = Sawn { pieces: Vec::new(), lines: HashMap::new(), cuts: 0 };
    let mut towards_a: HashMap<String, (String, f64)> = HashMap::new();
    for (key, rows) in chains {
        let of = Table { heads: table.heads.clone(), rows };
        let from: f64 = key.1.parse().unwrap();
        let mut chain = saw(&of, workup.od.mm(), from);
        let own = |line: &str| format!("{} {} {line}", key.0, key.1);
        for (row, _) in of.rows.iter().enumerate() {
            let cell = |name: &str| of.cell(row, name).unwrap();
            for side in ["line_towards_a", "line_towards_b"] {
                let line = cell(side);
                if let Ok(round) = cell(&format!("{side}_round")).parse::<f64>() {
                    all.lines.insert(own(&line), round / (workup.od.mm() / 2.0));
                }
            }
            let Some(piece) = chain.pieces.iter_mut().find(|piece| piece.name == cell("piece")) else { continue };
            piece.gap = gaps.get(&piece.name).copied().unwrap_or(0.0);
            let stands = |side: &str| cell(&format!("{side}_stands")).parse::<f64>().map(f64::to_radians);
            if let Ok(stands) = stands("line_towards_a") {
                towards_a.insert(piece.name.clone(), (own(&cell("line_towards_a")), stands));
            }
            if let Ok(stands) = stands("line_towards_b") {
                piece.meets = Some([cell("meets_towards_b"), own(&cell("line_towards_b")), String::new()]);
                piece.stands = Some(stands);
            }
        }
        all.cuts += chain.cuts;
        all.pieces.append(&mut chain.pieces);
    }
    // As they are written on the metal, from A.
    let order = |name: &str| workup.pieces.iter().position(|piece| piece.name == name).unwrap();
    all.pieces.sort_by_key(|piece| order(&piece.name));
    for piece in &mut all.pieces {
        let Some([next, _, line]) = &mut piece.meets else { continue };
        let (meets, stands) = &towards_a[next];
        let off = (stands - piece.stands.unwrap() + std::f64::consts::PI).rem_euclid(std::f64::consts::TAU);
        assert!((off - std::f64::consts::PI).abs() < 2e-4, "both sides of a joint say one clock");
        line.clone_from(meets);
    }
    all
}

/// How many pieces landed; nothing where the run cannot be sawn.
fn lands(job: &Job, run: RunId, parted: &[usize]) -> Result<usize, String> {
    let Some(sticks) = on_sticks(job, run, parted) else { return Ok(0) };
    let told = workup(job, run).unwrap();
    let text = stock_csv(&[(told.decisions.tube, &sticks)], job.kerf()).unwrap();
    let sawn = sawn(&text, &told, job.saw().bias());
    assert_eq!(sawn.pieces.len(), told.pieces.len(), "every piece is sawn once");
    let a = &told.ends[0];
    let (reached, along) = put_together(&sawn, told.od.mm(), a.tube_end, a.out);
    within(&told, &sawn, reached, along).map_err(|why| format!("{why}:\n{text}"))
}

#[test]
fn every_run_of_the_demo_lands_from_whatever_sticks() {
    let job = nook_formats::read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    let mut landed = 0;
    for run in job.runs() {
        let told = workup(&job, run.id).unwrap();
        // What is bent and not welded is landed by its table.
        if told.hose.is_some() || told.bends.iter().any(|bend| bend.pies.is_none()) {
            continue;
        }
        for parted in [&[][..], &[1], &[3, 9], &[2, 5, 8, 11]] {
            landed += lands(&job, run.id, parted).unwrap_or_else(|why| panic!("{}: {why}", run.name.as_str()));
        }
    }
    assert!(landed > 150, "{landed}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    #[test]
    fn every_pipe_lands_wherever_it_is_parted_and_whatever_the_saw_errs_by(
        draft in any_draft(),
        seams in prop::collection::vec(2..9_u8, 1..4),
        ends in prop::collection::vec(any::<bool>(), 1..4),
        parted in prop::collection::vec(0..60_usize, 0..5),
        bias in -2.0..2.0_f64,
        longest in prop::option::of(200.0..900.0_f64),
    ) {
        let (job, run) = job_with(draft);
        let job = made(&job, run, &seams, &ends);
        let saw = PinnedSaw { bias: SawBias::new(bias).ok(), ..job.saw().clone() };
        let job = apply(&job, &Edit::Cut(CutEdit::PinSaw { saw })).unwrap().job;
        // Spliced of sticks no longer than this, it lands all the same.
        let longest = longest.map(|mm| LongestStick::new(mm).unwrap());
        let job = apply(&job, &Edit::Cut(CutEdit::SetLongest { run, longest })).unwrap().job;
        if let Err(why) = lands(&job, run, &parted) {
            return Err(TestCaseError::fail(why));
        }
    }
}

//! Chains of a run's pieces sawn from a stick of their own: what comes off is the piece, whichever of its neighbours are on the stick.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::Vector2;
use nook_core::assembly::Assembly;
use nook_core::cut::{Chain, Cut, CutPlan, Piece, cut_plan};
use nook_core::record::Progress;
use nook_core::route::ResolvedRun;
use nook_core::survey::Survey;
use nook_core::workup::to_saw;
use nook_core::{Job, RunId, workup};
use proptest::prelude::*;

use crate::support::{any_draft, draft, job_with, port};

const KERF: f64 = 2.0;

fn pieces_of(job: &Job, run: RunId) -> Vec<Piece> {
    Assembly::build(&ResolvedRun::as_typed(job.run(run).unwrap())).unwrap().unwrap().pieces()
}

/// The face a cut leaves: where it crosses the axis, and its rise along the stick per mm towards each clock, counted from line 1a.
fn face(plan: &CutPlan, cut: &Cut, od: f64) -> (f64, Vector2<f64>) {
    let Some(line) = &cut.line_up else { return (cut.centre, Vector2::zeros()) };
    let round = plan.lines.iter().find(|one| one.name == *line).unwrap().round;
    let clock = round / (od / 2.0);
    // The line that faces up is marked nearer the squared end.
    let rise = (cut.down - cut.up) / od;
    assert!((rise - cut.saw.tan()).abs() < 1e-9);
    (cut.centre, -Vector2::new(clock.cos(), clock.sin()) * rise)
}

/// Saws a chain as planned and measures what comes off: mean length, and by how much its longest line is longer, in mm.
fn sawn(plan: &CutPlan, od: f64) -> Vec<(usize, f64, f64)> {
    let (mut at, mut slope) = (0.0, Vector2::zeros());
    let mut off = Vec::new();
    for cut in &plan.cuts {
        let (centre, next) = face(plan, cut, od);
        if let Some(piece) = cut.frees {
            off.push((piece, centre - at, od / 2.0 * (next - slope).norm()));
        }
        // The blade takes its width square to itself.
        (at, slope) = (centre + KERF * (1.0 + next.norm_squared()).sqrt(), next);
    }
    off
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Wherever a run is parted into chains, each gives its pieces, as long on every line as in the pipe, and takes what it says.
    #[test]
    fn a_chain_gives_its_pieces_wherever_it_is_parted(draft in any_draft(), at in prop::collection::vec(any::<prop::sample::Index>(), 0..4)) {
        let (job, run) = job_with(draft);
        let told = workup(&job, run).unwrap();
        prop_assume!(told.cutting.is_some());
        let od = told.od.mm();
        let pieces = pieces_of(&job, run);
        let mut chains = Chain::all(&pieces, 0..pieces.len(), od, KERF).unwrap();
        for at in at {
            let at = at.index(pieces.len());
            let which = chains.iter().position(|chain| chain.pieces.contains(&at)).unwrap();
            if let Some(two) = chains[which].parted(&pieces, at, od, KERF) {
                // Parting never makes less of it.
                prop_assert!(two[0].takes + two[1].takes + KERF >= chains[which].takes - 1e-9);
                chains.splice(which..=which, two);
            }
        }
        let order: Vec<usize> = chains.iter().flat_map(|chain| chain.pieces.clone()).collect();
        prop_assert_eq!(order, (0..pieces.len()).collect::<Vec<_>>(), "every piece once, from A");
        for chain in &chains {
            let slice = &pieces[chain.pieces.clone()];
            let plan = cut_plan(slice, od, KERF).unwrap();
            let off = sawn(&plan, od);
            prop_assert_eq!(off.len(), slice.len());
            for (index, mean, beyond) in off {
                let [shortest, longest] = slice[index].extremes(od);
                prop_assert!((mean - slice[index].centre).abs() < 1e-6, "{mean} {}", slice[index].centre);
                prop_assert!((beyond - (longest - shortest) / 2.0).abs() < 1e-6, "{beyond} {shortest} {longest}");
            }
            // Nothing of it is sawn before the squared end or beyond what it takes, and both its ends are square.
            let last = plan.cuts.last().unwrap();
            prop_assert!(last.saw <= 0.0 && (last.centre - chain.takes).abs() < 1e-9);
            prop_assert!(plan.cuts.iter().all(|cut| cut.up >= -1e-9 && cut.down <= chain.takes + 1e-9));
        }
    }
}

#[test]
fn what_is_cut_is_not_sawn_again() {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([620.0, 360.0, 410.0], [0.0, 0.1, -1.0], 63.5)));
    let survey = Survey::new(&job);
    let all = to_saw(&job, &survey, run, &Progress::default()).unwrap();
    assert_eq!(all.uncut, vec![0..all.pieces.len()]);
    let told = workup(&job, run).unwrap();
    assert_eq!(
        all.names.iter().map(|(_, name)| name.clone()).collect::<Vec<_>>(),
        told.pieces.iter().map(|piece| piece.name.clone()).collect::<Vec<_>>()
    );
    let chain = &Chain::all(&all.pieces, 0..all.pieces.len(), 63.5, KERF).unwrap()[0];
    let shown = all.sawn(chain, 100.0, &crate::support::saw(KERF)).unwrap();
    let alone = all.sawn(chain, 0.0, &crate::support::saw(KERF)).unwrap();
    assert!(shown.cuts.iter().zip(&alone.cuts).all(|(p, q)| (p.up.mm() - q.up.mm() - 100.0).abs() < 1e-9));
    // A hose is not sawn.
    let hose =
        nook_core::SpecEdit::SetHose { run, hose: nook_core::stock::HoseBuild::Corrugated, material: None, bore: None };
    let hose = nook_core::apply(&job, &hose.into()).unwrap().job;
    assert!(to_saw(&hose, &Survey::new(&hose), run, &Progress::default()).is_none());
}

//! How long the chance to land, and what is to be done to a pipe that does not, take: of the demo's hot side charge pipe.

#![allow(clippy::unwrap_used, missing_docs, reason = "a benchmark of fixed, sound data")]

use nook_core::assembly::Assembly;
use nook_core::fit::{Among, Belief, Built, LandingModel, PipeToMake, Spreads};
use nook_core::record::FitReading;
use nook_core::route::Making;
use nook_core::survey::Survey;
use nook_core::{Job, cut::Piece};

const DEMO: &str = include_str!("../../../demo/pellow-van.json");
const BUILT: Built<'static> = Built { cut: &|_| true, tacked: &|_| true };

fn main() {
    divan::main();
}

fn with_pipe(call: impl FnOnce(&PipeToMake<'_>, &LandingModel)) {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    let job: Job = serde_json::from_value(file["job"].clone()).unwrap();
    let survey = Survey::new(&job);
    let run = survey.settle(&job.runs()[0]);
    let pipe = Assembly::build(&run).unwrap().unwrap();
    let pieces: Vec<Piece> = pipe.pieces();
    let to_make = PipeToMake { run: &run, survey: &survey, pipe: &pipe, pieces: &pieces, closing: None };
    call(&to_make, &to_make.landing_model(Making::default(), &Spreads::USUAL));
}

#[divan::bench]
fn landing_model(bencher: divan::Bencher<'_, '_>) {
    with_pipe(|pipe, _| bencher.bench_local(|| pipe.landing_model(Making::default(), &Spreads::USUAL)));
}

#[divan::bench]
fn chance(bencher: divan::Bencher<'_, '_>) {
    with_pipe(|_, model| bencher.bench_local(|| model.chance()));
}

#[divan::bench(sample_count = 5)]
fn twenty_thousand_pipes_put_together(bencher: divan::Bencher<'_, '_>) {
    with_pipe(|_, model| bencher.bench_local(|| model.sampled(20_000)));
}

/// Seen to be 12 low and 9 long, to half a millimetre.
#[divan::bench]
fn corrections(bencher: divan::Bencher<'_, '_>) {
    with_pipe(|pipe, model| {
        let mut belief = Belief::before(model.sources().len());
        let readings = [FitReading::Rough { low: 12.0, left: 0.0, long: 9.0 }];
        for seen in readings.iter().flat_map(|reading| pipe.observed(model, reading, Some(0.5)).unwrap()) {
            belief.observe(&seen);
        }
        bencher.bench_local(|| pipe.corrections(model, &belief, &Spreads::USUAL, &BUILT, Among::All));
    });
}

//! Whether what is told of landing is so: pipes of the demo made in a virtual garage that has its own picture of what goes wrong.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::assembly::{Assembly, SeatedJoint};
use nook_core::edit::JointChange;
use nook_core::fit::{PipeToMake, Spreads};
use nook_core::join::JointKind;
use nook_core::measure::{End, PortRef};
use nook_core::route::Making;
use nook_core::survey::Survey;
use nook_core::{Edit, Job, JoinEdit, RunId, apply};

use crate::support::garage::{Bench, Known, MadePipe, Slack};

const DEMO: &str = include_str!("../../../../demo/pellow-van.json");
/// Pipes made of each variant.
const EACH: u64 = 120;

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    serde_json::from_value(file["job"].clone()).unwrap()
}

/// What a joint is off by at most when it is put together: half its give or what running leaves of it, and the slide of a hose.
/// Source: handbook, "The sums", Joints, and "Fit, weld, prove", Correcting.
fn slack(joint: &SeatedJoint, used: f64) -> Slack {
    let give = joint.spec.give;
    let share = (1.0 - used).clamp(0.0, 0.5);
    let slides = joint.kind.has_hose();
    Slack {
        closer: give.axial * share + if slides { joint.needs.gap.min(6.0) } else { 0.0 },
        apart: give.axial * share + if slides { 10.0 } else { 0.0 },
        beside: give.offset * share,
        tilt: give.angle.to_radians() * share,
    }
}

/// What is told of a run's pipe, and the share of those made that land; `None` of a pipe the garage does not make.
fn told_and_made(job: &Job, id: RunId, bench: &Bench, seed: u64) -> Option<(f64, f64, u64)> {
    let survey = Survey::new(job);
    let run = survey.settle(job.run(id)?);
    let pipe = Assembly::build(&run)?.ok()?;
    if pipe.joints.len() != 2 || pipe.joints.iter().any(|joint| joint.spec.give.is_none()) {
        return None;
    }
    let pieces = pipe.pieces();
    if pieces.iter().any(|piece| piece.solids.len() != 1) {
        return None;
    }
    let spreads = Spreads { saw_common: bench.saw_common, ..Spreads::USUAL };
    let to_make = PipeToMake { run: &run, survey: &survey, pipe: &pipe, pieces: &pieces, closing: None };
    let told = to_make.landing_model(Making::default(), &spreads).chance();
    let uses = pipe.moves(&run).uses(&pipe);
    let used = |joint: &SeatedJoint| uses.iter().find(|used| used.joint == joint.id).map_or(0.0, |used| used.share);
    let slack = [&pipe.joints[0], &pipe.joints[1]].map(|joint| slack(joint, used(joint)));
    if slack.iter().any(|one| one.tilt <= 0.0) {
        return None;
    }
    let known = [End::A, End::B].map(|end| {
        let port = PortRef { run: id, end };
        Known { place: survey.port_place_spread(port), aim: survey.port_aim_spread(port) }
    });
    let made = |k| MadePipe::new(&run, &pipe, &pieces, &known, slack, bench, seed * 10_000 + k).lands();
    let landed = (0..EACH).filter(|k| made(*k)).count() as u64;
    Some((told, landed as f64 / EACH as f64, landed))
}

/// The demo's runs with other joints at their ends.
fn variants() -> Vec<(Job, RunId)> {
    let job = demo();
    let mut all = Vec::new();
    for run in job.runs() {
        let ends: Vec<_> =
            run.route.joints().iter().filter(|joint| joint.end().is_some()).map(|joint| joint.id).collect();
        for kinds in [vec![], vec![0], vec![1], vec![0, 1]] {
            for kind in [JointKind::Coupler, JointKind::Hump] {
                let edits = kinds.iter().filter_map(|at| ends.get(*at)).map(|joint| {
                    Edit::Join(JoinEdit::ChangeJoint { run: run.id, joint: *joint, to: JointChange::Kind { kind } })
                });
                let next = edits.fold(Some(job.clone()), |job, edit| Some(apply(&job?, &edit).ok()?.job));
                all.extend(next.map(|job| (job, run.id)));
            }
        }
    }
    all
}

#[test]
fn what_is_told_before_cutting_is_what_the_garage_finds() {
    // Bins of what was told: how many pipes, how many of them should land by that, and how many do.
    let edges = [0.1, 0.4, 0.7, 0.9, 0.99];
    let mut bins = [(0_u64, 0.0, 0_u64); 4];
    let benches = [Bench::HANDBOOK, Bench { saw_common: Spreads::COUPON, ..Bench::HANDBOOK }];
    let mut seed = 0;
    for (job, run) in variants() {
        for bench in &benches {
            seed += 1;
            let Some((told, _, landed)) = told_and_made(&job, run, bench, seed) else { continue };
            let Some(bin) = (0..4).find(|bin| (edges[*bin]..edges[*bin + 1]).contains(&told)) else { continue };
            bins[bin].0 += EACH;
            bins[bin].1 += told * EACH as f64;
            bins[bin].2 += landed;
        }
    }
    println!("told      pipes  told  landed");
    for (bin, (count, should, did)) in bins.iter().enumerate() {
        let count_f = (*count).max(1) as f64;
        let (told, landed) = (should / count_f, *did as f64 / count_f);
        println!("{:.2}-{:.2}  {count:6}  {told:.3}  {landed:.3}", edges[bin], edges[bin + 1]);
    }
    for (bin, (count, should, did)) in bins.iter().enumerate() {
        assert!(*count >= 400, "bin {bin} has {count}");
        let count = *count as f64;
        let (told, landed) = (should / count, *did as f64 / count);
        // 95 of 100 such bins hold within this.
        let within = 1.96 * (told * (1.0 - told) / count).sqrt() + 0.01;
        assert!((told - landed).abs() <= within, "bin {bin}: {told} {landed} {within}");
    }
}

//! The chance that runs of the demo land: against pipes put together exactly, against how sections settle while running, and as what
//! is decided about it changes.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{DVector, Isometry3, Point3, Translation3, UnitQuaternion, Vector3};
use nook_core::assembly::Assembly;
use nook_core::cut::closing_piece;
use nook_core::fit::{Body, ErrorAct, ErrorOf, ErrorSource, FitJoint, LandingModel, PipeToMake, Spreads, Takes, Twist};
use nook_core::measure::End;
use nook_core::record::Progress;
use nook_core::route::Making;
use nook_core::survey::Survey;
use nook_core::workup::{LandingWorkup, landing};
use nook_core::{CutEdit, Edit, Job, RunId, apply, workup};
use nook_geometry::linkage::{Compliance, Linkage, LinkageJoint};
use proptest::prelude::*;

const DEMO: &str = include_str!("../../../../demo/pellow-van.json");

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    serde_json::from_value(file["job"].clone()).unwrap()
}

const MAKINGS: [Making; 4] = [
    Making { true_bends: false, closing_last: false, on_vehicle: false },
    Making { true_bends: true, closing_last: false, on_vehicle: false },
    Making { true_bends: false, closing_last: true, on_vehicle: false },
    Making { true_bends: true, closing_last: false, on_vehicle: true },
];

/// Every run of the demo that is a pipe, made in each of the ways.
fn models(job: &Job, mut each: impl FnMut(RunId, Making, LandingModel)) {
    let survey = Survey::new(job);
    for run in job.runs() {
        let id = run.id;
        if workup(job, id).unwrap().chance.is_none() {
            continue;
        }
        let run = survey.settle(run);
        let pipe = Assembly::build(&run).unwrap().unwrap();
        let pieces = pipe.pieces();
        let closing = closing_piece(&pieces, |_| true).map(|found| found.at);
        let to_make = PipeToMake { run: &run, survey: &survey, pipe: &pipe, pieces: &pieces, closing };
        for making in MAKINGS {
            each(id, making, to_make.landing_model(making, &Spreads::of(job)));
        }
    }
}

#[test]
fn first_order_and_pipes_put_together_exactly_agree() {
    let mut seen = 0;
    models(&demo(), |run, making, model| {
        let (chance, sampled) = (model.chance(), model.sampled(20_000));
        assert!((chance - sampled).abs() < 0.02, "{run:?} {making:?}: {chance} {sampled}");
        seen += 1;
    });
    assert!(seen >= 16, "{seen}");
}

#[test]
fn what_is_decided_is_what_is_told() {
    let job = demo();
    let told = |job: &Job, run| -> LandingWorkup { landing(job, run, &Progress::default()).unwrap() };
    let mut mended = 0;
    for run in job.runs() {
        let now = told(&job, run.id);
        assert_eq!(now.chance, workup(&job, run.id).unwrap().chance);
        let Some(chance) = now.chance else { continue };
        assert!((0.0..=1.0).contains(&chance));
        assert!(now.causes.windows(2).all(|pair| pair[0].share >= pair[1].share));
        for remedy in &now.remedies {
            assert!(remedy.chance > chance);
            // Taking it comes to what it promised.
            let Some(edit) = &remedy.edit else { continue };
            let then = told(&apply(&job, edit).unwrap().job, run.id).chance.unwrap();
            assert!((then - remedy.chance).abs() < 1e-9, "{} {then} {}", remedy.words.mm, remedy.chance);
            mended += 1;
        }
    }
    assert!(mended > 0);
}

#[test]
fn a_piece_cut_in_place_takes_up_what_lies_along_it() {
    let job = demo();
    let run = job.runs()[0].id;
    let with = |making| {
        let edit = Edit::Cut(CutEdit::SetMaking { run, making });
        landing(&apply(&job, &edit).unwrap().job, run, &Progress::default()).unwrap()
    };
    let [plain, _, closing, on_vehicle] = MAKINGS.map(|making| with(making).chance.unwrap());
    assert!(closing > plain && on_vehicle > closing, "{plain} {closing} {on_vehicle}");
    // Once it is decided it is not offered again.
    let offered = with(MAKINGS[2]).remedies;
    assert!(offered.iter().all(|remedy| !remedy.words.mm.starts_with("Leave") || remedy.edit.is_none()));
}

/// Sections between four joints along a bent way, the last of which may be held; what they settle to beside what a running chain does.
fn chain(gives: [[f64; 3]; 4], moved: [f64; 6]) -> (LandingModel, Linkage, Isometry3<f64>) {
    let places = [[0.0, 0.0, 0.0], [300.0, 40.0, 0.0], [420.0, 250.0, 80.0], [500.0, 300.0, 310.0]];
    let ways = [[1.0, 0.0, 0.0], [0.6, 0.8, 0.0], [0.0, 0.6, 0.8], [0.0, 0.0, 1.0]];
    let at = |k: usize| Point3::from(places[k]);
    let along = |k: usize| Vector3::from(ways[k]);
    let joints = (0..4).map(|k| {
        let [angle, offset, axial] = gives[k];
        FitJoint { at: at(k), along: along(k), takes: Some(Takes { angle, offset, axial: [axial; 2] }), twists: true }
    });
    let linkage = (0..4).map(|k| {
        let [angle, offset, axial] = gives[k];
        LinkageJoint { at: at(k), along: along(k), give: Compliance { angle, offset, axial } }
    });
    let twist = Twist {
        at: at(3),
        turn: Vector3::new(moved[3], moved[4], moved[5]),
        shift: Vector3::new(moved[0], moved[1], moved[2]),
    };
    let act = ErrorAct { on: Body::Port(End::B), station: 0.0, twist };
    let source = ErrorSource { of: ErrorOf::PortPlace(End::B, 0), spread: 1.0, late: false, acts: vec![act] };
    let turn = UnitQuaternion::from_scaled_axis(twist.turn);
    let shift = Translation3::from(at(3).coords + twist.shift - turn * at(3).coords);
    (
        LandingModel::new(joints.collect(), vec![source], Vec::new()),
        Linkage::new(linkage.collect()),
        Isometry3::from_parts(shift, turn),
    )
}

proptest! {
    /// Sections settle as they do while running, which is worked out by another way.
    #[test]
    fn sections_settle_as_a_running_chain_does(
        gives in prop::array::uniform4([0.02..0.1, 1.0..6.0, 1.0..8.0]),
        moved in [-0.5..0.5, -0.5..0.5, -0.5..0.5, -0.003..0.003, -0.003..0.003, -0.003..0.003],
    ) {
        let (model, linkage, outer) = chain(gives, moved);
        let mine = model.uses(&DVector::from_element(1, 1.0));
        let settled = linkage.settle([Isometry3::identity(), outer], 0.0, None).unwrap();
        for (k, (mine, joint)) in mine.iter().zip(&settled.joints).enumerate() {
            let [angle, offset, axial] = gives[k];
            let theirs = joint.share(&Compliance { angle, offset, axial });
            prop_assert!((mine - theirs).abs() < 0.01 + 0.03 * theirs, "{k}: {mine} {theirs}");
        }
    }
}

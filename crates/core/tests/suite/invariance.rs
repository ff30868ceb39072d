//! What a pipe is does not depend on where the vehicle's zero lies, which way the vehicle stands, or from which
//! side it is seen.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::{any_draft, any_point, job_with};
use nook_core::measure::Port;
use nook_core::route::{ResolvedRun, RunDraft, ways};
use nook_core::{Job, RunId, Workup, workup};
use proptest::prelude::*;

/// Turned about the vertical by an angle in radians, then moved.
fn carried(port: &Port, turn: f64, by: [f64; 3]) -> Port {
    let turned = |[x, y, z]: [f64; 3]| [x * turn.cos() - y * turn.sin(), x * turn.sin() + y * turn.cos(), z];
    let at = turned(port.at.to_array());
    Port {
        at: [at[0] + by[0], at[1] + by[1], at[2] + by[2]].try_into().unwrap(),
        out: turned(port.out.to_array()).try_into().unwrap(),
        ..port.clone()
    }
}

/// Seen in a mirror that stands along the vehicle's middle.
fn mirrored(port: &Port) -> Port {
    let flipped = |[x, y, z]: [f64; 3]| [x, -y, z];
    Port {
        at: flipped(port.at.to_array()).try_into().unwrap(),
        out: flipped(port.out.to_array()).try_into().unwrap(),
        ..port.clone()
    }
}

fn both(draft: &RunDraft, other: impl Fn(&Port) -> Port) -> [(Job, RunId); 2] {
    let moved = RunDraft { a: other(&draft.a), b: other(&draft.b), ..draft.clone() };
    [job_with(draft.clone()), job_with(moved)]
}

fn near(one: f64, other: f64, within: f64) -> bool {
    (one - other).abs() <= within
}

fn figures(workup: &Workup) -> Vec<f64> {
    let straights = workup.straights.iter().map(|straight| straight.length.mm());
    let bends = workup.bends.iter().flat_map(|bend| {
        let pies = bend.pies.as_ref().map_or([0.0; 3], |pies| [pies.saw, pies.throat.mm(), pies.back.mm()]);
        [bend.angle].into_iter().chain(pies)
    });
    straights.chain(bends).chain(workup.totals.iter().map(|totals| totals.mass_kg)).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn moving_and_turning_the_vehicle_changes_nothing(draft in any_draft(), by in any_point(3000.0), turn in -3.1..3.1_f64) {
        let [(here, run), (there, _)] = both(&draft, |port| carried(port, turn, by.to_array()));
        for candidate in ways(&ResolvedRun::as_typed(here.run(run).unwrap())).ways {
            let taken = nook_core::Edit::Route(nook_core::RouteEdit::TakeWay { run, way: candidate.way });
            let [one, other] = [&here, &there].map(|job| workup(&nook_core::apply(job, &taken).unwrap().job, run).unwrap());
            // Axes that meet to the last digit here miss each other by rounding after the turn.
            if other.totals.is_none() {
                prop_assert!(candidate.angles.len() < 2, "a way with two bends is lost");
                continue;
            }
            for (p, q) in figures(&one).into_iter().zip(figures(&other)) {
                prop_assert!(near(p, q, 1e-5), "{} {}", p, q);
            }
            // Leaving within a degree of plumb, the first clock counts from forward, which turns with the vehicle.
            let plumb = usize::from(one.ends[0].pitch.abs() > 88.9);
            for (p, q) in one.bends.iter().zip(&other.bends).skip(plumb) {
                let off = (p.rotation - q.rotation).to_radians();
                prop_assert!(off.sin().atan2(off.cos()).abs() < 1e-5, "up stays up: {} {}", p.rotation, q.rotation);
            }
        }
    }

    #[test]
    fn a_mirrored_pipe_turns_the_other_way_and_is_cut_alike(draft in any_draft()) {
        let [(here, run), (there, _)] = both(&draft, mirrored);
        let Some(way) = here.run(run).unwrap().way().cloned() else { return Ok(()) };
        let taken = nook_core::Edit::Route(nook_core::RouteEdit::TakeWay { run, way });
        let [one, other] = [&here, &there].map(|job| workup(&nook_core::apply(job, &taken).unwrap().job, run).unwrap());
        for (p, q) in figures(&one).into_iter().zip(figures(&other)) {
            prop_assert!(near(p, q, 1e-6));
        }
        for (p, q) in one.bends.iter().zip(&other.bends) {
            let sum = (p.rotation + q.rotation).to_radians();
            prop_assert!(sum.sin().atan2(sum.cos()).abs() < 1e-6, "{} is not the mirror of {}", q.rotation, p.rotation);
        }
        let stock = |workup: &Workup| workup.cutting.as_ref().map(|cutting| cutting.stock_used.mm());
        prop_assert_eq!(stock(&one).is_some(), stock(&other).is_some());
        if let (Some(p), Some(q)) = (stock(&one), stock(&other)) {
            prop_assert!(near(p, q, 1e-6));
        }
    }
}

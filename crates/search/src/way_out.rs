//! Whether a section of a pipe comes out, how, and what stops it where it does not.

use std::sync::atomic::AtomicBool;

use nalgebra::Isometry3;
use nook_core::environment::{Scans, Thing};
use nook_core::taken_out::{NotParted, TakenOut, taken_out};
use nook_core::{Job, RunId};
use nook_geometry::clearance::Carried;
use nook_geometry::units::{DualUnitText, Measure};
use nook_geometry::{Triple, Vector};
use serde::Serialize;
use utoipa::ToSchema;

use crate::withdraw::{Motion, NoWayOut, Out, withdraw};

/// Whether a section comes out, and how.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct WayOut {
    /// Which section, from 0 at A.
    pub section: usize,
    /// Where it is in turn on its way out: unit vectors of its axes, which are the vehicle's at first, then where the
    /// vehicle's zero has gone, in mm. Empty where no way out was found.
    #[schema(value_type = Vec<Vec<Triple>>)]
    pub frames: Vec<[[f64; 3]; 4]>,
    /// Other pipes that are taken off first.
    pub first: Vec<Thing>,
    /// What stops it, where something was found to.
    pub by: Option<Thing>,
    /// How much thinner it would have to be to come out; nothing where it does, or where that is more than was tried.
    pub short: Option<Measure>,
    /// All that in words.
    pub words: DualUnitText,
}

/// Ways out of a bay: up past the open bonnet, down with the car on stands, forward with the bumper off.
const WAYS: [([f64; 3], &str); 3] = [([0.0, 0.0, 1.0], "up"), ([0.0, 0.0, -1.0], "down"), ([1.0, 0.0, 0.0], "forward")];
/// Most pipes that are taken off first.
const MOST_FIRST: usize = 2;
/// How much thinner a section is tried that does not come out, in mm.
const THINNER: [f64; 3] = [3.0, 8.0, 20.0];
/// Frames are no further apart than this, in mm and radians.
const FRAME: [f64; 2] = [20.0, 0.09];

/// Looks for a way out of the bay for a section of a run, everything else in its place; `each` is called at every step of it.
///
/// # Errors
/// [`NotParted`] where it cannot be parted from the rest at all.
pub fn way_out(
    job: &Job,
    run: RunId,
    section: usize,
    scans: &Scans,
    stop: &AtomicBool,
    each: &(dyn Fn() + Sync),
) -> Result<WayOut, NotParted> {
    let taken = taken_out(job, run, section, scans)?;
    let body = &taken.body;
    let mut first: Vec<usize> = Vec::new();
    let mut stuck = None;
    // Another pipe that stops it is taken off first, and it is tried again.
    while first.len() <= MOST_FIRST {
        match looked_for(&taken, body, &first, stop, each) {
            Ok(motion) => {
                let named = |index: &usize| taken.names.get(*index);
                let words = out_words(
                    &motion,
                    &first.iter().filter_map(named).map(|(_, name)| name.as_str()).collect::<Vec<_>>(),
                );
                let first = first.iter().filter_map(named).map(|(thing, _)| *thing).collect();
                return Ok(WayOut { section, frames: frames(body, &motion), first, by: None, short: None, words });
            }
            Err(by) => {
                stuck = stuck.or(by);
                match by.filter(|by| matches!(taken.names.get(*by), Some((Thing::Run { .. }, _)))) {
                    Some(by) => first.push(by),
                    None => break,
                }
            }
        }
    }
    let thinner = |by: &f64| looked_for(&taken, &body.thinner(*by), &[], stop, each).is_ok();
    let short = THINNER.into_iter().find(thinner);
    let by = stuck.and_then(|index| taken.names.get(index));
    let words = stuck_words(by.map(|(_, name)| name.as_str()), short);
    let (by, short) = (by.map(|(thing, _)| *thing), short.map(Measure));
    Ok(WayOut { section, frames: Vec::new(), first: Vec::new(), by, short, words })
}

/// Looks for a way out with some things taken off first; what stops it, by its place among what stays, where there is none.
fn looked_for(
    taken: &TakenOut,
    body: &Carried,
    first: &[usize],
    stop: &AtomicBool,
    each: &(dyn Fn() + Sync),
) -> Result<Motion, Option<usize>> {
    let left: Vec<usize> = (0..taken.stays.len()).filter(|index| !first.contains(index)).collect();
    let stays: Vec<_> = left.iter().map(|index| taken.stays[*index].clone()).collect();
    let ways = WAYS.map(|(way, _)| Vector::from(way));
    let out = Out { body, stays: &stays, bounds: taken.bounds, ways: &ways, pull: taken.pull };
    withdraw(&out, stop, each).map_err(|NoWayOut { by }| by.and_then(|by| left.get(by).copied()))
}

fn out_words(motion: &Motion, first: &[&str]) -> DualUnitText {
    let turned: f64 = motion.places.windows(2).map(|pair| pair[0].turn.angle_to(&pair[1].turn)).sum();
    let (moves, way) = (motion.places.len() - 1, WAYS[motion.leaves].1);
    let turns = if turned < 0.02 { String::new() } else { format!(", turned {:.0}\u{b0} in all", turned.to_degrees()) };
    let it = match first {
        [] => "It".to_owned(),
        first => format!("With the {} off first, it", first.join(" and the ")),
    };
    DualUnitText::same(if moves == 1 {
        format!("{it} comes out {way}, straight.")
    } else {
        format!("{it} comes out {way} in {moves} moves{turns}.")
    })
}

fn stuck_words(by: Option<&str>, short: Option<f64>) -> DualUnitText {
    let by = by
        .map_or_else(|| "It does not come free.".to_owned(), |by| format!("No way out was found: the {by} stops it."));
    DualUnitText::new(|unit| match short {
        Some(short) => format!("{by} With {} less all round it would come out.", unit.text(short)),
        None => format!("{by} That does not prove that there is none."),
    })
}

/// A motion in frames near enough to each other to be shown one after the other.
fn frames(body: &Carried, motion: &Motion) -> Vec<[[f64; 3]; 4]> {
    let mut all = Vec::new();
    for pair in motion.places.windows(2) {
        let far = ((pair[1].at - pair[0].at).norm() / FRAME[0]).max(pair[0].turn.angle_to(&pair[1].turn) / FRAME[1]);
        let steps = far.ceil().max(1.0);
        let mut step = 0.0;
        while step < steps {
            all.push(frame(&body.pose(&pair[0].towards(&pair[1], step / steps))));
            step += 1.0;
        }
    }
    all.extend(motion.places.last().map(|last| frame(&body.pose(last))));
    all
}

fn frame(pose: &Isometry3<f64>) -> [[f64; 3]; 4] {
    let turn = pose.rotation.to_rotation_matrix().into_inner();
    let axis = |i: usize| turn.column(i).into_owned().into();
    [axis(0), axis(1), axis(2), pose.translation.vector.into()]
}

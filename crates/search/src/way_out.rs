//! Whether a section of a pipe comes out, how, and what stops it where it does not.

use std::cell::Cell;
use std::sync::atomic::AtomicBool;

use nalgebra::Isometry3;
use nook_core::environment::Scans;
use nook_core::taken_out::{BayPart, NotParted, Remaining, TakenOut, taken_out};
use nook_core::{Job, RunId};
use nook_geometry::clearance::Carried;
use nook_geometry::units::{DualUnitText, Measure};
use nook_geometry::{Triple, Vector};
use serde::Serialize;
use utoipa::ToSchema;

use crate::withdraw::{AIR, ASKS, Motion, NoWayOut, Out, followed, withdraw};

/// Whether a section comes out, and how.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct WayOut {
    /// Which section, from 0 at A.
    pub section: usize,
    /// Where it is in turn on its way out: unit vectors of its axes, which are the vehicle's at first, then where the
    /// vehicle's zero has gone, in mm. Empty where no way out was found.
    #[schema(value_type = Vec<Vec<Triple>>)]
    pub frames: Vec<[[f64; 3]; 4]>,
    /// What is taken off first.
    pub first: Vec<BayPart>,
    /// What stops it, where something was found to.
    pub by: Option<BayPart>,
    /// How much thinner it would have to be to come out; nothing where it does, or where that is more than was tried.
    pub short: Option<Measure>,
    /// All that in words.
    pub words: DualUnitText,
    /// The way, to be tried first when the bay has changed.
    #[serde(skip)]
    pub motion: Option<Motion>,
}

/// Ways out of a bay: up past the open bonnet, down with the car on stands, forward with the bumper off.
const WAYS: [([f64; 3], &str); 3] = [([0.0, 0.0, 1.0], "up"), ([0.0, 0.0, -1.0], "down"), ([1.0, 0.0, 0.0], "forward")];
/// How much thinner a section is tried that does not come out, in mm.
const THINNER: [f64; 3] = [3.0, 8.0, 20.0];
/// First, and for a thinner one, it is looked for with so many times fewer asks.
const LITTLE: u32 = 4;
/// Asks of a whole search: as it is and with things off, a little and in full, then thinner.
const ALL_ASKS: u32 = 3 * ASKS + 8 * ASKS / LITTLE;
/// Frames are no further apart than this, in mm and radians.
const FRAME: [f64; 2] = [20.0, 0.09];

/// Looks for a way out of the bay for a section of a run, everything else in its place: first as it came out `before`. `tell`
/// hears how far it is, 0 to 1.
///
/// # Errors
/// [`NotParted`] where it cannot be parted from the rest at all.
pub fn way_out(
    job: &Job,
    run: RunId,
    section: usize,
    scans: &Scans,
    before: Option<&WayOut>,
    stop: &AtomicBool,
    tell: &(dyn Fn(f64) + Sync),
) -> Result<WayOut, NotParted> {
    let out_of = |off: &[BayPart]| taken_out(job, run, section, scans, off);
    let taken = out_of(&[])?;
    let found = |taken: &TakenOut, motion: Motion, first: &[Remaining]| WayOut {
        section,
        frames: frames(&taken.body, &motion),
        words: out_words(&motion, first),
        first: first.iter().map(|one| one.part).collect(),
        by: None,
        short: None,
        motion: Some(motion),
    };
    if let Some((before, motion)) = before.and_then(|before| Some((before, before.motion.as_ref()?))) {
        let named = taken.remaining.iter().filter(|one| before.first.contains(&one.part) && one.comes_off);
        let named: Vec<Remaining> = named.cloned().collect();
        for first in [&[], named.as_slice()] {
            let taken = out_of(&parts(first))?;
            if let Some(motion) = out(&taken, &taken.body, 0, |out| followed(out, motion)) {
                return Ok(found(&taken, motion, first));
            }
        }
    }
    let little = ASKS / LITTLE;
    let tries = Cell::new(0.0);
    let look = |taken: &TakenOut, body: &Carried, asks: u32| {
        let share = tries.get();
        tries.set(share + f64::from(asks) / f64::from(ALL_ASKS));
        let tell = |of: f64| tell((share + of * f64::from(asks) / f64::from(ALL_ASKS)).min(1.0));
        out(taken, body, asks, |out| withdraw(out, stop, &tell))
    };
    let alone = |asks: u32| look(&taken, &taken.body, asks);
    // With everything off that comes off; then only what is in that way has to.
    let bare = out_of(&parts(&all_that_comes_off(&taken)))?;
    let with_first = |asks: u32| -> Result<Option<WayOut>, NotParted> {
        if bare.stays.len() == taken.stays.len() {
            return Ok(None);
        }
        let Ok(motion) = look(&bare, &bare.body, asks) else { return Ok(None) };
        let in_the_way = in_the_way(&taken, &motion);
        // Of several, one may do.
        for one in in_the_way.iter().filter(|_| in_the_way.len() > 1).map(std::slice::from_ref) {
            let there = out_of(&parts(one))?;
            if let Ok(motion) = look(&there, &there.body, little) {
                return Ok(Some(found(&there, motion, one)));
            }
        }
        for first in [in_the_way, all_that_comes_off(&taken)] {
            let there = out_of(&parts(&first))?;
            if let Some(motion) = out(&there, &there.body, 0, |out| followed(out, &motion)) {
                return Ok(Some(found(&there, motion, &first)));
            }
        }
        Ok(None)
    };
    if let Ok(motion) = alone(little) {
        return Ok(found(&taken, motion, &[]));
    }
    let second = match with_first(little)? {
        None => with_first(ASKS)?,
        found => found,
    };
    // The less has to come off the better: it is looked for once more as it is before that is said.
    let by = match alone(if second.is_some() { ASKS / 2 } else { ASKS }) {
        Ok(motion) => return Ok(found(&taken, motion, &[])),
        Err(NoWayOut { by }) => by,
    };
    if let Some(found) = second {
        return Ok(found);
    }
    let stuck = by.first().and_then(|index| taken.remaining.get(*index));
    let short = THINNER.into_iter().find(|by| look(&taken, &taken.body.thinner(*by), little).is_ok());
    let words = stuck_words(stuck, short);
    let (by, short) = (stuck.map(|one| one.part), short.map(Measure));
    Ok(WayOut { section, frames: Vec::new(), first: Vec::new(), by, short, words, motion: None })
}

/// Everything that may be taken off, each once.
fn all_that_comes_off(taken: &TakenOut) -> Vec<Remaining> {
    taken.remaining.iter().filter(|one| one.comes_off).cloned().collect()
}

/// What may be taken off and is in the way of a motion.
fn in_the_way(taken: &TakenOut, motion: &Motion) -> Vec<Remaining> {
    let meets = |index: &usize| {
        let thing = &taken.stays[*index..=*index];
        motion.places.windows(2).any(|pair| taken.body.advance(&pair[0], &pair[1], thing, AIR).stopped.is_some())
    };
    let all = (0..taken.stays.len()).filter(|index| taken.remaining[*index].comes_off);
    all.filter(meets).map(|index| taken.remaining[index].clone()).collect()
}

/// The parts of things.
pub(crate) fn parts(things: &[Remaining]) -> Vec<BayPart> {
    things.iter().map(|one| one.part).collect()
}

/// What a body is carried out of, for whoever looks.
pub(crate) fn out<T>(taken: &TakenOut, body: &Carried, asks: u32, look: impl FnOnce(&Out<'_>) -> T) -> T {
    let ways = WAYS.map(|(way, _)| Vector::from(way));
    look(&Out { body, stays: &taken.stays, bounds: taken.bounds, ways: &ways, pull: taken.pull, asks })
}

/// A thing in the middle of a sentence.
pub(crate) fn said(one: &Remaining) -> String {
    match one.part {
        BayPart::Section { .. } => one.name.clone(),
        BayPart::KeepOut { .. } | BayPart::Run { .. } => format!("the {}", one.name),
    }
}

/// How a section comes out, as the end of a sentence.
pub(crate) fn how(motion: &Motion) -> String {
    let turned: f64 = motion.places.windows(2).map(|pair| pair[0].turn.angle_to(&pair[1].turn)).sum();
    let (moves, way) = (motion.places.len() - 1, WAYS[motion.leaves].1);
    let turns = if turned < 0.02 { String::new() } else { format!(", turned {:.0}\u{b0} in all", turned.to_degrees()) };
    if moves == 1 { format!("{way}, straight") } else { format!("{way} in {moves} moves{turns}") }
}

/// How a section comes out, in words, with what is taken off first.
fn out_words(motion: &Motion, first: &[Remaining]) -> DualUnitText {
    let it = match first {
        [] => "It".to_owned(),
        [most @ .., last] => {
            let most = most.iter().map(said).collect::<Vec<_>>().join(", ");
            let and = if most.is_empty() { "" } else { " and " };
            format!("With {most}{and}{} off first, it", said(last))
        }
    };
    DualUnitText::same(format!("{it} comes out {}.", how(motion)))
}

fn stuck_words(by: Option<&Remaining>, short: Option<f64>) -> DualUnitText {
    let by = by.map_or_else(
        || "It does not come free.".to_owned(),
        |by| format!("No way out was found: {} stops it.", said(by)),
    );
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

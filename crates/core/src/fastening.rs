//! Where the supports of a pipe meet what they are fixed to: which way they leave the pipe, how high they stand, and where
//! their holes come.

use nalgebra::Point3;

use crate::assembly::{Assembly, SeatedSupport};
use crate::environment::{Environment, Thing};
use crate::join::{SupportKind, stand_off};
use crate::route::{ResolvedRun, SupportId};
use nook_geometry::Vector;
use nook_geometry::clearance::{Counted, EnvelopePart, Obstacle, Rides, Span, nearest};

/// How a support is fixed, the engine at rest.
#[derive(Debug, Clone, PartialEq)]
pub struct Fastening {
    /// Which support.
    pub support: SupportId,
    /// The clock it leaves the pipe at, in degrees from up; nothing for a grommet, which goes all round.
    pub clock: Option<f64>,
    /// Its feet.
    pub feet: Vec<Foot>,
    /// How high in mm its feet are to be at least.
    pub least: f64,
}

/// One foot of a support.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Foot {
    /// Where it leaves the tube's skin, in mm.
    pub from: Point3<f64>,
    /// The middle of its hole, in mm.
    pub hole: Point3<f64>,
    /// How far that is from the tube's skin, in mm.
    pub height: f64,
    /// What it stands on; `None` where nothing that it could is in its way.
    pub on: Option<Thing>,
}

/// Farther in mm from the skin than this nothing is a stand-off any more.
pub const FARTHEST: f64 = 120.0;
/// A surface is met once it is this near, in mm.
const MET: f64 = 0.01;
/// Steps towards it at most; near a flat thing a few are enough.
const STEPS: u32 = 64;

/// How each support of a pipe is fixed, in their order.
#[must_use]
pub fn fastened(run: &ResolvedRun, pipe: &Assembly, around: &Environment) -> Vec<Fastening> {
    pipe.supports.iter().map(|support| fastening(run, support, around)).collect()
}

/// Lets what of a pipe's supports is round its tube touch what they are bolted to, and nothing else.
pub(crate) fn bolt(
    counted: &mut Counted<'_>,
    run: &ResolvedRun,
    pipe: &Assembly,
    fastened: &[Fastening],
    around: &Environment,
) {
    for (support, fastened) in pipe.supports.iter().zip(fastened) {
        let mut on: Vec<Thing> = fastened.feet.iter().filter_map(|foot| foot.on).collect();
        on.dedup();
        let places = on.iter().filter_map(|thing| around.identities.iter().position(|one| one.thing == *thing));
        for index in places {
            counted.bolt(index, support.reach(), run.tube.od() / 2.0 + support.kind.stands_out());
        }
    }
}

fn fastening(run: &ResolvedRun, support: &SeatedSupport, around: &Environment) -> Fastening {
    let least = stand_off(support.wrapped);
    let named = |clock, feet| Fastening { support: support.id, clock, feet, least };
    if support.kind == SupportKind::Grommet {
        return named(None, Vec::new());
    }
    let skin = run.tube.od() / 2.0;
    let holders: Vec<(&Obstacle, Thing)> = around.holders(support.to.into()).collect();
    let clock = support.clock.or_else(|| towards(support, skin, &holders)).unwrap_or(180.0);
    let feet = support.kind.feet().iter().map(|beside| {
        let way = support.travel.at_clock((clock + beside).to_radians()).into_inner();
        foot(support, way, skin, &holders, least)
    });
    named(Some(clock.rem_euclid(360.0)), feet.collect())
}

/// The clock of the nearest surface that the support could stand on, in degrees from up.
fn towards(support: &SeatedSupport, skin: f64, holders: &[(&Obstacle, Thing)]) -> Option<f64> {
    let at = dot(support.place());
    let mut best: Option<(f64, Vector)> = None;
    for (thing, _) in holders {
        let ceiling = best.map_or(FARTHEST + skin, |best| best.0);
        if let Some(near) = nearest([&at], thing, None, ceiling) {
            best = Some((near.gap, -near.away));
        }
    }
    let (_, way) = best?;
    let along = support.travel.along.vector();
    let square = (way - along * way.dot(&along)).try_normalize(1e-6)?;
    let [up, side] = [0.0, 90.0_f64].map(|clock| support.travel.at_clock(clock.to_radians()).into_inner());
    Some(square.dot(&side).atan2(square.dot(&up)).to_degrees())
}

fn foot(support: &SeatedSupport, way: Vector, skin: f64, holders: &[(&Obstacle, Thing)], least: f64) -> Foot {
    let from = support.place() + way * skin;
    let met = holders.iter().filter_map(|(thing, name)| Some((met(support.place(), way, skin, thing)?, *name)));
    let met = met.min_by(|p, q| p.0.total_cmp(&q.0));
    let height = support.stand_off.or(met.map(|met| met.0)).unwrap_or(least);
    // A stand-off that was measured may end on something that is not drawn.
    let on = met.filter(|met| (met.0 - height).abs() < DRAWN).map(|met| met.1);
    Foot { from, hole: from + way * height, height, on }
}

/// As far as what is drawn may be from a stand-off that was measured, in mm.
const DRAWN: f64 = 5.0;

/// How far from the skin a straight line out of the pipe's middle meets a thing, if it does before [`FARTHEST`]; below 0 where
/// the tube is in it. Each step goes as far as nothing is nearer.
fn met(middle: Point3<f64>, way: Vector, skin: f64, thing: &Obstacle) -> Option<f64> {
    let mut out = 0.0;
    for _ in 0..STEPS {
        let near = nearest([&dot(middle + way * out)], thing, None, FARTHEST + skin - out)?;
        if near.gap < MET {
            return Some(out - skin);
        }
        out += near.gap;
        if out > FARTHEST + skin {
            return None;
        }
    }
    None
}

/// A place as something to measure from.
fn dot(at: Point3<f64>) -> EnvelopePart {
    let span = Span::between(at, at + Vector::z() * 1e-4);
    EnvelopePart { span, radius: 0.0, rides: Rides::Body, stations: [0.0; 2], square: [false; 2] }
}

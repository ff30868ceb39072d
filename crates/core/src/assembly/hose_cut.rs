//! What the hose of a run is cut to.

use std::f64::consts::FRAC_PI_2;

use super::Assembly;
use crate::cut::{CutOnCurve, HosePiece, hose_pieces};
use crate::join::usual_seat;
use crate::measure::{End, Mounts, Side};
use crate::route::ResolvedRun;
use crate::stock::{HoseBuild, SLACK};

/// The length a hose is cut to, and what it comes from, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HoseLength {
    /// Its way, from where it is cut at one end to where it is cut at the other.
    pub way: f64,
    /// What it is cut longer for what it shrinks and swells under pressure.
    pub slack: f64,
    /// What the engine pulls its ends apart, at most.
    pub pulled: f64,
}

impl HoseLength {
    /// All of it.
    #[must_use]
    pub fn cut(&self) -> f64 {
        self.way + self.slack + self.pulled
    }
}

impl Assembly {
    /// What a hose in one length along this way is cut to.
    #[must_use]
    pub fn hose_length(&self, run: &ResolvedRun) -> HoseLength {
        let seats: f64 = self.seats(run).iter().sum();
        let way = self.whole.length() + seats;
        HoseLength { way, slack: way * SLACK, pulled: pulled_apart(run) }
    }

    /// The moulded pieces along this way, from A.
    ///
    /// # Errors
    /// [`CutOnCurve`] where a straight is too short for the legs on it.
    pub fn hose_pieces(&self, run: &ResolvedRun) -> Result<Vec<HosePiece>, CutOnCurve> {
        hose_pieces(&self.whole, self.seats(run), insert_half(run))
    }

    /// Stations from A's mouth, in mm, at which two moulded pieces of it meet, each with the leg it is on; none where a piece cannot
    /// be cut.
    #[must_use]
    pub fn hose_meetings(&self, run: &ResolvedRun) -> Vec<(usize, f64)> {
        if !matches!(run.hose, Some(HoseBuild::Moulded { .. })) {
            return Vec::new();
        }
        let pieces = self.hose_pieces(run).unwrap_or_default();
        let mut station = -self.seats(run)[0];
        let ends = pieces.iter().map(|piece| {
            let (leg, long) = match *piece {
                HosePiece::Straight { leg, length } => (leg, length),
                HosePiece::Elbow { bend, legs } => {
                    let arc = self.whole.legs().get(bend).map_or(0.0, |step| step.bend.length());
                    (bend + 1, legs[0] + arc + legs[1])
                }
            };
            station += long;
            (leg, station)
        });
        let mut ends: Vec<(usize, f64)> = ends.collect();
        ends.pop();
        ends
    }

    /// How far it sits on each mouth, in mm.
    fn seats(&self, run: &ResolvedRun) -> [f64; 2] {
        let seat = |end: End| run.needs(end).seats;
        [seat(End::A)[0], seat(End::B)[1]]
    }
}

/// How far a piece of hose sits on an insert, in mm: half of that.
#[must_use]
pub fn insert_half(run: &ResolvedRun) -> f64 {
    usual_seat(run.duty, run.tube.bore())
}

/// How much further apart, in mm, the engine takes the two ends of a hose than they are at rest, at most: over its roll exactly,
/// and by its whole shift.
fn pulled_apart(run: &ResolvedRun) -> f64 {
    let Some(movement) = run.mounts().and_then(Mounts::movement) else { return 0.0 };
    let [a, b] = [End::A, End::B].map(|end| (run.port(end).rides, run.outlet(end).at.inner()));
    let (moved, still) = match (a.0, b.0) {
        (Side::Engine, Side::Body) => (a.1, b.1),
        (Side::Body, Side::Engine) => (b.1, a.1),
        _ => return 0.0,
    };
    let roll = movement.roll;
    // About its axis a point's distance to another goes as a sine of the turn: most at an end, or where the two are farthest.
    let axis = roll.axis.into_inner();
    let across = |v: nook_geometry::Vector| v - axis * axis.dot(&v);
    let (p, q) = (across(moved - roll.pivot), across(still - roll.pivot));
    let towards = axis.dot(&p.cross(&q)).atan2(p.dot(&q));
    let farthest = [towards + 2.0 * FRAC_PI_2, towards - 2.0 * FRAC_PI_2].into_iter();
    let inside = farthest.filter(|turn| (roll.from..=roll.to).contains(turn));
    let apart = |turn: f64| (roll.at(turn) * moved - still).norm();
    let most = [roll.from, roll.to, 0.0].into_iter().chain(inside).map(apart).fold(0.0, f64::max);
    most - (moved - still).norm() + movement.shift
}

//! How much of the legs of bought elbows is used, and where they are welded.

use super::Assembly;
use crate::route::{ElbowEnd, ElbowMake, ResolvedMake};

/// A piece of tube between two elbows, or an elbow and what is beside it, is no shorter than this in tube diameters: a shorter one
/// is hard to hold, to square and to weld on both sides.
const LEAST_TUBE: f64 = 0.5;
/// From a weld to a seat, in mm: its bead stays clear of hose and ferrule. Ours.
const CLEAR_OF_SEAT: f64 = 5.0;

/// What a weld on a straight is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WeldOf {
    /// The elbow that a bend is made of, by the bend's place.
    Elbow(usize),
    /// Tube that is spliced.
    Splice,
}

impl Assembly {
    /// Settles how much of the legs of its elbows is used: as much as there is, so that little is sawn and welded, but no weld in a
    /// seat, and no scrap of tube in between.
    pub(super) fn seat_elbows(&mut self, od: f64) {
        let least = LEAST_TUBE * od;
        for (leg, [start, end]) in self.straight_stations().into_iter().enumerate() {
            // Where a joint parts the straight, each side is by itself.
            let mut joints: Vec<_> = self.joints.iter().filter(|joint| joint.is_on(leg)).collect();
            joints.sort_by(|p, q| p.middle.total_cmp(&q.middle));
            let after = joints.first().map(|joint| [joint.gap()[0] - start, joint.gap()[0] - joint.reach()[0]]);
            let before = joints.last().map(|joint| [end - joint.gap()[1], joint.reach()[1] - joint.gap()[1]]);
            let [mut one, mut other] = [leg.checked_sub(1).and_then(|bend| self.elbow(bend)), self.elbow(leg)];
            match after.zip(before) {
                Some((after, before)) => {
                    for (elbow, side, [length, seat]) in [(&mut one, 1, after), (&mut other, 0, before)] {
                        if let Some(elbow) = elbow {
                            let most = length - least.max(seat + CLEAR_OF_SEAT);
                            elbow.settle(side, length, most);
                        }
                    }
                }
                None => match (&mut one, &mut other) {
                    (Some(one), Some(other)) => between(one, other, end - start, least),
                    (Some(one), None) => one.shorten(1, end - start - least),
                    (None, Some(other)) => other.shorten(0, end - start - least),
                    (None, None) => {}
                },
            }
            if let (Some(elbow), Some(bend)) = (one, leg.checked_sub(1)) {
                self.makes[bend] = ResolvedMake::Elbow(elbow);
            }
            if let Some(elbow) = other {
                self.makes[leg] = ResolvedMake::Elbow(elbow);
            }
        }
    }

    /// The elbow a bend is made of; `None` where it is made otherwise.
    #[must_use]
    pub fn elbow(&self, bend: usize) -> Option<ElbowMake> {
        match self.makes.get(bend)? {
            ResolvedMake::Elbow(elbow) => Some(*elbow),
            ResolvedMake::Pies { .. } | ResolvedMake::KitPies { .. } | ResolvedMake::Drawn | ResolvedMake::Moulded => {
                None
            }
        }
    }

    /// Stations in mm from A's mouth of the welds at the ends of a bend's elbow, from A; none of another bend.
    #[must_use]
    pub fn elbow_welds(&self, bend: usize) -> Vec<f64> {
        let Some(elbow) = self.elbow(bend) else { return Vec::new() };
        let straights = self.straight_stations();
        let (tangents, [into, out]) = ([straights[bend][1], straights[bend + 1][0]], elbow.legs);
        let first = (elbow.ends[0] != ElbowEnd::Free).then_some(tangents[0] - into);
        let last = (elbow.ends[1] == ElbowEnd::Tube).then_some(tangents[1] + out);
        first.into_iter().chain(last).collect()
    }

    /// Stations in mm from A's mouth of the welds that lie on a leg beside those of pies: of elbows, and splices.
    pub fn welds_on(&self, leg: usize) -> impl Iterator<Item = (WeldOf, f64)> {
        let [start, end] = self.straight_stations()[leg];
        let bends = [leg.checked_sub(1), (leg < self.makes.len()).then_some(leg)];
        let of = |bend| self.elbow_welds(bend).into_iter().map(move |at| (WeldOf::Elbow(bend), at));
        let elbows = bends.into_iter().flatten().flat_map(of);
        let elbows = elbows.filter(move |(_, at)| (start - 1e-9..=end + 1e-9).contains(at));
        let splices = self.splices.iter().filter(move |splice| splice.leg == leg);
        elbows.chain(splices.map(|splice| (WeldOf::Splice, splice.station))).collect::<Vec<_>>().into_iter()
    }
}

impl ElbowMake {
    /// Where the straight beside it ends at a joint `length` mm on: all of that where the leg is as long, else no more than `most`.
    fn settle(&mut self, side: usize, length: f64, most: f64) {
        if self.legs[side] >= length {
            self.legs[side] = length.max(0.0);
            self.ends[side] = ElbowEnd::Free;
        } else {
            self.shorten(side, most);
        }
    }

    fn shorten(&mut self, side: usize, most: f64) {
        self.legs[side] = self.legs[side].min(most).max(0.0);
    }
}

/// Two elbows with a straight of `length` mm between them.
fn between(one: &mut ElbowMake, other: &mut ElbowMake, length: f64, least: f64) {
    let rest = length - one.legs[1] - other.legs[0];
    if rest <= 0.0 {
        // They are welded to each other: the second gives what is too much.
        one.legs[1] = one.legs[1].min(length).max(0.0);
        other.legs[0] = (length - one.legs[1]).max(0.0);
        (one.ends[1], other.ends[0]) = (ElbowEnd::Elbow, ElbowEnd::Elbow);
    } else if rest < least {
        // Both give what the tube between them lacks, and where one has no leg the other all of it.
        let lack = least - rest;
        let of_one = (lack / 2.0).max(lack - other.legs[0]).min(one.legs[1]);
        one.shorten(1, one.legs[1] - of_one);
        other.shorten(0, other.legs[0] - (lack - of_one));
    }
}

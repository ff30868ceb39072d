//! Where tube that is longer than any stick is welded together of several.

use super::Assembly;
use crate::cut::{Piece, PieceKind};
use crate::join::CLEAR_OF_SEAMS;
use crate::route::ResolvedRun;
use nook_geometry::units::LongestStick;

/// A weld on a straight where one stick of tube ends and the next begins.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Splice {
    /// On which leg, 0 being the one from A.
    pub leg: usize,
    /// Station from A's mouth, in mm.
    pub station: f64,
}

/// A piece longer than any stick that there is no place for a splice in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unspliced {
    /// On which leg it begins.
    pub leg: usize,
    /// Length of stick it takes, in mm.
    pub takes: f64,
    /// How long the longest stick is, in mm.
    pub longest: f64,
}

/// What squaring its two ends takes of a stick, in mm. Ours.
const SQUARING: f64 = 5.0;
/// Neither part of a spliced piece is shorter than this in tube diameters, so that it can be held and squared. Ours.
const LEAST_PART: f64 = 1.0;

impl Assembly {
    /// Parts each piece that is longer than any stick by welds on its straights, clear of bends, of what joins, is let in and holds the
    /// pipe: each stick is used as far as it goes. Of hose there is none: it is sold by the metre.
    pub(super) fn seat_splices(&mut self, run: &ResolvedRun) {
        let Some(longest) = run.longest.map(LongestStick::get).filter(|_| run.hose.is_none()) else { return };
        let (od, gives) = (run.tube.od(), longest - SQUARING);
        let pieces = self.pieces();
        // Clear of supports as of all else.
        let taken: Vec<[f64; 2]> = self.supports.iter().map(super::SeatedSupport::reach).collect();
        let mut open: Vec<[f64; 2]> = self.places_clear(0.0, None);
        for [from, to] in taken.iter().map(|[from, to]| [from - CLEAR_OF_SEAMS, to + CLEAR_OF_SEAMS]) {
            let parts = open.into_iter().flat_map(|[low, high]| [[low, high.min(from)], [low.max(to), high]]);
            open = parts.filter(|[low, high]| low <= high).collect();
        }
        let straights = self.straight_stations();
        for piece in &pieces {
            let PieceKind::Tube { leg, drawn, .. } = piece.kind else { continue };
            let ([mut from, to], _) = self.place_of(piece);
            // Mitred ends run past the tangent points.
            let beyond = stick_for(piece, od) - (to - from);
            while to - from + beyond > gives {
                let most = (from + gives - beyond).min(to - LEAST_PART * od);
                let least = from + LEAST_PART * od;
                let places = open.iter().filter(|[low, high]| least <= most && *low <= most && *high >= least);
                let Some(station) = places.map(|[_, high]| high.min(most)).max_by(f64::total_cmp) else {
                    let takes = to - from + beyond;
                    self.unspliced.push(Unspliced { leg, takes, longest });
                    break;
                };
                let on = |leg: &usize| straights.get(*leg).is_some_and(|[low, high]| (*low..=*high).contains(&station));
                let leg = (leg..=leg + drawn).find(on).unwrap_or(leg);
                self.splices.push(Splice { leg, station });
                from = station;
            }
        }
        self.splices.sort_by(|p, q| p.station.total_cmp(&q.station));
    }
}

/// Length of stick a piece takes, in mm: along its longest line.
fn stick_for(piece: &Piece, od: f64) -> f64 {
    piece.extremes(od)[1]
}

//! Offers in order, no two the same to a builder.

use nalgebra::Point3;

use super::figures::Weights;
use super::offer::{Best, Offer};

/// Most ways that are offered.
const MOST_OFFERS: usize = 14;
/// Most offers of as many bends made the same way: others are the same to a builder.
const MOST_OF_A_KIND: usize = 2;
/// Most that do not fit and are shown with why.
pub(super) const MOST_SHORT: usize = 3;
/// Air in mm beyond what is asked that is not told apart: two fingers.
pub(super) const MOST_AIR: f64 = 30.0;
/// Ways that lie nearer than this all along, in mm, pass the same things on the same sides; places are told 5 mm apart.
const BESIDE: f64 = 15.3;
/// Vertices nearer than this in mm are one place to a builder.
pub(super) const SAME_PLACE: f64 = 35.0;

/// The best of what fits.
pub(super) fn best_of(offers: Vec<Offer>) -> Option<Offer> {
    ranked(offers).0.into_iter().next().filter(Offer::fits)
}

/// Offers that fit, the best first, none like another, or where none does those that fit but for the mouths; and those
/// that do not, the nearest to fitting first.
pub(super) fn ranked(all: Vec<Offer>) -> (Vec<Offer>, Vec<Offer>) {
    let (mut fit, mut short): (Vec<Offer>, Vec<Offer>) = all.into_iter().partition(Offer::fits);
    if fit.is_empty() {
        (fit, short) = short.into_iter().partition(Offer::fits_but_for_the_mouths);
    }
    let missing = |offer: &Offer| offer.short.iter().map(|short| short.limit.mm() - short.gap.mm()).sum::<f64>();
    short.sort_by(|p, q| missing(p).total_cmp(&missing(q)));
    let weights = Weights::default();
    let order = weights.order(&fit.iter().map(|offer| &offer.figures).collect::<Vec<_>>());
    let sorted: Vec<Offer> = order.into_iter().map(|index| fit[index].clone()).collect();
    let mut offers = unlike(without_padding(sorted), MOST_OFFERS);
    let mut short = unlike(short, MOST_SHORT);
    let best = Best::of(offers.iter().map(|offer| &offer.figures));
    for offer in offers.iter_mut().chain(&mut short) {
        offer.explain(&best, MOST_AIR);
    }
    (offers, short)
}

/// Offers without those that lie all along beside a better one and have no figure that is better: a builder has nothing to
/// choose there.
fn without_padding(sorted: Vec<Offer>) -> Vec<Offer> {
    let mut kept: Vec<Offer> = Vec::new();
    for offer in sorted {
        let padding = |better: &Offer| {
            better.turn == offer.turn && offer.figures.nowhere_better(&better.figures) && beside(better, &offer)
        };
        if !kept.iter().any(padding) {
            kept.push(offer);
        }
    }
    kept
}

/// Whether the centre lines of two offers lie within [`BESIDE`] mm of each other all along.
fn beside(one: &Offer, other: &Offer) -> bool {
    let near = |line: &[Point3<f64>], at: &Point3<f64>| line.iter().any(|p| (p - at).norm_squared() < BESIDE * BESIDE);
    one.line.iter().all(|at| near(&other.line, at)) && other.line.iter().all(|at| near(&one.line, at))
}

/// Offers no two of which are one to a builder: as many bends in the same places, made the same way.
fn unlike(all: Vec<Offer>, most: usize) -> Vec<Offer> {
    let mut kept: Vec<Offer> = Vec::new();
    for offer in all {
        let same = |other: &Offer| {
            let apart = |(p, q): (&[f64; 3], &[f64; 3])| (p[0] - q[0]).hypot(p[1] - q[1]).hypot(p[2] - q[2]);
            let elbows = |offer: &Offer| offer.figures.whole_elbows == offer.figures.bends;
            other.corners.len() == offer.corners.len()
                && other.turn == offer.turn
                && elbows(other) == elbows(&offer)
                && (other.figures.true_lines > 0.75) == (offer.figures.true_lines > 0.75)
                && other.corners.iter().zip(&offer.corners).all(|pair| apart(pair) < SAME_PLACE)
        };
        let kind = |one: &Offer| (one.figures.bends, one.turn.clone(), one.name.clone());
        let alike = kept.iter().filter(|other| kind(other) == kind(&offer)).count();
        if !kept.iter().any(same) && alike < MOST_OF_A_KIND {
            kept.push(offer);
            if kept.len() == most {
                break;
            }
        }
    }
    kept
}

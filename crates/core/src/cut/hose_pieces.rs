//! What a hose is cut to: one length between its cut-off points, or moulded elbows and straights over inserts. Source:
//! handbook, "Joints, fittings, hoses and supports", Hoses with threaded ends, Hose built from moulded pieces.

use crate::stock::{LEAST_LEG, LEG};
use nook_geometry::Path;

/// A piece of a hose built from moulded ones.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum HosePiece {
    /// A moulded elbow.
    Elbow {
        /// For which bend, from 0 at A.
        bend: usize,
        /// What its legs are cut to, before and after its bend, in mm.
        legs: [f64; 2],
    },
    /// A straight.
    Straight {
        /// On which leg of the way, from 0 at A.
        leg: usize,
        /// In mm.
        length: f64,
    },
}

/// A straight too short to cut two elbows, or an elbow and a mouth, on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CutOnCurve {
    /// Which leg of the way, from 0 at A.
    pub leg: usize,
    /// Straight hose there is on it, in mm, with what sits on a mouth.
    pub have: f64,
    /// What is needed.
    pub need: f64,
}

/// The pieces along `whole`, from mouth to mouth, of a hose that sits on the mouths by `seats` mm and on half an insert by `half`
/// mm, from A. An elbow is left as long as it comes where that spares a cut.
///
/// # Errors
/// [`CutOnCurve`] for the first straight too short for the legs on it.
pub fn hose_pieces(whole: &Path, seats: [f64; 2], half: f64) -> Result<Vec<HosePiece>, CutOnCurve> {
    let bends = whole.legs().len();
    // Wide hose sits further on its inserts, and its elbows come with legs that leave room for a straight between.
    let longest = LEG.max(LEAST_LEG + 2.0 * half);
    let mut cut = vec![[0.0; 2]; bends];
    let mut straights = vec![0.0; bends + 1];
    for (leg, length) in whole.straights().enumerate() {
        let over = |at: bool, seat: f64| if at { seat } else { 0.0 };
        let have = length + over(leg == 0, seats[0]) + over(leg == bends, seats[1]);
        let elbows = [leg > 0, leg < bends];
        let count = elbows.iter().fold(0.0, |count, at| if *at { count + 1.0 } else { count });
        if count == 0.0 {
            straights[leg] = have;
            continue;
        }
        let need = count * LEAST_LEG;
        if have < need - 1e-9 {
            return Err(CutOnCurve { leg, have, need });
        }
        // A straight between sits on an insert, or a mouth, at each end.
        let between = if have > count * longest { (have - count * longest).max(2.0 * half) } else { 0.0 };
        straights[leg] = between;
        let legs = have - between;
        let first = if count < 2.0 { legs } else { longest.min(legs - LEAST_LEG) };
        if elbows[0] {
            cut[leg - 1][1] = first;
        }
        if elbows[1] {
            cut[leg][0] = legs - if elbows[0] { first } else { 0.0 };
        }
    }
    let mut all = Vec::new();
    for (leg, length) in straights.into_iter().enumerate() {
        if length > 0.0 {
            all.push(HosePiece::Straight { leg, length });
        }
        if let Some(legs) = cut.get(leg) {
            all.push(HosePiece::Elbow { bend: leg, legs: *legs });
        }
    }
    Ok(all)
}

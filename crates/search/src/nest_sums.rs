//! The lengths of a nest in whole steps, so that sums of them are exact.

use crate::nest::{NestError, NestGiven};

/// Most pieces nested at once.
pub const MOST_PIECES: usize = 120;
/// The shortest sticks of the shelf beyond these are passed over, and nothing is said to be proven.
const MOST_SHELF: usize = 120;
/// Lengths are told to this, in mm: a piece is rounded up, a stick down.
const STEP: f64 = 1e-4;
/// Longest stick in mm.
const LONGEST: f64 = 20_000.0;

/// A length in steps.
pub(super) type Steps = i64;

#[expect(clippy::cast_possible_truncation, reason = "a stick is shorter than 20 m")]
fn up(mm: f64) -> Steps {
    (mm / STEP - 1e-3).ceil() as Steps
}

#[expect(clippy::cast_possible_truncation, reason = "as above")]
fn down(mm: f64) -> Steps {
    (mm / STEP + 1e-3).floor() as Steps
}

#[expect(clippy::cast_precision_loss, reason = "as above")]
pub(super) fn mm(steps: Steps) -> f64 {
    steps as f64 * STEP
}

/// Everything in steps; a stick has its length and one kerf to give, a piece takes its length and one.
pub(super) struct Sums<'a> {
    pub(super) given: &'a NestGiven,
    /// Pieces, longest first: what each takes, and its place.
    pub(super) pieces: Vec<(Steps, usize)>,
    /// Sticks of the shelf that are chosen among: what each gives, and its place; shortest first.
    pub(super) shelf: Vec<(Steps, usize)>,
    /// Whether some were passed over.
    pub(super) passed_over: bool,
    pub(super) buys: Vec<(Steps, f64)>,
    pub(super) kerf: Steps,
    pub(super) need: Steps,
}

impl<'a> Sums<'a> {
    pub(super) fn of(given: &'a NestGiven) -> Result<Self, NestError> {
        let NestGiven { pieces, shelf, buys, kerf } = given;
        let lengths = pieces.iter().chain(shelf).copied().chain(buys.iter().map(|buy| buy.length));
        for figure in lengths {
            if !(figure > 0.0 && figure <= LONGEST) {
                return Err(NestError::Figure { figure });
            }
        }
        for figure in buys.iter().map(|buy| buy.price).chain([*kerf]) {
            if !(0.0..=1e9).contains(&figure) {
                return Err(NestError::Figure { figure });
            }
        }
        if pieces.len() > MOST_PIECES {
            return Err(NestError::TooMany { count: pieces.len(), most: MOST_PIECES });
        }
        let kerf = up(*kerf);
        let mut order: Vec<(Steps, usize)> =
            pieces.iter().enumerate().map(|(index, piece)| (up(*piece) + kerf, index)).collect();
        order.sort_by_key(|(takes, index)| (-takes, *index));
        let gives = |length: f64| down(length) + kerf;
        let mut sticks: Vec<(Steps, usize)> =
            shelf.iter().enumerate().map(|(index, stick)| (gives(*stick), index)).collect();
        sticks.sort_unstable();
        let longest = sticks.last().map(|stick| stick.0).into_iter();
        let longest = longest.chain(buys.iter().map(|buy| gives(buy.length))).max().unwrap_or(kerf);
        if let Some((takes, _)) = order.first().filter(|(takes, _)| *takes > longest) {
            return Err(NestError::TooLong { piece: mm(takes - kerf), longest: mm(longest - kerf) });
        }
        // What takes no piece at all is never touched.
        let least = order.last().map_or(0, |piece| piece.0);
        sticks.retain(|stick| stick.0 >= least);
        let passed_over = sticks.len() > MOST_SHELF;
        let sticks = sticks.split_off(sticks.len().saturating_sub(MOST_SHELF));
        let need = order.iter().map(|piece| piece.0).sum();
        let buys = buys.iter().map(|buy| (gives(buy.length), buy.price)).collect();
        Ok(Self { given, pieces: order, shelf: sticks, passed_over, buys, kerf, need })
    }

    /// What a stick so many mm long gives.
    pub(super) fn gives(&self, length: f64) -> Steps {
        down(length) + self.kerf
    }

    pub(super) fn takes(&self) -> Vec<Steps> {
        self.pieces.iter().map(|piece| piece.0).collect()
    }
}

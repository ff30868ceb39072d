//! What is to be sawn from what, and which pieces then come from which stick.

use serde::Serialize;
use thiserror::Error;
use utoipa::ToSchema;

/// A length that can be bought, as often as it is wanted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BuyLength {
    /// In mm.
    pub length: f64,
    /// Its price.
    pub price: f64,
}

/// What is to be sawn, and from what.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct NestGiven {
    /// Lengths of stick that the pieces take, in mm.
    pub pieces: Vec<f64>,
    /// Sticks on the shelf, in mm: they cost nothing.
    pub shelf: Vec<f64>,
    /// What can be bought.
    pub buys: Vec<BuyLength>,
    /// Width of a cut in mm: each piece needs one, and a stick gives one more than it has pieces.
    pub kerf: f64,
}

/// Where a stick comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(tag = "from", rename_all = "snake_case")]
pub enum StickSource {
    /// The shelf.
    Shelf {
        /// Its place there.
        index: usize,
    },
    /// A shop.
    Bought {
        /// Which of the lengths on sale.
        index: usize,
    },
}

/// A stick that is touched.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct NestedStick {
    /// Where it comes from.
    pub source: StickSource,
    /// Its length in mm.
    pub length: f64,
    /// Places of the pieces sawn from it, longest first.
    pub pieces: Vec<usize>,
    /// What is left of it, in mm; 0 where the last cut takes it.
    pub left: f64,
}

/// Which pieces are sawn from which stick.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Nest {
    /// Sticks that are touched: those of the shelf in their order, then what is bought.
    pub sticks: Vec<NestedStick>,
    /// What is paid.
    pub cost: f64,
    /// Length of the sticks touched, in mm.
    pub touched: f64,
    /// No nest costs less than this.
    pub least_cost: f64,
    /// No nest of the least cost touches less than this, in mm; 0 where the cost itself is not proven least.
    pub least_touched: f64,
    /// Whether nothing costs less, nothing of that cost touches less, and no stick of such could be left longer.
    pub proven: bool,
}

/// Why there is no nest.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum NestError {
    /// A figure is none, or none that a stick or a cut can have.
    #[error("{figure} mm is no length of tube and no width of a cut")]
    Figure {
        /// The figure.
        figure: f64,
    },
    /// No stick is long enough.
    #[error(
        "a piece takes {piece:.1} mm, and the longest stick there is, or can be bought, is {longest:.1} mm: splice it"
    )]
    TooLong {
        /// Length of the piece in mm.
        piece: f64,
        /// Length of the longest stick in mm; 0 where there is none.
        longest: f64,
    },
    /// The shelf does not give them all, and nothing can be bought.
    #[error("the shelf gives no more than {shelf:.1} mm and the pieces take {need:.1} mm; say what can be bought")]
    NotEnough {
        /// Length on the shelf in mm.
        shelf: f64,
        /// What the pieces take, cuts counted in, in mm.
        need: f64,
    },
    /// More pieces than are nested at once.
    #[error("{count} pieces; {most} are nested at once")]
    TooMany {
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// It was called off.
    #[error("called off")]
    Stopped,
}

//! Sticks, elbows and pies on the shelf, and those that can be bought.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::route::{KitPie, StockElbow};
use crate::stock::Tube;
use nook_geometry::units::{Price, StickLength};

/// Which stick of a workshop; the number never changes, and is written on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct StickId(pub u32);

/// A stick or an offcut on the shelf, both ends square.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Stick {
    /// Which.
    pub id: StickId,
    /// What it is of.
    pub tube: Tube,
    /// How long it is, in mm.
    pub length: StickLength,
}

/// Which line of what can be bought; the number never changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct OnSaleId(pub u32);

/// A length of tube that can be bought, as often as it is wanted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StickOnSale {
    /// Which.
    pub id: OnSaleId,
    /// What it is of.
    pub tube: Tube,
    /// How long it is, in mm.
    pub length: StickLength,
    /// What one costs.
    pub price: Price,
}

/// Which elbow of a workshop; the number never changes, and is written on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct ElbowId(pub u32);

/// An elbow on the shelf, or what is left of one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShelfElbow {
    /// Which.
    pub id: ElbowId,
    /// What it is of.
    pub tube: Tube,
    /// Its radius, angle and legs.
    pub elbow: StockElbow,
}

/// An elbow that can be bought, as often as it is wanted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ElbowOnSale {
    /// Which line of what can be bought.
    pub id: OnSaleId,
    /// What it is of.
    pub tube: Tube,
    /// Its radius, angle and legs.
    pub elbow: StockElbow,
    /// What one costs.
    pub price: Price,
}

/// Which box of pies of a workshop; the number never changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct PiesId(pub u32);

/// Bought pies on the shelf; those of one sort lie in one box.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShelfPies {
    /// Which box.
    pub id: PiesId,
    /// What they are of.
    pub tube: Tube,
    /// What one of them is.
    pub pie: KitPie,
    /// How many; from 1 to [`Self::MOST`].
    pub count: u32,
}

impl ShelfPies {
    /// Most pies in a box.
    pub const MOST: u32 = 1_000;
}

/// Pies that can be bought, as many as are wanted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PiesOnSale {
    /// Which line of what can be bought.
    pub id: OnSaleId,
    /// What they are of.
    pub tube: Tube,
    /// What one of them is.
    pub pie: KitPie,
    /// What one costs.
    pub price: Price,
}

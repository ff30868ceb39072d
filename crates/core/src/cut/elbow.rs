//! A bought elbow cut down to the angle that is wanted.

use serde::Serialize;
use thiserror::Error;

/// Where to mark an elbow, in mm along its outside from the tangent line, and what is left of it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct ElbowCut {
    /// Along the inside of the bend.
    pub throat: f64,
    /// Along the centre line.
    pub centre: f64,
    /// Along the outside.
    pub back: f64,
    /// Angle left over beyond the kerf, in radians; 0 where none is.
    pub left_over: f64,
}

/// An elbow has no more angle than it has.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[error("{wanted:.2} degrees cannot be cut from an elbow of {stock:.2}")]
pub struct ElbowTooSmall {
    /// The angle wanted, in degrees.
    pub wanted: f64,
    /// The angle the elbow has, in degrees.
    pub stock: f64,
}

impl ElbowCut {
    /// Marks an elbow of `od` mm tube at centre-line radius `clr` mm that has `stock` radians for a cut at `wanted`
    /// radians with a saw of `kerf` mm. Source: handbook, "The sums", Elbows.
    ///
    /// # Errors
    /// [`ElbowTooSmall`] when more is wanted than the elbow has.
    pub fn new(od: f64, clr: f64, stock: f64, wanted: f64, kerf: f64) -> Result<Self, ElbowTooSmall> {
        if wanted > stock + 1e-9 {
            return Err(ElbowTooSmall { wanted: wanted.to_degrees(), stock: stock.to_degrees() });
        }
        Ok(Self {
            throat: (clr - od / 2.0) * wanted,
            centre: clr * wanted,
            back: (clr + od / 2.0) * wanted,
            left_over: (stock - wanted - kerf / clr).max(0.0),
        })
    }
}

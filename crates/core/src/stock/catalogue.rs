//! The sizes of tube that are sold.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Material, Tube, TubeError};
use nook_geometry::units::{OutsideDiameter, Wall};

/// One size of tube, with the walls and materials it comes in.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TubeSize {
    /// What the trade calls it, such as `2 1/2 in`.
    pub name: String,
    /// Outside diameter in mm.
    pub od: OutsideDiameter,
    /// Walls sold, in mm.
    pub walls: Vec<Wall>,
    /// Materials sold.
    pub materials: Vec<Material>,
}

/// What can be bought.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Catalogue {
    /// Tube by size, smallest first.
    pub tubes: Vec<TubeSize>,
}

impl Catalogue {
    /// Every tube that is sold, one for each size, wall and material.
    ///
    /// # Errors
    /// [`TubeError`] at the first size whose wall leaves no bore.
    pub fn all_tubes(&self) -> Result<Vec<Tube>, TubeError> {
        let mut tubes = Vec::new();
        for size in &self.tubes {
            for &material in &size.materials {
                for &wall in &size.walls {
                    tubes.push(Tube::new(material, size.od, wall)?);
                }
            }
        }
        Ok(tubes)
    }
}

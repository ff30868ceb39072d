//! Materials and tube: what can be bought.

mod catalogue;
mod material;
mod tube;

pub use catalogue::{Catalogue, TubeSize};
pub use material::Material;
pub use tube::{Tube, TubeError};

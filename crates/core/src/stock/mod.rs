//! Materials and tube: what can be bought.

mod catalogue;
mod duty;
mod material;
mod tube;

pub use catalogue::{Catalogue, TubeSize};
pub use duty::Duty;
pub use material::Material;
pub use tube::{Tube, TubeError};

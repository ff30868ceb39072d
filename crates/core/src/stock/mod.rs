//! Materials and tube: what can be bought.

mod catalogue;
mod duty;
mod material;
mod nominal;
mod tube;

pub use catalogue::{Catalogue, TubeSize};
pub use duty::Duty;
pub use material::Material;
pub use nominal::{NEAR, Nominal, SizeGuess, TWIN, name_bore, name_size};
pub use tube::{Tube, TubeError};

//! Materials, tube and hose: what can be bought.

mod catalogue;
mod duty;
mod hose;
mod material;
mod nominal;
mod tube;

pub use catalogue::{Catalogue, TubeSize};
pub use duty::Duty;
pub use hose::{
    Dash, DashSize, FittingAngle, HoseBuild, HoseFitting, LEAST_LEG, LEG, MOULDED_ANGLES, MOULDED_GIVE, NoSuchFitting,
    SLACK, nearest_moulded, unfit, usual_hose,
};
pub use material::Material;
pub use nominal::{NEAR, Nominal, SizeGuess, TWIN, name_bore, name_size};
pub use tube::{Tube, TubeError};

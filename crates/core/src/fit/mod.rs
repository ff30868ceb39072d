//! Fit: whether the finished pipe will land on the port at its far end.

mod landing;
mod misfit;

pub use landing::chance_to_land;
pub use misfit::{ErrorSource, Misfit, MisfitCovariance, PipeSpread, PortSpread, misfit_covariance, misfit_effects};

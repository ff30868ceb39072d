//! Fit: whether the finished pipe will land on the port at its far end, and what is done where it does not.

mod chance_within;
mod error_source;
mod landing_model;
mod pipe_errors;
mod spreads;
mod twist;

pub use chance_within::chance_within;
pub use error_source::{Body, Cause, ErrorAct, ErrorOf, ErrorSource};
pub use landing_model::{FitJoint, LandingModel, Takes, square_to};
pub use pipe_errors::{PipeToMake, sections_of};
pub use spreads::Spreads;
pub use twist::Twist;

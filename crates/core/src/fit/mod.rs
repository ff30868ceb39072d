//! Fit: whether the finished pipe will land on the port at its far end, and what is done where it does not.

mod act_sets;
mod acts;
mod as_built;
mod belief;
mod chance_within;
mod corrections;
mod error_source;
mod fit_joint;
mod landing_model;
mod pipe_errors;
mod seam;
mod spreads;
mod suspects;
mod try_on;
mod twist;

pub use acts::filled_gap;
pub use as_built::{AsBuilt, Stands};
pub use belief::{Belief, Innovation, Observed};
pub use chance_within::{chance_within, chance_within_roughly};
pub use corrections::{Among, Built, Correction, LIKELY};
pub use error_source::{Body, Cause, ErrorAct, ErrorOf, ErrorSource};
pub use fit_joint::{FitJoint, Takes, square_to};
pub use landing_model::{Freedom, LandingModel};
pub use pipe_errors::PipeToMake;
pub use seam::{Seam, sections_of};
pub use spreads::Spreads;
pub use suspects::{Suspect, suspects};
pub use try_on::{NotOfThisPipe, Touch};
pub use twist::Twist;

//! Everything the ground floor promises.

#[path = "../support/mod.rs"]
mod support;

mod clearance;
mod closest;
mod frames;
mod length_text;
mod linkage;
mod pair;
mod path_properties;

//! Everything the core promises, beside the reference numbers in `vectors`. One program for all, since each more is linked and started by itself.

#[path = "../support/bays.rs"]
mod bays;
#[path = "../support/crowded.rs"]
mod crowded;
#[path = "../support/sampler.rs"]
mod sampler;
#[path = "../support/mod.rs"]
mod support;

mod bend_figures;
mod by_hand;
mod cases_that_went_wrong;
mod clear_means_clear;
mod clearance;
mod crowded_bays;
mod cut_properties;
mod each_finding;
mod edit_properties;
mod extreme_numbers;
mod flow;
mod frames;
mod heat_and_roll;
mod hostile_searches;
mod invariance;
mod joint_defaults;
mod length_text;
mod measuring;
mod merging;
mod network;
mod path_properties;
mod sawn_outside;
mod search_properties;
mod survey_properties;
mod way_properties;

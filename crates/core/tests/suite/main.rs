//! Everything the core promises, beside the reference numbers in `vectors`. One program for all, since each more is linked and started by itself.

#[path = "../../benches/demo/mod.rs"]
mod demo;
#[path = "../support/mod.rs"]
mod support;

mod bend_figures;
mod bore;
mod boxes;
mod brackets;
mod branches;
mod by_hand;
mod cut_properties;
mod distances;
mod drawn;
mod each_finding;
mod edit_properties;
mod envelope;
mod extreme_numbers;
mod flow;
mod hanging;
mod heat_and_roll;
mod holes;
mod hoses;
mod invariance;
mod jig;
mod joint_defaults;
mod joint_kinds;
mod joints_along;
mod marks;
mod measuring;
mod merging;
mod network;
mod parting;
mod placing_mistakes;
mod placing_rules;
mod plates;
mod progress;
mod rack;
mod remedies;
mod sawn_outside;
mod setting_out;
mod spans;
mod supports;
mod survey_properties;
mod truing;
mod way_properties;

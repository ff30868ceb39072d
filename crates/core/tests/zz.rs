//! Everything the core promises, beside the reference numbers in `vectors`. One program for all, since each more is linked and started by itself.

#[path = "../benches/demo/mod.rs"]
mod demo;
#[path = "support/mod.rs"]
mod support;

#[path = "suite/as_built.rs"]
mod as_built;
#[path = "suite/beads.rs"]
mod beads;
#[path = "suite/bend_figures.rs"]
mod bend_figures;
#[path = "suite/bore.rs"]
mod bore;
#[path = "suite/bought_elbows.rs"]
mod bought_elbows;
#[path = "suite/boxes.rs"]
mod boxes;
#[path = "suite/brackets.rs"]
mod brackets;
#[path = "suite/branches.rs"]
mod branches;
#[path = "suite/by_hand.rs"]
mod by_hand;
#[path = "suite/cards.rs"]
mod cards;
#[path = "suite/chains.rs"]
mod chains;
#[path = "suite/clock_checks.rs"]
mod clock_checks;
#[path = "suite/closing_piece.rs"]
mod closing_piece;
#[path = "suite/corrections.rs"]
mod corrections;
#[path = "suite/cut_properties.rs"]
mod cut_properties;
#[path = "suite/distances.rs"]
mod distances;
#[path = "suite/drawn.rs"]
mod drawn;
#[path = "suite/drills.rs"]
mod drills;
#[path = "suite/each_finding.rs"]
mod each_finding;
#[path = "suite/edit_properties.rs"]
mod edit_properties;
#[path = "suite/envelope.rs"]
mod envelope;
#[path = "suite/extreme_numbers.rs"]
mod extreme_numbers;
#[path = "suite/flow.rs"]
mod flow;
#[path = "suite/garage.rs"]
mod garage;
#[path = "suite/hanging.rs"]
mod hanging;
#[path = "suite/heat_and_roll.rs"]
mod heat_and_roll;
#[path = "suite/holes.rs"]
mod holes;
#[path = "suite/hoses.rs"]
mod hoses;
#[path = "suite/invariance.rs"]
mod invariance;
#[path = "suite/jig.rs"]
mod jig;
#[path = "suite/joint_defaults.rs"]
mod joint_defaults;
#[path = "suite/joint_kinds.rs"]
mod joint_kinds;
#[path = "suite/joints_along.rs"]
mod joints_along;
#[path = "suite/kit_pies.rs"]
mod kit_pies;
#[path = "suite/landing.rs"]
mod landing;
#[path = "suite/landing_in_the_garage.rs"]
mod landing_in_the_garage;
#[path = "suite/landing_of_runs.rs"]
mod landing_of_runs;
#[path = "suite/leak_tests.rs"]
mod leak_tests;
#[path = "suite/marks.rs"]
mod marks;
#[path = "suite/measuring.rs"]
mod measuring;
#[path = "suite/merging.rs"]
mod merging;
#[path = "suite/moulded_elbows.rs"]
mod moulded_elbows;
#[path = "suite/necks.rs"]
mod necks;
#[path = "suite/network.rs"]
mod network;
#[path = "suite/own_record.rs"]
mod own_record;
#[path = "suite/parting.rs"]
mod parting;
#[path = "suite/placing_mistakes.rs"]
mod placing_mistakes;
#[path = "suite/placing_rules.rs"]
mod placing_rules;
#[path = "suite/plates.rs"]
mod plates;
#[path = "suite/progress.rs"]
mod progress;
#[path = "suite/proving.rs"]
mod proving;
#[path = "suite/rack.rs"]
mod rack;
#[path = "suite/remedies.rs"]
mod remedies;
#[path = "suite/saw_coupons.rs"]
mod saw_coupons;
#[path = "suite/saw_reach.rs"]
mod saw_reach;
#[path = "suite/sawn_outside.rs"]
mod sawn_outside;
#[path = "suite/setting_out.rs"]
mod setting_out;
#[path = "suite/shelf.rs"]
mod shelf;
#[path = "suite/spans.rs"]
mod spans;
#[path = "suite/splices.rs"]
mod splices;
#[path = "suite/stubs.rs"]
mod stubs;
#[path = "suite/supports.rs"]
mod supports;
#[path = "suite/survey_properties.rs"]
mod survey_properties;
#[path = "suite/truing.rs"]
mod truing;
#[path = "suite/way_properties.rs"]
mod way_properties;
#[path = "suite/weld_order.rs"]
mod weld_order;
#[path = "suite/welding.rs"]
mod welding;

//! Everything the search promises.

#[path = "../support/bays.rs"]
mod bays;
#[path = "../support/crowded.rs"]
mod crowded;
#[path = "../support/sampler.rs"]
mod sampler;
#[path = "../../../core/tests/support/mod.rs"]
mod support;

mod cases_that_went_wrong;
mod clear_means_clear;
mod coming_apart;
mod crowded_bays;
mod hose_ways;
mod hostile_searches;
mod nests;
mod one_figure_everywhere;
mod places;
mod search_properties;
mod shelf_use;
mod stock;

mod ways_out;
mod whole_elbows;

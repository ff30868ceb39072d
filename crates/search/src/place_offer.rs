//! Places on offer for a component.

use serde::Serialize;
use utoipa::ToSchema;

use nook_core::edit::Edit;
use nook_core::measure::RunId;
use nook_geometry::units::{DualUnitText, Measure};

/// What a search for a place has to say while it runs.
#[derive(Debug, Clone, PartialEq)]
pub enum PlaceNews {
    /// How far it is, 0 to 1.
    Progress(f32),
    /// A place, its pipes not all looked at yet.
    Found(Box<PlaceOffer>),
}

/// What a search for a place found.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlacesFound {
    /// Places, the best first; as it stands now among them.
    pub offers: Vec<PlaceOffer>,
    /// How many places were judged.
    pub judged: usize,
    /// Whether it was called off, or its time was up, before all was tried.
    pub stopped: bool,
}

/// A place on offer.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlaceOffer {
    /// How each freedom is set, in degrees or mm.
    pub settings: Vec<f64>,
    /// Takes it; nothing where it stands there.
    pub edit: Option<Edit>,
    /// Where it is from where it stands now, in a few words.
    pub name: DualUnitText,
    /// What is good about it.
    pub good: DualUnitText,
    /// What is not; nothing where nothing is.
    pub but: Option<DualUnitText>,
    /// How many things it runs into, over all movement.
    pub fouls: usize,
    /// Air that is missing in all between it and other things.
    pub short: Measure,
    /// Share of its breathing face that the opening shows.
    pub shown: Option<f64>,
    /// How many of its rules and wishes are broken.
    pub broken: usize,
    /// Marks of other runs that could not be built any more, or run into more, with it there.
    pub spoils: Vec<String>,
    /// The runs that end on it, each by the best way found.
    pub runs: Vec<PlaceRun>,
    /// Hours to make those.
    pub hours: Option<f64>,
    /// Their length in all.
    pub length: Option<Measure>,
}

/// A run that ends on a component, as it would be.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlaceRun {
    /// Which.
    pub run: RunId,
    /// What is written on its pieces.
    pub mark: String,
    /// What the search for its way came to.
    pub outcome: PlaceRunOutcome,
    /// The best way found, ready to be taken.
    pub way: Option<nook_core::route::Route>,
    /// Hours to make it.
    pub hours: Option<f64>,
    /// Its length.
    pub length: Option<Measure>,
    /// How many bends.
    pub bends: Option<u32>,
}

/// What the search for a way of a run to a place came to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PlaceRunOutcome {
    /// There is one that fits.
    Fits,
    /// All that was to be tried was tried, and nothing fits.
    NothingFound,
    /// The time was up before one was found: that says nothing of whether there is one.
    Stopped,
}

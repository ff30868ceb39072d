//! What proves a finished pipe: tests, answers and signatures.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::prove::{CheckId, Fingerprint, GaugeReading};
use nook_geometry::units::Name;

/// What a pipe is tested with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TestKind {
    /// Air, shut in.
    Air,
    /// Water or coolant, pumped up cold.
    Liquid,
}

/// A test as its gauge was read; what it says is worked out from that, never noted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TestDone {
    /// With what.
    pub kind: TestKind,
    /// What it was to be tested at, in bar gauge.
    pub bar: f64,
    /// What it was about.
    pub of: Fingerprint,
    /// In their order.
    #[schema(max_items = 2000)]
    pub readings: Vec<GaugeReading>,
}

impl TestDone {
    /// Most readings of one test.
    pub const MOST: usize = 2000;
    /// Most tests of one run: each takes some hundred kilobytes.
    pub const MOST_OF_A_RUN: usize = 40;

    /// Whether every figure is one that a gauge shows, and its clock runs forwards.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        (0.0..=20.0).contains(&self.bar)
            && !self.readings.is_empty()
            && self.readings.len() <= Self::MOST
            && self.readings.iter().all(GaugeReading::is_sound)
            && self.readings.windows(2).all(|pair| pair[0].seconds < pair[1].seconds)
    }
}

/// An answer to what is checked.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CheckDone {
    /// What is checked.
    pub item: CheckId,
    /// What it was about.
    pub of: Fingerprint,
    /// Whether it is as it should be.
    pub good: bool,
    /// What was read, in the unit that is asked for; nothing where nothing was.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub reading: Option<f64>,
    /// What is to be remembered of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Name>,
}

/// A signature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Signature {
    /// What it was about.
    pub of: Fingerprint,
    /// Which revision of the job.
    pub revision: i64,
}

//! Whether a run's pipe is done: its tests, what is checked of it, and its signature.

use serde::Serialize;
use utoipa::ToSchema;

use crate::measure::RunId;
use crate::part_ref::PartRef;
use crate::prove::{CheckId, CheckWhen, Fingerprint, Verdict};
use crate::record::TestKind;
use nook_geometry::units::DualUnitText;

/// Whether a run's pipe is done.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ProveWorkup {
    /// Which run.
    pub run: RunId,
    /// Why there is nothing to prove; nothing where there is.
    pub none: Option<DualUnitText>,
    /// How it is tested.
    pub test: Option<TestWorkup>,
    /// Where to look with soap, the likeliest first.
    pub soap: Vec<SoapWorkup>,
    /// What is checked, in the order it is done.
    pub checks: Vec<CheckWorkup>,
    /// How it is filled, bled and first heated, in order; empty where no liquid flows in it.
    pub filling: Vec<DualUnitText>,
    /// Its signature, or what is wanting for it.
    pub sign: SignWorkup,
    /// What is dangerous about it.
    pub cautions: Vec<&'static str>,
}

/// How a pipe is tested.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TestWorkup {
    /// With what.
    pub kind: TestKind,
    /// What it is tested at, in bar gauge.
    pub bar: f64,
    /// Why not more.
    pub limited_by: String,
    /// What it must never be brought to, in bar gauge.
    pub never: f64,
    /// At what it is first looked at with soap, in bar: nothing with liquid.
    pub soap: Option<[f64; 2]>,
    /// What is enclosed of the run alone, in litres.
    pub litres: f64,
    /// What may leak: standard cm3/min for each litre enclosed; nothing with liquid.
    pub may_leak: Option<f64>,
    /// Steps in their order.
    pub steps: Vec<String>,
    /// What a test noted now is about.
    pub of: Fingerprint,
    /// The last test; nothing where there was none.
    pub last: Option<TestResult>,
}

/// What a test said.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TestResult {
    /// How it came out.
    pub verdict: Verdict,
    /// In words.
    pub words: String,
    /// By whom it was noted.
    pub who: String,
    /// What was changed since, so that it counts no longer; empty where nothing was.
    pub changed: Vec<&'static str>,
}

/// A place to look at with soap.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SoapWorkup {
    /// What is pointed at.
    pub part: PartRef,
    /// What it is.
    pub what: String,
    /// Why it may leak.
    pub why: &'static str,
}

/// One thing to check.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CheckWorkup {
    /// Which.
    pub item: CheckId,
    /// When.
    pub when: CheckWhen,
    /// What is pointed at.
    pub part: PartRef,
    /// What is asked.
    pub words: String,
    /// The unit of what may be read with it, which is the maker's figure; nothing where nothing is read.
    pub reads: Option<&'static str>,
    /// What an answer given now is about.
    pub of: Fingerprint,
    /// Whether it is as it should be; nothing where nobody answered, or what it is about was changed since.
    pub good: Option<bool>,
    /// What was read.
    pub reading: Option<f64>,
    /// What was noted with it.
    pub note: Option<String>,
    /// Who answered.
    pub who: Option<String>,
    /// Whether it was answered, and what it is about was changed since.
    pub void: bool,
}

/// A signature, or what is wanting for it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SignWorkup {
    /// What is wanting; it may be signed where that is nothing.
    pub wanting: Vec<String>,
    /// What a signature given now is about.
    pub of: Fingerprint,
    /// Who signed; nothing where nobody did.
    pub who: Option<String>,
    /// Which revision of the job.
    pub revision: Option<i64>,
    /// What was changed since, so that it counts no longer; empty where nothing was.
    pub changed: Vec<&'static str>,
}

/// How a test stands while it goes on.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct UnderTest {
    /// How it stands.
    pub verdict: Verdict,
    /// What to do, in words.
    pub words: String,
    /// The leak in standard cm3/min for each litre; nothing before there are enough readings, and with liquid.
    pub leak: Option<f64>,
    /// One standard deviation of that.
    pub spread: Option<f64>,
    /// Seconds more that it will take, about.
    pub wait: f64,
    /// Why it is no test at all, so that nothing of it is noted; nothing where it is one.
    pub refused: Option<String>,
}

//! How a run's pipe is welded: every seam with its settings, the order, the gas, and what comes before and after.

use serde::Serialize;
use utoipa::ToSchema;

use crate::measure::RunId;
use crate::part_ref::PartRef;
use crate::weld::{Inside, Process, SeamId, SeamKind};
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, Measure};

/// How a run's pipe is welded.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeldWorkup {
    /// Which run.
    pub run: RunId,
    /// Why there is nothing to weld; nothing where there is.
    pub none: Option<DualUnitText>,
    /// How it is welded.
    pub process: Process,
    /// What keeps the air from the inside; nothing where the metal does not ask for it.
    pub inside: Option<Inside>,
    /// Every seam, from A.
    pub seams: Vec<SeamWorkup>,
    /// Sections that are welded each for itself, from A.
    pub sections: Vec<WeldSectionWorkup>,
    /// Minutes of arc, of all that is not welded yet.
    pub arc: f64,
    /// Minutes it cools in between.
    pub pauses: f64,
    /// Hours with setting up, by the handbook's rates.
    pub hours: f64,
    /// The gas it takes; nothing where none of ours is reckoned.
    pub gas: Option<GasWorkup>,
    /// How fast a turner turns it.
    pub turner: Option<TurnerWorkup>,
    /// What is done before the first arc, in order.
    pub before: Vec<DualUnitText>,
    /// What is done once all is cold.
    pub after: Vec<DualUnitText>,
    /// What would make bad welds.
    pub warnings: Vec<WeldWarning>,
    /// What is dangerous about it.
    pub cautions: Vec<&'static str>,
}

/// One seam.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SeamWorkup {
    /// Which.
    pub seam: SeamId,
    /// What is written beside it on the metal: from 1 at A.
    pub number: usize,
    /// Its place in the order they are welded, from 1.
    pub turn: usize,
    /// What it joins, such as `H1 to H2`.
    pub name: String,
    /// What sort it is.
    pub kind: SeamKind,
    /// That in words.
    pub word: &'static str,
    /// What is pointed at to mean it.
    pub part: PartRef,
    /// Its station along the tube's centre line, from the tube's end at A.
    pub station: Measure,
    /// Where it is.
    #[schema(value_type = Triple)]
    pub at: [f64; 3],
    /// Length of weld.
    pub length: Measure,
    /// The tube's wall, and the thickness of what it is welded to.
    #[schema(min_items = 2, max_items = 2)]
    pub walls: [Measure; 2],
    /// A to set.
    pub amps: f64,
    /// Why so many.
    pub why: DualUnitText,
    /// The electrode's diameter; nothing where there is none.
    pub electrode: Option<Measure>,
    /// The cup's bore.
    pub cup: Measure,
    /// Argon at the torch in l/min.
    pub flow: f64,
    /// What is fed in, and why; nothing where nothing is.
    pub filler: Option<DualUnitText>,
    /// How many tacks hold it, in pairs across.
    pub tacks: u32,
    /// Its quarters in the order they are welded, where each is.
    pub quarters: Vec<String>,
    /// Seconds of arc.
    pub arc: f64,
    /// Seconds it cools after each quarter.
    pub pause: f64,
    /// How far it alone tilts what is beyond, in degrees.
    pub tilts: f64,
    /// Whether it is welded.
    pub welded: bool,
}

/// A stiff part of the pipe between two joints.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeldSectionWorkup {
    /// Between what, such as `A to the V-band`.
    pub name: String,
    /// How many seams it has.
    pub seams: usize,
    /// How far its end towards B is pulled, held at the other, welded in this order.
    pub pulled: Measure,
    /// By how many degrees.
    pub pulled_degrees: f64,
    /// The same with every seam welded straight round.
    pub straight: Measure,
    /// By how many degrees.
    pub straight_degrees: f64,
    /// How much shorter its welds draw it.
    pub shrinks: Measure,
    /// Gas inside; nothing where there is none.
    pub purge: Option<PurgeWorkup>,
}

/// Gas inside a section.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PurgeWorkup {
    /// What is filled, in litres.
    pub litres: f64,
    /// How many times.
    pub volumes: f64,
    /// How fast, in l/min.
    pub flow: f64,
    /// Seconds before the first arc.
    pub seconds: f64,
    /// Parts of oxygen in a million that are left then, perfectly mixed.
    pub oxygen: f64,
    /// Where it goes in and where the vent is, as it lies in the car.
    pub vent: DualUnitText,
    /// Dams that save more gas than they cost; nothing where none do.
    pub dams: Option<DualUnitText>,
}

/// The gas a pipe takes, and what there is.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct GasWorkup {
    /// Litres for what is not welded yet.
    pub litres: f64,
    /// The same as bar of the builder's bottle.
    pub bar: f64,
    /// What the bottle showed last, in bar; nothing where nobody said.
    pub bottle: Option<f64>,
    /// What it has, in litres.
    pub left: Option<f64>,
}

/// A turner's speed.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TurnerWorkup {
    /// Turns a minute.
    pub rpm: f64,
    /// Seconds for one turn.
    pub seconds: f64,
    /// Pies that are put on the chuck so that a mitred seam turns square.
    pub pies: Vec<CounterPie>,
}

/// A pie on the chuck.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CounterPie {
    /// Degrees of its face.
    pub saw: f64,
    /// From the chuck's face to that along the middle.
    pub offset: Measure,
    /// For how many seams.
    pub seams: usize,
}

/// What sort of bad weld is told of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WeldWarningKind {
    /// A gap too wide to weld over.
    Gap,
    /// A side too thick for the machine.
    Cold,
    /// Not gas enough for all that is to be welded.
    GasRunsOut,
    /// More gas is gone than was welded with.
    GasLeaks,
    /// The way it is welded is none for its metal.
    Process,
}

/// What would make a bad weld.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeldWarning {
    /// What sort.
    pub kind: WeldWarningKind,
    /// Which seam; nothing where it is about all.
    pub seam: Option<SeamId>,
    /// What, how much against which limit, and what mends it.
    pub words: DualUnitText,
}

//! The job: what the builder measured and decided about one vehicle, and nothing that can be worked out. This is
//! the document that is kept.

mod check;
mod check_stubs;
mod invalid;
mod upgrade;

pub use invalid::Invalid;
pub use upgrade::upgraded;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::join::EngineFiring;
use crate::measure::{
    Component, ComponentId, Datum, DatumId, End, InstallState, InstrumentChecks, KeepOut, KeepOutId, Measurand, Mounts,
    Opening, OpeningId, Port, PortRef, Reading, RunId, Stance,
};
use crate::route::{Mark, ResolvedRun, Route, Run, StubEnds};
use crate::workshop::{Drills, PinnedSaw, Workshop};
use nook_geometry::units::Name;

/// One vehicle's job. Its fields change only through [`crate::apply`], so what [`Job::check`] checks always
/// holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
#[schema(as = Job)]
pub struct Job {
    /// What it is called.
    pub(crate) name: Name,
    /// The saw it is made with.
    pub(crate) saw: PinnedSaw,
    /// Pipes.
    pub(crate) runs: Vec<Run>,
    /// Points readings are taken from.
    #[schema(required = false)]
    pub(crate) datums: Vec<Datum>,
    /// The big things, each as one.
    #[schema(required = false)]
    pub(crate) components: Vec<Component>,
    /// What they breathe through.
    #[schema(required = false)]
    pub(crate) openings: Vec<Opening>,
    /// How the car stands over the ground; nothing until somebody says.
    pub(crate) stance: Option<Stance>,
    /// Pairs of keep-outs that belong together and may touch, the lower number first.
    #[schema(required = false)]
    pub(crate) together: Vec<[KeepOutId; 2]>,
    /// How the engine moves; nothing until somebody says.
    pub(crate) mounts: Option<Mounts>,
    /// What shakes the pipes that ride on the engine; nothing until somebody says.
    pub(crate) firing: Option<EngineFiring>,
    /// What was checked of tape and level.
    #[schema(required = false)]
    pub(crate) instruments: InstrumentChecks,
    /// How truly its builder works, as drills showed it when that was decided.
    #[schema(required = false)]
    pub(crate) drills: Drills,
    /// What is in the way.
    pub(crate) keep_outs: Vec<KeepOut>,
    /// The next number to give to anything; numbers are never used twice.
    pub(crate) next_id: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    name: Name,
    saw: PinnedSaw,
    runs: Vec<Run>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    datums: Vec<Datum>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    components: Vec<Component>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    openings: Vec<Opening>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    stance: Option<Stance>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    together: Vec<[KeepOutId; 2]>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    mounts: Option<Mounts>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    firing: Option<EngineFiring>,
    #[serde(default, skip_serializing_if = "InstrumentChecks::is_empty")]
    instruments: InstrumentChecks,
    #[serde(default, skip_serializing_if = "Drills::is_empty")]
    drills: Drills,
    keep_outs: Vec<KeepOut>,
    next_id: u32,
}

impl Job {
    /// Version of the document. Version 1 had no datum points, readings, components or mounts, version 2 no locks, ways
    /// kept, wishes, twins, flow or insulation, version 3 no joints between the ends; what each has is read as it is, since
    /// all of those may be left out. Version 4 counted bends and had the ends' joints apart, and knew a kerf but no saw, and a component of version 5 was only turned; [`upgraded`] mends both. Version 6 knew three kinds of joint and no parts, clocks or ties, version 7 no supports and no engine's speeds, version 8 no branches, version 9 no hoses and no drains, version 10 no moulded elbows in tube,
    /// no mouths on stubs, no necks that are sawn and no saw's error, version 11 no bends of bought elbows, version 12 no
    /// longest stick and every saw set to any angle, version 13 nothing of how a pipe is made beside its list, and no drills.
    pub const VERSION: u32 = 14;
    /// Most runs in a job.
    pub const MOST_RUNS: usize = 50;
    /// Most keep-outs in a job.
    pub const MOST_KEEP_OUTS: usize = 500;
    /// Most datum points in a job.
    pub const MOST_DATUMS: usize = 200;
    /// Most components in a job.
    pub const MOST_COMPONENTS: usize = 50;
    /// Most openings in a job.
    pub const MOST_OPENINGS: usize = 20;
    /// Most pairs of things that belong together.
    pub const MOST_TOGETHER: usize = 2000;
    /// Most readings of one thing.
    pub const MOST_READINGS: usize = 60;
    /// Most bends in a run.
    pub const MOST_BENDS: usize = 12;
    /// Least distance in mm between a run's ports.
    pub const LEAST_APART: f64 = 1.0;

    /// An empty job, made with the saw of a new workshop.
    #[must_use]
    pub fn new(name: Name) -> Self {
        Self::made_with(name, Workshop::default().saw().into())
    }

    /// An empty job, made with a saw.
    #[must_use]
    pub fn made_with(name: Name, saw: PinnedSaw) -> Self {
        Self {
            name,
            saw,
            runs: Vec::new(),
            datums: Vec::new(),
            components: Vec::new(),
            openings: Vec::new(),
            stance: None,
            together: Vec::new(),
            mounts: None,
            firing: None,
            instruments: InstrumentChecks::default(),
            drills: Drills::default(),
            keep_outs: Vec::new(),
            next_id: 1,
        }
    }

    /// The same for a builder who has practised.
    #[must_use]
    pub fn by_hand_of(self, drills: Drills) -> Self {
        Self { drills, ..self }
    }

    /// How truly its builder works, as drills showed it.
    #[must_use]
    pub const fn drills(&self) -> &Drills {
        &self.drills
    }

    /// What it is called.
    #[must_use]
    pub fn name(&self) -> &str {
        self.name.as_str()
    }

    /// The saw it is made with.
    #[must_use]
    pub const fn saw(&self) -> &PinnedSaw {
        &self.saw
    }

    /// Width of that saw's cut in mm.
    #[must_use]
    pub const fn kerf(&self) -> f64 {
        self.saw.kerf.get()
    }

    /// Pipes, in the order they were added.
    #[must_use]
    pub fn runs(&self) -> &[Run] {
        &self.runs
    }

    /// One pipe.
    #[must_use]
    pub fn run(&self, id: RunId) -> Option<&Run> {
        self.runs.iter().find(|run| run.id == id)
    }

    /// One port.
    #[must_use]
    pub fn port(&self, port: PortRef) -> Option<&Port> {
        self.run(port.run).map(|run| run.port(port.end))
    }

    /// Points readings are taken from.
    #[must_use]
    pub fn datums(&self) -> &[Datum] {
        &self.datums
    }

    /// One datum point.
    #[must_use]
    pub fn datum(&self, id: DatumId) -> Option<&Datum> {
        self.datums.iter().find(|datum| datum.id == id)
    }

    /// The big things, each as one.
    #[must_use]
    pub fn components(&self) -> &[Component] {
        &self.components
    }

    /// One component.
    #[must_use]
    pub fn component(&self, id: ComponentId) -> Option<&Component> {
        self.components.iter().find(|component| component.id == id)
    }

    /// The component that a keep-out is part of the body of, if any.
    #[must_use]
    pub fn whole_of(&self, keep_out: KeepOutId) -> Option<&Component> {
        self.components.iter().find(|component| component.body.contains(&keep_out))
    }

    /// Whether a keep-out was there when it was measured: as its component was, where it is part of one.
    #[must_use]
    pub fn standing_of(&self, keep_out: &KeepOut) -> InstallState {
        self.whole_of(keep_out.id).map_or(keep_out.standing, |whole| whole.standing)
    }

    /// The component that a port is on, if any.
    #[must_use]
    pub fn carrier_of(&self, port: PortRef) -> Option<&Component> {
        self.components.iter().find(|component| component.ports.contains(&port))
    }

    /// What components breathe through.
    #[must_use]
    pub fn openings(&self) -> &[Opening] {
        &self.openings
    }

    /// One opening.
    #[must_use]
    pub fn opening(&self, id: OpeningId) -> Option<&Opening> {
        self.openings.iter().find(|opening| opening.id == id)
    }

    /// How the car stands over the ground; nothing until somebody says.
    #[must_use]
    pub const fn stance(&self) -> Option<&Stance> {
        self.stance.as_ref()
    }

    /// Pairs of keep-outs that belong together and may touch, the lower number first.
    #[must_use]
    pub fn together(&self) -> &[[KeepOutId; 2]] {
        &self.together
    }

    /// Whether two keep-outs belong together: of one component, or said to.
    #[must_use]
    pub fn belong_together(&self, one: KeepOutId, other: KeepOutId) -> bool {
        let pair = if one <= other { [one, other] } else { [other, one] };
        self.together.contains(&pair) || self.whole_of(one).is_some_and(|whole| whole.body.contains(&other))
    }

    /// How the engine moves; nothing until somebody says.
    #[must_use]
    pub const fn mounts(&self) -> Option<&Mounts> {
        self.mounts.as_ref()
    }

    /// What shakes the pipes that ride on the engine; `None` until somebody says.
    #[must_use]
    pub const fn firing(&self) -> Option<&EngineFiring> {
        self.firing.as_ref()
    }

    /// What was checked of tape and level.
    #[must_use]
    pub const fn instruments(&self) -> &InstrumentChecks {
        &self.instruments
    }

    /// One keep-out.
    #[must_use]
    pub fn keep_out(&self, id: KeepOutId) -> Option<&KeepOut> {
        self.keep_outs.iter().find(|keep_out| keep_out.id == id)
    }

    /// A job of nothing but one run, its ports typed where they were found.
    pub(crate) fn with_only(&self, run: &ResolvedRun) -> Self {
        let mut run = Run::clone(run);
        for end in [End::A, End::B] {
            let port = run.port_mut(end);
            (port.readings, port.neck) = (Vec::new(), None);
        }
        run.stubs = StubEnds::default();
        let (name, saw, next_id) = (self.name.clone(), self.saw.clone(), self.next_id);
        Self { runs: vec![run], next_id, instruments: self.instruments, ..Self::made_with(name, saw) }
    }

    /// Marks taken by runs.
    pub(crate) fn marks(&self) -> Vec<&Mark> {
        self.runs.iter().filter_map(|run| run.mark.as_ref()).collect()
    }

    /// Gives runs of older files the marks they had: up to three initials.
    fn mark_runs(&mut self) {
        for index in 0..self.runs.len() {
            if self.runs[index].mark.is_none() {
                let mark = Mark::proposed(self.runs[index].name.as_str(), 3, &self.marks());
                self.runs[index].mark = Some(mark);
            }
        }
    }

    /// The same, but that a run takes no route and keeps none, nor remembers how many bends it has had.
    #[must_use]
    pub fn without_routes_of(&self, id: RunId) -> Self {
        let mut job = self.clone();
        for run in job.runs.iter_mut().filter(|run| run.id == id) {
            let ends: Vec<_> = run.route.joints().iter().filter(|joint| joint.end().is_some()).cloned().collect();
            run.next_part = ends.iter().map(|joint| joint.id.0 + 1).max().unwrap_or(1);
            run.route = Route::undecided(ends);
            run.kept.clear();
        }
        job
    }

    /// Everything that has readings, with them.
    pub fn readings(&self) -> impl Iterator<Item = (Measurand, &[Reading])> {
        self.measured().map(|(of, _, readings)| (of, readings)).filter(|(_, readings)| !readings.is_empty())
    }

    /// Everything that can have readings, with its name.
    pub(crate) fn measured(&self) -> impl Iterator<Item = (Measurand, &str, &[Reading])> {
        let datums = self
            .datums
            .iter()
            .map(|datum| (Measurand::Datum { datum: datum.id }, datum.name.as_str(), datum.readings.as_slice()));
        let ends = self.runs.iter().flat_map(|run| [(run, End::A), (run, End::B)]);
        let ports = ends.map(|(run, end)| {
            let port = run.port(end);
            (Measurand::Port { port: PortRef { run: run.id, end } }, port.name.as_str(), port.readings.as_slice())
        });
        let keep_outs = self.keep_outs.iter().map(|keep_out| {
            let of = Measurand::KeepOut { keep_out: keep_out.id };
            (of, keep_out.name.as_str(), keep_out.readings.as_slice())
        });
        datums.chain(ports).chain(keep_outs)
    }

    /// What is in the way.
    #[must_use]
    pub fn keep_outs(&self) -> &[KeepOut] {
        &self.keep_outs
    }
}

impl TryFrom<Parts> for Job {
    type Error = Invalid;
    fn try_from(parts: Parts) -> Result<Self, Invalid> {
        let Parts {
            name,
            saw,
            runs,
            datums,
            components,
            openings,
            stance,
            together,
            mounts,
            firing,
            instruments,
            drills,
            keep_outs,
            next_id,
        } = parts;
        let mut job = Self {
            name,
            saw,
            runs,
            datums,
            components,
            openings,
            stance,
            together,
            mounts,
            firing,
            instruments,
            drills,
            keep_outs,
            next_id,
        };
        job.mark_runs();
        job.check()?;
        Ok(job)
    }
}

impl From<Job> for Parts {
    fn from(job: Job) -> Self {
        let Job {
            name,
            saw,
            runs,
            datums,
            components,
            openings,
            stance,
            together,
            mounts,
            firing,
            instruments,
            drills,
            keep_outs,
            next_id,
        } = job;
        Self {
            name,
            saw,
            runs,
            datums,
            components,
            openings,
            stance,
            together,
            mounts,
            firing,
            instruments,
            drills,
            keep_outs,
            next_id,
        }
    }
}

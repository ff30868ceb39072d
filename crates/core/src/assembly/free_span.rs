//! Stretches of a pipe between what holds it, and how they ring.

use super::{Assembly, Moves};
use crate::flow::fluid;
use crate::join::{ABOVE_FIRING, Beam, EngineFiring, JointKind, LEAST_ON_BODY, firing_frequency, firing_speed};
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::clearance::Rides;

/// A stretch of pipe that nothing holds between its two ends.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FreeSpan {
    /// Stations of its ends from A's mouth, in mm.
    pub stations: [f64; 2],
    /// What holds it there: a joint or a support.
    pub between: [PartRef; 2],
    /// Which beam it is of, from A: tube that only joints without give part.
    pub beam: usize,
    /// What it rides on.
    pub rides: Rides,
    /// Its first bending frequency in Hz.
    pub hz: f64,
    /// The least it is to have, in Hz; `None` where it rides on an engine of which nobody said how fast it turns.
    pub least: Option<f64>,
    /// Engine speed in rpm at which firing meets it; `None` likewise.
    pub rpm: Option<f64>,
    /// Whether one end of it is open: it stands out from the other.
    pub overhangs: bool,
    /// Whether that speed is passed through well below usual running.
    pub passed: bool,
}

impl FreeSpan {
    /// Its length along the pipe, in mm.
    #[must_use]
    pub fn length(&self) -> f64 {
        self.stations[1] - self.stations[0]
    }

    /// Whether it holds; `None` where that is not known.
    #[must_use]
    pub fn holds(&self) -> Option<bool> {
        self.least.map(|least| self.hz >= least || self.passed)
    }
}

/// A tube between two joints that give, with every joint that does not in it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BeamOfPipe {
    /// Its first and its last section.
    pub sections: [usize; 2],
    /// Stations of its ends from A's mouth, in mm.
    pub stations: [f64; 2],
    /// What it rides on.
    pub rides: Rides,
}

impl Assembly {
    /// Tubes between joints that give, from A: what bends as one.
    #[must_use]
    pub fn beams(&self, moves: &Moves) -> Vec<BeamOfPipe> {
        let sections = self.sections();
        let mut all: Vec<BeamOfPipe> = Vec::with_capacity(sections.len());
        for (section, stations) in sections.iter().enumerate() {
            let rides = moves.rides.get(section).copied().unwrap_or(Rides::Between);
            let one = section > 0 && self.joints[section].spec.give.is_none();
            match all.last_mut().filter(|_| one) {
                Some(beam) => {
                    beam.sections[1] = section;
                    beam.stations[1] = stations[1];
                }
                None => all.push(BeamOfPipe { sections: [section; 2], stations: *stations, rides }),
            }
        }
        all
    }

    /// Every stretch between two things that hold the pipe, from A; empty where what flows is not known. Source: handbook,
    /// "Joints, fittings, hoses and supports", Supports. Its length is taken along the pipe, bends too, and what is wrapped
    /// round it has no weight.
    #[must_use]
    pub fn free_spans(&self, run: &ResolvedRun, moves: &Moves, firing: Option<&EngineFiring>) -> Vec<FreeSpan> {
        let Some(bar) = self.beam_of(run).filter(|_| run.hose.is_none()) else { return Vec::new() };
        let mut all = Vec::new();
        for (index, beam) in self.beams(moves).into_iter().enumerate() {
            let [first, last] = beam.sections;
            let open = [first, last + 1].map(|joint| self.joints[joint].kind == JointKind::Open);
            let mut holders = vec![(beam.stations[0], self.joints[first].part(run))];
            let on = self.supports.iter().filter(|one| (beam.stations[0]..=beam.stations[1]).contains(&one.station));
            holders.extend(on.map(|one| (one.station, PartRef::Support { run: run.id, support: one.id })));
            holders.push((beam.stations[1], self.joints[last + 1].part(run)));
            let spans = holders.len() - 1;
            for (nth, pair) in holders.windows(2).enumerate() {
                let [(from, one), (to, other)] = [pair[0], pair[1]];
                let overhangs = (nth == 0 && open[0]) || (nth + 1 == spans && open[1]);
                // A joint that gives holds nothing out in the air, nor does another open end: that is told for itself.
                let gives = |joint: usize| !self.joints[joint].spec.give.is_none();
                let dangles =
                    spans == 1 && overhangs && (open[0] == open[1] || gives(if open[0] { last + 1 } else { first }));
                if to - from < 1.0 || dangles {
                    continue;
                }
                let hz = if overhangs { bar.overhang_frequency(to - from) } else { bar.frequency(to - from) };
                let judged = Judged::of(hz, beam.rides, firing);
                let Judged { least, rpm, passed } = judged;
                let (stations, between) = ([from, to], [one, other]);
                all.push(FreeSpan {
                    stations,
                    between,
                    beam: index,
                    rides: beam.rides,
                    hz,
                    least,
                    rpm,
                    overhangs,
                    passed,
                });
            }
        }
        all
    }

    /// Its tube as a beam; `None` where what flows in it is not known.
    #[must_use]
    pub fn beam_of(&self, run: &ResolvedRun) -> Option<Beam> {
        let bore = run.tube.od() - 2.0 * run.tube.wall();
        let flows = fluid(run.duty, &run.flow, run.bar(), bore).ok()?;
        let material = run.tube.material();
        Some(Beam {
            od: run.tube.od(),
            wall: run.tube.wall(),
            youngs_modulus: material.youngs_modulus(),
            density: material.density(),
            fluid: flows.density,
        })
    }
}

/// What is asked of the frequency of a span.
pub(crate) struct Judged {
    pub(crate) least: Option<f64>,
    rpm: Option<f64>,
    passed: bool,
}

impl Judged {
    pub(crate) fn of(hz: f64, rides: Rides, firing: Option<&EngineFiring>) -> Self {
        if rides != Rides::Engine {
            return Self { least: Some(LEAST_ON_BODY), rpm: None, passed: false };
        }
        let Some(firing) = firing else { return Self { least: None, rpm: None, passed: false } };
        let rpm = firing_speed(hz, firing.cylinders);
        // As far below the least usual speed as it is to be above the top.
        let passed = firing.least.is_some_and(|least| rpm * ABOVE_FIRING <= least.get());
        let least = ABOVE_FIRING * firing_frequency(firing.top.get(), firing.cylinders);
        Self { least: Some(least), rpm: Some(rpm), passed }
    }
}

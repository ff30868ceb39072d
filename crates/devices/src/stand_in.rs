//! An instrument that is not there: it reads what it is told to, with the faults of a real one.

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::{Distribution, Normal};

use crate::{Kind, Line};

/// How an instrument misbehaves.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Faults {
    /// Standard deviation of a reading, in mm or degrees.
    pub noise: f64,
    /// Share of readings that are far out: a hook that slipped, a cable in the way.
    pub outliers: f64,
    /// How far out those are, in mm or degrees.
    pub out_by: f64,
    /// Share of readings whose line never arrives.
    pub lost: f64,
    /// Share of readings whose line arrives cut off.
    pub cut: f64,
    /// Share of readings after which the connection breaks.
    pub drops: f64,
    /// Charge in percent that a reading takes.
    pub drain: f64,
}

impl Faults {
    /// None at all.
    pub const NONE: Self = Self { noise: 0.0, outliers: 0.0, out_by: 0.0, lost: 0.0, cut: 0.0, drops: 0.0, drain: 0.0 };

    /// What a tired one of its kind does.
    #[must_use]
    pub const fn usual(kind: Kind) -> Self {
        let (noise, out_by) = match kind {
            Kind::Tape => (1.0, 22.0),
            Kind::Gauge => (0.3, 8.0),
            Kind::Caliper => (0.03, 1.6),
            Kind::Feeler | Kind::Depth => (0.1, 2.5),
            // Nothing slips on a gauge; it wanders.
            Kind::Manometer => {
                return Self { noise: 0.004, lost: 0.03, cut: 0.02, drops: 0.01, drain: 0.05, ..Self::NONE };
            }
        };
        Self { noise, outliers: 0.06, out_by, lost: 0.05, cut: 0.03, drops: 0.02, drain: 0.7 }
    }
}

/// What becomes of a press of the button.
#[derive(Debug, Clone, PartialEq)]
pub enum Sent {
    /// A whole line.
    Line(String),
    /// The beginning of one.
    Cut(String),
    /// The connection breaks.
    Drop,
}

/// One stand-in. The same seed gives the same faults.
#[derive(Debug)]
pub struct StandIn {
    kind: Kind,
    faults: Faults,
    chance: StdRng,
    aim: Vec<f64>,
    count: u32,
    charge: f64,
    /// Seconds it has been there.
    clock: f64,
    /// When that was as it was aimed last, and what it has drifted by in bar a second since.
    aimed: (f64, f64),
}

/// Pressure of the air in bar, absolute zero in degrees below 0, and how well a thermometer is read in degrees.
const AMBIENT: f64 = 1.013;
const KELVIN: f64 = 273.15;
const WARMTH: f64 = 0.1;

/// Charge in percent at which a new battery is put in.
const CHANGED_AT: f64 = 3.0;

impl StandIn {
    /// A stand-in with a battery that is half used.
    #[must_use]
    pub fn new(kind: Kind, faults: Faults, seed: u64) -> Self {
        let aim = match kind {
            Kind::Tape => vec![500.0],
            Kind::Gauge => vec![0.0; 3],
            Kind::Caliper => vec![63.5],
            Kind::Feeler => vec![3.0],
            Kind::Depth => vec![0.0],
            Kind::Manometer => vec![1.5, 20.0, 0.005, 0.0, 1.0],
        };
        let chance = StdRng::seed_from_u64(seed);
        Self { kind, faults, chance, aim, count: 0, charge: 55.0, clock: 0.0, aimed: (0.0, 0.0) }
    }

    /// What it sends to somebody who connects.
    #[must_use]
    pub fn greeting(&self) -> [String; 2] {
        [Line::Hello { kind: self.kind }, self.battery()].map(|line| line.to_string())
    }

    /// Says what it would read if it were perfect. Too few figures leave the rest as they were. A manometer is told what it is shut in
    /// on: bar gauge, degrees Celsius, the leak in bar a minute, by how many degrees a minute it grows warmer, and how many times
    /// as fast as the clock its time goes.
    pub fn aim(&mut self, figures: &[f64]) {
        for (aim, figure) in self.aim.iter_mut().zip(figures) {
            *aim = *figure;
        }
        if !figures.is_empty() {
            let drift = Normal::new(0.0, self.faults.noise / 10.0 / 60.0);
            self.aimed = (self.clock, drift.map_or(0.0, |drift| drift.sample(&mut self.chance)));
        }
    }

    /// Says how many seconds it has been there.
    pub fn tick(&mut self, seconds: f64) {
        self.clock = seconds;
    }

    /// What a perfect one of its kind would read now, and by how much each figure is off by chance: one standard deviation.
    fn perfect(&self) -> Vec<(f64, f64)> {
        let noise = self.faults.noise;
        let (Kind::Manometer, &[bar, celsius, leak, warms, faster]) = (self.kind, &self.aim[..]) else {
            return self.aim.iter().map(|figure| (*figure, noise)).collect();
        };
        let (since, drift) = self.aimed;
        let seconds = (self.clock - since) * faster;
        let warm = celsius + warms * seconds / 60.0;
        // What is shut in leaks, and is pressed together as it grows warmer; it never sucks.
        let left = (bar - leak * seconds / 60.0).max(0.0) + AMBIENT;
        let shown = left * (warm + KELVIN) / (celsius + KELVIN) - AMBIENT + drift * seconds;
        vec![(seconds, 0.0), (shown, noise), (warm, if noise > 0.0 { WARMTH } else { 0.0 })]
    }

    /// Presses its button.
    pub fn press(&mut self) -> Vec<Sent> {
        let Faults { outliers, out_by, lost, cut, drops, drain, .. } = self.faults;
        // After the last number comes the first again.
        self.count = self.count.checked_add(1).unwrap_or(1);
        let before = self.charge;
        self.charge = if self.charge - drain < CHANGED_AT { 100.0 } else { self.charge - drain };
        let perfect = self.perfect();
        let read = perfect
            .into_iter()
            .map(|(figure, noise)| Normal::new(figure, noise).map_or(figure, |figure| figure.sample(&mut self.chance)));
        let mut figures: Vec<f64> = read.collect();
        if self.chance.random_bool(outliers) {
            let side = if self.chance.random_bool(0.5) { 1.0 } else { -1.0 };
            figures[0] += side * out_by * self.chance.random_range(0.7..1.5);
        }
        let line = Line::Read { count: self.count, kind: self.kind, figures }.to_string();
        let mut sent = Vec::new();
        if self.chance.random_bool(cut) {
            let at = self.chance.random_range(1..line.len() - 3);
            sent.push(Sent::Cut(line[..at].to_owned()));
        } else if !self.chance.random_bool(lost) {
            sent.push(Sent::Line(line));
        }
        // It tells of its battery when another ten percent are gone.
        if (before / 10.0).floor() > (self.charge / 10.0).floor() || self.charge > before {
            sent.push(Sent::Line(self.battery().to_string()));
        }
        if self.chance.random_bool(drops) {
            sent.push(Sent::Drop);
        }
        sent
    }

    fn battery(&self) -> Line {
        let percent = (0..=100_u8).rev().find(|percent| f64::from(*percent) <= self.charge).unwrap_or(0);
        Line::Battery { percent }
    }
}

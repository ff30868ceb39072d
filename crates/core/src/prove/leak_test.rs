//! Whether a closed pipe leaks more than it may, judged while it is watched.
//!
//! The gauge's readings, brought to one temperature, fall on a line; its slope is the leak. Whether that is that of a tight pipe, at half
//! the limit, or of one that leaks, at twice the limit, is decided by their likelihood ratio as soon as it is sure enough. Source: A. Wald,
//! Sequential tests of statistical hypotheses, Annals of Mathematical Statistics 16 (1945).

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::decay::{AMBIENT, KELVIN, sccm_a_litre};

/// One reading of a gauge on a closed pipe.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GaugeReading {
    /// Seconds by the gauge's own clock.
    pub seconds: f64,
    /// Gauge pressure in bar.
    pub bar: f64,
    /// Temperature of the gas in degrees Celsius.
    pub celsius: f64,
}

impl GaugeReading {
    /// Whether every figure is one that a gauge shows.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        (0.0..=1e7).contains(&self.seconds)
            && (-1.0..=60.0).contains(&self.bar)
            && (-40.0..=150.0).contains(&self.celsius)
    }
}

/// How well a gauge reads: one standard deviation each.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GaugeNoise {
    /// Of a reading, in bar.
    pub bar: f64,
    /// Of a reading, in degrees.
    pub celsius: f64,
    /// Of what it drifts, in bar a minute.
    pub drift: f64,
}

impl GaugeNoise {
    /// Of a digital gauge to 4 bar with a thermometer in the gas. Ours: a thousandth of its range, a tenth of a degree, and a tenth of its
    /// noise a minute.
    pub const USUAL: Self = Self { bar: 0.004, celsius: 0.1, drift: 0.0004 };
}

/// How a test stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// It is tight.
    Pass,
    /// It is not, or was not shown to be within the time.
    Fail,
    /// Not sure yet.
    Wait,
}

/// What was found so far.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Judged {
    /// How it stands.
    pub verdict: Verdict,
    /// The leak in standard cm3/min for each litre enclosed; `None` before there are enough readings.
    pub leak: Option<f64>,
    /// One standard deviation of that.
    pub spread: Option<f64>,
    /// From which reading on it was decided, counted from 0.
    pub decided: Option<usize>,
    /// Seconds more that it will take, about; 0 once it is decided.
    pub wait: f64,
    /// Whether it was not decided before its time was up.
    pub out_of_time: bool,
}

/// Standard cm3/min for each litre enclosed that a pipe may leak. Source: handbook, "Fit, weld, prove", Prove.
pub const MAY_LEAK: f64 = 20.0;
/// A tight pipe leaks at most this share of that, one that is not at least so many times.
const TIGHT: f64 = 0.5;
const LEAKY: f64 = 2.0;
/// Shares of wrong passes of pipes that leak twice, and of wrong fails of such as leak half of what they may, that are allowed here: half of what is
/// promised, since a verdict comes a little past the line.
const WRONG_PASS: f64 = 0.005;
const WRONG_FAIL: f64 = 0.01;
/// Every test is over after so many seconds.
pub const LONGEST: f64 = 1800.0;
/// Readings before which nothing is said.
const FEWEST: usize = 5;
/// Seconds in which the gas settles after it is shut in; what was read then does not count. Ours.
pub const SETTLES: f64 = 20.0;

/// Judges a test by its readings so far, in their order; `may_leak` in standard cm3/min for each litre.
#[must_use]
pub fn judge(readings: &[GaugeReading], noise: &GaugeNoise, may_leak: f64) -> Judged {
    let mut line = Line::default();
    let mut judged =
        Judged { verdict: Verdict::Wait, leak: None, spread: None, decided: None, wait: LONGEST, out_of_time: false };
    let Some(begun) = readings.first().map(|first| first.seconds) else { return judged };
    let Some(first) = readings.iter().find(|one| one.seconds - begun >= SETTLES) else { return judged };
    let mut warm = first.celsius;
    for (at, one) in readings.iter().enumerate().filter(|(_, one)| one.seconds - begun >= SETTLES) {
        // Its own mean temperature is what all are brought to; the first is as good to a hundredth.
        warm += 0.05 * (one.celsius - warm);
        let seconds = one.seconds - first.seconds;
        line.add(seconds, (one.bar + AMBIENT) * (first.celsius + KELVIN) / (one.celsius + KELVIN));
        if line.count < FEWEST {
            continue;
        }
        let Some((slope, unit_spread)) = line.slope() else { continue };
        let to_sccm = sccm_a_litre(first.celsius);
        let read = noise.bar.hypot((one.bar + AMBIENT) / (warm + KELVIN) * noise.celsius);
        let spread = (read * unit_spread).hypot(noise.drift / 60.0) * to_sccm;
        let leak = -slope * to_sccm;
        judged.leak = Some(leak);
        judged.spread = Some(spread);
        let [tight, leaky] = [TIGHT, LEAKY].map(|share| share * may_leak);
        let ratio = ((leak - tight).powi(2) - (leak - leaky).powi(2)) / (2.0 * spread * spread);
        let elapsed = one.seconds - begun;
        let verdict = if ratio <= (WRONG_PASS / (1.0 - WRONG_FAIL)).ln() {
            Verdict::Pass
        } else if ratio >= ((1.0 - WRONG_PASS) / WRONG_FAIL).ln() {
            Verdict::Fail
        } else if elapsed >= LONGEST {
            judged.out_of_time = true;
            Verdict::Fail
        } else {
            Verdict::Wait
        };
        if verdict != Verdict::Wait {
            judged.verdict = verdict;
            judged.decided = Some(at);
            judged.wait = 0.0;
            return judged;
        }
        judged.wait = more_seconds(&line, read, noise, (leaky - tight) / to_sccm).min(LONGEST - elapsed);
    }
    judged
}

/// Whether a gauge is good enough to tell within the time: what it drifts alone must not hide a leak.
#[must_use]
pub fn can_tell(noise: &GaugeNoise, may_leak: f64) -> bool {
    let apart = (LEAKY - TIGHT) * may_leak / sccm_a_litre(20.0);
    wanted_spread(apart) > noise.drift / 60.0 * MARGIN
}

/// Beside what drifts there must be room for what is read.
const MARGIN: f64 = 1.1;

/// The spread of a slope, in bar a second, with which slopes so far apart are told from each other on the mean.
fn wanted_spread(apart: f64) -> f64 {
    let sure = -(WRONG_PASS / (1.0 - WRONG_FAIL)).ln();
    apart / (2.0 * sure).sqrt()
}

/// Seconds more until a line through readings as they have come is known well enough, about.
fn more_seconds(line: &Line, read: f64, noise: &GaugeNoise, apart: f64) -> f64 {
    let [wanted, drift] = [wanted_spread(apart), noise.drift / 60.0];
    let left = (wanted * wanted - drift * drift).max(1e-18).sqrt();
    let count = line.length();
    // Of n readings over t seconds the spread of the slope is that of one, times the root of 12/n, over t; n grows with t.
    let every = line.span() / count;
    let needed = (12.0 * every * read * read / (left * left)).cbrt();
    (needed - line.span()).max(every)
}

/// Sums of a straight line through readings.
#[derive(Debug, Default)]
struct Line {
    count: usize,
    first: Option<f64>,
    last: f64,
    /// Means, and sums about them.
    mean: [f64; 2],
    across: f64,
    both: f64,
}

impl Line {
    fn add(&mut self, x: f64, y: f64) {
        self.count += 1;
        self.first.get_or_insert(x);
        self.last = x;
        let count = self.length();
        let dx = x - self.mean[0];
        self.mean[0] += dx / count;
        self.across += dx * (x - self.mean[0]);
        self.mean[1] += (y - self.mean[1]) / count;
        self.both += dx * (y - self.mean[1]);
    }

    fn length(&self) -> f64 {
        u32::try_from(self.count).map_or(f64::INFINITY, f64::from)
    }

    fn span(&self) -> f64 {
        (self.last - self.first.unwrap_or(self.last)).max(1e-3)
    }

    /// Its slope, and the spread of that for a spread of 1 of each reading; `None` while all are at one time.
    fn slope(&self) -> Option<(f64, f64)> {
        (self.across > 1e-9).then(|| (self.both / self.across, 1.0 / self.across.sqrt()))
    }
}

/// Judges a cold test with liquid: pumped up, it must hold for so many seconds with no drop beyond what the gauge reads to. Source:
/// handbook, "Fit, weld, prove", Prove.
#[must_use]
pub fn judge_liquid(readings: &[GaugeReading], noise: &GaugeNoise) -> Judged {
    let mut judged = Judged {
        verdict: Verdict::Wait,
        leak: None,
        spread: None,
        decided: None,
        wait: LIQUID_HOLDS,
        out_of_time: false,
    };
    let Some(first) = readings.first() else { return judged };
    let mut line = Line::default();
    for (at, one) in readings.iter().enumerate() {
        let seconds = one.seconds - first.seconds;
        line.add(seconds, one.bar);
        judged.wait = (LIQUID_HOLDS - seconds).max(0.0);
        let Some((slope, unit_spread)) = line.slope().filter(|_| line.count >= FEWEST) else { continue };
        // What it would be down by over the whole time, and how sure that is.
        let down = -slope * LIQUID_HOLDS;
        let spread = (noise.bar * unit_spread).hypot(noise.drift / 60.0) * LIQUID_HOLDS;
        let drops = down > noise.bar + SURE * spread;
        if drops || seconds >= LIQUID_HOLDS {
            judged.verdict = if drops { Verdict::Fail } else { Verdict::Pass };
            judged.decided = Some(at);
            judged.wait = 0.0;
            return judged;
        }
    }
    judged
}

/// Seconds that a test with liquid holds.
pub const LIQUID_HOLDS: f64 = 600.0;
/// Spreads beyond which a drop is one. Ours: it is looked at again and again.
const SURE: f64 = 4.0;

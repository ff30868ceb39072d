//! The highs and lows of a pipe's bore, where air or liquid stays.

use super::{Assembly, SeatedBranch};
use nook_geometry::Travel;

/// A place at which the bore's top line is highest, or its bottom line lowest, for some way to both sides.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BoreExtreme {
    /// Whether it is a high.
    pub high: bool,
    /// Station from A's mouth, in mm.
    pub station: f64,
    /// The nearest stations to both sides at which the line turns again or ends.
    pub between: [f64; 2],
    /// How high the top line, or the bottom line, is there, in mm over the vehicle's zero.
    pub level: f64,
}

/// A line turns where it goes back by more than this, in mm. Ours: what a hand levels a pipe to.
const TURNS: f64 = 2.0;
/// A bleed whose hole is so far below a high, in mm, still lets its air out. Ours: a bubble that small is swept along.
const BELOW_HIGH: f64 = 10.0;
/// A bleed whose way out leans from plumb by more than this, as a cosine, keeps air over it. Ours: 60 degrees.
const LEANS: f64 = 0.5;
/// Places along a bend at which the line is told; between them it is off by hundredths of a millimetre.
const ALONG_BEND: f64 = 48.0;

impl Assembly {
    /// The highs of the top line and the lows of the bottom line of a bore of `radius` mm, from A. What is highest or lowest at
    /// an end is the component's. Bends must not overlap. Source: handbook, "The sums", Flow.
    #[must_use]
    pub fn bore_extremes(&self, radius: f64) -> Vec<BoreExtreme> {
        let line = self.bore_line(radius);
        let side = |high: bool| {
            let sign = if high { 1.0 } else { -1.0 };
            let levels: Vec<(f64, f64)> =
                line.iter().map(|(station, [low, top])| (*station, sign * if high { *top } else { *low })).collect();
            peaks(&levels).into_iter().map(move |(station, level, between)| BoreExtreme {
                high,
                station,
                between,
                level: sign * level,
            })
        };
        let mut all: Vec<BoreExtreme> = side(true).chain(side(false)).collect();
        all.sort_by(|p, q| p.station.total_cmp(&q.station));
        all
    }

    /// The level of the bore's bottom and top at a station, in mm.
    #[must_use]
    pub fn bore_at(&self, station: f64, radius: f64) -> [f64; 2] {
        let line = self.bore_line(radius);
        let after = line.partition_point(|(at, _)| *at < station).clamp(1, line.len().max(2) - 1);
        let [(s0, a), (s1, b)] = [line[after - 1], line[after]];
        let share = if s1 > s0 { ((station - s0) / (s1 - s0)).clamp(0.0, 1.0) } else { 0.0 };
        [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share]
    }

    /// Stations with the level of the bore's bottom and top there; straight between them but in bends.
    fn bore_line(&self, radius: f64) -> Vec<(f64, [f64; 2])> {
        let level = |travel: &Travel| {
            let slope = travel.along.vector().z;
            let half = radius * (1.0 - slope * slope).max(0.0).sqrt();
            [travel.at.z - half, travel.at.z + half]
        };
        let mut travel = self.whole.setting_out();
        let mut station = 0.0;
        let mut line = vec![(0.0, level(&travel))];
        for step in self.whole.legs() {
            travel = travel.straight(step.straight).clocked(step.bend.rotation);
            station += step.straight;
            let mut k = 0.0;
            while k <= ALONG_BEND {
                let turned = step.bend.angle * k / ALONG_BEND;
                line.push((station + step.bend.radius * turned, level(&travel.bend(step.bend.radius, turned))));
                k += 1.0;
            }
            station += step.bend.length();
            travel = travel.bend(step.bend.radius, step.bend.angle);
        }
        line.push((station + self.whole.last(), level(&travel.straight(self.whole.last()))));
        line
    }
}

impl SeatedBranch {
    /// Whether it lets the air out of a high, or the liquid out of a low: what stays over its hole, or under it, is little.
    #[must_use]
    pub fn serves(&self, extreme: &BoreExtreme, pipe: &Assembly, radius: f64) -> bool {
        let [from, to] = extreme.between;
        let [low, top] = pipe.bore_at(self.station, radius);
        let hole = f64::midpoint(low, top) + radius * self.out.z;
        let (kind, stays, leans) = if extreme.high {
            (self.kind.lets_air_out(), extreme.level - hole, self.out.z)
        } else {
            (self.kind == crate::join::BranchKind::Drain, hole - extreme.level, -self.out.z)
        };
        kind && (from..=to).contains(&self.station) && stays <= BELOW_HIGH && leans >= LEANS
    }
}

/// Peaks of a line: station, level, and the stations to both sides where it turns again or ends.
fn peaks(line: &[(f64, f64)]) -> Vec<(f64, f64, [f64; 2])> {
    let mut all: Vec<(f64, f64, [f64; 2])> = Vec::new();
    let Some(first) = line.first().copied() else { return all };
    // The highest since the last low, and the lowest since the last high.
    let (mut high, mut low) = (first, first);
    let mut rising = false;
    for at in line.iter().copied() {
        if rising {
            if at.1 > high.1 + FLAT {
                high = at;
            } else if at.1 < high.1 - TURNS {
                // The middle of what is level there.
                let level = line.iter().filter(|one| (high.0..=at.0).contains(&one.0) && one.1 > high.1 - FLAT);
                let last = level.map(|one| one.0).fold(high.0, f64::max);
                all.push((f64::midpoint(high.0, last), high.1, [low.0, f64::INFINITY]));
                (rising, low) = (false, at);
            }
        } else if at.1 < low.1 {
            low = at;
        } else if at.1 > low.1 + TURNS {
            if let Some(before) = all.last_mut() {
                before.2[1] = low.0;
            }
            (rising, high) = (true, at);
        }
    }
    if let Some(last) = all.last_mut().filter(|last| last.2[1].is_infinite()) {
        last.2[1] = line.last().map_or(last.0, |last| last.0);
    }
    all
}

/// Levels nearer to each other than this, in mm, are one.
const FLAT: f64 = 0.05;

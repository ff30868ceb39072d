//! The outside of a pipe: its centre line with how thick it is all along, hose and clamps included.

use crate::clearance::{Span, Stretch};
use crate::geometry::{Path, Travel};
use crate::join::{JointKind, clamp_band};
use crate::measure::{End, EndForm, Side};
use crate::route::{PieCut, PieEnds, Settled};
use crate::units::SeamCount;

/// What a hose adds to the radius it sits on, in mm: four plies of silicone.
const HOSE: f64 = 5.0;
/// What a clamp adds, in mm: its band and, at one clock, its bolt.
const CLAMP: f64 = 12.0;
/// What a flange adds beyond the tube, in mm: the width of its face and bolts.
const FLANGE: f64 = 20.0;
/// Length of tube in mm beside which a flange stands.
const FLANGE_DEEP: f64 = 10.0;
/// Corners of mitred pies that stand out by less than this, in mm, are counted in all along.
const SMALL_CORNER: f64 = 0.15;

/// The pies of a bend: how many seams, and how they meet the straights.
pub(crate) type Pies = (SeamCount, PieEnds);

/// The skin of a pipe along `whole`, its path from mouth to mouth. `pies` says how each bend is made; one beyond them is
/// a true arc.
#[must_use]
pub(crate) fn skin(run: &Settled, whole: &Path, pies: &[Pies]) -> Vec<Stretch> {
    let outline = Outline::new(run, whole);
    let mut walk = Walk { outline: &outline, run, out: Vec::new() };
    let mut travel = whole.setting_out();
    let mut station = 0.0;
    for (index, leg) in whole.legs().iter().enumerate() {
        walk.straight(&travel, leg.straight, station);
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
        station += leg.straight;
        let to = station + leg.bend.length();
        match pies.get(index) {
            Some((seams, ends)) => {
                let cut = PieCut::new(run.tube.od(), leg.bend.radius, leg.bend.angle, *seams);
                walk.pies(&travel, leg.bend.radius, leg.bend.angle, &cut, *ends, [station, to]);
            }
            None => {
                let span = Span::arc(&travel, leg.bend.radius, leg.bend.angle);
                walk.add(span, outline.tube, [station, to]);
            }
        }
        travel = travel.bend(leg.bend.radius, leg.bend.angle);
        station = to;
    }
    walk.straight(&travel, whole.last(), station);
    walk.out
}

/// Where a pipe is thicker than its tube, and what rides on what.
struct Outline {
    tube: f64,
    /// Thicker radii between stations, the thickest last.
    thick: Vec<([f64; 2], f64)>,
    /// Stations where the joints of A and B end.
    joints: [f64; 2],
    /// Stations where the first straight ends and the last begins.
    leads: [f64; 2],
    /// What the tube rides on between the stations, and what it rides on outside them on each side.
    rides: (Side, [(f64, Side); 2]),
}

impl Outline {
    fn new(run: &Settled, whole: &Path) -> Self {
        let length = whole.length();
        let tube = run.tube.od() / 2.0 + run.insulation();
        let mut thick = Vec::new();
        for end in [End::A, End::B] {
            let (gap, need) = (run.gap(end), run.straight_needed(end));
            let from_end = |range: [f64; 2]| match end {
                End::A => range,
                End::B => [length - range[1], length - range[0]],
            };
            let wider = run.tube.od().max(run.port(end).od.get()) / 2.0;
            match run.joint(end).kind {
                JointKind::Coupler | JointKind::Reducer => {
                    thick.push((from_end([0.0, gap + need]), wider + HOSE));
                    thick.push((from_end(clamp_band().map(|s| s + gap)), run.tube.od() / 2.0 + CLAMP));
                }
                JointKind::Butt if run.port(end).form == EndForm::Flanged => {
                    thick.push((from_end([0.0, FLANGE_DEEP]), wider + FLANGE));
                }
                JointKind::Butt => {}
            }
        }
        thick.sort_by(|p, q| p.1.total_cmp(&q.1));
        let joints =
            [run.gap(End::A) + run.straight_needed(End::A), length - run.gap(End::B) - run.straight_needed(End::B)];
        let leads = [whole.legs().first().map_or(length, |leg| leg.straight), length - whole.last()];
        let own = [(run.gap(End::A), run.a.rides), (length - run.gap(End::B), run.b.rides)];
        Self { tube, thick, joints, leads, rides: (between_the_joints(run), own) }
    }

    fn radius(&self, station: f64, bare: f64) -> f64 {
        let here = self.thick.iter().filter(|(range, _)| (range[0]..=range[1]).contains(&station));
        here.map(|thick| thick.1).fold(bare, f64::max)
    }

    fn rides(&self, station: f64) -> Side {
        let (tube, [(a, on_a), (b, on_b)]) = self.rides;
        if station < a {
            on_a
        } else if station > b {
            on_b
        } else {
            tube
        }
    }

    fn joint(&self, station: f64) -> Option<End> {
        if station < self.joints[0] {
            Some(End::A)
        } else if station > self.joints[1] {
            Some(End::B)
        } else {
            None
        }
    }

    fn lead(&self, station: f64) -> Option<End> {
        if station < self.leads[0] {
            Some(End::A)
        } else if station > self.leads[1] {
            Some(End::B)
        } else {
            None
        }
    }

    /// Stations between `from` and `to` where something of this changes.
    fn breaks(&self, from: f64, to: f64) -> Vec<f64> {
        let edges = self.thick.iter().flat_map(|(range, _)| *range);
        let sides = self.rides.1.iter().map(|own| own.0);
        let mut all: Vec<f64> = edges.chain(sides).chain(self.joints).filter(|s| *s > from && *s < to).collect();
        all.push(from);
        all.push(to);
        all.sort_by(f64::total_cmp);
        all.dedup_by(|p, q| (*p - *q).abs() < 1e-9);
        all
    }
}

/// What the tube between the joints rides on: the engine's side reaches up to the first soft joint, so a tube with a
/// hose at the engine rides with the body, and one without rides with the engine.
fn between_the_joints(run: &Settled) -> Side {
    let engine = |end: End| run.port(end).rides == Side::Engine;
    let soft = |end: End| run.joint(end).kind.has_hose();
    match (engine(End::A), engine(End::B)) {
        (true, true) => Side::Engine,
        (false, false) => Side::Body,
        (at_a, _) => {
            let end = if at_a { End::A } else { End::B };
            if soft(end) { Side::Body } else { Side::Engine }
        }
    }
}

struct Walk<'a> {
    outline: &'a Outline,
    run: &'a Settled,
    out: Vec<Stretch>,
}

impl Walk<'_> {
    fn straight(&mut self, travel: &Travel, length: f64, station: f64) {
        if length <= 0.0 {
            return;
        }
        let breaks = self.outline.breaks(station, station + length);
        for pair in breaks.windows(2) {
            let span = Span::straight(&travel.straight(pair[0] - station), pair[1] - pair[0]);
            self.add(span, self.outline.tube, [pair[0], pair[1]]);
        }
    }

    fn add(&mut self, span: Span, bare: f64, stations: [f64; 2]) {
        let middle = f64::midpoint(stations[0], stations[1]);
        let outline = self.outline;
        self.out.push(Stretch {
            span,
            radius: outline.radius(middle, bare),
            rides: outline.rides(middle),
            stations,
            joint: outline.joint(middle),
            lead: outline.lead(middle),
        });
    }

    /// Mitred pies: the axis runs outside the arc and touches it at each pie's middle; at a seam the two tubes' corner
    /// stands out to `radius / cos(saw)`.
    fn pies(&mut self, start: &Travel, radius: f64, angle: f64, cut: &PieCut, ends: PieEnds, [from, to]: [f64; 2]) {
        let faces: Vec<f64> = {
            let mut seams = 1.0;
            let mut all = vec![if ends == PieEnds::Mitred { cut.saw } else { 0.0 }];
            while all.len() < 400 && all.last().is_some_and(|last| last + cut.seam_angle < angle + 1e-9) {
                all.push(all[0] + seams * cut.seam_angle);
                seams += 1.0;
            }
            all
        };
        let tube = self.outline.tube;
        let (corner, deep) = (tube / cut.saw.cos(), tube * cut.saw.tan());
        let bare = if corner - tube < SMALL_CORNER { corner } else { tube };
        let station = |turned: f64| from + (to - from) * (turned / angle).clamp(0.0, 1.0);
        let on_axis = |turned: f64| {
            let on_arc = start.bend(radius, turned);
            on_arc.at - on_arc.clock().into_inner() * cut.square_end_step
        };
        // From the tangent point on the straight's own axis to the first face, and back at the end.
        let mut points = vec![(start.at, 0.0)];
        points.extend(faces.iter().map(|face| (on_axis(*face), *face)));
        points.push((start.bend(radius, angle).at, angle));
        for pair in points.windows(2) {
            let span = Span::between(pair[0].0, pair[1].0);
            if span.length() > 1e-9 {
                self.add(span, bare, [station(pair[0].1), station(pair[1].1)]);
            }
        }
        if bare < corner {
            for face in faces {
                let at = start.bend(radius, face);
                let aside = at.along.vector() * deep;
                let middle = on_axis(face);
                self.add(Span::between(middle - aside, middle + aside), corner, [station(face); 2]);
            }
        }
        debug_assert!(self.run.tube.od() > 0.0);
    }
}

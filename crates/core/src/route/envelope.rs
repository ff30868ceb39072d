//! The outside of a pipe: its centre line with how thick it is all along, and the hoses, clamps and flanges over it.

use crate::join::{JointKind, clamp_band};
use crate::measure::{End, EndForm};
use crate::route::{PieCut, PieEnds, ResolvedRun, usual_seams};
use nook_geometry::clearance::{Envelope, EnvelopePart, Rides, Span};
use nook_geometry::units::SeamCount;
use nook_geometry::{Path, Travel};

/// What a hose adds to the radius it sits on, in mm: four plies of silicone.
pub const HOSE: f64 = 5.0;
/// What a clamp adds, in mm: its band and, at one clock, its bolt.
const CLAMP: f64 = 12.0;
/// What a flange adds beyond the tube, in mm: the width of its face and bolts.
const FLANGE: f64 = 20.0;
/// Length of tube in mm beside which a flange stands.
const FLANGE_DEEP: f64 = 10.0;
/// Corners of mitred pies that stand out by less than this, in mm, are counted in all along.
const SMALL_CORNER: f64 = 0.15;

/// The pies of a bend: how many seams, and how they meet the straights.
pub type Pies = (SeamCount, PieEnds);

/// The outside of a pipe along `whole`, its path from mouth to mouth. `pies` says how each bend is made; one beyond them
/// is a true arc.
#[must_use]
pub fn envelope_of(run: &ResolvedRun, whole: &Path, pies: &[Pies]) -> Envelope {
    let rides = Riding::new(run, whole.length());
    let mut walk =
        Walk { rides: &rides, tube: run.tube.od() / 2.0 + run.insulation(), out: Vec::new(), over: Vec::new() };
    let mut travel = whole.setting_out();
    let mut station = 0.0;
    let mut straights = Vec::new();
    for (index, leg) in whole.legs().iter().enumerate() {
        straights.push((travel, station, leg.straight));
        walk.straight(&travel, leg.straight, station);
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
        station += leg.straight;
        let to = station + leg.bend.length();
        match pies.get(index) {
            Some((seams, ends)) => {
                let cut = PieCut::new(run.tube.od(), leg.bend.radius, leg.bend.angle, *seams, *ends);
                walk.pies(&travel, leg.bend.radius, leg.bend.angle, &cut, *ends, [station, to]);
            }
            None => {
                let span = Span::arc(&travel, leg.bend.radius, leg.bend.angle);
                walk.add(span, walk.tube, [station, to]);
            }
        }
        travel = travel.bend(leg.bend.radius, leg.bend.angle);
        station = to;
    }
    straights.push((travel, station, whole.last()));
    walk.straight(&travel, whole.last(), station);
    for (range, radius) in thick(run, whole.length()) {
        for (travel, start, length) in &straights {
            walk.over(travel, [range[0].max(*start), range[1].min(start + length)], *start, radius);
        }
    }
    Envelope::new(&walk.out, walk.over, whole.length())
}

/// How the bends of a run's way are made: as was chosen, else pies of the usual count with mitred ends.
#[must_use]
pub fn makes(run: &ResolvedRun, whole: &Path) -> Vec<Pies> {
    let specs = run.way.as_ref().map_or(&[][..], |way| way.bends());
    let each = whole.legs().iter().enumerate().map(|(bend, leg)| {
        let spec = specs.get(bend).copied().unwrap_or_default();
        let seams = spec.seams.unwrap_or_else(|| usual_seams(run.tube, leg.bend.radius, leg.bend.angle));
        (seams, spec.ends)
    });
    each.collect()
}

/// Where a pipe is thicker than its tube, in stations, and its radius there in mm.
fn thick(run: &ResolvedRun, length: f64) -> Vec<([f64; 2], f64)> {
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
    thick
}

/// What the parts of a pipe ride on.
struct Riding {
    tube: Rides,
    /// Where the gaps of A and B end, in stations, and what is in them.
    gaps: [(f64, Rides); 2],
}

impl Riding {
    fn new(run: &ResolvedRun, length: f64) -> Self {
        let tube = rides(run);
        let gap = |end: End| {
            let port = Rides::from(run.port(end).rides);
            // The hose between port and tube bends as they move against each other.
            (run.gap(end), if port == tube { port } else { Rides::Between })
        };
        let ((a, in_a), (b, in_b)) = (gap(End::A), gap(End::B));
        Self { tube, gaps: [(a, in_a), (length - b, in_b)] }
    }

    fn at(&self, station: f64) -> Rides {
        let [(a, in_a), (b, in_b)] = self.gaps;
        if station < a {
            in_a
        } else if station > b {
            in_b
        } else {
            self.tube
        }
    }

    /// `from`, `to` and the stations between them where this changes.
    fn breaks(&self, from: f64, to: f64) -> Vec<f64> {
        let mut all = vec![from];
        all.extend(self.gaps.iter().map(|gap| gap.0).filter(|s| *s > from + 1e-9 && *s < to - 1e-9));
        all.push(to);
        all.sort_by(f64::total_cmp);
        all
    }
}

/// What the tube between the joints of a run rides on: one without a joint that gives goes with that side; between two
/// that give, from engine to body, it may take any share of the movement.
#[must_use]
pub fn rides(run: &ResolvedRun) -> Rides {
    let side = |end: End| run.port(end).rides;
    if side(End::A) == side(End::B) {
        return side(End::A).into();
    }
    let stiff = [End::A, End::B].map(|end| !run.joint(end).kind.has_hose());
    match stiff {
        [true, false] => side(End::A).into(),
        [false, true] => side(End::B).into(),
        // Metal on both sides gives nowhere; until that is mended it is somewhere between.
        [true, true] | [false, false] => Rides::Between,
    }
}

struct Walk<'a> {
    rides: &'a Riding,
    tube: f64,
    out: Vec<EnvelopePart>,
    over: Vec<EnvelopePart>,
}

impl Walk<'_> {
    fn straight(&mut self, travel: &Travel, length: f64, station: f64) {
        if length <= 0.0 {
            return;
        }
        for pair in self.rides.breaks(station, station + length).windows(2) {
            let span = Span::straight(&travel.straight(pair[0] - station), pair[1] - pair[0]);
            self.add(span, self.tube, [pair[0], pair[1]]);
        }
    }

    fn stretch(&self, span: Span, radius: f64, stations: [f64; 2]) -> EnvelopePart {
        let rides = self.rides.at(f64::midpoint(stations[0], stations[1]));
        EnvelopePart { span, radius, rides, stations, square: [false; 2] }
    }

    fn add(&mut self, span: Span, radius: f64, stations: [f64; 2]) {
        self.out.push(self.stretch(span, radius, stations));
    }

    /// What stands out between two stations on a straight that begins at `start`.
    fn over(&mut self, travel: &Travel, [from, to]: [f64; 2], start: f64, radius: f64) {
        if to <= from {
            return;
        }
        for pair in self.rides.breaks(from, to).windows(2) {
            let span = Span::straight(&travel.straight(pair[0] - start), pair[1] - pair[0]);
            let stretch = self.stretch(span, radius, [pair[0], pair[1]]);
            self.over.push(EnvelopePart { square: [true; 2], ..stretch });
        }
    }

    /// Pies: mitred, the axis runs outside the arc and touches it at each pie's middle; square, its seams lie on it. At a seam the two tubes' corner
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
        let tube = self.tube;
        let (corner, deep) = (tube / cut.saw.cos(), tube * cut.saw.tan());
        let bare = if corner - tube < SMALL_CORNER { corner } else { tube };
        let station = |turned: f64| from + (to - from) * (turned / angle).clamp(0.0, 1.0);
        let on_axis = |turned: f64| {
            let on_arc = start.bend(radius, turned);
            on_arc.at - on_arc.clock().into_inner() * cut.outside
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
                let span = Span::between(middle - aside, middle + aside);
                self.over.push(self.stretch(span, corner, [station(face); 2]));
            }
        }
    }
}

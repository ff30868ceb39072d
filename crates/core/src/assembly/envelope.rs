//! The outside of a pipe: its centre line with how thick it is all along, and the hoses, clamps and flanges over it.

use super::moves::{floats_between_ports, hose_rides};
use super::{Assembly, Moves, Over};
use crate::join::{HOSE, OverKind};
use crate::measure::End;
use crate::route::{Joint, PieCut, ResolvedMake, ResolvedRun};
use nook_geometry::clearance::{Envelope, EnvelopePart, Rides, Span};
use nook_geometry::{Arc, Travel};

/// Corners of mitred pies that stand out by less than this, in mm, are counted in all along.
const SMALL_CORNER: f64 = 0.15;

impl Assembly {
    /// The outside of the pipe, from mouth to mouth.
    #[must_use]
    pub fn envelope(&self, run: &ResolvedRun) -> Envelope {
        self.envelope_moving(run, &self.moves(run))
    }

    /// The same where it is known how its sections move.
    #[must_use]
    pub fn envelope_moving(&self, run: &ResolvedRun, moves: &Moves) -> Envelope {
        let whole = &self.whole;
        let rides = Riding::new(run, self, moves);
        let bare = run.tube.od() / 2.0;
        let mut walk = Walk { rides: &rides, tube: bare, out: Vec::new(), over: Vec::new() };
        let mut travel = whole.setting_out();
        let mut station = 0.0;
        let mut straights = Vec::new();
        for (index, (leg, make)) in whole.legs().iter().zip(&self.makes).enumerate() {
            straights.push((travel, station, leg.straight));
            walk.tube = bare + self.legs_wrapped[index];
            walk.straight(&travel, leg.straight, station);
            travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
            station += leg.straight;
            let to = station + leg.bend.length();
            walk.tube = bare + self.bends_wrapped[index];
            match make {
                ResolvedMake::Pies { cut, .. } | ResolvedMake::KitPies { cut, .. } => {
                    walk.pies(&travel, &leg.bend, cut, [station, to]);
                }
                // What is wrapped round a hose is wrapped round the hose.
                ResolvedMake::Drawn | ResolvedMake::Elbow(_) | ResolvedMake::Moulded => {
                    if *make == ResolvedMake::Moulded {
                        walk.tube += HOSE;
                    }
                    walk.add(Span::arc(&travel, leg.bend.radius, leg.bend.angle), walk.tube, [station, to]);
                }
            }
            travel = travel.bend(leg.bend.radius, leg.bend.angle);
            station = to;
        }
        straights.push((travel, station, whole.last()));
        walk.tube = bare + self.legs_wrapped.last().copied().unwrap_or(0.0);
        walk.straight(&travel, whole.last(), station);
        // A moulded elbow is the arc itself.
        for over in self.over(run).into_iter().filter(|over| over.what != OverKind::Elbow) {
            let (travel, start, _) = &straights[over.leg];
            walk.over(travel, &over, *start);
        }
        Envelope::new(&walk.out, walk.over, whole.length())
    }
}

/// What the parts of a pipe ride on: section, gap, section, and so on.
struct Riding {
    /// Where each part ends, in stations, what it rides on, and by how much in mm it may lie beside that.
    parts: Vec<(f64, Rides, f64)>,
}

impl Riding {
    fn new(run: &ResolvedRun, pipe: &Assembly, moves: &Moves) -> Self {
        let outer = [End::A, End::B].map(|end| run.mouth_rides(end));
        if run.hose.is_some() {
            // What its ends hold straight goes with them.
            let held = [End::A, End::B].map(|end| if run.is_open(end) { 0.0 } else { run.straight_needed(end) });
            let between = hose_rides(run);
            let to = [held[0], pipe.whole.length() - held[1], f64::INFINITY];
            let rides = [
                if held[0] > 0.0 { outer[0] } else { between },
                between,
                if held[1] > 0.0 { outer[1] } else { between },
            ];
            return Self { parts: to.into_iter().zip(rides).map(|(to, rides)| (to, rides, 0.0)).collect() };
        }
        let mut parts = Vec::with_capacity(3 * pipe.joints.len());
        for (index, joint) in pipe.joints.iter().enumerate() {
            let [from, to] = joint.gap();
            let before = index.checked_sub(1).map_or(outer[0], |section| moves.rides[section]);
            let after = moves.rides.get(index).copied().unwrap_or(outer[1]);
            let swing = index.checked_sub(1).map_or(0.0, |section| moves.swings(section));
            parts.push((from, before, swing));
            let swing = swing.max(moves.swings(index));
            if before == after {
                parts.push((to, before, swing));
            } else if [before, after].contains(&Rides::Between) {
                parts.push((to, Rides::Between, swing));
            } else {
                // A joint bends as its two sides move: each half goes with its side, beside it by no more than half of
                // what parts the two there.
                let give = joint.spec.give;
                let beside = give.offset.hypot(give.axial) / 2.0;
                parts.push((f64::midpoint(from, to), before, beside));
                parts.push((to, after, beside));
            }
        }
        parts.push((f64::INFINITY, outer[1], 0.0));
        Self { parts }
    }

    fn at(&self, station: f64) -> (Rides, f64) {
        let part = self.parts.iter().find(|(to, ..)| station <= *to);
        part.map_or((Rides::Between, 0.0), |(_, rides, beside)| (*rides, *beside))
    }

    /// `from`, `to` and the stations between them where this changes.
    fn breaks(&self, from: f64, to: f64) -> Vec<f64> {
        let mut all = vec![from];
        all.extend(self.parts.iter().map(|part| part.0).filter(|s| *s > from + 1e-9 && *s < to - 1e-9));
        all.push(to);
        all.sort_by(f64::total_cmp);
        all
    }
}

/// What the tube of a run rides on as far as its ends tell, for whoever looks for a way before there is one: its side where
/// both ports ride on one, the side that metal ties it to where it does at one end; else, in one section, as its two joints let
/// it, which is the same whatever way it goes; and in several anything between.
#[must_use]
pub fn rides(run: &ResolvedRun) -> Rides {
    if run.hose.is_some() {
        return hose_rides(run);
    }
    let side = |end: End| run.port(end).rides;
    let mut fixed = run.route.supports().iter().filter(|support| support.kind.fixes());
    let open = [End::A, End::B].map(|end| run.is_open(end));
    if let Some(at) = match open {
        [true, true] => return Rides::Between,
        [true, false] => Some(End::B),
        [false, true] => Some(End::A),
        [false, false] => None,
    } {
        // Held at one end: it goes with that, if nothing between lets it do otherwise.
        let gives = run.route.joints().iter().any(|joint| !joint.spec(run.tube.od()).give.is_none());
        let elsewhere = fixed.any(|support| support.to != side(at));
        return if gives || elsewhere { Rides::Between } else { side(at).into() };
    }
    if side(End::A) == side(End::B) {
        return if fixed.all(|support| support.to == side(End::A)) { side(End::A).into() } else { Rides::Between };
    }
    // A joint that does not give parts nothing that moves.
    let gives = |joint: &Joint| !joint.spec(run.tube.od()).give.is_none();
    let held = fixed.next().is_some();
    let parted = held || run.route.joints().iter().any(|joint| joint.end().is_none() && gives(joint));
    let tied = |end: End| !gives(run.joint(end));
    match (tied(End::A), tied(End::B)) {
        (true, false) if !parted => side(End::A).into(),
        (false, true) if !parted => side(End::B).into(),
        _ if parted => Rides::Between,
        _ => floats_between_ports(run).map_or(Rides::Between, Rides::Floats),
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
        let (rides, beside) = self.rides.at(f64::midpoint(stations[0], stations[1]));
        EnvelopePart { span, radius: radius + beside, rides, stations, square: [false; 2] }
    }

    fn add(&mut self, span: Span, radius: f64, stations: [f64; 2]) {
        self.out.push(self.stretch(span, radius, stations));
    }

    /// What stands out between two stations on a straight that begins at `start`.
    fn over(&mut self, travel: &Travel, over: &Over, start: f64) {
        let [from, to] = over.stations;
        if matches!(over.what, OverKind::Branch | OverKind::Fitting) {
            let span = Span::between(over.from.into(), over.to.into());
            let middle = f64::midpoint(from, to);
            let stretch = self.stretch(span, over.radius, [middle; 2]);
            // The chords of a fitting's bend meet at an angle.
            let square = [over.what == OverKind::Branch; 2];
            self.over.push(EnvelopePart { square, stations: [from, to], ..stretch });
            return;
        }
        let mut travel = *travel;
        travel.at += over.aside;
        if to <= from {
            return;
        }
        for pair in self.rides.breaks(from, to).windows(2) {
            let span = Span::straight(&travel.straight(pair[0] - start), pair[1] - pair[0]);
            let stretch = self.stretch(span, over.radius, [pair[0], pair[1]]);
            self.over.push(EnvelopePart { square: [true; 2], ..stretch });
        }
    }

    /// Pies: mitred, the axis runs outside the arc and touches it at each pie's middle; square, its seams lie on it. At a seam the two tubes' corner
    /// stands out to `radius / cos(saw)`.
    fn pies(&mut self, start: &Travel, arc: &Arc, cut: &PieCut, [from, to]: [f64; 2]) {
        let tube = self.tube;
        let (corner, deep) = (tube / cut.saw.cos(), tube * cut.saw.tan());
        let bare = if corner - tube < SMALL_CORNER { corner } else { tube };
        let station = |turned: f64| from + (to - from) * (turned / arc.angle).clamp(0.0, 1.0);
        // From the tangent point on the straight's own axis to the first face, and back at the end.
        let mut points = vec![(start.at, 0.0)];
        points.extend(cut.faces().map(|face| (cut.face(start, arc, face).at, face)));
        points.push((start.bend(arc.radius, arc.angle).at, arc.angle));
        for pair in points.windows(2) {
            let span = Span::between(pair[0].0, pair[1].0);
            if span.length() > 1e-9 {
                self.add(span, bare, [station(pair[0].1), station(pair[1].1)]);
            }
        }
        if bare < corner {
            for face in cut.faces() {
                let there = cut.face(start, arc, face);
                let aside = there.along.vector() * deep;
                let span = Span::between(there.at - aside, there.at + aside);
                self.over.push(self.stretch(span, corner, [station(face); 2]));
            }
        }
    }
}

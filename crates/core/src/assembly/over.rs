//! What stands out over a pipe's tube: hoses, clamps, flanges, supports and branches.

use serde::Serialize;
use utoipa::ToSchema;

use super::{Assembly, SeatedJoint};
use crate::join::{CLAMP, FLANGE, FLANGE_DEEP, HOSE, JointKind, OverKind, SCREW_OUT, Screw, clamp_band};
use crate::measure::{End, EndForm};
use crate::part_ref::PartRef;
use crate::route::{FittedBar, ResolvedRun};
use nook_geometry::{Triple, Vector};

/// Something over the tube, as a round bar: what is cleared is what is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Over {
    /// What it is.
    pub what: OverKind,
    /// The joint or support it belongs to.
    pub of: PartRef,
    /// Its radius in mm.
    pub radius: f64,
    /// Middle of its end nearer A, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// Middle of its other end.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// Which section it goes with as that moves, counted from A.
    pub section: usize,
    /// On which leg it is, from 0 at A.
    #[serde(skip)]
    pub leg: usize,
    /// Stations from A's mouth, in mm.
    #[serde(skip)]
    pub stations: [f64; 2],
    /// From the centre line to its middle, in mm.
    #[serde(skip)]
    pub aside: Vector,
}

/// Length in mm of a V-band's bolt or a latch along the pipe. Ours: as a hose's clamp is wide.
const SCREW_LONG: f64 = 14.0;

/// A moulded elbow is shown in chords of so many radians at most.
const CHORD: f64 = 0.1;

/// A bar along the pipe: round it, or beside its centre line towards a clock.
struct Band {
    what: OverKind,
    of: PartRef,
    stations: [f64; 2],
    radius: f64,
    /// How far its middle is from the centre line, in mm, and at which clock, in degrees from up.
    aside: Option<(f64, f64)>,
}

impl Assembly {
    /// Everything that stands out over the tube, from mouth to mouth; what reaches into a bend ends where that begins.
    #[must_use]
    pub fn over(&self, run: &ResolvedRun) -> Vec<Over> {
        let bands = self.bands(run);
        let mut all = self.elbows(run);
        let mut travel = self.whole.setting_out();
        let mut start = 0.0;
        for (leg, straight) in self.whole.straights().enumerate() {
            // Clocks count from up, whatever bends came before.
            let up = travel.upright();
            for band in &bands {
                let stations = [band.stations[0].max(start), band.stations[1].min(start + straight)];
                if stations[1] > stations[0] {
                    let aside = band.aside.map(|(by, clock)| up.at_clock(clock.to_radians()).into_inner() * by);
                    let aside = aside.unwrap_or_default();
                    let [from, to] =
                        stations.map(|station| (travel.straight(station - start).at + aside).coords.into());
                    let (what, of, radius) = (band.what, band.of, band.radius);
                    let section = self.section_at(f64::midpoint(stations[0], stations[1]));
                    all.push(Over { what, of, radius, from, to, section, leg, stations, aside });
                }
            }
            if let Some(step) = self.whole.legs().get(leg) {
                travel = travel.straight(straight).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
                start += straight + step.bend.length();
            }
        }
        all.extend(self.branches.iter().map(|branch| Over {
            what: OverKind::Branch,
            of: PartRef::Branch { run: run.id, branch: branch.id },
            radius: branch.od / 2.0,
            from: branch.at.coords.into(),
            to: branch.tip().coords.into(),
            section: self.section_at(branch.station),
            leg: branch.leg,
            stations: branch.hole(),
            aside: Vector::zeros(),
        }));
        all.extend([End::A, End::B].into_iter().flat_map(|end| self.fitting(run, end)));
        all
    }

    /// Moulded elbows round the bends whose place they take.
    fn elbows(&self, run: &ResolvedRun) -> Vec<Over> {
        let mut all = Vec::new();
        let mut travel = self.whole.setting_out();
        let mut start = 0.0;
        for (bend, step) in self.whole.legs().iter().enumerate() {
            let arc = step.bend;
            let setting_in = travel.straight(step.straight).clocked(arc.rotation);
            start += step.straight;
            if let Some(joint) = self.joint_in_bend(bend) {
                let count = (arc.angle / CHORD).ceil().max(1.0);
                let each = arc.angle / count;
                let mut chord = 0.0;
                while chord < count {
                    let turned = [chord * each, (chord + 1.0) * each];
                    let [from, to] = turned.map(|angle| setting_in.bend(arc.radius, angle).at.coords.into());
                    let stations = turned.map(|angle| start + arc.radius * angle);
                    all.push(Over {
                        what: OverKind::Elbow,
                        of: joint.part(run),
                        radius: run.tube.od() / 2.0 + HOSE,
                        from,
                        to,
                        section: self.section_at(f64::midpoint(stations[0], stations[1])),
                        leg: bend,
                        stations,
                        aside: Vector::zeros(),
                    });
                    chord += 1.0;
                }
            }
            travel = setting_in.bend(arc.radius, arc.angle);
            start += arc.length();
        }
        all
    }

    /// The fitting at an end of a hose, from its seat to where the hose is cut, which is beyond the stations of its centre
    /// line.
    fn fitting(&self, run: &ResolvedRun, end: End) -> Vec<Over> {
        let Some(fitted) = run.fitted(end) else { return Vec::new() };
        let (length, whole) = (fitted.length(), self.whole.length());
        let legs = self.whole.legs().len();
        // From A on: at B that is back from where the hose is cut.
        let towards = |bar: &FittedBar| if end == End::A { bar.ends } else { [bar.ends[1], bar.ends[0]] };
        let bar = |bar: FittedBar| Over {
            what: OverKind::Fitting,
            of: PartRef::End { run: run.id, end },
            radius: bar.radius,
            from: towards(&bar)[0].coords.into(),
            to: towards(&bar)[1].coords.into(),
            section: 0,
            leg: if end == End::A { 0 } else { legs },
            stations: match end {
                End::A => bar.along.map(|along| along - length),
                End::B => [whole + length - bar.along[1], whole + length - bar.along[0]],
            },
            aside: Vector::zeros(),
        };
        fitted.bars().into_iter().map(bar).collect()
    }

    /// The section nearest to a station.
    fn section_at(&self, station: f64) -> usize {
        let off = |[from, to]: [f64; 2]| (from - station).max(station - to).max(0.0);
        let each = self.sections().into_iter().map(off).enumerate();
        each.min_by(|p, q| p.1.total_cmp(&q.1)).map_or(0, |(section, _)| section)
    }

    fn bands(&self, run: &ResolvedRun) -> Vec<Band> {
        let mut all = Vec::new();
        for joint in &self.joints {
            joint_bands(run, joint, &mut all);
        }
        for (leg, station) in self.hose_meetings(run) {
            insert_bands(run, leg, station, &mut all);
        }
        for support in &self.supports {
            all.push(Band {
                what: OverKind::Support,
                of: PartRef::Support { run: run.id, support: support.id },
                stations: support.reach(),
                radius: run.tube.od() / 2.0 + support.kind.stands_out(),
                aside: None,
            });
        }
        all
    }
}

/// The two clamps over an insert where moulded pieces of a hose meet, their screws at any clock.
fn insert_bands(run: &ResolvedRun, leg: usize, station: f64, all: &mut Vec<Band>) {
    let of = PartRef::Straight { run: run.id, straight: run.route.leg_id(leg) };
    let (inside, [near, far]) = (run.tube.bore() / 2.0, clamp_band());
    for stations in [[station - far, station - near], [station + near, station + far]] {
        let mut band = |what, radius| all.push(Band { what, of, stations, radius, aside: None });
        band(OverKind::Clamp, inside + CLAMP);
        band(OverKind::Screw, inside + SCREW_OUT);
    }
}

fn joint_bands(run: &ResolvedRun, joint: &SeatedJoint, all: &mut Vec<Band>) {
    let tube = run.tube.od() / 2.0;
    let (of, [from, to]) = (joint.part(run), joint.gap());
    let mut band = |what: OverKind, stations: [f64; 2], radius: f64| {
        all.push(Band { what, of, stations, radius, aside: None });
    };
    for ring in &joint.spec.rings {
        let hose = if joint.kind.has_hose() { joint.widest / 2.0 } else { tube };
        band(ring.what, [from - ring.beyond, to + ring.beyond], hose + ring.out);
    }
    // Where the screw sits along the pipe; each clamp of a hose has its own.
    let mut screws: Vec<[f64; 2]> = Vec::new();
    if joint.kind.has_hose() {
        band(OverKind::Hose, joint.reach(), joint.widest / 2.0 + HOSE);
        let [near, far] = clamp_band();
        // A port's own clamp is on the port.
        let before = (joint.end != Some(End::A)).then_some([from - far, from - near]);
        let after = (joint.end != Some(End::B)).then_some([to + near, to + far]);
        for stations in before.into_iter().chain(after) {
            band(OverKind::Clamp, stations, tube + CLAMP);
            screws.push(stations);
        }
    } else if joint.kind == JointKind::HoseEnd {
        if let Some(fitted) = joint.end.and_then(|end| run.fitted(end)) {
            let long = fitted.dash.socket();
            let stations = if joint.end == Some(End::A) { [to, to + long] } else { [from - long, from] };
            band(OverKind::Fitting, stations, fitted.dash.socket_radius());
        }
    } else if joint.kind == JointKind::Metal {
        let flanged = joint.end.filter(|end| run.port(*end).form == EndForm::Flanged);
        let stations = match flanged {
            Some(End::A) => [0.0, FLANGE_DEEP],
            Some(End::B) => [to - FLANGE_DEEP, to],
            None => return,
        };
        band(OverKind::Flange, stations, joint.widest / 2.0 + FLANGE);
    } else {
        let half = SCREW_LONG / 2.0;
        screws.push([joint.middle - half, joint.middle + half]);
    }
    if let Some(screw) = joint.spec.screw {
        for stations in screws {
            all.push(screw_band(joint, &screw, of, stations, tube));
        }
    }
}

/// A screw as a round bar as wide as it takes of the girth, out to where it ends; all round while its clock is open.
fn screw_band(joint: &SeatedJoint, screw: &Screw, of: PartRef, stations: [f64; 2], tube: f64) -> Band {
    let radius = screw.girth / 2.0;
    match joint.clock {
        Some(clock) => {
            let aside = Some(((tube + screw.out - radius).max(0.0), clock));
            Band { what: OverKind::Screw, of, stations, radius, aside }
        }
        None => Band { what: OverKind::Screw, of, stations, radius: tube + screw.out, aside: None },
    }
}

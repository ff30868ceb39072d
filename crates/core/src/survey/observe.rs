//! Readings as observations of the sums, with what they lean on worked out.

use nalgebra::{Matrix3, Point3, Unit};

use super::{Known, Survey, measured_od};
use crate::measure::estimate::{Kind, Leans, LeverArm, Observation, Rim};
use crate::measure::{Against, Anchor, Axis, Measurand, Reading, RimSide, Spot, SpreadUnit, Taken};
use nook_geometry::Vector;

impl Survey<'_> {
    /// A reading of a thing, taken or not yet, as the sum sees it.
    #[must_use]
    pub fn sight(&self, of: Measurand, index: usize, reading: &Reading) -> Option<Observation> {
        self.sight_by(of, index, reading, &|other| {
            let (_, spread, aim) = self.known_alone(other)?;
            Some((self.estimate(other)?.pose, spread, aim))
        })
    }

    pub(super) fn sights_of(
        &self,
        of: Measurand,
        readings: &[Reading],
        known: &dyn Fn(Measurand) -> Option<Known>,
    ) -> Vec<Observation> {
        readings.iter().enumerate().filter_map(|(index, reading)| self.sight_by(of, index, reading, known)).collect()
    }

    fn sight_by(
        &self,
        of: Measurand,
        index: usize,
        reading: &Reading,
        known: &dyn Fn(Measurand) -> Option<Known>,
    ) -> Option<Observation> {
        let sigma = match reading.taken.spread_unit() {
            SpreadUnit::Mm => reading.sigma(),
            SpreadUnit::Degrees => reading.sigma().to_radians(),
        };
        let kind = match &reading.taken {
            Taken::Tape { from, to, mm } => {
                let (from, spread, out) = anchored(*from, known)?;
                let rim = out.zip(self.rim_of(&reading.taken));
                Kind::Tape { from, spread, rim, to: self.lever(of, to), mm: mm.get() }
            }
            Taken::Offset { from, to, axis, mm } => {
                let (from, spread, _) = anchored(*from, known)?;
                Kind::Offset { from, spread, to: self.lever(of, to), axis: axis.index(), mm: mm.get() }
            }
            Taken::Heading { degrees } => Kind::Heading(degrees.get().to_radians()),
            Taken::Pitch { degrees } => Kind::Pitch(degrees.get().to_radians()),
            Taken::Square { to } => {
                let (to, known) = self.direction(*to, known)?;
                Kind::Square(to, known)
            }
            Taken::Parallel { to, opposite } => {
                let (to, known) = self.direction(*to, known)?;
                Kind::Parallel(if *opposite { -to } else { to }, known)
            }
            Taken::Between { port, degrees } => {
                let (to, known) = self.direction(Against::Port { port: *port }, known)?;
                Kind::Between(to, known, degrees.get().to_radians())
            }
            Taken::Mirror { of } => {
                let (pose, spread, aim) = known(Measurand::Port { port: *of })?;
                let across = |v: Vector| Vector::new(v.x, -v.y, v.z);
                let flip = Matrix3::from_diagonal(&Vector::new(1.0, -1.0, 1.0));
                let out = pose.out.map(|out| Unit::new_unchecked(across(out.into_inner())))?;
                let at = Point3::from(across(pose.at.coords));
                Kind::Image { at, spread: flip * spread * flip, out: (out, aim) }
            }
            Taken::Caliper { .. } | Taken::Girth { .. } | Taken::Bore { .. } => return None,
        };
        Some(Observation { index, counts: reading.counts, sigma, kind, leans: leans(&reading.taken) })
    }

    fn lever(&self, of: Measurand, to: &Spot) -> LeverArm {
        match to {
            Spot::Centre => LeverArm::Fixed(Vector::zeros()),
            Spot::Stick { mm } => LeverArm::Stick(mm.get()),
            Spot::Rim { side } => LeverArm::Rim(self.rim(of, *side)),
            Spot::Face { clock, mm } => LeverArm::Face { clock: (clock.get() * 30.0).to_radians(), radius: mm.get() },
            Spot::Corner { towards } => {
                let Measurand::KeepOut { keep_out } = of else { return LeverArm::Fixed(Vector::zeros()) };
                let shape = self.job.keep_out(keep_out).map(|one| &one.shape);
                LeverArm::Fixed(shape.and_then(|shape| shape.corner(*towards)).unwrap_or_else(Vector::zeros))
            }
        }
    }

    /// The rim a tape starts from.
    fn rim_of(&self, taken: &Taken) -> Option<Rim> {
        let Taken::Tape { from: Anchor::Port { port, rim: Some(side) }, .. } = taken else { return None };
        Some(self.rim(Measurand::Port { port: *port }, *side))
    }

    /// A mouth's rim, as wide as it measures.
    fn rim(&self, of: Measurand, side: RimSide) -> Rim {
        let port = if let Measurand::Port { port } = of { self.job.port(port) } else { None };
        let od = port.map_or(0.0, |port| measured_od(&port.readings).unwrap_or(port.od).get());
        Rim { radius: od / 2.0, far: side == RimSide::Far }
    }

    fn direction(&self, against: Against, known: &dyn Fn(Measurand) -> Option<Known>) -> Option<(Unit<Vector>, f64)> {
        match against {
            Against::Axis { axis: Axis::Z } => Some((self.before.up(), 0.0)),
            Against::Axis { axis } => Some((Unit::new_unchecked(Vector::ith(axis.index(), 1.0)), 0.0)),
            Against::Port { port } => {
                let (pose, _, aim) = known(Measurand::Port { port })?;
                Some((pose.out?, aim))
            }
        }
    }
}

/// What a reading shares with others.
fn leans(taken: &Taken) -> Leans {
    match (taken, taken.datum(), taken.port()) {
        (
            Taken::Square { to: Against::Axis { axis: Axis::Z } }
            | Taken::Parallel { to: Against::Axis { axis: Axis::Z }, .. },
            ..,
        ) => Leans::Plumb,
        (_, Some(datum), _) => Leans::Thing(Measurand::Datum { datum }),
        (_, _, Some(port)) => Leans::Thing(Measurand::Port { port }),
        _ => Leans::Nothing,
    }
}

/// A place, its covariance in mm2, and a mouth's way out.
type Start = (Point3<f64>, Matrix3<f64>, Option<Unit<Vector>>);

/// Where a reading starts.
fn anchored(anchor: Anchor, known: &dyn Fn(Measurand) -> Option<Known>) -> Option<Start> {
    let of = match anchor {
        Anchor::Zero => return Some((Point3::origin(), Matrix3::zeros(), None)),
        Anchor::Datum { datum } => Measurand::Datum { datum },
        Anchor::Port { port, .. } => Measurand::Port { port },
    };
    known(of).map(|(pose, spread, _)| (pose.at, spread, pose.out))
}

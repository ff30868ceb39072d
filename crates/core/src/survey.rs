//! Working out where everything in a job is, each thing from its readings and the things they lean on.

use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use nalgebra::{Matrix3, Point3, Unit};

use crate::geometry::{Direction, Point, Vector};
use crate::job::Job;
use crate::measure::fix::{Fix, Kind, Lever, Pose, Sight, fix};
use crate::measure::{
    Against, Anchor, Component, DatumId, End, KeepOut, KeepOutShape, MatchError, MatchedTo, Placement, Port, PortRef,
    Reading, Scan, Spot, SpreadUnit, Taken, about, match_points,
};
use crate::route::{Run, Settled};
use crate::units::OutsideDiameter;

/// Where things in one job are. Each is worked out once, when it is asked for; a job's readings lean on each other
/// without circles, which [`Job::check`] holds.
#[derive(Debug)]
pub struct Survey<'a> {
    job: &'a Job,
    datums: RefCell<HashMap<DatumId, Rc<Fix>>>,
    ports: RefCell<HashMap<PortRef, Rc<Fix>>>,
}

impl<'a> Survey<'a> {
    /// A survey of `job`; nothing is worked out yet.
    #[must_use]
    pub fn new(job: &'a Job) -> Self {
        Self { job, datums: RefCell::default(), ports: RefCell::default() }
    }

    /// Where a datum point is; `None` where the job has no such.
    #[must_use]
    pub fn datum(&self, id: DatumId) -> Option<Rc<Fix>> {
        if let Some(known) = self.datums.borrow().get(&id) {
            return Some(Rc::clone(known));
        }
        let datum = self.job.datum(id)?;
        let rough = Pose { at: datum.at.inner(), out: None };
        let found = Rc::new(fix(rough, &self.sights(&datum.readings, |_| Vector::zeros())));
        self.datums.borrow_mut().insert(id, Rc::clone(&found));
        Some(found)
    }

    /// Where a port is as it was measured, before its component was turned; `None` where the job has no such.
    #[must_use]
    pub fn port(&self, id: PortRef) -> Option<Rc<Fix>> {
        if let Some(known) = self.ports.borrow().get(&id) {
            return Some(Rc::clone(known));
        }
        let port = self.job.port(id)?;
        let rough = Pose { at: port.at.inner(), out: Some(port.out.unit()) };
        let found = Rc::new(fix(rough, &self.sights(&port.readings, |_| Vector::zeros())));
        self.ports.borrow_mut().insert(id, Rc::clone(&found));
        Some(found)
    }

    /// Where the point is that a keep-out is placed by.
    #[must_use]
    pub fn keep_out(&self, keep_out: &KeepOut) -> Fix {
        let rough = Pose { at: keep_out.shape.reference().inner(), out: None };
        let corner = |towards| keep_out.shape.corner(towards).unwrap_or_else(Vector::zeros);
        fix(rough, &self.sights(&keep_out.readings, corner))
    }

    /// A keep-out's shape where its readings put it.
    #[must_use]
    pub fn placed(&self, keep_out: &KeepOut) -> KeepOutShape {
        let found = self.keep_out(keep_out);
        let by = found.pose.at - keep_out.shape.reference().inner();
        // A fix beyond fifty metres is none.
        keep_out.shape.moved(by).unwrap_or_else(|_| keep_out.shape.clone())
    }

    /// Where a scan's matched points put it: from the file's axes, in mm, to the vehicle's.
    ///
    /// # Errors
    /// [`MatchError`] when they are too few or in line.
    pub fn scan(&self, scan: &Scan) -> Result<Placement, MatchError> {
        let on_car = |to: &MatchedTo| match to {
            MatchedTo::Point { at } => at.inner(),
            MatchedTo::Datum { datum } => self.datum(*datum).map_or_else(Point3::origin, |found| found.pose.at),
        };
        let pairs = scan.matched.iter().map(|matched| {
            let [x, y, z] = matched.scan.map(|c| c * scan.unit.in_mm());
            (Point3::new(x, y, z), on_car(&matched.to))
        });
        match_points(&pairs.collect::<Vec<_>>())
    }

    /// The component a port is on, if any.
    #[must_use]
    pub fn component(&self, port: PortRef) -> Option<&'a Component> {
        self.job.components().iter().find(|component| component.ports.contains(&port))
    }

    /// The run with its ports where they are: as found, as their components are turned, and as wide as they measure.
    #[must_use]
    pub fn settle(&self, run: &Run) -> Settled {
        let [a, b] = [End::A, End::B].map(|end| self.settled_port(run, end));
        Settled::at(run, a, b)
    }

    fn settled_port(&self, run: &Run, end: End) -> Port {
        let (id, typed) = (PortRef { run: run.id, end }, run.port(end));
        let mut port = typed.clone();
        port.od = measured_od(&typed.readings).unwrap_or(typed.od);
        let component = self.component(id).filter(|component| component.turned.get() != 0.0);
        if typed.readings.is_empty() && component.is_none() {
            return port;
        }
        let Some(found) = self.port(id) else { return port };
        let (mut at, mut out) = (found.pose.at, found.pose.out.unwrap_or_else(|| typed.out.unit()));
        if let Some(component) = component {
            let turn = about(component.pivot.inner(), component.axis, component.turned.get());
            (at, out) = (turn * at, Unit::new_normalize(turn * out.into_inner()));
        }
        // A place beyond fifty metres is none: what was typed holds, and the fix tells why.
        if let (Ok(at), Ok(out)) = (Point::new(at.x, at.y, at.z), Direction::of(out.into_inner())) {
            (port.at, port.out) = (at, out);
        }
        port
    }

    /// A reading that was not taken yet, as the sum would see it; `corner` says where a box's corners are.
    #[must_use]
    pub fn sight(&self, index: usize, reading: &Reading, corner: impl Fn([i8; 3]) -> Vector) -> Option<Sight> {
        let sigma = match reading.taken.spread_unit() {
            SpreadUnit::Mm => reading.sigma(),
            SpreadUnit::Degrees => reading.sigma().to_radians(),
        };
        let lever = |to: &Spot| match to {
            Spot::Centre => Lever::Fixed(Vector::zeros()),
            Spot::Stick { mm } => Lever::Stick(mm.get()),
            Spot::Corner { towards } => Lever::Fixed(corner(*towards)),
        };
        let kind = match &reading.taken {
            Taken::Tape { from, to, mm } => {
                let (from, spread) = self.anchor(*from)?;
                Kind::Tape { from, spread, to: lever(to), mm: mm.get() }
            }
            Taken::Offset { from, to, axis, mm } => {
                let (from, spread) = self.anchor(*from)?;
                Kind::Offset { from, spread, to: lever(to), axis: axis.index(), mm: mm.get() }
            }
            Taken::Heading { degrees } => Kind::Heading(degrees.get().to_radians()),
            Taken::Pitch { degrees } => Kind::Pitch(degrees.get().to_radians()),
            Taken::Square { to } => {
                let (to, known) = self.direction(*to)?;
                Kind::Square(to, known)
            }
            Taken::Parallel { to, opposite } => {
                let (to, known) = self.direction(*to)?;
                Kind::Parallel(if *opposite { -to } else { to }, known)
            }
            Taken::Mirror { of } => {
                let twin = self.port(*of)?;
                let across = |v: Vector| Vector::new(v.x, -v.y, v.z);
                let flip = Matrix3::from_diagonal(&Vector::new(1.0, -1.0, 1.0));
                let out = twin.pose.out.map(|out| Unit::new_unchecked(across(out.into_inner())))?;
                Kind::Image {
                    at: Point3::from(across(twin.pose.at.coords)),
                    spread: flip * twin.spread * flip,
                    out: (out, twin.aim_spread),
                }
            }
            Taken::Caliper { .. } | Taken::Girth { .. } => return None,
        };
        Some(Sight { index, counts: reading.counts, sigma, kind })
    }

    fn sights(&self, readings: &[Reading], corner: impl Fn([i8; 3]) -> Vector) -> Vec<Sight> {
        readings.iter().enumerate().filter_map(|(index, reading)| self.sight(index, reading, &corner)).collect()
    }

    fn anchor(&self, anchor: Anchor) -> Option<(Point3<f64>, Matrix3<f64>)> {
        let known = |found: Rc<Fix>| (found.pose.at, found.spread);
        match anchor {
            Anchor::Zero => Some((Point3::origin(), Matrix3::zeros())),
            Anchor::Datum { datum } => self.datum(datum).map(known),
            Anchor::Port { port } => self.port(port).map(known),
        }
    }

    fn direction(&self, against: Against) -> Option<(Unit<Vector>, f64)> {
        match against {
            Against::Axis { axis } => Some((Unit::new_unchecked(Vector::ith(axis.index(), 1.0)), 0.0)),
            Against::Port { port } => self.port(port).and_then(|found| Some((found.pose.out?, found.aim_spread))),
        }
    }
}

/// Outside diameter from caliper and girth readings that count: their mean, each weighed by how well it is known.
/// `None` without such readings.
#[must_use]
pub fn measured_od(readings: &[Reading]) -> Option<OutsideDiameter> {
    use std::f64::consts::PI;
    let each = readings.iter().filter(|reading| reading.counts).filter_map(|reading| match reading.taken {
        Taken::Caliper { mm } => Some((mm.get(), reading.sigma())),
        Taken::Girth { mm } => Some((mm.get() / PI, reading.sigma() / PI)),
        _ => None,
    });
    let (sum, weight) = each.fold((0.0, 0.0), |(sum, weight), (od, sigma)| {
        let share = 1.0 / (sigma * sigma);
        (sum + od * share, weight + share)
    });
    if weight > 0.0 { OutsideDiameter::new(sum / weight).ok() } else { None }
}

//! Working out where everything in a job is: each thing from its readings and the things they lean on, then all of
//! them together.

mod observe;

use std::cell::{OnceCell, RefCell};
use std::collections::{HashMap, HashSet};
use std::rc::Rc;

use nalgebra::{Isometry3, Matrix2, Matrix3, Matrix3x2, Point3, Unit};

use crate::assembly::{Assembly, StubMouth};
use crate::job::Job;
use crate::measure::estimate::{
    Adjusted, Basis, Instruments, Member, Network, OutlierTest, Pose, PoseEstimate, Poses, estimate_pose_with,
    square_to,
};
use crate::measure::{
    Component, Datum, DatumId, End, KeepOut, KeepOutId, KeepOutShape, MatchError, MatchedTo, Measurand, Neck, NeckCut,
    Placement, Port, PortRef, Reading, Scan, Swing, Taken, match_points,
};
use crate::route::{ResolvedRun, Run, StubRef};
use nook_geometry::units::OutsideDiameter;
use nook_geometry::{Direction, Point};

/// Where things in one job are. Nothing is worked out until it is asked for; a job's readings lean on each other
/// without circles, which [`Job::check`] holds.
#[derive(Debug)]
pub struct Survey<'a> {
    job: &'a Job,
    before: Instruments,
    /// Each thing by itself.
    alone: RefCell<HashMap<Measurand, Rc<PoseEstimate>>>,
    together: OnceCell<Together>,
    /// Mouths of stubs that were asked for; none while one is being worked out, so that no circle of pipes is walked for ever.
    stubs: RefCell<HashMap<StubRef, Option<StubMouth>>>,
}

/// Everything that agrees, adjusted in one sum.
#[derive(Debug, Clone)]
struct Together {
    instruments: Instruments,
    found: HashMap<Measurand, Rc<PoseEstimate>>,
}

/// Where something is that readings lean on: its pose, its place's covariance in mm2 and its direction's standard
/// deviation in radians.
type Known = (Pose, Matrix3<f64>, f64);

/// Standard deviation in radians of a mouth's direction that was typed and is leaned on: what an eye holds to.
const TYPED_AIM: f64 = 1.0_f64.to_radians();

impl<'a> Survey<'a> {
    /// A survey of `job`; nothing is worked out yet.
    #[must_use]
    pub fn new(job: &'a Job) -> Self {
        let before = job.instruments().instruments();
        Self { job, before, alone: RefCell::default(), together: OnceCell::new(), stubs: RefCell::default() }
    }

    /// The same of a job that differs from this one's in nothing but how components are moved and held: what was measured is
    /// where it was, and is not worked out again.
    #[must_use]
    pub fn with_components_of<'b>(&self, job: &'b Job) -> Survey<'b> {
        Survey {
            job,
            before: self.before,
            alone: self.alone.clone(),
            together: self.together.clone(),
            stubs: RefCell::default(),
        }
    }

    /// Where a datum point is; `None` where the job has no such.
    #[must_use]
    pub fn datum(&self, datum: DatumId) -> Option<Rc<PoseEstimate>> {
        self.estimate(Measurand::Datum { datum })
    }

    /// Where a port is as it was measured, before its component was moved; `None` where the job has no such.
    #[must_use]
    pub fn port(&self, port: PortRef) -> Option<Rc<PoseEstimate>> {
        self.estimate(Measurand::Port { port })
    }

    /// Where the point is that a keep-out is placed by; `None` where the job has no such.
    #[must_use]
    pub fn keep_out(&self, keep_out: KeepOutId) -> Option<Rc<PoseEstimate>> {
        self.estimate(Measurand::KeepOut { keep_out })
    }

    /// Where a thing is; `None` where the job has no such.
    #[must_use]
    pub fn estimate(&self, of: Measurand) -> Option<Rc<PoseEstimate>> {
        self.together().found.get(&of).map(Rc::clone).or_else(|| self.alone(of))
    }

    /// The instruments' errors as all readings together tell them.
    #[must_use]
    pub fn instruments(&self) -> Instruments {
        self.together().instruments
    }

    /// Where a thing is by its own readings, with what they lean on where that is by its own; `None` where the job
    /// has no such. What is fixed and what is not is the same when all are adjusted together.
    #[must_use]
    pub fn alone(&self, of: Measurand) -> Option<Rc<PoseEstimate>> {
        if let Some(known) = self.alone.borrow().get(&of) {
            return Some(Rc::clone(known));
        }
        let (rough, readings) = self.typed(of)?;
        let (mm, aim) = self.typed_spread(of);
        let found = if readings.is_empty() {
            let spread = if matches!(of, Measurand::Datum { .. }) { (mm, aim) } else { (0.0, 0.0) };
            PoseEstimate::typed(rough, spread.0, spread.1)
        } else {
            let known = |other| self.known_alone(other);
            estimate_pose_with(self.before, rough, &self.sights_of(of, readings, &known))
        };
        let found = Rc::new(found);
        self.alone.borrow_mut().insert(of, Rc::clone(&found));
        Some(found)
    }

    /// What was typed of a thing, and its readings.
    fn typed(&self, of: Measurand) -> Option<(Pose, &'a [Reading])> {
        Some(match of {
            Measurand::Datum { datum } => {
                let one = self.job.datum(datum)?;
                (Pose { at: one.at.inner(), out: None }, &one.readings)
            }
            Measurand::Port { port } => {
                let one = self.job.port(port)?;
                (Pose { at: one.at.inner(), out: Some(one.out.unit()) }, &one.readings)
            }
            Measurand::KeepOut { keep_out } => {
                let one = self.job.keep_out(keep_out)?;
                (Pose { at: one.shape.reference().inner(), out: None }, &one.readings)
            }
        })
    }

    /// To how many mm and radians something typed is known, one standard deviation each way.
    fn typed_spread(&self, of: Measurand) -> (f64, f64) {
        let mm = match of {
            Measurand::Datum { datum } => self.job.datum(datum).map_or(Datum::USUAL_SPREAD, Datum::sigma),
            Measurand::Port { .. } | Measurand::KeepOut { .. } => Datum::USUAL_SPREAD,
        };
        (mm, TYPED_AIM)
    }

    /// How well the place of a port is known, as a covariance in mm2: by its readings, or as well as what is typed usually is.
    #[must_use]
    pub fn port_spread(&self, port: PortRef) -> Matrix3<f64> {
        let (mm, _) = self.typed_spread(Measurand::Port { port });
        let found = self.port(port).filter(|found| found.place == Basis::Fixed);
        found.map_or_else(|| Matrix3::identity() * (mm * mm), |found| found.spread)
    }

    /// The same as its component carries it.
    #[must_use]
    pub fn port_place_spread(&self, port: PortRef) -> Matrix3<f64> {
        self.carried_spread(port, self.port_spread(port))
    }

    /// How well the direction of a port is known as its component carries it: the covariance in rad2 of how far its unit vector goes
    /// aside. By its readings, or to a degree.
    #[must_use]
    pub fn port_aim_spread(&self, port: PortRef) -> Matrix3<f64> {
        let (_, aim) = self.typed_spread(Measurand::Port { port });
        let Some(found) = self.port(port) else { return Matrix3::zeros() };
        let Some(out) = found.pose.out else { return Matrix3::zeros() };
        let [first, second] = square_to(out);
        let sides = Matrix3x2::from_columns(&[first, second]);
        let spread = if found.aim == Basis::Fixed { found.aim_spread } else { Matrix2::identity() * (aim * aim) };
        self.carried_spread(port, sides * spread * sides.transpose())
    }

    fn carried_spread(&self, port: PortRef, spread: Matrix3<f64>) -> Matrix3<f64> {
        let carrier = self.job.carrier_of(port).filter(|component| component.is_moved());
        let Some(component) = carrier else { return spread };
        let turn = component.displacement().rotation.to_rotation_matrix();
        turn * spread * turn.inverse()
    }

    fn known_alone(&self, of: Measurand) -> Option<Known> {
        let found = self.alone(of)?;
        let (mm, aim) = self.typed_spread(of);
        let spread = if found.place == Basis::Fixed { found.spread } else { Matrix3::identity() * (mm * mm) };
        let aim = if found.aim == Basis::Fixed { found.worst_aim() } else { aim };
        Some((found.pose, spread, aim))
    }

    fn together(&self) -> &Together {
        self.together.get_or_init(|| {
            let mut members = HashMap::new();
            for (of, _) in self.job.readings() {
                self.join(of, &mut members);
            }
            let leaned = self.job.readings().flat_map(|(_, readings)| leaned_on(readings));
            let order = self.job.readings().map(|(of, _)| of).chain(leaned);
            let mut seen = HashSet::new();
            let members: Vec<Member> =
                order.filter(|of| seen.insert(*of)).filter_map(|of| members.get(&of).copied().flatten()).collect();
            let sights = |of: Measurand, poses: &Poses<'_>| {
                let known = |other| poses(other).map(|pose| (pose, Matrix3::zeros(), 0.0));
                let readings = self.typed(of).map_or(&[][..], |(_, readings)| readings);
                let mut all = self.sights_of(of, readings, &known);
                all.retain(|sight| sight.counts);
                all
            };
            let network = Network { members, instruments: self.before, sights: &sights };
            let Some((instruments, all)) = network.adjust() else {
                return Together { instruments: self.before, found: HashMap::new() };
            };
            let found =
                all.iter().filter_map(|(of, to)| Some((*of, Rc::new(self.adjusted(*of, to, instruments, &all)?))));
            Together { instruments, found: found.collect() }
        })
    }

    /// A thing as it is after everything was adjusted together.
    fn adjusted(
        &self,
        of: Measurand,
        to: &Adjusted,
        instruments: Instruments,
        all: &HashMap<Measurand, Adjusted>,
    ) -> Option<PoseEstimate> {
        let (_, readings) = self.typed(of)?;
        let known = |other| match all.get(&other) {
            Some(there) => Some((there.pose, there.spread, 0.0)),
            None => self.known_alone(other),
        };
        Some((*self.alone(of)?).clone().adjusted(to, instruments, &self.sights_of(of, readings, &known)))
    }

    /// Notes whether a thing is adjusted with the others: what does not agree in itself, or leans on such, or may be
    /// in two places, would drag them with it.
    fn join(&self, of: Measurand, members: &mut HashMap<Measurand, Option<Member>>) -> bool {
        if let Some(known) = members.get(&of) {
            return known.is_some();
        }
        // Circles are refused by the job, but a walk over what anybody may have written ends by itself.
        members.insert(of, None);
        let Some((found, (_, readings))) = self.alone(of).zip(self.typed(of)) else { return false };
        let sound = leaned_on(readings).all(|on| self.join(on, members));
        let joins = sound && found.others.is_empty() && *found.outlier_test() == OutlierTest::Nothing;
        members.insert(of, joins.then(|| Member::of(of, &found, self.typed_spread(of))));
        joins
    }

    /// A keep-out's shape where it stands: where its readings put it, carried as the component is that it is part of. A scan
    /// is carried by [`Survey::scan`].
    #[must_use]
    pub fn placed(&self, keep_out: &KeepOut) -> KeepOutShape {
        let measured = self.as_measured(keep_out);
        // A place beyond fifty metres is none.
        self.moved_with(keep_out.id).and_then(|by| measured.carried(&by).ok()).unwrap_or(measured)
    }

    /// How a keep-out opens or sweeps, where it stands.
    #[must_use]
    pub fn swing(&self, keep_out: &KeepOut) -> Option<Swing> {
        let swing = keep_out.swing?;
        Some(self.moved_with(keep_out.id).map_or(swing, |by| swing.carried(&by)))
    }

    /// How the component that a keep-out is part of carries it; `None` where it stands as measured.
    fn moved_with(&self, keep_out: KeepOutId) -> Option<Isometry3<f64>> {
        self.job.whole_of(keep_out).filter(|whole| whole.is_moved()).map(Component::displacement)
    }

    /// The point that a component is placed by, where it was measured: its first body's, or its first port's middle.
    #[must_use]
    pub fn measured_place(&self, component: &Component) -> Option<Point3<f64>> {
        let body = component.body.iter().filter_map(|part| self.job.keep_out(*part));
        let mut bodies = body.filter_map(|part| match &part.shape {
            KeepOutShape::Scan(scan) => {
                self.match_of(scan).ok().map(|placed| Point3::from(placed.pose.translation.vector))
            }
            _ => Some(self.as_measured(part).reference().inner()),
        });
        bodies.next().or_else(|| Some(self.port(*component.ports.first()?)?.pose.at))
    }

    /// A keep-out's shape where its readings put it, before its component was moved.
    #[must_use]
    pub fn as_measured(&self, keep_out: &KeepOut) -> KeepOutShape {
        if keep_out.readings.is_empty() {
            return keep_out.shape.clone();
        }
        let Some(found) = self.keep_out(keep_out.id) else { return keep_out.shape.clone() };
        let by = found.pose.at - keep_out.shape.reference().inner();
        // A fix beyond fifty metres is none.
        keep_out.shape.moved(by).unwrap_or_else(|_| keep_out.shape.clone())
    }

    /// Where the scan that stands for a keep-out stands: where its matched points put it, carried as its component is.
    ///
    /// # Errors
    /// [`MatchError`] when they are too few or in line.
    pub fn scan(&self, keep_out: KeepOutId, scan: &Scan) -> Result<Placement, MatchError> {
        let placed = self.match_of(scan)?;
        let by = self.moved_with(keep_out).unwrap_or_else(Isometry3::identity);
        Ok(Placement { pose: by * placed.pose, ..placed })
    }

    /// Where a scan's matched points put it: from the file's axes, in mm, to the vehicle's.
    fn match_of(&self, scan: &Scan) -> Result<Placement, MatchError> {
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

    /// The run with its ports where they are: as found, as their components are moved, and as wide as they measure.
    #[must_use]
    pub fn settle(&self, run: &Run) -> ResolvedRun {
        let [a, b] = [End::A, End::B].map(|end| self.settled_port(run, end));
        let rides = [End::A, End::B].map(|end| Some(self.stub_mouth(run.stubs.at(end)?)?.rides));
        ResolvedRun::at(run, a, b, self.job.mounts().copied())
            .on_stubs(rides)
            .with_necks([End::A, End::B].map(|end| self.neck_cut(run, end)))
    }

    fn neck_cut(&self, run: &Run, end: End) -> Option<NeckCut> {
        let (id, port) = (PortRef { run: run.id, end }, run.port(end));
        let neck = *port.neck.as_deref().filter(|_| run.stubs.at(end).is_none())?;
        let out = self.port(id).and_then(|found| found.pose.out);
        let out = out.and_then(|out| Direction::of(out.into_inner()).ok()).unwrap_or(port.out);
        // It is sawn where its component stands then: up is another way on it once that is turned.
        let by = self.job.carrier_of(id).map_or_else(Isometry3::identity, Component::displacement);
        let carried = |way: Direction| Direction::of(by * way.vector()).unwrap_or(way);
        let neck = Neck { turned: neck.turned.map(carried), ..neck };
        NeckCut::of(neck, carried(out), measured_od(&port.readings).unwrap_or(port.od).get())
    }

    fn settled_port(&self, run: &Run, end: End) -> Port {
        let (id, typed) = (PortRef { run: run.id, end }, run.port(end));
        if let Some(mouth) = run.stubs.at(end).and_then(|stub| self.stub_mouth(stub)) {
            // One that hangs between the sides is taken to be on the one that moves against the other end.
            let rides = if mouth.hangs() { run.port(end.other()).rides.other() } else { mouth.port.rides };
            let (name, standing) = (typed.name.clone(), typed.standing);
            return Port { rides, name, standing, ..mouth.port };
        }
        let mut port = typed.clone();
        port.od = measured_od(&typed.readings).unwrap_or(typed.od);
        let component = self.job.carrier_of(id).filter(|component| component.is_moved());
        if typed.readings.is_empty() && component.is_none() && typed.neck.is_none() {
            return port;
        }
        let Some(found) = self.port(id) else { return port };
        let (mut at, mut out) = (found.pose.at, found.pose.out.unwrap_or_else(|| typed.out.unit()));
        if let Some(neck) = &typed.neck {
            port.form = neck.form(port.form);
            let stands = Direction::of(out.into_inner()).unwrap_or(typed.out);
            let (mouth, way) = neck.altered(at, stands, port.od.get());
            (at, out) = (mouth, Unit::new_normalize(way));
        }
        if let Some(component) = component {
            let by = component.displacement();
            (at, out) = (by * at, Unit::new_normalize(by * out.into_inner()));
        }
        // A place beyond fifty metres is none: what was typed holds, and the fix tells why.
        if let (Ok(at), Ok(out)) = (Point::new(at.x, at.y, at.z), Direction::of(out.into_inner())) {
            (port.at, port.out) = (at, out);
        }
        port
    }
}

impl Survey<'_> {
    /// The mouth of a stub as it stands; `None` where its pipe has no way, or no such stub.
    #[must_use]
    pub fn stub_mouth(&self, stub: StubRef) -> Option<StubMouth> {
        if let Some(known) = self.stubs.borrow().get(&stub) {
            return known.clone();
        }
        self.stubs.borrow_mut().insert(stub, None);
        let found = self.job.run(stub.run).and_then(|host| {
            let host = self.settle(host);
            let pipe = Assembly::build(&host)?.ok()?;
            pipe.stub_mouths(&host).into_iter().find(|mouth| mouth.branch == stub.branch)
        });
        self.stubs.borrow_mut().insert(stub, found.clone());
        found
    }
}

/// What counting readings lean on.
fn leaned_on(readings: &[Reading]) -> impl Iterator<Item = Measurand> {
    readings.iter().filter(|reading| reading.counts).flat_map(|reading| {
        let datum = reading.taken.datum().map(|datum| Measurand::Datum { datum });
        datum.into_iter().chain(reading.taken.port().map(|port| Measurand::Port { port }))
    })
}

/// Inside diameter in mm from the bore readings that count, their mean; `None` without such readings.
#[must_use]
pub fn measured_bore(readings: &[Reading]) -> Option<f64> {
    let counting = readings.iter().filter(|reading| reading.counts);
    let bores = counting.filter_map(|r| if let Taken::Bore { mm, .. } = r.taken { Some(mm.get()) } else { None });
    let (sum, count) = bores.fold((0.0, 0.0), |(sum, count), bore| (sum + bore, count + 1.0));
    (count > 0.0).then(|| sum / count)
}

/// Outside diameter from caliper, bore and girth readings that count: their mean, each weighed by how well it is known.
/// `None` without such readings.
#[must_use]
pub fn measured_od(readings: &[Reading]) -> Option<OutsideDiameter> {
    use std::f64::consts::PI;
    let each = readings.iter().filter(|reading| reading.counts).filter_map(|reading| match reading.taken {
        Taken::Caliper { mm } => Some((mm.get(), reading.sigma())),
        Taken::Bore { mm, wall } => Some((mm.get() + 2.0 * wall.get(), reading.sigma())),
        Taken::Girth { mm } => Some((mm.get() / PI, reading.sigma() / PI)),
        _ => None,
    });
    let (sum, weight) = each.fold((0.0, 0.0), |(sum, weight), (od, sigma)| {
        let share = 1.0 / (sigma * sigma);
        (sum + od * share, weight + share)
    });
    if weight > 0.0 { OutsideDiameter::new(sum / weight).ok() } else { None }
}

//! Random crowded bays round a planted pipe that is known to fit: what the search is judged by.

#![allow(
    dead_code,
    unreachable_pub,
    clippy::unwrap_used,
    clippy::cast_precision_loss,
    reason = "each test target uses its own part of this module"
)]

use nalgebra::{Point3, Rotation3, Unit, Vector3};
use nook_core::edit::JointChange;
use nook_core::join::JointKind;
use nook_core::measure::{End, EndForm, InstallState, KeepOutKind, KeepOutShape, Port, Side};
use nook_core::route::{RunDraft, StubEnds};
use nook_core::stock::{Duty, Material, Tube};
use nook_core::{Edit, Job, JobEdit, JoinEdit, MeasureEdit, RunId, apply};
use nook_geometry::units::{Name, OutsideDiameter, Wall};
use nook_geometry::{Direction, Point};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};

pub type P3 = Point3<f64>;
pub type V3 = Vector3<f64>;

/// Gap in mm that every thing of these bays asks for.
pub const GAP: f64 = 10.0;

/// A crowded bay and the pipe that was planted in it.
pub struct Crowded {
    pub job: Job,
    pub run: RunId,
    /// Length of the planted pipe in mm.
    pub planted: f64,
    /// Its bends.
    pub bends: usize,
    /// Places along its centre line, 2 mm apart.
    pub line: Vec<P3>,
    /// Its straights in mm.
    pub straights: Vec<f64>,
}

/// How a bay is filled.
#[derive(Debug, Clone, Copy)]
pub struct Filling {
    /// How many things.
    pub things: usize,
    /// None further than this from the planted pipe's skin, in mm.
    pub within: f64,
}

/// A solid as plain numbers, with its signed distance written down from the definition.
#[derive(Debug, Clone, Copy)]
pub enum Solid {
    Block { centre: P3, half: V3, heading: f64, pitch: f64, roll: f64 },
    Drum { from: P3, to: P3, radius: f64 },
    Ball { centre: P3, radius: f64 },
}

impl Solid {
    /// Signed distance from its surface in mm, negative inside.
    pub fn distance(&self, at: &P3) -> f64 {
        let outside = |over: &[f64]| {
            let beyond = over.iter().map(|o| o.max(0.0).powi(2)).sum::<f64>().sqrt();
            if beyond > 0.0 { beyond } else { over.iter().copied().fold(f64::NEG_INFINITY, f64::max) }
        };
        match self {
            Self::Block { centre, half, heading, pitch, roll } => {
                // Turned about its own x axis, which then leans `pitch` above level and is turned `heading` to the left.
                let turn = Rotation3::from_axis_angle(&V3::z_axis(), heading.to_radians())
                    * Rotation3::from_axis_angle(&V3::y_axis(), -pitch.to_radians())
                    * Rotation3::from_axis_angle(&V3::x_axis(), roll.to_radians());
                let own = turn.inverse() * (at - centre);
                outside(&[own.x.abs() - half.x, own.y.abs() - half.y, own.z.abs() - half.z])
            }
            Self::Drum { from, to, radius } => {
                let axis = (to - from).normalize();
                let (along, whole) = ((at - from).dot(&axis), (to - from).norm());
                let round = (at - from - axis * along).norm();
                outside(&[-along, along - whole, round - radius])
            }
            Self::Ball { centre, radius } => (at - centre).norm() - radius,
        }
    }

    fn shape(&self) -> KeepOutShape {
        let point = |at: &P3| Point::try_from([at.x, at.y, at.z]).unwrap();
        match self {
            Self::Block { centre, half, heading, pitch, roll } => KeepOutShape::Box {
                centre: point(centre),
                size: (half * 2.0).into(),
                heading: *heading,
                pitch: *pitch,
                roll: *roll,
            },
            Self::Drum { from, to, radius } => KeepOutShape::Cylinder {
                from: point(from),
                to: point(to),
                diameter: OutsideDiameter::new(2.0 * radius).unwrap(),
            },
            Self::Ball { centre, radius } => KeepOutShape::Sphere { centre: point(centre), diameter: 2.0 * radius },
        }
    }

    /// A random one about a centre.
    pub fn any(random: &mut StdRng, centre: P3) -> Self {
        let mut any = |from: f64, to: f64| random.random_range(from..to);
        match any(0.0, 3.0) {
            k if k < 1.0 => {
                let half = V3::new(any(14.0, 100.0), any(14.0, 80.0), any(14.0, 100.0));
                let turned = any(0.0, 1.0) < 0.5;
                let [heading, pitch, roll] =
                    [180.0, 70.0, 180.0].map(|most| if turned { any(-most, most) } else { 0.0 });
                Self::Block { centre, half, heading, pitch, roll }
            }
            k if k < 2.0 => {
                let axis =
                    if any(0.0, 1.0) < 0.5 { V3::z() } else { V3::new(any(-1.0, 1.0), any(-1.0, 1.0), any(-1.0, 1.0)) };
                let half = axis.normalize() * any(15.0, 130.0);
                Self::Drum { from: centre - half, to: centre + half, radius: any(17.0, 75.0) }
            }
            _ => Self::Ball { centre, radius: any(18.0, 90.0) },
        }
    }
}

/// A planted pipe as places: walked with a frame of its own.
struct Planted {
    line: Vec<P3>,
    out_b: V3,
    length: f64,
    straights: Vec<f64>,
}

fn planted(random: &mut StdRng, bends: usize, radius: f64) -> Planted {
    let mut any = |from: f64, to: f64| random.random_range(from..to);
    let (mut at, mut line, mut length) = (P3::origin(), vec![P3::origin()], 0.0);
    let mut along = V3::new(any(-1.0, 1.0), any(-1.0, 1.0), any(-0.6, 0.6)).normalize();
    let mut straights = Vec::new();
    for bend in 0..=bends {
        let straight = any(5.0, 260.0);
        straights.push(straight);
        let steps = (straight / 2.0_f64).ceil();
        let mut k = 1.0;
        while k <= steps {
            line.push(at + along * (straight * k / steps));
            k += 1.0;
        }
        at += along * straight;
        length += straight;
        if bend == bends {
            break;
        }
        let (angle, clock): (f64, f64) = (any(20.0, 120.0_f64).to_radians(), any(0.0, std::f64::consts::TAU));
        let aside = V3::ith(along.iamin(), 1.0).cross(&along).normalize();
        let inward = Rotation3::from_axis_angle(&Unit::new_normalize(along), clock) * aside;
        let steps = (radius * angle / 2.0).ceil();
        let mut k = 1.0;
        let on_arc = |turned: f64| at + along * (radius * turned.sin()) + inward * (radius * (1.0 - turned.cos()));
        while k <= steps {
            line.push(on_arc(angle * k / steps));
            k += 1.0;
        }
        (at, along) = (on_arc(angle), along * angle.cos() + inward * angle.sin());
        length += radius * angle;
    }
    Planted { line, out_b: -along, length, straights }
}

/// The bay of a seed; `None` where the planted pipe comes back on itself or its mouths are too near each other.
pub fn crowded(seed: u64, filling: Filling) -> Option<Crowded> {
    let mut random = StdRng::seed_from_u64(seed);
    let od = [38.1, 50.8, 63.5][usize::try_from(seed % 3).unwrap()];
    let radius = 1.5 * od;
    let bends = 2 + usize::try_from(random.random_range(0..3_u32)).unwrap();
    let pipe = planted(&mut random, bends, radius);
    let clear_of_itself = pipe.line.iter().enumerate().all(|(i, p)| {
        let reach = 2.0 * (od + GAP) + 2.0 * radius;
        pipe.line.iter().enumerate().all(|(j, q)| {
            let along = 2.0 * i.abs_diff(j) as f64;
            along < reach || (p - q).norm() > od + GAP + 2.0
        })
    });
    let out_a = (pipe.line[1] - pipe.line[0]).normalize();
    let b = *pipe.line.last()?;
    if !clear_of_itself || (b - P3::origin()).norm() < 120.0 {
        return None;
    }
    let (low, high) = pipe
        .line
        .iter()
        .fold((V3::repeat(f64::MAX), V3::repeat(f64::MIN)), |(low, high), p| (low.inf(&p.coords), high.sup(&p.coords)));
    let around = V3::repeat(if filling.within.is_finite() { filling.within + 120.0 } else { 200.0 });
    let (low, high) = (low - around, high + around);
    let mut solids = Vec::new();
    let mut tries = 0;
    while solids.len() < filling.things && tries < 400_000 {
        tries += 1;
        let centre = P3::new(
            random.random_range(low.x..high.x),
            random.random_range(low.y..high.y),
            random.random_range(low.z..high.z),
        );
        let solid = Solid::any(&mut random, centre);
        let near = pipe.line.iter().map(|p| solid.distance(p) - od / 2.0).fold(f64::INFINITY, f64::min);
        if near >= GAP + 1.0 && near <= filling.within {
            solids.push(solid);
        }
    }
    let (job, run) = job_of(od, out_a, b, pipe.out_b, &solids);
    Some(Crowded { job, run, planted: pipe.length, bends, line: pipe.line, straights: pipe.straights })
}

fn port(at: P3, out: V3, od: f64) -> Port {
    Port {
        name: "mouth".to_owned(),
        at: Point::try_from([at.x, at.y, at.z]).unwrap(),
        out: Direction::try_from([out.x, out.y, out.z]).unwrap(),
        od: OutsideDiameter::new(od).unwrap(),
        form: EndForm::Plain,
        rides: Side::Body,
        metal: None,
        neck: None,
        standing: InstallState::InPlace,
        readings: Vec::new(),
    }
}

/// A job with one pipe, joined metal to metal at both ends, among solids.
pub fn job_of(od: f64, out_a: V3, b: P3, out_b: V3, solids: &[Solid]) -> (Job, RunId) {
    let tube = Tube::new(Material::Aluminium6061, OutsideDiameter::new(od).unwrap(), Wall::new(1.6).unwrap()).unwrap();
    let (a, b) = (port(P3::origin(), out_a, od), port(b, out_b, od));
    let (name, stubs) = (Name::new("pipe").unwrap(), StubEnds::default());
    let draft = RunDraft { name, duty: Duty::Intake, tube, hose: None, radius: None, a, b, stubs };
    let mut job =
        apply(&Job::new(Name::new("crowded").unwrap()), &Edit::Job(JobEdit::AddRun { run: draft })).unwrap().job;
    let run = job.runs()[0].id;
    for end in [End::A, End::B] {
        job = apply(
            &job,
            &Edit::Join(JoinEdit::ChangeJoint {
                run,
                joint: job.run(run).unwrap().joint(end).id,
                to: JointChange::Kind { kind: JointKind::Metal },
            }),
        )
        .unwrap()
        .job;
    }
    for (index, solid) in solids.iter().enumerate() {
        let name = Name::new(&format!("thing {index}")).unwrap();
        let edit = Edit::Measure(MeasureEdit::AddKeepOut {
            name,
            kind: KeepOutKind::StillMetal,
            rides: Side::Body,
            shape: solid.shape(),
            big: false,
        });
        job = apply(&job, &edit).unwrap().job;
    }
    (job, run)
}

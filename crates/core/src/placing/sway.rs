//! Whether a component sways on its mounts: a rigid body on springs.

use nalgebra::{Matrix3, Matrix6, Point3, SymmetricEigen, Vector6};

use super::beam::{Compliance, shifted};
use super::bracket::{BracketEnd, bracket_plan};
use crate::job::Job;
use crate::measure::{Bracket, Component, FootPlace, Holding, KeepOutShape, MountPoint, Rubber, box_turn};
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::units::{Mass, Name};

/// Lowest first frequency in Hz that does not follow the engine and the road. Source: the issue this answers; idle of a
/// four-stroke shakes at 20 Hz and more.
pub const LEAST_FREQUENCY: f64 = 20.0;

/// One way in which it swings.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SwayMode {
    /// Its frequency in Hz; 0 where nothing but friction holds it that way.
    pub frequency: f64,
    /// Which way the place of it goes that goes furthest, of length 1.
    pub way: Vector,
    /// That place.
    pub at: Point3<f64>,
}

/// How a component is held.
#[derive(Debug, Clone, PartialEq)]
pub struct Sway {
    /// Its slowest way of swinging.
    pub mode: SwayMode,
    /// How far its centre of mass goes under its own weight along forward, left and up, in mm; `None` where nothing but
    /// friction holds it some way.
    pub shaken: Option<[f64; 3]>,
    /// Where its mass is taken to be.
    pub centre: Point3<f64>,
}

/// Why it is not known whether it sways.
#[derive(Debug, Clone, PartialEq)]
pub enum SwayError {
    /// Nobody said its mass.
    NoMass,
    /// It has no body with a volume.
    NoBody,
    /// Nobody said what holds it there.
    NotHeld {
        /// A mounting point; `None` where it has none.
        at: Option<Name>,
    },
    /// A bracket that cannot be made.
    NoBracket {
        /// Its mounting point.
        at: Name,
    },
}

/// Stiffness of a tab or a boss that is bolted straight to the car's sheet metal, in N/mm and N mm per radian: a starting
/// value that is stiff beside any bracket.
const BOLTED: [f64; 2] = [20_000.0, 5_000_000.0];
/// Frequencies below this, in Hz, are those of what only friction holds.
const LOOSE: f64 = 0.5;

/// Judges how a component is held.
///
/// # Errors
/// [`SwayError`] as its variants say.
pub fn sway(job: &Job, survey: &Survey<'_>, component: &Component) -> Result<Sway, SwayError> {
    let mass = component.mass.map(Mass::get).ok_or(SwayError::NoMass)?;
    let body = RigidBody::of(job, survey, component, mass).ok_or(SwayError::NoBody)?;
    if component.mounts.is_empty() {
        return Err(SwayError::NotHeld { at: None });
    }
    let mut stiff = Matrix6::zeros();
    for mount in &component.mounts {
        let carried = shifted(&(mount_place(component, mount) - body.centre));
        // Twists at the mount follow from those at the centre.
        stiff += carried.transpose() * spring(survey, component, mount)? * carried;
    }
    Ok(body.on(&stiff))
}

fn mount_place(component: &Component, mount: &MountPoint) -> Point3<f64> {
    component.displacement() * mount.at.inner()
}

/// The two ends of a mounting point's bracket where they stand, the component's off it by its rubber.
pub(crate) fn bracket_ends(
    survey: &Survey<'_>,
    component: &Component,
    mount: &MountPoint,
    bracket: &Bracket,
) -> Option<[BracketEnd; 2]> {
    let out = component.carried(mount.out).vector();
    let rubber = mount.rubber.map_or(0.0, |rubber| rubber.height.get());
    let [second, seconds] = bracket.second_bolt;
    let foot = match bracket.foot.at {
        FootPlace::Datum { datum } => survey.datum(datum)?.pose.at,
        FootPlace::Drilled { at } => at.inner(),
    };
    Some([
        BracketEnd { at: mount_place(component, mount) + out * rubber, out, bolt: mount.bolt.get(), second },
        BracketEnd { at: foot, out: bracket.foot.out.vector(), bolt: bracket.foot.bolt.get(), second: seconds },
    ])
}

/// The stiffness at a mounting point.
fn spring(survey: &Survey<'_>, component: &Component, mount: &MountPoint) -> Result<Matrix6<f64>, SwayError> {
    let name = || mount.name.clone();
    let at = mount_place(component, mount);
    let out = component.carried(mount.out).vector();
    let holding = mount.held.ok_or(SwayError::NotHeld { at: Some(name()) })?;
    let (gives, free) = match holding {
        Holding::Car => {
            let [line, turn] = BOLTED;
            let none = Compliance { at, gives: Matrix6::zeros() };
            (none.and(&out, [1.0 / line; 2], [1.0 / turn; 2]), vec![(at, out)])
        }
        Holding::Bracket { bracket } => {
            let none = || SwayError::NoBracket { at: name() };
            let ends = bracket_ends(survey, component, mount, &bracket).ok_or_else(none)?;
            let plan = bracket_plan(&ends[0], &ends[1], bracket.stock, bracket.material).map_err(|_| none())?;
            let gives = plan.compliance(bracket.material).ok_or_else(none)?;
            let carried = shifted(&(at - gives.at));
            let gives = Compliance { at, gives: carried * gives.gives * carried.transpose() };
            // One bolt holds everything but a turn about itself, which only friction does.
            let free = ends.iter().filter(|end| !end.second).map(|end| (end.at, end.out)).collect();
            (gives, free)
        }
    };
    let gives = mount.rubber.map_or(gives.clone(), |rubber| softened(&gives, &rubber, &out));
    gives.stiffness(&free).ok_or(SwayError::NoBracket { at: name() })
}

/// Shear modulus of rubber in N/mm2 by its hardness. Source: Gent, On the relation between indentation hardness and Young's
/// modulus, 1958: E = 0.0981 (56 + 7.62336 S) / (0.137505 (254 - 2.54 S)) in MPa, and rubber's G is a third of it.
fn rubber_shear(hardness: f64) -> f64 {
    0.0981 * (56.0 + 7.623_36 * hardness) / (0.137_505 * (254.0 - 2.54 * hardness)) / 3.0
}

/// With a round rubber mount. Source: Gent, Engineering with Rubber, chapter 3: shear G A / h; in compression E = 3 G (1 + 2 S^2)
/// with the shape factor S = D / (4 h) of a bonded disc.
fn softened(gives: &Compliance, rubber: &Rubber, axis: &Vector) -> Compliance {
    let (d, h) = (rubber.diameter.get(), rubber.height.get());
    let shear = rubber_shear(rubber.hardness.get());
    let young = 3.0 * shear * (1.0 + 2.0 * (d / (4.0 * h)).powi(2));
    let area = std::f64::consts::FRAC_PI_4 * d * d;
    let second = std::f64::consts::PI * d.powi(4) / 64.0;
    gives.and(axis, [h / (young * area), h / (shear * area)], [h / (shear * 2.0 * second), h / (young * second)])
}

/// A rigid body: where its mass is and how it is spread. In tonnes and mm, so that N/mm give Hz.
struct RigidBody {
    mass: f64,
    centre: Point3<f64>,
    inertia: Matrix3<f64>,
    corners: Vec<Point3<f64>>,
}

/// A solid of uniform density: its volume, its middle, its inertia about it for a mass of 1, and places on its skin.
struct Lump {
    volume: f64,
    middle: Point3<f64>,
    inertia: Matrix3<f64>,
    corners: Vec<Point3<f64>>,
}

impl Lump {
    fn of(shape: &KeepOutShape) -> Option<Self> {
        match shape {
            KeepOutShape::Box { centre, size, heading, pitch, roll } => {
                let [x, y, z] = *size;
                let turn = *box_turn(*heading, *pitch, *roll).matrix();
                let own = Matrix3::from_diagonal(&(Vector::new(y * y + z * z, x * x + z * z, x * x + y * y) / 12.0));
                let middle = centre.inner();
                let corner = |k: u8| {
                    let sign = |bit: u8| if k & bit == 0 { -0.5 } else { 0.5 };
                    middle + turn * Vector::new(x * sign(1), y * sign(2), z * sign(4))
                };
                let corners = (0..8).map(corner).collect();
                Some(Self { volume: x * y * z, middle, inertia: turn * own * turn.transpose(), corners })
            }
            KeepOutShape::Cylinder { from, to, diameter } => {
                let (way, radius) = (from.to(*to), diameter.get() / 2.0);
                let (axis, length) = (way.try_normalize(1e-9)?, way.norm());
                let (about, across) = (radius * radius / 2.0, radius * radius / 4.0 + length * length / 12.0);
                let outer = axis * axis.transpose();
                let inertia = outer * about + (Matrix3::identity() - outer) * across;
                let middle = nalgebra::center(&from.inner(), &to.inner());
                let volume = std::f64::consts::PI * radius * radius * length;
                Some(Self { volume, middle, inertia, corners: vec![from.inner(), to.inner()] })
            }
            KeepOutShape::Sphere { centre, diameter } => {
                let radius = diameter / 2.0;
                let inertia = Matrix3::identity() * (0.4 * radius * radius);
                let volume = 4.0 / 3.0 * std::f64::consts::PI * radius.powi(3);
                Some(Self {
                    volume,
                    middle: centre.inner(),
                    inertia,
                    corners: vec![centre.inner() + Vector::z() * radius],
                })
            }
            KeepOutShape::Line { .. }
            | KeepOutShape::Plane { .. }
            | KeepOutShape::Sheet { .. }
            | KeepOutShape::Scan(_) => None,
        }
    }
}

impl RigidBody {
    fn of(job: &Job, survey: &Survey<'_>, component: &Component, kilograms: f64) -> Option<Self> {
        let parts = component.body.iter().filter_map(|part| job.keep_out(*part));
        let lumps: Vec<Lump> = parts.filter_map(|part| Lump::of(&survey.placed(part))).collect();
        let volume: f64 = lumps.iter().map(|lump| lump.volume).sum();
        if lumps.is_empty() || volume <= 0.0 {
            return None;
        }
        let mass = kilograms / 1000.0;
        let centre = Point3::from(lumps.iter().map(|lump| lump.middle.coords * (lump.volume / volume)).sum::<Vector>());
        let inertia = lumps.iter().map(|lump| {
            let off = lump.middle - centre;
            let steiner = Matrix3::identity() * off.norm_squared() - off * off.transpose();
            (lump.inertia + steiner) * (mass * lump.volume / volume)
        });
        let inertia = inertia.sum();
        Some(Self { mass, centre, inertia, corners: lumps.into_iter().flat_map(|lump| lump.corners).collect() })
    }

    /// How it swings on springs whose stiffness at its centre is `stiff`.
    fn on(&self, stiff: &Matrix6<f64>) -> Sway {
        let mut half = Matrix6::zeros();
        let light = SymmetricEigen::new(self.inertia);
        let turns = light.eigenvectors;
        let root = light.eigenvalues.map(|value| 1.0 / value.max(f64::MIN_POSITIVE).sqrt());
        half.fixed_view_mut::<3, 3>(0, 0).copy_from(&(Matrix3::identity() / self.mass.sqrt()));
        half.fixed_view_mut::<3, 3>(3, 3).copy_from(&(turns * Matrix3::from_diagonal(&root) * turns.transpose()));
        let reduced = half * stiff * half;
        let modes = SymmetricEigen::new((reduced + reduced.transpose()) / 2.0);
        let slowest = modes.eigenvalues.imin();
        let frequency = modes.eigenvalues[slowest].max(0.0).sqrt() / std::f64::consts::TAU;
        let twist: Vector6<f64> = half * modes.eigenvectors.column(slowest);
        let (line, turn) = (Vector::new(twist[0], twist[1], twist[2]), Vector::new(twist[3], twist[4], twist[5]));
        let moves = |at: &Point3<f64>| line + turn.cross(&(at - self.centre));
        let places = self.corners.iter().chain([&self.centre]);
        let at = places.max_by(|p, q| moves(p).norm().total_cmp(&moves(q).norm())).copied().unwrap_or(self.centre);
        let way = moves(&at).try_normalize(f64::MIN_POSITIVE).unwrap_or_else(Vector::zeros);
        let loose = frequency < LOOSE;
        let mode = SwayMode { frequency: if loose { 0.0 } else { frequency }, way, at };
        // N of its own weight; a tonne weighs 9806.65 N.
        let weight = self.mass * 9806.65;
        let shaken = if loose { None } else { stiff.try_inverse() };
        let shaken = shaken.map(|gives| [0, 1, 2].map(|axis| gives[(axis, axis)] * weight));
        Sway { mode, shaken, centre: self.centre }
    }
}

//! The room a keep-out takes.

use nalgebra::{Isometry3, Matrix3, Point3, Rotation3};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::Scan;
use nook_geometry::units::{OutOfRange, OutsideDiameter};
use nook_geometry::{Direction, Pair, Point, Triple, Vector, spread_axes};

/// The room a keep-out takes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum KeepOutShape {
    /// A box. Placed by its centre.
    Box {
        /// Its centre.
        centre: Point,
        /// Full lengths along its own axes in mm, each above 0.
        #[schema(value_type = Triple)]
        size: [f64; 3],
        /// Degrees its own x axis is turned to the left from forward.
        heading: f64,
        /// Degrees its own x axis then points above level, as a leaning radiator's does.
        #[serde(default)]
        pitch: f64,
        /// Degrees it is then turned about its own x axis, right-handed: its left side goes up.
        #[serde(default, skip_serializing_if = "is_zero")]
        roll: f64,
    },
    /// A cylinder between two points. Placed by the first.
    Cylinder {
        /// Centre of one end.
        from: Point,
        /// Centre of the other end.
        to: Point,
        /// Diameter in mm.
        diameter: OutsideDiameter,
    },
    /// A ball. Placed by its centre.
    Sphere {
        /// Its centre.
        centre: Point,
        /// Diameter in mm.
        #[schema(value_type = f64)]
        diameter: f64,
    },
    /// A hose, cable or brake line along points. Placed by the first.
    Line {
        /// Where it runs, 2 to 60 points.
        points: Vec<Point>,
        /// Diameter in mm, insulation included.
        #[schema(value_type = f64)]
        diameter: f64,
    },
    /// A flat sheet with a rectangular outline, such as a bonnet. Placed by its middle.
    Plane {
        /// The middle of the sheet.
        centre: Point,
        /// The side that is kept clear.
        normal: Direction,
        /// Length and width in mm, each above 0.
        #[schema(value_type = Pair)]
        size: [f64; 2],
    },
    /// A flat sheet with an outline of its own, such as a frame side. Placed by its first corner.
    Sheet {
        /// Its corners in order, 3 to 60, flat to 10 mm.
        corners: Vec<Point>,
    },
    /// A scanned or modelled part, placed by points matched on it and on the vehicle.
    Scan(Scan),
}

/// Most points of a line or corners of a sheet.
pub const MOST_POINTS: usize = 60;
/// How far in mm a sheet's corner may lie off its plane: more is a bent sheet, which two flat ones describe.
const FLAT: f64 = 10.0;

impl KeepOutShape {
    /// Checks what the fields alone do not: that the shape has a size, and a sheet is flat.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the size that is not between 1 mm and 20 m, the angle beyond a full turn, the count of
    /// points, or how far a sheet is from flat.
    pub fn check(&self) -> Result<(), OutOfRange> {
        match self {
            Self::Box { size, heading, pitch, roll, .. } => {
                within("a box's heading", *heading, -360.0, 360.0, "degrees")?;
                within("a box's pitch", *pitch, -90.0, 90.0, "degrees")?;
                within("a box's roll", *roll, -180.0, 180.0, "degrees")?;
                size.iter().try_for_each(|&s| sized("a box's side", s))
            }
            Self::Cylinder { from, to, .. } => sized("a cylinder's length", from.distance(*to)),
            Self::Sphere { diameter, .. } => sized("a ball's diameter", *diameter),
            Self::Line { points, diameter } => {
                counted("a line's points", points.len(), 2)?;
                within("a line's diameter", *diameter, 1.0, 300.0, "mm")?;
                points.windows(2).try_for_each(|pair| sized("a line's stretch", pair[0].distance(pair[1])))
            }
            Self::Plane { size, .. } => size.iter().try_for_each(|&s| sized("a sheet's side", s)),
            Self::Sheet { corners } => {
                counted("a sheet's corners", corners.len(), 3)?;
                let Some((middle, normal, spread)) = plane_through(corners) else { return Ok(()) };
                within("the width of a sheet", spread, 1.0, 20_000.0, "mm")?;
                let off = |corner: &Point| (corner.inner() - middle).dot(&normal.vector()).abs();
                let worst = corners.iter().map(off).fold(0.0, f64::max);
                within("how far a corner lies off the sheet", worst, 0.0, FLAT, "mm")
            }
            Self::Scan(scan) => scan.check(),
        }
    }

    /// The point it is placed by; for a scan, the vehicle's zero.
    #[must_use]
    pub fn reference(&self) -> Point {
        match self {
            Self::Box { centre, .. } | Self::Sphere { centre, .. } | Self::Plane { centre, .. } => *centre,
            Self::Cylinder { from, .. } => *from,
            Self::Line { points, .. } | Self::Sheet { corners: points } => points.first().copied().unwrap_or_default(),
            Self::Scan(_) => Point::default(),
        }
    }

    /// The same shape `by` mm away. A scan stays where its matched points put it.
    ///
    /// # Errors
    /// [`OutOfRange`] when a point would lie beyond fifty metres.
    pub fn moved(&self, by: Vector) -> Result<Self, OutOfRange> {
        let go = |point: &Point| point.moved(by);
        let all = |points: &[Point]| points.iter().map(go).collect::<Result<Vec<_>, _>>();
        Ok(match self {
            Self::Box { centre, size, heading, pitch, roll } => {
                Self::Box { centre: go(centre)?, size: *size, heading: *heading, pitch: *pitch, roll: *roll }
            }
            Self::Cylinder { from, to, diameter } => {
                Self::Cylinder { from: go(from)?, to: go(to)?, diameter: *diameter }
            }
            Self::Sphere { centre, diameter } => Self::Sphere { centre: go(centre)?, diameter: *diameter },
            Self::Line { points, diameter } => Self::Line { points: all(points)?, diameter: *diameter },
            Self::Plane { centre, normal, size } => Self::Plane { centre: go(centre)?, normal: *normal, size: *size },
            Self::Sheet { corners } => Self::Sheet { corners: all(corners)? },
            Self::Scan(scan) => Self::Scan(scan.clone()),
        })
    }

    /// The same shape carried as a rigid body. A scan stays where its matched points put it, and a one-sided sheet is turned
    /// about its own normal as it is drawn.
    ///
    /// # Errors
    /// [`OutOfRange`] when a point would lie beyond fifty metres.
    pub fn carried(&self, by: &Isometry3<f64>) -> Result<Self, OutOfRange> {
        let go = |point: &Point| {
            let there = by * point.inner();
            Point::new(there.x, there.y, there.z)
        };
        let all = |points: &[Point]| points.iter().map(go).collect::<Result<Vec<_>, _>>();
        Ok(match self {
            Self::Box { centre, size, heading, pitch, roll } => {
                let [heading, pitch, roll] = if by.rotation.angle() < STILL {
                    [*heading, *pitch, *roll]
                } else {
                    box_angles(&(by.rotation.to_rotation_matrix() * box_turn(*heading, *pitch, *roll)))
                };
                Self::Box { centre: go(centre)?, size: *size, heading, pitch, roll }
            }
            Self::Cylinder { from, to, diameter } => {
                Self::Cylinder { from: go(from)?, to: go(to)?, diameter: *diameter }
            }
            Self::Sphere { centre, diameter } => Self::Sphere { centre: go(centre)?, diameter: *diameter },
            Self::Line { points, diameter } => Self::Line { points: all(points)?, diameter: *diameter },
            Self::Plane { centre, normal, size } => {
                let normal = Direction::of(by.rotation * normal.vector()).unwrap_or(*normal);
                Self::Plane { centre: go(centre)?, normal, size: *size }
            }
            Self::Sheet { corners } => Self::Sheet { corners: all(corners)? },
            Self::Scan(scan) => Self::Scan(scan.clone()),
        })
    }

    /// Its image in the vehicle's middle plane; a scan has none and stays as it is.
    #[must_use]
    pub fn mirrored(&self) -> Self {
        let all = |points: &[Point]| points.iter().map(|point| point.mirrored()).collect();
        match self {
            Self::Box { centre, size, heading, pitch, roll } => Self::Box {
                centre: centre.mirrored(),
                size: *size,
                heading: 0.0 - heading,
                pitch: *pitch,
                roll: 0.0 - roll,
            },
            Self::Cylinder { from, to, diameter } => {
                Self::Cylinder { from: from.mirrored(), to: to.mirrored(), diameter: *diameter }
            }
            Self::Sphere { centre, diameter } => Self::Sphere { centre: centre.mirrored(), diameter: *diameter },
            Self::Line { points, diameter } => Self::Line { points: all(points), diameter: *diameter },
            Self::Plane { centre, normal, size } => {
                Self::Plane { centre: centre.mirrored(), normal: normal.mirrored(), size: *size }
            }
            Self::Sheet { corners } => Self::Sheet { corners: all(corners) },
            Self::Scan(scan) => Self::Scan(scan.clone()),
        }
    }

    /// The lengths it was given, in mm and in order: a box's three sides, a sheet's two, a diameter.
    #[must_use]
    pub fn sizes(&self) -> Vec<f64> {
        match self {
            Self::Box { size, .. } => size.to_vec(),
            Self::Plane { size, .. } => size.to_vec(),
            Self::Cylinder { diameter, .. } => vec![diameter.get()],
            Self::Sphere { diameter, .. } | Self::Line { diameter, .. } => vec![*diameter],
            Self::Sheet { .. } | Self::Scan(_) => Vec::new(),
        }
    }

    /// From the point it is placed by to the corner that lies `towards` its own forward, left and up, in mm;
    /// `None` where the shape is no box.
    #[must_use]
    pub fn corner(&self, towards: [i8; 3]) -> Option<Vector> {
        let Self::Box { size, heading, pitch, roll, .. } = self else { return None };
        let half = Vector::from_fn(|i, _| size[i] / 2.0 * f64::from(towards[i].signum()));
        Some(box_turn(*heading, *pitch, *roll) * half)
    }
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "what serde asks for")]
fn is_zero(value: &f64) -> bool {
    value.abs() < f64::MIN_POSITIVE
}

/// The turn of a box: `roll` degrees about its own x axis, left side up, `pitch` degrees nose up, then `heading` degrees
/// to the left.
#[must_use]
pub fn box_turn(heading: f64, pitch: f64, roll: f64) -> Rotation3<f64> {
    // A right-handed turn about +y (left) drops the nose.
    let nose_up = Rotation3::from_axis_angle(&Vector::y_axis(), -pitch.to_radians());
    let side_up = Rotation3::from_axis_angle(&Vector::x_axis(), roll.to_radians());
    Rotation3::from_axis_angle(&Vector::z_axis(), heading.to_radians()) * nose_up * side_up
}

/// Turns smaller than this, in radians, are none.
const STILL: f64 = 1e-12;
/// Cosines smaller than this stand for a box on its end, whose heading and roll are one turn.
const ON_END: f64 = 1e-9;

/// Heading, pitch and roll in degrees that [`box_turn`] makes this turn of; on its end the roll is 0.
#[must_use]
pub fn box_angles(turn: &Rotation3<f64>) -> [f64; 3] {
    let m = turn.matrix();
    let pitch = m[(2, 0)].clamp(-1.0, 1.0).asin();
    let [heading, roll] = if m[(0, 0)].hypot(m[(1, 0)]) < ON_END {
        [(0.0 - m[(0, 1)]).atan2(m[(1, 1)]), 0.0]
    } else {
        [m[(1, 0)].atan2(m[(0, 0)]), m[(2, 1)].atan2(m[(2, 2)])]
    };
    [heading, pitch, roll].map(f64::to_degrees)
}

/// The plane nearest to points: its middle, its normal, and how far the points spread across their longest line, in
/// mm (one standard deviation). `None` for fewer than three points.
pub(crate) fn plane_through(points: &[Point]) -> Option<(Point3<f64>, Direction, f64)> {
    let count = u32::try_from(points.len()).ok().filter(|count| *count >= 3).map(f64::from)?;
    let middle = Point3::from(points.iter().map(|p| p.inner().coords).sum::<Vector>() / count);
    let spread: Matrix3<f64> =
        points.iter().map(|p| p.inner() - middle).map(|v| v * v.transpose()).sum::<Matrix3<f64>>() / count;
    let [(_, normal), (sideways, _), _] = spread_axes(spread)?;
    Some((middle, Direction::of(normal).ok()?, sideways.max(0.0).sqrt()))
}

fn within(what: &'static str, value: f64, min: f64, max: f64, unit: &'static str) -> Result<(), OutOfRange> {
    if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit }) }
}

fn sized(what: &'static str, value: f64) -> Result<(), OutOfRange> {
    within(what, value, 1.0, 20_000.0, "mm")
}

fn counted(what: &'static str, count: usize, least: u32) -> Result<(), OutOfRange> {
    let most = u32::try_from(MOST_POINTS).unwrap_or(u32::MAX);
    let value = f64::from(u32::try_from(count).unwrap_or(u32::MAX));
    within(what, value, f64::from(least), f64::from(most), "points")
}

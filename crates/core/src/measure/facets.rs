//! A keep-out's room as triangles, for other programs to open.

use nalgebra::{Isometry3, Point3, Rotation3, Unit};
use parry3d_f64::math::Vector as Real3;
use parry3d_f64::shape::{Ball, Capsule, Cuboid, Cylinder};

use super::KeepOutShape;
use super::shape::{box_turn, plane_through};
use nook_geometry::{Direction, Point, Vector};

/// Triangles in mm, vehicle axes.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Facets {
    /// Corners.
    pub vertices: Vec<[f64; 3]>,
    /// Triangles, counter-clockwise seen from outside.
    pub triangles: Vec<[u32; 3]>,
}

/// Flats round a circle: 24 keep a 100 mm ball true to 0.9 mm.
const ROUND: u32 = 24;

impl Facets {
    fn add(&mut self, (vertices, triangles): (Vec<Real3>, Vec<[u32; 3]>), place: impl Fn(Point3<f64>) -> Point3<f64>) {
        let first = u32::try_from(self.vertices.len()).unwrap_or(u32::MAX);
        self.vertices.extend(vertices.iter().map(|v| <[f64; 3]>::from(place(Point3::new(v.x, v.y, v.z)).coords)));
        self.triangles.extend(triangles.iter().map(|corners| corners.map(|corner| corner + first)));
    }

    /// Moved and turned.
    #[must_use]
    pub fn carried(mut self, by: &Isometry3<f64>) -> Self {
        for vertex in &mut self.vertices {
            *vertex = (by * Point3::from(*vertex)).coords.into();
        }
        self
    }
}

/// The triangles of a shape; none for a scan, whose own triangles are kept elsewhere.
#[must_use]
pub fn facets(shape: &KeepOutShape) -> Facets {
    let mut out = Facets::default();
    match shape {
        KeepOutShape::Box { centre, size, heading, pitch, roll } => {
            let turn = box_turn(*heading, *pitch, *roll);
            let half = Real3::new(size[0] / 2.0, size[1] / 2.0, size[2] / 2.0);
            out.add(Cuboid::new(half).to_trimesh(), |v| centre.inner() + turn * v.coords);
        }
        KeepOutShape::Cylinder { from, to, diameter } => {
            let bar = Cylinder::new(from.distance(*to) / 2.0, diameter.get() / 2.0);
            out.add(bar.to_trimesh(ROUND), along(*from, *to));
        }
        KeepOutShape::Sphere { centre, diameter } => {
            out.add(Ball::new(diameter / 2.0).to_trimesh(ROUND, ROUND / 2), |v| centre.inner() + v.coords);
        }
        KeepOutShape::Line { points, diameter } => {
            for pair in points.windows(2) {
                let half = pair[0].distance(pair[1]) / 2.0;
                let bar = Capsule::new_y(half, diameter / 2.0);
                out.add(bar.to_trimesh(ROUND, ROUND / 2), along(pair[0], pair[1]));
            }
        }
        KeepOutShape::Plane { centre, normal, size } => {
            let turn = facing(*normal);
            let corners = [[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]];
            let flat = corners.map(|[x, y]| Real3::new(x * size[0] / 2.0, y * size[1] / 2.0, 0.0)).to_vec();
            out.add((flat, vec![[0, 1, 2], [0, 2, 3]]), |v| centre.inner() + turn * v.coords);
        }
        KeepOutShape::Sheet { corners } => {
            let at = corners.iter().map(|corner| corner.to_array()).map(|[x, y, z]| Real3::new(x, y, z));
            out.add((at.collect(), outline_triangles(corners)), |v| v);
        }
        KeepOutShape::Scan(_) => {}
    }
    out
}

/// Brings a shape that stands along y about its middle between two points.
fn along(from: Point, to: Point) -> impl Fn(Point3<f64>) -> Point3<f64> {
    let middle = nalgebra::center(&from.inner(), &to.inner());
    let way = Unit::try_new(from.to(to), 1e-9).unwrap_or_else(Vector::y_axis);
    let turn = Rotation3::rotation_between(&Vector::y(), &way)
        .unwrap_or_else(|| Rotation3::from_axis_angle(&Vector::x_axis(), std::f64::consts::PI));
    move |v| middle + turn * v.coords
}

/// Turns a sheet that faces up to face `normal`, its own first side as level as can be.
fn facing(normal: Direction) -> Rotation3<f64> {
    Rotation3::rotation_between(&Vector::z(), &normal.vector())
        .unwrap_or_else(|| Rotation3::from_axis_angle(&Vector::x_axis(), std::f64::consts::PI))
}

fn outline_triangles(corners: &[Point]) -> Vec<[u32; 3]> {
    let Some((middle, normal, _)) = plane_through(corners) else { return Vec::new() };
    let level = facing(normal).inverse();
    let flat: Vec<[f64; 2]> =
        corners.iter().map(|corner| level * (corner.inner() - middle)).map(|v| [v.x, v.y]).collect();
    let mut triangles: Vec<u32> = Vec::new();
    earcut::Earcut::new().earcut(flat, &[], &mut triangles);
    triangles.chunks_exact(3).map(|corners| [corners[0], corners[1], corners[2]]).collect()
}

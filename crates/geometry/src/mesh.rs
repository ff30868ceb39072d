//! Triangles from a scan or a drawing, ready to be measured against.

use parry3d_f64::math::{Pose, Vector as Real3};
use parry3d_f64::partitioning::BvhNode;
use parry3d_f64::query::details::distance_segment_segment;
use parry3d_f64::query::{PointQuery, Ray, RayCast};
use parry3d_f64::shape::{Segment, TriMesh, Triangle};
use serde::Serialize;
use thiserror::Error;

use super::{Bunches, Point};

/// Why triangles make no mesh.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum MeshError {
    /// There are none.
    #[error("there is no triangle in it")]
    Empty,
    /// More than can be measured quickly.
    #[error("it has {count} triangles; {most} is the most", most = Mesh::MOST_TRIANGLES)]
    TooMany {
        /// How many there are.
        count: usize,
    },
    /// A coordinate that is not a number, or beyond a hundred metres.
    #[error("vertex {vertex} is not within {most} mm of the origin in every direction", most = Mesh::FARTHEST)]
    NotThere {
        /// Which vertex, from 1.
        vertex: usize,
    },
    /// A triangle with a corner that is not among the vertices.
    #[error("triangle {triangle} has a corner that is not among the {vertices} vertices")]
    NoSuchVertex {
        /// Which triangle, from 1.
        triangle: usize,
        /// How many vertices there are.
        vertices: usize,
    },
    /// A distance could not be worked out.
    #[error("the distance to the mesh could not be worked out")]
    NoDistance,
}

/// A surface of triangles in mm. It is measured whole, however it is drawn.
#[derive(Debug, Clone)]
pub struct Mesh {
    surface: TriMesh,
    bunches: Bunches,
}

impl Mesh {
    /// Most triangles.
    pub const MOST_TRIANGLES: usize = 2_000_000;
    /// Farthest coordinate in mm: twice what a vehicle's own may be, since a file's zero may lie anywhere.
    pub const FARTHEST: f64 = 100_000.0;

    /// A mesh from vertices in mm and the corners of its triangles. Building takes about a second for a million.
    ///
    /// # Errors
    /// [`MeshError`] when there is no triangle, there are more than two million, a coordinate is not a number or far
    /// off, or a corner is not there.
    pub fn new(vertices: &[[f64; 3]], triangles: Vec<[u32; 3]>) -> Result<Self, MeshError> {
        if triangles.is_empty() {
            return Err(MeshError::Empty);
        }
        if triangles.len() > Self::MOST_TRIANGLES {
            return Err(MeshError::TooMany { count: triangles.len() });
        }
        let near = |vertex: &[f64; 3]| vertex.iter().all(|c| c.abs() <= Self::FARTHEST);
        if let Some(far) = vertices.iter().position(|vertex| !near(vertex)) {
            return Err(MeshError::NotThere { vertex: far + 1 });
        }
        let count = u32::try_from(vertices.len()).unwrap_or(u32::MAX);
        let loose = |triangle: &[u32; 3]| triangle.iter().any(|corner| *corner >= count);
        if let Some(triangle) = triangles.iter().position(loose) {
            return Err(MeshError::NoSuchVertex { triangle: triangle + 1, vertices: vertices.len() });
        }
        let vertices: Vec<Real3> = vertices.iter().map(|[x, y, z]| Real3::new(*x, *y, *z)).collect();
        let (bunches, triangles) = Bunches::of(&vertices, triangles);
        let surface = TriMesh::new(vertices, triangles).map_err(|_| MeshError::Empty)?;
        Ok(Self { surface, bunches })
    }

    /// How many triangles it has.
    #[must_use]
    pub fn triangles(&self) -> usize {
        self.surface.indices().len()
    }

    /// Corners of its triangles, as places among the vertices, in an order of its own.
    #[must_use]
    pub fn corners(&self) -> &[[u32; 3]] {
        self.surface.indices()
    }

    /// Its vertices in mm.
    pub fn vertices(&self) -> impl ExactSizeIterator<Item = [f64; 3]> {
        self.surface.vertices().iter().map(|v| [v.x, v.y, v.z])
    }

    /// Least and greatest coordinates in mm.
    #[must_use]
    pub fn bounds(&self) -> [[f64; 3]; 2] {
        let bounds = self.surface.local_aabb();
        [bounds.mins, bounds.maxs].map(|v| [v.x, v.y, v.z])
    }

    /// Its support function: the most that any vertex goes along `way`, in mm times its length.
    #[must_use]
    pub fn support(&self, way: &crate::Vector) -> f64 {
        let along = |[x, y, z]: [f64; 3]| way.x * x + way.y * y + way.z * z;
        self.vertices().map(along).fold(f64::NEG_INFINITY, f64::max)
    }

    /// Distance in mm from a point to the surface; 0 on it. The surface has no inside: a scan is seldom closed.
    #[must_use]
    pub fn distance_to_point(&self, point: Point) -> f64 {
        self.surface.distance_to_local_point(real(point), false).abs()
    }

    /// Distance in mm from the surface to the skin of a round bar of `radius` mm from `from` to `to` with round ends;
    /// negative where they overlap, by at most the radius.
    ///
    /// # Errors
    /// [`MeshError::NoDistance`] when the radius is negative or not a number, or the search gives no number.
    pub fn distance_to_bar(&self, from: Point, to: Point, radius: f64) -> Result<f64, MeshError> {
        // The geometry library takes a negative radius as it comes.
        if !(radius >= 0.0 && radius.is_finite()) {
            return Err(MeshError::NoDistance);
        }
        let core = if from.distance(to) < 1e-9 {
            self.distance_to_point(from)
        } else {
            self.nearest_to_segment(real(from), real(to)).map_or(f64::INFINITY, |(_, distance)| distance)
        };
        if core < 10.0 * Self::FARTHEST { Ok(core - radius) } else { Err(MeshError::NoDistance) }
    }
}

impl Mesh {
    /// Its triangles in bunches.
    pub(crate) const fn bunches(&self) -> &Bunches {
        &self.bunches
    }

    /// Distance in mm from a place in its own axes to the surface.
    pub fn distance_to_place(&self, at: &nalgebra::Point3<f64>) -> f64 {
        self.surface.distance_to_local_point(Real3::new(at.x, at.y, at.z), false).abs()
    }

    /// One of its triangles.
    pub fn triangle(&self, index: u32) -> Triangle {
        self.surface.triangle(index)
    }

    /// The triangle nearest to a segment, and how far it is in mm.
    pub(crate) fn nearest_to_segment(&self, from: Real3, to: Real3) -> Option<(u32, f64)> {
        let segment = Segment::new(from, to);
        let way = to - from;
        let per_square = way.length_squared().recip();
        let least = |low: Real3, high: Real3, best: f64| {
            // The ball round the box is quick to judge and rules most boxes out.
            let centre = (low + high) * 0.5;
            let nearest = from + way * ((centre - from).dot(way) * per_square).clamp(0.0, 1.0);
            let ball = (centre - nearest).length() - (high - low).length() * 0.5;
            if ball >= best { ball } else { least_to_box(from, way, low, high).max(ball) }
        };
        self.nearest_triangle(least, |triangle| segment_to_triangle(&segment, triangle))
    }

    /// The triangle for which `exact` is least, and what that is. `least` is nowhere above it for the triangles in a box, told
    /// by its corners and the best so far.
    pub(crate) fn nearest_triangle(
        &self,
        least: impl Fn(Real3, Real3, f64) -> f64,
        exact: impl Fn(&Triangle) -> f64,
    ) -> Option<(u32, f64)> {
        let node = |node: &BvhNode, best: f64| least(node.mins(), node.maxs(), best);
        let leaf = |triangle: u32, _| Some(exact(&self.surface.triangle(triangle)));
        self.surface.bvh().find_best(f64::INFINITY, node, leaf)
    }
}

/// Halvings of a segment when its distance to a box is bounded: more cost more than the boxes they rule out.
const HALVINGS: u32 = 5;

/// A lower bound, in mm, of the distance from the segment that runs `way` from `from` to a box, short of it by very
/// little. The squared distance is convex along the segment: halving brackets its least, and a tangent at the bracket's
/// middle is below it everywhere.
fn least_to_box(from: Real3, way: Real3, low: Real3, high: Real3) -> f64 {
    let off = |t: f64| {
        let point = from + way * t;
        point - point.clamp(low, high)
    };
    let (mut start, mut end) = (0.0, 1.0);
    for _ in 0..HALVINGS {
        let middle = f64::midpoint(start, end);
        if off(middle).dot(way) > 0.0 {
            end = middle;
        } else {
            start = middle;
        }
    }
    let here = off(f64::midpoint(start, end));
    let slope = 2.0 * here.dot(way);
    (here.length_squared() - slope.abs() * (end - start) / 2.0).max(0.0).sqrt()
}

/// Distance in mm between a segment and a triangle, in closed form: 0 where it goes through, else the least from either
/// of its ends to the triangle or from it to an edge.
fn segment_to_triangle(segment: &Segment, triangle: &Triangle) -> f64 {
    if triangle.intersects_local_ray(&Ray::new(segment.a, segment.b - segment.a), 1.0) {
        return 0.0;
    }
    let here = Pose::IDENTITY;
    let ends = [segment.a, segment.b].map(|end| triangle.distance_to_local_point(end, true));
    let edges = triangle.edges();
    let to_edges = edges.iter().map(|edge| distance_segment_segment(&here, segment, edge));
    ends.into_iter().chain(to_edges).fold(f64::INFINITY, f64::min)
}

fn real(point: Point) -> Real3 {
    let [x, y, z] = point.to_array();
    Real3::new(x, y, z)
}

//! Triangles from a scan or a drawing, ready to be measured against.

use parry3d_f64::math::{Pose, Vector as Real3};
use parry3d_f64::query::{self, PointQuery};
use parry3d_f64::shape::{Segment, TriMesh};
use serde::Serialize;
use thiserror::Error;

use super::Point;

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
pub struct Mesh(TriMesh);

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
        let vertices = vertices.iter().map(|[x, y, z]| Real3::new(*x, *y, *z)).collect();
        TriMesh::new(vertices, triangles).map(Self).map_err(|_| MeshError::Empty)
    }

    /// How many triangles it has.
    #[must_use]
    pub fn triangles(&self) -> usize {
        self.0.indices().len()
    }

    /// Corners of its triangles, as places among the vertices.
    #[must_use]
    pub fn corners(&self) -> &[[u32; 3]] {
        self.0.indices()
    }

    /// Its vertices in mm.
    pub fn vertices(&self) -> impl ExactSizeIterator<Item = [f64; 3]> {
        self.0.vertices().iter().map(|v| [v.x, v.y, v.z])
    }

    /// Least and greatest coordinates in mm.
    #[must_use]
    pub fn bounds(&self) -> [[f64; 3]; 2] {
        let bounds = self.0.local_aabb();
        [bounds.mins, bounds.maxs].map(|v| [v.x, v.y, v.z])
    }

    /// Distance in mm from a point to the surface; 0 on it. The surface has no inside: a scan is seldom closed.
    #[must_use]
    pub fn distance_to_point(&self, point: Point) -> f64 {
        self.0.distance_to_local_point(real(point), false).abs()
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
        let here = Pose::IDENTITY;
        let core = if from.distance(to) < 1e-9 {
            self.distance_to_point(from)
        } else {
            let segment = Segment::new(real(from), real(to));
            query::distance(&here, &segment, &here, &self.0).map_err(|_| MeshError::NoDistance)?.distance
        };
        // A search that finds nothing answers with the greatest number there is.
        if core < 10.0 * Self::FARTHEST { Ok(core - radius) } else { Err(MeshError::NoDistance) }
    }
}

fn real(point: Point) -> Real3 {
    let [x, y, z] = point.to_array();
    Real3::new(x, y, z)
}

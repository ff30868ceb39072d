//! Triangles of a scan.

use std::collections::HashSet;

use nook_core::measure::ScanUnit;
use nook_geometry::{Mesh, MeshError};

use super::ScanError;

/// Triangles in the file's own axes and unit. Vertices are single precision, as every such file has them: a thousandth
/// of a millimetre over eight metres. There is at least one triangle, every corner is among the vertices, and no
/// coordinate is far off: what takes a raw pointer can rely on it.
#[derive(Debug, Clone, PartialEq)]
pub struct Triangles {
    vertices: Vec<[f32; 3]>,
    corners: Vec<[u32; 3]>,
}

impl Triangles {
    /// Triangles from vertices and the places of their corners among them.
    ///
    /// # Errors
    /// [`ScanError::Mesh`] when there is no triangle, there are more than [`Mesh::MOST_TRIANGLES`], a coordinate is no
    /// number or beyond [`Mesh::FARTHEST`] of the file's units, or a corner is not among the vertices.
    pub fn new(vertices: Vec<[f32; 3]>, corners: Vec<[u32; 3]>) -> Result<Self, ScanError> {
        if corners.is_empty() {
            return Err(MeshError::Empty.into());
        }
        if corners.len() > Mesh::MOST_TRIANGLES {
            return Err(MeshError::TooMany { count: corners.len() }.into());
        }
        let near = |vertex: &[f32; 3]| vertex.iter().all(|c| f64::from(c.abs()) <= Mesh::FARTHEST);
        if let Some(far) = vertices.iter().position(|vertex| !near(vertex)) {
            return Err(MeshError::NotThere { vertex: far + 1 }.into());
        }
        let count = u32::try_from(vertices.len()).unwrap_or(u32::MAX);
        let loose = |triangle: &[u32; 3]| triangle.iter().any(|corner| *corner >= count);
        if let Some(triangle) = corners.iter().position(loose) {
            return Err(MeshError::NoSuchVertex { triangle: triangle + 1, vertices: vertices.len() }.into());
        }
        Ok(Self { vertices, corners })
    }

    /// Corners, each once.
    #[must_use]
    pub fn vertices(&self) -> &[[f32; 3]] {
        &self.vertices
    }

    /// Triangles as places among the vertices.
    #[must_use]
    pub fn corners(&self) -> &[[u32; 3]] {
        &self.corners
    }

    /// Least and greatest coordinates of the triangles, in the file's own unit.
    #[must_use]
    pub fn bounds(&self) -> [[f64; 3]; 2] {
        let mut bounds = [[f64::INFINITY; 3], [f64::NEG_INFINITY; 3]];
        for corner in self.corners.iter().flatten() {
            for (axis, c) in self.vertices[*corner as usize].iter().enumerate() {
                bounds[0][axis] = bounds[0][axis].min(f64::from(*c));
                bounds[1][axis] = bounds[1][axis].max(f64::from(*c));
            }
        }
        bounds
    }

    /// The triangles in mm, ready to be measured against.
    ///
    /// # Errors
    /// [`ScanError::Mesh`] when in this unit a coordinate is beyond [`Mesh::FARTHEST`].
    pub fn mesh(&self, unit: ScanUnit) -> Result<Mesh, ScanError> {
        let vertices: Vec<[f64; 3]> = self.vertices.iter().map(|v| v.map(|c| f64::from(c) * unit.in_mm())).collect();
        Ok(Mesh::new(&vertices, self.corners.clone())?)
    }

    /// With equal corners made one, and without triangles that have lost one or that are there twice: the simplifier's
    /// time grows with the square of how often an edge is used.
    ///
    /// # Errors
    /// [`ScanError::Mesh`] when nothing is left.
    pub fn joined(self) -> Result<Self, ScanError> {
        let (kept, places) = meshopt::generate_vertex_remap(&self.vertices, None);
        let mut vertices = vec![[0.0; 3]; kept];
        for (vertex, place) in self.vertices.iter().zip(&places) {
            vertices[*place as usize] = *vertex;
        }
        let mut seen = HashSet::with_capacity(self.corners.len());
        let corners = self.corners.iter().map(|corners| corners.map(|corner| places[corner as usize]));
        let real = |corners: &[u32; 3]| {
            let mut sorted = *corners;
            sorted.sort_unstable();
            sorted[0] != sorted[1] && sorted[1] != sorted[2] && seen.insert(sorted)
        };
        let corners = corners.filter(real).collect();
        Self::new(vertices, corners)
    }
}

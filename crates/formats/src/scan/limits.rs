//! What every reader of scans holds to.

use std::fmt::Display;

use nook_geometry::{Mesh, MeshError};

use super::{ScanError, ScanFormat};

/// Most vertices: as many as all triangles have corners.
pub(super) const MOST_VERTICES: usize = 3 * Mesh::MOST_TRIANGLES;
/// Most corners of one face.
pub(super) const MOST_CORNERS: usize = 100_000;

/// Why a reader did not read.
pub(super) enum Unread {
    /// It is known.
    Known(ScanError),
    /// A parser gave up; what it says of itself is not for who chose the file.
    Parser,
}

impl<E: Into<ScanError>> From<E> for Unread {
    fn from(error: E) -> Self {
        Self::Known(error.into())
    }
}

pub(super) fn at_most(count: usize) -> Result<(), ScanError> {
    if count > Mesh::MOST_TRIANGLES { Err(MeshError::TooMany { count }.into()) } else { Ok(()) }
}

pub(super) fn broken(format: ScanFormat, why: &dyn Display) -> ScanError {
    ScanError::Broken { format, why: why.to_string() }
}

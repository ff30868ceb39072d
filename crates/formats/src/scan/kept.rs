//! A scan as it is kept: binary PLY, so that it can be taken out and opened elsewhere.

use std::io::Cursor;

use nook_core::measure::ScanId;
use serde::Serialize;
use serde_ply::SerializeOptions;
use sha2::{Digest, Sha256};

use super::read::read_scan;
use super::{ScanError, ScanFormat, Triangles};

#[derive(Serialize)]
struct Vertex {
    x: f32,
    y: f32,
    z: f32,
}

#[derive(Serialize)]
struct Face<'a> {
    vertex_indices: &'a [u32],
}

#[derive(Serialize)]
struct File<'a> {
    vertex: Vec<Vertex>,
    face: Vec<Face<'a>>,
}

/// The triangles as binary PLY.
///
/// # Errors
/// [`ScanError::Broken`] if the writer fails, which it does not when writing to memory.
pub fn write_kept(scan: &Triangles) -> Result<Vec<u8>, ScanError> {
    let vertex = scan.vertices().iter().map(|[x, y, z]| Vertex { x: *x, y: *y, z: *z }).collect();
    let face = scan.corners().iter().map(|corners| Face { vertex_indices: corners }).collect();
    serde_ply::to_bytes(&File { vertex, face }, SerializeOptions::binary_le())
        .map_err(|error| ScanError::Broken { format: ScanFormat::Ply, why: error.to_string() })
}

/// The triangles of a kept scan.
///
/// # Errors
/// [`ScanError`] when the bytes are not what [`write_kept`] wrote.
pub fn read_kept(bytes: &[u8]) -> Result<Triangles, ScanError> {
    read_scan(Cursor::new(bytes), ScanFormat::Ply, &mut |_, _| std::ops::ControlFlow::Continue(()))
}

/// Names a kept scan by its content, so that one scan is kept once.
#[must_use]
pub fn scan_id(kept: &[u8]) -> ScanId {
    let digits: String = Sha256::digest(kept).iter().map(|byte| format!("{byte:02x}")).collect();
    digits.try_into().unwrap_or_else(|_| unreachable!("a SHA-256 has 64 hexadecimal digits"))
}

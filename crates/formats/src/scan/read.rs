//! Reading scan files.

use std::io::Cursor;
use std::ops::ControlFlow;

use nook_core::geometry::{Mesh, MeshError};
use serde::Deserialize;
use serde_ply::{PlyReader, PropertyType};

use super::{LARGEST_SCAN_FILE, ScanError, ScanFormat, ScanStep, Triangles, Watch};

/// Bytes of a binary STL before its first triangle, and of each triangle.
const STL_HEAD: usize = 84;
const STL_TRIANGLE: usize = 50;
/// How many triangles are read between two reports.
const REPORT: usize = 50_000;

/// Reads a scan file and makes equal corners one.
///
/// # Errors
/// [`ScanError`] when the file is empty, too large, cut off, broken, or its triangles make no mesh; or when `watch`
/// says stop.
pub fn read_scan(bytes: &[u8], format: ScanFormat, watch: Watch<'_>) -> Result<Triangles, ScanError> {
    if bytes.is_empty() {
        return Err(ScanError::Empty);
    }
    if bytes.len() > LARGEST_SCAN_FILE {
        return Err(ScanError::TooLarge { bytes: bytes.len() });
    }
    go_on(watch, ScanStep::Reading, 0.0)?;
    let read = match format {
        ScanFormat::Stl => stl(bytes, watch)?,
        ScanFormat::Obj => obj(bytes)?,
        ScanFormat::Ply => ply(bytes)?,
    };
    if read.triangles.is_empty() {
        return Err(MeshError::Empty.into());
    }
    at_most(read.triangles.len())?;
    go_on(watch, ScanStep::Joining, 0.0)?;
    Ok(joined(read))
}

pub(super) fn go_on(watch: Watch<'_>, step: ScanStep, share: f32) -> Result<(), ScanError> {
    match watch(step, share) {
        ControlFlow::Continue(()) => Ok(()),
        ControlFlow::Break(()) => Err(ScanError::Stopped),
    }
}

fn at_most(count: usize) -> Result<(), ScanError> {
    if count > Mesh::MOST_TRIANGLES { Err(MeshError::TooMany { count }.into()) } else { Ok(()) }
}

fn broken(format: ScanFormat, why: &dyn std::fmt::Display) -> ScanError {
    ScanError::Broken { format, why: why.to_string() }
}

fn stl(bytes: &[u8], watch: Watch<'_>) -> Result<Triangles, ScanError> {
    let promised = bytes.get(80..STL_HEAD).and_then(|count| count.try_into().ok()).map(u32::from_le_bytes);
    let promised = promised.and_then(|count| usize::try_from(count).ok()).unwrap_or(0);
    // Some writers begin a binary file with "solid"; its length tells it from text.
    let binary_size = STL_HEAD.saturating_add(promised.saturating_mul(STL_TRIANGLE));
    let text = bytes.starts_with(b"solid") && bytes.len() != binary_size && bytes.is_ascii();
    if !text {
        let held = bytes.len().saturating_sub(STL_HEAD) / STL_TRIANGLE;
        if bytes.len() < STL_HEAD {
            return Err(broken(ScanFormat::Stl, &"it is shorter than its own header"));
        }
        if promised > held {
            return Err(ScanError::CutOff { format: ScanFormat::Stl, what: "triangles", promised, held });
        }
        at_most(promised)?;
    }
    let mut reader = Cursor::new(bytes);
    let all = stl_io::create_stl_reader(&mut reader).map_err(|error| broken(ScanFormat::Stl, &error))?;
    let mut out = Triangles::default();
    for (count, triangle) in all.enumerate() {
        let triangle = triangle.map_err(|error| broken(ScanFormat::Stl, &error))?;
        at_most(count + 1)?;
        let first = u32::try_from(out.vertices.len()).map_err(|_| MeshError::TooMany { count })?;
        out.vertices.extend(triangle.vertices.iter().map(|vertex| vertex.0));
        out.triangles.push([first, first + 1, first + 2]);
        if count % REPORT == 0 {
            // Text does not say how much of it there is; a million is a guess for the bar on the screen.
            let whole = if text { 1_000_000 } else { promised.max(1) };
            let percent = u8::try_from(count * 100 / whole).unwrap_or(100).min(100);
            go_on(watch, ScanStep::Reading, f32::from(percent) / 100.0)?;
        }
    }
    Ok(out)
}

fn obj(bytes: &[u8]) -> Result<Triangles, ScanError> {
    let options =
        tobj::LoadOptions { triangulate: true, ignore_points: true, ignore_lines: true, ..Default::default() };
    let no_materials = |_: &std::path::Path| Ok(Default::default());
    let (models, _) = tobj::load_obj_buf(&mut Cursor::new(bytes), &options, no_materials)
        .map_err(|error| broken(ScanFormat::Obj, &error))?;
    let mut out = Triangles::default();
    for model in models {
        let first = u32::try_from(out.vertices.len()).map_err(|_| MeshError::TooMany { count: usize::MAX })?;
        out.vertices.extend(model.mesh.positions.chunks_exact(3).map(|v| [v[0], v[1], v[2]]));
        let corners = model.mesh.indices.chunks_exact(3);
        out.triangles.extend(corners.map(|corner| [corner[0] + first, corner[1] + first, corner[2] + first]));
        at_most(out.triangles.len())?;
    }
    Ok(out)
}

#[derive(Deserialize)]
struct PlyVertex {
    x: f32,
    y: f32,
    z: f32,
}

#[derive(Deserialize)]
struct PlyFace {
    #[serde(alias = "vertex_index")]
    vertex_indices: Vec<u32>,
}

fn ply(bytes: &[u8]) -> Result<Triangles, ScanError> {
    let broken = |error: &dyn std::fmt::Display| broken(ScanFormat::Ply, error);
    let mut reader = PlyReader::from_reader(Cursor::new(bytes)).map_err(|error| broken(&error))?;
    let header = reader.header();
    let vertices = header.get_element("vertex").ok_or_else(|| broken(&"it has no vertex element"))?;
    let faces = header.get_element("face").ok_or(MeshError::Empty)?;
    at_most(faces.count)?;
    // A vertex takes at least three bytes, a face one for its count: a header that promises more is lying.
    for (element, what) in [(vertices, "vertices"), (faces, "triangles")] {
        if element.count > bytes.len() {
            let (promised, held) = (element.count, 0);
            return Err(ScanError::CutOff { format: ScanFormat::Ply, what, promised, held });
        }
    }
    let lists = faces.properties.iter().filter(|property| {
        matches!(property.property_type, PropertyType::List { .. })
            && ["vertex_indices", "vertex_index"].contains(&property.name.as_str())
    });
    if lists.count() != 1 {
        return Err(broken(&"its faces have no one list called vertex_indices"));
    }
    let (mut points, mut polygons) = (Vec::new(), Vec::new());
    while let Some(element) = reader.current_element() {
        let name = element.name.clone();
        match name.as_str() {
            "vertex" => points = reader.next_element::<Vec<PlyVertex>>().map_err(|error| broken(&error))?,
            "face" => polygons = reader.next_element::<Vec<PlyFace>>().map_err(|error| broken(&error))?,
            _ => drop(reader.next_element::<Vec<serde::de::IgnoredAny>>().map_err(|error| broken(&error))?),
        }
    }
    let mut out = Triangles { vertices: points.iter().map(|v| [v.x, v.y, v.z]).collect(), triangles: Vec::new() };
    for polygon in polygons {
        // A polygon as a fan about its first corner, as nearly every writer means it.
        let corners = polygon.vertex_indices;
        out.triangles.extend(corners.windows(2).skip(1).map(|pair| [corners[0], pair[0], pair[1]]));
        at_most(out.triangles.len())?;
    }
    Ok(out)
}

/// Makes corners at the same place one, and leaves out triangles that have lost one.
fn joined(read: Triangles) -> Triangles {
    let count = u32::try_from(read.vertices.len()).unwrap_or(u32::MAX);
    // What is not there is told by the mesh, with its number.
    if read.triangles.iter().flatten().any(|corner| *corner >= count) {
        return read;
    }
    let (kept, places) = meshopt::generate_vertex_remap(&read.vertices, None);
    let mut vertices = vec![[0.0; 3]; kept];
    for (vertex, place) in read.vertices.iter().zip(&places) {
        vertices[*place as usize] = *vertex;
    }
    let triangles = read.triangles.iter().map(|corners| corners.map(|corner| places[corner as usize]));
    let real = |[a, b, c]: &[u32; 3]| a != b && b != c && c != a;
    Triangles { vertices, triangles: triangles.filter(real).collect() }
}

//! The bay for other programs: keep-outs and ports as glTF and STL.

use std::borrow::Cow;

use gltf::binary::{Glb, Header};
use nook_core::measure::{Facets, Side};
use serde_json::{Value, json};
use thiserror::Error;

/// One thing in the bay, as triangles in mm, vehicle axes.
#[derive(Debug, Clone)]
pub struct Part {
    /// What it is called.
    pub name: String,
    /// `keep-out`, `port`, `swept` or `datum`.
    pub role: &'static str,
    /// What it rides on.
    pub rides: Side,
    /// Its triangles.
    pub facets: Facets,
}

/// Why a model was not written.
#[derive(Debug, Error)]
pub enum ModelError {
    /// There is nothing in the bay.
    #[error("there is nothing in the bay yet")]
    Nothing,
    /// More than fits into one file.
    #[error("the bay has more triangles than one file holds")]
    TooLarge,
    /// The writer failed.
    #[error("the model could not be written: {0}")]
    Write(String),
}

/// A corner as both formats write it: in single precision, a thousandth of a millimetre over eight metres.
#[expect(clippy::cast_possible_truncation, reason = "the formats hold single precision")]
fn single(corner: [f64; 3]) -> [f32; 3] {
    corner.map(|c| c as f32)
}

/// All parts as one binary STL in mm, vehicle axes.
///
/// # Errors
/// [`ModelError`] when there is no triangle or the writer fails.
pub fn bay_stl(parts: &[Part]) -> Result<Vec<u8>, ModelError> {
    let corner = |facets: &Facets, corner: u32| single(facets.vertices[corner as usize]);
    let triangles: Vec<stl_io::Triangle> = parts
        .iter()
        .flat_map(|part| part.facets.triangles.iter().map(move |corners| (&part.facets, corners)))
        .map(|(facets, corners)| {
            let vertices = corners.map(|at| stl_io::Vertex::new(corner(facets, at)));
            // Readers work the normal out from the corners; the format allows zero for it.
            stl_io::Triangle { normal: stl_io::Normal::new([0.0; 3]), vertices }
        })
        .collect();
    if triangles.is_empty() {
        return Err(ModelError::Nothing);
    }
    let mut out = Vec::new();
    stl_io::write_stl(&mut out, triangles.iter()).map_err(|error| ModelError::Write(error.to_string()))?;
    Ok(out)
}

/// Vehicle axes in mm to those of glTF in metres: there y is up and z forward, so left is x. A cyclic change of
/// axes, which keeps right-handed things right-handed.
const TO_GLTF: [f64; 16] = [0.0, 0.0, 0.001, 0.0, 0.001, 0.0, 0.0, 0.0, 0.0, 0.001, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0];

/// The parts as a binary glTF 2.0 file, each a named node.
///
/// # Errors
/// [`ModelError`] when there is no triangle, or more than four gigabytes.
pub fn bay_glb(parts: &[Part]) -> Result<Vec<u8>, ModelError> {
    let (mut views, mut accessors, mut meshes, mut nodes) = (Vec::new(), Vec::new(), Vec::new(), Vec::new());
    let mut data: Vec<u8> = Vec::new();
    for part in parts.iter().filter(|part| !part.facets.triangles.is_empty()) {
        let at = data.len();
        let vertices: Vec<[f32; 3]> = part.facets.vertices.iter().map(|v| single(*v)).collect();
        data.extend(vertices.iter().flatten().flat_map(|c| c.to_le_bytes()));
        let middle = data.len();
        data.extend(part.facets.triangles.iter().flatten().flat_map(|c| c.to_le_bytes()));
        let first = views.len();
        views.push(json!({ "buffer": 0, "byteOffset": at, "byteLength": middle - at, "target": 34962 }));
        views.push(json!({ "buffer": 0, "byteOffset": middle, "byteLength": data.len() - middle, "target": 34963 }));
        let [least, most] = bounds(&vertices);
        accessors.push(json!({
            "bufferView": first, "componentType": 5126, "count": vertices.len(), "type": "VEC3", "min": least, "max": most,
        }));
        accessors.push(json!({
            "bufferView": first + 1, "componentType": 5125, "count": part.facets.triangles.len() * 3, "type": "SCALAR",
        }));
        meshes.push(json!({
            "name": part.name,
            "primitives": [{ "attributes": { "POSITION": first }, "indices": first + 1, "mode": 4 }],
        }));
        nodes.push(json!({
            "name": part.name, "mesh": meshes.len() - 1, "extras": { "role": part.role, "rides": part.rides },
        }));
    }
    if nodes.is_empty() {
        return Err(ModelError::Nothing);
    }
    let children: Vec<usize> = (0..nodes.len()).collect();
    nodes.push(json!({ "name": "bay", "matrix": TO_GLTF, "children": children }));
    let document = json!({
        "asset": { "version": "2.0", "generator": "Nook Bend" },
        "scene": 0,
        "scenes": [{ "nodes": [nodes.len() - 1] }],
        "nodes": nodes, "meshes": meshes, "accessors": accessors, "bufferViews": views,
        "buffers": [{ "byteLength": data.len() }],
    });
    container(&document, data)
}

fn bounds(vertices: &[[f32; 3]]) -> [[f32; 3]; 2] {
    vertices.iter().fold([[f32::INFINITY; 3], [f32::NEG_INFINITY; 3]], |[low, high], v| {
        [std::array::from_fn(|i| low[i].min(v[i])), std::array::from_fn(|i| high[i].max(v[i]))]
    })
}

fn container(document: &Value, data: Vec<u8>) -> Result<Vec<u8>, ModelError> {
    let json = serde_json::to_vec(document).map_err(|error| ModelError::Write(error.to_string()))?;
    // Twelve bytes of header, eight for each of two chunks, and padding.
    let length = u32::try_from(json.len() + data.len() + 64).map_err(|_| ModelError::TooLarge)?;
    let header = Header { magic: *b"glTF", version: 2, length };
    let file = Glb { header, json: Cow::Owned(json), bin: Some(Cow::Owned(data)) };
    file.to_vec().map_err(|error| ModelError::Write(error.to_string()))
}

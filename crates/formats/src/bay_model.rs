//! The bay for other programs: keep-outs and ports as glTF and STL.

use std::borrow::Cow;

use gltf::binary::{Glb, Header};
use gltf::json::accessor::{ComponentType, GenericComponentType, Type};
use gltf::json::buffer::{Target, View};
use gltf::json::mesh::{Mode, Primitive, Semantic};
use gltf::json::validation::{Checked, USize64};
use gltf::json::{Accessor, Buffer, Index, Mesh, Node, Root, Scene};
use nook_core::measure::{Facets, Side};
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
    stl_io::write_stl(&mut out, triangles.iter()).map_err(written)?;
    Ok(out)
}

/// Vehicle axes in mm to those of glTF in metres: there y is up and z forward, so left is x. A cyclic change of
/// axes, which keeps right-handed things right-handed.
const TO_GLTF: [f32; 16] = [0.0, 0.0, 0.001, 0.0, 0.001, 0.0, 0.0, 0.0, 0.0, 0.001, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0];

/// The parts as a binary glTF 2.0 file, each a named node.
///
/// # Errors
/// [`ModelError`] when there is no triangle, or more than four gigabytes.
pub fn bay_glb(parts: &[Part]) -> Result<Vec<u8>, ModelError> {
    let mut root = Root::default();
    root.asset.generator = Some("Nook Bend".to_owned());
    let buffer = root.push(Buffer { byte_length: USize64(0), name: None, uri: None, extensions: None, extras: None });
    let mut data: Vec<u8> = Vec::new();
    let mut children = Vec::new();
    for part in parts.iter().filter(|part| !part.facets.triangles.is_empty()) {
        let vertices: Vec<[f32; 3]> = part.facets.vertices.iter().map(|v| single(*v)).collect();
        let mut store = |bytes: Vec<u8>, target| {
            let view = view(buffer, data.len(), bytes.len(), target);
            data.extend(bytes);
            root.push(view)
        };
        let corners = vertices.iter().flatten().flat_map(|c| c.to_le_bytes()).collect();
        let corners = store(corners, Target::ArrayBuffer);
        let indices = part.facets.triangles.iter().flatten().flat_map(|c| c.to_le_bytes()).collect();
        let indices = store(indices, Target::ElementArrayBuffer);
        let [least, most] = bounds(&vertices);
        let positions = root.push(Accessor {
            min: Some(serde_json::json!(least)),
            max: Some(serde_json::json!(most)),
            ..accessor(corners, vertices.len(), ComponentType::F32, Type::Vec3)
        });
        let count = part.facets.triangles.len() * 3;
        let indices = root.push(accessor(indices, count, ComponentType::U32, Type::Scalar));
        let primitive = Primitive {
            attributes: [(Checked::Valid(Semantic::Positions), positions)].into(),
            indices: Some(indices),
            mode: Checked::Valid(Mode::Triangles),
            extensions: None,
            extras: None,
            material: None,
            targets: None,
        };
        let name = Some(part.name.clone());
        let mesh =
            Mesh { name: name.clone(), primitives: vec![primitive], weights: None, extensions: None, extras: None };
        let mesh = root.push(mesh);
        let about = serde_json::json!({ "role": part.role, "rides": part.rides });
        let extras = Some(serde_json::value::to_raw_value(&about).map_err(written)?);
        children.push(root.push(Node { name, mesh: Some(mesh), extras, ..Node::default() }));
    }
    if children.is_empty() {
        return Err(ModelError::Nothing);
    }
    let children = Some(children);
    let bay = Node { name: Some("bay".to_owned()), matrix: Some(TO_GLTF), children, ..Node::default() };
    let nodes = vec![root.push(bay)];
    root.scene = Some(root.push(Scene { nodes, name: None, extensions: None, extras: None }));
    root.buffers[buffer.value()].byte_length = data.len().into();
    container(&root, data)
}

fn view(buffer: Index<Buffer>, from: usize, length: usize, target: Target) -> View {
    View {
        buffer,
        byte_offset: Some(from.into()),
        byte_length: length.into(),
        target: Some(Checked::Valid(target)),
        byte_stride: None,
        name: None,
        extensions: None,
        extras: None,
    }
}

fn accessor(view: Index<View>, count: usize, component: ComponentType, kind: Type) -> Accessor {
    Accessor {
        buffer_view: Some(view),
        count: count.into(),
        component_type: Checked::Valid(GenericComponentType(component)),
        type_: Checked::Valid(kind),
        byte_offset: None,
        min: None,
        max: None,
        name: None,
        normalized: false,
        sparse: None,
        extensions: None,
        extras: None,
    }
}

fn written(error: impl std::fmt::Display) -> ModelError {
    ModelError::Write(error.to_string())
}

fn bounds(vertices: &[[f32; 3]]) -> [[f32; 3]; 2] {
    vertices.iter().fold([[f32::INFINITY; 3], [f32::NEG_INFINITY; 3]], |[low, high], v| {
        [std::array::from_fn(|i| low[i].min(v[i])), std::array::from_fn(|i| high[i].max(v[i]))]
    })
}

fn container(root: &Root, data: Vec<u8>) -> Result<Vec<u8>, ModelError> {
    let json = root.to_vec().map_err(written)?;
    // Twelve bytes of header, eight for each of two chunks, and padding.
    let length = u32::try_from(json.len() + data.len() + 64).map_err(|_| ModelError::TooLarge)?;
    let header = Header { magic: *b"glTF", version: 2, length };
    let file = Glb { header, json: Cow::Owned(json), bin: Some(Cow::Owned(data)) };
    file.to_vec().map_err(written)
}

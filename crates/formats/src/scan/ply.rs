//! Reading PLY, text and binary.

use std::fmt::{self, Display};
use std::io::{BufReader, Seek};

use nook_geometry::{Mesh, MeshError};
use serde::Deserialize;
use serde::de::{Deserializer, Error, SeqAccess, Visitor};
use serde_ply::{PlyReader, PropertyType};

use super::limits::{MOST_CORNERS, MOST_VERTICES, Unread, at_most, broken};
use super::watched::Watched;
use super::wrong::ply_lines;
use super::{ScanError, ScanFormat, Triangles};

/// Longest header in bytes.
const HEADER: u64 = 64 * 1024;
/// Bytes read at once.
const BUFFER: usize = 256 * 1024;

#[derive(Deserialize)]
struct Vertex {
    x: f32,
    y: f32,
    z: f32,
}

#[derive(Deserialize)]
struct Face {
    #[serde(alias = "vertex_index")]
    vertex_indices: Corners,
}

/// Whatever else a file holds of each edge, camera or material.
#[derive(Deserialize)]
struct PassedOver {}

/// The corners of one face; a list may promise thousands of millions.
struct Corners(Vec<u32>);

impl Corners {
    const MOST: usize = MOST_CORNERS;
}

impl<'de> Deserialize<'de> for Corners {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        struct Gather;
        impl<'de> Visitor<'de> for Gather {
            type Value = Corners;

            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                write!(f, "a list of at most {} vertices", Corners::MOST)
            }

            fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<Corners, A::Error> {
                let mut corners = Vec::with_capacity(3);
                while let Some(corner) = list.next_element()? {
                    if corners.len() == Corners::MOST {
                        return Err(A::Error::custom(format!("{TOO_MANY_CORNERS} {} corners", Corners::MOST)));
                    }
                    corners.push(corner);
                }
                Ok(Corners(corners))
            }
        }
        deserializer.deserialize_seq(Gather)
    }
}

/// All faces as triangles, made as they are read.
struct Fans(Vec<[u32; 3]>);

impl<'de> Deserialize<'de> for Fans {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        struct Gather;
        impl<'de> Visitor<'de> for Gather {
            type Value = Fans;

            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                write!(f, "faces of at most {} triangles", Mesh::MOST_TRIANGLES)
            }

            fn visit_seq<A: SeqAccess<'de>>(self, mut faces: A) -> Result<Fans, A::Error> {
                let mut triangles = Vec::new();
                while let Some(Face { vertex_indices: Corners(corners) }) = faces.next_element()? {
                    // A polygon as a fan about its first corner, as nearly every writer means it.
                    triangles.extend(corners.windows(2).skip(1).map(|pair| [corners[0], pair[0], pair[1]]));
                    at_most(triangles.len()).map_err(A::Error::custom)?;
                }
                Ok(Fans(triangles))
            }
        }
        deserializer.deserialize_seq(Gather)
    }
}

pub(super) fn ply(file: &mut Watched<'_, '_>, size: u64) -> Result<Triangles, Unread> {
    let broken = |error: &dyn Display| broken(ScanFormat::Ply, error);
    let head = file.head(HEADER).map_err(|error| broken(&error))?;
    let ends = |words: &[u8]| head.windows(words.len()).any(|window| window == words);
    if !ends(b"end_header") {
        return Err(broken(&"it has no header that ends within its first 64 KiB").into());
    }
    if ends(b"format ascii") {
        file.is_text();
    }
    sound_header(file, size)?;
    if ends(b"format ascii")
        // The parser goes on from word to word, so that one number too few shifts all that follow; a line is a vertex or a
        // face.
        && let Some(why) = ply_lines(file).map_err(|error| broken(&error))?
    {
        return Err(broken(&why).into());
    }
    let mut reader = PlyReader::from_reader(BufReader::with_capacity(BUFFER, file)).map_err(|_| Unread::Parser)?;
    let (mut points, mut corners) = (Vec::new(), Vec::new());
    while let Some(element) = reader.current_element() {
        let name = element.name.clone();
        match name.as_str() {
            "vertex" => points = reader.next_element::<Vec<Vertex>>().map_err(|_| Unread::Parser)?,
            "face" => corners = reader.next_element::<Fans>().map_err(|error| own_words(&error))?.0,
            _ => drop(reader.next_element::<Vec<PassedOver>>().map_err(|_| Unread::Parser)?),
        }
    }
    Ok(Triangles::new(points.iter().map(|v| [v.x, v.y, v.z]).collect(), corners)?)
}

/// A refusal of ours that came through the parser, or that it gave up.
fn own_words(error: &dyn Display) -> Unread {
    let text = error.to_string();
    let own = [TOO_MANY_CORNERS, "triangles"].iter().any(|words| text.contains(words));
    if own { broken(ScanFormat::Ply, &text).into() } else { Unread::Parser }
}

/// How a face of too many corners is refused.
const TOO_MANY_CORNERS: &str = "a face has more than";

/// Whether the header promises what can be read and what the file can hold; the file is back at its start afterwards.
fn sound_header(file: &mut Watched<'_, '_>, size: u64) -> Result<(), Unread> {
    let broken = |error: &dyn Display| broken(ScanFormat::Ply, error);
    let reader = PlyReader::from_reader(BufReader::with_capacity(BUFFER, &mut *file)).map_err(|_| Unread::Parser)?;
    let header = reader.header();
    let vertices = header.get_element("vertex").ok_or_else(|| broken(&"it has no vertex element"))?;
    let faces = header.get_element("face").ok_or(MeshError::Empty)?;
    at_most(faces.count)?;
    if vertices.count > MOST_VERTICES {
        return Err(ScanError::TooMany { format: ScanFormat::Ply, what: "vertices", most: MOST_VERTICES }.into());
    }
    // Every one of an element takes at least a byte: a header that promises more is lying.
    for element in &header.elem_defs {
        if u64::try_from(element.count).is_ok_and(|count| count > size) {
            let what = match element.name.as_str() {
                "vertex" => "vertices",
                "face" => "triangles",
                _ => "other elements",
            };
            return Err(ScanError::CutOff { format: ScanFormat::Ply, what, promised: element.count, held: 0 }.into());
        }
    }
    let lists = faces.properties.iter().filter(|property| {
        matches!(property.property_type, PropertyType::List { .. })
            && ["vertex_indices", "vertex_index"].contains(&property.name.as_str())
    });
    if lists.count() != 1 {
        return Err(broken(&"its faces have no one list called vertex_indices").into());
    }
    file.rewind().map_err(|error| broken(&error))?;
    Ok(())
}

//! Scanned and modelled parts: STL (both kinds), OBJ and PLY (both kinds) in, binary PLY as they are kept, and a thinned
//! copy for drawing.

mod kept;
mod limits;
mod ply;
mod read;
mod thin;
mod triangles;
mod watched;
mod wrong;

use std::ops::ControlFlow;

use nook_geometry::MeshError;
use serde::Serialize;
use thiserror::Error;
use utoipa::ToSchema;

pub use kept::{read_kept, scan_id, write_kept};
pub use read::read_scan;
pub use thin::{DRAWN_TRIANGLES, thinned};
pub use triangles::Triangles;

/// Largest scan file read, in bytes: two million triangles as text.
pub const LARGEST_SCAN_FILE: u64 = 600 * 1024 * 1024;

/// What a scan file is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ScanFormat {
    /// STL, text or binary.
    Stl,
    /// Wavefront OBJ.
    Obj,
    /// PLY, text or binary.
    Ply,
}

impl ScanFormat {
    /// The format a file's name says.
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        match name.rsplit_once('.')?.1.to_ascii_lowercase().as_str() {
            "stl" => Some(Self::Stl),
            "obj" => Some(Self::Obj),
            "ply" => Some(Self::Ply),
            _ => None,
        }
    }

    /// Its name in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Stl => "STL",
            Self::Obj => "OBJ",
            Self::Ply => "PLY",
        }
    }
}

/// What is being done with a scan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ScanStep {
    /// Its text or bytes are read.
    Reading,
    /// Equal corners are made one.
    Joining,
    /// A light copy is made for drawing.
    Thinning,
    /// It is put on disk.
    Keeping,
}

/// Is told how far a step has come, 0 to 1, and says whether to go on.
pub type Watch<'a> = &'a mut dyn FnMut(ScanStep, f32) -> ControlFlow<()>;

/// Why a scan was not taken. Nothing of it is kept.
#[derive(Debug, Error)]
pub enum ScanError {
    /// No bytes at all.
    #[error("the file is empty")]
    Empty,
    /// Larger than [`LARGEST_SCAN_FILE`].
    #[error("the file has {bytes} bytes; {LARGEST_SCAN_FILE} is the most")]
    TooLarge {
        /// Its size.
        bytes: u64,
    },
    /// Its name says none of the formats.
    #[error("\u{201c}{name}\u{201d} is no .stl, .obj or .ply file")]
    UnknownFormat {
        /// The name.
        name: String,
    },
    /// It promises more than it holds.
    #[error("the {} file is cut off: it promises {promised} {what} and holds {held}", format.word())]
    CutOff {
        /// What it is.
        format: ScanFormat,
        /// `triangles` or `vertices`.
        what: &'static str,
        /// How many it promises.
        promised: usize,
        /// How many there are.
        held: usize,
    },
    /// It is not what its name says, or is broken.
    #[error("the {} file cannot be read: {why}", format.word())]
    Broken {
        /// What it should be.
        format: ScanFormat,
        /// What is wrong.
        why: String,
    },
    /// More of something than is read.
    #[error("the {} file has more than {most} {what}, the most that is read", format.word())]
    TooMany {
        /// What it is.
        format: ScanFormat,
        /// Of what, such as `bytes in one line` or `corners in one face`.
        what: &'static str,
        /// The limit.
        most: usize,
    },
    /// Its triangles make no mesh.
    #[error("{0}")]
    Mesh(#[from] MeshError),
    /// Somebody said stop.
    #[error("stopped; nothing was kept")]
    Stopped,
}

//! Reading scan files.

use std::fmt::Display;
use std::io::{BufRead, BufReader, Read, Seek, SeekFrom};
use std::ops::ControlFlow;
use std::panic::{AssertUnwindSafe, catch_unwind};

use nook_geometry::MeshError;

use super::limits::{MOST_VERTICES, Unread, at_most, broken};
use super::ply::ply;
use super::watched::{LONGEST_LINE, Source, Watched};
use super::wrong::what_is_wrong;
use super::{LARGEST_SCAN_FILE, ScanError, ScanFormat, ScanStep, Triangles, Watch};

/// Bytes of a binary STL before its first triangle, and of each triangle.
const STL_HEAD: u64 = 84;
const STL_TRIANGLE: u64 = 50;
/// Most lines of an OBJ that begin an object, a group or a material: each is kept with a mesh of its own.
const MOST_GROUPS: usize = 100_000;
/// Bytes read at once.
const BUFFER: usize = 256 * 1024;

/// Reads a scan file from its beginning and makes equal corners one.
///
/// # Errors
/// [`ScanError`] when the file is empty, too large, cut off, broken, or its triangles make no mesh; or when `watch`
/// says stop.
pub fn read_scan(mut source: impl Read + Seek, format: ScanFormat, watch: Watch<'_>) -> Result<Triangles, ScanError> {
    read_source(&mut source, format, watch)
}

fn read_source(source: &mut dyn Source, format: ScanFormat, watch: Watch<'_>) -> Result<Triangles, ScanError> {
    let broken = |error: &dyn Display| broken(format, error);
    let size = source.seek(SeekFrom::End(0)).and_then(|size| source.rewind().map(|()| size));
    let size = size.map_err(|error| broken(&error))?;
    if size == 0 {
        return Err(ScanError::Empty);
    }
    if size > LARGEST_SCAN_FILE {
        return Err(ScanError::TooLarge { bytes: size });
    }
    go_on(watch, ScanStep::Reading, 0.0)?;
    let mut file = Watched::new(source, size, format, watch);
    // A reader that gives up by a panic is one more way for a file to be broken.
    let read = catch_unwind(AssertUnwindSafe(|| match format {
        ScanFormat::Stl => stl(&mut file, size),
        ScanFormat::Obj => obj(&mut file),
        ScanFormat::Ply => ply(&mut file, size),
    }));
    let read = read.unwrap_or(Err(Unread::Parser));
    // What the reader says of an early end is not what ended it.
    let read = match (file.ended(), read) {
        (Some(why), _) | (None, Err(Unread::Known(why))) => return Err(why),
        (None, Err(Unread::Parser)) => return Err(broken(&what_is_wrong(&mut file, format))),
        (None, Ok(read)) => read,
    };
    go_on(watch, ScanStep::Joining, 0.0)?;
    read.joined()
}

fn go_on(watch: Watch<'_>, step: ScanStep, share: f32) -> Result<(), ScanError> {
    match watch(step, share) {
        ControlFlow::Continue(()) => Ok(()),
        ControlFlow::Break(()) => Err(ScanError::Stopped),
    }
}

/// What the parser of text STL wants to begin with; many writers leave the name out.
const STL_LEAD: &[u8] = b"solid scan\n";

fn stl(file: &mut Watched<'_, '_>, size: u64) -> Result<Triangles, Unread> {
    let broken = |error: &dyn Display| broken(ScanFormat::Stl, error);
    let head = file.head(STL_HEAD).map_err(|error| broken(&error))?;
    let promised = head.get(80..).and_then(|count| count.try_into().ok()).map(u32::from_le_bytes).map(u64::from);
    let binary_size = promised.map(|count| STL_HEAD + count * STL_TRIANGLE);
    // Some writers begin a binary file with "solid"; its length tells it from text.
    let begins = head.trim_ascii_start();
    if begins.get(..5).is_some_and(|word| word.eq_ignore_ascii_case(b"solid"))
        && binary_size != Some(size)
        && !head.contains(&0)
    {
        file.is_text();
        // The first line is taken off whole, whatever name it has; one too long for a line is none.
        let head = file.head(LONGEST_LINE as u64).map_err(|error| broken(&error))?;
        let named = head.len() - head.trim_ascii_start().len();
        let first = head[named..].iter().position(|byte| *byte == b'\n').map(|at| named + at + 1);
        if first.is_none() && head.len() >= LONGEST_LINE {
            let (format, what, most) = (ScanFormat::Stl, "bytes in one line", LONGEST_LINE);
            return Err(ScanError::TooMany { format, what, most }.into());
        }
        let first = u64::try_from(first.unwrap_or(head.len())).unwrap_or(u64::MAX);
        file.begin_with(STL_LEAD, first).map_err(|error| broken(&error))?;
    } else {
        let promised = promised.ok_or_else(|| broken(&"it is shorter than its own header"))?;
        let held = (size - STL_HEAD) / STL_TRIANGLE;
        let count = |count: u64| usize::try_from(count).unwrap_or(usize::MAX);
        if promised > held {
            let (promised, held) = (count(promised), count(held));
            return Err(ScanError::CutOff { format: ScanFormat::Stl, what: "triangles", promised, held }.into());
        }
        at_most(count(promised))?;
        // The header says nothing, and must not be taken for a line of text.
        file.blank(80);
    }
    let all = stl_io::create_stl_reader(file).map_err(|_| Unread::Parser)?;
    let (mut vertices, mut corners) = (Vec::new(), Vec::new());
    for triangle in all {
        let triangle = triangle.map_err(|_| Unread::Parser)?;
        let first = u32::try_from(vertices.len()).map_err(|_| MeshError::TooMany { count: corners.len() })?;
        vertices.extend(triangle.vertices.iter().map(|vertex| vertex.0));
        corners.push([first, first + 1, first + 2]);
        at_most(corners.len())?;
    }
    Ok(Triangles::new(vertices, corners)?)
}

fn obj(file: &mut Watched<'_, '_>) -> Result<Triangles, Unread> {
    file.is_text();
    count_obj_lines(file)?;
    let options =
        tobj::LoadOptions { triangulate: true, ignore_points: true, ignore_lines: true, ..Default::default() };
    let no_materials = |_: &std::path::Path| Ok(Default::default());
    let mut lines = BufReader::with_capacity(BUFFER, file);
    let (models, _) = tobj::load_obj_buf(&mut lines, &options, no_materials).map_err(|_| Unread::Parser)?;
    let (mut vertices, mut corners) = (Vec::new(), Vec::new());
    for model in models {
        let first = u32::try_from(vertices.len()).map_err(|_| MeshError::TooMany { count: usize::MAX })?;
        vertices.extend(model.mesh.positions.chunks_exact(3).map(|v| [v[0], v[1], v[2]]));
        let triangles = model.mesh.indices.chunks_exact(3);
        corners.extend(triangles.map(|corner| [corner[0] + first, corner[1] + first, corner[2] + first]));
        at_most(corners.len())?;
    }
    Ok(Triangles::new(vertices, corners)?)
}

/// The reader takes whatever a file holds, a hundredfold its size in memory if it must; so its lines are counted first.
fn count_obj_lines(file: &mut Watched<'_, '_>) -> Result<(), ScanError> {
    let unread = |error: std::io::Error| broken(ScanFormat::Obj, &error);
    let mut lines = BufReader::with_capacity(BUFFER, &mut *file);
    let (mut line, mut faces, mut groups) = (Vec::new(), 0, 0);
    let mut points = [0; 3];
    let too_many = |what, most| Err(ScanError::TooMany { format: ScanFormat::Obj, what, most });
    while lines.read_until(b'\n', &mut line).map_err(unread)? > 0 {
        match line.trim_ascii() {
            [b'v', b' ' | b'\t', ..] => points[0] += 1,
            [b'v', b't', ..] => points[1] += 1,
            [b'v', b'n', ..] => points[2] += 1,
            [b'f', corners @ ..] => {
                // A face of so many corners is so many triangles less two.
                let corners = corners.split(u8::is_ascii_whitespace).filter(|word| !word.is_empty()).count();
                faces += corners.saturating_sub(2);
            }
            [] | [b'#' | b's', ..] => {}
            _ => groups += 1,
        }
        at_most(faces)?;
        if points.iter().any(|count| *count > MOST_VERTICES) {
            return too_many("vertices", MOST_VERTICES);
        }
        if groups > MOST_GROUPS {
            return too_many("objects, groups and materials", MOST_GROUPS);
        }
        line.clear();
    }
    file.rewind().map_err(unread)
}

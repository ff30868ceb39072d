//! Scan files made to bring the reader down: each is refused in words or read, whatever foreign code it passes through.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::cast_precision_loss,
    reason = "a test fails by panicking, and its counts are small"
)]

use std::fmt::Write as _;
use std::io::Cursor;
use std::ops::ControlFlow;

use nook_core::measure::ScanUnit;
use nook_formats::scan::{DRAWN_TRIANGLES, ScanError, ScanFormat, ScanStep, Triangles, read_scan, thinned, write_kept};
use proptest::prelude::*;

const FORMATS: [ScanFormat; 3] = [ScanFormat::Stl, ScanFormat::Obj, ScanFormat::Ply];

fn read(bytes: &[u8], format: ScanFormat) -> Result<Triangles, ScanError> {
    read_scan(Cursor::new(bytes), format, &mut |_, _| ControlFlow::Continue(()))
}

/// A bumpy sheet, two triangles to each of `side` by `side` squares.
fn sheet(side: u32) -> Triangles {
    let across = side + 1;
    let spot = |k: u32| ((k % across) as f32, (k / across) as f32);
    let height = |(x, y): (f32, f32)| [x * 1.5, y * 1.5, 20.0 * (x * 0.05).sin() * (y * 0.04).cos()];
    let square = |k: u32| {
        let at = k / side * across + k % side;
        [[at, at + 1, at + across], [at + 1, at + across + 1, at + across]]
    };
    let vertices = (0..across * across).map(spot).map(height).collect();
    Triangles::new(vertices, (0..side * side).flat_map(square).collect()).unwrap()
}

fn stl(scan: &Triangles) -> Vec<u8> {
    let corners = scan.corners().iter().map(|at| at.map(|corner| scan.vertices()[corner as usize]));
    let all: Vec<stl_io::Triangle> = corners
        .map(|at| stl_io::Triangle { normal: stl_io::Normal::new([0.0; 3]), vertices: at.map(stl_io::Vertex::new) })
        .collect();
    let mut out = Vec::new();
    stl_io::write_stl(&mut out, all.iter()).unwrap();
    out
}

fn stl_text(scan: &Triangles) -> String {
    let mut text = "solid sheet\n".to_owned();
    for at in scan.corners() {
        text += "facet normal 0 0 0\nouter loop\n";
        for [x, y, z] in at.map(|corner| scan.vertices()[corner as usize]) {
            writeln!(text, "vertex {x} {y} {z}").unwrap();
        }
        text += "endloop\nendfacet\n";
    }
    text + "endsolid sheet\n"
}

fn obj(scan: &Triangles) -> String {
    let mut text = String::new();
    for [x, y, z] in scan.vertices() {
        writeln!(text, "v {x} {y} {z}").unwrap();
    }
    for [a, b, c] in scan.corners() {
        writeln!(text, "f {} {} {}", a + 1, b + 1, c + 1).unwrap();
    }
    text
}

/// All that becomes of a file on its way into a bay.
fn goes_in(bytes: &[u8], format: ScanFormat) -> Result<(), ScanError> {
    let scan = read(bytes, format)?;
    let drawn = thinned(&scan);
    assert!((1..=2 * DRAWN_TRIANGLES + 100).contains(&drawn.corners().len()), "{}", drawn.corners().len());
    let [least, most] = scan.bounds();
    assert!((0..3).all(|axis| least[axis] <= most[axis]), "{least:?} {most:?}");
    write_kept(&drawn).map(drop)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(25))]
    #[test]
    fn a_large_file_with_a_flipped_bit_is_read_or_refused(at in any::<prop::sample::Index>(), bit in 0..8_u8) {
        // 33,800 triangles: more than are drawn, so they pass through the simplifier.
        let whole = sheet(130);
        let files = [stl(&whole), obj(&whole).into_bytes(), write_kept(&whole).unwrap()];
        for (mut bytes, format) in files.into_iter().zip(FORMATS) {
            let at = at.index(bytes.len());
            bytes[at] ^= 1 << bit;
            let _ = goes_in(&bytes, format);
        }
    }
}

#[test]
fn a_corner_beyond_the_vertices_is_refused_in_a_file_of_any_size() {
    let mut bytes = write_kept(&sheet(130)).unwrap();
    let last = bytes.len() - 4;
    bytes[last..].copy_from_slice(&u32::MAX.to_le_bytes());
    let why = goes_in(&bytes, ScanFormat::Ply).unwrap_err().to_string();
    assert!(why.contains("triangle 33800 has a corner that is not among the 17161 vertices"), "{why}");
    let negative = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n\
                    element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 -1\n";
    assert!(goes_in(negative.as_bytes(), ScanFormat::Ply).is_err());
}

/// Quadratic in the simplifier, once: each took from one to many minutes.
#[test]
fn triangles_that_share_one_edge_or_one_vertex_are_thinned_at_once() {
    let wheel = |rim: u32, used: u32| {
        let mut text = String::new();
        for k in 0..rim {
            let angle = f64::from(k) * std::f64::consts::TAU / f64::from(rim);
            writeln!(text, "v {} {} 0", 100.0 * angle.cos(), 100.0 * angle.sin()).unwrap();
        }
        text += "f";
        (0..used).for_each(|k| write!(text, " {}", k % rim + 1).unwrap());
        text
    };
    for (rim, used) in [(3, 120_000), (20_000, 120_000), (70_000, 70_000)] {
        goes_in(wheel(rim, used).as_bytes(), ScanFormat::Obj).unwrap();
    }
    // Triangles that all reach across: the rough way leaves none of them.
    let mut crumbs = String::new();
    let mut state = 1_u64;
    let mut next = || {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) % 1000
    };
    (0..60_000).for_each(|_| writeln!(crumbs, "v {} {} {}", next(), next(), next()).unwrap());
    (0..30_000)
        .for_each(|k| writeln!(crumbs, "f {} {} {}", 2 * k + 1, 2 * k + 2, (2 * k + 4567) % 60_000 + 1).unwrap());
    goes_in(crumbs.as_bytes(), ScanFormat::Obj).unwrap();
}

#[test]
fn reading_is_stopped_half_way_in_every_format() {
    let whole = sheet(130);
    let files = [stl(&whole), obj(&whole).into_bytes(), write_kept(&whole).unwrap(), stl_text(&whole).into_bytes()];
    for (bytes, format) in files.iter().zip([FORMATS[0], FORMATS[1], FORMATS[2], ScanFormat::Stl]) {
        let mut furthest = 0.0_f32;
        let stopped = read_scan(Cursor::new(bytes), format, &mut |step, share| {
            if step == ScanStep::Reading {
                furthest = furthest.max(share);
            }
            if share > 0.3 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
        });
        assert!(matches!(stopped, Err(ScanError::Stopped)), "{format:?}: {stopped:?}");
        assert!((0.3..1.0).contains(&furthest), "{format:?}: {furthest}");
    }
}

#[test]
fn a_file_that_would_take_all_memory_is_refused_before_it_does() {
    let why = |bytes: &[u8], format| goes_in(bytes, format).unwrap_err().to_string();
    let line = |head: &str, word: &str| format!("{head}{}\n", word.repeat(2 * 1024 * 1024 / word.len()));
    assert!(why(line("f", " 1").as_bytes(), ScanFormat::Obj).contains("1048576 bytes in one line"));
    assert!(why(line("solid ", "x").as_bytes(), ScanFormat::Stl).contains("1048576 bytes in one line"));
    let groups = "o\n".repeat(100_001);
    assert!(why(groups.as_bytes(), ScanFormat::Obj).contains("more than 100000 objects, groups and materials"));
    let faces = format!("v 0 0 0\n{}", format!("f{}\n", " 1".repeat(100_002)).repeat(21));
    assert!(why(faces.as_bytes(), ScanFormat::Obj).contains("2000000 is the most"));

    let ply = |vertices: usize, list: &str, tail: &[u8]| {
        let head = format!(
            "ply\nformat binary_little_endian 1.0\nelement vertex {vertices}\nproperty uchar x\nproperty uchar y\n\
             property uchar z\nelement face 1\nproperty list uint uchar {list}\nend_header\n"
        );
        [head.as_bytes(), &[0; 9], tail].concat()
    };
    let long = [&200_000_u32.to_le_bytes()[..], &vec![1; 200_000]].concat();
    assert!(why(&ply(3, "vertex_indices", &long), ScanFormat::Ply).contains("more than 100000 corners"));
    assert!(why(&ply(6_000_001, "vertex_indices", &long), ScanFormat::Ply).contains("more than 6000000 vertices"));
    let endless = [b"ply\nformat ascii 1.0\ncomment ".as_slice(), &vec![b'x'; 100_000]].concat();
    assert!(why(&endless, ScanFormat::Ply).contains("no header that ends"));
}

#[test]
fn a_binary_file_that_begins_like_text_is_read_as_what_it_is() {
    let mut bytes = stl(&sheet(10));
    bytes[..80].fill(b' ');
    bytes[..14].copy_from_slice(b"solid sheet\nfa");
    let scan = read(&bytes, ScanFormat::Stl).unwrap();
    assert_eq!(scan.corners().len(), 200);
    assert!(scan.mesh(ScanUnit::Mm).is_ok());
}

//! Scans come in alike from every format, and what is broken is refused with its reason.

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
use nook_formats::scan::{
    DRAWN_TRIANGLES, ScanError, ScanFormat, ScanStep, Triangles, read_kept, read_scan, scan_id, thinned, write_kept,
};
use nook_geometry::{MeshError, Point};
use proptest::prelude::*;

fn read(bytes: &[u8], format: ScanFormat) -> Result<Triangles, ScanError> {
    read_scan(Cursor::new(bytes), format, &mut |_, _| ControlFlow::Continue(()))
}

/// A block of 40 x 30 x 20 with its corner at (1, 2, 3).
fn block() -> Triangles {
    let corner = |k: u32| [(k & 1, 1.0, 40.0), (k >> 1 & 1, 2.0, 30.0), (k >> 2 & 1, 3.0, 20.0)];
    let place = |(side, from, size): (u32, f32, f32)| if side == 1 { from + size } else { from };
    let vertices = (0..8).map(|k| corner(k).map(place)).collect();
    let faces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]];
    let triangles = faces.iter().flat_map(|[a, b, c, d]| [[*a, *b, *c], [*a, *c, *d]]).collect();
    Triangles::new(vertices, triangles).unwrap()
}

fn corners(scan: &Triangles) -> impl Iterator<Item = [[f32; 3]; 3]> {
    scan.corners().iter().map(|at| at.map(|corner| scan.vertices()[corner as usize]))
}

fn stl_text(scan: &Triangles) -> String {
    let mut text = "solid block\n".to_owned();
    for triangle in corners(scan) {
        text += "facet normal 0 0 0\nouter loop\n";
        for [x, y, z] in triangle {
            writeln!(text, "vertex {x} {y} {z}").unwrap();
        }
        text += "endloop\nendfacet\n";
    }
    text + "endsolid block\n"
}

fn stl_binary(scan: &Triangles, head: &[u8]) -> Vec<u8> {
    let mut bytes = head.to_vec();
    bytes.resize(80, 0);
    bytes.extend(u32::try_from(scan.corners().len()).unwrap().to_le_bytes());
    for triangle in corners(scan) {
        bytes.extend([0; 12]);
        bytes.extend(triangle.iter().flatten().flat_map(|c| c.to_le_bytes()));
        bytes.extend([0; 2]);
    }
    bytes
}

fn obj_quads() -> String {
    let mut text = "# a block\no block\n".to_owned();
    for [x, y, z] in block().vertices() {
        writeln!(text, "v {x} {y} {z}").unwrap();
    }
    for face in ["1 3 4 2", "5 6 8 7", "1 2 6 5", "3 7 8 4", "1 5 7 3", "2 4 8 6"] {
        writeln!(text, "f {face}").unwrap();
    }
    text
}

fn ply_text(faces: &str, count: usize) -> String {
    let mut text = format!(
        "ply\nformat ascii 1.0\ncomment a block\nelement vertex 8\nproperty float x\nproperty float y\nproperty float z\n\
         property uchar red\nelement face {count}\nproperty list uchar int vertex_indices\nend_header\n"
    );
    for [x, y, z] in block().vertices() {
        writeln!(text, "{x} {y} {z} 200").unwrap();
    }
    text + faces
}

const PLY_QUADS: &str = "4 0 2 3 1\n4 4 5 7 6\n4 0 1 5 4\n4 2 6 7 3\n4 0 4 6 2\n4 1 3 7 5\n";

#[test]
fn a_block_is_the_same_from_every_format() {
    let files = [
        (stl_text(&block()).into_bytes(), ScanFormat::Stl),
        (stl_binary(&block(), b"made up"), ScanFormat::Stl),
        // Some writers begin a binary file like a text one.
        (stl_binary(&block(), b"solid block"), ScanFormat::Stl),
        (obj_quads().into_bytes(), ScanFormat::Obj),
        (ply_text(PLY_QUADS, 6).into_bytes(), ScanFormat::Ply),
        (write_kept(&block()).unwrap(), ScanFormat::Ply),
    ];
    for (bytes, format) in files {
        let scan = read(&bytes, format).unwrap();
        assert_eq!((scan.vertices().len(), scan.corners().len()), (8, 12), "{format:?}");
        let mesh = scan.mesh(ScanUnit::Mm).unwrap();
        assert_eq!(mesh.bounds(), [[1.0, 2.0, 3.0], [41.0, 32.0, 23.0]], "{format:?}");
        // 10 mm off its top face.
        let near = mesh.distance_to_point(Point::new(20.0, 15.0, 33.0).unwrap());
        assert!((near - 10.0).abs() < 1e-9, "{near}");
    }
    let inches = read(&obj_quads().into_bytes(), ScanFormat::Obj).unwrap().mesh(ScanUnit::In).unwrap();
    assert!((inches.bounds()[0][0] - 25.4).abs() < 1e-9);
}

#[test]
fn broken_files_are_refused_with_their_reason() {
    let refused =
        |bytes: &[u8], format| read(bytes, format).and_then(|scan| scan.mesh(ScanUnit::Mm)).unwrap_err().to_string();
    let whole = stl_binary(&block(), b"made up");
    assert_eq!(refused(b"", ScanFormat::Stl), "the file is empty");
    assert!(refused(&whole[..50], ScanFormat::Stl).contains("shorter than its own header"));
    assert!(refused(&whole[..whole.len() - 30], ScanFormat::Stl).contains("promises 12 triangles and holds 11"));
    let mut lying = whole.clone();
    lying[80..84].copy_from_slice(&u32::MAX.to_le_bytes());
    assert!(refused(&lying, ScanFormat::Stl).contains("promises 4294967295"));
    let none = &whole[..80].iter().chain(&[0; 4]).copied().collect::<Vec<u8>>();
    assert!(refused(none, ScanFormat::Stl).contains("no triangle"));
    let mut numberless = whole.clone();
    numberless[96..100].copy_from_slice(&f32::NAN.to_le_bytes());
    assert!(refused(&numberless, ScanFormat::Stl).contains("is not within 100000 mm"));
    let cut = stl_text(&block());
    assert!(refused(&cut.as_bytes()[..cut.len() / 2], ScanFormat::Stl).contains("cannot be read"));

    assert!(refused(b"v 0 0 0\nv 1 0 0\nf 1 2 9\n", ScanFormat::Obj).contains("OBJ"));
    assert!(refused(b"v 0 0 0\nv 1 0 nan\nv 0 1 0\nf 1 2 3\n", ScanFormat::Obj).contains("not within"));
    assert!(refused(b"nothing of the kind\n", ScanFormat::Obj).contains("no triangle"));

    assert!(refused(b"ply\nformat ascii 1.0\n", ScanFormat::Ply).contains("PLY"));
    assert!(refused(ply_text("3 0 1 99\n", 1).as_bytes(), ScanFormat::Ply).contains("not among the 8 vertices"));
    assert!(refused(ply_text(PLY_QUADS, 60).as_bytes(), ScanFormat::Ply).contains("PLY file cannot be read"));
    assert!(refused(ply_text(PLY_QUADS, 1_999_999).as_bytes(), ScanFormat::Ply).contains("cut off"));
    let too_many = ply_text(PLY_QUADS, 2_000_001);
    assert!(refused(too_many.as_bytes(), ScanFormat::Ply).contains("2000000 is the most"));
    let kept = write_kept(&block()).unwrap();
    assert!(refused(&kept[..kept.len() - 5], ScanFormat::Ply).contains("PLY file cannot be read"));
}

#[test]
fn reading_can_be_stopped_and_reports_how_far_it_is() {
    let bytes = stl_binary(&block(), b"made up");
    let mut steps = Vec::new();
    let stopped = read_scan(Cursor::new(&bytes), ScanFormat::Stl, &mut |step, share| {
        steps.push((step, share));
        if steps.len() == 2 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    });
    assert!(matches!(stopped, Err(ScanError::Stopped)), "{stopped:?}");
    assert_eq!(steps[0], (ScanStep::Reading, 0.0));
    assert!(steps.iter().all(|(_, share)| (0.0..=1.0).contains(share)));
}

#[test]
fn a_large_scan_is_drawn_lightly_and_stays_the_same_to_look_at() {
    let side = 200_u32;
    let across = side + 1;
    let height = |x: f32, y: f32| 30.0 * (x * 0.02).sin() * (y * 0.03).cos();
    let spot = |k: u32| ((k % across) as f32 * 2.0, (k / across) as f32 * 2.0);
    let vertices: Vec<[f32; 3]> = (0..across * across).map(spot).map(|(x, y)| [x, y, height(x, y)]).collect();
    let square = |k: u32| {
        let at = k / side * across + k % side;
        [[at, at + 1, at + across], [at + 1, at + across + 1, at + across]]
    };
    let scan = Triangles::new(vertices, (0..side * side).flat_map(square).collect()).unwrap();
    let drawn = thinned(&scan);
    assert!(drawn.corners().len() <= DRAWN_TRIANGLES + 100, "{}", drawn.corners().len());
    assert!(drawn.corners().len() > 1000);
    let whole = scan.mesh(ScanUnit::Mm).unwrap();
    let light = drawn.mesh(ScanUnit::Mm).unwrap();
    let far = light.vertices().map(|[x, y, z]| whole.distance_to_point(Point::new(x, y, z).unwrap()));
    assert!(far.fold(0.0, f64::max) < 1e-3, "thinning keeps corners where they were");
}

#[test]
fn a_scan_is_named_by_its_content() {
    let kept = write_kept(&block()).unwrap();
    assert_eq!(scan_id(&kept), scan_id(&write_kept(&read_kept(&kept).unwrap()).unwrap()));
    let mut moved = block().vertices().to_vec();
    moved[0][0] += 0.5;
    let other = Triangles::new(moved, block().corners().to_vec()).unwrap();
    assert_ne!(scan_id(&kept), scan_id(&write_kept(&other).unwrap()));
    assert!(matches!(read(b"x", ScanFormat::Stl), Err(ScanError::Broken { .. })));
    assert!(matches!(Triangles::new(Vec::new(), Vec::new()), Err(ScanError::Mesh(MeshError::Empty))));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]
    #[test]
    fn random_bytes_never_bring_it_down(bytes in prop::collection::vec(any::<u8>(), 0..400), head in 0..4_usize) {
        let heads: [&[u8]; 4] = [b"", b"solid ", b"ply\nformat binary_little_endian 1.0\nelement vertex 3\n", b"v 1 2 3\nf "];
        let file: Vec<u8> = heads[head].iter().copied().chain(bytes).collect();
        for format in [ScanFormat::Stl, ScanFormat::Obj, ScanFormat::Ply] {
            if let Ok(scan) = read(&file, format) {
                prop_assert!(!scan.corners().is_empty() || scan.mesh(ScanUnit::Mm).is_err());
            }
        }
    }
}

#[test]
fn text_stl_is_read_whatever_its_name() {
    let text = stl_text(&block());
    let body = text.trim_start_matches("solid block\n");
    for first in
        ["solid\n", "solid\r\n", "solid \n", "  solid facet normal\n", "SOLID Block 7\n", "solid T\u{fc}r \u{5de6}\n"]
    {
        let file = format!("{first}{body}");
        let read = read(file.as_bytes(), ScanFormat::Stl).unwrap_or_else(|error| panic!("{first:?}: {error}"));
        assert_eq!(read.corners().len(), 12, "{first:?}");
    }
    // Names in old encodings, first and last.
    let mut file = b"solid T\xfcr\n".to_vec();
    file.extend(body.replace("endsolid block", "endsolid ").as_bytes());
    file.extend(b"\xfc\n");
    assert_eq!(read(&file, ScanFormat::Stl).unwrap().corners().len(), 12);
}

#[test]
fn a_ply_may_hold_other_elements_and_figures() {
    let scan = block();
    let mut text = format!(
        "ply\nformat ascii 1.0\ncomment by hand\nelement camera 1\nproperty float fx\nproperty list uchar int ids\n\
         element vertex 8\nproperty double x\nproperty double y\nproperty double z\nproperty uchar red\n\
         element edge 2\nproperty int vertex1\nproperty int vertex2\n\
         element face {}\nproperty uchar flags\nproperty list uchar int vertex_index\nproperty list uchar float texcoord\n\
         element material 0\nproperty float shine\nend_header\n1.5 2 7 8\n",
        scan.corners().len()
    );
    for [x, y, z] in scan.vertices() {
        writeln!(text, "{x} {y} {z} 200").unwrap();
    }
    text += "0 1\n1 2\n";
    for [a, b, c] in scan.corners() {
        writeln!(text, "1 3 {a} {b} {c} 2 0.5 0.5").unwrap();
    }
    let read = read(text.as_bytes(), ScanFormat::Ply).unwrap_or_else(|error| panic!("{error}"));
    assert_eq!((read.vertices().len(), read.corners().len()), (8, 12));
}

#[test]
fn what_is_wrong_in_a_text_is_told_by_its_line() {
    let refused = |text: &str, format| read(text.as_bytes(), format).unwrap_err().to_string();
    let stl = stl_text(&block());
    let said = refused(&stl.replacen("vertex", "vertx", 1), ScanFormat::Stl);
    assert!(said.contains("line 4 reads \u{201c}vertx") && said.contains("three numbers was expected"), "{said}");
    let said = refused(&stl[..stl.len() / 2], ScanFormat::Stl);
    assert!(said.contains("line "), "{said}");
    let said = refused("v 0 0 0\nv 1 0 0\nv 0 one 0\nf 1 2 3\n", ScanFormat::Obj);
    assert!(said.contains("line 3 reads \u{201c}v 0 one 0\u{201d}"), "{said}");
    let said = refused("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n", ScanFormat::Obj);
    assert!(said.contains("line 4") || said.contains("vert"), "{said}");
    let ply = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n\
               element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0\n0 1 0\n3 0 1 2\n";
    let said = refused(ply, ScanFormat::Ply);
    assert!(said.contains("line 11 reads \u{201c}1 0\u{201d}; the numbers of one vertex was expected"), "{said}");
    for said in [&said, &refused(&stl.replace("outer loop", "outer lop"), ScanFormat::Stl)] {
        assert!(!said.contains("Error") && !said.contains('['), "no parser's own words: {said}");
    }
}

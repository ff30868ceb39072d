//! How long a scan of a million triangles (50 MB of binary STL) takes until it can be measured against, and what its
//! parts take.

#![allow(
    clippy::unwrap_used,
    clippy::cast_precision_loss,
    missing_docs,
    reason = "a benchmark of sound data, whose counts are small"
)]

use std::io::Cursor;
use std::ops::ControlFlow;

use nook_core::measure::ScanUnit;
use nook_formats::scan::{ScanFormat, Triangles, read_kept, read_scan, thinned, write_kept};

fn main() {
    divan::main();
}

/// A bumpy sheet of two triangles to a square, `side` squares each way.
fn lump(side: u32) -> Triangles {
    let across = side + 1;
    let height =
        |x: f32, y: f32| 40.0 * (x * 0.013).sin() * (y * 0.017).cos() + 3.0 * (x * 0.4).sin() * (y * 0.3).sin();
    let spot = |k: u32| ((k % across) as f32, (k / across) as f32);
    let vertices = (0..across * across).map(spot).map(|(x, y)| [x * 0.6, y * 0.6, height(x, y)]).collect();
    let square = |k: u32| {
        let at = k / side * across + k % side;
        [[at, at + 1, at + across], [at + 1, at + across + 1, at + across]]
    };
    Triangles::new(vertices, (0..side * side).flat_map(square).collect()).unwrap()
}

fn million() -> Triangles {
    lump(708)
}

fn stl() -> Vec<u8> {
    let scan = million();
    let all: Vec<stl_io::Triangle> = scan
        .corners()
        .iter()
        .map(|corners| stl_io::Triangle {
            normal: stl_io::Normal::new([0.0; 3]),
            vertices: corners.map(|at| stl_io::Vertex::new(scan.vertices()[at as usize])),
        })
        .collect();
    let mut out = Vec::new();
    stl_io::write_stl(&mut out, all.iter()).unwrap();
    out
}

#[divan::bench(sample_count = 5)]
fn a_million_triangles_from_stl_to_measured(bencher: divan::Bencher<'_, '_>) {
    let bytes = stl();
    bencher.bench(|| {
        let scan = read_scan(Cursor::new(&bytes), ScanFormat::Stl, &mut |_, _| ControlFlow::Continue(())).unwrap();
        scan.mesh(ScanUnit::Mm).unwrap()
    });
}

#[divan::bench(sample_count = 5)]
fn reading_the_stl(bencher: divan::Bencher<'_, '_>) {
    let bytes = stl();
    bencher.bench(|| read_scan(Cursor::new(&bytes), ScanFormat::Stl, &mut |_, _| ControlFlow::Continue(())).unwrap());
}

#[divan::bench(sample_count = 5)]
fn thinning_for_the_screen(bencher: divan::Bencher<'_, '_>) {
    let scan = million();
    bencher.bench(|| thinned(&scan));
}

#[divan::bench(sample_count = 5)]
fn opening_a_kept_scan(bencher: divan::Bencher<'_, '_>) {
    let kept = write_kept(&million()).unwrap();
    bencher.bench(|| read_kept(&kept).unwrap().mesh(ScanUnit::Mm).unwrap());
}

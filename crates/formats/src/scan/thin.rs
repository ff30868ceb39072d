//! A light copy of a scan for the screen. What is measured is never this.

use super::Triangles;

/// Most triangles that are drawn: software WebGL still turns them.
pub const DRAWN_TRIANGLES: usize = 24_000;
/// Triangles that are thinned with care; of more than this a rough cut is made first.
const ROUGHLY: usize = 10 * DRAWN_TRIANGLES;
/// Share of a scan's size by which a drawn surface may be off.
const OFF: f32 = 0.02;

/// The scan with at most about [`DRAWN_TRIANGLES`] triangles, and the vertices they need.
#[must_use]
pub fn thinned(scan: &Triangles) -> Triangles {
    let corners: Vec<u32> = scan.triangles.iter().flatten().copied().collect();
    let wanted = DRAWN_TRIANGLES * 3;
    let mut drawn = corners;
    if drawn.len() > ROUGHLY * 3 {
        // A first cut by the rough and quick way; the careful one then has a tenth of the work.
        drawn = meshopt::simplify_sloppy_decoder(&drawn, &scan.vertices, ROUGHLY * 3, 1.0, None);
    }
    if drawn.len() > wanted {
        let careful = meshopt::SimplifyOptions::Prune;
        drawn = meshopt::simplify_decoder(&drawn, &scan.vertices, wanted, OFF, careful, None);
        // A scan full of holes and crumbs cannot be thinned with care.
        if drawn.len() > wanted * 2 {
            drawn = meshopt::simplify_sloppy_decoder(&drawn, &scan.vertices, wanted, 1.0, None);
        }
    }
    let mut place = vec![u32::MAX; scan.vertices.len()];
    let mut vertices = Vec::new();
    for corner in &mut drawn {
        let at = &mut place[*corner as usize];
        if *at == u32::MAX {
            *at = u32::try_from(vertices.len()).unwrap_or(u32::MAX);
            vertices.push(scan.vertices[*corner as usize]);
        }
        *corner = *at;
    }
    let triangles = drawn.chunks_exact(3).map(|corners| [corners[0], corners[1], corners[2]]).collect();
    Triangles { vertices, triangles }
}

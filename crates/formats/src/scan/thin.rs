//! A light copy of a scan for the screen. What is measured is never this.

use super::Triangles;

/// Most triangles that are drawn: software WebGL still turns them.
pub const DRAWN_TRIANGLES: usize = 24_000;
/// Triangles that are thinned with care; of more than this a rough cut is made first.
const ROUGHLY: usize = 10 * DRAWN_TRIANGLES;
/// Share of a scan's size by which a drawn surface may be off.
const OFF: f32 = 0.02;

/// Most triangles about one vertex that are thinned with care: its time grows with the square of their number.
const BUSIEST: u32 = 1000;

/// The scan with at most about [`DRAWN_TRIANGLES`] triangles, and the vertices they need. A scan is never thinned to
/// nothing.
#[must_use]
pub fn thinned(scan: &Triangles) -> Triangles {
    let (points, wanted) = (scan.vertices(), DRAWN_TRIANGLES * 3);
    let sloppy = |corners: &[u32], most| meshopt::simplify_sloppy_decoder(corners, points, most, 1.0, None);
    let mut drawn: Vec<u32> = scan.corners().iter().flatten().copied().collect();
    if drawn.len() > ROUGHLY * 3 {
        // A first cut by the rough and quick way; the careful one then has a tenth of the work.
        drawn = sloppy(&drawn, ROUGHLY * 3);
    }
    if drawn.len() > wanted {
        if busiest(&drawn, points.len()) <= BUSIEST {
            let careful = meshopt::SimplifyOptions::Prune;
            drawn = meshopt::simplify_decoder(&drawn, points, wanted, OFF, careful, None);
        }
        // A scan full of holes and crumbs cannot be thinned with care.
        if drawn.len() > wanted * 2 {
            drawn = sloppy(&drawn, wanted);
        }
    }
    // Triangles that all reach across the whole scan vanish in the rough way: then every so many of them.
    let mut drawn: Vec<[u32; 3]> = if drawn.is_empty() {
        scan.corners().iter().step_by(scan.corners().len().div_ceil(DRAWN_TRIANGLES)).copied().collect()
    } else {
        drawn.chunks_exact(3).map(|corners| [corners[0], corners[1], corners[2]]).collect()
    };
    let mut place = vec![u32::MAX; points.len()];
    let mut vertices = Vec::new();
    for corner in drawn.iter_mut().flatten() {
        let at = &mut place[*corner as usize];
        if *at == u32::MAX {
            *at = u32::try_from(vertices.len()).unwrap_or(u32::MAX);
            vertices.push(points[*corner as usize]);
        }
        *corner = *at;
    }
    Triangles::new(vertices, drawn).unwrap_or_else(|_| scan.clone())
}

/// How many triangles meet at the vertex where most do.
fn busiest(corners: &[u32], vertices: usize) -> u32 {
    let mut counts = vec![0_u32; vertices];
    for corner in corners {
        counts[*corner as usize] += 1;
    }
    counts.into_iter().max().unwrap_or(0)
}

//! Flat outlines: what of one lies within another.

use nalgebra::{Point2, Vector2};

/// The part of `outline` within a convex `window` that goes round anticlockwise. An outline that is not convex may come out
/// with edges that lie on each other; its area is right all the same. Source: Sutherland and Hodgman, Reentrant Polygon
/// Clipping, 1974.
pub(super) fn clipped(outline: &[Point2<f64>], window: &[Point2<f64>]) -> Vec<Point2<f64>> {
    let mut left = outline.to_vec();
    for (index, from) in window.iter().enumerate() {
        let side = window[(index + 1) % window.len()] - from;
        // Above zero to the left of the side, within the window.
        let within = |at: &Point2<f64>| cross(&side, &(at - from));
        let mut next = Vec::with_capacity(left.len() + 4);
        for (place, here) in left.iter().enumerate() {
            let before = &left[(place + left.len() - 1) % left.len()];
            let (was, is) = (within(before), within(here));
            if (was < 0.0) != (is < 0.0) {
                next.push(before + (here - before) * (was / (was - is)));
            }
            if is >= 0.0 {
                next.push(*here);
            }
        }
        left = next;
    }
    left
}

/// The area within an outline, above zero where it goes round anticlockwise, and its centroid, as far as it has one.
pub(super) fn area(outline: &[Point2<f64>]) -> (f64, Option<Point2<f64>>) {
    let Some(first) = outline.first() else { return (0.0, None) };
    let (mut twice, mut moment) = (0.0, Vector2::zeros());
    for (index, from) in outline.iter().enumerate() {
        // From the first point, so that far from the zero nothing is lost.
        let (p, q) = (from - first, outline[(index + 1) % outline.len()] - first);
        let part = cross(&p, &q);
        twice += part;
        moment += (p + q) * part;
    }
    let centre = (twice.abs() > f64::MIN_POSITIVE).then(|| first + moment / (3.0 * twice));
    (twice / 2.0, centre)
}

fn cross(p: &Vector2<f64>, q: &Vector2<f64>) -> f64 {
    p.x * q.y - p.y * q.x
}

#[cfg(test)]
mod tests {
    #![allow(
        clippy::cast_precision_loss,
        clippy::expect_used,
        reason = "a test counts to thousands and fails by panicking"
    )]

    use super::*;
    use proptest::prelude::*;

    fn points(flat: &[[f64; 2]]) -> Vec<Point2<f64>> {
        flat.iter().map(|[x, y]| Point2::new(*x, *y)).collect()
    }

    #[test]
    fn an_l_within_a_square_that_covers_its_notch() {
        let l = points(&[[0.0, 0.0], [4.0, 0.0], [4.0, 2.0], [2.0, 2.0], [2.0, 4.0], [0.0, 4.0]]);
        let window = points(&[[1.0, 1.0], [5.0, 1.0], [5.0, 5.0], [1.0, 5.0]]);
        // 3 by 1 below the notch and 1 by 2 beside it.
        assert!((area(&clipped(&l, &window)).0 - 5.0).abs() < 1e-12);
        let (whole, centre) = area(&l);
        assert!((whole - 12.0).abs() < 1e-12);
        // Two rectangles: 4 by 2 about (2, 1) and 2 by 2 about (1, 3).
        assert!((centre.expect("it has one") - Point2::new(20.0 / 12.0, 20.0 / 12.0)).norm() < 1e-12);
    }

    proptest! {
        #[test]
        fn what_is_within_is_as_large_as_a_grid_says(
            corners in prop::collection::vec((-50.0..50.0_f64, -50.0..50.0_f64), 3..7),
            [width, height] in prop::array::uniform2(20.0..90.0_f64),
        ) {
            // A star about its middle never crosses itself.
            let middle = Vector2::new(3.0, -4.0);
            let count = corners.len() as f64;
            let star: Vec<_> = corners.iter().enumerate().map(|(k, (x, _))| {
                let angle = k as f64 / count * std::f64::consts::TAU;
                Point2::from(middle + Vector2::new(angle.cos(), angle.sin()) * (x.abs() + 5.0))
            }).collect();
            let (w, h) = (width / 2.0, height / 2.0);
            let window = points(&[[-w, -h], [w, -h], [w, h], [-w, h]]);
            let inside = |at: Point2<f64>| star.iter().enumerate().filter(|(k, p)| {
                let q = star[(k + 1) % star.len()];
                (p.y > at.y) != (q.y > at.y) && at.x < (q.x - p.x) * (at.y - p.y) / (q.y - p.y) + p.x
            }).count() % 2 == 1;
            const GRID: usize = 160;
            let step = |k: usize, side: f64| (k as f64 + 0.5) / GRID as f64 * side - side / 2.0;
            let hits = (0..GRID * GRID).filter(|k| inside(Point2::new(step(k % GRID, width), step(k / GRID, height)))).count();
            let sampled = hits as f64 / (GRID * GRID) as f64 * width * height;
            let told = area(&clipped(&star, &window)).0;
            prop_assert!((told - sampled).abs() < 0.02 * width * height, "{told} against {sampled}");
        }
    }
}

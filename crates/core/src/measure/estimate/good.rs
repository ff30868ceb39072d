//! Within how much an answer is right.

use nalgebra::SMatrix;

/// The radius about a normally distributed point, of covariance `spread`, that it lies within 95 times in 100; in the
/// root of the covariance's unit. For one, two or three dimensions, of which any may be flat.
///
/// The sum of squares is matched by a scaled chi squared of its first two moments. Source: Box, "Some theorems on
/// quadratic forms" (1954), theorem 3.1. That is exact where the spreads are alike or all but one nil, and within 1.5 %
/// between.
#[must_use]
pub fn within_95<const N: usize>(spread: SMatrix<f64, N, N>) -> f64 {
    let (sum, squares) = (spread.trace(), (spread * spread).trace());
    if squares <= 0.0 {
        return 0.0;
    }
    let freedom = (sum * sum / squares).clamp(1.0, 3.0);
    // Chi squared at 0.95 is 3.841, 5.991 and 7.815 for 1, 2 and 3; the parabola through them is within 0.2 % of it.
    let chi = 3.841_5 + 2.150_0 * (freedom - 1.0) - 0.163_3 * (freedom - 1.0) * (freedom - 2.0);
    (squares / sum * chi).sqrt()
}

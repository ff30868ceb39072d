//! Eigenvalues of symmetric matrices, in a bounded number of steps: the library's own search does not end on a matrix
//! with something in it that is no number.

use nalgebra::{DMatrix, DVector, Matrix3, SVD, SymmetricEigen};

use super::Vector;

/// Steps after which a decomposition that should take a dozen has failed.
const STEPS: usize = 400;

/// Eigenvalues of a symmetric matrix, the least first, with their directions; `None` where there are none to find.
pub fn spread_axes(matrix: Matrix3<f64>) -> Option<[(f64, Vector); 3]> {
    let eigen = SymmetricEigen::try_new(matrix, f64::EPSILON, STEPS)?;
    let mut axes = [0, 1, 2].map(|i| (eigen.eigenvalues[i], eigen.eigenvectors.column(i).into_owned()));
    axes.sort_by(|p, q| p.0.total_cmp(&q.0));
    axes.iter().all(|axis| axis.0.is_finite()).then_some(axes)
}

/// The least eigenvalue of a symmetric matrix and its direction; `None` as above, or where the matrix is empty.
pub fn least_axis(matrix: &DMatrix<f64>) -> Option<(f64, DVector<f64>)> {
    if matrix.is_empty() {
        return None;
    }
    let eigen = SymmetricEigen::try_new(matrix.clone(), f64::EPSILON, STEPS)?;
    let least = eigen.eigenvalues.argmin().0;
    let value = eigen.eigenvalues[least];
    value.is_finite().then(|| (value, eigen.eigenvectors.column(least).into_owned()))
}

/// The two turns of a singular value decomposition; `None` where it does not converge.
pub fn turns(matrix: Matrix3<f64>) -> Option<(Matrix3<f64>, Matrix3<f64>)> {
    let parts = SVD::try_new(matrix, true, true, f64::EPSILON, STEPS)?;
    parts.u.zip(parts.v_t)
}

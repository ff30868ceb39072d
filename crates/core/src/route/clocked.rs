//! Seams that were turned or sanded away from what the saw gave them.

use std::f64::consts::PI;

use serde::Serialize;

/// A seam whose second piece is turned about the face, out of full bend.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct ClockedSeam {
    /// How far the pipe turns there, in radians.
    pub deflection: f64,
    /// How far the lean is out of the plane of full bend, in radians about the first piece's axis.
    pub azimuth: f64,
    /// Widest step between the two ellipses, in mm; more than half a wall will not weld well.
    pub step: f64,
}

impl ClockedSeam {
    /// A seam of tube of `od` mm between faces sawn at `saw` radians, the second piece turned `psi` radians about the
    /// face's normal away from full bend. Source: handbook, "The sums", Pie cuts.
    #[must_use]
    pub fn new(od: f64, saw: f64, psi: f64) -> Self {
        let deflection = 2.0 * (saw.sin() * (psi / 2.0).cos()).abs().min(1.0).asin();
        // The second axis, a cone about the face's normal, seen square to the first.
        let azimuth = if deflection < 1e-9 { 0.0 } else { psi.sin().atan2(saw.cos() * (1.0 + psi.cos())) };
        Self { deflection, azimuth, step: widest_step(od / 2.0, saw, psi) }
    }
}

/// The face of a sawn tube is an ellipse; how far it lies from the middle at `clock` radians from its long axis.
fn ellipse(radius: f64, saw: f64, clock: f64) -> f64 {
    radius / (1.0 - (saw.sin() * clock.cos()).powi(2)).sqrt()
}

/// The widest radial step between two such faces turned by `psi`: a scan, then ever smaller steps.
fn widest_step(radius: f64, saw: f64, psi: f64) -> f64 {
    let step = |clock: f64| (ellipse(radius, saw, clock) - ellipse(radius, saw, clock - psi)).abs();
    let (mut best, mut width) = (0.0, PI / 90.0);
    let mut k = 0.0;
    while k < 90.0 {
        if step(k * width) > step(best) {
            best = k * width;
        }
        k += 1.0;
    }
    while width > 1e-10 {
        let better = [best - width, best + width].into_iter().find(|clock| step(*clock) > step(best));
        match better {
            Some(clock) => best = clock,
            None => width /= 2.0,
        }
    }
    step(best)
}

/// A pie whose faces were sanded further, pivoting on the back edge.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct LinishedPie {
    /// Angle the seam turns now, in radians.
    pub seam_angle: f64,
    /// What each face loses along the throat, in mm.
    pub off_throat: f64,
    /// Centre-line radius the bend has now, in mm.
    pub clr: f64,
    /// Throat of a full pie now, in mm; negative where it is sanded through.
    pub throat: f64,
}

impl LinishedPie {
    /// A pie of tube of `od` mm cut for `clr` mm and seams of `seam_angle` radians, each face sanded `extra` radians
    /// more. Source: handbook, "The sums", Pie cuts.
    #[must_use]
    pub fn new(od: f64, clr: f64, seam_angle: f64, extra: f64) -> Self {
        let (before, after) = ((seam_angle / 2.0).tan(), (seam_angle / 2.0 + extra).tan());
        // The back keeps its length.
        let clr = (clr + od / 2.0) * before / after - od / 2.0;
        Self {
            seam_angle: seam_angle + 2.0 * extra,
            off_throat: od * (after - before),
            clr,
            throat: 2.0 * (clr - od / 2.0) * after,
        }
    }
}

//! A pipe as triangles, hollow, for STL and glTF.

use nook_core::measure::{Facets, Side};
use nook_geometry::{Path, Travel, Vector};

use crate::{Hollow, Part};

/// Flats round the tube: 48 keep a 76 mm tube true to a twelfth of a millimetre.
const ROUND: u32 = 48;
/// Rings nearer than this, in mm, are one.
const NOTHING: f64 = 1e-6;
/// Most degrees of bend between two rings.
const RING: f64 = 3.0;

/// A hollow body as one closed surface, inside and outside.
#[must_use]
pub fn pipe_part(body: &Hollow) -> Part {
    let rings = rings(&body.path);
    let mut facets = Facets::default();
    for radius in [body.outside / 2.0, body.inside / 2.0] {
        for (at, [x, y]) in &rings {
            let corner = |k: u32| -> [f64; 3] {
                let turn = std::f64::consts::TAU * f64::from(k) / f64::from(ROUND);
                (at.coords + (x * turn.cos() + y * turn.sin()) * radius).into()
            };
            facets.vertices.extend((0..ROUND).map(corner));
        }
    }
    let count = u32::try_from(rings.len()).unwrap_or(u32::MAX);
    let at = |skin: u32, ring: u32, k: u32| (skin * count + ring) * ROUND + k % ROUND;
    let mut quad = |a: u32, b: u32, c: u32, d: u32| facets.triangles.extend([[a, b, c], [a, c, d]]);
    for k in 0..ROUND {
        for ring in 0..count.saturating_sub(1) {
            quad(at(0, ring, k), at(0, ring, k + 1), at(0, ring + 1, k + 1), at(0, ring + 1, k));
            quad(at(1, ring, k), at(1, ring + 1, k), at(1, ring + 1, k + 1), at(1, ring, k + 1));
        }
        // The cut ends, between outside and inside.
        quad(at(0, 0, k), at(1, 0, k), at(1, 0, k + 1), at(0, 0, k + 1));
        let last = count - 1;
        quad(at(0, last, k), at(0, last, k + 1), at(1, last, k + 1), at(1, last, k));
    }
    Part { name: body.name.clone(), role: "pipe", rides: Side::Body, facets }
}

type Ring = (nalgebra::Point3<f64>, [Vector; 2]);

/// Rings along the path, each with two directions square to travel that do not twist from one to the next.
fn rings(path: &Path) -> Vec<Ring> {
    let mut travel = path.setting_out();
    // The clock jumps at each bend; taking the jump back keeps the rings in line.
    let mut twisted = 0.0;
    let mut all = Vec::new();
    let ring = |travel: &Travel, twisted: f64| {
        let x = travel.at_clock(-twisted).into_inner();
        (travel.at, [x, travel.along.vector().cross(&x)])
    };
    all.push(ring(&travel, twisted));
    for leg in path.legs() {
        travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
        twisted += leg.bend.rotation;
        let count = (leg.bend.angle.to_degrees() / RING).ceil().max(1.0);
        let mut k = 0.0;
        while k <= count {
            all.push(ring(&travel.bend(leg.bend.radius, leg.bend.angle * k / count), twisted));
            k += 1.0;
        }
        travel = travel.bend(leg.bend.radius, leg.bend.angle);
    }
    all.push(ring(&travel.straight(path.last()), twisted));
    // Where a straight has no length two rings are one.
    all.dedup_by(|next, ring| (next.0 - ring.0).norm() < NOTHING);
    all
}

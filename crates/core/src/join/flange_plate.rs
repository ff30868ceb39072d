//! A flange plate from a bolt pattern that was measured hole to hole. Source: handbook, "Joints, fittings, hoses and supports",
//! What else is made to join.

use std::f64::consts::TAU;

use nalgebra::{Point2, Vector2};
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use crate::stock::Material;
use nook_geometry::units::{HoleDiameter, HoleSpacing, PlateThickness};

/// A flange plate to be cut for a bolt pattern. Holes are numbered clockwise as one looks at the component's face; distances are
/// between their centres, in mm.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FlangePlate {
    /// From each hole to the next, from the first on and from the last back to it; one distance where there are two holes.
    pub sides: Vec<HoleSpacing>,
    /// From the first hole to the third, to the fourth and so on, but for the last, which is a side.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub diagonals: Vec<HoleSpacing>,
    /// From the second hole to the last of four or more, measured to check the rest.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub check: Option<HoleSpacing>,
    /// From the middle of the mouth to the first and to the second hole; by default it is the middle of the pattern.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schema(min_items = 2, max_items = 2)]
    pub bore: Option<[HoleSpacing; 2]>,
    /// Diameter of the holes.
    pub hole: HoleDiameter,
    /// Thickness of the plate; by default as the tube's metal wants it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub thickness: Option<PlateThickness>,
}

/// Why distances make no plate.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum NoPlate {
    /// Not as many distances as such a pattern has.
    #[error("{sides} distances round and {diagonals} across are no bolt pattern: two holes have 1 and none, and {holes} have {holes} and {across}", across = holes - 3)]
    Count {
        /// Sides given.
        sides: usize,
        /// Diagonals given.
        diagonals: usize,
        /// Holes such sides would be of.
        holes: usize,
    },
    /// Three distances that are no triangle.
    #[error(
        "hole {hole} cannot be {far:.1} mm from hole {other} and {near:.1} mm from hole 1, which are {base:.1} mm apart: measure those three again"
    )]
    NoTriangle {
        /// Which hole has no place, from 1.
        hole: usize,
        /// The one before it.
        other: usize,
        /// From that, in mm.
        far: f64,
        /// From the first, in mm.
        near: f64,
        /// Between those two, in mm.
        base: f64,
    },
    /// The mouth has no middle where it was measured to be.
    #[error(
        "the mouth\u{2019}s middle cannot be {one:.1} mm from hole 1 and {two:.1} mm from hole 2, which are {base:.1} mm apart"
    )]
    NoMiddle {
        /// From the first hole, in mm.
        one: f64,
        /// From the second.
        two: f64,
        /// Between those.
        base: f64,
    },
}

/// Where the holes of a plate are, in mm, x to the right and y up as one looks at the component's face, about the mouth's middle.
#[derive(Debug, Clone, PartialEq)]
pub struct PlateHoles {
    /// Middles of the holes, clockwise.
    pub holes: Vec<Point2<f64>>,
    /// How much more the check measures than the other distances make it, in mm; `None` where nothing was measured to check.
    pub check_off: Option<f64>,
}

/// Metal left round a hole, as a share of its diameter: what a bolt's washer needs.
const ROUND_HOLE: f64 = 1.0;
/// Metal left round the tube, in mm: its fillet weld and what is faced flat afterwards.
pub const ROUND_TUBE: f64 = 6.0;
/// How near to the tube a hole's edge may come, in mm: a fillet weld and the bolt's head.
const CLEAR_OF_WELD: f64 = 5.0;
/// Steps a circle is drawn in, each off by some hundredths of a millimetre at most.
const STEPS: u32 = 120;

impl FlangePlate {
    /// Most holes in a plate.
    pub const MOST_HOLES: usize = 8;

    /// How many holes it has.
    #[must_use]
    pub const fn count(&self) -> usize {
        if self.sides.len() == 1 { 2 } else { self.sides.len() }
    }

    /// Thickness in mm: as was chosen, or 10 of aluminium and 8 of anything else.
    #[must_use]
    pub fn thick(&self, material: Material) -> f64 {
        let usual = if matches!(material, Material::Aluminium6061 | Material::Aluminium6063) { 10.0 } else { 8.0 };
        self.thickness.map_or(usual, PlateThickness::get)
    }

    /// Checks that there are as many distances as its pattern has.
    ///
    /// # Errors
    /// [`NoPlate::Count`] where there are not.
    pub fn check(&self) -> Result<(), NoPlate> {
        let (sides, diagonals) = (self.sides.len(), self.diagonals.len());
        let holes = sides.clamp(3, Self::MOST_HOLES);
        let sound = (sides == 1 && diagonals == 0) || (sides == holes && diagonals == holes - 3);
        let checked = self.check.is_none() || sides >= 4;
        if sound && checked { Ok(()) } else { Err(NoPlate::Count { sides, diagonals, holes }) }
    }

    /// Where its holes are.
    ///
    /// # Errors
    /// [`NoPlate`] as its variants say.
    pub fn holes(&self) -> Result<PlateHoles, NoPlate> {
        self.check()?;
        let sides: Vec<f64> = self.sides.iter().map(|side| side.get()).collect();
        let mut holes = vec![Point2::origin(), Point2::new(sides[0], 0.0)];
        let last = sides.len();
        for nth in 2..last {
            let near = if nth + 1 == last { sides[nth] } else { self.diagonals[nth - 2].get() };
            let (other, far) = (holes[nth - 1], sides[nth - 1]);
            let base = (other - holes[0]).norm();
            let wrong = NoPlate::NoTriangle { hole: nth + 1, other: nth, far, near, base };
            holes.push(beyond(holes[0], other, near, far).ok_or(wrong)?);
        }
        let check_off = self.check.map(|check| check.get() - (holes[last - 1] - holes[1]).norm());
        let middle = match self.bore {
            Some(bore) => {
                let [one, two] = bore.map(HoleSpacing::get);
                let wrong = NoPlate::NoMiddle { one, two, base: sides[0] };
                beyond(holes[0], holes[1], one, two).ok_or(wrong)?
            }
            None => middle_of(&holes),
        };
        Ok(PlateHoles { holes: holes.into_iter().map(|hole| hole - middle.coords).collect(), check_off })
    }

    /// Its outline round holes at these places and a tube of `od` mm, in mm, anticlockwise: as a string drawn tight round all of
    /// them, with metal left round each.
    #[must_use]
    pub fn outline(&self, holes: &[Point2<f64>], od: f64) -> Vec<Point2<f64>> {
        let round_hole = self.hole.get() * (0.5 + ROUND_HOLE);
        let circles = holes.iter().map(|hole| (*hole, round_hole)).chain([(Point2::origin(), od / 2.0 + ROUND_TUBE)]);
        let points = circles.flat_map(|(middle, radius)| {
            (0..STEPS).map(move |step| {
                let turned = TAU * f64::from(step) / f64::from(STEPS);
                middle + Vector2::new(turned.cos(), turned.sin()) * radius
            })
        });
        tight_round(points.collect())
    }

    /// How far it stands out from the middle of a tube of `od` mm, in mm; as far as a bare tube where its distances make no plate.
    #[must_use]
    pub fn reach(&self, od: f64) -> f64 {
        let holes = self.holes().map(|found| found.holes).unwrap_or_default();
        let round_hole = self.hole.get() * (0.5 + ROUND_HOLE);
        holes.iter().map(|hole| hole.coords.norm() + round_hole).fold(od / 2.0 + ROUND_TUBE, f64::max)
    }

    /// By how much in mm the edge of the nearest hole is clear of what a bolt's head and the weld round a tube of `od` mm need;
    /// below 0 it is not.
    #[must_use]
    pub fn clear_of_weld(&self, holes: &[Point2<f64>], od: f64) -> f64 {
        let nearest = holes.iter().map(|hole| hole.coords.norm()).fold(f64::INFINITY, f64::min);
        nearest - self.hole.get() / 2.0 - od / 2.0 - CLEAR_OF_WELD
    }
}

/// The place `near` from `one` and `far` from `other`, to the right of who goes from the one to the other; `None` where there is none.
fn beyond(one: Point2<f64>, other: Point2<f64>, near: f64, far: f64) -> Option<Point2<f64>> {
    let base = (other - one).norm();
    let along = (base * base + near * near - far * far) / (2.0 * base);
    let aside = near * near - along * along;
    // What is off by rounding lies on the line.
    if aside < -1e-9 * near * near || base < 1e-9 {
        return None;
    }
    let way = (other - one) / base;
    Some(one + way * along + Vector2::new(way.y, -way.x) * aside.max(0.0).sqrt())
}

/// The middle of a pattern: of three holes as far from each, else the mean of all.
fn middle_of(holes: &[Point2<f64>]) -> Point2<f64> {
    let count = holes.iter().fold(0.0, |count, _| count + 1.0);
    let mean = Point2::from(holes.iter().map(|hole| hole.coords).sum::<Vector2<f64>>() / count);
    let [a, b, c] = holes else { return mean };
    let (p, q) = (b - a, c - a);
    let twice = 2.0 * (p.x * q.y - p.y * q.x);
    // Three in a line have none: their mean is as good as any.
    if twice.abs() < 1e-6 {
        return mean;
    }
    let (pp, qq) = (p.norm_squared(), q.norm_squared());
    a + Vector2::new(q.y * pp - p.y * qq, p.x * qq - q.x * pp) / twice
}

/// The convex outline round points, anticlockwise. Source: A. M. Andrew, "Another efficient algorithm for convex hulls in two
/// dimensions", Information Processing Letters 9, 1979.
fn tight_round(mut points: Vec<Point2<f64>>) -> Vec<Point2<f64>> {
    points.sort_by(|p, q| p.x.total_cmp(&q.x).then(p.y.total_cmp(&q.y)));
    let half = |points: &mut dyn Iterator<Item = Point2<f64>>| {
        let mut chain: Vec<Point2<f64>> = Vec::new();
        for point in points {
            while let [.., before, last] = chain.as_slice() {
                let (p, q) = (last - before, point - last);
                if p.x * q.y - p.y * q.x > 0.0 {
                    break;
                }
                chain.pop();
            }
            chain.push(point);
        }
        chain.pop();
        chain
    };
    let mut round = half(&mut points.iter().copied());
    round.extend(half(&mut points.iter().rev().copied()));
    round
}

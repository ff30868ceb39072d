//! All two-bend ways between two ports. Each has its first vertex somewhere on A's axis and its second
//! somewhere on B's, so two leads name it.

use nalgebra::{Matrix3, Point3};

use crate::measure::End;
use crate::route::ResolvedRun;
use nook_geometry::{Direction, Vector};

/// The two-bend ways of a run, and what makes one buildable.
#[derive(Debug, Clone, Copy)]
pub(super) struct Family {
    a: Point3<f64>,
    b: Point3<f64>,
    out_a: Direction,
    into_b: Direction,
    radius: f64,
    /// Least straight from A's mouth, between the bends and to B's mouth, in mm.
    pub(super) least: [f64; 3],
    /// Longest leads tried beyond the least, in mm.
    reach: f64,
}

/// One member of the family, by its leads in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Leads {
    pub(super) a: f64,
    pub(super) b: f64,
}

/// What a member looks like.
#[derive(Debug, Clone, Copy)]
pub(super) struct Shape {
    /// Bend angles in radians.
    pub(super) angles: [f64; 2],
    /// Straights from mouth to mouth in mm.
    pub(super) straights: [f64; 3],
    /// Length along the centre line in mm.
    pub(super) length: f64,
    /// Direction of the middle leg.
    pub(super) middle: Vector,
}

/// Bends between these angles, in radians, are offered: under 2 degrees is a misalignment a hose takes, over
/// 150 a bend folds back on itself.
const ANGLES: std::ops::RangeInclusive<f64> = 0.034_906_585..=2.617_993_878;

impl Family {
    pub(super) fn new(run: &ResolvedRun, radius: f64, between: f64) -> Self {
        let least = |end: End| run.gap(end) + run.straight_needed(end);
        let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
        Self {
            reach: a.at.distance(b.at) * 1.5 + 6.0 * radius,
            a: a.at.inner(),
            b: b.at.inner(),
            out_a: a.out,
            into_b: b.out.reversed(),
            radius,
            least: [least(End::A), between, least(End::B)],
        }
    }

    /// The same ways, looked for as far out as nobody would like to go.
    pub(super) fn far(self) -> Self {
        Self { reach: self.reach * 4.0 + 2000.0, ..self }
    }

    /// How far apart the mouths are, in mm.
    pub(super) fn span(&self) -> f64 {
        (self.b - self.a).norm()
    }

    /// The first and the second vertex.
    pub(super) fn vertices(&self, leads: Leads) -> [Point3<f64>; 2] {
        [self.a + self.out_a.vector() * leads.a, self.b - self.into_b.vector() * leads.b]
    }

    /// The shape of a member, buildable or not; `None` where its vertices coincide.
    pub(super) fn shape(&self, leads: Leads) -> Option<Shape> {
        let [first, second] = self.vertices(leads);
        let leg = second - first;
        let middle = Direction::of(leg).ok()?;
        let angles = [self.out_a.angle(middle), middle.angle(self.into_b)];
        let setback = angles.map(|angle| self.radius * (angle / 2.0).tan());
        let straights = [leads.a - setback[0], leg.norm() - setback[0] - setback[1], leads.b - setback[1]];
        let length = straights.iter().sum::<f64>() + self.radius * (angles[0] + angles[1]);
        Some(Shape { angles, straights, length, middle: middle.vector() })
    }

    /// By how much, in mm, the tightest straight exceeds its least; negative where it cannot be built, and
    /// `None` where an angle is none a bend can have.
    pub(super) fn slack(&self, shape: &Shape) -> Option<f64> {
        if !shape.angles.iter().all(|angle| ANGLES.contains(angle)) {
            return None;
        }
        let over = shape.straights.iter().zip(self.least).map(|(have, need)| have - need);
        Some(over.fold(f64::INFINITY, f64::min))
    }

    /// The shape if it can be built.
    pub(super) fn buildable(&self, leads: Leads) -> Option<Shape> {
        let shape = self.shape(leads)?;
        (self.slack(&shape)? >= -1e-9).then_some(shape)
    }

    /// Leads to try: from the mouth outwards, ever more widely spaced, to as far as anybody would go.
    pub(super) fn lead_grid(&self, end: usize, count: u32) -> impl Iterator<Item = f64> + Clone {
        let near = self.least[2 * end];
        let reach = self.reach;
        (0..count).map(move |k| {
            let part = f64::from(k) / f64::from(count - 1);
            near + reach * part * part.sqrt()
        })
    }

    /// Whether the leads are no longer than anybody would go.
    pub(super) fn reaches(&self, leads: Leads) -> bool {
        leads.a <= self.least[0] + self.reach + 1e-9 && leads.b <= self.least[2] + self.reach + 1e-9
    }

    /// The leads at B, at most two, with which bend `bend` (0 or 1) turns exactly `angle` radians when the lead at A
    /// is `a`: the roots of a quadratic, since the leg's part along the port's direction is linear in the lead.
    pub(super) fn leads_with_angle(&self, a: f64, bend: usize, angle: f64) -> impl Iterator<Item = f64> {
        let along = if bend == 0 { self.out_a.vector() } else { self.into_b.vector() };
        let step = -self.into_b.vector();
        let [first, mouth] = self.vertices(Leads { a, b: 0.0 });
        let leg = mouth - first;
        let (p0, p1) = (leg.dot(&along), step.dot(&along));
        let (q0, q1) = (leg.norm_squared(), leg.dot(&step));
        let (sign, c2) = (angle.cos().signum(), angle.cos().powi(2));
        let (two, one, none) = (p1 * p1 - c2, p0 * p1 - c2 * q1, p0 * p0 - c2 * q0);
        let root = (one * one - two * none).max(0.0).sqrt();
        let real = one * one - two * none >= 0.0 && two.abs() > 1e-12;
        let roots = [(-one + root) / two, (-one - root) / two];
        // Squaring let in the legs that run the other way.
        roots.into_iter().filter(move |b| real && (p0 + b * p1) * sign > 0.0)
    }

    /// The members whose bends turn exactly `angles` radians: at most two where the ports' directions differ
    /// (handbook, "The sums", Two bends of fixed angles), and the one with the evenest leads where they are
    /// parallel. Buildable or not.
    pub(super) fn with_angles(&self, angles: [f64; 2]) -> Vec<Leads> {
        let normal = self.out_a.vector().cross(&self.into_b.vector());
        if normal.norm_squared() < 1e-16 {
            let onward = self.out_a.vector().dot(&self.into_b.vector()) > 0.0;
            return self.parallel_with_angles(angles, onward).into_iter().collect();
        }
        // A middle leg that runs backwards turns the other way at both bends.
        let onward = self.legs_with_angles(angles).into_iter().filter(|legs| legs.y > 1e-9);
        onward.map(|legs| Leads { a: legs.x, b: legs.z }).collect()
    }

    /// Lead at A, middle leg and lead at B, at most two sets, with which the bends turn exactly `angles` radians; a
    /// middle leg below 0 runs backwards. None where the ports' directions are parallel.
    fn legs_with_angles(&self, angles: [f64; 2]) -> Vec<Vector> {
        let (u, w) = (self.out_a.vector(), self.into_b.vector());
        let c = u.dot(&w);
        let normal = u.cross(&w);
        // The middle leg lies on two cones, one about each port's direction.
        let sine_squared = normal.norm_squared();
        if sine_squared < 1e-16 {
            return Vec::new();
        }
        let [c1, c2] = angles.map(f64::cos);
        let (along_u, along_w) = ((c1 - c * c2) / sine_squared, (c2 - c * c1) / sine_squared);
        let in_plane = u * along_u + w * along_w;
        let rest = (1.0 - in_plane.norm_squared()) / sine_squared;
        if rest < -1e-12 {
            return Vec::new();
        }
        let off = normal * rest.max(0.0).sqrt();
        let sides: &[f64] = if rest < 1e-12 { &[0.0] } else { &[-1.0, 1.0] };
        let legs = |side: &f64| Matrix3::from_columns(&[u, in_plane + off * *side, w]).lu().solve(&(self.b - self.a));
        sides.iter().filter_map(legs).collect()
    }

    fn parallel_with_angles(&self, [first, second]: [f64; 2], onward: bool) -> Option<Leads> {
        let u = self.out_a.vector();
        let across = self.b - self.a;
        let along = across.dot(&u);
        let aside = (across - u * along).norm();
        let fits = if onward { first - second } else { first + second - std::f64::consts::PI };
        if aside < 1e-6 || fits.abs() > 1e-12 {
            return None;
        }
        let rest = along - aside / first.tan();
        let setback = [first, second].map(|angle| self.radius * (angle / 2.0).tan());
        let (near_a, near_b) = (self.least[0] + setback[0], self.least[2] + setback[1]);
        Some(if onward {
            let spare = rest - near_a - near_b;
            Leads { a: near_a + spare / 2.0, b: near_b + spare / 2.0 }
        } else {
            let a = near_a.max(near_b + rest);
            Leads { a, b: a - rest }
        })
    }
}

/// A way with two bends of given angles. It cannot be built where a straight is negative.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FixedBends {
    /// Straights from mouth to mouth in mm.
    pub straights: [f64; 3],
    /// The two vertices in mm.
    pub vertices: [[f64; 3]; 2],
}

/// The at most two ways of a run's ports with two bends of exactly `angles` radians at the run's radius, buildable or
/// not. Source: handbook, "The sums", Two bends of fixed angles.
#[must_use]
pub fn two_fixed_bends(run: &ResolvedRun, angles: [f64; 2]) -> Vec<FixedBends> {
    let family = Family::new(run, run.radius.get(), 0.0);
    let setback = angles.map(|angle| family.radius * (angle / 2.0).tan());
    let each = family.legs_with_angles(angles).into_iter().map(|legs| FixedBends {
        straights: [legs.x - setback[0], legs.y - setback[0] - setback[1], legs.z - setback[1]],
        vertices: family.vertices(Leads { a: legs.x, b: legs.z }).map(|vertex| vertex.coords.into()),
    });
    each.collect()
}

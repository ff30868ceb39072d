//! How far a chain of straight beams gives under a load: six by six, for a point that it ends in.
//!
//! A twist is a small motion of a rigid body, the velocity of a point and the turn; a wrench is a force through that point and a
//! moment; both are in vehicle axes, in mm, N and radians. Source: Lynch and Park, Modern Robotics, chapter 3 (twists and
//! wrenches); Przemieniecki, Theory of Matrix Structural Analysis, 5.6 (beams with shear).

use nalgebra::{Matrix3, Matrix6, Point3, Rotation3, Vector6};

use nook_geometry::Vector;

/// The section of a beam in its own axes: x along it, y and z its principal ones. In mm, mm2 and mm4.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Section {
    pub(super) area: f64,
    /// Second moments for bending towards y and towards z.
    pub(super) bending: [f64; 2],
    pub(super) torsion: f64,
}

impl Section {
    /// A rectangle `wide` along y and `thick` along z.
    pub(super) fn rectangle(wide: f64, thick: f64) -> Self {
        let [long, short] = [wide.max(thick), wide.min(thick)];
        // Source: Young and Budynas, Roark's Formulas, table 10.7, solid rectangle.
        let ratio = short / long;
        let torsion = long * short.powi(3) * (1.0 / 3.0 - 0.21 * ratio * (1.0 - ratio.powi(4) / 12.0));
        Self { area: wide * thick, bending: [thick * wide.powi(3) / 12.0, wide * thick.powi(3) / 12.0], torsion }
    }

    /// Equal angle with legs `leg` wide, y along the heel's bisector: thin-walled.
    pub(super) fn angle(leg: f64, thick: f64) -> Self {
        let cube = leg.powi(3) * thick;
        Self { area: 2.0 * leg * thick, bending: [cube / 12.0, cube / 3.0], torsion: 2.0 * leg * thick.powi(3) / 3.0 }
    }
}

/// An elastic material: its moduli in N/mm2.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Elastic {
    pub(super) young: f64,
    pub(super) shear: f64,
}

/// A straight beam, fixed at its root.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Beam {
    pub(super) root: Point3<f64>,
    pub(super) tip: Point3<f64>,
    /// The section's y axis.
    pub(super) across: Vector,
    pub(super) section: Section,
}

/// Legs shorter than this, in mm, are none.
const NO_LENGTH: f64 = 1e-6;
/// Share of a rectangle's area that takes shear. Source: as above.
const SHEAR_SHARE: f64 = 5.0 / 6.0;

impl Beam {
    /// How far its tip gives, its root held.
    fn compliance(&self, of: Elastic) -> Matrix6<f64> {
        let way = self.tip - self.root;
        let length = way.norm();
        let x = way / length;
        let z = x.cross(&self.across).normalize();
        let turn = Rotation3::from_matrix_unchecked(Matrix3::from_columns(&[x, z.cross(&x), z]));
        let Section { area, bending: [to_y, to_z], torsion } = self.section;
        let (e, g) = (of.young, of.shear);
        let mut own = Matrix6::zeros();
        own[(0, 0)] = length / (e * area);
        own[(3, 3)] = length / (g * torsion);
        let sheared = length / (g * area * SHEAR_SHARE);
        // A force along y turns the tip about z, and one along z about y the other way.
        for (line, about, second, sign) in [(1, 5, to_y, 1.0), (2, 4, to_z, -1.0)] {
            own[(line, line)] = length.powi(3) / (3.0 * e * second) + sheared;
            own[(about, about)] = length / (e * second);
            let mixed = sign * length * length / (2.0 * e * second);
            (own[(line, about)], own[(about, line)]) = (mixed, mixed);
        }
        rotated(&own, turn.matrix())
    }
}

/// The same in axes turned so.
fn rotated(own: &Matrix6<f64>, turn: &Matrix3<f64>) -> Matrix6<f64> {
    let mut both = Matrix6::zeros();
    both.fixed_view_mut::<3, 3>(0, 0).copy_from(turn);
    both.fixed_view_mut::<3, 3>(3, 3).copy_from(turn);
    both * own * both.transpose()
}

/// From twists at a point to those of the same motion at one that lies `by` further.
pub(super) fn shifted(by: &Vector) -> Matrix6<f64> {
    let mut all = Matrix6::identity();
    all.fixed_view_mut::<3, 3>(0, 3).copy_from(&-by.cross_matrix());
    all
}

/// How far the point `at` gives, which a chain of beams ends in: six by six, from wrenches to twists there.
#[derive(Debug, Clone, PartialEq)]
pub struct Compliance {
    /// Where.
    pub at: Point3<f64>,
    /// From wrenches to twists.
    pub gives: Matrix6<f64>,
}

impl Compliance {
    /// Beams one after another, the first one's root held.
    pub(super) fn of_chain(at: Point3<f64>, beams: &[Beam], of: Elastic) -> Self {
        // A leg without length gives nowhere.
        let long = beams.iter().filter(|beam| (beam.tip - beam.root).norm() > NO_LENGTH);
        let each = long.map(|beam| {
            let carried = shifted(&(at - beam.tip));
            carried * beam.compliance(of) * carried.transpose()
        });
        Self { at, gives: each.sum() }
    }

    /// With something more that gives there: along and about `axis`, and square to it.
    pub(super) fn and(&self, axis: &Vector, along: [f64; 2], about: [f64; 2]) -> Self {
        let outer = axis * axis.transpose();
        let block = |[own, square]: [f64; 2]| outer * own + (Matrix3::identity() - outer) * square;
        let mut more = Matrix6::zeros();
        more.fixed_view_mut::<3, 3>(0, 0).copy_from(&block(along));
        more.fixed_view_mut::<3, 3>(3, 3).copy_from(&block(about));
        Self { at: self.at, gives: self.gives + more }
    }

    /// The stiffness there once the chain may turn freely about some axes, each a point and a direction: what only friction
    /// holds is not counted. `None` where it gives nowhere or without end.
    pub(super) fn stiffness(&self, free: &[(Point3<f64>, Vector)]) -> Option<Matrix6<f64>> {
        let mut stiff = self.gives.try_inverse().filter(|stiff| stiff.iter().all(|part| part.is_finite()))?;
        for (through, axis) in free {
            let line = axis.cross(&(self.at - through));
            let motion = Vector6::new(line.x, line.y, line.z, axis.x, axis.y, axis.z);
            let held = stiff * motion;
            let most = motion.dot(&held);
            if most > 0.0 {
                stiff -= held * held.transpose() / most;
            }
        }
        Some(stiff)
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::expect_used, reason = "a test fails by panicking")]
    use super::*;
    use proptest::prelude::*;

    const STEEL: Elastic = Elastic { young: 205_000.0, shear: 79_000.0 };

    fn beam(root: [f64; 3], tip: [f64; 3], across: Vector) -> Beam {
        Beam { root: root.into(), tip: tip.into(), across, section: Section::rectangle(25.0, 3.0) }
    }

    #[test]
    fn a_strip_gives_as_the_closed_forms_have_it() {
        let strip = [beam([0.0; 3], [120.0, 0.0, 0.0], Vector::y())];
        let gives = Compliance::of_chain(Point3::new(120.0, 0.0, 0.0), &strip, STEEL).gives;
        let flat = 25.0 * 27.0 / 12.0;
        let bent = 120.0_f64.powi(3) / (3.0 * 205_000.0 * flat);
        assert!((gives[(2, 2)] / bent - 1.0).abs() < 1e-3, "{} and {bent}", gives[(2, 2)]);
        let on_edge = 3.0 * 25.0_f64.powi(3) / 12.0;
        assert!(
            (gives[(1, 1)] / (120.0_f64.powi(3) / (3.0 * 205_000.0 * on_edge)) - 1.0).abs() < 0.15,
            "shear adds some"
        );
        // A force up drops no nose: it turns the tip so that it points up, left-handed about y.
        assert!(gives[(4, 2)] < 0.0 && gives[(5, 1)] > 0.0);
    }

    proptest! {
        #[test]
        fn a_beam_cut_in_two_gives_as_the_whole(
            tip in prop::array::uniform3(-200.0..200.0_f64),
            share in 0.1..0.9_f64,
            at in prop::array::uniform3(-100.0..100.0_f64),
        ) {
            let tip = Vector::from(tip);
            prop_assume!(tip.norm() > 20.0);
            let across = tip.cross(&Vector::new(0.3, -0.5, 0.8)).normalize();
            let middle = tip * share;
            let whole = [beam([0.0; 3], tip.into(), across)];
            let parts = [beam([0.0; 3], middle.into(), across), beam(middle.into(), tip.into(), across)];
            let [one, two] = [&whole[..], &parts[..]].map(|all| Compliance::of_chain(at.into(), all, STEEL).gives);
            prop_assert!((one - two).norm() < 1e-9 * one.norm());
            prop_assert!((one - one.transpose()).norm() < 1e-12 * one.norm());
        }
    }
}

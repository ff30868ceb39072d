//! The chance to land: against whole pipes that are bent wrong, against what is known in closed form, and turned over.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{DMatrix, DVector, Matrix3};
use nook_core::fit::{Takes, chance_within};
use nook_geometry::{Arc, Direction, Path, PathStep, Point};
use proptest::prelude::*;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::StandardNormal;

use super::support::chains::chain_model;

const TAKES: Takes = Takes { angle: 3.0_f64.to_radians(), offset: 5.0, axial: [8.0; 2] };

fn any_path() -> impl Strategy<Value = Path> {
    let leg = (20.0..260.0, 40.0..120.0, 0.1..1.8, -3.1..3.1)
        .prop_map(|(straight, radius, angle, rotation)| PathStep { straight, bend: Arc { radius, angle, rotation } });
    let along =
        (-180.0..180.0, -85.0..85.0).prop_map(|(heading, pitch)| Direction::from_gauge(heading, pitch).unwrap());
    (along, prop::collection::vec(leg, 0..5), 20.0..260.0)
        .prop_map(|(along, legs, last)| Path::new(Point::new(100.0, -50.0, 30.0).unwrap(), along, legs, last))
}

/// Spreads of straights, bends and clocks; covariance of B's place, and the spread of its axis.
fn any_spread() -> impl Strategy<Value = ([f64; 3], Matrix3<f64>, f64)> {
    let half = prop::array::uniform9(-1.5..1.5);
    ([0.1..1.2, 0.001..0.015, 0.001..0.015], half, 0.0..0.01).prop_map(|(pipe, half, axis)| {
        let half = Matrix3::from_row_slice(&half);
        (pipe, half * half.transpose(), axis)
    })
}

/// Share of samples that land: whole pipes bent wrong, against a port that is elsewhere.
fn sampled(path: &Path, spread: &([f64; 3], Matrix3<f64>, f64), count: u32) -> f64 {
    let ([straight, bend, clock], place, axis) = *spread;
    let mut random = StdRng::seed_from_u64(7);
    let mut normal = || -> f64 { random.sample(StandardNormal) };
    let end = path.arrival();
    let up = end.upright().at_clock(0.0).into_inner();
    let side = end.along.vector().cross(&up);
    let half = place.cholesky().map_or_else(Matrix3::zeros, |half| half.l());
    let mut landed = 0_u32;
    for _ in 0..count {
        let mut legs = path.legs().to_vec();
        for leg in &mut legs {
            leg.straight += straight * normal();
            leg.bend.rotation += clock * normal();
            leg.bend.angle += bend * normal();
        }
        let start = path.setting_out();
        let at = Point::new(start.at.x, start.at.y, start.at.z).unwrap();
        let got = Path::new(at, start.along, legs, path.last() + straight * normal()).arrival();
        let place = end.at + half * nalgebra::Vector3::new(normal(), normal(), normal());
        let axis = (end.along.vector() + (up * normal() + side * normal()) * axis).normalize();
        let off = got.at - place;
        let axial = off.dot(&axis);
        let beside = (off - axis * axial).norm();
        let tilt = got.along.vector().cross(&axis).norm().asin();
        landed += u32::from(axial.abs() <= TAKES.axial[0] && beside <= TAKES.offset && tilt <= TAKES.angle);
    }
    f64::from(landed) / f64::from(count)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// The first order, whole pipes, and the model's own sampling agree to 0.02, where errors are what a bench makes.
    #[test]
    fn the_chance_is_what_sampling_whole_pipes_finds(path in any_path(), spread in any_spread()) {
        let model = chain_model(&path, spread.0, spread.1, spread.2, TAKES);
        let found = sampled(&path, &spread, 20_000);
        prop_assert!((model.chance() - found).abs() < 0.02, "{} {found}", model.chance());
        let own = model.sampled(20_000);
        prop_assert!((own - found).abs() < 0.02, "{own} {found}");
    }

    /// More give never lowers it, and a better known port never does.
    #[test]
    fn more_give_and_better_knowledge_never_lower_it(path in any_path(), spread in any_spread(), more in 1.0..3.0) {
        let chance = |place: Matrix3<f64>, axis: f64, takes| chain_model(&path, spread.0, place, axis, takes).chance();
        let now = chance(spread.1, spread.2, TAKES);
        prop_assert!((0.0..=1.0).contains(&now));
        for takes in [
            Takes { angle: TAKES.angle * more, ..TAKES },
            Takes { offset: TAKES.offset * more, ..TAKES },
            Takes { axial: TAKES.axial.map(|axial| axial * more), ..TAKES },
        ] {
            prop_assert!(chance(spread.1, spread.2, takes) >= now - 4e-3);
        }
        prop_assert!(chance(spread.1 / more, spread.2 / more, TAKES) >= now - 4e-3);
    }

    /// A pipe and its mirror image land alike.
    #[test]
    fn a_mirrored_pipe_lands_alike(path in any_path(), spread in any_spread()) {
        let start = path.setting_out();
        let legs = path.legs().iter().map(|leg| {
            PathStep { bend: Arc { rotation: -leg.bend.rotation, ..leg.bend }, ..*leg }
        });
        let at = Point::new(start.at.x, -start.at.y, start.at.z).unwrap();
        let twin = Path::new(at, start.along.mirrored(), legs.collect(), path.last());
        let flip = Matrix3::from_diagonal(&nalgebra::Vector3::new(1.0, -1.0, 1.0));
        let one = chain_model(&path, spread.0, spread.1, spread.2, TAKES).chance();
        let other = chain_model(&twin, spread.0, flip * spread.1 * flip, spread.2, TAKES).chance();
        prop_assert!((one - other).abs() < 6e-3, "{one} {other}");
    }
}

fn diagonal(spreads: [f64; 5]) -> DMatrix<f64> {
    DMatrix::from_diagonal(&DVector::from_iterator(5, spreads.map(|spread| spread * spread)))
}

fn chance(mean: [f64; 5], covariance: &DMatrix<f64>) -> f64 {
    chance_within(&DVector::from_row_slice(&mean), covariance, &[vec![0], vec![1, 2], vec![3, 4]])
}

#[test]
fn what_is_known_in_closed_form() {
    let near = |got: f64, want: f64| assert!((got - want).abs() < 3e-3, "{got} {want}");
    let centred = |spreads| chance([0.0; 5], &diagonal(spreads));
    near(centred([0.0; 5]), 1.0);
    near(centred([1e6; 5]), 0.0);
    // One sigma and two, from tables of the normal.
    near(centred([1.0, 0.0, 0.0, 0.0, 0.0]), 0.682_689);
    near(centred([0.5, 0.0, 0.0, 0.0, 0.0]), 0.954_500);
    // About one side: from half a sigma beyond the edge inwards.
    near(chance([1.5, 0.0, 0.0, 0.0, 0.0], &diagonal([1.0, 0.0, 0.0, 0.0, 0.0])), 0.308_538 - 0.006_210);
    // Two square directions of one spread: 1 - exp(-r^2 / 2 s^2) (Rayleigh).
    near(centred([0.0, 1.0, 1.0, 0.0, 0.0]), 1.0 - (-0.5_f64).exp());
    // Independent parts are a product, parts that go together are not.
    near(centred([1.0, 1.0, 1.0, 0.0, 0.0]), 0.682_689 * (1.0 - (-0.5_f64).exp()));
    near(centred([1.0, 1.0, 1.0, 0.5, 0.5]), 0.682_689 * (1.0 - (-0.5_f64).exp()) * (1.0 - (-2.0_f64).exp()));
    let mut together = diagonal([1.0, 1.0, 0.0, 0.0, 0.0]);
    together[(0, 1)] = 1.0;
    together[(1, 0)] = 1.0;
    near(chance([0.0; 5], &together), 0.682_689);
}

#[test]
fn what_is_no_number_has_no_chance() {
    for wrong in [f64::NAN, f64::INFINITY] {
        assert!(chance([0.0; 5], &diagonal([wrong; 5])) <= 0.0);
        assert!(chance([wrong; 5], &diagonal([1.0; 5])) <= 0.0);
    }
    assert!(chance([2.0, 0.0, 0.0, 0.0, 0.0], &diagonal([0.0; 5])) <= 0.0);
}

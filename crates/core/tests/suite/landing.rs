//! The chance to land: against whole pipes that are bent wrong, against what is known in closed form, and turned over.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{Matrix3, SMatrix};
use nook_core::fit::{
    ErrorSource, MisfitCovariance, PipeSpread, PortSpread, chance_to_land, misfit_covariance, misfit_effects,
};
use nook_core::join::Give;
use nook_geometry::{Arc, Direction, Path, PathStep, Point};
use proptest::prelude::*;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::StandardNormal;

const GIVE: Give = Give { angle: 3.0, offset: 5.0, axial: 8.0 };

fn any_path() -> impl Strategy<Value = Path> {
    let leg = (20.0..260.0, 40.0..120.0, 0.1..1.8, -3.1..3.1)
        .prop_map(|(straight, radius, angle, rotation)| PathStep { straight, bend: Arc { radius, angle, rotation } });
    let along =
        (-180.0..180.0, -85.0..85.0).prop_map(|(heading, pitch)| Direction::from_gauge(heading, pitch).unwrap());
    (along, prop::collection::vec(leg, 0..5), 20.0..260.0)
        .prop_map(|(along, legs, last)| Path::new(Point::new(100.0, -50.0, 30.0).unwrap(), along, legs, last))
}

fn any_spread() -> impl Strategy<Value = (PipeSpread, PortSpread)> {
    let pipe =
        (0.1..1.2, 0.001..0.015, 0.001..0.015).prop_map(|(straight, bend, clock)| PipeSpread { straight, bend, clock });
    let half = prop::array::uniform9(-1.5..1.5);
    let port = (half, 0.0..0.01).prop_map(|(half, axis)| {
        let half = Matrix3::from_row_slice(&half);
        PortSpread { place: half * half.transpose(), axis }
    });
    (pipe, port)
}

/// A path with one of its figures changed.
fn with(path: &Path, source: ErrorSource, by: f64) -> Path {
    let mut legs = path.legs().to_vec();
    let mut last = path.last();
    match source {
        ErrorSource::Straight(at) if at == legs.len() => last += by,
        ErrorSource::Straight(at) => legs[at].straight += by,
        ErrorSource::BendAngle(at) => legs[at].bend.angle += by,
        ErrorSource::Clock(at) => legs[at].bend.rotation += by,
    }
    let start = path.setting_out();
    let at = Point::new(start.at.x, start.at.y, start.at.z).unwrap();
    Path::new(at, start.along, legs, last)
}

/// Shares of samples that land: whole pipes bent wrong, against a port that is elsewhere.
fn sampled(path: &Path, pipe: &PipeSpread, port: &PortSpread, give: &Give, count: u32) -> f64 {
    let mut random = StdRng::seed_from_u64(7);
    let mut normal = || -> f64 { random.sample(StandardNormal) };
    let end = path.arrival();
    let up = end.upright().at_clock(0.0).into_inner();
    let side = end.along.vector().cross(&up);
    let half = port.place.cholesky().map_or_else(Matrix3::zeros, |half| half.l());
    let mut landed = 0_u32;
    for _ in 0..count {
        let mut wrong = path.clone();
        for (source, _) in misfit_effects(path) {
            let spread = match source {
                ErrorSource::Straight(_) => pipe.straight,
                ErrorSource::BendAngle(_) => pipe.bend,
                ErrorSource::Clock(_) => pipe.clock,
            };
            wrong = with(&wrong, source, spread * normal());
        }
        let got = wrong.arrival();
        let place = end.at + half * nalgebra::Vector3::new(normal(), normal(), normal());
        let axis = (end.along.vector() + (up * normal() + side * normal()) * port.axis).normalize();
        let off = got.at - place;
        let axial = off.dot(&axis);
        let beside = (off - axis * axial).norm();
        let tilt = got.along.vector().cross(&axis).norm().asin();
        landed += u32::from(axial.abs() <= give.axial && beside <= give.offset && tilt <= give.angle.to_radians());
    }
    f64::from(landed) / f64::from(count)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// What one error does to the end is what a pipe that has it comes out as.
    #[test]
    fn effects_are_those_of_a_pipe_bent_wrong(path in any_path()) {
        let end = path.arrival();
        let up = end.upright().at_clock(0.0).into_inner();
        let side = end.along.vector().cross(&up);
        for (source, effect) in misfit_effects(&path) {
            let step = 1e-5;
            let [less, more] = [-step, step].map(|by| with(&path, source, by).arrival());
            let moved = (more.at - less.at) / (2.0 * step);
            let tilted = (more.along.vector() - less.along.vector()) / (2.0 * step);
            let seen = [moved.dot(&end.along.vector()), moved.dot(&up), moved.dot(&side), tilted.dot(&up), tilted.dot(&side)];
            for part in 0..5 {
                prop_assert!((seen[part] - effect[part]).abs() < 1e-5 * (1.0 + effect[part].abs()), "{source:?} {part}");
            }
        }
    }

    /// The first order and whole pipes agree to 0.02, where errors are what a bench makes.
    #[test]
    fn the_chance_is_what_sampling_whole_pipes_finds(path in any_path(), (pipe, port) in any_spread()) {
        let chance = chance_to_land(&misfit_covariance(&path, &pipe, &port), &GIVE).unwrap();
        let found = sampled(&path, &pipe, &port, &GIVE, 20_000);
        prop_assert!((chance - found).abs() < 0.02, "{chance} {found}");
    }

    /// More give never lowers it, and a better known port never does.
    #[test]
    fn more_give_and_better_knowledge_never_lower_it(path in any_path(), (pipe, port) in any_spread(), more in 1.0..3.0) {
        let chance = |port: &PortSpread, give: &Give| chance_to_land(&misfit_covariance(&path, &pipe, port), give).unwrap();
        let now = chance(&port, &GIVE);
        prop_assert!((0.0..=1.0).contains(&now));
        for give in [
            Give { angle: GIVE.angle * more, ..GIVE },
            Give { offset: GIVE.offset * more, ..GIVE },
            Give { axial: GIVE.axial * more, ..GIVE },
        ] {
            prop_assert!(chance(&port, &give) >= now - 2e-3);
        }
        let known = PortSpread { place: port.place / more, axis: port.axis / more };
        prop_assert!(chance(&known, &GIVE) >= now - 2e-3);
    }

    /// A pipe and its mirror image land alike.
    #[test]
    fn a_mirrored_pipe_lands_alike(path in any_path(), (pipe, port) in any_spread()) {
        let start = path.setting_out();
        let legs = path.legs().iter().map(|leg| {
            PathStep { bend: Arc { rotation: -leg.bend.rotation, ..leg.bend }, ..*leg }
        });
        let at = Point::new(start.at.x, -start.at.y, start.at.z).unwrap();
        let twin = Path::new(at, start.along.mirrored(), legs.collect(), path.last());
        let flip = Matrix3::from_diagonal(&nalgebra::Vector3::new(1.0, -1.0, 1.0));
        let twin_port = PortSpread { place: flip * port.place * flip, ..port };
        let one = chance_to_land(&misfit_covariance(&path, &pipe, &port), &GIVE).unwrap();
        let other = chance_to_land(&misfit_covariance(&twin, &pipe, &twin_port), &GIVE).unwrap();
        prop_assert!((one - other).abs() < 2e-3, "{one} {other}");
    }
}

fn diagonal(spreads: [f64; 5]) -> MisfitCovariance {
    SMatrix::from_diagonal(&nalgebra::SVector::from(spreads.map(|spread| spread * spread)))
}

#[test]
fn what_is_known_in_closed_form() {
    let chance = |spreads, give: &Give| chance_to_land(&diagonal(spreads), give).unwrap();
    let near = |got: f64, want: f64| assert!((got - want).abs() < 1e-3, "{got} {want}");
    near(chance([0.0; 5], &Give::NONE), 1.0);
    near(chance([0.0; 5], &GIVE), 1.0);
    near(chance([0.1; 5], &Give::NONE), 0.0);
    // One sigma and two, from tables of the normal.
    near(chance([8.0, 0.0, 0.0, 0.0, 0.0], &GIVE), 0.682_689);
    near(chance([4.0, 0.0, 0.0, 0.0, 0.0], &GIVE), 0.954_500);
    // Two square directions of one spread: 1 - exp(-r^2 / 2 s^2) (Rayleigh).
    near(chance([0.0, 5.0, 5.0, 0.0, 0.0], &GIVE), 1.0 - (-0.5_f64).exp());
    let tilt = 3.0_f64.to_radians();
    near(chance([0.0, 0.0, 0.0, tilt / 2.0, tilt / 2.0], &GIVE), 1.0 - (-2.0_f64).exp());
    // Independent parts are a product, parts that go together are not.
    near(chance([8.0, 5.0, 5.0, 0.0, 0.0], &GIVE), 0.682_689 * (1.0 - (-0.5_f64).exp()));
    let mut together = diagonal([8.0, 5.0, 0.0, 0.0, 0.0]);
    together[(0, 1)] = 40.0;
    together[(1, 0)] = 40.0;
    near(chance_to_land(&together, &GIVE).unwrap(), 0.682_689);
}

#[test]
fn what_is_no_covariance_has_no_chance() {
    let mut skew = diagonal([1.0; 5]);
    skew[(0, 1)] = 3.0;
    skew[(1, 0)] = 3.0;
    let wrong = [diagonal([f64::NAN; 5]), diagonal([f64::INFINITY; 5]), skew, -diagonal([1.0; 5])];
    assert!(wrong.iter().all(|one| chance_to_land(one, &GIVE).is_none()));
    let far = chance_to_land(&diagonal([1e9; 5]), &GIVE).unwrap();
    assert!((0.0..1e-6).contains(&far));
}

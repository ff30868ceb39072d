//! Where seams begin and in which order they are welded: against every other way of doing it, and against the handbook's figures.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{Point3, Rotation3, Unit};
use nook_core::weld::{Effect, PulledSeam, Strayed, WeldPull, least_pull, weld_order};
use nook_geometry::Vector;
use proptest::prelude::*;

fn seam(at: [f64; 3], along: [f64; 3]) -> PulledSeam {
    let along = Vector::from(along).normalize();
    let aside = if along.x.abs() < 0.7 { Vector::x() } else { Vector::y() };
    PulledSeam { at: Point3::from(at), along, reference: along.cross(&aside).normalize() }
}

#[test]
fn pulls_are_the_handbooks() {
    let pull = WeldPull::usual();
    let (along, up) = (Vector::x(), Vector::z());
    let tilt = |order| pull.turn(order, &along, &up).norm().to_degrees();
    for first in 0..4 {
        assert!((tilt(WeldPull::one_way(first)) - 0.25).abs() < 1e-12);
        assert!((tilt(WeldPull::opposite(first)) - 0.06).abs() < 1e-12);
    }
    // What is beyond leans towards the side that was welded first.
    let leaned = |order| Rotation3::from_scaled_axis(pull.turn(order, &along, &up)) * along;
    assert!(leaned(WeldPull::opposite(0)).z > 0.0 && leaned(WeldPull::opposite(2)).z < 0.0);
    assert!(leaned(WeldPull::one_way(0)).z > 0.0);
    // Clockwise for who looks along: a quarter on from up is the right, which is -y where one looks along x.
    assert!(leaned(WeldPull::opposite(1)).y < 0.0 && leaned(WeldPull::opposite(3)).y > 0.0);
}

/// The far end of a stack of stiff pieces, turned at each seam exactly, from the far end back.
fn moved(seams: &[PulledSeam], far: Point3<f64>, orders: &[[usize; 4]]) -> (f64, f64) {
    let pull = WeldPull::usual();
    let mut place = far;
    let mut turned = Rotation3::identity();
    for (seam, order) in seams.iter().zip(orders).rev() {
        let turn = Rotation3::from_scaled_axis(pull.turn(*order, &seam.along, &seam.reference));
        place = seam.at + turn * (place - seam.at);
        turned = turn * turned;
    }
    ((place - far).norm(), turned.angle().to_degrees())
}

#[test]
fn what_is_said_to_be_left_is_what_pieces_turned_exactly_leave() {
    let seams = [
        seam([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
        seam([120.0, 0.0, 10.0], [0.8, 0.0, 0.6]),
        seam([200.0, 0.0, 90.0], [0.0, 0.2, 1.0]),
        seam([210.0, 40.0, 190.0], [0.0, 1.0, 0.4]),
    ];
    let far = Point3::new(220.0, 400.0, 260.0);
    let found = least_pull(&seams, far, &WeldPull::usual());
    let near = |told: Strayed, orders: &[[usize; 4]]| {
        let (mm, degrees) = moved(&seams, far, orders);
        assert!((told.mm - mm).abs() < 0.02 && (told.degrees - degrees).abs() < 0.002, "{told:?} {mm} {degrees}");
    };
    near(found.left, &found.first.iter().map(|first| WeldPull::opposite(*first)).collect::<Vec<_>>());
    near(found.one_way, &[WeldPull::one_way(0); 4]);
    assert!(found.left.mm < found.one_way.mm / 5.0, "{found:?}");
}

fn any_seams(count: impl Into<prop::collection::SizeRange>) -> impl Strategy<Value = Vec<PulledSeam>> {
    let one = ([-300.0..300.0_f64, -300.0..300.0, -300.0..300.0], [-1.0..1.0_f64, -1.0..1.0, -1.0..1.0], 0.0..6.3_f64);
    let sound = one.prop_filter("it goes somewhere", |(_, along, _)| Vector::from(*along).norm() > 0.2);
    let made = sound.prop_map(|(at, along, clock)| {
        let mut one = seam(at, along);
        one.reference = Rotation3::from_axis_angle(&Unit::new_normalize(one.along), clock) * one.reference;
        one
    });
    prop::collection::vec(made, count)
}

fn score(seams: &[PulledSeam], far: Point3<f64>, first: &[usize]) -> f64 {
    let pull = WeldPull::usual();
    let sum: Effect = seams
        .iter()
        .zip(first)
        .map(|(seam, first)| {
            let turn = pull.turn(WeldPull::opposite(*first), &seam.along, &seam.reference);
            let shift = turn.cross(&(far - seam.at));
            Effect::from_iterator(shift.iter().copied().chain(turn.iter().map(|part| part * 100.0)))
        })
        .sum();
    sum.norm()
}

fn largest_on_the_way(each: &[Effect], order: &[usize]) -> f64 {
    let mut sum = Effect::zeros();
    let strays = order.iter().map(|at| {
        sum += each[*at];
        sum.norm()
    });
    strays.fold(0.0, f64::max)
}

/// Every order of so many things.
fn orders(count: usize) -> Vec<Vec<usize>> {
    if count == 0 {
        return vec![Vec::new()];
    }
    let shorter = orders(count - 1);
    shorter
        .iter()
        .flat_map(|one| {
            (0..count).map(move |place| {
                let mut all = one.clone();
                all.insert(place, count - 1);
                all
            })
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn no_other_beginnings_leave_less(seams in any_seams(1..=6)) {
        let far = Point3::new(500.0, 200.0, -100.0);
        let found = least_pull(&seams, far, &WeldPull::usual());
        let best = score(&seams, far, &found.first);
        for code in 0..4_usize.pow(u32::try_from(seams.len()).unwrap()) {
            let first: Vec<usize> = (0..seams.len()).map(|at| code >> (2 * at) & 3).collect();
            prop_assert!(score(&seams, far, &first) >= best - 1e-9, "{first:?} beats {:?}", found.first);
        }
    }

    #[test]
    fn of_many_seams_no_two_begun_elsewhere_leave_less(seams in any_seams(9..=14)) {
        let far = Point3::new(500.0, 200.0, -100.0);
        let found = least_pull(&seams, far, &WeldPull::usual());
        let best = score(&seams, far, &found.first);
        for (one, other) in (0..seams.len()).flat_map(|p| (0..p).map(move |q| (p, q))) {
            for (p, q) in (0..4).flat_map(|p| (0..4).map(move |q| (p, q))) {
                let mut first = found.first.clone();
                (first[one], first[other]) = (p, q);
                prop_assert!(score(&seams, far, &first) >= best - 1e-6);
            }
        }
        prop_assert!(found.left.mm < found.one_way.mm.max(0.5), "{:?} {:?}", found.left, found.one_way);
    }

    /// Against every order of up to six seams: to the two hundredths of a mm that count as alike.
    #[test]
    fn no_other_order_strays_less_on_the_way(seams in any_seams(2..=6), first_is_last in any::<bool>()) {
        let far = Point3::new(500.0, 200.0, -100.0);
        let each = least_pull(&seams, far, &WeldPull::usual()).each;
        let stations: Vec<f64> = (0..seams.len()).map(|at| 40.0 * f64::from(u32::try_from(at).unwrap())).collect();
        let last = seams.len() - 1;
        let before = if first_is_last { vec![(last, 0)] } else { Vec::new() };
        let found = weld_order(&each, &stations, &before);
        let mut sorted = found.clone();
        sorted.sort_unstable();
        prop_assert_eq!(sorted, (0..seams.len()).collect::<Vec<_>>());
        let place = |order: &[usize], of: usize| order.iter().position(|at| *at == of).unwrap();
        let allowed = |order: &[usize]| before.iter().all(|(one, other)| place(order, *one) < place(order, *other));
        prop_assert!(allowed(&found));
        let strays = largest_on_the_way(&each, &found);
        for order in orders(seams.len()).iter().filter(|order| allowed(order)) {
            prop_assert!(largest_on_the_way(&each, order) >= strays - 0.02 - 1e-9, "{order:?} beats {found:?}");
        }
    }
}

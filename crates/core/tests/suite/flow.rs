//! Flow against closed forms and the books' own figures.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::tube;
use nook_core::flow::{
    FlowAmount, FlowGiven, FluidError, Mouth, Stream, bend_resistance, compressor_outlet, fluid, friction_factor,
    losses, mitre_resistance,
};
use nook_core::stock::Duty;
use nook_geometry::units::{AirMassFlow, CoolantFlow, Power, Temperature};
use proptest::prelude::*;

proptest! {
    /// Colebrook by bisection of its own equation.
    #[test]
    fn the_friction_factor_solves_colebrook(reynolds in 4001.0..1e7_f64, relative in 0.0..0.03_f64) {
        let off = |f: f64| 1.0 / f.sqrt() + 2.0 * (relative / 3.7 + 2.51 / (reynolds * f.sqrt())).log10();
        let (mut low, mut high) = (1e-4, 0.5_f64);
        for _ in 0..200 {
            let middle = f64::midpoint(low, high);
            if off(middle) > 0.0 { low = middle; } else { high = middle; }
        }
        let found = friction_factor(reynolds, relative);
        prop_assert!((found - low).abs() < 1e-9 * low.max(1.0), "{found} against {low}");
    }

    #[test]
    fn a_bigger_bore_is_slower_and_loses_less_along_the_wall(od in 40.0..90.0_f64, more in 2.0..20.0_f64, hp in 80.0..600.0_f64) {
        let given = FlowGiven { amount: Some(FlowAmount::Power { hp: Power::new(hp).unwrap() }), temperature: None };
        let air = fluid(Duty::ChargeHot, &given, 1.2, od).unwrap();
        let [small, large] = [od, od + more].map(|od| Stream::of(&air, tube(od, 1.5)));
        prop_assert!(large.speed < small.speed && large.mach < small.mach);
        let lost = |stream: &Stream| losses(stream, 1000.0, &[], [Mouth { bore: stream.bore, gap: 0.0 }; 2]).friction;
        prop_assert!(lost(&large) < lost(&small));
        // Mass in is mass out.
        let area = std::f64::consts::PI / 4.0 * (small.bore * 1e-3).powi(2);
        prop_assert!((small.speed * area * air.density - air.mass_flow).abs() < 1e-12);
    }
}

#[test]
fn laminar_flow_follows_its_own_law() {
    assert!((friction_factor(1000.0, 0.01) - 0.064).abs() < 1e-12);
}

#[test]
fn bends_and_mitres_agree_with_the_book() {
    // Crane TP-410, A-29: a 90-degree bend at r/d 1.5 is 14, a single 90-degree mitre 60, a 45-degree one 15.
    let square = std::f64::consts::FRAC_PI_2;
    assert!((bend_resistance(90.0, 60.0, square) - 14.0).abs() < 1e-9);
    assert!((bend_resistance(90.0, 60.0, square / 2.0) - 7.0).abs() < 1e-9);
    assert!((mitre_resistance(square, 1) - 60.0).abs() < 1e-9);
    assert!((mitre_resistance(square / 2.0, 1) - 15.0).abs() < 1e-9);
    assert!((mitre_resistance(square, 3) - 24.0).abs() < 1e-9, "three of 30 degrees, 8 each");
    let by_seams: Vec<f64> = [1, 2, 3, 6, 9].map(|seams| mitre_resistance(square, seams)).to_vec();
    assert!(by_seams.windows(2).all(|pair| pair[1] <= pair[0] + 1e-9), "more seams flow no worse: {by_seams:?}");
}

#[test]
fn air_by_power_and_by_mass_are_one_flow() {
    let power = FlowGiven { amount: Some(FlowAmount::Power { hp: Power::new(266.0).unwrap() }), temperature: None };
    let mass =
        FlowGiven { amount: Some(FlowAmount::Mass { kg_per_s: AirMassFlow::new(0.2).unwrap() }), temperature: None };
    let [one, other] = [power, mass].map(|given| fluid(Duty::ChargeCold, &given, 1.0, 60.0).unwrap());
    assert!((one.mass_flow - other.mass_flow).abs() < 1e-12);
    // 2.01325 bar at 45 C: p / (R T).
    assert!((one.density - 201_325.0 / (287.05 * 318.15)).abs() < 1e-9);
    // Air at 45 C: 19.3 micropascal seconds in the usual tables.
    assert!((one.viscosity - 19.3e-6).abs() < 0.2e-6, "{}", one.viscosity);
}

#[test]
fn what_does_not_suit_is_refused() {
    let litres = FlowGiven {
        amount: Some(FlowAmount::Volume { litres_per_min: CoolantFlow::new(60.0).unwrap() }),
        temperature: None,
    };
    assert_eq!(fluid(Duty::Intake, &litres, 0.0, 70.0), Err(FluidError::WrongMeasure));
    assert!(fluid(Duty::Coolant, &litres, 1.1, 35.0).is_ok());
    let hot = FlowGiven { amount: None, temperature: Some(Temperature::new(140.0).unwrap()) };
    let beyond = FluidError::BeyondTable { celsius: 140.0, from: 0.0, to: 120.0 };
    assert_eq!(fluid(Duty::Coolant, &hot, 1.1, 35.0), Err(beyond));
    assert!(fluid(Duty::Oil, &hot, 5.0, 12.0).is_ok());
}

/// A bend's coefficient has the friction along its arc in it: a pipe of two straights and a smooth bend loses its
/// straights' friction and the coefficient, no more.
#[test]
fn the_arc_of_a_smooth_bend_is_not_counted_twice() {
    let air = fluid(Duty::ChargeHot, &FlowGiven::default(), 1.2, 60.0).unwrap();
    let stream = Stream::of(&air, tube(63.5, 1.75));
    let square = std::f64::consts::FRAC_PI_2;
    let arc = 95.0 * square;
    let bore = [Mouth { bore: stream.bore, gap: 0.0 }; 2];
    let lost = losses(&stream, 400.0 + arc, &[(95.0, square, None)], bore);
    let straight = losses(&stream, 400.0, &[], bore);
    assert!((lost.friction - straight.friction).abs() < 1e-9 && (lost.wall - 400.0).abs() < 1e-9);
    let k = bend_resistance(95.0, stream.bore, square) * stream.rough;
    assert!((lost.bends[0].pascal - k * stream.dynamic).abs() < 1e-9);
    // A single mitre is a loss at a place; the wall on both sides of it counts.
    let cut = losses(&stream, 400.0 + arc, &[(95.0, square, Some(1))], bore);
    assert!(cut.bends[0].mitred && (cut.wall - 400.0 - arc).abs() < 1e-9);
    assert!((cut.bends[0].resistance - 60.0 * stream.rough).abs() < 1e-9);
}

/// The taper's loss follows the angle that its gap leaves: Crane's gradual and sudden changes of size.
#[test]
fn a_taper_loses_by_the_gap_it_has() {
    let air = fluid(Duty::ChargeCold, &FlowGiven::default(), 1.2, 60.0).unwrap();
    let stream = Stream::of(&air, tube(63.5, 1.75));
    let lost =
        |bore: f64, gap: f64| losses(&stream, 0.0, &[], [Mouth { bore, gap }, Mouth { bore: 60.0, gap }]).steps[0];
    let beta2 = (50.0_f64 / 60.0).powi(2);
    let dynamic = stream.dynamic / beta2.powi(2);
    // 10 mm of bore within 10 mm is 26.6 degrees each side: wider than 45 in all, so the sudden formula holds.
    assert!((lost(50.0, 10.0) - dynamic * (1.0 - beta2).powi(2)).abs() < 1e-6 * dynamic);
    // Within 60 mm it is 4.8 degrees each side.
    let sine = (5.0_f64 / 60.0).atan().sin();
    assert!((lost(50.0, 60.0) - dynamic * 2.6 * sine * (1.0 - beta2).powi(2)).abs() < 1e-6 * dynamic);
    assert!(lost(50.0, 60.0) < lost(50.0, 10.0) && lost(59.0, 10.0) == 0.0);
}

#[test]
fn liquids_are_what_their_books_say() {
    let at = |duty, celsius: f64| {
        let given = FlowGiven { amount: None, temperature: Some(Temperature::new(celsius).unwrap()) };
        fluid(duty, &given, 1.1, 30.0).unwrap().viscosity * 1e3
    };
    assert!((at(Duty::Coolant, 0.0) - 8.3).abs() < 1e-9, "glycol and water at 0 C");
    // Oil by ASTM D341 through 95 mm2/s at 40 C and 14 at 100 C.
    let double_log = |nu: f64| (nu + 0.7_f64).log10().log10();
    let (one, other) = (313.15_f64.log10(), 373.15_f64.log10());
    let slope = (double_log(95.0) - double_log(14.0)) / (other - one);
    for celsius in [0.0, 20.0, 60.0, 80.0, 120.0, 150.0] {
        let inner: f64 = double_log(95.0) + slope * one - slope * f64::log10(celsius + 273.15);
        let nu = 10_f64.powf(10_f64.powf(inner)) - 0.7;
        let mpa = nu * (870.0 - 0.65 * (celsius - 15.0)) / 1000.0;
        assert!((at(Duty::Oil, celsius) - mpa).abs() < 0.01 * mpa, "{celsius}: {} {mpa}", at(Duty::Oil, celsius));
    }
    assert!(at(Duty::Oil, 110.0) > 10.0 * at(Duty::Coolant, 110.0));
}

#[test]
fn air_out_of_a_compressor_is_as_hot_as_its_boost_makes_it() {
    let at = |bar: f64| fluid(Duty::ChargeHot, &FlowGiven::default(), bar, 60.0).unwrap().kelvin - 273.15;
    assert!((at(1.5) - compressor_outlet(30.0, 1.5, 0.7)).abs() < 1e-9);
    assert!((at(0.0) - 30.0).abs() < 1e-9 && at(2.0) > at(1.0) + 30.0);
}

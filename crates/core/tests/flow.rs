//! Flow against closed forms and the books' own figures.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

mod support;

use nook_core::flow::{
    FlowAmount, FlowGiven, FluidError, Stream, bend_resistance, fluid, friction_factor, losses, mitre_resistance,
};
use nook_core::stock::Duty;
use nook_core::units::{AirMassFlow, CoolantFlow, Power, Temperature};
use proptest::prelude::*;
use support::tube;

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
        let lost = |stream: &Stream| losses(stream, 1000.0, &[], [stream.bore; 2]).friction;
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
    assert!((mitre_resistance(square, 1) - 58.0).abs() < 1e-9, "60, less the 2 its table starts at");
    let by_seams: Vec<f64> = [1, 2, 3, 6, 9].map(|seams| mitre_resistance(square, seams)).to_vec();
    assert!(by_seams.windows(2).all(|pair| pair[1] <= pair[0]), "more seams flow no worse: {by_seams:?}");
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
    assert_eq!(fluid(Duty::Coolant, &hot, 1.1, 35.0), Err(FluidError::BeyondTable { celsius: 140.0 }));
}

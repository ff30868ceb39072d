//! Which pieces are sawn from which stick: against reference numbers, and against trying everything.

#![allow(
    clippy::unwrap_used,
    clippy::panic,
    clippy::cast_precision_loss,
    clippy::float_cmp,
    reason = "a test fails by panicking, and its figures are small and whole"
)]

use std::sync::atomic::AtomicBool;

use nook_search::{BuyLength, NEST_STEPS, Nest, NestError, NestGiven, StickSource, nest};
use proptest::prelude::*;

fn nested(given: &NestGiven) -> Result<Nest, NestError> {
    nest(given, NEST_STEPS, &AtomicBool::new(false))
}

/// Every piece is sawn once, and what is sawn, its cuts and what is left are the stick.
fn holds(given: &NestGiven, found: &Nest) {
    let mut pieces: Vec<usize> = found.sticks.iter().flat_map(|stick| stick.pieces.clone()).collect();
    pieces.sort_unstable();
    assert_eq!(pieces, (0..given.pieces.len()).collect::<Vec<_>>());
    let mut shelf = Vec::new();
    let (mut cost, mut touched) = (0.0, 0.0);
    for stick in &found.sticks {
        match stick.source {
            StickSource::Shelf { index } => {
                shelf.push(index);
                assert!((stick.length - given.shelf[index]).abs() < 1e-9);
            }
            StickSource::Bought { index } => {
                cost += given.buys[index].price;
                assert!((stick.length - given.buys[index].length).abs() < 1e-9);
            }
        }
        touched += stick.length;
        let sawn: f64 = stick.pieces.iter().map(|piece| given.pieces[*piece] + given.kerf).sum();
        assert!(sawn <= stick.length + given.kerf + 1e-6, "{stick:?}");
        assert!((stick.left - (stick.length - sawn).max(0.0)).abs() < 2e-3, "{stick:?}");
    }
    let mut once = shelf.clone();
    once.sort_unstable();
    once.dedup();
    assert_eq!(once.len(), shelf.len(), "a stick is there once");
    assert!((cost - found.cost).abs() < 1e-6 && (touched - found.touched).abs() < 1e-2);
    assert!(found.least_cost <= found.cost + 1e-9 && found.least_touched <= found.touched + 1e-2);
}

#[test]
fn reference_nests_are_met_exactly() {
    let all: serde_json::Value = serde_json::from_str(include_str!("../../../core/tests/vectors/nests.json")).unwrap();
    let numbers =
        |of: &serde_json::Value| -> Vec<f64> { of.as_array().unwrap().iter().map(|n| n.as_f64().unwrap()).collect() };
    for one in all.as_array().unwrap() {
        let (given, want) = (&one["given"], &one["want"]);
        let number = |of: &serde_json::Value, name: &str| of[name].as_f64().unwrap();
        let given = NestGiven {
            pieces: numbers(&given["pieces"]),
            shelf: numbers(&given["shelf"]),
            buys: vec![BuyLength { length: number(given, "buy_length"), price: number(given, "buy_price") }],
            kerf: number(given, "kerf"),
        };
        let found = nested(&given).unwrap();
        holds(&given, &found);
        let bought = found.sticks.iter().filter(|stick| matches!(stick.source, StickSource::Bought { .. })).count();
        assert_eq!(bought as u64, want["bought"].as_u64().unwrap());
        assert!((found.cost - number(want, "cost")).abs() < 1e-6, "{found:?}");
        assert!((found.touched - number(want, "touched")).abs() < 1e-6, "{found:?}");
        assert!(found.proven);
    }
}

/// Cost, length touched and longest remainder by trying every stick for every piece, in tenths of a millimetre.
fn by_trying_all(pieces: &[i64], sticks: &[(i64, i64)], kerf: i64) -> Option<(i64, i64, i64)> {
    fn go(
        pieces: &[i64],
        left: &mut Vec<i64>,
        used: &mut Vec<u32>,
        sticks: &[(i64, i64)],
        kerf: i64,
        best: &mut Option<(i64, i64, i64)>,
    ) {
        let Some((piece, rest)) = pieces.split_first() else {
            let on = || (0..sticks.len()).filter(|stick| used[*stick] > 0);
            let cost = on().map(|stick| sticks[stick].1).sum();
            let touched = on().map(|stick| sticks[stick].0).sum();
            let remains = on().map(|stick| (left[stick] - kerf).max(0)).max().unwrap_or(0);
            let rank = |of: (i64, i64, i64)| (of.0, of.1, -of.2);
            if best.is_none_or(|best| rank((cost, touched, remains)) < rank(best)) {
                *best = Some((cost, touched, remains));
            }
            return;
        };
        for stick in 0..sticks.len() {
            if left[stick] >= piece + kerf {
                left[stick] -= piece + kerf;
                used[stick] += 1;
                go(rest, left, used, sticks, kerf, best);
                used[stick] -= 1;
                left[stick] += piece + kerf;
            }
        }
    }
    let mut best = None;
    let mut left: Vec<i64> = sticks.iter().map(|stick| stick.0 + kerf).collect();
    go(pieces, &mut left, &mut vec![0; sticks.len()], sticks, kerf, &mut best);
    best
}

fn tenths(of: &[i64]) -> Vec<f64> {
    of.iter().map(|tenth| *tenth as f64 / 10.0).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Least cost, then least length touched, then the longest single remainder: as trying everything has it.
    #[test]
    fn it_is_the_best_there_is(
        pieces in prop::collection::vec(300..6_000_i64, 1..6),
        shelf in prop::collection::vec(500..8_000_i64, 0..4),
        buys in prop::collection::vec((2_000..10_000_i64, 1..90_i64), 0..3),
        kerf in 0..40_i64,
    ) {
        let given = NestGiven {
            pieces: tenths(&pieces),
            shelf: tenths(&shelf),
            buys: buys.iter().map(|(length, price)| BuyLength { length: *length as f64 / 10.0, price: *price as f64 }).collect(),
            kerf: kerf as f64 / 10.0,
        };
        // As many of each length on sale as there are pieces.
        let bought = buys.iter().flat_map(|buy| std::iter::repeat_n(*buy, if buys.len() > 1 { 3 } else { pieces.len() }));
        let sticks: Vec<(i64, i64)> = shelf.iter().map(|stick| (*stick, 0)).chain(bought).collect();
        prop_assume!(sticks.len().pow(u32::try_from(pieces.len()).unwrap()) < 60_000);
        let want = by_trying_all(&pieces, &sticks, kerf);
        match nested(&given) {
            Ok(found) => {
                holds(&given, &found);
                prop_assert!(found.proven);
                // Where the trial had too few sticks to buy, more of them may be cheaper.
                let count = |index: usize| found.sticks.iter().filter(|stick| stick.source == StickSource::Bought { index }).count();
                prop_assume!(buys.len() < 2 || (0..buys.len()).all(|index| count(index) <= 3));
                let (cost, touched, remains) = want.unwrap();
                let left = found.sticks.iter().map(|stick| stick.left).fold(0.0, f64::max);
                prop_assert!((found.cost - cost as f64).abs() < 1e-6, "{found:?} against {want:?}");
                prop_assert!((found.touched - touched as f64 / 10.0).abs() < 1e-3, "{found:?} against {want:?}");
                prop_assert!((left - remains as f64 / 10.0).abs() < 1e-3, "{found:?} against {want:?}");
            }
            Err(NestError::TooLong { .. } | NestError::NotEnough { .. }) => prop_assert_eq!(want, None),
            Err(other) => prop_assert!(false, "{}", other),
        }
    }

    /// Taking a stick off the shelf never makes the plan cheaper, nor touch less for the same price, than was said to be the least.
    #[test]
    fn taking_a_stick_off_the_shelf_never_makes_it_cheaper(
        pieces in prop::collection::vec(400..7_000_i64, 20),
        shelf in prop::collection::vec(1_000..12_000_i64, 1..9),
        off in any::<prop::sample::Index>(),
    ) {
        let buys = vec![BuyLength { length: 1000.0, price: 30.0 }, BuyLength { length: 3000.0, price: 78.0 }];
        let given = NestGiven { pieces: tenths(&pieces), shelf: tenths(&shelf), buys, kerf: 1.5 };
        let found = nested(&given).unwrap();
        holds(&given, &found);
        let mut less = given.clone();
        less.shelf.remove(off.index(shelf.len()));
        let without = nested(&less).unwrap();
        let dearer = without.cost > found.least_cost + 1e-6;
        prop_assert!(dearer || ((without.cost - found.least_cost).abs() < 1e-6 && without.touched >= found.least_touched - 1e-3));
        if found.proven {
            prop_assert!(found.cost <= found.least_cost + 1e-6 && found.touched <= found.least_touched + 1e-2);
            prop_assert!(without.cost >= found.cost - 1e-6);
        }
    }
}

/// Twenty pieces over a shelf of up to eight are proven, but for one in some hundred that is so tight that its steps run out.
#[test]
fn of_twenty_pieces_nearly_every_nest_is_proven() {
    let mut seed = 11_u64;
    let mut random = |from: f64, to: f64| {
        seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((from + (to - from) * (((seed >> 33) % 100_000) as f64 / 100_000.0)) * 10.0).round() / 10.0
    };
    let proven = (0..150).filter(|case| {
        let buys = vec![BuyLength { length: 1000.0, price: 30.0 }, BuyLength { length: 3000.0, price: 78.0 }];
        let shelf = (0..1 + case % 8).map(|_| random(100.0, 1200.0)).collect();
        let pieces = (0..20).map(|_| random(40.0, 700.0)).collect();
        let given = NestGiven { pieces, shelf, buys, kerf: 1.5 };
        let found = nested(&given).unwrap();
        holds(&given, &found);
        found.proven
    });
    let proven = proven.count();
    assert!(proven >= 147, "{proven} of 150");
}

#[test]
fn sixty_pieces_over_twelve_sticks_come_within_three_percent_of_the_bound() {
    let mut seed = 7_u64;
    let mut random = |from: f64, to: f64| {
        seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        from + (to - from) * (((seed >> 33) % 10_000) as f64 / 10_000.0)
    };
    for _ in 0..4 {
        let pieces: Vec<f64> = (0..60).map(|_| (random(40.0, 420.0) * 10.0).round() / 10.0).collect();
        let shelf: Vec<f64> = (0..12).map(|_| (random(300.0, 2_000.0) * 10.0).round() / 10.0).collect();
        let given = NestGiven { pieces, shelf, buys: vec![BuyLength { length: 3000.0, price: 78.0 }], kerf: 2.0 };
        let found = nested(&given).unwrap();
        holds(&given, &found);
        assert!((found.cost - found.least_cost).abs() < 1e-9, "{} of {}", found.cost, found.least_cost);
        assert!(found.touched <= found.least_touched * 1.03, "{} of {}", found.touched, found.least_touched);
    }
}

/// Ten lengths on sale make more purchases than can be looked at: what is found is sound, and no more is said of it than is known.
#[test]
fn many_lengths_on_sale_are_not_looked_at_for_ever() {
    for kinds in [6, 10, 30] {
        let buys = (0..kinds).map(f64::from);
        let buys = buys.map(|k| BuyLength { length: 700.0 + 331.0 * k, price: 20.0 + 9.1 * k }).collect();
        let pieces = (0..60).map(|n| 150.0 + 7.3 * f64::from(n)).collect();
        let given = NestGiven { pieces, shelf: vec![500.0, 640.0], buys, kerf: 2.0 };
        let found = nested(&given).unwrap();
        holds(&given, &found);
        // Never under what the tube costs at the best price there is.
        let need: f64 = given.pieces.iter().map(|piece| piece + given.kerf).sum::<f64>() - 1140.0 - 4.0;
        let ratios = given.buys.iter().map(|buy| buy.price / (buy.length + given.kerf));
        assert!(found.least_cost >= need * ratios.fold(f64::INFINITY, f64::min) - 1e-6);
        assert!(found.cost <= found.least_cost * 1.03, "{} of {}", found.cost, found.least_cost);
    }
    // What is given away is taken, and does not take for ever either.
    let free = (0..8).map(|k| BuyLength { length: 800.0 + f64::from(k), price: 0.0 }).collect();
    let given = NestGiven { pieces: vec![300.0; 30], shelf: Vec::new(), buys: free, kerf: 2.0 };
    let found = nested(&given).unwrap();
    holds(&given, &found);
    assert!(found.cost.abs() < 1e-9);
}

#[test]
fn a_shelf_of_many_offcuts_is_used_and_nothing_more_than_is_needed_of_it() {
    let buys = vec![BuyLength { length: 1000.0, price: 30.0 }];
    // Forty pieces that go into forty offcuts and into nothing less: the shortest offcuts count too.
    let pieces: Vec<f64> = (0..40).map(|n| 100.0 + f64::from(n)).collect();
    let shelf: Vec<f64> = pieces.iter().map(|piece| piece + 0.5).chain([900.0, 950.0]).collect();
    let given = NestGiven { pieces, shelf, buys, kerf: 2.0 };
    let found = nested(&given).unwrap();
    holds(&given, &found);
    assert!(found.cost == 0.0 && found.least_cost == 0.0);
    assert!(found.touched >= found.least_touched && found.least_touched > 4_700.0 && !found.proven);
    // Sticks that nothing needs are not touched.
    assert!(found.sticks.len() <= 40);
    // More sticks than are looked at: what is found is sawn, and not said to be the best.
    let many = NestGiven { pieces: vec![60.0; 5], shelf: vec![70.0; 300], ..given };
    let found = nested(&many).unwrap();
    holds(&many, &found);
    assert!(found.cost == 0.0 && !found.proven);
}

#[test]
fn what_cannot_be_nested_says_why() {
    let buys = vec![BuyLength { length: 1000.0, price: 30.0 }];
    let given = |pieces: &[f64], shelf: &[f64], buys: &[BuyLength]| NestGiven {
        pieces: pieces.to_vec(),
        shelf: shelf.to_vec(),
        buys: buys.to_vec(),
        kerf: 2.0,
    };
    let long = nested(&given(&[1200.0], &[], &buys)).unwrap_err();
    assert!(
        matches!(long, NestError::TooLong { piece, longest } if (piece - 1200.0).abs() < 1e-3 && (longest - 1000.0).abs() < 1e-3)
    );
    assert!(matches!(nested(&given(&[400.0, 400.0], &[500.0], &[])).unwrap_err(), NestError::NotEnough { .. }));
    assert!(matches!(nested(&given(&[f64::NAN], &[500.0], &[])).unwrap_err(), NestError::Figure { .. }));
    assert!(matches!(nested(&given(&[-1.0], &[500.0], &[])).unwrap_err(), NestError::Figure { .. }));
    assert!(matches!(nested(&given(&[1.0; 200], &[500.0], &[])).unwrap_err(), NestError::TooMany { .. }));
    // A piece as long as its stick is that stick.
    let whole = nested(&given(&[500.0], &[500.0], &buys)).unwrap();
    assert!(whole.cost == 0.0 && whole.sticks[0].left == 0.0);
    assert!(nested(&given(&[], &[500.0], &buys)).unwrap().sticks.is_empty());
    let stopped = nest(&given(&[400.0], &[], &buys), NEST_STEPS, &AtomicBool::new(true));
    assert_eq!(stopped, Err(NestError::Stopped));
}

//! How often a pipe that is known to fit a crowded bay is found, and how much longer the first offer is.

#![allow(clippy::unwrap_used, clippy::print_stdout, clippy::cast_precision_loss, reason = "a test fails by panicking")]

use std::sync::atomic::AtomicBool;
use std::time::Instant;

use crate::crowded::{Filling, crowded};
use nook_core::Scans;
use nook_search::search;

/// Found, of how many, the worst and the mean of first length over planted length, worst seconds.
fn tally(name: &str, first: u64, of: usize, filling: Filling) -> (usize, f64) {
    // `NOOK_ONLY=150` runs only those whose name has that in it.
    if std::env::var("NOOK_ONLY").is_ok_and(|only| !name.contains(&only)) {
        return (0, 0.0);
    }
    let (mut done, mut found, mut worst, mut sum, mut slowest, mut total) = (0, 0, 0.0_f64, 0.0, 0.0_f64, 0.0);
    let mut seed = first;
    while done < of {
        seed += 1;
        let Some(bay) = crowded(seed, filling) else { continue };
        if bay.job.keep_outs().len() < filling.things {
            continue;
        }
        done += 1;
        let start = Instant::now();
        let ways = search(&bay.job, bay.run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
        let took = start.elapsed().as_secs_f64();
        (slowest, total) = (slowest.max(took), total + took);
        let least =
            ways.offers.iter().filter(|o| o.fits()).map(|o| o.figures.length.mm()).fold(f64::INFINITY, f64::min);
        let head = ways.offers.first().filter(|o| o.fits()).map(|o| o.figures.length.mm());
        if let Some(head) = head {
            found += 1;
            worst = worst.max(head / bay.planted);
            sum += head / bay.planted;
        }
        let least_straight = bay.straights.iter().copied().fold(f64::INFINITY, f64::min);
        if std::env::var_os("NOOK_SAY").is_some() {
            println!(
                "{name} seed {seed}: planted {:.0} of {} bends (straight {least_straight:.0}), first {:?}, least {least:.0}, {took:.1} s",
                bay.planted,
                bay.bends,
                head.map(f64::round)
            );
        }
    }
    println!(
        "{name}: {found} of {of}, first at worst {worst:.2} and on average {:.2} x planted, {:.1} s on average, {slowest:.1} at most",
        sum / (found.max(1) as f64),
        total / of as f64
    );
    (found, worst)
}

#[test]
#[ignore = "a quarter of an hour; its figures are in docs/performance.md"]
fn figures_of_crowded_bays() {
    let far = f64::INFINITY;
    tally("30 things", 1_000, 30, Filling { things: 30, within: far });
    tally("100 things", 2_000, 30, Filling { things: 100, within: far });
    tally("200 things", 3_000, 30, Filling { things: 200, within: far });
    tally("crowded by 100", 4_000, 15, Filling { things: 100, within: 60.0 });
    tally("crowded by 150", 5_000, 20, Filling { things: 150, within: 30.0 });
    tally("crowded by 220", 6_000, 20, Filling { things: 220, within: 20.0 });
}

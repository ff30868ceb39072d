//! What an offer of whole elbows says of its work.

use std::sync::atomic::AtomicBool;

use nook_core::Scans;
use nook_search::search;

use crate::support::{draft, job_with, port};

#[test]
fn whole_elbows_are_not_sawn() {
    // Offers of whole elbows: two seams and one cut for each bend, and one cut more for the ends.
    let run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 60.0), port([500.0, 400.0, 0.0], [0.0, -1.0, 0.0], 60.0));
    let (job, run) = job_with(run);
    let found = search(&job, run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
    let mut elbows = 0;
    for offer in found.offers.iter().filter(|offer| offer.fits()) {
        let figures = &offer.figures;
        let sawn = figures.labour.iter().find_map(|step| step.what.strip_prefix("saw ")?.strip_suffix(" times"));
        let cuts: u32 = sawn.unwrap().parse().unwrap();
        if figures.seams == 2 * figures.bends && cuts == figures.bends + 2 {
            elbows += 1;
        } else {
            assert_eq!(cuts, figures.seams + 2, "a cut for each seam of pies, and two for the ends");
        }
    }
    assert!(elbows > 0 || found.offers.iter().all(|offer| offer.figures.whole_elbows < offer.figures.bends));
}

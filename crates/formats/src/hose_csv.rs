//! How a hose is cut and made up, as a table for the bench.

use nook_core::Workup;
use nook_core::workup::HoseWorkup;

use crate::cut_list_csv::two;
use crate::table::{cell, text_of, writer};

/// The hose of a workup as CSV (RFC 4180), a header first, its parts in order from A; `None` where the run is no hose. Lengths in
/// mm; the legs of an elbow are its straights beyond the bend, before and after it seen from A. Clocks are from up and clockwise
/// for who looks from A to B. The fitting at B is turned from that at A, and an elbow from the one before it, clockwise seen from A
/// along the hose.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn hose_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    let Some(hose) = &workup.hose else { return Ok(None) };
    let mut out = writer();
    out.write_record([
        "part",
        "cut_to_mm",
        "leg_before_mm",
        "leg_after_mm",
        "cut_off_mm",
        "into_socket_mm",
        "clock_deg_from_up_seen_from_a",
        "turned_deg_clockwise_seen_from_a",
    ])?;
    for row in rows(hose) {
        out.write_record(row)?;
    }
    text_of(out).map(Some)
}

fn rows(hose: &HoseWorkup) -> Vec<[String; 8]> {
    let fitting = |end: usize| {
        let one = hose.fittings.get(end)?;
        let turned = hose.clock.filter(|_| end == 1).map(two).unwrap_or_default();
        let clock = one.clock.map(two).unwrap_or_default();
        let [none, before, after] = std::array::from_fn(|_| String::new());
        let (cut_off, socket) = (two(one.cut_off.mm()), two(one.socket.mm()));
        Some([cell(&one.called), none, before, after, cut_off, socket, clock, turned])
    };
    let cut = |what: &str, length: f64, legs: [Option<f64>; 2], turned: Option<f64>| {
        let [before, after] = legs.map(|leg| leg.map(two).unwrap_or_default());
        let [a, b, c] = std::array::from_fn(|_| String::new());
        let d = turned.map(two).unwrap_or_default();
        [cell(what), if length > 0.0 { two(length) } else { String::new() }, before, after, a, b, c, d]
    };
    let length = hose.length.as_ref().map(|length| cut(&hose.called.mm, length.cut.mm(), [None; 2], None));
    let pieces = hose.pieces.iter().map(|piece| match piece.legs.as_slice() {
        [before, after] => cut(&piece.called.mm, 0.0, [Some(before.mm()), Some(after.mm())], piece.turned),
        legs => cut(&piece.called.mm, legs.iter().map(|leg| leg.mm()).sum(), [None; 2], None),
    });
    let inserts = hose.inserts.iter().map(|inserts| {
        let what = format!("{} inserts of {} mm, each", inserts.count, two(inserts.od.mm()));
        cut(&what, inserts.length.mm(), [None; 2], None)
    });
    fitting(0).into_iter().chain(length).chain(pieces).chain(inserts).chain(fitting(1)).collect()
}

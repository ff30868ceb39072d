//! The cut list as a table for the bench.

use nook_core::Workup;
use nook_core::workup::Turn;

/// The cut list of a workup as CSV (RFC 4180), a header first; `None` where there is nothing to cut.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn cut_list_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    let Some(cutting) = &workup.cutting else { return Ok(None) };
    let mut out = csv::Writer::from_writer(Vec::new());
    out.write_record([
        "cut",
        "piece",
        "saw_deg",
        "line_up",
        "turn",
        "turn_deg",
        "turn_girth_mm",
        "mark_centre_mm",
        "mark_up_mm",
        "mark_down_mm",
        "mark_up_in",
        "mark_down_in",
        "piece_centre_mm",
        "piece_shortest_mm",
        "piece_longest_mm",
    ])?;
    for cut in &cutting.cuts {
        let (turn, degrees, girth) = match &cut.turn {
            Turn::AsItLies => ("as it lies", String::new(), String::new()),
            Turn::First => ("line up", String::new(), String::new()),
            Turn::Stay => ("stay", two(0.0), two(0.0)),
            Turn::HalfTurn => ("half turn", two(180.0), two(workup.od.mm() * std::f64::consts::FRAC_PI_2)),
            Turn::Clock { degrees, girth } => ("clock", two(*degrees), two(girth.mm())),
        };
        let piece = cut.piece.and_then(|index| workup.pieces.get(index));
        let of =
            |length: fn(&nook_core::workup::PieceWorkup) -> f64| piece.map_or_else(String::new, |p| two(length(p)));
        out.write_record([
            cut.number.to_string(),
            cut.frees.clone().unwrap_or_else(|| "waste".to_owned()),
            two(cut.saw),
            cut.line_up.clone().unwrap_or_default(),
            turn.to_owned(),
            degrees,
            girth,
            two(cut.centre.mm()),
            two(cut.up.mm()),
            two(cut.down.mm()),
            format!("{:.3}", cut.up.mm() / nook_core::units::MM_PER_INCH),
            format!("{:.3}", cut.down.mm() / nook_core::units::MM_PER_INCH),
            of(|piece| piece.centre.mm()),
            of(|piece| piece.shortest.mm()),
            of(|piece| piece.longest.mm()),
        ])?;
    }
    text_of(out).map(Some)
}

/// Hundredths: finer than any saw, so that summing rows does not wander.
pub(crate) fn two(value: f64) -> String {
    format!("{value:.2}")
}

pub(crate) fn text_of(out: csv::Writer<Vec<u8>>) -> Result<String, csv::Error> {
    let bytes = out.into_inner().map_err(|error| csv::Error::from(error.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

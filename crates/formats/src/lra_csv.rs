//! The length-rotation-angle table, for a bender.

use nook_core::Workup;

use crate::cut_list_csv::{text_of, two};

/// The table as CSV, a row for each bend and one for the last straight; `None` where the way does not join its
/// ports.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn lra_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    if workup.lra.is_empty() {
        return Ok(None);
    }
    let mut out = csv::Writer::from_writer(Vec::new());
    out.write_record(["bend", "length_mm", "rotation_deg", "angle_deg", "radius_mm"])?;
    for (index, row) in workup.lra.iter().enumerate() {
        let angle = |value: Option<f64>| value.map_or_else(String::new, |value| format!("{value:.3}"));
        let bend = if row.angle.is_some() { (index + 1).to_string() } else { "end".to_owned() };
        let radius = row.radius.map_or_else(String::new, |radius| two(radius.mm()));
        out.write_record([bend, two(row.length.mm()), angle(row.rotation), angle(row.angle), radius])?;
    }
    text_of(out).map(Some)
}

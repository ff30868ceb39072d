//! The length-rotation-angle table, for a bender and back from one.

use nook_core::Workup;
use nook_core::route::{ResolvedRun, TableError, TableRoute, TableRow, way_of_table};
use thiserror::Error;

use crate::cut_list_csv::two;
use crate::table::{Table, TableFileError, text_of, writer};

/// The table as CSV, a row for each bend and one for the last straight of each tube; `None` where the way does not join its
/// ports.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn lra_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    if workup.lra.is_empty() {
        return Ok(None);
    }
    let mut out = writer();
    out.write_record(["bend", "length_mm", "rotation_deg", "angle_deg", "radius_mm", "tube"])?;
    for (index, row) in workup.lra.iter().enumerate() {
        let angle = |value: Option<f64>| value.map_or_else(String::new, |value| format!("{value:.3}"));
        // Each tube ends in a row of its own.
        let bend = if row.angle.is_some() { (index + 1 - row.tube).to_string() } else { "end".to_owned() };
        let radius = row.radius.map_or_else(String::new, |radius| two(radius.mm()));
        out.write_record([
            bend,
            two(row.length.mm()),
            angle(row.rotation),
            angle(row.angle),
            radius,
            (row.tube + 1).to_string(),
        ])?;
    }
    text_of(out).map(Some)
}

/// Why a table was not taken.
#[derive(Debug, Error)]
pub enum LraError {
    /// It cannot be read.
    #[error("{0}")]
    File(#[from] TableFileError),
    /// The last row is not there.
    #[error("the last row, \u{201c}end\u{201d} with the straight after the last bend, is missing")]
    NoEnd,
    /// Something stands after the last row.
    #[error(
        "line {line}: nothing may follow the row \u{201c}end\u{201d}; a pipe in several tubes is bent one by one, and its table is not read back"
    )]
    AfterEnd {
        /// Which line of the file, from 1.
        line: usize,
    },
    /// It makes no way for the run.
    #[error("{0}")]
    Table(#[from] TableError),
}

/// The way a table says for `run`: what [`lra_csv`] writes, or a bender's own table with the same columns.
///
/// # Errors
/// [`LraError`] naming the line and column that cannot be read, or why the pipe does not suit the run.
pub fn read_lra(bytes: &[u8], run: &ResolvedRun) -> Result<TableRoute, LraError> {
    let table = Table::read(bytes, &["bend", "length_mm", "rotation_deg", "angle_deg", "radius_mm"], &[])?;
    let (mut rows, mut last) = (Vec::new(), None);
    for row in table.rows() {
        if last.is_some() {
            return Err(LraError::AfterEnd { line: row.line() });
        }
        let length = row.number("length_mm")?;
        if row.get("bend").eq_ignore_ascii_case("end") {
            last = Some(length);
            continue;
        }
        rows.push(TableRow {
            length,
            rotation: row.number("rotation_deg")?,
            angle: row.number("angle_deg")?,
            radius: row.number("radius_mm")?,
        });
    }
    Ok(way_of_table(run, &rows, last.ok_or(LraError::NoEnd)?)?)
}

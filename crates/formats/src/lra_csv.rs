//! The length-rotation-angle table, for a bender and back from one.

use nook_core::Workup;
use nook_core::route::{Settled, TableError, TableRow, Way, way_of_table};
use thiserror::Error;

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

/// Why a table was not taken.
#[derive(Debug, Error)]
pub enum LraError {
    /// It is no such CSV.
    #[error(
        "{0}; a table has the columns bend, length_mm, rotation_deg, angle_deg and radius_mm, and a last row \u{201c}end\u{201d}"
    )]
    Csv(#[from] csv::Error),
    /// A figure is missing or no number.
    #[error("line {line}: {column} is {}", if text.is_empty() { "missing".to_owned() } else { format!("\u{201c}{text}\u{201d}, which is no number") })]
    NoNumber {
        /// Which line of the file, from 1.
        line: usize,
        /// Which column.
        column: &'static str,
        /// What stands there.
        text: String,
    },
    /// The last row is not there.
    #[error("the last row, \u{201c}end\u{201d} with the straight after the last bend, is missing")]
    NoEnd,
    /// It makes no way for the run.
    #[error("{0}")]
    Table(#[from] TableError),
}

/// The way a table says for `run`: what [`lra_csv`] writes, or a bender's own table with the same columns.
///
/// # Errors
/// [`LraError`] naming the line and column that cannot be read, or why the pipe does not suit the run.
pub fn read_lra(text: &str, run: &Settled) -> Result<Way, LraError> {
    let mut reader = csv::ReaderBuilder::new().trim(csv::Trim::All).flexible(true).from_reader(text.as_bytes());
    let columns = reader.headers()?.clone();
    let place = |name: &str| columns.iter().position(|column| column == name);
    let mut rows = Vec::new();
    for (index, record) in reader.records().enumerate() {
        let record = record?;
        let number = |column: &'static str| {
            let text = place(column).and_then(|at| record.get(at)).unwrap_or_default();
            let read = text.parse::<f64>().ok().filter(|value| value.is_finite());
            read.ok_or_else(|| LraError::NoNumber { line: index + 2, column, text: text.to_owned() })
        };
        let length = number("length_mm")?;
        let end = place("bend").and_then(|at| record.get(at)).is_some_and(|name| name.eq_ignore_ascii_case("end"));
        if end {
            return Ok(way_of_table(run, &rows, length)?);
        }
        let row = TableRow {
            length,
            rotation: number("rotation_deg")?,
            angle: number("angle_deg")?,
            radius: number("radius_mm")?,
        };
        rows.push(row);
    }
    Err(LraError::NoEnd)
}

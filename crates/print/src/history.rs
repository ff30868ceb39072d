//! A vehicle's history on paper: what was done, day by day.

use crate::flow::{Column, Flow};
use crate::paper::Paper;
use crate::pdf::{PrintError, pdf};

/// When, who and what, in order, as a PDF; `job` is the vehicle's name.
///
/// # Errors
/// [`PrintError::Nothing`] where nothing was done yet; the others are faults of this program.
pub fn history_pdf(job: &str, lines: &[[String; 3]]) -> Result<Vec<u8>, PrintError> {
    let title = format!("{job} \u{b7} history");
    let mut flow = Flow::new(Paper::A4, &title);
    let mut from = 0;
    while from < lines.len() {
        let day = day_of(&lines[from][0]);
        let to = lines[from..].iter().position(|line| day_of(&line[0]) != day).map_or(lines.len(), |at| from + at);
        if from == 0 {
            flow.next_page();
        }
        flow.heading(day);
        let rows: Vec<Vec<String>> = lines[from..to]
            .iter()
            .map(|[at, who, what]| vec![at.get(11..16).unwrap_or("").to_owned(), what.clone(), who.clone()])
            .collect();
        flow.table(&HISTORY, &rows, false);
        from = to;
    }
    pdf(&flow.finish(), &title, 1.0)
}

/// The day of a time in ISO 8601.
fn day_of(at: &str) -> &str {
    at.get(..10).unwrap_or(at)
}

const HISTORY: [Column; 3] = [Column::new("UTC", 0.7), Column::new("What", 6.0), Column::new("Who", 1.6)];

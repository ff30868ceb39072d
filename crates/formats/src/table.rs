//! Tables as people and spreadsheets write them: any of the usual separators and encodings, columns in any order with
//! more beside them, blank rows, and figures with a decimal comma. Out they go as RFC 4180 with a byte order mark, so that
//! a spreadsheet reads names in any script, and no name is taken for a formula.

use std::fmt::Display;

use encoding_rs::{UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};
use thiserror::Error;

/// Largest table in bytes that is read.
pub const LARGEST_TABLE: usize = 4 * 1024 * 1024;

/// Why a table was not read. Nothing of it is taken.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum TableFileError {
    /// A cell is wrong.
    #[error("line {line}, {column}: {why}")]
    Cell {
        /// Which line of the file, from 1.
        line: usize,
        /// Which column.
        column: &'static str,
        /// What is wrong, and what was expected.
        why: String,
    },
    /// Columns are missing.
    #[error("line {line}: it must name the columns {wanted}; {missing} is missing")]
    Columns {
        /// Where the heading was looked for, from 1.
        line: usize,
        /// All that are needed.
        wanted: String,
        /// The first that is not there.
        missing: &'static str,
    },
    /// There is nothing in it.
    #[error("the file is empty; its first line must name the columns {wanted}")]
    Empty {
        /// All that are needed.
        wanted: String,
    },
    /// It is too large.
    #[error("the file has {bytes} bytes; {LARGEST_TABLE} is the most")]
    TooLarge {
        /// Its size.
        bytes: usize,
    },
    /// A quoted cell does not end.
    #[error("line {line}: a cell in quotes does not end")]
    Quotes {
        /// The line it begins in, from 1.
        line: usize,
    },
}

/// A table read from a file, its columns found by their names.
pub(crate) struct Table {
    /// Names of the columns that were asked for, and where each is; `None` for one that may be left out and is.
    columns: Vec<(&'static str, Option<usize>)>,
    rows: Vec<(usize, csv::StringRecord)>,
    comma: Comma,
}

/// What a comma within a figure is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Comma {
    /// The decimal mark: the table is separated by something else, and some figure shows it.
    Decimal,
    /// It may be either, unless the figure itself tells.
    Unknown,
}

/// One row of a table.
pub(crate) struct Row<'a> {
    table: &'a Table,
    line: usize,
    record: &'a csv::StringRecord,
}

impl Table {
    /// Reads a table that has the columns `needed`, and perhaps those of `optional`.
    ///
    /// # Errors
    /// [`TableFileError`] when it is too large, has no such columns, or a quoted cell does not end.
    pub(crate) fn read(
        bytes: &[u8],
        needed: &[&'static str],
        optional: &[&'static str],
    ) -> Result<Self, TableFileError> {
        if bytes.len() > LARGEST_TABLE {
            return Err(TableFileError::TooLarge { bytes: bytes.len() });
        }
        let text = decoded(bytes);
        let (said, body, skipped) = separator_line(&text);
        let wanted = || needed.join(", ");
        let heading =
            body.lines().position(|line| !is_blank(line)).ok_or(TableFileError::Empty { wanted: wanted() })?;
        let first = body.lines().nth(heading).unwrap_or_default();
        let separators = [b',', b';', b'\t'];
        let hits = |separator: u8| {
            let named: Vec<String> = first.split(char::from(separator)).map(plain).collect();
            needed.iter().filter(|name| named.contains(&(**name).to_owned())).count()
        };
        let separator = said.unwrap_or_else(|| {
            let best = separators.into_iter().rev().max_by_key(|separator| hits(*separator));
            best.unwrap_or(b',')
        });
        let mut reader = csv::ReaderBuilder::new()
            .delimiter(separator)
            .has_headers(false)
            .flexible(true)
            .trim(csv::Trim::All)
            .from_reader(body.as_bytes());
        let mut rows = Vec::new();
        for record in reader.records() {
            // Bytes that are no UTF-8 cannot be met in decoded text, and lengths may differ.
            let Ok(record) = record else { break };
            let line = record.position().map_or(0, csv::Position::line);
            let line = usize::try_from(line).unwrap_or(usize::MAX).saturating_add(skipped);
            if record.iter().any(|cell| !cell.is_empty()) {
                rows.push((line, record));
            }
        }
        if let Some(line) = open_quote(body) {
            return Err(TableFileError::Quotes { line: line + skipped });
        }
        let (line, names) = rows.first().cloned().ok_or(TableFileError::Empty { wanted: wanted() })?;
        rows.remove(0);
        let place = |name: &str| names.iter().position(|cell| plain(cell) == name);
        if let Some(missing) = needed.iter().find(|name| place(name).is_none()) {
            return Err(TableFileError::Columns { line, wanted: wanted(), missing });
        }
        let columns = needed.iter().chain(optional).map(|name| (*name, place(name))).collect();
        let comma = if separator == b',' { Comma::Unknown } else { shown_by(&rows) };
        Ok(Self { columns, rows, comma })
    }

    /// Its rows in order, without the heading and those that are blank.
    pub(crate) fn rows(&self) -> impl Iterator<Item = Row<'_>> {
        self.rows.iter().map(|(line, record)| Row { table: self, line: *line, record })
    }
}

impl Row<'_> {
    /// A cell; empty where the column was left out or the row is shorter.
    pub(crate) fn get(&self, column: &'static str) -> &str {
        let at = self.table.columns.iter().find(|(name, _)| *name == column).and_then(|(_, at)| *at);
        let cell = at.and_then(|at| self.record.get(at)).unwrap_or_default().trim();
        // What was marked as text for a spreadsheet is that text.
        match cell.strip_prefix('\'') {
            Some(text) if is_formula(bare(text)) => text,
            _ => cell,
        }
    }

    /// A figure.
    ///
    /// # Errors
    /// [`TableFileError::Cell`] where it is missing, no number, or could be read in two ways.
    pub(crate) fn number(&self, column: &'static str) -> Result<f64, TableFileError> {
        let text = self.get(column);
        if text.is_empty() {
            return Err(self.wrong(column, &"it is missing; a number is needed"));
        }
        let plain = text.replace('\u{2212}', "-").replace(['\u{a0}', '\u{202f}'], "");
        let dotted = match plain.split_once(',') {
            None => plain,
            Some((_, after))
                if after.contains([',', '.']) || plain.split(',').next().is_some_and(|b| b.contains('.')) =>
            {
                return Err(
                    self.wrong(column, &format!("\u{201c}{text}\u{201d} has a comma and more; type it like 1234.5"))
                );
            }
            Some((_, after)) if self.table.comma == Comma::Unknown && after.len() == 3 => {
                return Err(self.wrong(
                    column,
                    &format!("\u{201c}{text}\u{201d} could be thousands or a decimal comma; type it with a point"),
                ));
            }
            Some((before, after)) => format!("{before}.{after}"),
        };
        let number = dotted.parse::<f64>().ok().filter(|value| value.is_finite());
        number.ok_or_else(|| self.wrong(column, &format!("\u{201c}{text}\u{201d} is no number")))
    }

    /// Which line of the file it stands in, from 1.
    pub(crate) const fn line(&self) -> usize {
        self.line
    }

    pub(crate) fn wrong(&self, column: &'static str, why: &dyn Display) -> TableFileError {
        TableFileError::Cell { line: self.line, column, why: why.to_string() }
    }
}

/// A column's name as it is compared: small letters, with blanks and dashes as underscores.
fn plain(name: &str) -> String {
    let name = name.trim().trim_matches('"').trim().to_lowercase();
    name.chars().map(|c| if c == ' ' || c == '-' { '_' } else { c }).collect()
}

/// The text of a file in the encodings spreadsheets write: by its mark, else UTF-8, UTF-16 where every other byte is
/// nil, or Windows Latin.
fn decoded(bytes: &[u8]) -> String {
    let marked = encoding_rs::Encoding::for_bom(bytes).is_some();
    let nils = |odd: usize| bytes.iter().skip(odd).step_by(2).take(64).filter(|byte| **byte == 0).count() * 2;
    let half = bytes.len().min(128) / 2;
    let encoding = if marked || std::str::from_utf8(bytes).is_ok_and(|text| !text.contains('\0')) {
        UTF_8
    } else if half > 4 && nils(1) > half {
        UTF_16LE
    } else if half > 4 && nils(0) > half {
        UTF_16BE
    } else {
        WINDOWS_1252
    };
    // Decoding takes the mark off, and its word before ours.
    encoding.decode(bytes).0.into_owned()
}

/// The separator that a first line `sep=;` says, what follows that line, and how many lines were taken off.
fn separator_line(text: &str) -> (Option<u8>, &str, usize) {
    let (first, rest) = text.split_once('\n').unwrap_or((text, ""));
    // A spreadsheet may have put the line in quotes, or more separators behind it.
    let first = first.trim_end_matches('\r').trim_matches('"');
    match first.to_lowercase().strip_prefix("sep=").and_then(|said| said.bytes().next()) {
        Some(said) => (Some(said), rest, 1),
        None => (None, text, 0),
    }
}

fn is_blank(line: &str) -> bool {
    line.chars().all(|c| c.is_whitespace() || matches!(c, ',' | ';' | '"'))
}

/// Whether figures of a table are seen to have a decimal comma: one that no thousands could be, and none with a point.
fn shown_by(rows: &[(usize, csv::StringRecord)]) -> Comma {
    let figures = rows.iter().flat_map(|(_, record)| record).filter(|cell| {
        cell.chars().any(|c| c.is_ascii_digit())
            && cell.chars().all(|c| c.is_ascii_digit() || "+-.,\u{2212}".contains(c))
    });
    let (mut decimal, mut point) = (false, false);
    for cell in figures {
        point |= cell.contains('.');
        decimal |= cell.split_once(',').is_some_and(|(_, after)| after.len() != 3);
    }
    if decimal && !point { Comma::Decimal } else { Comma::Unknown }
}

/// The line, from 1, where a quote begins that nothing ends.
fn open_quote(text: &str) -> Option<usize> {
    let mut open = None;
    for (index, line) in text.lines().enumerate() {
        if line.matches('"').count() % 2 == 1 {
            open = if open.is_some() { None } else { Some(index + 1) };
        }
    }
    open
}

/// Whether a spreadsheet would take a text for a formula. A figure with a sign is none.
fn is_formula(text: &str) -> bool {
    let starts = text.starts_with(['=', '+', '-', '@', '\t', '\r']);
    starts && text.parse::<f64>().is_err()
}

/// A text as it stands in a cell: what a spreadsheet would run as a formula is marked as text.
pub(crate) fn cell(text: &str) -> String {
    if is_formula(bare(text)) { format!("'{text}") } else { text.to_owned() }
}

/// A text without the marks before it, of which a name may have its own.
fn bare(text: &str) -> &str {
    text.trim_start_matches('\'')
}

/// A table on its way out, with a byte order mark.
pub(crate) fn writer() -> csv::Writer<Vec<u8>> {
    csv::Writer::from_writer("\u{feff}".as_bytes().to_vec())
}

/// The text of a table that was written.
pub(crate) fn text_of(out: csv::Writer<Vec<u8>>) -> Result<String, csv::Error> {
    let bytes = out.into_inner().map_err(|error| csv::Error::from(error.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

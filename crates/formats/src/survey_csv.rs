//! Datum points and readings as CSV, out and in: one line for each, things called by their names.

use nook_core::geometry::Point;
use nook_core::measure::{Against, Anchor, Axis, End, PortRef, Reading, Side, Spot, Subject, Taken};
use nook_core::units::{
    Coordinate, Girth, HeadingAngle, Name, OnStick, OutsideDiameter, PitchAngle, Spread, TapeLength,
};
use nook_core::{Edit, Job};
use thiserror::Error;

use crate::cut_list_csv::text_of;

/// Why a table was not read. Nothing of it is taken.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum SurveyCsvError {
    /// A line is wrong.
    #[error("line {line}, {column}: {why}")]
    Line {
        /// Which, from 1 with the heading.
        line: usize,
        /// Which column.
        column: &'static str,
        /// What is wrong.
        why: String,
    },
    /// It is no such table.
    #[error("the table cannot be read: {0}")]
    Table(String),
}

const DATUM_COLUMNS: [&str; 5] = ["name", "x_mm", "y_mm", "z_mm", "rides"];
const READING_COLUMNS: [&str; 8] = ["of", "by", "from", "spot", "axis", "value", "counts", "spread"];

/// The datum points as CSV.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn datums_csv(job: &Job) -> Result<String, csv::Error> {
    let mut out = csv::Writer::from_writer(Vec::new());
    out.write_record(DATUM_COLUMNS)?;
    for datum in job.datums() {
        let [x, y, z] = datum.at.to_array().map(|c| c.to_string());
        out.write_record([datum.name.as_str(), &x, &y, &z, rides_word(datum.rides)])?;
    }
    text_of(out)
}

/// Every reading as CSV, as it was read.
///
/// # Errors
/// As [`datums_csv`].
pub fn readings_csv(job: &Job) -> Result<String, csv::Error> {
    let mut out = csv::Writer::from_writer(Vec::new());
    out.write_record(READING_COLUMNS)?;
    for (of, readings) in job.readings() {
        for reading in readings {
            let line = Line::of(job, of, reading);
            out.write_record([
                line.of,
                line.by,
                line.from,
                line.spot,
                line.axis,
                line.value,
                line.counts,
                line.spread,
            ])?;
        }
    }
    text_of(out)
}

/// Edits that bring a table of datum points into a job: those of a known name are set, the others added.
///
/// # Errors
/// [`SurveyCsvError`] naming line and column.
pub fn read_datums(job: &Job, text: &str) -> Result<Vec<Edit>, SurveyCsvError> {
    let each = |row: &Row<'_>| {
        let name = Name::new(row.get("name")?).map_err(|error| row.wrong("name", &error))?;
        let [x, y, z] = ["x_mm", "y_mm", "z_mm"].map(|column| row.number(column));
        let at = Point::new(x?, y?, z?).map_err(|error| row.wrong("x_mm", &error))?;
        let rides = match row.get("rides")? {
            "body" | "" => Side::Body,
            "engine" => Side::Engine,
            other => return Err(row.wrong("rides", &format!("\u{201c}{other}\u{201d} is neither body nor engine"))),
        };
        let known = job.datums().iter().find(|datum| datum.name == name);
        Ok(Some(match known {
            Some(datum) => Edit::SetDatum { datum: datum.id, name, at, rides },
            None => Edit::AddDatum { name, at, rides },
        }))
    };
    rows(text, &DATUM_COLUMNS, each)
}

/// Edits that add a table's readings to a job. One that is there already, to the last figure, is left out.
///
/// # Errors
/// [`SurveyCsvError`] naming line and column.
pub fn read_readings(job: &Job, text: &str) -> Result<Vec<Edit>, SurveyCsvError> {
    rows(text, &READING_COLUMNS, |row| {
        let of = subject(job, row.get("of")?).ok_or_else(|| row.unknown("of"))?;
        let reading = reading(job, row)?;
        let there = job.readings().any(|(other, readings)| other == of && readings.contains(&reading));
        Ok((!there).then_some(Edit::AddReading { of, reading }))
    })
}

struct Row<'a> {
    line: usize,
    record: &'a csv::StringRecord,
    columns: &'a [&'static str],
}

impl Row<'_> {
    fn get(&self, column: &'static str) -> Result<&str, SurveyCsvError> {
        let at = self.columns.iter().position(|name| *name == column);
        at.and_then(|at| self.record.get(at)).map(str::trim).ok_or_else(|| self.wrong(column, &"it is missing"))
    }

    fn number(&self, column: &'static str) -> Result<f64, SurveyCsvError> {
        let text = self.get(column)?;
        text.parse().map_err(|_| self.wrong(column, &format!("\u{201c}{text}\u{201d} is no number")))
    }

    fn wrong(&self, column: &'static str, why: &dyn std::fmt::Display) -> SurveyCsvError {
        SurveyCsvError::Line { line: self.line, column, why: why.to_string() }
    }

    fn unknown(&self, column: &'static str) -> SurveyCsvError {
        let text = self.get(column).unwrap_or_default();
        self.wrong(column, &format!("\u{201c}{text}\u{201d} is not in this job"))
    }
}

fn rows(
    text: &str,
    columns: &'static [&'static str],
    each: impl Fn(&Row<'_>) -> Result<Option<Edit>, SurveyCsvError>,
) -> Result<Vec<Edit>, SurveyCsvError> {
    let mut reader = csv::ReaderBuilder::new().trim(csv::Trim::All).from_reader(text.as_bytes());
    let headings = reader.headers().map_err(|error| SurveyCsvError::Table(error.to_string()))?;
    if headings.iter().ne(columns.iter().copied()) {
        return Err(SurveyCsvError::Table(format!("its first line must be {}", columns.join(","))));
    }
    let mut edits = Vec::new();
    for record in reader.records() {
        let record = record.map_err(|error| SurveyCsvError::Table(error.to_string()))?;
        let line = record.position().map_or(0, csv::Position::line);
        let row = Row { line: usize::try_from(line).unwrap_or(usize::MAX), record: &record, columns };
        edits.extend(each(&row)?);
    }
    Ok(edits)
}

#[derive(Default)]
struct Line {
    of: String,
    by: String,
    from: String,
    spot: String,
    axis: String,
    value: String,
    counts: String,
    spread: String,
}

impl Line {
    fn of(job: &Job, of: Subject, reading: &Reading) -> Self {
        let name = |of: Subject| subject_word(job, of);
        let anchor = |from: Anchor| match from {
            Anchor::Zero => "zero".to_owned(),
            Anchor::Datum { datum } => name(Subject::Datum { datum }),
            Anchor::Port { port } => name(Subject::Port { port }),
        };
        let against = |to: Against| match to {
            Against::Axis { axis } => format!("axis: {}", axis.letter()),
            Against::Port { port } => name(Subject::Port { port }),
        };
        let (by, from, spot, axis, value) = match reading.taken {
            Taken::Tape { from, to, mm } => ("tape", anchor(from), spot_word(to), String::new(), mm.get().to_string()),
            Taken::Offset { from, to, axis, mm } => {
                ("offset", anchor(from), spot_word(to), axis.letter().to_string(), mm.get().to_string())
            }
            Taken::Heading { degrees } => bare("heading", degrees.get()),
            Taken::Pitch { degrees } => bare("pitch", degrees.get()),
            Taken::Caliper { mm } => bare("caliper", mm.get()),
            Taken::Girth { mm } => bare("girth", mm.get()),
            Taken::Square { to } => ("square", against(to), String::new(), String::new(), String::new()),
            Taken::Parallel { to, opposite } => {
                let by = if opposite { "opposite" } else { "parallel" };
                (by, against(to), String::new(), String::new(), String::new())
            }
            Taken::Mirror { of } => {
                ("mirror", name(Subject::Port { port: of }), String::new(), String::new(), String::new())
            }
        };
        Self {
            of: name(of),
            by: by.to_owned(),
            from,
            spot,
            axis,
            value,
            counts: if reading.counts { "yes" } else { "no" }.to_owned(),
            spread: reading.spread.map_or_else(String::new, |spread| spread.get().to_string()),
        }
    }
}

fn bare(by: &'static str, value: f64) -> (&'static str, String, String, String, String) {
    (by, String::new(), String::new(), String::new(), value.to_string())
}

fn rides_word(side: Side) -> &'static str {
    match side {
        Side::Engine => "engine",
        Side::Body => "body",
    }
}

fn spot_word(spot: Spot) -> String {
    match spot {
        Spot::Centre => String::new(),
        Spot::Stick { mm } => format!("stick {}", mm.get()),
        Spot::Corner { towards: [x, y, z] } => format!("corner {x} {y} {z}"),
    }
}

fn subject_word(job: &Job, of: Subject) -> String {
    let gone = || "something removed".to_owned();
    match of {
        Subject::Datum { datum } => {
            job.datum(datum).map_or_else(gone, |datum| format!("datum: {}", datum.name.as_str()))
        }
        Subject::Port { port } => {
            job.run(port.run).map_or_else(gone, |run| format!("port: {} / {}", run.name.as_str(), port.end.letter()))
        }
        Subject::KeepOut { keep_out } => {
            job.keep_out(keep_out).map_or_else(gone, |one| format!("keep-out: {}", one.name.as_str()))
        }
    }
}

fn subject(job: &Job, text: &str) -> Option<Subject> {
    let (kind, name) = text.split_once(':')?;
    let name = name.trim();
    match kind.trim() {
        "datum" => {
            let datum = job.datums().iter().find(|datum| datum.name.as_str() == name)?;
            Some(Subject::Datum { datum: datum.id })
        }
        "port" => {
            let (run, end) = name.rsplit_once('/')?;
            let run = job.runs().iter().find(|one| one.name.as_str() == run.trim())?;
            let end = [End::A, End::B].into_iter().find(|one| end.trim() == one.letter().to_string())?;
            Some(Subject::Port { port: PortRef { run: run.id, end } })
        }
        "keep-out" => {
            let one = job.keep_outs().iter().find(|one| one.name.as_str() == name)?;
            Some(Subject::KeepOut { keep_out: one.id })
        }
        _ => None,
    }
}

fn axis(text: &str) -> Option<Axis> {
    Axis::ALL.into_iter().find(|axis| text == axis.letter().to_string())
}

fn reading(job: &Job, row: &Row<'_>) -> Result<Reading, SurveyCsvError> {
    let from = row.get("from")?;
    let anchor = || match (from, subject(job, from)) {
        ("zero", _) => Ok(Anchor::Zero),
        (_, Some(Subject::Datum { datum })) => Ok(Anchor::Datum { datum }),
        (_, Some(Subject::Port { port })) => Ok(Anchor::Port { port }),
        _ => Err(row.unknown("from")),
    };
    let port = || match subject(job, from) {
        Some(Subject::Port { port }) => Ok(port),
        _ => Err(row.unknown("from")),
    };
    let against = || match from.strip_prefix("axis:").map(|name| axis(name.trim())) {
        Some(Some(axis)) => Ok(Against::Axis { axis }),
        _ => port().map(|port| Against::Port { port }),
    };
    let value = || row.number("value");
    macro_rules! checked {
        ($quantity:ident) => {
            $quantity::new(value()?).map_err(|error| row.wrong("value", &error))?
        };
    }
    let taken = match row.get("by")? {
        "tape" => Taken::Tape { from: anchor()?, to: spot(row)?, mm: checked!(TapeLength) },
        "offset" => {
            let axis = axis(row.get("axis")?).ok_or_else(|| row.wrong("axis", &"x, y or z is needed"))?;
            Taken::Offset { from: anchor()?, to: spot(row)?, axis, mm: checked!(Coordinate) }
        }
        "heading" => Taken::Heading { degrees: checked!(HeadingAngle) },
        "pitch" => Taken::Pitch { degrees: checked!(PitchAngle) },
        "caliper" => Taken::Caliper { mm: checked!(OutsideDiameter) },
        "girth" => Taken::Girth { mm: checked!(Girth) },
        "square" => Taken::Square { to: against()? },
        "parallel" => Taken::Parallel { to: against()?, opposite: false },
        "opposite" => Taken::Parallel { to: against()?, opposite: true },
        "mirror" => Taken::Mirror { of: port()? },
        other => return Err(row.wrong("by", &format!("\u{201c}{other}\u{201d} is no kind of reading"))),
    };
    let counts = match row.get("counts")? {
        "yes" | "" => true,
        "no" => false,
        other => return Err(row.wrong("counts", &format!("\u{201c}{other}\u{201d} is neither yes nor no"))),
    };
    let spread = match row.get("spread")? {
        "" => None,
        _ => Some(Spread::new(row.number("spread")?).map_err(|error| row.wrong("spread", &error))?),
    };
    Ok(Reading { taken, counts, spread })
}

fn spot(row: &Row<'_>) -> Result<Spot, SurveyCsvError> {
    let wrong =
        || row.wrong("spot", &"it must be empty, or like \u{201c}stick 300\u{201d} or \u{201c}corner 1 -1 1\u{201d}");
    let words: Vec<&str> = row.get("spot")?.split_whitespace().collect();
    let side = |text: &str| text.parse::<i8>().map_err(|_| wrong());
    match words.as_slice() {
        [] => Ok(Spot::Centre),
        ["stick", mm] => {
            let mm = OnStick::new(mm.parse().map_err(|_| wrong())?).map_err(|error| row.wrong("spot", &error))?;
            Ok(Spot::Stick { mm })
        }
        ["corner", x, y, z] => Ok(Spot::Corner { towards: [side(x)?, side(y)?, side(z)?] }),
        _ => Err(wrong()),
    }
}

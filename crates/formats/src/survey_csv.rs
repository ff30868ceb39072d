//! Datum points and readings as CSV, out and in: one line for each, things called by their names.

use nook_core::measure::{Against, Anchor, Axis, End, Measurand, PortRef, Reading, RimSide, Side, Spot, Taken};
use nook_core::{Edit, Job, MeasureEdit};
use nook_geometry::Point;
use nook_geometry::units::{
    BetweenAngle, Bore, Coordinate, FaceClock, FaceRadius, Girth, HeadingAngle, Name, OnStick, OutsideDiameter,
    PitchAngle, Spread, TapeLength, Wall,
};

use crate::table::{Row, Table, TableFileError, cell, text_of, writer};

const DATUM_COLUMNS: [&str; 4] = ["name", "x_mm", "y_mm", "z_mm"];
const DATUM_EXTRAS: [&str; 2] = ["rides", "spread_mm"];
const READING_COLUMNS: [&str; 4] = ["of", "by", "from", "value"];
const READING_EXTRAS: [&str; 5] = ["spot", "axis", "wall_mm", "counts", "spread"];

/// The datum points as CSV.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn datums_csv(job: &Job) -> Result<String, csv::Error> {
    let mut out = writer();
    out.write_record(DATUM_COLUMNS.iter().chain(&DATUM_EXTRAS))?;
    for datum in job.datums() {
        let [x, y, z] = datum.at.to_array().map(|c| c.to_string());
        let spread = datum.spread.map_or_else(String::new, |spread| spread.get().to_string());
        out.write_record([&cell(datum.name.as_str()), &x, &y, &z, rides_word(datum.rides), &spread])?;
    }
    text_of(out)
}

/// Every reading as CSV, as it was read.
///
/// # Errors
/// As [`datums_csv`].
pub fn readings_csv(job: &Job) -> Result<String, csv::Error> {
    let mut out = writer();
    out.write_record(["of", "by", "from", "spot", "axis", "value", "wall_mm", "counts", "spread"])?;
    for (of, readings) in job.readings() {
        for reading in readings {
            let line = Line::of(job, of, reading);
            let words = [&line.of, &line.by, &line.from, &line.spot, &line.axis].map(|word| cell(word));
            let figures = [line.value, line.wall, line.counts, line.spread];
            out.write_record(words.into_iter().chain(figures))?;
        }
    }
    text_of(out)
}

/// Edits that bring a table of datum points into a job: those of a known name are set, the others added.
///
/// # Errors
/// [`TableFileError`] naming line and column.
pub fn read_datums(job: &Job, bytes: &[u8]) -> Result<Vec<Edit>, TableFileError> {
    let table = Table::read(bytes, &DATUM_COLUMNS, &DATUM_EXTRAS)?;
    let mut edits = Vec::new();
    let mut added: Vec<(Name, usize)> = Vec::new();
    for row in table.rows() {
        let name = Name::new(row.get("name")).map_err(|error| row.wrong("name", &error))?;
        let [x, y, z] = ["x_mm", "y_mm", "z_mm"].map(|column| row.number(column));
        let at = Point::new(x?, y?, z?).map_err(|error| row.wrong("x_mm", &error))?;
        let known = job.datums().iter().find(|datum| datum.name == name);
        let rides = match (row.get("rides").to_lowercase().as_str(), known) {
            // A table without the column says nothing of it.
            ("", Some(datum)) => datum.rides,
            ("body" | "", _) => Side::Body,
            ("engine", _) => Side::Engine,
            (other, _) => {
                return Err(row.wrong("rides", &format!("\u{201c}{other}\u{201d} is neither body nor engine")));
            }
        };
        if let Some((_, line)) = added.iter().find(|(other, _)| *other == name) {
            return Err(row.wrong("name", &format!("\u{201c}{}\u{201d} stands in line {line} already", name.as_str())));
        }
        added.push((name.clone(), row.line()));
        let spread = optional_spread(&row, "spread_mm")?;
        match known {
            Some(datum) => {
                edits.push(Edit::Measure(MeasureEdit::SetDatum { datum: datum.id, name, at, rides }));
                if spread.is_some() && spread != datum.spread {
                    edits.push(Edit::Measure(MeasureEdit::SetDatumSpread { datum: datum.id, spread }));
                }
            }
            None => edits.push(Edit::Measure(MeasureEdit::AddDatum { name, at, rides })),
        }
    }
    Ok(edits)
}

/// Edits that add a table's readings to a job. One that is there already, to the last figure, is left out.
///
/// # Errors
/// [`TableFileError`] naming line and column.
pub fn read_readings(job: &Job, bytes: &[u8]) -> Result<Vec<Edit>, TableFileError> {
    let table = Table::read(bytes, &READING_COLUMNS, &READING_EXTRAS)?;
    let mut edits = Vec::new();
    for row in table.rows() {
        let of = subject(job, row.get("of")).map_err(|why| row.wrong("of", &why))?;
        let reading = reading(job, &row)?;
        let there = job.readings().any(|(other, readings)| other == of && readings.contains(&reading));
        if !there {
            edits.push(Edit::Measure(MeasureEdit::AddReading { of, reading }));
        }
    }
    Ok(edits)
}

fn optional_spread(row: &Row<'_>, column: &'static str) -> Result<Option<Spread>, TableFileError> {
    match row.get(column) {
        "" => Ok(None),
        _ => Spread::new(row.number(column)?).map(Some).map_err(|error| row.wrong(column, &error)),
    }
}

#[derive(Default)]
struct Line {
    of: String,
    by: String,
    from: String,
    spot: String,
    axis: String,
    value: String,
    wall: String,
    counts: String,
    spread: String,
}

impl Line {
    fn of(job: &Job, of: Measurand, reading: &Reading) -> Self {
        let name = |of: Measurand| subject_word(job, of);
        let anchor = |from: Anchor| match from {
            Anchor::Zero => "zero".to_owned(),
            Anchor::Datum { datum } => name(Measurand::Datum { datum }),
            Anchor::Port { port, rim: None } => name(Measurand::Port { port }),
            Anchor::Port { port, rim: Some(side) } => {
                format!("{} / {} rim", name(Measurand::Port { port }), side.word())
            }
        };
        let against = |to: Against| match to {
            Against::Axis { axis } => format!("axis: {}", axis.letter()),
            Against::Port { port } => name(Measurand::Port { port }),
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
            Taken::Bore { mm, .. } => bare("bore", mm.get()),
            Taken::Between { port, degrees } => {
                let to = name(Measurand::Port { port });
                ("angle", to, String::new(), String::new(), degrees.get().to_string())
            }
            Taken::Square { to } => ("square", against(to), String::new(), String::new(), String::new()),
            Taken::Parallel { to, opposite } => {
                let by = if opposite { "opposite" } else { "parallel" };
                (by, against(to), String::new(), String::new(), String::new())
            }
            Taken::Mirror { of } => {
                ("mirror", name(Measurand::Port { port: of }), String::new(), String::new(), String::new())
            }
        };
        let wall = if let Taken::Bore { wall, .. } = reading.taken { wall.get().to_string() } else { String::new() };
        Self {
            of: name(of),
            wall,
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
        Spot::Rim { side } => format!("{} rim", side.word()),
        Spot::Face { clock, mm } => format!("face {} {}", clock.get(), mm.get()),
        Spot::Corner { towards: [x, y, z] } => format!("corner {x} {y} {z}"),
    }
}

fn subject_word(job: &Job, of: Measurand) -> String {
    let gone = || "something removed".to_owned();
    match of {
        Measurand::Datum { datum } => {
            job.datum(datum).map_or_else(gone, |datum| format!("datum: {}", datum.name.as_str()))
        }
        Measurand::Port { port } => {
            job.run(port.run).map_or_else(gone, |run| format!("port: {} / {}", run.name.as_str(), port.end.letter()))
        }
        Measurand::KeepOut { keep_out } => {
            job.keep_out(keep_out).map_or_else(gone, |one| format!("keep-out: {}", one.name.as_str()))
        }
    }
}

/// What a text such as `datum: left strut bolt` or `port: Hot side / A` names.
fn subject(job: &Job, text: &str) -> Result<Measurand, String> {
    let unknown = || format!("\u{201c}{text}\u{201d} is not in this job");
    let (kind, name) = text.split_once(':').ok_or_else(unknown)?;
    let name = name.trim();
    let mut found: Vec<Measurand> = match kind.trim().to_lowercase().as_str() {
        "datum" => {
            let same = job.datums().iter().filter(|datum| datum.name.as_str() == name);
            same.map(|datum| Measurand::Datum { datum: datum.id }).collect()
        }
        "port" => {
            let (run, end) = name.rsplit_once('/').ok_or_else(unknown)?;
            let end =
                [End::A, End::B].into_iter().find(|one| end.trim().eq_ignore_ascii_case(&one.letter().to_string()));
            let end = end.ok_or_else(unknown)?;
            let same = job.runs().iter().filter(|one| one.name.as_str() == run.trim());
            same.map(|run| Measurand::Port { port: PortRef { run: run.id, end } }).collect()
        }
        "keep-out" => {
            let same = job.keep_outs().iter().filter(|one| one.name.as_str() == name);
            same.map(|one| Measurand::KeepOut { keep_out: one.id }).collect()
        }
        _ => Vec::new(),
    };
    match found.len() {
        0 => Err(unknown()),
        1 => Ok(found.remove(0)),
        many => Err(format!("\u{201c}{text}\u{201d} could be any of {many} of that name; rename all but one")),
    }
}

fn axis(text: &str) -> Option<Axis> {
    Axis::ALL.into_iter().find(|axis| text.eq_ignore_ascii_case(&axis.letter().to_string()))
}

fn rim_side(text: &str) -> Option<RimSide> {
    match text.to_lowercase().as_str() {
        "near rim" => Some(RimSide::Near),
        "far rim" => Some(RimSide::Far),
        _ => None,
    }
}

fn reading(job: &Job, row: &Row<'_>) -> Result<Reading, TableFileError> {
    let from = row.get("from");
    let wrong = |why: String| row.wrong("from", &why);
    let anchor = || {
        if from.eq_ignore_ascii_case("zero") {
            return Ok(Anchor::Zero);
        }
        let rim = from.rsplit_once('/').and_then(|(port, side)| Some((port.trim(), rim_side(side.trim())?)));
        let (from, rim) = rim.map_or((from, None), |(port, side)| (port, Some(side)));
        match subject(job, from).map_err(wrong)? {
            Measurand::Datum { datum } => Ok(Anchor::Datum { datum }),
            Measurand::Port { port } => Ok(Anchor::Port { port, rim }),
            Measurand::KeepOut { .. } => {
                Err(wrong("nothing is measured from a keep-out; a datum or a port is needed".to_owned()))
            }
        }
    };
    let port = || match subject(job, from).map_err(wrong)? {
        Measurand::Port { port } => Ok(port),
        _ => Err(wrong("a port is needed".to_owned())),
    };
    let against = || match from.strip_prefix("axis:").map(|name| axis(name.trim())) {
        Some(Some(axis)) => Ok(Against::Axis { axis }),
        Some(None) => Err(wrong("an axis is x, y or z".to_owned())),
        None => port().map(|port| Against::Port { port }),
    };
    macro_rules! checked {
        ($quantity:ident, $column:literal) => {
            $quantity::new(row.number($column)?).map_err(|error| row.wrong($column, &error))?
        };
    }
    let taken = match row.get("by").to_lowercase().as_str() {
        "tape" => Taken::Tape { from: anchor()?, to: spot(row)?, mm: checked!(TapeLength, "value") },
        "offset" => {
            let axis = axis(row.get("axis")).ok_or_else(|| row.wrong("axis", &"x, y or z is needed"))?;
            Taken::Offset { from: anchor()?, to: spot(row)?, axis, mm: checked!(Coordinate, "value") }
        }
        "heading" => Taken::Heading { degrees: checked!(HeadingAngle, "value") },
        "pitch" => Taken::Pitch { degrees: checked!(PitchAngle, "value") },
        "caliper" => Taken::Caliper { mm: checked!(OutsideDiameter, "value") },
        "girth" => Taken::Girth { mm: checked!(Girth, "value") },
        "bore" => Taken::Bore { mm: checked!(Bore, "value"), wall: checked!(Wall, "wall_mm") },
        "angle" => Taken::Between { port: port()?, degrees: checked!(BetweenAngle, "value") },
        "square" => Taken::Square { to: against()? },
        "parallel" => Taken::Parallel { to: against()?, opposite: false },
        "opposite" => Taken::Parallel { to: against()?, opposite: true },
        "mirror" => Taken::Mirror { of: port()? },
        other => {
            return Err(
                row.wrong("by", &format!("\u{201c}{other}\u{201d} is no kind of reading; it is one of {KINDS}"))
            );
        }
    };
    let counts = match row.get("counts").to_lowercase().as_str() {
        "yes" | "true" | "1" | "" => true,
        "no" | "false" | "0" => false,
        other => return Err(row.wrong("counts", &format!("\u{201c}{other}\u{201d} is neither yes nor no"))),
    };
    Ok(Reading { taken, counts, spread: optional_spread(row, "spread")? })
}

/// The kinds of readings as a table names them.
const KINDS: &str = "tape, offset, heading, pitch, caliper, girth, bore, angle, square, parallel, opposite and mirror";

fn spot(row: &Row<'_>) -> Result<Spot, TableFileError> {
    let wrong = || {
        row.wrong(
            "spot",
            &"it must be empty, or like \u{201c}stick 300\u{201d}, \u{201c}near rim\u{201d}, \u{201c}face 4 60\u{201d} or \u{201c}corner 1 -1 1\u{201d}",
        )
    };
    let text = row.get("spot").to_lowercase();
    if let Some(side) = rim_side(&text) {
        return Ok(Spot::Rim { side });
    }
    let words: Vec<&str> = text.split_whitespace().collect();
    let side = |text: &str| text.parse::<i8>().map_err(|_| wrong());
    let figure = |text: &str| text.replace(',', ".").parse::<f64>().map_err(|_| wrong());
    match words.as_slice() {
        [] => Ok(Spot::Centre),
        ["stick", mm] => {
            let mm = OnStick::new(figure(mm)?).map_err(|error| row.wrong("spot", &error))?;
            Ok(Spot::Stick { mm })
        }
        ["face", clock, mm] => {
            let clock = FaceClock::new(figure(clock)?).map_err(|error| row.wrong("spot", &error))?;
            let mm = FaceRadius::new(figure(mm)?).map_err(|error| row.wrong("spot", &error))?;
            Ok(Spot::Face { clock, mm })
        }
        ["corner", x, y, z] => Ok(Spot::Corner { towards: [side(x)?, side(y)?, side(z)?] }),
        _ => Err(wrong()),
    }
}

//! What a welder has to know who has never seen the pipe.

use nook_core::workup::{SeamWorkup, WeldWorkup};
use nook_geometry::units::LengthUnit;

use crate::flow::{Column, Flow, count};
use crate::run_packet::RunPacket;
use crate::views::{V3, views};

/// Share of a page that the picture takes.
const PICTURE: f64 = 0.36;

/// Puts it on pages; nothing where nothing is welded.
pub(crate) fn weld_sheet(flow: &mut Flow, packet: &RunPacket, unit: LengthUnit) {
    let of = &packet.workup;
    let Some(weld) = packet.weld.as_ref().filter(|weld| !weld.seams.is_empty()) else { return };
    flow.next_page();
    flow.heading(&format!("For the welder: {} {}", of.mark, of.name));
    let tube = &of.decisions.tube;
    flow.paragraph(&format!(
        "{} \u{d7} {} {}  \u{b7}  {}  \u{b7}  {} seams, {}  \u{b7}  {:.0} min of arc, {:.0} min of pauses, about {:.1} h in all",
        unit.figure(of.od.mm()),
        unit.text(of.wall.mm()),
        tube.material().name(),
        weld.process.words(),
        weld.seams.len(),
        unit.text(weld.seams.iter().map(|seam| seam.length.mm()).sum()),
        weld.arc,
        weld.pauses,
        weld.hours
    ));
    for caution in &weld.cautions {
        flow.caution(caution);
    }
    for warning in &weld.warnings {
        flow.stressed(warning.words.get(unit));
    }
    let mut marks: Vec<(String, V3)> = vec![("A".to_owned(), of.ends[0].tube_end)];
    marks.extend(bunches(&weld.seams));
    marks.push(("B".to_owned(), of.ends[1].tube_end));
    let tall = (flow.width() * PICTURE).max(60.0);
    let width = flow.width();
    let view = views(of)[3];
    let (page, top) = flow.room(tall);
    view.draw_named(page, of, &marks, None, [crate::paper::RIM, top], [width, tall]);
    flow.heading("Before the first arc");
    for words in &weld.before {
        flow.paragraph(words.get(unit));
    }
    for section in &weld.sections {
        if let Some(purge) = &section.purge {
            flow.paragraph(&format!(
                "Gas inside, {}: {:.1} l filled {:.0} times at {:.0} l/min, {:.0} s; {:.0} parts of oxygen in a million are left then. {}.{}",
                section.name,
                purge.litres,
                purge.volumes,
                purge.flow,
                purge.seconds,
                purge.oxygen,
                purge.vent.get(unit),
                purge.dams.as_ref().map_or_else(String::new, |dams| format!(" {}.", dams.get(unit)))
            ));
        }
    }
    flow.heading("Seams, in the order they are welded");
    let mut all: Vec<&SeamWorkup> = weld.seams.iter().collect();
    all.sort_by_key(|seam| seam.turn);
    let rows: Vec<Vec<String>> = all.iter().map(|seam| row(seam, unit)).collect();
    flow.table(&SEAMS, &rows, true);
    flow.paragraph(
        "Numbers count from A. Quarters are welded in the order they are named, each let cool before the next: as one sees it from A, a bend\u{2019}s seams with \
         their throat up, the others as they lie in the car. Settings are starts: prove each on a coupon.",
    );
    for seam in alike(&all) {
        flow.paragraph(&format!("Seam {}: {}.", seam.number, seam.why.get(unit)));
    }
    pulls(flow, weld, unit);
    flow.heading("When it is cold");
    for words in &weld.after {
        flow.paragraph(words.get(unit));
    }
}

/// Seams nearer than this, in mm, are one mark on the picture.
const BUNCHED: f64 = 45.0;

/// Numbers of seams where they are; those that stand close, as the pies of a bend do, are one from the first to the last.
fn bunches(seams: &[SeamWorkup]) -> Vec<(String, V3)> {
    let near = |pair: &SeamWorkup, next: &SeamWorkup| next.station.mm() - pair.station.mm() < BUNCHED;
    let each = seams.chunk_by(near).filter_map(|bunch| {
        let (first, last) = (bunch.first()?.number, bunch.last()?.number);
        let name = if first == last { first.to_string() } else { format!("{first}\u{2013}{last}") };
        Some((name, bunch[bunch.len() / 2].at))
    });
    each.collect()
}

fn row(seam: &SeamWorkup, unit: LengthUnit) -> Vec<String> {
    let [one, other] = &seam.walls;
    let walls = if (one.mm() - other.mm()).abs() < 1e-9 {
        unit.figure(one.mm())
    } else {
        format!("{} on {}", unit.figure(one.mm()), unit.figure(other.mm()))
    };
    vec![
        seam.number.to_string(),
        format!("{}, {}", seam.name, seam.word),
        unit.figure(seam.length.mm()),
        walls,
        format!("{:.0} A", seam.amps),
        seam.electrode.map_or_else(String::new, |one| unit.figure(one.mm())),
        seam.filler
            .as_ref()
            .map_or_else(|| "none".to_owned(), |filler| filler.mm.split(':').next().unwrap_or("").to_owned()),
        seam.tacks.to_string(),
        if seam.quarters.is_empty() { "as it lies".to_owned() } else { seam.quarters.join(", ") },
        format!("{:.0} s", seam.pause),
    ]
}

/// One seam of each reason for its setting.
fn alike<'a>(all: &[&'a SeamWorkup]) -> Vec<&'a SeamWorkup> {
    let mut told: Vec<&SeamWorkup> = Vec::new();
    for seam in all {
        if !told.iter().any(|one| one.why == seam.why) {
            told.push(seam);
        }
    }
    told
}

fn pulls(flow: &mut Flow, weld: &WeldWorkup, unit: LengthUnit) {
    for section in weld.sections.iter().filter(|section| section.seams > 1) {
        flow.paragraph(&format!(
            "{}: begun so, its welds pull the far end {} and {:.2}\u{b0}; straight round from the first quarter it would be {} and {:.2}\u{b0}. \
             They draw it {} shorter.",
            section.name,
            unit.text(section.pulled.mm()),
            section.pulled_degrees,
            unit.text(section.straight.mm()),
            section.straight_degrees,
            unit.text(section.shrinks.mm())
        ));
    }
    if let Some(gas) = &weld.gas {
        flow.paragraph(&format!("Gas for all of it: about {:.0} l, {:.0} bar of the bottle.", gas.litres, gas.bar));
    }
    if let Some(turner) = &weld.turner {
        let pies = turner.pies.iter().map(|pie| {
            format!(
                "{:.2}\u{b0}, {} off the chuck, for {:.0} seams",
                pie.saw,
                unit.text(pie.offset.mm()),
                count(pie.seams)
            )
        });
        let pies: Vec<String> = pies.collect();
        flow.paragraph(&format!(
            "On a turner: {:.2} turns a minute, one in {:.0} s.{}",
            turner.rpm,
            turner.seconds,
            if pies.is_empty() {
                String::new()
            } else {
                format!(" A pie on the chuck brings mitred seams square: {}.", pies.join("; "))
            }
        ));
    }
}

const SEAMS: [Column; 10] = [
    Column::new("No.", 0.6).bold(),
    Column::new("Joins", 2.6),
    Column::new("Weld", 0.9).right(),
    Column::new("Walls", 1.1).right(),
    Column::new("Set", 0.8).right().bold(),
    Column::new("Tung.", 0.8).right(),
    Column::new("Filler", 1.0),
    Column::new("Tacks", 0.8).right(),
    Column::new("Quarters, in order", 3.4),
    Column::new("Pause", 0.8).right(),
];

//! What the whole vehicle needs on paper.

use nook_core::cautions::{Beside, cautions};
use nook_core::stock::Tube;
use nook_core::workup::{ChainJoin, StickPlan};
use nook_formats::BuyingLine;
use nook_geometry::units::LengthUnit;

use crate::PrintOptions;
use crate::flow::{Column, Flow};
use crate::page::Align;
use crate::run_packet::{RunPacket, cut_columns, cut_rows, meeting_columns};
use crate::sheet::SheetKind;

/// A vehicle, and what was worked out of it.
#[derive(Debug, Clone)]
pub struct VehiclePacket {
    /// What it is called.
    pub name: String,
    /// Sticks that something is sawn from, by their tube.
    pub sticks: Vec<(Tube, Vec<StickPlan>)>,
    /// What is bought.
    pub buying: Vec<BuyingLine>,
    /// Its runs.
    pub runs: Vec<RunPacket>,
}

impl VehiclePacket {
    pub(crate) fn print(&self, flow: &mut Flow, options: &PrintOptions) {
        let asked = |sheet: SheetKind| options.sheets.contains(&sheet);
        if asked(SheetKind::Buying) && !self.buying.is_empty() {
            self.buying(flow);
        }
        let by_stick = asked(SheetKind::Sticks) && !self.sticks.is_empty();
        if by_stick {
            for (tube, sticks) in &self.sticks {
                tube_sheet(flow, *tube, sticks, options.unit);
            }
        }
        // Cut by stick, the runs' own lists would be sawn twice.
        let of_run = options.sheets.iter().copied().filter(|sheet| !(by_stick && *sheet == SheetKind::Cuts));
        let of_run: Vec<SheetKind> = of_run.collect();
        for run in &self.runs {
            run.print(flow, &of_run, options.unit);
        }
    }

    fn buying(&self, flow: &mut Flow) {
        flow.next_page();
        flow.heading("To buy");
        let rows: Vec<Vec<String>> = self
            .buying
            .iter()
            .map(|line| {
                let of = format!("{} \u{d7} {} {}", line.tube.od(), line.tube.wall(), line.tube.material().name());
                let money = |price: Option<f64>| price.map_or_else(|| "?".to_owned(), |price| format!("{price:.2}"));
                vec![
                    line.count.to_string(),
                    line.what.to_owned(),
                    of,
                    line.which.clone(),
                    line.used_for.clone(),
                    money(line.price),
                    money(line.price.map(|price| price * crate::flow::count(line.count))),
                ]
            })
            .collect();
        flow.table(&BUYING, &rows, true);
        let known = self.buying.iter().filter_map(|line| Some(line.price? * crate::flow::count(line.count)));
        flow.stressed(&format!("{:.2} in all, as far as prices are known.", known.sum::<f64>()));
    }
}

const BUYING: [Column; 7] = [
    Column::new("Count", 0.7).right().bold(),
    Column::new("What", 0.8),
    Column { head: "Tube, mm", share: 2.2, align: Align::Left, bold: false },
    Column::new("Which", 2.6),
    Column::new("For", 2.4),
    Column::new("Each", 0.9).right(),
    Column::new("Together", 1.0).right(),
];

fn tube_sheet(flow: &mut Flow, tube: Tube, sticks: &[StickPlan], unit: LengthUnit) {
    flow.next_page();
    let of = format!("{} \u{d7} {} {}", unit.figure(tube.od()), unit.text(tube.wall()), tube.material().name());
    flow.heading(&format!("Sawn from {of}"));
    for caution in cautions(Beside::Cut, tube.material()) {
        flow.caution(caution);
    }
    flow.paragraph(
        "Every mark is the side of the cut towards the stick's squared end, and is measured from that end: the blade takes what lies beyond. \
         Turns are as you look at the squared end.",
    );
    for stick in sticks {
        let which = stick.stick.map_or_else(|| "A bought stick".to_owned(), |id| format!("Stick S{}", id.0));
        flow.heading(&format!("{which}, {}; {} left", unit.text(stick.length.mm()), unit.text(stick.left.mm())));
        if let Some(hold) = &stick.hold {
            flow.paragraph(hold.get(unit));
        }
        for chain in &stick.chains {
            flow.stressed(&format!("{}: {}", chain.name, chain.pieces.join(", ")));
            if !chain.lines.is_empty() {
                let each = chain.lines.iter().map(|line| format!("{} at {}", line.name, unit.text(line.round.mm())));
                flow.paragraph(&format!(
                    "Scribe first, clockwise round the girth as you look at the squared end: {}.",
                    each.collect::<Vec<_>>().join(", ")
                ));
            }
            flow.table(cut_columns(), &cut_rows(&chain.cuts, unit), true);
            flow.table(meeting_columns(), &join_rows(&chain.joins), true);
        }
    }
}

/// How a chain's pieces are put together: two of the same chain in one row, one that meets another chain's by itself.
fn join_rows(joins: &[ChainJoin]) -> Vec<Vec<String>> {
    let mut rows = Vec::new();
    let mut rest = joins.iter().peekable();
    while let Some(join) = rest.next() {
        let other = rest.next_if(|next| next.piece == join.meets && next.meets == join.piece);
        rows.push(vec![
            join.piece.clone(),
            join.line.clone(),
            format!("{:.1}\u{b0}", join.stands),
            join.meets.clone(),
            other.map_or_else(|| "as its own list says".to_owned(), |other| other.line.clone()),
            String::new(),
        ]);
    }
    rows
}

#[cfg(test)]
mod tests {
    use super::*;
    use nook_geometry::units::Measure;

    #[test]
    fn two_sides_of_one_meeting_are_one_row() {
        let join = |piece: &str, meets: &str, line: &str| ChainJoin {
            piece: piece.to_owned(),
            meets: meets.to_owned(),
            towards_a: false,
            line: line.to_owned(),
            round: Measure(0.0),
            stands: 12.0,
        };
        let rows = join_rows(&[
            join("H2", "H1", "1a"),
            join("H2", "H3", "1a"),
            join("H3", "H2", "1b"),
            join("H3", "H4", "2a"),
        ]);
        let told: Vec<String> = rows.iter().map(|row| row[..5].join(" ")).collect();
        assert_eq!(
            told,
            [
                "H2 1a 12.0\u{b0} H1 as its own list says",
                "H2 1a 12.0\u{b0} H3 1b",
                "H3 2a 12.0\u{b0} H4 as its own list says"
            ]
        );
    }
}

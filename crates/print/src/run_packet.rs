//! What one run needs on paper.

use nook_core::cautions::{Beside, cautions};
use nook_core::findings::Severity;
use nook_core::measure::End;
use nook_core::workup::{CutRow, JigWorkup, SettingOut, Turn, TurnWay, WeldWorkup, jig, setting_out};
use nook_core::{Job, PartRef, Scans, Workup};
use nook_formats::{branch_template, jig_svg, neck_svg, plate_svg, tab_svg, template_of};
use nook_geometry::units::{LengthUnit, Measure, capital};

use crate::flow::{Column, Flow};
use crate::sheet::SheetKind;
use crate::tiles::Drawing;
use crate::views::views;
use crate::weld_sheet::weld_sheet;

/// One run, and what was worked out of it.
#[derive(Debug, Clone)]
pub struct RunPacket {
    /// What follows from the job for it.
    pub workup: Workup,
    /// Its jig for the bench; nothing where it has none.
    pub jig: Option<JigWorkup>,
    /// How its points are set out on the car.
    pub set_out: SettingOut,
    /// How it is welded; nothing where nobody asked.
    pub weld: Option<WeldWorkup>,
    /// How long it is likely to take, by the builder's own record too; nothing where that was not asked.
    pub takes: Option<Takes>,
}

/// How long a run is likely to take to make.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Takes {
    /// From and to so many hours.
    pub hours: [f64; 2],
    /// How many runs of the builder's own that is from.
    pub from_runs: usize,
}

impl RunPacket {
    /// A run of a job as it is printed. Set out are the corners of its bends and what holds it.
    #[must_use]
    pub fn new(job: &Job, workup: Workup, scans: &Scans) -> Self {
        let run = workup.run;
        let bends = workup.bends.iter().map(|bend| PartRef::Bend { run, bend: bend.bend });
        let supports = workup.supports.iter().map(|one| PartRef::Support { run, support: one.support });
        let parts = bends.chain(supports);
        let points = parts.flat_map(|part| setting_out(job, part, scans).points).collect();
        Self { jig: jig(job, run).ok(), set_out: SettingOut { points }, workup, weld: None, takes: None }
    }

    /// The same with how it is welded.
    #[must_use]
    pub fn with_weld(self, weld: WeldWorkup) -> Self {
        Self { weld: Some(weld), ..self }
    }

    /// The same with how long it is likely to take.
    #[must_use]
    pub fn with_takes(self, takes: Takes) -> Self {
        Self { takes: Some(takes), ..self }
    }

    /// Puts the sheets on pages. What the run does not have is left out.
    pub(crate) fn print(&self, flow: &mut Flow, sheets: &[SheetKind], unit: LengthUnit) {
        for sheet in SheetKind::OF_RUN.into_iter().filter(|sheet| sheets.contains(sheet)) {
            match sheet {
                SheetKind::Run => self.run_sheet(flow, unit),
                SheetKind::Cuts => self.cuts(flow, unit),
                SheetKind::Bending => self.bending(flow, unit),
                SheetKind::Welding => weld_sheet(flow, self, unit),
                SheetKind::Joints => self.joints(flow, unit),
                SheetKind::Templates => drawings(flow, &self.templates()),
                SheetKind::Plates => drawings(flow, &self.plates()),
                SheetKind::SetOut => self.set_out(flow),
                SheetKind::Jig => self.jig(flow, unit),
                SheetKind::Sticks | SheetKind::Buying => {}
            }
        }
    }

    fn run_sheet(&self, flow: &mut Flow, unit: LengthUnit) {
        let of = &self.workup;
        flow.next_page();
        flow.heading(&format!("{}  {}", of.mark, of.name));
        let tube = &of.decisions.tube;
        let mut facts =
            vec![format!("{} \u{d7} {} {}", unit.figure(of.od.mm()), unit.text(of.wall.mm()), tube.material().name())];
        if let Some(totals) = &of.totals {
            facts.push(format!("{} of tube", unit.text(totals.developed.mm())));
            facts.push(format!("{} bends", of.bends.len()));
            facts.push(format!("{} seams, {} of weld", totals.seams, unit.text(totals.weld.mm())));
            facts.push(format!("{:.2} kg", totals.mass_kg));
            facts.push(match self.takes {
                Some(Takes { hours: [from, to], from_runs }) if from_runs > 0 => {
                    format!("{from:.1} to {to:.1} h, from {from_runs} runs of yours")
                }
                Some(Takes { hours: [from, to], .. }) => format!("{from:.1} to {to:.1} h by the usual rates"),
                None => format!("about {:.1} h", totals.hours),
            });
        }
        facts.push(format!("{:.1} bar", of.bar));
        flow.paragraph(&facts.join("  \u{b7}  "));
        for end in &of.ends {
            flow.paragraph(&format!(
                "{}: {}, {} port, {}; {} between the tube ends.",
                end.end.letter(),
                end.name,
                unit.text(end.port_od.mm()),
                end.joint.word(),
                unit.text(end.gap.mm())
            ));
        }
        for finding in &of.findings {
            let words = finding.words.get(unit);
            match finding.severity {
                Severity::Error => flow.stressed(&format!("Cannot be as it is: {words}")),
                Severity::Warning => flow.paragraph(&format!("Watch: {words}")),
                Severity::Info => {}
            }
        }
        for caution in cautions(Beside::Run, tube.material()) {
            flow.caution(caution);
        }
        if of.pieces.is_empty() {
            return;
        }
        flow.next_page();
        flow.paragraph(
            "Measures are from the tube's end at A to each bend's corner, where the middles of its straights would meet, and to the tube's \
             end at B.",
        );
        let (width, tall) = (flow.width(), flow.left() / 2.0);
        for pair in views(of).chunks(2) {
            let (page, top) = flow.room(tall);
            for (index, view) in pair.iter().enumerate() {
                let left = crate::paper::RIM + crate::flow::count(index) * width / 2.0;
                view.draw(page, of, [left, top], [width / 2.0, tall], unit);
            }
        }
    }

    fn cuts(&self, flow: &mut Flow, unit: LengthUnit) {
        let of = &self.workup;
        let Some(cutting) = &of.cutting else { return };
        flow.next_page();
        flow.heading(&format!("Cut list of {} {}", of.mark, of.name));
        for caution in cautions(Beside::Cut, of.decisions.tube.material()) {
            flow.caution(caution);
        }
        flow.paragraph(&format!(
            "{}: kerf {}. Every mark is the side of the cut towards the squared end: the blade takes what lies beyond. {} of tube in all.",
            cutting.saw,
            unit.text(cutting.kerf.mm()),
            unit.text(cutting.stock_used.mm())
        ));
        if let Some(bias) = cutting.bias.filter(|bias| bias.abs() > 0.0) {
            let way = if bias > 0.0 { "more" } else { "less" };
            flow.paragraph(&format!(
                "The saw cuts {:.2}\u{b0} {way} than it is set to; the settings below have that taken off.",
                bias.abs()
            ));
        }
        if !cutting.lines.is_empty() {
            let each = cutting.lines.iter().map(|line| format!("{} at {}", line.name, unit.text(line.round.mm())));
            flow.paragraph(&format!(
                "Scribe first, along the whole stick, clockwise round the girth as you look at the squared end: {}.",
                each.collect::<Vec<_>>().join(", ")
            ));
        }
        if let Some(closing) = &cutting.closing {
            flow.stressed(closing.words.get(unit));
        }
        for bead in &cutting.beads {
            flow.paragraph(&format!("Bead on {}: {}", bead.piece, bead.words.get(unit)));
        }
        flow.table(&CUTS, &cut_rows(&cutting.cuts, unit), true);
        if !cutting.meetings.is_empty() {
            flow.heading("Put together, from A");
            let rows: Vec<Vec<String>> = cutting
                .meetings
                .iter()
                .map(|one| {
                    let joined = match (&one.joint_word, &one.gap) {
                        (Some(word), Some(gap)) => format!("{word}, {} apart", unit.text(gap.mm())),
                        _ => "weld".to_owned(),
                    };
                    vec![
                        one.piece.clone(),
                        one.line.clone(),
                        format!("{:.1}\u{b0}", one.stands),
                        one.next.clone(),
                        one.next_line.clone(),
                        joined,
                    ]
                })
                .collect();
            flow.table(&MEETINGS, &rows, true);
            flow.paragraph(
                "A line stands so many degrees clockwise from up as you look along the pipe from A; both lines meet there.",
            );
        }
        for check in &cutting.checks {
            flow.paragraph(check.words.get(unit));
        }
    }

    fn bending(&self, flow: &mut Flow, unit: LengthUnit) {
        let of = &self.workup;
        if of.lra.is_empty() || of.pieces.iter().all(|piece| piece.drawn.is_empty()) {
            return;
        }
        flow.heading(&format!("Bending table of {} {}", of.mark, of.name));
        let degrees = |angle: Option<f64>| angle.map_or_else(|| "end".to_owned(), |angle| format!("{angle:.1}\u{b0}"));
        let rows: Vec<Vec<String>> = of
            .lra
            .iter()
            .map(|row| {
                vec![
                    (row.tube + 1).to_string(),
                    unit.figure(row.length.mm()),
                    degrees(row.rotation),
                    degrees(row.angle),
                    row.radius.map_or_else(String::new, |radius| unit.figure(radius.mm())),
                ]
            })
            .collect();
        flow.table(&BENDING, &rows, true);
        flow.paragraph("Turned clockwise as you look from A. What springs back is the bender's to add.");
    }

    fn joints(&self, flow: &mut Flow, unit: LengthUnit) {
        let of = &self.workup;
        let Some(totals) = &of.totals else { return };
        let hose = |hose: Option<Measure>| hose.map_or_else(String::new, |hose| unit.figure(hose.mm()));
        let mut rows: Vec<(f64, Vec<String>)> = Vec::new();
        for (end, at) in of.ends.iter().zip([0.0, totals.end_to_end.mm()]) {
            let what = format!("{} at {}", capital(end.joint.word()), end.end.letter());
            let clock = end.figures.as_ref().and_then(|figures| figures.screw.as_ref()).map(|screw| screw.clock);
            rows.push((at, vec![what, unit.figure(at), clocked(clock), unit.figure(end.gap.mm()), hose(end.hose)]));
        }
        for joint in &of.joints {
            let at = joint.at.mm();
            let clock = joint.figures.screw.as_ref().map(|screw| screw.clock);
            let what = capital(&joint.name);
            rows.push((at, vec![what, unit.figure(at), clocked(clock), unit.figure(joint.gap.mm()), hose(joint.hose)]));
        }
        let empty = String::new;
        for branch in &of.branches {
            let at = branch.at.mm();
            let what = format!("{}, {}", capital(&branch.name), unit.text(branch.od.mm()));
            rows.push((at, vec![what, unit.figure(at), clocked(Some(branch.clock)), empty(), empty()]));
        }
        for support in &of.supports {
            let at = support.at.mm();
            rows.push((at, vec![capital(&support.name), unit.figure(at), clocked(support.clock), empty(), empty()]));
        }
        rows.sort_by(|p, q| p.0.total_cmp(&q.0));
        flow.heading(&format!("On {} {}, from A", of.mark, of.name));
        flow.table(&JOINTS, &rows.into_iter().map(|(_, row)| row).collect::<Vec<_>>(), true);
        flow.paragraph("Along the tube from its end at A. Clocks are of the screw, or of what stands out: degrees from up, clockwise as you look from A to B.");
    }

    /// Wrap templates, and those of branches and necks.
    fn templates(&self) -> Vec<Drawing> {
        let of = &self.workup;
        let settings = of.cutting.iter().flat_map(|cutting| cutting.settings.iter().enumerate());
        let wraps = settings.filter_map(|(setting, saw)| {
            Drawing::of(format!("{} {}, saw {saw:.2}\u{b0}", of.mark, of.name), &template_of(of, setting)?)
        });
        let branches = of.branches.iter().filter_map(|branch| {
            Drawing::of(format!("{}, {}", of.name, branch.name), &branch_template(of, branch.branch)?)
        });
        let necks = [End::A, End::B]
            .into_iter()
            .filter_map(|end| Drawing::of(format!("{}, neck at {}", of.name, end.letter()), &neck_svg(of, end)?));
        wraps.chain(branches).chain(necks).collect()
    }

    /// Plates and tabs.
    fn plates(&self) -> Vec<Drawing> {
        let of = &self.workup;
        let joints = of.decisions.route.joints().iter();
        let plates =
            joints.filter_map(|joint| Drawing::of(format!("{}, flange plate", of.name), &plate_svg(of, joint.id)?));
        let tabs = of.supports.iter().filter_map(|support| {
            Drawing::of(format!("{}, {}", of.name, support.name), &tab_svg(of, support.support)?)
        });
        plates.chain(tabs).collect()
    }

    fn set_out(&self, flow: &mut Flow) {
        let points: Vec<_> = self.set_out.points.iter().filter(|point| point.set.is_some()).collect();
        if points.is_empty() {
            return;
        }
        flow.heading(&format!("Set out on the car: {} {}", self.workup.mark, self.workup.name));
        let rows: Vec<Vec<String>> = points
            .iter()
            .filter_map(|point| {
                let set = point.set.as_ref()?;
                let readings = set.readings.iter().map(|one| one.words.mm.clone()).collect::<Vec<_>>();
                Some(vec![point.name.clone(), readings.join(" "), set.words.mm.clone()])
            })
            .collect();
        flow.table(&SET_OUT, &rows, true);
    }

    fn jig(&self, flow: &mut Flow, unit: LengthUnit) {
        let Some(jig) = &self.jig else { return };
        flow.heading(&format!("Bench jig for {} {}", self.workup.mark, self.workup.name));
        for post in &jig.posts {
            flow.paragraph(post.words.get(unit));
        }
        let checks = jig.checks.iter().map(|check| format!("{} {}", check.between, unit.text(check.mm.mm())));
        flow.paragraph(&format!(
            "Check, sticks {} out of the stubs: {}.",
            unit.text(jig.stick.mm()),
            checks.collect::<Vec<_>>().join("; ")
        ));
        let name = format!("{}, bench jig", self.workup.name);
        drawings(flow, &Drawing::of(name, &jig_svg(&self.workup.name, jig)).into_iter().collect::<Vec<_>>());
    }
}

fn drawings(flow: &mut Flow, all: &[Drawing]) {
    if all.is_empty() {
        return;
    }
    flow.next_page();
    for drawing in all {
        flow.drawing(drawing);
    }
}

fn clocked(clock: Option<f64>) -> String {
    clock.map_or_else(String::new, |clock| format!("{clock:.0}\u{b0}"))
}

const CUTS: [Column; 7] = [
    Column::new("Cut", 0.7),
    Column::new("Piece", 1.1).bold(),
    Column::new("Saw set at", 1.1).right(),
    Column::new("Line up", 1.0).right(),
    Column::new("Turn the tube", 3.2),
    Column::new("Mark, line up", 1.4).right().bold(),
    Column::new("Underneath", 1.3).right(),
];
const MEETINGS: [Column; 6] = [
    Column::new("Piece", 1.0).bold(),
    Column::new("its line", 2.0),
    Column::new("stands at", 1.2).right(),
    Column::new("meets", 1.0).bold(),
    Column::new("its line", 2.0),
    Column::new("Joined by", 2.2),
];
const BENDING: [Column; 5] = [
    Column::new("Tube", 1.0),
    Column::new("Straight", 1.5).right().bold(),
    Column::new("Turn", 1.5).right(),
    Column::new("Bend", 1.5).right().bold(),
    Column::new("Radius", 1.5).right(),
];
const JOINTS: [Column; 5] = [
    Column::new("What", 3.4).bold(),
    Column::new("Middle from A", 1.3).right(),
    Column::new("Clock", 0.9).right(),
    Column::new("Gap", 1.0).right(),
    Column::new("Hose cut to", 1.2).right(),
];
const SET_OUT: [Column; 3] =
    [Column::new("Point", 1.4).bold(), Column::new("Readings", 3.4), Column::new("Which place", 2.4)];

/// Cuts as a table's rows.
pub(crate) fn cut_rows(cuts: &[CutRow], unit: LengthUnit) -> Vec<Vec<String>> {
    let row = |cut: &CutRow| {
        vec![
            cut.number.to_string(),
            cut.frees.clone().unwrap_or_else(|| "waste".to_owned()),
            if cut.saw > 0.0 { format!("{:.2}\u{b0}", cut.set) } else { "square".to_owned() },
            cut.line_up.clone().unwrap_or_else(|| "\u{2013}".to_owned()),
            turn(&cut.turn, unit),
            unit.figure(cut.up.mm()),
            unit.figure(cut.down.mm()),
        ]
    };
    cuts.iter().map(row).collect()
}

/// The columns of those.
pub(crate) const fn cut_columns() -> &'static [Column] {
    &CUTS
}

/// The columns of how pieces meet.
pub(crate) const fn meeting_columns() -> &'static [Column] {
    &MEETINGS
}

/// How the tube is turned before a cut; which way is as one looks at the squared end.
fn turn(turn: &Turn, unit: LengthUnit) -> String {
    match turn {
        Turn::AsItLies => "as it lies".to_owned(),
        Turn::First => "line up".to_owned(),
        Turn::Stay => "stay".to_owned(),
        Turn::HalfTurn => "half a turn".to_owned(),
        Turn::Clock { way, degrees, girth } => {
            let way = match way {
                TurnWay::Clockwise => "clockwise",
                TurnWay::Anticlockwise => "anticlockwise",
            };
            format!("{degrees:.1}\u{b0} ({}) {way}", unit.text(girth.mm()))
        }
    }
}

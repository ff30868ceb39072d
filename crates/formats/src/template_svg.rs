//! Wrap templates on paper at true scale.

use nook_core::Workup;
use nook_core::cut::WrapTemplate;
use nook_core::workup::CutRow;
use svg::Document;
use svg::node::element::path::Data;
use svg::node::element::{Line, Path, Rectangle, Text};

/// Paper left round the drawing in mm: what printers cannot reach.
const MARGIN: f64 = 8.0;
/// Paper below the cut that is taped to the tube, in mm.
const SKIRT: f64 = 25.0;
/// Room below the skirt for the lines' names, and for the check bar, in mm.
const NAMES: f64 = 10.5;
const CHECK: f64 = 13.0;
/// Size of the words, the height of one line of them, and the widest a letter is on average, in mm.
const WORDS: f64 = 2.6;
const LINE: f64 = 3.6;
const LETTER: f64 = 1.56;
/// Points of the outline: the chords stray from the curve by under 0.005 mm on any tube here.
const POINTS: u32 = 360;
/// The check bar in mm.
const BAR: f64 = 100.0;
const INK: &str = "#1d1850";

/// The wrap template for one of a run's saw settings, by its place in the workup's list; `None` where there is none.
#[must_use]
pub fn template_of(workup: &Workup, setting: usize) -> Option<String> {
    let cutting = workup.cutting.as_ref()?;
    let saw = *cutting.settings.get(setting)?;
    let with = |cut: &&CutRow| (cut.saw - saw).abs() < SAME_SETTING;
    let cut = |cut: &CutRow| {
        let what = cut.frees.as_deref().unwrap_or("waste");
        format!("{what} on line {}", cut.line_up.as_deref().unwrap_or("-"))
    };
    let cuts: Vec<String> = cutting.cuts.iter().filter(with).map(cut).collect();
    Some(template_svg(workup.od.mm(), saw, &workup.name, &cuts))
}

/// Saw settings nearer than this, in degrees, are one, as in the workup.
const SAME_SETTING: f64 = 0.005;

/// A wrap template for tube of `od` mm with the saw at `saw` degrees, as an SVG whose user unit is a millimetre
/// and whose size is given in millimetres, so that it prints at 1:1. `title` and the `cuts` it is for are written on it.
#[must_use]
pub fn template_svg(od: f64, saw: f64, title: &str, cuts: &[String]) -> String {
    let template = WrapTemplate::new(od, saw.to_radians(), WrapTemplate::PAPER);
    let (girth, tall) = (template.girth(), template.tallest());
    let width = girth.max(BAR) + 2.0 * MARGIN;
    let says = [
        format!("{title}: tube {od:.1} mm, saw {saw:.2}\u{b0}."),
        format!("For {}.", cuts.join(", ")),
        "Lay the paper on the piece that comes off, both throat lines together on the line that faces up. Cut along the \
         curve: what is under the paper is kept, the blade takes what lies beyond."
            .to_owned(),
    ];
    let words: Vec<String> = says.iter().flat_map(|text| wrapped(text, width - 2.0 * MARGIN)).collect();
    let said = LINE * f64::from(u32::try_from(words.len()).unwrap_or(u32::MAX));
    let height = MARGIN + tall + SKIRT + NAMES + said + CHECK + MARGIN;
    // Heights grow up the tube and SVG's y grows down the paper.
    let base = MARGIN + tall;
    let at = |x: f64, h: f64| (mm(MARGIN + x), mm(base - h));
    let mut outline = Data::new().move_to((mm(MARGIN), mm(base + SKIRT)));
    for (x, h) in template.outline(POINTS) {
        outline = outline.line_to(at(x, h));
    }
    outline = outline.line_to((mm(MARGIN + girth), mm(base + SKIRT))).close();

    let mut document = Document::new()
        .set("width", format!("{}mm", mm(width)))
        .set("height", format!("{}mm", mm(height)))
        .set("viewBox", (0, 0, mm(width), mm(height)))
        .set("font-family", "sans-serif")
        .add(Path::new().set("d", outline).set("fill", "none").set("stroke", INK).set("stroke-width", 0.2));
    for (part, name) in [(0.0, "throat"), (0.25, "quarter"), (0.5, "back"), (0.75, "quarter"), (1.0, "throat")] {
        let x = mm(MARGIN + girth * part);
        let anchor = if part < 0.01 {
            "start"
        } else if part > 0.99 {
            "end"
        } else {
            "middle"
        };
        document = document
            .add(
                Line::new()
                    .set("x1", x)
                    .set("x2", x)
                    .set("y1", mm(base - template.height(std::f64::consts::TAU * part)))
                    .set("y2", mm(base + SKIRT))
                    .set("stroke", INK)
                    .set("stroke-width", 0.15)
                    .set("stroke-dasharray", "3 1.5"),
            )
            .add(label(name, x, mm(base + SKIRT + 4.5), 3.2).set("text-anchor", anchor));
    }
    let mut foot = base + SKIRT + NAMES;
    for line in &words {
        document = document.add(label(line, mm(MARGIN), mm(foot), WORDS));
        foot += LINE;
    }
    document = document.add(
        Rectangle::new()
            .set("id", "check-bar")
            .set("x", mm(MARGIN))
            .set("y", mm(foot))
            .set("width", BAR)
            .set("height", 3)
            .set("fill", INK),
    );
    let check = "This bar is 100 mm long. If it is not, print again at 100 %, not fitted to the page.";
    for (index, line) in wrapped(check, width - 2.0 * MARGIN).iter().enumerate() {
        let down = LINE * f64::from(u32::try_from(index).unwrap_or(0));
        document = document.add(label(line, mm(MARGIN), mm(foot + 6.4 + down), WORDS));
    }
    document.to_string()
}

/// A text in lines that fit into `width` mm.
fn wrapped(text: &str, width: f64) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in text.split(' ') {
        let fits = |line: &String| {
            let letters = u32::try_from(line.chars().count() + 1 + word.chars().count()).unwrap_or(u32::MAX);
            line.is_empty() || f64::from(letters) * LETTER <= width
        };
        match lines.last_mut().filter(|line| fits(line)) {
            Some(line) if line.is_empty() => line.push_str(word),
            Some(line) => {
                line.push(' ');
                line.push_str(word);
            }
            None => lines.push(word.to_owned()),
        }
    }
    lines
}

/// Micrometres, so that the file does not print rounding noise.
fn mm(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

fn label(text: &str, x: f64, y: f64, size: f64) -> Text {
    Text::new(text).set("x", x).set("y", y).set("font-size", size).set("fill", INK)
}

//! Wrap templates on paper at true scale.

use nook_core::cut::WrapTemplate;
use svg::Document;
use svg::node::element::path::Data;
use svg::node::element::{Line, Path, Rectangle, Text};

/// Paper left round the drawing in mm: what printers cannot reach.
const MARGIN: f64 = 8.0;
/// Paper below the cut that is taped to the tube, in mm.
const SKIRT: f64 = 25.0;
/// Room for words and the check bar, in mm.
const FOOT: f64 = 26.0;
/// Points of the outline: the chords stray from the curve by under 0.005 mm on any tube here.
const POINTS: u32 = 360;
/// The check bar in mm.
const BAR: f64 = 100.0;
const INK: &str = "#1d1850";

/// A wrap template for tube of `od` mm with the saw at `saw` degrees, as an SVG whose user unit is a millimetre
/// and whose size is given in millimetres, so that it prints at 1:1. `title` is written on it.
#[must_use]
pub fn template_svg(od: f64, saw: f64, title: &str) -> String {
    let template = WrapTemplate::new(od, saw.to_radians(), WrapTemplate::PAPER);
    let (girth, tall) = (template.girth(), template.tallest());
    let width = girth.max(BAR) + 2.0 * MARGIN;
    let height = MARGIN + tall + SKIRT + FOOT + MARGIN;
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
    let foot = base + SKIRT + 10.5;
    let says = format!(
        "{title}: tube {od:.1} mm, saw {saw:.2}\u{b0}. Wrap with both throat lines together and cut along the curve."
    );
    document
        .add(label(&says, mm(MARGIN), mm(foot), 2.6))
        .add(
            Rectangle::new()
                .set("id", "check-bar")
                .set("x", mm(MARGIN))
                .set("y", mm(foot + 3.0))
                .set("width", BAR)
                .set("height", 3)
                .set("fill", INK),
        )
        .add(label(
            "This bar is 100 mm long. If it is not, print again at 100 %, not fitted to the page.",
            mm(MARGIN),
            mm(foot + 10.0),
            2.6,
        ))
        .to_string()
}

/// Micrometres, so that the file does not print rounding noise.
fn mm(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

fn label(text: &str, x: f64, y: f64, size: f64) -> Text {
    Text::new(text).set("x", x).set("y", y).set("font-size", size).set("fill", INK)
}

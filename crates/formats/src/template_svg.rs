//! Wrap templates on paper at true scale.

use nook_core::Workup;
use nook_core::cut::WrapTemplate;
use nook_core::measure::End;
use nook_core::workup::CutRow;
use svg::Document;
use svg::node::element::path::Data;
use svg::node::element::{Line, Path};

use super::drawing::{BAR, INK, height_of, label, lines_of, mm, written};

/// Paper left round the drawing in mm: what printers cannot reach.
const MARGIN: f64 = 8.0;
/// Paper below the cut that is taped to the tube, in mm.
const SKIRT: f64 = 25.0;
/// Room below the skirt for the lines' names, in mm.
const NAMES: f64 = 10.5;
/// Points of the outline: the chords stray from the curve by under 0.005 mm on any tube here.
const POINTS: u32 = 360;

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
    let says = [
        format!("{title}: tube {od:.1} mm, saw {saw:.2}\u{b0}."),
        format!("For {}.", cuts.join(", ")),
        "Lay the paper on the piece that comes off, both throat lines together on the line that faces up. Cut along the \
         curve: what is under the paper is kept, the blade takes what lies beyond."
            .to_owned(),
    ];
    wrap_svg(od, saw, &says)
}

/// The template for a component's neck that is sawn through to be turned; `None` where that is not.
#[must_use]
pub fn neck_svg(workup: &Workup, end: End) -> Option<String> {
    let at = workup.ends.iter().find(|one| one.end == end)?;
    let mitre = at.neck.as_ref()?.mitre.as_ref()?;
    let says = [
        format!("{}, {}: neck {:.1} mm, saw {:.2}\u{b0}.", workup.name, at.name, at.port_od.mm(), mitre.saw),
        format!(
            "Lay the paper on what stays on the component, both throat lines together on the line scribed at {:.0}\u{b0} from up, clockwise \
             seen from the component, the curve's lowest place {:.1} mm from the component. Cut along the curve: what is under the paper \
             stays. Turn the end half round on its own axis and weld it.",
            mitre.towards,
            mitre.lines[0].mm()
        ),
    ];
    Some(wrap_svg(at.port_od.mm(), mitre.saw, &says))
}

fn wrap_svg(od: f64, saw: f64, says: &[String]) -> String {
    let template = WrapTemplate::new(od, saw.to_radians(), WrapTemplate::PAPER);
    let (girth, tall) = (template.girth(), template.tallest());
    let width = girth.max(BAR) + 2.0 * MARGIN;
    let words = lines_of(says, width - 2.0 * MARGIN);
    let height = MARGIN + tall + SKIRT + NAMES + height_of(&words) + MARGIN;
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
    written(document, &words, MARGIN, base + SKIRT + NAMES, width - 2.0 * MARGIN).to_string()
}

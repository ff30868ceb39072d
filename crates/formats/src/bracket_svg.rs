//! A bracket's flat pattern at true scale.

use nook_core::workup::{BracketWorkup, MountWorkup};
use svg::Document;
use svg::node::element::{Circle, Rectangle};

use super::drawing::{BAR, INK, height_of, label, lines_of, mm, sheet, stroke, written};

/// Paper left round the drawing, and room for the bends' words beside the pattern, in mm.
const MARGIN: f64 = 8.0;
const BESIDE: f64 = 9.0;

/// The pattern of a mounting point's bracket, as an SVG whose user unit is a millimetre, so that it prints at 1:1 and is stuck on
/// the strip; `None` where it has none. Seen with the face that lies against the component down, the component's end at the left.
#[must_use]
pub fn bracket_svg(component: &str, mount: &MountWorkup) -> Option<String> {
    let bracket = mount.bracket.as_ref()?;
    let (length, width) = (bracket.length.mm(), bracket.width.mm());
    let paper = length.max(BAR) + 2.0 * MARGIN;
    let lines = lines_of(&words(component, mount, bracket), paper - 2.0 * MARGIN);
    let (top, left) = (MARGIN + BESIDE, MARGIN);
    let foot = top + width + BESIDE;
    let mut document = sheet(paper, foot + height_of(&lines) + MARGIN);
    document = document.add(
        Rectangle::new()
            .set("id", "outline")
            .set("x", mm(left))
            .set("y", mm(top))
            .set("width", mm(length))
            .set("height", mm(width))
            .set("fill", "none")
            .set("stroke", INK)
            .set("stroke-width", 0.2),
    );
    let middle = top + width / 2.0;
    for hole in &bracket.holes {
        // To the left along the pattern is up on the paper.
        let at = [left + hole.along.mm(), middle - hole.aside.mm()];
        document = with_hole(document, at, hole.diameter.mm());
    }
    for (index, bend) in bracket.bends.iter().enumerate() {
        let x = left + bend.along.mm();
        let way = if bend.angle > 0.0 { "up" } else { "down" };
        // Neighbours are named above and below in turn, so that they do not run into each other.
        let y = if index % 2 == 0 { top - 3.0 } else { top + width + 5.0 };
        let name = label(&format!("{:.0}\u{b0} {way}", bend.angle.abs()), mm(x), mm(y), 3.2);
        document = document.add(stroke([x, top], [x, top + width], 0.2, true)).add(name.set("text-anchor", "middle"));
    }
    if bracket.angle {
        document = document.add(stroke([left, middle], [left + length, middle], 0.2, true));
    }
    Some(written(document, &lines, MARGIN, foot + 3.0, paper - 2.0 * MARGIN).to_string())
}

/// A hole with its centre marked.
pub(crate) fn with_hole(document: Document, [x, y]: [f64; 2], diameter: f64) -> Document {
    let arm = diameter / 2.0 + 2.5;
    document
        .add(
            Circle::new()
                .set("class", "hole")
                .set("cx", mm(x))
                .set("cy", mm(y))
                .set("r", mm(diameter / 2.0))
                .set("fill", "none")
                .set("stroke", INK)
                .set("stroke-width", 0.2),
        )
        .add(stroke([x - arm, y], [x + arm, y], 0.12, false))
        .add(stroke([x, y - arm], [x, y + arm], 0.12, false))
}

fn words(component: &str, mount: &MountWorkup, bracket: &BracketWorkup) -> Vec<String> {
    let cut = if bracket.angle {
        format!(
            "Cut {:.1} mm of angle {:.1} x {:.1} x {:.1}; the dashed line is the outside of its heel, the paper folds there.",
            bracket.length.mm(),
            bracket.width.mm() / 2.0,
            bracket.width.mm() / 2.0,
            bracket.thickness.mm()
        )
    } else {
        format!(
            "Cut {:.1} mm of strip {:.1} x {:.1}. Bend on the dashed lines, up towards you or down.",
            bracket.length.mm(),
            bracket.width.mm(),
            bracket.thickness.mm()
        )
    };
    vec![
        format!("{component}: bracket at the {}.", mount.is.name.as_str()),
        cut,
        "The left end goes to the component, this face away from it. Prick the centres through, drill, then bend."
            .to_owned(),
    ]
}

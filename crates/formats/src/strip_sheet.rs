//! The sheet that a strip's flat pattern is drawn on at true scale.

use svg::Document;
use svg::node::element::{Circle, Path, path::Data};

use super::drawing::{BAR, INK, height_of, label, lines_of, mm, sheet, stroke, written};

/// Paper left round the drawing, and room for words beside the pattern, in mm.
const MARGIN: f64 = 8.0;
const BESIDE: f64 = 9.0;
/// The pattern's corner at the left and above.
const LEFT: f64 = MARGIN;
const TOP: f64 = MARGIN + BESIDE;

/// A pattern of a strip, its length across the sheet; places on it are in mm from its left end, and from its middle downwards.
pub(crate) struct StripSheet {
    document: Document,
    width: f64,
    foot: f64,
    paper: f64,
    lines: Vec<String>,
}

impl StripSheet {
    /// A strip with words below it, `length` by `width` mm.
    pub(crate) fn new([length, width]: [f64; 2], words: &[String]) -> Self {
        let paper = length.max(BAR) + 2.0 * MARGIN;
        let lines = lines_of(words, paper - 2.0 * MARGIN);
        let foot = TOP + width + BESIDE;
        Self { document: sheet(paper, foot + height_of(&lines) + MARGIN), width, foot, paper, lines }
    }

    /// Its outline; the left end is hollowed to a circle of this radius in mm about the strip's middle, or square.
    pub(crate) fn outline(&mut self, length: f64, hollow: Option<f64>) {
        let (right, bottom) = (LEFT + length, TOP + self.width);
        let mut way = Data::new().move_to((mm(LEFT), mm(TOP))).line_to((mm(right), mm(TOP)));
        way = way.line_to((mm(right), mm(bottom))).line_to((mm(LEFT), mm(bottom)));
        if let Some(radius) = hollow {
            // Where the strip is wider than the circle it is straight beside it.
            let past = (self.width / 2.0 - radius).max(0.0);
            way = way.line_to((mm(LEFT), mm(bottom - past)));
            way = way.elliptical_arc_to((mm(radius), mm(radius), 0, 0, 0, mm(LEFT), mm(TOP + past)));
        }
        let outline = Path::new().set("id", "outline").set("d", way.close());
        self.add(outline.set("fill", "none").set("stroke", INK).set("stroke-width", 0.2));
    }

    /// A line to bend on, its words above the strip or below.
    pub(crate) fn bend(&mut self, along: f64, words: &str, above: bool) {
        let x = LEFT + along;
        self.add(stroke([x, TOP], [x, TOP + self.width], 0.2, true));
        let y = if above { TOP - 3.0 } else { TOP + self.width + 5.0 };
        self.add(label(words, mm(x), mm(y), 3.2).set("text-anchor", "middle"));
    }

    /// A line to fold the paper on, all along its middle.
    pub(crate) fn fold(&mut self, length: f64) {
        let middle = TOP + self.width / 2.0;
        self.add(stroke([LEFT, middle], [LEFT + length, middle], 0.2, true));
    }

    /// What its left end is for, written below it.
    pub(crate) fn left_end(&mut self, words: &str) {
        self.add(label(words, mm(LEFT), mm(TOP + self.width + 5.0), 3.2));
    }

    /// A hole with its centre marked.
    pub(crate) fn hole(&mut self, [along, down]: [f64; 2], diameter: f64) {
        let document = std::mem::replace(&mut self.document, Document::new());
        self.document = with_hole(document, [LEFT + along, TOP + self.width / 2.0 + down], diameter);
    }

    fn add(&mut self, what: impl Into<Box<dyn svg::Node>>) {
        self.document = std::mem::replace(&mut self.document, Document::new()).add(what);
    }

    pub(crate) fn text(self) -> String {
        written(self.document, &self.lines, MARGIN, self.foot + 3.0, self.paper - 2.0 * MARGIN).to_string()
    }
}

/// A hole with its centre marked, on any sheet.
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

//! One page, drawn in mm from its upper left corner.

use svg::Document;
use svg::node::Blob;
use svg::node::element::{Group, Line, Polygon, Rectangle, Text};

use crate::fonts::Face;

/// Ink of drawn lines and headings, of text, and of what is written small.
pub(crate) const DYE: &str = "#2b2470";
pub(crate) const INK: &str = "#1b2026";
pub(crate) const SOFT: &str = "#505a64";
pub(crate) const HAIRLINE: &str = "#b9c0c6";

/// Where a text stands about its place.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Align {
    /// It begins there.
    Left,
    /// Its middle is there.
    Middle,
    /// It ends there.
    Right,
}

/// How a text is set.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Set {
    /// Its face.
    pub(crate) face: Face,
    /// Its size in mm.
    pub(crate) size: f64,
    /// Its ink.
    pub(crate) ink: &'static str,
    /// Where it stands.
    pub(crate) align: Align,
}

impl Set {
    pub(crate) const fn new(face: Face, size: f64) -> Self {
        Self { face, size, ink: INK, align: Align::Left }
    }

    pub(crate) const fn ink(self, ink: &'static str) -> Self {
        Self { ink, ..self }
    }

    pub(crate) const fn align(self, align: Align) -> Self {
        Self { align, ..self }
    }
}

/// A page of paper.
#[derive(Debug, Clone)]
pub(crate) struct Page {
    /// Width and height in mm.
    pub(crate) size: [f64; 2],
    nodes: Vec<Box<dyn svg::Node>>,
}

impl Page {
    pub(crate) const fn new(size: [f64; 2]) -> Self {
        Self { size, nodes: Vec::new() }
    }

    fn add(&mut self, node: impl Into<Box<dyn svg::Node>>) {
        self.nodes.push(node.into());
    }

    /// A line of text, its baseline at the place.
    pub(crate) fn text(&mut self, at: [f64; 2], set: Set, text: &str) {
        let label = lettered(text, set).set("x", mm(at[0])).set("y", mm(at[1]));
        self.add(label);
    }

    /// The same, running upwards.
    pub(crate) fn text_up(&mut self, at: [f64; 2], set: Set, text: &str) {
        let turned = format!("translate({} {}) rotate(-90)", mm(at[0]), mm(at[1]));
        self.add(lettered(text, set).set("transform", turned));
    }

    pub(crate) fn line(&mut self, [x1, y1]: [f64; 2], [x2, y2]: [f64; 2], wide: f64, ink: &str) {
        let line = Line::new().set("x1", mm(x1)).set("y1", mm(y1)).set("x2", mm(x2)).set("y2", mm(y2));
        self.add(line.set("stroke", ink).set("stroke-width", wide));
    }

    pub(crate) fn dashed(&mut self, [x1, y1]: [f64; 2], [x2, y2]: [f64; 2], wide: f64, ink: &str) {
        let line = Line::new().set("x1", mm(x1)).set("y1", mm(y1)).set("x2", mm(x2)).set("y2", mm(y2));
        self.add(line.set("stroke", ink).set("stroke-width", wide).set("stroke-dasharray", "3 1.5"));
    }

    /// A box, filled or with a line round it.
    pub(crate) fn rect(&mut self, [x, y]: [f64; 2], [width, height]: [f64; 2], fill: &str, stroke: &str) {
        let rect = Rectangle::new()
            .set("x", mm(x))
            .set("y", mm(y))
            .set("width", mm(width))
            .set("height", mm(height))
            .set("fill", fill)
            .set("stroke", stroke)
            .set("stroke-width", 0.2);
        self.add(rect);
    }

    /// A closed shape, filled and with a line round it.
    pub(crate) fn polygon(&mut self, points: &[[f64; 2]], fill: &str, stroke: &str, wide: f64) {
        let points: Vec<String> = points.iter().map(|[x, y]| format!("{},{}", mm(*x), mm(*y))).collect();
        let polygon = Polygon::new().set("points", points.join(" ")).set("fill", fill);
        self.add(polygon.set("stroke", stroke).set("stroke-width", wide).set("stroke-linejoin", "round"));
    }

    /// What is drawn already, as SVG.
    pub(crate) fn blob(&mut self, svg: String) {
        self.add(Blob::new(svg));
    }

    /// The page as an SVG whose user unit is a millimetre, everything on it larger by `stretch` about its middle.
    pub(crate) fn svg(&self, stretch: f64) -> String {
        let [width, height] = self.size;
        let shift = [width, height].map(|length| mm(length / 2.0 * (1.0 - stretch)));
        let [x, y] = shift;
        // Figures of a stretch are small: a page of 300 mm wants six of them.
        let all = Group::new().set("transform", format!("translate({x} {y}) scale({stretch:.8})"));
        let all = self.nodes.iter().fold(all, |all, node| all.add(node.clone()));
        Document::new()
            .set("width", format!("{}mm", mm(width)))
            .set("height", format!("{}mm", mm(height)))
            .set("viewBox", (0, 0, mm(width), mm(height)))
            .add(all)
            .to_string()
    }
}

fn lettered(text: &str, set: Set) -> Text {
    let anchor = match set.align {
        Align::Left => "start",
        Align::Middle => "middle",
        Align::Right => "end",
    };
    Text::new(shown(set.face, text))
        .set("font-family", format!("'{}'", set.face.family()))
        .set("font-weight", if set.face == Face::Bold { 700 } else { 400 })
        .set("font-size", set.size)
        .set("text-anchor", anchor)
        .set("fill", set.ink)
}

/// A text without letters that no font has and no controls: each is a question mark, so that it is seen that something is missing.
fn shown(face: Face, text: &str) -> String {
    text.chars().map(|letter| if face.has(letter) { letter } else { '?' }).collect()
}

/// Micrometres, so that no rounding noise is written.
pub(crate) fn mm(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

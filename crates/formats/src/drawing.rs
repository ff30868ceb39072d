//! What every drawing on paper has: its ink, its words, and a bar to check that it is printed at true scale.

use svg::Document;
use svg::node::element::{Line, Rectangle, Text};

pub(crate) const INK: &str = "#1d1850";
/// Size of the words, the height of one line of them, and the widest a letter is on average, in mm.
const WORDS: f64 = 2.6;
const LINE: f64 = 3.6;
const LETTER: f64 = 1.56;
/// Room for the check bar with its words, in mm.
const CHECK: f64 = 13.0;
/// The check bar in mm.
pub(crate) const BAR: f64 = 100.0;

/// A drawing of `width` by `height` mm whose user unit is a millimetre, so that it prints at 1:1.
pub(crate) fn sheet(width: f64, height: f64) -> Document {
    Document::new()
        .set("width", format!("{}mm", mm(width)))
        .set("height", format!("{}mm", mm(height)))
        .set("viewBox", (0, 0, mm(width), mm(height)))
        .set("font-family", "sans-serif")
}

/// Texts in lines that fit into `width` mm.
pub(crate) fn lines_of(texts: &[String], width: f64) -> Vec<String> {
    texts.iter().flat_map(|text| wrapped(text, width)).collect()
}

/// How high in mm lines and the check bar below them are.
pub(crate) fn height_of(lines: &[String]) -> f64 {
    LINE * f64::from(u32::try_from(lines.len()).unwrap_or(u32::MAX)) + CHECK
}

/// A drawing with lines written from `top` mm down, `left` mm in, and the check bar below them.
pub(crate) fn written(mut document: Document, lines: &[String], left: f64, top: f64, width: f64) -> Document {
    let mut foot = top;
    for line in lines {
        document = document.add(label(line, mm(left), mm(foot), WORDS));
        foot += LINE;
    }
    document = document.add(
        Rectangle::new()
            .set("id", "check-bar")
            .set("x", mm(left))
            .set("y", mm(foot))
            .set("width", BAR)
            .set("height", 3)
            .set("fill", INK),
    );
    let check = "This bar is 100 mm long. If it is not, print again at 100 %, not fitted to the page.";
    for (index, line) in wrapped(check, width).iter().enumerate() {
        let down = LINE * f64::from(u32::try_from(index).unwrap_or(0));
        document = document.add(label(line, mm(left), mm(foot + 6.4 + down), WORDS));
    }
    document
}

/// A line from one place to another, in mm, dashed where it is not cut.
pub(crate) fn stroke([x1, y1]: [f64; 2], [x2, y2]: [f64; 2], wide: f64, dashed: bool) -> Line {
    let line = Line::new().set("x1", mm(x1)).set("y1", mm(y1)).set("x2", mm(x2)).set("y2", mm(y2));
    let line = line.set("stroke", INK).set("stroke-width", wide);
    if dashed { line.set("stroke-dasharray", "3 1.5") } else { line }
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
pub(crate) fn mm(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

pub(crate) fn label(text: &str, x: f64, y: f64, size: f64) -> Text {
    Text::new(text).set("x", x).set("y", y).set("font-size", size).set("fill", INK)
}

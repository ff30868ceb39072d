//! A jig for the bench at true scale: the board from above, and each post from its side.

use nook_core::workup::{JigPost, JigWorkup};
use svg::Document;

use super::drawing::{BAR, height_of, label, lines_of, mm, sheet, stroke, written};

/// Paper left round a drawing, and how far a stub of tube is drawn either way, in mm.
const MARGIN: f64 = 12.0;
const STUB: f64 = 60.0;

/// A jig as an SVG whose user unit is a millimetre, so that it prints at 1:1: the feet and the ways of both posts on the board,
/// then each post seen square to its stub, the stub facing to the right.
#[must_use]
pub fn jig_svg(run: &str, jig: &JigWorkup) -> String {
    let feet = jig.posts.each_ref().map(|post| post.foot.map(|one| one.mm()));
    let reach = STUB + 20.0;
    let low = [0, 1].map(|axis| feet[0][axis].min(feet[1][axis]) - reach);
    let high = [0, 1].map(|axis| feet[0][axis].max(feet[1][axis]) + reach);
    let plan = [high[0] - low[0], high[1] - low[1]];
    let posts: Vec<[f64; 2]> = jig.posts.iter().map(extent).collect();
    let beside: f64 = posts.iter().map(|extent| extent[0] + MARGIN).sum();
    let paper = plan[0].max(beside).max(BAR) + 2.0 * MARGIN;
    let lines = lines_of(&words(run, jig), paper - 2.0 * MARGIN);
    let tall = posts.iter().map(|extent| extent[1]).fold(0.0, f64::max);
    let base = MARGIN + plan[1] + MARGIN + tall;
    let mut document = sheet(paper, base + 8.0 + height_of(&lines) + MARGIN);
    // Along the board's x is to the right on the paper, to its left is up.
    let at = |[x, y]: [f64; 2]| [MARGIN + x - low[0], MARGIN + high[1] - y];
    document = document.add(stroke(at(feet[0]), at(feet[1]), 0.15, true));
    for (post, foot) in jig.posts.iter().zip(feet) {
        document = foot_of(document, post, foot, &at);
    }
    let mut left = MARGIN;
    for (post, extent) in jig.posts.iter().zip(&posts) {
        document = side_of(document, post, [left, base]);
        left += extent[0] + MARGIN;
    }
    written(document, &lines, MARGIN, base + 8.0, paper - 2.0 * MARGIN).to_string()
}

/// The post's foot with its cross, and the stub seen from above.
fn foot_of(document: Document, post: &JigPost, foot: [f64; 2], at: &dyn Fn([f64; 2]) -> [f64; 2]) -> Document {
    let (sin, cos) = post.turn.to_radians().sin_cos();
    let flat = STUB * post.tilt.to_radians().cos();
    let to = |along: f64, aside: f64| at([foot[0] + along * cos - aside * sin, foot[1] + along * sin + aside * cos]);
    let half = post.od.mm() / 2.0;
    let [x, y] = at(foot);
    let name = label(&post.end.letter().to_string(), mm(x - 6.0), mm(y - 2.5), 4.0);
    document
        .add(stroke(to(-10.0, 0.0), to(flat, 0.0), 0.15, true).set("class", "way"))
        .add(stroke(to(0.0, -half - 6.0), to(0.0, half + 6.0), 0.2, false))
        .add(stroke(to(0.0, half), to(flat, half), 0.2, false))
        .add(stroke(to(0.0, -half), to(flat, -half), 0.2, false))
        .add(name)
}

/// How wide and how high a post is drawn from its side.
fn extent(post: &JigPost) -> [f64; 2] {
    let up = STUB * post.tilt.to_radians().sin().max(0.0) + post.od.mm() / 2.0;
    [2.0 * STUB + post.od.mm(), post.height.mm() + up + 6.0]
}

/// A post from its side: the board, the upright, and the stub on its tilt.
fn side_of(document: Document, post: &JigPost, [left, base]: [f64; 2]) -> Document {
    let wide = extent(post)[0];
    let middle = [left + wide / 2.0 - STUB / 2.0, base - post.height.mm()];
    let (sin, cos) = post.tilt.to_radians().sin_cos();
    let to = |along: f64, up: f64| [middle[0] + along * cos - up * sin, middle[1] - along * sin - up * cos];
    let half = post.od.mm() / 2.0;
    let words = format!("{} {:.1} high, {:.1}\u{b0}", post.end.letter(), post.height.mm(), post.tilt);
    document
        .add(stroke([left, base], [left + wide, base], 0.3, false))
        .add(stroke([middle[0], base], middle, 0.2, true).set("class", "upright"))
        .add(stroke(to(-8.0, 0.0), to(STUB, 0.0), 0.15, true))
        .add(stroke(to(0.0, -half), to(0.0, half), 0.2, false))
        .add(stroke(to(0.0, half), to(STUB, half), 0.2, false))
        .add(stroke(to(0.0, -half), to(STUB, -half), 0.2, false))
        .add(label(&words, mm(left), mm(base + 4.5), 3.2))
}

fn words(run: &str, jig: &JigWorkup) -> Vec<String> {
    let checks: Vec<String> =
        jig.checks.iter().map(|check| format!("{} {:.1}", check.between, check.mm.mm())).collect();
    vec![
        format!("{run}: two posts on a level board, the stubs facing as the mouths do in the car."),
        format!("Check, sticks {:.0} mm out of the stubs: {}.", jig.stick.mm(), checks.join("; ")),
    ]
}

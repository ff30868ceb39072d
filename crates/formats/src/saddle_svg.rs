//! Templates for a branch on paper at true scale: the hole in the tube, and the cope of the branch's end.

use std::f64::consts::PI;

use nook_core::Workup;
use nook_core::cut::{Saddle, SaddlePoint, WrapTemplate};
use nook_core::route::BranchId;
use nook_core::workup::{BranchMark, BranchWorkup};
use svg::node::element::Path;
use svg::node::element::path::Data;

use super::drawing::{BAR, INK, height_of, label, lines_of, mm, sheet, stroke, written};

/// Paper left round the drawings and between them, in mm.
const MARGIN: f64 = 10.0;
/// Paper above the cope that is wrapped round the branch, in mm.
const SKIRT: f64 = 25.0;
/// Points of each outline: chords stray from the curve by under 0.01 mm.
const POINTS: u32 = 360;

/// Hole and cope of a branch of a run as an SVG in mm; `None` where it has no such branch, or that does not sit on its tube all
/// round. Seen from outside, the branch upwards: along the tube to B is to the right; on the cope the branch's end is below.
#[must_use]
pub fn branch_template(workup: &Workup, branch: BranchId) -> Option<String> {
    let one = workup.branches.iter().find(|one| one.branch == branch)?;
    let main = workup.od.mm();
    let saddle = Saddle::new(one.od.mm(), main, one.angle.to_radians(), one.offset.mm()).ok()?;
    let outline = saddle.outline(POINTS);
    // Paper lies round outside what it is wrapped round.
    let on_main = (main + 2.0 * WrapTemplate::PAPER) / main;
    let on_branch = (one.od.mm() + 2.0 * WrapTemplate::PAPER) / one.od.mm();
    let hole: Vec<[f64; 2]> = outline.iter().map(|point| [point.along, point.round * on_main]).collect();
    let cope: Vec<[f64; 2]> = outline.iter().map(|point| [point.girth * on_branch, point.height]).collect();
    let extent = |points: &[[f64; 2]], axis: usize| {
        let each = points.iter().map(|point| point[axis]);
        each.fold([f64::INFINITY, f64::NEG_INFINITY], |[low, high], at| [low.min(at), high.max(at)])
    };
    let (along, round) = (extent(&hole, 0), extent(&hole, 1));
    let girth = PI * one.od.mm() * on_branch;
    let tall = extent(&cope, 1)[1];
    let says = says(workup, one, &outline);
    let width = (along[1] - along[0] + girth + 3.0 * MARGIN).max(BAR + 2.0 * MARGIN);
    let words = lines_of(&says, width - 2.0 * MARGIN);
    let deep = (round[1] - round[0] + 12.0).max(tall + SKIRT + 8.0);
    let height = MARGIN + deep + MARGIN + height_of(&words) + MARGIN;
    let mut page = sheet(width, height);

    // The hole: its middle where the branch's axis pierces the skin, the line that is marked on the tube through it.
    let middle = [MARGIN - along[0], MARGIN + round[1] + 4.0];
    let at = |point: &[f64; 2]| (mm(middle[0] + point[0]), mm(middle[1] - point[1]));
    page = page
        .add(closed(hole.iter().map(at)).set("id", "hole"))
        .add(stroke([middle[0] + along[0], middle[1]], [middle[0] + along[1], middle[1]], 0.15, true))
        .add(stroke([middle[0], middle[1] - round[1]], [middle[0], middle[1] - round[0]], 0.15, true))
        .add(label("to B \u{2192}", mm(middle[0] + along[1] - 9.0), mm(middle[1] - 1.0), 2.8));

    // The cope: the paper's straight edge above, the curve at the branch's end below.
    let left = 2.0 * MARGIN + along[1] - along[0];
    let foot = MARGIN + SKIRT + tall;
    let edge = |point: &[f64; 2]| (mm(left + point[0]), mm(foot - point[1]));
    let top = foot - tall - SKIRT;
    let corners = [(mm(left + girth), mm(top)), (mm(left), mm(top))];
    page = page.add(closed(cope.iter().map(edge).chain(corners)).set("id", "cope"));
    for (share, name) in [(0.0, "to B"), (0.25, "left"), (0.5, "to A"), (0.75, "right"), (1.0, "to B")] {
        let x = left + girth * share;
        let anchor = if share < 0.01 {
            "start"
        } else if share > 0.99 {
            "end"
        } else {
            "middle"
        };
        page = page
            .add(stroke([x, top], [x, foot], 0.15, true))
            .add(label(name, mm(x), mm(top + 4.0), 2.8).set("text-anchor", anchor));
    }
    Some(written(page, &words, MARGIN, MARGIN + deep + MARGIN, width - 2.0 * MARGIN).to_string())
}

fn says(workup: &Workup, one: &BranchWorkup, outline: &[SaddlePoint]) -> [String; 5] {
    let off = one.offset.mm();
    let aside = match off {
        0.0 => String::new(),
        off if off > 0.0 => format!(", {off:.1} mm to the left of its middle"),
        off => format!(", {:.1} mm to the right of its middle", -off),
    };
    let deepest = outline.iter().map(|point| point.height).fold(0.0, f64::max);
    [
        format!(
            "{}, {}: {:.1} mm on {:.1} mm tube at {:.1}\u{b0}{aside}.",
            workup.name,
            one.name,
            one.od.mm(),
            workup.od.mm(),
            one.angle,
        ),
        format!(
            "The hole\u{2019}s middle is {} and {:.1} mm round the skin from the line that faces up in the car, clockwise for who \
             looks from A to B. Lay its dashed line along the tube, the arrow to B, and read it from outside.",
            place(one),
            one.round.mm()
        ),
        "The line is the outside of the branch on the tube. Where its end is coped to sit on the tube, the hole is cut inside \
         the line by the branch\u{2019}s wall; where it is set into the tube, the hole is cut on the line and the end left square."
            .to_owned(),
        format!(
            "Cut the other paper along its curve and wrap it round the branch, print outside, its lowest places at the square \
             end. The tube beyond the curve goes: {deepest:.1} mm at most. \u{201c}To B\u{201d} faces B when it is welded."
        ),
        "Left is to the left of who looks from A to B with the branch upwards.".to_owned(),
    ]
}

/// Where the hole is along the tube: on the piece, so that its mitred ends are counted in.
fn place(one: &BranchWorkup) -> String {
    let ends = |mark: &BranchMark| {
        let each = [(mark.from_a.as_ref(), "A"), (mark.from_b.as_ref(), "B")].into_iter();
        let each = each.filter_map(|(from, end)| Some(format!("{:.1} mm from its {end} end", from?.mm())));
        let ends = each.collect::<Vec<_>>().join(", ");
        (!ends.is_empty()).then(|| format!("on piece {}, along the line through it {ends},", mark.piece))
    };
    let straight = || format!("{:.1} mm from where its straight begins towards A,", one.from_start.mm());
    one.mark.as_ref().and_then(ends).unwrap_or_else(straight)
}

fn closed(points: impl Iterator<Item = (f64, f64)>) -> Path {
    let mut data = Data::new();
    for (nth, at) in points.enumerate() {
        data = if nth == 0 { data.move_to(at) } else { data.line_to(at) };
    }
    Path::new().set("d", data.close()).set("fill", "none").set("stroke", INK).set("stroke-width", 0.2)
}

//! A flange plate at true scale.

use nook_core::Workup;
use nook_core::route::JointId;
use nook_core::workup::{JointFigures, PlateWorkup};
use svg::node::element::{Circle, Polygon};

use super::drawing::{BAR, INK, height_of, label, lines_of, mm, sheet, written};
use super::strip_sheet::with_hole;

/// Paper left round the drawing, in mm.
const MARGIN: f64 = 8.0;

/// The plate of a joint, as an SVG whose user unit is a millimetre, so that it prints at 1:1 and is stuck on the plate; `None`
/// where it has none, or its distances make none. Seen as one looks at the component's face, the pipe coming towards the eye.
#[must_use]
pub fn plate_svg(workup: &Workup, joint: JointId) -> Option<String> {
    let along = workup.joints.iter().find(|one| one.joint == joint).map(|one| (one.name.clone(), &one.figures, 2));
    let at_end = || {
        let end = workup.ends.iter().find(|end| end.joint_id == joint)?;
        Some((format!("End {}, {}", end.end.letter(), end.name), end.figures.as_ref()?, 1))
    };
    let (name, figures, count): (String, &JointFigures, u32) = along.or_else(at_end)?;
    let plate = figures.plate.as_ref().filter(|plate| !plate.outline.is_empty())?;
    let [wide, high] = [0, 1].map(|axis| plate.size[axis].mm());
    let paper = wide.max(BAR) + 2.0 * MARGIN;
    let lines = lines_of(&words(workup, &name, plate, count), paper - 2.0 * MARGIN);
    let foot = high + 2.0 * MARGIN;
    let low = |axis: usize| plate.outline.iter().map(|point| point[axis]).fold(f64::INFINITY, f64::min);
    // Up on the plate is up on the paper, whose y goes down.
    let on_paper = |[x, y]: [f64; 2]| [MARGIN + x - low(0), MARGIN + high - (y - low(1))];
    let outline = plate.outline.iter().map(|point| {
        let [x, y] = on_paper(*point);
        format!("{},{}", mm(x), mm(y))
    });
    let outline: Vec<String> = outline.collect();
    let mut document = sheet(paper, foot + height_of(&lines)).add(
        Polygon::new()
            .set("id", "outline")
            .set("points", outline.join(" "))
            .set("fill", "none")
            .set("stroke", INK)
            .set("stroke-width", 0.2),
    );
    let [x, y] = on_paper([0.0; 2]);
    document = document.add(
        Circle::new()
            .set("id", "bore")
            .set("cx", mm(x))
            .set("cy", mm(y))
            .set("r", mm(plate.bore.mm() / 2.0))
            .set("fill", "none")
            .set("stroke", INK)
            .set("stroke-width", 0.2),
    );
    for (number, hole) in plate.holes.iter().enumerate() {
        let [x, y] = on_paper(*hole);
        document = with_hole(document, [x, y], plate.plate.hole.get());
        let beside = plate.plate.hole.get() / 2.0 + 1.0;
        document = document.add(label(&(number + 1).to_string(), mm(x + beside), mm(y - beside), 3.2));
    }
    Some(written(document, &lines, MARGIN, foot, paper - 2.0 * MARGIN).to_string())
}

fn words(workup: &Workup, name: &str, plate: &PlateWorkup, count: u32) -> Vec<String> {
    let metal = workup.decisions.tube.material().name();
    let two = if count == 2 { "Cut two and turn one over. " } else { "" };
    vec![
        format!("{}, {name}: flange plate, {:.1} mm {metal}.", workup.name, plate.thickness.mm()),
        format!(
            "{two}Seen as you look at the component\u{2019}s face, the pipe coming towards you. Prick the centres, drill {:.1}, bore {:.1} \
             for the tube, then saw round. Face it flat after welding.",
            plate.plate.hole.get(),
            plate.bore.mm()
        ),
    ]
}

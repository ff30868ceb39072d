//! A bracket's flat pattern at true scale.

use nook_core::workup::{BracketWorkup, MountWorkup};

use super::strip_sheet::StripSheet;

/// The pattern of a mounting point's bracket, as an SVG whose user unit is a millimetre, so that it prints at 1:1 and is stuck on
/// the strip; `None` where it has none. Seen with the face that lies against the component down, the component's end at the left.
#[must_use]
pub fn bracket_svg(component: &str, mount: &MountWorkup) -> Option<String> {
    let bracket = mount.bracket.as_ref()?;
    let length = bracket.length.mm();
    let mut sheet = StripSheet::new([length, bracket.width.mm()], &words(component, mount, bracket));
    sheet.outline(length, None);
    for hole in &bracket.holes {
        // To the left along the pattern is up on the paper.
        sheet.hole([hole.along.mm(), -hole.aside.mm()], hole.diameter.mm());
    }
    for (index, bend) in bracket.bends.iter().enumerate() {
        let way = if bend.angle > 0.0 { "up" } else { "down" };
        // Neighbours are named above and below in turn, so that they do not run into each other.
        sheet.bend(bend.along.mm(), &format!("{:.0}\u{b0} {way}", bend.angle.abs()), index % 2 == 0);
    }
    if bracket.angle {
        sheet.fold(length);
    }
    Some(sheet.text())
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

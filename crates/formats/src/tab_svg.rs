//! A welded tab's flat pattern at true scale.

use nook_core::Workup;
use nook_core::route::SupportId;
use nook_core::workup::{SupportWorkup, TabWorkup};

use super::strip_sheet::StripSheet;

/// The pattern of a support's tab, as an SVG whose user unit is a millimetre, so that it prints at 1:1 and is stuck on the strip;
/// `None` where it is no tab. The hollow edge at the left is welded to the tube.
#[must_use]
pub fn tab_svg(workup: &Workup, support: SupportId) -> Option<String> {
    let support = workup.supports.iter().find(|one| one.support == support)?;
    let tab = support.tab.as_ref()?;
    let length = tab.length.mm();
    let mut sheet = StripSheet::new([length, tab.width.mm()], &words(workup, support, tab));
    sheet.outline(length, Some(workup.od.mm() / 2.0));
    sheet.bend(tab.bend.mm(), "90\u{b0} up", true);
    sheet.left_end("weld");
    sheet.hole([tab.hole.mm(), 0.0], tab.diameter.mm());
    Some(sheet.text())
}

fn words(workup: &Workup, support: &SupportWorkup, tab: &TabWorkup) -> Vec<String> {
    let clock = support.clock.map_or_else(String::new, |clock| format!(" at {clock:.0}\u{b0} from up"));
    let way = if tab.towards_a { "B" } else { "A" };
    vec![
        format!("{}, {}: tab.", workup.name, support.name),
        format!(
            "Cut {:.1} mm of {} strip {:.1} x {:.1}. Hollow its left end as drawn, {:.1} deep, to lie on the tube. Prick the hole's \
             centre through, drill {:.1}, then bend on the dashed line, round its own thickness.",
            tab.length.mm(),
            workup.decisions.tube.material().name(),
            tab.width.mm(),
            tab.thickness.mm(),
            tab.hollow.mm(),
            tab.diameter.mm()
        ),
        format!(
            "Stand it across the tube{clock}, foot towards {way}: the face that looks to {way} at {:.1} mm from the tube's end at A. \
             The hole then comes to {:.1} mm.",
            tab.weld.mm(),
            support.at.mm()
        ),
    ]
}

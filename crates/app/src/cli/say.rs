//! A workup as lines of text.

use std::fmt::Write;

use nook_core::Workup;
use nook_core::findings::Severity;
use nook_geometry::units::LengthUnit;
use nook_search::{Outcome, RoutesFound};

/// The workup in a screenful.
pub(super) fn say_workup(workup: &Workup) -> String {
    let mut text = String::new();
    let mm = |length: f64| LengthUnit::Mm.text(length);
    // Writing to a string cannot fail.
    let mut line = |words: String| {
        let _ = writeln!(text, "{words}");
    };
    line(format!("{} ({} tube, {} wall)", workup.name, mm(workup.od.mm()), mm(workup.wall.mm())));
    if let Some(totals) = &workup.totals {
        line(format!(
            "  {} of tube, {} seams, {} of weld, {:.2} kg, {:.2} l",
            mm(totals.developed.mm()),
            totals.seams,
            mm(totals.weld.mm()),
            totals.mass_kg,
            totals.litres
        ));
    }
    if let Some(cutting) = &workup.cutting {
        let kerf = mm(cutting.kerf.mm());
        line(format!("  {} of stock in {} cuts, kerf {kerf}", mm(cutting.stock_used.mm()), cutting.cuts.len()));
    }
    if let Some(hose) = &workup.hose {
        let cut = hose.length.as_ref().map_or_else(
            || format!("{} pieces, {} clamps", hose.pieces.len(), hose.clamps),
            |length| format!("cut to {}", mm(length.cut.mm())),
        );
        line(format!("  {}, {cut}", hose.called.mm));
    }
    for (index, bend) in workup.bends.iter().enumerate() {
        let made = bend.pies.as_ref().map_or_else(
            || "drawn".to_owned(),
            |pies| {
                let (seams, saw, throat) = (pies.seams, pies.saw, mm(pies.throat.mm()));
                format!("{seams} seams, saw {saw:.2}\u{b0}, throat {throat}")
            },
        );
        let (angle, clock, radius) = (bend.angle, bend.rotation, mm(bend.radius.mm()));
        line(format!("  bend {}: {angle:.1}\u{b0}, clock {clock:.1}\u{b0}, radius {radius}; {made}", index + 1));
    }
    for joint in &workup.joints {
        let hose = joint.hose.map_or_else(String::new, |hose| format!(", hose {}", mm(hose.mm())));
        line(format!(
            "  {}: its middle {} along the tube from A, gap {}{hose}",
            joint.name,
            mm(joint.at.mm()),
            mm(joint.gap.mm()),
        ));
    }
    let ends =
        workup.ends.iter().filter_map(|end| Some((format!("Joint {}", end.end.letter()), end.figures.as_ref()?)));
    let between = workup.joints.iter().map(|joint| (joint.name.clone(), &joint.figures));
    for (name, figures) in ends.chain(between) {
        if let Some(takes) = &figures.takes {
            line(format!(
                "  {name}: {:.0} % of its give, at {:.2}\u{b0}, {} sideways, {} along",
                takes.share.unwrap_or(f64::INFINITY) * 100.0,
                takes.angle,
                mm(takes.offset.mm()),
                mm(takes.axial.mm())
            ));
        }
    }
    for finding in &workup.findings {
        let word = match finding.severity {
            Severity::Error => "cannot be",
            Severity::Warning => "tight",
            Severity::Info => "note",
        };
        line(format!("  {word}: {}", finding.words.mm));
    }
    text
}

/// Ways round as lines: those that fit with what is good about them, then why the others do not, and what would help.
pub(super) fn say_ways(found: &RoutesFound) -> String {
    let mut out = String::new();
    for caution in &found.cautions {
        let _ = writeln!(out, "{}", caution.mm);
    }
    if found.outcome != Outcome::Fits {
        let _ = writeln!(out, "{}", found.said.mm);
    }
    for (index, offer) in found.offers.iter().enumerate() {
        let figures = &offer.figures;
        let rank = if offer.fits() { format!("{:>2}", index + 1) } else { " -".to_owned() };
        let _ = writeln!(
            out,
            "{rank} {}: {:.1} mm, {} seams, {:.1} h",
            offer.name,
            figures.length.mm(),
            figures.seams,
            figures.hours
        );
        let said = [offer.fits().then_some(&offer.good), offer.but.as_ref()];
        for words in said.into_iter().flatten() {
            let _ = writeln!(out, "   {}", words.mm);
        }
    }
    for give in &found.give {
        let _ = writeln!(out, "{}", give.words.mm);
    }
    out
}

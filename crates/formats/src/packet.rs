//! Everything about one run that goes to the saw, as files.

use nook_core::Workup;
use thiserror::Error;

use crate::{
    branch_template, cut_list_csv, fittings_csv, hose_csv, lra_csv, neck_svg, plate_svg, tab_svg, template_of,
};
use nook_core::measure::End;

/// One file of a packet.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PacketFile {
    /// Its name, without a folder.
    pub name: String,
    /// What is in it.
    pub text: String,
}

/// Why a packet was not made. Neither occurs when writing to memory.
#[derive(Debug, Error)]
pub enum PacketError {
    /// A table could not be written.
    #[error("a table could not be written: {0}")]
    Csv(#[from] csv::Error),
    /// The workup could not be written.
    #[error("the workup could not be written: {0}")]
    Json(#[from] serde_json::Error),
}

/// The packet of a run: `workup.json`, `lra.csv`, `cut-list.csv`, `fittings.csv`, of a hose `hose.csv`, and a template for each different saw setting,
/// for each branch, flange plate, tab and turned neck.
/// What the run does not have (a run that cannot be cut has no cut list) is left out; its findings are in the
/// workup.
///
/// # Errors
/// [`PacketError`] as its variants say.
pub fn packet(workup: &Workup) -> Result<Vec<PacketFile>, PacketError> {
    let mut files = Vec::new();
    let mut add = |name: String, text: String| files.push(PacketFile { name, text });
    add("workup.json".to_owned(), serde_json::to_string_pretty(workup)? + "\n");
    if let Some(text) = lra_csv(workup)? {
        add("lra.csv".to_owned(), text);
    }
    if let Some(text) = cut_list_csv(workup)? {
        add("cut-list.csv".to_owned(), text);
    }
    if let Some(text) = fittings_csv(workup)? {
        add("fittings.csv".to_owned(), text);
    }
    if let Some(text) = hose_csv(workup)? {
        add("hose.csv".to_owned(), text);
    }
    for (setting, saw) in workup.cutting.iter().flat_map(|cutting| &cutting.settings).enumerate() {
        if let Some(text) = template_of(workup, setting) {
            add(format!("template-{saw:.2}-deg.svg"), text);
        }
    }
    for branch in &workup.branches {
        if let Some(text) = branch_template(workup, branch.branch) {
            add(format!("branch-{}-{:.0}-mm.svg", branch.branch.0, branch.at.mm()), text);
        }
    }
    for joint in workup.decisions.route.joints() {
        if let Some(text) = plate_svg(workup, joint.id) {
            add(format!("plate-{}.svg", joint.id.0), text);
        }
    }
    for support in &workup.supports {
        if let Some(text) = tab_svg(workup, support.support) {
            add(format!("tab-{}.svg", support.support.0), text);
        }
    }
    for end in [End::A, End::B] {
        if let Some(text) = neck_svg(workup, end) {
            add(format!("neck-{}.svg", end.letter()), text);
        }
    }
    Ok(files)
}

//! How what is wrong with what is let into a pipe is said.

use super::supported::{Beside, lower};
use crate::assembly::{Assembly, SeatedBranch};
use crate::cut::DoesNotSit;
use crate::join::{CLEAR_OF_SEAMS, WAY_IN};
use crate::route::ResolvedRun;
use nook_geometry::units::{DualUnitText, capital};

fn name(run: &ResolvedRun, branch: &SeatedBranch) -> String {
    run.route.branch_name(branch.id).unwrap_or_else(|| "A branch".to_owned())
}

pub(in crate::findings) fn on_seam(
    run: &ResolvedRun,
    branch: &SeatedBranch,
    apart: f64,
    beside: Beside,
) -> DualUnitText {
    let (what, name) = (beside.words(run), name(run, branch));
    DualUnitText::new(|unit| {
        let clear = unit.text(CLEAR_OF_SEAMS);
        if apart < 0.0 {
            format!("{name}: its hole lies over {what} by {}; {clear} clear of it is right.", unit.text(-apart))
        } else {
            format!("{name}: its hole is {} from {what}; {clear} is the least.", unit.text(apart))
        }
    })
}

pub(in crate::findings) fn does_not_sit(run: &ResolvedRun, branch: &SeatedBranch, error: DoesNotSit) -> DualUnitText {
    DualUnitText::same(format!("{}: {error}.", name(run, branch)))
}

pub(in crate::findings) fn too_short(run: &ResolvedRun, branch: &SeatedBranch, least: f64) -> DualUnitText {
    let name = name(run, branch);
    DualUnitText::new(|unit| {
        format!(
            "{name}: it stands out {}, and its seam reaches up to {} along its axis: let it stand out further, or lean less.",
            unit.text(branch.reach),
            unit.text(least)
        )
    })
}

pub(in crate::findings) fn elsewhere(run: &ResolvedRun, branch: &SeatedBranch) -> DualUnitText {
    DualUnitText::same(format!("{}: {}.", name(run, branch), branch.kind.belongs()))
}

pub(in crate::findings) fn in_shadow(
    run: &ResolvedRun,
    branch: &SeatedBranch,
    bend: usize,
    after: f64,
    wanted: f64,
) -> DualUnitText {
    let name = name(run, branch);
    DualUnitText::new(|unit| {
        format!(
            "{name}: on the inside of bend {}, {} after it, where the stream has left the wall and the air stands: it tells the \
             tube\u{2019}s heat. On the outside, or {} after it, it tells the air\u{2019}s.",
            bend + 1,
            unit.text(after),
            unit.text(wanted)
        )
    })
}

pub(in crate::findings) fn no_way_in(run: &ResolvedRun, branch: &SeatedBranch, room: f64, by: &str) -> DualUnitText {
    let name = name(run, branch);
    DualUnitText::new(|unit| {
        format!(
            "{name}: {} along its own axis before the {by}; what goes in wants {}. Another clock, or another place.",
            unit.text(room),
            unit.text(WAY_IN)
        )
    })
}

pub(in crate::findings) fn trapped(run: &ResolvedRun, pipe: &Assembly, station: f64) -> DualUnitText {
    let from = station - pipe.begin();
    let what = capital(&lower(run.name.as_str()));
    DualUnitText::new(|unit| {
        format!(
            "{what}: air stays at the high {} from A, and nothing there lets it out: a bleed, or a way that rises to one of its \
             ends.",
            unit.text(from)
        )
    })
}

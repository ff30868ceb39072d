//! Mirrored twins: by how much what is in the way differs from side to side.

use serde::Serialize;
use utoipa::ToSchema;

use super::clearance::{ClearancePiece, ClearanceWorkup};
use super::workup_of_drag;
use crate::edit::EditError;
use crate::environment::Scans;
use crate::job::Job;
use crate::measure::RunId;
use nook_geometry::units::{DualUnitText, LengthUnit, Measure};

/// A pipe's air against its mirrored twin's.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TwinCheck {
    /// The twin.
    pub twin: RunId,
    /// What it is called.
    pub name: String,
    /// The least air left beyond what is asked on this side; nothing where all is beyond interest.
    pub here: Option<Measure>,
    /// The same on the twin's.
    pub there: Option<Measure>,
    /// The most that the gaps differ by at one place along the two.
    pub differ: Measure,
    /// Where that is, in mm along this tube's centre line.
    pub station: f64,
    /// What is near there on either side.
    pub words: DualUnitText,
}

/// Compares the air of a run with its mirrored twin's; `None` where it has no twin, or either has no way.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn twin_check(job: &Job, id: RunId, scans: &Scans) -> Result<Option<TwinCheck>, EditError> {
    let run = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let Some(twin) = run.twin.and_then(|twin| job.run(twin)) else { return Ok(None) };
    let (here, there) = (workup_of_drag(job, id, scans)?.air, workup_of_drag(job, twin.id, scans)?.air);
    let (Some(here), Some(there)) = (here, there) else { return Ok(None) };
    let most = here.of_interest.mm();
    let gap = |piece: &ClearancePiece| piece.gap.map_or(most, |gap| gap.mm().min(most));
    let pairs = here.trace.iter().filter_map(|piece| Some((piece, opposite(&here, &there, piece)?)));
    let worst = pairs.max_by(|(p, q), (r, s)| (gap(p) - gap(q)).abs().total_cmp(&(gap(r) - gap(s)).abs()));
    let Some((piece, other)) = worst else { return Ok(None) };
    let station = f64::midpoint(piece.from, piece.to);
    let words = DualUnitText::new(|unit| {
        let (this, that) = (near(&here, piece, unit), near(&there, other, unit));
        format!("At {}: {this} on this side, {that} on the other.", unit.text(station.max(0.0)))
    });
    Ok(Some(TwinCheck {
        twin: twin.id,
        name: twin.name.as_str().to_owned(),
        here: here.margin,
        there: there.margin,
        differ: Measure((gap(piece) - gap(other)).abs()),
        station,
        words,
    }))
}

/// The piece of the twin that is as far on its way from A to B.
fn opposite<'a>(
    here: &ClearanceWorkup,
    there: &'a ClearanceWorkup,
    piece: &ClearancePiece,
) -> Option<&'a ClearancePiece> {
    let ends = |air: &ClearanceWorkup| Some((air.trace.first()?.from, air.trace.last()?.to));
    let ((from, to), (first, last)) = (ends(here)?, ends(there)?);
    let share = (f64::midpoint(piece.from, piece.to) - from) / (to - from);
    let station = first + share * (last - first);
    there.trace.iter().find(|piece| station <= piece.to).or(there.trace.last())
}

fn near(air: &ClearanceWorkup, piece: &ClearancePiece, unit: LengthUnit) -> String {
    match piece.gap.zip(piece.thing.and_then(|thing| air.things.get(thing))) {
        Some((gap, thing)) if gap.mm() > 0.0 => format!("{} to the {}", unit.text(gap.mm()), thing.name),
        Some((gap, thing)) => format!("{} into the {}", unit.text(-gap.mm()), thing.name),
        None => format!("nothing within {}", unit.text(air.of_interest.mm())),
    }
}

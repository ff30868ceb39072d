//! Ways kept of one run, side by side.

use serde::Serialize;
use utoipa::ToSchema;

use super::Offer;
use super::field::Field;
use super::offer::Style;
use super::route_search::{Setup, measured};
use nook_core::edit::{Edit, EditError, apply};
use nook_core::environment::Scans;
use nook_core::job::Job;
use nook_core::measure::{End, RunId};
use nook_core::route::{HeldBy, Route, RouteConstraints};
use nook_core::workup::{Workup, as_json, workup_of_drag};
use nook_geometry::units::DualUnitText;

/// One of several ways.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Compared {
    /// What it is called; nothing for the one taken.
    pub name: Option<String>,
    /// Its place among those kept; nothing for the one taken.
    pub kept: Option<usize>,
    /// What it is compared by; nothing where it cannot be built.
    pub offer: Option<Offer>,
    /// What follows from it.
    #[serde(serialize_with = "as_json")]
    pub workup: Workup,
}

/// The way taken and those kept beside it.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn compare(job: &Job, id: RunId, scans: &Scans) -> Result<Vec<Compared>, EditError> {
    let run = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let setup = Setup::of(job, id, scans, None)?;
    let wishes = RouteConstraints::default();
    let field = Field::new(&setup.run, &setup.around, &wishes);
    let taken = run.way.iter().map(|way| (None, None, way));
    let kept = run.kept.iter().enumerate();
    let kept = kept.map(|(index, kept)| (Some(kept.name.as_str().to_owned()), Some(index), &kept.way));
    let each = taken.chain(kept).map(|(name, kept, way)| {
        let there = apply(job, &Edit::TakeWay { run: id, way: way.clone() })?;
        let offer = measured(&setup, &field, way.clone(), Style::DesignVector);
        Ok(Compared { name, kept, offer, workup: workup_of_drag(&there, id, scans)? })
    });
    each.collect()
}

/// What held a drag back, in words.
#[must_use]
pub fn held_words(held: &HeldBy, way: &Route) -> DualUnitText {
    DualUnitText::new(|unit| match held {
        HeldBy::Lock { lock } => {
            let what = way.locks().get(*lock).map(|lock| nook_core::findings::lock_words(lock).get(unit).to_owned());
            format!("Held by a lock: {}.", what.unwrap_or_else(|| "one that is gone".to_owned()).to_lowercase())
        }
        HeldBy::Straight { straight, least } => {
            format!("Held by straight {}: {} is its least.", straight + 1, unit.text(*least))
        }
        HeldBy::Angle { bend } => format!("Held by bend {}: it turns no further.", bend + 1),
        HeldBy::Axis { end } => {
            let which = match end {
                End::A => "first",
                End::B => "last",
            };
            format!("The {which} bend stays on the axis of port {}.", end.letter())
        }
    })
}

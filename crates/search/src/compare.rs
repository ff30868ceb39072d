//! Ways kept of one run, side by side.

use serde::Serialize;
use utoipa::ToSchema;

use super::Offer;
use super::field::Field;
use super::offer::Style;
use super::route_search::{Setup, measured};
use nook_core::edit::{Edit, EditError, RouteEdit, apply};
use nook_core::environment::Scans;
use nook_core::job::Job;
use nook_core::measure::RunId;
use nook_core::route::RouteConstraints;
use nook_core::workup::{Workup, as_json, workup_of_drag};

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
    let kept = run.kept.iter().enumerate();
    let kept = kept.map(|(index, kept)| (Some(kept.name.as_str().to_owned()), Some(index)));
    let taken = run.way().is_some().then_some((None, None));
    let wishes = RouteConstraints::default();
    let each = taken.into_iter().chain(kept).map(|(name, kept)| {
        // A way that is kept has joints of its own.
        let there = match kept {
            None => job.clone(),
            Some(index) => apply(job, &Edit::Route(RouteEdit::TakeKept { run: id, index }))?.job,
        };
        let setup = Setup::of(&there, id, scans)?;
        let field = Field::new(&setup.run, &setup.around, &wishes);
        let offer = measured(&setup, &field, setup.run.route.clone(), Style::DesignVector);
        Ok(Compared { name, kept, offer, workup: workup_of_drag(&there, id, scans)? })
    });
    each.collect()
}

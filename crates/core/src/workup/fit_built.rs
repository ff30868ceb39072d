//! A run's pipe as it was built, beside the one that was planned: where it has come to lie, and what it is too near to there.

use serde::Serialize;
use utoipa::ToSchema;

use super::clearance::{clear_of, closest_about};
use super::cutting::SolidWorkup;
use super::fit_known::Known;
use super::landing::Made;
use crate::assembly::Assembly;
use crate::cut::PieceId;
use crate::environment::{Environment, Scans, Thing};
use crate::findings::too_near;
use crate::fit::{PipeToMake, Stands, Touch};
use crate::job::Job;
use crate::measure::KeepOutId;
use crate::reach::turned;
use crate::route::ResolvedRun;
use nook_geometry::Triple;
use nook_geometry::clearance::Closest;
use nook_geometry::units::{DualUnitText, Measure};

/// A pipe as it was built, as far as is known.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BuiltWorkup {
    /// Its pieces put on at A, their other end where that comes to lie.
    pub pieces: Vec<BuiltPiece>,
    /// The middle of the mouth at B as it is believed to stand, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub mouth: [f64; 3],
    /// The way out of it.
    #[schema(value_type = Triple)]
    pub out: [f64; 3],
    /// The most that anything of it lies beside its plan once it has settled between its joints.
    pub stray: Measure,
    /// What it is nearer to then than it may be and than was planned, the worst first; nothing where that could not be worked out.
    pub near: Option<Vec<BuiltNear>>,
}

/// A piece as it has come to lie.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BuiltPiece {
    /// Which.
    pub piece: PieceId,
    /// What is written on it.
    pub name: String,
    /// Its straight stretches.
    pub solids: Vec<SolidWorkup>,
}

/// Something that a pipe as built is too near to.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BuiltNear {
    /// In words, with both gaps.
    pub words: DualUnitText,
    /// Whether it meets it.
    pub fouls: bool,
}

/// Gaps that differ by less than this, in mm, are the same: what clearance is told to.
const SAME: f64 = 0.1;

impl BuiltWorkup {
    pub(super) fn of(
        job: &Job,
        made: &Made<'_>,
        pipe: &PipeToMake<'_>,
        known: &Known,
        scans: &Scans,
        names: &[(PieceId, String)],
    ) -> Self {
        let errors = known.errors();
        let on = pipe.as_built(&known.model, &errors, Stands::OnAtA);
        let settled = pipe.as_built(&known.model, &errors, Stands::Settled);
        let (mouth, out) = on.mouth();
        let solids = on.solids();
        let pieces = solids.iter().zip(names).map(|(solids, (piece, name))| BuiltPiece {
            piece: *piece,
            name: name.clone(),
            solids: solids.iter().map(|solid| SolidWorkup::of(&made.run, solid)).collect(),
        });
        let around = Environment::of(job, &made.survey, &made.run, scans);
        let planned = gaps(&made.run, &made.pipe, &around);
        let near = settled.run().and_then(|run| {
            let pipe = Assembly::build(&run)?.ok()?;
            let now = gaps(&run, &pipe, &around);
            let worse = now.into_iter().filter(|(index, gap, ..)| {
                let before = planned.iter().find(|(other, ..)| other == index);
                before.is_none_or(|(_, before, ..)| *gap < before - SAME)
            });
            Some(worse.map(|(_, gap, words)| BuiltNear { words, fouls: gap <= 0.0 }).collect())
        });
        Self {
            pieces: pieces.collect(),
            mouth: mouth.coords.into(),
            out: out.into(),
            stray: Measure(settled.stray()),
            near,
        }
    }

    /// Whether it meets something that the plan keeps from.
    pub(super) fn fouls(&self) -> bool {
        self.near.iter().flatten().any(|near| near.fouls)
    }
}

/// Where a pipe as planned comes nearest to a thing, both at rest; `None` where the two meet, or are further apart than is told.
pub(super) fn touch_of(job: &Job, made: &PipeToMake<'_>, scans: &Scans, keep_out: KeepOutId) -> Option<Touch> {
    let around = Environment::of(job, made.survey, made.run, scans);
    let index = around.identities.iter().position(|identity| identity.thing == Thing::KeepOut { keep_out })?;
    let moves = made.pipe.moves(made.run);
    let outside = made.pipe.envelope_moving(made.run, &moves);
    let counted = around.counted(&outside, made.run.tube.od() / 2.0);
    let worst = clear_of(&around, &counted, index)?;
    let Closest { gap, at: [from, to] } = closest_about(&around, &counted, index, worst.station)?;
    let towards = (to - from).try_normalize(1e-9).filter(|_| gap > 0.0)?;
    Some(Touch { keep_out, at: from, towards, gap })
}

/// What a pipe is too near to beyond its mouths, by its place in the surroundings, with the gap and that in words.
fn gaps(run: &ResolvedRun, pipe: &Assembly, around: &Environment) -> Vec<(Option<usize>, f64, DualUnitText)> {
    let (pipe, _) = turned(run, pipe.clone(), around);
    let moves = pipe.moves(run);
    let outside = pipe.envelope_moving(run, &moves);
    let counted = around.counted_past_mouths(&outside);
    let near = too_near(around, &counted);
    near.iter().map(|near| (near.index, near.near.gap, near.finding(run, &pipe).words)).collect()
}

//! What follows for each branch, and the highs and lows of the bore.

use serde::Serialize;
use utoipa::ToSchema;

use super::PieceWorkup;
use crate::assembly::{Assembly, BoreExtreme, SeatedBranch};
use crate::edit::Edit;
use crate::environment::Environment;
use crate::findings::{let_in_at, way_in};
use crate::job::Job;
use crate::join::{BranchKind, WAY_IN};
use crate::measure::{Port, RunId};
use crate::part_ref::PartRef;
use crate::route::{BranchId, LegId, ResolvedRun, Run};
use crate::stock::Duty;
use crate::survey::Survey;
use nook_geometry::units::Measure;
use nook_geometry::{Triple, Vector};

/// Something let into the tube. Stations in mm along the tube's centre line, from the tube's end at A.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BranchWorkup {
    /// Which.
    pub branch: BranchId,
    /// What it is called.
    pub name: String,
    /// What it is for.
    pub kind: BranchKind,
    /// On which straight it is.
    pub straight: LegId,
    /// From the start of its straight to where its axis pierces the tube's skin.
    pub from_start: Measure,
    /// From there to the end of its straight.
    pub from_end: Measure,
    /// Station of that.
    pub at: Measure,
    /// Station at which its hole begins.
    pub from: Measure,
    /// Station at which it ends.
    pub to: Measure,
    /// The clock it leaves the pipe at, in degrees from up.
    pub clock: f64,
    /// Whether somebody said so.
    pub clock_held: bool,
    /// Its outside diameter.
    pub od: Measure,
    /// How far it stands out of the skin along its axis.
    pub reach: Measure,
    /// Degrees between its axis and the direction of travel.
    pub angle: f64,
    /// How far its axis passes beside the tube's, to the left for who travels with the branch upwards.
    pub offset: Measure,
    /// Where its axis pierces the tube's skin, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub pierces: [f64; 3],
    /// The way out along its axis, of length 1.
    #[schema(value_type = Triple)]
    pub out: [f64; 3],
    /// Room along its axis beyond its end for what goes in, up to what that wants.
    pub way_in: Measure,
    /// What that wants.
    pub way_in_wanted: Measure,
    /// The piece it is let into, and where along that; nothing where there is none to cut.
    pub mark: Option<BranchMark>,
    /// Round the tube's skin from the line that faces up to where its axis pierces that, clockwise for who travels.
    pub round: Measure,
    /// Whether it sits on its tube all round, so that hole and end can be marked.
    pub sits: bool,
}

/// Where a hole is marked on the piece it is let into: along the line on the skin through its middle, so that mitred ends are
/// counted in.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BranchMark {
    /// What is written on the piece.
    pub piece: String,
    /// From its end towards A; nothing where a bend is drawn before.
    pub from_a: Option<Measure>,
    /// From its end towards B; nothing where a bend is drawn after.
    pub from_b: Option<Measure>,
}

/// A high or a low of the bore.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BoreExtremeWorkup {
    /// Whether it is a high.
    pub high: bool,
    /// Station along the tube, from the tube's end at A.
    pub at: Measure,
    /// Whether a bleed or a filler lets its air out, or a drain its liquid.
    pub served: bool,
    /// What lets in a bleed or a drain there; nothing where no straight near it has room.
    #[schema(inline = false)]
    pub edit: Option<Edit>,
}

/// The mouth of a stub, from which another pipe may begin.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BranchMouth {
    /// Of which run.
    pub run: RunId,
    /// Which of its branches.
    pub branch: BranchId,
    /// The mouth as it stands now.
    #[schema(inline = false)]
    pub port: Port,
}

impl BranchMouth {
    /// The mouths of all stubs of a job.
    pub(super) fn all(job: &Job, survey: &Survey<'_>) -> Vec<Self> {
        let stubs = |run: &&Run| run.route.branches().iter().any(|branch| branch.kind.is_stub());
        let of = |run: &Run| {
            let run = survey.settle(run);
            let pipe = Assembly::build(&run).and_then(Result::ok)?;
            let mouths = pipe.stub_mouths(&run).into_iter();
            Some(mouths.map(|mouth| Self { run: run.id, branch: mouth.branch, port: mouth.port }).collect::<Vec<_>>())
        };
        job.runs().iter().filter(stubs).filter_map(of).flatten().collect()
    }
}

impl BranchWorkup {
    pub(super) fn all(run: &ResolvedRun, pipe: &Assembly, around: &Environment, pieces: &[PieceWorkup]) -> Vec<Self> {
        pipe.branches.iter().map(|branch| Self::of(run, pipe, branch, (around, pieces))).collect()
    }

    fn of(
        run: &ResolvedRun,
        pipe: &Assembly,
        seated: &SeatedBranch,
        (around, pieces): (&Environment, &[PieceWorkup]),
    ) -> Self {
        let begin = pipe.begin();
        let [start, end] = pipe.straight_stations().get(seated.leg).copied().unwrap_or([seated.station; 2]);
        let [from, to] = seated.hole();
        let branch = run.route.branch(seated.id);
        let (clock, angle, offset) =
            branch.map_or((0.0, 90.0, 0.0), |branch| (branch.clock(), branch.angle(), branch.offset()));
        Self {
            branch: seated.id,
            name: run.route.branch_name(seated.id).unwrap_or_default(),
            kind: seated.kind,
            straight: run.route.leg_id(seated.leg),
            from_start: Measure(seated.station - start),
            from_end: Measure(end - seated.station),
            at: Measure(seated.station - begin),
            from: Measure(from - begin),
            to: Measure(to - begin),
            clock,
            clock_held: branch.is_some_and(|branch| branch.clock.is_some()),
            od: Measure(seated.od),
            reach: Measure(seated.reach),
            angle,
            offset: Measure(offset),
            pierces: seated.at.coords.into(),
            out: seated.out.into(),
            way_in: Measure(way_in(run, pipe, seated, around).map_or(WAY_IN, |(room, _)| room)),
            way_in_wanted: Measure(WAY_IN),
            mark: BranchMark::of(run, seated, pieces),
            round: Measure(run.tube.od() / 2.0 * seated.turn),
            sits: seated.saddle.is_ok(),
        }
    }
}

impl BranchMark {
    fn of(run: &ResolvedRun, seated: &SeatedBranch, pieces: &[PieceWorkup]) -> Option<Self> {
        let straight = PartRef::Straight { run: run.id, straight: run.route.leg_id(seated.leg) };
        let along = seated.along;
        // How far along the tube from the hole's middle a plane meets the line on the skin through it.
        let to_plane = |[at, normal]: [[f64; 3]; 2]| {
            let normal = Vector::from(normal);
            (Vector::from(at) - seated.at.coords).dot(&normal) / along.dot(&normal)
        };
        pieces.iter().find_map(|piece| {
            let nth = piece.solids.iter().position(|one| {
                let (first, last) = ([one.solid.from, one.solid.from_normal], [one.solid.to, one.solid.to_normal]);
                one.part == straight && to_plane(first) <= 0.0 && to_plane(last) >= 0.0
            })?;
            let solid = piece.solids[nth].solid;
            let from_a = (nth == 0).then(|| Measure(-to_plane([solid.from, solid.from_normal])));
            let from_b = (nth + 1 == piece.solids.len()).then(|| Measure(to_plane([solid.to, solid.to_normal])));
            Some(Self { piece: piece.name.clone(), from_a, from_b })
        })
    }
}

impl BoreExtremeWorkup {
    /// Of what a liquid flows in; elsewhere they do not matter. Oil under pressure takes its air along: of that only the lows.
    pub(super) fn all(run: &ResolvedRun, pipe: &Assembly) -> Vec<Self> {
        if !run.duty.is_liquid() {
            return Vec::new();
        }
        let radius = run.tube.bore() / 2.0;
        let of = |extreme: BoreExtreme| {
            let kind = if extreme.high { BranchKind::Bleed } else { BranchKind::Drain };
            let served = pipe.branches.iter().any(|branch| branch.serves(&extreme, pipe, radius));
            let edit = if served { None } else { let_in_at(run, pipe, &extreme, kind) };
            Self { high: extreme.high, at: Measure(extreme.station - pipe.begin()), served, edit }
        };
        let all = pipe.bore_extremes(radius).into_iter();
        all.filter(|one| !one.high || run.duty == Duty::Coolant).map(of).collect()
    }
}

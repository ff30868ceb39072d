//! What a component's place is judged by, in figures and words; and how it is held.

use serde::Serialize;
use utoipa::ToSchema;

use crate::environment::Scans;
use crate::job::Job;
use crate::measure::{BracketStock, Component, ComponentId, Holding, KeepOutId, MountId, MountPoint};
use crate::placing::{
    BoltFit, BracketPlan, Rules, Sway, SwayError, bolt_fit, bracket_ends, bracket_plan, clamped, rules, sway,
};
use crate::survey::Survey;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, Measure};

/// What a component's place is judged by.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlacingWorkup {
    /// What the opening shows of its breathing face.
    pub shown: Option<ShownWorkup>,
    /// How far it hangs out of level from side to side, in degrees, left side up.
    pub level: Option<f64>,
    /// The core ahead of its breathing face.
    pub core: Option<CoreWorkup>,
    /// How it stands over the ground.
    pub ground: Option<GroundWorkup>,
    /// Room for a hand.
    pub hand: Option<HandWorkup>,
    /// How it is held; nothing while it has no mounting points.
    pub sway: Option<SwayWorkup>,
    /// Its mounting points, with what holds them.
    pub mounts: Vec<MountWorkup>,
}

/// What the opening shows of a face.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ShownWorkup {
    /// The share of the face, 0 to 1.
    pub share: f64,
    /// How far its middle lies to the left of the opening's.
    pub aside: Measure,
    /// How far it lies above it.
    pub above: Measure,
}

/// The core ahead.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CoreWorkup {
    /// Whose.
    pub component: ComponentId,
    /// What that is called.
    pub name: String,
    /// From the face to its back, where they are furthest apart.
    pub gap: Measure,
}

/// How a component stands over the ground.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct GroundWorkup {
    /// Over flat ground, the wheels at full bump.
    pub flat: Measure,
    /// Over the ramp, the wheels as they stand.
    pub ramp: Measure,
    /// The steepest ramp in degrees that it clears, up to 45.
    pub steepest: f64,
}

/// Room for a hand.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HandWorkup {
    /// How deep nothing stands before the face, up to what is asked.
    pub free: Measure,
    /// What is asked.
    pub wanted: Measure,
    /// What stands in the way.
    pub by: Option<KeepOutId>,
}

/// How a component is held.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SwayWorkup {
    /// Its lowest frequency in Hz; 0 where nothing but friction holds it some way, nothing where it is not known.
    pub frequency: Option<f64>,
    /// Which way it swings most, of length 1.
    #[schema(value_type = Option<Triple>)]
    pub way: Option<[f64; 3]>,
    /// How far it goes under its own weight forward, left and up.
    #[schema(min_items = 3, max_items = 3)]
    pub shaken: Option<[Measure; 3]>,
    /// The same in words, or why it is not known.
    pub words: DualUnitText,
}

/// A mounting point and what holds it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MountWorkup {
    /// Which.
    pub mount: MountId,
    /// As it was measured, with what was decided.
    pub is: MountPoint,
    /// Where it stands.
    #[schema(min_items = 3, max_items = 3)]
    pub at: [Measure; 3],
    /// Out of the component, where it stands.
    #[schema(value_type = Triple)]
    pub out: [f64; 3],
    /// Its bracket; nothing where it has none, or none can be made.
    pub bracket: Option<BracketWorkup>,
    /// Why there is none where one is asked for.
    pub problem: Option<String>,
    /// The bolt into its boss; nothing where it is not blind.
    pub bolt: Option<BoltWorkup>,
    /// The first mounting point of the component whose bracket is of the same pattern, as it is or mirrored.
    pub like: Option<MountId>,
}

/// A bracket as it is cut and bent. Its pattern is seen with the face that lies against the component down.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BracketWorkup {
    /// Length to cut.
    pub length: Measure,
    /// Width of the pattern: of angle both legs'.
    pub width: Measure,
    /// Its thickness.
    pub thickness: Measure,
    /// Its holes, the component's first.
    pub holes: Vec<HoleWorkup>,
    /// Its bends, from the component's end.
    pub bends: Vec<FlatBendWorkup>,
    /// Whether it is angle, whose heel runs along its middle.
    pub angle: bool,
    /// Its mass in kg.
    pub mass: f64,
    /// Where its middle surface goes, hole to hole, in mm.
    #[schema(value_type = Vec<Triple>)]
    pub line: Vec<[f64; 3]>,
    /// Across it, of length 1.
    #[schema(value_type = Triple)]
    pub across: [f64; 3],
}

/// A hole of a pattern.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoleWorkup {
    /// From the end at the component.
    pub along: Measure,
    /// From the middle line to the left.
    pub aside: Measure,
    /// Its diameter.
    pub diameter: Measure,
    /// Whether it is for the component; else for the car.
    pub component: bool,
}

/// A bend of a pattern.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FlatBendWorkup {
    /// Its middle line, from the end at the component.
    pub along: Measure,
    /// Degrees, above zero towards whoever looks at the pattern.
    pub angle: f64,
}

/// A bolt.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BoltWorkup {
    /// Its length; nothing where none fits.
    pub length: Option<Measure>,
    /// Said in words.
    pub words: DualUnitText,
}

impl PlacingWorkup {
    pub(super) fn of(job: &Job, survey: &Survey<'_>, component: &Component, scans: &Scans) -> Self {
        let Rules { shown, level, core, ground, hand } = rules(job, survey, component, scans);
        let name = |id| job.component(id).map_or_else(String::new, |one| one.name.as_str().to_owned());
        let mut plans: Vec<(MountId, BracketPlan)> = Vec::new();
        let mounts = component.mounts.iter().map(|mount| mount_workup(survey, component, mount, &mut plans));
        Self {
            mounts: mounts.collect(),
            shown: shown.map(|one| ShownWorkup {
                share: one.share,
                aside: Measure(one.aside),
                above: Measure(one.above),
            }),
            level,
            core: core.map(|core| CoreWorkup {
                component: core.component,
                name: name(core.component),
                gap: Measure(core.gap),
            }),
            ground: ground.map(|one| GroundWorkup {
                flat: Measure(one.flat),
                ramp: Measure(one.ramp),
                steepest: one.steepest,
            }),
            hand: hand.map(|one| HandWorkup { free: Measure(one.free), wanted: Measure(one.wanted), by: one.by }),
            sway: (!component.mounts.is_empty()).then(|| SwayWorkup::of(&sway(job, survey, component))),
        }
    }
}

impl SwayWorkup {
    fn of(judged: &Result<Sway, SwayError>) -> Self {
        let words = crate::findings::sway_words(judged);
        let Ok(sway) = judged else { return Self { frequency: None, way: None, shaken: None, words } };
        Self {
            frequency: Some(sway.mode.frequency),
            way: Some(sway.mode.way.into()),
            shaken: sway.shaken.map(|all| all.map(Measure)),
            words,
        }
    }
}

fn mount_workup(
    survey: &Survey<'_>,
    component: &Component,
    mount: &MountPoint,
    plans: &mut Vec<(MountId, BracketPlan)>,
) -> MountWorkup {
    let planned = match mount.held {
        Some(Holding::Bracket { bracket }) => bracket_ends(survey, component, mount, &bracket)
            .map(|[one, other]| bracket_plan(&one, &other, bracket.stock, bracket.material)),
        Some(Holding::Car) | None => None,
    };
    let (plan, problem) = match planned {
        Some(Ok(plan)) => (Some(plan), None),
        Some(Err(problem)) => (None, Some(problem.to_string())),
        None => (None, None),
    };
    let like = plan.as_ref().and_then(|plan| plans.iter().find(|(_, known)| known.is_alike(plan)).map(|(id, _)| *id));
    let workup = plan.as_ref().map(BracketWorkup::of);
    plans.extend(plan.map(|plan| (mount.id, plan)));
    let displaced = component.displacement();
    MountWorkup {
        mount: mount.id,
        is: mount.clone(),
        at: <[f64; 3]>::from((displaced * mount.at.inner()).coords).map(Measure),
        out: component.carried(mount.out).to_array(),
        bolt: mount_bolt(mount),
        bracket: workup,
        problem,
        like,
    }
}

fn mount_bolt(mount: &MountPoint) -> Option<BoltWorkup> {
    let fit = bolt_fit(mount.bolt.get(), clamped(mount)?, mount.boss?.get());
    Some(match fit {
        Ok(BoltFit { length, grip }) => BoltWorkup {
            length: Some(Measure(length)),
            words: DualUnitText::new(|unit| {
                format!("M{:.0} x {length:.0} and one washer; {} of it in the boss.", mount.bolt.get(), unit.text(grip))
            }),
        },
        Err(problem) => BoltWorkup { length: None, words: problem.words(mount.name.as_str()) },
    })
}

impl BracketWorkup {
    fn of(plan: &BracketPlan) -> Self {
        let hole = |hole: &crate::placing::FlatHole| HoleWorkup {
            along: Measure(hole.at[0]),
            aside: Measure(hole.at[1]),
            diameter: Measure(hole.diameter),
            component: hole.component,
        };
        let thickness = match plan.stock {
            BracketStock::Strip { thickness, .. } | BracketStock::Angle { thickness, .. } => thickness.get(),
        };
        Self {
            length: Measure(plan.length),
            width: Measure(plan.width),
            thickness: Measure(thickness),
            holes: plan.holes.iter().map(hole).collect(),
            bends: plan
                .bends
                .iter()
                .map(|bend| FlatBendWorkup { along: Measure(bend.at), angle: bend.angle })
                .collect(),
            angle: matches!(plan.stock, BracketStock::Angle { .. }),
            mass: plan.mass,
            line: plan.line.iter().map(|at| at.coords.into()).collect(),
            across: plan.across.into(),
        }
    }
}

//! One component: where it stands, what it may be moved by and how far that goes.

use nalgebra::Isometry3;
use serde::Serialize;
use utoipa::ToSchema;

use super::PlacingWorkup;
use crate::environment::Scans;
use crate::job::Job;
use crate::measure::{Breathing, Component, ComponentId, Freedom, InstallState, KeepOutId, PlacingWishes, PortRef};
use crate::survey::Survey;
use nook_geometry::Triple;
use nook_geometry::units::{Measure, MountHeight};

/// One component.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ComponentWorkup {
    /// Which.
    pub component: ComponentId,
    /// What it is.
    pub name: String,
    /// The keep-outs that are its body.
    pub body: Vec<KeepOutId>,
    /// The ports on it.
    pub ports: Vec<PortRef>,
    /// The point it is placed by, where it stands; nothing while it has no body and no port.
    #[schema(min_items = 3, max_items = 3)]
    pub at: Option<[Measure; 3]>,
    /// Whether it stands elsewhere than where it was measured.
    pub moved: bool,
    /// What it may be moved by, the one nearest to the car first.
    pub freedoms: Vec<FreedomWorkup>,
    /// How much higher it stands on its mounts than when it was measured.
    pub raised: Option<Measure>,
    /// Whether it was there when it was measured.
    pub standing: InstallState,
    /// Its mass in kg.
    pub mass: Option<f64>,
    /// What it breathes.
    pub breathing: Option<Breathing>,
    /// What is wished of its place.
    pub wishes: PlacingWishes,
    /// Why this one.
    pub note: Option<String>,
    /// What its place is judged by, and how it is held.
    pub placing: PlacingWorkup,
}

/// One freedom of a component.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FreedomWorkup {
    /// The freedom as it was decided.
    pub is: Freedom,
    /// The axis of a turn, or the way of a slide, where those before it carry it.
    #[schema(value_type = Triple)]
    pub axis: [f64; 3],
    /// A point on that axis; for a slide the point that the component is placed by.
    #[schema(value_type = Option<Triple>)]
    pub through: Option<[f64; 3]>,
    /// Least setting, in degrees or mm.
    pub least: f64,
    /// Most.
    pub most: f64,
    /// The step between settings, where there are only some.
    pub step: Option<f64>,
    /// How it is set.
    pub setting: f64,
    /// The same as a length, for a slide.
    pub slid: Option<Measure>,
}

impl ComponentWorkup {
    pub(super) fn of(job: &Job, survey: &Survey<'_>, component: &Component, scans: &Scans) -> Self {
        let displaced = component.displacement();
        let at = survey.measured_place(component).map(|at| displaced * at);
        let mut carrying = Isometry3::identity();
        let freedoms = component.freedoms.iter().map(|freedom| {
            let (axis, through) = match freedom {
                Freedom::Turn { pivot, axis, .. } => (axis.vector(), Some((carrying * pivot.inner()).coords.into())),
                Freedom::Slide { along, .. } => (along.vector(), at.map(|at| at.coords.into())),
            };
            let axis = (carrying * axis).into();
            carrying *= freedom.displacement();
            let [least, most] = freedom.limits();
            let slid = matches!(freedom, Freedom::Slide { .. }).then(|| Measure(freedom.setting()));
            FreedomWorkup {
                is: *freedom,
                axis,
                through,
                least,
                most,
                step: freedom.step(),
                setting: freedom.setting(),
                slid,
            }
        });
        Self {
            component: component.id,
            name: component.name.as_str().to_owned(),
            body: component.body.clone(),
            ports: component.ports.clone(),
            freedoms: freedoms.collect(),
            at: at.map(|at| <[f64; 3]>::from(at.coords).map(Measure)),
            moved: component.is_moved(),
            raised: component.raised.map(MountHeight::get).map(Measure),
            standing: component.standing,
            mass: component.mass.map(Into::into),
            breathing: component.breathing,
            wishes: component.wishes,
            note: component.note.as_ref().map(|note| note.as_str().to_owned()),
            placing: PlacingWorkup::of(job, survey, component, scans),
        }
    }
}

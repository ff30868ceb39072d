//! Decisions about the big things as wholes: what belongs to one, what moves it, what it breathes and how it is held.

use nalgebra::Isometry3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::copied::{Copying, copied};
use super::lookup::{component_mut, take_id};
use super::swapped::swapped;
use super::{ComponentChange, EditError, Made};
use crate::job::Job;
use crate::measure::{
    Component, ComponentDesign, ComponentId, Freedom, KeepOutId, MountId, MountPoint, Opening, OpeningId, PortRef,
    Stance,
};
use crate::survey::Survey;
use nook_geometry::units::Name;
use nook_geometry::{Point, Vector};

/// A decision about the big things, the openings they breathe through and how the car stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum PlaceEdit {
    /// Makes one component of keep-outs and ports.
    AddComponent {
        /// What it is.
        name: Name,
        /// The keep-outs that are its body.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        body: Vec<KeepOutId>,
        /// The ports on it.
        ports: Vec<PortRef>,
        /// What it may be moved by, the one nearest to the car first.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        freedoms: Vec<Freedom>,
    },
    /// Changes one thing about a component.
    ChangeComponent {
        /// Which one.
        component: ComponentId,
        /// What is changed.
        to: ComponentChange,
    },
    /// Turns or slides a component; its body and its ports go with it.
    SetFreedom {
        /// Which one.
        component: ComponentId,
        /// Which of its freedoms, from 0.
        freedom: usize,
        /// Degrees or mm from how it was measured.
        to: f64,
    },
    /// Moves a component as near as its slides let it, its turns as they are.
    MoveComponent {
        /// Which one.
        component: ComponentId,
        /// Where the point that it is placed by is wanted: its first body's, or its first port's middle.
        to: Point,
    },
    /// Copies a component's body and mounting points, or makes the mirror image in the car's middle plane; the ports are
    /// the runs' own.
    CopyComponent {
        /// Which one.
        component: ComponentId,
        /// What the copy is called.
        name: Name,
        /// How far the copy stands from it, or from its image, in mm.
        by: Point,
        /// Whether it is mirrored.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        mirrored: bool,
    },
    /// Puts another in a component's place: its body's middle and turn stay.
    SwapComponent {
        /// Which one.
        component: ComponentId,
        /// The other.
        with: ComponentDesign,
    },
    /// Takes a component apart; what it was made of stays, as measured.
    RemoveComponent {
        /// Which one.
        component: ComponentId,
    },
    /// Adds a mounting point; its number is given anew.
    AddMount {
        /// Of which component.
        component: ComponentId,
        /// The point, as it was measured.
        mount: MountPoint,
    },
    /// Describes a mounting point anew.
    SetMount {
        /// Of which component.
        component: ComponentId,
        /// The point; its number says which.
        mount: MountPoint,
    },
    /// Takes a mounting point away.
    RemoveMount {
        /// Of which component.
        component: ComponentId,
        /// Which.
        mount: MountId,
    },
    /// Adds an opening.
    AddOpening {
        /// What it is.
        name: Name,
        /// Its outline in order.
        outline: Vec<Point>,
    },
    /// Describes an opening anew.
    SetOpening {
        /// Which.
        opening: OpeningId,
        /// What it is.
        name: Name,
        /// Its outline in order.
        outline: Vec<Point>,
    },
    /// Takes an opening away.
    RemoveOpening {
        /// Which.
        opening: OpeningId,
    },
    /// Says how the car stands over the ground, or that nobody knows.
    SetStance {
        /// The stance.
        stance: Option<Stance>,
    },
    /// Says of pairs of things that they belong together, so that they may touch.
    BelongTogether {
        /// The pairs.
        pairs: Vec<[KeepOutId; 2]>,
    },
    /// Says of two things that they do not.
    StandApart {
        /// The two.
        pair: [KeepOutId; 2],
    },
}

impl PlaceEdit {
    pub(super) fn apply(&self, job: &mut Job, made: &mut Made) -> Result<(), EditError> {
        match self {
            Self::AddComponent { name, body, ports, freedoms } => {
                let id = ComponentId(take_id(job)?);
                made.component(id);
                let component = Component::new(id, name.clone(), body.clone(), ports.clone());
                // It is as sure to be there as the least sure of its body.
                let parts = body.iter().filter_map(|part| job.keep_out(*part));
                let standing = parts.map(|part| part.standing).max().unwrap_or_default();
                job.components.push(Component { freedoms: freedoms.clone(), standing, ..component });
            }
            Self::ChangeComponent { component, to } => to.apply(component_mut(job, *component)?),
            Self::SetFreedom { component, freedom, to } => set_freedom(job, *component, *freedom, *to)?,
            Self::MoveComponent { component, to } => move_component(job, *component, *to)?,
            Self::CopyComponent { component, name, by, mirrored } => {
                let copying = Copying { name, by: by.inner().coords, mirrored: *mirrored };
                made.component(copied(job, *component, &copying)?);
            }
            Self::SwapComponent { component, with } => swapped(job, *component, with)?,
            Self::RemoveComponent { component } => {
                component_mut(job, *component)?;
                job.components.retain(|one| one.id != *component);
            }
            Self::AddMount { component, mount } => {
                component_mut(job, *component)?;
                let id = MountId(take_id(job)?);
                component_mut(job, *component)?.mounts.push(MountPoint { id, ..mount.clone() });
            }
            Self::SetMount { component, mount } => *mount_mut(job, *component, mount.id)? = mount.clone(),
            Self::RemoveMount { component, mount } => {
                mount_mut(job, *component, *mount)?;
                component_mut(job, *component)?.mounts.retain(|one| one.id != *mount);
            }
            Self::AddOpening { name, outline } => {
                let id = OpeningId(take_id(job)?);
                made.opening(id);
                job.openings.push(Opening { id, name: name.clone(), outline: outline.clone() });
            }
            Self::SetOpening { opening, name, outline } => {
                let one = opening_mut(job, *opening)?;
                (one.name, one.outline) = (name.clone(), outline.clone());
            }
            Self::RemoveOpening { opening } => {
                opening_mut(job, *opening)?;
                job.openings.retain(|one| one.id != *opening);
                for breathing in job.components.iter_mut().filter_map(|one| one.breathing.as_mut()) {
                    breathing.through = breathing.through.filter(|through| through != opening);
                }
            }
            Self::SetStance { stance } => job.stance = *stance,
            Self::BelongTogether { pairs } => {
                for pair in pairs.iter().map(|pair| in_order(*pair)) {
                    if !job.together.contains(&pair) {
                        job.together.push(pair);
                    }
                }
            }
            Self::StandApart { pair } => {
                let pair = in_order(*pair);
                job.together.retain(|one| *one != pair);
            }
        }
        Ok(())
    }
}

const fn in_order([one, other]: [KeepOutId; 2]) -> [KeepOutId; 2] {
    if one.0 <= other.0 { [one, other] } else { [other, one] }
}

fn mount_mut(job: &mut Job, component: ComponentId, mount: MountId) -> Result<&mut MountPoint, EditError> {
    let mounts = &mut component_mut(job, component)?.mounts;
    mounts.iter_mut().find(|one| one.id == mount).ok_or(EditError::NoSuchMount { mount })
}

fn opening_mut(job: &mut Job, opening: OpeningId) -> Result<&mut Opening, EditError> {
    job.openings.iter_mut().find(|one| one.id == opening).ok_or(EditError::NoSuchOpening { opening })
}

fn set_freedom(job: &mut Job, component: ComponentId, index: usize, to: f64) -> Result<(), EditError> {
    let one = component_mut(job, component)?;
    let name = one.name.as_str().to_owned();
    let freedoms = one.freedoms.len();
    let freedom = one.freedoms.get_mut(index).ok_or(EditError::NoSuchFreedom { name, freedoms, index })?;
    *freedom = freedom.set(to)?;
    Ok(())
}

/// Rounds of setting one slide after the other; slides that are square to each other are done after one.
const ROUNDS: usize = 60;
/// Slides are set to this many mm: finer is not measured.
const FINE: f64 = 0.1;

/// Sets the slides so that the component's point comes as near to `to` as they let it.
fn move_component(job: &mut Job, component: ComponentId, to: Point) -> Result<(), EditError> {
    let from = {
        let one = job.components.iter().find(|one| one.id == component);
        let one = one.ok_or(EditError::NoSuchComponent { component })?;
        let nothing = || EditError::NothingMovesIt { name: one.name.as_str().to_owned() };
        if !one.freedoms.iter().any(|freedom| matches!(freedom, Freedom::Slide { .. })) {
            return Err(nothing());
        }
        Survey::new(job).measured_place(one).ok_or_else(nothing)?
    };
    let one = component_mut(job, component)?;
    for _ in 0..ROUNDS {
        let mut moved: f64 = 0.0;
        for index in 0..one.freedoms.len() {
            let Freedom::Slide { along, slid, .. } = one.freedoms[index] else { continue };
            let left = to.inner() - one.displacement() * from;
            let way: Vector = carrying(one, index) * along.vector();
            let wanted = one.freedoms[index].nearest(slid.get() + left.dot(&way));
            let wanted = one.freedoms[index].nearest((wanted / FINE).round() * FINE);
            moved = moved.max((wanted - slid.get()).abs());
            one.freedoms[index] = one.freedoms[index].set(wanted)?;
        }
        if moved < FINE / 2.0 {
            break;
        }
    }
    Ok(())
}

/// What carries freedom `index`: all before it.
fn carrying(component: &Component, index: usize) -> Isometry3<f64> {
    let before = component.freedoms.iter().take(index);
    before.map(Freedom::displacement).fold(Isometry3::identity(), |all, one| all * one)
}

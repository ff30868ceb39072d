//! A component's copy, or its mirror image in the car's middle plane.

use nalgebra::Translation3;

use super::EditError;
use super::lookup::take_id;
use crate::job::Job;
use crate::measure::{
    Breathing, Component, ComponentId, Foot, FootPlace, Freedom, HandRoom, Holding, InstallState, KeepOut, KeepOutId,
    KeepOutShape, MountId, MountPoint, PlacingWishes, Swing,
};
use crate::survey::Survey;
use nook_geometry::units::{Name, OutOfRange};
use nook_geometry::{Direction, Point, Vector};

/// How a component is copied.
pub(super) struct Copying<'a> {
    pub(super) name: &'a Name,
    /// How far the copy stands from it, or from its image, in mm.
    pub(super) by: Vector,
    pub(super) mirrored: bool,
}

impl Copying<'_> {
    fn point(&self, at: Point) -> Result<Point, OutOfRange> {
        let image = if self.mirrored { at.mirrored() } else { at };
        image.moved(self.by)
    }

    fn way(&self, way: Direction) -> Direction {
        if self.mirrored { way.mirrored() } else { way }
    }

    /// A turn about an axis, mirrored, is a turn about the image of the axis the other way.
    fn axis(&self, axis: Direction) -> Direction {
        if self.mirrored { axis.mirrored().reversed() } else { axis }
    }

    fn shape(&self, shape: &KeepOutShape) -> Result<KeepOutShape, OutOfRange> {
        let image = if self.mirrored { shape.mirrored() } else { shape.clone() };
        image.carried(&Translation3::from(self.by).into())
    }

    fn swing(&self, swing: &Swing) -> Result<Swing, OutOfRange> {
        Ok(Swing { pivot: self.point(swing.pivot)?, axis: self.axis(swing.axis), ..*swing })
    }

    fn freedom(&self, freedom: &Freedom) -> Result<Freedom, OutOfRange> {
        Ok(match *freedom {
            Freedom::Turn { pivot, axis, range, turned } => {
                Freedom::Turn { pivot: self.point(pivot)?, axis: self.axis(axis), range, turned }
            }
            Freedom::Slide { along, from, to, slid } => Freedom::Slide { along: self.way(along), from, to, slid },
        })
    }

    /// A hole of the car is there once: a copy's bracket is bolted where that would be, which has to be drilled.
    fn mount(&self, survey: &Survey<'_>, id: MountId, mount: &MountPoint) -> Result<MountPoint, OutOfRange> {
        let held = match mount.held {
            Some(Holding::Bracket { mut bracket }) => {
                let at = match bracket.foot.at {
                    FootPlace::Drilled { at } => at,
                    FootPlace::Datum { datum } => {
                        let found = survey.datum(datum).map_or(mount.at.inner(), |found| found.pose.at);
                        Point::new(found.x, found.y, found.z)?
                    }
                };
                let at = FootPlace::Drilled { at: self.point(at)? };
                bracket.foot = Foot { at, out: self.way(bracket.foot.out), ..bracket.foot };
                Some(Holding::Bracket { bracket })
            }
            other => other,
        };
        Ok(MountPoint { id, at: self.point(mount.at)?, out: self.way(mount.out), held, ..mount.clone() })
    }
}

/// Adds the copy and gives its number.
pub(super) fn copied(job: &mut Job, id: ComponentId, how: &Copying<'_>) -> Result<ComponentId, EditError> {
    let whole = job.components.iter().find(|one| one.id == id).cloned();
    let whole = whole.ok_or(EditError::NoSuchComponent { component: id })?;
    let parts: Vec<KeepOut> = whole.body.iter().filter_map(|part| job.keep_out(*part)).cloned().collect();
    let scanned = parts.iter().find(|part| matches!(part.shape, KeepOutShape::Scan(_)));
    if let Some(part) = scanned {
        return Err(EditError::ScanNotCopied { name: part.name.as_str().to_owned() });
    }
    let mut body: Vec<(KeepOutId, KeepOutId)> = Vec::new();
    for part in parts {
        let shape = how.shape(&Survey::new(job).as_measured(&part))?;
        let swing = part.swing.as_ref().map(|swing| how.swing(swing)).transpose()?;
        let copy = KeepOutId(take_id(job)?);
        body.push((part.id, copy));
        job.keep_outs.push(KeepOut { id: copy, shape, swing, readings: Vec::new(), ..part });
    }
    let new = |old: KeepOutId| body.iter().find(|(was, _)| *was == old).map(|(_, copy)| *copy);
    let mut mounts = Vec::new();
    for mount in &whole.mounts {
        let id = MountId(take_id(job)?);
        mounts.push(how.mount(&Survey::new(job), id, mount)?);
    }
    let freedoms = whole.freedoms.iter().map(|one| how.freedom(one)).collect::<Result<Vec<_>, _>>()?;
    let face = |face| if how.mirrored { mirrored_face(face) } else { face };
    let breathing = whole.breathing.and_then(|one| {
        let body = new(one.body)?;
        Some(Breathing { body, face: face(one.face), ..one })
    });
    let hand = whole.wishes.hand.and_then(|one| {
        let body = new(one.body)?;
        Some(HandRoom { body, face: face(one.face), ..one })
    });
    let wishes = PlacingWishes { hand, ..whole.wishes };
    let id = ComponentId(take_id(job)?);
    let body = body.into_iter().map(|(_, copy)| copy).collect();
    let name = how.name.clone();
    // It is planned: nobody has bought it yet.
    let standing = InstallState::Missing;
    job.components.push(Component {
        id,
        name,
        body,
        ports: Vec::new(),
        freedoms,
        standing,
        breathing,
        wishes,
        mounts,
        ..whole
    });
    Ok(id)
}

const fn mirrored_face(face: crate::measure::BoxFace) -> crate::measure::BoxFace {
    use crate::measure::BoxFace::{Left, Right};
    match face {
        Left => Right,
        Right => Left,
        other => other,
    }
}

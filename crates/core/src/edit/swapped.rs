//! Another component in one's place.

use super::EditError;
use super::lookup::component_mut;
use super::lookup::{sound, take_id};
use crate::job::Job;
use crate::measure::{
    Component, ComponentDesign, ComponentId, InstallState, KeepOutShape, MountId, MountPoint, box_turn,
};
use crate::survey::Survey;
use nook_geometry::{Direction, Point, Vector};

/// Puts `design` where the component is: its first box keeps its middle and its turn, the ports go where the design has
/// them. What was measured of the old one says nothing of the new one, so those readings go.
pub(super) fn swapped(job: &mut Job, id: ComponentId, design: &ComponentDesign) -> Result<(), EditError> {
    let old = job.components.iter().find(|one| one.id == id).cloned();
    let old = old.ok_or(EditError::NoSuchComponent { component: id })?;
    let name = || old.name.as_str().to_owned();
    let boxes = old.body.iter().filter_map(|part| job.keep_out(*part));
    let main = boxes.into_iter().find_map(|part| match Survey::new(job).as_measured(part) {
        KeepOutShape::Box { centre, heading, pitch, roll, .. } => Some((part.id, centre, [heading, pitch, roll])),
        _ => None,
    });
    let Some((main, centre, turn)) = main else { return Err(EditError::NoBoxToSwap { name: name() }) };
    if old.ports.len() != design.ports.len() {
        return Err(EditError::OtherMouths { name: name(), has: old.ports.len(), other: design.ports.len() });
    }
    let [heading, pitch, roll] = turn;
    let turned = box_turn(heading, pitch, roll);
    let place = |at: [f64; 3]| centre.moved(turned * Vector::from(at));
    for (port, new) in old.ports.iter().zip(&design.ports) {
        let at = place(new.at)?;
        let Some(run) = job.runs.iter_mut().find(|run| run.id == port.run) else { continue };
        let one = run.port_mut(port.end);
        (one.at, one.out) = (at, carried(turned * new.out.vector(), new.out));
        (one.od, one.form) = (new.od, new.form);
        one.readings.clear();
    }
    let size = design.size;
    if let Some(part) = job.keep_outs.iter_mut().find(|part| part.id == main) {
        part.shape = KeepOutShape::Box { centre, size, heading, pitch, roll };
        part.readings.clear();
    }
    // What else belonged to the old one goes with it.
    let gone: Vec<_> = old.body.iter().copied().filter(|part| *part != main).collect();
    job.keep_outs.retain(|part| !gone.contains(&part.id));
    job.together.retain(|pair| !pair.iter().any(|part| gone.contains(part)));
    let mut mounts = Vec::new();
    for new in &design.mounts {
        let at: Point = place(new.at)?;
        let out = carried(turned * new.out.vector(), new.out);
        let id = MountId(take_id(job)?);
        mounts.push(MountPoint {
            id,
            name: new.name.clone(),
            at,
            out,
            bolt: new.bolt,
            boss: new.boss,
            rubber: None,
            held: None,
        });
    }
    let one = component_mut(job, id)?;
    *one = Component {
        body: vec![main],
        breathing: old.breathing.filter(|breathing| breathing.body == main),
        wishes: crate::measure::PlacingWishes { hand: old.wishes.hand.filter(|hand| hand.body == main), ..old.wishes },
        standing: InstallState::OnOrder,
        mass: design.mass.or(old.mass),
        mounts,
        note: design.note.clone(),
        ..old
    };
    sound(job)
}

fn carried(way: Vector, plain: Direction) -> Direction {
    Direction::of(way).unwrap_or(plain)
}

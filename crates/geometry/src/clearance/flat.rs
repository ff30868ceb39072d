//! The ends of a pipe that are cut square, against one part of what is in the way.

use nalgebra::Isometry3;
use smallvec::SmallVec;

use super::least::{Near, TOLERANCE, at_rest};
use super::part::{Part, Solid};
use super::slice::{Slice, SliceNear, slice_least};
use super::{Convex, EnvelopePart, Turning};
use crate::{Bunches, Made, Mesh};

/// The least distance between what of a stretch lies from `from` to `to` mm along it, cut square at both, and a part, if
/// it is below `beyond` mm, to within `care` mm. Where they overlap it is how deep, below 0, as told at rest.
pub(super) fn flat_end(
    part: &Part,
    stretch: &EnvelopePart,
    [from, to]: [f64; 2],
    turns: &[Turning],
    [beyond, care]: [f64; 2],
) -> Option<Near> {
    let mut best: Option<Near> = None;
    for slice in Slice::of(&stretch.span, [from, to], stretch.radius) {
        let beyond = best.as_ref().map_or(beyond, |best| best.distance);
        let found = match &part.solid {
            Solid::Convex(room) => slice_least(&slice, room, turns, beyond, care).map(|near| (near, *room)),
            Solid::Mesh(mesh, pose) => to_mesh(&slice, mesh, pose, turns, beyond, care),
        };
        let Some((near, room)) = found else { continue };
        let mut distance = near.distance;
        if distance <= 0.0 {
            let there = turns.iter().zip(near.turns).fold(slice, |slice, (turn, angle)| slice.carried(&turn.at(angle)));
            distance = -there.depth(&room).unwrap_or(TOLERANCE).max(0.0);
        }
        if distance < beyond {
            best = Some(Near { distance, s: near.s, turns: near.turns, away: at_rest(turns, near.away, near.turns) });
        }
    }
    best
}

/// The least distance to a mesh's triangles, and the triangle it is to, as it stands in the vehicle.
fn to_mesh(
    slice: &Slice,
    mesh: &Mesh,
    pose: &Isometry3<f64>,
    turns: &[Turning],
    beyond: f64,
    care: f64,
) -> Option<(SliceNear, Convex)> {
    let home = pose.inverse();
    let slice = slice.carried(&home);
    let turns: SmallVec<[Turning; 2]> = turns.iter().map(|turn| turn.carried(&home)).collect();
    let (centre, radius) = slice.ball();
    // How far its ball can get from where it stands.
    let reach = turns.iter().fold(0.0, |reach, turn| {
        let arm = turn.axis.cross(&(centre - turn.pivot)).norm() + radius + reach;
        reach + arm * turn.from.abs().max(turn.to.abs())
    });
    let bunches = mesh.bunches();
    let mut near: Vec<(f64, u32)> = Vec::new();
    let mut open = vec![Bunches::WHOLE];
    while let Some(bunch) = open.pop().and_then(|index| bunches.get(index)) {
        let off = nalgebra::Vector3::from_fn(|i, _| centre[i] - centre[i].clamp(bunch.low[i], bunch.high[i]));
        if off.norm() - radius - reach >= beyond {
            continue;
        }
        match bunch.of {
            Made::Halves(halves) => open.extend(halves),
            Made::Triangles(first, end) => {
                let far = |index: u32| Convex::Facet(mesh.triangle(index)).distance(&centre).0 - radius - reach;
                near.extend((first..end).map(|index| (far(index), index)).filter(|(far, _)| *far < beyond));
            }
        }
    }
    near.sort_unstable_by(|p, q| p.0.total_cmp(&q.0));
    let mut best: Option<(SliceNear, Convex)> = None;
    for (far, index) in near {
        let beyond = best.as_ref().map_or(beyond, |best| best.0.distance);
        if far >= beyond - care {
            break;
        }
        let room = Convex::Facet(mesh.triangle(index));
        if let Some(found) = slice_least(&slice, &room, &turns, beyond, care) {
            best = Some((found, room));
            if found.distance <= 0.0 {
                break;
            }
        }
    }
    best.map(|(near, room)| (SliceNear { away: pose * near.away, ..near }, room.carried(pose)))
}

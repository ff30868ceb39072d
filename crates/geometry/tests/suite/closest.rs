//! The nearest places of two things: proven by the plane between them, which neither crosses.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use std::sync::Arc;

use nalgebra::{Isometry3, Point3, UnitQuaternion, Vector3};
use nook_geometry::Mesh;
use nook_geometry::clearance::{Convex, Obstacle, Part, Rides, Solid, TOLERANCE};
use proptest::prelude::*;

use crate::clearance::{any_convex, any_place};

type P3 = Point3<f64>;
type V3 = Vector3<f64>;

fn alone(room: Convex) -> Obstacle {
    several(vec![room])
}

fn several(rooms: Vec<Convex>) -> Obstacle {
    Obstacle::new(0.0, rooms.into_iter().map(|room| Part::new(Solid::Convex(room), None, Rides::Body)).collect())
}

/// How far a room reaches along a way, from its definition.
fn reach(room: &Convex, way: V3) -> f64 {
    match room {
        Convex::Ball { centre, radius } => centre.coords.dot(&way) + radius,
        Convex::Bar { from, way: core, radius } => from.coords.dot(&way) + core.dot(&way).max(0.0) + radius,
        Convex::Drum { middle, axis, half, radius } => {
            let along = axis.dot(&way);
            middle.coords.dot(&way) + along.abs() * half + (1.0 - along * along).max(0.0).sqrt() * radius
        }
        Convex::Block { inward, half } => {
            let own = inward.rotation * way;
            inward.inverse().translation.vector.dot(&way) + own.abs().dot(half)
        }
        Convex::Facet(_) => unreachable!("not drawn here"),
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 600, ..ProptestConfig::default() })]

    #[test]
    fn no_two_places_are_nearer_than_those_told(one in any_convex(), other in any_convex()) {
        let found = alone(one).closest(&alone(other)).unwrap();
        if found.gap > 1e-3 {
            // Both are on the skins, as far apart as is said, and the two planes square to the line between them have each
            // room on its own side but for what nobody is told: nothing can be nearer by more.
            let [p, q] = found.at;
            prop_assert!((one.distance(&p).0.abs() < 1e-3) && (other.distance(&q).0.abs() < 1e-3));
            prop_assert!(((q - p).norm() - found.gap).abs() < 1e-6);
            let way = (q - p) / found.gap;
            let least = -reach(&other, -way) - reach(&one, way);
            prop_assert!(found.gap - least <= TOLERANCE, "{} told, proven {least}", found.gap);
        } else {
            // No plane parts them by more than a hair: as many as can be told of in a test are tried.
            let most = directions().map(|way| -reach(&other, -way) - reach(&one, way)).fold(f64::NEG_INFINITY, f64::max);
            prop_assert!(most < 2e-3, "parted by {most}");
            // How deep is no more than the least that parts them.
            prop_assert!(found.gap >= most - 1.0, "{} told, {most} parts them", found.gap);
        }
    }

    #[test]
    fn it_is_the_same_from_either_side_and_the_least_of_its_parts(
        ones in prop::collection::vec(any_convex(), 1..5),
        others in prop::collection::vec(any_convex(), 1..5),
    ) {
        let (one, other) = (several(ones.clone()), several(others.clone()));
        let (there, back) = (one.closest(&other).unwrap().gap, other.closest(&one).unwrap().gap);
        prop_assert!((there - back).abs() < 2e-2 || (there < 0.0 && back < 0.0));
        let each = ones.iter().flat_map(|p| others.iter().map(|q| alone(*p).closest(&alone(*q)).unwrap().gap));
        let least = each.fold(f64::INFINITY, f64::min);
        prop_assert!((there - least).abs() < 1e-9, "{there} and {least}");
    }

    #[test]
    fn a_surface_of_triangles_is_as_near_as_the_box_it_is_of(room in any_convex(), at in any_place(250.0), turn in 0.0..6.0_f64) {
        let half = V3::new(60.0, 40.0, 25.0);
        let pose = Isometry3::from_parts(V3::from(at).into(), UnitQuaternion::from_euler_angles(turn, 0.3, 1.1));
        let corner = |k: usize| {
            let side = |bit: usize, half: f64| if k >> bit & 1 == 1 { half } else { -half };
            [side(0, half.x), side(1, half.y), side(2, half.z)]
        };
        let vertices: Vec<[f64; 3]> = (0..8).map(corner).collect();
        let faces = [[0, 1, 3, 2], [4, 5, 7, 6], [0, 1, 5, 4], [2, 3, 7, 6], [0, 2, 6, 4], [1, 3, 7, 5]];
        let triangles = faces.iter().flat_map(|[a, b, c, d]| [[*a, *b, *c], [*a, *c, *d]]).collect();
        let mesh = Arc::new(Mesh::new(&vertices, triangles).unwrap());
        let scan = Obstacle::new(0.0, vec![Part::new(Solid::Mesh(mesh, pose), None, Rides::Body)]);
        let solid = alone(Convex::Block { inward: pose.inverse(), half });
        let exact = solid.closest(&alone(room)).unwrap().gap;
        prop_assume!(exact > 0.01);
        let told = scan.closest(&alone(room)).unwrap();
        prop_assert!((told.gap - exact).abs() < 1e-2, "{} and {exact}", told.gap);
    }
}

/// Directions over the whole ball.
fn directions() -> impl Iterator<Item = V3> {
    let count = 3000;
    (0..count).map(move |k| {
        let z = 1.0 - 2.0 * (f64::from(k) + 0.5) / f64::from(count);
        let (sin, cos) = (f64::from(k) * 2.399_963_229_728_653).sin_cos();
        let round = (1.0 - z * z).sqrt();
        V3::new(cos * round, sin * round, z)
    })
}

#[test]
fn two_boxes_face_to_face_are_as_far_apart_as_a_ruler_says() {
    let block = |x: f64| Convex::Block { inward: Isometry3::translation(-x, 0.0, 0.0), half: V3::repeat(50.0) };
    let found = alone(block(0.0)).closest(&alone(block(112.5))).unwrap();
    assert!((found.gap - 12.5).abs() < 1e-9);
    assert!((found.at[0].x - 50.0).abs() < 1e-9 && (found.at[1].x - 62.5).abs() < 1e-9);
    let deep = alone(block(0.0)).closest(&alone(block(80.0))).unwrap();
    assert!((deep.gap + 20.0).abs() < 1e-3, "{}", deep.gap);
}

#[test]
fn a_point_is_a_ball_without_size() {
    let dot = |at: P3| alone(Convex::Ball { centre: at, radius: 0.0 });
    let found = dot(P3::new(0.0, 0.0, 0.0)).closest(&dot(P3::new(3.0, 4.0, 0.0))).unwrap();
    assert!((found.gap - 5.0).abs() < 1e-12);
}

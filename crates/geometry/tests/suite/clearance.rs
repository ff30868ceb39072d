//! Gaps against independent answers: dense sampling, closed forms, and finely faceted stand-ins.

#![allow(
    clippy::unwrap_used,
    clippy::panic,
    clippy::cast_lossless,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "a test fails by panicking"
)]

use std::sync::Arc;

use nalgebra::{Isometry3, Point3, Rotation3, Unit, Vector3};
use nook_geometry::clearance::{
    Convex, Counted, Envelope, EnvelopePart, Movement, OF_INTEREST, Obstacle, Part, Rides, Solid, Span, TOLERANCE,
    Turning, nearest, trace,
};
use nook_geometry::{Direction, Mesh, Point, Travel};
use parry3d_f64::math::Vector as Real3;
use parry3d_f64::shape::Triangle;
use proptest::prelude::*;

type P3 = Point3<f64>;
type V3 = Vector3<f64>;

fn obstacle(solids: Vec<Solid>, rides: Rides, swing: Option<Turning>) -> Obstacle {
    let parts = solids.into_iter().map(|solid| Part::new(solid, swing, rides)).collect();
    Obstacle::new(10.0, parts)
}

fn stretch(span: Span, radius: f64, rides: Rides) -> EnvelopePart {
    EnvelopePart { span, radius, rides, stations: [0.0, span.length()], square: [false; 2] }
}

fn travel(at: [f64; 3], along: Direction) -> Travel {
    Travel::start(Point::try_from(at).unwrap(), along)
}

fn any_direction() -> impl Strategy<Value = Direction> {
    (-180.0..180.0_f64, -80.0..80.0_f64).prop_map(|(heading, pitch)| Direction::from_gauge(heading, pitch).unwrap())
}

pub(crate) fn any_place(reach: f64) -> impl Strategy<Value = [f64; 3]> {
    [-reach..reach, -reach..reach, -reach..reach]
}

fn any_span() -> impl Strategy<Value = Span> {
    (any_place(200.0), any_direction(), 0.0..360.0_f64, 20.0..300.0_f64, 0.1..3.0_f64, 5.0..400.0_f64, any::<bool>())
        .prop_map(|(at, along, clock, radius, angle, length, bent)| {
            let start = travel(at, along).clocked(clock.to_radians());
            if bent { Span::arc(&start, radius, angle) } else { Span::straight(&start, length) }
        })
}

fn any_unit() -> impl Strategy<Value = Unit<V3>> {
    any_direction().prop_map(|d| Unit::new_normalize(V3::from(d.to_array())))
}

pub(crate) fn any_convex() -> impl Strategy<Value = Convex> {
    prop_oneof![
        (any_place(250.0), 5.0..120.0_f64).prop_map(|(c, radius)| Convex::Ball { centre: c.into(), radius }),
        (any_place(250.0), any_unit(), 20.0..300.0_f64, 2.0..60.0_f64).prop_map(|(from, way, length, radius)| {
            Convex::Bar { from: from.into(), way: way.into_inner() * length, radius }
        }),
        (any_place(250.0), any_unit(), 5.0..150.0_f64, 5.0..120.0_f64).prop_map(|(m, axis, half, radius)| {
            Convex::Drum { middle: m.into(), axis: axis.into_inner(), half, radius }
        }),
        (any_place(250.0), any_unit(), 0.0..6.0_f64, [5.0..150.0_f64, 5.0..150.0_f64, 5.0..150.0_f64]).prop_map(
            |(m, axis, turn, half)| {
                let pose = Isometry3::new(V3::from(m), axis.into_inner() * turn);
                Convex::Block { inward: pose.inverse(), half: V3::from(half) }
            }
        ),
    ]
}

/// Distance by the definition of each room, written down a second time and without its slope.
fn plain_distance(room: &Convex, at: &P3) -> f64 {
    let outside = |over: &[f64]| -> f64 {
        let beyond = over.iter().map(|o| o.max(0.0).powi(2)).sum::<f64>().sqrt();
        if beyond > 0.0 { beyond } else { over.iter().copied().fold(f64::NEG_INFINITY, f64::max) }
    };
    match room {
        Convex::Ball { centre, radius } => (at - centre).norm() - radius,
        Convex::Bar { from, way, radius } => {
            let t = ((at - from).dot(way) / way.dot(way)).clamp(0.0, 1.0);
            (at - from - way * t).norm() - radius
        }
        Convex::Drum { middle, axis, half, radius } => {
            let along = (at - middle).dot(axis);
            let round = ((at - middle).norm_squared() - along * along).max(0.0).sqrt();
            outside(&[along.abs() - half, round - radius])
        }
        Convex::Block { inward, half } => {
            let own = inward * at;
            outside(&[own.x.abs() - half.x, own.y.abs() - half.y, own.z.abs() - half.z])
        }
        Convex::Facet(_) => panic!("not sampled here"),
    }
}

fn turned(turn: &Turning, angle: f64, at: P3) -> P3 {
    turn.pivot + Rotation3::from_axis_angle(&turn.axis, angle) * (at - turn.pivot)
}

/// How far above the truth a gap may be told, for a pipe of `radius` mm: roughly where the centre line is inside.
fn slack(gap: f64, radius: f64) -> f64 {
    let core = gap + radius;
    TOLERANCE + if core < 0.5 { 0.5 - 0.25 * core.min(0.0) + 0.5 } else { 0.0 }
}

fn steps(from: f64, to: f64, count: u32) -> impl Iterator<Item = f64> {
    (0..=count).map(move |k| from + (to - from) * f64::from(k) / f64::from(count))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, ..ProptestConfig::default() })]

    #[test]
    fn a_distance_and_its_slope_agree_with_the_definition(room in any_convex(), at in any_place(400.0)) {
        let at = P3::from(at);
        let (distance, slope) = room.distance(&at);
        prop_assert!((distance - plain_distance(&room, &at)).abs() < 1e-9);
        // A subgradient never promises more than the distance holds, anywhere.
        for by in [V3::x(), -V3::x(), V3::y(), -V3::y(), V3::z(), -V3::z()].map(|axis| axis * 13.0) {
            prop_assert!(plain_distance(&room, &(at + by)) >= distance + slope.dot(&by) - 1e-9);
        }
    }

    #[test]
    fn the_least_gap_is_what_dense_sampling_finds(room in any_convex(), span in any_span(), radius in 5.0..50.0_f64) {
        let pipe = stretch(span, radius, Rides::Body);
        let found = obstacle(vec![Solid::Convex(room)], Rides::Body, None)
            .gap_to(&pipe, [0.0, span.length()], None, f64::INFINITY).unwrap();
        let step = span.length() / 3000.0;
        let sampled = steps(0.0, span.length(), 3000)
            .map(|s| plain_distance(&room, &span.at(s).0) - radius).fold(f64::INFINITY, f64::min);
        prop_assert!(found.gap <= sampled + slack(sampled, radius) && found.gap >= sampled - step / 2.0 - 1e-9,
            "found {}, sampled {sampled}", found.gap);
    }

    #[test]
    fn a_rolling_engine_is_followed_all_the_way(
        room in any_convex(), span in any_span(), pivot in any_place(300.0), axis in any_unit(),
        roll in 0.5..6.0_f64, shift in 0.0..8.0_f64,
    ) {
        let roll = Turning { pivot: pivot.into(), axis, from: -roll.to_radians(), to: roll.to_radians() };
        let thing = obstacle(vec![Solid::Convex(room)], Rides::Engine, None);
        let movement = Movement::of_engine(roll, shift);
        let whole = [0.0, span.length()];
        let still = thing.gap_to(&stretch(span, 20.0, Rides::Engine), whole, Some(&movement), f64::INFINITY).unwrap();
        let found = thing.gap_to(&stretch(span, 20.0, Rides::Body), whole, Some(&movement), f64::INFINITY).unwrap();
        prop_assert!(found.gap <= still.gap - shift + 2.0 * slack(found.gap, 20.0 + shift), "what moves comes no less near");
        let mut sampled = f64::INFINITY;
        for angle in steps(roll.from, roll.to, 60) {
            for s in steps(0.0, span.length(), 120) {
                let at = turned(&roll, angle, span.at(s).0);
                sampled = sampled.min(plain_distance(&room, &at) - 20.0 - shift);
            }
        }
        // What the grid can miss: half a step along the pipe and half a step of the roll at that arm.
        let arm = steps(0.0, span.length(), 20).map(|s| (span.at(s).0 - roll.pivot).norm()).fold(0.0, f64::max);
        let miss = span.length() / 240.0 + (arm + 20.0) * roll.to / 60.0;
        prop_assert!(found.gap <= sampled + slack(sampled, 20.0 + shift) && found.gap >= sampled - miss, "found {}, sampled {sampled}", found.gap);
    }

    #[test]
    fn a_swing_within_a_roll_is_followed(
        room in any_convex(), span in any_span(), hinge in any_place(300.0), axis in any_unit(), open in 5.0..90.0_f64,
    ) {
        let swing = Turning { pivot: hinge.into(), axis, from: 0.0, to: open.to_radians() };
        let up = Unit::new_normalize(V3::new(1.0, 0.2, 0.0));
        let roll = Turning { pivot: P3::new(0.0, 0.0, -60.0), axis: up, from: -0.07, to: 0.07 };
        let thing = obstacle(vec![Solid::Convex(room)], Rides::Engine, Some(swing));
        let found = thing.gap_to(
            &stretch(span, 15.0, Rides::Body), [0.0, span.length()], Some(&Movement::of_engine(roll, 0.0)), f64::INFINITY,
        ).unwrap();
        let mut sampled = f64::INFINITY;
        for lean in steps(roll.from, roll.to, 10) {
            for angle in steps(swing.from, swing.to, 40) {
                for s in steps(0.0, span.length(), 40) {
                    // The thing swings, then rolls; seen from the thing the place does both backwards.
                    let at = turned(&swing, -angle, turned(&roll, -lean, span.at(s).0));
                    sampled = sampled.min(plain_distance(&room, &at) - 15.0);
                }
            }
        }
        let arm = (span.length() + 700.0) * (swing.to / 80.0 + 0.007) + span.length() / 80.0;
        prop_assert!(found.gap <= sampled + slack(sampled, 15.0) && found.gap >= sampled - arm, "found {}, sampled {sampled}", found.gap);
    }

    #[test]
    fn asked_only_for_what_is_near_it_answers_the_same(room in any_convex(), span in any_span(), beyond in 0.0..200.0_f64) {
        let thing = obstacle(vec![Solid::Convex(room)], Rides::Body, None);
        let pipe = stretch(span, 20.0, Rides::Body);
        let whole = thing.gap_to(&pipe, [0.0, span.length()], None, f64::INFINITY).unwrap();
        match thing.gap_to(&pipe, [0.0, span.length()], None, beyond) {
            Some(found) => prop_assert!((found.gap - whole.gap).abs() <= 2.0 * slack(whole.gap, 20.0) * 4.0 / 3.0 && found.gap < beyond),
            None => prop_assert!(whole.gap >= beyond - TOLERANCE),
        }
        if thing.out_of_reach(&pipe, [0.0, span.length()], None, beyond) {
            prop_assert!(whole.gap >= beyond - 1e-9);
        }
    }
}

/// A sphere of triangles, each corner on it.
fn faceted_ball(centre: P3, radius: f64, rows: u32) -> Mesh {
    let mut vertices = Vec::new();
    for i in 0..=rows {
        for j in 0..2 * rows {
            let (up, round) = (
                std::f64::consts::PI * f64::from(i) / f64::from(rows),
                std::f64::consts::PI * f64::from(j) / f64::from(rows),
            );
            let out = V3::new(up.sin() * round.cos(), up.sin() * round.sin(), up.cos());
            vertices.push((centre + out * radius).coords.into());
        }
    }
    let at = |i: u32, j: u32| i * 2 * rows + j % (2 * rows);
    let mut triangles = Vec::new();
    for i in 0..rows {
        for j in 0..2 * rows {
            triangles.push([at(i, j), at(i + 1, j), at(i + 1, j + 1)]);
            triangles.push([at(i, j), at(i + 1, j + 1), at(i, j + 1)]);
        }
    }
    Mesh::new(&vertices, triangles).unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    /// The other way round: the mesh is the thing and the pipe is exact, at rest and rolling.
    #[test]
    fn a_mesh_is_measured_as_the_ball_it_stands_for(
        span in any_span(), place in any_place(250.0), turn in any_place(3.0), rolls in any::<bool>(),
    ) {
        let (radius, rows) = (60.0, 48);
        let mesh = Arc::new(faceted_ball(P3::origin(), radius, rows));
        let pose = Isometry3::new(V3::from(place), V3::from(turn));
        let roll = Turning { pivot: P3::new(0.0, 30.0, 0.0), axis: V3::x_axis(), from: -0.06, to: 0.06 };
        let movement = rolls.then_some(Movement::of_engine(roll, 2.0));
        let of = |solid| obstacle(vec![solid], Rides::Engine, None);
        let pipe = stretch(span, 20.0, Rides::Body);
        let whole = [0.0, span.length()];
        let ball = Convex::Ball { centre: P3::from(place), radius };
        let exact = of(Solid::Convex(ball)).gap_to(&pipe, whole, movement.as_ref(), f64::INFINITY).unwrap().gap;
        prop_assume!(exact > -20.0); // A surface has no inside: deeper than the pipe's own radius nothing is told.
        let found = of(Solid::Mesh(mesh, pose)).gap_to(&pipe, whole, movement.as_ref(), f64::INFINITY).unwrap().gap;
        // A flat lies inside the ball by its height over the chord.
        let height = radius * (1.0 - (std::f64::consts::PI / f64::from(rows) * 0.75).cos());
        prop_assert!(found >= exact - 2.0 * TOLERANCE && found <= exact + height + TOLERANCE, "found {found}, exact {exact}");
    }

    /// Triangles of every size, however they lie: together they are as near as the nearest of them by itself.
    #[test]
    fn a_mesh_is_as_near_as_its_nearest_triangle(
        span in any_span(),
        triangles in prop::collection::vec((any_place(300.0), any_place(1.0), any_place(1.0), 0.5..250.0_f64), 1..80),
        pose in (any_place(50.0), any_place(3.0)),
        rolls in any::<bool>(),
    ) {
        let corners = |(at, one, other, size): &([f64; 3], [f64; 3], [f64; 3], f64)| {
            let away = |by: &[f64; 3]| [0, 1, 2].map(|i| at[i] + by[i] * size);
            [*at, away(one), away(other)]
        };
        let vertices: Vec<[f64; 3]> = triangles.iter().flat_map(corners).collect();
        let count = u32::try_from(triangles.len()).unwrap();
        let mesh = Arc::new(Mesh::new(&vertices, (0..count).map(|k| [3 * k, 3 * k + 1, 3 * k + 2]).collect()).unwrap());
        let pose = Isometry3::new(V3::from(pose.0), V3::from(pose.1));
        let roll = Turning { pivot: P3::new(0.0, 30.0, 0.0), axis: V3::x_axis(), from: -0.06, to: 0.06 };
        let movement = rolls.then_some(Movement::of_engine(roll, 2.0));
        let pipe = stretch(span, 20.0, Rides::Body);
        let gap = |solid| {
            obstacle(vec![solid], Rides::Engine, None).gap_to(&pipe, [0.0, span.length()], movement.as_ref(), 400.0)
        };
        let alone = vertices.chunks(3).filter_map(|t| {
            let [a, b, c] = [t[0], t[1], t[2]].map(|corner| Real3::new(corner[0], corner[1], corner[2]));
            gap(Solid::Convex(Convex::Facet(Triangle::new(a, b, c)).carried(&pose))).map(|near| near.gap)
        });
        let least = alone.fold(f64::INFINITY, f64::min);
        match gap(Solid::Mesh(mesh, pose)) {
            Some(near) => prop_assert!((near.gap - least).abs() <= 2.0 * TOLERANCE, "{} {least}", near.gap),
            None => prop_assert!(least > 400.0 - 2.0 * TOLERANCE, "{least}"),
        }
    }

    #[test]
    fn the_trace_of_a_pipe_has_no_hole(room in any_convex(), span in any_span()) {
        let envelope = Envelope::new(&[stretch(span, 20.0, Rides::Body)], Vec::new(), span.length());
        let things = [obstacle(vec![Solid::Convex(room)], Rides::Body, None)];
        let pieces = trace(&Counted::whole(&envelope), &things, None, 0.0);
        prop_assert!((pieces[0].stations[0]).abs() < 1e-9 && (pieces.last().unwrap().stations[1] - span.length()).abs() < 1e-9);
        for pair in pieces.windows(2) {
            prop_assert!((pair[0].stations[1] - pair[1].stations[0]).abs() < 1e-9);
        }
        let mut least = f64::INFINITY;
        for piece in &pieces {
            // An arc may turn far enough to come near itself.
            let Some(gap) = piece.worst.filter(|worst| worst.obstacle.is_some()).map(|worst| worst.gap) else { continue };
            let [from, to] = piece.stations;
            // Never nearer than the ball that can be moved along there, nor further than the wall of the tube there.
            let sampled = steps(from, to, 40).map(|s| plain_distance(&room, &span.at(s).0) - 20.0).fold(f64::INFINITY, f64::min);
            prop_assert!(gap > sampled.min(0.0) * 1.5 - 1.0 || gap >= sampled - 0.2, "{from} to {to}: {gap} {sampled}");
            least = least.min(gap);
        }
        let wall = skin_points(&span, 20.0).map(|at| plain_distance(&room, &at)).fold(f64::INFINITY, f64::min);
        if least.is_finite() && wall > 0.0 {
            prop_assert!(least <= wall + TOLERANCE && least >= wall - 1.2, "{least} against {wall}");
        } else if !least.is_finite() {
            prop_assert!(wall > OF_INTEREST - 0.2 || pieces.iter().all(|p| p.worst.is_some()));
        } else {
            prop_assert!(least <= TOLERANCE, "they overlap and {least} was told");
        }
        if let Some(worst) = nearest(envelope.tube(), &things[0], None, OF_INTEREST) {
            prop_assert!(least < 0.0 || (worst.gap - least).abs() <= 2.0 * slack(least, 20.0), "{} {least}", worst.gap);
        }
    }

    /// A mouth is flat: what stands behind it is as far away as the disc, not as a half ball before it.
    #[test]
    fn square_ends_are_measured_as_the_solid_they_are(
        room in any_convex(), span in any_span(), radius in 5.0..45.0_f64, roll in prop::option::of(0.5..5.0_f64),
    ) {
        let pipe = EnvelopePart { square: [true; 2], ..stretch(span, radius, Rides::Body) };
        let turning = |roll: f64| Turning {
            pivot: P3::new(40.0, 20.0, -80.0), axis: V3::y_axis(), from: -roll.to_radians(), to: roll.to_radians(),
        };
        let movement = roll.map(|roll| Movement::of_engine(turning(roll), 1.5));
        let thing = obstacle(vec![Solid::Convex(room)], Rides::Engine, None);
        let found = thing.gap_to(&pipe, [0.0, span.length()], movement.as_ref(), 80.0);
        let turns: Vec<f64> = movement.map_or(vec![0.0], |m| steps(m.roll.from, m.roll.to, 24).collect());
        let mut wall = f64::INFINITY;
        for angle in turns {
            for at in skin_points(&span, radius) {
                let at = movement.map_or(at, |m| turned(&m.roll, angle, at));
                wall = wall.min(plain_distance(&room, &at) - movement.map_or(0.0, |m| m.shift));
            }
        }
        // The grid misses half a step along, round and of the roll.
        let miss = 1.2 + radius * 0.06 + roll.map_or(0.0, |roll| roll.to_radians() / 24.0 * 900.0);
        match found {
            Some(found) if wall > 0.0 => prop_assert!(
                found.gap <= wall + 2.0 * TOLERANCE && found.gap >= wall - miss, "found {}, wall {wall}", found.gap),
            Some(found) => prop_assert!(found.gap <= 2.0 * TOLERANCE, "they overlap and {} was told", found.gap),
            None => prop_assert!(wall >= 80.0 - 2.0 * TOLERANCE, "{wall}"),
        }
    }
}

/// Places all over the outside of a pipe with flat ends, walls and discs, some 2 mm apart.
fn skin_points(span: &Span, radius: f64) -> impl Iterator<Item = P3> {
    let round = move |s: f64, radius: f64| {
        let (at, along, _) = span.at(s);
        let aside = V3::ith(along.iamin(), 1.0).cross(&along).normalize();
        let other = along.cross(&aside);
        steps(0.0, std::f64::consts::TAU, 52).map(move |phi| at + (aside * phi.cos() + other * phi.sin()) * radius)
    };
    let wall = steps(0.0, span.length(), (span.length() / 2.0).ceil() as u32 + 1).flat_map(move |s| round(s, radius));
    let discs = [0.0, span.length()]
        .into_iter()
        .flat_map(move |s| steps(0.0, radius, (radius / 2.0).ceil() as u32).flat_map(move |r| round(s, r)));
    wall.chain(discs)
}

/// The clearance of a true bend agrees with a finely faceted mesh of that bend.
#[test]
fn a_bend_is_as_far_away_as_a_fine_mesh_of_it() {
    let start = travel([0.0, 0.0, 0.0], Direction::new(1.0, 0.0, 0.0).unwrap());
    let (radius, clr, angle) = (31.75, 95.25, 1.9);
    let span = Span::arc(&start, clr, angle);
    let (rows, round) = (240_u32, 120_u32);
    let mut vertices = Vec::new();
    for i in 0..=rows {
        let here = start.bend(clr, angle * f64::from(i) / f64::from(rows));
        for j in 0..round {
            let out = here.at_clock(std::f64::consts::TAU * f64::from(j) / f64::from(round));
            vertices.push((here.at + out.into_inner() * radius).coords.into());
        }
    }
    let at = |i: u32, j: u32| i * round + j % round;
    let triangles = (0..rows).flat_map(|i| {
        (0..round)
            .flat_map(move |j| [[at(i, j), at(i + 1, j), at(i + 1, j + 1)], [at(i, j), at(i + 1, j + 1), at(i, j + 1)]])
    });
    let mesh = Mesh::new(&vertices, triangles.collect()).unwrap();
    let pipe = stretch(span, radius, Rides::Body);
    // Round the bend, from inside it to well outside, in and out of its plane; none looks past the flat ends.
    let around =
        [(0.3, 1.6, 12.0), (0.9, 0.4, 60.0), (1.3, 3.0, 80.0), (1.6, 4.4, 33.0), (0.9, 5.5, 70.0), (1.0, 0.0, 0.5)];
    for (turned, clock, off) in around {
        let here = start.bend(clr, turned);
        let at: [f64; 3] = (here.at + here.at_clock(clock).into_inner() * off).coords.into();
        let ball = Convex::Ball { centre: at.into(), radius: 1e-3 };
        let found = obstacle(vec![Solid::Convex(ball)], Rides::Body, None).gap_to(
            &pipe,
            [0.0, span.length()],
            None,
            f64::INFINITY,
        );
        let meshed = mesh.distance_to_point(Point::try_from(at).unwrap()) - 1e-3;
        let gap = found.unwrap().gap;
        assert!((gap.abs() - meshed).abs() < 0.05, "at {at:?}: {gap} against {meshed}");
    }
}

//! Ways out: bays built round a planted one, in which it is found; sealed ones, in which none is; and every motion that is told,
//! sampled densely by distances written down from the definitions.

#![allow(clippy::unwrap_used, clippy::panic, clippy::print_stdout, reason = "a test fails by panicking")]

use std::sync::atomic::AtomicBool;

use crate::crowded::{P3, Solid, V3};
use nalgebra::{Isometry3, UnitQuaternion};
use nook_geometry::clearance::{Carried, Convex, EnvelopePart, Held, Obstacle, Part, Rides, Span};
use nook_geometry::{Direction, Point, Travel};
use nook_search::{AIR, ASKS, Motion, OUTSIDE, Out, withdraw};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};

const TUBE: f64 = 30.0;
/// Air in mm round the planted way: the search keeps 2.
const PLANTED: f64 = 9.0;

/// A bent tube as a body, and as points on its centre line 4 mm apart.
fn bent(random: &mut StdRng) -> (Carried, Vec<P3>) {
    let start = Point::new(0.0, 0.0, 0.0).unwrap();
    let mut travel = Travel::start(start, Direction::new(1.0, 0.0, 0.0).unwrap());
    let (mut parts, mut line) = (Vec::new(), Vec::new());
    let mut add = |span: Span, line: &mut Vec<P3>| {
        let mut s = 0.0;
        while s <= span.length() {
            line.push(span.at(s).0);
            s += 4.0;
        }
        line.push(span.at(span.length()).0);
        parts.push(EnvelopePart { span, radius: TUBE, rides: Rides::Body, stations: [0.0, 1.0], square: [false; 2] });
    };
    for _ in 0..random.random_range(1..3) {
        let length = random.random_range(80.0..220.0);
        add(Span::straight(&travel, length), &mut line);
        travel = travel.straight(length).clocked(random.random_range(-3.0..3.0));
        let (radius, angle) = (random.random_range(50.0..90.0), random.random_range(0.5..1.6));
        add(Span::arc(&travel, radius, angle), &mut line);
        travel = travel.bend(radius, angle);
    }
    add(Span::straight(&travel, random.random_range(80.0..220.0)), &mut line);
    (Carried::new(parts), line)
}

/// A way out with two turns and a reversal, or a straight pull.
fn planted(body: &Carried, random: &mut StdRng, straight: bool) -> Vec<Held> {
    let home = body.home();
    let mut places = vec![home];
    if !straight {
        let way = |random: &mut StdRng| {
            V3::new(random.random_range(-1.0..1.0), random.random_range(-1.0..1.0), random.random_range(-0.3..0.3))
                .normalize()
        };
        let back = way(random) * random.random_range(40.0..80.0);
        let turned = |held: &Held, random: &mut StdRng, by: V3| Held {
            at: held.at + by,
            turn: UnitQuaternion::from_scaled_axis(way(random) * random.random_range(0.35..0.8)) * held.turn,
        };
        // Back, turned, forth again and up, turned once more.
        let one = Held { at: home.at + back, ..home };
        let two = turned(&one, random, V3::zeros());
        let three = Held { at: two.at - back * 0.8 + V3::z() * 60.0, ..two };
        let four = turned(&three, random, V3::z() * 60.0);
        places.extend([one, two, three, four]);
    }
    let last = *places.last().unwrap();
    places.push(Held { at: last.at + V3::z() * 1500.0, ..last });
    places
}

/// Poses along a motion, no point of the body moving further than 5 mm between two.
fn poses(body: &Carried, places: &[Held]) -> Vec<Isometry3<f64>> {
    let mut all = Vec::new();
    for pair in places.windows(2) {
        let steps = (body.travel(&pair[0], &pair[1]) / 5.0).ceil().max(1.0);
        let mut k = 0.0;
        while k <= steps {
            // Turned evenly about where the body's middle is, by hand.
            let share = k / steps;
            let turn = pair[0].turn.slerp(&pair[1].turn, share);
            let at = pair[0].at + (pair[1].at - pair[0].at) * share;
            let home = body.home().at;
            all.push(Isometry3::from_parts((at.coords - turn * home.coords).into(), turn));
            k += 1.0;
        }
    }
    all
}

/// The least gap between the swept body and a solid.
fn least(line: &[P3], poses: &[Isometry3<f64>], solid: &Solid, below: f64) -> f64 {
    let mut least = f64::INFINITY;
    for pose in poses {
        // A coarse look first: a step along the line is 4 mm.
        for at in line.iter().step_by(4) {
            let gap = solid.distance(&(pose * at)) - TUBE;
            if gap < below + 20.0 {
                least =
                    least.min(line.iter().map(|at| solid.distance(&(pose * at)) - TUBE).fold(f64::INFINITY, f64::min));
                break;
            }
            least = least.min(gap);
        }
    }
    least
}

fn obstacle(solid: &Solid) -> Obstacle {
    let room = match solid {
        Solid::Block { centre, half, .. } => {
            Convex::Block { inward: Isometry3::translation(-centre.x, -centre.y, -centre.z), half: *half }
        }
        Solid::Ball { centre, radius } => Convex::Ball { centre: *centre, radius: *radius },
        Solid::Drum { .. } => panic!("none is made"),
    };
    Obstacle::new(0.0, vec![Part::new(nook_geometry::clearance::Solid::Convex(room), None, Rides::Body)])
}

struct Bay {
    body: Carried,
    line: Vec<P3>,
    solids: Vec<Solid>,
    bounds: [P3; 2],
}

/// A chest of tiles and clutter round a body; where `way` says, as far as it leaves that free.
fn bay(random: &mut StdRng, way: Option<bool>) -> Bay {
    let (body, line) = bent(random);
    let middle = body.home().at;
    let half = body.reach() + 90.0;
    let mut solids = Vec::new();
    let tile = 2.0 * half / 9.0;
    for face in 0..6_usize {
        let (axis, sign) = (face / 2, if face % 2 == 0 { -1.0 } else { 1.0 });
        for i in 0..9 {
            for j in 0..9 {
                let mut centre = V3::zeros();
                centre[axis] = sign * (half + 10.0);
                centre[(axis + 1) % 3] = -half + tile * (f64::from(i) + 0.5);
                centre[(axis + 2) % 3] = -half + tile * (f64::from(j) + 0.5);
                let mut size = V3::repeat(tile / 2.0 + 11.0);
                size[axis] = 10.0;
                solids.push(Solid::Block { centre: middle + centre, half: size, heading: 0.0, pitch: 0.0, roll: 0.0 });
            }
        }
    }
    for _ in 0..26 {
        let off = V3::from_fn(|_, _| random.random_range(-half..half));
        let centre = middle + off;
        solids.push(if random.random_bool(0.5) {
            Solid::Ball { centre, radius: random.random_range(20.0..70.0) }
        } else {
            let half = V3::from_fn(|_, _| random.random_range(15.0..80.0));
            Solid::Block { centre, half, heading: 0.0, pitch: 0.0, roll: 0.0 }
        });
    }
    let free = match way {
        Some(straight) => poses(&body, &planted(&body, random, straight)),
        None => vec![Isometry3::identity()],
    };
    solids.retain(|solid| least(&line, &free, solid, PLANTED) >= PLANTED);
    let wide = V3::repeat(half + 20.0);
    Bay { bounds: [middle - wide, middle + wide], body, line, solids }
}

fn search(bay: &Bay) -> Result<Motion, Option<usize>> {
    let stays: Vec<Obstacle> = bay.solids.iter().map(obstacle).collect();
    let ways = [V3::z(), -V3::z(), V3::x()];
    let out = Out { body: &bay.body, stays: &stays, bounds: bay.bounds, ways: &ways, pull: V3::zeros(), asks: ASKS };
    withdraw(&out, &AtomicBool::new(false), &|_| {}).map_err(|none| none.by.first().copied())
}

/// Whoever follows the motion meets nothing, and is outside at the end.
fn followed(bay: &Bay, motion: &Motion) {
    let poses = poses(&bay.body, &motion.places);
    assert!((poses[0].translation.vector).norm() < 1e-9, "it begins where it sits");
    for solid in &bay.solids {
        let gap = least(&bay.line, &poses, solid, AIR);
        assert!(gap >= AIR - 0.05, "{gap} mm to {solid:?}");
    }
    let [low, high] = bay.bounds;
    let last = poses.last().unwrap();
    let outside = |at: &P3| {
        let at = last * at;
        at.z - TUBE >= high.z + OUTSIDE - 1e-6
            || at.z + TUBE <= low.z - OUTSIDE + 1e-6
            || at.x - TUBE >= high.x + OUTSIDE - 1e-6
    };
    assert!(bay.line.iter().all(outside), "it is out");
}

#[test]
fn a_way_out_that_was_planted_is_found_and_can_be_followed() {
    let (mut found, mut moves) = (0, 0);
    for seed in 0..16 {
        let mut random = StdRng::seed_from_u64(seed);
        // At most a third are straight pulls.
        let bay = bay(&mut random, Some(seed % 4 == 0));
        let started = std::time::Instant::now();
        match search(&bay) {
            Ok(motion) => {
                followed(&bay, &motion);
                found += 1;
                moves += motion.places.len() - 1;
                println!("seed {seed}: {} moves, {:.1} s", motion.places.len() - 1, started.elapsed().as_secs_f64());
            }
            Err(by) => println!("seed {seed}: none found, {by:?}, {:.1} s", started.elapsed().as_secs_f64()),
        }
    }
    println!("{found} of 16, {moves} moves");
    assert_eq!(found, 16);
}

/// As its joints want it, it is pulled first, straight and all the way, or not at all.
#[test]
fn what_is_to_be_pulled_first_is() {
    let mut random = StdRng::seed_from_u64(40);
    let bay = bay(&mut random, Some(true));
    let ways = [V3::z(), -V3::z(), V3::x()];
    let pull = V3::new(3.0, -2.0, 1.0);
    let among = |stays: &[Obstacle]| {
        let out = Out { body: &bay.body, stays, bounds: bay.bounds, ways: &ways, pull, asks: ASKS };
        withdraw(&out, &AtomicBool::new(false), &|_| {})
    };
    let stays: Vec<Obstacle> = bay.solids.iter().map(obstacle).collect();
    let motion = among(&stays).unwrap();
    assert!((motion.places[1].at - motion.places[0].at - pull).norm() < 1e-9);
    assert!(motion.places[1].turn.angle() < 1e-9);
    followed(&bay, &motion);
    // A ball right where it would be pulled to.
    let end = bay.line[bay.line.len() / 2];
    let blocked = Solid::Ball { centre: end + pull.normalize() * (TUBE + 15.0 + 3.0), radius: 15.0 };
    let mut more = stays;
    more.push(obstacle(&blocked));
    assert_eq!(among(&more).unwrap_err().by, [more.len() - 1]);
}

#[test]
fn out_of_a_sealed_chest_there_is_none_and_what_stops_it_is_told() {
    for seed in 100..104 {
        let mut random = StdRng::seed_from_u64(seed);
        let bay = bay(&mut random, None);
        let by = search(&bay).expect_err("it is sealed");
        assert!(by.is_some());
    }
}

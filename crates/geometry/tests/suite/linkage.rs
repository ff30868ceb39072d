//! Chains of rigid parts between joints that give: rest, against what holds of it whatever the figures, and the movement of
//! what floats, against every pose on a fine grid.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nalgebra::{Isometry3, Point3, UnitQuaternion, Vector3};
use nook_geometry::clearance::{Movement, Rides, Turning};
use nook_geometry::linkage::{Compliance, Linkage, LinkageJoint, NotSettled, Settled, Swept, SweptBy, floating};
use proptest::prelude::*;

type P3 = Point3<f64>;
type V3 = Vector3<f64>;

fn any_place() -> impl Strategy<Value = P3> {
    [-400.0..400.0_f64, -400.0..400.0, -200.0..200.0].prop_map(P3::from)
}

fn any_way() -> impl Strategy<Value = V3> {
    [-1.0..1.0_f64, -1.0..1.0, -1.0..1.0]
        .prop_map(V3::from)
        .prop_filter("long enough", |v| v.norm() > 0.3)
        .prop_map(|v| v.normalize())
}

fn any_give() -> impl Strategy<Value = Compliance> {
    (1.0..8.0_f64, 1.0..8.0_f64, 2.0..8.0_f64).prop_map(|(angle, offset, axial)| give(angle, offset, axial))
}

fn give(angle: f64, offset: f64, axial: f64) -> Compliance {
    Compliance { angle: f64::to_radians(angle), offset, axial }
}

fn any_move() -> impl Strategy<Value = Isometry3<f64>> {
    (any_place(), any_way(), -4.0..4.0_f64, any_way(), 0.0..6.0_f64).prop_map(|(pivot, axis, degrees, way, far)| {
        let turn = UnitQuaternion::from_scaled_axis(axis * degrees.to_radians());
        let mut pose = Isometry3::rotation_wrt_point(turn, pivot);
        pose.translation.vector += way * far;
        pose
    })
}

/// How far the thing at an end pushes its joint as it gets hot.
fn any_push() -> impl Strategy<Value = V3> {
    (any_way(), 0.0..1.5_f64).prop_map(|(way, far)| way * far)
}

/// Joints as a pipe has them: one after the other along x, each within some 50 degrees of it.
fn any_pipe(count: impl Into<prop::collection::SizeRange>) -> impl Strategy<Value = Vec<LinkageJoint>> {
    let each = (150.0..400.0_f64, -150.0..150.0_f64, -150.0..150.0_f64, any_way(), any_give());
    prop::collection::vec(each, count).prop_map(|each| {
        let mut x = -400.0;
        let joint = |(step, y, z, way, give): (f64, f64, f64, V3, Compliance)| {
            x += step;
            LinkageJoint { at: P3::new(x, y, z), along: (V3::x() * 1.5 + way).normalize(), give }
        };
        each.into_iter().map(joint).collect()
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    #[test]
    fn nothing_moved_nothing_used(joints in any_pipe(2..5)) {
        let rest = Linkage::new(joints).settle([Isometry3::identity(); 2], 0.0, None).unwrap();
        prop_assert!(rest.sum_of_squares < 1e-18);
        prop_assert!(rest.joints.iter().all(|errors| errors.sizes().iter().all(|size| *size < 1e-9)));
    }

    /// What is least cannot be made less: no small move of any part does.
    #[test]
    fn no_other_pose_takes_less(joints in any_pipe(2..4), by in any_move(), aside in any_move(), part in 0..8_usize) {
        let chain = Linkage::new(joints.clone());
        let rest = chain.settle([by, Isometry3::identity()], 0.0, None).unwrap();
        let part = part % chain.count();
        let mut poses = rest.parts.clone();
        // A hundredth of a random move.
        let small = Isometry3::new(aside.translation.vector * 0.01, aside.rotation.scaled_axis() * 0.01);
        let middle = nalgebra::center(&joints[part].at, &joints[part + 1].at);
        let about = Isometry3::translation(middle.x, middle.y, middle.z);
        poses[part] = poses[part] * about * small * about.inverse();
        prop_assert!(sum_by_hand(&joints, &[by, Isometry3::identity()], &poses) >= rest.sum_of_squares - 1e-9);
        prop_assert!((sum_by_hand(&joints, &[by, Isometry3::identity()], &rest.parts) - rest.sum_of_squares).abs() < 1e-7);
    }

    /// Counted from the other end it is the same chain: what moves one end by `by` moves the other back by as much.
    #[test]
    fn which_end_is_counted_from_changes_nothing(joints in any_pipe(2..5), by in any_move(), other in any_move()) {
        let forth = Linkage::new(joints.clone()).settle([by, other], 0.0, None).unwrap();
        let turned = joints.iter().rev().map(|joint| LinkageJoint { along: -joint.along, ..*joint }).collect();
        let back = Linkage::new(turned).settle([other, by], 0.0, None).unwrap();
        prop_assert!((forth.sum_of_squares - back.sum_of_squares).abs() < 1e-7 * (1.0 + forth.sum_of_squares));
        for (one, two) in forth.joints.iter().zip(back.joints.iter().rev()) {
            prop_assert!((one.axial - two.axial).abs() < 1e-5, "apart is apart from either side");
            for (p, q) in one.sizes().iter().zip(two.sizes()) {
                prop_assert!((p - q).abs() < 1e-5);
            }
        }
    }

    #[test]
    fn one_more_joint_that_gives_never_raises_what_is_taken(
        joints in any_pipe(2..4), by in any_move(), share in 0.2..0.8_f64, way in any_way(), extra in any_give(), at in 0..4_usize,
    ) {
        let before = Linkage::new(joints.clone()).settle([by, Isometry3::identity()], 0.0, None).unwrap();
        // A chain that folds over has found another least than the one it began beside.
        prop_assume!(!swings(&before, &by));
        let at = at % (joints.len() - 1);
        let place = joints[at].at + (joints[at + 1].at - joints[at].at) * share;
        let mut more = joints;
        more.insert(at + 1, LinkageJoint { at: place, along: way, give: extra });
        let after = Linkage::new(more).settle([by, Isometry3::identity()], 0.0, None).unwrap();
        prop_assert!(after.sum_of_squares <= before.sum_of_squares + 1e-9, "{} {}", after.sum_of_squares, before.sum_of_squares);
    }

    #[test]
    fn a_mirrored_chain_takes_the_same(joints in any_pipe(2..5), by in any_move()) {
        let there = Linkage::new(joints.clone()).settle([by, Isometry3::identity()], 0.0, None).unwrap();
        let over = |v: V3| V3::new(v.x, -v.y, v.z);
        let image = joints.iter().map(|joint| LinkageJoint { at: P3::from(over(joint.at.coords)), along: over(joint.along), give: joint.give });
        let turn = by.rotation.scaled_axis();
        let moved = Isometry3::new(over(by.translation.vector), -over(turn));
        let here = Linkage::new(image.collect()).settle([moved, Isometry3::identity()], 0.0, None).unwrap();
        prop_assert!((there.sum_of_squares - here.sum_of_squares).abs() < 1e-7 * (1.0 + there.sum_of_squares));
    }

    /// A joint that gives in no way makes one of what it joins, whatever the other joint does.
    #[test]
    fn a_part_held_at_one_end_goes_with_it(joints in any_pipe(2..3), by in any_move(), at_start: bool) {
        let mut joints = joints;
        joints[usize::from(!at_start)].give = give(0.0, 0.0, 0.0);
        let rest = Linkage::new(joints).settle([by, Isometry3::identity()], 0.0, None).unwrap();
        let with = if at_start { by } else { Isometry3::identity() };
        prop_assert!((rest.parts[0].translation.vector - with.translation.vector).norm() < 1e-9);
        prop_assert!(rest.parts[0].rotation.angle_to(&with.rotation) < 1e-9);
    }

    /// A give of nought is kept to, and what still gives takes the rest.
    #[test]
    fn what_gives_only_one_way_is_held_the_others(joints in any_pipe(3..4), by in any_move()) {
        let mut joints = joints;
        joints[1].give = give(2.0, 0.0, 0.0);
        let rest = match Linkage::new(joints).settle([by, Isometry3::identity()], 0.0, None) {
            Err(NotSettled::NoRest) => return Err(TestCaseError::reject("it is told that the search for rest did not end")),
            rest => rest.unwrap(),
        };
        let [_, offset, axial] = rest.joints[1].sizes();
        prop_assert!(offset < 1e-5 && axial < 1e-5, "{offset} {axial}");
    }

    /// At every pose of the engine each place of what floats lies where the one turn takes it, to within the shift that is
    /// told; seen from the body and from the engine.
    #[test]
    fn what_floats_never_leaves_what_is_told_of_it(
        joints in any_pipe(2..4), rolls in (-3.0..0.0_f64, 0.0..5.0_f64), shift in 0.0..6.0_f64, axis in (any_place(), any_way()),
        growth in 0.0..0.002_f64, ways in prop::collection::vec((0.0..1.0_f64, any_way(), 0.0..1.0_f64), 12), start: bool,
        ends_grow in [any_push(), any_push()],
    ) {
        let roll = Turning { pivot: axis.0, axis: nalgebra::Unit::new_normalize(axis.1), from: rolls.0.to_radians(), to: rolls.1.to_radians() };
        let engine = Movement::of_engine(roll, shift);
        let chain = Linkage::new(joints.clone());
        let by = SweptBy { engine, on_engine: [start, !start], growth, ends_grow };
        let swept = match Swept::new(&chain, by) {
            Err(NotSettled::Loose) => return Err(TestCaseError::reject("it hangs loose")),
            swept => swept.unwrap(),
        };
        let taken = |settled: &Settled| {
            settled.joints.iter().zip(&joints).map(|(errors, joint)| errors.share(&joint.give)).fold(0.0, f64::max)
        };
        // Far beyond what its joints give a chain folds up, and nobody asks where it goes then.
        prop_assume!(swept.rolls.iter().all(|(_, settled)| taken(settled) < 2.0));
        for part in 0..chain.count() {
            let hull = [joints[part].at, joints[part + 1].at, joints[part].at + joints[part].along * 60.0];
            let skin = 30.0;
            let told = floating(&swept, &chain, part, &hull, skin).unwrap();
            for (share, way, far) in &ways {
                let turn = roll.from + (roll.to - roll.from) * share;
                let moved = by.engine_at(turn, way * (shift * far));
                let outer = by.on_engine.map(|on| if on { moved } else { Isometry3::identity() });
                // As it is followed from where it was.
                let near = near_to(&swept, turn);
                let rest = chain.settle(outer, 0.0, Some(near)).unwrap();
                let hot = chain.settle(by.outer(moved, true), growth, Some(near)).unwrap();
                for pose in [rest.parts[part], hot.parts[part]] {
                    for (seen, movement, reach) in [
                        (pose, told.from_body, told.reach[0]),
                        (moved.inverse() * pose, told.from_engine, told.reach[1]),
                    ] {
                        let angle = if movement.roll_per_turn == 0.0 { 0.0 } else { turn / movement.roll_per_turn };
                        prop_assert!(angle >= movement.roll.from - 1e-9 && angle <= movement.roll.to + 1e-9);
                        for at in hull {
                            for out in [V3::zeros(), *way * skin] {
                                let place = at + out;
                                let off = (seen * place - movement.roll.of(place, angle)).norm();
                                prop_assert!(off <= movement.shift + 1e-6, "{off} beyond {}", movement.shift);
                                prop_assert!((seen * place - place).norm() <= reach + 1e-6);
                            }
                        }
                    }
                }
            }
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(100))]
    /// Two parts that float go with the one engine: seen from the one, the other lies where its one turn takes it, to within the
    /// shift that is told, and a plate beside it where no engine moves is still no plate through it.
    #[test]
    fn two_that_float_are_held_against_each_other_as_the_one_engine_moves_them(
        first in any_pipe(2..4), second in any_pipe(2..3), rolls in (-3.0..0.0_f64, 0.0..5.0_f64), shift in 0.0..6.0_f64,
        axis in (any_place(), any_way()), growth in 0.0..0.002_f64,
        ways in prop::collection::vec((0.0..1.0_f64, any_way(), 0.0..1.0_f64), 12), starts: [bool; 2],
    ) {
        let roll = Turning { pivot: axis.0, axis: nalgebra::Unit::new_normalize(axis.1), from: rolls.0.to_radians(), to: rolls.1.to_radians() };
        let engine = Movement::of_engine(roll, shift);
        let mut told = Vec::new();
        for (joints, start) in [&first, &second].into_iter().zip(starts) {
            let chain = Linkage::new(joints.clone());
            let by = SweptBy { engine, on_engine: [start, !start], growth, ends_grow: Default::default() };
            let Ok(swept) = Swept::new(&chain, by) else { return Err(TestCaseError::reject("it hangs loose")) };
            let taken = |settled: &Settled| {
                settled.joints.iter().zip(joints).map(|(errors, joint)| errors.share(&joint.give)).fold(0.0, f64::max)
            };
            prop_assume!(swept.rolls.iter().all(|(_, settled)| taken(settled) < 2.0));
            let hull = [joints[0].at, joints[1].at];
            let floats = floating(&swept, &chain, 0, &hull, 30.0).unwrap();
            told.push((chain, by, hull, floats, swept));
        }
        let (one, other) = (&told[0], &told[1]);
        let movement = engine.against(Rides::Floats(one.3), Rides::Floats(other.3)).unwrap();
        for (share, way, far) in &ways {
            let turn = roll.from + (roll.to - roll.from) * share;
            let moved = one.1.engine_at(turn, way * (shift * far));
            let poses = |of: &(Linkage, SweptBy, [P3; 2], _, Swept), growth: f64| {
                let outer = of.1.on_engine.map(|on| if on { moved } else { Isometry3::identity() });
                of.0.settle(outer, growth, Some(near_to(&of.4, turn))).unwrap().parts[0]
            };
            for heats in [[0.0, 0.0], [growth, 0.0], [0.0, growth], [growth, growth]] {
                let seen = poses(other, heats[1]).inverse() * poses(one, heats[0]);
                let angle = if movement.roll_per_turn == 0.0 { 0.0 } else { turn / movement.roll_per_turn };
                prop_assert!(angle >= movement.roll.from - 1e-9 && angle <= movement.roll.to + 1e-9);
                // Only what is near the other part can come near to it.
                for at in one.2 {
                    let off = other.2.iter().map(|place| (place - at).norm()).fold(f64::INFINITY, f64::min);
                    if off > 60.0 + 30.0 {
                        continue;
                    }
                    let off = (seen * at - movement.roll.of(at, angle)).norm();
                    prop_assert!(off <= movement.shift + 1e-6, "{off} beyond {}", movement.shift);
                }
            }
        }
    }
}

/// Where a chain was settled nearest to a roll.
fn near_to(swept: &Swept, roll: f64) -> &Settled {
    let each = swept.rolls.iter().min_by(|p, q| (p.0 - roll).abs().total_cmp(&(q.0 - roll).abs()));
    each.map(|(_, settled)| settled).unwrap()
}

/// Whether a section turns much further than what moves the chain does: over into another fold, about the line between its
/// joints, which resist that little.
fn swings(rest: &Settled, by: &Isometry3<f64>) -> bool {
    rest.parts.iter().any(|pose| pose.rotation.angle() > 4.0 * by.rotation.angle() + 0.1)
}

/// What joints take, worked out once more from the definition.
fn sum_by_hand(joints: &[LinkageJoint], outer: &[Isometry3<f64>; 2], parts: &[Isometry3<f64>]) -> f64 {
    let mut sum = 0.0;
    for (i, joint) in joints.iter().enumerate() {
        let before = if i == 0 { outer[0] } else { parts[i - 1] };
        let after = parts.get(i).copied().unwrap_or(outer[1]);
        let [d, e] = [before, after].map(|pose| pose.rotation * joint.along);
        let axis = if i == 0 {
            d
        } else if i + 1 == joints.len() {
            e
        } else {
            (d + e).normalize()
        };
        let gap = after * joint.at - before * joint.at;
        let axial = gap.dot(&axis);
        let offset = (gap.norm_squared() - axial * axial).max(0.0).sqrt();
        let angle = d.dot(&e).clamp(-1.0, 1.0).acos();
        sum += (angle / joint.give.angle).powi(2)
            + (offset / joint.give.offset).powi(2)
            + (axial / joint.give.axial).powi(2);
    }
    sum
}

#[test]
fn a_pipe_held_at_both_ends_is_told() {
    let along = V3::x();
    let stiff = |x: f64| LinkageJoint { at: P3::new(x, 0.0, 0.0), along, give: give(0.0, 0.0, 0.0) };
    let chain = Linkage::new(vec![stiff(0.0), stiff(300.0)]);
    assert!(chain.settle([Isometry3::identity(); 2], 0.0, None).is_ok(), "nothing moves it");
    let moved = [Isometry3::translation(1.0, 0.0, 0.0), Isometry3::identity()];
    assert_eq!(chain.settle(moved, 0.0, None), Err(NotSettled::Tied));
    // One that bends but does not slide cannot follow a shift along it either.
    let bends = LinkageJoint { give: give(2.0, 0.0, 0.0), ..stiff(300.0) };
    assert_eq!(Linkage::new(vec![stiff(0.0), bends]).settle(moved, 0.0, None), Err(NotSettled::Tied));
}

/// A straight part between two joints that give alike, whose start is shifted along it: each takes half.
#[test]
fn two_joints_alike_share_a_shift_along_a_straight_part() {
    let joint = |x: f64| LinkageJoint { at: P3::new(x, 0.0, 0.0), along: V3::x(), give: give(2.0, 2.0, 3.0) };
    let rest = Linkage::new(vec![joint(0.0), joint(500.0)])
        .settle([Isometry3::translation(-3.0, 0.0, 0.0), Isometry3::identity()], 0.0, None)
        .unwrap();
    for errors in &rest.joints {
        assert!((errors.axial - 1.5).abs() < 1e-9, "apart by half: {errors:?}");
    }
    assert!((rest.sum_of_squares - 0.5).abs() < 1e-9);
}

/// One joint and no part: it takes all that its two sides do, and what either of them grows by.
#[test]
fn a_joint_alone_takes_all_there_is() {
    let joint = LinkageJoint { at: P3::new(100.0, 0.0, 0.0), along: V3::x(), give: give(2.0, 2.0, 3.0) };
    let chain = Linkage::new(vec![joint]).measured_on_ends([true, false]);
    let turn = UnitQuaternion::from_scaled_axis(V3::z() * 0.01);
    let moved = [Isometry3::rotation_wrt_point(turn, P3::origin()), Isometry3::identity()];
    let rest = chain.settle(moved, 0.0, None).unwrap();
    let [angle, offset, axial] = rest.joints[0].sizes();
    assert!((angle - 0.01).abs() < 1e-12);
    // From the moved end at 100 (cos, sin) to where it was, on the moved axis.
    assert!((offset - 100.0 * 0.01_f64.sin()).abs() < 1e-9, "{offset}");
    assert!((axial - 100.0 * (1.0 - 0.01_f64.cos())).abs() < 1e-9, "{axial}");
    assert!(rest.parts.is_empty());
    let roll = Turning { pivot: P3::origin(), axis: V3::z_axis(), from: 0.0, to: 0.01 };
    let ends_grow = [V3::x() * 0.8, V3::x() * -0.5];
    let by = SweptBy { engine: Movement::of_engine(roll, 0.0), on_engine: [true, false], growth: 0.0, ends_grow };
    assert!(Swept::new(&chain, by).is_ok());
    let hot = chain.settle(by.outer(Isometry3::identity(), true), 0.0, None).unwrap();
    assert!((hot.joints[0].axial + 1.3).abs() < 1e-12, "pushed together by both");
    let stiff = LinkageJoint { give: give(0.0, 0.0, 0.0), ..joint };
    assert_eq!(Swept::new(&Linkage::new(vec![stiff]), by).unwrap_err(), NotSettled::Tied);
}

#[test]
fn what_rides_on_one_movement_does_not_move_against_itself() {
    let joint = |x: f64| LinkageJoint { at: P3::new(x, 0.0, 0.0), along: V3::x(), give: give(2.0, 2.0, 3.0) };
    let chain = Linkage::new(vec![joint(0.0), joint(500.0)]);
    let roll = Turning { pivot: P3::new(0.0, 0.0, -200.0), axis: V3::x_axis(), from: -0.02, to: 0.06 };
    let by = SweptBy {
        engine: Movement::of_engine(roll, 2.0),
        on_engine: [true, false],
        growth: 0.0,
        ends_grow: Default::default(),
    };
    let swept = Swept::new(&chain, by).unwrap();
    let floats = Rides::Floats(floating(&swept, &chain, 0, &[P3::origin(), P3::new(500.0, 0.0, 0.0)], 30.0).unwrap());
    assert!(!floats.moves_against(floats));
    assert!(floats.moves_against(Rides::Body) && floats.moves_against(Rides::Engine));
}

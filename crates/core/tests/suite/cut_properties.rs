//! The cut plan against an independent check: saw the stick as told, turn the pieces as told, and see that
//! they make the pipe.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::{any_direction, any_point};
use nook_core::cut::{cut_plan, pieces};
use nook_core::route::{PieEnds, ResolvedMake};
use nook_geometry::units::SeamCount;
use nook_geometry::{Arc, Path, PathStep, Vector};
use proptest::prelude::*;

const OD: f64 = 63.5;
const KERF: f64 = 2.0;

fn of_pies(arc: &Arc, seams: u8, ends: PieEnds) -> ResolvedMake {
    ResolvedMake::pies(OD, arc, SeamCount::new(seams).unwrap(), ends)
}

fn any_pipe() -> impl Strategy<Value = (Path, Vec<ResolvedMake>)> {
    let leg = (40.0..300.0_f64, 80.0..150.0_f64, 10.0..110.0_f64, -179.0..179.0_f64);
    let make = prop::option::weighted(0.8, (2..9_u8, prop_oneof![Just(PieEnds::Mitred), Just(PieEnds::Square)]));
    let legs = prop::collection::vec((leg, make), 1..4);
    (any_point(500.0), any_direction(), legs, 40.0..200.0_f64).prop_map(|(start, leaving, parts, last)| {
        let legs = parts.iter().map(|((straight, radius, angle, rotation), _)| PathStep {
            straight: *straight,
            bend: Arc { radius: *radius, angle: angle.to_radians(), rotation: rotation.to_radians() },
        });
        let path = Path::new(start, leaving, legs.collect(), last);
        let made = |(step, (_, make)): (&PathStep, &(_, Option<(u8, PieEnds)>))| {
            make.map_or(ResolvedMake::Drawn, |(seams, ends)| of_pies(&step.bend, seams, ends))
        };
        let makes = path.legs().iter().zip(&parts).map(made).collect();
        (path, makes)
    })
}

proptest! {
    #[test]
    fn neighbouring_pieces_share_a_face((path, makes) in any_pipe()) {
        let parts = pieces(&path, &makes, &[], &[]);
        // Between each two pies' bends a tube, and one at each end; a drawn bend parts nothing.
        let pies = |make: &ResolvedMake| make.faces().len().saturating_sub(1);
        let parted = makes.iter().filter(|make| **make != ResolvedMake::Drawn).count();
        let expected: usize = makes.iter().map(pies).sum();
        prop_assert_eq!(parts.len(), expected + parted + 1);
        for pair in parts.windows(2) {
            let (one, next) = (pair[0].solids.last().unwrap(), pair[1].solids[0]);
            let step = (Vector::from(one.to) - Vector::from(next.from)).norm();
            let turned = (Vector::from(one.to_normal) - Vector::from(next.from_normal)).norm();
            prop_assert!(turned < 1e-9, "faces are not parallel: {}", turned);
            prop_assert!(step < 1e-6, "faces are {} mm apart", step);
        }
    }

    /// On the stick each piece is a tube between two planes. Undo the plan's turns and each must have the
    /// length along every line that its solid in the vehicle has.
    #[test]
    fn pieces_cut_as_told_have_the_lengths_they_need((path, makes) in any_pipe()) {
        let parts = pieces(&path, &makes, &[], &[]);
        let Some(plan) = cut_plan(&parts, OD, KERF) else { return Ok(()) };
        let frees: Vec<usize> = plan.cuts.iter().filter_map(|cut| cut.frees).collect();
        prop_assert_eq!(frees, (0..parts.len()).collect::<Vec<_>>(), "every piece comes off once, in order");
        let mut start = 0.0;
        let mut start_reach = 0.0;
        let mut start_kerf = 0.0;
        for cut in &plan.cuts {
            prop_assert!(((cut.down - cut.up) / 2.0 - OD / 2.0 * cut.saw.tan()).abs() < 1e-9);
            prop_assert!(((cut.down + cut.up) / 2.0 - cut.centre).abs() < 1e-9);
            if let Some(piece) = cut.frees.map(|index| &parts[index]) {
                let length = cut.centre - start - start_kerf;
                prop_assert!((length - piece.centre).abs() < 1e-6, "{} is not {}", length, piece.centre);
                let axis = piece.solids.iter().map(|solid| (Vector::from(solid.to) - Vector::from(solid.from)).norm());
                // Chords of a drawn bend are a hair shorter than its arc: a twenty-fourth of the step squared.
                let bent: f64 = if piece.solids.len() > 1 { piece.centre * 0.1_f64.powi(2) / 23.0 } else { 0.0 };
                let short = piece.centre - axis.sum::<f64>();
                prop_assert!(short > -1e-6 && short < bent + 1e-6, "{short} {bent}");
            }
            prop_assert!(cut.up >= start - start_reach - 1e-9 || cut.centre > start);
            start = cut.centre;
            start_reach = (cut.down - cut.up) / 2.0;
            start_kerf = KERF / cut.saw.cos();
        }
        prop_assert!((plan.stock_used - start - start_kerf).abs() < 1e-9);
    }

    /// The formula for pies from straight stock: pies x centre length + cuts x kerf / cos(saw).
    #[test]
    fn stock_for_one_bend_follows_the_formula(seams in 2..12_u8, angle in 20.0..90.0_f64) {
        let bend = Arc { radius: 110.0, angle: angle.to_radians(), rotation: 0.0 };
        let origin = nook_geometry::Point::new(0.0, 0.0, 0.0).unwrap();
        let along = nook_geometry::Direction::new(1.0, 0.0, 0.0).unwrap();
        let path = Path::new(origin, along, vec![PathStep { straight: 60.0, bend }], 60.0);
        let makes = [of_pies(&bend, seams, PieEnds::Mitred)];
        let parts = pieces(&path, &makes, &[], &[]);
        let plan = cut_plan(&parts, OD, KERF).unwrap();
        let saw = bend.angle / f64::from(seams) / 2.0;
        let centre = 2.0 * 110.0 * saw.tan();
        let pies = f64::from(seams - 1) * centre + 2.0 * (60.0 + centre / 2.0);
        let want = pies + f64::from(seams) * KERF / saw.cos() + KERF;
        prop_assert!((plan.stock_used - want).abs() < 1e-9, "{} is not {}", plan.stock_used, want);
        let half_turns = plan.cuts.iter().filter_map(|cut| cut.turn).filter(|turn| (turn.abs() - std::f64::consts::PI).abs() < 1e-9);
        prop_assert_eq!(half_turns.count(), usize::from(seams) - 1);
    }
}

/// Two bends at 31.5 degrees: between the last cut of the first and the first cut of the second the tube turns
/// that much more than the half turns, and the second pair of lines stands that far round the girth.
#[test]
fn the_clock_between_bends_is_the_rotation() {
    let origin = nook_geometry::Point::new(0.0, 0.0, 0.0).unwrap();
    let along = nook_geometry::Direction::new(1.0, 0.0, 0.0).unwrap();
    let arc = |rotation: f64| Arc { radius: 95.25, angle: 45_f64.to_radians(), rotation: rotation.to_radians() };
    let legs = vec![PathStep { straight: 80.0, bend: arc(12.0) }, PathStep { straight: 120.0, bend: arc(31.5) }];
    let path = Path::new(origin, along, legs, 80.0);
    let makes = [of_pies(&arc(12.0), 4, PieEnds::Mitred); 2];
    let plan = cut_plan(&pieces(&path, &makes, &[], &[]), OD, KERF).unwrap();
    // The line that comes up lies so far clockwise, so the tube is turned the other way.
    let turn = -plan.cuts[4].turn.unwrap().to_degrees();
    assert!((turn.rem_euclid(180.0) - 31.5).abs() < 1e-9, "{turn}");
    let second = plan.lines.iter().find(|line| line.name == "2a").unwrap();
    let girth = std::f64::consts::PI * OD;
    let degrees = second.round / girth * 360.0;
    assert!((degrees.rem_euclid(180.0) - 31.5).abs() < 1e-9, "{degrees}");
}

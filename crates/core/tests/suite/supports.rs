//! What holds a pipe between its joints: what that does to how it moves, where it may sit and what it stands on, how spans
//! ring, and the fewest that hold; against figures worked out here from the definitions.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what is said to be the same"
)]

use crate::support::by_place::kind;
use crate::support::held::{LONG, OD, at, block, change, found, held, mended, on, straight, told, with};
use crate::support::{draft, job_with, port};
use nalgebra::Vector3;
use nook_core::edit::SupportChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{End, EndForm, MountKind, Mounts, Side};
use nook_core::route::{Centreline, Reach, Route, SupportDraft, Target};
use nook_core::workup::{PipeRides, Workup, setting_out};
use nook_core::{Edit, Job, JoinEdit, MeasureEdit, PartRef, RouteEdit, RunId, Scans, SpecEdit, apply};
use nook_geometry::Point;
use nook_geometry::units::{Insulation, Lead, Pressure, Rotation, StandsOut, Temperature};
use proptest::prelude::*;

#[test]
fn what_is_fixed_rides_with_it_and_one_joint_takes_all_of_the_movement() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let job = on(&job, MountKind::Soft);
    let floats = told(&job, run);
    assert!(matches!(floats.sections[0].rides, PipeRides::Between));
    for (to, takes, takes_not) in [(Side::Body, 0, 1), (Side::Engine, 1, 0)] {
        let (job, _) = held(&job, run, (0, 450.0), SupportKind::Clamps, to);
        let told = told(&job, run);
        let ends = [&told.ends[0], &told.ends[1]].map(|end| end.figures.as_ref().unwrap().takes.clone().unwrap());
        // The joint at rest is 300 mm over the roll axis; a degree of roll takes it aside by the chord, and bends it not at
        // all, since the axis is along the pipe. What heat adds is along the pipe.
        let chord = 600.0 * 0.5_f64.to_radians().sin();
        assert!((ends[takes].offset.mm() - chord).abs() < 1e-6, "{} {chord}", ends[takes].offset.mm());
        assert!(ends[takes].angle < 1e-9 && ends[takes_not].offset.mm() < 1e-9);
        // Clamps hold it in its middle: each end grows from there.
        let run_of = job.run(run).unwrap();
        let grown = |joint: f64| 17.3e-6 * (run_of.celsius() - 20.0) * joint;
        let stood = [run_of.gap(End::A), LONG - run_of.gap(End::B)];
        let middle = run_of.gap(End::A) + 450.0;
        let joint = [stood[0] / 2.0, LONG - run_of.gap(End::B) / 2.0];
        let want = grown((joint[takes_not] - middle).abs());
        let got = ends[takes_not].axial.mm().abs();
        assert!((got - want).abs() < 2e-2 * want, "{got} {want}");
    }
}

/// Where supports and couplers part a pipe, every section is where what holds it is, whatever else moves.
#[test]
fn a_section_between_two_that_are_held_settles_between_them() {
    let (job, run) = straight([Side::Engine, Side::Engine]);
    let job = on(&job, MountKind::Soft);
    let joint =
        |job: &Job, mm: f64| Edit::Join(JoinEdit::AddJoint { run, at: at(job, run, 0, mm), kind: JointKind::Coupler });
    let job = with(&job, &[joint(&job, 300.0), joint(&job, 600.0)]);
    let (job, _) = held(&job, run, (0, 150.0), SupportKind::Clamps, Side::Engine);
    let (job, _) = held(&job, run, (0, 750.0), SupportKind::Tab, Side::Body);
    let told = told(&job, run);
    let rides: Vec<PipeRides> = told.sections.iter().map(|one| one.rides).collect();
    assert!(matches!(rides[..], [PipeRides::Engine, PipeRides::Between, PipeRides::Body]), "{rides:?}");
    // The last coupler, from body to engine, takes all of it; the first, from engine to engine, nothing but heat.
    let ends = [&told.ends[0], &told.ends[1]].map(|end| end.figures.as_ref().unwrap().takes.clone().unwrap());
    let chord = 600.0 * 0.5_f64.to_radians().sin();
    assert!((ends[1].offset.mm() - chord).abs() < 1e-6 && ends[0].offset.mm() < 1e-9);
    let between: Vec<f64> = told.joints.iter().map(|joint| joint.figures.takes.as_ref().unwrap().offset.mm()).collect();
    // Two alike share it, and the section leans for the rest: the least of two angles and two offsets that make up the chord.
    let (angle, offset, apart) = (2.0_f64.to_radians(), 2.0_f64, 300.0_f64);
    let want = chord * offset.powi(2) / 2.0 / (offset.powi(2) + (apart * angle).powi(2) / 4.0);
    assert!(between.iter().all(|got| (got - want).abs() < 0.01 * want), "{between:?} {want}");
    // The pose that is played has each section where it rides.
    let worst = &told.joints[0].figures.takes.as_ref().unwrap();
    let shift = |section: usize| Vector3::from(worst.sections[section][3]).norm();
    assert!(shift(0) > 1.0 && shift(2) < 1e-9);
}

#[test]
fn what_is_held_on_the_other_side_than_it_is_tied_to_cracks() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let stiff = with(&job, &[kind(&job, run, End::A, JointKind::Metal)]);
    for (mount, to, severity) in [
        (MountKind::Soft, Side::Body, Some(Severity::Error)),
        (MountKind::Solid, Side::Body, Some(Severity::Warning)),
        (MountKind::Soft, Side::Engine, None),
    ] {
        let (job, support) = held(&on(&stiff, mount), run, (0, 400.0), SupportKind::Tab, to);
        let found = found(&job, run, FindingKind::Bracketed);
        assert_eq!(found.first().map(|one| one.severity), severity, "{mount:?} {to:?}");
        if let Some(finding) = found.first() {
            assert_eq!(finding.part, PartRef::Support { run, support });
            mended(&job, run, finding);
        }
    }
    // Rubber in a grommet gives: no tie.
    let (job, _) = held(&on(&stiff, MountKind::Soft), run, (0, 400.0), SupportKind::Grommet, Side::Body);
    assert_eq!(found(&job, run, FindingKind::Bracketed), []);
}

/// Asked for nothing, a support goes to what its section rides on, and where that floats to the body.
#[test]
fn a_support_goes_to_what_its_section_rides_on() {
    for (rides, mounted, to) in [
        ([Side::Engine, Side::Engine], MountKind::Soft, Side::Engine),
        ([Side::Body, Side::Body], MountKind::Soft, Side::Body),
        ([Side::Engine, Side::Body], MountKind::Soft, Side::Body),
    ] {
        let (job, run) = straight(rides);
        let job = on(&job, mounted);
        let support = SupportDraft { at: at(&job, run, 0, 400.0), kind: SupportKind::Clamps, to: None };
        let job = with(&job, &[Edit::Join(JoinEdit::AddSupport { run, support })]);
        assert_eq!(job.run(run).unwrap().route.supports()[0].to, to, "{rides:?}");
        assert_eq!(found(&job, run, FindingKind::HeldOnBothSides), []);
    }
}

#[test]
fn supports_of_one_section_are_on_one_side() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let job = on(&job, MountKind::Soft);
    let (one, _) = held(&job, run, (0, 250.0), SupportKind::Clamps, Side::Body);
    let (both, _) = held(&one, run, (0, 650.0), SupportKind::Clamps, Side::Engine);
    let finding = &found(&both, run, FindingKind::HeldOnBothSides)[0];
    assert_eq!(finding.severity, Severity::Error);
    mended(&both, run, finding);
    let (same, _) = held(&one, run, (0, 650.0), SupportKind::Clamps, Side::Body);
    assert_eq!(found(&same, run, FindingKind::HeldOnBothSides), []);
    // Nothing is known of how it moves then: it is taken to be anywhere between.
    assert!(matches!(told(&both, run).sections[0].rides, PipeRides::Between));
    // With a joint that gives between, each may ride with its side.
    let parted =
        with(&both, &[Edit::Join(JoinEdit::AddJoint { run, at: at(&both, run, 0, 450.0), kind: JointKind::Hump })]);
    assert_eq!(found(&parted, run, FindingKind::HeldOnBothSides), []);
}

/// A pipe of two bends.
fn bent() -> (Job, RunId) {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], OD)));
    let (lead_a, lead_b) = (Lead::new(260.0).unwrap(), Lead::new(240.0).unwrap());
    let way = Route::along(Centreline::Vertices { lead_a, between: Vec::new(), lead_b });
    (apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way })).unwrap().job, run)
}

/// Mistake 1: a support lies over a seam.
#[test]
fn a_support_over_a_seam_a_bead_or_a_hose_is_told_and_one_clear_of_them_is_not() {
    let (job, run) = bent();
    let straight = told(&job, run).straights[0].length.mm();
    let seat = told(&job, run).ends[0].straight_needed.mm();
    for support in [SupportKind::Clamps, SupportKind::Tab, SupportKind::Grommet, SupportKind::Hanger] {
        let half = support.long() / 2.0;
        // From the bend's end, and from the hose's seat with its bead.
        for (apart, severity) in [
            (-1.0, Some(Severity::Error)),
            (0.5, Some(Severity::Warning)),
            (14.9, Some(Severity::Warning)),
            (15.0, None),
        ] {
            for mm in [straight - apart - half, seat + apart + half] {
                let (job, _) = held(&job, run, (0, mm), support, Side::Body);
                let found = found(&job, run, FindingKind::SupportOnSeam);
                assert_eq!(found.first().map(|one| one.severity), severity, "{support:?} {apart} at {mm}: {found:?}");
                if let Some(finding) = found.first() {
                    assert!((finding.value.unwrap() - apart).abs() < 1e-6 && finding.limit == Some(15.0));
                    mended(&job, run, finding);
                }
            }
        }
    }
}

/// Mistake 28: what is held from one direction only sways.
#[test]
fn tabs_from_one_direction_sway_and_a_second_direction_stops_it() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let tab = |job: &Job, mm: f64, clock: f64| {
        let (job, id) = held(job, run, (0, mm), SupportKind::Tab, Side::Body);
        with(&job, &[change(run, id, SupportChange::Clock { clock: Rotation::new(clock).ok() })])
    };
    let one = tab(&job, 300.0, 180.0);
    let finding = &found(&one, run, FindingKind::HeldOneWay)[0];
    mended(&one, run, finding);
    // Two tabs that look the same way, or against each other, are one direction still.
    for (clock, told) in [(180.0, true), (0.0, true), (205.0, true), (90.0, false), (215.0, false)] {
        let both = tab(&one, 600.0, clock);
        assert_eq!(!found(&both, run, FindingKind::HeldOneWay).is_empty(), told, "{clock}");
    }
    let (clamps, _) = held(&job, run, (0, 300.0), SupportKind::Clamps, Side::Body);
    assert_eq!(found(&clamps, run, FindingKind::HeldOneWay), []);
}

#[test]
fn feet_stand_on_what_is_there_and_their_holes_are_on_it() {
    let (job, run) = straight([Side::Body, Side::Body]);
    // A rail below, its top face 40 mm under the pipe's middle.
    let job = with(&job, &[block([450.0, 0.0, -90.0], [900.0, 200.0, 100.0], Side::Body)]);
    for (support, beside) in [(SupportKind::Clamps, 35.0_f64), (SupportKind::Tab, 0.0)] {
        let (job, id) = held(&job, run, (0, 400.0), support, Side::Body);
        let told = told(&job, run);
        let one = &told.supports[0];
        assert!((one.clock.unwrap() - 180.0).abs() < 1e-6, "straight down");
        let slanted = 40.0 / beside.to_radians().cos();
        for foot in &one.feet {
            assert!((foot.height.mm() - (slanted - OD / 2.0)).abs() < 0.02, "{}", foot.height.mm());
            assert_eq!(foot.on.as_deref(), Some("frame rail"));
            assert!(
                (foot.hole[2] + 40.0).abs() < 0.02
                    && (foot.hole[1].abs() - 40.0 * beside.to_radians().tan()).abs() < 0.02
            );
        }
        assert_eq!(found(&job, run, FindingKind::StandOffLow), []);
        assert_eq!(found(&job, run, FindingKind::NothingToHoldOn), []);
        // The survey backwards sets out the same holes.
        let points = setting_out(&job, PartRef::Support { run, support: id }, &Scans::default()).points;
        let holes: Vec<[f64; 3]> = one.feet.iter().map(|foot| foot.hole).collect();
        assert_eq!(points.iter().map(|point| point.at).collect::<Vec<_>>(), holes);
    }
    // Wrapped, it wants more than there is.
    let wrap = Edit::Spec(SpecEdit::SetInsulation { run, insulation: Insulation::new(20.0).ok() });
    let (tab, id) = held(&job, run, (0, 400.0), SupportKind::Tab, Side::Body);
    let low = found(&with(&tab, &[wrap]), run, FindingKind::StandOffLow);
    assert!((low[0].value.unwrap() - (40.0 - OD / 2.0)).abs() < 0.02 && low[0].limit == Some(25.0));
    // On the engine there is nothing, and up neither.
    let (engine, _) = held(&job, run, (0, 400.0), SupportKind::Tab, Side::Engine);
    assert_eq!(found(&engine, run, FindingKind::NothingToHoldOn).len(), 1);
    let up = with(&tab, &[change(run, id, SupportChange::Clock { clock: Rotation::new(0.0).ok() })]);
    assert_eq!(found(&up, run, FindingKind::NothingToHoldOn).len(), 1);
    // A stand-off that was measured says that there is something.
    let measured = with(&up, &[change(run, id, SupportChange::StandOff { stand_off: StandsOut::new(60.0).ok() })]);
    assert_eq!(found(&measured, run, FindingKind::NothingToHoldOn), []);
    assert!((told(&measured, run).supports[0].feet[0].hole[2] - (OD / 2.0 + 60.0)).abs() < 1e-9);
}

/// What is bolted to a thing may come nearer to it than a pipe, but not into it, and nothing else is excused.
#[test]
fn only_what_is_bolted_to_a_thing_is_excused_from_it() {
    let near = |job: &Job, run: RunId| {
        let all = told(job, run).findings;
        let kind = |kind| all.iter().filter(|one| one.kind == kind).count();
        (kind(FindingKind::TooNear), kind(FindingKind::Fouls))
    };
    let (bare, run) = straight([Side::Body, Side::Body]);
    // 12 mm of air to the tube: clamps 5 mm thick leave it 7.
    let rail = |air: f64, middle: f64| block([middle, 0.0, -OD / 2.0 - air - 50.0], [200.0, 200.0, 100.0], Side::Body);
    let job = with(&bare, &[rail(12.0, 450.0)]);
    assert_eq!(near(&job, run), (0, 0));
    let (bolted, id) = held(&job, run, (0, 450.0), SupportKind::Clamps, Side::Body);
    assert_eq!(near(&bolted, run), (0, 0), "bolted to it");
    let elsewhere = with(&bolted, &[change(run, id, SupportChange::To { to: Side::Engine })]);
    assert_eq!(near(&elsewhere, run), (1, 0), "bolted to something else");
    // The tube beside the clamps is not excused.
    assert_eq!(
        near(&held(&with(&bare, &[rail(9.0, 450.0)]), run, (0, 450.0), SupportKind::Clamps, Side::Body).0, run),
        (1, 0)
    );
    // Nor are clamps that would be in the rail.
    let into = held(&with(&bare, &[rail(4.0, 450.0)]), run, (0, 450.0), SupportKind::Clamps, Side::Body).0;
    assert_eq!(near(&into, run), (0, 1));
}

#[test]
fn a_grommet_or_a_hanger_gives_only_so_much() {
    let (job, run) = straight([Side::Engine, Side::Engine]);
    let job = on(&job, MountKind::Soft);
    // The whole pipe goes with the engine: a degree about an axis 300 mm below is 5.2 mm, and half a degree half.
    let moved = 300.0 * 1.0_f64.to_radians();
    for (support, gives) in [(SupportKind::Grommet, 2.0), (SupportKind::Hanger, 15.0)] {
        let (job, _) = held(&job, run, (0, 450.0), support, Side::Body);
        let found = found(&job, run, FindingKind::SupportOverGive);
        assert_eq!(!found.is_empty(), moved > gives, "{support:?}");
        assert!((told(&job, run).supports[0].moves.unwrap().mm() - moved).abs() < 0.01);
    }
    let (job, _) = held(&job, run, (0, 450.0), SupportKind::Grommet, Side::Engine);
    assert_eq!(found(&job, run, FindingKind::SupportOverGive), []);
}

#[test]
fn a_tube_between_two_tabs_has_nowhere_to_grow() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let hot = |job: &Job, celsius: f64| {
        let mut flow = job.run(run).unwrap().flow;
        flow.temperature = Temperature::new(celsius).ok();
        with(job, &[Edit::Spec(SpecEdit::SetFlow { run, flow })])
    };
    let job = hot(&job, 90.0);
    let (one, _) = held(&job, run, (0, 200.0), SupportKind::Tab, Side::Body);
    let (two, second) = held(&one, run, (0, 700.0), SupportKind::Tab, Side::Body);
    // 500 mm of stainless by 70 K.
    let found_here = found(&two, run, FindingKind::NoRoomToGrow);
    assert!((found_here[0].value.unwrap() - 500.0 * 17.3e-6 * 70.0).abs() < 1e-9);
    mended(&two, run, &found_here[0]);
    for less in [
        with(&two, &[change(run, second, SupportChange::Place { at: at(&two, run, 0, 500.0) })]),
        hot(&two, 50.0),
        with(&two, &[Edit::Join(JoinEdit::AddJoint { run, at: at(&two, run, 0, 450.0), kind: JointKind::Coupler })]),
    ] {
        assert_eq!(found(&less, run, FindingKind::NoRoomToGrow), []);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// The image of a pipe takes, rings and is held as the pipe is.
    #[test]
    fn a_mirrored_pipe_is_held_the_same(
        mm in 80.0..250.0_f64, leg in 0..3_usize, to_engine: bool, of in 0..4_usize, shift in -50.0..50.0_f64,
    ) {
        let (job, run) = bent();
        let there = with(&on(&job, MountKind::Soft), &[
            block([200.0, 60.0 + shift, -80.0], [900.0, 60.0, 60.0], Side::Body),
            block([200.0, -60.0 + shift, 90.0], [900.0, 60.0, 60.0], Side::Engine),
        ]);
        let to = if to_engine { Side::Engine } else { Side::Body };
        let (there, _) = held(&there, run, (leg, mm), SupportKind::ALL[of], to);
        let here = image(&there, run);
        let (one, other) = (told(&there, run), told(&here, run));
        for (one, other) in one.supports.iter().zip(&other.supports) {
            let turned = one.clock.unwrap_or(0.0) + other.clock.unwrap_or(0.0);
            prop_assert!(turned.rem_euclid(360.0).min(360.0 - turned.rem_euclid(360.0)) < 1e-4, "{turned}");
            // The two clamps of a pair change places.
            let mut over: Vec<[f64; 3]> = other.feet.iter().map(|foot| [foot.hole[0], -foot.hole[1], foot.hole[2]]).collect();
            over.reverse();
            for (foot, image) in one.feet.iter().zip(over) {
                prop_assert!((Vector3::from(foot.hole) - Vector3::from(image)).norm() < 0.05, "{:?} {image:?}", foot.hole);
            }
        }
        let shares = |told: &Workup| -> Vec<f64> {
            told.ends.iter().filter_map(|end| end.figures.as_ref()?.takes.as_ref()?.share).collect()
        };
        for (p, q) in shares(&one).iter().zip(shares(&other)) {
            prop_assert!((p - q).abs() < 1e-6, "{p} {q}");
        }
        let kinds = |told: &Workup| { let mut all: Vec<String> = told.findings.iter().map(|one| format!("{:?}", one.kind)).collect(); all.sort(); all };
        prop_assert_eq!(kinds(&one), kinds(&other));
    }
}

/// The job in the mirror: ports, keep-outs, mounts and the run's way with what holds it.
fn image(job: &Job, run: RunId) -> Job {
    let over = |point: Point| point.mirrored();
    let of = job.run(run).unwrap();
    let mut edits = Vec::new();
    for end in [End::A, End::B] {
        let mut port = of.port(end).clone();
        port.at = over(port.at);
        let [x, y, z] = port.out.to_array();
        port.out = nook_geometry::Direction::new(x, -y, z).unwrap();
        edits.push(Edit::Measure(MeasureEdit::SetPort { run, end, port }));
    }
    for one in job.keep_outs() {
        let to = nook_core::edit::KeepOutChange::Shape { shape: one.shape.mirrored() };
        edits.push(Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out: one.id, to }));
    }
    if let Some(mounts) = job.mounts() {
        // A roll is turned about by a mirror: the axis is told the other way.
        let mounts = Mounts { from: over(mounts.to), to: over(mounts.from), ..*mounts };
        edits.push(Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts) }));
    }
    let way = of.route.mirrored();
    edits.push(Edit::Route(RouteEdit::TakeWay { run, way }));
    apply(job, &Edit::Together { edits }).unwrap().job
}

#[test]
fn a_support_stays_with_its_pipe_through_what_is_done_to_its_way() {
    let (job, run) = bent();
    let (job, support) = held(&job, run, (1, 60.0), SupportKind::Clamps, Side::Body);
    let place = |job: &Job| {
        let told = told(job, run);
        let one = told.supports.iter().find(|one| one.support == support).expect("it is still there");
        one.feet[0].from
    };
    let before = place(&job);
    let bend = job.run(run).unwrap().route.bend_id(0);
    let target = Target::Vertex { bend, at: Point::new(250.0, 0.0, 0.0).unwrap() };
    for edit in [
        RouteEdit::Reshape { run, target, reach: Reach::AsFarAsItGoes, snap: None },
        RouteEdit::SplitBend { run, bend },
    ] {
        let after = apply(&job, &Edit::Route(edit)).unwrap().job;
        let moved = Vector3::from(place(&after)) - Vector3::from(before);
        assert!(moved.norm() < 60.0, "on the nearest leg: {}", moved.norm());
    }
    let without = apply(&job, &Edit::Join(JoinEdit::RemoveSupport { run, support })).unwrap().job;
    assert_eq!(told(&without, run).supports, []);
    assert!(apply(&without, &Edit::Join(JoinEdit::RemoveSupport { run, support })).is_err());
}

/// What pressure pushes apart a tab takes, on the section that would go; a cushioned clamp lets it slide, and a tab on another
/// section takes nothing.
#[test]
fn a_bracket_takes_what_pushes_a_joint_apart() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let mut plain = job.run(run).unwrap().b.clone();
    plain.form = EndForm::Plain;
    let pressed = |bar: f64| Edit::Spec(SpecEdit::SetPressure { run, pressure: Pressure::new(bar).ok() });
    let joint = Edit::Join(JoinEdit::AddJoint { run, at: at(&job, run, 0, 450.0), kind: JointKind::Coupler });
    let job = with(&job, &[Edit::Measure(MeasureEdit::SetPort { run, end: End::B, port: plain }), pressed(2.4), joint]);
    let pushed = |job: &Job| found(job, run, FindingKind::PushedApart);
    let one = pushed(&job);
    assert_eq!(one.iter().map(|one| one.part).collect::<Vec<_>>(), [PartRef::End { run, end: End::B }]);
    mended(&job, run, &one[0]);
    assert!(one[0].remedies.iter().any(|remedy| remedy.label.mm.starts_with("Tab it")));
    for (mm, kind, holds) in
        [(200.0, SupportKind::Tab, false), (700.0, SupportKind::Tab, true), (700.0, SupportKind::Clamps, false)]
    {
        let (job, _) = held(&job, run, (0, mm), kind, Side::Body);
        assert_eq!(pushed(&job).is_empty(), holds, "{kind:?} at {mm}");
    }
}

//! Hoses: where their fittings lead, how they are cut and clocked, and what is wrong with them.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use super::support::held::{block, found, mended, told, with};
use super::support::{any_direction, draft, job_with, port};
use nook_core::assembly::Assembly;
use nook_core::cut::{HosePiece, hose_pieces};
use nook_core::findings::FindingKind;
use nook_core::measure::{End, EndForm, MountKind, Mounts, Side};
use nook_core::route::{Centreline, ResolvedRun, Route, RunDraft};
use nook_core::stock::{Dash, Duty, FittingAngle, HoseBuild, HoseFitting, LEAST_LEG, LEG, Material, usual_hose};
use nook_core::survey::Survey;
use nook_core::{Edit, Job, MeasureEdit, RouteEdit, RunId, SpecEdit, apply};
use nook_geometry::units::{Lead, Roll, Rotation, Shift, Temperature};
use nook_geometry::{Arc, Direction, Path, PathStep, Point, Vector};
use proptest::prelude::*;

const DASH: Dash = Dash::D6;

fn thread() -> f64 {
    DASH.size().thread_od
}

fn fitting(degrees: u16, clock: Option<f64>, swivels: bool) -> HoseFitting {
    HoseFitting { angle: FittingAngle::new(degrees).unwrap(), clock: clock.map(|c| Rotation::new(c).unwrap()), swivels }
}

fn threaded(fittings: [HoseFitting; 2]) -> HoseBuild {
    HoseBuild::Threaded { dash: DASH, fittings }
}

/// A run of hose between two ports.
fn hose_between(a: ([f64; 3], [f64; 3]), b: ([f64; 3], [f64; 3]), od: f64, duty: Duty, hose: HoseBuild) -> RunDraft {
    let tube = hose.tube(usual_hose(duty), od).unwrap();
    let mut run = RunDraft { tube, hose: Some(hose), duty, ..draft(port(a.0, a.1, od), port(b.0, b.1, od)) };
    if hose.fittings().is_some() {
        (run.a.form, run.b.form) = (EndForm::Threaded, EndForm::Threaded);
    }
    run
}

/// An oil hose over an arch, its ports looking up, 300 mm apart.
fn oil(fittings: [HoseFitting; 2]) -> (Job, RunId) {
    let (a, b) = (([0.0; 3], [0.0, 0.0, 1.0]), ([300.0, 0.0, 0.0], [0.0, 0.0, 1.0]));
    job_with(hose_between(a, b, thread(), Duty::Oil, threaded(fittings)))
}

/// A coolant hose of moulded elbows round a corner, its two legs so long.
fn moulded(legs: [f64; 2], inserts: bool) -> (Job, RunId) {
    let (a, b) = (([0.0; 3], [1.0, 0.0, 0.0]), ([legs[0], legs[1], 0.0], [0.0, -1.0, 0.0]));
    let (job, run) = job_with(hose_between(a, b, 38.1, Duty::Coolant, HoseBuild::Moulded { inserts }));
    let way = Route::along(Centreline::OneBend);
    (with(&job, &[RouteEdit::TakeWay { run, way }.into()]), run)
}

fn settled(job: &Job, run: RunId) -> ResolvedRun {
    Survey::new(job).settle(job.run(run).unwrap())
}

fn assembled(job: &Job, run: RunId) -> Assembly {
    Assembly::build(&settled(job, run)).unwrap().unwrap()
}

fn set(run: RunId, hose: HoseBuild) -> Edit {
    SpecEdit::SetHose { run, hose, material: None, bore: None }.into()
}

#[test]
fn fittings_are_as_the_table_has_them() {
    let off = |degrees| DASH.cut_off(FittingAngle::new(degrees).unwrap());
    let near = |one: f64, other: f64| (one - other).abs() < 1e-9;
    assert!(near(off(0), 17.0) && near(off(45), 30.0) && near(off(90), 35.0));
    assert!((off(30) - (17.0 + 13.0 * 2.0 / 3.0)).abs() < 1e-9 && off(180) > off(150) && off(150) > off(90));
    assert!(FittingAngle::new(75).unwrap_err().to_string().contains("75"));
    assert!(serde_json::from_str::<FittingAngle>("75").is_err());
    // A hose bends no tighter than its inside may.
    let hose = threaded([HoseFitting::STRAIGHT; 2]);
    assert!(near(hose.least_radius(hose.tube(Material::Nitrile, 0.0).unwrap()), 65.0 + 14.5 / 2.0));
    // Each size is the next one's smaller sister in every figure.
    for pair in Dash::ALL.windows(2) {
        let [small, large] = [pair[0].size(), pair[1].size()];
        assert!(small.bore < large.bore && small.outside < large.outside && small.thread_od < large.thread_od);
        assert!(small.least_radius_inside < large.least_radius_inside && small.bore < small.outside);
        assert!(small.cut_off.iter().zip(large.cut_off).all(|(p, q)| *p < q));
    }
}

#[test]
fn a_pipe_becomes_hose_and_tube_again() {
    let (job, run) = oil([HoseFitting::STRAIGHT; 2]);
    let metal = nook_core::stock::Tube::new(
        Material::Stainless304l,
        nook_geometry::units::OutsideDiameter::new(12.7).unwrap(),
        nook_geometry::units::Wall::new(1.0).unwrap(),
    );
    let tube = with(&job, &[SpecEdit::SetTube { run, tube: metal.unwrap() }.into()]);
    assert!(tube.run(run).unwrap().hose.is_none() && told(&tube, run).hose.is_none());
    let again = with(&tube, &[set(run, threaded([HoseFitting::STRAIGHT; 2]))]);
    assert!((again.run(run).unwrap().tube.od() - DASH.size().outside).abs() < 1e-9);
    assert!(told(&again, run).hose.is_some() && told(&again, run).cutting.is_none());
    // What would contradict it is refused with what is wrong.
    let refused = |edit: Edit| apply(&job, &edit).unwrap_err().to_string();
    let other = HoseBuild::Corrugated.tube(Material::Epdm, 30.0).unwrap();
    assert!(refused(SpecEdit::SetTube { run, tube: other }.into()).contains("hose with threaded ends"));
    let coupler = nook_core::edit::JointChange::Kind { kind: nook_core::join::JointKind::Coupler };
    let joint = job.run(run).unwrap().joint(End::A).id;
    let edit = nook_core::JoinEdit::ChangeJoint { run, joint, to: coupler };
    assert!(refused(edit.into()).contains("no coupler"));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// A fitting walked in small steps comes out where the hose begins, as long as the table has it.
    #[test]
    fn a_fitting_leads_to_where_the_hose_begins(
        out in any_direction(), towards in any_direction(), which in 0..8_usize, clock in prop::option::of(-180.0..180.0_f64),
        end in prop_oneof![Just(End::A), Just(End::B)],
    ) {
        let angle = FittingAngle::ALL[which];
        let one = HoseFitting { angle, clock: clock.map(|c| Rotation::new(c).unwrap()), swivels: true };
        let far = towards.vector() * 900.0;
        let here = ([0.0; 3], out.to_array());
        let there = ([far.x, far.y, far.z], [0.0, 0.0, 1.0]);
        let straight = HoseFitting::STRAIGHT;
        let (a, b, both) = if end == End::A { (here, there, [one, straight]) } else { (there, here, [straight, one]) };
        let (job, run) = job_with(hose_between(a, b, thread(), Duty::Oil, threaded(both)));
        let run = settled(&job, run);
        let fitted = run.fitted(end).unwrap();
        let outlet = run.outlet(end);
        let degrees = angle.degrees();
        prop_assert!((outlet.out.angle(out).to_degrees() - degrees).abs() < 1e-6);
        // The corner of its two straights is as far from the seat as from the outlet.
        if degrees < 180.0 {
            let neck = (fitted.length() - DASH.neck_radius() * degrees.to_radians()) / 2.0;
            let corner = out.vector() * (neck + DASH.neck_radius() * (degrees.to_radians() / 2.0).tan());
            let back = outlet.at.inner().coords - outlet.out.vector() * corner.norm();
            prop_assert!((back - corner).norm() < 1e-9);
        }
        // It turns towards its clock, or towards the other end.
        if degrees > 0.0 && degrees < 180.0 {
            let turned = outlet.out.vector() - out.vector() * out.vector().dot(&outlet.out.vector());
            let travel = if end == End::A { out.vector() } else { -out.vector() };
            let wanted = match clock {
                Some(clock) => {
                    let up = if travel.z.abs() > 0.999_847_695_156_391_3 { Vector::x() } else { Vector::z() };
                    let up = (up - travel * travel.dot(&up)).normalize();
                    let (sin, cos) = clock.to_radians().sin_cos();
                    up * cos + travel.cross(&up) * sin
                }
                None => far,
            };
            let square = wanted - out.vector() * out.vector().dot(&wanted);
            prop_assume!(square.norm() > 1e-3 * wanted.norm());
            prop_assert!(turned.normalize().dot(&square.normalize()) > 1.0 - 1e-9);
        }
        // Its bars hold every place of its middle.
        let bars = fitted.bars();
        for pair in bars.windows(2) {
            prop_assert!((pair[0].ends[1] - pair[1].ends[0]).norm() < 1e-9);
        }
        prop_assert!((bars.last().unwrap().ends[1] - outlet.at.inner()).norm() < 1e-9);
    }

    /// The clock between two fittings is that of a line along the untwisted hose: carried by reflections in small steps.
    #[test]
    fn the_clock_is_that_of_the_untwisted_hose(
        between in prop::collection::vec([-200.0..500.0_f64, -300.0..300.0_f64, -100.0..400.0_f64], 0..3),
        leads in [80.0..300.0_f64, 80.0..300.0_f64], clocks in [-180.0..180.0_f64, -180.0..180.0_f64],
    ) {
        let along = |mirrored: bool| {
            let side = if mirrored { -1.0 } else { 1.0 };
            let (job, run) = oil(clocks.map(|clock| fitting(90, Some(side * clock), false)));
            let [lead_a, lead_b] = leads.map(|lead| Lead::new(lead).unwrap());
            let between = between.iter().map(|[x, y, z]| Point::new(*x, side * *y, *z).unwrap()).collect();
            let way = Route::along(Centreline::Vertices { lead_a, between, lead_b });
            (apply(&job, &RouteEdit::TakeWay { run, way }.into()).map(|applied| applied.job), run)
        };
        let (Ok(job), id) = along(false) else { return Ok(()) };
        let run = &settled(&job, id);
        let assembly = assembled(&job, id);
        let told = assembly.fitting_clock(run).unwrap();
        let line = run.fitted(End::A).unwrap().leaving().clock().into_inner();
        let carried = reflected(&assembly.whole, line);
        let other = run.fitted(End::B).unwrap().leaving().clock().into_inner();
        let way = assembly.whole.arrival().along.vector();
        prop_assert!(carried.dot(&way).abs() < 1e-6, "it stays across the hose");
        let expected = way.cross(&carried).dot(&other).atan2(carried.dot(&other)).to_degrees();
        let off = (told - expected).rem_euclid(360.0);
        prop_assert!(off.min(360.0 - off) < 0.01, "{told} {expected}");
        // The mirror image is clocked the other way.
        let (image, id) = along(true);
        let image = image.unwrap();
        let image = assembled(&image, id).fitting_clock(&settled(&image, id)).unwrap();
        let off = (told + image).rem_euclid(360.0);
        prop_assert!(off.min(360.0 - off) < 1e-6, "{told} {image}");
    }

    /// Whatever straights a moulded hose has, its pieces laid end to end are as long as they; no leg is cut on the curve.
    #[test]
    fn moulded_pieces_laid_end_to_end_are_the_hose(
        legs in prop::collection::vec((-10.0..400.0_f64, 0..3_usize), 1..4), last in -10.0..400.0_f64,
        seats in [25.0..60.0_f64, 25.0..60.0_f64], half in 25.0..60.0_f64,
    ) {
        let steps = legs.iter().map(|(straight, angle)| PathStep {
            straight: *straight, bend: Arc { radius: 45.0, angle: [45.0_f64, 90.0, 135.0][*angle].to_radians(), rotation: 0.3 },
        }).collect();
        let start = Point::new(0.0, 0.0, 0.0).unwrap();
        let path = Path::new(start, Direction::try_from([1.0, 0.0, 0.0]).unwrap(), steps, last);
        let straights: Vec<f64> = path.straights().collect();
        let bends = legs.len();
        let have = |leg: usize| straights[leg]
            + if leg == 0 { seats[0] } else { 0.0 }
            + if leg == bends { seats[1] } else { 0.0 };
        let need = |leg: usize| if leg == 0 || leg == bends { LEAST_LEG } else { 2.0 * LEAST_LEG };
        match hose_pieces(&path, seats, half) {
            Err(short) => {
                prop_assert!(have(short.leg) < need(short.leg));
                prop_assert!((short.have - have(short.leg)).abs() < 1e-9 && (short.need - need(short.leg)).abs() < 1e-9);
            }
            Ok(pieces) => {
                let mut on = vec![0.0; bends + 1];
                for piece in &pieces {
                    match *piece {
                        HosePiece::Straight { leg, length } => {
                            prop_assert!(length >= 2.0 * half - 1e-9, "it sits on what is at its ends: {length}");
                            on[leg] += length;
                        }
                        HosePiece::Elbow { bend, legs } => {
                            prop_assert!(legs.iter().all(|leg| (LEAST_LEG - 1e-9..=LEG.max(LEAST_LEG + 2.0 * half) + 1e-9).contains(leg)), "{legs:?}");
                            on[bend] += legs[0];
                            on[bend + 1] += legs[1];
                        }
                    }
                }
                for (leg, sum) in on.iter().enumerate() {
                    prop_assert!((sum - have(leg)).abs() < 1e-9);
                }
            }
        }
    }

    /// A hose across mounts is cut longer by no less than the engine ever takes its ends apart, and by no more than its shift
    /// beyond that.
    #[test]
    fn the_engine_does_not_pull_a_hose_taut(
        from in [-300.0..300.0_f64, -300.0..300.0_f64, 100.0..400.0_f64],
        to in [-300.0..300.0_f64, -300.0..300.0_f64, 100.0..400.0_f64], roll in 0.0..15.0_f64, shift in 0.0..20.0_f64,
    ) {
        prop_assume!(from.iter().zip(&to).map(|(p, q)| (p - q).powi(2)).sum::<f64>() > 1e4);
        let hose = threaded([HoseFitting::STRAIGHT; 2]);
        let mut run = hose_between((from, [0.0, 0.0, 1.0]), (to, [0.0, 0.0, 1.0]), thread(), Duty::Oil, hose);
        run.a.rides = Side::Engine;
        let (job, run) = job_with(run);
        let point = |x| Point::new(x, 0.0, -300.0).unwrap();
        let mounts = Mounts {
            kind: MountKind::Soft, from: point(0.0), to: point(1000.0), roll: Roll::new(roll).ok(),
            overrun: Roll::new(roll / 2.0).ok(), crank: None, shift: Shift::new(shift).ok(),
        };
        let job = with(&job, &[MeasureEdit::SetMounts { mounts: Some(mounts) }.into()]);
        let run = &settled(&job, run);
        let Some(Ok(pipe)) = Assembly::build(run) else { return Ok(()) };
        let pulled = pipe.hose_length(run).pulled;
        let (a, b) = (run.outlet(End::A).at.inner(), run.outlet(End::B).at.inner());
        let [least, most] = mounts.rolls();
        let rest = (a - b).norm();
        let worst = (0..=400).map(|k| {
            let turned = mounts.rolled(least + (most - least) * f64::from(k) / 400.0) * a;
            (turned - b).norm() - rest
        }).fold(0.0, f64::max);
        prop_assert!(pulled >= worst + mounts.shift() - 1e-9, "{pulled} {worst}");
        prop_assert!(pulled <= worst + mounts.shift() + 0.01, "{pulled} {worst}");
    }
}

/// A line across a path's way carried along it by two reflections for each small step. Source: W. Wang et al., "Computation of
/// rotation minimizing frames", ACM Transactions on Graphics 27, 2008.
fn reflected(path: &Path, line: Vector) -> Vector {
    let mut places = Vec::new();
    let mut travel = path.setting_out();
    for step in path.legs() {
        places.push((travel.at, travel.along.vector()));
        travel = travel.straight(step.straight).clocked(step.bend.rotation);
        for k in 0..200 {
            let here = travel.bend(step.bend.radius, step.bend.angle * f64::from(k) / 200.0);
            places.push((here.at, here.along.vector()));
        }
        travel = travel.bend(step.bend.radius, step.bend.angle);
    }
    places.push((travel.at, travel.along.vector()));
    let end = travel.straight(path.last());
    places.push((end.at, end.along.vector()));
    let mirror = |v: Vector, across: Vector| v - across * (2.0 * across.dot(&v) / across.norm_squared());
    let mut line = line;
    for pair in places.windows(2) {
        let step = pair[1].0 - pair[0].0;
        if step.norm() < 1e-9 {
            continue;
        }
        let (once, way) = (mirror(line, step), mirror(pair[0].1, step));
        let turn = pair[1].1 - way;
        line = if turn.norm() < 1e-12 { once } else { mirror(once, turn) };
    }
    line
}

#[test]
fn fittings_in_one_plane_need_no_clock_or_half_a_turn() {
    // Both turn towards each other: the hose lies in their plane, and both look to its inside.
    let (job, run) = oil([fitting(90, None, false); 2]);
    let told = told(&job, run).hose.unwrap();
    assert!(told.clock.unwrap().abs() < 1e-6, "{:?}", told.clock);
    assert!(told.clock_words.unwrap().contains("Neither swivels") && told.clock_said.unwrap() == "as A");
    assert_eq!(told.fittings.len(), 2);
    let straight = oil([HoseFitting::STRAIGHT, fitting(90, None, true)]);
    assert_eq!(super::support::held::told(&straight.0, straight.1).hose.unwrap().clock, None);
}

#[test]
fn a_hose_is_cut_between_its_fittings() {
    let (job, run) = oil([HoseFitting::STRAIGHT; 2]);
    let told = told(&job, run);
    let way = told.totals.as_ref().unwrap().mouth_to_mouth.mm();
    let hose = told.hose.unwrap();
    assert!((hose.length.unwrap().cut.mm() - way * 1.03).abs() < 0.02);
    // Seat to seat it is longer by both fittings.
    let whole = assembled(&job, run).whole;
    let apart = whole.setting_out().at.z;
    assert!((apart - 17.0).abs() < 1e-9, "it begins where the fitting ends");
}

#[test]
fn what_spoils_a_hose_is_told() {
    let (job, run) = oil([HoseFitting::STRAIGHT; 2]);
    for kind in [FindingKind::HoseUnfit, FindingKind::HoseTooHot, FindingKind::HoseBend, FindingKind::SizesDiffer] {
        assert_eq!(found(&job, run, kind), [], "PTFE at its own radius, on its own thread");
    }
    let of = |material| {
        let hose = threaded([HoseFitting::STRAIGHT; 2]);
        with(&job, &[SpecEdit::SetHose { run, hose, material: Some(material), bore: None }.into()])
    };
    let silicone = of(Material::Silicone);
    mended(&silicone, run, &found(&silicone, run, FindingKind::HoseUnfit)[0]);
    let nitrile = of(Material::Nitrile);
    assert_eq!(found(&nitrile, run, FindingKind::HoseUnfit), []);
    let celsius = |celsius| {
        let flow = nook_core::flow::FlowGiven { temperature: Temperature::new(celsius).ok(), ..Default::default() };
        with(&nitrile, &[SpecEdit::SetFlow { run, flow }.into()])
    };
    assert_eq!(found(&celsius(100.0), run, FindingKind::HoseTooHot), []);
    let hot = celsius(101.0);
    mended(&hot, run, &found(&hot, run, FindingKind::HoseTooHot)[0]);
    // Another thread, and no thread at all.
    let other = with(&job, &[set(run, HoseBuild::threaded(Dash::D8))]);
    assert_eq!(found(&other, run, FindingKind::SizesDiffer).len(), 2);
    let least = told(&job, run).hose.unwrap().least_radius.mm();
    let radius = |mm| {
        with(&job, &[RouteEdit::SetRadius { run, radius: nook_geometry::units::BendRadius::new(mm).unwrap() }.into()])
    };
    let tight = radius(least - 1.0);
    mended(&tight, run, &found(&tight, run, FindingKind::HoseBend)[0]);
    assert_eq!(found(&radius(least + 1.0), run, FindingKind::HoseBend), []);
}

/// A hose pushed over its mouths bears what a coupler of its size does.
#[test]
fn a_pushed_on_hose_bears_what_a_coupler_does() {
    let (a, b) = (([0.0; 3], [1.0, 0.0, 0.0]), ([400.0, 0.0, 0.0], [-1.0, 0.0, 0.0]));
    // 2.5 bar to 63.5, falling as the size grows.
    for (od, bar, count) in [(63.5, 2.5, 0), (63.5, 2.6, 1), (101.6, 1.5, 0), (101.6, 1.6, 1)] {
        let hose = HoseBuild::Moulded { inserts: true };
        let (job, run) = job_with(hose_between(a, b, od, Duty::ChargeCold, hose));
        let pressure = nook_geometry::units::Pressure::new(bar).ok();
        let job = with(&job, &[SpecEdit::SetPressure { run, pressure }.into()]);
        assert_eq!(found(&job, run, FindingKind::JointPressure).len(), count, "{od} {bar}");
    }
    let (job, run) = oil([HoseFitting::STRAIGHT; 2]);
    assert_eq!(found(&job, run, FindingKind::JointPressure), [], "a braided one as its maker says");
}

#[test]
fn a_clock_on_what_swivels_is_told_to_be_needless() {
    for (clock, swivels, count) in [(None, true, 0), (Some(30.0), true, 1), (Some(30.0), false, 0)] {
        let (job, run) = oil([fitting(90, clock, swivels), HoseFitting::STRAIGHT]);
        assert_eq!(found(&job, run, FindingKind::ClockNeedless).len(), count);
    }
}

#[test]
fn moulded_pieces_without_inserts_leak() {
    let (job, run) = moulded([400.0, 130.0], true);
    let hose = told(&job, run).hose.unwrap();
    assert_eq!(hose.pieces.len(), 2, "one leg is longer than an elbow's: {:?}", hose.pieces);
    assert_eq!((hose.inserts.unwrap().count, hose.clamps), (1, 4));
    // Its two clamps stand on each side of where the pieces meet, which is on the straight between two curves.
    let [meets] = hose.meets.as_slice() else { panic!("{:?}", hose.meets) };
    let straight = &told(&job, run).straights[0];
    assert!(meets.mm() > 0.0 && meets.mm() < straight.length.mm() - LEAST_LEG + 1e-9);
    let clamps = told(&job, run).over.into_iter().filter(|one| one.what == nook_core::assembly::OverKind::Clamp);
    let [before, after] = [0, 1].map(|nth| clamps.clone().nth(nth).unwrap().stations);
    assert!(before[1] < meets.mm() && meets.mm() < after[0] && clamps.count() == 2);
    assert_eq!(found(&job, run, FindingKind::NoInsert), []);
    let (without, run) = moulded([400.0, 130.0], false);
    mended(&without, run, &found(&without, run, FindingKind::NoInsert)[0]);
    // One elbow alone meets nothing.
    let (single, run) = moulded([120.0, 120.0], false);
    assert_eq!(found(&single, run, FindingKind::NoInsert), []);
    assert_eq!(told(&single, run).hose.unwrap().pieces.len(), 1);
}

#[test]
fn a_leg_too_short_would_be_cut_on_its_curve() {
    let legs = |z: f64| {
        // Two elbows up and over, their straight between so long.
        let radius = 1.25 * 38.1;
        let (a, b) = (([0.0; 3], [1.0, 0.0, 0.0]), ([0.0, 0.0, 2.0 * radius + z], [1.0, 0.0, 0.0]));
        let (job, run) = job_with(hose_between(a, b, 38.1, Duty::Coolant, HoseBuild::Moulded { inserts: true }));
        let lead = Lead::new(radius + 60.0).unwrap();
        let course = Centreline::Vertices { lead_a: lead, between: Vec::new(), lead_b: lead };
        (with(&job, &[RouteEdit::TakeWay { run, way: Route::along(course) }.into()]), run)
    };
    let (short, run) = legs(69.0);
    let finding = &found(&short, run, FindingKind::CutOnCurve)[0];
    assert!((finding.value.unwrap() - 69.0).abs() < 1e-6 && finding.limit == Some(70.0), "{finding:?}");
    assert_eq!(told(&short, run).hose.unwrap().pieces, []);
    let (enough, run) = legs(71.0);
    assert_eq!(found(&enough, run, FindingKind::CutOnCurve), []);
}

#[test]
fn only_angles_that_are_moulded_are_taken() {
    let (job, run) = moulded([200.0, 200.0], true);
    assert_eq!(found(&job, run, FindingKind::ElbowAngle), []);
    let (a, b) = (([0.0; 3], [1.0, 0.0, 0.0]), ([300.0, 200.0, 60.0], [-0.6, -0.8, 0.0]));
    let (odd, run) = job_with(hose_between(a, b, 38.1, Duty::Coolant, HoseBuild::Moulded { inserts: true }));
    let lead = Lead::new(110.0).unwrap();
    let course = Centreline::Vertices { lead_a: lead, between: Vec::new(), lead_b: lead };
    let odd = with(&odd, &[RouteEdit::TakeWay { run, way: Route::along(course) }.into()]);
    let finding = found(&odd, run, FindingKind::ElbowAngle);
    assert!(!finding.is_empty(), "{:?}", told(&odd, run).bends.iter().map(|bend| bend.angle).collect::<Vec<_>>());
}

#[test]
fn corrugations_cost_flow() {
    let (job, run) = moulded([400.0, 180.0], true);
    assert_eq!(found(&job, run, FindingKind::ChokesFlow), []);
    let smooth = told(&job, run).flow.unwrap().loss_kpa;
    let corrugated = with(&job, &[set(run, HoseBuild::Corrugated)]);
    let lost = told(&corrugated, run).flow.unwrap().loss_kpa;
    let finding = &found(&corrugated, run, FindingKind::ChokesFlow)[0];
    assert!(finding.value.unwrap() > 2.0 && lost > smooth, "{lost} {smooth}");
}

/// The parts of a fitting go with their stations at both ends: a block that only the mouth touches is stood on by either.
#[test]
fn both_ends_stand_on_what_their_mouths_touch() {
    let (job, run) = oil([fitting(45, None, true); 2]);
    let over = told(&job, run).over.into_iter().filter(|one| one.what == nook_core::assembly::OverKind::Fitting);
    for one in over {
        let middle = one.stations[0].midpoint(one.stations[1]);
        let seat = if middle < 100.0 { [0.0; 3] } else { [300.0, 0.0, 0.0] };
        let far = |at: [f64; 3]| (0..3).map(|i| (at[i] - seat[i]).powi(2)).sum::<f64>();
        let nearer = far(one.from) < far(one.to);
        assert_eq!(nearer, middle < 100.0, "{one:?}");
    }
    for x in [0.0, 300.0] {
        let stands = with(&job, &[block([x, 0.0, -20.0], [40.0, 40.0, 40.0], Side::Body)]);
        assert_eq!(found(&stands, run, FindingKind::Fouls), []);
        assert_eq!(found(&stands, run, FindingKind::TooNear), []);
    }
}

#[test]
fn a_fitting_that_turns_back_into_its_own_component_is_in_it() {
    // The mouth stands on the top of a block; a fitting of 180 degrees comes down beside it, or into it.
    let clear = |centre: [f64; 3], size: [f64; 3]| {
        let (job, run) = oil([fitting(180, Some(0.0), true), HoseFitting::STRAIGHT]);
        let (lead_a, lead_b) = (Lead::new(300.0).unwrap(), Lead::new(400.0).unwrap());
        let between = [[-180.0, 0.0, -300.0], [-180.0, 0.0, 417.0]].map(|at| Point::try_from(at).unwrap()).into();
        let way = Route::along(Centreline::Vertices { lead_a, between, lead_b });
        let job = with(&job, &[RouteEdit::TakeWay { run, way }.into(), block(centre, size, Side::Body)]);
        assert!(told(&job, run).air.is_some());
        found(&job, run, FindingKind::Fouls).is_empty()
    };
    let straight = |centre: [f64; 3], size: [f64; 3]| {
        let (job, run) = oil([HoseFitting::STRAIGHT; 2]);
        found(&with(&job, &[block(centre, size, Side::Body)]), run, FindingKind::Fouls).is_empty()
    };
    // Travel at A goes up, where clock 0 is forward.
    assert!(straight([0.0, 0.0, -20.0], [30.0, 30.0, 40.0]), "it stands on this");
    assert!(!clear([0.0, 0.0, -20.0], [120.0, 60.0, 40.0]), "and its hose goes down into this");
    assert!(clear([-8.0, 0.0, -20.0], [16.0, 30.0, 40.0]), "not into what ends beside it");
    // What stands beside a fitting is met by it, not only what stands beside the hose.
    let (job, run) = oil([fitting(90, Some(90.0), true), HoseFitting::STRAIGHT]);
    let out = settled(&job, run).outlet(End::A).at.inner();
    let beside = with(&job, &[block([out.x, out.y * 0.6, out.z], [8.0, 4.0, 8.0], Side::Body)]);
    assert!(!found(&beside, run, FindingKind::Fouls).is_empty());
}

/// Where a drain falls least is where a dense walk along it finds it to.
#[test]
fn drains_fall_all_the_way_or_are_told() {
    let drain = |b: [f64; 3], into: [f64; 3], to: Option<End>| {
        let run = hose_between(
            ([0.0, 0.0, 300.0], [0.0, 0.0, -1.0]),
            (b, into),
            thread(),
            Duty::Oil,
            threaded([HoseFitting::STRAIGHT; 2]),
        );
        let (job, run) = job_with(run);
        (with(&job, &[SpecEdit::SetDrains { run, to }.into()]), run)
    };
    let (steep, run) = drain([100.0, 0.0, -100.0], [0.0, 0.0, 1.0], Some(End::B));
    assert_eq!(found(&steep, run, FindingKind::DoesNotDrain), [], "plumb down and a little aside");
    let (flat, run) = drain([500.0, 0.0, 150.0], [-1.0, 0.0, 0.0], Some(End::B));
    let finding = &found(&flat, run, FindingKind::DoesNotDrain)[0];
    assert!(finding.value.unwrap() < 0.0, "its last straight is level, so that on a slope it rises: {finding:?}");
    let (never, run) = drain([500.0, 0.0, 150.0], [-1.0, 0.0, 0.0], None);
    assert_eq!(found(&never, run, FindingKind::DoesNotDrain), []);
    for (job, run) in [(steep, run), (flat, run)] {
        let run = &settled(&job, run);
        for to in [End::A, End::B] {
            let told = assembled(&job, run.id).least_fall(run, to);
            assert!((told.degrees - walked(run, &job, to)).abs() < 0.01, "{told:?}");
        }
    }
}

/// The least fall in degrees of a dense walk, the car level and tilted by 5 degrees to each of four sides.
fn walked(run: &ResolvedRun, job: &Job, to: End) -> f64 {
    let mut ways: Vec<Vector> = Vec::new();
    let whole = assembled(job, run.id).whole;
    let mut travel = whole.setting_out();
    ways.push(travel.along.vector());
    for step in whole.legs() {
        travel = travel.clocked(step.bend.rotation);
        ways.extend((0..=2000).map(|k| travel.bend(1.0, step.bend.angle * f64::from(k) / 2000.0).along.vector()));
        travel = travel.bend(step.bend.radius, step.bend.angle);
    }
    let (sin, cos) = 5.0_f64.to_radians().sin_cos();
    let ups = [[0.0, 0.0, 1.0], [sin, 0.0, cos], [-sin, 0.0, cos], [0.0, sin, cos], [0.0, -sin, cos]];
    let each = ups.iter().flat_map(|up| ways.iter().map(move |way| way.dot(&Vector::from(*up))));
    let each = each.map(|rise| if to == End::B { -rise } else { rise });
    each.fold(f64::INFINITY, f64::min).clamp(-1.0, 1.0).asin().to_degrees()
}

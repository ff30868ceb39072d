//! Measuring as edits of a job: what leans on what, what is refused, and that what was found moves the pipe.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::{any_point, draft, job_with, port};
use nook_core::measure::estimate::{Basis, OutlierTest};
use nook_core::measure::{
    Against, Anchor, Axis, CrankTurn, DatumId, End, Freedom, InstallState, Measurand, MountKind, Mounts, PortRef,
    Reading, Side, Spot, Taken, TurnRange,
};
use nook_core::stock::{name_bore, name_size};
use nook_core::survey::Survey;
use nook_core::workup::bay;
use nook_core::{Edit, EditError, Job, JobEdit, MeasureEdit, PlaceEdit, RunId, apply, workup};
use nook_geometry::units::{
    Coordinate, Girth, HeadingAngle, Name, OnStick, OutsideDiameter, PitchAngle, Spread, TapeLength, TurnAngle,
};
use nook_geometry::{Direction, Point};
use proptest::prelude::*;

const SPOTS: [[f64; 3]; 5] = [
    [-600.0, -650.0, 250.0],
    [-600.0, 650.0, 300.0],
    [650.0, -600.0, -150.0],
    [650.0, 600.0, 350.0],
    [0.0, 650.0, -350.0],
];

/// A job with a run whose A lies at the zero, and five datum points.
fn surveyed() -> (Job, RunId, Vec<DatumId>) {
    let (mut job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)));
    for (index, spot) in SPOTS.iter().enumerate() {
        let name = Name::new(&format!("datum {}", index + 1)).unwrap();
        job = apply(
            &job,
            &Edit::Measure(MeasureEdit::AddDatum { name, at: Point::try_from(*spot).unwrap(), rides: Side::Body }),
        )
        .unwrap()
        .job;
    }
    let datums = job.datums().iter().map(|datum| datum.id).collect();
    (job, run, datums)
}

fn tape(datum: DatumId, to: Spot, mm: f64) -> Taken {
    Taken::Tape { from: Anchor::Datum { datum }, to, mm: TapeLength::new(mm).unwrap() }
}

fn add(job: &Job, of: Measurand, taken: Taken) -> Result<Job, EditError> {
    apply(job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(taken) })).map(|applied| applied.job)
}

fn apart(one: [f64; 3], other: [f64; 3]) -> f64 {
    (0..3).map(|i| (one[i] - other[i]).powi(2)).sum::<f64>().sqrt()
}

/// Exact tapes from every datum to `at`.
fn taped(mut job: Job, of: Measurand, datums: &[DatumId], at: [f64; 3]) -> Job {
    for (datum, spot) in datums.iter().zip(SPOTS) {
        job = add(&job, of, tape(*datum, Spot::Centre, apart(spot, at))).unwrap();
    }
    job
}

fn a_of(run: RunId) -> (PortRef, Measurand) {
    let port = PortRef { run, end: End::A };
    (port, Measurand::Port { port })
}

#[test]
fn what_was_found_moves_the_pipe_and_the_document_keeps_only_what_was_read() {
    let (job, run, datums) = surveyed();
    let (port, of) = a_of(run);
    let at = [12.0, -7.5, 4.0];
    let measured = taped(job, of, &datums, at);
    let ends = workup(&measured, run).unwrap().ends;
    assert!(apart(ends[0].at.map(|c| c.mm()), at) < 1e-6);
    assert_eq!(measured.port(port).unwrap().at.to_array(), [0.0; 3], "what was typed stays as it was typed");
    // Its place is held: a hand cannot move it, and setting the readings aside lets go of it.
    let edit = Edit::Measure(MeasureEdit::MovePort { run, end: End::A, at: Point::new(1.0, 2.0, 3.0).unwrap() });
    let refusal = apply(&measured, &edit).unwrap_err();
    assert!(matches!(&refusal, EditError::HeldByReadings { name } if name == "mouth"), "{refusal}");
    let mut loose = measured.clone();
    for index in 0..datums.len() {
        let reading = loose.port(port).unwrap().readings[index];
        loose = apply(
            &loose,
            &Edit::Measure(MeasureEdit::SetReading { of, index, reading: Reading { counts: false, ..reading } }),
        )
        .unwrap()
        .job;
    }
    assert!(apply(&loose, &edit).is_ok());
    // Readings that do not count still show how far they are from what holds.
    let shown = &bay(&loose).ports[0].found.readings[0];
    assert!(!shown.counts && shown.off.as_ref().unwrap().mm.starts_with(['+', '-']));
}

#[test]
fn readings_that_fix_nothing_leave_what_was_typed_and_say_so() {
    let (job, run, datums) = surveyed();
    let (port, of) = a_of(run);
    let two = add(&job, of, tape(datums[0], Spot::Centre, 900.0)).unwrap();
    let two = add(&two, of, tape(datums[1], Spot::Centre, 920.0)).unwrap();
    let found = Survey::new(&two).port(port).unwrap();
    assert_eq!(found.place, Basis::Open);
    assert_eq!(<[f64; 3]>::from(found.pose.at.coords), [0.0; 3]);
    let said = workup(&two, run).unwrap().findings;
    assert!(said.iter().any(|finding| finding.words.mm.contains("do not fix where it is")), "{said:?}");
    // What would help is named, and it does.
    let help = bay(&two).ports[0].found.help.clone().unwrap();
    let three = add(&two, of, help.taken).unwrap();
    let worst = |job: &Job| Survey::new(job).port(port).unwrap().worst_of_all();
    assert!(worst(&three) < worst(&two));
}

#[test]
fn everything_known_of_a_port_is_one_fit() {
    let (job, run, datums) = surveyed();
    let (port, of) = a_of(run);
    let (at, out) = ([5.0, 10.0, -15.0], Direction::from_gauge(31.0, 12.0).unwrap());
    let mark = out.to_array().map(|c| c * 300.0);
    let mark = [at[0] + mark[0], at[1] + mark[1], at[2] + mark[2]];
    let stick = Spot::Stick { mm: OnStick::new(300.0).unwrap() };
    let mut job = taped(job, of, &datums[..3], at);
    for (datum, spot) in datums.iter().zip(SPOTS).skip(2) {
        job = add(&job, of, tape(*datum, stick, apart(spot, mark))).unwrap();
    }
    for taken in [
        Taken::Offset { from: Anchor::Zero, to: Spot::Centre, axis: Axis::Z, mm: Coordinate::new(at[2]).unwrap() },
        Taken::Heading { degrees: HeadingAngle::new(31.0).unwrap() },
        Taken::Pitch { degrees: PitchAngle::new(12.0).unwrap() },
        Taken::Caliper { mm: OutsideDiameter::new(63.4).unwrap() },
        Taken::Girth { mm: Girth::new(63.6 * std::f64::consts::PI).unwrap() },
    ] {
        job = add(&job, of, taken).unwrap();
    }
    let found = Survey::new(&job).port(port).unwrap();
    assert_eq!((found.place, found.aim, found.outlier_test()), (Basis::Fixed, Basis::Fixed, &OutlierTest::Nothing));
    assert!(apart(found.pose.at.coords.into(), at) < 1e-6);
    let end = &workup(&job, run).unwrap().ends[0];
    assert!((end.heading - 31.0).abs() < 1e-6 && (end.pitch - 12.0).abs() < 1e-6);
    // The caliper is worth more than the strip: their mean lies near it.
    assert!((63.4..63.41).contains(&end.port_od.mm()), "{}", end.port_od.mm());
}

#[test]
fn a_datum_that_is_not_well_known_makes_what_leans_on_it_worse_known() {
    let (job, run, datums) = surveyed();
    let (port, of) = a_of(run);
    let sharp = taped(job.clone(), of, &datums, [12.0, -7.5, 4.0]);
    // The first datum is itself taped from the others, not exactly known any more.
    let mut vague = job;
    for (datum, spot) in datums.iter().zip(SPOTS).skip(1) {
        let taken = tape(*datum, Spot::Centre, apart(spot, SPOTS[0]));
        let reading = Reading { spread: Some(Spread::new(12.0).unwrap()), ..Reading::of(taken) };
        vague = apply(
            &vague,
            &Edit::Measure(MeasureEdit::AddReading { of: Measurand::Datum { datum: datums[0] }, reading }),
        )
        .unwrap()
        .job;
    }
    let vague = taped(vague, of, &datums, [12.0, -7.5, 4.0]);
    let worst = |job: &Job| Survey::new(job).port(port).unwrap().worst();
    // Worse than from five sharp points, better than from the four others alone.
    let reading = vague.port(port).unwrap().readings[0];
    let without =
        Edit::Measure(MeasureEdit::SetReading { of, index: 0, reading: Reading { counts: false, ..reading } });
    let four = worst(&apply(&vague, &without).unwrap().job);
    assert!(
        worst(&sharp) + 0.01 < worst(&vague) && worst(&vague) + 1e-6 < four,
        "{} {} {four}",
        worst(&sharp),
        worst(&vague)
    );
    assert!(apart(Survey::new(&vague).port(port).unwrap().pose.at.coords.into(), [12.0, -7.5, 4.0]) < 1e-5);
}

#[test]
fn readings_that_lean_on_each_other_in_a_circle_are_refused() {
    let (job, run, datums) = surveyed();
    let (port, of) = a_of(run);
    let job = add(&job, of, tape(datums[0], Spot::Centre, 900.0)).unwrap();
    let back =
        Taken::Tape { from: Anchor::Port { port, rim: None }, to: Spot::Centre, mm: TapeLength::new(900.0).unwrap() };
    let refusal = add(&job, Measurand::Datum { datum: datums[0] }, back).unwrap_err().to_string();
    assert!(refusal.contains("lean on it again"), "{refusal}");
    let refusal = apply(&job, &Edit::Measure(MeasureEdit::RemoveDatum { datum: datums[0] })).unwrap_err().to_string();
    assert!(refusal.contains("take the reading out first"), "{refusal}");
    let pitch = Taken::Pitch { degrees: PitchAngle::new(3.0).unwrap() };
    let refusal = add(&job, Measurand::Datum { datum: datums[1] }, pitch).unwrap_err().to_string();
    assert!(refusal.contains("only a port has a direction"), "{refusal}");
    let corner = tape(datums[1], Spot::Corner { towards: [1, 1, 1] }, 500.0);
    assert!(add(&job, of, corner).unwrap_err().to_string().contains("only a box has corners"));
    let missing = Edit::Measure(MeasureEdit::RemoveReading { of, index: 7 });
    assert_eq!(apply(&job, &missing).unwrap_err().to_string(), "mouth has 1 readings; there is no number 8");
}

#[test]
fn a_twin_is_found_by_its_mirror_image_and_checked_against_it() {
    let (job, run, datums) = surveyed();
    let (_, of) = a_of(run);
    let job = taped(job, of, &datums, [-200.0, 120.0, -50.0]);
    let twin = draft(
        port([-190.0, -110.0, -40.0], [0.0, 0.3, 1.0], 63.5),
        port([500.0, -300.0, 100.0], [-1.0, 0.0, 0.0], 63.5),
    );
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run: twin })).unwrap().job;
    let other = job.runs()[1].id;
    let (twin, of) = a_of(other);
    let image = Taken::Mirror { of: PortRef { run, end: End::A } };
    let mirrored = add(&job, of, image).unwrap();
    let found = Survey::new(&mirrored).port(twin).unwrap();
    assert!(apart(found.pose.at.coords.into(), [-200.0, -120.0, -50.0]) < 1e-5);
    assert!((found.pose.out.unwrap().x - 1.0).abs() < 1e-9, "A points straight forward, and so does its image");
    // As a check only, it shows by how much the twin differs: 10 mm along each axis.
    let reading = Reading { counts: false, ..Reading::of(image) };
    let checked = apply(&job, &Edit::Measure(MeasureEdit::AddReading { of, reading })).unwrap().job;
    let fit = Survey::new(&checked).port(twin).unwrap().readings[0];
    assert!((fit.off - 300.0_f64.sqrt()).abs() < 1e-5, "{}", fit.off);
}

#[test]
fn a_component_carries_its_ports_as_it_is_turned_and_only_as_far_as_it_goes() {
    let (job, run, _) = surveyed();
    let port = PortRef { run, end: End::A };
    let turn = |degrees: f64| TurnAngle::new(degrees).unwrap();
    let add = Edit::Place(PlaceEdit::AddComponent {
        name: Name::new("housing").unwrap(),
        body: Vec::new(),
        ports: vec![port],
        freedoms: vec![Freedom::Turn {
            pivot: Point::new(0.0, 100.0, 0.0).unwrap(),
            axis: Direction::new(0.0, 0.0, 1.0).unwrap(),
            range: TurnRange::Steps { step: turn(30.0), back: 0, on: 3 },
            turned: turn(0.0),
        }],
    });
    let job = apply(&job, &add).unwrap().job;
    let component = job.components()[0].id;
    let set = |to| Edit::Place(PlaceEdit::SetFreedom { component, freedom: 0, to });
    let turned = apply(&job, &set(90.0)).unwrap().job;
    let end = &workup(&turned, run).unwrap().ends[0];
    // A quarter turn to the left about (0, 100) takes the zero to (100, 100) and forward to left.
    assert!(apart(end.at.map(|c| c.mm()), [100.0, 100.0, 0.0]) < 1e-9);
    assert!((end.heading - 90.0).abs() < 1e-9);
    // Turned, it does not stand where it was measured, so a hand cannot place it.
    let by_hand = Edit::Measure(MeasureEdit::MovePort { run, end: End::A, at: Point::new(1.0, 2.0, 3.0).unwrap() });
    assert!(apply(&job, &by_hand).is_ok());
    assert!(apply(&turned, &by_hand).unwrap_err().to_string().contains("set that back to 0"));
    for degrees in [45.0, 120.0, -30.0] {
        let refusal = apply(&job, &set(degrees)).unwrap_err().to_string();
        let says = if degrees == 45.0 { "45 degrees is none of them, 60 is the nearest" } else { "between 0 and 90" };
        assert!(refusal.contains(says), "{refusal}");
    }
    let twice = apply(&job, &add).unwrap_err().to_string();
    assert!(twice.contains("on another component too"), "{twice}");
}

#[test]
fn soft_mounts_move_a_mouth_by_the_chord_of_their_roll_and_their_shift() {
    let mounts = Mounts {
        kind: MountKind::Soft,
        from: Point::new(-400.0, 0.0, -60.0).unwrap(),
        to: Point::new(100.0, 0.0, -60.0).unwrap(),
        roll: None,
        overrun: None,
        crank: None,
        shift: None,
    };
    // 300 mm off the axis, 4 degrees: twice 300 times the sine of 2 degrees, and 6 mm of shift.
    let travel = mounts.travel(Point::new(50.0, 180.0, 180.0).unwrap());
    assert!((travel - (600.0 * 2.0_f64.to_radians().sin() + 6.0)).abs() < 1e-9, "{travel}");
    let (soft, firm, solid) = (MountKind::Soft.usual(), MountKind::Firm.usual(), MountKind::Solid.usual());
    assert!(soft.drive > firm.drive && firm.drive > solid.drive && soft.shift > firm.shift && firm.shift > solid.shift);
    // Torque pushes the block against the crank's turn; on overrun it rolls less, the other way.
    assert_eq!(mounts.rolls(), [-4.0, 4.0], "either way while nobody said");
    let rolls = |crank| Mounts { crank: Some(crank), ..mounts }.rolls();
    assert_eq!(rolls(CrankTurn::Clockwise), [-4.0, 1.5]);
    assert_eq!(rolls(CrankTurn::Anticlockwise), [-1.5, 4.0]);
    let flat = Mounts { to: mounts.from, ..mounts };
    assert!(flat.check().unwrap_err().to_string().contains("roll axis"));
}

#[test]
fn what_was_missing_when_it_was_measured_is_a_finding_until_it_is_in_place() {
    let (job, run, _) = surveyed();
    let (_, of) = a_of(run);
    let missing =
        apply(&job, &Edit::Measure(MeasureEdit::SetStanding { of, standing: InstallState::Missing })).unwrap().job;
    let findings = workup(&missing, run).unwrap().findings;
    let finding = findings.iter().find(|one| one.words.mm.contains("not in place yet")).unwrap();
    let mended = apply(&missing, &finding.remedies[0].edit).unwrap().job;
    assert!(!workup(&mended, run).unwrap().findings.iter().any(|one| one.words.mm.contains("not in place")));
}

#[test]
fn a_direction_can_be_held_square_to_an_axis_or_along_another_port() {
    let (job, run, _) = surveyed();
    let (port, of) = a_of(run);
    let level = Taken::Square { to: Against::Axis { axis: Axis::Z } };
    let heading = Taken::Heading { degrees: HeadingAngle::new(-40.0).unwrap() };
    let job = add(&add(&job, of, level).unwrap(), of, heading).unwrap();
    let out = Survey::new(&job).port(port).unwrap().pose.out.unwrap();
    assert!(out.z.abs() < 1e-9 && (out.y.atan2(out.x).to_degrees() + 40.0).abs() < 1e-6);
    let b = PortRef { run, end: End::B };
    let opposite = Taken::Parallel { to: Against::Port { port }, opposite: true };
    let job = add(&job, Measurand::Port { port: b }, opposite).unwrap();
    assert!((Survey::new(&job).port(b).unwrap().pose.out.unwrap().into_inner() + out.into_inner()).norm() < 1e-7);
}

#[test]
fn a_gauge_that_does_not_count_is_told_what_it_should_show_whichever_way_the_mouth_points() {
    // Seen as a stand-in for the gauge that was told the lean from an upright plane, which folds back beyond 90 degrees.
    for (heading, pitch) in [(58.0, 12.0), (120.0, -30.0), (-170.0, 50.0)] {
        let out = Direction::from_gauge(heading, pitch).unwrap();
        let (job, run) =
            job_with(draft(port([0.0; 3], out.to_array(), 63.5), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)));
        let (_, of) = a_of(run);
        let mut job = job;
        for taken in [
            Taken::Heading { degrees: HeadingAngle::new(0.0).unwrap() },
            Taken::Pitch { degrees: PitchAngle::new(0.0).unwrap() },
        ] {
            let reading = Reading { counts: false, ..Reading::of(taken) };
            job = apply(&job, &Edit::Measure(MeasureEdit::AddReading { of, reading })).unwrap().job;
        }
        let readings = &bay(&job).ports[0].found.readings;
        assert!((readings[0].predicted.unwrap() - heading).abs() < 1e-9, "{:?}", readings[0]);
        assert!((readings[1].predicted.unwrap() - pitch).abs() < 1e-9, "{:?}", readings[1]);
    }
}

#[test]
fn sizes_are_named_and_near_twins_are_told_apart() {
    let name = |od: f64| name_size(od).likely.unwrap().name;
    let twins = |od: f64| name_size(od).twins.into_iter().map(|size| size.name).collect::<Vec<_>>();
    assert_eq!(name(63.4), "2 1/2 in tube");
    assert_eq!(name(48.2), "1 1/2 in pipe (NPS, DN 40)");
    assert_eq!(name(88.7), "3 1/2 in tube");
    assert_eq!(name(100.0), "100 mm tube");
    // Any two sizes within 3 mm that are not alike are each other's trap.
    for (od, twin) in [
        (100.0, "4 in tube"),
        (101.6, "100 mm tube"),
        (70.0, "2 3/4 in tube"),
        (90.0, "3 1/2 in tube"),
        (88.9, "90 mm tube"),
        (48.26, "1 7/8 in tube"),
        (47.625, "1 1/2 in pipe (NPS, DN 40)"),
        (60.33, "60 mm tube"),
        (60.0, "2 in pipe (NPS, DN 50)"),
    ] {
        assert!(twins(od).contains(&twin.to_owned()), "{od}: {:?}", twins(od));
    }
    assert_eq!(name_size(38.1).namesake.unwrap().name, "1 1/2 in pipe (NPS, DN 40)");
    assert!((name_size(48.26).namesake.unwrap().od - 38.1).abs() < 1e-9);
    assert!(name_size(250.0).likely.is_none());
    let bores = |mm: f64| name_bore(mm).into_iter().map(|size| size.name).collect::<Vec<_>>();
    assert_eq!(bores(25.1), ["DN 25 hose", "dash 16"]);
    assert_eq!(bores(22.0), ["dash 14"]);
    assert!(bores(45.0).is_empty());
}

/// What a size is said to do follows the limits that joints are judged by, and no pair of sizes is forgotten.
#[test]
fn every_trap_is_told_and_none_is_exaggerated() {
    let all: Vec<_> = (24..1300)
        .flat_map(|tenth| {
            let guess = name_size(f64::from(tenth) / 10.0);
            guess.twins.into_iter().chain(guess.likely)
        })
        .collect();
    for one in &all {
        let twins = name_size(one.od).twins;
        for other in &all {
            let apart = (one.od - other.od).abs();
            let told = twins.iter().any(|twin| (twin.od - other.od).abs() < 1e-9);
            assert_eq!(told, apart > 1e-9 && apart <= 3.0, "{} beside {}", one.name, other.name);
        }
    }
    // A measured neck of 48.26 beside 48 mm tube is told, and that it goes together.
    let (mut job, run, _) = surveyed();
    let (port, of) = a_of(run);
    job = add(&job, of, Taken::Caliper { mm: OutsideDiameter::new(48.26).unwrap() }).unwrap();
    let shown = bay(&job).ports.into_iter().find(|one| one.port == port).unwrap();
    let beware = shown.size.beware.unwrap().mm;
    assert!(beware.contains("48 mm tube, 48.0 mm (goes together"), "{beware}");
    assert!(beware.contains("1 7/8 in tube, 47.6 mm (a hose must stretch"), "{beware}");
    let said = workup(&job, run).unwrap().findings;
    assert!(said.iter().any(|finding| finding.words.mm.contains("Not 1 7/8 in tube")), "{said:?}");
    assert!(!said.iter().any(|finding| finding.words.mm.contains("does not seal")));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]
    #[test]
    fn a_mesh_is_as_far_as_its_nearest_triangle(
        points in prop::collection::vec(any_point(200.0), 9), from in any_point(300.0), to in any_point(300.0),
        radius in 0.0..30.0_f64,
    ) {
        use nook_geometry::Mesh;
        let vertices: Vec<[f64; 3]> = points.iter().map(|p| p.to_array()).collect();
        let Ok(mesh) = Mesh::new(&vertices, vec![[0, 1, 2], [3, 4, 5], [6, 7, 8]]) else { return Ok(()) };
        // Brute force: both densely sampled. What is found may only be nearer, and by no more than the sampling.
        let steps = 40;
        let part = |k: i32| f64::from(k) / f64::from(steps);
        let mut nearest = f64::INFINITY;
        let along = |t: f64| (0..3).map(|i| from.to_array()[i] * (1.0 - t) + to.to_array()[i] * t).collect::<Vec<f64>>();
        for s in 0..=steps {
            let at = along(part(s));
            for corners in vertices.chunks_exact(3) {
                for i in 0..=steps {
                    for j in 0..=steps - i {
                        let (u, v) = (part(i), part(j));
                        let off = (0..3).map(|c| {
                            let p = corners[0][c] * (1.0 - u - v) + corners[1][c] * u + corners[2][c] * v;
                            (p - at[c]).powi(2)
                        });
                        nearest = nearest.min(off.sum::<f64>().sqrt());
                    }
                }
            }
        }
        let got = mesh.distance_to_bar(from, to, radius).unwrap() + radius;
        let coarse = (from.distance(to) + 700.0) / f64::from(steps);
        prop_assert!(got <= nearest + 1e-6 && got >= nearest - coarse, "{got} beside {nearest}");
        let point = mesh.distance_to_point(from);
        prop_assert!(got <= point + 1e-6);
        prop_assert!(mesh.distance_to_bar(from, to, -1.0).is_err());
    }
}

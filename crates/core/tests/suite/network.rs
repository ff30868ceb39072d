//! What is said of how well things are known is true: typed datums that are off, a bent hook and a sloping floor are
//! counted in; every answer that fits is told; nobody innocent is accused; and all of it agrees with a plain sum.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::support::{draft, job_with, port};
use nalgebra::{DMatrix, DVector, Matrix3, Point3, Unit, Vector3};
use nook_core::measure::estimate::{
    Basis, Kind, Leans, LeverArm, Observation, OutlierTest, Pose, Rim, estimate_pose, face_way, within_95,
};
use nook_core::measure::{
    Against, Anchor, Axis, DatumId, End, InstrumentChecks, Measurand, PortRef, Reading, RimSide, Side, Spot, Taken,
    TapeCheck, TiltCheck,
};
use nook_core::survey::Survey;
use nook_core::workup::bay;
use nook_core::{Edit, Job, MeasureEdit, RunId, apply};
use nook_geometry::units::{
    BetweenAngle, Coordinate, FaceClock, FaceRadius, HeadingAngle, Name, OnStick, PitchAngle, TapeLength,
};
use nook_geometry::{Direction, Point};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::{Distribution, Normal};

type V = Vector3<f64>;

/// Eight points round a bay, in space.
const SPOTS: [[f64; 3]; 8] = [
    [-600.0, -450.0, 335.0],
    [-580.0, 470.0, 352.0],
    [550.0, -320.0, 360.0],
    [590.0, 330.0, 320.0],
    [190.0, -430.0, -150.0],
    [180.0, 410.0, -165.0],
    [-440.0, 20.0, 90.0],
    [510.0, 15.0, -230.0],
];

fn noise(rng: &mut StdRng, sigma: f64) -> f64 {
    if sigma > 0.0 { Normal::new(0.0, sigma).unwrap().sample(rng) } else { 0.0 }
}

fn any_way(rng: &mut StdRng) -> V {
    loop {
        let v = V::from_fn(|_, _| rng.random_range(-1.0..1.0));
        if (0.1..1.0).contains(&v.norm()) {
            return v.normalize();
        }
    }
}

/// What is really there, and what a builder did about it.
#[derive(Clone, Copy)]
struct World {
    /// How far typed datums are off, each way, one standard deviation.
    datums: f64,
    /// What the tape reads too much.
    hook: f64,
    /// How the vehicle's nose and left side stand, in degrees.
    tilt: [f64; 2],
    checked: bool,
}

/// A port measured in a world: where it is, the job, and its reference.
struct Measured {
    at: V,
    out: V,
    job: Job,
    port: PortRef,
}

fn measured(seed: u64, world: World) -> Measured {
    let mut rng = StdRng::seed_from_u64(seed);
    let (mut job, run) = job_with(draft(
        port([40.0, 20.0, 60.0], [1.0, 0.0, 0.0], 63.5),
        port([900.0, 0.0, 0.0], [-1.0, 0.0, 0.0], 63.5),
    ));
    let mut real = Vec::new();
    for (index, spot) in SPOTS.iter().enumerate() {
        let typed = V::from(*spot);
        real.push(typed + V::from_fn(|_, _| noise(&mut rng, world.datums)));
        let name = Name::new(&format!("datum {index}")).unwrap();
        job = apply(
            &job,
            &Edit::Measure(MeasureEdit::AddDatum { name, at: Point::try_from(*spot).unwrap(), rides: Side::Body }),
        )
        .unwrap()
        .job;
    }
    let ids: Vec<DatumId> = job.datums().iter().map(|datum| datum.id).collect();
    let at = V::from_fn(|_, _| rng.random_range(-250.0..250.0));
    let out = any_way(&mut rng);
    let up = V::new(world.tilt[0].to_radians().sin(), world.tilt[1].to_radians().sin(), 1.0).normalize();
    if world.checked {
        let tape = TapeCheck { known: length(300.0), read: length(300.0 + world.hook) };
        let [nose_up, left_up] = world.tilt.map(|degrees| PitchAngle::new(degrees).unwrap());
        let checks = InstrumentChecks { tape: Some(tape), tilt: Some(TiltCheck { nose_up, left_up }) };
        job = apply(&job, &Edit::Measure(MeasureEdit::SetInstruments { checks })).unwrap().job;
    }
    let (port, of) = a_of(run);
    let take = |job: &Job, taken| {
        apply(job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(taken) })).unwrap().job
    };
    for (to, end, from) in [(Spot::Centre, at, [0, 2, 4, 5, 7]), (stick(), at + out * 300.0, [1, 2, 3, 6, 7])] {
        for index in from {
            let mm = (end - real[index]).norm() + world.hook + noise(&mut rng, 1.5);
            job = take(&job, Taken::Tape { from: Anchor::Datum { datum: ids[index] }, to, mm: length(mm) });
        }
    }
    let mm = Coordinate::new(up.dot(&(at - real[3])) + noise(&mut rng, 2.0)).unwrap();
    job = take(&job, Taken::Offset { from: Anchor::Datum { datum: ids[3] }, to: Spot::Centre, axis: Axis::Z, mm });
    let pitch = out.dot(&up).asin().to_degrees() + noise(&mut rng, 0.5);
    job = take(&job, Taken::Pitch { degrees: PitchAngle::new(pitch.clamp(-90.0, 90.0)).unwrap() });
    Measured { at, out, job, port }
}

fn length(mm: f64) -> TapeLength {
    TapeLength::new(mm).unwrap()
}

fn stick() -> Spot {
    Spot::Stick { mm: OnStick::new(300.0).unwrap() }
}

fn a_of(run: RunId) -> (PortRef, Measurand) {
    let port = PortRef { run, end: End::A };
    (port, Measurand::Port { port })
}

/// How often the place and the direction lie within what is said of them, of so many ports, and the mean of what is
/// said of the place in mm.
fn held(world: World, rounds: u64) -> (f64, f64, f64) {
    let (mut place, mut aim, mut said) = (0.0, 0.0, 0.0);
    for seed in 0..rounds {
        let Measured { at, out, job, port } = measured(seed, world);
        let found = Survey::new(&job).port(port).unwrap();
        assert_eq!((found.place, found.aim), (Basis::Fixed, Basis::Fixed), "{seed}");
        let within = within_95(found.spread);
        said += within;
        place += f64::from(u8::from((found.pose.at.coords - at).norm() <= within));
        aim += f64::from(u8::from(found.pose.out.unwrap().angle(&out) <= within_95(found.aim_spread)));
    }
    let rounds = f64::from(u32::try_from(rounds).unwrap());
    (place / rounds, aim / rounds, said / rounds)
}

#[test]
fn what_is_said_to_hold_95_times_in_100_does() {
    let exact = World { datums: 0.0, hook: 0.0, tilt: [0.0; 2], checked: false };
    for world in [
        World { datums: 2.0, ..exact },
        World { datums: 2.0, hook: 2.0, ..exact },
        World { datums: 2.0, tilt: [1.0, -0.6], ..exact },
        World { datums: 2.0, hook: -2.0, tilt: [-0.8, 1.0], ..exact },
        World { datums: 2.0, hook: 2.0, tilt: [2.5, -2.0], checked: true },
    ] {
        let (place, aim, said) = held(world, 400);
        // Four standard deviations of a share of 400 under 0.95; what is said is of the size of the errors.
        assert!(place > 0.906 && aim > 0.906, "{place} {aim} {said} {:?}", (world.datums, world.hook, world.tilt));
        assert!((2.0..12.0).contains(&said), "{said}");
    }
}

#[test]
fn readings_tell_the_hook_and_the_slope_that_nobody_checked() {
    let world = World { datums: 0.3, hook: 2.5, tilt: [1.2, -0.9], checked: false };
    let job = {
        // A frame known to a third of a mm.
        let Measured { job, .. } = measured(5, world);
        let spread = Some(nook_geometry::units::Spread::new(0.3).unwrap());
        let ids: Vec<DatumId> = job.datums().iter().map(|datum| datum.id).collect();
        ids.into_iter().fold(job, |job, datum| {
            apply(&job, &Edit::Measure(MeasureEdit::SetDatumSpread { datum, spread })).unwrap().job
        })
    };
    let before = job.instruments().instruments();
    let after = Survey::new(&job).instruments();
    assert!(after.tape_zero_spread < before.tape_zero_spread && after.tilt_spread < before.tilt_spread * 1.001);
    assert!((after.tape_zero - 2.5).abs() < 2.6 * after.tape_zero_spread, "{after:?}");
    assert!(bay(&job).instruments.tape.mm.contains("long"), "{:?}", bay(&job).instruments);
}

/// The same sum written out plainly: every unknown in one vector, slopes by differences.
#[test]
fn the_adjustment_is_the_plain_sum_of_squares() {
    let world = World { datums: 2.0, hook: 1.0, tilt: [0.5, 0.4], checked: false };
    let Measured { job, port, .. } = measured(11, world);
    // A second port leans on the first and on two of its datums.
    let b = PortRef { run: port.run, end: End::B };
    let ids: Vec<DatumId> = job.datums().iter().map(|datum| datum.id).collect();
    let mut job = job;
    let mut readings = vec![(Anchor::Port { port, rim: None }, 873.0)];
    readings
        .extend([(1, 1560.0), (2, 480.0), (3, 454.0), (7, 452.0)].map(|(k, mm)| (Anchor::Datum { datum: ids[k] }, mm)));
    let other = V::new(905.0, 3.0, -4.0);
    let first = Survey::new(&job).port(port).unwrap().pose.at.coords;
    for (from, _) in &mut readings {
        let (start, k) = match from {
            Anchor::Datum { datum } => (V::from(job.datum(*datum).unwrap().at.to_array()), datum.0),
            _ => (first, 3),
        };
        let mm = length((other - start).norm() + f64::from(k % 3) - 1.0);
        let taken = Taken::Tape { from: *from, to: Spot::Centre, mm };
        job = apply(
            &job,
            &Edit::Measure(MeasureEdit::AddReading { of: Measurand::Port { port: b }, reading: Reading::of(taken) }),
        )
        .unwrap()
        .job;
    }
    let survey = Survey::new(&job);
    let (got, far) = (survey.port(port).unwrap(), survey.port(b).unwrap());
    // Unknowns: A, its direction by two small turns, B, eight datums, the hook, the slope.
    let out = got.pose.out.unwrap();
    let sides = [out.cross(&V::z()).normalize(), out.cross(&out.cross(&V::z())).normalize()];
    let count = 3 + 2 + 3 + 24 + 3;
    let residuals = |x: &DVector<f64>| {
        let a = V::new(x[0], x[1], x[2]);
        let way = (out.into_inner() + sides[0] * x[3] + sides[1] * x[4]).normalize();
        let b_at = V::new(x[5], x[6], x[7]);
        let datum = |id: DatumId| {
            let k = ids.iter().position(|one| *one == id).unwrap();
            V::new(x[8 + 3 * k], x[9 + 3 * k], x[10 + 3 * k])
        };
        let up = V::new(x[33], x[34], 1.0).normalize();
        let mut all = Vec::new();
        for (id, at) in [(port, a), (b, b_at)] {
            for reading in &job.port(id).unwrap().readings {
                all.push(match reading.taken {
                    Taken::Tape { from, to, mm } => {
                        let start = match from {
                            Anchor::Datum { datum: id } => datum(id),
                            _ => a,
                        };
                        let end = if to == Spot::Centre { at } else { at + way * 300.0 };
                        ((end - start).norm() + x[32] - mm.get()) / 1.5
                    }
                    Taken::Offset { from: Anchor::Datum { datum: id }, mm, .. } => {
                        (up.dot(&(at - datum(id))) - mm.get()) / 2.0
                    }
                    Taken::Pitch { degrees } => {
                        (way.dot(&up).asin() - degrees.get().to_radians()) / 0.5_f64.to_radians()
                    }
                    _ => panic!("not taken here"),
                });
            }
        }
        for (k, spot) in SPOTS.iter().enumerate() {
            all.extend((0..3).map(|axis| (x[8 + 3 * k + axis] - spot[axis]) / 2.0));
        }
        all.extend([x[32] / 1.5, x[33] / 1.0_f64.to_radians(), x[34] / 1.0_f64.to_radians()]);
        DVector::from_vec(all)
    };
    let mut x = DVector::zeros(count);
    x.rows_mut(0, 3).copy_from(&got.pose.at.coords);
    x.rows_mut(5, 3).copy_from(&far.pose.at.coords);
    for (k, spot) in SPOTS.iter().enumerate() {
        x.rows_mut(8 + 3 * k, 3).copy_from_slice(spot);
    }
    let mut covariance = DMatrix::zeros(count, count);
    for _ in 0..20 {
        let now = residuals(&x);
        let slopes = DMatrix::from_columns(
            &(0..count)
                .map(|k| {
                    let step = if k > 32 || k == 3 || k == 4 { 1e-6 } else { 1e-4 };
                    let by = |sign: f64| {
                        let mut x = x.clone();
                        x[k] += sign * step;
                        residuals(&x)
                    };
                    (by(1.0) - by(-1.0)) / (2.0 * step)
                })
                .collect::<Vec<_>>(),
        );
        covariance = slopes.tr_mul(&slopes).try_inverse().unwrap();
        x -= &covariance * slopes.tr_mul(&now);
    }
    let block = |at: usize| covariance.view((at, at), (3, 3)).into_owned();
    for (at, found) in [(0, &got), (5, &far)] {
        let off = found.pose.at.coords - V::new(x[at], x[at + 1], x[at + 2]);
        assert!(off.norm() < 1e-3, "{off}");
        assert!((found.spread - Matrix3::from(block(at).fixed_view::<3, 3>(0, 0))).norm() < 2e-3 * found.spread.norm());
    }
    assert!(x.rows(3, 2).norm() < 1e-5, "the direction is the plain sum's");
    let aim = covariance[(3, 3)] + covariance[(4, 4)];
    assert!((got.aim_spread.trace() - aim).abs() < 5e-3 * aim, "{} beside {aim}", got.aim_spread.trace());
    assert!((survey.instruments().tape_zero - x[32]).abs() < 1e-3);
}

fn case(name: &str) -> Job {
    let path = format!("{}/../search/tests/cases/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let file: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let version = u32::try_from(file["version"].as_u64().unwrap()).unwrap();
    serde_json::from_value(nook_core::job::upgraded(version, file["job"].clone())).unwrap()
}

#[test]
fn a_stick_taped_from_points_in_a_plane_has_an_image_and_it_is_told() {
    let job = case("stick_mirror");
    let (port, of) = a_of(job.runs()[0].id);
    let found = Survey::new(&job).port(port).unwrap();
    let other = *found.others.first().expect("the other answer");
    // Across the plane of the datums, which lies at 335.
    assert!((found.pose.at.z + other.at.z - 670.0).abs() < 1.0, "{} {}", found.pose.at, other.at);
    assert!((found.pose.out.unwrap().z + other.out.unwrap().z).abs() < 0.02);
    let shown = &bay(&job).ports[0].found;
    assert!(shown.good_to.is_none() && shown.verdict.mm.contains("Two answers fit"), "{}", shown.verdict.mm);
    let finding = nook_core::workup(&job, job.runs()[0].id)
        .unwrap()
        .findings
        .into_iter()
        .find(|finding| finding.words.mm.contains("two places fit"));
    let taken = apply(&job, &finding.unwrap().remedies[0].edit).unwrap().job;
    let now = Survey::new(&taken).port(port).unwrap();
    assert!((now.pose.at - other.at).norm() < 1e-3 && now.pose.out.unwrap().angle(&other.out.unwrap()) < 1e-3);
    // A level settles it.
    let mm = Coordinate::new(found.pose.at.z).unwrap();
    let level = Taken::Offset { from: Anchor::Zero, to: Spot::Centre, axis: Axis::Z, mm };
    let settled =
        apply(&taken, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(level) })).unwrap().job;
    let now = Survey::new(&settled).port(port).unwrap();
    assert!(now.others.is_empty() && (now.pose.at - found.pose.at).norm() < 1.0);
}

#[test]
fn readings_that_agree_are_not_called_wrong_for_where_the_sum_was_started() {
    let job = case("stick_start");
    let (port, _) = a_of(job.runs()[0].id);
    let found = Survey::new(&job).port(port).unwrap();
    assert_eq!((found.outlier_test(), found.others.len()), (&OutlierTest::Nothing, 0));
    assert!(found.readings.iter().all(|fit| fit.off.abs() < 1.0), "{:?}", found.readings);
}

#[test]
fn a_clean_port_is_found_or_its_other_answer_told_whatever_was_typed() {
    let mut rng = StdRng::seed_from_u64(77);
    let (mut right, mut told) = (0, 0);
    for round in 0..300 {
        let flat = round % 3 == 0;
        let mut anchors: Vec<V> =
            SPOTS.iter().map(|spot| V::from(*spot) + V::from_fn(|_, _| noise(&mut rng, 40.0))).collect();
        if flat {
            anchors.iter_mut().for_each(|anchor| anchor.z = 335.0);
        }
        let at = V::from_fn(|_, _| rng.random_range(-260.0..260.0));
        let out = any_way(&mut rng);
        let mut sights = Vec::new();
        for (k, anchor) in anchors.iter().enumerate() {
            let to = if k % 2 == 0 { LeverArm::Fixed(V::zeros()) } else { LeverArm::Stick(300.0) };
            let end = if k % 2 == 0 { at } else { at + out * 300.0 };
            let mm = (end - anchor).norm() + noise(&mut rng, 1.0);
            let kind = Kind::Tape { from: Point3::from(*anchor), spread: Matrix3::zeros(), rim: None, to, mm };
            sights.push(Observation::of(k, 1.5, kind));
        }
        let typed = at + V::from_fn(|_, _| noise(&mut rng, 60.0));
        let found = estimate_pose(Pose { at: Point3::from(typed), out: Some(V::x_axis()) }, &sights);
        if found.place != Basis::Fixed {
            continue;
        }
        let true_pose = |pose: &Pose| (pose.at.coords - at).norm() < 25.0 && pose.out.unwrap().angle(&out) < 0.15;
        let squares = |pose: &Pose| -> f64 {
            let one = |sight: &Observation| {
                let [end, start] = sight.ends(pose).unwrap();
                let Kind::Tape { mm, .. } = sight.kind else { panic!() };
                (((end - start).norm() - mm) / 1.5).powi(2)
            };
            sights.iter().map(one).sum()
        };
        let real = Pose { at: Point3::from(at), out: Some(Unit::new_normalize(out)) };
        assert_eq!(
            found.outlier_test(),
            &OutlierTest::Nothing,
            "round {round}: {} beside {} where it is",
            squares(&found.pose),
            squares(&real)
        );
        right += i32::from(true_pose(&found.pose));
        let known = true_pose(&found.pose) || found.others.iter().any(true_pose);
        told += i32::from(known);
        assert!(known, "round {round}: {:?} for {at} {out}, others {:?}", found.pose, found.others);
    }
    assert!(told >= 280 && right > told * 3 / 4, "{right} of {told}");
}

#[test]
fn two_wrong_readings_are_named_together_and_nobody_innocent() {
    let mut rng = StdRng::seed_from_u64(4);
    let (mut named, mut exact) = (0, 0);
    let rounds = 150;
    for round in 0..rounds {
        let at = V::from_fn(|_, _| rng.random_range(-260.0..260.0));
        let out = any_way(&mut rng);
        let mut sights = Vec::new();
        for (k, spot) in SPOTS.iter().chain(&SPOTS).enumerate() {
            let (to, end) =
                if k < 8 { (LeverArm::Fixed(V::zeros()), at) } else { (LeverArm::Stick(300.0), at + out * 300.0) };
            let mm = (end - V::from(*spot)).norm() + noise(&mut rng, 1.5);
            let kind = Kind::Tape { from: Point3::from(*spot), spread: Matrix3::zeros(), rim: None, to, mm };
            sights.push(Observation::of(k, 1.5, kind));
        }
        let wrong = [rng.random_range(0..8), rng.random_range(8..16)];
        for index in wrong {
            if let Kind::Tape { mm, .. } = &mut sights[index].kind {
                *mm += rng.random_range(18.0..60.0) * if rng.random::<bool>() { 1.0 } else { -1.0 };
            }
        }
        let found =
            estimate_pose(Pose { at: Point3::from(at + V::new(20.0, -15.0, 10.0)), out: Some(V::x_axis()) }, &sights);
        match found.outlier_test() {
            OutlierTest::Readings { wrong: said, without } => {
                named += 1;
                for outlier in said {
                    assert!(wrong.contains(&outlier.index), "round {round} accuses {} for {wrong:?}", outlier.index);
                }
                exact += i32::from(said.len() == 2);
                if said.len() == 2 {
                    let off = (without.pose.at.coords - at).norm();
                    assert!(off < 2.0 * within_95(without.spread), "{off}");
                }
            }
            OutlierTest::OneOf { indices } => assert!(wrong.iter().any(|index| indices.contains(index))),
            OutlierTest::Nothing => panic!("round {round} sees nothing of {wrong:?}"),
            OutlierTest::Many => {}
        }
    }
    assert!(exact > 110 && named >= exact, "{exact} of {named} of {rounds}");
}

#[test]
fn what_nothing_checks_looks_unchecked_and_says_what_would_go_unseen() {
    let world = World { datums: 2.0, hook: 0.0, tilt: [0.0; 2], checked: false };
    let Measured { job, port, .. } = measured(3, world);
    let of = Measurand::Port { port };
    // A rule and a level along each axis fix a place and check nothing.
    let count = job.port(port).unwrap().readings.len();
    let bare = (0..count).rev().fold(job.clone(), |job, index| {
        apply(&job, &Edit::Measure(MeasureEdit::RemoveReading { of, index })).unwrap().job
    });
    let from = Anchor::Datum { datum: job.datums()[0].id };
    let three = Axis::ALL.into_iter().fold(bare, |job, axis| {
        let taken = Taken::Offset { from, to: Spot::Centre, axis, mm: Coordinate::new(300.0).unwrap() };
        apply(&job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(taken) })).unwrap().job
    });
    let shown = &bay(&three).ports[0].found;
    assert!(shown.readings.iter().all(|row| row.off.is_none() && row.checked == nook_core::workup::CheckedBy::Nothing));
    assert!(shown.verdict.mm.contains("Nothing checks that"), "{}", shown.verdict.mm);
    // Of all, an error as large as is said is told.
    let found = Survey::new(&job).alone(of).unwrap();
    for fit in found.readings.iter().filter(|fit| !fit.angle && fit.checked > 0.1).take(6) {
        let least = fit.least_told.unwrap();
        let reading = job.port(port).unwrap().readings[fit.index];
        let Taken::Tape { from, to, mm } = reading.taken else { continue };
        let taken = Taken::Tape { from, to, mm: length(mm.get() + 1.8 * least) };
        let edit =
            Edit::Measure(MeasureEdit::SetReading { of, index: fit.index, reading: Reading { taken, ..reading } });
        let wrong = apply(&job, &edit).unwrap().job;
        let doubt = Survey::new(&wrong).alone(of).unwrap().outlier_test().clone();
        assert!(doubt != OutlierTest::Nothing, "an error of {:.1} in {} is not seen", 1.8 * least, fit.index);
    }
}

#[test]
fn without_it_good_to_is_worked_out_without_it() {
    let world = World { datums: 0.5, hook: 0.0, tilt: [0.0; 2], checked: true };
    let Measured { job, port, .. } = measured(8, world);
    let of = Measurand::Port { port };
    let reading = job.port(port).unwrap().readings[1];
    let Taken::Tape { from, to, mm } = reading.taken else { panic!() };
    let taken = Taken::Tape { from, to, mm: length(mm.get() + 60.0) };
    let bad =
        apply(&job, &Edit::Measure(MeasureEdit::SetReading { of, index: 1, reading: Reading { taken, ..reading } }))
            .unwrap()
            .job;
    let found = Survey::new(&bad).alone(of).unwrap();
    let OutlierTest::Readings { wrong, without } = found.outlier_test().clone() else {
        panic!("{:?}", found.outlier_test())
    };
    assert_eq!(wrong.iter().map(|outlier| outlier.index).collect::<Vec<_>>(), [1]);
    let aside = apply(
        &bad,
        &Edit::Measure(MeasureEdit::SetReading { of, index: 1, reading: Reading { counts: false, taken, ..reading } }),
    );
    let alone = Survey::new(&aside.unwrap().job).alone(of).unwrap();
    assert!((alone.spread - without.spread).norm() < 1e-6 * alone.spread.norm());
    assert!((alone.pose.at - without.pose.at).norm() < 1e-6);
    assert!(within_95(alone.spread) > within_95(found.spread));
}

/// Rims, faces and angles between mouths: exact readings of a known bay find it again.
#[test]
fn what_nobody_can_reach_is_measured_at_the_rim() {
    let mut rng = StdRng::seed_from_u64(21);
    for round in 0..60 {
        let (at, out) = (Point3::from(V::from_fn(|_, _| rng.random_range(-200.0..200.0))), any_way(&mut rng));
        let out = Unit::new_normalize(out);
        let pose = Pose { at, out: Some(out) };
        let mut sights = Vec::new();
        for (k, spot) in SPOTS.iter().enumerate() {
            let to = LeverArm::Rim(Rim { radius: 31.75, far: k % 2 == 1 });
            let from = Point3::from(V::from(*spot));
            sights.push(Observation::of(k, 1.5, Kind::Tape { from, spread: Matrix3::zeros(), rim: None, to, mm: 1.0 }));
        }
        for (k, clock) in [0.0, 4.0, 8.0].into_iter().enumerate() {
            let to = LeverArm::Face { clock: f64::to_radians(clock * 30.0), radius: 60.0 };
            for axis in 0..3 {
                let from = Point3::origin();
                let kind = Kind::Offset { from, spread: Matrix3::zeros(), to, axis, mm: 0.0 };
                sights.push(Observation::of(8 + 3 * k + axis, 1.5, kind));
            }
        }
        for sight in &mut sights {
            let [end, start] = sight.ends(&pose).unwrap();
            match &mut sight.kind {
                Kind::Tape { mm, from, .. } => {
                    // An oracle: the rim walked in small steps.
                    let rim = (0..3600).map(|k| {
                        let clock = f64::from(k) * std::f64::consts::PI / 1800.0;
                        (at + face_way(out, clock) * 31.75 - *from).norm()
                    });
                    let (near, far) = rim.fold((f64::INFINITY, 0.0_f64), |(n, f), d| (n.min(d), f.max(d)));
                    *mm = (end - start).norm();
                    assert!((*mm - near).abs() < 1e-3 || (*mm - far).abs() < 1e-3, "{mm} {near} {far}");
                }
                Kind::Offset { mm, axis, .. } => *mm = (end - start)[*axis],
                _ => {}
            }
        }
        let rough = Pose { at: at + V::new(15.0, -20.0, 10.0), out: Some(V::x_axis()) };
        let found = estimate_pose(rough, &sights);
        assert!((found.pose.at - at).norm() < 1e-4, "round {round}: {} for {at}", found.pose.at);
        assert!(found.pose.out.unwrap().angle(&out) < 1e-5, "round {round}");
        // The rims alone find it, or its image is told.
        let rims = estimate_pose(rough, &sights[..8]);
        let known = |pose: &Pose| (pose.at - at).norm() < 1.0;
        let squares = |pose: &Pose| -> f64 {
            let one = |sight: &Observation| {
                let [end, start] = sight.ends(pose).unwrap();
                let Kind::Tape { mm, .. } = sight.kind else { panic!() };
                (((end - start).norm() - mm) / 1.5).powi(2)
            };
            sights[..8].iter().map(one).sum()
        };
        let found = || (rims.pose, squares(&rims.pose), rims.others.len(), rims.worst(), rims.aim);
        assert!(
            rims.place != Basis::Fixed || known(&rims.pose) || rims.others.iter().any(known),
            "{round}: {:?} for {at} {out:?}",
            found()
        );
    }
}

#[test]
fn mouths_are_measured_rim_to_rim_and_by_the_angle_between_them() {
    let (job, run) =
        job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], 60.0), port([300.0, 0.0, 0.0], [-1.0, 0.0, 0.0], 50.0)));
    let a = PortRef { run, end: End::A };
    let of = Measurand::Port { port: PortRef { run, end: End::B } };
    // B really lies at (300, 40, 0), looking back and up by 30 degrees.
    let take = |job: &Job, taken| {
        apply(job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(taken) })).unwrap().job
    };
    let far = |port, side| Anchor::Port { port, rim: Some(side) };
    let angle = Taken::Between { port: a, degrees: BetweenAngle::new(150.0).unwrap() };
    let square = Taken::Square { to: Against::Axis { axis: Axis::Y } };
    let job = take(&take(&job, angle), square);
    let survey = Survey::new(&job);
    let found = survey.port(PortRef { run, end: End::B }).unwrap();
    let out = found.pose.out.unwrap();
    assert!((out.x + 150.0_f64.to_radians().cos().abs()).abs() < 1e-6 && out.y.abs() < 1e-6, "{out:?}");
    // Up or down fit alike, and that is told.
    assert!(found.others.iter().any(|other| (other.out.unwrap().z + out.z).abs() < 1e-6));
    let taken = Taken::Tape { from: far(a, RimSide::Near), to: Spot::Rim { side: RimSide::Near }, mm: length(200.0) };
    let sight = survey.sight(of, 0, &Reading::of(taken)).unwrap();
    let pose = Pose { at: Point3::new(0.0, 400.0, 0.0), out: Some(V::x_axis()) };
    // Side by side in one plane: centre to centre less both radii.
    let [end, start] = sight.ends(&pose).unwrap();
    assert!(((end - start).norm() - (400.0 - 30.0 - 25.0)).abs() < 1e-9, "{end} {start}");
    assert_eq!(sight.leans, Leans::Thing(Measurand::Port { port: a }));
    // What makes no sense is refused by name.
    let level = Taken::Offset {
        from: Anchor::Zero,
        to: Spot::Rim { side: RimSide::Far },
        axis: Axis::Z,
        mm: Coordinate::new(3.0).unwrap(),
    };
    let refusal = apply(&job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(level) }))
        .unwrap_err()
        .to_string();
    assert!(refusal.contains("told by a tape"), "{refusal}");
    let own = Taken::Between { port: PortRef { run, end: End::B }, degrees: BetweenAngle::new(90.0).unwrap() };
    assert!(
        apply(&job, &Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(own) })).is_err(),
        "its own angle"
    );
    let _ = (FaceClock::new(13.0).unwrap_err(), FaceRadius::new(0.0).unwrap_err());
}

#[test]
fn a_heading_is_not_taken_for_its_opposite() {
    for (heading, pitch, typed) in [(0.0, 0.0, 180.0), (30.0, 5.0, -150.0), (170.0, -20.0, -10.0), (90.0, 60.0, -90.0)]
    {
        let way =
            |heading, pitch| Unit::new_normalize(V::from(Direction::from_gauge(heading, pitch).unwrap().to_array()));
        let out = way(heading, pitch);
        let rough = way(typed, 0.0);
        let one = |index, kind| Observation::of(index, 0.5_f64.to_radians(), kind);
        let sights = [
            one(0, Kind::Heading(HeadingAngle::new(heading).unwrap().get().to_radians())),
            one(1, Kind::Pitch(pitch.to_radians())),
        ];
        let found = estimate_pose(Pose { at: Point3::origin(), out: Some(rough) }, &sights);
        assert!(found.pose.out.unwrap().angle(&out) < 1e-6 && found.others.is_empty(), "{heading} {pitch}");
    }
}

#[test]
fn the_radius_of_95_in_100_holds_95_in_100() {
    let mut rng = StdRng::seed_from_u64(9);
    for axes in [[1.0, 1.0, 1.0], [1.0, 0.0, 0.0], [2.0, 1.0, 0.3], [3.0, 2.9, 0.1], [1.0, 0.5, 0.5]] {
        let spread = Matrix3::from_diagonal(&V::from(axes).map(|sigma| sigma * sigma));
        let radius = within_95(spread);
        let rounds = 40_000;
        let inside = (0..rounds).filter(|_| V::from(axes).map(|sigma| noise(&mut rng, sigma)).norm() <= radius).count();
        let share = f64::from(u32::try_from(inside).unwrap()) / f64::from(rounds);
        assert!((share - 0.95).abs() < 0.008, "{axes:?}: {share}");
    }
    assert!(within_95(Matrix3::<f64>::zeros()) < 1e-12);
}
